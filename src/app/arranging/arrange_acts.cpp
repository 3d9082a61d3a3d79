// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/arranging/arrange_acts.h"

#include "app/shown_text.h"
#include "core/edit/fitting_in.h"

#include <QPointer>

namespace underridge::app {
using namespace model;
namespace {
constexpr std::size_t atOnce = 800; ///< devices that are arranged within a frame or two
} // namespace

ArrangeActs::ArrangeActs(Session& session, Jobs& jobs, SheetView& sheet, QObject* parent)
    : QObject(parent), session_(session), jobs_(jobs), sheet_(sheet) {
    last_.keepOrder = true; // nobody has arranged yet
    connect(&session_.sheets(), &SheetSession::sheetShown, this, [this] { offer(std::nullopt); });
}

bool ArrangeActs::canArrange() const {
    const Sheet* sheet = session_.network().sheet(session_.sheet());
    return sheet && session_.scene().count<scene::Plate>() > 0;
}

void ArrangeActs::arrange(const edit::ArrangeWish& wish) {
    if (!canArrange())
        return;
    if (working_) {
        next_ = wish;
        return;
    }
    offer(std::nullopt);
    last_ = wish;
    last_.only.clear(); // what was selected then
    const edit::History& history = session_.document().history();
    const bool inPlace = mine_ && mineOn_ == session_.sheet() && history.canUndo() && !history.canRedo() &&
                         *mine_ == session_.network();
    const Network from = inPlace ? history.beforeLast() : session_.network();
    edit::Look look = session_.look();
    if (inPlace)
        look = {look.sheet, look.entered};
    const auto make = [from, look, wish, inPlace](const std::atomic<bool>* wanted) {
        edit::ArrangeReport report;
        auto act = edit::arrange(from, look, wish, &report, wanted);
        return Made{std::move(act), std::move(report), inPlace};
    };
    if (session_.scene().count<scene::Plate>() <= atOnce)
        return take(make(nullptr));
    working_ = true;
    job_ = jobs_.run<Made>(
        tr("Arranging"),
        [make, from, ahead = session_.ahead(), jobs = &jobs_, self = QPointer(this)](const Wanted& wanted) {
            Made made = make(wanted.get());
            if (made.act && !made.inPlace) {
                made.act->base = from;
                if (auto ready = ahead(made.act))
                    made.ahead = std::make_shared<Session::Ahead>(*std::move(ready));
            }
            if (made.act) // before the jobs hear of it, who would drop what was cancelled
                QMetaObject::invokeMethod(
                    jobs,
                    [self, offered = std::make_shared<Made>(made)] {
                        if (self && self->cancelled_ == self->job_)
                            self->offer(std::move(*offered));
                    },
                    Qt::QueuedConnection);
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
            cancelled_ = job_;
            next_.reset();
        });
}

void ArrangeActs::again() {
    edit::ArrangeWish wish = last_;
    const Sheet* sheet = session_.network().sheet(session_.sheet());
    if (sheet && sheet->mmPerUnit > 0)
        wish.style = layout::Style::plan;
    wish.keepOrder |= isByHand(); // what was put somewhere since stays on its side
    arrange(wish);
}

bool ArrangeActs::isByHand() const {
    if (!mine_ || mineOn_ != session_.sheet())
        return true;
    bool moved = false;
    Network::compare(*mine_, session_.network(), [&]<class R>(const R* was, const R* is) {
        if constexpr (std::is_same_v<R, Position>)
            moved |= was && is && is->sheet == mineOn_ && was->at != is->at && is->of != Kind::note;
    });
    return moved;
}

void ArrangeActs::cancel() {
    if (working_)
        jobs_.cancel(job_);
}

bool ArrangeActs::canFitIn() const {
    const Sheet* sheet = session_.network().sheet(session_.sheet());
    return canArrange() && sheet->mmPerUnit == 0 && !sheet->follows() &&
           !session_.selected().devices().empty();
}

void ArrangeActs::fitIn() {
    if (!canFitIn())
        return;
    const scene::Scene before = session_.scene();
    if (session_.apply(edit::fitIn(session_.network(), session_.sheet(), session_.selected().devices())))
        sheet_.showMoved(before);
}

void ArrangeActs::offer(std::optional<Made> made) {
    if (!offered_ && !made)
        return;
    offered_ = std::move(made);
    Q_EMIT offerChanged();
}

void ArrangeActs::takeOffer() {
    if (!offered_)
        return;
    Made made = *std::move(offered_);
    offer(std::nullopt);
    take(std::move(made));
}

void ArrangeActs::take(Made made) {
    const scene::Scene before = session_.scene();
    if (made.inPlace) {
        if (!mine_ || *mine_ != session_.network())
            return; // something else was done meanwhile
        session_.undo();
    }
    const bool applied =
        made.ahead ? session_.take(std::move(*made.ahead)) : session_.apply(std::move(made.act));
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
