// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/window/place_line.h"

#include "app/session/session.h"
#include "app/shown_text.h"
#include "core/model/group_tree.h"

#include <QAction>
#include <QMenu>

namespace underridge::app {
using namespace model;

PlaceLine::PlaceLine(Session& session, QAction* back, QAction* forward, QWidget* parent)
    : QWidget(parent), session_(session), layout_(new QHBoxLayout(this)), sheet_(new QToolButton(this)) {
    layout_->setContentsMargins(0, 0, 0, 0);
    layout_->setSpacing(2);
    for (QAction* action : {back, forward}) {
        auto* button = new QToolButton(this);
        button->setArrowType(action == back ? Qt::LeftArrow : Qt::RightArrow);
        button->setAccessibleName(action->text().remove(QLatin1Char('&')));
        button->setToolTip(action->toolTip());
        button->setFocusPolicy(Qt::NoFocus);
        button->setEnabled(action->isEnabled());
        connect(button, &QToolButton::clicked, action, &QAction::trigger);
        connect(action, &QAction::changed, button,
                [button, action] { button->setEnabled(action->isEnabled()); });
        layout_->addWidget(button);
    }
    sheet_->setPopupMode(QToolButton::InstantPopup);
    sheet_->setToolTip(tr("The sheet shown"));
    sheet_->setMenu(new QMenu(sheet_));
    connect(sheet_->menu(), &QMenu::aboutToShow, this, &PlaceLine::fillSheets);
    connect(sheet_, &QToolButton::clicked, this, [this] {
        session_.navigation().enter({}); // with no group entered a click opens the menu
    });
    layout_->addWidget(sheet_);
    connect(&session_.sheets(), &SheetSession::enteredChanged, this, &PlaceLine::refresh);
}

void PlaceLine::fillSheets() {
    sheet_->menu()->clear();
    for (const Sheet& sheet : session_.network().sheetsInOrder()) {
        QAction* action = sheet_->menu()->addAction(asLabel(shownText(sheet.name)));
        action->setCheckable(true);
        action->setChecked(sheet.id == session_.sheet());
        connect(action, &QAction::triggered, this, [this, id = sheet.id] { session_.showSheet(id); });
    }
}

void PlaceLine::refresh() {
    const Network& network = session_.network();
    if (const Sheet* sheet = network.sheet(session_.sheet()))
        sheet_->setText(asLabel(shownText(sheet->name)));
    const bool inGroup = static_cast<bool>(session_.scene().entered());
    sheet_->setPopupMode(inGroup ? QToolButton::DelayedPopup : QToolButton::InstantPopup);
    sheet_->setToolTip(inGroup ? tr("Back to the whole sheet; held down, the other sheets")
                               : tr("The sheet shown"));
    std::vector<std::pair<GroupId, QString>> wanted;
    for (const GroupId id : upwards(network, session_.scene().entered()))
        wanted.insert(wanted.begin(), {id, shownText(network.group(id)->name)});
    if (wanted == shown_)
        return;
    shown_ = wanted;
    for (QToolButton* button : groups_) {
        button->hide(); // it may be the one that was clicked: it goes later
        button->deleteLater();
    }
    groups_.clear();
    for (const auto& [id, name] : wanted) {
        auto* button = new QToolButton(this);
        button->setText(QStringLiteral("› ") + asLabel(name));
        button->setAccessibleName(name);
        button->setToolTip(tr("Look into %1").arg(name));
        button->setFocusPolicy(Qt::NoFocus);
        connect(button, &QToolButton::clicked, this,
                [this, group = id] { session_.navigation().enter(group); });
        layout_->addWidget(button);
        groups_.push_back(button);
    }
}

} // namespace underridge::app
