// SPDX-License-Identifier: GPL-3.0-or-later
// Which objects a record refers to, by its field list: for reading, importing, deleting,
// and acts that come late.
#pragma once
#include "core/model/fields.h"

#include <algorithm>

namespace underridge::model {

namespace references {

template <class T>
struct IsId : std::false_type {};
template <class T>
struct IsId<Id<T>> : std::true_type {};
template <class T>
struct IsVector : std::false_type {};
template <class T>
struct IsVector<std::vector<T>> : std::true_type {};

} // namespace references

/// Calls `each(id&)` for every id a record or a part of one holds, its own included. Ids
/// of any kind (Position::object) come as std::uint64_t.
template <class T, class Each>
void forEachId(T& value, Each&& each) {
    using Plain = std::remove_const_t<T>;
    if constexpr (references::IsId<Plain>::value || std::is_same_v<Plain, std::uint64_t>) {
        each(value);
    } else if constexpr (references::IsVector<Plain>::value) {
        if constexpr (!std::is_arithmetic_v<typename Plain::value_type>)
            for (auto& part : value)
                forEachId(part, each);
    } else if constexpr (HasFields<Plain>) {
        forEachField<Plain>([&](const char*, auto member) { forEachId(value.*member, each); });
    }
}

inline bool isThere(const Network& network, DeviceId id) {
    return network.device(id);
}
inline bool isThere(const Network& network, GroupId id) {
    return network.group(id);
}
inline bool isThere(const Network& network, CableId id) {
    return network.cable(id);
}
inline bool isThere(const Network& network, LinkId id) {
    return network.link(id);
}
inline bool isThere(const Network& network, VlanId id) {
    return network.vlan(id);
}
inline bool isThere(const Network& network, SheetId id) {
    return network.sheet(id);
}
inline bool isThere(const Network& network, NoteId id) {
    return network.note(id);
}
inline bool isThere(const Network& network, CableRouteId id) {
    return network.cableRoute(id);
}
inline bool isThere(const Network& network, AssetId id) {
    return network.all<Asset>().countIn(id.value) > 0;
}
/// Something that can be selected on a sheet.
inline bool isThere(const Network& network, ObjectRef object) {
    switch (object.kind) {
    case Kind::device:
        return network.device({object.id});
    case Kind::group:
        return network.group({object.id});
    case Kind::note:
        return network.note({object.id});
    case Kind::link:
        return network.link({object.id});
    case Kind::cableRoute:
        return network.cableRoute({object.id});
    case Kind::subnet: // one nobody recorded is known by a number that follows from its prefix
    case Kind::interface:
        return true;
    default:
        return false;
    }
}
/// What a drawn object is, found by its id alone; Kind::unknown when it is not there.
inline Kind kindOf(const Network& network, std::uint64_t id) {
    for (const Kind kind : {Kind::device, Kind::link, Kind::note, Kind::group})
        if (isThere(network, ObjectRef{kind, id}))
            return kind;
    return Kind::unknown;
}

/// Looks ids up in a network.
struct InNetwork {
    const Network& network;

    template <class AnId>
    requires requires(const Network& n, AnId id) { isThere(n, id); }
    bool operator()(AnId id) const { return isThere(network, id); }
    bool operator()(DeviceId device, InterfaceId id) const {
        return network.find<Interface>({device.value, id.value}) != nullptr;
    }
};

/// Whether everything a record refers to is there by `there(id)`, as InNetwork answers
/// it.
template <class Record, class There>
bool refersToWhatIsThere(const Record& record, There&& there) {
    bool all = true;
    const auto look = [&]<class AnId>(const AnId& id) {
        if constexpr (std::is_same_v<AnId, InterfaceId>) {
            if constexpr (std::is_same_v<Record, Interface>)
                all &= !id || id == record.id || there(record.device, id);
        } else if constexpr (std::is_same_v<AnId, std::uint64_t>) {
            if constexpr (requires { record.drawn(); })
                all &= there(record.drawn());
        } else if constexpr (requires { there(id); }) {
            if constexpr (requires { record.id == id; })
                all &= !id || id == record.id || there(id);
            else
                all &= !id || there(id);
        }
    };
    if constexpr (HasFields<Record>)
        forEachId(record, look);
    return all;
}

/// Whether everything a record refers to is in the network.
template <class Record>
bool refersToWhatIsThere(const Network& network, const Record& record) {
    return refersToWhatIsThere(record, InNetwork{network});
}

} // namespace underridge::model
