// Finding by words: what a trained person calls things leads to ours.
#include <gtest/gtest.h>
#include <QFile>
#include <QStringList>
#include <algorithm>

#include "app/panels/search_words.h"
#include "construct/offers.h"

namespace anvil::app {
namespace {

// Ids of the constructions that are found, the likeliest first.
QStringList found(const char* typed) {
  std::vector<std::pair<int, QString>> ranked;
  for (const Construction& construction : constructions()) {
    const QString id = QString::fromStdString(construction.id);
    // As it is shown, where picks are circled.
    const QString sentence =
        QString::fromStdString(fill_numbers(construction.sentence, pick_numbers(construction, {})));
    const int rank =
        search_rank(QString::fromUtf8(typed), sentence, synonyms_of(QStringLiteral("define.") + id));
    if (rank >= 0) ranked.emplace_back(rank, id);
  }
  std::stable_sort(ranked.begin(), ranked.end(),
                   [](const auto& a, const auto& b) { return a.first < b.first; });
  QStringList ids;
  for (const auto& [rank, id] : ranked) ids << id;
  return ids;
}

struct Wanted {
  const char* typed;
  const char* id;
  int among;  // the first so many
};

class Finding : public testing::TestWithParam<Wanted> {};

TEST_P(Finding, LeadsToWhatIsMeant) {
  const QStringList ids = found(GetParam().typed);
  EXPECT_LT(ids.indexOf(QLatin1String(GetParam().id)), GetParam().among) << GetParam().typed;
  EXPECT_GE(ids.indexOf(QLatin1String(GetParam().id)), 0)
      << GetParam().typed << " leads to " << ids.mid(0, 5).join(QStringLiteral(", ")).toStdString();
}

INSTANTIATE_TEST_SUITE_P(
    Words, Finding,
    testing::Values(Wanted{"plane angle", "plane.turned", 3}, Wanted{"angle plane", "plane.turned", 3},
                    Wanted{"tangent", "plane.touching-parallel", 8},
                    Wanted{"normal", "axis.square-to-plane", 12},
                    Wanted{"perpendicular", "plane.square-to-line", 12},
                    Wanted{"midplane", "plane.midway", 2}, Wanted{"bolt circle", "correct.on-circle", 8},
                    Wanted{"wcs", "frame.on-face", 14}, Wanted{"datum", "plane.on-face", 14},
                    Wanted{"midwya plane", "plane.midway", 3}, Wanted{"distnace", "measure.distance", 3},
                    Wanted{"3-2-1", "frame.three-planes", 12}, Wanted{"centreline", "axis.of", 2},
                    Wanted{"extrude", "correct.raise", 4}, Wanted{"fillet", "correct.radius", 2}));

TEST(FindingNothing, WhatNobodyWroteIsNotGuessed) {
  EXPECT_TRUE(found("xqzzy").isEmpty());
  EXPECT_TRUE(found("plane xqzzy").isEmpty());
}

// A line of the list that names nothing finds nothing for anybody.
TEST(FindingNothing, EverySynonymBelongsToSomething) {
  QFile file(QStringLiteral(":/synonyms.tsv"));
  ASSERT_TRUE(file.open(QIODevice::ReadOnly));
  int seen = 0;
  for (const QByteArray& line : file.readAll().split('\n')) {
    const std::string id = line.split('\t').front().toStdString();
    const std::string family = id.substr(0, id.find('.'));
    if (family != "point" && family != "axis" && family != "plane" && family != "frame" &&
        family != "measure" && family != "figure" && family != "place" && family != "correct")
      continue;
    ++seen;
    EXPECT_NE(find_construction(id), nullptr) << id;
  }
  EXPECT_GT(seen, 50);
}

}  // namespace
}  // namespace anvil::app
