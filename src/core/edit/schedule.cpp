// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/schedule.h"

#include "core/edit/links.h"
#include "core/edit/power.h"
#include "core/edit/registers.h"
#include "core/exchange/workbook.h"
#include "core/model/ports.h"

#include <array>
#include <fmt/format.h>
#include <map>
#include <optional>
#include <set>

namespace underridge::edit {
using namespace model;
namespace {

enum ScheduleColumn { from, fromPort, to, toPort, label, type, length, status, colour, note, fieldCount };

/// Titles without blanks, in small letters.
const std::map<std::string, ScheduleColumn>& titles() {
    static const std::map<std::string, ScheduleColumn> known{{"from", from},
                                                             {"fromdevice", from},
                                                             {"devicea", from},
                                                             {"enda", from},
                                                             {"fromport", fromPort},
                                                             {"porta", fromPort},
                                                             {"to", to},
                                                             {"todevice", to},
                                                             {"deviceb", to},
                                                             {"endb", to},
                                                             {"toport", toPort},
                                                             {"portb", toPort},
                                                             {"label", label},
                                                             {"cablelabel", label},
                                                             {"cable", type},
                                                             {"cabletype", type},
                                                             {"type", type},
                                                             {"length", length},
                                                             {"lengthm", length},
                                                             {"lengthft", length},
                                                             {"lengthfeet", length},
                                                             {"lengthmetres", length},
                                                             {"status", status},
                                                             {"colour", colour},
                                                             {"color", colour},
                                                             {"jacket", colour},
                                                             {"note", note},
                                                             {"remarks", note}};
    return known;
}

/// The columns of the cable register the fields go to.
constexpr std::pair<ScheduleColumn, std::string_view> registerColumns[] = {
    {label, "label"},   {type, "type"},     {length, "length"},
    {status, "status"}, {colour, "jacket"}, {note, "note"}};

std::size_t registerColumn(std::string_view key) {
    const auto columns = columnsOf(Register::cables);
    return static_cast<std::size_t>(
        std::find_if(columns.begin(), columns.end(), [&](const Column& c) { return c.key == key; }) -
        columns.begin());
}

/// Columns of the program's own tables that say nothing new of a cable.
bool isIgnored(const std::string& title) {
    return title.empty() || title == "id" || title == "medium" || title == "speedmbps" || title == "console";
}

std::string plainTitle(std::string_view title) {
    std::string out;
    for (const char c : lowered(title))
        if ((c >= 'a' && c <= 'z') || (c >= '0' && c <= '9'))
            out += c;
    return out;
}

class Merger {
public:
    Merger(const Network& network, const Catalogue& catalogue, IdSource& ids)
        : catalogue_(catalogue), ids_(ids) {
        schedule_.base = schedule_.network = network;
        network.all<Device>().forEach(
            [&](const Device& device) { byName_[device.name].push_back(device.id); });
        network.all<Cable>().forEach([&](const Cable& cable) {
            if (!cable.label.empty())
                byLabel_[cable.label].push_back(cable.id);
        });
    }

    Result<Schedule> merge(const ScheduleTable& table, const std::string& file) {
        const exchange::TextRow& header = table.rows.front();
        for (std::size_t i = 0; i < header.cells.size(); ++i) {
            const int field = i < table.fields.size() ? table.fields[i] : -1;
            const std::string title = plainTitle(header.cells[i]);
            if (field < 0 || columns_[field]) {
                if (!isIgnored(title))
                    schedule_.remarks.push_back(
                        advice(fmt::format("the column \"{}\" is not used", header.cells[i]),
                               "name it label, cable, length, status, colour or note if it is one of these",
                               {file, header.line, static_cast<int>(i) + 1}));
                continue;
            }
            columns_[field] = i;
            if (field == length)
                unit_ =
                    title.ends_with("ft") || title.ends_with("feet") ? LengthUnit::feet : LengthUnit::metres;
        }
        if (!columns_[from] || !columns_[to])
            return error("the first line names no columns \"from\" and \"to\"",
                         "name the columns: from, from port, to, to port, label, cable, length",
                         {file, header.line, 1});
        for (auto row = table.rows.begin() + 1; row != table.rows.end(); ++row)
            if (!row->cells.empty())
                schedule_.rows.push_back(take(*row));
        return std::move(schedule_);
    }

private:
    /// Nothing: there is no such column. Empty: the cell is.
    std::optional<std::string> cell(const exchange::TextRow& row, ScheduleColumn field) const {
        if (!columns_[field])
            return std::nullopt;
        return *columns_[field] < row.cells.size() ? trimmed(row.cells[*columns_[field]]) : std::string();
    }

    /// The device and port a row names: in two cells, or in one as DEVICE:PORT.
    Result<PortRef> endOf(const exchange::TextRow& row, ScheduleColumn device, ScheduleColumn port) const {
        std::string name = cell(row, device).value_or("");
        std::string key = cell(row, port).value_or("");
        if (const auto colon = name.rfind(':');
            key.empty() && colon != std::string::npos && !byName_.contains(name)) {
            key = trimmed(name.substr(colon + 1));
            name = trimmed(name.substr(0, colon));
        }
        if (name.empty())
            return error("an end names no device", "fill in from and to");
        const auto at = byName_.find(name);
        if (at == byName_.end())
            return error(fmt::format("there is no device {}", name), "correct the name, or add it first");
        if (at->second.size() > 1)
            return error(fmt::format("{} devices are named {}", at->second.size(), name),
                         "give them names of their own");
        const PortRef ref{at->second.front(), key};
        if (!key.empty() && !portAt(schedule_.network, ref))
            return error(fmt::format("{} has no port {}", name, key), "correct the port");
        return ref;
    }

    /// The link a row is about, by its label, else by its ends.
    const Link* linkOf(const std::string& name, const PortRef& a, const PortRef& b) const {
        const Network& network = schedule_.network;
        const auto meets = [](const PortRef& wanted, const PortRef& there) {
            return wanted.device == there.device && (wanted.port.empty() || wanted.port == there.port);
        };
        const auto joins = [&](const Link& link) {
            return (meets(a, link.a) && meets(b, link.b)) || (meets(a, link.b) && meets(b, link.a));
        };
        if (const auto at = byLabel_.find(name);
            !name.empty() && at != byLabel_.end() && at->second.size() == 1)
            if (const Cable* cable = network.cable(at->second.front())) {
                // A cable that carries several links is in the schedule once for each.
                const Link *only = nullptr, *same = nullptr;
                for (const CableEnd& end : cable->ends)
                    if (const Link* link = network.linkAt(end.at);
                        link && link->cable == cable->id && link != only) {
                        only = link;
                        if (joins(*link))
                            same = link;
                    }
                if (same || cable->ends.size() <= 2)
                    return same ? same : only;
            }
        const Link* found = nullptr;
        const bool bothNamed = a.known() && b.known();
        network.forEachLinkOf(a.device, [&](const Link& link) {
            // Devices alone do not make a cable with another label the same one.
            const Cable* cable = network.cable(link.cable);
            if (!bothNamed && !name.empty() && cable && !cable->label.empty() && cable->label != name)
                return;
            if (joins(link))
                found = !found || (seen_.contains(found->id) && !seen_.contains(link.id)) ? &link : found;
        });
        return found;
    }

    ScheduleRow take(const exchange::TextRow& row) {
        const std::string name = cell(row, label).value_or("");
        ScheduleRow out{row.line,
                        Match::wrong,
                        fmt::format("{}{} {} to {} {}", name.empty() ? "" : name + ": ",
                                    cell(row, from).value_or(""), cell(row, fromPort).value_or(""),
                                    cell(row, to).value_or(""), cell(row, toPort).value_or("")),
                        {},
                        {}};
        const auto wrong = [&out](const Remark& why) {
            out.why = why.text();
            return out;
        };
        const auto a = endOf(row, from, fromPort), b = endOf(row, to, toPort);
        if (!a)
            return wrong(a.refusal());
        if (!b)
            return wrong(b.refusal());
        if (a->device == b->device && a->port == b->port)
            return wrong(error("both ends are one port", "correct one of them"));
        if (const auto fed = suppliedBy(*a, *b))
            return takeFeed(row, std::move(out), *fed);
        const Link* link = linkOf(name, *a, *b);
        if (link ? !seen_.insert(link->id).second : !name.empty() && !labels_.insert(name).second)
            return wrong(error("the row is there twice", "remove one of them"));
        Network next = schedule_.network;
        std::vector<std::string> changes;
        LinkId id;
        if (link) {
            id = link->id;
            if (auto moved = move(next, *link, *a, *b, changes); !moved)
                return wrong(moved.refusal());
        } else {
            auto made = make(next, *a, *b);
            if (!made)
                return wrong(made.refusal());
            id = *made;
        }
        if (auto set = setFields(next, next.link(id)->cable, row, changes); !set)
            return wrong(set.refusal());
        out.link = id;
        out.match = !link ? Match::added : changes.empty() ? Match::same : Match::changed;
        out.why = link ? fmt::format("{}", fmt::join(changes, "; ")) : std::string();
        if (out.match != Match::same)
            schedule_.network = std::move(next);
        if (!link)
            seen_.insert(id);
        return out;
    }

    /// A row that is a mains cord: what it feeds, and from where.
    struct Supplied {
        PortRef supply, outlet;
    };
    std::optional<Supplied> suppliedBy(const PortRef& a, const PortRef& b) const {
        const Network& network = schedule_.network;
        const auto has = [](const std::vector<std::string>& keys, const std::string& key) {
            return std::find(keys.begin(), keys.end(), key) != keys.end();
        };
        for (const auto& [from, to] : {std::pair(a, b), std::pair(b, a)}) {
            if (!has(outletsOf(network, *network.device(from.device)), from.port))
                continue;
            const auto supplies = suppliesOf(network, *network.device(to.device));
            if (has(supplies, to.port) || (to.port.empty() && supplies.size() == 1))
                return Supplied{{to.device, to.port.empty() ? supplies.front() : to.port}, from};
        }
        return std::nullopt;
    }

    ScheduleRow takeFeed(const exchange::TextRow& row, ScheduleRow out, const Supplied& fed) {
        const auto feedIn = [&](const Network& network) -> const PowerFeed* {
            for (const PowerFeed& feed : network.device(fed.supply.device)->feeds)
                if (feed.supply == fed.supply.port)
                    return &feed;
            return nullptr;
        };
        if (!fed_.insert(fed.supply).second) {
            out.why = error("the row is there twice", "remove one of them").text();
            return out;
        }
        const PowerFeed* before = feedIn(schedule_.network);
        const bool same = before && before->from == fed.outlet.device && before->outlet == fed.outlet.port;
        auto act = withCords(feedSupply(schedule_.network, fed.supply.device, fed.supply.port,
                                        {fed.outlet.device, {}}, fed.outlet.port),
                             schedule_.network, catalogue_, ids_);
        std::vector<std::string> changes;
        if (act) {
            if (auto set = setFields(act->network, feedIn(act->network)->cable, row, changes); !set)
                act = set.refusal();
        }
        if (!act) {
            out.why = act.refusal().text();
            return out;
        }
        out.match = !before ? Match::added : same && changes.empty() ? Match::same : Match::changed;
        if (before && !same)
            changes.insert(changes.begin(), "fed from another outlet");
        out.why = before ? fmt::format("{}", fmt::join(changes, "; ")) : std::string();
        if (out.match != Match::same)
            schedule_.network = std::move(act->network);
        return out;
    }

    Result<LinkId> make(Network& next, const PortRef& a, const PortRef& b) {
        auto pair = linking::bestPair(next, catalogue_, {a.device, a.port}, {b.device, b.port});
        if (!pair && a.known() && b.known()) { // the schedule says so: it is made, and told as a finding
            for (const PortRef& end : {a, b})
                if (next.linkAt(end))
                    return pair.refusal();
            pair = linking::anyPair(next, catalogue_, a, b);
        }
        if (!pair)
            return pair.refusal();
        auto act = makeLink(next, catalogue_, *pair, ids_);
        if (!act)
            return act.refusal();
        next = std::move(act->network);
        return LinkId{act->subjects.front().id};
    }

    /// Puts a link's ends where the row wants them.
    Result<Done> move(Network& next, const Link& link, const PortRef& a, const PortRef& b,
                      std::vector<std::string>& changes) {
        const auto fits = [](const PortRef& wanted, const PortRef& there) {
            return wanted.device == there.device && (wanted.port.empty() || wanted.port == there.port);
        };
        if ((fits(a, link.a) && fits(b, link.b)) || (fits(a, link.b) && fits(b, link.a)))
            return Done{};
        for (const PortRef& end : {a, b}) {
            if (!end.known())
                return error("the cable goes elsewhere, and the row names no port", "fill in both ports");
            if (const Link* there = next.linkAt(end); there && there->id != link.id)
                return error(fmt::format("port {} is taken", portText(next, end)),
                             "free it, or choose another");
        }
        changes.push_back(
            fmt::format("{} becomes {} to {}", linkText(next, link), portText(next, a), portText(next, b)));
        Link moved = link;
        moved.a = a;
        moved.b = b;
        if (const Cable* held = next.cable(link.cable)) {
            Cable cable = *held;
            for (CableEnd& end : cable.ends) // of a cable with several links only this one's
                if (end.at == link.a)
                    end.at = a;
                else if (end.at == link.b)
                    end.at = b;
            next.put(std::move(cable));
        }
        next.put(std::move(moved));
        return Done{};
    }

    Result<Done> setFields(Network& next, CableId cable, const exchange::TextRow& row,
                           std::vector<std::string>& changes) {
        for (const auto& [field, key] : registerColumns) {
            const auto text = cell(row, field);
            if (!text || text->empty())
                continue; // an empty cell says nothing
            if (!next.cable(cable))
                return error("there is no cable", "choose one in the drawing first");
            const std::size_t column = registerColumn(key);
            const Row at{refTo(cable), {}};
            const std::string before = cellText(next, Register::cables, at, column, LengthUnit::metres);
            if (auto set = setCell(next, catalogue_, Register::cables, {at, column, *text}, unit_, ids_);
                !set)
                return set.refusal();
            const std::string after = cellText(next, Register::cables, at, column, LengthUnit::metres);
            if (before != after)
                changes.push_back(fmt::format("{} {} becomes {}",
                                              lowered(columnsOf(Register::cables)[column].title),
                                              before.empty() ? "not set" : before, after));
        }
        const Cable* held = next.cable(cable);
        const CableType* cableType = held ? next.typeOf(*held) : nullptr;
        if (cableType && cableType->maxLengthMm > 0 && held->lengthMm > cableType->maxLengthMm)
            return error(fmt::format("{} is longer than {} may be, {}",
                                     lengthText(held->lengthMm, LengthUnit::metres), cableType->name,
                                     lengthText(cableType->maxLengthMm, LengthUnit::metres)),
                         "correct the length or the type");
        return Done{};
    }

    const Catalogue& catalogue_;
    IdSource& ids_;
    Schedule schedule_;
    std::map<std::string, std::vector<DeviceId>> byName_;
    std::map<std::string, std::vector<CableId>> byLabel_;
    std::optional<std::size_t> columns_[fieldCount];
    LengthUnit unit_ = LengthUnit::metres;
    std::set<LinkId> seen_;
    std::set<PortRef> fed_; ///< supplies rows were about
    std::set<std::string> labels_;
};

} // namespace

int Schedule::count(Match match) const {
    return static_cast<int>(
        std::count_if(rows.begin(), rows.end(), [&](const ScheduleRow& row) { return row.match == match; }));
}

std::span<const ScheduleField> scheduleFields() {
    // In the order of ScheduleColumn.
    static constexpr std::array<ScheduleField, fieldCount> fields{{{"From"},
                                                                   {"From port"},
                                                                   {"To"},
                                                                   {"To port"},
                                                                   {"Label"},
                                                                   {"Cable type"},
                                                                   {"Length"},
                                                                   {"Status"},
                                                                   {"Colour"},
                                                                   {"Note"}}};
    return fields;
}

bool ScheduleTable::isSure() const {
    for (std::size_t i = 0; i < rows.front().cells.size(); ++i) {
        const std::string title = plainTitle(rows.front().cells[i]);
        if (fields[i] < 0 && !isIgnored(title))
            return false;
    }
    const auto has = [&](int field) {
        return std::find(fields.begin(), fields.end(), field) != fields.end();
    };
    return has(from) && has(to);
}

Result<ScheduleTable> readSchedule(std::string_view bytes, const std::string& file) {
    ScheduleTable table;
    auto rows = exchange::readTable(bytes, file, {"from", "device a", "end a"}, table.remarks);
    if (!rows)
        return rows.refusal();
    table.rows = *std::move(rows);
    const auto header = std::find_if(table.rows.begin(), table.rows.end(),
                                     [](const exchange::TextRow& row) { return !row.cells.empty(); });
    if (header == table.rows.end())
        return error("the file is empty", "choose another", {file, 1, 1});
    table.rows.erase(table.rows.begin(), header);
    std::set<int> taken;
    for (const std::string& title : table.rows.front().cells) {
        const auto known = titles().find(plainTitle(title));
        const bool fresh = known != titles().end() && taken.insert(known->second).second;
        table.fields.push_back(fresh ? known->second : -1);
    }
    return table;
}

Result<Schedule> mergeSchedule(const Network& network, const Catalogue& catalogue, const ScheduleTable& table,
                               const std::string& file, IdSource& ids) {
    auto schedule = Merger(network, catalogue, ids).merge(table, file);
    if (schedule)
        schedule->remarks.insert(schedule->remarks.begin(), table.remarks.begin(), table.remarks.end());
    return schedule;
}

Result<Schedule> mergeSchedule(const Network& network, const Catalogue& catalogue, std::string_view bytes,
                               const std::string& file, IdSource& ids) {
    const auto table = readSchedule(bytes, file);
    return table ? mergeSchedule(network, catalogue, *table, file, ids) : Result<Schedule>(table.refusal());
}

ActResult takeSchedule(const Schedule& schedule) {
    if (schedule.network == schedule.base)
        return advice("the schedule changes nothing", "everything in it is drawn already, or wrong");
    return Act{fmt::format("{}, {} new, {} changed", schedule.name, schedule.count(Match::added),
                           schedule.count(Match::changed)),
               schedule.network,
               {},
               schedule.base};
}

std::string_view textOf(Match match) {
    switch (match) {
    case Match::same:
        return "same";
    case Match::added:
        return "new";
    case Match::changed:
        return "changed";
    case Match::wrong:
        return "wrong";
    }
    return {};
}

} // namespace underridge::edit
