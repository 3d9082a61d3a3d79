// SPDX-License-Identifier: GPL-3.0-or-later
// Labels for cables by a scheme, each shown before it is given.
#pragma once
#include "app/cabling/cable_scope.h"
#include "app/dialogs/preview_dialog.h"
#include "core/edit/cables.h"

#include <QLineEdit>

namespace underridge::app {

class LabelsDialog : public PreviewDialog {
    Q_OBJECT
public:
    LabelsDialog(const Session& session, QWidget* parent);
    QLineEdit& scheme() { return *scheme_; }
    CableScope& scope() { return *scope_; }
    const std::vector<edit::CableChange>& labels() const { return labels_; }

private:
    void refresh();

    const Session& session_;
    QLineEdit* scheme_;
    CableScope* scope_;
    std::vector<edit::CableChange> labels_;
};

} // namespace underridge::app
