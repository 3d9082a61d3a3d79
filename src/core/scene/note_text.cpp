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

/// A word in pieces that have room on a line, each a code point at least. Linear.
std::vector<std::string> piecesOf(std::string_view word, double size, Weight weight, double room) {
    std::vector<std::size_t> points;
    forEachCodePoint(word, [&](char32_t, std::size_t offset) { points.push_back(offset); });
    points.push_back(word.size());
    std::vector<std::string> out;
    std::size_t from = 0;
    double wide = 0;
    for (std::size_t i = 0; i + 1 < points.size(); ++i) {
        const double more = textWidth(word.substr(points[i], points[i + 1] - points[i]), size, weight);
        if (wide + more > room && points[i] > from) {
            out.emplace_back(word.substr(from, points[i] - from));
            from = points[i];
            wide = 0;
        }
        wide += more;
    }
    out.emplace_back(word.substr(from));
    return out;
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
        if (textWidth(word.text, block.size, word.weight) <= room)
            return;
        auto pieces = piecesOf(word.text, block.size, word.weight, room);
        word.text = std::move(pieces.back());
        pieces.pop_back();
        for (std::string& piece : pieces) {
            if (x_ > left_)
                begin(block);
            put({std::move(piece), word.weight, false}, 0, block.size);
            word.spaceBefore = false;
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
