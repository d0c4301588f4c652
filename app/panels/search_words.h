// Finding by words: in any order, with small typing errors, and by words of the trade that stand for ours.
#pragma once

#include <QString>

namespace anvil::app {

// Smaller is listed earlier; -1: not found. Every typed word must be met in the name or the synonyms: as its
// beginning, its start of a word, inside one, or but for one letter wrong, missing or too many (two in words
// of eight letters and more).
int search_rank(const QString& typed, const QString& name, const QString& synonyms = {});

// Other words for what an action or a construction does, by its id ("plane.midway", "edit.undo"); from
// resources/synonyms.tsv.
QString synonyms_of(const QString& id);

}  // namespace anvil::app
