// SPDX-License-Identifier: GPL-3.0-or-later
// Copying, dragging out and pasting: the selection and other programs.
#pragma once
#include "app/desk.h"

#include <QTemporaryDir>

namespace underridge::app {

class Clips : public QObject {
    Q_OBJECT
public:
    Clips(const Desk& desk, QObject* parent);

    void copy();
    /// Drags the selection out of a widget, also as an SVG file.
    void dragOut(QWidget* from);
    /// Reads the clipboard; pasted() follows when it holds a piece of network.
    void paste();
    /// Whether it is worth trying.
    bool canPaste() const { return canPaste_; }
    /// Looks at the clipboard: another program may have filled it.
    void look();

Q_SIGNALS:
    void canPasteChanged();
    void pasted(const underridge::edit::Clip& clip);

private:
    void take(const Result<edit::Clip>& clip);

    Desk desk_;
    bool canPaste_ = false;
    std::unique_ptr<QTemporaryDir> folder_; ///< of the SVG of what is dragged out
};

} // namespace underridge::app
