// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/settings.h"

#include <QDir>
#include <QFileInfo>
#include <QLocale>
#include <cmath>

namespace underridge::app {
namespace {

const QString unitsKey = QStringLiteral("window/units");
const QString scaleKey = QStringLiteral("window/textScale");
const QString portEndKey = QStringLiteral("linking/portEnd");
const QString uplinksKey = QStringLiteral("linking/endpointsTakeUplinks");
const QString folderKey = QStringLiteral("files/folder");
const QString motionKey = QStringLiteral("window/motion");
const QString findsKey = QStringLiteral("find/last");
const QString recentKey = QStringLiteral("files/recent");
const QString opensLastKey = QStringLiteral("files/openLast");
const QString lastFileKey = QStringLiteral("files/last");
const QString placesKey = QStringLiteral("files/places");
const QString paperKey = QStringLiteral("print/paper"), portraitKey = QStringLiteral("print/portrait"),
              byScaleKey = QStringLiteral("print/byScale"), printScaleKey = QStringLiteral("print/scale"),
              titleKey = QStringLiteral("print/title");
const QString metres = QStringLiteral("metres"), feet = QStringLiteral("feet");
const QString high = QStringLiteral("high"), low = QStringLiteral("low");
constexpr int mostRecent = 8;
constexpr int mostFinds = 8;
constexpr int mostPlaces = 40;

} // namespace

model::LengthUnit Settings::lengthUnit() const {
    const bool imperial = QLocale().measurementSystem() == QLocale::ImperialUSSystem;
    return store_.value(unitsKey, imperial ? feet : metres).toString() == feet ? model::LengthUnit::feet
                                                                               : model::LengthUnit::metres;
}

void Settings::setLengthUnit(model::LengthUnit unit) {
    store_.setValue(unitsKey, unit == model::LengthUnit::feet ? feet : metres);
}

linking::Habits Settings::habits() const {
    return {store_.value(portEndKey).toString() == high, store_.value(uplinksKey, false).toBool()};
}

void Settings::setHabits(const linking::Habits& habits) {
    store_.setValue(portEndKey, habits.fromHighEnd ? high : low);
    store_.setValue(uplinksKey, habits.hostsTakeUplinks);
}

int Settings::textScale() const {
    return std::clamp(store_.value(scaleKey, 100).toInt(), 80, 250);
}

void Settings::setTextScale(int percent) {
    store_.setValue(scaleKey, percent);
}

QStringList Settings::recentFiles() const {
    QStringList files;
    for (const QString& path : store_.value(recentKey).toStringList())
        if (QFileInfo::exists(path))
            files << path;
    return files;
}

void Settings::addRecent(const QString& path) {
    QStringList files = recentFiles();
    files.removeAll(path);
    files.prepend(path);
    store_.setValue(recentKey, files.mid(0, mostRecent));
}

bool Settings::motion() const {
    return store_.value(motionKey, true).toBool();
}

void Settings::setMotion(bool on) {
    store_.setValue(motionKey, on);
}

QStringList Settings::lastFinds() const {
    return store_.value(findsKey).toStringList();
}

void Settings::addFind(const QString& text) {
    if (text.isEmpty())
        return;
    QStringList finds = lastFinds();
    finds.removeAll(text);
    finds.prepend(text);
    store_.setValue(findsKey, finds.mid(0, mostFinds));
}

QString Settings::folder() const {
    return store_.value(folderKey, QDir::homePath()).toString();
}

void Settings::setFolder(const QString& folder) {
    store_.setValue(folderKey, folder);
}

bool Settings::opensLast() const {
    return store_.value(opensLastKey, false).toBool();
}

void Settings::setOpensLast(bool on) {
    store_.setValue(opensLastKey, on);
}

QString Settings::lastFile() const {
    return store_.value(lastFileKey).toString();
}

void Settings::setLastFile(const QString& path) {
    store_.setValue(lastFileKey, path);
}

Settings::Pages Settings::pages() const {
    const Pages standard;
    return {store_.value(paperKey, standard.paper).toString(),
            store_.value(portraitKey, standard.portrait).toBool(),
            store_.value(byScaleKey, standard.byScale).toBool(),
            store_.value(titleKey, standard.titleBlock).toBool(),
            store_.value(printScaleKey, standard.scalePercent).toInt()};
}

void Settings::setPages(const Pages& pages) {
    store_.setValue(paperKey, pages.paper);
    store_.setValue(portraitKey, pages.portrait);
    store_.setValue(byScaleKey, pages.byScale);
    store_.setValue(printScaleKey, pages.scalePercent);
    store_.setValue(titleKey, pages.titleBlock);
}

std::optional<Settings::Place> Settings::placeIn(const QString& path) const {
    for (const QVariant& entry : store_.value(placesKey).toList()) {
        const QStringList words = entry.toStringList(); // path, sheet, x, y, zoom
        if (words.size() != 5 || words[0] != path)
            continue;
        const auto sheet = model::idFromText(words[1].toStdString());
        const Place place{{sheet.value_or(0)},
                          {{words[2].toDouble(), words[3].toDouble()}, words[4].toDouble()}};
        if (sheet && std::isfinite(place.view.centre.x) && std::isfinite(place.view.centre.y) &&
            place.view.zoom > 0)
            return place;
    }
    return std::nullopt;
}

void Settings::setPlaceIn(const QString& path, const Place& place) {
    QVariantList entries = store_.value(placesKey).toList();
    entries.removeIf([&](const QVariant& entry) { return entry.toStringList().value(0) == path; });
    entries.prepend(QStringList{path, QString::fromStdString(model::idText(place.sheet.value)),
                                QString::number(place.view.centre.x), QString::number(place.view.centre.y),
                                QString::number(place.view.zoom)});
    store_.setValue(placesKey, entries.mid(0, mostPlaces));
}

} // namespace underridge::app
