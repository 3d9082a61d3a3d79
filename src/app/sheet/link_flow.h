// SPDX-License-Identifier: GPL-3.0-or-later
// Making links on a surface, and what follows: the strip that tells what was linked, and
// the drawer to choose other ports from.
#pragma once
#include "app/sheet/link_strip.h"
#include "app/sheet/port_drawer.h"
#include "app/sheet/surface.h"

namespace underridge::app {

class Session;

class LinkFlow : public QObject {
    Q_OBJECT
public:
    /// Drawer and strip lie on the surface.
    LinkFlow(Session& session, Surface& surface);

    /// Links, and tells how beside the link.
    void make(const linking::Proposal& proposal);
    /// Whether fitting something would give the two a way to be linked.
    bool canSupply(const linking::End& from, model::DeviceId target) const;
    void openDrawerForNew(const linking::End& from, model::DeviceId target);
    /// The devices of a folded group, or beyond a doorway, that a new link may end in.
    void openDevicesForNew(const linking::End& from, model::ObjectRef group);
    /// The same for an end of a link that is there.
    void openDevicesForLink(model::LinkId link, int end);
    /// `end`: 0 or 1, whose port is to change. Told when the link is gone.
    void openDrawerForLink(model::LinkId link, int end);
    /// Tab on the sheet: goes to the strip, once after it was opened. Whether it did.
    bool takeTab();
    void hideDrawer() { drawer_->hide(); }
    void hideStrip() { strip_->hide(); }

    PortDrawer& drawer() { return *drawer_; }
    LinkStrip& strip() { return *strip_; }

private:
    void showStrip(model::LinkId link, const std::string& reason);
    void placeStrip();
    void showDrawer(const linking::End& from, model::DeviceId target, model::LinkId spare);
    void showDevices(const linking::End& from, model::ObjectRef group, model::LinkId spare);
    void takeRow(const linking::DrawerRow& row);
    void takeDevice(model::DeviceId device);
    std::optional<QRectF> onScreen(model::DeviceId device) const;
    model::Network without(model::LinkId link) const;
    /// What stands for an end of a link on the sheet, where that is not its device.
    model::ObjectRef standIn(const model::Link& link, int end) const;
    void change(linking::Proposal proposal);

    Session& session_;
    Surface& surface_;
    PortDrawer* drawer_;
    LinkStrip* strip_;
    // what the drawer is open for
    linking::End from_;
    model::DeviceId target_;
    model::LinkId changed_; ///< none: a new link
    int changedEnd_ = 1;
    // what the strip tells of, and whether its link was the last step
    model::LinkId told_;
    std::size_t toldStep_ = 0;
    bool visited_ = false; ///< the keyboard has been in the strip
};

/// The devices behind what is drawn: of a group all in it, else the device itself.
std::vector<model::DeviceId> devicesBehind(const model::Network& network, model::ObjectRef shown);

} // namespace underridge::app
