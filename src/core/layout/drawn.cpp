// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/layout/drawn.h"

#include <unordered_map>

namespace underridge::layout {
using scene::Item;
namespace {

/// Pairs of rectangles that overlap, found by a sweep from the left.
template <class Counts>
std::size_t overlapping(std::vector<std::pair<Rect, std::size_t>> all, Counts counts) {
    std::sort(all.begin(), all.end(), [](const auto& x, const auto& y) { return x.first.x < y.first.x; });
    std::vector<std::size_t> open;
    std::size_t sum = 0;
    for (std::size_t i = 0; i < all.size(); ++i) {
        std::erase_if(open, [&](std::size_t j) { return all[j].first.right() <= all[i].first.x; });
        for (const std::size_t j : open)
            if (all[i].first.intersects(all[j].first))
                sum += counts(all[i].second, all[j].second);
        open.push_back(i);
    }
    return sum;
}

} // namespace

DrawnMeasures measured(const scene::Scene& scene) {
    std::vector<Rect> plates;
    std::vector<model::ObjectRef> refs;
    std::unordered_map<std::uint64_t, Index> index;
    std::vector<const scene::Frame*> frames;
    std::vector<const scene::LinkLine*> links;
    const auto all = scene.itemsIn(scene.bounds());
    for (const Item* item : all.all()) {
        const auto stand = [&](const Rect& frame) {
            index[item->object.id] = static_cast<Index>(plates.size());
            refs.push_back(item->object);
            plates.push_back(frame);
        };
        if (const auto* plate = item->as<scene::Plate>())
            stand(plate->frame);
        else if (const auto* tile = item->as<scene::Tile>())
            stand(tile->frame);
        else if (const auto* frame = item->as<scene::Frame>())
            frames.push_back(frame);
        else if (const auto* line = item->as<scene::LinkLine>())
            links.push_back(line);
    }
    std::vector<DrawnLine> lines;
    Graph graph;
    Drawing drawing;
    for (const Rect& plate : plates) {
        graph.nodes.push_back({plate.w, plate.h, -1});
        drawing.at.push_back({plate.x, plate.y});
    }
    for (const scene::LinkLine* link : links) {
        const auto a = index.find(link->a.id), b = index.find(link->b.id);
        lines.push_back(
            {link->path, a == index.end() ? none : a->second, b == index.end() ? none : b->second});
        if (a != index.end() && b != index.end() && a->second != b->second)
            graph.edges.push_back({a->second, b->second});
    }
    DrawnMeasures out;
    static_cast<Measures&>(out) = measured(plates, lines);
    out.stress = stressOf(graph, drawing);

    // Labels among themselves, and over plates.
    std::vector<std::pair<Rect, std::size_t>> places;
    std::size_t labels = 0;
    for (const scene::Label& label : scene.labelsIn(scene.bounds()))
        places.emplace_back(label.area.grown(-1), labels++);
    for (std::size_t i = 0; i < plates.size(); ++i)
        places.emplace_back(plates[i].grown(-1), labels + i);
    out.labelOverlaps =
        overlapping(places, [&](std::size_t x, std::size_t y) { return x < labels || y < labels; });

    // Frames: over one another though neither lies in the other, and over what is not in them.
    const scene::Folding* folding = scene.folding();
    if (folding) {
        std::vector<std::pair<Rect, std::size_t>> areas;
        for (std::size_t i = 0; i < frames.size(); ++i)
            areas.emplace_back(frames[i]->frame, i);
        for (std::size_t i = 0; i < plates.size(); ++i)
            areas.emplace_back(plates[i], frames.size() + i);
        const auto within = [&](model::GroupId inner, model::GroupId outer) {
            for (int step = 0; inner && step < 64; ++step) {
                if (inner == outer)
                    return true;
                const scene::ShownGroup* held = folding->group(inner);
                inner = held ? held->in : model::GroupId{};
            }
            return false;
        };
        std::unordered_map<std::uint64_t, model::GroupId> memberOf;
        for (const scene::ShownDevice& device : folding->devices())
            memberOf[device.id.value] = device.in;
        const auto groupOf = [&](std::size_t i) -> model::GroupId {
            if (i < frames.size())
                return frames[i]->id;
            const model::ObjectRef ref = refs[i - frames.size()];
            if (ref.kind == model::Kind::group)
                return {ref.id};
            const auto at = memberOf.find(ref.id);
            return at == memberOf.end() ? model::GroupId{} : at->second;
        };
        out.groupIntrusions = overlapping(areas, [&](std::size_t x, std::size_t y) {
            if (x >= frames.size() && y >= frames.size())
                return false;
            const bool frameX = x < frames.size(), frameY = y < frames.size();
            return !(frameX && within(groupOf(y), groupOf(x))) && !(frameY && within(groupOf(x), groupOf(y)));
        });
    }
    return out;
}

} // namespace underridge::layout
