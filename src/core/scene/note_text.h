// SPDX-License-Identifier: GPL-3.0-or-later
// The text of a note, set: the few marks of Markdown (CommonMark 0.31) that are drawn are
// headings ("# ", "## "), items ("- ", "* ") and **strong** words. Everything else is shown
// as it is typed; nothing is ever fetched.
#pragma once
#include "core/scene/text_width.h"

namespace underridge::scene {

/// Words in one weight, `x` units from the left edge of the text.
struct NoteRun {
    std::string text;
    double x = 0;
    Weight weight = Weight::regular;

    bool operator==(const NoteRun&) const = default;
};

struct NoteLine {
    std::vector<NoteRun> runs;
    double size = 0;
    double baseline = 0; ///< from the upper edge of the text
    double bullet = -1;  ///< of the first line of an item: where its dot is; else none

    bool operator==(const NoteLine&) const = default;
};

struct NoteText {
    std::vector<NoteLine> lines;
    double width = 0, height = 0;
};

/// Broken into lines no wider than `width`: between words, and inside such as have no room on a line.
NoteText setNote(std::string_view text, double width);

} // namespace underridge::scene
