// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/sheet_session.h"

namespace underridge::app {
using namespace model;
namespace {
constexpr std::size_t followedAtOnce =
    1500; ///< devices of networks whose layers are made within a frame or two
}

void SheetSession::begin(const Network& network, LengthUnit unit, std::optional<scene::Scene> scene) {
    kept_.clear();
    view_.reset();
    unit_ = unit;
    const auto sheets = network.sheetsInOrder();
    sheet_ = sheets.empty() ? SheetId{} : sheets.front().id;
    scene_ = scene && scene->sheet() == sheet_ ? *std::move(scene)
                                               : scene::Scene::build(network, sheet_, unit_, {}, findings_);
    Q_EMIT sheetShown();
    Q_EMIT sceneChanged({}, true);
}

scene::Scene SheetSession::sceneOf(const Network& network, SheetId sheet) {
    const auto at = kept_.find(sheet);
    return at == kept_.end() || !at->second.scene
               ? scene::Scene::build(network, sheet, unit_, {}, findings_)
               : scene::update(*at->second.scene, at->second.of, network).scene;
}

bool SheetSession::show(const Network& network, SheetId sheet) {
    if (sheet == sheet_ || !network.sheet(sheet))
        return false;
    enter(network, {}); // what is kept is the whole sheet
    kept_[sheet_] = {std::move(scene_), network, view_};
    scene_ = sceneOf(network, sheet);
    const auto at = kept_.find(sheet);
    view_ = at == kept_.end() ? std::nullopt : at->second.view;
    if (at != kept_.end())
        kept_.erase(at);
    sheet_ = sheet;
    Q_EMIT sheetShown();
    Q_EMIT sceneChanged({}, true);
    return true;
}

bool SheetSession::enter(const Network& network, GroupId group) {
    if (group == entered() || (group && !network.group(group)))
        return false;
    const GroupId about = group ? group : entered();
    const scene::Rect before = placeOf(about);
    scene_ = scene::Scene::build(network, sheet_, unit_, group, findings_);
    Q_EMIT sceneChanged({}, true);
    Q_EMIT enteredChanged(before, placeOf(about));
    return true;
}

scene::Rect SheetSession::placeOf(GroupId group) const {
    const scene::Item* item = scene_.item(refTo(group));
    return item ? frameOf(*item) : scene::Rect{};
}

void SheetSession::setFindings(const Network& network, std::shared_ptr<const find::Findings> findings) {
    findings_ = std::move(findings);
    const auto asks = [&](SheetId id) {
        const Sheet* sheet = network.sheet(id);
        const auto filter = find::Filter::parse(sheet ? sheet->filter : std::string());
        return filter && filter->asks(find::Field::finding);
    };
    for (auto& [sheet, kept] : kept_)
        if (asks(sheet))
            kept.scene.reset();
    if (!asks(sheet_))
        return;
    scene_ = scene::Scene::build(network, sheet_, unit_, entered(), findings_);
    Q_EMIT sceneChanged({}, true);
}

GroupId SheetSession::stillEntered(const Network& before, const Network& after) const {
    GroupId group = entered();
    while (group && !after.group(group)) {
        const Group* was = before.group(group);
        group = was ? was->parent : GroupId{};
    }
    return group;
}

void SheetSession::follow(const Network& before, const Network& after, SheetId wanted) {
    if (!after.sheet(wanted)) {
        const auto sheets = after.sheetsInOrder();
        wanted = sheets.empty() ? SheetId{} : sheets.front().id;
    }
    std::erase_if(kept_, [&](const auto& kept) { return !after.sheet(kept.first); });
    const GroupId held = stillEntered(before, after);
    const bool left = held != entered();
    auto updated = left ? scene::Updated{scene::Scene::build(after, sheet_, unit_, held, findings_), {}, true}
                        : scene::update(scene_, before, after, after.all<Device>().size() > followedAtOnce);
    scene_ = std::move(updated.scene);
    latest_ = after;
    if (left)
        Q_EMIT enteredChanged({}, {});
    if (wanted != sheet_ && show(after, wanted))
        return;
    Q_EMIT sceneChanged(updated.damage, updated.all);
    bringUp();
}

void SheetSession::bringUp() {
    if (!scene_.isBehind())
        return;
    if (!worker_)
        worker_ = std::make_unique<Worker<Behind>>([this](const Behind& behind) {
            auto layer = std::make_shared<const scene::LayerNetwork>(behind.network, behind.sheet);
            auto updated = std::make_shared<scene::Updated>(scene::broughtUp(behind.scene, layer));
            QMetaObject::invokeMethod(
                this, [this, behind, layer, updated] { takeLayer(behind, layer, *updated); },
                Qt::QueuedConnection);
        });
    worker_->change([&](std::vector<Behind>& orders) { orders = {{latest_, sheet_, scene_}}; });
}

void SheetSession::takeLayer(const Behind& behind, const std::shared_ptr<const scene::LayerNetwork>& layer,
                             scene::Updated updated) {
    if (!scene_.isBehind() || behind.sheet != sheet_ || !latest_.sheet(sheet_))
        return;
    if (!(behind.network == latest_)) { // what was done meanwhile may be of no matter for it
        auto now = std::make_shared<const scene::LayerNetwork>(layer->after(latest_, true));
        if (now->isBehind())
            return; // the next is being made
        updated = scene::broughtUp(scene_, std::move(now));
    }
    scene_ = std::move(updated.scene);
    Q_EMIT sceneChanged(updated.damage, updated.all);
}

void SheetSession::setLengthUnit(const Network& network, LengthUnit unit) {
    unit_ = unit;
    for (auto& [sheet, kept] : kept_)
        kept.scene.reset();
    scene_ = scene::Scene::build(network, sheet_, unit_, entered(), findings_);
    Q_EMIT sceneChanged({}, true);
}

} // namespace underridge::app
