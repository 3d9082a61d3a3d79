// SPDX-License-Identifier: GPL-3.0-or-later
// The titles of all values of a kind of word, in order: what a list to choose from shows.
#pragma once
#include "app/shown_text.h"
#include "core/model/words.h"

#include <QStringList>

namespace underridge::app {

template <class Word>
QStringList titlesOf() {
    QStringList titles;
    for (const auto& word : model::wordsOf(Word{}))
        titles << shownText(word.title);
    return titles;
}

} // namespace underridge::app
