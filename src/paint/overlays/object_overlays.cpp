// SPDX-License-Identifier: GPL-3.0-or-later
#include "paint/overlays/object_overlays.h"

#include "core/linking/poe.h"
#include "core/model/ports.h"
#include "paint/qt_text.h"

#include <QLocale>
#include <QObject>
#include <QStringList>
#include <cmath>

namespace underridge::paint {
using namespace model;
namespace {

QString watts(double value) {
    return QLocale().toString(std::round(value * 10) / 10, 'g', 6);
}

} // namespace

SpeedOverlay::SpeedOverlay(const Network& network) {
    constexpr double slowest = 10, fastest = 400'000; // Mbit/s
    std::map<int, int> counts;
    network.all<Link>().forEach([&](const Link& link) {
        const int speed = link.console ? 0 : speedOf(network, link);
        if (speed <= 0)
            return;
        ++counts[speed];
        const double share = std::log(speed / slowest) / std::log(fastest / slowest);
        const float strength = 0.06F + 0.5F * static_cast<float>(std::clamp(share, 0.0, 1.0));
        const QString words = shownText(speedText(speed));
        marks_[refTo(link.id)] = {strength, QObject::tr("comes up at %1").arg(words), words, -speed};
    });
    QStringList said;
    for (auto each = counts.rbegin(); each != counts.rend(); ++each)
        said << QStringLiteral("%1 × %2").arg(each->second).arg(shownText(speedText(each->first)));
    legend_ = said.isEmpty() ? QObject::tr("Speeds: none is known")
                             : QObject::tr("Speeds: %1").arg(said.join(QStringLiteral(", ")));
}

PowerOverlay::PowerOverlay(const Network& network) {
    double given = 0;
    int sources = 0, loads = 0;
    network.all<Device>().forEach([&](const Device& device) {
        const auto fed = linking::loadsOf(network, device);
        const DeviceModel* model = network.modelOf(device);
        const int budget = model ? model->powerBudgetW : 0;
        if (fed.empty() && budget <= 0)
            return;
        double sum = 0;
        for (const linking::Fed& each : fed) {
            sum += each.watts;
            marks_[refTo(each.load.device)] = {
                weakHalo, QObject::tr("set aside for it: %1 W").arg(watts(each.watts)), {}};
        }
        ++sources;
        loads += static_cast<int>(fed.size());
        given += sum;
        const double share = budget > 0 ? sum / budget : 0;
        const QString badge = budget > 0 ? QObject::tr("%1 of %2 W").arg(watts(sum)).arg(budget)
                                         : QObject::tr("%1 W").arg(watts(sum));
        marks_[refTo(device.id)] = {
            weakHalo + (strongHalo - weakHalo) * static_cast<float>(std::min(share, 1.0)),
            budget > 0 ? QObject::tr("gives %1 over its cables").arg(badge)
                       : QObject::tr("gives %1 over its cables; its budget is not known").arg(badge),
            badge, static_cast<int>(-100 * share)};
    });
    legend_ = QObject::tr("Power over cables: %1 W from %2 to %3")
                  .arg(watts(given), QObject::tr("%Ln device(s)", nullptr, sources),
                       QObject::tr("%Ln load(s)", nullptr, loads));
}

AgeOverlay::AgeOverlay(const Network& network, std::int64_t now) {
    constexpr std::int64_t day = 24 * 60 * 60;
    constexpr std::int64_t old = 30; // days
    int seen = 0, stale = 0;
    const auto mark = [&](ObjectRef object, const Provenance& provenance) {
        if (provenance.lastSeen <= 0)
            return;
        const std::int64_t days = std::max<std::int64_t>(0, (now - provenance.lastSeen) / day);
        ++seen;
        stale += days >= old;
        const float share = static_cast<float>(std::min(days, old)) / static_cast<float>(old);
        const QString source = shownText(provenance.source);
        const QString ago =
            days == 0 ? QObject::tr("today") : QObject::tr("%Ln day(s) ago", nullptr, static_cast<int>(days));
        marks_[object] = {0.06F + 0.4F * share,
                          source.isEmpty() ? QObject::tr("last seen %1").arg(ago)
                                           : QObject::tr("last seen %1 by %2").arg(ago, source),
                          days == 0 ? QString() : QObject::tr("%L1 d").arg(days), static_cast<int>(-days)};
    };
    network.all<Device>().forEach([&](const Device& device) { mark(refTo(device.id), device.provenance); });
    network.all<Link>().forEach([&](const Link& link) { mark(refTo(link.id), link.provenance); });
    legend_ = seen == 0 ? QObject::tr("Age: no source said when it had seen anything")
                        : QObject::tr("Age: %Ln seen", nullptr, seen) +
                              QObject::tr(", %Ln of it a month ago or more", nullptr, stale);
}

FilterOverlay::FilterOverlay(const Network& network, const find::Filter& filter,
                             const find::Findings& findings) {
    const find::Matcher matcher(network, filter, &findings);
    const QString words = QObject::tr("found by %1").arg(shownText(filter.text()));
    int devices = 0, links = 0;
    for (const DeviceId id : matcher.devices()) {
        marks_[refTo(id)] = {strongHalo, words, {}};
        ++devices;
    }
    network.all<Link>().forEach([&](const Link& link) {
        if (!matcher.matches(link))
            return;
        marks_[refTo(link.id)] = {weakHalo, words, {}};
        ++links;
    });
    legend_ = QObject::tr("%1: %2, %3")
                  .arg(shownText(filter.text()), QObject::tr("%Ln device(s)", nullptr, devices),
                       QObject::tr("%Ln link(s)", nullptr, links));
}

ImpactOverlay::ImpactOverlay(const Network& network, ObjectRef object) {
    const Device* device = network.device({object.id});
    const Link* link = network.link({object.id});
    if (!device && !link) {
        legend_ = QObject::tr("What hangs on it: it is no longer there");
        return;
    }
    const QString name = device ? shownText(device->name)
                                : shownText(portText(network, link->a) + " – " + portText(network, link->b));
    const analysis::Impact impact = analysis::impactOf(network, device ? refTo(device->id) : refTo(link->id));
    for (const DeviceId id : impact.cutOff)
        marks_[refTo(id)] = {strongHalo, QObject::tr("cut off without %1").arg(name), {}};
    marks_[device ? refTo(device->id) : refTo(link->id)] = {
        strongHalo, QObject::tr("what hangs on it is marked"), QObject::tr("without"), -1};
    legend_ = impact.cutOff.empty()
                  ? QObject::tr("Without %1: nobody is cut off").arg(name)
                  : QObject::tr("Without %1: %2 of %L3 cut off from the rest")
                        .arg(name, QLocale().toString(static_cast<qulonglong>(impact.cutOff.size())))
                        .arg(impact.joined);
}

} // namespace underridge::paint
