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
    whole_ = other_ = inside_ = {};
    view_.reset();
    unit_ = unit;
    const auto sheets = network.sheetsInOrder();
    sheet_ = sheets.empty() ? SheetId{} : sheets.front().id;
    setScene(scene && scene->sheet() == sheet_ ? *std::move(scene)
                                               : scene::Scene::build(network, sheet_, unit_, {}, findings_));
    Q_EMIT sheetShown();
    Q_EMIT sceneChanged({}, true);
}

void SheetSession::setScene(scene::Scene scene) {
    scene_ = std::move(scene);
    ++revision_;
}

scene::Updated SheetSession::updated(const scene::Scene& scene, const Network& before, const Network& after) {
    return scene::update(scene, before, after, after.all<Device>().size() > followedAtOnce);
}

std::optional<SheetSession::Unmade> SheetSession::unmade(const Network& network, SheetId sheet) const {
    const auto at = kept_.find(sheet);
    if (sheet == sheet_ || (at != kept_.end() && at->second.scene) ||
        network.all<Device>().size() <= followedAtOnce)
        return std::nullopt;
    return Unmade{network, sheet, unit_, findings_, {}, {}};
}

std::optional<SheetSession::Unmade> SheetSession::unmade(const Network& network, GroupId group) const {
    if (!group || network.all<Device>().size() <= followedAtOnce)
        return std::nullopt;
    const bool isWhole = !entered();
    const bool hasWhole = isWhole || (whole_.scene && whole_.of == network);
    return Unmade{network, sheet_,
                  unit_,   findings_,
                  group,   hasWhole ? std::optional(isWhole ? scene_ : *whole_.scene) : std::nullopt};
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
    other_ = {};
    setScene(sceneOf(network, sheet));
    const auto at = kept_.find(sheet);
    view_ = at == kept_.end() ? std::nullopt : at->second.view;
    if (at != kept_.end())
        kept_.erase(at);
    sheet_ = sheet;
    Q_EMIT sheetShown();
    Q_EMIT sceneChanged({}, true);
    latest_ = network;
    bringUp();
    return true;
}

bool SheetSession::enter(const Network& network, GroupId group) {
    if (group == entered() || (group && !network.group(group)))
        return false;
    const GroupId about = group ? group : entered();
    const scene::Rect before = placeOf(about);
    other_ = {};
    setScene(entering(network, group));
    Q_EMIT sceneChanged({}, true);
    Q_EMIT enteredChanged(before, placeOf(about));
    latest_ = network;
    bringUp(); // the whole may have been behind when it was left
    return true;
}

/// What is looked into is made anew; the whole sheet is kept meanwhile, and brought up.
scene::Scene SheetSession::entering(const Network& network, GroupId group) {
    if (!entered())
        whole_ = {scene_, network, std::nullopt};
    const Kept inside = std::exchange(inside_, {});
    if (group && inside.scene && inside.scene->entered() == group && inside.scene->sheet() == sheet_)
        return scene::update(*inside.scene, inside.of, network).scene;
    if (group)
        return scene::Scene::build(network, sheet_, unit_, group, findings_,
                                   whole_.of == network ? &*whole_.scene : nullptr);
    const Kept whole = std::exchange(whole_, {});
    return whole.scene ? scene::update(*whole.scene, whole.of, network).scene
                       : scene::Scene::build(network, sheet_, unit_, {}, findings_);
}

scene::Rect SheetSession::placeOf(GroupId group) const {
    const scene::Item* item = scene_.item(refTo(group));
    return item ? frameOf(*item) : scene::Rect{};
}

void SheetSession::keepMade(const Unmade& from, scene::Scene scene) {
    if (from.unit != unit_ || (from.findings != findings_ && asksFindings(from.network, from.sheet)))
        return;
    if (from.entered)
        inside_ = {std::move(scene), from.network, std::nullopt};
    else
        keep(std::move(scene), from.network);
}

bool SheetSession::asksFindings(const Network& network, SheetId id) {
    const Sheet* sheet = network.sheet(id);
    const auto filter = find::Filter::parse(sheet ? sheet->filter : std::string());
    return filter && filter->asks(find::Field::finding);
}

void SheetSession::setFindings(const Network& network, std::shared_ptr<const find::Findings> findings) {
    findings_ = std::move(findings);
    for (auto& [sheet, kept] : kept_)
        if (asksFindings(network, sheet))
            kept.scene.reset();
    if (!asksFindings(network, sheet_))
        return;
    whole_ = other_ = inside_ = {};
    setScene(scene::Scene::build(network, sheet_, unit_, entered(), findings_));
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

scene::Updated SheetSession::following(const Network& before, const Network& after) {
    auto ready = std::exchange(ready_, std::nullopt);
    if (ready && ready->of == revision_ && ready->before == before && ready->after == after) {
        other_ = {scene_, before, std::nullopt};
        return std::move(ready->updated);
    }
    if (other_.scene && other_.of == after) {
        scene::Updated back{*std::exchange(other_.scene, scene_), {}, true};
        other_.of = before;
        return back;
    }
    return updated(scene_, before, after);
}

void SheetSession::follow(const Network& before, const Network& after, SheetId wanted) {
    if (!after.sheet(wanted)) {
        const auto sheets = after.sheetsInOrder();
        wanted = sheets.empty() ? SheetId{} : sheets.front().id;
    }
    std::erase_if(kept_, [&](const auto& kept) { return !after.sheet(kept.first); });
    const GroupId held = stillEntered(before, after);
    const bool left = held != entered();
    if (left)
        other_ = {};
    auto now = left ? scene::Updated{entering(after, held), {}, true} : following(before, after);
    setScene(std::move(now.scene));
    latest_ = after;
    if (left)
        Q_EMIT enteredChanged({}, {});
    if (wanted != sheet_ && show(after, wanted))
        return;
    Q_EMIT sceneChanged(now.damage, now.all);
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
    setScene(std::move(updated.scene));
    Q_EMIT sceneChanged(updated.damage, updated.all);
}

void SheetSession::setLengthUnit(const Network& network, LengthUnit unit) {
    unit_ = unit;
    for (auto& [sheet, kept] : kept_)
        kept.scene.reset();
    whole_ = other_ = inside_ = {};
    setScene(scene::Scene::build(network, sheet_, unit_, entered(), findings_));
    Q_EMIT sceneChanged({}, true);
}

} // namespace underridge::app
