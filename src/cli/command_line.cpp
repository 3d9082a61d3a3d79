// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/command_line.h"

#include "cli/arranging.h"
#include "cli/checking.h"
#include "cli/forwarding.h"
#include "cli/rendering.h"
#include "core/analysis/check.h"
#include "core/analysis/report.h"
#include "core/analysis/topologies.h"
#include "core/base/files.h"
#include "core/edit/cables.h"
#include "core/edit/placed_reading.h"
#include "core/edit/registers.h"
#include "core/edit/results.h"
#include "core/edit/script/script.h"
#include "core/exchange/catalogue_file.h"
#include "core/exchange/foreign.h"
#include "paint/door_sheets.h"
#include "paint/findings_report.h"
#include "paint/label_sheet.h"

#include <CLI/CLI.hpp>
#include <chrono>
#include <filesystem>
#include <fmt/chrono.h>
#include <fmt/format.h>
#include <iterator>

namespace underridge::cli {
using namespace model;
using exchange::Loaded;
namespace {

const std::vector<std::string> subcommands{
    "list",          "convert", "apply",       "render",  "check",       "chain", "merge-cables",
    "merge-results", "labels",  "door-sheets", "arrange", "add-pattern", "trace"};

struct Common {
    bool json = false;
    bool quiet = false;
};

class Runner {
public:
    Runner(std::istream& in, std::ostream& out, std::ostream& err) : in_(in), out_(out), err_(err) {}

    Common common;
    std::string from; ///< input format; empty: by content

    Result<std::string> bytesOf(const std::string& path) {
        if (path == "-")
            return std::string(std::istreambuf_iterator<char>(in_), {});
        return files_.read(path);
    }

    Result<Loaded> load(const std::string& path) {
        const auto bytes = bytesOf(path);
        if (!bytes)
            return bytes.refusal();
        return edit::readPlaced(*bytes, {path, catalogue_}, exchange::formatFromText(from));
    }

    int refuse(const Remark& why, int code) {
        err_ << "underridge: " << why.text() << '\n';
        return code;
    }

    void tellRemarks(const std::vector<Remark>& remarks) {
        if (!common.quiet)
            for (const Remark& remark : remarks)
                err_ << "underridge: " << remark.text() << '\n';
    }

    int list(const std::string& file, const Listed& wanted) {
        const auto loaded = load(file);
        if (!loaded)
            return refuse(loaded.refusal(), cannotRead);
        tellRemarks(loaded->remarks);
        const auto listed = listing(loaded->network, edit::withStock(catalogue_, loaded->network), wanted);
        if (!listed)
            return refuse(listed.refusal(), wrongUsage);
        out_ << (common.json ? listed->dump(2) + "\n" : asText(*listed));
        return done;
    }

    int check(const std::string& file, const std::string& rule, const std::string& output,
              const std::function<void()>& prepareDrawing) {
        const auto loaded = load(file);
        if (!loaded)
            return refuse(loaded.refusal(), cannotRead);
        tellRemarks(loaded->remarks);
        if (!rule.empty() && !analysis::ruleOf(rule))
            return refuse(
                error(fmt::format("{} is no rule", rule), "see docs/linking.md and docs/forwarding.md"),
                wrongUsage);
        auto found = analysis::check(loaded->network, edit::withStock(catalogue_, loaded->network));
        if (!rule.empty())
            std::erase_if(found, [&](const auto& finding) { return finding.rule->code != rule; });
        const auto findings = analysis::sift(loaded->network, std::move(found), today());
        if (!output.empty()) {
            if (const int failed = writeFindings(loaded->network, findings, output, prepareDrawing);
                failed != done)
                return failed;
        } else {
            out_ << (common.json ? analysis::findingsJson(loaded->network, findings).dump(2) + "\n"
                                 : findingsText(findings));
        }
        return findings.open.empty() ? done : doneWithFindings;
    }

    int writeFindings(const Network& network, const analysis::Sifted& findings, const std::string& output,
                      const std::function<void()>& prepareDrawing) {
        std::string bytes;
        if (output.ends_with(".csv")) {
            bytes = analysis::findingsCsv(network, findings);
        } else if (output.ends_with(".json")) {
            bytes = analysis::findingsJson(network, findings).dump(2) + "\n";
        } else if (output.ends_with(".pdf")) {
            prepareDrawing();
            bytes = paint::findingsPdf(network, findings, today()).toStdString();
        } else {
            return refuse(error("the suffix is not .csv, .json or .pdf", "choose one of these", {output}),
                          wrongUsage);
        }
        const auto kept = files_.writeAtomically(output, bytes);
        return kept ? done : refuse(kept.refusal(), cannotWrite);
    }

    int chain(const std::string& file, const std::string& at) {
        const auto loaded = load(file);
        if (!loaded)
            return refuse(loaded.refusal(), cannotRead);
        tellRemarks(loaded->remarks);
        const auto port = portFrom(loaded->network, at);
        if (!port)
            return refuse(port.refusal(), wrongUsage);
        const auto found = linking::chainThrough(loaded->network, *port);
        out_ << (common.json ? chainJson(loaded->network, found).dump(2) + "\n"
                             : chainText(loaded->network, found));
        return found.whole() ? done : doneWithFindings;
    }

    int trace(const Tracing& wanted) {
        const auto loaded = load(wanted.file);
        if (!loaded)
            return refuse(loaded.refusal(), cannotRead);
        tellRemarks(loaded->remarks);
        const auto found = traced(loaded->network, wanted);
        if (!found)
            return refuse(found.refusal(), wrongUsage);
        out_ << (common.json ? found->dump(2) + "\n" : tracedText(*found));
        return isReached(*found) ? done : doneWithFindings;
    }

    int mergeCables(const std::string& file, const std::string& csv, const std::string& output) {
        return merge(file, csv, output, [&](const Network& network, const std::string& bytes) {
            IdSource ids(fnv1a(bytes)); // the same files give the same network
            return edit::mergeSchedule(network, edit::withStock(catalogue_, network), bytes, csv, ids);
        });
    }

    int mergeResults(const std::string& file, const std::string& csv, const std::string& output) {
        return merge(file, csv, output, [&](const Network& network, const std::string& bytes) {
            return edit::mergeResults(network, bytes, csv);
        });
    }

    int apply(const std::string& file, const std::string& acts, const std::string& output) {
        const auto loaded = load(file);
        if (!loaded)
            return refuse(loaded.refusal(), cannotRead);
        const auto text = bytesOf(acts);
        if (!text)
            return refuse(text.refusal(), cannotRead);
        tellRemarks(loaded->remarks);
        const std::string before = exchange::writeOwn(loaded->network);
        IdSource ids(fnv1a(before + *text)); // the same files give the same network
        const auto script =
            edit::applyActs(loaded->network, edit::withStock(catalogue_, loaded->network), *text,
                            acts == "-" ? "standard input" : acts, ids,
                            [&](const std::string& named) { // beside the acts
                                const auto folder = std::filesystem::path(acts).parent_path();
                                return files_.read(acts == "-" ? named : (folder / named).string());
                            });
        if (!script)
            return refuse(script.refusal(), cannotRead);
        const auto format = output == "-" ? exchange::Format::own : exchange::formatFromSuffix(output);
        const auto written = analysis::written(script->network, format.value_or(exchange::Format::own),
                                               exchange::Tables::both);
        if (output == "-")
            out_ << written.bytes;
        else if (auto kept = files_.writeAtomically(output, written.bytes); !kept)
            return refuse(kept.refusal(), cannotWrite);
        if (output != "-")
            out_ << (common.json ? appliedJson(*script).dump(2) + "\n" : appliedText(*script));
        return done;
    }

    int writePdf(const std::string& output, const QByteArray& pdf) {
        if (auto kept =
                files_.writeAtomically(output, {pdf.constData(), static_cast<std::size_t>(pdf.size())});
            !kept)
            return refuse(kept.refusal(), cannotWrite);
        return done;
    }

    int labels(const std::string& file, const std::string& output,
               const std::function<void()>& prepareDrawing) {
        const auto loaded = load(file);
        if (!loaded)
            return refuse(loaded.refusal(), cannotRead);
        tellRemarks(loaded->remarks);
        std::vector<CableId> cables;
        for (const edit::Row& row : edit::rowsOf(loaded->network, edit::Register::cables))
            cables.push_back({row.object.id});
        prepareDrawing();
        const auto pdf = paint::labelSheet(loaded->network, cables);
        if (!pdf)
            return refuse(pdf.refusal(), cannotRead);
        return writePdf(output, *pdf);
    }

    int doorSheets(const std::string& file, const std::string& output,
                   const std::function<void()>& prepareDrawing) {
        const auto loaded = load(file);
        if (!loaded)
            return refuse(loaded.refusal(), cannotRead);
        tellRemarks(loaded->remarks);
        const auto sheets = edit::doorSheets(loaded->network, edit::racksAndPanels(loaded->network));
        if (!sheets)
            return refuse(sheets.refusal(), cannotRead);
        prepareDrawing();
        const QByteArray pdf = paint::doorSheetsPdf(loaded->network, *sheets, loaded->network.info().name);
        return writePdf(output, pdf);
    }

    /// A table taken into a network: `how` matches it.
    int merge(const std::string& file, const std::string& csv, const std::string& output,
              const std::function<Result<edit::Schedule>(const Network&, const std::string&)>& how) {
        const auto loaded = load(file);
        if (!loaded)
            return refuse(loaded.refusal(), cannotRead);
        const auto bytes = bytesOf(csv);
        if (!bytes)
            return refuse(bytes.refusal(), cannotRead);
        const auto schedule = how(loaded->network, *bytes);
        if (!schedule)
            return refuse(schedule.refusal(), cannotRead);
        tellRemarks(loaded->remarks);
        tellRemarks(schedule->remarks);
        const std::string merged = exchange::writeOwn(schedule->network);
        if (output == "-")
            out_ << merged;
        else if (auto kept = files_.writeAtomically(output, merged); !kept)
            return refuse(kept.refusal(), cannotWrite);
        if (output != "-")
            out_ << (common.json ? scheduleJson(*schedule).dump(2) + "\n" : scheduleText(*schedule));
        return schedule->count(edit::Match::wrong) == 0 ? done : doneWithFindings;
    }

    int arrange(const Arranging& wanted) {
        return laidOut(wanted.file, wanted.output,
                       [&](const Network& network) { return arrangedAs(network, wanted); });
    }
    int addPattern(const AddingPattern& wanted) {
        return laidOut(wanted.file, wanted.output, [&](const Network& network) {
            return withPattern(network, edit::withStock(catalogue_, network), wanted);
        });
    }

    /// A network with something laid out on a sheet, written and told.
    int laidOut(const std::string& file, const std::string& output,
                const std::function<Result<ArrangedFile>(const Network&)>& how) {
        const auto loaded = load(file);
        if (!loaded)
            return refuse(loaded.refusal(), cannotRead);
        tellRemarks(loaded->remarks);
        const auto made = how(loaded->network);
        if (!made)
            return refuse(made.refusal(), wrongUsage);
        if (!output.empty()) {
            const auto format = output == "-" ? std::nullopt : exchange::formatFromSuffix(output);
            const auto written = analysis::written(made->network, format.value_or(exchange::Format::own));
            if (output == "-")
                out_ << written.bytes;
            else if (auto kept = files_.writeAtomically(output, written.bytes); !kept)
                return refuse(kept.refusal(), cannotWrite);
        }
        if (output != "-")
            out_ << (common.json ? made->report.dump(2) + "\n" : arrangedText(made->report));
        return done;
    }

    struct Convert {
        std::string in, out, to, table = "both";
    };

    int convert(const Convert& wanted) {
        const auto format = !wanted.to.empty()  ? exchange::formatFromText(wanted.to)
                            : wanted.out == "-" ? exchange::Format::own
                                                : exchange::formatFromSuffix(wanted.out);
        if (!format)
            return refuse(error("the suffix tells no format", "state it by --to", {wanted.out}), wrongUsage);
        auto loaded = load(wanted.in);
        if (!loaded)
            return refuse(loaded.refusal(), cannotRead);
        const auto tables = wanted.table == "devices" ? exchange::Tables::devices
                            : wanted.table == "links" ? exchange::Tables::links
                                                      : exchange::Tables::both;
        auto written = analysis::written(loaded->network, *format, tables);
        if (wanted.out == "-")
            out_ << written.bytes;
        else if (auto kept = files_.writeAtomically(wanted.out, written.bytes); !kept)
            return refuse(kept.refusal(), cannotWrite);
        std::vector<Remark> remarks = std::move(loaded->remarks);
        for (Remark& remark : written.remarks) {
            remark.where.file = wanted.out == "-" ? "standard output" : wanted.out;
            remarks.push_back(std::move(remark));
        }
        if (common.json && wanted.out != "-")
            out_ << Json{{"remarks", remarksJson(remarks)}}.dump(2) << '\n';
        else
            tellRemarks(remarks);
        return done;
    }

    int render(const Rendering& wanted, const std::function<void()>& prepareDrawing) {
        const auto start = std::chrono::steady_clock::now();
        const auto loaded = load(wanted.file);
        if (!loaded)
            return refuse(loaded.refusal(), cannotRead);
        tellRemarks(loaded->remarks);
        auto drawn = rendered(loaded->network, catalogue_, wanted, prepareDrawing);
        if (!drawn)
            return refuse(drawn.refusal(), wrongUsage);
        if (auto kept = files_.writeAtomically(wanted.output, drawn->bytes); !kept)
            return refuse(kept.refusal(), cannotWrite);
        if (wanted.paper.empty())
            drawn->report["elapsedMs"] =
                std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - start).count();
        if (common.json)
            out_ << drawn->report.dump(2) << '\n';
        return done;
    }

private:
    std::istream& in_;
    std::ostream& out_;
    std::ostream& err_;
    DiskFiles files_;
    const Catalogue catalogue_ = exchange::builtInCatalogue();
};

} // namespace

bool isSubcommand(const std::vector<std::string>& arguments) {
    return std::any_of(arguments.begin(), arguments.end(), [](const std::string& argument) {
        return argument == "--help" || argument == "-h" || argument == "--version" ||
               std::find(subcommands.begin(), subcommands.end(), argument) != subcommands.end();
    });
}

Outcome run(const std::vector<std::string>& arguments, std::istream& in, std::ostream& out, std::ostream& err,
            const std::function<void()>& prepareDrawing) {
    CLI::App app("Underridge: network topology diagrams that know what they draw", "underridge");
    Runner runner(in, out, err);
    Outcome outcome;
    OpenWindow window;
    app.set_version_flag("--version", std::string("underridge " UNDERRIDGE_VERSION));
    app.add_option("FILE", window.file, "network to open in the window");
    app.add_flag("--demo", window.demo, "open the sample Fennick Quay");
    app.require_subcommand(0, 1);

    const auto common = [&](CLI::App* sub) {
        sub->add_flag("--json", runner.common.json, "one JSON document on standard output");
        sub->add_flag("--quiet", runner.common.quiet, "no remarks");
        return sub;
    };
    const std::vector<std::string> formats{"underridge", "rfc8345", "graphml", "csv"};
    std::string file;
    Listed listed;
    const auto fromOption = [&](CLI::App* sub) {
        sub->add_option("--from", runner.from, "input format; else by content")
            ->check(CLI::IsMember(formats));
    };
    auto* list = common(app.add_subcommand("list", "list what is in a network"));
    list->add_option("FILE", file, "network, - for standard input")->required();
    list->add_option("WHAT", listed.what, "what to list")->required()->check(CLI::IsMember(listable()));
    list->add_option("--sheet", listed.sheet, "positions on this sheet");
    list->add_option("--where", listed.where, "only what a filter finds, such as 'role:camera vlan:20'");
    fromOption(list);
    list->callback([&] { outcome.exitCode = runner.list(file, listed); });

    std::string rule, at;
    auto* check = common(app.add_subcommand("check", "tell what is wrong with the links of a network"));
    check->add_option("FILE", file, "network, - for standard input")->required();
    check->add_option("--rule", rule, "this rule alone, by its code");
    fromOption(check);
    std::string report;
    check->add_option("-o,--output", report, "report to write: .csv, .json or .pdf");
    check->callback([&] { outcome.exitCode = runner.check(file, rule, report, prepareDrawing); });

    auto* chain = common(app.add_subcommand("chain", "follow the cables from a port to both ends"));
    chain->add_option("FILE", file, "network, - for standard input")->required();
    chain->add_option("PORT", at, "DEVICE:PORT, the device by name or id")->required();
    fromOption(chain);
    chain->callback([&] { outcome.exitCode = runner.chain(file, at); });

    Tracing tracing;
    auto* trace =
        common(app.add_subcommand("trace", "tell how a packet goes, hop by hop, and where it stops"));
    addOptions(*trace, tracing);
    trace->callback([&] { outcome.exitCode = runner.trace(tracing); });

    std::string csv, output, acts;
    auto* apply = common(app.add_subcommand("apply", "do acts written one JSON object a line"));
    apply->add_option("FILE", file, "network, - for standard input")->required();
    apply->add_option("ACTS", acts, "acts, - for standard input")->required();
    apply->add_option("-o,--output", output, "network to write, - for standard output")->required();
    fromOption(apply);
    apply->callback([&] { outcome.exitCode = runner.apply(file, acts, output); });

    auto* merge = common(app.add_subcommand("merge-cables", "take a cable schedule into a network"));
    merge->add_option("FILE", file, "network")->required();
    merge->add_option("CSV", csv, "schedule, - for standard input")->required();
    merge->add_option("-o,--output", output, "network to write, - for standard output")->required();
    fromOption(merge);
    merge->callback([&] { outcome.exitCode = runner.mergeCables(file, csv, output); });

    auto* results =
        common(app.add_subcommand("merge-results", "take a cable tester's results into a network"));
    results->add_option("FILE", file, "network")->required();
    results->add_option("CSV", csv, "results, - for standard input")->required();
    results->add_option("-o,--output", output, "network to write, - for standard output")->required();
    fromOption(results);
    results->callback([&] { outcome.exitCode = runner.mergeResults(file, csv, output); });

    auto* labels = common(app.add_subcommand("labels", "write a sheet of cable labels as PDF"));
    labels->add_option("FILE", file, "network")->required();
    labels->add_option("-o,--output", output, "PDF to write")->required();
    fromOption(labels);
    labels->callback([&] { outcome.exitCode = runner.labels(file, output, prepareDrawing); });
    auto* doors = common(app.add_subcommand("door-sheets", "write a page for each rack and panel as PDF"));
    doors->add_option("FILE", file, "network")->required();
    doors->add_option("-o,--output", output, "PDF to write")->required();
    fromOption(doors);
    doors->callback([&] { outcome.exitCode = runner.doorSheets(file, output, prepareDrawing); });

    auto* convert = common(app.add_subcommand("convert", "write a network in another format"));
    Runner::Convert conversion;
    convert->add_option("IN", conversion.in, "network, - for standard input")->required();
    convert->add_option("OUT", conversion.out, "file to write, - for standard output")->required();
    fromOption(convert);
    convert->add_option("--to", conversion.to, "output format; else by suffix")
        ->check(CLI::IsMember(formats));
    convert->add_option("--table", conversion.table, "of CSV: devices, links or both")
        ->check(CLI::IsMember({"both", "devices", "links"}));
    convert->callback([&] { outcome.exitCode = runner.convert(conversion); });

    Rendering rendering;
    auto* arrange = common(app.add_subcommand("arrange", "lay out a sheet"));
    Arranging arranging;
    addOptions(*arrange, arranging);
    fromOption(arrange);
    arrange->callback([&] { outcome.exitCode = runner.arrange(arranging); });

    auto* addPattern =
        common(app.add_subcommand("add-pattern", "lay down a shape of devices, linked and named"));
    AddingPattern adding;
    addOptions(*addPattern, adding);
    fromOption(addPattern);
    addPattern->callback([&] { outcome.exitCode = runner.addPattern(adding); });

    auto* render = common(app.add_subcommand("render", "draw a sheet as PNG, SVG or PDF"));
    addOptions(*render, rendering);
    fromOption(render);
    render->callback([&] { outcome.exitCode = runner.render(rendering, prepareDrawing); });

    try {
        std::vector<std::string> reversed(arguments.rbegin(), arguments.rend());
        app.parse(reversed);
    } catch (const CLI::Success& asked) { // help or version
        app.exit(asked, out, err);
        return outcome;
    } catch (const CLI::ParseError& wrong) {
        err << "underridge: " << wrong.what() << "; try underridge --help\n";
        outcome.exitCode = wrongUsage;
        return outcome;
    }
    if (app.get_subcommands().empty())
        outcome.window = window;
    return outcome;
}

} // namespace underridge::cli
