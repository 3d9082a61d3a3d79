// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/scene/scene.h"

#include "core/base/parallel.h"
#include "core/model/table_impl.h"

#include <map>
#include <set>

namespace underridge::model {
template class Table<scene::Kept<scene::Plate>>;
template class Table<scene::Kept<scene::LinkLine>>;
template class Table<scene::Kept<scene::NoteCard>>;
template class Table<scene::Cell>;
} // namespace underridge::model

namespace underridge::scene {
using namespace model;
namespace {

constexpr int levels = 7;
constexpr double finest = 512, coarser = 4;
constexpr std::int64_t bias = std::int64_t{1} << 30;

double cellSize(int level) {
    return finest * std::pow(coarser, level);
}

int levelFor(const Rect& bounds) {
    int level = 0;
    while (level + 1 < levels && std::max(bounds.w, bounds.h) > cellSize(level))
        ++level;
    return level;
}

Key cellKey(int level, std::int64_t x, std::int64_t y) {
    return {static_cast<std::uint64_t>(level),
            (static_cast<std::uint64_t>(x + bias) << 32) | static_cast<std::uint64_t>(y + bias)};
}

template <class Each>
void forEachCell(const Rect& area, int level, Each&& each) {
    const double size = cellSize(level);
    const auto index = [&](double v) { return static_cast<std::int64_t>(std::floor(v / size)); };
    for (std::int64_t y = index(area.y); y <= index(area.bottom()); ++y)
        for (std::int64_t x = index(area.x); x <= index(area.right()); ++x)
            each(cellKey(level, x, y));
}

Rect boundsFor(const Plate& plate) {
    return plate.frame.grown(3);
}
Rect boundsFor(const LinkLine& line) {
    return line.bounds;
}
Rect boundsFor(const NoteCard& note) {
    return note.frame.grown(3);
}

std::vector<std::shared_ptr<const Plate>>& listIn(Cell& cell, const Plate*) {
    return cell.plates;
}
std::vector<std::shared_ptr<const LinkLine>>& listIn(Cell& cell, const LinkLine*) {
    return cell.links;
}
std::vector<std::shared_ptr<const NoteCard>>& listIn(Cell& cell, const NoteCard*) {
    return cell.notes;
}

bool meets(const LinkLine& line, const Rect& area) {
    if (!line.bounds.intersects(area))
        return false;
    const Rect grown = area.grown(8);
    for (std::size_t i = 1; i < line.path.size(); ++i)
        if (segmentMeets(line.path[i - 1], line.path[i], grown))
            return true;
    return std::any_of(line.labels.begin(), line.labels.end(),
                       [&](const Label& label) { return label.area.intersects(area); });
}

template <class Item>
void sortOnce(std::vector<const Item*>& items) {
    std::sort(items.begin(), items.end(), [](const Item* a, const Item* b) { return a->id < b->id; });
    items.erase(std::unique(items.begin(), items.end()), items.end());
}

/// A cell of a wide empty area costs a look-up, so levels with more cells than items are scanned instead.
constexpr double manyCells = 4096;

} // namespace

const Plate* Scene::plate(DeviceId id) const {
    const auto* kept = plates_.find({id.value, 0});
    return kept ? kept->item.get() : nullptr;
}

const LinkLine* Scene::link(LinkId id) const {
    const auto* kept = links_.find({id.value, 0});
    return kept ? kept->item.get() : nullptr;
}

const NoteCard* Scene::note(NoteId id) const {
    const auto* kept = notes_.find({id.value, 0});
    return kept ? kept->item.get() : nullptr;
}

template <class Item>
void Scene::setItem(Table<Kept<Item>>& table, std::uint64_t id, std::shared_ptr<const Item> item,
                    std::vector<Rect>* damage) {
    const Item* type = nullptr;
    if (const Kept<Item>* old = table.find({id, 0})) {
        if (item && *item == *old->item)
            return;
        const std::shared_ptr<const Item> was = old->item;
        const Rect bounds = boundsFor(*was);
        forEachCell(bounds, levelFor(bounds), [&](Key key) {
            Cell cell = *cells_.find(key);
            std::erase(listIn(cell, type), was);
            if (cell.empty())
                cells_.erase(key);
            else
                cells_.put(std::move(cell));
        });
        if (damage)
            damage->push_back(bounds);
        table.erase({id, 0});
    }
    if (!item)
        return;
    const Rect bounds = boundsFor(*item);
    forEachCell(bounds, levelFor(bounds), [&](Key key) {
        const Cell* held = cells_.find(key);
        Cell cell = held ? *held : Cell{key, {}, {}, {}};
        listIn(cell, type).push_back(item);
        cells_.put(std::move(cell));
    });
    if (damage)
        damage->push_back(bounds);
    table.put({id, std::move(item)});
}

namespace {

/// A scene's tables while it is built: each made at once, instead of copying a cell for each item put into
/// it.
struct Filling {
    std::map<Key, Cell> cells;

    /// In the order of their ids; those that are nothing are not on the sheet.
    template <class Item>
    Table<Kept<Item>> taken(std::vector<std::shared_ptr<const Item>> items) {
        std::vector<Kept<Item>> kept;
        kept.reserve(items.size());
        const Item* type = nullptr;
        for (std::shared_ptr<const Item>& item : items) {
            if (!item)
                continue;
            const Rect bounds = boundsFor(*item);
            forEachCell(bounds, levelFor(bounds), [&](Key key) { listIn(cells[key], type).push_back(item); });
            kept.push_back({item->id.value, std::move(item)});
        }
        return Table<Kept<Item>>::fromSorted(std::move(kept));
    }

    Table<Cell> grid() {
        std::vector<Cell> all;
        all.reserve(cells.size());
        for (auto& [key, cell] : cells) {
            cell.place = key;
            all.push_back(std::move(cell));
        }
        return Table<Cell>::fromSorted(std::move(all));
    }
};

} // namespace

Scene Scene::build(const Network& network, SheetId sheet, LengthUnit unit) {
    constexpr std::size_t fewest = 500; // items that are worth a thread
    Scene scene;
    scene.sheet_ = sheet;
    scene.unit_ = unit;
    Filling filling;
    std::vector<const Device*> devices;
    network.all<Device>().forEach([&](const Device& device) { devices.push_back(&device); });
    std::vector<std::shared_ptr<const Plate>> plates(devices.size());
    forEachIndex(devices.size(), fewest,
                 [&](std::size_t i) { plates[i] = plateOf(network, sheet, *devices[i]); });
    scene.plates_ = filling.taken(std::move(plates));
    std::vector<const Link*> links;
    network.all<Link>().forEach([&](const Link& link) { links.push_back(&link); });
    std::vector<std::shared_ptr<const LinkLine>> lines(links.size());
    forEachIndex(links.size(), fewest, [&](std::size_t i) {
        const Plate* a = scene.plate(links[i]->a.device);
        const Plate* b = scene.plate(links[i]->b.device);
        if (a && b)
            lines[i] = lineOf(network, sheet, *links[i], *a, *b, unit);
    });
    scene.links_ = filling.taken(std::move(lines));
    std::vector<std::shared_ptr<const NoteCard>> notes;
    network.forEachNoteOf(sheet, [&](const Note& note) { notes.push_back(cardOf(network, sheet, note)); });
    scene.notes_ = filling.taken(std::move(notes));
    scene.cells_ = filling.grid();
    return scene;
}

Items Scene::itemsIn(const Rect& area) const {
    Items items;
    const auto take = [&](const Cell& cell) {
        for (const auto& plate : cell.plates)
            if (boundsFor(*plate).intersects(area))
                items.plates.push_back(plate.get());
        for (const auto& line : cell.links)
            if (meets(*line, area))
                items.links.push_back(line.get());
        for (const auto& note : cell.notes)
            if (boundsFor(*note).intersects(area))
                items.notes.push_back(note.get());
    };
    for (int level = 0; level < levels; ++level) {
        const double size = cellSize(level);
        if ((area.w / size + 1) * (area.h / size + 1) > manyCells) {
            cells_.forEachIn(static_cast<std::uint64_t>(level), take);
            continue;
        }
        forEachCell(area, level, [&](Key key) {
            if (const Cell* cell = cells_.find(key))
                take(*cell);
        });
    }
    sortOnce(items.plates);
    sortOnce(items.links);
    sortOnce(items.notes);
    return items;
}

std::vector<const Label*> Scene::labelsIn(const Rect& area) const {
    // A label is shown when no plate lies under it and no label of higher rank touches it, whether that one
    // is itself shown or not: so the answer is the same from whichever side one looks.
    constexpr double reach = 200;
    const Items items = itemsIn(area.grown(reach));
    struct Ranked {
        const Label* label;
        std::pair<int, std::uint64_t> rank;
    };
    std::vector<Ranked> all;
    for (const LinkLine* line : items.links)
        for (const Label& label : line->labels)
            all.push_back(
                {&label,
                 {label.kind == LabelKind::middle, line->id.value * 4 + static_cast<unsigned>(label.kind)}});
    std::sort(all.begin(), all.end(),
              [](const Ranked& a, const Ranked& b) { return a.label->area.x < b.label->area.x; });
    std::vector<const Label*> shown;
    for (std::size_t i = 0; i < all.size(); ++i) {
        const Rect& mine = all[i].label->area;
        if (!mine.intersects(area))
            continue;
        const auto covers = [&](const Ranked& other) {
            return other.label != all[i].label && other.rank < all[i].rank &&
                   other.label->area.intersects(mine);
        };
        bool hidden = std::any_of(items.plates.begin(), items.plates.end(),
                                  [&](const Plate* plate) { return plate->frame.intersects(mine); });
        for (std::size_t j = i; !hidden && j-- > 0 && all[j].label->area.x > mine.x - reach;)
            hidden = covers(all[j]);
        for (std::size_t j = i + 1; !hidden && j < all.size() && all[j].label->area.x < mine.right(); ++j)
            hidden = covers(all[j]);
        if (!hidden)
            shown.push_back(all[i].label);
    }
    return shown;
}

Rect Scene::bounds() const {
    Rect all;
    plates_.forEach([&](const Kept<Plate>& kept) { all = all.united(kept.item->frame); });
    links_.forEach([&](const Kept<LinkLine>& kept) { all = all.united(boundsOf(kept.item->path)); });
    notes_.forEach([&](const Kept<NoteCard>& kept) { all = all.united(kept.item->frame); });
    return all;
}

bool Scene::gridIsTrue() const {
    std::set<const void*> inGrid, inTables;
    cells_.forEach([&](const Cell& cell) {
        for (const auto& item : cell.plates)
            inGrid.insert(item.get());
        for (const auto& item : cell.links)
            inGrid.insert(item.get());
        for (const auto& item : cell.notes)
            inGrid.insert(item.get());
    });
    const auto take = [&](const auto& kept) { inTables.insert(kept.item.get()); };
    plates_.forEach(take);
    links_.forEach(take);
    notes_.forEach(take);
    return inGrid == inTables;
}

/// Works out which items an edit touches and builds those again.
class SceneUpdate {
public:
    SceneUpdate(const Scene& scene, const Network& before, const Network& after)
        : updated_{scene, {}, false}, before_(before), after_(after) {}

    Updated run() {
        Network::compare(before_, after_, [&]<class R>(const R* old, const R* fresh) {
            if (old)
                note(*old);
            if (fresh)
                note(*fresh);
        });
        if (updated_.all) {
            updated_.scene = Scene::build(after_, updated_.scene.sheet(), updated_.scene.unit_);
            return std::move(updated_);
        }
        Scene& scene = updated_.scene;
        for (const DeviceId id : devices_) {
            const Device* device = after_.device(id);
            scene.setItem(scene.plates_, id.value, device ? plateOf(after_, scene.sheet(), *device) : nullptr,
                          &updated_.damage);
            takeLinksOf(id);
        }
        for (const LinkId id : links_)
            refresh(id);
        for (const NoteId id : notes_) {
            const Note* held = after_.note(id);
            scene.setItem(scene.notes_, id.value,
                          held && held->sheet == scene.sheet() ? cardOf(after_, scene.sheet(), *held)
                                                               : nullptr,
                          &updated_.damage);
        }
        return std::move(updated_);
    }

private:
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
        const ObjectRef ref = kindOf(position.object);
        if (ref.kind == Kind::device)
            devices_.insert({ref.id});
        else if (ref.kind == Kind::link)
            links_.insert({ref.id});
        else if (ref.kind == Kind::note)
            notes_.insert({ref.id});
    }
    void note(const Note& held) { notes_.insert(held.id); }
    void note(const DeviceModel& model) { changedModel(model); }
    void note(const ModuleModel& model) { changedModel(model); }
    void note(const TransceiverModel&) {}
    void note(const CableType& type) { changedModel(type); }
    template <class Other>
    void note(const Other&) {}

    /// A model that came or went belongs to devices and cables that did too; only a changed one touches
    /// others.
    template <class Model>
    void changedModel(const Model& model) {
        updated_.all |= before_.find<Model>(model.key()) && after_.find<Model>(model.key());
    }

    ObjectRef kindOf(std::uint64_t id) const {
        for (const Network* network : {&after_, &before_}) {
            if (network->device({id}))
                return {Kind::device, id};
            if (network->link({id}))
                return {Kind::link, id};
            if (network->note({id}))
                return {Kind::note, id};
        }
        return {};
    }

    void takeLinksOf(DeviceId id) {
        for (const Network* network : {&before_, &after_})
            network->forEachLinkOf(id, [&](const Link& link) { links_.insert(link.id); });
    }

    void refresh(LinkId id) {
        Scene& scene = updated_.scene;
        const Link* link = after_.link(id);
        const Plate* a = link ? scene.plate(link->a.device) : nullptr;
        const Plate* b = link ? scene.plate(link->b.device) : nullptr;
        scene.setItem(scene.links_, id.value,
                      a && b ? lineOf(after_, scene.sheet(), *link, *a, *b, scene.unit_) : nullptr,
                      &updated_.damage);
    }

    Updated updated_;
    const Network& before_;
    const Network& after_;
    std::set<DeviceId> devices_;
    std::set<LinkId> links_;
    std::set<NoteId> notes_;
};

Updated update(const Scene& scene, const Network& before, const Network& after) {
    return SceneUpdate(scene, before, after).run();
}

Hit hitAt(const Scene& scene, PointF point, double tolerance) {
    const Items items = scene.itemsIn(Rect{point.x, point.y, 0.001, 0.001}.grown(tolerance));
    for (auto at = items.notes.rbegin(); at != items.notes.rend(); ++at)
        if ((*at)->frame.contains(point))
            return {refTo((*at)->id), -1};
    for (auto at = items.plates.rbegin(); at != items.plates.rend(); ++at)
        if ((*at)->frame.contains(point)) {
            const Rail& rail = (*at)->rail;
            const bool onRail = rail.columns > 0 && rail.area.grown(2).contains(point);
            const int port = onRail ? rail.nearest(point) : -1;
            return {refTo((*at)->id), port < static_cast<int>((*at)->ticks.size()) ? port : -1};
        }
    const LinkLine* nearest = nullptr;
    double best = tolerance;
    for (const LinkLine* line : items.links)
        for (std::size_t i = 1; i < line->path.size(); ++i)
            if (const double d = distanceToSegment(point, line->path[i - 1], line->path[i]); d <= best) {
                best = d;
                nearest = line;
            }
    return nearest ? Hit{refTo(nearest->id), -1} : Hit{};
}

} // namespace underridge::scene
