// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/port_drawer.h"

#include <QKeyEvent>
#include <QLabel>
#include <QScrollBar>
#include <QVBoxLayout>

namespace underridge::app {
using linking::Standing;

PortDrawer::PortDrawer(QWidget* parent)
    : FloatingBox(QStringLiteral("portDrawer"), parent),
      title_(new QLabel(this)),
      list_(new QTreeWidget(this)) {
    list_->setFrameShape(QFrame::NoFrame);
    list_->setAccessibleName(tr("Ports"));
    list_->setUniformRowHeights(true);
    list_->setColumnCount(3); // port, what it is, "best"
    list_->setHeaderHidden(true);
    list_->setRootIsDecorated(false);
    list_->setAllColumnsShowFocus(true);
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    title_->setWordWrap(false);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(10, 8, 10, 8);
    layout->setSpacing(4);
    layout->addWidget(title_);
    layout->addWidget(list_);
    setFocusProxy(list_);
    list_->installEventFilter(this);
    connect(list_, &QTreeWidget::itemClicked, this,
            [this](QTreeWidgetItem* item) { choose(list_->indexOfTopLevelItem(item)); });
    hide();
}

void PortDrawer::open(const QString& device, const QString& from, std::vector<linking::DrawerRow> rows) {
    rows_ = std::move(rows);
    title_->setText(
        QStringLiteral("<b>%1</b> %2").arg(device.toHtmlEscaped(), tr("from %1").arg(from).toHtmlEscaped()));
    setAccessibleName(tr("Ports of %1, linked from %2").arg(device, from));
    list_->setAccessibleName(accessibleName());
    list_->clear();
    bool divided = false;
    // The rows of the list and those of `rows_` are kept in step: the dividing line is a
    // row of its own.
    for (std::size_t i = 0; i < rows_.size(); ++i)
        if (rows_[i].standing == Standing::doesNotFit) {
            rows_.insert(rows_.begin() + static_cast<std::ptrdiff_t>(i), linking::DrawerRow{});
            break;
        }
    for (const linking::DrawerRow& row : rows_) {
        if (row.port.empty()) {
            auto* line = new QTreeWidgetItem(list_, {QString(), tr("Will not come up:")});
            line->setFlags(Qt::NoItemFlags);
            divided = true;
            continue;
        }
        auto* item =
            new QTreeWidgetItem(list_, {QString::fromStdString(row.port), QString::fromStdString(row.text),
                                        row.best ? tr("best") : QString()});
        if (row.standing == Standing::taken || (divided && row.other.empty()))
            item->setFlags(Qt::NoItemFlags);
        if (divided) {
            item->setForeground(0, palette().color(QPalette::PlaceholderText));
            item->setForeground(1, palette().color(QPalette::PlaceholderText));
            item->setToolTip(1, tr("Link all the same; it is marked and told as a finding"));
        } else if (row.standing == Standing::needsSupply) {
            item->setToolTip(1, tr("Fits it and links, in one step"));
        }
        if (row.best)
            item->setForeground(2, palette().color(QPalette::Highlight));
    }
    int width = 0;
    for (int column = 0; column < 3; ++column) {
        list_->resizeColumnToContents(column);
        width += list_->columnWidth(column);
    }
    list_->ensurePolished();
    list_->setCurrentItem(list_->topLevelItem(0));
    const int rowHeight = std::max(16, list_->sizeHintForIndex(list_->model()->index(0, 1)).height());
    const int shown = std::clamp(list_->topLevelItemCount(), 1, 7);
    resize(std::clamp(width + 48, 260, 640), rowHeight * shown + title_->sizeHint().height() + 30);
    show();
    raise();
    setFocus();
}

void PortDrawer::placeBeside(const QRectF& plate, const std::vector<QRectF>& plates, const QRect& view) {
    constexpr int gap = 12;
    const QSize s = size();
    const QPoint candidates[] = {QPoint(qRound(plate.right()) + gap, qRound(plate.top())),
                                 QPoint(qRound(plate.left()) - gap - s.width(), qRound(plate.top())),
                                 QPoint(qRound(plate.left()), qRound(plate.bottom()) + gap + 12),
                                 QPoint(qRound(plate.left()), qRound(plate.top()) - gap - s.height()),
                                 QPoint(view.right() - s.width() - gap, view.bottom() - s.height() - gap),
                                 view.topLeft() + QPoint(gap, gap)};
    QPoint best = candidates[0];
    double bestCost = 1e18;
    for (const QPoint wanted : candidates) {
        const QPoint at(
            std::clamp(wanted.x(), view.left() + 4, std::max(view.left() + 4, view.right() - s.width() - 4)),
            std::clamp(wanted.y(), view.top() + 4, std::max(view.top() + 4, view.bottom() - s.height() - 4)));
        const QRectF here(at, s);
        double cost = 0;
        for (const QRectF& other : plates) {
            const QRectF both = here & other;
            cost += both.width() * both.height();
        }
        if (cost < bestCost) {
            bestCost = cost;
            best = at;
        }
        if (cost == 0)
            break;
    }
    move(best);
}

void PortDrawer::choose(int row) {
    if (row < 0 || !(list_->topLevelItem(row)->flags() & Qt::ItemIsEnabled))
        return;
    const linking::DrawerRow picked = rows_[static_cast<std::size_t>(row)];
    hide();
    Q_EMIT chosen(picked);
}

void PortDrawer::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Escape) {
        hide();
        Q_EMIT closed();
    } else if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter) {
        choose(list_->indexOfTopLevelItem(list_->currentItem()));
    } else {
        FloatingBox::keyPressEvent(event);
    }
}

bool PortDrawer::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() == QEvent::KeyPress) {
        auto* key = static_cast<QKeyEvent*>(event);
        if (key->key() == Qt::Key_Escape || key->key() == Qt::Key_Return || key->key() == Qt::Key_Enter) {
            keyPressEvent(key);
            return true;
        }
    }
    return FloatingBox::eventFilter(watched, event);
}

} // namespace underridge::app
