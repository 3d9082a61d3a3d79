// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/arranging/arrange_acts.h"

#include "app/shown_text.h"

namespace underridge::app {
using namespace model;
namespace {
constexpr std::size_t atOnce = 800; ///< devices that are arranged within a frame or two
} // namespace

ArrangeActs::ArrangeActs(Session& session, Jobs& jobs, SheetView& sheet, QObject* parent)
    : QObject(parent), session_(session), jobs_(jobs), sheet_(sheet) {}

bool ArrangeActs::canArrange() const {
    const Sheet* sheet = session_.network().sheet(session_.sheet());
    return sheet && sheet->mmPerUnit == 0 && session_.scene().count<scene::Plate>() > 0;
}

void ArrangeActs::arrange(const edit::ArrangeWish& wish) {
    if (!canArrange())
        return;
    if (working_) {
        next_ = wish;
        return;
    }
    last_ = wish;
    last_.only.clear(); // what was selected then
    const edit::History& history = session_.document().history();
    const bool inPlace = mine_ && mineOn_ == session_.sheet() && history.canUndo() && !history.canRedo() &&
                         *mine_ == session_.network();
    const Network from = inPlace ? history.beforeLast() : session_.network();
    edit::Look look = session_.look();
    if (inPlace)
        look = {look.sheet, look.entered};
    const auto make = [from, look, wish, inPlace] {
        edit::ArrangeReport report;
        auto act = edit::arrange(from, look, wish, &report);
        return Made{std::move(act), std::move(report), inPlace};
    };
    if (session_.scene().count<scene::Plate>() <= atOnce)
        return take(make());
    working_ = true;
    jobs_.run<Made>(
        tr("Arranging"),
        [make, from](const Wanted&) {
            Made made = make();
            if (made.act && !made.inPlace)
                made.act->base = from;
            return made;
        },
        [this](Made made) {
            working_ = false;
            take(std::move(made));
            if (const auto later = std::exchange(next_, std::nullopt))
                arrange(*later);
        },
        [this] {
            working_ = false;
            next_.reset();
        });
}

void ArrangeActs::take(Made made) {
    const scene::Scene before = session_.scene();
    if (made.inPlace) {
        if (!mine_ || *mine_ != session_.network())
            return; // something else was done meanwhile
        session_.undo();
    }
    const bool applied = session_.apply(std::move(made.act));
    if (!applied && !made.inPlace) {
        mine_.reset();
        return;
    }
    mine_ = session_.network();
    mineOn_ = session_.sheet();
    sheet_.showMoved(before);
    const std::string& why = made.report.why;
    Q_EMIT arranged(why.empty() ? QString() : tr("Arranged: %1").arg(shownText(why)));
}

} // namespace underridge::app
