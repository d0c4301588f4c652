# What every target of the project shares: warnings are errors for our own code only,
# and results must repeat, so floating-point contraction stays off.
add_library(anvil_flags INTERFACE)
target_compile_options(anvil_flags INTERFACE -Wall -Wextra -Wshadow -Wnon-virtual-dtor -Werror -ffp-contract=off
  # GCC 12 takes moved std::variant members for uninitialised ones, and texts appended to a list for writes out
  # of bounds.
  $<$<CXX_COMPILER_ID:GNU>:-Wno-maybe-uninitialized;-Wno-array-bounds;-Wno-stringop-overread;-Wno-stringop-overflow;-Wno-restrict>)

# OpenCASCADE's own list names toolkits we must not link (its Draw shell), and its targets
# carry no include path.
function(anvil_link_occt target)
  target_link_libraries(${target} PUBLIC ${ARGN})
  target_include_directories(${target} SYSTEM PUBLIC ${OpenCASCADE_INCLUDE_DIR})
endfunction()

# anvil_module(NAME SOURCES ... DEPENDS ...): one static library of the core.
function(anvil_module name)
  cmake_parse_arguments(ARG "" "" "SOURCES;DEPENDS" ${ARGN})
  add_library(anvil_${name} STATIC ${ARG_SOURCES})
  target_include_directories(anvil_${name} PUBLIC ${CMAKE_SOURCE_DIR}/core)
  target_link_libraries(anvil_${name} PUBLIC ${ARG_DEPENDS} PRIVATE anvil_flags)
  if(TARGET anvil_geom AND NOT name STREQUAL "geom")
    target_precompile_headers(anvil_${name} REUSE_FROM anvil_geom)
  endif()
endfunction()
