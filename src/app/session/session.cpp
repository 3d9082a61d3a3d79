// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/session.h"

#include "app/shown_text.h"
#include "core/edit/groups.h"
#include "core/edit/links.h"

namespace underridge::app {

Session::Session(edit::World world, model::Catalogue catalogue, std::uint64_t seed, QObject* parent)
    : QObject(parent),
      workspace_(std::move(world), std::move(catalogue), seed),
      navigation_(workspace_, selection_, sheets_) {
    workspace_.setAttention([this] { return attention(); });
    connect(&workspace_, &Workspace::changed, this,
            [this](const model::Network& before, const edit::Session& at) {
                sheets_.follow(before, network(), at.sheet);
                selection_.follow(network(), at.selection);
            });
    connect(&workspace_, &Workspace::told, &selection_, &Selection::tell);
    connect(&workspace_, &Workspace::documentReplaced, this, [this] {
        selection_.follow(network(), {});
        sheets_.begin(network(), lengthUnit(), std::exchange(readyScene_, std::nullopt));
    });
    connect(&workspace_, &Workspace::findingsChanged, this,
            [this] { sheets_.setFindings(network(), workspace_.findings()); });
    connect(&workspace_, &Workspace::lengthUnitChanged, this,
            [this] { sheets_.setLengthUnit(network(), lengthUnit()); });
    sheets_.begin(network(), lengthUnit());
}

edit::Session Session::attention() const {
    const View view = sheets_.view().value_or(View{});
    return {sheets_.sheet(), selection_.objects(), view.centre.x, view.centre.y, view.zoom};
}

std::optional<edit::Clip> Session::copied() {
    edit::Clip clip = edit::copyObjects(network(), sheet(), selection());
    if (clip.empty()) {
        Q_EMIT workspace_.refused(
            advice(tr("nothing that can be copied is selected"), tr("select devices or notes")));
        return std::nullopt;
    }
    return clip;
}

void Session::setDocument(edit::Document document, std::optional<scene::Scene> scene) {
    readyScene_ = std::move(scene);
    workspace_.setDocument(std::move(document));
}

std::function<Result<Session::Ahead>(edit::ActResult)> Session::ahead() const {
    return [now = network(), scene = scene(), of = sheets_.revision(),
            unit = lengthUnit()](edit::ActResult act) -> Result<Ahead> {
        auto step = act ? edit::Document::prepared(now, *std::move(act)) : act.refusal();
        if (!step)
            return step.refusal();
        const model::Network& next = step->act.network;
        Ahead out{*step, {of, now, next, SheetSession::updated(scene, now, next)}, std::nullopt};
        for (const model::Sheet& sheet : next.sheetsInOrder())
            if (!out.fresh && !now.sheet(sheet.id))
                out.fresh = scene::Scene::build(next, sheet.id, unit);
        return out;
    };
}

bool Session::take(Ahead ahead) {
    if (ahead.fresh)
        sheets_.keep(*std::move(ahead.fresh), ahead.step.act.network);
    sheets_.offer(std::move(ahead.shown));
    return workspace_.take(std::move(ahead.step));
}

void Session::applyTo(std::size_t objects, std::function<edit::ActResult()> make,
                      std::function<void()> done) {
    if (objects > mostAtOnce)
        applyLater(std::move(make), {}, std::nullopt, std::move(done));
    else if (apply(make()) && done)
        done();
}

void Session::setFolded(const std::vector<GroupId>& groups, bool folded, std::optional<edit::Refs> selected,
                        const std::function<void()>& ended, const std::function<void()>& done) {
    workspace_.settle(); // or folding twice in a row would fold what the first has not folded yet
    auto make = [now = network(), on = sheet(), groups, folded, selected = std::move(selected)] {
        auto act = edit::setFolded(now, on, groups, folded);
        if (act && selected)
            act->subjects = *selected;
        return act;
    };
    // Room is made all over the sheet: of ten thousand devices that takes more than a frame.
    constexpr std::size_t share = 32;
    if (network().all<Device>().size() / share > mostAtOnce)
        return applyLater(std::move(make), ended, std::nullopt, done);
    const bool taken = apply(make());
    if (taken && done)
        done();
    if (ended)
        ended();
}

void Session::applyLater(std::function<edit::ActResult()> make, std::function<void()> ended,
                         std::optional<edit::MergeKey> merge, std::function<void()> done) {
    const auto ready = std::make_shared<std::optional<SheetSession::Ready>>();
    workspace_.applyLater({[make = std::move(make), ahead = ahead(), ready,
                            merge = std::move(merge)]() -> Result<edit::Document::Prepared> {
                               auto made = ahead(make());
                               if (!made)
                                   return made.refusal();
                               *ready = std::move(made->shown);
                               made->step.merge = merge;
                               return std::move(made->step);
                           },
                           [this, ready, done = std::move(done)] {
                               sheets_.offer(std::move(*ready));
                               if (done)
                                   QMetaObject::invokeMethod(this, done, Qt::QueuedConnection);
                           },
                           std::move(ended)});
}

/// What only a sheet of an upper layer draws is named as it is there.
QString Session::nameOf(model::ObjectRef object) const {
    const QString name = workspace_.nameOf(object);
    if (!name.isEmpty())
        return name;
    const model::Network& drawn = scene().drawn(network());
    if (const model::Device* subnet = drawn.device({object.id}))
        return QString::fromStdString(subnet->name);
    const model::Link* line = object.kind == model::Kind::interface ? drawn.link({object.id}) : nullptr;
    return line ? QString::fromStdString(edit::portText(drawn, line->a)) : QString();
}

} // namespace underridge::app
