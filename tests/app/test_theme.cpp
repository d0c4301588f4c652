// Both themes are readable: contrast by WCAG 2.1 (relative luminance; AA: 4.5 for text, 3 for lines and
// symbols), from the tokens themselves.
#include <gtest/gtest.h>
#include <cmath>

#include "app/theme.h"

namespace anvil::app {
namespace {

double linear(double channel) {
  return channel <= 0.04045 ? channel / 12.92 : std::pow((channel + 0.055) / 1.055, 2.4);
}

double luminance(const QColor& colour) {
  return 0.2126 * linear(colour.redF()) + 0.7152 * linear(colour.greenF()) + 0.0722 * linear(colour.blueF());
}

double contrast(const QColor& a, const QColor& b) {
  const double high = std::max(luminance(a), luminance(b)), low = std::min(luminance(a), luminance(b));
  return (high + 0.05) / (low + 0.05);
}

class Themes : public testing::TestWithParam<bool> {
 protected:
  const Theme theme = GetParam() ? Theme::dark_one() : Theme::light();
};

TEST(Contrast, IsThatOfTheStandard) {
  EXPECT_NEAR(contrast(Qt::black, Qt::white), 21, 1e-9);
  EXPECT_NEAR(contrast(QColor(0x777777), Qt::white), 4.48, 0.005);
}

TEST_P(Themes, TextIsReadableWhereverItStands) {
  const std::pair<const char*, QColor> texts[] = {{"ink", theme.ink},
                                                  {"quiet ink", theme.quiet_ink},
                                                  {"accent", theme.accent},
                                                  {"does not fit", theme.does_not_fit}};
  const std::pair<const char*, QColor> grounds[] = {
      {"paper", theme.paper}, {"panel", theme.panel}, {"field", theme.field}, {"hover", theme.hover}};
  for (const auto& [text, colour] : texts)
    for (const auto& [ground, under] : grounds)
      EXPECT_GE(contrast(colour, under), 4.5) << text << " on " << ground;
  EXPECT_GE(contrast(theme.accent_text, theme.accent), 4.5);
  for (int i = 0; i < 4; ++i)
    EXPECT_GE(contrast(theme.pick(i), theme.dark ? QColor(0x1A1A1A) : QColor(0xFFFFFF)), 4.5)
        << "pick " << i + 1;
}

TEST_P(Themes, WhatIsDrawnStandsOutFromTheView) {
  const std::pair<const char*, QColor> drawn[] = {
      {"X", theme.axis_x},        {"Y", theme.axis_y},    {"Z", theme.axis_z},
      {"datum", theme.datum},     {"ghost", theme.ghost}, {"added", theme.added},
      {"removed", theme.removed}, {"fits", theme.fits},   {"does not fit", theme.does_not_fit}};
  for (const auto& [what, colour] : drawn) EXPECT_GE(contrast(colour, theme.view_background), 3.0) << what;
  EXPECT_GE(contrast(theme.part_edge, theme.part), 3.0);
}

INSTANTIATE_TEST_SUITE_P(LightAndDark, Themes, testing::Bool());

}  // namespace
}  // namespace anvil::app
