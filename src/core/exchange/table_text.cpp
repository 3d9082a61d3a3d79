// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/table_text.h"

#include "core/base/text.h"

#include <algorithm>
#include <csv.h>

namespace underridge::exchange {
namespace {

constexpr std::size_t maxColumns = 1000;

/// Rows by libcsv, fed line by line so that each is known by the line it begins in. An
/// empty line between rows comes out as a row without cells.
class RowReader {
public:
    explicit RowReader(char separator) {
        csv_init(&parser_, CSV_APPEND_NULL);
        csv_set_delim(&parser_, static_cast<unsigned char>(separator));
    }
    ~RowReader() { csv_free(&parser_); }
    RowReader(const RowReader&) = delete;
    RowReader& operator=(const RowReader&) = delete;

    std::vector<TextRow> read(std::string_view text) {
        int line = 0;
        for (std::size_t at = 0; at < text.size();) {
            const std::size_t end = std::min(text.find('\n', at), text.size() - 1) + 1;
            const auto piece = text.substr(at, end - at);
            at = end;
            ++line;
            if (!within_) {
                row_.line = line;
                if (piece.find_first_not_of(" \t\r\n") == std::string_view::npos) {
                    rows_.push_back({line, {}});
                    continue;
                }
            }
            within_ = true;
            csv_parse(&parser_, piece.data(), piece.size(), onCell, onRow, this);
        }
        csv_fini(&parser_, onCell, onRow, this);
        return std::move(rows_);
    }

private:
    static void onCell(void* data, std::size_t size, void* self) {
        auto& row = static_cast<RowReader*>(self)->row_;
        if (row.cells.size() < maxColumns)
            row.cells.emplace_back(data ? static_cast<const char*>(data) : "", data ? size : 0);
    }
    static void onRow(int, void* self) {
        auto& reader = *static_cast<RowReader*>(self);
        reader.rows_.push_back(std::move(reader.row_));
        reader.row_ = {};
        reader.within_ = false;
    }

    csv_parser parser_{};
    std::vector<TextRow> rows_;
    TextRow row_;
    bool within_ = false;
};

} // namespace

std::vector<TextRow> readRows(std::string_view text, char separator) {
    return RowReader(separator).read(text);
}

char separatorOf(std::string_view text) {
    const auto start = text.find_first_not_of("\r\n \t");
    const auto line = text.substr(start == std::string_view::npos ? 0 : start,
                                  text.find('\n', start == std::string_view::npos ? 0 : start) - start);
    char best = ',';
    std::ptrdiff_t most = 0;
    for (const char c : {',', ';', '\t'})
        if (const auto count = std::count(line.begin(), line.end(), c); count > most) {
            most = count;
            best = c;
        }
    return best;
}

std::string quoted(const std::string& cell) {
    if (cell.find_first_of(",\"\r\n;\t") == std::string::npos && trimmed(cell) == cell)
        return cell;
    std::string out(cell.size() * 2 + 2, '\0');
    out.resize(csv_write(out.data(), out.size(), cell.data(), cell.size()));
    return out;
}

} // namespace underridge::exchange
