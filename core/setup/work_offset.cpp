#include "setup/work_offset.h"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>
#include <regex>

#include "base/numbers.h"

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
    return WorkOffset{WorkOffset::Kind::kFirstSix, static_cast<int>(*whole_number_from(match[1].str())) - 3};
  if (std::regex_match(bare, match, kMore))
    if (const long p = *whole_number_from(match[1].str()); p >= 1 && p <= kFurther)
      return WorkOffset{WorkOffset::Kind::kFurther, static_cast<int>(p)};
  if (std::regex_match(bare, kNumber))
    if (const long n = *whole_number_from(bare); n >= 1)
      return WorkOffset{WorkOffset::Kind::kPlain, static_cast<int>(n)};
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
  return fmt::format("{}", offset.number);
}

const char* further_offsets_name(FurtherOffsets how) {
  switch (how) {
    case FurtherOffsets::kG10L20:
      return "G10 L20";
    case FurtherOffsets::kG10L2OnFrom7:
      return "G10 L2 from P7";
    case FurtherOffsets::kUnwritten:
      break;
  }
  return "unwritten";
}

std::optional<FurtherOffsets> further_offsets_from(const std::string& name) {
  for (const auto how : {FurtherOffsets::kUnwritten, FurtherOffsets::kG10L20, FurtherOffsets::kG10L2OnFrom7})
    if (name == further_offsets_name(how)) return how;
  return std::nullopt;
}

std::optional<std::string> work_offset_write(const WorkOffset& offset, FurtherOffsets further) {
  if (offset.kind != WorkOffset::Kind::kFurther) return fmt::format("G10 L2 P{}", offset.number);
  switch (further) {
    case FurtherOffsets::kG10L20:
      return fmt::format("G10 L20 P{}", offset.number);
    case FurtherOffsets::kG10L2OnFrom7:
      return fmt::format("G10 L2 P{}", kSix + offset.number);
    case FurtherOffsets::kUnwritten:
      break;
  }
  return std::nullopt;
}

bool same_offset(const WorkOffset& a, const WorkOffset& b, FurtherOffsets further) {
  const auto place = [&](const WorkOffset& o) {
    return work_offset_write(o, further).value_or(work_offset_text(o));
  };
  return place(a) == place(b);
}

std::optional<WorkOffset> next_work_offset(const WorkOffset& offset) {
  const auto after = [&](int most) {
    return offset.number < most ? std::optional(WorkOffset{offset.kind, offset.number + 1}) : std::nullopt;
  };
  switch (offset.kind) {
    case WorkOffset::Kind::kFirstSix:
      return offset.number < kSix ? after(kSix) : WorkOffset{WorkOffset::Kind::kFurther, 1};
    case WorkOffset::Kind::kFurther:
      return after(kFurther);
    case WorkOffset::Kind::kPlain:
      break;
  }
  return after(kPlain);
}

}  // namespace anvil
