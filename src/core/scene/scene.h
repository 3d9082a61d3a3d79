// SPDX-License-Identifier: GPL-3.0-or-later
// One sheet as something to draw and to point at: an immutable value made from a network. May be read from
// any thread. An edit makes a new scene that shares what did not change.
//
// Items are kept in cells of a grid with several levels: an item lies in the level whose cells are at least
// as large as it is, so in at most four cells, however long a link is.
#pragma once
#include "core/scene/items.h"

namespace underridge::scene {

template <class Item>
struct Kept {
    std::uint64_t id = 0;
    std::shared_ptr<const Item> item;

    bool operator==(const Kept& o) const { return id == o.id && (item == o.item || *item == *o.item); }
    model::Key key() const { return {id, 0}; }
};

struct Cell {
    model::Key place;
    std::vector<std::shared_ptr<const Plate>> plates;
    std::vector<std::shared_ptr<const LinkLine>> links;
    std::vector<std::shared_ptr<const NoteCard>> notes;

    bool operator==(const Cell&) const { return false; } // cells are compared by what is in them, elsewhere
    model::Key key() const { return place; }
    bool empty() const { return plates.empty() && links.empty() && notes.empty(); }
};

struct Items {
    std::vector<const Plate*> plates;
    std::vector<const LinkLine*> links;
    std::vector<const NoteCard*> notes;
};

class Scene {
public:
    /// Lengths on labels are in `unit`.
    static Scene build(const model::Network& network, model::SheetId sheet,
                       model::LengthUnit unit = model::LengthUnit::metres);

    model::SheetId sheet() const { return sheet_; }
    const Plate* plate(model::DeviceId id) const;
    const LinkLine* link(model::LinkId id) const;
    const NoteCard* note(model::NoteId id) const;
    std::size_t plateCount() const { return plates_.size(); }
    std::size_t linkCount() const { return links_.size(); }
    std::size_t noteCount() const { return notes_.size(); }

    /// What meets a rectangle, each once, in the order of ids. Valid as long as the scene.
    Items itemsIn(const Rect& area) const;
    /// Labels of links that may be shown together: none covers another or a plate. The answer for one
    /// label does not depend on `area`.
    std::vector<const Label*> labelsIn(const Rect& area) const;
    /// Everything drawn, with no margin; empty for an empty sheet.
    Rect bounds() const;

    template <class Each>
    void forEachPlate(Each&& each) const {
        plates_.forEach([&](const Kept<Plate>& kept) { each(*kept.item); });
    }
    template <class Each>
    void forEachLink(Each&& each) const {
        links_.forEach([&](const Kept<LinkLine>& kept) { each(*kept.item); });
    }

    /// Whether both show the same: for tests.
    bool operator==(const Scene& other) const {
        return sheet_ == other.sheet_ && plates_ == other.plates_ && links_ == other.links_ &&
               notes_ == other.notes_;
    }
    /// Whether the grid holds exactly the items: for tests.
    bool gridIsTrue() const;

private:
    friend class SceneUpdate;
    template <class Item>
    void setItem(model::Table<Kept<Item>>& table, std::uint64_t id, std::shared_ptr<const Item> item,
                 std::vector<Rect>* damage);

    model::SheetId sheet_;
    model::LengthUnit unit_ = model::LengthUnit::metres;
    model::Table<Kept<Plate>> plates_;
    model::Table<Kept<LinkLine>> links_;
    model::Table<Kept<NoteCard>> notes_;
    model::Table<Cell> cells_;
};

struct Updated {
    Scene scene;
    std::vector<Rect> damage; ///< what must be drawn anew, old places and new
    bool all = false;         ///< everything must
};

/// The scene after an edit; its cost follows what the edit changed.
Updated update(const Scene& scene, const model::Network& before, const model::Network& after);

/// What a point means.
struct Hit {
    model::ObjectRef object; ///< Kind::unknown: nothing
    int port = -1;           ///< index in the plate's rail when the point is on it

    bool operator==(const Hit&) const = default;
    explicit operator bool() const { return object.kind != model::Kind::unknown; }
};

/// Notes lie over plates, plates over links. Links are met within `tolerance` sheet units.
Hit hitAt(const Scene& scene, PointF point, double tolerance);

} // namespace underridge::scene

namespace underridge::model {
extern template class Table<scene::Kept<scene::Plate>>;
extern template class Table<scene::Kept<scene::LinkLine>>;
extern template class Table<scene::Kept<scene::NoteCard>>;
extern template class Table<scene::Cell>;
} // namespace underridge::model
