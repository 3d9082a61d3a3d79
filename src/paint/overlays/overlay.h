// SPDX-License-Identifier: GPL-3.0-or-later
// What is said of the objects of a sheet beside the scene. An overlay has an id, a legend,
// and marks by object; the sheet, pictures, cards and whatever lists objects read the
// same. State is never told by colour alone: a mark has words.
#pragma once
#include "core/linking/chain.h"

#include <QString>
#include <map>
#include <memory>

namespace underridge::paint {

class Overlay {
public:
    struct Mark {
        float strength = 0.26F; ///< of the halo in the accent colour, 0 to 1
        QString words;          ///< what it says of the object, for cards and screen readers
        QString badge = {};     ///< a word or number drawn on it; may be empty
        int rank = 0;           ///< badges of lower rank are said first where several meet
    };

    /// What leads from one device to another beside the links of the sheet: a cord.
    struct Way {
        model::DeviceId from, to;
        bool left = false; ///< the side it is led along where one stands over the other
    };

    virtual ~Overlay() = default;
    /// Its own among all overlays, the same in every run: "chain".
    virtual QString id() const = 0;
    /// One line for the corner of the sheet.
    virtual QString legend() const = 0;
    /// What it says of each object it says anything of.
    const std::map<model::ObjectRef, Mark>& marks() const { return marks_; }
    const std::vector<Way>& ways() const { return ways_; }

protected:
    std::map<model::ObjectRef, Mark> marks_;
    std::vector<Way> ways_;
};

/// Overlays in the order they are painted.
using OverlayList = std::vector<std::shared_ptr<const Overlay>>;

/// The links of a chain from end to end.
class ChainOverlay : public Overlay {
public:
    ChainOverlay(const model::Network& network, const linking::Chain& chain);
    static QString name() { return QStringLiteral("chain"); }
    QString id() const override { return name(); }
    QString legend() const override { return legend_; }

private:
    QString legend_;
};

/// Overlays of a network, and the network they are of.
struct LaidOver {
    model::Network network;
    OverlayList overlays;
};

} // namespace underridge::paint
