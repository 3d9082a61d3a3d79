// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/arranging.h"

#include "core/analysis/layers.h"
#include "core/edit/arrange_levels.h"
#include "core/edit/fitting_in.h"
#include "core/layout/detours.h"
#include "core/linking/chain.h"
#include "core/model/group_tree.h"
#include "core/scene/axes.h"
#include "core/scene/layer_network.h"
#include "core/scene/lines.h"
#include "core/scene/plates.h"
#include "core/scene/scene.h"

#include <array>
#include <fmt/format.h>
#include <set>

namespace underridge::edit {
using namespace model;
using layout::Index;
using scene::PointF;
using scene::Rect;
using scene::rounded;
namespace {

/// Brings a drawing to the sheet: where it was, what is pinned where it is, round plates.
class Arranger {
public:
    Arranger(const Network& network, SheetId sheet, const ArrangeWish& wish, SheetDrawing drawing)
        : network_(network), sheet_(sheet), wish_(wish), drawing_(std::move(drawing)) {}

    ActResult act(ArrangeReport* report) {
        const std::size_t count = drawing_.plates.size();
        Act act{fmt::format("Arrange {} {}", count, count == 1 ? "device" : "devices"), network_, {}};
        if (drawing_.bounds.w > sheetLimit || drawing_.bounds.h > sheetLimit)
            return error("a sheet has no room for that drawing", "choose another style, or less spacing");
        if (!layout::beginsAsItStands(wish_.style))
            putWhereItWas();
        if (wish_.style != layout::Style::plan) // where nothing moves nothing comes to what is pinned
            keepPinned();
        for (auto& [id, at] : drawing_.at) // lines are looked at as they will be drawn
            at = scene::toF(rounded(at));
        if (const Sheet* sheet = network_.sheet(sheet_); sheet && sheet->runsAlongAxes())
            for (auto& [id, path] : drawing_.paths) {
                for (PointF& p : path) // as it will be stored
                    p = scene::toF(rounded(p));
                if (path.size() < 3 || !scene::isAligned(path))
                    path.clear(); // they go round by themselves
            }
        else
            goRound();
        store(act.network, report);
        clearNotes(act.network);
        if (report) {
            report->devices = count;
            report->why = wish_.style == layout::Style::tidy ? howTidied() : why();
        }
        return act;
    }

private:
    /// Plates begin where they began before; some among others lie about the middle of where they lay.
    void putWhereItWas() {
        Rect before, after;
        for (const auto& [id, at] : drawing_.at) {
            const Rect& frame = drawing_.plates.at(id).frame;
            before = before.united(frame);
            after = after.united({at.x, at.y, frame.w, frame.h});
        }
        PointF by{before.x - after.x, before.y - after.y};
        if (!wish_.only.empty())
            by = before.centre() - after.centre();
        const auto onSheet = [](double least, double size, double way) {
            return std::clamp<double>(least + way, -sheetLimit, sheetLimit - size) - least;
        };
        const Rect& all = drawing_.bounds;
        drawing_.move({onSheet(all.x, all.w, by.x), onSheet(all.y, all.h, by.y)});
    }

    /// Whether a link has bends that still lead from plate to plate: where things are only tidied
    /// and neither of them moved.
    bool keepsWay(const Link& link) const {
        const Position* held = network_.position(sheet_, link.id.value);
        if (!layout::beginsAsItStands(wish_.style) || !held || held->bends.empty())
            return false;
        const auto stays = [&](DeviceId device) {
            const auto at = drawing_.at.find(device.value);
            const Position* position = network_.position(sheet_, device.value);
            return at == drawing_.at.end() || (position && rounded(at->second) == position->at);
        };
        return stays(link.a.device) && stays(link.b.device);
    }

    /// Pinned devices stay; the drawing comes to them as well as it can.
    void keepPinned() {
        std::vector<std::uint64_t> pinned;
        PointF off;
        for (const auto& [id, at] : drawing_.at)
            if (const Position* position = network_.position(sheet_, id); position && position->pinned) {
                pinned.push_back(id);
                off = off + (scene::toF(position->at) - at);
            }
        if (pinned.empty())
            return;
        drawing_.move(off * (1.0 / static_cast<double>(pinned.size())));
        std::vector<Rect> taken;
        for (const std::uint64_t id : pinned) {
            const Rect& frame = drawing_.plates.at(id).frame;
            if (drawing_.at.at(id) != PointF{frame.x, frame.y})
                stray_.insert(id);
            drawing_.at.at(id) = {frame.x, frame.y};
            taken.push_back(frame.grown(12));
        }
        for (auto& [id, at] : drawing_.at) {
            if (std::binary_search(pinned.begin(), pinned.end(), id))
                continue;
            const Rect& size = drawing_.plates.at(id).frame;
            for (int tries = 0; tries < 400; ++tries) { // beside what is in the way, whichever is nearest
                Rect frame{at.x, at.y, size.w, size.h};
                const auto hit = std::find_if(taken.begin(), taken.end(),
                                              [&](const Rect& r) { return r.intersects(frame); });
                if (hit == taken.end())
                    break;
                stray_.insert(id);
                const double right = hit->right() - frame.x, down = hit->bottom() - frame.y;
                (right < down ? at.x : at.y) += (right < down ? right : down) + 1;
            }
        }
    }

    /// Lines that would go through plates of others are bent round those.
    void goRound() {
        std::vector<Rect> plates;
        std::unordered_map<std::uint64_t, Index> index;
        for (const auto& [id, at] : drawing_.at) {
            const scene::Plate& plate = drawing_.plates.at(id);
            const Rect frame{at.x, at.y, plate.frame.w, plate.frame.h};
            index[id] = static_cast<Index>(plates.size());
            plates.push_back(frame);
        }
        const auto anchorAt = [&](DeviceId device) {
            const Rect& frame = plates[index.at(device.value)];
            return drawing_.plates.at(device.value).movedTo(frame).anchor();
        };
        scene::Parallels parallels(network_, sheet_);
        std::vector<layout::DrawnLine> lines;
        std::vector<std::uint64_t> ids;
        for (const auto& [id, path] : drawing_.paths) {
            const Link& link = *network_.link({id});
            const auto a = index.find(link.a.device.value), b = index.find(link.b.device.value);
            if (a == index.end() || b == index.end() || keepsWay(link))
                continue; // into a group that stays as it is
            layout::DrawnLine line{path, a->second, b->second};
            if (path.empty() || stray_.contains(link.a.device.value) ||
                stray_.contains(link.b.device.value)) {
                const scene::Anchor from = anchorAt(link.a.device), to = anchorAt(link.b.device);
                line.path =
                    scene::straightPath(from, to, scene::railIndexOf(network_, link.a),
                                        scene::railIndexOf(network_, link.b), parallels.placeOf(link));
            }
            lines.push_back(std::move(line));
            ids.push_back(id);
        }
        for (const SheetDrawing::Kept& each : drawing_.kept)
            plates.push_back(each.at);
        for (const Index i : layout::goRound(plates, lines)) {
            drawing_.paths[ids[i]] = lines[i].path;
            bent_.insert(ids[i]);
        }
    }
    /// A frame is as large as what is in it now, with the ways of its links.
    void storeFrame(Network& out, const SheetDrawing::Frame& frame) const {
        const Position* held = network_.position(sheet_, frame.group.value);
        if (!held && !frame.drawn)
            return;
        Position position = positionOr(network_, sheet_, refTo(frame.group));
        position.width = position.height = 0;
        if (frame.drawn) {
            position.at = rounded({frame.drawn->x, frame.drawn->y});
            position.width = static_cast<int>(std::lround(frame.drawn->w));
            position.height = static_cast<int>(std::lround(frame.drawn->h));
        }
        if (!held || *held != position)
            out.put(std::move(position));
    }

    /// Notes that lie where plates or frames come to stand go below the drawing, side by side.
    void clearNotes(Network& out) const {
        if (layout::beginsAsItStands(wish_.style) || !wish_.only.empty())
            return;
        bool any = false;
        network_.all<Note>().forEach(
            [&](const Note& note) { any |= note.sheet == sheet_ && !note.zone && !note.behind; });
        if (!any)
            return;
        const scene::Scene drawn = scene::Scene::build(out, sheet_);
        Rect bounds;
        std::vector<Rect> taken;
        const auto take = [&](const Rect& frame) {
            taken.push_back(frame);
            bounds = bounds.united(frame);
        };
        drawn.forEach<scene::Plate>([&](const scene::Plate& plate) { take(plate.frame); });
        drawn.forEach<scene::Tile>([&](const scene::Tile& tile) { take(tile.frame); });
        std::vector<Position> moved;
        constexpr double below = 40, between = 16;
        double x = bounds.x;
        drawn.forEach<scene::NoteCard>([&](const scene::NoteCard& card) {
            const bool covered = std::any_of(taken.begin(), taken.end(),
                                             [&](const Rect& frame) { return frame.intersects(card.frame); });
            const Position* held = network_.position(sheet_, card.id.value);
            if (card.zone || card.behind || !covered || !held)
                return;
            moved.push_back(*held);
            moved.back().at = ontoSheet(rounded({x, bounds.bottom() + below}));
            x += card.frame.w + between;
        });
        for (Position& position : moved)
            out.put(std::move(position));
    }

    /// Notes of groups go as far as the upper left corner of what is in those; they are there
    /// already where a group went as it is.
    void takeNotesAlong(Network& out) const {
        const auto cornerOf = [&](const Network& network, GroupId group) {
            std::optional<Point> corner;
            for (const DeviceId id : devicesWithin(network, group))
                if (const Position* held = network.position(sheet_, id.value))
                    corner = corner ? Point{std::min(corner->x, held->at.x), std::min(corner->y, held->at.y)}
                                    : held->at;
            return corner;
        };
        std::vector<Position> moved;
        network_.forEachNoteOf(sheet_, [&](const Note& note) {
            const Position* held = note.group ? network_.position(sheet_, note.id.value) : nullptr;
            const auto before = held ? cornerOf(network_, note.group) : std::nullopt;
            if (!before || *out.position(sheet_, note.id.value) != *held)
                return;
            moved.push_back(*held);
            moved.back().at = ontoSheet(held->at + (*cornerOf(out, note.group) - *before));
        });
        for (Position& position : moved)
            out.put(std::move(position));
    }

    void store(Network& out, ArrangeReport* report) const {
        double way = 0;
        for (const auto& [id, at] : drawing_.at) {
            const ObjectRef ref = refTo(DeviceId{id});
            Position position = positionOr(network_, sheet_, ref);
            const Point to = rounded(at);
            way += scene::length(scene::toF(to) - scene::toF(position.at));
            position.at = to;
            if (!(network_.position(sheet_, id) && *network_.position(sheet_, id) == position))
                out.put(std::move(position));
        }
        if (report && !drawing_.at.empty())
            report->moved = way / static_cast<double>(drawing_.at.size());
        std::vector<std::pair<ObjectRef, Point>> moves;
        for (const SheetDrawing::Kept& each : drawing_.kept)
            moves.emplace_back(refTo(each.group), rounded(each.by));
        if (!moves.empty())
            (void)moveStored(out, sheet_, moves);
        takeNotesAlong(out);
        if (!layout::beginsAsItStands(wish_.style))
            for (const SheetDrawing::Frame& frame : drawing_.frames)
                storeFrame(out, frame);
        for (const auto& [id, path] : drawing_.paths) {
            const Link* link = network_.link({id});
            const bool stray = !bent_.contains(id) && (stray_.contains(link->a.device.value) ||
                                                       stray_.contains(link->b.device.value));
            const Position* held = network_.position(sheet_, id);
            if (((path.empty() || stray) && !held) || keepsWay(*link))
                continue;
            Position position = positionOr(network_, sheet_, refTo(link->id));
            position.bends.clear();
            if (!stray)
                for (const PointF p : path)
                    position.bends.push_back(rounded(p));
            if (!held || *held != position)
                out.put(std::move(position));
        }
    }

    /// How many moved, and how far: told in what one sees, the height of a plate.
    std::string howTidied() const {
        std::size_t count = 0;
        double all = 0, farthest = 0;
        for (const auto& [id, at] : drawing_.at) {
            const Position* position = network_.position(sheet_, id);
            if (!position || position->at == rounded(at))
                continue;
            const double way = scene::length(scene::toF(rounded(at)) - scene::toF(position->at));
            ++count;
            all += way;
            farthest = std::max(farthest, way);
        }
        if (count == 0)
            return "tidied, nothing moved";
        const auto heights = [](double way) { return std::max(0.1, way / scene::plateHeight); };
        if (count == 1)
            return fmt::format("tidied, one moved, by {:.1f} plate heights", heights(farthest));
        return fmt::format("tidied, {} moved, by {:.1f} plate heights on average, {:.1f} at most", count,
                           heights(all / static_cast<double>(count)), heights(farthest));
    }

    std::string why() const {
        using layout::Shape;
        if (wish_.style != layout::Style::suggest && wish_.style != layout::Style::fabric)
            return std::string(layout::textOf(wish_.style));
        std::size_t rings = 0, ladders = 0, meshes = 0, trees = 0;
        for (const layout::Composed& shape : drawing_.shapes) {
            rings += shape.rings;
            ladders += shape.ladders;
            meshes += shape.meshes;
            trees += shape.shape == Shape::tree;
        }
        std::vector<std::string> said;
        const auto say = [&](std::size_t n, std::string_view one, std::string_view many) {
            if (n > 0)
                said.push_back(fmt::format("{} {}", n, n == 1 ? one : many));
        };
        say(rings, "ring", "rings");
        say(ladders, "layer between redundant devices", "layers between redundant devices");
        say(meshes, "mesh", "meshes");
        say(trees, "tree", "trees");
        std::string out;
        for (std::size_t i = 0; i < said.size(); ++i)
            out += (i == 0 ? "" : i + 1 == said.size() ? " and " : ", ") + said[i];
        return out;
    }
    const Network& network_;
    SheetId sheet_;
    const ArrangeWish& wish_;
    SheetDrawing drawing_;
    std::set<std::uint64_t> stray_; ///< devices not where the drawing has them
    std::set<std::uint64_t> bent_;  ///< links that go round plates
};

} // namespace

namespace {

ActResult arrangeDrawn(const Network& network, const Look& look, const ArrangeWish& wish,
                       ArrangeReport* report, const std::atomic<bool>* wanted) {
    const auto folding = sharedFoldingOf(network, look);
    auto drawing = drawingOf(network, look, wish, *folding, wanted);
    if (!drawing)
        return drawing.refusal();
    return Arranger(network, look.sheet, wish, *std::move(drawing)).act(report);
}

/// Positions of one network for another, of what they are there.
Network withPositionsOf(const Network& drawn, Network network, SheetId sheet) {
    drawn.all<Position>().forEachIn(sheet.value, [&](Position position) {
        if (position.of == Kind::device && !network.device({position.object}))
            position.of = Kind::subnet;
        else if (position.of == Kind::link && !network.link({position.object}))
            position.of = Kind::interface;
        if (const Position* held = network.position(sheet, position.object); !held || *held != position)
            network.put(std::move(position));
    });
    return network;
}

} // namespace

namespace {
constexpr std::array<std::string_view, 4> orderTexts{"name", "role", "address", "floor"};
}

std::string_view textOf(OrderBy order) {
    return orderTexts[static_cast<std::size_t>(order)];
}

std::optional<OrderBy> orderFromText(std::string_view text) {
    const auto at = std::find(orderTexts.begin(), orderTexts.end(), text);
    return at == orderTexts.end() ? std::nullopt
                                  : std::optional(static_cast<OrderBy>(at - orderTexts.begin()));
}

ActResult arrange(const Network& network, const Look& look, const ArrangeWish& wish, ArrangeReport* report,
                  const std::atomic<bool>* wanted) {
    const Sheet* sheet = network.sheet(look.sheet);
    if (!sheet)
        return error("the sheet is no longer there", "choose another");
    if (sheet->mmPerUnit > 0 && wish.style != layout::Style::plan)
        return error("what stands on a plan is where it is built",
                     "lead only its links, in the style plan, or arrange another sheet");
    if (!sheet->follows())
        return arrangeDrawn(network, look, wish, report, wanted);
    // Rings and meshes are what routers make of cables: with subnets between them nothing is
    // read better than layers.
    ArrangeWish suited = wish;
    if (sheet->layer == SheetLayer::network && wish.style == layout::Style::suggest)
        suited.style = layout::Style::layered;
    auto act = arrangeDrawn(scene::networkOn(network, look.sheet), look, suited, report, wanted);
    if (act)
        act->network = withPositionsOf(act->network, network, look.sheet);
    return act;
}

void putDown(Network& network, SheetId sheet, const std::vector<DeviceId>& devices) {
    if (devices.empty())
        return;
    std::optional<int> lowest;
    network.all<Position>().forEachIn(sheet.value, [&](const Position& position) {
        if (position.of == Kind::device)
            lowest = std::max(lowest.value_or(position.at.y), position.at.y);
    });
    constexpr int below = 180;
    const Point corner = ontoSheet({0, lowest ? *lowest + below : 0});
    const bool others = lowest.has_value();
    for (const DeviceId id : devices)
        if (!network.position(sheet, id.value)) {
            Position position = positionOr(network, sheet, refTo(id));
            position.at = corner;
            network.put(std::move(position));
        }
    ArrangeWish wish;
    if (others) {
        if (auto act = fitIn(network, sheet, devices))
            network = std::move(act->network);
        for (const DeviceId id : devices)
            if (network.position(sheet, id.value)->at == corner) // linked to nothing there
                wish.only.push_back(id);
        if (wish.only.empty())
            return;
    }
    if (auto act = arrange(network, {sheet}, wish))
        network = std::move(act->network);
    if (others) {
        // About the middle of where they stood is among the others: below those.
        int least = sheetLimit, leftmost = sheetLimit;
        std::vector<std::pair<ObjectRef, Point>> moves;
        for (const DeviceId id : wish.only)
            if (const Position* position = network.position(sheet, id.value)) {
                least = std::min(least, position->at.y);
                leftmost = std::min(leftmost, position->at.x);
            }
        for (const DeviceId id : wish.only)
            moves.emplace_back(refTo(id), Point{corner.x - leftmost, corner.y - least});
        (void)moveStored(network, sheet, moves);
    }
}

namespace {

using BySheet = std::set<std::pair<std::uint64_t, std::uint64_t>>;

/// What the lines at an object stand for, on a sheet of an upper layer: interfaces, or all
/// links on the way to whom it hands frames.
std::vector<std::uint64_t> linesAt(const Network& network, SheetLayer layer, std::uint64_t object) {
    std::vector<std::uint64_t> out;
    if (layer == SheetLayer::dataLink)
        network.forEachLinkOf({object}, [&](const Link& link) {
            for (const auto& stretch :
                 linking::outward(network, link.a.device.value == object ? link.a : link.b))
                out.push_back(stretch.link.value);
        });
    else if (network.device({object}))
        network.all<Interface>().forEachIn(
            object, [&](const Interface& interface) { out.push_back(interface.id.value); });
    else
        for (const analysis::Attachment& each : analysis::networkLayerOf(network).attachments)
            if (each.subnet.value == object)
                out.push_back(each.interface.value);
    return out;
}

/// Ways that began or ended at the plate of an object, as it stood, go.
void straightenUpper(const Network& before, const Network& after, const Sheet& sheet, std::uint64_t object,
                     const BySheet& fresh, std::vector<Position>& changed) {
    const Position& stood = *before.position(sheet.id, object);
    const Device* device = before.device({object});
    const auto plate = device ? scene::plateOf(before, sheet.id, *device) : std::nullopt;
    constexpr double widest = 240;
    const PointF corner = scene::toF(stood.at);
    const Rect frame = (plate ? plate->frame : Rect{corner.x, corner.y, widest, scene::plateHeight}).grown(2);
    for (const std::uint64_t line : linesAt(after, sheet.layer, object)) {
        const Position* position = after.position(sheet.id, line);
        if (!position || position->bends.size() < 2 || fresh.contains({sheet.id.value, line}))
            continue;
        if (!frame.contains(scene::toF(position->bends.front())) &&
            !frame.contains(scene::toF(position->bends.back())))
            continue;
        Position straight = *position;
        straight.bends.clear();
        changed.push_back(std::move(straight));
    }
}

} // namespace

bool isArrangedWay(const Network& drawn, const Link& link, const Position& position) {
    const auto endsAt = [&](DeviceId id, Point end) {
        const Device* device = drawn.device(id);
        const auto plate = device ? scene::plateOf(drawn, position.sheet, *device) : std::nullopt;
        return plate && plate->frame.grown(2).contains(scene::toF(end));
    };
    return position.bends.size() > 1 && endsAt(link.a.device, position.bends.front()) &&
           endsAt(link.b.device, position.bends.back());
}

void followArranged(const Network& before, Network& after) {
    BySheet moved; // devices
    BySheet fresh; // links whose bends are of this act
    Network::compare(before, after, [&]<class R>(const R* was, const R* is) {
        if constexpr (std::is_same_v<R, Position>) {
            if (is && (is->of == Kind::device || is->of == Kind::subnet) && was && was->at != is->at)
                moved.insert({is->sheet.value, is->object});
            if (is && (is->of == Kind::link || is->of == Kind::interface))
                fresh.insert({is->sheet.value, is->object});
        }
    });
    std::vector<Position> changed;
    for (const auto& [sheetId, deviceId] : moved) {
        const SheetId sheet{sheetId};
        if (after.sheet(sheet)->follows()) {
            straightenUpper(before, after, *after.sheet(sheet), deviceId, fresh, changed);
            continue;
        }
        after.forEachLinkOf({deviceId}, [&](const Link& link) {
            const Position* position = after.position(sheet, link.id.value);
            if (!position || fresh.contains({sheet.value, link.id.value}) ||
                !isArrangedWay(before, link, *position))
                return;
            Position straight = *position;
            straight.bends.clear();
            changed.push_back(std::move(straight));
        });
    }
    for (Position& position : changed)
        after.put(std::move(position));
}

} // namespace underridge::edit
