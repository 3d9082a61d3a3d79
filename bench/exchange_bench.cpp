// SPDX-License-Identifier: GPL-3.0-or-later
// Foreign formats: reading and writing a network against the bare parser, and taking one
// in.
#include "bench/percentiles.h"
#include "core/edit/import.h"
#include "core/exchange/catalogue_file.h"
#include "core/exchange/foreign.h"
#include "tests/support/large_network.h"

#include <benchmark/benchmark.h>
#include <nlohmann/json.hpp>
#include <pugixml.hpp>

namespace {

using namespace underridge;
using bench::Percentiles;
using exchange::Format;

const model::Network& network(int devices) {
    static std::map<int, model::Network> made;
    auto [at, fresh] = made.try_emplace(devices);
    if (fresh)
        at->second = tests::largeNetwork(devices);
    return at->second;
}

const model::Catalogue& catalogue() {
    static const model::Catalogue held = exchange::builtInCatalogue();
    return held;
}

/// What the library alone takes for the same bytes; a CSV is compared with a copy of its
/// bytes.
void parseOnly(const std::string& bytes, Format format) {
    if (format == Format::rfc8345) {
        benchmark::DoNotOptimize(nlohmann::json::parse(bytes));
    } else if (format == Format::graphml) {
        pugi::xml_document document;
        benchmark::DoNotOptimize(document.load_buffer(bytes.data(), bytes.size()));
    } else {
        benchmark::DoNotOptimize(std::string(bytes));
    }
}

void openForeign(benchmark::State& state, Format format) {
    const std::string bytes = exchange::write(network(static_cast<int>(state.range(0))), format).bytes;
    double reference = 1e9;
    for (int i = 0; i < 3; ++i) {
        const auto start = std::chrono::steady_clock::now();
        parseOnly(bytes, format);
        reference = std::min(reference,
                             std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count());
    }
    Percentiles times;
    for (auto _ : state) {
        std::optional<Result<exchange::Loaded>> read; // nobody waits until it is freed again
        times.time(state, [&] { read.emplace(exchange::readAny(bytes, {"bench", catalogue()}, format)); });
    }
    times.report(state);
    state.counters["ratio_parse"] = times.at(0.5) / 1000 / reference;
    state.counters["MB"] = static_cast<double>(bytes.size()) / 1e6;
}

void saveForeign(benchmark::State& state, Format format) {
    const model::Network& n = network(static_cast<int>(state.range(0)));
    Percentiles times;
    for (auto _ : state)
        times.time(state, [&] { benchmark::DoNotOptimize(exchange::write(n, format)); });
    times.report(state);
}

void importNetwork(benchmark::State& state) {
    const model::Network& piece = network(static_cast<int>(state.range(0)));
    model::IdSource ids(5);
    const model::Network mine = model::emptyNetwork("mine", ids);
    Percentiles times;
    for (auto _ : state)
        times.time(state, [&] {
            benchmark::DoNotOptimize(edit::importNetwork(mine, piece, edit::ImportOnto::ownSheets, {}, ids));
        });
    times.report(state);
}

void sizes(benchmark::internal::Benchmark* bench) {
    bench->Arg(1000)->Arg(10000)->Arg(50000)->UseManualTime()->Unit(benchmark::kMillisecond);
}

} // namespace

BENCHMARK_CAPTURE(openForeign, rfc8345, Format::rfc8345)->Name("open/rfc8345")->Apply(sizes);
BENCHMARK_CAPTURE(openForeign, graphml, Format::graphml)->Name("open/graphml")->Apply(sizes);
BENCHMARK_CAPTURE(openForeign, csv, Format::csv)->Name("open/csv")->Apply(sizes);
BENCHMARK_CAPTURE(saveForeign, rfc8345, Format::rfc8345)->Name("save/rfc8345")->Apply(sizes);
BENCHMARK_CAPTURE(saveForeign, graphml, Format::graphml)->Name("save/graphml")->Apply(sizes);
BENCHMARK_CAPTURE(saveForeign, csv, Format::csv)->Name("save/csv")->Apply(sizes);
BENCHMARK(importNetwork)->Name("import/network")->Apply(sizes);
BENCHMARK_MAIN();
