// SPDX-License-Identifier: GPL-3.0-or-later
// What each zoom shows: labels and names that do not cover one another, lines merged into
// one. The answer for one of them is the same from whichever part of the sheet one looks,
// so that pieces painted apart fit together.
#include "core/model/uplinks.h"
#include "core/scene/lines.h"
#include "core/scene/scene.h"
#include "core/scene/text_width.h"

#include <map>

namespace underridge::scene {
using namespace model;
namespace {

/// Of names far away, on the screen.
constexpr double nameHeightPx = 14, maxNamePx = 110, nameGapPx = 2;
/// How often names that were kept back get another chance. The answer for one depends on
/// what lies within twice as many widths of it.
constexpr int rounds = 2;

/// Names far away, set down so that none covers another, nor a plate that matters as
/// much.
class Names {
public:
    explicit Names(double zoom) : zoom_(zoom) {}

    void add(const Item& item) {
        if (item.faint)
            return;
        if (const Plate* plate = item.as<Plate>())
            addBelow(item.object, plate->frame, plate->name, {tierOf(plate->role), plate->links});
        else if (const Tile* tile = item.as<Tile>(); tile && tile->closed && addInside(*tile))
            return;
        else if (tile)
            addBelow(item.object, tile->frame, tile->name, {tileStanding, tile->devices});
        else if (const Doorway* doorway = item.as<Doorway>())
            addBelow(item.object, doorway->frame, doorway->name, {tileStanding, doorway->links});
        else if (const Frame* frame = item.as<Frame>())
            addAbove(*frame);
    }

    std::vector<FarName> settled() {
        std::sort(all_.begin(), all_.end(), [](const Candidate& a, const Candidate& b) {
            return std::pair(a.area.x, a.of) < std::pair(b.area.x, b.of);
        });
        layInRows();
        for (std::size_t i = 0; i < all_.size(); ++i)
            if (coversItsPeers(i))
                all_[i].state = State::hidden;
        for (int round = 0; round < rounds; ++round)
            settle();
        settleElsewhere();
        std::vector<FarName> shown;
        for (const Candidate& each : all_)
            if (each.state == State::shown)
                shown.push_back({each.of, elided(each.name, farNamePx, Weight::semiBold, maxNamePx - 4),
                                 each.area, each.inside});
        return shown;
    }

private:
    enum class State { open, shown, hidden };
    struct Rank {
        int standing = 0, links = 0;
    };
    struct Candidate {
        ObjectRef of;
        Rect frame; ///< what it names
        std::string_view name;
        Rect area;
        Rank rank;
        State state = State::open;
        bool inside = false;

        bool before(const Candidate& o) const {
            return std::tuple(-rank.standing, -rank.links, of) <
                   std::tuple(-o.rank.standing, -o.rank.links, o.of);
        }
    };
    using Rows = std::vector<std::vector<std::size_t>>;
    /// Groups are named before any device, outer frames first.
    static constexpr int tileStanding = 7, frameStanding = 20;

    double widthOf(std::string_view name) const {
        return (std::min(textWidth(name, farNamePx, Weight::semiBold), maxNamePx - 4) + 4) / zoom_;
    }

    void addBelow(ObjectRef of, const Rect& frame, std::string_view name, Rank rank) {
        const double width = widthOf(name);
        const Rect area{frame.centre().x - width / 2, frame.bottom() + nameGapPx / zoom_, width,
                        nameHeightPx / zoom_};
        all_.push_back({of, frame, name, area, rank});
    }

    /// In the middle of a closed one, where it has the room; a group with counts below it
    /// leaves them theirs.
    bool addInside(const Tile& tile) {
        const double width = widthOf(tile.name), height = nameHeightPx / zoom_;
        if (width > tile.frame.w || height > tile.frame.h)
            return false;
        const PointF middle = tile.frame.centre();
        all_.push_back({refTo(tile.id),
                        tile.frame,
                        tile.name,
                        {middle.x - width / 2, middle.y - height / 2, width, height},
                        {tileStanding, tile.devices},
                        State::open,
                        true});
        return true;
    }

    /// On its upper border, so that nothing within is covered.
    void addAbove(const Frame& frame) {
        const Rect area{frame.frame.x, frame.frame.y - nameHeightPx / zoom_, widthOf(frame.title),
                        nameHeightPx / zoom_};
        const int nested = std::min(frame.depth, frameStanding - tileStanding - 1);
        all_.push_back(
            {refTo(frame.id), {area.x, area.y, 0, 0}, frame.title, area, {frameStanding - nested, 0}});
    }

    void layInRows() {
        if (all_.empty())
            return;
        const double height = nameHeightPx / zoom_;
        double top = all_.front().frame.y, bottom = top;
        for (const Candidate& each : all_) {
            top = std::min(top, each.frame.y - height - nameGapPx / zoom_); // a name may come above
            bottom = std::max({bottom, each.area.bottom(), each.frame.bottom()});
            widest_ = std::max({widest_, each.area.w, each.frame.w});
        }
        first_ = static_cast<std::int64_t>(std::floor(top / height));
        const auto rows =
            static_cast<std::size_t>(std::floor(bottom / height) - std::floor(top / height)) + 1;
        names_.resize(rows);
        plates_.resize(rows);
        for (std::size_t i = 0; i < all_.size(); ++i) {
            forEachRow(all_[i].area, [&](std::size_t row) { names_[row].push_back(i); });
            forEachRow(all_[i].frame, [&](std::size_t row) { plates_[row].push_back(i); });
        }
    }

    template <class Each>
    void forEachRow(const Rect& area, Each&& each) const {
        const double height = nameHeightPx / zoom_;
        const auto last = static_cast<std::int64_t>(std::floor(area.bottom() / height));
        for (auto row = static_cast<std::int64_t>(std::floor(area.y / height)); row <= last; ++row)
            each(static_cast<std::size_t>(row - first_));
    }

    /// Calls `each(j)` for the others in the rows of an area that may touch it, until it
    /// says false.
    template <class Each>
    void forEachNear(const Rows& rows, const Rect& area, std::size_t i, Each&& each) const {
        bool goOn = true;
        forEachRow(area, [&](std::size_t row) {
            const std::vector<std::size_t>& held = rows[row];
            // Sorted by the left edge of the name, which is no further from a plate than
            // it is wide.
            auto at = std::lower_bound(held.begin(), held.end(), area.x - 2 * widest_,
                                       [&](std::size_t j, double x) { return all_[j].area.x < x; });
            for (; goOn && at != held.end() && all_[*at].area.x < area.right() + widest_; ++at)
                if (*at != i)
                    goOn = each(*at);
        });
    }

    bool coversItsPeers(std::size_t i) const {
        bool covers = false;
        const Rect& mine = all_[i].area;
        forEachNear(plates_, mine, i, [&](std::size_t j) {
            covers = all_[j].rank.standing >= all_[i].rank.standing && all_[j].frame.intersects(mine);
            return !covers;
        });
        return covers;
    }

    /// One round: an open name is shown when no open one of higher rank touches it; those
    /// it touches are hidden.
    void settle() {
        std::vector<std::size_t> shown;
        for (std::size_t i = 0; i < all_.size(); ++i) {
            if (all_[i].state != State::open)
                continue;
            bool first = true;
            forEachNear(names_, all_[i].area, i, [&](std::size_t j) {
                first = all_[j].state == State::hidden || !all_[j].area.intersects(all_[i].area) ||
                        all_[i].before(all_[j]);
                return first;
            });
            if (first)
                shown.push_back(i);
        }
        for (const std::size_t i : shown) {
            all_[i].state = State::shown;
            forEachNear(names_, all_[i].area, i, [&](std::size_t j) {
                if (all_[j].area.intersects(all_[i].area))
                    all_[j].state = State::hidden;
                return true;
            });
        }
    }

    /// A folded group whose name found no room below it may have it above or beside it,
    /// where no name shown, no plate that matters as much and no better name of this kind
    /// is.
    void settleElsewhere() {
        struct Elsewhere {
            std::size_t of;
            Rect area;
        };
        std::vector<Elsewhere> found;
        for (std::size_t i = 0; i < all_.size(); ++i) {
            const Candidate& each = all_[i];
            if (each.state == State::shown || each.rank.standing != tileStanding)
                continue;
            Rect above = each.area, beside = each.area;
            above.y = each.frame.y - (nameHeightPx + nameGapPx) / zoom_;
            beside.x = each.frame.right() + nameGapPx / zoom_;
            beside.y = each.frame.centre().y - each.area.h / 2;
            for (const Rect& area : {above, beside})
                if (isFree(i, area)) {
                    found.push_back({i, area});
                    break;
                }
        }
        std::sort(found.begin(), found.end(), [](const Elsewhere& a, const Elsewhere& b) {
            return std::pair(a.area.x, a.of) < std::pair(b.area.x, b.of);
        });
        for (std::size_t a = 0; a < found.size(); ++a) {
            bool first = true;
            const auto better = [&](const Elsewhere& other) {
                return other.area.intersects(found[a].area) && all_[other.of].before(all_[found[a].of]);
            };
            for (std::size_t b = a; first && b-- > 0 && found[b].area.x > found[a].area.x - widest_;)
                first = !better(found[b]);
            for (std::size_t b = a + 1; first && b < found.size() && found[b].area.x < found[a].area.right();
                 ++b)
                first = !better(found[b]);
            if (first) {
                all_[found[a].of].area = found[a].area;
                all_[found[a].of].state = State::shown;
                all_[found[a].of].inside = false;
            }
        }
    }

    bool isFree(std::size_t i, const Rect& area) const {
        bool free = true;
        forEachNear(names_, area, i, [&](std::size_t j) {
            free = all_[j].state != State::shown || !all_[j].area.intersects(area);
            return free;
        });
        if (free)
            forEachNear(plates_, area, i, [&](std::size_t j) {
                free = all_[j].rank.standing < tileStanding || !all_[j].frame.intersects(area);
                return free;
            });
        return free;
    }

    double zoom_;
    double widest_ = 0;
    std::int64_t first_ = 0; ///< number of the first row
    std::vector<Candidate> all_;
    Rows names_, plates_; ///< which lie in a row of a name's height
};

} // namespace

Detail detailFor(double zoom) {
    if (zoom < 0.42)
        return Detail::far;
    if (zoom < 0.7)
        return Detail::middle;
    return zoom < 2.4 ? Detail::near : Detail::close;
}

PlateName nameOn(const Plate& plate, double zoom) {
    constexpr double wantedPx = 11, most = 22, lineStep = 1.15, gap = 6;
    const double left = plate.frame.x + spineWidth + gap, room = plate.frame.right() - left - 4;
    const auto sizeFor = [&](double widthAtOne, std::size_t lines) {
        const double high = (plate.frame.h - 4) / (static_cast<double>(lines) * lineStep);
        return std::min({wantedPx / zoom, room / std::max(widthAtOne, 0.1), most, high});
    };
    const auto width = [](std::string_view text) { return textWidth(text, 1, Weight::semiBold); };
    std::vector<std::string> best{plate.name};
    double size = sizeFor(width(plate.name), 1);
    for (std::size_t i = 0; i + 1 < plate.name.size(); ++i) { // after a mark in the name
        if (std::string_view("-_. /").find(plate.name[i]) == std::string_view::npos)
            continue;
        const std::string first = plate.name.substr(0, i + 1), second = plate.name.substr(i + 1);
        if (const double two = sizeFor(std::max(width(first), width(second)), 2); two > size * 1.1) {
            best = {first, second};
            size = two;
        }
    }
    PlateName out{{}, std::max(size, best.size() == 1 ? nameSize : size)};
    double y =
        plate.frame.centre().y + out.size * (0.36 - lineStep * (static_cast<double>(best.size()) - 1) / 2);
    for (std::string& text : best) {
        out.lines.push_back({std::move(text), {left, y}});
        y += out.size * lineStep;
    }
    return out;
}

std::vector<Bundle> bundlesOf(const std::vector<const LinkLine*>& lines) {
    std::map<std::pair<ObjectRef, ObjectRef>, Bundle> pairs;
    for (const LinkLine* line : lines) {
        Bundle& bundle = pairs[std::minmax(line->a, line->b)];
        if (bundle.count == 0)
            bundle = {line->path.front(), line->path.back(), 0};
        bundle.count += std::max(1, static_cast<int>(line->merged.size()));
    }
    std::vector<Bundle> out;
    out.reserve(pairs.size());
    for (const auto& [ends, bundle] : pairs)
        out.push_back(bundle);
    return out;
}

std::array<Rect, 5> placesOf(const LinkLine& line, const Label& label) {
    const double whole = pathLength(line.path);
    const auto at = [&](double share) {
        return label.area.moved(alongPath(line.path, whole * share).at - label.area.centre());
    };
    return {at(0.5), at(0.42), at(0.58), at(0.34), at(0.66)};
}

bool liesUnder(const Item& item, const Rect& place) {
    if (item.layer == Layer::plates)
        return frameOf(item).intersects(place) ||
               (item.as<Plate>() && item.as<Plate>()->badge().intersects(place));
    const LinkLine* line = item.as<LinkLine>();
    for (std::size_t i = 0; line && i + 1 < line->path.size(); ++i)
        if (segmentMeets(line->path[i], line->path[i + 1], place))
            return true;
    return false;
}

/// A label in the middle of a line goes where no plate lies and no other line runs under
/// it, if its own line has such a place not far from there. This looks at what is near
/// the places alone, so that the answer is the same from wherever one looks.
Label Scene::settled(const LinkLine& line, Label label) const {
    if (label.kind != LabelKind::middle)
        return label;
    const auto isFree = [&](const Rect& place) {
        const Items near = itemsIn(place);
        const auto& all = near.all();
        return std::none_of(all.begin(), all.end(), [&](const Item* item) {
            return item->object != line.object() && liesUnder(*item, place);
        });
    };
    const auto places = placesOf(line, label);
    const auto free = std::find_if(places.begin(), places.end(), isFree);
    if (free != places.end())
        label.area = *free;
    return label;
}

std::vector<Label> Scene::labelsIn(const Rect& area) const {
    // A label is shown when no plate lies under it and no label of higher rank touches
    // it, whether that one is itself shown or not.
    const double reach = maxLabelWidth;
    const Items items = itemsIn(area.grown(reach));
    struct Ranked {
        Label label;
        std::pair<int, std::uint64_t> rank;
    };
    std::vector<Ranked> all;
    for (const Item* item : items.all())
        if (const auto* line = item->as<LinkLine>(); line && !item->faint && !line->onDemand)
            for (const Label& label : line->labels)
                all.push_back({settled(*line, label),
                               {label.kind == LabelKind::middle,
                                line->id.value * 4 + static_cast<unsigned>(label.kind)}});
    std::sort(all.begin(), all.end(),
              [](const Ranked& a, const Ranked& b) { return a.label.area.x < b.label.area.x; });
    std::vector<Label> shown;
    for (std::size_t i = 0; i < all.size(); ++i) {
        const Rect& mine = all[i].label.area;
        if (!mine.intersects(area))
            continue;
        const auto covers = [&](const Ranked& other) {
            return other.rank < all[i].rank && other.label.area.intersects(mine);
        };
        bool hidden = std::any_of(items.all().begin(), items.all().end(), [&](const Item* item) {
            return item->layer == Layer::plates && liesUnder(*item, mine);
        });
        for (std::size_t j = i; !hidden && j-- > 0 && all[j].label.area.x > mine.x - reach;)
            hidden = covers(all[j]);
        for (std::size_t j = i + 1; !hidden && j < all.size() && all[j].label.area.x < mine.right(); ++j)
            hidden = covers(all[j]);
        if (!hidden)
            shown.push_back(all[i].label);
    }
    return shown;
}

std::vector<FarName> Scene::namesIn(const Rect& area, double zoom) const {
    const Rect window = area.grown(maxNamePx / zoom * (2 * rounds + 3));
    const auto within = [&](std::vector<FarName> names) {
        std::erase_if(names, [&](const FarName& name) { return !name.area.intersects(area); });
        return names;
    };
    if (window.w * window.h < bounds_.w * bounds_.h / 2) {
        Names names(zoom);
        const Items near = itemsIn(window);
        for (const Item* item : near.all())
            names.add(*item);
        return within(names.settled());
    }
    const std::lock_guard lock(names_->mutex);
    if (names_->zoom != zoom) {
        Names names(zoom);
        items_.forEach([&](const KeptItem& kept) { names.add(*kept.item); });
        names_->names = names.settled();
        names_->zoom = zoom;
    }
    return within(names_->names);
}

} // namespace underridge::scene
