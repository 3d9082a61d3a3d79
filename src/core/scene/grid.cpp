// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/scene/grid.h"

#include "core/model/table_impl.h"

#include <array>

namespace underridge::model {
template class Table<scene::Cell>;
} // namespace underridge::model

namespace underridge::scene {
using model::Key;
namespace {

constexpr int levels = 7;
constexpr double finest = 512, coarser = 4;
constexpr std::int64_t bias = std::int64_t{1} << 30;
/// A cell of a wide empty area costs a look-up, so levels with more cells than this are
/// scanned instead.
constexpr double manyCells = 4096;

double cellSize(int level) {
    static constexpr auto sizes = [] {
        std::array<double, levels> out{};
        double size = finest;
        for (double& each : out) {
            each = size;
            size *= coarser;
        }
        return out;
    }();
    return sizes[static_cast<std::size_t>(level)];
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

template <class Each>
void forEachCellOf(const Item& item, Each&& each) {
    forEachCell(item.bounds, levelFor(item.bounds), each);
}

} // namespace

Grid Grid::of(const std::vector<ItemPtr>& items) {
    std::vector<std::pair<Key, std::size_t>> places; // and which item lies there
    places.reserve(2 * items.size());
    for (std::size_t i = 0; i < items.size(); ++i)
        forEachCellOf(*items[i], [&](Key key) { places.emplace_back(key, i); });
    std::sort(places.begin(), places.end());
    std::vector<Cell> sorted;
    for (const auto& [key, item] : places) {
        if (sorted.empty() || sorted.back().place != key)
            sorted.push_back({key, {}});
        sorted.back().items.push_back(items[item]);
    }
    Grid grid;
    grid.cells_ = model::Table<Cell>::fromSorted(std::move(sorted));
    return grid;
}

void Grid::put(const ItemPtr& item) {
    forEachCellOf(*item, [&](Key key) {
        const Cell* held = cells_.find(key);
        Cell cell = held ? *held : Cell{key, {}};
        cell.items.push_back(item);
        cells_.put(std::move(cell));
    });
}

void Grid::remove(const ItemPtr& item) {
    forEachCellOf(*item, [&](Key key) {
        Cell cell = *cells_.find(key);
        std::erase(cell.items, item);
        if (cell.items.empty())
            cells_.erase(key);
        else
            cells_.put(std::move(cell));
    });
}

template <class Wanted>
std::vector<const Item*> Grid::found(const Rect& area, Wanted&& wanted) const {
    std::vector<const Item*> found;
    const auto take = [&](const Cell& cell) {
        for (const ItemPtr& item : cell.items)
            if (wanted(*item))
                found.push_back(item.get());
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
    std::sort(found.begin(), found.end());
    found.erase(std::unique(found.begin(), found.end()), found.end());
    return found;
}

std::vector<const Item*> Grid::itemsIn(const Rect& area) const {
    return found(area, [&](const Item& item) { return meets(item, area); });
}
std::vector<const Item*> Grid::obstaclesIn(const Rect& area) const {
    return found(area, [&](const Item& item) {
        return (item.layer == Layer::plates || item.as<Frame>()) && item.bounds.intersects(area);
    });
}
std::vector<const Item*> Grid::itemsReaching(const Rect& area) const {
    return found(area, [&](const Item& item) { return item.bounds.intersects(area); });
}

} // namespace underridge::scene
