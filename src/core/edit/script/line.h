// SPDX-License-Identifier: GPL-3.0-or-later
// One line of a script while it is being done: its members, and the names in them.
#pragma once
#include "core/edit/script/script.h"
#include "core/exchange/json_view.h"

#include <span>
#include <unordered_map>

namespace underridge::edit {

/// Which objects have a name, kept up with the network.
class NameIndex {
public:
    explicit NameIndex(const model::Network& network);
    void follow(const model::Network& before, const model::Network& after);
    /// Devices, groups and cable routes of that name.
    const Refs& named(const std::string& name) const;

private:
    void change(const std::string& name, model::ObjectRef object, bool there);
    std::unordered_map<std::string, Refs> byName_;
};

/// Where acts are done: the network as the lines before have left it.
struct Bench {
    model::Network network;
    const model::Catalogue& catalogue;
    model::IdSource& ids;
    const ReadFile& readFile;
    NameIndex names;
};

/// The members of a line by name. What is missing or of the wrong kind is a refusal that
/// points at it. Texts name objects by their name or id.
class Line {
public:
    Line(const Bench& bench, exchange::JsonView object) : bench_(bench), object_(object) {}

    const Bench& bench() const { return bench_; }
    exchange::JsonView member(std::string_view name) const { return object_[name]; }
    bool has(std::string_view member) const { return static_cast<bool>(object_[member]); }

    Result<std::string> text(std::string_view member) const;
    /// The text, or another when it is not there.
    Result<std::string> textOr(std::string_view member, std::string otherwise) const;
    Result<std::int64_t> whole(std::string_view member, std::int64_t least, std::int64_t most) const;
    Result<std::int64_t> wholeOr(std::string_view member, std::int64_t otherwise, std::int64_t least,
                                 std::int64_t most) const;
    /// Metres, as millimetres.
    Result<std::int64_t> metres(std::string_view member) const;
    /// The number, or another when it is not there.
    Result<double> numberOr(std::string_view member, double otherwise) const;
    Result<bool> flagOr(std::string_view member, bool otherwise) const;
    /// {"x":…,"y":…}, whole numbers of sheet units.
    Result<model::Point> point(std::string_view member) const;

    Result<model::ObjectRef> object(std::string_view member) const;
    Result<model::DeviceId> device(std::string_view member) const;
    /// A group; null or an empty text: none.
    Result<model::GroupId> group(std::string_view member) const;
    /// The same; none where the member is not there.
    Result<model::GroupId> groupOr(std::string_view member) const;
    /// Of a list, or of the one text that stands for a list of one.
    Result<std::vector<std::string>> texts(std::string_view member) const;
    /// The same, of objects.
    Result<Refs> objects(std::string_view member) const;
    /// What a finding may be about: links, cables, VLANs and statements too, by their ids.
    Result<Refs> subjects(std::string_view member) const;
    Result<std::vector<model::GroupId>> groups(std::string_view member) const;
    /// A sheet by name or id; where it is not there the first.
    Result<model::SheetId> sheet(std::string_view member = "sheet") const;
    /// "acc-1:3" is a port, "acc-1" the device with no port named.
    Result<model::PortRef> portOrDevice(std::string_view member) const;
    Result<model::PortRef> port(std::string_view member) const;
    /// A word of the model, such as a kind of group.
    template <class Word>
    Result<Word> word(std::string_view member) const;

    /// A refusal that points at a member, or at the line.
    Remark wrong(std::string_view member, std::string what, std::string remedy) const;

private:
    Result<model::ObjectRef> objectNamed(std::string_view member, const std::string& name) const;

    const Bench& bench_;
    exchange::JsonView object_;
};

template <class Word>
Result<Word> Line::word(std::string_view member) const {
    const auto said = text(member);
    if (!said)
        return said.refusal();
    std::string all;
    for (const auto& each : wordsOf(Word{})) {
        if (each.text == *said)
            return each.value;
        all += (all.empty() ? "" : ", ") + std::string(each.text);
    }
    return wrong(member, *said + " is not known here", "write one of: " + all);
}

/// An act of the language: its name, the members it may have, what it does.
struct ActWord {
    std::string_view name;
    std::vector<std::string_view> members;
    ActResult (*run)(const Line& line);
};
std::span<const ActWord> deviceActs();
std::span<const ActWord> linkActs();
std::span<const ActWord> groupActs();
std::span<const ActWord> powerActs();
std::span<const ActWord> patternActs();
std::span<const ActWord> routeActs();
std::span<const ActWord> forwardingActs();
std::span<const ActWord> declaredActs();
std::span<const ActWord> findingActs();
std::span<const ActWord> sheetActs();

} // namespace underridge::edit
