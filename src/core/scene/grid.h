// SPDX-License-Identifier: GPL-3.0-or-later
// Where items lie: cells of several levels. An item lies in the level whose cells are at
// least as large as it is, so in at most four cells, however long a link is. A value:
// copies share what is the same.
#pragma once
#include "core/model/key.h"
#include "core/model/table.h"
#include "core/scene/items.h"

#include <memory>

namespace underridge::scene {

using ItemPtr = std::shared_ptr<const Item>;

struct Cell {
    model::Key place;
    std::vector<ItemPtr> items;

    bool operator==(const Cell&) const { return false; } // what is in them is compared elsewhere
    model::Key key() const { return place; }
};

class Grid {
public:
    /// The grid of these items, made at once.
    static Grid of(const std::vector<ItemPtr>& items);

    void put(const ItemPtr& item);
    void remove(const ItemPtr& item);

    /// What meets a rectangle, each once, in no order.
    std::vector<const Item*> itemsIn(const Rect& area) const;
    /// Of these what lines go round: what is on the layer of plates, and frames.
    std::vector<const Item*> obstaclesIn(const Rect& area) const;
    /// What has a rectangle in its bounds: such as a line that was led elsewhere because of what is there.
    std::vector<const Item*> itemsReaching(const Rect& area) const;
    /// Every item of every cell: those in several come several times.
    template <class Each>
    void forEach(Each&& each) const {
        cells_.forEach([&](const Cell& cell) {
            for (const ItemPtr& item : cell.items)
                each(item);
        });
    }

private:
    template <class Wanted>
    std::vector<const Item*> found(const Rect& area, Wanted&& wanted) const;

    model::Table<Cell> cells_;
};

} // namespace underridge::scene

namespace underridge::model {
extern template class Table<scene::Cell>;
} // namespace underridge::model
