// SPDX-License-Identifier: GPL-3.0-or-later
// What an import would bring, before it is done: a picture, counts, remarks, and where to
// put it.
#pragma once
#include "app/panels/remarks_panel.h"
#include "core/edit/import.h"
#include "core/exchange/foreign.h"
#include "paint/theme.h"

#include <QDialog>
#include <QRadioButton>

namespace underridge::app {

class ImportDialog : public QDialog {
    Q_OBJECT
public:
    ImportDialog(const exchange::Loaded& loaded, const QString& file, const paint::Theme& theme,
                 QWidget* parent);

    edit::ImportOnto onto() const;
    QRadioButton& ownSheets() { return *ownSheets_; }
    QRadioButton& presentSheet() { return *presentSheet_; }
    RemarksList& remarks() { return *remarks_; }

private:
    QRadioButton *ownSheets_, *presentSheet_;
    RemarksList* remarks_;
};

} // namespace underridge::app
