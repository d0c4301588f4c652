#include "base/plain_text.h"

#include <gtest/gtest.h>

#include <random>

#include "base/refusal.h"
#include "base/text_table.h"

namespace anvil {
namespace {

TEST(PlainText, IsOneLineWithoutOrdersToTerminalsAndMarksOfDirection) {
  EXPECT_EQ(plain_text("T\nM3 S24000\r\nG0 Z-100"), "T M3 S24000  G0 Z-100");
  EXPECT_EQ(plain_text("a\x1b[31mred\x07\x7f"), "a [31mred  ");
  EXPECT_EQ(plain_text("a\u009bm b\u2028c\u0085d"), "a m b c d")
      << "line ends and control characters of Unicode";
  EXPECT_EQ(plain_text("plate\u202egpj.step\u200b\ufeff"), "plategpj.step");
  EXPECT_EQ(plain_text("Ø 12 ± 0,05 · Größe 板"), "Ø 12 ± 0,05 · Größe 板");
}

TEST(PlainText, WhatIsNoUtf8IsShownAsSuch) {
  EXPECT_EQ(plain_text("a\xff\xc3(b"), "a\ufffd\ufffd(b");
  EXPECT_EQ(plain_text("\xc0\xaf"), "\ufffd\ufffd") << "a slash written longer than need be";
  EXPECT_EQ(plain_text("\xed\xa0\x80"), "\ufffd\ufffd\ufffd") << "half of a pair of UTF-16";
  EXPECT_EQ(plain_text("\xf0\x9f"), "\ufffd\ufffd") << "cut off";
}

TEST(PlainText, OfAnythingIsPlainAndStaysAsItIs) {
  const unsigned seed = std::random_device()();
  std::mt19937 random(seed);
  for (int i = 0; i < 3000; ++i) {
    std::string told;
    for (unsigned n = random() % 40; n > 0; --n) told += static_cast<char>(random() % 256);
    const std::string plain = plain_text(told);
    ASSERT_TRUE(is_plain_text(plain)) << seed;
    for (const unsigned char c : plain) ASSERT_TRUE(c >= 0x20 && c != 0x7f) << seed;
    for (const char c : ascii_text(told)) ASSERT_TRUE(c >= 0x20 && c < 0x7f) << seed;
  }
}

TEST(PlainText, SignsOfTheTradeAreSpelledInAscii) {
  EXPECT_EQ(ascii_text("beyond 0…400"), "beyond 0TO400");
  EXPECT_EQ(ascii_text("Ø12 ±0.05, 30°"), "DIA12 +/-0.05, 30DEG");
  EXPECT_EQ(ascii_text("Größe Ångström déjà Łódź"), "Grosse Angstrom deja Lodz");
  EXPECT_EQ(ascii_text("板"), "_");
}

TEST(PlainText, SentencesOfRefusalsAreInOneLine) {
  const tl::unexpected<Refusal> refused = refuse(RefusalCode::kBadInput, "no\nsuch\x1b[2J");
  EXPECT_EQ(refused.value().sentence, "no such [2J");
}

TEST(Cells, AreNoFormulasAndComeBackAsTheyWere) {
  for (const std::string name :
       {"=cmd|' /C calc'!A0", "+SUM(A1)", "@x", "-a,b", "-12.5", "-", "plain", "'=1+1"}) {
    const std::string cell = written_cell(name);
    const size_t first = cell.find_first_not_of('"');
    EXPECT_TRUE(name == "-12.5" || name == "-" || std::string("=+-@").find(cell[first]) == std::string::npos)
        << cell;
    const auto table = read_table("name,x\n" + cell + ",1\n", "list");
    ASSERT_TRUE(table);
    EXPECT_EQ(TextTable::cell(table->rows[0], 0), name == "'=1+1" ? "=1+1" : name);
  }
  EXPECT_EQ(written_cell("a\nb\t=c"), "a b =c");
}

}  // namespace
}  // namespace anvil
