// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/panels/chain_panel.h"

#include "app/panels/chain_step.h"
#include "app/panels/loss_bar.h"
#include "app/session/session.h"
#include "app/shown_text.h"
#include "app/style/pieces.h"
#include "core/edit/links.h"
#include "core/model/ports.h"

#include <QHBoxLayout>

namespace underridge::app {
using namespace model;
using linking::ChainEnd;
using linking::Stretch;
namespace {

QString endText(ChainEnd end) {
    switch (end) {
    case ChainEnd::device:
        return {};
    case ChainEnd::open:
        return ChainPanel::tr("goes no further");
    case ChainEnd::unknown:
        return ChainPanel::tr("port not known");
    case ChainEnd::loop:
        return ChainPanel::tr("comes round to where it began");
    case ChainEnd::split:
        return ChainPanel::tr("splits");
    }
    return {};
}

} // namespace

ChainPanel::ChainPanel(Session& session, QWidget* parent)
    : QWidget(parent),
      session_(session),
      theme_(&paint::lightTheme()),
      summary_(plainLabel()),
      bar_(new LossBar(*theme_)),
      skip_(new QCheckBox(tr("Skip panels"))),
      area_(new QScrollArea) {
    setObjectName(QStringLiteral("chain"));
    skip_->setToolTip(tr("Show only the two ends and what lies between as a whole"));
    area_->setWidgetResizable(true);
    area_->setFrameShape(QFrame::NoFrame);
    area_->setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    area_->setAccessibleName(tr("Chain"));
    auto* top = new QHBoxLayout;
    top->addWidget(summary_, 1);
    top->addWidget(bar_);
    top->addWidget(skip_);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(6, 4, 6, 6);
    layout->addLayout(top);
    layout->addWidget(area_, 1);
    connect(skip_, &QCheckBox::toggled, this, &ChainPanel::fill);
    const auto follow = [this] {
        if (isVisible())
            refresh();
    };
    connect(&session_.selected(), &Selection::changed, this, follow);
    connect(&session_.workspace(), &Workspace::networkChanged, this, follow);
    refresh();
}

void ChainPanel::setTheme(const paint::Theme& theme) {
    theme_ = &theme;
    bar_->setTheme(theme);
    for (ChainStep* step : findChildren<ChainStep*>())
        step->setTheme(theme);
}

void ChainPanel::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    refresh();
}

void ChainPanel::hideEvent(QHideEvent* event) {
    QWidget::hideEvent(event);
    session_.overlays().remove(paint::ChainOverlay::name());
}

PortRef ChainPanel::portWanted() const {
    if (session_.selected().port().known())
        return session_.selected().port();
    if (session_.selection().empty())
        return {};
    if (const Link* link = session_.network().link({session_.selection().front().id}))
        return link->a.known() ? link->a : link->b;
    // A device with one cable, such as an endpoint, leaves no doubt.
    PortRef only;
    int links = 0;
    const DeviceId device{session_.selection().front().id};
    if (session_.network().device(device))
        session_.network().forEachLinkOf(device, [&](const Link& link) {
            ++links;
            only = link.a.device == device ? link.a : link.b;
        });
    return links == 1 ? only : PortRef{};
}

void ChainPanel::refresh() {
    const PortRef wanted = portWanted();
    // A step of the chain shown that is gone to from here does not turn it round; nor
    // does its device alone.
    const auto isOn = [&](const PortRef& port) {
        return wanted.known() ? port == wanted : session_.selected().contains(refTo(port.device));
    };
    const bool inside = std::any_of(chain_.stretches.begin(), chain_.stretches.end(),
                                    [&](const Stretch& s) { return isOn(s.from) || isOn(s.to); });
    if (!inside || !session_.network().linkAt(at_))
        at_ = wanted;
    chain_ = linking::chainThrough(session_.network(), at_);
    fill();
    if (isVisible() && !chain_.empty())
        session_.overlays().put(std::make_shared<paint::ChainOverlay>(session_.network(), chain_));
    else
        session_.overlays().remove(paint::ChainOverlay::name());
}

void ChainPanel::fill() {
    const Network& network = session_.network();
    strip_ = new QWidget;
    auto* line = new QHBoxLayout(strip_);
    line->setContentsMargins(0, 0, 0, 0);
    line->setSpacing(0);
    skip_->setEnabled(chain_.stretches.size() > 1);
    if (chain_.empty()) {
        summary_->setText(at_.known()
                              ? tr("%1: no cable ends here").arg(shownText(edit::portText(network, at_)))
                              : tr("Select a link or a port to follow its cables from end to end."));
        bar_->show({});
        putInPlace();
        return;
    }
    const linking::Channel channel = linking::channelOf(network, chain_);
    const int wavelength = wavelengthOf(channel);
    const auto budget = linking::lightBudgetOf(channel);
    bar_->show(budget);
    QStringList words{
        tr("%1 to %2")
            .arg(shownText(edit::portText(network, chain_.a)), shownText(edit::portText(network, chain_.b)))};
    words << tr("%Ln cable(s)", nullptr, static_cast<int>(chain_.stretches.size()));
    words << (channel.unmeasured > 0
                  ? tr("at least %1").arg(shownLength(channel.lengthMm, session_.lengthUnit()))
                  : shownLength(channel.lengthMm, session_.lengthUnit()));
    if (budget && budget->limit.lossDb > 0)
        words << tr("at most %L1 dB of %L2 dB at %3 nm")
                     .arg(budget->lossDb, 0, 'f', 1)
                     .arg(budget->limit.lossDb, 0, 'f', 1)
                     .arg(wavelength);
    else if (wavelength > 0)
        words << tr("at most %L1 dB at %2 nm").arg(lossOf(channel, wavelength), 0, 'f', 1).arg(wavelength);
    for (const ChainEnd end : {chain_.endA, chain_.endB})
        if (end != ChainEnd::device)
            words << endText(end);
    summary_->setText(words.join(QStringLiteral(" · ")));
    if (skip_->isChecked() && chain_.stretches.size() > 1) {
        addPort({}, chain_.a, {});
        addSkipped(static_cast<int>(chain_.stretches.size()), channel.lengthMm);
        addPort(chain_.b, {}, {});
    } else {
        addPort({}, chain_.stretches.front().from, {});
        for (std::size_t i = 0; i < chain_.stretches.size(); ++i) {
            double lost = 0, joined = 0; // in the cable, and where it is joined to the next
            for (const linking::ChannelPart& part : channel.parts) {
                if (part.link == chain_.stretches[i].link)
                    lost += lossOf(part, wavelength);
                else if (part.kind != linking::ChannelPart::Kind::cable &&
                         part.at.device == chain_.stretches[i].to.device)
                    joined += lossOf(part, wavelength);
            }
            const bool last = i + 1 == chain_.stretches.size();
            addCable(chain_.stretches[i], wavelength > 0 ? std::optional(lost) : std::nullopt);
            addPort(chain_.stretches[i].to, last ? PortRef{} : chain_.stretches[i + 1].from,
                    wavelength > 0 && !last ? std::optional(joined) : std::nullopt);
        }
    }
    line->addStretch(1);
    putInPlace();
}

void ChainPanel::putInPlace() {
    if (QWidget* old = area_->takeWidget())
        old->deleteLater(); // one of its steps may have been clicked
    area_->setWidget(strip_);
    strip_->show();
}

template <class Step, class Act>
void ChainPanel::add(Step* step, const QString& said, const QString& tip, Act act) {
    step->setAccessibleName(said);
    step->setToolTip(tip);
    connect(step, &ChainStep::clicked, this, act);
    strip_->layout()->addWidget(step);
}

void ChainPanel::addPort(const PortRef& in, const PortRef& out, std::optional<double> lossDb) {
    const PortRef& port = in.device ? in : out;
    const Device* device = session_.network().device(port.device);
    const DeviceModel* model = device ? session_.network().modelOf(*device) : nullptr;
    const QString name = device ? shownText(device->name) : QStringLiteral("?");
    QStringList ports;
    for (const PortRef* passed : {&in, &out})
        if (passed->known())
            ports << shownText(passed->port);
    if (ports.isEmpty())
        ports << tr("port not known");
    const QString loss = lossDb ? tr("%L1 dB").arg(*lossDb, 0, 'f', 2) : QString();
    QStringList said{name + QLatin1Char(' ') + ports.join(QStringLiteral(" | "))};
    if (lossDb)
        said << loss;
    add(new ChainPlate(*theme_, model ? model->role : Role::unknown, name, ports, loss),
        said.join(QStringLiteral(", ")), tr("Go to the port"), [this, port] {
            Q_EMIT goTo({refTo(port.device)});
            if (port.known())
                session_.selectPort(port);
        });
}

void ChainPanel::addCable(const Stretch& stretch, std::optional<double> lossDb) {
    const Network& network = session_.network();
    const Link* link = network.link(stretch.link);
    const Cable* cable = network.cable(link->cable);
    const CableType* type = cable ? network.typeOf(*cable) : nullptr;
    QStringList above{type ? shownText(type->name) : shownText(titleOf(mediumOf(network, *link)))};
    if (cable && !cable->label.empty())
        above << shownText(cable->label);
    QStringList below{cable && cable->lengthMm > 0 ? shownLength(cable->lengthMm, session_.lengthUnit())
                                                   : tr("length not set")};
    if (lossDb)
        below << tr("%L1 dB").arg(*lossDb, 0, 'f', 2);
    const QString dot = QStringLiteral(" · ");
    add(new ChainCable(*theme_, scene::dressOf(network, *link), above.join(dot), below.join(dot)),
        tr("Cable %1").arg((above + below).join(QStringLiteral(", "))), tr("Go to the cable"),
        [this, id = stretch.link] { Q_EMIT goTo({refTo(id)}); });
}

void ChainPanel::addSkipped(int cables, std::int64_t lengthMm) {
    const QString all = tr("%Ln cable(s)", nullptr, cables);
    const QString length = shownLength(lengthMm, session_.lengthUnit());
    const Link* first = session_.network().link(chain_.stretches.front().link);
    add(new ChainCable(*theme_, scene::dressOf(session_.network(), *first), all, length),
        tr("%1, %2").arg(all, length), tr("Show the panels between"), [this] { skip_->setChecked(false); });
}

QStringList ChainPanel::steps() const {
    QStringList out;
    for (int i = 0; strip_ && i < strip_->layout()->count(); ++i)
        if (const QWidget* widget = strip_->layout()->itemAt(i)->widget())
            out << widget->accessibleName();
    return out;
}

} // namespace underridge::app
