// SPDX-License-Identifier: GPL-3.0-or-later
// Groups close to tiles by themselves, the further away one looks: a value made from a
// scene and a zoom.
#include "core/model/table_impl.h"
#include "core/scene/lines.h"
#include "core/scene/scene.h"
#include "core/scene/text_width.h"

#include <optional>

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

/// Works out which groups close and makes what is seen then.
class Closing {
public:
    Closing(const Scene& scene, double zoom) : scene_(scene), groups_(scene.folding()->groups()) {
        for (std::size_t i = 0; i < groups_.size(); ++i)
            at_[groups_[i].id] = i;
        closeAll(zoom);
    }

    /// Nothing where no group closes.
    std::optional<Scene> made() {
        if (std::none_of(closed_.begin(), closed_.end(), [](const auto& into) { return into.has_value(); }))
            return std::nullopt;
        std::vector<ItemPtr> items;
        scene_.items_.forEach([&](const KeptItem& kept) { takeShape(kept.item, items); });
        for (auto& [index, tile] : tiles_)
            addTile(index, std::move(tile), items);
        for (const auto& [ends, line] : lines_)
            items.push_back(std::make_shared<const Item>(itemOf(straight(ends, line))));
        Scene out;
        out.sheet_ = scene_.sheet_;
        out.unit_ = scene_.unit_;
        out.entered_ = scene_.entered_;
        out.filtered_ = scene_.filtered_;
        out.folding_ = scene_.folding_;
        out.standing_ = scene_.standing_;
        out.take(std::move(items));
        return out;
    }

private:
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
            if (const auto parent = parentOf(i))
                within[*parent].push_back(readableFrom(groups_[i].frame));
        }
        closed_.resize(groups_.size());
        for (std::size_t i = 0; i < groups_.size(); ++i) {
            const auto parent = parentOf(i);
            const Frame* frame = scene_.frame(groups_[i].id);
            if (parent && closed_[*parent])
                closed_[i] = closed_[*parent];
            else if (frame && !frame->entered && zoom < opensAt[i])
                closed_[i] = i;
        }
    }

    std::optional<std::size_t> parentOf(std::size_t i) const {
        const auto at = at_.find(groups_[i].in);
        return at == at_.end() ? std::nullopt : std::optional(at->second);
    }

    /// The closed group a device is in.
    std::optional<std::size_t> closedOver(DeviceId id) const {
        const auto& standing = *scene_.standing();
        const auto held = std::lower_bound(standing.begin(), standing.end(), id,
                                           [](const Standing& each, DeviceId v) { return each.device < v; });
        if (held == standing.end() || held->device != id)
            return std::nullopt;
        return closedOver(held->in);
    }
    std::optional<std::size_t> closedOver(GroupId id) const {
        const auto at = at_.find(id);
        return at == at_.end() ? std::nullopt : closed_[at->second];
    }
    std::optional<std::size_t> closedOver(ObjectRef shown) const {
        return shown.kind == Kind::group    ? closedOver(GroupId{shown.id})
               : shown.kind == Kind::device ? closedOver(DeviceId{shown.id})
                                            : std::nullopt;
    }

    Tile& tileFor(std::size_t index) {
        const auto [at, fresh] = tiles_.try_emplace(index);
        if (fresh) {
            const ShownGroup& group = groups_[index];
            at->second.id = group.id;
            at->second.frame = group.frame;
            at->second.closed = true;
        }
        return at->second;
    }

    static void count(Tile& tile, const std::vector<std::pair<Role, int>>& roles) {
        for (const auto& [role, number] : roles) {
            const auto same = std::find_if(tile.roles.begin(), tile.roles.end(),
                                           [r = role](const auto& each) { return each.first == r; });
            if (same == tile.roles.end())
                tile.roles.emplace_back(role, number);
            else
                same->second += number;
            tile.devices += number;
        }
    }

    /// What is open stays as it is; what is not is counted by the tile it is in.
    void takeShape(const ItemPtr& item, std::vector<ItemPtr>& items) {
        if (const LinkLine* line = item->as<LinkLine>())
            return takeLine(item, *line, items);
        const auto into = item->as<Doorway>() ? std::nullopt : closedOver(item->object);
        if (!into) {
            items.push_back(item);
            return;
        }
        Tile& tile = tileFor(*into);
        if (const Plate* plate = item->as<Plate>()) {
            count(tile, {{plate->role, 1}});
            count(tile, plate->tucked);
        } else if (const Tile* folded = item->as<Tile>()) {
            count(tile, folded->roles);
            tile.failing += folded->failing;
        } else if (const Frame* frame = item->as<Frame>(); frame && frame->id == tile.id) {
            tile.kind = frame->kind;
            tile.name = frame->title;
            tile.level = frame->level;
            faint_[*into] = item->faint;
        }
    }

    void takeLine(const ItemPtr& item, const LinkLine& line, std::vector<ItemPtr>& items) {
        const auto a = closedOver(line.a), b = closedOver(line.b);
        if (!a && !b) {
            items.push_back(item);
            return;
        }
        if (a == b) {
            tileFor(*a).failing += line.failsA || line.failsB;
            return;
        }
        const ObjectRef from = a ? refTo(groups_[*a].id) : line.a, to = b ? refTo(groups_[*b].id) : line.b;
        Merged& merged = lines_[std::minmax(from, to)];
        if (!merged.first || line.id < merged.first->id)
            merged.first = &line;
        merged.allFaint &= item->faint;
        if (line.merged.empty())
            merged.all.push_back(line.id);
        merged.all.insert(merged.all.end(), line.merged.begin(), line.merged.end());
    }

    void addTile(std::size_t index, Tile tile, std::vector<ItemPtr>& items) {
        std::stable_sort(tile.roles.begin(), tile.roles.end(), [](const auto& a, const auto& b) {
            return std::pair(-a.second, a.first) < std::pair(-b.second, b.first);
        });
        Item item = itemOf(std::move(tile));
        item.faint = faint_[index];
        items.push_back(std::make_shared<const Item>(std::move(item)));
    }

    struct Merged {
        const LinkLine* first = nullptr;
        bool allFaint = true;
        std::vector<LinkId> all;
    };

    Anchor anchorOf(ObjectRef shown) const {
        const Item* item = scene_.item(shown);
        return {shown, item ? frameOf(*item) : Rect{}, {}, 0};
    }

    LinkLine straight(const std::pair<ObjectRef, ObjectRef>& ends, const Merged& merged) const {
        LinkLine line = *merged.first;
        const Anchor a = anchorOf(ends.first), b = anchorOf(ends.second);
        line.a = ends.first;
        line.b = ends.second;
        line.path = {leavingFrom(a, -1, b.frame.centre()), leavingFrom(b, -1, a.frame.centre())};
        line.labels.clear();
        line.merged = merged.all;
        std::sort(line.merged.begin(), line.merged.end());
        if (line.merged.size() == 1)
            line.merged.clear();
        return line;
    }

    const Scene& scene_;
    const std::vector<ShownGroup>& groups_;
    std::map<GroupId, std::size_t> at_;
    std::vector<std::optional<std::size_t>> closed_; ///< the outermost closed one each is in, or is
    std::map<std::size_t, Tile> tiles_;
    std::map<std::size_t, bool> faint_;
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
        auto made = Closing(*this, std::exp2(step / stepsADoubling)).made();
        held = steps.emplace(step, made ? std::make_shared<const Scene>(*std::move(made)) : nullptr).first;
    }
    return held->second ? held->second : itself;
}

} // namespace underridge::scene
