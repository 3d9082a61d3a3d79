// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/scene/scene.h"

#include "core/base/parallel.h"
#include "core/model/table_impl.h"
#include "core/scene/groups.h"
#include "core/scene/lines.h"
#include "core/scene/plates.h"

#include <set>

namespace underridge::model {
template class Table<scene::KeptItem>;
} // namespace underridge::model

namespace underridge::scene {
using namespace model;
namespace {

/// Items that are worth a thread.
constexpr std::size_t fewest = 500;

/// Makes the items of all records of a kind side by side; null where a record is not on
/// the sheet.
template <class Record, class Make>
std::vector<ItemPtr> itemsOf(const Network& network, Make&& make) {
    std::vector<const Record*> records;
    records.reserve(network.all<Record>().size());
    network.all<Record>().forEach([&](const Record& record) { records.push_back(&record); });
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

const LinkLine* Scene::link(LinkId id) const {
    const LinkLine* own = shapeOf<LinkLine>(id.value);
    if (own || !mergedInto_)
        return own;
    const auto at = mergedInto_->find(id);
    return at == mergedInto_->end() ? nullptr : shapeOf<LinkLine>(at->second.value);
}

std::optional<Anchor> Scene::anchorOf(DeviceId id) const {
    if (const Plate* held = plate(id))
        return held->anchor();
    const ObjectRef by = folding_ ? folding_->standsFor(id) : ObjectRef{};
    const Tile* folded = by.kind == Kind::group ? tile({by.id}) : nullptr;
    return folded ? std::optional(folded->anchor()) : std::nullopt;
}

namespace {

std::vector<ItemPtr> linesBetween(const Network& network, const Sheet& sheet, LengthUnit unit,
                                  const std::vector<ItemPtr>& plates) {
    const auto plateOfDevice = [&](DeviceId id) -> const Plate* {
        const auto at =
            std::lower_bound(plates.begin(), plates.end(), id.value,
                             [](const ItemPtr& item, std::uint64_t v) { return item->object.id < v; });
        return at != plates.end() && (*at)->object.id == id.value ? (*at)->as<Plate>() : nullptr;
    };
    Parallels parallels(network, sheet.id);
    parallels.prepare();
    return itemsOf<Link>(network, [&](const Link& link) -> std::optional<LinkLine> {
        const Plate *a = plateOfDevice(link.a.device), *b = plateOfDevice(link.b.device);
        if (!a || !b || !isDrawnOn(link, sheet.id))
            return std::nullopt;
        return lineOf(network, sheet, link, a->anchor(), b->anchor(), std::as_const(parallels).placeOf(link),
                      unit);
    });
}

} // namespace

Scene Scene::build(const Network& network, SheetId sheetId, LengthUnit unit, GroupId entered) {
    Scene scene;
    scene.sheet_ = sheetId;
    scene.unit_ = unit;
    scene.entered_ = entered;
    const Sheet* sheet = network.sheet(sheetId);
    if (!sheet)
        return scene;
    std::vector<ItemPtr> all =
        itemsOf<Device>(network, [&](const Device& device) { return plateOf(network, sheetId, device); });
    const GroupId within = network.group(entered)        ? entered
                           : network.group(sheet->shows) ? sheet->shows
                                                         : GroupId{};
    GroupedItems grouped;
    if (sheet->groups && network.all<Group>().size() > 0)
        grouped = groupedItems(network, *sheet, within, all, unit);
    if (grouped.folding) {
        all = std::move(grouped.plates);
        all.insert(all.end(), grouped.others.begin(), grouped.others.end());
        scene.folding_ = std::move(grouped.folding);
        if (!grouped.mergedInto.empty())
            scene.mergedInto_ =
                std::make_shared<const std::map<LinkId, LinkId>>(std::move(grouped.mergedInto));
    } else {
        grouped.lines = linesBetween(network, *sheet, unit, all);
    }
    all.insert(all.end(), grouped.lines.begin(), grouped.lines.end());
    if (!within)
        scene.addNotes(network, all);
    scene.take(std::move(all));
    return scene;
}

void Scene::addNotes(const Network& network, std::vector<ItemPtr>& items) const {
    network.forEachNoteOf(sheet_, [&](const Note& note) {
        if (auto card = cardOf(network, sheet_, note)) {
            if (folding_)
                card->frame = folding_->shownOnSheet(card->frame, card->zone);
            items.push_back(std::make_shared<const Item>(itemOf(*std::move(card))));
        }
    });
}

void Scene::take(std::vector<ItemPtr> all) {
    grid_ = Grid::of(all);
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
    Rect all;
    items_.forEach([&](const KeptItem& kept) { all = all.united(frameOf(*kept.item)); });
    return all;
}

bool Scene::gridIsTrue() const {
    std::set<const void*> inGrid, inTable;
    grid_.forEach([&](const ItemPtr& item) { inGrid.insert(item.get()); });
    auto counts = counts_;
    counts.fill(0);
    items_.forEach([&](const KeptItem& kept) {
        inTable.insert(kept.item.get());
        ++counts[kept.item->shape.index()];
    });
    return inGrid == inTable && counts == counts_;
}

/// Works out which items an edit touches and builds those again.
class SceneUpdate {
public:
    SceneUpdate(const Scene& scene, const Network& before, const Network& after)
        : was_(scene),
          updated_{scene, {}, false},
          before_(before),
          after_(after),
          parallels_(after, scene.sheet()) {}

    Updated run() {
        Network::compare(before_, after_, [&]<class R>(const R* old, const R* fresh) {
            if (old)
                note(*old);
            if (fresh)
                note(*fresh);
        });
        const Sheet* sheet = after_.sheet(updated_.scene.sheet());
        if (updated_.all || !sheet || showsGroups(*sheet)) {
            updated_.scene =
                Scene::build(after_, updated_.scene.sheet(), updated_.scene.unit_, updated_.scene.entered_);
            updated_.all = true;
            return std::move(updated_);
        }
        updated_.scene.names_ = std::make_shared<NamesAtZoom>();
        for (const DeviceId id : devices_) {
            const Device* device = after_.device(id);
            set(id.value, device ? plateOf(after_, sheet->id, *device) : std::nullopt);
            takeLinksOf(id);
        }
        for (const LinkId id : links_)
            set(id.value, lineFor(*sheet, id));
        for (const NoteId id : notes_) {
            const Note* held = after_.note(id);
            set(id.value, held && held->sheet == sheet->id ? cardOf(after_, sheet->id, *held) : std::nullopt);
        }
        followLabels();
        return std::move(updated_);
    }

private:
    bool showsGroups(const Sheet& sheet) const {
        return was_.folding() || (sheet.groups && after_.all<Group>().size() > 0);
    }

    void note(const Device& device) { devices_.insert(device.id); }
    void note(const Port& port) { devices_.insert(port.device); }
    void note(const Interface& interface) { devices_.insert(interface.device); }
    void note(const Link& link) {
        devices_.insert(link.a.device);
        devices_.insert(link.b.device);
        links_.insert(link.id);
    }
    void note(const Cable& cable) {
        for (const Network* network : {&before_, &after_})
            network->forEachLinkOf(cable.ends.empty() ? DeviceId{} : cable.ends.front().at.device,
                                   [&](const Link& link) {
                                       if (link.cable == cable.id)
                                           links_.insert(link.id);
                                   });
    }
    void note(const Position& position) {
        if (position.sheet != updated_.scene.sheet())
            return;
        if (position.of == Kind::device)
            devices_.insert({position.object});
        else if (position.of == Kind::link)
            links_.insert({position.object});
        else if (position.of == Kind::note)
            notes_.insert({position.object});
    }
    void note(const Note& held) { notes_.insert(held.id); }
    void note(const Sheet& sheet) { updated_.all |= sheet.id == updated_.scene.sheet(); }
    void note(const DeviceModel& model) { changedModel(model); }
    void note(const ModuleModel& model) { changedModel(model); }
    void note(const TransceiverModel&) {}
    void note(const CableType& type) { changedModel(type); }
    template <class Other>
    void note(const Other&) {}

    /// A model that came or went belongs to devices and cables that did too; only a
    /// changed one touches others.
    template <class Model>
    void changedModel(const Model& model) {
        updated_.all |= before_.find<Model>(model.key()) && after_.find<Model>(model.key());
    }

    void takeLinksOf(DeviceId id) {
        for (const Network* network : {&before_, &after_})
            network->forEachLinkOf(id, [&](const Link& link) { links_.insert(link.id); });
    }

    std::optional<LinkLine> lineFor(const Sheet& sheet, LinkId id) {
        const Scene& scene = updated_.scene;
        const Link* link = after_.link(id);
        if (!link || !isDrawnOn(*link, sheet.id))
            return std::nullopt;
        const auto a = scene.anchorOf(link->a.device), b = scene.anchorOf(link->b.device);
        if (!a || !b)
            return std::nullopt;
        return lineOf(after_, sheet, *link, *a, *b, parallels_.placeOf(*link), scene.unit_);
    }

    template <class Shape>
    void set(std::uint64_t id, std::optional<Shape> shape) {
        Scene& scene = updated_.scene;
        std::size_t& count = scene.counts_[Scene::indexOf<Shape>()];
        const KeptItem* old = scene.items_.find({id, 0});
        const ItemPtr was = old ? old->item : nullptr;
        const ItemPtr fresh = shape ? std::make_shared<const Item>(itemOf(*std::move(shape))) : nullptr;
        if (was == fresh || (was && fresh && *was == *fresh))
            return;
        if (was) {
            scene.grid_.remove(was);
            scene.items_.erase({id, 0});
            updated_.damage.push_back(was->bounds);
            changed_.push_back(was);
            --count;
        }
        if (fresh) {
            scene.grid_.put(fresh);
            scene.items_.put({fresh});
            updated_.damage.push_back(fresh->bounds);
            changed_.push_back(fresh);
            ++count;
        }
    }

    /// Labels of lines that have not changed move on their line when what was changed comes
    /// under them, or goes. Looked for along what was changed, not in the box round it,
    /// which for a long line is half the sheet.
    void followLabels() {
        std::set<LinkId> moved;
        for (const ItemPtr& item : changed_) {
            std::set<LinkId> looked;
            forEachPieceOf(*item, [&](const Rect& piece) {
                const Items near = updated_.scene.itemsIn(piece.grown(maxLabelWidth));
                for (const LinkLine* line : near.of<LinkLine>())
                    if (was_.link(line->id) == line && looked.insert(line->id).second &&
                        mayMoveLabels(*item, *line) && moved.insert(line->id).second)
                        moveLabels(*line);
            });
        }
    }

    /// Boxes along a path, or the one box.
    template <class Each>
    static void forEachPieceOf(const Item& item, Each&& each) {
        constexpr double most = 256;
        const LinkLine* line = item.as<LinkLine>();
        if (!line)
            return each(item.bounds);
        for (std::size_t i = 0; i + 1 < line->path.size(); ++i) {
            const PointF from = line->path[i], along = line->path[i + 1] - from;
            const double pieces = std::max(1.0, std::ceil(length(along) / most));
            for (double piece = 0; piece < pieces; ++piece)
                each(rectBetween(from + along * (piece / pieces), from + along * ((piece + 1) / pieces)));
        }
    }

    static bool mayMoveLabels(const Item& item, const LinkLine& line) {
        const auto under = [&](const Rect& place) { return liesUnder(item, place); };
        return std::any_of(line.labels.begin(), line.labels.end(), [&](const Label& label) {
            const auto places = placesOf(line, label);
            return label.kind == LabelKind::middle && std::any_of(places.begin(), places.end(), under);
        });
    }

    void moveLabels(const LinkLine& line) {
        for (const Label& label : line.labels) {
            const Rect before = was_.settled(line, label).area,
                       after = updated_.scene.settled(line, label).area;
            if (!(before == after))
                updated_.damage.insert(updated_.damage.end(), {before, after});
        }
    }

    const Scene& was_;
    Updated updated_;
    const Network& before_;
    const Network& after_;
    Parallels parallels_;
    std::vector<ItemPtr> changed_; ///< as they were and as they are
    std::set<DeviceId> devices_;
    std::set<LinkId> links_;
    std::set<NoteId> notes_;
};

Updated update(const Scene& scene, const Network& before, const Network& after) {
    return SceneUpdate(scene, before, after).run();
}

Hit hitAt(const Scene& scene, PointF point, double tolerance) {
    const Items items = scene.itemsIn(Rect{point.x, point.y, 0.001, 0.001}.grown(tolerance));
    const Item* best = nullptr;
    double nearest = 0;
    for (const Item* item : items.all()) { // lowest first: of what is equally near the topmost is meant
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
