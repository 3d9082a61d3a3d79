// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/layout/put_down.h"

#include "core/model/ports.h"
#include "core/scene/plates.h"

#include <cmath>
#include <numeric>
#include <unordered_map>

namespace underridge::layout {
using namespace model;
namespace {

constexpr int gapX = 40, gapY = 96, partGap = 120, grid = 10;

struct Node {
    DeviceId id;
    scene::Rect frame;
    std::vector<std::size_t> near;
    double order = 0; ///< where its neighbour in the row above stands
};

struct Part {
    std::vector<std::vector<std::size_t>> rows;
    int width = 0, height = 0;
    std::size_t size = 0;
};

std::vector<Node> nodesOf(const Network& network, SheetId sheet, const std::vector<DeviceId>& devices) {
    std::vector<Node> nodes;
    std::unordered_map<std::uint64_t, std::size_t> index;
    for (const DeviceId id : devices)
        if (index.emplace(id.value, nodes.size()).second)
            nodes.push_back({id, scene::plateOf(network, sheet, *network.device(id))->frame, {}, 0});
    for (Node& node : nodes)
        network.forEachLinkOf(node.id, [&](const Link& link) {
            const DeviceId other = link.a.device == node.id ? link.b.device : link.a.device;
            if (const auto at = index.find(other.value); at != index.end() && other != node.id)
                node.near.push_back(at->second);
        });
    return nodes;
}

/// Rows by distance from `root`; a row longer than `most` is broken.
Part partFrom(std::vector<Node>& nodes, std::vector<bool>& seen, std::size_t root) {
    Part part;
    std::vector<std::size_t> row{root};
    seen[root] = true;
    std::vector<std::vector<std::size_t>> levels;
    while (!row.empty()) {
        std::vector<std::size_t> next;
        for (std::size_t i = 0; i < row.size(); ++i)
            for (const std::size_t other : nodes[row[i]].near)
                if (!seen[other]) {
                    seen[other] = true;
                    nodes[other].order = static_cast<double>(i);
                    next.push_back(other);
                }
        part.size += row.size();
        levels.push_back(std::move(row));
        // Leaves keep together beside those that lead on.
        std::stable_sort(next.begin(), next.end(),
                         [&](std::size_t x, std::size_t y) { return nodes[x].order < nodes[y].order; });
        row = std::move(next);
    }
    const std::size_t most =
        std::max<std::size_t>(8, static_cast<std::size_t>(std::sqrt(static_cast<double>(part.size)) * 1.4));
    for (auto& level : levels) {
        const std::size_t pieces = (level.size() + most - 1) / most;
        const std::size_t each = (level.size() + pieces - 1) / pieces;
        for (std::size_t at = 0; at < level.size(); at += each)
            part.rows.emplace_back(level.begin() + static_cast<std::ptrdiff_t>(at),
                                   level.begin() +
                                       static_cast<std::ptrdiff_t>(std::min(level.size(), at + each)));
    }
    for (const auto& each : part.rows) {
        double width = -gapX, height = 0;
        for (const std::size_t i : each) {
            width += nodes[i].frame.w + gapX;
            height = std::max(height, nodes[i].frame.h);
        }
        part.width = std::max(part.width, static_cast<int>(width));
        part.height += static_cast<int>(height) + gapY;
    }
    part.height -= gapY;
    return part;
}

int snapped(double value) {
    return static_cast<int>(std::lround(value / grid)) * grid;
}

/// The lowest plate that is on the sheet already.
std::optional<int> lowestOn(const Network& network, SheetId sheet) {
    std::optional<int> lowest;
    network.all<Position>().forEachIn(sheet.value, [&](const Position& position) {
        if (position.of == Kind::device)
            lowest = std::max(lowest.value_or(position.at.y), position.at.y);
    });
    return lowest;
}

void putAt(Network& network, SheetId sheet, DeviceId device, Point at) {
    Position position;
    if (const Position* old = network.position(sheet, device.value))
        position = *old;
    position.sheet = sheet;
    position.object = device.value;
    position.of = Kind::device;
    position.at = at;
    network.put(std::move(position));
}

/// Connected parts from their best-connected devices; those without any link stand together
/// in the last.
std::vector<Part> partsOf(std::vector<Node>& nodes) {
    constexpr std::size_t longestRow = 12;
    std::vector<std::size_t> byDegree(nodes.size());
    std::iota(byDegree.begin(), byDegree.end(), std::size_t{0});
    std::stable_sort(byDegree.begin(), byDegree.end(), [&](std::size_t x, std::size_t y) {
        return nodes[x].near.size() > nodes[y].near.size();
    });
    std::vector<bool> seen(nodes.size());
    std::vector<Part> parts;
    Part loose;
    for (const std::size_t root : byDegree) {
        if (seen[root])
            continue;
        if (!nodes[root].near.empty()) {
            parts.push_back(partFrom(nodes, seen, root));
            continue;
        }
        if (loose.rows.empty() || loose.rows.back().size() >= longestRow)
            loose.rows.emplace_back();
        seen[root] = true;
        loose.rows.back().push_back(root);
        loose.width = std::max(loose.width, static_cast<int>(loose.rows.back().size()) * (240 + gapX));
        loose.height = static_cast<int>(loose.rows.size()) * (60 + gapY / 2);
    }
    if (!loose.rows.empty())
        parts.push_back(std::move(loose));
    return parts;
}

/// How wide the parts may stand side by side for the whole to be about as wide as high.
int lineWidthFor(const std::vector<Part>& parts) {
    double total = 0;
    int widest = 0;
    for (const Part& part : parts) {
        total += static_cast<double>(part.width + partGap) * (part.height + partGap);
        widest = std::max(widest, part.width);
    }
    return std::max(widest, static_cast<int>(std::sqrt(total) * 1.3));
}

/// Puts a part down with its rows centred, from its upper left corner.
void putPart(Network& network, SheetId sheet, const std::vector<Node>& nodes, const Part& part, int x,
             double y) {
    for (const auto& row : part.rows) {
        double width = -gapX, height = 0;
        for (const std::size_t i : row) {
            width += nodes[i].frame.w + gapX;
            height = std::max(height, nodes[i].frame.h);
        }
        double at = x + (part.width - width) / 2;
        for (const std::size_t i : row) {
            putAt(network, sheet, nodes[i].id, ontoSheet({snapped(at), snapped(y)}));
            at += nodes[i].frame.w + gapX;
        }
        y += height + gapY;
    }
}

} // namespace

void putDown(Network& network, SheetId sheet, const std::vector<DeviceId>& devices) {
    if (devices.empty())
        return;
    const auto below = lowestOn(network, sheet);
    for (const DeviceId id : devices)
        if (!network.position(sheet, id.value))
            putAt(network, sheet, id, {}); // a plate has a size once it has a position
    std::vector<Node> nodes = nodesOf(network, sheet, devices);
    const std::vector<Part> parts = partsOf(nodes);
    const int lineWidth = lineWidthFor(parts);
    int x = 0, y = below ? *below + partGap + 60 : 0, lineHeight = 0;
    for (const Part& part : parts) {
        if (x > 0 && x + part.width > lineWidth) {
            x = 0;
            y += lineHeight + partGap;
            lineHeight = 0;
        }
        putPart(network, sheet, nodes, part, x, y);
        x += part.width + partGap;
        lineHeight = std::max(lineHeight, part.height);
    }
}

} // namespace underridge::layout
