// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/arranging/align_acts.h"

#include "app/session/session.h"

namespace underridge::app {
using namespace model;
using Id = CommandId;
using edit::Align;
using edit::Along;
namespace {
constexpr double roomier = 1.3, closer = 0.75;
constexpr std::size_t quickly = 3000; ///< plates of a sheet that is made anew while one points at a menu
} // namespace

std::span<const Id> AlignActs::commands() {
    static constexpr Id all[] = {
        Id::alignLeft,   Id::alignCentre,       Id::alignRight,      Id::alignTop,     Id::alignMiddle,
        Id::alignBottom, Id::distributeAcross,  Id::distributeDown,  Id::mirrorAcross, Id::mirrorDown,
        Id::turnQuarter, Id::swapTwo,           Id::makeRoom,        Id::closeUp,      Id::middlesAcross,
        Id::middlesDown, Id::gapsAsFirstAcross, Id::gapsAsFirstDown, Id::sameSize};
    return all;
}

std::vector<edit::Shown> AlignActs::shown() const {
    std::vector<edit::Shown> out;
    for (const ObjectRef ref : session_.selection())
        if (const scene::Item* item = session_.scene().item(ref);
            item && (ref.kind == Kind::device || ref.kind == Kind::group || ref.kind == Kind::note))
            out.push_back({ref, scene::frameOf(*item)});
    return out;
}

bool AlignActs::can(Id id) const {
    std::size_t count = 0;
    for (const ObjectRef ref : session_.selection())
        count += ref.kind == Kind::device || ref.kind == Kind::group || ref.kind == Kind::note;
    switch (id) {
    case Id::sameSize:
        return frames().size() > 1;
    case Id::swapTwo:
        return count == 2;
    case Id::distributeAcross:
    case Id::distributeDown:
    case Id::middlesAcross:
    case Id::middlesDown:
    case Id::gapsAsFirstAcross:
    case Id::gapsAsFirstDown:
        return count >= 3;
    default:
        return count >= 2;
    }
}

/// Of what is selected: groups drawn as frames, and zones.
std::vector<ObjectRef> AlignActs::frames() const {
    std::vector<ObjectRef> out;
    for (const ObjectRef ref : session_.selection()) {
        const scene::Item* item = session_.scene().item(ref);
        const scene::NoteCard* note = item ? item->as<scene::NoteCard>() : nullptr;
        if (item && (item->as<scene::Frame>() || (note && note->zone)))
            out.push_back(ref);
    }
    return out;
}

edit::ActResult AlignActs::made(Id id) const {
    const Network& network = session_.network();
    const edit::Look look = session_.look();
    const auto what = shown();
    switch (id) {
    case Id::alignLeft:
        return edit::align(network, look, what, Align::left);
    case Id::alignCentre:
        return edit::align(network, look, what, Align::centre);
    case Id::alignRight:
        return edit::align(network, look, what, Align::right);
    case Id::alignTop:
        return edit::align(network, look, what, Align::top);
    case Id::alignMiddle:
        return edit::align(network, look, what, Align::middle);
    case Id::alignBottom:
        return edit::align(network, look, what, Align::bottom);
    case Id::distributeAcross:
        return edit::distribute(network, look, what, Along::across);
    case Id::distributeDown:
        return edit::distribute(network, look, what, Along::down);
    case Id::middlesAcross:
        return edit::distribute(network, look, what, Along::across, edit::Evenly::middles);
    case Id::middlesDown:
        return edit::distribute(network, look, what, Along::down, edit::Evenly::middles);
    case Id::gapsAsFirstAcross:
        return edit::distribute(network, look, what, Along::across, edit::Evenly::asFirst);
    case Id::gapsAsFirstDown:
        return edit::distribute(network, look, what, Along::down, edit::Evenly::asFirst);
    case Id::sameSize:
        return edit::sameSize(network, look, frames());
    case Id::mirrorAcross:
        return edit::mirror(network, look, what, Along::across);
    case Id::mirrorDown:
        return edit::mirror(network, look, what, Along::down);
    case Id::turnQuarter:
        return edit::turnQuarter(network, look, what);
    case Id::swapTwo:
        return edit::swapTwo(network, look, what);
    case Id::makeRoom:
        return edit::spread(network, look, what, roomier);
    default:
        return edit::spread(network, look, what, closer);
    }
}

void AlignActs::act(Id id) {
    endPreview();
    if (!can(id))
        return;
    const scene::Scene before = session_.scene();
    if (session_.apply(made(id)))
        sheet_.showMoved(before);
}

void AlignActs::preview(Id id) {
    std::vector<scene::Rect> ghosts;
    if (can(id) && session_.scene().count<scene::Plate>() <= quickly)
        if (const auto act = made(id)) {
            const scene::Scene after = scene::Scene::build(act->network, session_.sheet(),
                                                           session_.lengthUnit(), session_.scene().entered());
            for (const edit::Shown& each : shown())
                if (const scene::Item* item = after.item(each.object))
                    ghosts.push_back(scene::frameOf(*item));
        }
    sheet_.showGhosts(std::move(ghosts));
}

} // namespace underridge::app
