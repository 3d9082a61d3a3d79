// SPDX-License-Identifier: GPL-3.0-or-later
// What hangs on one device: in one row a fan, in several rows about the line down from it.
#include "core/layout/composer.h"

#include <cmath>

namespace underridge::layout {
namespace {

/// Which boxes stand in which row, and how large all are.
struct Shelves {
    std::vector<std::size_t> ends; ///< of each row, one behind its last
    double width = 0, height = 0;
};

/// What is put into rows, and how many lines lead to it.
struct Shelved {
    PointF size;
    std::size_t lines;
};

/// Above a row of several: a track for each of its lines, as many as there are on the side with more.
double tracksFor(std::size_t linesOfASide) {
    return 2 * trackMargin + trackPitch * static_cast<double>(linesOfASide);
}

Shelves shelved(const std::vector<Shelved>& all, double most) {
    Shelves out;
    double width = 0, height = 0;
    std::size_t lines = 0;
    for (std::size_t i = 0; i < all.size(); ++i) {
        if (width > 0 && width + besideGap + all[i].size.x > most) {
            out.ends.push_back(i);
            out.width = std::max(out.width, width);
            out.height += tracksFor((lines + 1) / 2) + height + rowGap;
            width = height = 0;
            lines = 0;
        }
        width += (width > 0 ? besideGap : 0) + all[i].size.x;
        height = std::max(height, all[i].size.y);
        lines += all[i].lines;
    }
    out.ends.push_back(all.size());
    out.width = std::max(out.width, width);
    out.height += (out.ends.size() > 1 ? tracksFor((lines + 1) / 2) : fanGap) + height;
    return out;
}

/// The rows that come nearest to a proportion.
Shelves bestShelves(const std::vector<Shelved>& all, double wish) {
    double widest = 0, total = 0;
    for (const Shelved& each : all) {
        widest = std::max(widest, each.size.x);
        total += each.size.x + besideGap;
    }
    Shelves best;
    double bestOff = 1e18;
    constexpr double step = 1.15;
    for (double most = total; most > widest / step; most /= step) {
        Shelves shelves = shelved(all, std::max(most, widest));
        const double off = std::abs(std::log(shelves.width / (shelves.height + 44) / wish)) +
                           0.06 * std::log2(static_cast<double>(shelves.ends.size()));
        if (off < bestOff) {
            bestOff = off;
            best = std::move(shelves);
        }
        if (best.ends.size() > 1 && shelves.width / shelves.height < wish / 4)
            break;
    }
    // As many rows, the last as full as the others.
    for (double most = best.width - 1; most >= widest && best.ends.size() > 1;
         most -= std::max(8.0, most / 40)) {
        Shelves even = shelved(all, most);
        if (even.ends.size() > best.ends.size())
            break;
        best = std::move(even);
    }
    return best;
}

} // namespace

Composer::Hung Composer::hungOf(const Block& block, bool turned) {
    if (block.nodes.size() == 1) {
        const Cell below = cell(block.nodes.front(), turned);
        Hung hung{below.box, boxes_[below.box].size, {}};
        const double tick = tickOf(block.edges.front(), block.nodes.front(), turned);
        hung.entries.push_back(
            {block.edges.front(), {{below.plate.x + (tick >= 0 ? tick : below.plate.w / 2), 0}}});
        return hung;
    }
    if (const RingOrder order = ringOf(block.nodes, block.edges, block.above); !order.empty())
        return hungRing(block, order, turned);
    std::vector<Outward> outward;
    for (const Index edge : block.edges)
        if (graph_.edges[edge].a == block.above || graph_.edges[edge].b == block.above)
            outward.push_back({edge, otherEnd(edge, block.above), false});
    const Piece all = piece(block.nodes, outward, turned);
    Hung hung{all.box, boxes_[all.box].size, {}};
    for (const Stub& stub : all.stubs)
        hung.entries.push_back({stub.edge, stub.path});
    std::sort(hung.entries.begin(), hung.entries.end(),
              [](const auto& x, const auto& y) { return x.path.front().x < y.path.front().x; });
    return hung;
}

Cell Composer::heap(Index node, bool turned) {
    std::vector<Index> all{node};
    PointF widest;
    for (std::size_t i = 0; i < all.size(); ++i) {
        const PointF size = plateSize(all[i], turned);
        widest = {std::max(widest.x, size.x), std::max(widest.y, size.y)};
        for (const Index block : tree_.at(all[i]))
            if (!isLeftOut(block))
                all.insert(all.end(), tree_.blocks[block].nodes.begin(), tree_.blocks[block].nodes.end());
    }
    const PointF pitch = widest + PointF{besideGap, rowGap};
    const auto perRow = static_cast<std::size_t>(std::max(
        1.0, std::round(std::sqrt(static_cast<double>(all.size()) * pitch.y * wish(turned) / pitch.x))));
    Box box;
    for (std::size_t i = 0; i < all.size(); ++i) {
        const PointF size = plateSize(all[i], turned);
        const std::size_t row = i == 0 ? 0 : 1 + (i - 1) / perRow, column = i == 0 ? 0 : (i - 1) % perRow;
        const Rect frame{static_cast<double>(column) * pitch.x, static_cast<double>(row) * pitch.y, size.x,
                         size.y};
        box.plates.push_back({all[i], frame});
        box.size = {std::max(box.size.x, frame.right()), std::max(box.size.y, frame.bottom())};
    }
    const Rect first = box.plates.front().frame;
    return {boxes_.add(std::move(box)), first};
}

Cell Composer::cell(Index node, bool turned) {
    constexpr int deepest = 300;
    if (depth_ >= deepest && hangsOn(node))
        return heap(node, turned);
    const PointF plate = plateSize(node, turned);
    ++depth_;
    std::vector<Hung> hung;
    for (const Index block : tree_.at(node))
        if (!isLeftOut(block))
            hung.push_back(hungOf(tree_.blocks[block], turned));
    if (hung.empty()) {
        --depth_;
        Box box;
        box.size = plate;
        box.plates.push_back({node, {0, 0, plate.x, plate.y}});
        return {boxes_.add(std::move(box)), {0, 0, plate.x, plate.y}};
    }
    // Single devices first, then by port where all are known.
    if (!asked_.keepOrder)
        std::stable_sort(hung.begin(), hung.end(), [&](const Hung& x, const Hung& y) {
            const bool leafX = boxes_[x.box].inner.empty(), leafY = boxes_[y.box].inner.empty();
            if (leafX != leafY)
                return leafX;
            const double tickX = tickOf(x.entries.front().edge, node, turned),
                         tickY = tickOf(y.entries.front().edge, node, turned);
            return leafX && tickX >= 0 && tickY >= 0 && tickX < tickY;
        });
    std::vector<PointF> sizes;
    std::vector<Shelved> all;
    for (const Hung& each : hung) {
        sizes.push_back(each.size);
        all.push_back({each.size, each.entries.size()});
    }
    const Shelves shelves = bestShelves(all, wish(turned));
    --depth_;
    const std::size_t rows = shelves.ends.size();

    // Each row lies about the axis; lines to lower rows go down between its halves.
    struct Line {
        const Hung* to = nullptr;
        std::size_t entry = 0;
        std::size_t row = 0;
        PointF at; ///< corner of its box, from the axis
        bool left = false;
        double exit = 0, track = 0;
        double x() const { return at.x + to->entries[entry].path.front().x; }
    };
    std::vector<Line> lines;
    std::vector<std::size_t> rowOf(hung.size());
    std::vector<std::size_t> linesIn(rows);
    for (std::size_t row = 0, i = 0; row < rows; ++row)
        for (; i < shelves.ends[row]; ++i) {
            rowOf[i] = row;
            linesIn[row] += hung[i].entries.size();
        }
    std::size_t count = 0;
    for (const std::size_t each : linesIn)
        count += each;
    const double span = std::min(plate.x - 12, 9.0 * static_cast<double>(count > 0 ? count - 1 : 0));
    std::vector<PointF> corner(hung.size());
    double widest = plate.x / 2, widestRight = plate.x / 2;
    std::size_t deeper = count;
    for (std::size_t row = 0, i = 0; row < rows; ++row) {
        const std::size_t from = i, to = shelves.ends[row];
        deeper -= linesIn[row];
        // Half of the boxes left of the axis, the middle one on it where nothing goes by.
        double width = -besideGap;
        for (std::size_t k = from; k < to; ++k)
            width += sizes[k].x + besideGap;
        const double between = deeper == 0 ? 0 : span + 2 * trackPitch;
        double x = -(width + (deeper > 0 ? std::max(0.0, between - besideGap) : 0)) / 2;
        bool passed = deeper == 0;
        for (; i < to; ++i) {
            if (!passed && x + sizes[i].x / 2 > 0) { // from here on right of the axis
                x = std::max(x, 0.0);
                double left = i > from ? corner[i - 1].x + sizes[i - 1].x : -1e18;
                const double shift = left > -between / 2 ? left + between / 2 : 0;
                for (std::size_t k = from; k < i; ++k)
                    corner[k].x -= shift;
                x = between / 2;
                passed = true;
            }
            corner[i].x = x;
            x += sizes[i].x + besideGap;
        }
        if (!passed) { // all on one side, by turns
            const bool left = row % 2 == 0;
            const double shift =
                left ? -between / 2 - corner[to - 1].x - sizes[to - 1].x : between / 2 - corner[from].x;
            for (std::size_t k = from; k < to; ++k)
                corner[k].x += shift;
        }
        widest = std::max(widest, -corner[from].x);
        widestRight = std::max(widestRight, corner[to - 1].x + sizes[to - 1].x);
    }
    const bool fan = rows == 1 && std::max(widest, widestRight) < 5 * 120;
    for (std::size_t i = 0; i < hung.size(); ++i)
        for (std::size_t entry = 0; entry < hung[i].entries.size(); ++entry) {
            Line line{&hung[i], entry, rowOf[i], corner[i], false, 0, 0};
            line.left = line.x() < 0;
            lines.push_back(line);
        }
    // From left to right where they leave the plate: farthest of the first row, … to the
    // middle, and back.
    std::stable_sort(lines.begin(), lines.end(), [&](const Line& x, const Line& y) {
        if (rows == 1)
            return x.x() < y.x();
        if (x.left != y.left)
            return x.left;
        if (x.row != y.row)
            return x.left ? x.row < y.row : x.row > y.row;
        return x.x() < y.x();
    });
    std::vector<double> ticks;
    for (const Line& line : lines)
        ticks.push_back(tickOf(line.to->entries[line.entry].edge, node, turned));
    const auto exits = exitsAlong(-plate.x / 2, plate.x, lines.size(), ticks);
    for (std::size_t i = 0; i < lines.size(); ++i)
        lines[i].exit = exits[i];

    Box box;
    const double axis = widest;
    double y = plate.y;
    for (std::size_t row = 0, i = 0; row < rows; ++row) {
        std::vector<Line*> left, right;
        for (Line& line : lines)
            if (line.row == row)
                (line.x() < line.exit ? left : right).push_back(&line);
        double zone = 0;
        if (fan) {
            zone = std::clamp(widest * 0.3, fanGap, 120.0);
        } else {
            // The farther, the higher.
            std::reverse(right.begin(), right.end());
            zone = tracksFor(std::max(left.size(), right.size()));
            for (auto* side : {&left, &right})
                for (std::size_t k = 0; k < side->size(); ++k)
                    (*side)[k]->track = y + trackMargin + trackPitch * static_cast<double>(k);
        }
        y += zone;
        double height = 0;
        for (; i < shelves.ends[row]; ++i) {
            corner[i].y = y;
            box.inner.push_back({hung[i].box, {corner[i].x + axis, y}, Turn::down});
            height = std::max(height, sizes[i].y);
        }
        for (Line& line : lines)
            if (line.row == row) {
                const Hung::Entry& entry = line.to->entries[line.entry];
                Wire wire{entry.edge, {{line.exit + axis, plate.y}}};
                if (!fan && std::abs(line.exit - line.x()) > 0.5) {
                    wire.path.push_back({line.exit + axis, line.track});
                    wire.path.push_back({line.x() + axis, line.track});
                }
                for (const PointF p : entry.path)
                    wire.path.push_back({line.at.x + p.x + axis, y + p.y});
                box.wires.push_back(std::move(wire));
            }
        y += height + (row + 1 < rows ? rowGap : 0);
    }
    const Rect frame{axis - plate.x / 2, 0, plate.x, plate.y};
    box.size = {axis + widestRight, y};
    box.plates.push_back({node, frame});
    return {boxes_.add(std::move(box)), frame};
}

} // namespace underridge::layout
