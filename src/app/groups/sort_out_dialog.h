// SPDX-License-Identifier: GPL-3.0-or-later
// Roles and groups proposed from what is known, to take whole or in parts.
#pragma once
#include "app/dialogs/preview_dialog.h"
#include "core/edit/sort_out.h"

#include <QComboBox>

namespace underridge::app {

class SortOutDialog : public PreviewDialog {
    Q_OBJECT
public:
    SortOutDialog(const model::Network& network, std::vector<model::DeviceId> devices, QWidget* parent);

    /// What taking the ticked rows would be, of a network as it is by then.
    edit::ActResult taken(const model::Network& network, model::IdSource& ids) const;

    QComboBox& how() { return *how_; }
    QComboBox& kind() { return *kind_; }
    int ticked() const;

private:
    /// Roles, or groups by something.
    struct Way {
        bool roles = false;
        edit::By by = edit::By::prefix;
        std::string attribute;
    };
    void addWays();
    void propose();
    void count();
    const Way& way() const { return ways_[static_cast<std::size_t>(how_->currentIndex())]; }

    model::Network network_;
    std::vector<model::DeviceId> devices_;
    std::vector<Way> ways_;
    std::vector<std::vector<edit::ProposedRole>> roles_; ///< by row
    std::vector<edit::ProposedGroup> groups_;            ///< by row
    QComboBox *how_, *kind_;
};

} // namespace underridge::app
