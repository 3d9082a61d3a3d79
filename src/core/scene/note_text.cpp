// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/scene/note_text.h"

#include "core/base/text.h"

#include <algorithm>

namespace underridge::scene {
namespace {

constexpr double textSize = 11, lineStep = 15, indent = 12;

/// What the beginning of a line says, and what is left of it.
struct Block {
    std::string_view text;
    double size = textSize;
    Weight weight = Weight::regular;
    bool item = false;
};

Block blockOf(std::string_view line) {
    if (line.starts_with("# "))
        return {line.substr(2), 15, Weight::semiBold, false};
    if (line.starts_with("## "))
        return {line.substr(3), 12.5, Weight::semiBold, false};
    const auto text = line.substr(std::min(line.find_first_not_of(' '), line.size()));
    if (text.starts_with("- ") || text.starts_with("* "))
        return {text.substr(2), textSize, Weight::regular, true};
    return {line, textSize, Weight::regular, false};
}

struct Word {
    std::string text;
    Weight weight;
    bool spaceBefore;
};

/// Words with their weight; a pair of ** makes what is between them strong, a lone one is
/// shown.
std::vector<Word> wordsOf(std::string_view text, Weight base) {
    std::vector<Word> out;
    Weight weight = base;
    bool space = false;
    std::string word;
    const auto end = [&] {
        if (!word.empty())
            out.push_back({std::exchange(word, {}), weight, std::exchange(space, false)});
    };
    for (std::size_t i = 0; i < text.size(); ++i) {
        const bool mark = text.substr(i, 2) == "**";
        if (mark && (weight != base || text.find("**", i + 2) != std::string_view::npos)) {
            end();
            weight = weight == base ? Weight::semiBold : base;
            ++i;
        } else if (text[i] == ' ') {
            end();
            space = true;
        } else {
            word += text[i];
        }
    }
    end();
    return out;
}

/// How much of a word has room, in bytes: a code point at least.
std::size_t fitting(std::string_view word, double size, Weight weight, double room) {
    std::size_t keep = 0, last = 0;
    double wide = 0;
    bool full = false;
    const auto end = [&](std::size_t offset) { // of the code point that begins at `last`
        wide += textWidth(word.substr(last, offset - last), size, weight);
        full = full || (wide > room && keep > 0);
        if (!full)
            keep = offset;
        last = offset;
    };
    forEachCodePoint(word, [&](char32_t, std::size_t offset) {
        if (offset > 0)
            end(offset);
    });
    end(word.size());
    return keep;
}

class Setter {
public:
    explicit Setter(double width) : width_(width) {}

    void add(std::string_view line) {
        const Block block = blockOf(line);
        left_ = block.item ? indent : 0;
        begin(block);
        if (block.item)
            out_.lines.back().bullet = indent / 3;
        const double space = textWidth(" ", block.size, Weight::regular);
        for (Word& word : wordsOf(block.text, block.weight)) {
            breakUp(word, block);
            const double wide = textWidth(word.text, block.size, word.weight);
            double before = word.spaceBefore && x_ > left_ ? space : 0;
            if (x_ > left_ && x_ + before + wide > width_) {
                begin(block);
                before = 0;
            }
            put(std::move(word), before, block.size);
        }
    }

    NoteText done() {
        out_.height = y_;
        return std::move(out_);
    }

private:
    /// Of a word that has no room on a line of its own: what fills lines; the rest is left.
    void breakUp(Word& word, const Block& block) {
        const double room = width_ - left_;
        while (textWidth(word.text, block.size, word.weight) > room) {
            const std::size_t keep = fitting(word.text, block.size, word.weight, room);
            if (keep == word.text.size())
                return;
            if (x_ > left_)
                begin(block);
            put({word.text.substr(0, keep), word.weight, false}, 0, block.size);
            word = {word.text.substr(keep), word.weight, false};
        }
    }

    void begin(const Block& block) {
        y_ += lineStep * block.size / textSize;
        NoteLine line;
        line.size = block.size;
        line.baseline = y_ - lineStep * block.size / textSize + block.size;
        out_.lines.push_back(std::move(line));
        x_ = left_;
    }

    void put(Word word, double before, double size) {
        auto& runs = out_.lines.back().runs;
        if (runs.empty() || runs.back().weight != word.weight) {
            runs.push_back({elided(word.text, size, word.weight, width_ - left_), x_ + before, word.weight});
        } else {
            if (before > 0)
                runs.back().text += ' ';
            runs.back().text += elided(word.text, size, word.weight, width_ - left_);
        }
        x_ = runs.back().x + textWidth(runs.back().text, size, word.weight);
        out_.width = std::max(out_.width, x_);
    }

    double width_;
    double x_ = 0, y_ = 0, left_ = 0;
    NoteText out_;
};

} // namespace

NoteText setNote(std::string_view text, double width) {
    Setter setter(width);
    for (;;) {
        const auto end = std::min(text.find('\n'), text.size());
        setter.add(text.substr(0, end));
        if (end == text.size())
            return setter.done();
        text.remove_prefix(end + 1);
    }
}

} // namespace underridge::scene
