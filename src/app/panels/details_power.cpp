// SPDX-License-Identifier: GPL-3.0-or-later
// What a device is fed from, what hangs on it, and what goes dark without it.
#include "app/panels/details_panel.h"
#include "app/session/session.h"
#include "app/shown_text.h"
#include "core/edit/power.h"

#include <set>

namespace underridge::app {
using namespace model;
namespace {

QString wattsText(double watts) {
    return DetailsPanel::tr("%L1 W").arg(qRound64(watts));
}

/// "400", "400 W", "0.4 kW" in watts.
std::optional<int> parseWatts(const std::string& typed) {
    QString words = shownText(typed).trimmed().toLower().replace(QLatin1Char(','), QLatin1Char('.'));
    double factor = 1;
    if (words.endsWith(QLatin1String("kw"))) {
        factor = 1000;
        words.chop(2);
    } else if (words.endsWith(QLatin1Char('w'))) {
        words.chop(1);
    }
    if (words.trimmed().isEmpty())
        return 0;
    bool good = false;
    const double number = words.trimmed().toDouble(&good) * factor;
    return good && std::abs(number) < 1e9 ? std::optional(qRound(number)) : std::nullopt;
}

/// The mains feeds that are named anywhere, and two to begin with.
std::set<std::string> mainsOf(const Network& network) {
    std::set<std::string> out{"A", "B"};
    network.all<Device>().forEach([&](const Device& device) {
        for (const PowerFeed& feed : device.feeds)
            if (!feed.mains.empty())
                out.insert(feed.mains);
    });
    return out;
}

} // namespace

void DetailsPanel::powerRows(const Device& device) {
    const Network& network = session_.network();
    const auto supplies = suppliesOf(network, device);
    const bool feedsOthers = !outletsOf(network, device).empty();
    if (supplies.empty() && !feedsOthers)
        return;
    form_->heading(tr("Power"));
    for (const std::string& supply : supplies)
        supplyRow(device, supply);
    if (!feedsOthers)
        drawRow(device);
    const PowerTree tree(network);
    const PowerSource self{device.id, {}};
    if (feedsOthers) {
        const PowerLoad load = tree.loadOf(self);
        form_->row(tr("Carries"), load.ratingWatts > 0
                                      ? tr("%1 of %2").arg(wattsText(load.watts), wattsText(load.ratingWatts))
                                      : wattsText(load.watts));
        if (load.worstWatts > load.watts)
            form_->row(tr("If others fail"), wattsText(load.worstWatts));
        if (load.unknown > 0)
            form_->row({}, tr("%Ln device(s) of unknown draw not counted", nullptr, load.unknown));
        lossRow(tr("Dark without it"), tree.darkWithout(self));
        lossRow(tr("One supply less"), tree.weakerWithout(self));
    }
    for (const PowerSource& need : tree.needs(device.id))
        if (device.feeds.size() > 1)
            form_->linkRow(tr("Hangs on"), shownText(tree.nameOf(need)), [this, need] {
                if (need.device)
                    session_.navigation().goTo(refTo(need.device));
            });
}

void DetailsPanel::supplyRow(const Device& device, const std::string& supply) {
    const Network& network = session_.network();
    QStringList names{tr("not said")};
    std::vector<std::pair<PowerSource, std::string>> choices{{}};
    int current = 0;
    const auto offer = [&](PowerSource source, const std::string& outlet, const QString& words) {
        choices.emplace_back(std::move(source), outlet);
        names << words;
    };
    const auto held = std::find_if(device.feeds.begin(), device.feeds.end(),
                                   [&](const PowerFeed& feed) { return feed.supply == supply; });
    if (held != device.feeds.end() && held->from) {
        const Device* from = network.device(held->from);
        offer(
            {held->from, {}}, held->outlet,
            QStringLiteral("%1 %2").arg(from ? shownText(from->name) : tr("gone"), shownText(held->outlet)));
        current = 1;
    }
    for (const std::string& mains : mainsOf(network)) {
        if (held != device.feeds.end() && held->mains == mains)
            current = static_cast<int>(choices.size());
        offer({{}, mains}, {}, tr("feed %1").arg(shownText(mains)));
    }
    for (const edit::FreeOutlet& free : edit::freeOutlets(network, device.id))
        offer({free.device, {}}, free.outlet,
              QStringLiteral("%1 %2").arg(shownText(network.device(free.device)->name),
                                          shownText(free.outlet)));
    form_->choiceRow(supply == "supply" ? tr("Supply") : tr("Supply %1").arg(shownText(supply)), names,
                     current, [this, id = device.id, supply, choices](int chosen) {
                         const auto& [source, outlet] = choices[static_cast<std::size_t>(chosen)];
                         return edit::withCords(
                             edit::feedSupply(session_.network(), id, supply, source, outlet),
                             session_.network(), session_.catalogue(), session_.ids());
                     });
    if (held != device.feeds.end() && held->from)
        cordRow(device, *held);
}

void DetailsPanel::cordRow(const Device& device, const PowerFeed& feed) {
    const Network& network = session_.network();
    const Cable* cord = network.cable(feed.cable);
    QStringList names{tr("not said")};
    std::vector<std::string> ids{{}};
    int current = 0;
    for (const CableType& type : session_.catalogue().cables) {
        if (type.medium != Medium::mains)
            continue;
        const bool isIt = cord && cord->type == type.id;
        if (isIt)
            current = static_cast<int>(ids.size());
        ids.push_back(type.id);
        names << (isIt && cord->lengthMm > 0
                      ? QStringLiteral("%1, %2").arg(shownText(type.name),
                                                     shownLength(cord->lengthMm, session_.lengthUnit()))
                      : shownText(type.name));
    }
    form_->choiceRow(feed.supply == "supply" ? tr("Cord") : tr("Cord %1").arg(shownText(feed.supply)), names,
                     current, [this, id = device.id, supply = feed.supply, ids](int chosen) {
                         return edit::setCord(session_.network(), session_.catalogue(), id, supply,
                                              ids[static_cast<std::size_t>(chosen)], session_.ids());
                     });
}

void DetailsPanel::drawRow(const Device& device) {
    const DeviceModel* model = session_.network().modelOf(device);
    const QString usual = model && model->watts > 0 ? tr("its model: %1").arg(wattsText(model->watts))
                                                    : tr("not known, such as 120 W");
    form_->textRow(tr("Draws at most"), device.watts > 0 ? wattsText(device.watts) : QString(), usual,
                   [this, id = device.id](const std::string& typed) -> edit::ActResult {
                       const auto watts = parseWatts(typed);
                       if (!watts)
                           return error(tr("%1 is no power").arg(shownText(typed)), tr("write it as 120 W"));
                       return edit::setDraw(session_.network(), id, *watts);
                   });
}

void DetailsPanel::lossRow(const QString& label, const std::vector<DeviceId>& devices) {
    if (devices.empty())
        return;
    form_->linkRow(label, tr("%Ln device(s)", nullptr, static_cast<int>(devices.size())), [this, devices] {
        edit::Refs lost;
        for (const DeviceId id : devices)
            lost.push_back(refTo(id));
        selectCounted(lost);
    });
}

} // namespace underridge::app
