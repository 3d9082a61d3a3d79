// SPDX-License-Identifier: GPL-3.0-or-later
// Groups close to tiles by themselves, the further away one looks: a value made from a
// scene and a zoom.
#include "core/model/table_impl.h"
#include "core/scene/lines.h"
#include "core/scene/scene.h"
#include "core/scene/text_width.h"

#include <optional>
#include <set>
#include <unordered_map>

namespace underridge::scene {
using namespace model;
namespace {

/// A tile is readable where it is so large on the screen.
constexpr double readableWidthPx = 56, readableHeightPx = 26;
/// Zooms of one step show the same: three steps halve it.
constexpr double stepsADoubling = 3;
constexpr std::size_t mostSteps = 4; // kept

int stepOf(double zoom) {
    return static_cast<int>(std::floor(std::log2(zoom) * stepsADoubling));
}

/// The zoom from which on a tile as large as a frame can be read.
double readableFrom(const Rect& frame) {
    return std::max(readableWidthPx / std::max(frame.w, 1.0), readableHeightPx / std::max(frame.h, 1.0));
}

} // namespace

/// Works out which groups close and makes what is seen then, from the whole scene or from
/// what is seen somewhat nearer, where fewer groups are closed already.
class Closing {
public:
    Closing(const Scene& whole, const Scene& nearer, double zoom)
        : whole_(whole), nearer_(nearer), groups_(whole.folding()->groups()), tiles_(groups_.size()) {
        at_.reserve(groups_.size());
        for (std::size_t i = 0; i < groups_.size(); ++i)
            at_[groups_[i].id.value] = i;
        closeAll(zoom);
    }

    /// Nothing where no group closes.
    std::optional<Scene> made() {
        if (std::none_of(closed_.begin(), closed_.end(), [](std::size_t into) { return into != none; }))
            return std::nullopt;
        listDevices();
        std::vector<ItemPtr> items;
        nearer_.items_.forEach([&](const KeptItem& kept) { takeShape(kept.item, items); });
        for (auto& tile : tiles_)
            if (tile)
                addTile(*std::move(tile), items);
        for (const auto& [ends, line] : lines_)
            items.push_back(std::make_shared<const Item>(straight(ends, line)));
        Scene out;
        out.sheet_ = whole_.sheet_;
        out.unit_ = whole_.unit_;
        out.entered_ = whole_.entered_;
        out.filtered_ = whole_.filtered_;
        out.folding_ = whole_.folding_;
        out.standing_ = whole_.standing_;
        out.take(std::move(items));
        return out;
    }

private:
    static constexpr std::size_t none = SIZE_MAX;

    /// From which zoom on each group is open: of plates some names must be readable, of groups the
    /// larger half as tiles. Outer groups close after inner ones.
    void closeAll(double zoom) {
        std::vector<std::vector<double>> within(groups_.size());
        std::vector<double> opensAt(groups_.size());
        for (std::size_t i = groups_.size(); i-- > 0;) {
            auto& inner = within[i];
            opensAt[i] = closingZoom;
            if (!inner.empty()) {
                const auto middle = inner.begin() + static_cast<std::ptrdiff_t>(inner.size() / 2);
                std::nth_element(inner.begin(), middle, inner.end());
                opensAt[i] = std::min(closingZoom, *middle);
            }
            if (const std::size_t parent = indexOf(groups_[i].in); parent != none)
                within[parent].push_back(readableFrom(groups_[i].frame));
        }
        closed_.assign(groups_.size(), none);
        for (std::size_t i = 0; i < groups_.size(); ++i) {
            const std::size_t parent = indexOf(groups_[i].in);
            if (parent != none && closed_[parent] != none)
                closed_[i] = closed_[parent];
            else if (const Frame* frame = whole_.frame(groups_[i].id);
                     frame && !frame->entered && zoom < opensAt[i])
                closed_[i] = i;
        }
    }

    std::size_t indexOf(GroupId id) const {
        const auto at = at_.find(id.value);
        return at == at_.end() ? none : at->second;
    }

    /// Which closed group each device is in, by id.
    void listDevices() {
        const auto& standing = *whole_.standing();
        ids_.reserve(standing.size());
        over_.reserve(standing.size());
        for (const Standing& each : standing) {
            ids_.push_back(each.device.value);
            over_.push_back(closedOver(each.in));
        }
    }

    std::size_t closedOver(GroupId id) const {
        const std::size_t at = indexOf(id);
        return at == none ? none : closed_[at];
    }
    std::size_t closedOver(ObjectRef shown) const {
        if (shown.kind == Kind::group)
            return closedOver(GroupId{shown.id});
        const auto at = std::lower_bound(ids_.begin(), ids_.end(), shown.id);
        return at == ids_.end() || *at != shown.id ? none
                                                   : over_[static_cast<std::size_t>(at - ids_.begin())];
    }

    Tile& tileFor(std::size_t index) {
        auto& tile = tiles_[index];
        if (!tile) {
            tile.emplace().closed = true;
            tile->id = groups_[index].id;
            tile->frame = groups_[index].frame;
        }
        return *tile;
    }

    static void count(Tile& tile, const std::vector<std::pair<Role, int>>& roles) {
        for (const auto& [role, number] : roles)
            count(tile, role, number);
    }
    static void count(Tile& tile, Role role, int number) {
        tile.devices += number;
        for (auto& each : tile.roles)
            if (each.first == role) {
                each.second += number;
                return;
            }
        tile.roles.emplace_back(role, number);
    }

    /// What is open stays as it is; what is not is counted by the tile it is in.
    void takeShape(const ItemPtr& item, std::vector<ItemPtr>& items) {
        if (const LinkLine* line = item->as<LinkLine>())
            return takeLine(item, *line, items);
        const bool mayBeIn = item->object.kind == Kind::device || item->object.kind == Kind::group;
        const std::size_t into = mayBeIn && !item->as<Doorway>() ? closedOver(item->object) : none;
        if (into == none) {
            items.push_back(item);
            return;
        }
        Tile& tile = tileFor(into);
        if (const Plate* plate = item->as<Plate>()) {
            count(tile, plate->role, 1);
            count(tile, plate->tucked);
        } else if (const Tile* inner = item->as<Tile>()) {
            count(tile, inner->roles);
            if (inner->id == tile.id) // closed nearer already
                dress(tile, inner->kind, inner->name, inner->level, item->faint);
        } else if (const Frame* frame = item->as<Frame>(); frame && frame->id == tile.id) {
            dress(tile, frame->kind, frame->title, frame->level, item->faint);
        }
    }

    void dress(Tile& tile, GroupKind kind, const std::string& name, int level, bool faint) {
        tile.kind = kind;
        tile.name = name;
        tile.level = level;
        if (faint)
            faint_.insert(tile.id);
    }

    void takeLine(const ItemPtr& item, const LinkLine& line, std::vector<ItemPtr>& items) {
        const std::size_t a = closedOver(line.a), b = closedOver(line.b);
        if (a == none && b == none) {
            items.push_back(item);
            return;
        }
        if (a == b)
            return;
        const ObjectRef from = a != none ? refTo(groups_[a].id) : line.a,
                        to = b != none ? refTo(groups_[b].id) : line.b;
        Merged& merged = lines_[std::minmax(from, to)];
        if (!merged.first || line.id < merged.first->id)
            merged.first = &line;
        merged.allFaint &= item->faint;
        if (line.merged.empty())
            merged.all.push_back(line.id);
        merged.all.insert(merged.all.end(), line.merged.begin(), line.merged.end());
    }

    void addTile(Tile tile, std::vector<ItemPtr>& items) {
        std::sort(tile.roles.begin(), tile.roles.end(), [](const auto& a, const auto& b) {
            return std::pair(-a.second, a.first) < std::pair(-b.second, b.first);
        });
        const bool faint = faint_.contains(tile.id);
        Item item = itemOf(std::move(tile));
        item.faint = faint;
        items.push_back(std::make_shared<const Item>(std::move(item)));
    }

    struct Merged {
        const LinkLine* first = nullptr;
        bool allFaint = true;
        std::vector<LinkId> all;
    };

    Anchor anchorOf(ObjectRef shown) const {
        const Item* item = whole_.item(shown);
        return {shown, item ? frameOf(*item) : Rect{}, {}, 0};
    }

    Item straight(const std::pair<ObjectRef, ObjectRef>& ends, const Merged& merged) const {
        LinkLine line = *merged.first;
        const Anchor a = anchorOf(ends.first), b = anchorOf(ends.second);
        line.a = ends.first;
        line.b = ends.second;
        line.path = {leavingFrom(a, -1, b.frame.centre()), leavingFrom(b, -1, a.frame.centre())};
        line.reach = {};
        line.alongAxes = line.obstructed = false;
        line.labels.clear();
        line.merged = merged.all;
        std::sort(line.merged.begin(), line.merged.end());
        if (line.merged.size() == 1)
            line.merged.clear();
        Item item = itemOf(std::move(line));
        item.faint = merged.allFaint;
        return item;
    }

    const Scene &whole_, &nearer_;
    const std::vector<ShownGroup>& groups_;
    std::unordered_map<std::uint64_t, std::size_t> at_; ///< in groups_
    std::vector<std::size_t> closed_;                   ///< the outermost closed one each is in, or is
    std::vector<std::uint64_t> ids_;                    ///< of devices
    std::vector<std::size_t> over_;                     ///< the closed group each of them is in
    std::vector<std::optional<Tile>> tiles_;
    std::set<GroupId> faint_;
    std::map<std::pair<ObjectRef, ObjectRef>, Merged> lines_;
};

std::shared_ptr<const Scene> Scene::seenAt(double zoom) const {
    const std::shared_ptr<const Scene> itself(std::shared_ptr<void>(), this);
    if (!closes_ || !folding_ || zoom >= closingZoom)
        return itself;
    const int step = stepOf(zoom);
    const std::lock_guard lock(afar_->mutex);
    auto& steps = afar_->steps;
    auto held = steps.find(step);
    if (held == steps.end()) {
        if (steps.size() >= mostSteps) // the one furthest from here
            steps.erase(step - steps.begin()->first > std::prev(steps.end())->first - step
                            ? steps.begin()
                            : std::prev(steps.end()));
        // What is seen nearer holds less already.
        const auto nearer = steps.upper_bound(step);
        const Scene& from = nearer != steps.end() && nearer->second ? *nearer->second : *this;
        auto made = Closing(*this, from, std::exp2(step / stepsADoubling)).made();
        held = steps.emplace(step, made ? std::make_shared<const Scene>(*std::move(made)) : nullptr).first;
    }
    return held->second ? held->second : itself;
}

std::shared_ptr<const Scene> Scene::seenAlready(double zoom) const {
    if (!closes_ || !folding_ || zoom >= closingZoom)
        return seenAt(zoom); // itself
    const std::unique_lock lock(afar_->mutex, std::try_to_lock);
    if (!lock)
        return nullptr;
    const auto held = afar_->steps.find(stepOf(zoom));
    if (held == afar_->steps.end())
        return nullptr;
    return held->second ? held->second : std::shared_ptr<const Scene>(std::shared_ptr<void>(), this);
}

} // namespace underridge::scene
