// SPDX-License-Identifier: GPL-3.0-or-later
// Benches of switching and routing: all anew, after an edit, one trace, one table.
#include "bench/percentiles.h"
#include "core/analysis/check.h"
#include "core/analysis/running_findings.h"
#include "core/analysis/trace.h"
#include "core/edit/following.h"
#include "core/edit/layer_sheets.h"
#include "core/edit/sheets.h"
#include "core/scene/scene.h"
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
        benchmark::DoNotOptimize(analysis::Forwarding(n).bridging().interfaceCount());
}

void findings(benchmark::State& state) {
    const Network& n = campus(static_cast<int>(state.range(0)));
    std::size_t found = 0;
    for (auto _ : state)
        found = analysis::checkForwarding(analysis::Forwarding(n)).size();
    state.counters["found"] = static_cast<double>(found);
}

/// What follows from a network, edit by edit.
class Followed {
public:
    explicit Followed(const Network& network) : held_(analysis::Forwarding::after({}, network)) {
        found_.update(held_, network);
    }
    void to(const Network& next, benchmark::State& state) {
        const auto before = held_; // let go of by another thread, as in the window
        times.time(state, [&] {
            held_ = analysis::Forwarding::after(held_, next);
            found_.update(held_, next);
        });
    }

    Percentiles times;

private:
    std::shared_ptr<const analysis::Forwarding> held_;
    analysis::RunningFindings found_;
};

/// One port set into another VLAN: everything that is shown, and the findings.
void edit(benchmark::State& state) {
    const Network& n = campus(static_cast<int>(state.range(0)));
    std::vector<Interface> access;
    n.all<Interface>().forEach([&](const Interface& each) {
        if (each.untagged && !each.port.empty())
            access.push_back(each);
    });
    std::mt19937 random(5);
    Followed followed(n);
    Network next = n;
    for (auto _ : state) {
        Interface one = access[random() % access.size()];
        one.untagged = access[random() % access.size()].untagged;
        next.put(std::move(one));
        followed.to(next, state);
    }
    followed.times.report(state);
}

/// A switch is given another priority or a port another cost: the trees, where other frames pass, the
/// findings.
void editTree(benchmark::State& state) {
    const Network& n = campus(static_cast<int>(state.range(0)));
    std::vector<Key> switches, ports;
    n.all<Device>().forEach([&](const Device& each) {
        if (roleOf(n, each) == Role::switch_)
            switches.push_back(each.key());
    });
    n.all<Interface>().forEach([&](const Interface& each) {
        if (!each.tagged.empty() && !each.port.empty())
            ports.push_back(each.key());
    });
    std::mt19937 random(5);
    Followed followed(n);
    Network next = n;
    for (auto _ : state) {
        if (random() % 2 == 0) {
            Device device = *next.find<Device>(switches[random() % switches.size()]);
            SpanningTree tree = *device.spanningTree;
            tree.priority = static_cast<int>(4096 * (random() % 16));
            device.spanningTree = std::move(tree);
            next.put(std::move(device));
        } else {
            Interface port = *next.find<Interface>(ports[random() % ports.size()]);
            PortTree tree = *port.spanningTree;
            tree.cost = static_cast<int>(1 + random() % 200'000);
            port.spanningTree = std::move(tree);
            next.put(std::move(port));
        }
        followed.to(next, state);
    }
    followed.times.report(state);
}

/// A route is given to a host, or (`range(1)`) a link is taken away, after which all is worked out anew.
void editOther(benchmark::State& state) {
    const Network& n = campus(static_cast<int>(state.range(0)));
    std::vector<DeviceId> hosts;
    n.all<Device>().forEach([&](const Device& each) {
        if (each.model == "c-host")
            hosts.push_back(each.id);
    });
    std::vector<LinkId> links;
    n.all<Link>().forEach([&](const Link& each) { links.push_back(each.id); });
    std::mt19937 random(5);
    IdSource ids(6);
    Followed followed(n);
    for (auto _ : state) {
        Network next = n;
        if (state.range(1) == 0) {
            Route route;
            route.id = ids.make<RouteId>();
            route.device = hosts[random() % hosts.size()];
            route.to = "10.99.0.0/24";
            route.via = "10.0.0.1";
            next.put(std::move(route));
        } else {
            next.erase<Link>(n.link(links[random() % links.size()])->key());
        }
        followed.to(next, state);
    }
    followed.times.report(state);
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

/// A campus with a sheet of an upper layer, which stays as it is arranged.
const std::pair<Network, SheetId>& layered(int devices, SheetLayer layer) {
    static std::map<std::pair<int, SheetLayer>, std::pair<Network, SheetId>> made;
    auto& kept = made[{devices, layer}];
    if (!kept.second) {
        IdSource ids(3);
        auto act = edit::addLayerSheet(campus(devices), "upper", layer, ids);
        kept = {act->network, SheetId{act->subjects.front().id}};
    }
    return kept;
}

SheetLayer layerOf(const benchmark::State& state) {
    return state.range(1) == 0 ? SheetLayer::dataLink : SheetLayer::network;
}

/// The sheet with all on it, arranged.
void layerSheet(benchmark::State& state) {
    const Network& n = campus(static_cast<int>(state.range(0)));
    for (auto _ : state) {
        IdSource ids(3);
        benchmark::DoNotOptimize(edit::addLayerSheet(n, "upper", layerOf(state), ids));
    }
}

void layerScene(benchmark::State& state) {
    const auto& [n, sheet] = layered(static_cast<int>(state.range(0)), layerOf(state));
    for (auto _ : state)
        benchmark::DoNotOptimize(scene::Scene::build(n, sheet).count<scene::Plate>());
}

/// A plate is moved: the act with what follows from it, and the scene.
void layerMove(benchmark::State& state) {
    const auto& [n, sheet] = layered(static_cast<int>(state.range(0)), layerOf(state));
    const scene::Scene scene = scene::Scene::build(n, sheet);
    std::vector<ObjectRef> plates;
    scene.forEachPlate([&](const scene::Plate& plate) { plates.push_back(plate.object()); });
    std::mt19937 random(9);
    Percentiles times;
    for (auto _ : state) {
        const edit::Refs one{plates[random() % plates.size()]};
        times.time(state, [&] {
            auto act =
                edit::moveObjects(n, {sheet, {}, scene.standing(), scene.sharedFolding()}, one, {40, 8});
            edit::followAct(n, act->network);
            benchmark::DoNotOptimize(update(scene, n, act->network).damage.size());
        });
    }
    times.report(state);
}

/// A port is disabled, which concerns the layer: what the window waits for where links follow later,
/// and then what it waits for as they do.
void layerLater(benchmark::State& state) {
    const auto& [n, sheet] = layered(static_cast<int>(state.range(0)), layerOf(state));
    const scene::Scene scene = scene::Scene::build(n, sheet);
    std::vector<LinkId> links;
    n.all<Link>().forEach([&](const Link& link) { links.push_back(link.id); });
    std::mt19937 random(9);
    Percentiles first;
    double last = 0;
    for (auto _ : state) {
        Network changed = n;
        const Link& link = *n.link(links[random() % links.size()]);
        Port port = n.port(link.a) ? *n.port(link.a) : Port{};
        port.device = link.a.device;
        port.port = link.a.port;
        port.disabled = true;
        changed.put(port);
        scene::Updated now{scene, {}, false};
        first.time(state, [&] { now = update(scene, n, changed, true); });
        const auto layer = std::make_shared<const scene::LayerNetwork>(changed, sheet);
        const auto start = std::chrono::steady_clock::now();
        benchmark::DoNotOptimize(broughtUp(now.scene, layer).damage.size());
        const std::chrono::duration<double, std::milli> took = std::chrono::steady_clock::now() - start;
        last = std::max(last, took.count());
    }
    first.report(state);
    state.counters["then_ms_most"] = last;
}

BENCHMARK(layerSheet)
    ->Name("layers/sheet")
    ->ArgsProduct({{1000, 10000}, {0, 1}})
    ->Unit(benchmark::kMillisecond);
BENCHMARK(layerScene)
    ->Name("layers/scene")
    ->ArgsProduct({{1000, 10000, 50000}, {0, 1}})
    ->Unit(benchmark::kMillisecond);
BENCHMARK(layerMove)
    ->Name("layers/move")
    ->ArgsProduct({{1000, 10000}, {0, 1}})
    ->Unit(benchmark::kMillisecond)
    ->UseManualTime();
BENCHMARK(layerLater)
    ->Name("layers/later")
    ->ArgsProduct({{10000}, {0, 1}})
    ->Iterations(30)
    ->Unit(benchmark::kMillisecond)
    ->UseManualTime();
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
BENCHMARK(editTree)
    ->Name("forward/edit_tree")
    ->Arg(1000)
    ->Arg(10000)
    ->Arg(50000)
    ->Unit(benchmark::kMillisecond)
    ->UseManualTime();
BENCHMARK(editOther)
    ->Name("forward/edit_other")
    ->ArgsProduct({{1000, 10000, 50000}, {0, 1}})
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
