// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/overlays/overlay_bar.h"

#include "app/overlays/forwarding_overlays.h"
#include "app/session/session.h"
#include "app/shown_text.h"
#include "app/style/pieces.h"
#include "app/window/checker.h"

#include <QHBoxLayout>
#include <QKeyEvent>

#include "core/analysis/forwarding.h"

namespace underridge::app {
using namespace model;
namespace {

/// What a row of the choice stands for, as its data.
QString vlanKey(int number) {
    return QStringLiteral("vlan:%1").arg(number);
}
const QString treeKey = QStringLiteral("tree"), areaKey = QStringLiteral("areas"),
              findingsKey = QStringLiteral("findings"), subnetKey = QStringLiteral("subnet:");

} // namespace

OverlayBar::OverlayBar(Session& session, Checker& checker, QWidget* parent)
    : QWidget(parent),
      session_(session),
      checker_(checker),
      choice_(new QComboBox),
      says_(plainLabel()),
      off_(new QToolButton) {
    auto* name = plainLabel(tr("Overlay"));
    name->setWordWrap(false);
    choice_->setAccessibleName(tr("Overlay"));
    choice_->setMinimumContentsLength(28);
    choice_->installEventFilter(this);
    says_->setWordWrap(false);
    off_->setText(tr("Off"));
    off_->setToolTip(tr("Take the overlay off"));
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(8, 0, 8, 0);
    row->setSpacing(8);
    row->addWidget(name);
    row->addWidget(choice_);
    row->addWidget(says_, 1);
    row->addWidget(off_);
    connect(choice_, &QComboBox::currentIndexChanged, this, [this] {
        if (open_)
            apply();
    });
    connect(off_, &QToolButton::clicked, this, &OverlayBar::close);
    connect(&checker_, &Checker::changed, this, [this] {
        if (!open_)
            return;
        fill();
        apply();
    });
}

void OverlayBar::open() {
    open_ = true;
    fill();
    apply();
    Q_EMIT wantedChanged();
    choice_->setFocus();
}

void OverlayBar::close() {
    open_ = false;
    session_.overlays().remove(NetworkOverlay::name());
    Q_EMIT wantedChanged();
    Q_EMIT left();
}

bool OverlayBar::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() == QEvent::KeyPress && static_cast<QKeyEvent*>(event)->key() == Qt::Key_Escape) {
        close();
        return true;
    }
    return QWidget::eventFilter(watched, event);
}

void OverlayBar::fill() {
    const QSignalBlocker quiet(choice_);
    const QString held = choice_->currentData().toString();
    choice_->clear();
    choice_->addItem(tr("Spanning tree"), treeKey);
    choice_->addItem(tr("Findings"), findingsKey);
    choice_->addItem(tr("OSPF areas"), areaKey);
    std::map<int, QStringList> vlans; // a number may be in several scopes
    session_.network().all<Vlan>().forEach(
        [&](const Vlan& vlan) { vlans[vlan.number] << shownText(vlan.name); });
    for (auto& [number, names] : vlans) {
        names.removeDuplicates();
        choice_->addItem(tr("VLAN %1 %2").arg(number).arg(names.join(QStringLiteral(", "))), vlanKey(number));
    }
    session_.network().all<Subnet>().forEach([&](const Subnet& subnet) {
        choice_->addItem(tr("Subnet %1 %2").arg(shownText(subnet.prefix.text()), shownText(subnet.name)),
                         subnetKey + shownText(subnet.prefix.text()));
    });
    if (const int at = choice_->findData(held); at >= 0)
        choice_->setCurrentIndex(at);
}

void OverlayBar::apply() {
    const auto forwarding = checker_.forwarding();
    if (!forwarding) {
        says_->setText(tr("being worked out"));
        return;
    }
    const QString key = choice_->currentData().toString();
    std::shared_ptr<const Overlay> overlay;
    if (key == treeKey)
        overlay = std::make_shared<TreeOverlay>(*forwarding);
    else if (key == areaKey)
        overlay = std::make_shared<AreaOverlay>(*forwarding);
    else if (key == findingsKey)
        overlay = std::make_shared<FindingsOverlay>(checker_.findings());
    else if (key.startsWith(subnetKey))
        overlay =
            std::make_shared<SubnetOverlay>(*forwarding, Address(key.mid(subnetKey.size()).toStdString()));
    else
        overlay = std::make_shared<VlanOverlay>(*forwarding, key.section(QLatin1Char(':'), 1).toInt());
    says_->setText(overlay->legend());
    session_.overlays().put(std::move(overlay));
}

} // namespace underridge::app
