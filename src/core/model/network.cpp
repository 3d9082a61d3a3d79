// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/network.h"

#include "core/base/parallel.h"

#include <bit>
#include <numeric>

namespace underridge::model {
namespace {

void move(Table<Belongs>& index, const std::vector<Belongs>& before, const std::vector<Belongs>& after) {
    if (before == after)
        return;
    for (const Belongs& entry : before)
        index.erase(entry.key());
    for (const Belongs& entry : after)
        index.put(entry);
}

std::vector<Belongs> endsOf(const Link* link) {
    if (!link)
        return {};
    const ObjectRef ref = refTo(link->id);
    std::vector<Belongs> out{{link->a.device.value, ref}};
    if (link->b.device != link->a.device)
        out.push_back({link->b.device.value, ref});
    return out;
}

std::vector<Belongs> endsOf(const Cable* cable) {
    std::vector<Belongs> out;
    if (!cable)
        return out;
    for (const CableEnd& end : cable->ends) {
        const Belongs entry{end.at.device.value, refTo(cable->id)};
        if (std::find(out.begin(), out.end(), entry) == out.end())
            out.push_back(entry);
    }
    return out;
}

/// A number of a port; two ports may share it, so it is looked at again.
std::uint64_t numberOf(const PortRef& port) {
    return fnv1a(port.port) ^ port.device.value * 0x9E3779B97F4A7C15;
}

/// Calls `each(entry)` for the ports a link ends in that are known.
template <class Each>
void forEachPortOf(const Link& link, Each&& each) {
    for (const PortRef* end : {&link.a, &link.b})
        if (end->known())
            each(Belongs{numberOf(*end), refTo(link.id)});
}

std::vector<Belongs> portsOf(const Link* link) {
    std::vector<Belongs> out;
    if (link)
        forEachPortOf(*link, [&](Belongs entry) { out.push_back(entry); });
    return out;
}

/// Calls `each(group)` for what a device and the chassis of its stack stand in.
template <class Each>
void forEachPlaceOf(const Device& device, Each&& each) {
    if (device.place.in)
        each(device.place.in);
    for (const Chassis& chassis : device.stack)
        if (chassis.place.in)
            each(chassis.place.in);
}

std::vector<Belongs> placesOf(const Device* device) {
    std::vector<Belongs> out;
    if (device)
        forEachPlaceOf(*device, [&](GroupId in) {
            const Belongs entry{in.value, refTo(device->id)};
            if (std::find(out.begin(), out.end(), entry) == out.end())
                out.push_back(entry);
        });
    return out;
}

template <class Record>
std::vector<Belongs> entry(const Record* record, std::uint64_t owner) {
    return record ? std::vector<Belongs>{{owner, refTo(record->id)}} : std::vector<Belongs>{};
}

} // namespace

Network::Network() = default;
Network::Network(const Network&) = default;
Network::Network(Network&&) noexcept = default;
Network& Network::operator=(const Network&) = default;
Network& Network::operator=(Network&&) noexcept = default;
Network::~Network() = default;

bool Network::operator==(const Network& other) const {
    return tables_ == other.tables_;
}

namespace {

/// Sorted by key, those with the same in the order they were in. Ids are random numbers:
/// told apart by their leading bits first, hardly anything is left to compare.
template <class Entry>
std::vector<Entry> sortedByKey(std::vector<Entry> entries) {
    constexpr std::size_t few = 64;
    const auto sort = [](auto from, auto to) {
        std::stable_sort(from, to, [](const Entry& a, const Entry& b) { return a.key() < b.key(); });
    };
    if (entries.size() < few) {
        sort(entries.begin(), entries.end());
        return entries;
    }
    std::uint64_t all = 0;
    for (const Entry& entry : entries)
        all |= entry.key().hi;
    const int shift =
        std::max(0, static_cast<int>(std::bit_width(all)) - static_cast<int>(std::bit_width(entries.size())));
    std::vector<std::uint32_t> ends((all >> shift) + 2); // of what begins with fewer than i
    for (const Entry& entry : entries)
        ++ends[(entry.key().hi >> shift) + 1];
    std::partial_sum(ends.begin(), ends.end(), ends.begin());
    std::vector<Entry> out(entries.size());
    for (const Entry& entry : entries)
        out[ends[entry.key().hi >> shift]++] = entry; // so that it ends where the next began
    std::size_t from = 0;
    for (const std::size_t to : ends) {
        if (to > from + 1)
            sort(out.begin() + static_cast<std::ptrdiff_t>(from),
                 out.begin() + static_cast<std::ptrdiff_t>(to));
        from = to;
    }
    return out;
}

/// Sorted by key; of equal keys the last stays. Whether there were any.
template <class Record>
bool sortOut(std::vector<Record>& records) {
    const auto notLess = [](const Record& a, const Record& b) { return !(a.key() < b.key()); };
    if (std::adjacent_find(records.begin(), records.end(), notLess) == records.end())
        return false; // as our own files are
    struct Place {
        Key is;
        std::size_t at = 0;
        Key key() const { return is; }
    };
    std::vector<Place> places;
    places.reserve(records.size());
    for (const Record& record : records)
        places.push_back({record.key(), places.size()});
    places = sortedByKey(std::move(places));
    std::vector<Record> sorted;
    sorted.reserve(records.size());
    for (std::size_t i = 0; i < places.size(); ++i)
        if (i + 1 == places.size() || places[i].is < places[i + 1].is)
            sorted.push_back(std::move(records[places[i].at]));
    const bool repeated = sorted.size() < records.size();
    records = std::move(sorted);
    return repeated;
}

Table<Belongs> indexOf(std::vector<Belongs> unsorted) {
    std::vector<Belongs> entries = sortedByKey(std::move(unsorted));
    entries.erase(std::unique(entries.begin(), entries.end()),
                  entries.end()); // a cable that ends twice at a device
    return Table<Belongs>::fromSorted(std::move(entries));
}

Table<Belongs> linksByPort(Records& records) {
    std::vector<Belongs> entries;
    entries.reserve(2 * records.all<Link>().size());
    for (const Link& link : records.all<Link>())
        forEachPortOf(link, [&](Belongs entry) { entries.push_back(entry); });
    return indexOf(std::move(entries));
}

Table<Belongs> devicesOf(Records& records) {
    std::vector<Belongs> entries;
    entries.reserve(2 * (records.all<Link>().size() + records.all<Cable>().size()));
    for (const Link& link : records.all<Link>()) {
        entries.push_back({link.a.device.value, refTo(link.id)});
        if (link.b.device != link.a.device)
            entries.push_back({link.b.device.value, refTo(link.id)});
    }
    for (const Cable& cable : records.all<Cable>())
        for (const CableEnd& end : cable.ends)
            entries.push_back({end.at.device.value, refTo(cable.id)});
    return indexOf(std::move(entries));
}

} // namespace

Network Network::of(Records records, bool* repeated) {
    bool any = false;
    std::apply([&](auto&... list) { ((any |= sortOut(list)), ...); }, records.lists_);
    if (repeated)
        *repeated = any;
    Network network;
    const auto membership = [&] {
        std::vector<Belongs> inGroup, inPlace, onSheet;
        for (const Device& device : records.all<Device>()) {
            inGroup.push_back({device.group.value, refTo(device.id)});
            forEachPlaceOf(device, [&](GroupId in) { inPlace.push_back({in.value, refTo(device.id)}); });
        }
        for (const Group& group : records.all<Group>())
            inGroup.push_back({group.parent.value, refTo(group.id)});
        for (const Note& note : records.all<Note>())
            onSheet.push_back({note.sheet.value, refTo(note.id)});
        network.inGroup_ = indexOf(std::move(inGroup));
        network.inPlace_ = indexOf(std::move(inPlace));
        network.onSheet_ = indexOf(std::move(onSheet));
        network.atPort_ = linksByPort(records);
    };
    const auto ends = [&] { network.atDevice_ = devicesOf(records); };
    const auto fill = [&]<class... Kinds>() {
        ((std::get<Table<Kinds>>(network.tables_) =
              Table<Kinds>::fromSorted(std::move(records.all<Kinds>()))),
         ...);
    };
    constexpr std::size_t many = 2000;
    const std::size_t count =
        std::apply([](const auto&... list) { return (list.size() + ... + 0); }, records.lists_);
    inParallel(count >= many, {membership, ends});
    inParallel(
        count >= many,
        {[&] {
             fill.template operator()<NetworkInfo, DeviceModel, ModuleModel, TransceiverModel, CableType,
                                      Sheet, Group, Vlan, Subnet, Service, Device, Port, Position>();
         },
         [&] {
             fill.template operator()<Interface, Route, PanelMap, Cable, Link, Note, CableRoute, Statement,
                                      Ring, SetAside, Asset, UnknownRecord>();
         }});
    return network;
}

template <class Record>
void Network::put(Record record) {
    if constexpr (isIndexed<Record>)
        reindex(find<Record>(record.key()), &record);
    std::get<Table<Record>>(tables_).put(std::move(record));
}

template <class Record>
bool Network::erase(Key key) {
    const Record* old = find<Record>(key);
    if (!old)
        return false;
    if constexpr (isIndexed<Record>)
        reindex(old, static_cast<const Record*>(nullptr));
    return std::get<Table<Record>>(tables_).erase(key);
}

template void Network::put(NetworkInfo);
template void Network::put(DeviceModel);
template void Network::put(ModuleModel);
template void Network::put(TransceiverModel);
template void Network::put(CableType);
template void Network::put(Sheet);
template void Network::put(Group);
template void Network::put(Vlan);
template void Network::put(Subnet);
template void Network::put(Service);
template void Network::put(Device);
template void Network::put(Port);
template void Network::put(Interface);
template void Network::put(Route);
template void Network::put(PanelMap);
template void Network::put(Cable);
template void Network::put(Link);
template void Network::put(Position);
template void Network::put(Note);
template void Network::put(CableRoute);
template void Network::put(Statement);
template void Network::put(Ring);
template void Network::put(SetAside);
template void Network::put(Asset);
template void Network::put(UnknownRecord);

template bool Network::erase<NetworkInfo>(Key);
template bool Network::erase<DeviceModel>(Key);
template bool Network::erase<ModuleModel>(Key);
template bool Network::erase<TransceiverModel>(Key);
template bool Network::erase<CableType>(Key);
template bool Network::erase<Sheet>(Key);
template bool Network::erase<Group>(Key);
template bool Network::erase<Vlan>(Key);
template bool Network::erase<Subnet>(Key);
template bool Network::erase<Service>(Key);
template bool Network::erase<Device>(Key);
template bool Network::erase<Port>(Key);
template bool Network::erase<Interface>(Key);
template bool Network::erase<Route>(Key);
template bool Network::erase<PanelMap>(Key);
template bool Network::erase<Cable>(Key);
template bool Network::erase<Link>(Key);
template bool Network::erase<Position>(Key);
template bool Network::erase<Note>(Key);
template bool Network::erase<CableRoute>(Key);
template bool Network::erase<Statement>(Key);
template bool Network::erase<Ring>(Key);
template bool Network::erase<SetAside>(Key);
template bool Network::erase<Asset>(Key);
template bool Network::erase<UnknownRecord>(Key);

const NetworkInfo& Network::info() const {
    static const NetworkInfo none;
    const NetworkInfo* held = find<NetworkInfo>({});
    return held ? *held : none;
}

const Link* Network::linkAt(const PortRef& port) const {
    const Link* found = nullptr;
    if (port.known())
        atPort_.forEachIn(numberOf(port), [&](const Belongs& entry) {
            const Link* held = link(LinkId{entry.object.id});
            if (held->a == port || held->b == port)
                found = held;
        });
    return found;
}

std::vector<Sheet> Network::sheetsInOrder() const {
    std::vector<Sheet> sheets;
    all<Sheet>().forEach([&](const Sheet& sheet) { sheets.push_back(sheet); });
    std::stable_sort(sheets.begin(), sheets.end(),
                     [](const Sheet& a, const Sheet& b) { return a.order < b.order; });
    return sheets;
}

void Network::reindex(const Device* before, const Device* after) {
    move(inGroup_, entry(before, before ? before->group.value : 0),
         entry(after, after ? after->group.value : 0));
    move(inPlace_, placesOf(before), placesOf(after));
}

void Network::reindex(const Group* before, const Group* after) {
    move(inGroup_, entry(before, before ? before->parent.value : 0),
         entry(after, after ? after->parent.value : 0));
}

void Network::reindex(const Link* before, const Link* after) {
    move(atDevice_, endsOf(before), endsOf(after));
    move(atPort_, portsOf(before), portsOf(after));
}

void Network::reindex(const Cable* before, const Cable* after) {
    move(atDevice_, endsOf(before), endsOf(after));
}

void Network::reindex(const Note* before, const Note* after) {
    move(onSheet_, entry(before, before ? before->sheet.value : 0),
         entry(after, after ? after->sheet.value : 0));
}

bool Network::indicesAreTrue() const {
    Network fresh;
    all<Device>().forEach([&](const Device& r) { fresh.put(r); });
    all<Group>().forEach([&](const Group& r) { fresh.put(r); });
    all<Link>().forEach([&](const Link& r) { fresh.put(r); });
    all<Cable>().forEach([&](const Cable& r) { fresh.put(r); });
    all<Note>().forEach([&](const Note& r) { fresh.put(r); });
    return fresh.atDevice_ == atDevice_ && fresh.atPort_ == atPort_ && fresh.inGroup_ == inGroup_ &&
           fresh.inPlace_ == inPlace_ && fresh.onSheet_ == onSheet_;
}

Network emptyNetwork(std::string name, IdSource& ids) {
    Network network;
    NetworkInfo info;
    info.id = ids.make<NetworkId>();
    info.name = std::move(name);
    network.put(std::move(info));
    network.put([&] {
        Sheet sheet;
        sheet.id = ids.make<SheetId>();
        sheet.name = "Overview";
        return sheet;
    }());
    return network;
}

} // namespace underridge::model
