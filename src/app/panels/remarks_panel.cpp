// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/panels/remarks_panel.h"

#include "app/style/pieces.h"

#include <QHeaderView>
#include <QPainter>
#include <QVBoxLayout>
#include <map>

namespace underridge::app {
namespace {

QString placeText(const Where& where) {
    QString text = QString::fromStdString(where.file).section(QLatin1Char('/'), -1);
    if (where.line > 0)
        text += QStringLiteral(":%1").arg(where.line);
    if (where.line > 0 && where.column > 0)
        text += QStringLiteral(":%1").arg(where.column);
    return text;
}

} // namespace

QString sentence(const std::string& clause) {
    QString text = QString::fromStdString(clause);
    if (!text.isEmpty())
        text[0] = text[0].toUpper();
    return text;
}

QIcon severityIcon(Severity severity, const QPalette& palette) {
    static std::map<std::pair<Severity, QRgb>, QIcon> drawn; // thousands of rows have one each
    QIcon& icon = drawn[{severity, palette.color(QPalette::Text).rgba()}];
    if (!icon.isNull())
        return icon;
    constexpr int side = 14;
    for (const QIcon::Mode mode : {QIcon::Normal, QIcon::Selected}) { // a selected row is only tinted
        QPixmap picture(side * 2, side * 2);
        picture.setDevicePixelRatio(2);
        picture.fill(Qt::transparent);
        QPainter painter(&picture);
        painter.setRenderHint(QPainter::Antialiasing);
        painter.setPen(QPen(palette.color(QPalette::Text), 1.6, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
        switch (severity) {
        case Severity::error:
            painter.drawLine(3, 3, 11, 11);
            painter.drawLine(11, 3, 3, 11);
            break;
        case Severity::warning:
            painter.drawPolygon(QPolygonF{QPointF(7, 2), QPointF(12, 11.5), QPointF(2, 11.5)});
            break;
        case Severity::advice:
            painter.setBrush(palette.color(QPalette::Text));
            painter.drawEllipse(QPointF(7, 7), 2, 2);
            break;
        }
        painter.end();
        icon.addPixmap(picture, mode);
    }
    return icon;
}

QString severityText(Severity severity) {
    switch (severity) {
    case Severity::error:
        return RemarksPanel::tr("Error");
    case Severity::warning:
        return RemarksPanel::tr("Warning");
    case Severity::advice:
        return RemarksPanel::tr("Advice");
    }
    return {};
}

RemarksList::RemarksList(QWidget* parent) : QTreeWidget(parent) {
    setAccessibleName(tr("Remarks"));
    setRootIsDecorated(false);
    setUniformRowHeights(true);
    setAlternatingRowColors(false);
    setHeaderLabels({tr("Remark"), tr("What to do"), tr("Object"), tr("Place")});
    header()->setStretchLastSection(false);
    header()->setSectionResizeMode(0, QHeaderView::Stretch);
    header()->setSectionResizeMode(1, QHeaderView::Stretch);
    header()->setSectionResizeMode(2, QHeaderView::ResizeToContents);
    header()->setSectionResizeMode(3, QHeaderView::ResizeToContents);
}

void RemarksList::show(const std::vector<Remark>& remarks) {
    remarks_ = remarks;
    clear();
    QList<QTreeWidgetItem*> items;
    for (const Remark& remark : remarks_) {
        auto* item = new QTreeWidgetItem({sentence(remark.what), sentence(remark.remedy),
                                          QString::fromStdString(remark.where.object).left(60),
                                          placeText(remark.where)});
        item->setIcon(0, severityIcon(remark.severity, palette()));
        item->setData(0, Qt::AccessibleTextRole,
                      severityText(remark.severity) + QStringLiteral(": ") + item->text(0));
        // Tool tips would take a leading tag for rich text.
        for (int column = 0; column < 4; ++column)
            item->setToolTip(column, QStringLiteral("<p>%1</p>").arg(item->text(column).toHtmlEscaped()));
        items << item;
    }
    addTopLevelItems(items);
}

RemarksPanel::RemarksPanel(QWidget* parent)
    : QWidget(parent), about_(new QLabel), list_(new RemarksList), empty_(plainLabel()) {
    setObjectName(QStringLiteral("remarks"));
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(6, 4, 6, 6);
    about_->setTextFormat(Qt::PlainText);
    empty_->setAlignment(Qt::AlignCenter);
    empty_->setText(tr("Nothing was noticed. What a file holds beyond what can be shown is listed here after "
                       "opening, importing or exporting it."));
    layout->addWidget(about_);
    layout->addWidget(list_, 1);
    layout->addWidget(empty_, 1);
    about_->hide();
    list_->hide();
    connect(list_, &QTreeWidget::itemClicked, this,
            [this](QTreeWidgetItem* item) { Q_EMIT goTo(list_->at(list_->indexOfTopLevelItem(item))); });
    connect(list_, &QTreeWidget::itemActivated, this,
            [this](QTreeWidgetItem* item) { Q_EMIT goTo(list_->at(list_->indexOfTopLevelItem(item))); });
}

void RemarksPanel::show(const QString& about, const std::vector<Remark>& remarks) {
    about_->setText(remarks.empty() ? about : QStringLiteral("%1: %2").arg(about, countsText(remarks)));
    about_->setVisible(!about.isEmpty());
    list_->show(remarks);
    list_->setVisible(!remarks.empty());
    empty_->setVisible(remarks.empty());
}

QString severityCounts(int errors, int warnings, int pieces) {
    QStringList parts;
    if (errors > 0)
        parts << RemarksPanel::tr("%Ln error(s)", nullptr, errors);
    if (warnings > 0)
        parts << RemarksPanel::tr("%Ln warning(s)", nullptr, warnings);
    if (pieces > 0)
        parts << RemarksPanel::tr("%Ln piece(s) of advice", nullptr, pieces);
    return parts.join(QStringLiteral(", "));
}

QString countsText(const std::vector<Remark>& remarks) {
    int count[3] = {};
    for (const Remark& remark : remarks)
        ++count[static_cast<int>(remark.severity)];
    const QString words = severityCounts(count[0], count[1], count[2]);
    return words.isEmpty() ? RemarksPanel::tr("nothing was noticed") : words;
}

} // namespace underridge::app
