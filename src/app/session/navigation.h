// SPDX-License-Identifier: GPL-3.0-or-later
// Going about the network: to an object wherever it is drawn, to another sheet, and back
// to where one was.
#pragma once
#include "app/session/selection.h"
#include "app/session/sheet_session.h"
#include "app/session/workspace.h"

namespace underridge::app {

class Navigation : public QObject {
    Q_OBJECT
public:
    Navigation(Workspace& workspace, Selection& selection, SheetSession& sheets, QObject* parent = nullptr);

    /// Shows and selects an object, on the sheet shown if it is there, else on the first
    /// that has it. A cable is shown by a link it carries. Whether there is anything to
    /// show.
    bool goTo(model::ObjectRef object);
    /// The first of them that can be shown.
    bool goTo(const std::vector<model::ObjectRef>& objects);
    /// At once, or as soon as a thread has made it: then what is shown stays until it is there.
    void showSheet(model::SheetId sheet);
    /// Whether a sheet, or what is in a group, was asked for that is still being made.
    bool isOpening() const { return static_cast<bool>(arrive_); }
    /// Stays where one is. Whether one was about to leave.
    bool giveUp();

    /// Looks into a group, or one level out: at once, or as soon as a thread has made what is in it.
    void enter(model::GroupId group);
    void leaveGroup();
    bool canLeaveGroup() const { return static_cast<bool>(sheets_.entered()); }
    /// The whole sheet.
    void home();

    bool canGoBack() const { return !back_.empty(); }
    bool canGoForward() const { return !forward_.empty(); }
    void back();
    void forward();

Q_SIGNALS:
    /// The view is about to be left: what is typed on the sheet belongs to where it is now.
    void leaving();
    /// The sheet is to bring this into view, changing as little as it can.
    void revealWanted(const underridge::scene::Rect& what);
    void viewWanted(const underridge::app::View& view);
    /// This was asked for and is shown now: the eye is to find it.
    void arrived(underridge::model::ObjectRef object);
    void wholeWanted(); ///< all of the sheet is to be seen
    void changed();     ///< whether one can go back or forward

private:
    struct Stop {
        model::SheetId sheet;
        model::GroupId entered;
        std::optional<View> view;
        edit::Refs selection;

        bool operator==(const Stop&) const = default;
    };
    Stop here() const;
    /// Calls `arrive` when that is made, unless one goes elsewhere before; at once for nothing.
    void whenMade(std::optional<SheetSession::Unmade> unmade, std::function<void()> arrive);
    void enterNow(model::GroupId group);
    void goTo(model::ObjectRef object, model::SheetId on);
    void leave();
    void travel(std::vector<Stop>& from, std::vector<Stop>& to);
    /// Looks where an object of the sheet shown is to be seen, if a folded group hides it.
    void openFor(model::ObjectRef object);
    bool isShownOn(model::SheetId sheet, model::ObjectRef object) const;

    Workspace& workspace_;
    Selection& selection_;
    SheetSession& sheets_;
    std::vector<Stop> back_, forward_; ///< the nearest last
    std::function<void()> arrive_;     ///< at what is being made
    struct Made {
        SheetSession::Unmade from;
        scene::Scene scene;
    };
    Latest<SheetSession::Unmade, std::shared_ptr<const Made>> maker_;
};

} // namespace underridge::app
