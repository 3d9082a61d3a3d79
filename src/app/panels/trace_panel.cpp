// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/panels/trace_panel.h"

#include "app/panels/remarks_panel.h"
#include "app/session/session.h"
#include "app/shown_text.h"
#include "app/style/pieces.h"
#include "app/window/checker.h"
#include "core/analysis/forwarding.h"
#include "core/edit/remedies.h"
#include "core/edit/statements.h"
#include "paint/overlays/forwarding_overlays.h"

#include <QCompleter>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QStringListModel>

namespace underridge::app {
using namespace model;
namespace {

enum Column { number, device, in, out, vlan, decision, columns };

/// The names of all devices, as they are when somebody begins to type.
class NamesCompleter : public QCompleter {
public:
    NamesCompleter(Session& session, QObject* parent) : QCompleter(parent), session_(session) {
        QObject::connect(&session_.workspace(), &Workspace::networkChanged, this, [this] { stale_ = true; });
        QObject::connect(&session_.workspace(), &Workspace::documentReplaced, this,
                         [this] { stale_ = true; });
        setModel(&names_);
        setFilterMode(Qt::MatchContains);
        setCaseSensitivity(Qt::CaseInsensitive);
    }
    QStringList splitPath(const QString& path) const override {
        if (std::exchange(stale_, false)) {
            QStringList names;
            session_.network().all<Device>().forEach(
                [&](const Device& each) { names << shownText(each.name); });
            names.sort();
            names_.setStringList(names);
        }
        return {path};
    }

private:
    Session& session_;
    mutable QStringListModel names_;
    mutable bool stale_ = true;
};

} // namespace

TracePanel::TracePanel(Session& session, Checker& checker, QWidget* parent)
    : QWidget(parent),
      session_(session),
      checker_(checker),
      from_(new QLineEdit),
      to_(new QLineEdit),
      protocol_(new QComboBox),
      port_(new QSpinBox),
      both_(new QCheckBox(tr("And back"))),
      swap_(new QPushButton(tr("Swap"))),
      putRight_(new QPushButton(tr("Put right"))),
      keep_(new QPushButton(tr("Keep as a statement"))),
      says_(plainLabel()),
      steps_(new QTreeWidget) {
    setObjectName(QStringLiteral("trace"));
    for (const auto& [field, name, hint] :
         {std::tuple(from_, tr("Trace from"), tr("from: device or address")),
          {to_, tr("Trace to"), tr("to: device or address")}}) {
        field->setAccessibleName(name);
        field->setPlaceholderText(hint);
        field->setCompleter(new NamesCompleter(session_, this));
        field->setMinimumWidth(120);
        connect(field, &QLineEdit::returnPressed, this, &TracePanel::run);
    }
    protocol_->setAccessibleName(tr("Protocol"));
    for (const auto& word : wordsOf(Protocol{}))
        protocol_->addItem(word.value == Protocol::any ? tr("any protocol") : shownText(word.title));
    port_->setRange(0, 65'535);
    port_->setSpecialValueText(tr("any port"));
    port_->setAccessibleName(tr("Destination port"));
    both_->setToolTip(tr("Also how the answer goes"));
    both_->setChecked(true);
    putRight_->setToolTip(tr("Do what the remedy says; undo takes it back"));
    keep_->setToolTip(tr("Check after every edit that this stays so; what breaks it is a finding"));
    steps_->setAccessibleName(tr("Steps of the trace"));
    steps_->setRootIsDecorated(false);
    steps_->setUniformRowHeights(true);
    steps_->setHeaderLabels({tr("Step"), tr("Device"), tr("In"), tr("Out"), tr("VLAN"), tr("What decides")});
    steps_->header()->setStretchLastSection(true);
    auto* top = new QHBoxLayout;
    for (QWidget* widget : std::initializer_list<QWidget*>{from_, to_, swap_, protocol_, port_, both_})
        top->addWidget(widget, widget == from_ || widget == to_ ? 1 : 0);
    auto* middle = new QHBoxLayout;
    middle->addWidget(says_, 1);
    middle->addWidget(putRight_);
    middle->addWidget(keep_);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(6, 4, 6, 6);
    layout->addLayout(top);
    layout->addLayout(middle);
    layout->addWidget(steps_, 1);
    connect(swap_, &QPushButton::clicked, this, [this] {
        const QString held = from_->text();
        from_->setText(to_->text());
        to_->setText(held);
        run();
    });
    connect(both_, &QCheckBox::toggled, this, &TracePanel::run);
    connect(protocol_, &QComboBox::activated, this, &TracePanel::run);
    connect(port_, &QSpinBox::editingFinished, this, &TracePanel::run);
    connect(&checker_, &Checker::changed, this, [this] {
        if (isVisible() && any_)
            run();
    });
    connect(steps_, &QTreeWidget::itemClicked, this, [this](QTreeWidgetItem* item) {
        if (const auto id = item->data(device, Qt::UserRole).toULongLong())
            Q_EMIT goTo({{Kind::device, id}});
    });
    connect(putRight_, &QPushButton::clicked, this, [this] {
        linking::Finding finding;
        finding.remedy.kind = linking::Remedy::Kind::script;
        finding.remedy.words = trace_.remedy;
        finding.remedy.acts = trace_.acts;
        session_.apply(
            edit::applyRemedy(session_.network(), session_.catalogue(), finding, session_.workspace().ids()));
    });
    connect(keep_, &QPushButton::clicked, this, [this] {
        const std::string from = said(from_->text().trimmed()), to = said(to_->text().trimmed());
        Statement statement;
        statement.from = edit::partyOf(session_.network(), from);
        statement.to = edit::partyOf(session_.network(), to);
        statement.protocol = static_cast<Protocol>(protocol_->currentIndex());
        statement.port = port_->value();
        statement.never = !trace_.reached();
        statement.name = said((statement.never ? tr("%1 never reaches %2") : tr("%1 reaches %2"))
                                  .arg(from_->text().trimmed(), to_->text().trimmed()));
        session_.apply(edit::keepStatement(session_.network(), std::move(statement), session_.ids()));
    });
    show({}, {});
}

void TracePanel::start() {
    std::vector<DeviceId> chosen;
    for (const ObjectRef object : session_.selection())
        if (object.kind == Kind::device)
            chosen.push_back({object.id});
    const auto name = [&](DeviceId id) { return shownText(session_.network().device(id)->name); };
    if (chosen.size() >= 2) {
        from_->setText(name(chosen.front()));
        to_->setText(name(chosen.back()));
        run();
        return;
    }
    if (chosen.size() == 1)
        from_->setText(name(chosen.front()));
    (chosen.empty() && from_->text().isEmpty() ? from_ : to_)->setFocus();
    (chosen.empty() && from_->text().isEmpty() ? from_ : to_)->selectAll();
}

void TracePanel::run() {
    if (from_->text().trimmed().isEmpty() || to_->text().trimmed().isEmpty()) {
        any_ = false;
        show({}, {});
        return;
    }
    any_ = true;
    const auto forwarding = checker_.forwarding();
    if (!forwarding) {
        says_->setText(tr("being worked out"));
        return; // it comes by itself once that is done
    }
    const auto from = analysis::traceEnd(forwarding->network(), from_->text().trimmed().toStdString()),
               to = analysis::traceEnd(forwarding->network(), to_->text().trimmed().toStdString());
    if (!from || !to) {
        show({}, {});
        says_->setText(sentence((from ? to : from).refusal().text()));
        return;
    }
    const analysis::Probe probe{*from, *to, static_cast<Protocol>(protocol_->currentIndex()), port_->value()};
    auto [there, back] = analysis::traceBoth(*forwarding, probe);
    show(there, both_->isChecked() && there.reached() ? back : analysis::Trace{});
}

void TracePanel::show(const analysis::Trace& there, const analysis::Trace& back) {
    steps_->clear();
    trace_ = there.reached() && !back.reached() && !back.hops.empty() ? back : there;
    add(there, {});
    if (!back.hops.empty())
        add(back, tr("The answer"));
    for (int column = 0; column < decision; ++column)
        steps_->resizeColumnToContents(column);
    if (there.hops.empty() && there.reason.empty())
        says_->setText(
            tr("Say two ends: device names, device:port, or addresses. With two devices selected, T "
               "traces from the first to the last."));
    else if (!trace_.reached())
        says_->setText(
            trace_.remedy.empty()
                ? tr("Stops: %1.").arg(shownText(trace_.reason))
                : tr("Stops: %1. To mend it: %2.").arg(shownText(trace_.reason), shownText(trace_.remedy)));
    else
        says_->setText(back.hops.empty()
                           ? tr("Reached in %Ln step(s).", nullptr, static_cast<int>(there.hops.size()))
                           : tr("Reached, and answered.") + narrowWords(trace_));
    putRight_->setEnabled(!trace_.reached() && !trace_.acts.empty());
    keep_->setEnabled(!there.hops.empty());
    lay();
}

/// What is said where a packet that one hop takes is too large for another.
QString TracePanel::narrowWords(const analysis::Trace& trace) {
    const int least = trace.mtu();
    const bool narrows = std::any_of(trace.hops.begin(), trace.hops.end(),
                                     [&](const analysis::TraceHop& hop) { return hop.mtu > least; });
    return narrows ? tr(" Packets of more than %1 octets do not fit all the way.").arg(least) : QString();
}

void TracePanel::add(const analysis::Trace& trace, const QString& heading) {
    const Network& network = session_.network();
    if (!heading.isEmpty()) {
        auto* item = new QTreeWidgetItem({QString(), heading});
        item->setFirstColumnSpanned(false);
        steps_->addTopLevelItem(item);
    }
    int step = 0;
    for (const analysis::TraceHop& hop : trace.hops) {
        const Device* held = network.device(hop.device);
        QString decides = shownText(hop.decision);
        constexpr int usualMtu = 1500;
        if (hop.mtu > 0 && hop.mtu != usualMtu)
            decides += tr("; MTU %1").arg(hop.mtu);
        for (const std::string& other : hop.equal)
            decides += tr("; as good: %1").arg(shownText(other));
        auto* item = new QTreeWidgetItem({QString::number(++step), held ? shownText(held->name) : QString(),
                                          shownText(hop.in), shownText(hop.out),
                                          hop.vlan ? QString::number(hop.vlan) : QString(), decides});
        item->setData(device, Qt::UserRole, QVariant::fromValue(static_cast<qulonglong>(hop.device.value)));
        item->setToolTip(decision, QStringLiteral("<p>%1</p>").arg(decides.toHtmlEscaped()));
        steps_->addTopLevelItem(item);
    }
}

void TracePanel::lay() {
    if (isVisible() && !trace_.hops.empty())
        session_.overlays().put(std::make_shared<paint::TraceOverlay>(session_.network(), trace_));
    else
        session_.overlays().remove(paint::TraceOverlay::name());
}

void TracePanel::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    any_ ? run() : lay();
}

void TracePanel::hideEvent(QHideEvent* event) {
    QWidget::hideEvent(event);
    session_.overlays().remove(paint::TraceOverlay::name());
}

} // namespace underridge::app
