// SPDX-License-Identifier: GPL-3.0-or-later
// Faceplates of the selection: the ports as they are on the device. Two devices stand
// face to face, to be linked port by port or range by range.
#pragma once
#include "app/panels/face_view.h"
#include "app/panels/parts_list.h"
#include "core/edit/fittings.h"

#include <QBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <QScrollArea>
#include <functional>

namespace underridge::app {

class Session;

class Dialogs;

class FaceplatePanel : public QWidget {
    Q_OBJECT
public:
    explicit FaceplatePanel(Session& session, Dialogs& dialogs, QWidget* parent = nullptr);

    FaceView& first() { return *faces_[0]; }
    FaceView& second() { return *faces_[1]; }
    bool faceToFace() const { return faces_[1]->device().value != 0; }
    QPushButton& link() { return *link_; }
    QPushButton& unlink() { return *unlink_; }
    void setTheme(const paint::Theme& theme);
    /// Links the chosen ports of both faces, in order; one of the second begins a range
    /// as long as the first's.
    void linkChosen();
    void unlinkChosen();
    PartsList& parts() { return *parts_; }
    QPushButton& trunk() { return *trunk_; }
    /// The trunk cables the chosen ports can be joined by.
    QMenu& trunkMenu() { return *trunkMenu_; }
    /// What can be done with what is chosen on a face.
    void fillMenu(QMenu& menu, FaceView& face);

Q_SIGNALS:
    void dragged(const underridge::model::PortRef& port, QPoint global, bool begins, bool done);
    void hinted(const QString& hint);

protected:
    void showEvent(QShowEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    void addFace(int i, QWidget* content);
    /// A link dragged from a port of one face: onto the other, or out to the sheet.
    void dragOver(int i, const model::PortRef& port, QPoint global, bool begins, bool done);
    void refresh();
    void refreshButtons();
    void fillTrunkMenu();
    /// Puts a part where it was dropped, or in the first place that takes it.
    void take(FaceView& face, const QString& part, const std::string& port, const std::string& slot);
    /// Does what takes ports away; where links are in the way, asks and does it with
    /// them.
    void takeOut(const std::function<edit::ActResult(edit::WithLinks)>& act);
    void removeChosen(FaceView& face);
    /// Beside each other where there is room, else one above the other.
    void arrange();
    std::vector<std::pair<model::PortRef, model::PortRef>> pairs() const;

    Session& session_;
    Dialogs& dialogs_;
    FaceView* faces_[2];
    QLabel *titles_[2], *empty_;
    QScrollArea* area_;
    QBoxLayout* both_;
    QPushButton *link_, *unlink_, *trunk_;
    QMenu* trunkMenu_;
    PartsList* parts_;
};

} // namespace underridge::app
