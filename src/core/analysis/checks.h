// SPDX-License-Identifier: GPL-3.0-or-later
// What the parts of checking forwarding share.
#pragma once
#include "core/analysis/check.h"
#include "core/analysis/forwarding.h"

namespace underridge::analysis {

/// Findings as they are told, one after another.
class Told {
public:
    explicit Told(const Forwarding& forwarding) : f(forwarding) {}

    void tell(std::string_view code, std::vector<model::ObjectRef> subjects, std::string message,
              std::string remedy, std::vector<std::string> acts = {});
    std::vector<linking::Finding> take() { return std::move(found_); }

    const Forwarding& f;

    std::string name(int station) const { return f.wiring().nameOf(station); }
    std::string port(int index) const;
    /// "acc-1 vlan20".
    std::string interface(int index) const;
    model::ObjectRef device(int station) const;
    /// The link a port is joined by, else its device.
    model::ObjectRef link(int port) const;

private:
    std::vector<linking::Finding> found_;
};

void checkVlans(Told& told);
void checkTrees(Told& told);
void checkRings(Told& told);
void checkDhcp(Told& told);
void checkAddresses(Told& told);
void checkRoutes(Told& told);
void checkFilters(Told& told);
void checkResilience(Told& told);
void checkReturns(Told& told);
void checkSpares(Told& told);

} // namespace underridge::analysis
