// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/scene/face.h"

#include "core/linking/supply.h"
#include "core/scene/text_width.h"

#include <map>

namespace underridge::scene {
using namespace model;
namespace {

constexpr double socket = 17, gap = faceGap, blockGap = 14, margin = faceMargin, keyHeight = faceKeyHeight;
constexpr double sideGap = 10, bayMargin = faceBayMargin, captionHeight = 10, emptyBay = 34, bayRow = 620;

/// Like ports beside each other: two rows where there are many.
struct Run {
    std::vector<FacePort> ports;
    int rows() const { return ports.size() > 4 ? 2 : 1; }
    int columns() const { return (static_cast<int>(ports.size()) + rows() - 1) / rows(); }
    double socketWidth() const { return ports.front().like.cage == Cage::none ? socket : socket * 1.15; }
    double width() const { return columns() * (socketWidth() + gap) - gap; }
};

using Runs = std::vector<Run>;

Runs runsOn(const std::vector<FacePort>& ports, Side side) {
    Runs runs;
    for (const FacePort& port : ports) {
        if (port.like.side != side)
            continue;
        if (runs.empty() || !(runs.back().ports.back().like == port.like))
            runs.emplace_back();
        runs.back().ports.push_back(port);
    }
    return runs;
}

double heightOf(const Runs& runs) {
    int rows = 1;
    for (const Run& run : runs)
        rows = std::max(rows, run.rows());
    return rows * (socket + keyHeight) + 2 * margin;
}

double widthOf(const Runs& runs) {
    double width = 2 * margin - blockGap;
    for (const Run& run : runs)
        width += run.width() + blockGap;
    return std::max(width, 120.0);
}

/// A slot before it has a place.
struct Bay {
    FaceSlot slot;
    Runs runs;

    /// At the origin.
    Rect size() const {
        const double ports = runs.empty() ? 0 : widthOf(runs) - 2 * (margin - bayMargin);
        const double words = textWidth(slot.caption, faceCaptionSize, Weight::regular) + 2 * bayMargin;
        return {0, 0, std::max({ports, words, 90.0}),
                runs.empty() ? emptyBay : heightOf(runs) - 2 * margin + 2 * bayMargin + captionHeight};
    }
};

/// One chassis before it has a place.
struct Body {
    std::string name; ///< its number in a stack
    std::vector<FacePort> ports;
    std::vector<Bay> bays;
};

class Layout {
public:
    Face run(const std::vector<Body>& bodies) {
        for (const Body& body : bodies)
            for (const Side side : {Side::front, Side::rear})
                add(body, side);
        for (FaceSide& side : face_.sides)
            side.area.w = width_;
        face_.width = width_;
        face_.height = top_ - sideGap;
        return std::move(face_);
    }

private:
    void add(const Body& body, Side side) {
        const Runs runs = runsOn(body.ports, side);
        const bool front = side == Side::front;
        if (runs.empty() && !front)
            return;
        double bottom = top_ + heightOf(runs);
        place(runs, {margin, top_ + margin});
        double end = margin - blockGap;
        for (const Run& run : runs) {
            end += run.width() + blockGap;
            const auto& rates = run.ports.front().like.rates;
            if (!rates.empty() && run.ports.front().like.use == PortUse::data)
                face_.speeds.push_back({rateText(rates.back()), {end, top_ + margin - 3}});
        }
        double right = widthOf(runs);
        if (front && !body.bays.empty()) {
            // Bays stand in rows below the chassis' own ports.
            double x = margin, y = runs.empty() ? top_ + margin : bottom - margin / 2, row = 0;
            for (const Bay& bay : body.bays) {
                const Rect size = bay.size();
                if (x > margin && x + size.w > bayRow) {
                    x = margin;
                    y += row + gap;
                    row = 0;
                }
                FaceSlot slot = bay.slot;
                slot.area = size.moved({x, y});
                face_.slots.push_back(std::move(slot));
                place(bay.runs, {x + bayMargin, y + bayMargin + captionHeight});
                x += size.w + gap;
                row = std::max(row, size.h);
                right = std::max(right, x - gap + margin);
            }
            bottom = y + row + margin;
        }
        face_.sides.push_back(
            {std::string(front ? "front" : "rear") + (body.name.empty() ? "" : " " + body.name),
             {0, top_, right, bottom - top_}});
        width_ = std::max(width_, right);
        top_ = bottom + sideGap;
    }

    void place(const Runs& runs, PointF at) {
        for (const Run& run : runs) {
            for (std::size_t i = 0; i < run.ports.size(); ++i) {
                const int row = run.rows() == 2 ? static_cast<int>(i % 2) : 0;
                const int column = static_cast<int>(i) / run.rows();
                FacePort port = run.ports[i];
                port.area = {at.x + column * (run.socketWidth() + gap), at.y + row * (socket + keyHeight),
                             run.socketWidth(), socket};
                face_.ports.push_back(std::move(port));
            }
            at.x += run.width() + blockGap;
        }
    }

    Face face_;
    double top_ = 0, width_ = 0;
};

} // namespace

namespace {

/// Where a port is hit: its socket and its key, up to the middle of what is between two.
Rect areaOf(const FacePort& port) {
    const Rect& at = port.area;
    return {at.x - gap / 2, at.y - gap / 2, at.w + gap, at.h + gap / 2 + keyHeight};
}

} // namespace

int Face::at(PointF point) const {
    for (std::size_t i = 0; i < ports.size(); ++i)
        if (areaOf(ports[i]).contains(point))
            return static_cast<int>(i);
    return -1;
}

int Face::slotAt(PointF point) const {
    for (std::size_t i = 0; i < slots.size(); ++i)
        if (slots[i].area.contains(point))
            return static_cast<int>(i);
    return -1;
}

Face faceOf(const DeviceModel& model) {
    Body body;
    for (const PortSpec& spec : model.ports.specs())
        body.ports.push_back({spec.key, spec.like, {}});
    for (const Slot& slot : model.slots)
        body.bays.push_back({{slot.key, "slot " + slot.key, false, {}}, {}});
    return Layout().run({body});
}

Face faceOf(const Network& network, const Device& device) {
    std::vector<Body> bodies;
    for (const Chassis& member : device.stack)
        bodies.push_back({std::to_string(member.number), {}, {}});
    if (bodies.empty())
        bodies.emplace_back();
    const auto bodyOf = [&](const std::string& key) -> Body& {
        for (Body& body : bodies)
            if (!body.name.empty() && key.starts_with(body.name + "/"))
                return body;
        return bodies.front();
    };
    std::map<std::string, std::vector<FacePort>> inSlots;
    const auto slots = linking::slotsOf(network, device);
    for (const PortView& port : portsOf(network, device)) {
        FacePort each{
            port.key, *port.like, {}, port.transceiver ? port.transceiver->connector : Connector::none};
        const auto slot = std::find_if(slots.begin(), slots.end(), [&](const linking::SlotView& view) {
            return view.fitted && port.key.starts_with(view.key + "/");
        });
        (slot == slots.end() ? bodyOf(port.key).ports : inSlots[slot->key]).push_back(std::move(each));
    }
    for (const linking::SlotView& view : slots) {
        const auto* module =
            view.fitted ? network.find<ModuleModel>({fnv1a(view.fitted->model), 0}) : nullptr;
        bodyOf(view.key).bays.push_back({{view.key,
                                          "slot " + view.key + " · " +
                                              (module        ? module->name
                                               : view.fitted ? view.fitted->model
                                                             : std::string("empty")),
                                          view.fitted != nullptr,
                                          {}},
                                         runsOn(inSlots[view.key], Side::front)});
    }
    return Layout().run(bodies);
}

} // namespace underridge::scene
