// SPDX-License-Identifier: GPL-3.0-or-later
// The fields in place of a window: names, notes, cells, details. One rule for all:
// leaving a field commits what is typed, Esc reverts it, and saving or closing takes what
// is typed while the focus stays where it is. Going to another window or opening a menu
// is not leaving.
#pragma once
#include <QFocusEvent>
#include <QObject>
#include <functional>
#include <vector>

class QWidget;

namespace underridge::app {

class TypedFields : public QObject {
    Q_OBJECT
public:
    using QObject::QObject;

    /// `commit` takes what is typed in a field and below it, if anything is, and says
    /// false when it cannot be taken as it is; it has told why. Asked whenever
    /// commitAll() is, whether the field is shown or not.
    void add(QWidget* field, std::function<bool()> commit);

    /// Takes what is typed anywhere. False when something cannot be taken; its field has
    /// the focus then.
    bool commitAll();

    /// Whether losing the focus this way is leaving the field.
    static bool leaves(const QFocusEvent& event);

private:
    struct Field {
        QWidget* widget;
        std::function<bool()> commit;
    };
    std::vector<Field> fields_;
    bool committing_ = false;
};

} // namespace underridge::app
