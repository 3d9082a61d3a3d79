// SPDX-License-Identifier: GPL-3.0-or-later
// Benches of the core: area/what/size, with p50, p95, p99 in milliseconds and ratios to a
// plain reference.
#include "bench/percentiles.h"
#include "core/edit/devices.h"
#include "core/edit/document.h"
#include "core/edit/groups.h"
#include "core/edit/registers.h"
#include "core/edit/sheets.h"
#include "core/exchange/own_format.h"
#include "core/find/matching.h"
#include "core/find/search.h"
#include "core/linking/assign.h"
#include "core/linking/running_check.h"
#include "core/model/table_impl.h"
#include "core/scene/counts.h"
#include "core/scene/scene.h"
#include "tests/support/large_network.h"

#include <map>
#include <nlohmann/json.hpp>
#include <random>
#include <unistd.h>
#include <unordered_map>

using namespace underridge;
using namespace underridge::model;
using bench::Percentiles;

namespace {

const Network& network(int devices) {
    static std::map<int, Network> made;
    auto at = made.find(devices);
    if (at == made.end())
        at = made.emplace(devices, tests::largeNetwork(devices)).first;
    return at->second;
}

std::vector<DeviceId> someDevices(const Network& n) {
    std::vector<DeviceId> all;
    n.all<Device>().forEach([&](const Device& d) { all.push_back(d.id); });
    std::shuffle(all.begin(), all.end(), std::mt19937(3));
    all.resize(std::min<std::size_t>(all.size(), 512));
    return all;
}

double residentMb() {
    std::FILE* file = std::fopen("/proc/self/statm", "r");
    long pages = 0, resident = 0;
    const bool read = file && std::fscanf(file, "%ld %ld", &pages, &resident) == 2;
    if (file)
        std::fclose(file);
    return read ? static_cast<double>(resident) * static_cast<double>(sysconf(_SC_PAGESIZE)) / 1e6 : 0;
}

void tableCopy(benchmark::State& state) {
    const Network& n = network(static_cast<int>(state.range(0)));
    for (auto _ : state) {
        Network copy = n;
        benchmark::DoNotOptimize(copy);
    }
}

/// One device of a shared table replaced; against the same in a std::unordered_map that
/// nobody shares.
void tableEdit(benchmark::State& state) {
    const Network& n = network(static_cast<int>(state.range(0)));
    const auto ids = someDevices(n);
    std::size_t i = 0;
    for (auto _ : state) {
        Table<Device> copy = n.all<Device>();
        Device device = *copy.find({ids[i % ids.size()].value, 0});
        device.outside = true;
        copy.put(std::move(device));
        benchmark::DoNotOptimize(copy);
        ++i;
    }
}

template <std::size_t leafSize>
void tableLeaf(benchmark::State& state) {
    const Network& n = network(10000);
    Table<Device, leafSize> table;
    n.all<Device>().forEach([&](const Device& d) { table.put(d); });
    const auto ids = someDevices(n);
    std::size_t i = 0;
    for (auto _ : state) {
        Table<Device, leafSize> copy = table;
        Device device = *copy.find({ids[i++ % ids.size()].value, 0});
        device.outside = true;
        copy.put(std::move(device));
        benchmark::DoNotOptimize(copy);
    }
}

void tableLookUp(benchmark::State& state) {
    const Network& n = network(static_cast<int>(state.range(0)));
    const auto ids = someDevices(n);
    std::unordered_map<std::uint64_t, const Device*> plain;
    n.all<Device>().forEach([&](const Device& d) { plain[d.id.value] = &d; });
    const auto timed = [&](auto&& find) {
        const auto start = std::chrono::steady_clock::now();
        for (int round = 0; round < 200; ++round)
            for (const DeviceId id : ids)
                benchmark::DoNotOptimize(find(id));
        return std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
    };
    const double reference = timed([&](DeviceId id) { return plain.at(id.value); });
    const double ours = timed([&](DeviceId id) { return n.device(id); });
    std::size_t i = 0;
    for (auto _ : state)
        benchmark::DoNotOptimize(n.device(ids[i++ % ids.size()]));
    state.counters["ratio_hash_map"] = ours / reference;
}

void tableCompare(benchmark::State& state) {
    const Network& n = network(static_cast<int>(state.range(0)));
    Network changed = n;
    for (const DeviceId id : someDevices(n)) {
        Device device = *n.device(id);
        device.outside = true;
        changed.put(std::move(device));
        if (changed.all<Device>().size() && changed.device(id)->outside)
            break; // one difference
    }
    for (auto _ : state) {
        int differences = 0;
        Network::compare(n, changed, [&](const auto*, const auto*) { ++differences; });
        benchmark::DoNotOptimize(differences);
    }
}

/// An act as the window does it: the act, the journal's difference, the scene.
template <class MakeAct>
void editBench(benchmark::State& state, MakeAct&& makeAct) {
    const Network& n = network(static_cast<int>(state.range(0)));
    const SheetId sheet = n.sheetsInOrder().front().id;
    const auto scene = scene::Scene::build(n, sheet);
    const auto ids = someDevices(n);
    Percentiles times;
    std::size_t i = 0;
    for (auto _ : state)
        times.time(state, [&] {
            const auto act = makeAct(n, sheet, ids[i % ids.size()], ids[(i + 1) % ids.size()]);
            ++i;
            benchmark::DoNotOptimize(edit::differencePayload(act->name, n, act->network));
            benchmark::DoNotOptimize(scene::update(scene, n, act->network));
        });
    times.report(state);
}

void editMove(benchmark::State& state) {
    editBench(state, [](const Network& n, SheetId sheet, DeviceId device, DeviceId) {
        return edit::moveObjects(n, sheet, {refTo(device)}, {8, 8});
    });
}

void editRename(benchmark::State& state) {
    editBench(state, [](const Network& n, SheetId, DeviceId device, DeviceId) {
        return edit::rename(n, {refTo(device)}, {"other"});
    });
}

void editLink(benchmark::State& state) {
    const Catalogue catalogue = exchange::builtInCatalogue();
    IdSource ids(1);
    editBench(state, [&](const Network& n, SheetId, DeviceId a, DeviceId b) {
        return edit::makeLink(n, catalogue, *linking::bestPair(n, catalogue, {a, {}}, {b, {}}), ids);
    });
}

void editUndo(benchmark::State& state) {
    const Network& n = network(static_cast<int>(state.range(0)));
    const SheetId sheet = n.sheetsInOrder().front().id;
    const auto ids = someDevices(n);
    edit::History history(n);
    for (std::size_t i = 0; i < 100; ++i)
        history.apply(*edit::moveObjects(history.now(), sheet, {refTo(ids[i])}, {8, 8}), {}, {}, 0);
    auto scene = scene::Scene::build(history.now(), sheet);
    Percentiles times;
    bool back = true;
    for (auto _ : state)
        times.time(state, [&] {
            back = back ? history.canUndo() : !history.canRedo();
            const Network before = history.now();
            back ? history.undo() : history.redo();
            benchmark::DoNotOptimize(edit::differencePayload("x", before, history.now()));
            scene = scene::update(scene, before, history.now()).scene;
        });
    times.report(state);
}

const Network& grouped(int devices) {
    static std::map<int, Network> made;
    const auto at = made.find(devices);
    return at != made.end() ? at->second : made.emplace(devices, tests::largeGrouped(devices)).first->second;
}

/// Groups of a level of the tree, 0 the innermost.
std::vector<GroupId> groupsOf(const Network& network, GroupKind level) {
    std::vector<GroupId> out;
    network.all<Group>().forEach([&](const Group& group) {
        if (group.type == level)
            out.push_back(group.id);
    });
    return out;
}

/// An act on a sheet in groups, as the window does it.
template <class MakeAct>
void groupBench(benchmark::State& state, MakeAct&& makeAct) {
    Network n = grouped(static_cast<int>(state.range(0)));
    auto scene = scene::Scene::build(n, n.sheetsInOrder().front().id);
    Percentiles times;
    std::size_t i = 0;
    for (auto _ : state)
        times.time(state, [&] {
            const auto act =
                makeAct(n, edit::Look{scene.sheet(), {}, scene.standing(), scene.sharedFolding()},
                        static_cast<std::size_t>(i++));
            benchmark::DoNotOptimize(edit::differencePayload(act->name, n, act->network));
            scene = scene::update(scene, n, act->network).scene;
            n = act->network;
        });
    times.report(state);
    state.counters["groups"] = static_cast<double>(n.all<Group>().size());
}

/// One of the innermost groups folded, then unfolded, all over the sheet.
void groupFold(benchmark::State& state) {
    const auto groups = groupsOf(grouped(static_cast<int>(state.range(0))), GroupKind{});
    groupBench(state, [&](const Network& n, const edit::Look& look, std::size_t i) {
        return edit::setFolded(n, look.sheet, {groups[(i / 2) * 37 % groups.size()]}, i % 2 == 0);
    });
}

void groupMove(benchmark::State& state) {
    const auto ids = someDevices(grouped(static_cast<int>(state.range(0))));
    groupBench(state, [&](const Network& n, const edit::Look& look, std::size_t i) {
        return edit::moveObjects(n, look, {refTo(ids[i % ids.size()])}, {i % 2 ? 8 : -8, 0});
    });
}

/// A group of some thousands of devices dropped a little further on.
void groupDrop(benchmark::State& state) {
    const auto groups = groupsOf(grouped(static_cast<int>(state.range(0))), GroupKind::row);
    groupBench(state, [&](const Network& n, const edit::Look& look, std::size_t i) {
        return edit::moveObjects(n, look, {refTo(groups[i / 2 % groups.size()])}, {i % 2 ? 8 : -8, 0});
    });
}

void groupEnter(benchmark::State& state) {
    const Network& n = grouped(static_cast<int>(state.range(0)));
    const auto groups = groupsOf(n, GroupKind::floor);
    Percentiles times;
    std::size_t i = 0;
    for (auto _ : state)
        times.time(state, [&] {
            benchmark::DoNotOptimize(scene::Scene::build(n, n.sheetsInOrder().front().id, LengthUnit::metres,
                                                         groups[i++ % groups.size()]));
        });
    times.report(state);
}

/// What the details count with nothing selected, after every change.
void sheetCounts(benchmark::State& state) {
    const Network& n = grouped(static_cast<int>(state.range(0)));
    const auto scene = scene::Scene::build(n, n.sheetsInOrder().front().id);
    for (auto _ : state)
        benchmark::DoNotOptimize(scene::countsOf(n, scene));
}

/// Zooming from step to step, further out and back: more steps than are kept.
void groupClose(benchmark::State& state) {
    const Network& n = grouped(static_cast<int>(state.range(0)));
    const auto scene = scene::Scene::build(n, n.sheetsInOrder().front().id);
    Percentiles times;
    std::size_t i = 0;
    for (auto _ : state)
        times.time(state, [&] {
            benchmark::DoNotOptimize(scene.seenAt(0.19 / std::exp2(static_cast<double>(i++ % 8))));
        });
    times.report(state);
}

void groupBuild(benchmark::State& state) {
    const Network& n = grouped(static_cast<int>(state.range(0)));
    Percentiles times;
    for (auto _ : state)
        times.time(state,
                   [&] { benchmark::DoNotOptimize(scene::Scene::build(n, n.sheetsInOrder().front().id)); });
    times.report(state);
}

/// Words as they are typed, letter by letter.
void findWords(benchmark::State& state) {
    const Network& n = grouped(static_cast<int>(state.range(0)));
    const find::TextIndex index(n);
    const std::string words[] = {"a", "ac", "acc-1", "sw 12", "10.84", "zzz", "00:1b:2c"};
    Percentiles times;
    std::size_t i = 0;
    for (auto _ : state)
        times.time(state, [&] { benchmark::DoNotOptimize(index.search(words[i++ % std::size(words)])); });
    times.report(state);
}

/// The first key after an edit of a name.
void findIndex(benchmark::State& state) {
    const Network& n = grouped(static_cast<int>(state.range(0)));
    Percentiles times;
    for (auto _ : state)
        times.time(state, [&] { benchmark::DoNotOptimize(find::TextIndex(n)); });
    times.report(state);
}

/// Filters as they are typed over the whole network.
void findFilter(benchmark::State& state) {
    const Network& n = grouped(static_cast<int>(state.range(0)));
    const char* filters[] = {"role:switch",          "name:acc",   "in:f-1 role:phone", "vlan:20",
                             "links>4 -role:router", "is:unlinked"};
    Percentiles times;
    std::size_t i = 0;
    for (auto _ : state) {
        const auto filter = find::Filter::parse(filters[i++ % std::size(filters)]);
        times.time(state, [&] { benchmark::DoNotOptimize(find::Matcher(n, *filter).devices()); });
    }
    times.report(state);
}

/// The same with what asks for ports.
void findPorts(benchmark::State& state) {
    const Network& n = grouped(static_cast<int>(state.range(0)));
    const auto filter = find::Filter::parse("free-ports>4");
    Percentiles times;
    for (auto _ : state)
        times.time(state, [&] { benchmark::DoNotOptimize(find::Matcher(n, *filter).devices()); });
    times.report(state);
}

void openOwn(benchmark::State& state) {
    const std::string bytes = exchange::writeOwn(network(static_cast<int>(state.range(0))));
    // The reference: what the JSON library alone needs to parse the same bytes.
    double reference = 1e9;
    for (int i = 0; i < 3; ++i) {
        const auto start = std::chrono::steady_clock::now();
        std::string_view rest = bytes;
        while (!rest.empty()) {
            const auto end = rest.find('\n');
            benchmark::DoNotOptimize(nlohmann::json::parse(rest.substr(0, end)));
            rest.remove_prefix(end + 1);
        }
        reference = std::min(reference,
                             std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count());
    }
    Percentiles times;
    for (auto _ : state) {
        std::optional<Result<exchange::Loaded>> read; // nobody waits until it is freed again
        times.time(state, [&] { read.emplace(exchange::readOwn(bytes, "bench")); });
    }
    times.report(state);
    state.counters["ratio_parse"] = times.at(0.5) / 1000 / reference;
    state.counters["MB"] = static_cast<double>(bytes.size()) / 1e6;
}

/// What the window waits for when it saves (beginSave), and what the worker does (write).
void saveOwn(benchmark::State& state) {
    const Network& n = network(static_cast<int>(state.range(0)));
    MemoryFiles files;
    auto document = edit::Document::fresh({files, "/j", [] { return std::int64_t{0}; }}, n);
    Percentiles worker;
    for (auto _ : state) {
        edit::Document::Saving saving;
        std::uint64_t hash = 0;
        const auto start = std::chrono::steady_clock::now();
        saving = document.beginSave("/bench.underridge");
        const auto held = std::chrono::steady_clock::now() - start;
        worker.time(state, [&] { hash = *edit::Document::write(files, saving); });
        const auto again = std::chrono::steady_clock::now();
        document.endSave(saving, hash);
        const std::chrono::duration<double, std::milli> both =
            held + (std::chrono::steady_clock::now() - again);
        state.counters["blocked_ms"] = both.count();
    }
    worker.report(state);
}

void sceneBuild(benchmark::State& state) {
    const Network& n = network(static_cast<int>(state.range(0)));
    const SheetId sheet = n.sheetsInOrder().front().id;
    for (auto _ : state)
        benchmark::DoNotOptimize(scene::Scene::build(n, sheet));
}

/// The findings after one cable's length changed.
/// The same with links along the axes.
const Network& alongAxes(int devices) {
    static std::map<int, Network> made;
    auto at = made.find(devices);
    if (at == made.end()) {
        const Network& n = network(devices);
        at = made.emplace(devices,
                          edit::setLineStyle(n, n.sheetsInOrder().front().id, LineStyle::axes)->network)
                 .first;
    }
    return at->second;
}

void axesBuild(benchmark::State& state) {
    const Network& n = alongAxes(static_cast<int>(state.range(0)));
    for (auto _ : state)
        benchmark::DoNotOptimize(scene::Scene::build(n, n.sheetsInOrder().front().id).bounds());
}

/// One device moved: its links are led anew, and those it now stands in the way of, or no longer.
void axesMove(benchmark::State& state) {
    const Network& n = alongAxes(static_cast<int>(state.range(0)));
    const SheetId sheet = n.sheetsInOrder().front().id;
    const scene::Scene before = scene::Scene::build(n, sheet);
    const auto ids = someDevices(n);
    Percentiles times;
    std::size_t i = 0;
    for (auto _ : state) {
        const auto act = edit::moveObjects(n, sheet, {refTo(ids[i++ % ids.size()])}, {90, 60});
        times.time(state,
                   [&] { benchmark::DoNotOptimize(scene::update(before, n, act->network).damage.size()); });
    }
    times.report(state);
}

void checkEdit(benchmark::State& state) {
    Network n = network(static_cast<int>(state.range(0)));
    const Catalogue catalogue = exchange::builtInCatalogue();
    linking::RunningCheck running;
    running.update(n, catalogue);
    std::vector<CableId> cables;
    n.all<Cable>().forEach([&](const Cable& cable) { cables.push_back(cable.id); });
    std::shuffle(cables.begin(), cables.end(), std::mt19937(3));
    Percentiles percentiles;
    std::size_t i = 0;
    for (auto _ : state) {
        Cable cable = *n.cable(cables[i % cables.size()]);
        cable.lengthMm = 120'000 + static_cast<int>(i % 9);
        n.put(std::move(cable));
        percentiles.time(state, [&] {
            running.update(n, catalogue);
            benchmark::DoNotOptimize(running.findings());
        });
        ++i;
    }
    percentiles.report(state);
}

/// Endpoints to switches, as a preview does it.
void assignMany(benchmark::State& state) {
    IdSource ids(1);
    Network n = emptyNetwork("Assign", ids);
    const SheetId sheet = n.sheetsInOrder().front().id;
    const Catalogue catalogue = exchange::builtInCatalogue();
    const auto place = [&](const char* model, int count, int spread) {
        std::vector<edit::Placed> placed;
        std::mt19937 random(7);
        for (int i = 0; i < count; ++i)
            placed.push_back({std::string(model) + std::to_string(i),
                              {static_cast<int>(random() % spread), static_cast<int>(random() % spread)}});
        const auto act = edit::placeDevices(n, sheet, *catalogue.device(model), placed, {}, ids);
        n = act->network;
        std::vector<DeviceId> made;
        for (const ObjectRef ref : act->subjects)
            made.push_back({ref.id});
        return made;
    };
    const auto endpoints = static_cast<int>(state.range(0));
    auto devices = place("camera", endpoints / 2, 9000);
    for (const DeviceId id : place("workstation", endpoints - endpoints / 2, 9000))
        devices.push_back(id);
    const auto targets = place("access-switch-48", static_cast<int>(state.range(1)), 9000);
    int linked = 0;
    for (auto _ : state)
        linked = linking::assign(n, catalogue, devices, targets, sheet).linked();
    state.counters["linked"] = linked;
}

void checkAll(benchmark::State& state) {
    const Network& n = network(static_cast<int>(state.range(0)));
    const Catalogue catalogue = exchange::builtInCatalogue();
    for (auto _ : state)
        benchmark::DoNotOptimize(linking::check(n, catalogue));
}

void registerFilter(benchmark::State& state) {
    const Network& n = network(static_cast<int>(state.range(0)));
    for (auto _ : state) {
        std::size_t found = 0;
        for (const edit::Row& row : edit::rowsOf(n, edit::Register::devices))
            found += edit::cellText(n, edit::Register::devices, row, 0, LengthUnit::metres).ends_with("7");
        benchmark::DoNotOptimize(found);
    }
}

/// Every port of every device: 29 a switch.
void registerPorts(benchmark::State& state) {
    const Network& n = network(static_cast<int>(state.range(0)));
    std::size_t rows = 0;
    for (auto _ : state)
        rows = edit::rowsOf(n, edit::Register::ports).size();
    state.counters["rows"] = static_cast<double>(rows);
}

void sceneHit(benchmark::State& state) {
    const Network& n = network(static_cast<int>(state.range(0)));
    const auto scene = scene::Scene::build(n, n.sheetsInOrder().front().id);
    const auto bounds = scene.bounds();
    std::mt19937 random(1);
    for (auto _ : state)
        benchmark::DoNotOptimize(scene::hitAt(scene,
                                              {bounds.x + random() % static_cast<unsigned>(bounds.w),
                                               bounds.y + random() % static_cast<unsigned>(bounds.h)},
                                              6));
}

/// Labels of a view of 1280 by 800 at the smallest zoom that shows them, here and there.
void labelsPlace(benchmark::State& state) {
    const Network& n = network(static_cast<int>(state.range(0)));
    const auto scene = scene::Scene::build(n, n.sheetsInOrder().front().id);
    const auto bounds = scene.bounds();
    double zoom = 1;
    while (scene::detailFor(zoom / 1.05) == scene::Detail::near)
        zoom /= 1.05;
    std::mt19937 random(1);
    Percentiles percentiles;
    std::size_t labels = 0;
    for (auto _ : state) {
        const scene::Rect view{bounds.x + random() % static_cast<unsigned>(bounds.w),
                               bounds.y + random() % static_cast<unsigned>(bounds.h), 1280 / zoom,
                               800 / zoom};
        percentiles.time(state, [&] { labels = std::max(labels, scene.labelsIn(view).size()); });
    }
    percentiles.report(state);
    state.counters["labels"] = static_cast<double>(labels);
}

void memoryOpen(benchmark::State& state) {
    for (auto _ : state) {
        const double before = residentMb();
        const Network n = tests::largeNetwork(static_cast<int>(state.range(0)));
        const auto scene = scene::Scene::build(n, n.sheetsInOrder().front().id);
        benchmark::DoNotOptimize(scene);
        state.counters["MB"] = residentMb() - before;
    }
}

} // namespace

// Memory first, while the process is small.
BENCHMARK(memoryOpen)->Name("memory/open")->Arg(50000)->Iterations(1)->Unit(benchmark::kMillisecond);
BENCHMARK(tableCopy)->Name("table/copy")->Arg(1000)->Arg(10000)->Arg(50000);
BENCHMARK(tableEdit)->Name("table/edit")->Arg(1000)->Arg(10000)->Arg(50000);
BENCHMARK(tableLeaf<16>)->Name("table/edit-leaf-16/10000");
BENCHMARK(tableLeaf<32>)->Name("table/edit-leaf-32/10000");
BENCHMARK(tableLeaf<64>)->Name("table/edit-leaf-64/10000");
BENCHMARK(tableLookUp)->Name("table/look-up")->Arg(1000)->Arg(10000)->Arg(50000);
BENCHMARK(tableCompare)->Name("table/compare")->Arg(1000)->Arg(10000)->Arg(50000);
BENCHMARK(editMove)
    ->Name("edit/move")
    ->Arg(1000)
    ->Arg(10000)
    ->Arg(50000)
    ->UseManualTime()
    ->Unit(benchmark::kMillisecond);
BENCHMARK(editRename)
    ->Name("edit/rename")
    ->Arg(1000)
    ->Arg(10000)
    ->Arg(50000)
    ->UseManualTime()
    ->Unit(benchmark::kMillisecond);
BENCHMARK(editLink)
    ->Name("edit/link")
    ->Arg(1000)
    ->Arg(10000)
    ->Arg(50000)
    ->UseManualTime()
    ->Unit(benchmark::kMillisecond);
BENCHMARK(editUndo)
    ->Name("edit/undo")
    ->Arg(1000)
    ->Arg(10000)
    ->Arg(50000)
    ->UseManualTime()
    ->Unit(benchmark::kMillisecond);
BENCHMARK(groupFold)
    ->Name("group/fold")
    ->Arg(1000)
    ->Arg(10000)
    ->Arg(50000)
    ->UseManualTime()
    ->Unit(benchmark::kMillisecond);
BENCHMARK(groupMove)
    ->Name("group/move")
    ->Arg(1000)
    ->Arg(10000)
    ->Arg(50000)
    ->UseManualTime()
    ->Unit(benchmark::kMillisecond);
BENCHMARK(groupDrop)
    ->Name("group/drop")
    ->Arg(1000)
    ->Arg(10000)
    ->Arg(50000)
    ->UseManualTime()
    ->Unit(benchmark::kMillisecond);
BENCHMARK(groupEnter)
    ->Name("group/enter")
    ->Arg(1000)
    ->Arg(10000)
    ->Arg(50000)
    ->UseManualTime()
    ->Unit(benchmark::kMillisecond);
BENCHMARK(sheetCounts)
    ->Name("sheet/counts")
    ->Arg(1000)
    ->Arg(10000)
    ->Arg(50000)
    ->Unit(benchmark::kMillisecond);
BENCHMARK(groupClose)
    ->Name("group/close")
    ->Arg(1000)
    ->Arg(10000)
    ->Arg(50000)
    ->UseManualTime()
    ->Unit(benchmark::kMillisecond);
BENCHMARK(groupBuild)
    ->Name("group/build")
    ->Arg(1000)
    ->Arg(10000)
    ->Arg(50000)
    ->UseManualTime()
    ->Unit(benchmark::kMillisecond);
BENCHMARK(findWords)
    ->Name("find/words")
    ->Arg(1000)
    ->Arg(10000)
    ->Arg(50000)
    ->UseManualTime()
    ->Unit(benchmark::kMillisecond);
BENCHMARK(findIndex)
    ->Name("find/index")
    ->Arg(1000)
    ->Arg(10000)
    ->Arg(50000)
    ->UseManualTime()
    ->Unit(benchmark::kMillisecond);
BENCHMARK(findFilter)
    ->Name("find/filter")
    ->Arg(1000)
    ->Arg(10000)
    ->Arg(50000)
    ->UseManualTime()
    ->Unit(benchmark::kMillisecond);
BENCHMARK(findPorts)
    ->Name("find/ports")
    ->Arg(1000)
    ->Arg(10000)
    ->Arg(50000)
    ->UseManualTime()
    ->Unit(benchmark::kMillisecond);
BENCHMARK(openOwn)
    ->Name("open/own")
    ->Arg(1000)
    ->Arg(10000)
    ->Arg(50000)
    ->UseManualTime()
    ->Unit(benchmark::kMillisecond);
BENCHMARK(saveOwn)
    ->Name("save/own")
    ->Arg(1000)
    ->Arg(10000)
    ->Arg(50000)
    ->UseManualTime()
    ->Unit(benchmark::kMillisecond);
BENCHMARK(sceneBuild)->Name("scene/build")->Arg(1000)->Arg(10000)->Arg(50000)->Unit(benchmark::kMillisecond);
BENCHMARK(axesBuild)->Name("axes/build")->Arg(1000)->Arg(10000)->Arg(50000)->Unit(benchmark::kMillisecond);
BENCHMARK(axesMove)
    ->Name("axes/move")
    ->Arg(1000)
    ->Arg(10000)
    ->Arg(50000)
    ->UseManualTime()
    ->Unit(benchmark::kMillisecond);
BENCHMARK(sceneHit)->Name("scene/hit")->Arg(1000)->Arg(10000)->Arg(50000);
BENCHMARK(labelsPlace)
    ->Name("labels/place")
    ->UseManualTime()
    ->Arg(1000)
    ->Arg(10000)
    ->Arg(50000)
    ->Unit(benchmark::kMillisecond);
BENCHMARK(checkEdit)
    ->Name("check/edit")
    ->UseManualTime()
    ->Arg(1000)
    ->Arg(10000)
    ->Arg(50000)
    ->Unit(benchmark::kMillisecond);
BENCHMARK(assignMany)
    ->Name("assign/many")
    ->Args({30, 2})
    ->Args({500, 12})
    ->Args({2000, 48})
    ->Unit(benchmark::kMillisecond);
BENCHMARK(checkAll)->Name("check/all")->Arg(1000)->Arg(10000)->Arg(50000)->Unit(benchmark::kMillisecond);
BENCHMARK(registerPorts)
    ->Name("register/ports")
    ->Arg(1000)
    ->Arg(10000)
    ->Arg(50000)
    ->Unit(benchmark::kMillisecond);
BENCHMARK(registerFilter)
    ->Name("register/rows")
    ->Arg(1000)
    ->Arg(10000)
    ->Arg(50000)
    ->Unit(benchmark::kMillisecond);
BENCHMARK_MAIN();
