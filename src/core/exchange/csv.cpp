// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/foreign.h"
#include "core/exchange/table_text.h"
#include "core/exchange/workbook.h"
#include "core/model/ports.h"

#include <charconv>
#include <cmath>
#include <fmt/format.h>

namespace underridge::exchange {
using namespace model;
namespace {

bool isNumber(std::string_view text) {
    double value = 0;
    const auto [end, code] = std::from_chars(text.data(), text.data() + text.size(), value);
    return code == std::errc() && end == text.data() + text.size();
}

bool startsFormula(std::string_view cell) {
    return !cell.empty() && std::string_view("=+-@\t\r").find(cell.front()) != std::string_view::npos &&
           !isNumber(cell);
}

/// A cell that a spreadsheet would take for a formula is written behind an apostrophe.
std::string neutral(const std::string& cell, std::size_t& count) {
    const bool guarded =
        startsFormula(cell) || (cell.size() > 1 && cell[0] == '\'' && startsFormula(cell.substr(1)));
    count += guarded;
    return guarded ? "'" + cell : cell;
}

std::string plain(const std::string& cell) {
    return cell.size() > 1 && cell[0] == '\'' &&
                   (startsFormula(std::string_view(cell).substr(1)) || cell[1] == '\'')
               ? cell.substr(1)
               : cell;
}

std::string columnName(std::string_view cell) {
    return lowered(trimmed(cell));
}

class Table {
public:
    explicit Table(const TextRow& header) {
        for (std::size_t i = 0; i < header.cells.size(); ++i) {
            titles_.push_back(trimmed(plain(header.cells[i])));
            columns_.emplace(columnName(titles_.back()), i);
        }
    }
    bool has(const char* name) const { return columns_.contains(name); }
    std::string cell(const TextRow& row, const char* name) const {
        const auto at = columns_.find(name);
        return at == columns_.end() || at->second >= row.cells.size() ? std::string()
                                                                      : trimmed(plain(row.cells[at->second]));
    }
    const std::vector<std::string>& titles() const { return titles_; }
    bool isLinks() const { return has("from") && has("to"); }
    bool isDevices() const { return has("name") && !isLinks(); }

private:
    std::vector<std::string> titles_;
    std::map<std::string, std::size_t> columns_;
};

class CsvReader {
public:
    explicit CsvReader(const Source& source)
        : builder_(source, source.file.substr(source.file.find_last_of('/') + 1)),
          sheet_(builder_.addSheet("Sheet 1")),
          file_(source.file) {}

    Result<Loaded> read(const std::vector<TextRow>& rows) {
        std::shared_ptr<const Table> table;
        bool any = false;
        for (const TextRow& row : rows) {
            if (row.cells.empty()) {
                table.reset();
            } else if (!table) {
                table = std::make_shared<const Table>(row);
                if (!table->isLinks() && !table->isDevices())
                    return error("the first line names neither devices nor links",
                                 "begin with a line of column names: name, … for devices or from, to, … for "
                                 "links",
                                 {file_, row.line, 1});
                any = true;
            } else if (table->isLinks()) {
                link(table, row);
            } else {
                device(*table, row);
            }
        }
        if (!any)
            return error("the file has no line of column names", "begin with name, … or from, to, …",
                         {file_, 1, 1});
        makeLinks();
        return builder_.finish();
    }

private:
    static bool structural(const std::string& column) {
        static const std::set<std::string> names{"id",        "group", "x",       "y",    "from",
                                                 "from port", "to",    "to port", "cable"};
        return names.contains(column);
    }

    DeviceId known(const std::string& nameOrId) const {
        if (const auto at = byIdText_.find(nameOrId); at != byIdText_.end())
            return at->second;
        const auto at = byName_.find(nameOrId);
        return at == byName_.end() ? DeviceId{} : at->second;
    }

    DeviceId add(const std::string& identity, const std::string& name) {
        const DeviceId id = builder_.addDevice(identity, name);
        builder_.show(sheet_, id);
        byName_.emplace(name, id);
        builder_.knowAs(name, id.value);
        byIdText_.emplace(identity, id);
        return id;
    }

    void device(const Table& table, const TextRow& row) {
        const Where where{file_, row.line, 1, table.cell(row, "name")};
        const std::string name = table.cell(row, "name"), idText = table.cell(row, "id");
        if (name.empty() && idText.empty()) {
            builder_.remarks().add(
                warning("a device has no name; the line was passed over", "name it", where));
            return;
        }
        const std::string identity = idText.empty() ? name : idText;
        if (byIdText_.contains(identity)) {
            builder_.remarks().add(
                warning(fmt::format("the device {} is there twice; the second was passed over", identity),
                        "give each device a name or id of its own", where));
            return;
        }
        const DeviceId id = add(identity, name);
        // The model decides what the role may say, so it comes first.
        for (const char* first : {"model", "role"})
            if (const std::string value = table.cell(row, first); !value.empty())
                builder_.setDeviceField(id, first, value, [&] { return where; });
        for (std::size_t i = 0; i < table.titles().size() && i < row.cells.size(); ++i) {
            const std::string column = columnName(table.titles()[i]);
            const std::string value = plain(row.cells[i]);
            if (value.empty() || column.empty() || structural(column) || column == "name" ||
                column == "model" || column == "role")
                continue;
            Where cell = where;
            cell.column = static_cast<int>(i) + 1;
            builder_.setDeviceField(id, table.titles()[i], value, [&] { return cell; });
        }
        if (const std::string path = table.cell(row, "group"); !path.empty())
            builder_.device(id).group = builder_.group(parts(path));
        const std::string x = table.cell(row, "x"), y = table.cell(row, "y");
        if (isNumber(x) && isNumber(y))
            builder_.setPosition(sheet_, id, number(x), number(y), where);
        else if (!x.empty() || !y.empty())
            builder_.remarks().add(
                warning("x and y are not both numbers", "the device is put down elsewhere", where));
    }

    static double number(const std::string& text) {
        double value = NAN;
        std::from_chars(text.data(), text.data() + text.size(), value);
        return value;
    }

    static std::vector<std::string> parts(const std::string& path) {
        std::vector<std::string> out;
        std::size_t at = 0;
        while (at <= path.size() && out.size() < 32) {
            const auto end = std::min(path.find('/', at), path.size());
            if (const auto part = trimmed(path.substr(at, end - at)); !part.empty())
                out.push_back(part);
            at = end + 1;
        }
        return out;
    }

    void link(const std::shared_ptr<const Table>& table, const TextRow& row) {
        Pending pending{table, row, table->cell(row, "from"), table->cell(row, "to")};
        if (pending.from.empty() || pending.to.empty()) {
            builder_.remarks().add(warning("a link lacks one of its ends; the line was passed over",
                                           "fill in from and to", {file_, row.line, 1}));
            return;
        }
        links_.push_back(std::move(pending));
    }

    /// After all devices are known, whichever table came first.
    void makeLinks() {
        for (const Pending& pending : links_) {
            const auto& [shared, row, from, to] = pending;
            const Table& table = *shared;
            const Where where{file_, row.line, 1, from + " to " + to};
            const std::string idText = table.cell(row, "id");
            if (!idText.empty() && !linkIds_.insert(idText).second) {
                builder_.remarks().add(
                    warning("the link is there twice; the second was passed over", "remove one", where));
                continue;
            }
            DeviceId ends[2];
            for (int end = 0; end < 2; ++end) {
                const std::string& name = end == 0 ? from : to;
                ends[end] = known(name);
                if (!ends[end])
                    ends[end] = add(name, name); // a list of links names its devices
            }
            const PortRef a = builder_.port(ends[0], table.cell(row, "from port"));
            const PortRef b = builder_.port(ends[1], table.cell(row, "to port"));
            Link& link = builder_.addLink(
                idText.empty() ? fmt::format("{}\n{}\n{}\n{}", from, a.port, to, b.port) : idText, a, b);
            builder_.knowAs(where.object, link.id.value);
            if (const std::string cable = table.cell(row, "cable"); !cable.empty())
                builder_.setLinkField(link, "cable", cable, [&] { return where; });
            for (std::size_t i = 0; i < table.titles().size() && i < row.cells.size(); ++i) {
                const std::string column = columnName(table.titles()[i]);
                const std::string value = plain(row.cells[i]);
                if (value.empty() || column.empty() || structural(column))
                    continue;
                Where cell = where;
                cell.column = static_cast<int>(i) + 1;
                builder_.setLinkField(link, table.titles()[i], value, [&] { return cell; });
            }
        }
    }

    struct Pending {
        std::shared_ptr<const Table> table;
        TextRow row;
        std::string from, to;
    };

    Builder builder_;
    SheetId sheet_;
    std::string file_;
    std::unordered_map<std::string, DeviceId> byName_, byIdText_;
    std::set<std::string> linkIds_;
    std::vector<Pending> links_;
};

using Fields = std::vector<std::pair<std::string, std::string>>;

/// One table: the columns that anything fills, in the order given first, then by name.
class TableWriter {
public:
    explicit TableWriter(std::vector<std::string> columns) : columns_(std::move(columns)) {}

    void add(const Fields& fields) {
        for (const auto& [name, value] : fields)
            if (std::find(columns_.begin(), columns_.end(), name) == columns_.end())
                further_.insert(name);
        rows_.push_back(fields);
    }

    Worksheet sheet(std::string name) {
        columns_.insert(columns_.end(), further_.begin(), further_.end());
        Worksheet out{std::move(name), columns_, {}};
        for (const Fields& row : rows_) {
            const std::map<std::string, std::string> byName(row.begin(), row.end());
            auto& cells = out.rows.emplace_back();
            for (const std::string& column : columns_) {
                const auto at = byName.find(column);
                cells.push_back(at == byName.end() ? std::string() : at->second);
            }
        }
        return out;
    }

    std::string text(std::size_t& formulas) {
        columns_.insert(columns_.end(), further_.begin(), further_.end());
        std::string out;
        for (const std::string& column : columns_)
            out += (&column == &columns_.front() ? "" : ",") + quoted(neutral(column, formulas));
        out += "\r\n";
        for (const Fields& row : rows_) {
            const std::map<std::string, std::string> byName(row.begin(), row.end());
            for (const std::string& column : columns_) {
                if (&column != &columns_.front())
                    out += ',';
                if (const auto at = byName.find(column); at != byName.end())
                    out += quoted(neutral(at->second, formulas));
            }
            out += "\r\n";
        }
        return out;
    }

private:
    std::vector<std::string> columns_;
    std::set<std::string> further_;
    std::vector<Fields> rows_;
};

} // namespace

Result<Loaded> readCsv(std::string_view bytes, const Source& source) {
    std::vector<Remark> remarks;
    auto text = decodeText(bytes, source.file, remarks);
    if (!text)
        return text.refusal();
    auto loaded = CsvReader(source).read(readRows(*text, separatorOf(*text)));
    if (loaded)
        loaded->remarks.insert(loaded->remarks.begin(), remarks.begin(), remarks.end());
    return loaded;
}

Result<Loaded> readXlsx(std::string_view bytes, const Source& source) {
    const auto sheets = readWorkbook(bytes, source.file);
    if (!sheets)
        return sheets.refusal();
    std::vector<TextRow> rows; // as in one text: an empty line between tables
    for (const auto& sheet : *sheets) {
        rows.insert(rows.end(), sheet.begin(), sheet.end());
        rows.push_back({});
    }
    return CsvReader(source).read(rows);
}

namespace {

TableWriter devicesTable(const Network& network) {
    const auto sheets = network.sheetsInOrder();
    TableWriter table({"id", "name", "role", "model", "group", "x", "y", "addresses"});
    network.all<Device>().forEach([&](const Device& device) {
        Fields fields{{"id", idText(device.id.value)}};
        for (auto& field : deviceFields(network, device))
            fields.push_back(std::move(field));
        fields.emplace_back("group", groupPath(network, device.group));
        if (const Position* at =
                sheets.empty() ? nullptr : network.position(sheets.front().id, device.id.value)) {
            fields.emplace_back("x", std::to_string(at->at.x));
            fields.emplace_back("y", std::to_string(at->at.y));
        }
        table.add(fields);
    });
    return table;
}

TableWriter linksTable(const Network& network) {
    const Names names(network);
    TableWriter table({"id", "from", "from port", "to", "to port", "medium", "cable", "length m", "label"});
    network.all<Link>().forEach([&](const Link& link) {
        const Device *a = network.device(link.a.device), *b = network.device(link.b.device);
        Fields fields{{"id", idText(link.id.value)},
                      {"from", a ? names.of(*a) : ""},
                      {"from port", link.a.port},
                      {"to", b ? names.of(*b) : ""},
                      {"to port", link.b.port}};
        for (auto& field : linkFields(network, link))
            fields.push_back(std::move(field));
        table.add(fields);
    });
    return table;
}

void tellLosses(const Network& network, const char* format, Written& written) {
    listLosses(network, {.models = true, .positions = true, .groups = true, .cables = true}, format,
               written.remarks);
    if (network.all<Interface>().size() > 0)
        written.remarks.push_back(advice(
            fmt::format("interfaces are left out but for their addresses: {} cannot hold them", format),
            "keep the Underridge file as well"));
}

} // namespace

Written writeXlsx(const Network& network, Tables tables) {
    Written written;
    std::vector<Worksheet> sheets;
    if (tables != Tables::links)
        sheets.push_back(devicesTable(network).sheet("Devices"));
    if (tables != Tables::devices)
        sheets.push_back(linksTable(network).sheet("Links"));
    if (auto bytes = writeWorkbook(sheets))
        written.bytes = *std::move(bytes);
    else
        written.remarks.push_back(bytes.refusal());
    tellLosses(network, "a workbook", written);
    return written;
}

Written writeCsv(const Network& network, Tables tables) {
    Written written;
    std::size_t formulas = 0;
    if (tables != Tables::links)
        written.bytes += devicesTable(network).text(formulas);
    if (tables == Tables::both)
        written.bytes += "\r\n";
    if (tables != Tables::devices)
        written.bytes += linksTable(network).text(formulas);
    tellLosses(network, "CSV", written);
    if (formulas > 0)
        written.remarks.push_back(advice(
            fmt::format("{} cells that a spreadsheet would take for formulas stand behind an apostrophe",
                        formulas),
            "reading them back removes it"));
    return written;
}

} // namespace underridge::exchange
