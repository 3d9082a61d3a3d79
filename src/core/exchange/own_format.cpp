// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/own_format.h"

#include "core/base/text.h"
#include "core/exchange/mending.h"
#include "core/exchange/record_json.h"
#include "core/model/ports.h"

#include <fmt/format.h>
#include <set>
#include <thread>
#include <unordered_map>

namespace underridge::exchange {
using namespace model;
namespace {

constexpr std::string_view signature = "{\"underridge\":";

Result<Done> checkHeader(std::string_view line, const std::string& file) {
    const Where where{file, 1, 1, {}};
    const auto json = JsonText::parse(std::string(line), file);
    const auto version = json ? json->root()["underridge"].integer() : std::nullopt;
    if (!version)
        return error("the file is not an Underridge network", "choose another file", where);
    if (*version < 1 || *version > formatVersion)
        return error(fmt::format("the file has format version {}, this program reads up to {}", *version,
                                 formatVersion),
                     "open it with a newer version", where);
    return Done{};
}

/// Lines of a file, and where they stand.
struct Part {
    std::string_view text;
    int firstLine = 1;
};

/// Calls `each(line, number)` for the lines of a part that say something; a refusal of
/// one ends it.
template <class Each>
Result<Done> forEachLine(const Part& part, Each&& each) {
    int number = part.firstLine;
    for (std::size_t at = 0; at < part.text.size(); ++number) {
        const std::size_t end = std::min(part.text.find('\n', at), part.text.size());
        std::string_view line = part.text.substr(at, end - at);
        at = end + 1;
        if (line.ends_with('\r'))
            line.remove_suffix(1);
        if (!line.empty())
            if (auto done = each(line, number); !done)
                return done;
    }
    return Done{};
}

struct Gathered {
    Records records;
    std::optional<Remark> refusal;
};

Gathered gather(const Part& part, const std::string& file) {
    Gathered out;
    JsonReader reader(maxOwnDepth);
    const auto done = forEachLine(part, [&](std::string_view line, int number) {
        return addLine(out.records, reader, line, {file, number, 1, {}});
    });
    if (!done)
        out.refusal = done.refusal();
    return out;
}

/// A text in parts of about equal size, for as many threads.
std::vector<Part> partsOf(std::string_view text, int firstLine) {
    constexpr std::size_t worthAThread = 1 << 20;
    const std::size_t count = std::clamp<std::size_t>(
        std::min<std::size_t>(std::thread::hardware_concurrency(), text.size() / worthAThread), 1, 8);
    std::vector<Part> parts;
    std::size_t at = 0;
    for (std::size_t i = 1; i <= count; ++i) {
        std::size_t end = text.size();
        if (i < count)
            end = std::min(text.find('\n', std::max(at, text.size() * i / count)), text.size() - 1) + 1;
        parts.push_back({text.substr(at, end - at), firstLine});
        if (i < count)
            firstLine += static_cast<int>(std::count(text.begin() + static_cast<std::ptrdiff_t>(at),
                                                     text.begin() + static_cast<std::ptrdiff_t>(end), '\n'));
        at = end;
    }
    return parts;
}

void append(Records& to, Records& from) {
    const Network kinds;
    kinds.forEachTable([&]<class Record, std::size_t n>(const Table<Record, n>&) {
        auto &into = to.all<Record>(), &more = from.all<Record>();
        if (into.empty())
            into = std::move(more);
        else
            into.insert(into.end(), std::make_move_iterator(more.begin()),
                        std::make_move_iterator(more.end()));
    });
}

/// The first object that is there twice; nothing when it is only lines that this version
/// does not know.
std::optional<Remark> firstRepeated(const Part& part, const std::string& file) {
    JsonReader reader(maxOwnDepth);
    std::set<std::tuple<Kind, std::uint64_t, std::uint64_t>> seen;
    const auto done = forEachLine(part, [&](std::string_view line, int number) -> Result<Done> {
        const Where where{file, number, 1, {}};
        Records one;
        if (auto added = addLine(one, reader, line, where); !added)
            return added;
        bool twice = false;
        const Network kinds;
        kinds.forEachTable([&]<class Record, std::size_t n>(const Table<Record, n>&) {
            for (const Record& record : one.all<Record>())
                twice |= Record::kind != Kind::unknown &&
                         !seen.emplace(Record::kind, record.key().hi, record.key().lo).second;
        });
        if (twice)
            return error("this object is there twice", "remove one of the two", where);
        return Done{};
    });
    return done ? std::nullopt : std::optional(done.refusal());
}

/// Files before version 2 do not say what a position is of.
void sayWhatPositionsAreOf(Records& records) {
    std::unordered_map<std::uint64_t, Kind> kinds;
    const auto take = [&]<class Record>(const std::vector<Record>& all) {
        for (const Record& record : all)
            kinds[record.id.value] = Record::kind;
    };
    take(records.all<Group>());
    take(records.all<Device>());
    take(records.all<Link>());
    take(records.all<Note>());
    for (Position& position : records.all<Position>())
        if (const auto at = kinds.find(position.object); position.of == Kind::unknown && at != kinds.end())
            position.of = at->second;
}

/// In files before version 2 a learned port says so itself.
void nameLearnedPorts(Records& records) {
    std::unordered_map<std::uint64_t, std::vector<std::string>> names;
    auto& ports = records.all<Port>();
    for (Port& port : ports)
        if (takeLearned(port))
            names[port.device.value].push_back(port.port);
    if (names.empty())
        return;
    std::erase_if(ports, isPlain);
    for (Device& device : records.all<Device>())
        if (const auto at = names.find(device.id.value); at != names.end()) {
            at->second.insert(at->second.end(), device.learned.all().begin(), device.learned.all().end());
            device.learned = PortNames(std::move(at->second));
        }
}

/// Lists of names that are the same become one.
void shareEqual(Records& records) {
    std::unordered_map<std::string, PortNames> lists;
    for (Device& device : records.all<Device>()) {
        if (device.learned.empty())
            continue;
        std::string whole;
        for (const std::string& name : device.learned.all())
            appendCounted(whole, name);
        device.learned = lists.try_emplace(std::move(whole), device.learned).first->second;
    }
}

bool saysWhatPositionsAreOf(const Records& records) {
    const auto& positions = records.all<Position>();
    return std::none_of(positions.begin(), positions.end(),
                        [](const Position& position) { return position.of == Kind::unknown; });
}

} // namespace

std::string writeOwn(const Network& network) {
    std::string out = fmt::format("{}{}}}\n", signature, formatVersion);
    network.forEachTable([&]<class Record, std::size_t n>(const Table<Record, n>& table) {
        table.forEach([&](const Record& record) {
            out += lineOf(record);
            out += '\n';
        });
    });
    return out;
}

bool isOwn(std::string_view bytes) {
    return bytes.starts_with(signature);
}

Result<Loaded> readOwn(std::string_view given, const std::string& file) {
    if (given.empty())
        return error("the file is empty", "choose another file", {file, 1, 1, {}});
    const std::size_t headerEnd = std::min(given.find('\n'), given.size());
    std::string_view header = given.substr(0, headerEnd);
    if (header.ends_with('\r'))
        header.remove_suffix(1);
    if (auto good = checkHeader(header, file); !good)
        return good.refusal();
    std::string padded;
    padded.reserve(given.size() + JsonReader::padding);
    padded = given.substr(std::min(headerEnd + 1, given.size()));
    const std::vector<Part> parts = partsOf(padded, 2);
    std::vector<Gathered> gathered(parts.size());
    {
        std::vector<std::jthread> threads;
        for (std::size_t i = 1; i < parts.size(); ++i)
            threads.emplace_back([&, i] { gathered[i] = gather(parts[i], file); });
        gathered[0] = gather(parts[0], file);
    }
    for (Gathered& part : gathered) {
        if (part.refusal)
            return *part.refusal;
        if (&part != &gathered[0])
            append(gathered[0].records, part.records);
    }
    if (!saysWhatPositionsAreOf(gathered[0].records))
        sayWhatPositionsAreOf(gathered[0].records);
    nameLearnedPorts(gathered[0].records);
    shareEqual(gathered[0].records);
    bool repeated = false;
    Loaded loaded{Network::of(std::move(gathered[0].records), &repeated), {}, {}};
    if (repeated)
        if (auto twice = firstRepeated({padded, 2}, file))
            return *std::move(twice);
    if (!loaded.network.info().id)
        return error("the file has no network record; it may have been cut off", "restore it from a copy",
                     {file, 1 + static_cast<int>(std::count(given.begin(), given.end(), '\n')), 1, {}});
    mend(loaded.network, file, loaded.remarks);
    return loaded;
}

} // namespace underridge::exchange
