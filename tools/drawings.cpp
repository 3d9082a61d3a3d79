// SPDX-License-Identifier: GPL-3.0-or-later
// drawings [FOLDER]: arranges the kept set of graphs as suggested, prints the table of
// docs/drawings.md, and writes a picture of each to the folder.
#include "core/layout/detours.h"
#include "core/layout/styles.h"
#include "tests/support/graphs.h"

#include <chrono>
#include <cstdio>
#include <filesystem>
#include <fstream>

using namespace underridge;
using namespace underridge::layout;

namespace {

void writePicture(const Graph& graph, const Drawing& drawing, const std::filesystem::path& file) {
    constexpr double margin = 30;
    const Rect all = boundsOf(graph, drawing).grown(margin);
    std::ofstream out(file);
    const double stroke = std::max(1.0, all.w / 2000);
    out << fmt::format("<svg xmlns='http://www.w3.org/2000/svg' viewBox='{} {} {} {}' width='1280'>\n"
                       "<rect x='{}' y='{}' width='{}' height='{}' fill='#F6F3EC'/>\n",
                       all.x, all.y, all.w, all.h, all.x, all.y, all.w, all.h);
    for (Index i = 0; i < graph.edges.size(); ++i) {
        out << fmt::format("<polyline fill='none' stroke='#5F6570' stroke-width='{}' points='", stroke);
        for (const PointF p : pathOf(graph, drawing, i))
            out << fmt::format("{},{} ", p.x, p.y);
        out << "'/>\n";
    }
    for (Index i = 0; i < graph.nodes.size(); ++i) {
        const Rect r = plateOf(graph, drawing, i);
        out << fmt::format(
            "<rect x='{}' y='{}' width='{}' height='{}' fill='#fff' stroke='#1F8A70' stroke-width='{}'/>"
            "<text x='{}' y='{}' font-size='20'>{}</text>\n",
            r.x, r.y, r.w, r.h, stroke, r.x + 8, r.y + 28, i);
    }
    out << "</svg>\n";
}

} // namespace

int main(int argc, char** argv) {
    std::printf("| graph | devices | links | crossings | through | aspect | ms |\n"
                "| --- | ---: | ---: | ---: | ---: | ---: | ---: |\n");
    for (const tests::KeptGraph& kept : tests::keptGraphs()) {
        const Graph& graph = kept.graph;
        double fastest = 1e9;
        Drawing drawing;
        for (int i = 0; i < 3; ++i) {
            const auto start = std::chrono::steady_clock::now();
            drawing = arranged(graph, {}).drawing;
            fastest = std::min(
                fastest,
                std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - start).count());
        }
        goRound(graph, drawing);
        const Measures m = measured(graph, drawing);
        std::printf("| %s | %zu | %zu | %zu | %zu | %.2f | %.2f |\n", kept.name.c_str(), graph.nodes.size(),
                    graph.edges.size(), m.crossings, m.linksThroughDevices, m.aspect, fastest);
        if (argc > 1) {
            std::filesystem::create_directories(argv[1]);
            std::string name = kept.name;
            std::replace_if(
                name.begin(), name.end(), [](char c) { return c == ' ' || c == ','; }, '-');
            writePicture(graph, drawing, std::filesystem::path(argv[1]) / (name + ".svg"));
        }
    }
    return 0;
}
