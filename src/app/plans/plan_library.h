// SPDX-License-Identifier: GPL-3.0-or-later
// The plans one can choose from in every network: those that ship with the program, and
// the person's own, which are added once.
#pragma once
#include "core/base/files.h"
#include "core/exchange/picture_file.h"

#include <QCoreApplication>
#include <QString>

namespace underridge::app {

struct LibraryPlan {
    QString name;
    QString path; ///< a file, or a resource of the program
    bool shipped = false;
};

class PlanLibrary {
    Q_DECLARE_TR_FUNCTIONS(PlanLibrary)
public:
    /// `folder`: of the own ones, made when the first is added; empty: none are kept.
    PlanLibrary(Files& files, QString folder) : files_(files), folder_(std::move(folder)) {}

    /// Own ones by name, then those that ship with the program.
    std::vector<LibraryPlan> all() const;
    Result<exchange::Picture> read(const LibraryPlan& plan) const;
    /// Keeps a picture for all networks, under the file's name; the same picture is kept
    /// once. Refuses what is no picture.
    Result<LibraryPlan> add(const QString& path);
    Result<Done> remove(const LibraryPlan& plan);
    /// The one new networks begin with; nothing: they begin without. Of a plan that is gone
    /// meanwhile nothing.
    std::optional<LibraryPlan> first() const;
    Result<Done> setFirst(const std::optional<LibraryPlan>& plan);

    /// Millimetres a pixel: of those that ship as they are drawn; of others a guess.
    static double usualScale(const LibraryPlan& plan, const exchange::Picture& picture);

private:
    Files& files_;
    QString folder_;
};

} // namespace underridge::app
