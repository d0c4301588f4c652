# Debian keeps Embree's own package file in a folder named after its version.
find_path(EMBREE_INCLUDE_DIR embree3/rtcore.h)
find_library(EMBREE_LIBRARY embree3)
include(FindPackageHandleStandardArgs)
find_package_handle_standard_args(Embree3 DEFAULT_MSG EMBREE_LIBRARY EMBREE_INCLUDE_DIR)
if(Embree3_FOUND AND NOT TARGET Embree3::embree)
  add_library(Embree3::embree UNKNOWN IMPORTED)
  set_target_properties(Embree3::embree PROPERTIES IMPORTED_LOCATION ${EMBREE_LIBRARY})
endif()
