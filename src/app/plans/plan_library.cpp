// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/plans/plan_library.h"

#include "app/shown_text.h"

#include <QDir>
#include <QFile>
#include <QFileInfo>

namespace underridge::app {
namespace {

struct Shipped {
    const char* file;
    const char* name;
};
constexpr Shipped shippedPlans[] = {
    {"office-floor", QT_TRANSLATE_NOOP("PlanLibrary", "Office floor")},
    {"hall", QT_TRANSLATE_NOOP("PlanLibrary", "Hall")},
    {"machine-hall", QT_TRANSLATE_NOOP("PlanLibrary", "Machine hall")},
    {"campus", QT_TRANSLATE_NOOP("PlanLibrary", "Campus")},
    {"street-grid", QT_TRANSLATE_NOOP("PlanLibrary", "Street grid")},
};
/// What a picture shows from side to side when nothing else says so.
constexpr double usualWidthMm = 60'000;
/// Those that ship with the program are drawn with this many millimetres a unit.
constexpr double shippedMm = 50, shippedOutdoorMm = 250;

} // namespace

std::vector<LibraryPlan> PlanLibrary::all() const {
    std::vector<LibraryPlan> out;
    if (!folder_.isEmpty())
        for (const std::string& name : files_.list(said(folder_)))
            if (const QString file = shownText(name); !file.startsWith(QLatin1Char('.')))
                out.push_back({QFileInfo(file).completeBaseName(), folder_ + QLatin1Char('/') + file, false});
    for (const Shipped& each : shippedPlans)
        out.push_back({tr(each.name), QStringLiteral(":/plans/%1.svg").arg(QLatin1String(each.file)), true});
    return out;
}

Result<exchange::Picture> PlanLibrary::read(const LibraryPlan& plan) const {
    if (!plan.shipped) {
        const auto bytes = files_.read(said(plan.path));
        return bytes ? exchange::readPicture(*bytes, said(plan.path)) : bytes.refusal();
    }
    QFile file(plan.path);
    if (!file.open(QIODevice::ReadOnly))
        return error(tr("%1 is missing from the program").arg(plan.name), tr("install it anew"));
    return exchange::readPicture(file.readAll().toStdString(), said(plan.name));
}

Result<LibraryPlan> PlanLibrary::add(const QString& path) {
    const auto bytes = files_.read(said(path));
    if (!bytes)
        return bytes.refusal();
    const auto picture = exchange::readPicture(*bytes, said(path));
    if (!picture)
        return picture.refusal();
    const QFileInfo info(path);
    if (folder_.isEmpty())
        return LibraryPlan{info.completeBaseName(), path, false};
    for (const LibraryPlan& each : all())
        if (const auto held =
                each.shipped ? Result<std::string>(std::string()) : files_.read(said(each.path));
            held && !each.shipped && *held == *bytes)
            return each; // nobody adds one twice
    QDir().mkpath(folder_);
    QString free = folder_ + QLatin1Char('/') + info.fileName();
    for (int i = 2; files_.exists(said(free)); ++i)
        free = QStringLiteral("%1/%2 %3.%4").arg(folder_, info.completeBaseName()).arg(i).arg(info.suffix());
    if (auto kept = files_.writeAtomically(said(free), *bytes); !kept)
        return kept.refusal();
    return LibraryPlan{QFileInfo(free).completeBaseName(), free, false};
}

Result<Done> PlanLibrary::remove(const LibraryPlan& plan) {
    return plan.shipped ? Result<Done>(error(tr("%1 ships with the program").arg(plan.name),
                                             tr("own plans can be removed")))
                        : files_.remove(said(plan.path));
}

namespace {
/// In the folder of the own plans: the path of the one new networks begin with.
constexpr const char* firstFile = "/.first";
} // namespace

std::optional<LibraryPlan> PlanLibrary::first() const {
    const auto path =
        folder_.isEmpty() ? Result<std::string>(std::string()) : files_.read(said(folder_ + firstFile));
    if (!path || path->empty())
        return std::nullopt;
    for (const LibraryPlan& plan : all())
        if (said(plan.path) == *path)
            return plan;
    return std::nullopt;
}

Result<Done> PlanLibrary::setFirst(const std::optional<LibraryPlan>& plan) {
    if (folder_.isEmpty())
        return error(tr("plans are not kept here"), tr("start the program with a settings folder"));
    QDir().mkpath(folder_);
    return files_.writeAtomically(said(folder_ + firstFile), plan ? said(plan->path) : std::string());
}

double PlanLibrary::usualScale(const LibraryPlan& plan, const exchange::Picture& picture) {
    if (!plan.shipped)
        return usualWidthMm / picture.width;
    const bool outdoor =
        plan.path.contains(QLatin1String("campus")) || plan.path.contains(QLatin1String("street"));
    return outdoor ? shippedOutdoorMm : shippedMm;
}

} // namespace underridge::app
