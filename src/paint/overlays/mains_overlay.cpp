// SPDX-License-Identifier: GPL-3.0-or-later
#include "paint/overlays/mains_overlay.h"

#include "paint/qt_text.h"

#include <QLocale>
#include <QObject>
#include <QStringList>
#include <cmath>

namespace underridge::paint {
using namespace model;
namespace {

/// Badges are said in this order where there is no room for all.
constexpr int overRank = -4, unfedRank = -3, aloneRank = -2, sourceRank = -1;

QString wholeWatts(double value) {
    return QLocale().toString(static_cast<qlonglong>(std::llround(value)));
}

/// "acc-1, acc-2 and 3 more".
QString someNames(const Network& network, const std::vector<DeviceId>& devices) {
    constexpr std::size_t most = 3;
    QStringList names;
    for (std::size_t i = 0; i < std::min(most, devices.size()); ++i)
        names << shownText(network.device(devices[i])->name);
    const QString said = names.join(QStringLiteral(", "));
    return devices.size() <= most ? said : QObject::tr("%1 and %2 more").arg(said).arg(devices.size() - most);
}

} // namespace

MainsOverlay::MainsOverlay(const Network& network) {
    const PowerTree tree(network);
    auto losses = tree.losses();
    network.all<Device>().forEach([&](const Device& device) {
        const auto supplies = suppliesOf(network, device);
        int turn = 0;
        for (const PowerFeed& feed : device.feeds) {
            if (feed.from && network.device(feed.from))
                ways_.push_back({feed.from, device.id, turn % 2 == 1});
            ++turn;
        }
        const bool feedsOthers = !outletsOf(network, device).empty();
        if (feedsOthers)
            marks_[refTo(device.id)] =
                ofSource(network, tree.loadOf({device.id, {}}), losses[{device.id, {}}]);
        else if (!supplies.empty() && !tree.sources().empty())
            marks_[refTo(device.id)] = ofLoad(tree, device);
    });
    legend_ = tree.sources().empty()
                  ? QObject::tr("Mains power: no feed is said")
                  : QObject::tr("Mains power: %1 fed, %2 by one source alone, %3 not fed; %4")
                        .arg(QLocale().toString(fed_), QLocale().toString(alone_), QLocale().toString(unfed_),
                             QObject::tr("%Ln device(s) with outlets", nullptr, sources_));
}

Overlay::Mark MainsOverlay::ofSource(const Network& network, const PowerLoad& load,
                                     const PowerTree::Loss& loss) {
    ++sources_;
    const QString badge =
        load.ratingWatts > 0
            ? QObject::tr("%1 of %2 W").arg(wholeWatts(load.watts), wholeWatts(load.ratingWatts))
            : QObject::tr("%1 W").arg(wholeWatts(load.watts));
    QStringList words{QObject::tr("carries %1").arg(badge)};
    if (load.worstWatts > load.watts)
        words << QObject::tr("%1 W when others fail").arg(wholeWatts(load.worstWatts));
    if (!loss.dark.empty())
        words << QObject::tr("dark without it: %1").arg(someNames(network, loss.dark));
    if (!loss.weaker.empty())
        words << QObject::tr("one supply less without it: %1").arg(someNames(network, loss.weaker));
    return {load.isOver() ? strongHalo : weakHalo, words.join(QStringLiteral("; ")), badge,
            load.isOver() ? overRank : sourceRank};
}

Overlay::Mark MainsOverlay::ofLoad(const PowerTree& tree, const Device& device) {
    QStringList from;
    for (const PowerFeed& feed : device.feeds)
        if (feed.from || !feed.mains.empty())
            from << shownText(tree.nameOf({feed.from, feed.mains}));
    if (from.empty()) {
        ++unfed_;
        return {strongHalo, QObject::tr("no supply of it is fed"), QObject::tr("not fed"), unfedRank};
    }
    ++fed_;
    from.removeDuplicates();
    const QString words = QObject::tr("fed from %1").arg(from.join(QStringLiteral(", ")));
    if (tree.circles(device.id))
        return {strongHalo, QObject::tr("feeds itself in the end"), QObject::tr("feeds itself"), unfedRank};
    const auto& needs = tree.needs(device.id);
    if (needs.empty())
        return {weakHalo, words, {}};
    ++alone_;
    QStringList named;
    for (const PowerSource& need : needs)
        named << shownText(tree.nameOf(need));
    const bool several = device.feeds.size() > 1; // and one would have thought otherwise
    return {several ? strongHalo : weakHalo,
            QObject::tr("%1; dark without %2").arg(words, named.join(QObject::tr(" or "))),
            several ? QObject::tr("one source") : QString(), aloneRank};
}

} // namespace underridge::paint
