// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/typed_fields.h"

#include <QApplication>
#include <QWidget>

namespace underridge::app {

void TypedFields::add(QWidget* field, std::function<bool()> commit) {
    fields_.push_back({field, std::move(commit)});
    connect(field, &QObject::destroyed, this, [this](QObject* gone) {
        std::erase_if(fields_, [gone](const Field& each) { return each.widget == gone; });
    });
}

bool TypedFields::commitAll() {
    if (committing_)
        return true; // a commit asked for it
    committing_ = true;
    bool all = true;
    const auto fields = fields_; // a commit may open or close others
    for (const Field& field : fields)
        if (!field.commit()) {
            const QWidget* focus = QApplication::focusWidget();
            if (!focus || (focus != field.widget && !field.widget->isAncestorOf(focus)))
                field.widget->setFocus();
            all = false;
        }
    committing_ = false;
    return all;
}

bool TypedFields::leaves(const QFocusEvent& event) {
    switch (event.reason()) {
    case Qt::ActiveWindowFocusReason:
    case Qt::PopupFocusReason:
    case Qt::MenuBarFocusReason:
        return false;
    default:
        return true;
    }
}

} // namespace underridge::app
