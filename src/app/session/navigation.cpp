// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/navigation.h"

#include "core/model/group_tree.h"
#include "core/model/standing.h"
#include "core/scene/lines.h"

#include <algorithm>

namespace underridge::app {
using namespace model;
namespace {
constexpr std::size_t mostStops = 100;
}

Navigation::Navigation(Workspace& workspace, Selection& selection, SheetSession& sheets, QObject* parent)
    : QObject(parent),
      workspace_(workspace),
      selection_(selection),
      sheets_(sheets),
      maker_(
          this,
          [](const SheetSession::Unmade& order) {
              return std::make_shared<const Made>(Made{order, order.made()});
          },
          [this](const auto& made) {
              sheets_.keepMade(made->from, made->scene);
              const auto arrive = std::exchange(arrive_, {});
              arrive();
              Q_EMIT workspace_.stateChanged();
          }) {
    connect(&workspace_, &Workspace::documentReplaced, this, [this] {
        giveUp();
        back_.clear();
        forward_.clear();
        Q_EMIT changed();
    });
}

Navigation::Stop Navigation::here() const {
    return {sheets_.sheet(), sheets_.entered(), sheets_.view(), selection_.objects()};
}

void Navigation::whenMade(std::optional<SheetSession::Unmade> unmade, std::function<void()> arrive) {
    giveUp();
    if (!unmade)
        return arrive();
    arrive_ = std::move(arrive);
    maker_.ask(*std::move(unmade));
    Q_EMIT workspace_.stateChanged();
}

bool Navigation::giveUp() {
    maker_.forget();
    const bool opening = static_cast<bool>(std::exchange(arrive_, {}));
    if (opening)
        Q_EMIT workspace_.stateChanged();
    return opening;
}

void Navigation::leave() {
    giveUp();
    workspace_.settle();
    Q_EMIT leaving();
    if (back_.empty() || back_.back() != here())
        back_.push_back(here());
    if (back_.size() > mostStops)
        back_.erase(back_.begin());
    forward_.clear();
    Q_EMIT changed();
}

bool Navigation::isShownOn(SheetId sheet, ObjectRef object) const {
    const Network& network = workspace_.network();
    const auto isDrawnThere = [&](const Link& link, SheetId on) {
        const Sheet* of = network.sheet(on);
        return link.onlyOn ? link.onlyOn == on : of && of->takesLinks();
    };
    if (const Link* link = network.link({object.id}))
        return network.position(sheet, link->a.device.value) &&
               network.position(sheet, link->b.device.value) && isDrawnThere(*link, sheet);
    if (object.kind == Kind::group) {
        const Sheet* held = network.sheet(sheet);
        const auto devices = devicesWithin(network, {object.id});
        return held && held->drawsGroups() && std::any_of(devices.begin(), devices.end(), [&](DeviceId id) {
                   return network.position(sheet, id.value);
               });
    }
    if (const CableRoute* route = network.cableRoute({object.id})) {
        const Sheet* held = network.sheet(sheet);
        const Group* floor = held ? floorDrawn(network, *held) : nullptr;
        return floor && floor->id == route->floor;
    }
    return network.position(sheet, object.id);
}

bool Navigation::goTo(ObjectRef object) {
    const Network& network = workspace_.network();
    if (const Cable* cable = network.cable({object.id})) {
        const Link* link = cable->ends.empty() ? nullptr : network.linkAt(cable->ends.front().at);
        return link && goTo(refTo(link->id));
    }
    if (!network.device({object.id}) && !network.link({object.id}) && !network.note({object.id}) &&
        !network.group({object.id}) && !network.cableRoute({object.id}))
        return false;
    SheetId on = sheets_.sheet();
    if (!isShownOn(on, object)) {
        const auto sheets = network.sheetsInOrder();
        const auto shown = std::find_if(sheets.begin(), sheets.end(),
                                        [&](const Sheet& sheet) { return isShownOn(sheet.id, object); });
        if (shown != sheets.end())
            on = shown->id;
    }
    whenMade(sheets_.unmade(workspace_.network(), on), [this, object, on] { goTo(object, on); });
    return true;
}

void Navigation::goTo(ObjectRef object, SheetId on) {
    if (on != sheets_.sheet() && !isShownOn(on, object))
        return; // gone meanwhile
    leave();
    sheets_.show(workspace_.network(), on);
    openFor(object);
    selection_.select({object});
    if (const scene::Item* item = sheets_.scene().itemFor(object))
        Q_EMIT revealWanted(item->bounds);
    Q_EMIT arrived(object);
}

void Navigation::openFor(ObjectRef object) {
    const Network& network = workspace_.network();
    const auto isSeen = [&] {
        const scene::Scene& scene = sheets_.scene();
        if (object.kind == Kind::device)
            return scene.plate({object.id}) || scene.tuckedInto({object.id});
        return object.kind == Kind::link ? scene.link({object.id}) != nullptr : scene.item(object) != nullptr;
    };
    if (isSeen())
        return;
    sheets_.enter(network, {}); // from an entered group out to the sheet first
    if (isSeen())
        return;
    GroupId in;
    if (const Device* device = network.device({object.id}))
        in = device->group;
    else if (const Group* group = network.group({object.id}))
        in = group->parent;
    else if (const Link* link = network.link({object.id}))
        in = scene::levelOf(network, *link);
    sheets_.enter(network, in);
}

void Navigation::enter(GroupId group) {
    if (group == sheets_.entered() || (group && !workspace_.network().group(group)))
        return;
    whenMade(sheets_.unmade(workspace_.network(), group), [this, group] { enterNow(group); });
}

void Navigation::enterNow(GroupId group) {
    if (group && !workspace_.network().group(group))
        return; // gone meanwhile
    leave();
    const GroupId left = sheets_.entered();
    if (!sheets_.enter(workspace_.network(), group))
        return;
    // What was left is where one comes out.
    selection_.select(left && sheets_.scene().item(refTo(left)) ? edit::Refs{refTo(left)} : edit::Refs{});
    Q_EMIT workspace_.stateChanged();
}

void Navigation::leaveGroup() {
    const Group* group = workspace_.network().group(sheets_.entered());
    const Sheet* sheet = workspace_.network().sheet(sheets_.sheet());
    if (group)
        enter(sheet && group->parent == sheet->shows ? GroupId{} : group->parent);
}

void Navigation::home() {
    if (sheets_.entered())
        return enter({});
    leave();
    Q_EMIT wholeWanted();
}

bool Navigation::goTo(const std::vector<ObjectRef>& objects) {
    for (const bool cables : {false, true}) // what is drawn itself first
        for (const ObjectRef object : objects)
            if ((workspace_.network().cable({object.id}) != nullptr) == cables && goTo(object))
                return true;
    return false;
}

void Navigation::showSheet(SheetId sheet) {
    giveUp();
    if (sheet == sheets_.sheet() || !workspace_.network().sheet(sheet))
        return;
    whenMade(sheets_.unmade(workspace_.network(), sheet), [this, sheet] {
        if (!workspace_.network().sheet(sheet))
            return; // removed meanwhile
        leave();
        selection_.select({});
        sheets_.show(workspace_.network(), sheet);
        Q_EMIT workspace_.stateChanged();
    });
}

void Navigation::travel(std::vector<Stop>& from, std::vector<Stop>& to) {
    giveUp();
    workspace_.settle();
    Q_EMIT leaving();
    while (!from.empty()) {
        const Stop stop = from.back();
        from.pop_back();
        if (!workspace_.network().sheet(stop.sheet) || stop == here())
            continue; // gone meanwhile, or nothing to see there
        to.push_back(here());
        sheets_.show(workspace_.network(), stop.sheet);
        sheets_.enter(workspace_.network(),
                      workspace_.network().group(stop.entered) ? stop.entered : GroupId{});
        selection_.follow(workspace_.network(), stop.selection);
        selection_.tell();
        if (stop.view)
            Q_EMIT viewWanted(*stop.view);
        Q_EMIT workspace_.stateChanged();
        break;
    }
    Q_EMIT changed();
}

void Navigation::back() {
    travel(back_, forward_);
}

void Navigation::forward() {
    travel(forward_, back_);
}

} // namespace underridge::app
