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

    /// Whether the sheet can be arranged: it shows devices, and is not drawn to scale.
    bool canArrange() const;
    /// Arranges as wished. Straight after another arrangement it takes its place: both are
    /// one step to undo.
    void arrange(const edit::ArrangeWish& wish);
    /// As last time; the first time as suggested.
    void again() { arrange(last_); }
    const edit::ArrangeWish& last() const { return last_; }

Q_SIGNALS:
    /// What was found and done.
    void arranged(const QString& words);

private:
    struct Made {
        edit::ActResult act;
        edit::ArrangeReport report;
        bool inPlace = false; ///< of the arrangement before
    };
    void take(Made made);

    Session& session_;
    Jobs& jobs_;
    SheetView& sheet_;
    edit::ArrangeWish last_;
    bool working_ = false;                  ///< a thread is at it
    std::optional<edit::ArrangeWish> next_; ///< what was wished meanwhile, last
    std::optional<model::Network> mine_;    ///< as the last arrangement left it
    model::SheetId mineOn_;
};

} // namespace underridge::app
