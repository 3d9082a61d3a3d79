// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/window/start_page.h"

#include "app/shown_text.h"
#include "app/style/pieces.h"

#include <QFileInfo>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace underridge::app {
namespace {

QPushButton* wideButton(const QString& text, const QString& tip) {
    auto* button = new QPushButton(text);
    button->setToolTip(tip);
    button->setMinimumHeight(34);
    return button;
}

/// A picture and the name; a blank in its place while there is no picture.
QPushButton* recentButton(const QString& path, const QPixmap& picture) {
    constexpr QSize size(64, 40);
    constexpr int textRoom = 136;
    const QFileInfo file(path);
    const bool own = file.suffix() == QStringLiteral("underridge"); // which goes without saying
    auto* button = new QPushButton;
    button->setText(asLabel(button->fontMetrics().elidedText(own ? file.completeBaseName() : file.fileName(),
                                                             Qt::ElideMiddle, textRoom)));
    button->setAccessibleName(file.fileName());
    QPixmap blank(size);
    blank.fill(Qt::transparent);
    button->setIcon(picture.isNull() ? blank : picture);
    button->setIconSize(size);
    button->setFlat(true);
    button->setToolTip(path);
    button->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed); // both columns are as wide
    return button;
}

} // namespace

StartPage::StartPage(QWidget* parent) : QWidget(parent) {
    setObjectName(QStringLiteral("startPage"));
    setFocusPolicy(Qt::StrongFocus); // until there is a button to have it
}

void StartPage::showEvent(QShowEvent* event) {
    if (!column_)
        build();
    QWidget::showEvent(event);
}

void StartPage::build() {
    auto* outer = new QHBoxLayout(this);
    auto* middle = new QWidget;
    middle->setMaximumWidth(460);
    middle->setMinimumWidth(320);
    column_ = new QVBoxLayout(middle);
    column_->setSpacing(10);
    auto* title = plainLabel(tr("Underridge"));
    QFont large = font();
    large.setPointSizeF(large.pointSizeF() * 1.9);
    large.setBold(true);
    title->setFont(large);
    column_->addStretch(2);
    column_->addWidget(title);
    column_->addWidget(plainLabel(tr("Draw a network whose every line ends in two real ports.")));
    column_->addSpacing(8);
    auto* fresh = wideButton(tr("New network"), tr("Start with an empty sheet"));
    auto* office = wideButton(tr("First office"), tr("Look round a small sample of eight devices"));
    auto* quay = wideButton(tr("Fennick Quay"),
                            tr("Look round a ferry terminal: its floors, racks, cabling and outbuildings"));
    auto* open = wideButton(
        tr("Open or import…"),
        tr("Read an Underridge network, RFC 8345 JSON, GraphML, or a CSV table of devices or links"));
    fresh->setDefault(true);
    for (QPushButton* button : {fresh, office, quay, open})
        column_->addWidget(button);
    connect(fresh, &QPushButton::clicked, this, &StartPage::newWanted);
    connect(office, &QPushButton::clicked, this, &StartPage::firstOfficeWanted);
    connect(quay, &QPushButton::clicked, this, &StartPage::fennickQuayWanted);
    connect(open, &QPushButton::clicked, this, &StartPage::openWanted);
    column_->addWidget(plainLabel(
        tr("Readable: .underridge, RFC 8345 JSON, GraphML, CSV. A file can also be dropped here.")));
    column_->addStretch(3);
    outer->addStretch();
    outer->addWidget(middle, 1);
    outer->addStretch();
    setFocusProxy(fresh);
    fillLists();
    middle->show(); // a layout in view would show it later
}

void StartPage::fill(const QStringList& recent, const SmallPictures& pictures,
                     const std::vector<edit::Recoverable>& recoverable) {
    recent_ = recent;
    pictures_ = pictures;
    recoverable_ = recoverable;
    if (column_)
        fillLists();
}

void StartPage::fillLists() {
    delete lists_;
    lists_ = new QWidget;
    auto* layout = new QVBoxLayout(lists_);
    layout->setContentsMargins(0, 10, 0, 0);
    if (!recoverable_.empty())
        layout->addWidget(plainLabel(tr("The program ended unexpectedly. This work can be recovered:")));
    for (const edit::Recoverable& from : recoverable_) {
        auto* line = new QHBoxLayout;
        const QString name = QString::fromStdString(from.header.name);
        auto* recover = wideButton(tr("Recover “%1”").arg(name), QString::fromStdString(from.header.path));
        auto* discard = wideButton(tr("Discard"), tr("Throw this work away for good"));
        discard->setAccessibleName(tr("Discard %1").arg(name));
        line->addWidget(recover, 1);
        line->addWidget(discard);
        layout->addLayout(line);
        connect(recover, &QPushButton::clicked, this, [this, from] { Q_EMIT recoverWanted(from); });
        connect(discard, &QPushButton::clicked, this, [this, from] { Q_EMIT discardWanted(from); });
    }
    if (!recent_.isEmpty())
        layout->addWidget(plainLabel(tr("Recent")));
    auto* grid = new QGridLayout;
    grid->setSpacing(4);
    int count = 0;
    for (const QString& path : recent_) {
        auto* button = recentButton(path, pictures_.of(path));
        grid->addWidget(button, count / 2, count % 2);
        ++count;
        connect(button, &QPushButton::clicked, this, [this, path] { Q_EMIT recentWanted(path); });
    }
    layout->addLayout(grid);
    column_->insertWidget(column_->count() - 1, lists_);
    lists_->show();
}

} // namespace underridge::app
