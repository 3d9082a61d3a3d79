// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/panels/catalogue_panel.h"

#include "app/sheet/sheet_view.h"
#include "core/edit/names.h"
#include "paint/glyphs.h"

#include <QDrag>
#include <QLabel>
#include <QMimeData>
#include <QStyledItemDelegate>
#include <QVBoxLayout>
#include <functional>

namespace underridge::app {
using namespace model;
namespace {

constexpr QSize plateSize(50, 26);
constexpr int idRole = Qt::UserRole, summaryRole = Qt::UserRole + 1;

/// Pictures of plates by model id, drawn when they are first seen.
using PlatePictures = std::function<QPixmap(const QString& id)>;

/// A list that drags the id of a model.
class ModelList : public QListWidget {
public:
    ModelList(PlatePictures pictures, QWidget* parent)
        : QListWidget(parent), pictures_(std::move(pictures)) {}

protected:
    void startDrag(Qt::DropActions) override {
        const QListWidgetItem* item = currentItem();
        if (!item || item->data(idRole).isNull())
            return;
        auto* carried = new QMimeData;
        carried->setData(QString::fromLatin1(modelMimeType), item->data(idRole).toString().toUtf8());
        auto* drag = new QDrag(this);
        drag->setMimeData(carried);
        drag->setPixmap(pictures_(item->data(idRole).toString()));
        drag->exec(Qt::CopyAction);
    }

private:
    PlatePictures pictures_;
};

/// Two lines: the name, and the ports under it.
class ModelDelegate : public QStyledItemDelegate {
public:
    ModelDelegate(PlatePictures pictures, QObject* parent)
        : QStyledItemDelegate(parent), pictures_(std::move(pictures)) {}

    QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        const int line = option.fontMetrics.height();
        return {100, index.data(idRole).isNull() ? line + 12 : 2 * line + 10};
    }

    void paint(QPainter* painter, const QStyleOptionViewItem& option,
               const QModelIndex& index) const override {
        const QRect r = option.rect.adjusted(8, 0, -6, 0);
        painter->save();
        if (index.data(idRole).isNull()) {
            QFont font = option.font;
            font.setPointSizeF(font.pointSizeF() * 0.85);
            font.setBold(true);
            painter->setFont(font);
            painter->setPen(option.palette.color(QPalette::PlaceholderText));
            painter->drawText(r.adjusted(0, 6, 0, 0), Qt::AlignVCenter, index.data().toString());
            painter->restore();
            return;
        }
        if (option.state & (QStyle::State_Selected | QStyle::State_MouseOver)) {
            QColor ground = option.palette.color(QPalette::Highlight);
            ground.setAlphaF(option.state & QStyle::State_Selected ? 0.18F : 0.07F);
            painter->setRenderHint(QPainter::Antialiasing);
            painter->setPen(Qt::NoPen);
            painter->setBrush(ground);
            painter->drawRoundedRect(option.rect.adjusted(3, 1, -3, -1), 5, 5);
        }
        const QPixmap picture = pictures_(index.data(idRole).toString());
        painter->drawPixmap(QPoint(r.left(), r.center().y() - plateSize.height() / 2), picture);
        const QRect words = r.adjusted(plateSize.width() + 9, 4, 0, -4);
        const int line = option.fontMetrics.height();
        painter->setPen(option.palette.color(QPalette::Text));
        painter->setFont(option.font);
        painter->drawText(
            QRect(words.topLeft(), QSize(words.width(), line)), Qt::AlignVCenter,
            option.fontMetrics.elidedText(index.data().toString(), Qt::ElideRight, words.width()));
        QFont small = option.font;
        small.setPointSizeF(small.pointSizeF() * 0.85);
        painter->setFont(small);
        painter->setPen(option.palette.color(QPalette::PlaceholderText));
        painter->drawText(QRect(words.left(), words.top() + line, words.width(), line), Qt::AlignVCenter,
                          QFontMetrics(small).elidedText(index.data(summaryRole).toString(), Qt::ElideRight,
                                                         words.width()));
        painter->restore();
    }

private:
    PlatePictures pictures_;
};

} // namespace

QPixmap smallPlate(const DeviceModel& model, const paint::Theme& theme, double ratio) {
    QPixmap picture(plateSize * ratio);
    picture.setDevicePixelRatio(ratio);
    picture.fill(Qt::transparent);
    QPainter painter(&picture);
    painter.setRenderHint(QPainter::Antialiasing);
    const QRectF frame(0.5, 0.5, plateSize.width() - 1, plateSize.height() - 1);
    painter.setPen(QPen(theme.edge, 1));
    painter.setBrush(theme.plate);
    painter.drawRoundedRect(frame, 4, 4);
    painter.setPen(Qt::NoPen);
    painter.setBrush(theme.spine(model.role));
    painter.drawRoundedRect(QRectF(0.5, 0.5, 15, frame.height()), 4, 4);
    painter.save();
    painter.translate(2, (plateSize.height() - 12) / 2.0);
    painter.scale(12 / paint::glyphBox, 12 / paint::glyphBox);
    painter.setPen(QPen(theme.glyph(), 1.5, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
    painter.setBrush(Qt::NoBrush);
    painter.drawPath(paint::glyphOf(model.role));
    painter.restore();
    const int ports = std::min<int>(static_cast<int>(model.ports.specs().size()), 8);
    painter.setPen(QPen(theme.socket, 0.7));
    for (int i = 0; i < ports; ++i)
        painter.drawRect(QRectF(19 + i * 3.6, frame.bottom() - 7, 2.2, 4));
    return picture;
}

CataloguePanel::CataloguePanel(const Catalogue& catalogue, QWidget* parent)
    : QWidget(parent),
      catalogue_(catalogue),
      search_(new QLineEdit(this)),
      list_(new ModelList([this](const QString& id) { return picture(id); }, this)),
      none_(new QLabel(this)) {
    search_->setPlaceholderText(tr("Search models and ports"));
    search_->setClearButtonEnabled(true);
    search_->setAccessibleName(tr("Search the catalogue"));
    list_->setAccessibleName(tr("Models"));
    list_->setFrameShape(QFrame::NoFrame);
    list_->setItemDelegate(new ModelDelegate([this](const QString& id) { return picture(id); }, list_));
    list_->setDragEnabled(true);
    list_->setMouseTracking(true);
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    list_->setIconSize(plateSize);
    none_->setWordWrap(true);
    none_->setAlignment(Qt::AlignTop | Qt::AlignHCenter);
    none_->hide();
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(8, 8, 8, 4);
    layout->addWidget(search_);
    layout->addWidget(list_, 1);
    layout->addWidget(none_);
    connect(search_, &QLineEdit::textChanged, this, &CataloguePanel::fill);
    const auto choose = [this](QListWidgetItem* item) {
        if (const auto* model = catalogue_.device(item->data(idRole).toString().toStdString()))
            Q_EMIT chosen(*model);
    };
    connect(list_, &QListWidget::itemClicked, this, choose);
    connect(list_, &QListWidget::itemActivated, this, choose);
}

void CataloguePanel::setTheme(const paint::Theme& theme) {
    theme_ = &theme;
    fill();
}

void CataloguePanel::clearChoice() {
    list_->clearSelection();
    list_->setCurrentItem(nullptr);
}

QPixmap CataloguePanel::picture(const QString& id) {
    QPixmap& drawn = pictures_[id];
    if (const DeviceModel* model = catalogue_.device(id.toStdString()); model && drawn.isNull())
        drawn = smallPlate(*model, *theme_, devicePixelRatioF());
    return drawn;
}

void CataloguePanel::fill() {
    pictures_.clear();
    list_->clear();
    const std::string query = search_->text().toStdString();
    bool any = false;
    for (const auto& word : wordsOf(Role{})) {
        bool heading = false;
        for (const DeviceModel& model : catalogue_.devices) {
            if (model.role != word.value)
                continue;
            const std::string summary = portSummary(model);
            if (!matchesWords(model.name + " " + std::string(word.title) + " " + summary, query))
                continue;
            if (!heading) {
                auto* item = new QListWidgetItem(QString::fromUtf8(pluralOf(model.role).data()), list_);
                item->setFlags(Qt::NoItemFlags);
                heading = true;
            }
            auto* item = new QListWidgetItem(QString::fromStdString(model.name), list_);
            item->setData(idRole, QString::fromStdString(model.id));
            item->setData(summaryRole, QString::fromStdString(summary));
            // An own model may be called anything: a leading tag would be taken for rich
            // text.
            item->setToolTip(
                QStringLiteral("<p>%1<br>%2</p>")
                    .arg(item->text().toHtmlEscaped(), QString::fromStdString(summary).toHtmlEscaped()));
            any = true;
        }
    }
    list_->setVisible(any);
    none_->setVisible(!any);
    none_->setText(tr("No model matches “%1”. Clear the search to see all.").arg(search_->text()));
}

} // namespace underridge::app
