// SPDX-License-Identifier: GPL-3.0-or-later
// Benches of switching and routing: all anew, after an edit, one trace, one table.
#include "bench/percentiles.h"
#include "core/analysis/check.h"
#include "core/analysis/forwarding.h"
#include "core/analysis/trace.h"
#include "tests/support/routed_campus.h"

#include <map>
#include <random>

using namespace underridge;
using namespace underridge::model;
using bench::Percentiles;

namespace {

const Network& campus(int devices) {
    static std::map<int, Network> made;
    auto at = made.find(devices);
    if (at == made.end())
        at = made.emplace(devices, tests::routedCampus(devices)).first;
    return at->second;
}

void anew(benchmark::State& state) {
    const Network& n = campus(static_cast<int>(state.range(0)));
    for (auto _ : state)
        benchmark::DoNotOptimize(analysis::Forwarding(n).bridging().interfaces().size());
}

void findings(benchmark::State& state) {
    const Network& n = campus(static_cast<int>(state.range(0)));
    std::size_t found = 0;
    for (auto _ : state)
        found = analysis::checkForwarding(analysis::Forwarding(n)).size();
    state.counters["found"] = static_cast<double>(found);
}

/// One port set into another VLAN: everything that is shown, and the findings.
void edit(benchmark::State& state) {
    const Network& n = campus(static_cast<int>(state.range(0)));
    std::vector<Interface> access;
    n.all<Interface>().forEach([&](const Interface& each) {
        if (each.untagged && !each.port.empty())
            access.push_back(each);
    });
    std::mt19937 random(5);
    Percentiles times;
    for (auto _ : state) {
        Network next = n;
        Interface one = access[random() % access.size()];
        one.untagged = access[random() % access.size()].untagged;
        next.put(std::move(one));
        times.time(state, [&] {
            if (!analysis::forwardsAlike(n, next))
                benchmark::DoNotOptimize(analysis::checkForwarding(analysis::Forwarding(next)).size());
        });
    }
    times.report(state);
}

/// A note is written: nothing of this depends on it.
void editBeside(benchmark::State& state) {
    const Network& n = campus(static_cast<int>(state.range(0)));
    std::vector<Device> devices;
    n.all<Device>().forEach([&](const Device& each) { devices.push_back(each); });
    std::mt19937 random(5);
    Percentiles times;
    for (auto _ : state) {
        Network next = n;
        Device one = devices[random() % devices.size()];
        one.note = "x";
        next.put(std::move(one));
        times.time(state, [&] { benchmark::DoNotOptimize(analysis::forwardsAlike(n, next)); });
    }
    times.report(state);
}

/// Two endpoints anywhere, there and back, over tables that nobody asked for yet.
void trace(benchmark::State& state) {
    const Network& n = campus(static_cast<int>(state.range(0)));
    std::vector<DeviceId> hosts;
    n.all<Device>().forEach([&](const Device& each) {
        if (each.model == "c-host")
            hosts.push_back(each.id);
    });
    std::mt19937 random(7);
    Percentiles times;
    const analysis::Forwarding forwarding(n);
    for (auto _ : state) {
        const analysis::Probe probe{{hosts[random() % hosts.size()], {}, {}},
                                    {hosts[random() % hosts.size()], {}, {}},
                                    Protocol::any,
                                    0};
        times.time(state, [&] {
            const auto [there, back] = analysis::traceBoth(forwarding, probe);
            if (!there.reached() || !back.reached())
                state.SkipWithError("not reached");
        });
    }
    times.report(state);
}

BENCHMARK(anew)->Name("forward/anew")->Arg(1000)->Arg(10000)->Arg(50000)->Unit(benchmark::kMillisecond);
BENCHMARK(findings)
    ->Name("forward/findings")
    ->Arg(1000)
    ->Arg(10000)
    ->Arg(50000)
    ->Unit(benchmark::kMillisecond);
BENCHMARK(edit)
    ->Name("forward/edit")
    ->Arg(1000)
    ->Arg(10000)
    ->Arg(50000)
    ->Unit(benchmark::kMillisecond)
    ->UseManualTime();
BENCHMARK(editBeside)
    ->Name("forward/beside")
    ->Arg(10000)
    ->Arg(50000)
    ->Unit(benchmark::kMillisecond)
    ->UseManualTime();
BENCHMARK(trace)
    ->Name("trace/path")
    ->Arg(1000)
    ->Arg(10000)
    ->Arg(50000)
    ->Unit(benchmark::kMillisecond)
    ->UseManualTime();

} // namespace
