// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/cabling/cable_scope.h"

#include "app/session/session.h"
#include "app/shown_text.h"
#include "core/edit/registers.h"
#include "core/model/ports.h"

#include <set>

namespace underridge::app {
using namespace model;

QString cableText(const Network& network, CableId id) {
    const Cable* cable = network.cable(id);
    if (!cable || cable->ends.size() < 2)
        return {};
    QString text = CableScope::tr("%1 to %2")
                       .arg(shownText(portText(network, cable->ends[0].at)),
                            shownText(portText(network, cable->ends[1].at)));
    if (cable->ends.size() > 2)
        text += CableScope::tr(" and %L1 more").arg(cable->ends.size() - 2);
    return text;
}

std::vector<CableId> selectedCables(const Session& session) {
    const Network& network = session.network();
    std::vector<CableId> out;
    std::set<CableId> seen;
    const auto add = [&](CableId id) {
        if (network.cable(id) && seen.insert(id).second)
            out.push_back(id);
    };
    for (const ObjectRef ref : session.selection()) {
        if (const Link* link = network.link({ref.id}))
            add(link->cable);
        else if (network.device({ref.id}))
            network.forEachCableOf({ref.id}, [&](const Cable& cable) { add(cable.id); });
    }
    return out;
}

CableScope::CableScope(const Session& session, const QString& lackingTitle,
                       const std::function<bool(const Cable&)>& lacking, QWidget* parent)
    : QComboBox(parent) {
    const Network& network = session.network();
    std::vector<CableId> some, all;
    for (const edit::Row& row : edit::rowsOf(network, edit::Register::cables)) {
        const Cable* cable = network.cable({row.object.id});
        all.push_back(cable->id);
        if (lacking(*cable))
            some.push_back(cable->id);
    }
    const auto add = [this](const QString& title, std::vector<CableId> cables) {
        if (cables.empty() && count() > 0)
            return;
        addItem(QStringLiteral("%1 (%2)").arg(title).arg(cables.size()));
        sets_.push_back(std::move(cables));
    };
    if (auto chosen = selectedCables(session); !chosen.empty())
        add(tr("Those of the selection"), std::move(chosen));
    add(lackingTitle, std::move(some));
    add(tr("All cables"), std::move(all));
    if (cables().empty()) // nothing lacks it: all are what is meant
        setCurrentIndex(count() - 1);
}

} // namespace underridge::app
