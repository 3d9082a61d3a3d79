// SPDX-License-Identifier: GPL-3.0-or-later
// One sheet as something to draw and to point at: an immutable value made from a network.
// May be read from any thread. An edit makes a new scene that shares what did not change.
#pragma once
#include "core/find/matching.h"
#include "core/model/length.h"
#include "core/model/network.h"
#include "core/scene/folding.h"
#include "core/scene/grid.h"
#include "core/scene/layer_network.h"

#include <array>
#include <map>
#include <mutex>
#include <set>

namespace underridge::scene {

struct KeptItem {
    ItemPtr item;

    bool operator==(const KeptItem& o) const { return item == o.item || *item == *o.item; }
    model::Key key() const { return {item->object.id, 0}; }
};

/// Items in the order they are drawn: layer by layer, then by id.
class Items {
public:
    explicit Items(std::vector<const Item*> all);

    const std::vector<const Item*>& all() const { return all_; }
    /// Those of one shape.
    template <class Shape>
    std::vector<const Shape*> of() const {
        std::vector<const Shape*> out;
        for (const Item* item : all_)
            if (const Shape* shape = item->as<Shape>())
                out.push_back(shape);
        return out;
    }

private:
    std::vector<const Item*> all_;
};

/// How much is drawn, by zoom.
enum class Detail { far, middle, near, close };

Detail detailFor(double zoom);

/// Lines between the same two items drawn as one, far away.
struct Bundle {
    PointF a, b;
    int count = 0;
};
std::vector<Bundle> bundlesOf(const std::vector<const LinkLine*>& lines);

/// Where along its line a label in the middle may stand, best first.
std::array<Rect, 5> placesOf(const LinkLine& line, const Label& label);
/// Whether an item would lie under a label there, so that another place is better: plates
/// and lines do.
bool liesUnder(const Item& item, const Rect& place);

/// Of names far away, on the screen.
inline constexpr double farNamePx = 11;

/// The name of a plate or tile below it, far away, or of a frame above it.
struct FarName {
    model::ObjectRef of;
    std::string text;    ///< elided
    Rect area;           ///< in sheet units, as large as the zoom asks for
    bool inside = false; ///< on what it names
};

/// The name on its plate at middle zoom, where it has the plate to itself: in one line or
/// two, as large as the screen asks for and the plate has room for.
struct PlateName {
    struct Line {
        std::string text;
        PointF baseline;
    };
    std::vector<Line> lines;
    double size = 0; ///< sheet units
};
PlateName nameOn(const Plate& plate, double zoom);

/// The names of a whole scene at the zoom they were last asked for: shared by all who paint
/// it.
struct NamesAtZoom {
    std::mutex mutex;
    double zoom = 0; ///< 0: none yet
    std::vector<FarName> names;
};

class Scene;

/// The scene as it is seen at the last few steps of the zoom, groups closed: shared by all
/// who look at it.
struct SeenFromAfar {
    std::mutex mutex;
    std::map<int, std::shared_ptr<const Scene>> steps; ///< null: nothing closes
};

/// Everything drawn, worked out when it is first asked for.
struct Extent {
    std::once_flag once;
    Rect bounds;
};

/// How many of the devices of a sheet its filter finds; the others are faint or hidden.
struct Filtered {
    int found = 0, all = 0;
    bool hides = false;

    bool operator==(const Filtered&) const = default;
};

class Scene {
public:
    /// Lengths on labels are in `unit`.
    /// `entered`: only what is in that group is shown, with doorways to what is not; none:
    /// what the sheet shows. `findings`: for a sheet whose filter asks for them. `known`: a
    /// scene of the same network and sheet, of which what is the same is taken; null: none.
    static Scene build(const model::Network& network, model::SheetId sheet,
                       model::LengthUnit unit = model::LengthUnit::metres, model::GroupId entered = {},
                       std::shared_ptr<const find::Findings> findings = nullptr,
                       const Scene* known = nullptr);

    model::SheetId sheet() const { return sheet_; }
    model::GroupId entered() const { return entered_; }
    /// Where groups are shown and how what is in them came to where it is; null where the
    /// sheet shows no groups.
    const Folding* folding() const { return folding_.get(); }
    const std::shared_ptr<const Folding>& sharedFolding() const { return folding_; }
    /// Its devices as they stand unfolded; null where the sheet shows no groups.
    const Standings& standing() const { return standing_; }
    const Item* item(model::ObjectRef object) const;
    /// The item, or of a device that is tucked in the plate with its badge.
    const Item* itemFor(model::ObjectRef object) const;
    /// The device whose badge a device is in; none: it is not tucked in.
    model::DeviceId tuckedInto(model::DeviceId id) const;
    const Plate* plate(model::DeviceId id) const { return shapeOf<Plate>(id.value); }
    /// The line of a link, which may be that of several.
    const LinkLine* link(model::LinkId id) const;
    const Frame* frame(model::GroupId id) const { return shapeOf<Frame>(id.value); }
    const Tile* tile(model::GroupId id) const { return shapeOf<Tile>(id.value); }
    const RouteLine* route(model::CableRouteId id) const { return shapeOf<RouteLine>(id.value); }
    const NoteCard* note(model::NoteId id) const { return shapeOf<NoteCard>(id.value); }
    /// Where links of a device end on this sheet; nothing when the sheet does not show
    /// it.
    std::optional<Anchor> anchorOf(model::DeviceId id) const;
    /// What the filter of the sheet does; nothing where there is none that can be read.
    const std::optional<Filtered>& filtered() const { return filtered_; }
    /// What it draws: of a sheet of an upper layer the network that was made of it, else the
    /// one given.
    const model::Network& drawn(const model::Network& network) const {
        return layer_ ? layer_->drawn() : network;
    }
    /// Whether links of an upper layer are drawn as they were before some edit.
    bool isBehind() const { return layer_ && layer_->isBehind(); }
    bool empty() const { return items_.size() == 0; }
    template <class Shape>
    std::size_t count() const {
        return counts_[indexOf<Shape>()];
    }

    /// What meets a rectangle. Valid as long as the scene.
    Items itemsIn(const Rect& area) const { return Items(grid_.itemsIn(area)); }
    /// A label of a line where it is best put: see shown.cpp.
    Label settled(const LinkLine& line, Label label) const;
    /// Labels of links that may be shown together: none covers another or a plate. The
    /// answer for one label does not depend on `area`.
    std::vector<Label> labelsIn(const Rect& area) const;
    /// Names of plates that may be shown together far away, those of what matters most
    /// first: routers before switches before endpoints, then the better connected. The
    /// answer for one does not depend on `area`.
    std::vector<FarName> namesIn(const Rect& area, double zoom) const;
    /// The scene as it is seen at a zoom: from so far that nothing in a group can be named
    /// the group is closed to a tile as large as its frame, and lines to what is in it go
    /// to the tile. Nothing else moves. Itself where nothing closes; valid as long as it.
    std::shared_ptr<const Scene> seenAt(double zoom) const;
    /// The same where it was asked for before; null where it would have to be worked out or is just being.
    std::shared_ptr<const Scene> seenAlready(double zoom) const;
    /// Everything drawn, with no margin; empty for an empty sheet.
    Rect bounds() const;

    template <class Shape, class Each>
    void forEach(Each&& each) const {
        items_.forEach([&](const KeptItem& kept) {
            if (const Shape* shape = kept.item->as<Shape>())
                each(*shape);
        });
    }
    template <class Each>
    void forEachItem(Each&& each) const {
        items_.forEach([&](const KeptItem& kept) { each(*kept.item); });
    }
    template <class Each>
    void forEachPlate(Each&& each) const {
        forEach<Plate>(each);
    }
    template <class Each>
    void forEachLink(Each&& each) const {
        forEach<LinkLine>(each);
    }

    /// Whether both show the same: for tests.
    bool operator==(const Scene& other) const { return sheet_ == other.sheet_ && items_ == other.items_; }
    /// Whether the grids hold exactly the items that belong in them: for tests.
    bool gridIsTrue() const;

private:
    friend class SceneUpdate;
    friend class Closing;
    static Scene built(const model::Network& network, model::SheetId sheet, model::LengthUnit unit,
                       model::GroupId entered, std::shared_ptr<const find::Findings> findings,
                       const Scene* known = nullptr);
    void listBent(const model::Network& network);
    void addNotes(const model::Network& network, std::vector<ItemPtr>& items) const;
    void filter(const model::Network& network, const model::Sheet& sheet, std::vector<ItemPtr>& items);
    void tuckIn(const model::Network& network, std::vector<ItemPtr>& items);
    bool findsTucked(const model::Network& network, const find::Matcher& matcher, const Item& item) const;
    /// All there is, in a scene that has nothing yet.
    void take(std::vector<ItemPtr> all);
    template <class Shape>
    static constexpr std::size_t indexOf() {
        return indexIn<Shape>(static_cast<const decltype(Item::shape)*>(nullptr));
    }
    template <class Shape, class... Shapes>
    static constexpr std::size_t indexIn(const std::variant<Shapes...>*) {
        std::size_t index = 0;
        (void)((std::is_same_v<Shape, Shapes> || (++index, false)) || ...);
        return index;
    }
    template <class Shape>
    const Shape* shapeOf(std::uint64_t id) const {
        const KeptItem* kept = items_.find({id, 0});
        return kept ? kept->item->as<Shape>() : nullptr;
    }

    model::SheetId sheet_;
    model::LengthUnit unit_ = model::LengthUnit::metres;
    model::GroupId entered_;
    std::shared_ptr<const find::Findings> findings_;
    std::optional<Filtered> filtered_;
    std::shared_ptr<const Folding> folding_;
    Standings standing_;
    std::shared_ptr<const std::map<model::LinkId, model::LinkId>> mergedInto_; ///< null: none
    /// Links with bends of their own, where groups are shown; null: there are none.
    std::shared_ptr<const std::set<model::LinkId>> bent_;
    std::shared_ptr<const LayerNetwork> layer_; ///< null: the sheet is physical
    model::Table<KeptItem> items_;
    Grid grid_;
    Grid led_; ///< lines with a reach, which may have to be led anew when something comes there or goes
    std::array<std::size_t, std::variant_size_v<decltype(Item::shape)>> counts_{};
    Rect bounds_; ///< of all items, as they were when the scene was built
    std::shared_ptr<Extent> extent_ = std::make_shared<Extent>();
    std::shared_ptr<NamesAtZoom> names_ = std::make_shared<NamesAtZoom>();
    bool tucks_ = false;                                       ///< something may be tucked in
    using Tucked = std::map<model::DeviceId, model::DeviceId>; ///< into which
    std::shared_ptr<const Tucked> tucked_;                     ///< null: nothing
    bool closes_ = false;                                      ///< groups close by the zoom
    std::shared_ptr<SeenFromAfar> afar_ = std::make_shared<SeenFromAfar>();
};

/// The zoom below which anything may close.
inline constexpr double closingZoom = 0.2;

struct Updated {
    Scene scene;
    std::vector<Rect> damage; ///< what must be drawn anew, old places and new
    bool all = false;         ///< everything must
};

/// The scene after an edit; its cost follows what the edit changed. `later`: of an upper layer,
/// too, which may then be behind (Scene::isBehind()).
Updated update(const Scene& scene, const model::Network& before, const model::Network& after,
               bool later = false);
/// The scene of a sheet of an upper layer with the layer of the network as it is now.
Updated broughtUp(const Scene& scene, std::shared_ptr<const LayerNetwork> layer);

/// What lies at a point, the topmost first; links within `tolerance` sheet units, the
/// nearest of them.
Hit hitAt(const Scene& scene, PointF point, double tolerance);

/// The group whatever is put down at a point comes into: the tile or the innermost frame
/// there that is not `without` nor lies in one of them; else the entered group, or none.
model::GroupId groupAt(const Scene& scene, PointF point, const std::vector<model::ObjectRef>& without = {});

} // namespace underridge::scene

namespace underridge::model {
extern template class Table<scene::KeptItem>;
} // namespace underridge::model
