// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheets/sheets_panel.h"

#include "app/carried.h"
#include "app/session/session.h"
#include "app/shown_text.h"
#include "core/edit/plans.h"
#include "core/edit/sheets.h"

#include <QDropEvent>
#include <QKeyEvent>
#include <QVBoxLayout>

namespace underridge::app {
using namespace model;
namespace {
constexpr int sheetIdRole = Qt::UserRole, restMs = 600;
constexpr QSize pictureSize(96, 60);
} // namespace

SheetId SheetList::sheetOf(const QListWidgetItem* item) {
    return item ? SheetId{item->data(sheetIdRole).toULongLong()} : SheetId{};
}

void SheetList::dragEnterEvent(QDragEnterEvent* event) {
    if (carriesDevices(*event->mimeData()))
        event->accept();
    else
        QListWidget::dragEnterEvent(event);
}

void SheetList::dragMoveEvent(QDragMoveEvent* event) {
    if (!carriesDevices(*event->mimeData()))
        return QListWidget::dragMoveEvent(event);
    QListWidgetItem* onto = itemAt(event->position().toPoint());
    setCurrentItem(onto, QItemSelectionModel::ClearAndSelect); // it says which one is meant
    event->setAccepted(onto);
}

void SheetList::dropEvent(QDropEvent* event) {
    const QPoint at = event->position().toPoint();
    QListWidgetItem* onto = itemAt(at);
    if (carriesDevices(*event->mimeData())) {
        if (onto)
            Q_EMIT devicesDropped(event->mimeData(), sheetOf(onto));
    } else if (event->source() == this) {
        const int row = onto ? this->row(onto) + (at.y() > visualItemRect(onto).center().y()) : count();
        Q_EMIT moved(sheetOf(currentItem()), row);
    }
    event->setDropAction(Qt::IgnoreAction); // the rows follow the network
    event->accept();
}

void SheetList::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Delete && state() != EditingState && currentItem())
        Q_EMIT removeWanted(sheetOf(currentItem()));
    else if (event->modifiers() == Qt::AltModifier &&
             (event->key() == Qt::Key_Up || event->key() == Qt::Key_Down) && currentItem())
        Q_EMIT moved(sheetOf(currentItem()), currentRow() + (event->key() == Qt::Key_Up ? -1 : 2));
    else
        QListWidget::keyPressEvent(event);
}

SheetsPanel::SheetsPanel(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), list_(new SheetList), new_(new QPushButton(tr("New sheet"))) {
    list_->setAccessibleName(tr("Sheets"));
    list_->setFrameShape(QFrame::NoFrame);
    list_->setIconSize(pictureSize);
    list_->setDragDropMode(QAbstractItemView::InternalMove);
    list_->setEditTriggers(QAbstractItemView::EditKeyPressed);
    list_->setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
    list_->setToolTip(
        tr("Click: show. F2: rename. Drag, or Alt and arrows: put in order. Devices dropped on a "
           "sheet are drawn there too."));
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(8, 8, 8, 4);
    layout->addWidget(list_, 1);
    layout->addWidget(new_);
    rest_.setSingleShot(true);
    rest_.setInterval(restMs);
    connect(new_, &QPushButton::clicked, this, &SheetsPanel::newWanted);
    connect(list_, &SheetList::removeWanted, this, &SheetsPanel::removeWanted);
    connect(list_, &SheetList::moved, this, &SheetsPanel::move);
    connect(list_, &SheetList::devicesDropped, this, [this](const QMimeData* carried, SheetId sheet) {
        putOn(sheet, carriedDevices(*carried, session_.network()));
    });
    const auto show = [this](QListWidgetItem* item) { session_.showSheet(SheetList::sheetOf(item)); };
    connect(list_, &QListWidget::itemClicked, this, show);
    connect(list_, &QListWidget::itemActivated, this, show);
    connect(list_, &QListWidget::itemChanged, this, &SheetsPanel::takeName);
    connect(&session_.workspace(), &Workspace::networkChanged, this, &SheetsPanel::later);
    connect(&session_.sheets(), &SheetSession::sheetShown, this, &SheetsPanel::later);
    connect(&pictures_, &ScenePictures::made, this, [this](quint64 sheet, const QImage& picture) {
        for (int row = 0; row < list_->count(); ++row)
            if (SheetList::sheetOf(list_->item(row)).value == sheet) {
                QPixmap pixmap = QPixmap::fromImage(picture);
                pixmap.setDevicePixelRatio(devicePixelRatioF());
                busy_ = true;
                list_->item(row)->setIcon(QIcon(pixmap));
                busy_ = false;
            }
    });
    theme_ = &paint::lightTheme();
    connect(&rest_, &QTimer::timeout, this, [this] {
        if (!isVisible())
            return;
        std::vector<ScenePictures::Wanted> wanted;
        for (const Sheet& sheet : session_.network().sheetsInOrder())
            wanted.push_back({sheet.id.value, [network = session_.network(), id = sheet.id] {
                                  return std::optional(scene::Scene::build(network, id));
                              }});
        pictures_.make(std::move(wanted), *theme_, pictureSize * devicePixelRatioF());
    });
}

void SheetsPanel::setTheme(const paint::Theme& theme) {
    theme_ = &theme;
    later();
}

/// Several changes in a row are looked at once, and only while it can be seen.
void SheetsPanel::later() {
    if (!std::exchange(stale_, true))
        QTimer::singleShot(0, this, [this] {
            if (isVisible())
                refresh();
        });
}

void SheetsPanel::showEvent(QShowEvent* event) {
    if (stale_)
        refresh();
    QWidget::showEvent(event);
}

void SheetsPanel::refresh() {
    stale_ = false;
    if (list_->isEditing()) { // when it has ended
        stale_ = true;
        QTimer::singleShot(restMs, this, &SheetsPanel::refresh);
        return;
    }
    busy_ = true;
    const auto sheets = session_.network().sheetsInOrder();
    std::map<SheetId, QIcon> pictures;
    for (int row = 0; row < list_->count(); ++row)
        pictures[SheetList::sheetOf(list_->item(row))] = list_->item(row)->icon();
    QPixmap none(pictureSize);
    none.fill(Qt::transparent);
    list_->clear();
    for (const Sheet& sheet : sheets) {
        auto* item = new QListWidgetItem(shownText(sheet.name), list_);
        item->setData(sheetIdRole, QVariant::fromValue<qulonglong>(sheet.id.value));
        item->setFlags(item->flags() | Qt::ItemIsEditable);
        item->setIcon(pictures.contains(sheet.id) ? pictures[sheet.id] : QIcon(none));
        if (sheet.id == session_.sheet())
            list_->setCurrentItem(item);
    }
    busy_ = false;
    rest_.start();
}

void SheetsPanel::takeName(QListWidgetItem* item) {
    const Sheet* sheet = session_.network().sheet(SheetList::sheetOf(item));
    if (busy_ || !sheet || item->text() == shownText(sheet->name))
        return;
    if (!session_.apply(
            edit::renameSheet(session_.network(), sheet->id, item->text().trimmed().toStdString())))
        later(); // as it was
}

void SheetsPanel::move(SheetId sheet, int row) {
    std::vector<SheetId> order;
    const auto sheets = session_.network().sheetsInOrder();
    for (int i = 0; i <= static_cast<int>(sheets.size()); ++i) {
        if (i == row || (i == 0 && row < 0))
            order.push_back(sheet);
        if (i < static_cast<int>(sheets.size()) && sheets[static_cast<std::size_t>(i)].id != sheet)
            order.push_back(sheets[static_cast<std::size_t>(i)].id);
    }
    if (std::find(order.begin(), order.end(), sheet) == order.end())
        order.push_back(sheet);
    const auto same = std::equal(order.begin(), order.end(), sheets.begin(), sheets.end(),
                                 [](SheetId id, const Sheet& each) { return id == each.id; });
    if (!same)
        session_.apply(edit::orderSheets(session_.network(), order));
}

bool SheetsPanel::drop(QPoint global, const std::vector<DeviceId>& devices) {
    const QPoint at = list_->viewport()->mapFromGlobal(global);
    const QListWidgetItem* onto =
        isVisible() && list_->viewport()->rect().contains(at) ? list_->itemAt(at) : nullptr;
    if (!onto || devices.empty())
        return false;
    putOn(SheetList::sheetOf(onto), devices);
    return true;
}

/// Those that are not on it yet, where there is room: right of what is there.
void SheetsPanel::putOn(SheetId sheet, const std::vector<DeviceId>& devices) {
    std::vector<DeviceId> fresh;
    for (const DeviceId id : devices)
        if (!session_.network().position(sheet, id.value))
            fresh.push_back(id);
    const Sheet* held = session_.network().sheet(sheet);
    if (fresh.empty() || !held) {
        Q_EMIT session_.workspace().refused(
            advice(tr("all of that is on %1 already").arg(held ? shownText(held->name) : tr("the sheet")),
                   tr("choose other devices or another sheet")));
        return;
    }
    auto act =
        edit::putOnSheet(session_.network(), sheet, fresh, edit::freeCorner(session_.network(), sheet));
    if (act)
        act->subjects = session_.selection();
    session_.apply(std::move(act));
}

} // namespace underridge::app
