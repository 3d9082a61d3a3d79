// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/results.h"

#include "core/edit/links.h"
#include "core/exchange/workbook.h"

#include <array>
#include <charconv>
#include <fmt/format.h>
#include <map>
#include <optional>
#include <set>

namespace underridge::edit {
using namespace model;
namespace {

enum ResultColumn { cableLabel, what, value, limit, unit, resultColumns };

std::optional<ResultColumn> fieldOf(const std::string& title) {
    static const std::map<std::string, ResultColumn> known{
        {"label", cableLabel},    {"cable", cableLabel}, {"cable label", cableLabel},
        {"cable id", cableLabel}, {"test", what},        {"parameter", what},
        {"what", what},           {"value", value},      {"result", value},
        {"measured", value},      {"limit", limit},      {"unit", unit}};
    const auto at = known.find(lowered(trimmed(title)));
    return at == known.end() ? std::nullopt : std::optional(at->second);
}

/// "12.5" or "12,5".
std::optional<double> numberOf(std::string text) {
    std::replace(text.begin(), text.end(), ',', '.');
    double number = 0;
    const auto [end, code] = std::from_chars(text.data(), text.data() + text.size(), number);
    return code == std::errc() && end == text.data() + text.size() ? std::optional(number) : std::nullopt;
}

class Taking {
public:
    explicit Taking(const Network& network) {
        schedule_.base = schedule_.network = network;
        schedule_.name = "Tester results";
        network.all<Cable>().forEach([&](const Cable& cable) {
            if (!cable.label.empty())
                byLabel_[cable.label].push_back(cable.id);
        });
    }

    Result<Schedule> run(const std::vector<exchange::TextRow>& rows, const std::string& file) {
        const auto header = std::find_if(rows.begin(), rows.end(),
                                         [](const exchange::TextRow& row) { return !row.cells.empty(); });
        if (header == rows.end())
            return error("the file is empty", "choose another", {file, 1, 1});
        for (std::size_t i = 0; i < header->cells.size(); ++i)
            if (const auto field = fieldOf(header->cells[i]); field && !columns_[*field])
                columns_[*field] = i;
        if (!columns_[cableLabel] || !columns_[what] || !columns_[value])
            return error("the first line names no columns \"label\", \"test\" and \"value\"",
                         "name the columns: label, test, value, limit, unit", {file, header->line, 1});
        for (auto row = header + 1; row != rows.end(); ++row)
            if (!row->cells.empty())
                schedule_.rows.push_back(take(*row));
        return std::move(schedule_);
    }

private:
    std::string cell(const exchange::TextRow& row, ResultColumn field) const {
        return columns_[field] && *columns_[field] < row.cells.size() ? trimmed(row.cells[*columns_[field]])
                                                                      : std::string();
    }

    ScheduleRow take(const exchange::TextRow& row) {
        const std::string name = cell(row, cableLabel), test = cell(row, what);
        ScheduleRow out{row.line, Match::wrong, fmt::format("{}: {}", name, test), {}, {}};
        const auto at = byLabel_.find(name);
        const auto number = numberOf(cell(row, value));
        const auto most = cell(row, limit).empty() ? std::optional(0.0) : numberOf(cell(row, limit));
        if (at == byLabel_.end())
            out.why =
                fmt::format("no cable is labelled {}; correct the label, or label the cable first", name);
        else if (at->second.size() > 1)
            out.why = fmt::format("{} cables are labelled {}; give each its own", at->second.size(), name);
        else if (test.empty())
            out.why = "no test is named; fill it in";
        else if (!number || !most)
            out.why =
                fmt::format("{} is not a number; correct it", !number ? cell(row, value) : cell(row, limit));
        else if (!seen_.emplace(name, lowered(test)).second)
            out.why = "the row is there twice; remove one of them";
        else
            set(at->second.front(), {test, *number, *most, cell(row, unit)}, !cell(row, limit).empty(), out);
        return out;
    }

    void set(CableId id, Measured measured, bool limited, ScheduleRow& out) {
        Cable cable = *schedule_.network.cable(id);
        const Cable before = cable;
        out.match = Match::added;
        if (lowered(measured.what) == "length") {
            const auto mm =
                parseLength(fmt::format("{} {}", measured.value, measured.unit), LengthUnit::metres);
            if (!mm) {
                out.match = Match::wrong;
                out.why = fmt::format("{:g} {} is not a length; correct it", measured.value, measured.unit);
                return;
            }
            out.why = fmt::format("length becomes {}", lengthText(*mm, LengthUnit::metres));
            cable.lengthMm = *mm;
            cable.lengthMeasured = true;
            if (before.lengthMm > 0)
                out.match = Match::changed;
        } else if (!limited) {
            out.match = Match::wrong;
            out.why = "there is no limit to compare it with; fill it in";
            return;
        } else {
            out.why = fmt::format("{:g} {}, limit {:g} {}", measured.value, measured.unit, measured.limit,
                                  measured.unit);
            const auto held =
                std::find_if(cable.measured.begin(), cable.measured.end(), [&](const Measured& each) {
                    return lowered(each.what) == lowered(measured.what);
                });
            if (held != cable.measured.end()) {
                *held = std::move(measured);
                out.match = Match::changed;
            } else {
                cable.measured.push_back(std::move(measured));
            }
        }
        if (cable == before) {
            out.match = Match::same;
            return;
        }
        schedule_.network.put(std::move(cable));
    }

    Schedule schedule_;
    std::map<std::string, std::vector<CableId>> byLabel_;
    std::array<std::optional<std::size_t>, resultColumns> columns_;
    std::set<std::pair<std::string, std::string>> seen_;
};

} // namespace

Result<Schedule> mergeResults(const Network& network, std::string_view bytes, const std::string& file) {
    std::vector<Remark> remarks;
    const auto rows = exchange::readTable(bytes, file, {"test", "parameter"}, remarks);
    if (!rows)
        return rows.refusal();
    auto schedule = Taking(network).run(*rows, file);
    if (schedule)
        schedule->remarks.insert(schedule->remarks.begin(), remarks.begin(), remarks.end());
    return schedule;
}

} // namespace underridge::edit
