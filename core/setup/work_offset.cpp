#include "setup/work_offset.h"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>
#include <regex>

namespace anvil {
namespace {

constexpr int kSix = 6, kFurther = 300, kPlain = 999;

}  // namespace

Result<WorkOffset> work_offset_from(const std::string& text) {
  std::string bare;
  for (const char c : text)
    if (!std::isspace(static_cast<unsigned char>(c)))
      bare += static_cast<char>(std::toupper(static_cast<unsigned char>(c)));
  static const std::regex kFirst("G5([4-9])"), kMore("G54\\.1P([0-9]{1,3})"), kNumber("[0-9]{1,3}");
  std::smatch match;
  if (std::regex_match(bare, match, kFirst))
    return WorkOffset{WorkOffset::Kind::kFirstSix, std::stoi(match[1]) - 3};
  if (std::regex_match(bare, match, kMore))
    if (const int p = std::stoi(match[1]); p >= 1 && p <= kFurther)
      return WorkOffset{WorkOffset::Kind::kFurther, p};
  if (std::regex_match(bare, kNumber))
    if (const int n = std::stoi(bare); n >= 1) return WorkOffset{WorkOffset::Kind::kPlain, n};
  return refuse(RefusalCode::kBadInput,
                fmt::format("\"{}\" is no work offset: G54 to G59, G54.1 P1 to P{}, or a number from 1 to {}",
                            text, kFurther, kPlain));
}

std::string work_offset_text(const WorkOffset& offset) {
  switch (offset.kind) {
    case WorkOffset::Kind::kFirstSix:
      return fmt::format("G{}", 53 + offset.number);
    case WorkOffset::Kind::kFurther:
      return fmt::format("G54.1 P{}", offset.number);
    case WorkOffset::Kind::kPlain:
      break;
  }
  return std::to_string(offset.number);
}

std::string work_offset_write(const WorkOffset& offset) {
  return fmt::format("G10 {} P{}", offset.kind == WorkOffset::Kind::kFurther ? "L20" : "L2", offset.number);
}

WorkOffset next_work_offset(const WorkOffset& offset) {
  switch (offset.kind) {
    case WorkOffset::Kind::kFirstSix:
      if (offset.number < kSix) return {offset.kind, offset.number + 1};
      return {WorkOffset::Kind::kFurther, 1};
    case WorkOffset::Kind::kFurther:
      return {offset.kind, std::min(offset.number + 1, kFurther)};
    case WorkOffset::Kind::kPlain:
      break;
  }
  return {offset.kind, std::min(offset.number + 1, kPlain)};
}

}  // namespace anvil
