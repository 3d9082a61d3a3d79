// SPDX-License-Identifier: GPL-3.0-or-later
// A JSON text (RFC 8259) taken apart once and looked into: every value knows its place
// and keeps its own writing, so that what is only passed on comes out as it came in,
// numbers of any size included.
#pragma once
#include "core/exchange/decoding.h"

#include <memory>
#include <optional>
#include <unordered_map>

namespace underridge::exchange {

/// A value of a JsonText, or nothing. Costs nothing to copy; valid as long as its
/// JsonText.
class JsonView {
public:
    enum class Kind : std::uint8_t { nothing, null, boolean, number, text, array, object };

    JsonView() = default;

    Kind kind() const;
    explicit operator bool() const { return kind() != Kind::nothing; }
    bool isObject() const { return kind() == Kind::object; }
    bool isArray() const { return kind() == Kind::array; }
    bool isText() const { return kind() == Kind::text; }

    /// As it was written.
    std::string_view raw() const;
    /// The same without blanks between values, so on one line.
    std::string compact() const;
    /// Of its first byte in the text.
    std::size_t offset() const;
    /// How many elements or members it has.
    std::size_t size() const;
    bool empty() const { return size() == 0; }

    /// The text it is, escapes resolved; empty when it is none.
    std::string text() const;
    /// The same without a copy, in `scratch` where escapes had to be resolved.
    std::string_view text(std::string& scratch) const;
    bool isText(std::string_view other) const;
    std::optional<bool> boolean() const;
    /// A whole number that is not negative, or one that is; nothing when it is none or
    /// does not fit.
    std::optional<std::uint64_t> whole() const;
    std::optional<std::int64_t> integer() const;
    std::optional<double> number() const;

    /// Calls `each(JsonView)` for every element of an array.
    template <class Each>
    void forEach(Each&& each) const {
        if (isArray())
            for (std::uint32_t at = first(); at != end(); at = after(at))
                each(JsonView(held_, at));
    }
    /// Calls `each(std::string_view name, JsonView)` for every member of an object, in
    /// their order.
    template <class Each>
    void forEachMember(Each&& each) const {
        if (!isObject())
            return;
        std::string scratch;
        for (std::uint32_t at = first(); at != end(); at = after(at + 1))
            each(textAt(at, scratch), JsonView(held_, at + 1));
    }
    /// The member of that name; the last one, as parsers do, when it is there twice.
    JsonView operator[](std::string_view name) const;
    /// The element at an index of an array.
    JsonView at(std::size_t index) const;

private:
    friend class JsonText;
    friend class JsonFollower;
    friend class JsonReader;
    struct Node {
        std::uint32_t start = 0, end = 0; ///< in the text
        std::uint32_t after = 0;          ///< index of the node past this one and all in it
        std::uint32_t count : 29 = 0;     ///< elements or members; of a text, whether it has escapes
        Kind kind : 3 = Kind::nothing;
    };
    struct Held {
        std::string_view text;
        std::vector<Node> nodes; ///< a member is its name, then its value
    };

    JsonView(const Held* held, std::uint32_t at) : held_(held), at_(at) {}
    const Node& node() const { return held_->nodes[at_]; }
    std::uint32_t first() const { return at_ + 1; }
    std::uint32_t end() const { return node().after; }
    std::uint32_t after(std::uint32_t at) const { return held_->nodes[at].after; }
    std::string_view textAt(std::uint32_t at, std::string& scratch) const;

    const Held* held_ = nullptr;
    std::uint32_t at_ = 0;
};

/// Why a text is not JSON, and from where on.
struct JsonFault {
    std::size_t offset = 0;
    std::string what; ///< as the start of a sentence
};

/// Takes one text after another apart, in memory that it uses again.
class JsonReader {
public:
    /// How many bytes must be readable past a text.
    static constexpr std::size_t padding = 64;

    explicit JsonReader(int mostDepth = maxJsonDepth);
    ~JsonReader();
    JsonReader(const JsonReader&) = delete;
    JsonReader& operator=(const JsonReader&) = delete;

    /// The fault, if there is one: what is not JSON, is not UTF-8, or is nested too deep.
    /// REQUIRES: `padding` bytes past the text may be read, whatever they are.
    std::optional<JsonFault> read(std::string_view text);
    /// What was read last; good until the next read().
    JsonView root() const;

private:
    friend class JsonText;
    friend class JsonFollower;
    struct Parser;
    int mostDepth_;
    std::unique_ptr<Parser> parser_;
    std::unique_ptr<JsonView::Held> held_;
};

/// A text that is kept with what was found in it.
class JsonText {
public:
    /// Refuses, with line and column, what JsonReader finds at fault.
    static Result<JsonText> parse(std::string text, const std::string& file, int mostDepth = maxJsonDepth);
    JsonView root() const { return {held_.get(), 0}; }
    const std::string& text() const { return *text_; }

private:
    std::shared_ptr<const std::string> text_;
    std::shared_ptr<const JsonView::Held> held_;
};

/// "a \"word\"" for a word, as JSON writes it. What is not UTF-8 is replaced.
std::string jsonText(std::string_view text);

/// An object made of members as they were written, but for blanks.
class JsonMembers {
public:
    JsonMembers() = default;
    explicit JsonMembers(JsonView object);

    /// `value` must be JSON.
    void set(std::string_view name, std::string value);
    void setText(std::string_view name, std::string_view text) { set(name, jsonText(text)); }
    const std::string* find(std::string_view name) const;
    void erase(std::string_view name);
    bool empty() const { return members_.empty(); }
    const std::vector<std::pair<std::string, std::string>>& members() const { return members_; }
    std::string text() const;

private:
    std::size_t indexOf(std::string_view name) const;

    std::vector<std::pair<std::string, std::string>> members_;
    std::unordered_map<std::string, std::size_t> index_; ///< while there are many
};

} // namespace underridge::exchange
