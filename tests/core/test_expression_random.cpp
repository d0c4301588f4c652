// Typed expressions against the same arithmetic done here, and against noise.
#include <gtest/gtest.h>

#include <fmt/format.h>

#include "base/expression.h"
#include "support/random.h"

namespace anvil {
namespace {

using test::Random;

constexpr unsigned kSeed = 20261125;

struct Typed {
  std::string text;
  double value = 0;
};

Typed number(Random& random) {
  const double v = random.whole(-4000, 4000) / 16.0;
  return {fmt::format("{}", v), v};
}

// Sums, products and brackets, never deeper than `depth`.
Typed expression(Random& random, int depth) {
  if (depth == 0) return number(random);
  const Typed a = expression(random, depth - 1), b = expression(random, depth - 1);
  switch (random.whole(0, 4)) {
    case 0:
      return {fmt::format("({} + {})", a.text, b.text), a.value + b.value};
    case 1:
      return {fmt::format("({} - ({}))", a.text, b.text), a.value - b.value};
    case 2:
      return {fmt::format("({})*({})", a.text, b.text), a.value * b.value};
    case 3:
      return {fmt::format("({})/({} + 300.5)", a.text, "7"), a.value / 307.5};
    default:
      return {fmt::format("-({})", a.text), -a.value};
  }
}

TEST(RandomExpressions, AreWhatTheArithmeticSays) {
  Random random(kSeed);
  for (int i = 0; i < 400; ++i) {
    const Typed typed = expression(random, 1 + i % 3);
    const auto plain = evaluate_number(typed.text, {});
    ASSERT_TRUE(plain) << typed.text << ": " << plain.error().sentence;
    EXPECT_NEAR(*plain, typed.value, 1e-9 * std::max(1.0, std::abs(typed.value))) << typed.text;
    // A bare number is in the unit on the screen: the whole is that many inches.
    const auto inch = evaluate_length("(" + typed.text + ")*1", Unit::kMillimetre, {});
    ASSERT_TRUE(inch) << typed.text;
    EXPECT_NEAR(*inch, typed.value, 1e-9 * std::max(1.0, std::abs(typed.value))) << typed.text;
  }
}

TEST(RandomExpressions, NamesStandForTheirValues) {
  Random random(kSeed);
  for (int i = 0; i < 100; ++i) {
    const double height = random.between(-50, 50), width = random.between(1, 50);
    const Names names{{"top.height", height}, {"stock.x", width}};
    EXPECT_NEAR(*evaluate_length("top.height*2 + stock.x/2", Unit::kMillimetre, names),
                2 * height + width / 2, 1e-9);
    EXPECT_FALSE(evaluate_length("top.heigth*2", Unit::kMillimetre, names));
  }
}

TEST(RandomExpressions, NoiseIsRefusedWithASentenceOrIsANumber) {
  Random random(kSeed);
  const std::string signs = "0123456789.+-*/() inmdegra°,;#e%^&|!<>=?:\"'_";
  int refused = 0;
  for (int i = 0; i < 3000; ++i) {
    std::string text;
    for (int n = random.whole(0, 14); n > 0; --n)
      text += signs[static_cast<size_t>(random.whole(0, static_cast<int>(signs.size()) - 1))];
    const auto value = evaluate_length(text, Unit::kMillimetre, {});
    if (value) {
      EXPECT_TRUE(std::isfinite(*value)) << text;
      continue;
    }
    ++refused;
    EXPECT_EQ(value.error().code, RefusalCode::kBadInput) << text;
    EXPECT_GT(value.error().sentence.size(), 8u) << text;
  }
  EXPECT_GT(refused, 1000);
}

}  // namespace
}  // namespace anvil
