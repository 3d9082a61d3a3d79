// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/cabling/cabling_dialogs.h"

#include "app/cabling/labels_dialog.h"
#include "app/cabling/lengths_dialog.h"
#include "app/cabling/many_dialog.h"
#include "app/cabling/places_dialog.h"
#include "app/cabling/stock_dialog.h"

namespace underridge::app {

template <class Kind>
void CablingDialogs::ask(std::function<void(Kind&)> accepted) {
    desk_.typed.commitAll();
    desk_.dialogs.show<Kind>([this] { return new Kind(desk_.session, desk_.window); },
                             [then = std::move(accepted)](Kind& dialog, bool done) {
                                 if (done && then)
                                     then(dialog);
                             });
}

void CablingDialogs::apply(edit::ActResult act) {
    if (act)
        act->subjects = desk_.session.selection();
    desk_.session.apply(std::move(act));
}

void CablingDialogs::linkMany() {
    ask<ManyDialog>([this](ManyDialog& dialog) { desk_.session.apply(dialog.plan().act); });
}

void CablingDialogs::labelCables() {
    ask<LabelsDialog>([this](LabelsDialog& dialog) {
        apply(edit::labelCables(desk_.session.network(), dialog.labels(),
                                dialog.scheme().text().toStdString()));
    });
}

void CablingDialogs::setLengths() {
    ask<LengthsDialog>([this](LengthsDialog& dialog) { apply(dialog.result()); });
}

void CablingDialogs::editPlaces() {
    ask<PlacesDialog>();
}

void CablingDialogs::editStock() {
    ask<StockDialog>();
}

} // namespace underridge::app
