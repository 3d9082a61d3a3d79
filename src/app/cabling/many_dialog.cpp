// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/cabling/many_dialog.h"

#include "app/session/session.h"
#include "app/shown_text.h"
#include "app/style/pieces.h"
#include "core/model/ports.h"

namespace underridge::app {
using namespace model;

ManyDialog::ManyDialog(Session& session, QWidget* parent)
    : PreviewDialog(QStringLiteral("many"), tr("Link many"),
                    {tr("Device"), tr("Port"), tr("To"), tr("Port"), tr("Cable"), tr("Why")}, tr("Links"),
                    tr("Link"), parent),
      session_(session),
      targets_(linking::targetsAmong(session.network(), session.selected().devices())),
      where_(new QComboBox),
      links_(new QSpinBox),
      lag_(new QCheckBox(tr("as one LAG"))) {
    resize(860, 540);
    for (const DeviceId id : session.selected().devices())
        if (std::find(targets_.begin(), targets_.end(), id) == targets_.end())
            devices_.push_back(id);
    QStringList names;
    for (const DeviceId id : targets_)
        names << session_.nameOf(refTo(id));
    auto* to = plainLabel(names.join(QStringLiteral(", ")));
    where_->addItems({tr("to one of them, best for all together"), tr("to every one of them")});
    links_->setRange(1, 8);
    form().addRow(tr("%Ln device(s) to", nullptr, static_cast<int>(devices_.size())), to);
    form().addRow(tr("Each"), where_);
    form().addRow(tr("With links"), links_);
    form().addRow(QString(), lag_);
    connect(where_, &QComboBox::currentIndexChanged, this, &ManyDialog::refresh);
    connect(links_, &QSpinBox::valueChanged, this, &ManyDialog::refresh);
    connect(lag_, &QCheckBox::toggled, this, &ManyDialog::refresh);
    refresh();
}

void ManyDialog::refresh() {
    lag_->setEnabled(links_->value() > 1);
    clearRows();
    if (devices_.empty()) {
        sumUp(tr("All these stand alike. Select also what they are to be linked to: the switches of the "
                 "endpoints, the core of the switches."),
              false);
        return;
    }
    const edit::ManyOptions options{where_->currentIndex() == 1, links_->value(),
                                    lag_->isEnabled() && lag_->isChecked()};
    plan_ = edit::linkMany(session_.network(), session_.catalogue(), devices_, targets_, session_.sheet(),
                           options, session_.habits(), session_.ids());
    plan_.act.base = session_.network();
    int left = 0;
    for (const linking::Assigned& row : plan_.rows) {
        const QString name = session_.nameOf(refTo(row.device));
        left += !row.proposal;
        if (!row.proposal) {
            addRow({name, {}, {}, {}, {}, shownText(row.why)}, true);
            continue;
        }
        const CableType* cable = session_.catalogue().cable(row.proposal->joint.cable);
        QString words = cable ? shownText(cable->name) : shownText(titleOf(row.proposal->joint.medium));
        const Link* made = plan_.act.network.linkAt(row.proposal->b);
        const Cable* piece = made ? plan_.act.network.cable(made->cable) : nullptr;
        if (piece && piece->lengthMm > 0)
            words += QStringLiteral(", ") + shownLength(piece->lengthMm, session_.lengthUnit());
        if (const int transceivers = row.proposal->joint.transceivers(); transceivers > 0)
            words += QStringLiteral(", ") + tr("with %Ln transceiver(s)", nullptr, transceivers);
        addRow({name, shownText(row.proposal->a.port), session_.nameOf(refTo(row.proposal->b.device)),
                shownText(row.proposal->b.port), words, shownText(row.proposal->reason)});
    }
    fitColumns();
    QStringList counts{tr("%Ln link(s)", nullptr, static_cast<int>(plan_.linked()))};
    if (left > 0)
        counts << tr("%Ln left out, as told", nullptr, static_cast<int>(left));
    sumUp(counts.join(QStringLiteral(", ")), plan_.linked() > 0);
}

} // namespace underridge::app
