// SPDX-License-Identifier: GPL-3.0-or-later
// Identities. Every object has a random 60-bit id that it keeps through save, rename,
// move, merge and exchange; in files it is twelve characters of base 32 (Crockford's
// alphabet, lower case).
#pragma once
#include <compare>
#include <cstdint>
#include <optional>
#include <random>
#include <string>
#include <string_view>

namespace underridge::model {

/// What a persistent table is sorted by. Tables of plain objects use `hi` alone; tables
/// that are also read by owner (positions of a sheet, ports of a device) put the owner in
/// `hi`.
struct Key {
    std::uint64_t hi = 0;
    std::uint64_t lo = 0;

    auto operator<=>(const Key&) const = default;
};

template <class Tag>
struct Id {
    std::uint64_t value = 0;

    auto operator<=>(const Id&) const = default;
    explicit operator bool() const { return value != 0; }
};

using NetworkId = Id<struct NetworkTag>;
using DeviceId = Id<struct DeviceTag>;
using InterfaceId = Id<struct InterfaceTag>;
using CableId = Id<struct CableTag>;
using LinkId = Id<struct LinkTag>;
using GroupId = Id<struct GroupTag>;
using VlanId = Id<struct VlanTag>;
using SubnetId = Id<struct SubnetTag>;
using ServiceId = Id<struct ServiceTag>;
using SheetId = Id<struct SheetTag>;
using NoteId = Id<struct NoteTag>;
using CableRouteId = Id<struct CableRouteTag>;
using RouteId = Id<struct RouteTag>;
using StatementId = Id<struct StatementTag>;
using RingId = Id<struct RingTag>;
using SetAsideId = Id<struct SetAsideTag>;
using AssetId = Id<struct AssetTag>;

inline constexpr int idBits = 60;

std::string idText(std::uint64_t id);
/// Nothing unless `text` is twelve characters of the alphabet and not zero.
std::optional<std::uint64_t> idFromText(std::string_view text);

/// Where new ids come from; seeded by the caller, so that a run can be repeated.
class IdSource {
public:
    explicit IdSource(std::uint64_t seed) : engine_(seed) {}
    std::uint64_t next();
    template <class AnId>
    AnId make() {
        return AnId{next()};
    }

private:
    std::mt19937_64 engine_;
};

/// A seed that differs at every call, from the operating system.
std::uint64_t seedFromSystem();

} // namespace underridge::model
