// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/cabling/lengths_dialog.h"

#include "app/session/session.h"
#include "app/shown_text.h"
#include "core/model/length.h"

namespace underridge::app {
using namespace model;

LengthsDialog::LengthsDialog(const Session& session, QWidget* parent)
    : PreviewDialog(QStringLiteral("lengths"), tr("Cable lengths from places"),
                    {tr("Cable"), tr("Now"), tr("Will be"), tr("Remark")}, tr("Lengths"), tr("Set lengths"),
                    parent),
      session_(session),
      slack_(new QLineEdit),
      margin_(new QSpinBox),
      scope_(new CableScope(session, tr("Those without a length"),
                            [](const Cable& cable) { return cable.lengthMm == 0; })) {
    const NetworkInfo& info = session.network().info();
    slack_->setText(shownLength(info.slackMm, session.lengthUnit()));
    slack_->setToolTip(tr("Left over at each end of a cable"));
    margin_->setRange(0, 100);
    margin_->setSuffix(tr(" %"));
    margin_->setValue(info.marginPercent);
    margin_->setToolTip(tr("Added to the way along the axes and by the riser"));
    form().addRow(tr("Cables"), scope_);
    form().addRow(tr("Slack at each end"), slack_);
    form().addRow(tr("Margin"), margin_);
    connect(slack_, &QLineEdit::textChanged, this, &LengthsDialog::refresh);
    connect(margin_, &QSpinBox::valueChanged, this, &LengthsDialog::refresh);
    connect(scope_, &QComboBox::currentIndexChanged, this, &LengthsDialog::refresh);
    refresh();
}

edit::ActResult LengthsDialog::rule() const {
    const std::int64_t held = session_.network().info().slackMm;
    // What is shown is rounded to its unit: left as it is, it is what it was.
    const auto slack = slack_->text() == shownLength(held, session_.lengthUnit())
                           ? std::optional(held)
                           : parseLength(slack_->text().toStdString(), session_.lengthUnit());
    if (!slack)
        return error(tr("the slack is no length"), tr("write it as 1 m"));
    return edit::setLengthRule(session_.network(), *slack, margin_->value());
}

void LengthsDialog::refresh() {
    clearRows();
    lengths_.clear();
    const auto ruled = rule();
    if (!ruled) {
        sumUp(shownText(ruled.refusal().text()), false);
        return;
    }
    lengths_ = edit::newLengths(ruled->network, scope_->cables());
    const auto shown = [&](const std::string& metres) { // in the unit of the window
        const auto mm = parseLength(metres, LengthUnit::metres);
        return mm && *mm > 0 ? shownLength(*mm, session_.lengthUnit()) : shownText(metres);
    };
    int changed = 0, without = 0;
    for (const edit::CableChange& each : lengths_) {
        const bool same = each.before == each.after;
        changed += !same;
        without += same && !each.remark.empty();
        addRow({cableText(session_.network(), each.cable), shown(each.before), shown(each.after),
                shownText(each.remark)},
               same);
    }
    fitColumns();
    const int all = static_cast<int>(lengths_.size());
    sumUp(without == 0 ? tr("%L1 of %Ln length(s) to change.", nullptr, all).arg(changed)
                       : tr("%L1 of %Ln length(s) to change; %L2 cannot be worked out or stay, as remarked.",
                            nullptr, all)
                             .arg(changed)
                             .arg(without),
          changed > 0 || !(ruled->network == session_.network()));
}

edit::ActResult LengthsDialog::result() const {
    auto ruled = rule();
    if (!ruled)
        return ruled;
    auto set = edit::setLengths(ruled->network, lengths_);
    return set ? set : ruled;
}

} // namespace underridge::app
