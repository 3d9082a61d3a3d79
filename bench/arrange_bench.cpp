// SPDX-License-Identifier: GPL-3.0-or-later
// Benches of arranging: whole acts on the networks of two shapes, a campus of buildings with
// redundant pairs and a scale-free one.
#include "bench/percentiles.h"
#include "core/edit/arranging.h"
#include "core/exchange/catalogue_file.h"
#include "core/exchange/foreign.h"
#include "tests/support/graphs.h"

#include <map>

using namespace underridge;
using namespace underridge::model;
using bench::Percentiles;

namespace {

Network networkOf(const layout::Graph& graph) {
    std::string csv = "from,to\n";
    for (const layout::Edge& edge : graph.edges)
        csv += fmt::format("device-{},device-{}\n", edge.a, edge.b);
    const Catalogue catalogue = exchange::builtInCatalogue();
    auto loaded = exchange::readAny(csv, {"graph.csv", catalogue});
    Network network = std::move(loaded->network);
    for (const auto& part : loaded->unplaced)
        for (const DeviceId id : part.devices) {
            Position position;
            position.sheet = part.sheet;
            position.object = id.value;
            position.of = Kind::device;
            network.put(std::move(position));
        }
    return network;
}

/// About so many devices.
const Network& campus(int devices) {
    static std::map<int, Network> made;
    const auto at = made.find(devices);
    if (at != made.end())
        return at->second;
    const int access = devices <= 100 ? 4 : 12, each = 2 + access * 6;
    return made.emplace(devices, networkOf(tests::campusGraph(std::max(1, (devices - 2) / each), access, 5)))
        .first->second;
}

const Network& scaleFree(int devices) {
    static std::map<int, Network> made;
    const auto at = made.find(devices);
    return at != made.end() ? at->second
                            : made.emplace(devices, networkOf(tests::scaleFreeGraph(devices))).first->second;
}

void arrangeOn(benchmark::State& state, const Network& network, layout::Style style) {
    const SheetId sheet = network.sheetsInOrder().front().id;
    edit::ArrangeWish wish;
    wish.style = style;
    Percentiles times;
    for (auto _ : state)
        times.time(state, [&] { benchmark::DoNotOptimize(edit::arrange(network, {sheet}, wish)); });
    times.report(state);
    state.counters["devices"] = static_cast<double>(network.all<Device>().size());
}

void arrangeCampus(benchmark::State& state, layout::Style style) {
    arrangeOn(state, campus(static_cast<int>(state.range(0))), style);
}
void arrangeScaleFree(benchmark::State& state) {
    arrangeOn(state, scaleFree(static_cast<int>(state.range(0))), layout::Style::suggest);
}

void sizes(benchmark::internal::Benchmark* bench) {
    for (const int devices : {50, 200, 1000, 10000, 50000})
        bench->Arg(devices);
    bench->UseManualTime()->Unit(benchmark::kMillisecond);
}

} // namespace

BENCHMARK_CAPTURE(arrangeCampus, suggest, layout::Style::suggest)->Name("arrange/suggest")->Apply(sizes);
BENCHMARK_CAPTURE(arrangeCampus, layered, layout::Style::layered)->Name("arrange/layered")->Apply(sizes);
BENCHMARK_CAPTURE(arrangeCampus, radial, layout::Style::radial)->Name("arrange/radial")->Apply(sizes);
BENCHMARK_CAPTURE(arrangeCampus, ring, layout::Style::ring)->Name("arrange/ring")->Apply(sizes);
BENCHMARK_CAPTURE(arrangeCampus, spring, layout::Style::spring)->Name("arrange/spring")->Apply(sizes);
BENCHMARK(arrangeScaleFree)->Name("arrange/suggest-scale-free")->Apply(sizes);
