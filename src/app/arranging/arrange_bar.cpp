// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/arranging/arrange_bar.h"

#include "app/shown_text.h"
#include "app/style/pieces.h"

#include <QGridLayout>
#include <QHBoxLayout>
#include <QKeyEvent>

namespace underridge::app {
using namespace model;
using layout::Style;
namespace {

constexpr QSize pictureSize(76, 46);
constexpr int restMs = 250;
constexpr std::size_t pictured = 5000; ///< plates of sheets whose styles are shown as pictures

struct StyleTexts {
    Style style;
    const char *name, *tip;
};
constexpr StyleTexts styles[] = {
    {Style::suggest, QT_TRANSLATE_NOOP("ArrangeBar", "Suggested"),
     QT_TRANSLATE_NOOP("ArrangeBar",
                       "By its structure: rings as rings, trees as trees, layers between redundant devices")},
    {Style::layered, QT_TRANSLATE_NOOP("ArrangeBar", "Layers"),
     QT_TRANSLATE_NOOP("ArrangeBar", "In rows from where the network comes from, pairs side by side")},
    {Style::radial, QT_TRANSLATE_NOOP("ArrangeBar", "Radial"),
     QT_TRANSLATE_NOOP("ArrangeBar", "Round the anchor, by distance from it")},
    {Style::spring, QT_TRANSLATE_NOOP("ArrangeBar", "Springs"),
     QT_TRANSLATE_NOOP("ArrangeBar", "As far apart as they are in the network")},
    {Style::ring, QT_TRANSLATE_NOOP("ArrangeBar", "Ring"),
     QT_TRANSLATE_NOOP("ArrangeBar", "On a ring, in an order with few crossings; trees outside")},
    {Style::grid, QT_TRANSLATE_NOOP("ArrangeBar", "Grid"),
     QT_TRANSLATE_NOOP("ArrangeBar", "In rows and columns by name")},
    {Style::tidy, QT_TRANSLATE_NOOP("ArrangeBar", "Tidy"),
     QT_TRANSLATE_NOOP(
         "ArrangeBar",
         "As it stands: what is nearly in line comes into line, nothing overlaps, links go round plates")},
    {Style::row, QT_TRANSLATE_NOOP("ArrangeBar", "Row"),
     QT_TRANSLATE_NOOP("ArrangeBar", "In one row by name")},
    {Style::rack, QT_TRANSLATE_NOOP("ArrangeBar", "Racks"),
     QT_TRANSLATE_NOOP("ArrangeBar", "What is in a rack in one column by its units, racks side by side")},
    {Style::plan, QT_TRANSLATE_NOOP("ArrangeBar", "Links"),
     QT_TRANSLATE_NOOP("ArrangeBar", "Everything stays where it is, links go round plates")},
};
constexpr layout::Flow flows[] = {layout::Flow::down, layout::Flow::up, layout::Flow::right,
                                  layout::Flow::left};
constexpr int usualSpacing = 100, leastSpacing = 50, mostSpacing = 300; // per cent

} // namespace

ArrangeBar::ArrangeBar(Session& session, ArrangeActs& acts, QWidget* parent)
    : QWidget(parent),
      session_(session),
      acts_(acts),
      styles_(new QButtonGroup(this)),
      flow_(new QComboBox),
      spacing_(new QSlider(Qt::Horizontal)),
      anchor_(new QToolButton),
      only_(new QCheckBox(tr("Only the selection"))),
      keep_(new QCheckBox(tr("Keep my order"))),
      take_(new QToolButton),
      order_(new QComboBox),
      says_(plainLabel()) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(8, 4, 8, 4);
    row->setSpacing(4);
    for (const StyleTexts& texts : styles) {
        auto* button = new QToolButton;
        button->setText(tr(texts.name));
        button->setToolTip(tr(texts.tip));
        button->setAccessibleName(tr("Arrange: %1").arg(tr(texts.name)));
        button->setToolButtonStyle(Qt::ToolButtonTextUnderIcon);
        button->setIconSize(pictureSize);
        button->setCheckable(true);
        button->setFocusPolicy(Qt::StrongFocus);
        styles_->addButton(button, static_cast<int>(texts.style));
        row->addWidget(button);
    }
    flow_->addItems({tr("Downwards"), tr("Upwards"), tr("To the right"), tr("To the left")});
    flow_->setAccessibleName(tr("Where it goes from the anchor"));
    spacing_->setRange(leastSpacing, mostSpacing);
    spacing_->setValue(usualSpacing);
    spacing_->setPageStep(25);
    spacing_->setAccessibleName(tr("Spacing"));
    spacing_->setToolTip(tr("Spacing, 50 to 300 %"));
    spacing_->setMinimumWidth(90);
    anchor_->setAccessibleName(tr("Anchor"));
    anchor_->setToolTip(
        tr("The device everything hangs on: take the one that is selected, or leave it to the tool"));
    anchor_->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Preferred);
    only_->setToolTip(tr("Leave everything else where it is"));
    order_->addItems({tr("By name"), tr("By role"), tr("By address"), tr("By floor")});
    order_->setAccessibleName(tr("Order in rows"));
    order_->setToolTip(tr("In which order things come in rows where nothing else decides"));
    keep_->setToolTip(
        tr("What stands left or right of, above or below another stays so where the style allows"));
    take_->setText(tr("Take it as far as it is"));
    take_->setToolTip(tr("The arrangement was cancelled: take what there was of it"));
    take_->setVisible(false);
    auto* grid = new QGridLayout;
    grid->setContentsMargins(8, 0, 0, 0);
    grid->setHorizontalSpacing(8);
    grid->setVerticalSpacing(4);
    grid->addWidget(flow_, 0, 0);
    grid->addWidget(spacing_, 0, 1);
    grid->addWidget(anchor_, 1, 0);
    grid->addWidget(only_, 1, 1);
    says_->setWordWrap(false);
    says_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred); // the whole is in its tool tip
    grid->addWidget(order_, 2, 0);
    grid->addWidget(keep_, 2, 1);
    grid->addWidget(says_, 3, 0, 1, 2);
    grid->addWidget(take_, 3, 0, 1, 2);
    row->addLayout(grid);
    row->addStretch(1);
    auto* off = new QToolButton;
    off->setText(tr("Close"));
    row->addWidget(off, 0, Qt::AlignTop);
    connect(off, &QToolButton::clicked, this, &ArrangeBar::close);
    connect(styles_, &QButtonGroup::idClicked, this, &ArrangeBar::arrange);
    connect(flow_, &QComboBox::activated, this, &ArrangeBar::arrange);
    connect(spacing_, &QSlider::valueChanged, this, &ArrangeBar::arrange);
    connect(anchor_, &QToolButton::clicked, this, [this] {
        const auto devices = session_.selected().devices();
        anchored_ = devices.size() == 1 ? devices.front() : DeviceId{};
        follow();
        arrange();
    });
    connect(only_, &QCheckBox::toggled, this, &ArrangeBar::picture);
    const auto anew = [this] {
        picture();
        if (styles_->checkedButton())
            arrange();
    };
    connect(keep_, &QCheckBox::clicked, this, anew);
    connect(order_, &QComboBox::activated, this, [this, anew] {
        keep_->setChecked(false); // another order is wished
        anew();
    });
    connect(take_, &QToolButton::clicked, &acts_, &ArrangeActs::takeOffer);
    connect(&acts_, &ArrangeActs::offerChanged, this, [this] {
        take_->setVisible(acts_.hasOffer());
        says_->setVisible(!acts_.hasOffer());
        if (acts_.hasOffer() && !open_)
            open();
    });
    connect(&acts_, &ArrangeActs::arranged, this, [this](const QString& words) {
        says_->setText(words);
        says_->setToolTip(words);
    });
    connect(&session_.selected(), &Selection::changed, this, &ArrangeBar::follow);
    connect(&session_.sheets(), &SheetSession::sheetShown, this, [this] {
        anchored_ = {};
        acts_.canArrange() ? follow() : close();
    });
    connect(&session_.sheets(), &SheetSession::sceneChanged, this, [this] {
        if (open_)
            rest_.start();
    });
    rest_.setSingleShot(true);
    rest_.setInterval(restMs);
    connect(&rest_, &QTimer::timeout, this, &ArrangeBar::picture);
    connect(&pictures_, &ScenePictures::made, this, [this](quint64 key, const QImage& image) {
        QPixmap pixmap = QPixmap::fromImage(image);
        pixmap.setDevicePixelRatio(devicePixelRatioF());
        if (auto* button = styles_->button(static_cast<int>(key)))
            button->setIcon(QIcon(pixmap));
    });
    follow();
}

QToolButton* ArrangeBar::button(Style style) const {
    return qobject_cast<QToolButton*>(styles_->button(static_cast<int>(style)));
}

void ArrangeBar::setTheme(const paint::Theme& theme) {
    theme_ = &theme;
    picture();
}

void ArrangeBar::open() {
    open_ = true;
    only_->setChecked(session_.selected().devices().size() > 1);
    keep_->setChecked(acts_.isByHand());
    says_->clear();
    follow();
    picture();
    Q_EMIT wantedChanged();
    for (const Style style : {acts_.last().style, Style::suggest, Style::plan})
        if (QToolButton* usual = button(style); usual && usual->isEnabled())
            return usual->setFocus();
}

void ArrangeBar::close() {
    if (!std::exchange(open_, false))
        return;
    Q_EMIT wantedChanged();
    Q_EMIT left();
}

void ArrangeBar::follow() {
    if (anchored_ && !session_.network().device(anchored_))
        anchored_ = {};
    const auto devices = session_.selected().devices();
    anchor_->setText(anchored_ ? tr("Anchor: %1").arg(session_.nameOf(refTo(anchored_)))
                     : devices.size() == 1
                         ? tr("Anchor: take %1").arg(session_.nameOf(refTo(devices.front())))
                         : tr("Anchor: by structure"));
    const Sheet* sheet = session_.network().sheet(session_.sheet());
    for (QAbstractButton* each : styles_->buttons()) // on a plan things stand where they are built
        each->setEnabled(!sheet || sheet->mmPerUnit == 0 ||
                         styles_->id(each) == static_cast<int>(Style::plan));
    only_->setEnabled(devices.size() > 1);
    if (devices.size() < 2)
        only_->setChecked(false);
}

edit::ArrangeWish ArrangeBar::wish(Style style) const {
    edit::ArrangeWish wish;
    wish.style = style;
    wish.flow = flows[std::max(0, flow_->currentIndex())];
    wish.spacing = spacing_->value() / 100.0;
    wish.anchor = anchored_;
    wish.keepOrder = keep_->isChecked();
    wish.by = edit::allOrders[std::max(0, order_->currentIndex())];
    if (only_->isChecked())
        wish.only = session_.selected().devices();
    return wish;
}

void ArrangeBar::arrange() {
    if (!open_)
        return;
    if (!styles_->checkedButton())
        button(Style::suggest)->setChecked(true);
    acts_.arrange(wish(static_cast<Style>(styles_->checkedId())));
}

/// What each style would make of the sheet as it is now.
void ArrangeBar::picture() {
    if (!open_)
        return;
    std::vector<ScenePictures::Wanted> wanted;
    if (session_.scene().count<scene::Plate>() > pictured) {
        for (QAbstractButton* button : styles_->buttons())
            button->setIcon({});
        return pictures_.make({}, *theme_, pictureSize);
    }
    for (const StyleTexts& texts : styles)
        wanted.push_back({static_cast<quint64>(texts.style),
                          [network = session_.network(), look = session_.look(),
                           wish = wish(texts.style)]() -> std::optional<scene::Scene> {
                              auto act = edit::arrange(network, look, wish);
                              if (!act)
                                  return std::nullopt;
                              return scene::Scene::build(act->network, look.sheet, LengthUnit::metres,
                                                         look.entered);
                          }});
    pictures_.make(std::move(wanted), *theme_, pictureSize * devicePixelRatioF());
}

void ArrangeBar::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Escape)
        return acts_.isWorking() ? acts_.cancel() : close();
    auto* here = qobject_cast<QToolButton*>(focusWidget());
    if (here && styles_->id(here) >= 0 && (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter))
        return here->click();
    if (here && styles_->id(here) >= 0 && (event->key() == Qt::Key_Left || event->key() == Qt::Key_Right)) {
        const auto all = styles_->buttons();
        const auto at = all.indexOf(here) + (event->key() == Qt::Key_Right ? 1 : -1);
        if (at >= 0 && at < all.size())
            all[at]->setFocus();
        return;
    }
    QWidget::keyPressEvent(event);
}

} // namespace underridge::app
