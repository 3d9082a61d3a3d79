// SPDX-License-Identifier: GPL-3.0-or-later
// Arranging what the sheet shows: at once, or by a thread where there is much of it.
#pragma once
#include "app/jobs/jobs.h"
#include "app/session/session.h"
#include "app/sheet/sheet_view.h"
#include "core/edit/arranging.h"

namespace underridge::app {

class ArrangeActs : public QObject {
    Q_OBJECT
public:
    ArrangeActs(Session& session, Jobs& jobs, SheetView& sheet, QObject* parent = nullptr);

    /// Whether the sheet can be arranged: it shows devices. Drawn to scale only its links are.
    bool canArrange() const;
    /// Arranges as wished. Straight after another arrangement it takes its place: both are
    /// one step to undo.
    void arrange(const edit::ArrangeWish& wish);
    /// As last time; the first time as suggested.
    void again();
    const edit::ArrangeWish& last() const { return last_; }
    /// Whether the devices of the sheet stand as somebody put them: not as the last arrangement
    /// left them.
    bool isByHand() const;
    /// Puts the selected devices where there is room by what they are linked to.
    void fitIn();
    bool canFitIn() const;
    bool isWorking() const { return working_; }
    /// Gives up what is being arranged.
    void cancel();
    /// Of an arrangement that was cancelled: what there was of it can be taken.
    bool hasOffer() const { return offered_.has_value(); }
    void takeOffer();

Q_SIGNALS:
    /// What was found and done.
    void arranged(const QString& words);
    void offerChanged();

private:
    struct Made {
        edit::ActResult act;
        edit::ArrangeReport report;
        bool inPlace = false;                       ///< of the arrangement before
        std::shared_ptr<Session::Ahead> ahead = {}; ///< the same, where a thread made it ready to be taken
    };
    void take(Made made);
    void offer(std::optional<Made> made);

    Session& session_;
    Jobs& jobs_;
    SheetView& sheet_;
    edit::ArrangeWish last_;
    bool working_ = false;                  ///< a thread is at it
    std::optional<edit::ArrangeWish> next_; ///< what was wished meanwhile, last
    std::optional<model::Network> mine_;    ///< as the last arrangement left it
    model::SheetId mineOn_;
    std::optional<Made> offered_;
    int job_ = 0, cancelled_ = 0; ///< the latest, and the latest that was given up
};

} // namespace underridge::app
