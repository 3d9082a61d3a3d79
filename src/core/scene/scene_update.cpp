// SPDX-License-Identifier: GPL-3.0-or-later
// The scene after an edit.
#include "core/model/table_impl.h"
#include "core/scene/groups.h"
#include "core/scene/lines.h"
#include "core/scene/pieces.h"
#include "core/scene/plates.h"
#include "core/scene/scene.h"
#include "core/scene/tucking.h"

#include <set>

namespace underridge::scene {
using namespace model;

/// Works out which items an edit touches and builds those again.
class SceneUpdate {
public:
    SceneUpdate(const Scene& scene, const Network& before, const Network& after)
        : was_(scene),
          updated_{scene, {}, false},
          before_(before),
          after_(after),
          parallels_(after, scene.sheet()) {}

    static Updated between(const Scene& scene, const Network& before, const Network& after, bool later) {
        if (before == after)
            return {scene, {}, false};
        const Sheet* sheet = after.sheet(scene.sheet());
        const bool upper = sheet && sheet->follows();
        if (!upper && !scene.layer_)
            return SceneUpdate(scene, before, after).run();
        if (!upper || !scene.layer_) // another layer than before
            return {
                Scene::build(after, scene.sheet(), scene.unit_, scene.entered_, scene.findings_), {}, true};
        return broughtUp(scene, std::make_shared<const LayerNetwork>(scene.layer_->after(after, later)));
    }

    static Updated broughtUp(const Scene& scene, std::shared_ptr<const LayerNetwork> layer) {
        Updated out = SceneUpdate(scene, scene.layer_->drawn(), layer->drawn()).run();
        out.scene.layer_ = std::move(layer);
        return out;
    }

    Updated run() {
        Network::compare(before_, after_, [&]<class R>(const R* old, const R* fresh) {
            if (old)
                note(*old);
            if (fresh)
                note(*fresh);
        });
        const Sheet* sheet = after_.sheet(updated_.scene.sheet());
        const bool grouped = sheet && showsGroups(*sheet);
        updated_.all |= sheet && after_.group(sheet->shows); // who is in it may have changed
        updated_.all |= was_.filtered().has_value();         // who is found may have, too
        if (updated_.all || !sheet || (grouped && !followGroups(*sheet))) {
            updated_.scene = Scene::built(after_, was_.sheet(), was_.unit_, was_.entered_, was_.findings_);
            updated_.all = true;
            return std::move(updated_);
        }
        updated_.scene.extent_ = std::make_shared<Extent>();
        updated_.scene.names_ = std::make_shared<NamesAtZoom>();
        updated_.scene.afar_ = std::make_shared<SeenFromAfar>();
        if (grouped)
            return std::move(updated_);
        takeTuckers();
        for (const DeviceId id : devices_) {
            const Device* device = after_.device(id);
            set(id.value, dressed(id, device ? plateOf(after_, sheet->id, *device) : std::nullopt));
            takeLinksOf(id);
        }
        takeLinesRound(*sheet);
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
        return was_.folding() || (sheet.drawsGroups() && after_.all<Group>().size() > 0);
    }

    /// Of these the plate is another; of others that are only moved it is the same elsewhere.
    void takeAnew(DeviceId id) {
        devices_.insert(id);
        anew_.insert(id);
    }
    void note(const Device& device) { takeAnew(device.id); }
    void note(const Port& port) { takeAnew(port.device); }
    void note(const Interface& interface) { takeAnew(interface.device); }
    void note(const Link& link) {
        takeAnew(link.a.device);
        takeAnew(link.b.device);
        links_.insert(link.id);
    }
    void note(const Cable& cable) {
        if (cable.ends.empty()) { // such as stand for what links of an upper layer say
            if (linksOf_.empty())
                for (const Network* network : {&before_, &after_})
                    network->all<Link>().forEach([&](const Link& link) {
                        if (link.cable)
                            linksOf_[link.cable.value].insert(link.id);
                    });
            const std::set<LinkId>& links = linksOf_[cable.id.value];
            links_.insert(links.begin(), links.end());
            return;
        }
        for (const Network* network : {&before_, &after_})
            network->forEachLinkOf(cable.ends.front().at.device, [&](const Link& link) {
                if (link.cable == cable.id)
                    links_.insert(link.id);
            });
    }
    void note(const Position& position) {
        if (position.sheet != updated_.scene.sheet())
            return;
        if (position.of == Kind::device) {
            devices_.insert({position.object});
            updated_.scene.tucks_ |= position.tucks;
        } else if (position.of == Kind::group)
            drawn_.insert({position.object});
        else if (position.of == Kind::link) {
            links_.insert({position.object});
            bendsChanged_ = true;
        } else if (position.of == Kind::note)
            notes_.insert({position.object});
    }
    void note(const Note& held) { notes_.insert(held.id); }
    void note(const Group& group) { groups_.insert(group.id); }
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

    /// Lines that go round plates (`LinkLine::reach`) are led anew where they may meet one that came, went or
    /// moved.
    void takeLinesRound(const Sheet& sheet) {
        if (!sheet.runsAlongAxes() && !updated_.scene.folding_)
            return;
        std::vector<Rect> places;
        Rect all;
        for (const ItemPtr& item : changed_)
            if (item->layer == Layer::plates || (item->as<Frame>() && !sheet.runsAlongAxes())) {
                places.push_back(item->bounds);
                all = all.united(item->bounds);
            }
        if (sheet.runsAlongAxes() && places.size() > mostPlaces)
            places = {all};
        for (const Rect& place : places)
            for (const Item* item : was_.led_.itemsReaching(place)) {
                const LinkLine& line = *item->as<LinkLine>();
                const bool matters = sheet.runsAlongAxes() || line.obstructed || meets(*item, place);
                if (matters && line.reach.intersects(place))
                    links_.insert(line.id);
            }
    }

    // --- what is tucked in ------------------------------------------------------

    /// Whether a device goes into a badge, and that badge with it, follows from what it is
    /// linked to.
    void takeTuckers() {
        if (!updated_.scene.tucks_)
            return;
        const std::set<DeviceId> changed = devices_;
        for (const DeviceId id : changed)
            for (const Network* network : {&before_, &after_})
                takeAround(*network, id, devices_);
    }

    /// A plate as it is drawn: with its badge, or not at all.
    std::optional<Plate> dressed(DeviceId id, std::optional<Plate> plate) {
        Scene& scene = updated_.scene;
        if (!scene.tucks_)
            return plate;
        const DeviceId into = plate ? tuckedInto(after_, scene.sheet_, scene.folding(), id) : DeviceId{};
        if (into != scene.tuckedInto(id)) {
            if (!tucked_) // copied once, however many change
                scene.tucked_ = tucked_ =
                    std::make_shared<Scene::Tucked>(scene.tucked_ ? *scene.tucked_ : Scene::Tucked{});
            if (into)
                (*tucked_)[id] = into;
            else
                tucked_->erase(id);
        }
        if (!plate || into)
            return std::nullopt;
        return withTucked(after_, scene.sheet_, scene.folding(), *std::move(plate));
    }

    bool hasTuckedEnd(const Link& link) const {
        return updated_.scene.tuckedInto(link.a.device) || updated_.scene.tuckedInto(link.b.device);
    }

    std::optional<LinkLine> lineFor(const Sheet& sheet, LinkId id) {
        const Scene& scene = updated_.scene;
        const Link* link = after_.link(id);
        if (!link || !isDrawnOn(*link, sheet) || hasTuckedEnd(*link))
            return std::nullopt;
        const auto a = scene.anchorOf(link->a.device), b = scene.anchorOf(link->b.device);
        if (!a || !b)
            return std::nullopt;
        return lineOf(after_, sheet, *link, *a, *b, parallels_.placeOf(*link), scene.unit_, nullptr,
                      scene.grid_);
    }

    template <class Shape>
    void set(std::uint64_t id, std::optional<Shape> shape) {
        put(id, shape ? std::make_shared<const Item>(itemOf(*std::move(shape))) : nullptr);
    }

    void put(std::uint64_t id, const ItemPtr& fresh) {
        Scene& scene = updated_.scene;
        const KeptItem* old = scene.items_.find({id, 0});
        const ItemPtr was = old ? old->item : nullptr;
        if (was == fresh || (was && fresh && *was == *fresh))
            return;
        if (was) {
            scene.grid_.remove(was);
            if (isLed(*was))
                scene.led_.remove(was);
            scene.items_.erase({id, 0});
            updated_.damage.push_back(was->bounds);
            changed_.push_back(was);
            --scene.counts_[was->shape.index()];
        }
        if (fresh) {
            scene.grid_.put(fresh);
            if (isLed(*fresh))
                scene.led_.put(fresh);
            scene.items_.put({fresh});
            updated_.damage.push_back(fresh->bounds);
            changed_.push_back(fresh);
            ++scene.counts_[fresh->shape.index()];
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
        forEachPiece(line->path, most, [&](PointF from, PointF to) { each(rectBetween(from, to)); });
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

    // --- sheets that show groups -----------------------------------------------

    /// Whether it could be followed; else all is to be built anew.
    bool followGroups(const Sheet& sheet) {
        if (!was_.folding() || !sheet.drawsGroups() || was_.entered())
            return false;
        for (const DeviceId id : devices_)
            fresh_[id] = plateNow(sheet, id);
        updated_.scene.standing_ = standingNow();
        updated_.scene.folding_ = std::make_shared<const Folding>(foldingNow());
        if (now().groups().empty())
            return false;
        followPlates(sheet);
        if (bendsChanged_)
            updated_.scene.listBent(after_);
        takeBentLinks();
        followFrames(sheet);
        takeLinesRound(sheet);
        followLines(sheet);
        followNotes(sheet);
        // Of very much that changed the labels need not be followed one by one.
        if (changed_.size() > mostFollowed)
            updated_.all = true;
        else
            followLabels();
        return true;
    }

    /// The plate of a device as it stands unfolded.
    std::optional<Plate> plateNow(const Sheet& sheet, DeviceId id) const {
        const Device* device = after_.device(id);
        const Plate* old = was_.plate(id);
        if (!device)
            return std::nullopt;
        if (!old || sheet.racks || anew_.contains(id))
            return plateOf(after_, sheet.id, *device);
        return standing(after_, sheet.id, *old);
    }

    const Folding& now() const { return *updated_.scene.folding_; }

    Folding foldingNow() const {
        std::vector<Folding::Change> changes;
        for (const auto& [id, plate] : fresh_)
            changes.push_back({id, plate ? std::optional(Standing{id, after_.device(id)->group, plate->frame})
                                         : std::nullopt});
        std::set<GroupId> groups = groups_;
        groups.insert(drawn_.begin(), drawn_.end());
        return was_.folding()->updated(after_, changes, groups);
    }

    Standings standingNow() const {
        if (fresh_.empty())
            return was_.standing();
        auto out = std::make_shared<std::vector<Standing>>();
        out->reserve(was_.standing()->size() + fresh_.size());
        auto at = fresh_.begin();
        const auto addFresh = [&] {
            if (at->second)
                out->push_back({at->first, after_.device(at->first)->group, at->second->frame});
            ++at;
        };
        for (const Standing& each : *was_.standing()) {
            while (at != fresh_.end() && at->first < each.device)
                addFresh();
            if (at != fresh_.end() && at->first == each.device)
                addFresh();
            else
                out->push_back(each);
        }
        while (at != fresh_.end())
            addFresh();
        return out;
    }

    /// Plates that changed, or are shown elsewhere, or no longer, or again.
    void followPlates(const Sheet& sheet) {
        const auto &old = was_.folding()->devices(), &fresh = now().devices();
        if (updated_.scene.tucks_) {
            forEachShown(old, fresh, [&](DeviceId id, const ShownDevice* was, const ShownDevice* is) {
                if (!was || !is || was->by != is->by)
                    devices_.insert(id);
            });
            takeTuckers();
        }
        forEachShown(old, fresh, [&](DeviceId id, const ShownDevice* was, const ShownDevice* is) {
            if (was && is && *was == *is && !devices_.contains(id))
                return;
            setPlate(sheet, id, is ? *is : ShownDevice{});
            takeLinksOf(id);
            for (const ShownDevice* each : {was, is})
                if (each && each->by.kind == Kind::group)
                    touched_.insert({each->by.id});
        });
    }

    /// Calls `each(id, as it was, as it is)`, with null where it was or is not.
    template <class Each>
    static void forEachShown(const std::vector<ShownDevice>& old, const std::vector<ShownDevice>& fresh,
                             Each&& each) {
        std::size_t i = 0, j = 0;
        while (i < old.size() || j < fresh.size()) {
            const bool gone = j == fresh.size() || (i < old.size() && old[i].id < fresh[j].id);
            const bool came = i == old.size() || (j < fresh.size() && fresh[j].id < old[i].id);
            each(gone ? old[i].id : fresh[j].id, came ? nullptr : &old[i], gone ? nullptr : &fresh[j]);
            i += !came;
            j += !gone;
        }
    }

    void setPlate(const Sheet& sheet, DeviceId id, const ShownDevice& shown) {
        if (shown.by != refTo(id)) {
            dressed(id, std::nullopt);
            if (was_.plate(id))
                put(id.value, nullptr);
            return;
        }
        const auto held = fresh_.find(id);
        const Plate* old = was_.plate(id);
        if (held != fresh_.end())
            set(id.value, dressed(id, held->second->movedTo(shown.plate)));
        else if (old)
            set(id.value, dressed(id, old->movedTo(shown.plate)));
        else
            set(id.value, dressed(id, plateOf(after_, sheet.id, *after_.device(id))->movedTo(shown.plate)));
    }

    /// Bends are shown by the level their link is of.
    void takeBentLinks() {
        if (groups_.empty() && now().leadsAs(*was_.folding()))
            return;
        if (updated_.scene.bent_)
            links_.insert(updated_.scene.bent_->begin(), updated_.scene.bent_->end());
    }

    void followFrames(const Sheet& sheet) {
        for (const LinkId id : links_)
            if (const Link* link = after_.link(id))
                for (const PortRef* end : {&link->a, &link->b})
                    if (const ObjectRef by = now().standsFor(end->device); by.kind == Kind::group)
                        touched_.insert({by.id});
        for (const ShownGroup& group : now().groups()) {
            const ShownGroup* old = was_.folding()->group(group.id);
            if (!old || !(*old == group) || groups_.contains(group.id) || touched_.contains(group.id))
                put(group.id.value, std::make_shared<const Item>(itemOfGroup(after_, sheet, group, {})));
        }
        for (const ShownGroup& old : was_.folding()->groups())
            if (!now().group(old.id))
                put(old.id.value, nullptr);
    }

    /// Lines of links that changed or whose ends are shown elsewhere; those that go into
    /// folded groups together with all between the same two.
    void followLines(const Sheet& sheet) {
        std::map<LinkId, LinkId> merged = was_.mergedInto_ ? *was_.mergedInto_ : std::map<LinkId, LinkId>{};
        std::set<std::pair<ObjectRef, ObjectRef>> pairs;
        const auto addPair = [&](ObjectRef a, ObjectRef b) {
            const bool tile = a.kind == Kind::group || b.kind == Kind::group;
            if (tile && a != b && a.id && b.id)
                pairs.insert(std::minmax(a, b));
        };
        for (const ObjectRef each : changedTiles())
            takeMergedAt(each, addPair);
        for (const LinkId id : links_) {
            if (const LinkLine* old = was_.link(id))
                addPair(old->a, old->b);
            merged.erase(id);
            const Link* link = after_.link(id);
            const bool drawn = link && isDrawnOn(*link, sheet);
            const ObjectRef a = drawn ? now().standsFor(link->a.device) : ObjectRef{},
                            b = drawn ? now().standsFor(link->b.device) : ObjectRef{};
            addPair(a, b);
            if (a.kind == Kind::device && b.kind == Kind::device && !hasTuckedEnd(*link))
                set(id.value,
                    std::optional(lineOf(after_, sheet, *link, *updated_.scene.anchorOf(link->a.device),
                                         *updated_.scene.anchorOf(link->b.device), parallels_.placeOf(*link),
                                         updated_.scene.unit_, &now(), updated_.scene.grid_)));
            else
                put(id.value, nullptr);
        }
        for (const auto& [a, b] : pairs)
            setMerged(sheet, a, b, merged);
        updated_.scene.mergedInto_ =
            merged.empty() ? nullptr : std::make_shared<const std::map<LinkId, LinkId>>(std::move(merged));
    }

    /// Tiles that are elsewhere now: lines to them go there.
    std::vector<ObjectRef> changedTiles() const {
        std::vector<ObjectRef> out;
        for (const ShownGroup& group : now().groups()) {
            const ShownGroup* old = was_.folding()->group(group.id);
            if (group.folded && old && old->folded && !(old->frame == group.frame))
                out.push_back(refTo(group.id));
        }
        return out;
    }

    template <class AddPair>
    void takeMergedAt(ObjectRef tile, AddPair&& addPair) const {
        for (const DeviceId id : *now().group({tile.id})->within)
            after_.forEachLinkOf(id, [&](const Link& link) {
                addPair(now().standsFor(link.a.device), now().standsFor(link.b.device));
            });
    }

    void setMerged(const Sheet& sheet, ObjectRef a, ObjectRef b, std::map<LinkId, LinkId>& merged) {
        const auto links = linksBehind(after_, sheet.id, now(), a, b);
        for (const Link* link : links) {
            put(link->id.value, nullptr);
            merged.erase(link->id);
        }
        if (links.empty())
            return;
        const Link& first = *links.front();
        set(first.id.value,
            std::optional(lineOfAll(after_, sheet, links, *updated_.scene.anchorOf(first.a.device),
                                    *updated_.scene.anchorOf(first.b.device), updated_.scene.unit_,
                                    updated_.scene.grid_)));
        for (std::size_t i = 1; i < links.size(); ++i)
            merged[links[i]->id] = first.id;
    }

    void followNotes(const Sheet& sheet) {
        after_.forEachNoteOf(sheet.id, [&](const Note& note) { notes_.insert(note.id); });
        for (const NoteId id : notes_) {
            const Note* held = after_.note(id);
            set(id.value,
                held && held->sheet == sheet.id ? cardShown(after_, sheet.id, *held, &now()) : std::nullopt);
        }
    }

    static constexpr std::size_t mostFollowed = 2000;
    static constexpr std::size_t mostPlaces = 100; ///< looked at one by one for the lines near them

    const Scene& was_;
    Updated updated_;
    const Network& before_;
    const Network& after_;
    Parallels parallels_;
    std::vector<ItemPtr> changed_;          ///< as they were and as they are
    std::shared_ptr<Scene::Tucked> tucked_; ///< of the updated scene, once it differs
    std::set<DeviceId> devices_, anew_;
    std::unordered_map<std::uint64_t, std::set<LinkId>> linksOf_; ///< by cable, once asked for
    std::set<LinkId> links_;
    bool bendsChanged_ = false;
    std::set<NoteId> notes_;
    std::set<GroupId> groups_;                       ///< changed themselves
    std::set<GroupId> drawn_;                        ///< folded, unfolded, or drawn otherwise
    std::set<GroupId> touched_;                      ///< folded ones in which something changed
    std::map<DeviceId, std::optional<Plate>> fresh_; ///< of devices that changed, as they stand
};

Updated update(const Scene& scene, const Network& before, const Network& after, bool later) {
    return SceneUpdate::between(scene, before, after, later);
}

Updated broughtUp(const Scene& scene, std::shared_ptr<const LayerNetwork> layer) {
    return SceneUpdate::broughtUp(scene, std::move(layer));
}

} // namespace underridge::scene
