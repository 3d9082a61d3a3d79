// SPDX-License-Identifier: GPL-3.0-or-later
// Plans: the picture under a floor or any other group, its scale, and sheets drawn to
// scale on it. On such a sheet where a plate stands and where its device stands are one.
#pragma once
#include "core/edit/act.h"
#include "core/exchange/picture_file.h"

namespace underridge::edit {

/// Sheet units a plan's metre takes at first: a plate is about four metres wide.
inline constexpr int standardMmPerUnit = 25;

/// Puts a picture under a group, in place of another; kept once however many groups show
/// it. `mmPerPixel`: of the picture; a guess until it is set. Refuses what is no scale.
ActResult setPlan(const model::Network& network, model::GroupId group, const exchange::Picture& picture,
                  double mmPerPixel);
ActResult removePlan(const model::Network& network, model::GroupId group);

/// Another scale: what stands on it stays where it is on the picture, if `withDevices`,
/// else in metres. Refuses less than 0.01 mm and more than 100 m a pixel.
ActResult scalePlan(const model::Network& network, model::GroupId group, double mmPerPixel, bool withDevices);
/// Where its upper left corner lies, how it is turned (degrees clockwise), how much it is
/// faded (0 to 90 per cent), and whether it is an ink drawing.
struct PlanLook {
    std::int64_t xMm = 0, yMm = 0;
    double turn = 0;
    int dim = 0;
    bool ink = false;
};
ActResult placePlan(const model::Network& network, model::GroupId group, const PlanLook& look);

/// Millimetres a pixel of a picture is at a map scale of 1 to `scale`, drawn with so many
/// pixels an inch.
double mmPerPixelAt(double scale, double pixelsPerInch);

/// Adds a sheet drawn to scale on the plan of a group, with every device that stands on
/// it. Refuses a group without a plan, and a name that is empty or there already.
ActResult sheetOnPlan(const model::Network& network, model::GroupId group, const std::string& name,
                      model::IdSource& ids);

/// Adds a floor on a plan, and a sheet of that name drawn to scale on it. Refuses as
/// setPlan(), placePlan() and sheetOnPlan() do.
ActResult floorOnPlan(const model::Network& network, const std::string& name,
                      const exchange::Picture& picture, double mmPerPixel, const PlanLook& look,
                      model::IdSource& ids);

/// Draws devices on a further sheet in rows from a corner; on a sheet to scale those that
/// stand on its plan are drawn where they stand.
ActResult putOnSheet(const model::Network& network, model::SheetId sheet,
                     const std::vector<model::DeviceId>& devices, model::Point corner);

/// The corner below everything that stands on a sheet.
model::Point freeCorner(const model::Network& network, model::SheetId sheet);

/// The size of a group's plan in pixels; nothing without one.
struct PlanSize {
    int width = 0, height = 0;
};
std::optional<PlanSize> planSize(const model::Network& network, const model::Group& group);

/// After an act: on sheets to scale, devices whose plate was moved stand there, and plates
/// follow devices whose place was set. What stands in a rack keeps its place there.
void followPlans(const model::Network& before, model::Network& after);

} // namespace underridge::edit
