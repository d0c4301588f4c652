#include "base/plain_text.h"

#include <algorithm>
#include <iterator>

namespace anvil {
namespace {

constexpr char32_t kNoLetter = 0xFFFD;

struct Range {
  char32_t from, to;
  [[nodiscard]] bool holds(char32_t letter) const { return letter >= from && letter <= to; }
};

// Line ends and control characters beside those of ASCII.
constexpr Range kBreaks[] = {{0x00, 0x1F}, {0x7F, 0x9F}, {0x2028, 0x2029}};

// Unicode 15: marks of direction (Bidi_Control), letters of no width that spell nothing, tags, and what is no
// character. Joiners (U+200C, U+200D) spell words in several languages and stay.
constexpr Range kUnseen[] = {{0x061C, 0x061C}, {0x200B, 0x200B},  {0x200E, 0x200F}, {0x202A, 0x202E},
                             {0x2060, 0x206F}, {0xFDD0, 0xFDEF},  {0xFEFF, 0xFEFF}, {0xFFF9, 0xFFFB},
                             {0xFFFE, 0xFFFF}, {0xE0000, 0xE007F}};

template <size_t n>
bool is_in(const Range (&ranges)[n], char32_t letter) {
  return std::any_of(std::begin(ranges), std::end(ranges), [&](const Range& r) { return r.holds(letter); });
}

bool is_printable_ascii(std::string_view text) {
  return std::all_of(text.begin(), text.end(), [](char c) { return c >= 0x20 && c < 0x7F; });
}

struct Spelling {
  char32_t letter;
  const char* ascii;
};

constexpr Spelling kSigns[] = {
    {0x2026, "TO"},  {0x00D8, "DIA"}, {0x00F8, "DIA"}, {0x2300, "DIA"}, {0x00B0, "DEG"}, {0x00B1, "+/-"},
    {0x00D7, "X"},   {0x00B7, "-"},   {0x2022, "-"},   {0x2212, "-"},   {0x2010, "-"},   {0x2011, "-"},
    {0x2013, "-"},   {0x2014, "-"},   {0x00B5, "U"},   {0x03BC, "U"},   {0x00B2, "2"},   {0x00B3, "3"},
    {0x2248, "~"},   {0x2264, "<="},  {0x2265, ">="},  {0x2192, "->"},  {0x2032, "'"},   {0x2033, "\""},
    {0x2018, "'"},   {0x2019, "'"},   {0x201C, "\""},  {0x201D, "\""},  {0x00A0, " "},   {0x00DF, "ss"},
    {0x00C6, "AE"},  {0x00E6, "ae"},  {0x0152, "OE"},  {0x0153, "oe"},  {0x0141, "L"},   {0x0142, "l"},
    {0x0110, "D"},   {0x0111, "d"},   {0x00D0, "D"},   {0x00F0, "d"},   {0x00DE, "Th"},  {0x00FE, "th"},
    {0x00BD, "1/2"}, {0x00BC, "1/4"}, {0x00BE, "3/4"}, {0x2044, "/"}};

// The base letters of U+00C0 to U+017F, as Unicode decomposes them; '_' where there is none.
constexpr char kBases[] =
    "AAAAAA_CEEEEIIII_NOOOOO__UUUUY__aaaaaa_ceeeeiiii_nooooo__uuuuy_y"
    "AaAaAaCcCcCcCcDd__EeEeEeEeEeGgGgGgGgHh__IiIiIiIiI___JjKk_LlLlLl_"
    "___NnNnNn___OoOoOo__RrRrRrSsSsSsSsTtTt__UuUuUuUuUuUuWwYyYZzZzZz_";

std::string spelled(char32_t letter) {
  if (letter < 0x7F) return std::string(1, static_cast<char>(letter));
  const auto* const sign = std::find_if(std::begin(kSigns), std::end(kSigns),
                                        [&](const Spelling& s) { return s.letter == letter; });
  if (sign != std::end(kSigns)) return sign->ascii;
  constexpr char32_t kFirst = 0xC0, kLast = 0x17F, kCombining = 0x300, kLastCombining = 0x36F;
  if (letter >= kFirst && letter <= kLast) return std::string(1, kBases[letter - kFirst]);
  return letter >= kCombining && letter <= kLastCombining ? "" : "_";
}

}  // namespace

char32_t next_letter(std::string_view text, size_t& at) {
  const auto byte = [&](size_t i) { return static_cast<unsigned char>(text[i]); };
  const unsigned char lead = byte(at);
  ++at;
  if (lead < 0x80) return lead;
  const size_t length = lead >= 0xC2 && lead < 0xE0   ? 2
                        : (lead & 0xF0) == 0xE0       ? 3
                        : lead >= 0xF0 && lead < 0xF5 ? 4
                                                      : 0;
  if (length == 0 || at + length - 1 > text.size()) return kNoLetter;
  char32_t letter = lead & (0xFFU >> (length + 1));
  for (size_t i = 0; i + 1 < length; ++i) {
    if ((byte(at + i) & 0xC0) != 0x80) return kNoLetter;
    letter = letter << 6U | (byte(at + i) & 0x3FU);
  }
  // Longer than need be, halves of UTF-16, and beyond the last letter.
  constexpr char32_t kLeast[] = {0, 0, 0x80, 0x800, 0x10000};
  if (letter < kLeast[length] || (letter >= 0xD800 && letter < 0xE000) || letter > 0x10FFFF) return kNoLetter;
  at += length - 1;
  return letter;
}

void append_letter(std::string& text, char32_t letter) {
  const auto add = [&](char32_t byte) { text += static_cast<char>(static_cast<unsigned char>(byte)); };
  if (letter < 0x80) {
    add(letter);
  } else if (letter < 0x800) {
    add(0xC0 | letter >> 6U);
    add(0x80 | (letter & 0x3FU));
  } else {
    if (letter < 0x10000) {
      add(0xE0 | letter >> 12U);
    } else {
      add(0xF0 | letter >> 18U);
      add(0x80 | (letter >> 12U & 0x3FU));
    }
    add(0x80 | (letter >> 6U & 0x3FU));
    add(0x80 | (letter & 0x3FU));
  }
}

std::string plain_text(std::string_view told) {
  if (is_printable_ascii(told)) return std::string(told);
  std::string plain;
  for (size_t at = 0; at < told.size();) {
    const char32_t letter = next_letter(told, at);
    if (is_in(kBreaks, letter))
      plain += ' ';
    else if (!is_in(kUnseen, letter))
      append_letter(plain, letter);
  }
  return plain;
}

bool is_plain_text(std::string_view told) {
  return is_printable_ascii(told) || plain_text(told) == told;
}

std::string ascii_text(std::string_view told) {
  const std::string plain = plain_text(told);
  std::string ascii;
  for (size_t at = 0; at < plain.size();) ascii += spelled(next_letter(plain, at));
  return ascii;
}

}  // namespace anvil
