// SPDX-License-Identifier: GPL-3.0-or-later
// The network: one value that holds every object. Copying it is cheap and shares
// everything; changing a copy leaves the other as it was. May be read from any thread.
#pragma once
#include "core/model/cable_route.h"
#include "core/model/cabling.h"
#include "core/model/catalogue.h"
#include "core/model/grouping.h"
#include "core/model/sheet.h"
#include "core/model/table.h"

#include <tuple>

namespace underridge::model {

/// Index entry: `object` belongs to `owner`. For links and cables the owner is each
/// device they end at; for devices and groups the group they are in (0: the network
/// itself), and for devices also the floor or rack they or a chassis of theirs stand on;
/// for notes their sheet; for links also a number of each port they end in.
struct Belongs {
    std::uint64_t owner = 0;
    ObjectRef object;

    bool operator==(const Belongs&) const = default;
    Key key() const { return {owner, object.id}; }
};

/// Everything of a network in lists, to be made into one all at once: what readers fill.
class Records {
public:
    template <class Record>
    std::vector<Record>& all() {
        return std::get<std::vector<Record>>(lists_);
    }
    template <class Record>
    const std::vector<Record>& all() const {
        return std::get<std::vector<Record>>(lists_);
    }

private:
    friend class Network;
    std::tuple<std::vector<NetworkInfo>, std::vector<DeviceModel>, std::vector<ModuleModel>,
               std::vector<TransceiverModel>, std::vector<CableType>, std::vector<Sheet>, std::vector<Group>,
               std::vector<Vlan>, std::vector<Subnet>, std::vector<Service>, std::vector<Device>,
               std::vector<Port>, std::vector<Interface>, std::vector<Route>, std::vector<PanelMap>,
               std::vector<Cable>, std::vector<Link>, std::vector<Position>, std::vector<Note>,
               std::vector<CableRoute>, std::vector<Statement>, std::vector<Ring>, std::vector<SetAside>,
               std::vector<Asset>, std::vector<UnknownRecord>>
        lists_;
};

class Network {
public:
    /// The network of these records, equal to one that they were put into one by one;
    /// much quicker. Of records with the same identity the last counts; `repeated`, if
    /// given, hears whether there were any.
    static Network of(Records records, bool* repeated = nullptr);

    Network();
    Network(const Network&);
    Network(Network&&) noexcept;
    Network& operator=(const Network&);
    Network& operator=(Network&&) noexcept;
    ~Network();

    /// All records of one kind: network.all<Device>().
    template <class Record>
    const Table<Record>& all() const {
        return std::get<Table<Record>>(tables_);
    }

    template <class Record>
    const Record* find(Key key) const {
        return all<Record>().find(key);
    }
    const Device* device(DeviceId id) const { return find<Device>({id.value, 0}); }
    const Link* link(LinkId id) const { return find<Link>({id.value, 0}); }
    const Cable* cable(CableId id) const { return find<Cable>({id.value, 0}); }
    const Group* group(GroupId id) const { return find<Group>({id.value, 0}); }
    const Note* note(NoteId id) const { return find<Note>({id.value, 0}); }
    const CableRoute* cableRoute(CableRouteId id) const { return find<CableRoute>({id.value, 0}); }
    const Sheet* sheet(SheetId id) const { return find<Sheet>({id.value, 0}); }
    const Vlan* vlan(VlanId id) const { return find<Vlan>({id.value, 0}); }
    const Port* port(const PortRef& ref) const { return find<Port>({ref.device.value, fnv1a(ref.port)}); }
    const Position* position(SheetId sheet, std::uint64_t object) const {
        return find<Position>({sheet.value, object});
    }
    const DeviceModel* modelOf(const Device& device) const {
        return find<DeviceModel>({fnv1a(device.model), 0});
    }
    const CableType* typeOf(const Cable& cable) const { return find<CableType>({fnv1a(cable.type), 0}); }

    /// The network's own record; a default one when there is none yet.
    const NetworkInfo& info() const;

    /// Inserts or replaces. Keeps the indices true; checks nothing else (that is
    /// core/edit's work).
    template <class Record>
    void put(Record record);

    /// Removes this one record. Whether there was one.
    template <class Record>
    bool erase(Key key);

    /// Calls `each(const Link&)` for the links that end at a device, those from it to
    /// itself once.
    template <class Each>
    void forEachLinkOf(DeviceId device, Each&& each) const {
        atDevice_.forEachIn(device.value, [&](const Belongs& entry) {
            if (entry.object.kind == Kind::link)
                each(*link(LinkId{entry.object.id}));
        });
    }
    template <class Each>
    void forEachCableOf(DeviceId device, Each&& each) const {
        atDevice_.forEachIn(device.value, [&](const Belongs& entry) {
            if (entry.object.kind == Kind::cable)
                each(*cable(CableId{entry.object.id}));
        });
    }
    /// How many links and cables end at a device.
    std::size_t degree(DeviceId device) const { return atDevice_.countIn(device.value); }
    /// The link that ends in a port, if there is one: one look-up, whatever else ends at
    /// the device.
    const Link* linkAt(const PortRef& port) const;

    /// Calls `each(const Position&)` for where an object is drawn, sheet by sheet.
    template <class Each>
    void forEachPositionOf(std::uint64_t object, Each&& each) const {
        all<Sheet>().forEach([&](const Sheet& sheet) {
            if (const Position* held = position(sheet.id, object))
                each(*held);
        });
    }

    /// Calls `each(ObjectRef)` for the devices and groups directly in a group.
    template <class Each>
    void forEachIn(GroupId group, Each&& each) const {
        inGroup_.forEachIn(group.value, [&](const Belongs& entry) { each(entry.object); });
    }
    /// Calls `each(const Device&)` for the devices whose place, or that of a chassis, is
    /// directly on a floor or in a rack.
    template <class Each>
    void forEachPlacedIn(GroupId floorOrRack, Each&& each) const {
        inPlace_.forEachIn(floorOrRack.value,
                           [&](const Belongs& entry) { each(*device(DeviceId{entry.object.id})); });
    }
    /// Whether any device has a place.
    bool anythingStands() const { return inPlace_.size() > 0; }
    template <class Each>
    void forEachNoteOf(SheetId sheet, Each&& each) const {
        onSheet_.forEachIn(sheet.value, [&](const Belongs& entry) { each(*note(NoteId{entry.object.id})); });
    }

    /// Sheets in the order they are shown.
    std::vector<Sheet> sheetsInOrder() const;

    /// Calls `each(const Table<Record>&)` for every kind, in the order kinds have in
    /// files.
    template <class Each>
    void forEachTable(Each&& each) const {
        std::apply([&](const auto&... table) { (each(table), ...); }, tables_);
    }

    /// Calls `each(const Record* before, const Record* after)` for everything that
    /// differs, kind by kind.
    template <class Each>
    static void compare(const Network& before, const Network& after, Each&& each) {
        compareTables(before, after, each, std::make_index_sequence<std::tuple_size_v<Tables>>());
    }

    bool operator==(const Network& other) const;

    /// Whether the indices say what the records say: for tests.
    bool indicesAreTrue() const;

private:
    using Tables =
        std::tuple<Table<NetworkInfo>, Table<DeviceModel>, Table<ModuleModel>, Table<TransceiverModel>,
                   Table<CableType>, Table<Sheet>, Table<Group>, Table<Vlan>, Table<Subnet>, Table<Service>,
                   Table<Device>, Table<Port>, Table<Interface>, Table<Route>, Table<PanelMap>, Table<Cable>,
                   Table<Link>, Table<Position>, Table<Note>, Table<CableRoute>, Table<Statement>,
                   Table<Ring>, Table<SetAside>, Table<Asset>, Table<UnknownRecord>>;

    template <class Record>
    static constexpr bool isIndexed =
        std::is_same_v<Record, Device> || std::is_same_v<Record, Group> || std::is_same_v<Record, Link> ||
        std::is_same_v<Record, Cable> || std::is_same_v<Record, Note>;

    void reindex(const Device* before, const Device* after);
    void reindex(const Group* before, const Group* after);
    void reindex(const Link* before, const Link* after);
    void reindex(const Cable* before, const Cable* after);
    void reindex(const Note* before, const Note* after);

    template <class Each, std::size_t... i>
    static void compareTables(const Network& a, const Network& b, Each& each, std::index_sequence<i...>) {
        (std::tuple_element_t<i, Tables>::compare(std::get<i>(a.tables_), std::get<i>(b.tables_), each), ...);
    }

    Tables tables_;
    Table<Belongs> atDevice_, atPort_, inGroup_, inPlace_, onSheet_;
};

// What these compile to stands in tables_*.cpp.
extern template class Table<NetworkInfo>;
extern template class Table<DeviceModel>;
extern template class Table<ModuleModel>;
extern template class Table<TransceiverModel>;
extern template class Table<CableType>;
extern template class Table<Sheet>;
extern template class Table<Group>;
extern template class Table<Vlan>;
extern template class Table<Subnet>;
extern template class Table<Service>;
extern template class Table<Device>;
extern template class Table<Port>;
extern template class Table<Interface>;
extern template class Table<Route>;
extern template class Table<PanelMap>;
extern template class Table<Cable>;
extern template class Table<Link>;
extern template class Table<Position>;
extern template class Table<Note>;
extern template class Table<CableRoute>;
extern template class Table<Statement>;
extern template class Table<Ring>;
extern template class Table<SetAside>;
extern template class Table<Asset>;
extern template class Table<UnknownRecord>;
extern template class Table<Belongs>;

/// A network with one sheet and nothing on it.
Network emptyNetwork(std::string name, IdSource& ids);

} // namespace underridge::model
