// SPDX-License-Identifier: GPL-3.0-or-later
// Lengths of cables from the places of both ends, each shown before it is taken.
#pragma once
#include "app/cabling/cable_scope.h"
#include "app/dialogs/preview_dialog.h"
#include "core/edit/cables.h"

#include <QLineEdit>
#include <QSpinBox>

namespace underridge::app {

class LengthsDialog : public PreviewDialog {
    Q_OBJECT
public:
    LengthsDialog(const Session& session, QWidget* parent);
    QLineEdit& slack() { return *slack_; }
    QSpinBox& margin() { return *margin_; }
    CableScope& scope() { return *scope_; }
    /// The rule and the lengths, as one act.
    edit::ActResult result() const;

private:
    void refresh();
    edit::ActResult rule() const;

    const Session& session_;
    QLineEdit* slack_;
    QSpinBox* margin_;
    CableScope* scope_;
    std::vector<edit::CableChange> lengths_;
};

} // namespace underridge::app
