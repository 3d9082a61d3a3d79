// SPDX-License-Identifier: GPL-3.0-or-later
// What every reader of a foreign format needs: devices, ports, groups and links made from
// what a source names, without inventing what it does not. Names of attributes and
// columns are the same in GraphML and CSV; what is not among them is kept as an
// attribute.
#pragma once
#include "core/base/function_ref.h"
#include "core/exchange/decoding.h"
#include "core/exchange/json_view.h"
#include "core/exchange/own_format.h"
#include "core/model/network.h"

#include <deque>
#include <functional>
#include <set>
#include <unordered_map>
#include <unordered_set>

namespace underridge::exchange {

/// Where a foreign text comes from, and the models it may name.
struct Source {
    std::string file;
    const model::Catalogue& catalogue;
};

/// The same text gives the same ids, so that reading a file twice gives equal networks. A
/// text that is an id itself keeps it.
class Ids {
public:
    std::uint64_t idFor(std::string_view scope, std::string_view text);

private:
    std::unordered_set<std::uint64_t> taken_;
};

class Builder {
public:
    Builder(const Source& source, std::string_view networkName);

    model::Network& network() { return network_; }
    Remarks& remarks() { return remarks_; }
    Ids& ids() { return ids_; }
    const Source& source() const { return source_; }

    model::SheetId addSheet(const std::string& name);

    /// A device of a model that is not known, shown on a sheet. `identity` tells it from
    /// others.
    model::Device& device(model::DeviceId id) { return draft(id).device; }
    model::DeviceId addDevice(std::string_view identity, const std::string& name);
    void show(model::SheetId sheet, model::DeviceId device);
    /// Where the source draws it. Absurd numbers are remarked and do not count.
    void setPosition(model::SheetId sheet, model::DeviceId device, double x, double y, const Where& where);

    /// Makes sure that the device has the port: one that its model lacks becomes a
    /// learned one. An empty key and one that is too long are left as not known.
    model::PortRef port(model::DeviceId device, const std::string& key);
    /// The same for many at once, which other devices may have alike; they must be usable
    /// as keys.
    void addPorts(model::DeviceId device, const model::PortNames& names);
    model::Port& portRecord(const model::PortRef& port);
    /// Whether no model gives the port, so far.
    bool isLearned(const model::PortRef& port);

    model::GroupId group(const std::vector<std::string>& path);
    model::GroupId addGroup(std::string_view identity, const std::string& name, model::GroupId parent);

    model::Link& addLink(std::string_view identity, const model::PortRef& a, const model::PortRef& b);
    /// A cable for a link, of a type named by id or name; false when no such type is
    /// known.
    bool setCable(model::Link& link, const std::string& type);
    model::Cable* cableOf(const model::Link& link);

    /// Sets what an attribute or column of that name says of a device or link; what is
    /// not known by name becomes a free attribute. False, with a remark, when the value
    /// cannot be taken as it is.
    using WhereIs = FunctionRef<Where()>; ///< worked out for a remark only
    bool setDeviceField(model::DeviceId device, const std::string& name, const std::string& value,
                        WhereIs where);
    bool setLinkField(model::Link& link, const std::string& name, const std::string& value, WhereIs where);
    /// "router" for a device whose model is not known.
    void setRole(model::DeviceId device, model::Role role);
    bool setModel(model::DeviceId device, const std::string& idOrName);
    void addAddress(model::DeviceId device, const std::string& port, const std::string& address);
    static void addAddress(model::Interface& interface, const std::string& address);
    model::Interface& interfaceOn(model::DeviceId device, const std::string& port);
    /// One that is on no port, fresh or that of the same kind and name.
    model::Interface& interfaceNamed(model::DeviceId device, model::InterfaceKind type,
                                     const std::string& name);
    model::VlanId vlan(int number);

    /// What a source calls an object: remarks about it lead there.
    void knowAs(const std::string& object, std::uint64_t id) { objects_.emplace_back(object, id); }

    /// The network with everything in it; devices without a position are put down.
    Loaded finish();

private:
    /// A device in the making, and the ports it was said to have.
    struct Draft {
        model::Device device;
        std::vector<std::string> named;
    };
    Draft& draft(model::DeviceId id) { return drafts_[draftOf_.at(id.value)]; }
    void settlePorts(Draft& draft);
    std::optional<bool> setCableField(model::Cable& cable, const std::string& field, const std::string& value,
                                      WhereIs where);
    void spread(std::vector<model::Position>& positions);
    std::vector<Unplaced> unplaced() const;
    void leadRemarks();
    /// What the device is said to be; null while it is not known.
    const model::DeviceModel* modelOf(const model::Device& device) const;

    const Source& source_;
    model::Network network_;
    std::vector<Remark> kept_;
    Remarks remarks_;
    Ids ids_;
    model::NetworkInfo info_;
    std::vector<model::Sheet> sheets_;
    std::deque<Draft> drafts_;                               ///< in the order they came
    std::unordered_map<std::uint64_t, std::size_t> draftOf_; ///< by device
    struct PortHash {
        std::size_t operator()(const model::PortRef& ref) const {
            return ref.device.value * 31 ^ fnv1a(ref.port);
        }
    };
    std::unordered_map<model::PortRef, model::Port, PortHash> ports_;
    std::map<std::pair<std::uint64_t, std::string>, model::Interface> interfaces_;
    std::map<std::uint64_t, model::Group> groups_;
    std::map<std::pair<std::uint64_t, std::string>, std::uint64_t> groupNames_;
    std::unordered_map<std::uint64_t, model::Link> links_;
    std::unordered_map<std::uint64_t, model::Cable> cables_;
    std::map<int, model::Vlan> vlans_;
    std::vector<std::pair<std::string, std::uint64_t>> objects_;
    struct Shown {
        model::SheetId sheet;
        model::DeviceId device;
        std::optional<std::pair<double, double>> at;
    };
    std::vector<Shown> shown_;
    struct PairHash {
        std::size_t operator()(const std::pair<std::uint64_t, std::uint64_t>& pair) const {
            return pair.first * 0x9E3779B97F4A7C15ULL ^ pair.second;
        }
    };
    std::unordered_map<std::pair<std::uint64_t, std::uint64_t>, std::size_t, PairHash> shownAt_;

public:
    model::NetworkInfo& info() { return info_; }
    std::vector<model::Sheet>& sheets() { return sheets_; }
    std::map<std::uint64_t, model::Group>& groups() { return groups_; }
    std::unordered_map<std::uint64_t, model::Link>& links() { return links_; }
};

/// One member of `extra`, where a reader keeps what its format said and the model does
/// not hold.
std::string extraMember(const model::SharedText& extra, std::string_view name);
/// The same `extra` with that member set; `json` must be JSON text.
model::SharedText withExtraMember(const model::SharedText& extra, std::string_view name,
                                  std::string_view json);

/// What a network has that a target cannot hold: one remark a kind, with a count.
struct Holds {
    bool models = false;    ///< device models, modules, transceivers
    bool positions = false; ///< of the first sheet
    bool groups = false;
    bool cables = false; ///< type, label, length
};
/// "3 notes left out: CSV cannot hold them".
Remark lossRemark(std::size_t count, std::string_view one, std::string_view many, std::string_view target);
void listLosses(const model::Network& network, const Holds& holds, std::string_view target,
                std::vector<Remark>& remarks);

/// A device's name if no other has it, else its id.
class Names {
public:
    explicit Names(const model::Network& network);
    std::string of(const model::Device& device) const;

private:
    std::unordered_map<std::string, int> count_;
};

/// Names of the columns of a device that are written, in order, and their values; empty
/// values are left out.
std::vector<std::pair<std::string, std::string>> deviceFields(const model::Network& network,
                                                              const model::Device& device);
std::vector<std::pair<std::string, std::string>> linkFields(const model::Network& network,
                                                            const model::Link& link);
/// "Terminal building/Concourse".
std::string groupPath(const model::Network& network, model::GroupId group);

} // namespace underridge::exchange
