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

/// An act that is being made, and its thread, which is waited for.
struct Workspace::Late {
    Later what;
    std::optional<Result<edit::Document::Prepared>> made;
    std::jthread thread; ///< last: it writes the others
};

Workspace::~Workspace() = default;

void Workspace::setReported(std::shared_ptr<const scene::Reported> reported) {
    if (reported == reported_)
        return; // most edits change none
    reported_ = std::move(reported);
    Q_EMIT findingsChanged();
}

bool Workspace::apply(edit::ActResult act, std::optional<edit::MergeKey> merge) {
    if (!act) {
        Q_EMIT refused(act.refusal());
        return false;
    }
    if (late_) { // made from a network without what is being made
        if (!act->base)
            act->base = network();
        settle();
    }
    const Network before = network();
    const auto [was, then] = sessionsFor(act->subjects);
    return showTaken(document_->apply(*std::move(act), was, then, std::move(merge)), before, then);
}

std::pair<edit::Session, edit::Session> Workspace::sessionsFor(const edit::Refs& subjects) const {
    const edit::Session was = attention_ ? attention_() : edit::Session{};
    edit::Session then = was;
    if (!subjects.empty() && subjects.front().kind != Kind::unknown)
        then.selection = subjects;
    return {was, then};
}

bool Workspace::showTaken(const Result<bool>& applied, const Network& before, const edit::Session& then) {
    if (!applied)
        Q_EMIT refused(applied.refusal());
    if (!applied || !*applied)
        return false;
    show(before, then);
    return true;
}

void Workspace::applyLater(Later later) {
    settle();
    late_ = std::make_unique<Late>();
    late_->what = std::move(later);
    late_->thread = std::jthread([this, late = late_.get()] {
        late->made = late->what.make();
        QMetaObject::invokeMethod(
            this,
            [this, late] {
                if (late_.get() == late)
                    settle();
            },
            Qt::QueuedConnection);
    });
    Q_EMIT stateChanged();
}

bool Workspace::settle() {
    if (!late_)
        return false;
    const std::unique_ptr<Late> late = std::move(late_);
    late->thread.join();
    const auto end = [&] {
        if (late->what.ended)
            late->what.ended();
    };
    if (!*late->made) {
        end();
        Q_EMIT refused(late->made->refusal());
        Q_EMIT stateChanged();
        return false;
    }
    if (late->what.arriving)
        late->what.arriving();
    end(); // nothing is in hand any more when everybody hears of it
    return take(**std::move(late->made));
}

bool Workspace::take(edit::Document::Prepared prepared) {
    settle();
    const Network before = network();
    const auto [was, then] = sessionsFor(prepared.act.subjects);
    return showTaken(document_->take(std::move(prepared), was, then), before, then);
}

bool Workspace::giveUp() {
    if (!late_)
        return false;
    const std::unique_ptr<Late> late = std::move(late_);
    if (late->what.ended)
        late->what.ended();
    Q_EMIT stateChanged();
    return true;
}

void Workspace::undo() {
    if (late_ && !settle())
        return; // what was to be undone has not come about
    const Network before = network();
    if (const auto at = document_->undo()) {
        show(before, *at);
        Q_EMIT viewWanted(*at);
    }
}

void Workspace::redo() {
    settle();
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
    settle(); // whoever asked what is to become of the work knew of it
    document_->close();
    releaser_ = std::jthread([old = std::move(document_)]() mutable { old.reset(); });
    document_ = std::make_unique<edit::Document>(std::move(document));
    constexpr std::size_t begunAtOnce = 500; // devices: some ten milliseconds at the first edit
    if (network().all<Device>().size() > begunAtOnce)
        document_->beginAhead();
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
