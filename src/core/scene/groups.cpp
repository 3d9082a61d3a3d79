// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/scene/groups.h"

#include "core/base/parallel.h"
#include "core/linking/rules.h"
#include "core/model/group_tree.h"
#include "core/model/standing.h"
#include "core/scene/axes.h"
#include "core/scene/lines.h"
#include "core/scene/plates.h"
#include "core/scene/text_width.h"

#include <fmt/format.h>
#include <set>

namespace underridge::scene {
using namespace model;
namespace {

constexpr double tabGlyph = 26, doorwayHeight = 22, doorwayGap = 8, minDoorway = 64, maxDoorway = 168;

Tile tileOf(const Network& network, const Group& group, const ShownGroup& shown) {
    Tile tile{group.id, shown.frame, group.type, {}, group.level, 0, {}, 0};
    tile.name = elided(group.name, nameSize, Weight::semiBold, shown.frame.w - tabGlyph - 2 * 8);
    tile.devices = static_cast<int>(shown.within->size());
    std::map<Role, int> roles;
    std::set<LinkId> failing;
    for (const DeviceId id : *shown.within) {
        ++roles[roleOf(network, *network.device(id))];
        network.forEachLinkOf(id, [&](const Link& link) {
            const auto fails = link.isUpper() ? linking::Fails{} : linking::failsOf(network, link);
            if (fails.a || fails.b)
                failing.insert(link.id);
        });
    }
    tile.failing = static_cast<int>(failing.size());
    tile.roles.assign(roles.begin(), roles.end());
    std::stable_sort(tile.roles.begin(), tile.roles.end(),
                     [](const auto& a, const auto& b) { return a.second > b.second; });
    return tile;
}

class Maker {
public:
    Maker(const Network& network, const Sheet& sheet, GroupId entered, const std::vector<ItemPtr>& standing,
          const std::vector<const Link*>& links, LengthUnit unit)
        : network_(network),
          sheet_(sheet),
          entered_(entered),
          standing_(standing),
          links_(links),
          unit_(unit),
          parallels_(network, sheet.id) {}

    GroupedItems make() {
        std::vector<Standing> devices;
        devices.reserve(standing_.size());
        for (const ItemPtr& item : standing_) {
            const Plate& plate = *item->as<Plate>();
            devices.push_back({plate.id, network_.device(plate.id)->group, plate.frame});
        }
        const auto standing = std::make_shared<const std::vector<Standing>>(std::move(devices));
        folding_ = std::make_shared<const Folding>(Folding::of(network_, sheet_.id, entered_, *standing));
        if (folding_->groups().empty())
            return {};
        movePlates();
        makeGroups();
        sortLinks();
        makeDoorways();
        makeLines();
        out_.folding = folding_;
        out_.standing = standing;
        return std::move(out_);
    }

private:
    void add(std::vector<ItemPtr>& to, Item item) {
        to.push_back(std::make_shared<const Item>(std::move(item)));
    }

    void movePlates() {
        std::optional<PointF> pushed;
        for (const ItemPtr& item : standing_) {
            const Plate& plate = *item->as<Plate>();
            const auto shown = folding_->plateOf(plate.id);
            if (!shown)
                continue;
            const PointF by{shown->x - plate.frame.x, shown->y - plate.frame.y};
            pulled_ |= !(pushed.value_or(by) == by);
            pushed = by;
            if (*shown == plate.frame)
                out_.plates.push_back(item);
            else
                add(out_.plates, itemOf(plate.movedTo(*shown)));
        }
    }

    void makeGroups() {
        for (const ShownGroup& shown : folding_->groups()) {
            add(out_.others, itemOfGroup(network_, sheet_, shown, entered_));
            if (shown.folded)
                tiles_[shown.id] = out_.others.back()->as<Tile>();
        }
    }

    const Plate* plateOf(DeviceId id) const {
        const auto at =
            std::lower_bound(out_.plates.begin(), out_.plates.end(), id.value,
                             [](const ItemPtr& item, std::uint64_t v) { return item->object.id < v; });
        return at != out_.plates.end() && (*at)->object.id == id.value ? (*at)->as<Plate>() : nullptr;
    }

    std::optional<Anchor> anchorOf(DeviceId id) const {
        const ObjectRef by = folding_->standsFor(id);
        if (by.kind == Kind::device)
            return plateOf(id)->anchor();
        if (by.kind == Kind::group)
            return tiles_.at({by.id})->anchor();
        return std::nullopt;
    }

    /// What stands for the outside end of a link: the outermost group around it that the
    /// entered one is not in, or the device itself.
    ObjectRef beyond(DeviceId id) const {
        ObjectRef out = refTo(id);
        for (const GroupId each : upwards(network_, network_.device(id)->group))
            if (!isWithin(network_, entered_, each))
                out = refTo(each);
            else
                break;
        return out;
    }

    void sortLinks() {
        parallels_.prepare(links_);
        for (const Link* each : links_) {
            const Link& link = *each;
            const ObjectRef a = folding_->standsFor(link.a.device), b = folding_->standsFor(link.b.device);
            const bool hasA = a.kind != Kind::unknown, hasB = b.kind != Kind::unknown;
            if (a.kind == Kind::device && b.kind == Kind::device)
                plain_.push_back(&link);
            else if (hasA && hasB && a != b)
                merged_[std::minmax(a, b)].push_back(&link);
            else if (entered_ && hasA != hasB) {
                const ObjectRef to = beyond(hasA ? link.b.device : link.a.device);
                merged_[std::minmax(hasA ? a : b, to)].push_back(&link);
                doors_[to].push_back(anchorOf(hasA ? link.a.device : link.b.device)->frame.centre());
            }
        }
    }

    /// Doorways on the side of the border that what is inside is nearest to, in the order
    /// of what they lead from.
    void makeDoorways() {
        if (doors_.empty())
            return;
        const Rect border = folding_->groups().front().frame;
        struct Door {
            ObjectRef to;
            double at;
            Rect frame;
            std::string name;
        };
        std::array<std::vector<Door>, 4> sides; ///< top, bottom, left, right
        for (const auto& [to, from] : doors_) {
            PointF middle;
            for (const PointF each : from)
                middle = middle + each * (1.0 / static_cast<double>(from.size()));
            const std::array<double, 4> away{middle.y - border.y, border.bottom() - middle.y,
                                             middle.x - border.x, border.right() - middle.x};
            const auto side =
                static_cast<std::size_t>(std::min_element(away.begin(), away.end()) - away.begin());
            const Group* group = to.kind == Kind::group ? network_.group({to.id}) : nullptr;
            const std::string name = group ? group->name : network_.device({to.id})->name;
            const double width = std::clamp(std::ceil(textWidth(name, labelSize, Weight::semiBold)) + 32,
                                            minDoorway, maxDoorway);
            sides[side].push_back({to, side < 2 ? middle.x : middle.y, {0, 0, width, doorwayHeight}, name});
        }
        for (std::size_t side = 0; side < sides.size(); ++side) {
            auto& doors = sides[side];
            std::sort(doors.begin(), doors.end(), [](const Door& a, const Door& b) {
                return std::pair(a.at, a.to) < std::pair(b.at, b.to);
            });
            const bool across = side < 2;
            double free = across ? border.x : border.y + frameTitle;
            std::vector<double> starts;
            for (const Door& door : doors) {
                const double length = across ? door.frame.w : door.frame.h;
                starts.push_back(std::max(free, std::round(door.at - length / 2)));
                free = starts.back() + length + doorwayGap;
            }
            double end = across ? border.right() : border.bottom();
            for (std::size_t i = doors.size(); i-- > 0;) { // back inside, where there is room
                const double length = across ? doors[i].frame.w : doors[i].frame.h;
                starts[i] = std::min(starts[i], end - length);
                end = starts[i] - doorwayGap;
            }
            for (std::size_t i = 0; i < doors.size(); ++i) {
                Door& door = doors[i];
                // As far inside everywhere: less than the frame is away from what stands in it.
                constexpr double inside = doorwayHeight / 2;
                door.frame.x = across      ? starts[i]
                               : side == 2 ? border.x - door.frame.w + inside
                                           : border.right() - inside;
                door.frame.y = !across     ? starts[i]
                               : side == 0 ? border.y - door.frame.h + inside
                                           : border.bottom() - inside;
                Doorway doorway{door.to, door.frame,
                                elided(door.name, labelSize, Weight::semiBold, door.frame.w - 30),
                                static_cast<int>(doors_[door.to].size())};
                add(out_.others, itemOf(std::move(doorway)));
                doorways_[door.to] = out_.others.back()->as<Doorway>();
            }
        }
    }

    Anchor anchorAt(const ObjectRef shown, DeviceId device) const {
        const auto inside = anchorOf(device);
        return inside ? *inside : doorways_.at(shown)->anchor();
    }

    /// What lines go round that run along the axes, lead to a tile or a doorway, or were pulled aside.
    Grid plateGrid() const {
        if (!sheet_.runsAlongAxes() && merged_.empty() && !pulled_)
            return {};
        std::vector<ItemPtr> plates = out_.plates;
        for (const ItemPtr& each : out_.others)
            if (each->layer == Layer::plates || each->as<Frame>())
                plates.push_back(each);
        return gridOfPlates(network_, sheet_.id, folding_.get(), plates);
    }

    void makeLines() {
        constexpr std::size_t fewest = 150; // lines that are worth a thread
        const Grid grid = plateGrid();
        std::vector<ItemPtr> lines(plain_.size());
        forEachIndex(plain_.size(), fewest, [&](std::size_t i) {
            const Link& link = *plain_[i];
            lines[i] = std::make_shared<const Item>(itemOf(lineOf(
                network_, sheet_, link, plateOf(link.a.device)->anchor(), plateOf(link.b.device)->anchor(),
                std::as_const(parallels_).placeOf(link), unit_, folding_.get(), grid)));
        });
        out_.lines = std::move(lines);
        for (const auto& [ends, links] : merged_) {
            const Link& first = *links.front();
            const auto ref = [&](DeviceId device) {
                const ObjectRef by = folding_->standsFor(device);
                return by.kind == Kind::unknown ? beyond(device) : by;
            };
            add(out_.lines,
                itemOf(lineOfAll(network_, sheet_, links, anchorAt(ref(first.a.device), first.a.device),
                                 anchorAt(ref(first.b.device), first.b.device), unit_, grid)));
            for (std::size_t i = 1; i < links.size(); ++i)
                out_.mergedInto[links[i]->id] = first.id;
        }
    }

    const Network& network_;
    const Sheet& sheet_;
    GroupId entered_;
    const std::vector<ItemPtr>& standing_;
    const std::vector<const Link*>& links_;
    LengthUnit unit_;
    Parallels parallels_;
    std::shared_ptr<const Folding> folding_;
    bool pulled_ = false; ///< not all plates are shown equally far from where they stand
    std::map<GroupId, const Tile*> tiles_;
    std::map<ObjectRef, const Doorway*> doorways_;
    std::vector<const Link*> plain_;
    std::map<std::pair<ObjectRef, ObjectRef>, std::vector<const Link*>> merged_; ///< by id, as they come
    std::map<ObjectRef, std::vector<PointF>> doors_; ///< where lines to each come from
    GroupedItems out_;
};

} // namespace

Item itemOfGroup(const Network& network, const Sheet& sheet, const ShownGroup& shown, GroupId entered) {
    const Group& group = *network.group(shown.id);
    if (shown.folded)
        return itemOf(tileOf(network, group, shown));
    Frame frame{group.id, shown.frame, group.type, {}, group.level, shown.depth, group.id == entered, 0};
    frame.title = elided(group.name, nameSize, Weight::semiBold, shown.frame.w - tabGlyph - 2 * 8);
    const Position* drawn = sheet.racks ? network.position(sheet.id, shown.id.value) : nullptr;
    if (drawn && drawn->width > 0 && isRack(group.type))
        frame.units = group.rackUnits;
    return itemOf(std::move(frame));
}

std::vector<const Link*> linksBehind(const Network& network, SheetId sheet, const Folding& folding,
                                     ObjectRef a, ObjectRef b) {
    const auto devicesOf = [&](ObjectRef shown) {
        const ShownGroup* group = folding.group({shown.id});
        return group && group->within ? *group->within : std::vector<DeviceId>{{shown.id}};
    };
    const Sheet& held = *network.sheet(sheet);
    const auto some = devicesOf(a), others = devicesOf(b);
    std::map<LinkId, const Link*> out;
    for (const DeviceId id : some.size() <= others.size() ? some : others)
        network.forEachLinkOf(id, [&](const Link& link) {
            if (isDrawnOn(link, held) && std::minmax(folding.standsFor(link.a.device),
                                                     folding.standsFor(link.b.device)) == std::minmax(a, b))
                out[link.id] = &link;
        });
    std::vector<const Link*> links;
    for (const auto& [id, link] : out)
        links.push_back(link);
    return links;
}

GroupedItems groupedItems(const Network& network, const Sheet& sheet, GroupId entered,
                          const std::vector<ItemPtr>& plates, const std::vector<const Link*>& links,
                          LengthUnit unit) {
    return Maker(network, sheet, entered, plates, links, unit).make();
}

} // namespace underridge::scene
