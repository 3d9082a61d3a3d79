// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/json_places.h"

#include <fmt/format.h>
#include <set>

namespace underridge::exchange {
using Json = nlohmann::json;
namespace {

/// Offset of the first bracket that is nested too deep; npos: none is. Brackets in strings do not count.
std::size_t tooDeep(std::string_view text) {
    int depth = 0;
    bool quoted = false;
    for (std::size_t i = 0; i < text.size(); ++i) {
        const char c = text[i];
        if (quoted) {
            if (c == '\\')
                ++i;
            else if (c == '"')
                quoted = false;
        } else if (c == '"') {
            quoted = true;
        } else if (c == '{' || c == '[') {
            if (++depth > maxJsonDepth)
                return i;
        } else if (c == '}' || c == ']') {
            --depth;
        }
    }
    return std::string_view::npos;
}

/// Follows the parser through the text and knows at each value which pointer leads to it.
class Walker : public nlohmann::json_sax<Json> {
public:
    Walker(const std::set<std::string>& wanted, const char* const* at, const char* start)
        : wanted_(wanted), at_(at), start_(start) {}

    std::map<std::string, std::size_t> found;

    bool null() override { return value(); }
    bool boolean(bool) override { return value(); }
    bool number_integer(std::int64_t) override { return value(); }
    bool number_unsigned(std::uint64_t) override { return value(); }
    bool number_float(double, const std::string&) override { return value(); }
    bool string(std::string&) override { return value(); }
    bool binary(binary_t&) override { return value(); }
    bool start_object(std::size_t) override { return open(false); }
    bool start_array(std::size_t) override { return open(true); }
    bool key(std::string& name) override {
        levels_.back().name = name;
        return true;
    }
    bool end_object() override { return close(); }
    bool end_array() override { return close(); }
    bool parse_error(std::size_t, const std::string&, const nlohmann::detail::exception&) override {
        return false;
    }

private:
    struct Level {
        bool array = false;
        std::size_t index = 0;
        std::string name;
        std::size_t base = 0; ///< length of the path above
    };

    void arrive() {
        if (levels_.empty())
            return;
        Level& level = levels_.back();
        path_.resize(level.base);
        path_ += '/';
        if (level.array) {
            path_ += std::to_string(level.index++);
        } else {
            for (const char c : level.name)
                path_ += c == '~' ? "~0" : c == '/' ? "~1" : std::string(1, c);
        }
    }
    void note() {
        if (wanted_.contains(path_))
            found.emplace(path_, static_cast<std::size_t>(*at_ - start_));
    }
    bool value() {
        arrive();
        note();
        return true;
    }
    bool open(bool array) {
        arrive();
        note();
        levels_.push_back({array, 0, {}, path_.size()});
        return true;
    }
    bool close() {
        path_.resize(levels_.back().base);
        levels_.pop_back();
        return true;
    }

    const std::set<std::string>& wanted_;
    const char* const* at_;
    const char* start_;
    std::vector<Level> levels_;
    std::string path_;
};

/// An iterator over bytes that leaves word of where it is.
class Watched {
public:
    using iterator_category = std::input_iterator_tag;
    using value_type = char;
    using difference_type = std::ptrdiff_t;
    using pointer = const char*;
    using reference = const char&;

    Watched(const char* at, const char** word) : at_(at), word_(word) {}
    reference operator*() const { return *at_; }
    Watched& operator++() {
        *word_ = at_++;
        return *this;
    }
    Watched operator++(int) {
        Watched old = *this;
        ++*this;
        return old;
    }
    bool operator==(const Watched& other) const { return at_ == other.at_; }
    bool operator!=(const Watched& other) const { return at_ != other.at_; }

private:
    const char* at_;
    const char** word_;
};

} // namespace

Result<Json> parseJson(std::string_view text, const std::string& file) {
    if (const auto deep = tooDeep(text); deep != std::string_view::npos)
        return error(fmt::format("values are nested more than {} deep", maxJsonDepth), "choose another file",
                     Lines(text).at(file, deep));
    try {
        return Json::parse(text);
    } catch (const Json::parse_error& broken) {
        return error("the text is not JSON from here on", "correct it or restore the file",
                     Lines(text).at(file, broken.byte > 0 ? broken.byte - 1 : 0));
    }
}

std::map<std::string, Where> placesOf(std::string_view text, const std::string& file,
                                      const std::vector<std::string>& pointers) {
    std::map<std::string, Where> places;
    if (pointers.empty())
        return places;
    const std::set<std::string> wanted(pointers.begin(), pointers.end());
    const char* at = text.data();
    Walker walker(wanted, &at, text.data());
    Json::sax_parse(Watched(text.data(), &at), Watched(text.data() + text.size(), &at), &walker);
    const Lines lines(text);
    for (const auto& [pointer, offset] : walker.found)
        places[pointer] = lines.at(file, offset);
    return places;
}

} // namespace underridge::exchange
