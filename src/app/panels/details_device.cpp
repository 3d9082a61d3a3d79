// SPDX-License-Identifier: GPL-3.0-or-later
// Details of a device and of a port.
#include "app/panels/details_panel.h"
#include "app/session/session.h"
#include "app/sheet/card.h"
#include "app/titles.h"
#include "core/edit/devices.h"
#include "core/edit/fittings.h"
#include "core/edit/lags.h"
#include "core/edit/links.h"
#include "core/edit/models.h"
#include "core/edit/places.h"
#include "core/edit/tucks.h"
#include "core/linking/fit.h"
#include "core/model/group_tree.h"
#include "core/model/standing.h"
#include "core/scene/tucking.h"

#include <fmt/format.h>

namespace underridge::app {
using namespace model;

void DetailsPanel::showDevice(const Device& device) {
    const Network& network = session_.network();
    const DeviceId id = device.id;
    begin(shownText(device.name), kindText(network, device));
    form_->textRow(tr("Name"), shownText(device.name), {}, [this, id](const std::string& typed) {
        return edit::rename(session_.network(), {refTo(id)}, {typed});
    });
    modelRows(device);
    findingRows(refTo(id));
    form_->textRow(tr("Address"), shownText(firstAddress(network, id).text()), QStringLiteral("10.84.1.1/24"),
                   [this, id](const std::string& typed) {
                       return edit::setAddress(session_.network(), id, {}, typed, session_.ids());
                   });
    if (const Group* group = network.group(device.group))
        form_->linkRow(tr("Group"), shownText(pathText(network, group->id)),
                       [this, in = group->id] { session_.navigation().goTo(refTo(in)); });
    if (!isEndpoint(roleOf(network, device))) {
        const Device* pair = network.device(edit::pairOf(network, id));
        form_->textRow(
            tr("Pair"), pair ? shownText(pair->name) : QString(), tr("none; the other's name"),
            [this, id](const std::string& typed) -> edit::ActResult {
                std::vector<DeviceId> found;
                session_.network().all<Device>().forEach([&](const Device& each) {
                    if (!typed.empty() && each.name == typed)
                        found.push_back(each.id);
                });
                if (!typed.empty() && found.size() != 1)
                    return error(found.empty() ? tr("there is no device %1").arg(shownText(typed))
                                               : tr("several devices are called %1").arg(shownText(typed)),
                                 tr("write the name of the other device"));
                return edit::pairChassis(session_.network(), id, found.empty() ? DeviceId() : found.front());
            });
    }
    form_->textRow(tr("Serial"), shownText(device.serial), {}, [this, id](const std::string& typed) {
        return edit::changeEach<Device>(session_.network(), {{id.value, 0}}, said(tr("Set serial")),
                                        [&](Device& d) { d.serial = typed; });
    });
    form_->longRow(tr("Note"), shownText(device.note.view()), [this, id](const std::string& typed) {
        return edit::changeEach<Device>(session_.network(), {{id.value, 0}}, said(tr("Set note")),
                                        [&](Device& d) { d.note = typed; });
    });
    form_->longRow(tr("Start-up"), shownText(device.startUp.view()), [this, id](const std::string& typed) {
        return edit::changeEach<Device>(session_.network(), {{id.value, 0}},
                                        said(tr("Set start-up configuration")),
                                        [&](Device& d) { d.startUp = typed; });
    });
    form_->checkRow(tr("Outside, not ours"), device.outside, [this, id](bool on) {
        return edit::changeEach<Device>(session_.network(), {{id.value, 0}},
                                        said(on ? tr("Mark as outside") : tr("Mark as ours")),
                                        [&](Device& d) { d.outside = on; });
    });
    if (const auto tuckable = scene::tuckableAt(network, session_.sheet(), id); !tuckable.empty()) {
        const scene::Plate* plate = session_.scene().plate(id);
        form_->checkRow(tr("%Ln endpoint(s) as a badge", nullptr, static_cast<int>(tuckable.size())),
                        plate && !plate->tucked.empty(), [this, id](bool on) {
                            return edit::setTucked(session_.network(), session_.sheet(), {id}, on);
                        });
    }
    form_->row(tr("From"), provenanceText(device.provenance));
    placeRows(device);
    forwardingRows(device);
    powerRows(device);
    if (!device.attributes.empty())
        form_->heading(tr("Attributes"));
    for (const auto& [name, value] : device.attributes)
        form_->textRow(
            shownText(name), shownText(value), {}, [this, id, name = name](const std::string& typed) {
                return edit::changeEach<Device>(session_.network(), {{id.value, 0}},
                                                said(tr("Set %1").arg(shownText(name))), [&](Device& d) {
                                                    if (typed.empty())
                                                        d.attributes.erase(name);
                                                    else
                                                        d.attributes[name] = typed;
                                                });
            });
    portLists(device);
}

void DetailsPanel::modelRows(const Device& device) {
    const DeviceId id = device.id;
    const DeviceModel* held = session_.network().modelOf(device);
    QStringList names;
    int current = -1;
    const auto& models = session_.catalogue().devices;
    for (const DeviceModel& each : models) {
        if (each.id == device.model)
            current = static_cast<int>(names.size());
        names << shownText(each.name);
    }
    if (current < 0) // a model that only this network has, or none
        names << shownText(modelName(session_.network(), device));
    form_->choiceRow(tr("Model"), names, current < 0 ? static_cast<int>(names.size()) - 1 : current,
                     [this, id](int chosen) -> edit::ActResult {
                         const auto& all = session_.catalogue().devices;
                         if (chosen < 0 || static_cast<std::size_t>(chosen) >= all.size())
                             return edit::Act{{}, session_.network(), {}};
                         return edit::setModel(session_.network(), {id},
                                               all[static_cast<std::size_t>(chosen)]);
                     });
    if (!held)
        return;
    for (const linking::SlotView& slot : linking::slotsOf(session_.network(), device)) {
        QStringList choices{tr("empty")};
        int fitted = 0;
        for (const std::string& module : slot.slot->fits) {
            const ModuleModel* known = session_.catalogue().module(module);
            choices << shownText(known ? known->name : module);
            if (slot.fitted && slot.fitted->model == module)
                fitted = static_cast<int>(choices.size()) - 1;
        }
        form_->choiceRow(
            tr("Slot %1").arg(shownText(slot.key)), choices, fitted,
            [this, id, key = slot.key, fits = slot.slot->fits](int chosen) {
                return chosen <= 0 ? edit::removeModule(session_.network(), id, key, edit::WithLinks::refuse)
                                   : edit::fitModule(session_.network(), session_.catalogue(), id, key,
                                                     fits[static_cast<std::size_t>(chosen) - 1],
                                                     edit::WithLinks::refuse);
            });
    }
}

void DetailsPanel::placeRows(const Device& device) {
    const Network& network = session_.network();
    const DeviceId id = device.id;
    QStringList names{tr("not known")};
    std::vector<GroupId> groups{GroupId{}};
    int current = 0;
    network.all<Group>().forEach([&](const Group& group) {
        if (!canStandIn(group.type))
            return;
        if (group.id == device.place.in)
            current = static_cast<int>(groups.size());
        groups.push_back(group.id);
        const Group* outer = network.group(group.parent);
        names << (outer ? tr("%1 in %2").arg(shownText(group.name), shownText(outer->name))
                        : shownText(group.name));
    });
    if (groups.size() == 1)
        return; // nothing to stand in yet
    const auto change = [this, id](std::string name, auto how) {
        const Device* held = session_.network().device(id);
        Place place = held ? held->place : Place{};
        how(place);
        return edit::setPlace(session_.network(), {id}, place, std::move(name));
    };
    form_->heading(tr("Place"));
    form_->choiceRow(tr("Stands in"), names, current, [change, groups](int chosen) {
        return change(said(tr("Set place")),
                      [&](Place& place) { place.in = groups[static_cast<std::size_t>(chosen)]; });
    });
    const Group* in = network.group(device.place.in);
    if (!in)
        return;
    if (isRack(in->type)) {
        form_->textRow(tr("Unit"), device.place.unit > 0 ? QString::number(device.place.unit) : QString(),
                       tr("the lowest, from 1"), [change](const std::string& typed) {
                           const int unit = std::max(-1, std::atoi(typed.c_str()));
                           return change(said(tr("Set rack unit")),
                                         [&](Place& place) { place.unit = unit > 0 ? unit : -1; });
                       });
        if (const DeviceModel* model = network.modelOf(device); model && model->halfWidth)
            form_->choiceRow(tr("Takes"), {tr("left half"), tr("right half")},
                             device.place.half == Half::right ? 1 : 0, [change](int chosen) {
                                 return change(said(tr("Set place")), [&](Place& place) {
                                     place.half = chosen == 1 ? Half::right : Half::left;
                                 });
                             });
        return;
    }
    const auto coordinate = [&](const QString& label, std::int64_t mm, std::int64_t Place::*member) {
        form_->textRow(label, shownLength(mm, session_.lengthUnit()), {},
                       [this, change, member](const std::string& typed) -> edit::ActResult {
                           const auto length = parseLength(typed, session_.lengthUnit());
                           if (!length)
                               return error(tr("%1 is not a length").arg(shownText(typed)),
                                            tr("write it as %1").arg(sampleLength()));
                           return change(said(tr("Set place")),
                                         [&](Place& place) { place.*member = *length; });
                       });
    };
    coordinate(tr("From the left"), device.place.xMm, &Place::xMm);
    coordinate(tr("From the top"), device.place.yMm, &Place::yMm);
    coordinate(tr("Above the floor"), device.place.heightMm, &Place::heightMm);
}

void DetailsPanel::portLists(const Device& device) {
    const Network& network = session_.network();
    const PortCount count = countPorts(network, device);
    const bool any = !portsOf(network, device).empty();
    form_->heading(any ? tr("Ports: %L1 of %L2 used").arg(count.used).arg(count.all) : tr("Ports"));
    if (count.unknown > 0)
        form_->emptyRow(tr("%Ln link(s) whose port is not known", nullptr, count.unknown));
    if (!any)
        return;
    for (const PortView& port : portsOf(network, device)) {
        const PortRef ref{device.id, port.key};
        const Link* link = network.linkAt(ref);
        if (!link && !port.record)
            continue;
        const QString words = link              ? shownText(edit::peerText(network, ref))
                              : port.disabled() ? tr("disabled")
                              : port.reserved() ? tr("reserved")
                                                : shownText(port.record->label);
        form_->linkRow(shownText(port.key), words, [this, ref] { session_.selectPort(ref); });
    }
    QStringList names{tr("Show a port…")};
    std::vector<std::string> keys{{}};
    for (const PortView& port : portsOf(network, device)) {
        names << QStringLiteral("%1 · %2").arg(shownText(port.key), shownText(linking::describe(port)));
        keys.push_back(port.key);
    }
    form_->menuRow(tr("Port"), names, [this, id = device.id, keys](int index) {
        session_.selectPort({id, keys[static_cast<std::size_t>(index)]});
    });
}

void DetailsPanel::showPort(const PortRef& ref) {
    const Network& network = session_.network();
    const auto port = portAt(network, ref);
    const Device* device = network.device(ref.device);
    begin(tr("%1, port %2").arg(shownText(device->name), shownText(ref.port)),
          QStringLiteral("%1 · %2").arg(shownText(linking::describe(*port)),
                                        shownText(titleOf(port->like->block))));
    const Port record = port->record ? *port->record : Port{};
    form_->linkRow(tr("Device"), shownText(device->name),
                   [this, id = device->id] { session_.select({refTo(id)}); });
    if (const Link* link = network.linkAt(ref)) {
        form_->linkRow(tr("Link"), shownText(edit::linkText(network, *link)),
                       [this, id = link->id] { session_.select({refTo(id)}); });
        chainRow(ref);
    }
    form_->textRow(tr("Label"), shownText(record.label), {}, [this, ref](const std::string& typed) {
        return edit::changePort(session_.network(), ref,
                                said(tr("Set label of port %1").arg(shownText(ref.port))),
                                [&](Port& p) { p.label = typed; });
    });
    portSettings(ref, *port, record);
    vlanRows(ref);
    if (const Interface* lag = lagAt(network, ref))
        form_->textRow(tr("LAG"), shownText(lag->name), {}, [this, ref](const std::string& typed) {
            return edit::renameLag(session_.network(), ref, typed);
        });
    form_->checkRow(tr("Disabled"), record.disabled, [this, ref](bool on) {
        return edit::changePort(
            session_.network(), ref,
            said((on ? tr("Disable port %1") : tr("Enable port %1")).arg(shownText(ref.port))),
            [&](Port& p) { p.disabled = on; });
    });
    form_->checkRow(tr("Reserved"), record.reserved, [this, ref](bool on) {
        return edit::changePort(
            session_.network(), ref,
            said((on ? tr("Reserve port %1") : tr("Free port %1")).arg(shownText(ref.port))),
            [&](Port& p) { p.reserved = on; });
    });
    form_->textRow(tr("Note"), shownText(record.note), {}, [this, ref](const std::string& typed) {
        return edit::changePort(session_.network(), ref,
                                said(tr("Set note of port %1").arg(shownText(ref.port))),
                                [&](Port& p) { p.note = typed; });
    });
}

/// What the port is set to on the wire.
void DetailsPanel::portSettings(const PortRef& ref, const PortView& view, const Port& record) {
    std::vector<int> speeds{0};
    for (const int rate : view.like->rates)
        speeds.push_back(rate);
    QStringList names{tr("negotiated")};
    for (std::size_t i = 1; i < speeds.size(); ++i)
        names << shownText(speedText(speeds[i]));
    const auto at = std::find(speeds.begin(), speeds.end(), record.speed);
    form_->choiceRow(
        tr("Speed"), names, static_cast<int>(at - speeds.begin()), [this, ref, speeds](int index) {
            return edit::changePort(session_.network(), ref,
                                    said(tr("Set speed of port %1").arg(shownText(ref.port))),
                                    [&](Port& p) { p.speed = speeds[static_cast<std::size_t>(index)]; });
        });
    form_->choiceRow(tr("Duplex"), titlesOf<Duplex>(), static_cast<int>(record.duplex),
                     [this, ref](int index) {
                         return edit::changePort(session_.network(), ref,
                                                 said(tr("Set duplex of port %1").arg(shownText(ref.port))),
                                                 [&](Port& p) { p.duplex = static_cast<Duplex>(index); });
                     });
    if (view.transceiver)
        form_->row(tr("Transceiver"), shownText(view.transceiver->name));
    if (view.like->cage != Cage::none && view.like->cage != Cage::sfp) {
        form_->choiceRow(
            tr("Error correction"), titlesOf<Fec>(), static_cast<int>(record.fec), [this, ref](int index) {
                return edit::changePort(session_.network(), ref,
                                        said(tr("Set error correction of port %1").arg(shownText(ref.port))),
                                        [&](Port& p) { p.fec = static_cast<Fec>(index); });
            });
    }
    if (!view.like->media.empty() && view.like->media.front() == Medium::serial)
        form_->checkRow(tr("Gives the clock"), record.givesClock, [this, ref](bool on) {
            return edit::changePort(
                session_.network(), ref,
                said((on ? tr("Give the clock at %1") : tr("Take the clock at %1")).arg(shownText(ref.port))),
                [&](Port& p) { p.givesClock = on; });
        });
}

} // namespace underridge::app
