#include "app/panels/search_words.h"

#include <QFile>
#include <QHash>
#include <QStringList>
#include <algorithm>
#include <numeric>
#include <vector>

namespace anvil::app {
namespace {

// Letters inserted, left out, exchanged, or two that changed places.
int typing_errors(const QString& a, const QString& b) {
  const auto width = static_cast<size_t>(b.size()) + 1;
  std::vector<std::vector<int>> at(static_cast<size_t>(a.size()) + 1, std::vector<int>(width));
  for (size_t i = 0; i < at.size(); ++i) at[i][0] = static_cast<int>(i);
  std::iota(at[0].begin(), at[0].end(), 0);
  for (size_t i = 1; i < at.size(); ++i)
    for (size_t j = 1; j < width; ++j) {
      const auto of_a = [&](size_t k) { return a[static_cast<int>(k) - 1]; };
      const auto of_b = [&](size_t k) { return b[static_cast<int>(k) - 1]; };
      at[i][j] =
          std::min({at[i - 1][j] + 1, at[i][j - 1] + 1, at[i - 1][j - 1] + (of_a(i) == of_b(j) ? 0 : 1)});
      if (i > 1 && j > 1 && of_a(i) == of_b(j - 1) && of_a(i - 1) == of_b(j))
        at[i][j] = std::min(at[i][j], at[i - 2][j - 2] + 1);
    }
  return at.back().back();
}

int allowed_errors(qsizetype letters) {
  return letters >= 8 ? 2 : letters >= 4 ? 1 : 0;
}

constexpr int kNotThere = -1;

// 0: the word itself, 1: how a word begins, 2: inside one, 4: but for a typing error.
int met_in(const QString& typed, const QStringList& words) {
  int best = kNotThere;
  const auto offer = [&](int rank) { best = best == kNotThere ? rank : std::min(best, rank); };
  for (const QString& word : words) {
    if (word == typed) offer(0);
    if (word.startsWith(typed)) offer(1);
    if (typed.size() >= 2 && word.contains(typed)) offer(2);
    // Of a word that is not written to its end, its beginning counts.
    if (const int most = allowed_errors(typed.size()); most > 0 && best == kNotThere)
      if (typing_errors(typed, word) <= most || typing_errors(typed, word.left(typed.size())) <= most)
        offer(4);
  }
  return best;
}

QStringList words_of(const QString& text) {
  QString plain = text.toLower();
  for (QChar& c : plain)
    if (!c.isLetterOrNumber()) c = QLatin1Char(' ');
  return plain.split(QLatin1Char(' '), Qt::SkipEmptyParts);
}

}  // namespace

int search_rank(const QString& typed, const QString& name, const QString& synonyms) {
  constexpr int kSynonym = 3;
  const QStringList wanted = words_of(typed), own = words_of(name), other = words_of(synonyms);
  int rank = 0;
  for (const QString& word : wanted) {
    int here = met_in(word, own);
    // A synonym counts before a guess at what was mistyped.
    if (here == kNotThere || here > kSynonym)
      if (const int there = met_in(word, other); there != kNotThere && there < kSynonym)
        here = kSynonym + there;
    if (here == kNotThere) return kNotThere;
    rank += 10 * here;
  }
  // Of equals the one that begins so, then the shorter.
  const bool begins = !wanted.isEmpty() && !own.isEmpty() && own.front().startsWith(wanted.front());
  return 10 * rank + (begins ? 0 : 5) + std::min<int>(4, static_cast<int>(own.size()) / 3);
}

QString synonyms_of(const QString& id) {
  static const QHash<QString, QString> known = [] {
    QHash<QString, QString> words;
    QFile file(QStringLiteral(":/synonyms.tsv"));
    if (!file.open(QIODevice::ReadOnly | QIODevice::Text)) return words;
    for (const QString& line : QString::fromUtf8(file.readAll()).split(QLatin1Char('\n'))) {
      const QStringList cells = line.split(QLatin1Char('\t'));
      if (cells.size() == 2 && !line.startsWith(QLatin1Char('#')))
        words[cells[0]] += cells[1] + QLatin1Char(' ');
    }
    return words;
  }();
  // Actions of constructions bear the name of a menu before their own.
  return known.value(id) + known.value(id.section(QLatin1Char('.'), 1));
}

}  // namespace anvil::app
