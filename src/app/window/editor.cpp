// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/window/editor.h"

#include "core/edit/cables.h"
#include "core/edit/links.h"

namespace underridge::app {
using namespace model;

Editor::Editor(edit::World world, Catalogue catalogue, std::uint64_t seed, QObject* parent)
    : QObject(parent),
      world_(std::move(world)),
      catalogue_(std::move(catalogue)),
      builtIn_(catalogue_.devices.size()),
      ids_(seed) {
    setDocument(edit::Document::fresh(world_, emptyNetwork("New network", ids_)));
}

Editor::~Editor() = default;

std::vector<DeviceId> Editor::selectedDevices() const {
    std::vector<DeviceId> out;
    for (const ObjectRef ref : selection())
        if (ref.kind == Kind::device)
            out.push_back({ref.id});
    return out;
}

bool Editor::isSelected(ObjectRef ref) const {
    return std::find(selection().begin(), selection().end(), ref) != selection().end();
}

void Editor::select(edit::Refs objects) {
    if (objects == session_.selection && port_ == PortRef{})
        return;
    session_.selection = std::move(objects);
    port_ = {};
    Q_EMIT selectionChanged();
}

void Editor::toggleSelected(ObjectRef object) {
    edit::Refs next = selection();
    if (std::erase(next, object) == 0)
        next.push_back(object);
    select(std::move(next));
}

void Editor::selectPort(const PortRef& port) {
    session_.selection = {refTo(port.device)};
    port_ = port;
    Q_EMIT selectionChanged();
}

void Editor::setView(double centreX, double centreY, double zoom) {
    session_.centreX = centreX;
    session_.centreY = centreY;
    session_.zoom = zoom;
}

bool Editor::apply(edit::ActResult act, std::optional<edit::MergeKey> merge) {
    if (!act) {
        Q_EMIT refused(act.refusal());
        return false;
    }
    const Network before = network();
    const edit::Session was = session_;
    edit::Session then = session_;
    if (!act->subjects.empty() && act->subjects.front().kind != Kind::unknown)
        then.selection = act->subjects;
    const auto applied = document_->apply(*std::move(act), was, then, std::move(merge));
    if (!applied)
        Q_EMIT refused(applied.refusal());
    if (!applied || !*applied)
        return false;
    const PortRef port = port_;
    show(before, &then);
    if (port.known() && selection() == edit::Refs{refTo(port.device)})
        selectPort(port); // the act was about the port shown, or its device
    return true;
}

void Editor::undo() {
    const Network before = network();
    if (const auto session = document_->undo()) {
        show(before, &*session);
        Q_EMIT viewWanted(session->centreX, session->centreY, session->zoom);
    }
}

void Editor::redo() {
    const Network before = network();
    if (const auto session = document_->redo()) {
        show(before, &*session);
        Q_EMIT viewWanted(session->centreX, session->centreY, session->zoom);
    }
}

void Editor::restock() {
    stocked_ = edit::withStock(catalogue_, network());
}

void Editor::show(const Network& before, const edit::Session* session) {
    if (!(before.all<CableType>() == network().all<CableType>()))
        restock();
    SheetId sheet = session->sheet;
    if (!network().sheet(sheet)) { // it is gone: the first there is
        const auto sheets = network().sheetsInOrder();
        sheet = sheets.empty() ? SheetId{} : sheets.front().id;
    }
    if (sheet != session_.sheet) {
        session_.sheet = sheet;
        scene_ = scene::Scene::build(network(), session_.sheet, lengthUnit_);
        Q_EMIT sceneChanged({}, true);
    } else {
        auto updated = scene::update(scene_, before, network());
        scene_ = std::move(updated.scene);
        Q_EMIT sceneChanged(updated.damage, updated.all);
    }
    session_.selection = session->selection;
    port_ = {};
    dropGone();
    Q_EMIT networkChanged();
    Q_EMIT selectionChanged();
    Q_EMIT stateChanged();
}

void Editor::dropGone() {
    std::erase_if(session_.selection, [&](ObjectRef ref) {
        switch (ref.kind) {
        case Kind::device:
            return !network().device({ref.id});
        case Kind::link:
            return !network().link({ref.id});
        case Kind::note:
            return !network().note({ref.id});
        case Kind::group:
            return !network().group({ref.id});
        default:
            return true;
        }
    });
}

std::optional<edit::Clip> Editor::copied() {
    edit::Clip clip = edit::copyObjects(network(), sheet(), selection());
    if (clip.empty()) {
        Q_EMIT refused(advice("nothing that can be copied is selected", "select devices or notes"));
        return std::nullopt;
    }
    return clip;
}

void Editor::setDocument(edit::Document document) {
    const auto sheets = document.network().sheetsInOrder();
    auto scene =
        scene::Scene::build(document.network(), sheets.empty() ? SheetId{} : sheets.front().id, lengthUnit_);
    setDocument(std::move(document), std::move(scene));
}

void Editor::setDocument(edit::Document document, scene::Scene scene) {
    if (document_) {
        document_->close();
        releaser_ =
            std::jthread([old = std::move(document_), drawn = std::move(scene_)]() mutable { old.reset(); });
    }
    document_ = std::make_unique<edit::Document>(std::move(document));
    restock();
    session_ = {};
    port_ = {};
    session_.sheet = scene.sheet();
    scene_ = std::move(scene);
    Q_EMIT documentReplaced();
    Q_EMIT sceneChanged({}, true);
    Q_EMIT networkChanged();
    Q_EMIT selectionChanged();
    Q_EMIT stateChanged();
}

void Editor::setLibrary(std::vector<DeviceModel> models) {
    library_ = std::move(models);
    catalogue_.devices.resize(builtIn_);
    catalogue_.devices.insert(catalogue_.devices.end(), library_.begin(), library_.end());
    restock();
    Q_EMIT catalogueChanged();
}

void Editor::setLengthUnit(LengthUnit unit) {
    if (std::exchange(lengthUnit_, unit) == unit)
        return;
    scene_ = scene::Scene::build(network(), session_.sheet, lengthUnit_);
    Q_EMIT networkChanged();
    Q_EMIT sceneChanged({}, true);
}

void Editor::showSheet(SheetId sheet) {
    if (sheet == session_.sheet || !network().sheet(sheet))
        return;
    session_.sheet = sheet;
    session_.selection.clear();
    port_ = {};
    scene_ = scene::Scene::build(network(), sheet, lengthUnit_);
    Q_EMIT sceneChanged({}, true);
    Q_EMIT selectionChanged();
    Q_EMIT stateChanged();
}

QString Editor::nameOf(ObjectRef object) const {
    if (const Device* device = network().device({object.id}))
        return QString::fromStdString(device->name);
    if (const Link* link = network().link({object.id}))
        return QString::fromStdString(edit::linkText(network(), *link));
    if (const Note* note = network().note({object.id}))
        return QString::fromStdString(note->text.str()).section(QLatin1Char('\n'), 0, 0);
    if (const Group* group = network().group({object.id}))
        return QString::fromStdString(group->name);
    return {};
}

} // namespace underridge::app
