// SPDX-License-Identifier: GPL-3.0-or-later
// Makes sample networks by the program's own editing functions. Any refusal ends the
// program.
#pragma once
#include "core/edit/devices.h"
#include "core/edit/links.h"
#include "core/exchange/catalogue_file.h"

#include <functional>
#include <map>
#include <string>

namespace underridge::demo {

/// How a link is to be made, beyond its two ends.
struct Run {
    int metres = 2; ///< -1: from the places of both ends
    std::string label;
    std::string cable; ///< type id; empty: the best
};

class Maker {
public:
    Maker(const std::string& name, std::uint64_t seed);

    model::DeviceId add(const std::string& model, const std::string& name, model::Point at,
                        const std::string& address = {}, model::GroupId group = {});
    /// Links two devices over the best ports, or the ones named.
    model::LinkId link(linking::End a, linking::End b, const Run& run);
    /// Puts a transceiver into a cage, in place of the one that is there.
    void optics(const model::PortRef& port, const std::string& transceiver);
    /// Joins panel ports by strands of a trunk cable; gives the first of its links.
    model::LinkId trunk(const std::vector<std::pair<model::PortRef, model::PortRef>>& pairs,
                        const std::string& type, const std::string& label);
    /// What a tester found of a link's cable.
    void measured(model::LinkId link, std::vector<model::Measured> results);
    void shape(model::GroupId group, const std::function<void(model::Group&)>& how);
    void note(model::Point at, const std::string& text);
    model::SheetId sheet() const { return sheet_; }
    /// `groups`: whether they are drawn on it.
    model::SheetId addSheet(const std::string& name, bool groups = false);
    /// A further sheet with what the first draws.
    model::SheetId copySheet(const std::string& name);
    void orderSheets(const std::vector<std::string>& names);
    void renameSheet(const std::string& name);
    /// Whether groups are drawn on a sheet.
    void showGroups(model::SheetId sheet, bool on);
    void fold(model::SheetId sheet, const std::vector<model::GroupId>& groups);
    void showOn(model::SheetId sheet, model::DeviceId device, model::Point at);
    void noteOn(model::SheetId sheet, model::Point at, const std::string& text);
    void bend(model::LinkId link, const std::vector<model::Point>& points) { bendOn(sheet_, link, points); }
    void bendOn(model::SheetId sheet, model::LinkId link, const std::vector<model::Point>& points);
    model::GroupId group(const std::string& name, model::GroupKind type, model::GroupId parent = {});
    void fit(model::DeviceId device, const std::string& slot, const std::string& module);
    void place(model::DeviceId device, const model::Place& place);
    model::VlanId vlan(int number, const std::string& name, model::GroupId scope);
    void subnet(const std::string& prefix, const std::string& name, model::VlanId vlan);
    /// An untagged VLAN on a port, or tagged ones.
    void access(const model::PortRef& port, model::VlanId vlan);
    void tagged(const model::PortRef& port, const std::vector<model::VlanId>& vlans);
    void address(const model::PortRef& port, const std::string& address);
    /// Does acts as scripts have them, one a line.
    void acts(const std::string& lines);
    void service(const std::string& name, const std::vector<model::DeviceId>& users,
                 const std::vector<model::DeviceId>& providers, const std::string& note);
    void startUp(model::DeviceId device, const std::string& text);
    /// Puts a drawing in ink under a group, and adds a sheet on it.
    void plan(model::GroupId group, const std::string& svg, double mmPerUnit, const std::string& sheet);
    /// Draws a tray or conduit on a floor, its points in metres.
    void cableRoute(model::GroupId floor, const std::string& name, model::CableRouteKind type,
                    const std::vector<std::pair<double, double>>& points, int widthMm, double heightM);
    /// Feeds a supply from an outlet, or from a mains feed.
    void feed(model::DeviceId device, const std::string& supply, model::DeviceId from,
              const std::string& outletOrMains);
    /// Feeds all that is not fed from free outlets.
    void feedAll(const std::vector<model::DeviceId>& devices);
    /// Adds a sheet of racks by unit.
    void racks(const std::vector<model::GroupId>& racks, const std::string& sheet);
    void filter(model::SheetId sheet, const std::string& filter, bool hides);
    void setLevel(model::GroupId floor, int level);

    const model::Network& network() const { return network_; }
    void save(const std::string& path) const;

private:
    edit::Refs take(edit::ActResult act);
    template <class Record>
    void put(Record record) {
        network_.put(std::move(record));
    }
    model::Interface& interfaceFor(model::Interface& scratch, const model::PortRef& port);

    model::IdSource ids_;
    model::Catalogue catalogue_ = exchange::builtInCatalogue();
    model::Network network_;
    model::SheetId sheet_;
};

void makeFirstOffice(const std::string& folder);
void makeFennickQuay(const std::string& folder);

} // namespace underridge::demo
