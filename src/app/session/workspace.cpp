// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/workspace.h"

#include "app/shown_text.h"
#include "core/edit/cables.h"
#include "core/edit/links.h"

namespace underridge::app {
using namespace model;

Workspace::Workspace(edit::World world, Catalogue catalogue, std::uint64_t seed, QObject* parent)
    : QObject(parent),
      world_(std::move(world)),
      catalogue_(std::move(catalogue)),
      builtIn_(catalogue_.devices.size()),
      ids_(seed),
      document_(std::make_unique<edit::Document>(
          edit::Document::fresh(world_, emptyNetwork(said(tr("New network")), ids_)))) {
    restock();
}

Workspace::~Workspace() = default;

void Workspace::setFindings(std::shared_ptr<const find::Findings> findings) {
    if (*findings == *findings_)
        return; // most edits change none
    findings_ = std::move(findings);
    Q_EMIT findingsChanged();
}

bool Workspace::apply(edit::ActResult act, std::optional<edit::MergeKey> merge) {
    if (!act) {
        Q_EMIT refused(act.refusal());
        return false;
    }
    const Network before = network();
    const edit::Session was = attention_ ? attention_() : edit::Session{};
    edit::Session then = was;
    if (!act->subjects.empty() && act->subjects.front().kind != Kind::unknown)
        then.selection = act->subjects;
    const auto applied = document_->apply(*std::move(act), was, then, std::move(merge));
    if (!applied)
        Q_EMIT refused(applied.refusal());
    if (!applied || !*applied)
        return false;
    show(before, then);
    return true;
}

void Workspace::undo() {
    const Network before = network();
    if (const auto at = document_->undo()) {
        show(before, *at);
        Q_EMIT viewWanted(*at);
    }
}

void Workspace::redo() {
    const Network before = network();
    if (const auto at = document_->redo()) {
        show(before, *at);
        Q_EMIT viewWanted(*at);
    }
}

void Workspace::show(const Network& before, const edit::Session& at) {
    if (!(before.all<CableType>() == network().all<CableType>()))
        restock();
    Q_EMIT changed(before, at);
    Q_EMIT networkChanged();
    Q_EMIT told();
    Q_EMIT stateChanged();
}

void Workspace::restock() {
    stocked_ = edit::withStock(catalogue_, network());
}

void Workspace::setDocument(edit::Document document) {
    document_->close();
    releaser_ = std::jthread([old = std::move(document_)]() mutable { old.reset(); });
    document_ = std::make_unique<edit::Document>(std::move(document));
    restock();
    Q_EMIT documentReplaced();
    Q_EMIT networkChanged();
    Q_EMIT told();
    Q_EMIT stateChanged();
}

void Workspace::setLibrary(std::vector<DeviceModel> models) {
    library_ = std::move(models);
    catalogue_.devices.resize(builtIn_);
    catalogue_.devices.insert(catalogue_.devices.end(), library_.begin(), library_.end());
    restock();
    Q_EMIT catalogueChanged();
}

void Workspace::setLengthUnit(LengthUnit unit) {
    if (std::exchange(lengthUnit_, unit) == unit)
        return;
    Q_EMIT lengthUnitChanged();
    Q_EMIT networkChanged();
}

QString Workspace::nameOf(ObjectRef object) const {
    if (const Device* device = network().device({object.id}))
        return QString::fromStdString(device->name);
    if (const Link* link = network().link({object.id}))
        return QString::fromStdString(edit::linkText(network(), *link));
    if (const Note* note = network().note({object.id}))
        return QString::fromStdString(note->text.str()).section(QLatin1Char('\n'), 0, 0);
    if (const Group* group = network().group({object.id}))
        return QString::fromStdString(group->name);
    if (const CableRoute* route = network().cableRoute({object.id}))
        return QString::fromStdString(route->name);
    if (const Subnet* subnet = network().find<Subnet>({object.id, 0}))
        return QString::fromStdString(subnet->prefix.text());
    return {};
}

} // namespace underridge::app
