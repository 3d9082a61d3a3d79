// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/type_to_add.h"

#include "app/session/session.h"
#include "app/sheet/snapping.h"
#include "core/edit/groups.h"
#include "core/edit/links.h"
#include "core/scene/plates.h"

namespace underridge::app {
using namespace model;
using scene::PointF;
using scene::Rect;

TypeToAdd::TypeToAdd(Session& session, Surface& surface)
    : QObject(&surface),
      session_(session),
      surface_(surface),
      field_(new AddField(session.catalogue(), &surface)) {
    connect(field_, &AddField::accepted, this, &TypeToAdd::add);
    connect(field_, &AddField::closed, &surface, qOverload<>(&QWidget::setFocus));
}

void TypeToAdd::open(std::optional<PointF> at, std::optional<linking::End> linkFrom) {
    at_ = at;
    from_ = std::move(linkFrom);
    if (const auto pointer = surface_.pointer(); !at_ && pointer)
        at_ = surface_.camera().toSheet(*pointer);
    const QPoint where =
        at_ ? surface_.camera().toScreen(*at_).toPoint() : surface_.rect().center() - QPoint(180, 120);
    field_->open(where, from_ ? tr("Add, linked to %1").arg(session_.nameOf(refTo(from_->device)))
                              : tr("Add devices"));
}

PointF TypeToAdd::freePlaceNear(PointF wanted, const Rect& block, PointF step) const {
    constexpr int reach = 12;
    PointF best = wanted;
    double bestDistance = 1e18;
    for (int row = -reach; row <= reach; ++row)
        for (int column = -reach; column <= reach; ++column) {
            const PointF by{column * step.x, row * step.y};
            // Below is better than beside, and beside better than above.
            const double distance = length(by) + (row < 0 ? step.y / 2 : 0) + (column < 0 ? 1 : 0);
            if (distance >= bestDistance)
                continue;
            const Rect there = block.moved(wanted + by).grown(12);
            const scene::Items near = session_.scene().itemsIn(there);
            if (std::none_of(near.all().begin(), near.all().end(), [&](const scene::Item* item) {
                    return item->layer == scene::Layer::plates && scene::frameOf(*item).intersects(there);
                })) {
                best = wanted + by;
                bestDistance = distance;
            }
        }
    return best;
}

void TypeToAdd::add(const edit::Addition& addition) {
    surface_.setFocus();
    const auto names = edit::seriesNames(addition.pattern, addition.count,
                                         edit::namesLike(session_.network(), addition.pattern));
    if (!names) {
        Q_EMIT session_.workspace().refused(names.refusal());
        return;
    }
    constexpr PointF gap{48, 76}; // room for links and their labels
    const scene::Plate shape = scene::plateFor(*addition.model, names->back(), {0, 0});
    const int columns = std::min(addition.count, 8);
    const double stepX = shape.frame.w + gap.x, stepY = shape.frame.h + gap.y;
    const Rect block{0, 0, columns * stepX - gap.x, ((addition.count - 1) / columns + 1) * stepY - gap.y};
    const PointF wanted = at_ ? *at_ - PointF{shape.frame.w / 2, shape.frame.h / 2}
                              : surface_.camera().visible().centre() - PointF{block.w / 2, block.h / 2};
    const PointF corner = freePlaceNear(wanted, block, {stepX, stepY});
    std::vector<edit::Placed> placed;
    for (int i = 0; i < addition.count; ++i)
        placed.push_back({(*names)[static_cast<std::size_t>(i)],
                          onGrid({corner.x + (i % columns) * stepX, corner.y + (i / columns) * stepY})});
    auto act = edit::placeShown(
        session_.network(), session_.look(), *addition.model, placed,
        scene::groupAt(*session_.scene().seenAt(surface_.camera().zoom()), at_.value_or(corner)),
        session_.ids());
    if (session_.apply(act && from_ ? linked(*std::move(act)) : std::move(act)))
        Q_EMIT added();
}

/// Placed and linked in one step.
edit::ActResult TypeToAdd::linked(edit::Act act) const {
    std::vector<DeviceId> fresh;
    for (const ObjectRef ref : act.subjects)
        fresh.push_back({ref.id});
    auto linked = edit::linkEachTo(act.network, session_.catalogue(), fresh, from_->device, session_.ids(),
                                   session_.habits());
    if (!from_->port.empty() && fresh.size() == 1) {
        auto pair = linking::bestPair(act.network, session_.catalogue(), *from_, {fresh.front(), {}},
                                      session_.habits());
        linked = pair ? edit::makeLink(act.network, session_.catalogue(), *pair, session_.ids())
                      : edit::ActResult(pair.refusal());
    }
    if (!linked)
        return linked;
    act.network = std::move(linked->network);
    act.name += ", linked";
    return act;
}

} // namespace underridge::app
