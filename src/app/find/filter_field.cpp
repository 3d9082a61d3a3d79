// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/find/filter_field.h"

#include "app/shown_text.h"
#include "core/analysis/check.h"
#include "core/find/matching.h"

#include <QAbstractItemView>

namespace underridge::app {

QString wrongFilter(const Remark& why) {
    return FilterField::tr("At %1: %2").arg(why.where.column).arg(shownText(why.what));
}

FilterField::FilterField(NetworkNow network, QWidget* parent)
    : QLineEdit(parent),
      network_(std::move(network)),
      offers_(new QStringListModel(this)),
      completer_(new QCompleter(offers_, this)) {
    setClearButtonEnabled(true);
    completer_->setCompletionMode(QCompleter::UnfilteredPopupCompletion);
    completer_->setWidget(this); // shown by hand: what is offered goes by the cursor
    connect(completer_, qOverload<const QString&>(&QCompleter::activated), this,
            [this](const QString& whole) {
                setText(whole);
                setModified(true); // it was chosen, not put there
                Q_EMIT textEdited(whole);
            });
    connect(this, &QLineEdit::textEdited, this, &FilterField::offer);
}

void FilterField::offer() {
    const std::string typed = said(text());
    const auto cursor = static_cast<std::size_t>(text().left(cursorPosition()).toUtf8().size());
    QStringList whole;
    const bool begun = cursor > 0 && typed[cursor - 1] != ' ' && typed[cursor - 1] != '(';
    if (begun)
        for (const find::Completion& each :
             find::completions(network_(), typed, cursor, analysis::forwardingRules())) {
            const std::string next = typed.substr(0, each.from) + each.text + typed.substr(cursor);
            if (next == typed) { // it stands there already
                whole.clear();
                break;
            }
            whole << shownText(next);
        }
    offers_->setStringList(whole);
    if (whole.isEmpty() || !hasFocus())
        completer_->popup()->hide();
    else
        completer_->complete();
}

} // namespace underridge::app
