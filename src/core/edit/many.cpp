// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/many.h"

#include "core/edit/lags.h"
#include "core/edit/links.h"

#include <fmt/format.h>

namespace underridge::edit {
using namespace model;
namespace {

class Planner {
public:
    Planner(const Network& network, const Catalogue& catalogue, const ManyOptions& options,
            const linking::Habits& habits, IdSource& ids)
        : catalogue_(catalogue), options_(options), habits_(habits), ids_(ids) {
        plan_.act.network = network;
    }

    /// A link already chosen.
    void take(linking::Assigned row) {
        if (row.proposal) {
            if (auto made = makeLink(plan_.act.network, catalogue_, *row.proposal, ids_)) {
                plan_.act.network = std::move(made->network);
                plan_.act.subjects.push_back(made->subjects.front());
            } else {
                row.why = made.refusal().what;
                row.proposal.reset();
            }
        }
        plan_.rows.push_back(std::move(row));
    }

    /// All links between two, each over the ports that are best by then.
    void join(DeviceId device, DeviceId target) {
        std::vector<LinkId> made;
        for (int i = 0; i < options_.links; ++i) {
            const auto pair =
                linking::bestPair(plan_.act.network, catalogue_, {device, {}}, {target, {}}, habits_);
            const std::size_t before = plan_.act.subjects.size();
            take(pair ? linking::Assigned{device, *pair, {}}
                      : linking::Assigned{device, std::nullopt, pair.refusal().what});
            if (plan_.act.subjects.size() > before)
                made.push_back({plan_.act.subjects.back().id});
        }
        if (!options_.lag || made.size() < 2)
            return;
        if (auto lag = makeLag(plan_.act.network, made, {}, ids_))
            plan_.act.network = std::move(lag->network);
        else
            plan_.rows.push_back({device, std::nullopt, "no LAG: " + lag.refusal().what});
    }

    ManyLinks done(std::size_t targets) {
        const auto links = plan_.act.subjects.size();
        plan_.act.name =
            links == 1 ? std::string("Link 1 device")
                       : fmt::format("Make {} links to {} device{}", links, targets, targets == 1 ? "" : "s");
        return std::move(plan_);
    }

private:
    const Catalogue& catalogue_;
    ManyOptions options_;
    linking::Habits habits_;
    IdSource& ids_;
    ManyLinks plan_;
};

} // namespace

int ManyLinks::linked() const {
    return static_cast<int>(act.subjects.size());
}

ManyLinks linkMany(const Network& network, const Catalogue& catalogue, const std::vector<DeviceId>& devices,
                   const std::vector<DeviceId>& targets, SheetId sheet, const ManyOptions& options,
                   const linking::Habits& habits, IdSource& ids) {
    Planner planner(network, catalogue, options, habits, ids);
    if (options.toEvery) {
        for (const DeviceId device : devices)
            for (const DeviceId target : targets)
                planner.join(device, target);
        return planner.done(targets.size());
    }
    for (linking::Assigned& row : linking::assign(network, catalogue, devices, targets, sheet, habits).rows) {
        if (options.links > 1 && row.proposal)
            planner.join(row.device, row.proposal->b.device);
        else
            planner.take(std::move(row));
    }
    return planner.done(targets.size());
}

} // namespace underridge::edit
