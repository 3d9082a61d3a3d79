// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/import.h"

#include "core/model/references.h"

#include <fmt/format.h>
#include <set>
#include <unordered_map>
#include <unordered_set>

namespace underridge::edit {
using namespace model;
namespace {

using NewIds = std::unordered_map<std::uint64_t, std::uint64_t>;
using NewNames = std::unordered_map<std::string, std::string>;

/// Replaces ids wherever a record holds them.
template <class Record>
void renumber(Record& record, const NewIds& fresh) {
    forEachId(record, [&](auto& id) {
        if constexpr (std::is_same_v<std::remove_reference_t<decltype(id)>, std::uint64_t>) {
            if (const auto at = fresh.find(id); at != fresh.end())
                id = at->second;
        } else if (const auto at = fresh.find(id.value); at != fresh.end()) {
            id.value = at->second;
        }
    });
}

class Importing {
public:
    Importing(Network& network, const Network& piece, ImportOnto onto, SheetId present, IdSource& ids)
        : network_(network), piece_(piece), onto_(onto), present_(present), ids_(ids) {}

    Refs run() {
        noteTaken();
        mergeModels<DeviceModel>();
        mergeModels<ModuleModel>();
        mergeModels<TransceiverModel>();
        mergeModels<CableType>();
        sheets();
        mergeVlans();
        freshIds<Group, Subnet, Service, Device, Interface, Route, Cable, Link, Note, CableRoute, Statement,
                 Ring, SetAside>();
        if (onto_ == ImportOnto::presentSheet)
            by_ = distance();
        putAll<Group, Subnet, Service, Device, Port, Interface, Route, PanelMap, Cable, Link, Note,
               CableRoute, Statement, Ring, SetAside>();
        positions();
        piece_.all<Asset>().forEach([&](const Asset& asset) { network_.put(asset); });
        piece_.all<UnknownRecord>().forEach([&](const UnknownRecord& record) { network_.put(record); });
        return std::move(subjects_);
    }

private:
    void noteTaken() {
        network_.forEachTable([&]<class Record, std::size_t n>(const Table<Record, n>& table) {
            if constexpr (requires(Record r) { r.id.value; })
                table.forEach([&](const Record& record) { taken_.insert(record.id.value); });
        });
    }

    template <class... Records>
    void freshIds() {
        (piece_.all<Records>().forEach([&](const Records& record) {
            if (taken_.contains(record.id.value))
                fresh_[record.id.value] = ids_.next();
        }),
         ...);
    }

    template <class Model>
    void mergeModels() {
        piece_.all<Model>().forEach([&](Model model) {
            const Model* held = network_.find<Model>(model.key());
            if (held && *held == model)
                return;
            const std::string id = model.id;
            for (int n = 2; held && *held != model; ++n) {
                model.id = fmt::format("{}-{}", id, n);
                held = network_.find<Model>(model.key());
            }
            if (model.id != id)
                names_[id] = model.id;
            network_.put(std::move(model));
        });
    }

    std::string renamed(const std::string& id) const {
        const auto at = names_.find(id);
        return at == names_.end() ? id : at->second;
    }

    void sheets() {
        const auto mine = network_.sheetsInOrder();
        int order = mine.empty() ? 0 : mine.back().order + 1;
        std::set<std::string> names;
        for (const Sheet& sheet : mine)
            names.insert(sheet.name);
        const SheetId taken = ontoPresent();
        for (const Sheet& each : piece_.sheetsInOrder()) {
            // Links of an upper layer are drawn on a sheet of theirs alone.
            if (onto_ == ImportOnto::presentSheet && each.layer != SheetLayer::upper) {
                fresh_[each.id.value] = each.id == taken ? present_.value : 0;
                continue;
            }
            Sheet sheet = each;
            if (taken_.contains(sheet.id.value))
                fresh_[each.id.value] = (sheet.id = ids_.make<SheetId>()).value;
            for (int n = 2; !names.insert(sheet.name).second; ++n)
                sheet.name = fmt::format("{} {}", each.name, n);
            sheet.order = order++;
            network_.put(std::move(sheet));
        }
    }

    /// What is drawn there of the piece: its first sheet that is none of an upper layer.
    SheetId ontoPresent() const {
        const auto theirs = piece_.sheetsInOrder();
        const auto first = std::find_if(theirs.begin(), theirs.end(),
                                        [](const Sheet& sheet) { return sheet.layer != SheetLayer::upper; });
        return first == theirs.end() ? SheetId{} : first->id;
    }

    void mergeVlans() {
        std::map<std::pair<int, std::string>, VlanId> held;
        network_.all<Vlan>().forEach([&](const Vlan& vlan) {
            if (!vlan.scope)
                held.emplace(std::pair(vlan.number, vlan.name), vlan.id);
        });
        piece_.all<Vlan>().forEach([&](Vlan vlan) {
            const auto same = held.find({vlan.number, vlan.name});
            if (!vlan.scope && same != held.end()) {
                fresh_[vlan.id.value] = same->second.value;
                return;
            }
            if (taken_.contains(vlan.id.value)) {
                const auto id = ids_.make<VlanId>();
                fresh_[vlan.id.value] = id.value;
                vlan.id = id;
            }
            network_.put(std::move(vlan));
        });
    }

    /// From what the piece shows to the free room on the right of what is drawn.
    Point distance() const {
        bool any = false, theirs = false;
        Point corner{0, 0}, start{0, 0}, end{0, 0};
        network_.all<Position>().forEachIn(present_.value, [&](const Position& p) {
            if (!network_.device({p.object}))
                return;
            corner = any ? Point{std::max(corner.x, p.at.x), std::min(corner.y, p.at.y)} : p.at;
            any = true;
        });
        if (const SheetId first = ontoPresent())
            piece_.all<Position>().forEachIn(first.value, [&](const Position& p) {
                if (!piece_.device({p.object}))
                    return;
                start = theirs ? Point{std::min(start.x, p.at.x), std::min(start.y, p.at.y)} : p.at;
                end = theirs ? Point{std::max(end.x, p.at.x), std::max(end.y, p.at.y)} : p.at;
                theirs = true;
            });
        constexpr int room = 360; // the widest plate and a gap
        return any && theirs ? moveOnSheet(start, end, {corner.x + room - start.x, corner.y - start.y})
                             : Point{0, 0};
    }

    template <class... Records>
    void putAll() {
        (piece_.all<Records>().forEach([&](Records record) {
            renumber(record, fresh_);
            if constexpr (std::is_same_v<Records, Note>)
                if (!record.sheet)
                    return;
            if constexpr (std::is_same_v<Records, Device>) {
                record.model = renamed(record.model);
                for (FittedModule& module : record.modules)
                    module.model = renamed(module.model);
                for (FittedTransceiver& transceiver : record.transceivers)
                    transceiver.model = renamed(transceiver.model);
                for (Chassis& chassis : record.stack)
                    chassis.model = renamed(chassis.model);
                subjects_.push_back(refTo(record.id));
            }
            if constexpr (std::is_same_v<Records, Cable>)
                record.type = renamed(record.type);
            network_.put(std::move(record));
        }),
         ...);
    }

    void positions() {
        piece_.all<Position>().forEach([&](Position position) {
            renumber(position, fresh_);
            if (!position.sheet)
                return;
            const Point by = position.sheet == present_ ? by_ : Point{0, 0};
            position.at = ontoSheet(position.at + by);
            for (Point& bend : position.bends)
                bend = ontoSheet(bend + by);
            network_.put(std::move(position));
        });
    }

    Network& network_;
    const Network& piece_;
    ImportOnto onto_;
    SheetId present_;
    IdSource& ids_;
    std::unordered_set<std::uint64_t> taken_;
    NewIds fresh_;
    NewNames names_;
    Point by_;
    Refs subjects_;
};

} // namespace

ActResult importNetwork(const Network& network, const Network& piece, ImportOnto onto, SheetId present,
                        IdSource& ids) {
    if (piece.all<Device>().size() == 0 && piece.all<Note>().size() == 0)
        return error("there is nothing to import", "choose another file");
    if (onto == ImportOnto::presentSheet && !network.sheet(present))
        return error("the sheet is no longer there", "choose another");
    const auto count = piece.all<Device>().size();
    Act act{fmt::format("Import {} device{}", count, count == 1 ? "" : "s"), network, {}};
    act.subjects = Importing(act.network, piece, onto, present, ids).run();
    return act;
}

} // namespace underridge::edit
