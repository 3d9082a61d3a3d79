// SPDX-License-Identifier: GPL-3.0-or-later
// An object of any kind, by its kind and number.
#pragma once
#include "core/model/key.h"
#include "core/model/words.h"

namespace underridge::model {

/// An object of any kind. Ids are random over all kinds, so the number alone is unique;
/// ports and interfaces are named through their device.
struct ObjectRef {
    Kind kind = Kind::unknown;
    std::uint64_t id = 0;

    auto operator<=>(const ObjectRef&) const = default;
};

template <class Tag>
ObjectRef refTo(Id<Tag> id);
template <>
inline ObjectRef refTo(DeviceId id) {
    return {Kind::device, id.value};
}
template <>
inline ObjectRef refTo(LinkId id) {
    return {Kind::link, id.value};
}
template <>
inline ObjectRef refTo(CableId id) {
    return {Kind::cable, id.value};
}
template <>
inline ObjectRef refTo(GroupId id) {
    return {Kind::group, id.value};
}
template <>
inline ObjectRef refTo(NoteId id) {
    return {Kind::note, id.value};
}
template <>
inline ObjectRef refTo(VlanId id) {
    return {Kind::vlan, id.value};
}
template <>
inline ObjectRef refTo(StatementId id) {
    return {Kind::statement, id.value};
}
template <>
inline ObjectRef refTo(RingId id) {
    return {Kind::ring, id.value};
}
template <>
inline ObjectRef refTo(SubnetId id) {
    return {Kind::subnet, id.value};
}
template <>
inline ObjectRef refTo(InterfaceId id) {
    return {Kind::interface, id.value};
}
template <>
inline ObjectRef refTo(CableRouteId id) {
    return {Kind::cableRoute, id.value};
}

} // namespace underridge::model
