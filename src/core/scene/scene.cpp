// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/scene/scene.h"

#include "core/scene/axes.h"

#include "core/base/parallel.h"
#include "core/model/group_tree.h"
#include "core/model/standing.h"
#include "core/model/table_impl.h"
#include "core/scene/groups.h"
#include "core/scene/lines.h"
#include "core/scene/plates.h"
#include "core/scene/routes.h"
#include "core/scene/tucking.h"

namespace underridge::model {
template class Table<scene::KeptItem>;
} // namespace underridge::model

namespace underridge::scene {
using namespace model;
namespace {

/// Items that are worth a thread.
constexpr std::size_t fewest = 150;

/// All devices of a group, at any depth; of none all there are. By id.
std::vector<const Device*> devicesIn(const Network& network, GroupId within) {
    std::vector<const Device*> out;
    if (within)
        for (const DeviceId id : devicesWithin(network, within))
            out.push_back(network.device(id));
    else
        network.all<Device>().forEach([&](const Device& device) { out.push_back(&device); });
    return out;
}

/// Makes the items of records side by side; nothing where a record is not on the sheet.
template <class Record, class Make>
std::vector<ItemPtr> itemsOf(const std::vector<const Record*>& records, Make&& make) {
    std::vector<ItemPtr> items(records.size());
    forEachIndex(records.size(), fewest, [&](std::size_t i) {
        if (auto shape = make(*records[i]))
            items[i] = std::make_shared<const Item>(itemOf(*std::move(shape)));
    });
    std::erase(items, nullptr);
    return items;
}

} // namespace

Items::Items(std::vector<const Item*> all) : all_(std::move(all)) {
    std::sort(all_.begin(), all_.end(), [](const Item* a, const Item* b) {
        return std::tuple(a->layer, a->depth, a->object.id) < std::tuple(b->layer, b->depth, b->object.id);
    });
}

const Item* Scene::item(ObjectRef object) const {
    const KeptItem* kept = items_.find({object.id, 0});
    return kept && kept->item->object == object ? kept->item.get() : nullptr;
}

DeviceId Scene::tuckedInto(DeviceId id) const {
    if (!tucked_)
        return {};
    const auto at = tucked_->find(id);
    return at == tucked_->end() ? DeviceId{} : at->second;
}

const Item* Scene::itemFor(ObjectRef object) const {
    const DeviceId into = object.kind == Kind::device ? tuckedInto({object.id}) : DeviceId{};
    return item(into ? refTo(into) : object);
}

const LinkLine* Scene::link(LinkId id) const {
    if (const auto& chains = layer_ ? layer_->merged() : nullptr)
        if (const auto at = chains->find(id); at != chains->end())
            id = at->second;
    const LinkLine* own = shapeOf<LinkLine>(id.value);
    if (own || !mergedInto_)
        return own;
    const auto at = mergedInto_->find(id);
    return at == mergedInto_->end() ? nullptr : shapeOf<LinkLine>(at->second.value);
}

std::optional<Anchor> Scene::anchorOf(DeviceId id) const {
    if (const Plate* held = plate(id))
        return held->anchor();
    if (const DeviceId into = tuckedInto(id))
        return anchorOf(into);
    const ObjectRef by = folding_ ? folding_->standsFor(id) : ObjectRef{};
    const Tile* folded = by.kind == Kind::group ? tile({by.id}) : nullptr;
    return folded ? std::optional(folded->anchor()) : std::nullopt;
}

namespace {

std::vector<ItemPtr> linesBetween(const Network& network, const Sheet& sheet, LengthUnit unit,
                                  const std::vector<ItemPtr>& plates, const std::vector<const Link*>& links) {
    const Grid grid = sheet.runsAlongAxes() ? gridOfPlates(network, sheet.id, nullptr, plates) : Grid();
    const auto plateOfDevice = [&](DeviceId id) -> const Plate* {
        const auto at =
            std::lower_bound(plates.begin(), plates.end(), id.value,
                             [](const ItemPtr& item, std::uint64_t v) { return item->object.id < v; });
        return at != plates.end() && (*at)->object.id == id.value ? (*at)->as<Plate>() : nullptr;
    };
    Parallels parallels(network, sheet.id);
    parallels.prepare(links);
    return itemsOf(links, [&](const Link& link) -> std::optional<LinkLine> {
        const Plate *a = plateOfDevice(link.a.device), *b = plateOfDevice(link.b.device);
        if (!a || !b)
            return std::nullopt;
        return lineOf(network, sheet, link, a->anchor(), b->anchor(), std::as_const(parallels).placeOf(link),
                      unit, nullptr, grid);
    });
}

} // namespace

Scene Scene::build(const Network& network, SheetId sheetId, LengthUnit unit, GroupId entered,
                   std::shared_ptr<const find::Findings> findings, const Scene* known) {
    const Sheet* sheet = network.sheet(sheetId);
    if (!sheet || !sheet->follows())
        return built(network, sheetId, unit, entered, std::move(findings), known);
    auto layer = std::make_shared<const LayerNetwork>(network, sheetId);
    Scene scene = built(layer->drawn(), sheetId, unit, entered, std::move(findings));
    scene.layer_ = std::move(layer);
    return scene;
}

Scene Scene::built(const Network& network, SheetId sheetId, LengthUnit unit, GroupId entered,
                   std::shared_ptr<const find::Findings> findings, const Scene* known) {
    Scene scene;
    scene.findings_ = std::move(findings);
    scene.sheet_ = sheetId;
    scene.unit_ = unit;
    scene.entered_ = entered;
    const Sheet* sheet = network.sheet(sheetId);
    if (!sheet)
        return scene;
    const GroupId within = shownGroup(network, *sheet, entered);
    std::vector<ItemPtr> all = itemsOf(devicesIn(network, within), [&](const Device& device) {
        const Plate* same = known && !sheet->racks ? known->plate(device.id) : nullptr;
        return same ? scene::standing(network, sheetId, *same) : plateOf(network, sheetId, device);
    });
    const auto links = linksDrawn(network, *sheet, within ? &all : nullptr);
    const auto tucks = [&](const ItemPtr& item) { return network.position(sheetId, item->object.id)->tucks; };
    scene.tucks_ = within ? std::any_of(all.begin(), all.end(), tucks) : anyTucks(network, sheetId);
    GroupedItems grouped;
    if (sheet->drawsGroups() && network.all<Group>().size() > 0)
        grouped = groupedItems(network, *sheet, within, all, links, unit);
    if (grouped.folding) {
        all = std::move(grouped.plates);
        all.insert(all.end(), grouped.others.begin(), grouped.others.end());
        scene.folding_ = std::move(grouped.folding);
        scene.standing_ = std::move(grouped.standing);
        scene.listBent(network);
        if (!grouped.mergedInto.empty())
            scene.mergedInto_ =
                std::make_shared<const std::map<LinkId, LinkId>>(std::move(grouped.mergedInto));
    } else {
        grouped.lines = linesBetween(network, *sheet, unit, all, links);
    }
    all.insert(all.end(), grouped.lines.begin(), grouped.lines.end());
    scene.closes_ = sheet->closing;
    if (scene.tucks_)
        scene.tuckIn(network, all);
    scene.filter(network, *sheet, all);
    if (auto plan = entered ? std::nullopt : planOf(network, *sheet))
        all.push_back(std::make_shared<const Item>(itemOf(*std::move(plan))));
    if (!entered)
        for (RouteLine& route : routesOn(network, *sheet))
            all.push_back(std::make_shared<const Item>(itemOf(std::move(route))));
    if (!entered)
        scene.addNotes(network, all);
    scene.take(std::move(all));
    return scene;
}

/// Endpoints go into badges, with the lines to them.
void Scene::tuckIn(const Network& network, std::vector<ItemPtr>& items) {
    std::vector<DeviceId> into(items.size());
    forEachIndex(items.size(), fewest, [&](std::size_t i) {
        const Plate* plate = items[i]->as<Plate>();
        if (!plate)
            return;
        into[i] = scene::tuckedInto(network, sheet_, folding(), plate->id);
        if (Plate fresh = withTucked(network, sheet_, folding(), *plate); !fresh.tucked.empty())
            items[i] = std::make_shared<const Item>(itemOf(std::move(fresh)));
    });
    Tucked tucked;
    for (std::size_t i = 0; i < items.size(); ++i)
        if (into[i])
            tucked[{items[i]->object.id}] = into[i];
    const auto isTucked = [&](ObjectRef object) {
        return object.kind == Kind::device && tucked.contains({object.id});
    };
    std::erase_if(items, [&](const ItemPtr& item) {
        const auto* line = item->as<LinkLine>();
        return isTucked(item->object) || (line && (isTucked(line->a) || isTucked(line->b)));
    });
    if (!tucked.empty())
        tucked_ = std::make_shared<const Tucked>(std::move(tucked));
}

/// What the filter of a sheet leaves out is taken away, or made faint. Frames, tiles and
/// doorways without anything it finds are faint either way: they tell that something is
/// there.
void Scene::filter(const Network& network, const Sheet& sheet, std::vector<ItemPtr>& items) {
    const auto read = find::Filter::parse(sheet.filter);
    if (!read || read->empty())
        return;
    const find::Matcher matcher(network, *read, findings_.get());
    std::vector<char> found(items.size());
    forEachIndex(items.size(), fewest, [&](std::size_t i) {
        const ObjectRef object = items[i]->object;
        if (const auto* line = items[i]->as<LinkLine>())
            found[i] = line->merged.empty()
                           ? matcher.matches(*network.link(line->id))
                           : std::any_of(line->merged.begin(), line->merged.end(),
                                         [&](LinkId id) { return matcher.matches(*network.link(id)); });
        else if (const Device* device = network.device({object.id}))
            found[i] = matcher.matches(*device) || findsTucked(network, matcher, *items[i]);
        else
            found[i] = true;
    });
    filtered_ = Filtered{0, 0, sheet.filterHides};
    std::set<GroupId> with; // groups something found is in
    network.all<Device>().forEach([&](const Device& device) {
        if (!network.position(sheet_, device.id.value))
            return;
        const bool is = matcher.matches(device);
        ++filtered_->all;
        filtered_->found += is;
        for (GroupId group = device.group; is && network.group(group) && with.insert(group).second;)
            group = network.group(group)->parent;
    });
    std::set<std::uint64_t> hidden;
    std::vector<ItemPtr> kept;
    for (std::size_t i = 0; i < items.size(); ++i) {
        bool lit = found[i];
        if (items[i]->object.kind == Kind::group)
            lit = with.contains({items[i]->object.id});
        const bool hides = !lit && sheet.filterHides && items[i]->as<Plate>();
        if (hides)
            hidden.insert(items[i]->object.id);
        const auto* line = items[i]->as<LinkLine>();
        if (hides || (line && (hidden.contains(line->a.id) || hidden.contains(line->b.id))))
            continue; // lines come after what they go between
        if (lit) {
            kept.push_back(std::move(items[i]));
            continue;
        }
        Item faint = *items[i];
        faint.faint = true;
        kept.push_back(std::make_shared<const Item>(std::move(faint)));
    }
    items = std::move(kept);
}

/// Whether a filter finds something in the badge of a plate.
bool Scene::findsTucked(const Network& network, const find::Matcher& matcher, const Item& item) const {
    const Plate* plate = item.as<Plate>();
    if (!plate || plate->tucked.empty())
        return false;
    const auto tucked = tuckedAt(network, sheet_, folding(), plate->id);
    return std::any_of(tucked.begin(), tucked.end(),
                       [&](DeviceId id) { return matcher.matches(*network.device(id)); });
}

void Scene::listBent(const Network& network) {
    std::set<LinkId> bent;
    network.all<Position>().forEachIn(sheet_.value, [&](const Position& position) {
        if (position.of == Kind::link && !position.bends.empty())
            bent.insert({position.object});
    });
    bent_ = bent.empty() ? nullptr : std::make_shared<const std::set<LinkId>>(std::move(bent));
}

void Scene::addNotes(const Network& network, std::vector<ItemPtr>& items) const {
    network.forEachNoteOf(sheet_, [&](const Note& note) {
        if (auto card = cardShown(network, sheet_, note, folding_.get())) {
            items.push_back(std::make_shared<const Item>(itemOf(*std::move(card))));
        }
    });
}

void Scene::take(std::vector<ItemPtr> all) {
    grid_ = Grid::of(all);
    std::vector<ItemPtr> led;
    std::copy_if(all.begin(), all.end(), std::back_inserter(led),
                 [](const ItemPtr& item) { return isLed(*item); });
    led_ = Grid::of(led);
    for (const ItemPtr& item : all) {
        bounds_ = bounds_.united(item->bounds);
        ++counts_[item->shape.index()];
    }
    std::sort(all.begin(), all.end(),
              [](const ItemPtr& a, const ItemPtr& b) { return a->object.id < b->object.id; });
    std::vector<KeptItem> kept;
    kept.reserve(all.size());
    for (ItemPtr& item : all)
        kept.push_back({std::move(item)});
    items_ = Table<KeptItem>::fromSorted(std::move(kept));
}

Rect Scene::bounds() const {
    std::call_once(extent_->once, [&] {
        items_.forEach(
            [&](const KeptItem& kept) { extent_->bounds = extent_->bounds.united(frameOf(*kept.item)); });
    });
    return extent_->bounds;
}

bool Scene::gridIsTrue() const {
    std::set<const void*> inGrid, inTable, inLed, led;
    grid_.forEach([&](const ItemPtr& item) { inGrid.insert(item.get()); });
    led_.forEach([&](const ItemPtr& item) { inLed.insert(item.get()); });
    auto counts = counts_;
    counts.fill(0);
    items_.forEach([&](const KeptItem& kept) {
        inTable.insert(kept.item.get());
        ++counts[kept.item->shape.index()];
        if (isLed(*kept.item))
            led.insert(kept.item.get());
    });
    return inGrid == inTable && inLed == led && counts == counts_;
}

Hit hitAt(const Scene& scene, PointF point, double tolerance) {
    const Items items = scene.itemsIn(Rect{point.x, point.y, 0.001, 0.001}.grown(tolerance));
    const Item* best = nullptr;
    double nearest = 0;
    for (const Item* item : items.all()) { // lowest first: of what is equally near the topmost is meant
        if (const auto* line = item->as<LinkLine>(); line && line->onDemand)
            continue;
        const double distance = distanceTo(*item, point);
        if (distance > (item->layer == Layer::links ? tolerance : 0))
            continue;
        if (best && best->layer == item->layer && distance > nearest)
            continue;
        best = item;
        nearest = distance;
    }
    return best ? hitOn(*best, point) : Hit{};
}

GroupId groupAt(const Scene& scene, PointF point, const std::vector<ObjectRef>& without) {
    GroupId found = scene.entered();
    std::vector<Rect> closed; ///< frames that are moved, with all in them
    const auto isWithout = [&](ObjectRef object) {
        return std::find(without.begin(), without.end(), object) != without.end();
    };
    const Items items = scene.itemsIn(Rect{point.x, point.y, 0.001, 0.001});
    for (const Item* item : items.all()) { // outer frames before inner ones, tiles last
        const Rect frame = frameOf(*item);
        if ((!item->as<Frame>() && !item->as<Tile>()) || !frame.contains(point))
            continue;
        if (isWithout(item->object))
            closed.push_back(frame);
        const bool inside = std::any_of(closed.begin(), closed.end(),
                                        [&](const Rect& outer) { return outer.contains(frame); });
        if (!inside)
            found = {item->object.id};
    }
    return found;
}

} // namespace underridge::scene
