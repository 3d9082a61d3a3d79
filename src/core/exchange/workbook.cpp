// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/workbook.h"

#include "core/base/text.h"
#include "core/exchange/decoding.h"

#include <algorithm>
#include <charconv>
#include <filesystem>
#include <fmt/format.h>
#include <fstream>
#include <memory>
#include <optional>
#include <pugixml.hpp>
#include <set>
#include <unistd.h>
#include <xlsxwriter.h>
#include <zip.h>

namespace underridge::exchange {
namespace {

constexpr std::size_t maxSheetRows = 1 << 20, maxSheetColumns = 1000; // ISO/IEC 29500 has 1,048,576 rows

struct CloseZip {
    void operator()(zip_t* archive) const { zip_discard(archive); }
    void operator()(zip_file_t* file) const { zip_fclose(file); }
};

/// The archive, read from memory.
class Archive {
public:
    explicit Archive(std::string_view bytes) {
        zip_source_t* source = zip_source_buffer_create(bytes.data(), bytes.size(), 0, nullptr);
        if (!source)
            return;
        zip_.reset(zip_open_from_source(source, ZIP_RDONLY, nullptr));
        if (!zip_)
            zip_source_free(source);
    }
    explicit operator bool() const { return zip_ != nullptr; }

    /// One part, or nothing when it is not there, cannot be read or is too large.
    std::optional<std::string> part(const std::string& name) const {
        zip_stat_t about;
        if (zip_stat(zip_.get(), name.c_str(), 0, &about) != 0 || about.size > maxForeignBytes)
            return std::nullopt;
        const std::unique_ptr<zip_file_t, CloseZip> file(zip_fopen(zip_.get(), name.c_str(), 0));
        if (!file)
            return std::nullopt;
        std::string out(about.size, '\0');
        std::size_t read = 0;
        while (read < out.size()) {
            const auto more = zip_fread(file.get(), out.data() + read, out.size() - read);
            if (more <= 0)
                return std::nullopt;
            read += static_cast<std::size_t>(more);
        }
        return out;
    }

private:
    std::unique_ptr<zip_t, CloseZip> zip_;
};

/// All text below a node: a shared string may be in several runs.
std::string textIn(const pugi::xml_node& node) {
    std::string out;
    for (const pugi::xml_node& child : node.children()) {
        const std::string_view name = child.name();
        if (name == "t")
            out += child.child_value();
        else if (name == "r")
            out += child.child_value("t");
    }
    return out;
}

/// "B" of "B3" as 1; nothing when it is no reference.
std::optional<std::size_t> columnOf(std::string_view reference) {
    std::size_t column = 0;
    for (const char c : reference) {
        if (c < 'A' || c > 'Z')
            break;
        column = column * 26 + static_cast<std::size_t>(c - 'A' + 1);
        if (column > maxSheetColumns)
            return std::nullopt;
    }
    return column == 0 ? std::nullopt : std::optional(column - 1);
}

/// The paths of the worksheets: the workbook names them by relationships.
std::vector<std::string> sheetPaths(const Archive& archive) {
    pugi::xml_document book, links;
    std::vector<std::string> out;
    const auto bookText = archive.part("xl/workbook.xml"),
               linkText = archive.part("xl/_rels/workbook.xml.rels");
    if (bookText && linkText && book.load_buffer(bookText->data(), bookText->size()) &&
        links.load_buffer(linkText->data(), linkText->size()))
        for (const pugi::xml_node& sheet : book.document_element().child("sheets").children("sheet"))
            for (const pugi::xml_node& link : links.document_element().children())
                if (std::string_view(sheet.attribute("r:id").value()) == link.attribute("Id").value()) {
                    const std::string target = link.attribute("Target").value();
                    out.push_back(target.starts_with("/") ? target.substr(1) : "xl/" + target);
                }
    if (out.empty())
        out.emplace_back("xl/worksheets/sheet1.xml");
    return out;
}

std::vector<std::string> sharedTexts(const Archive& archive) {
    std::vector<std::string> out;
    pugi::xml_document document;
    if (const auto text = archive.part("xl/sharedStrings.xml");
        text && document.load_buffer(text->data(), text->size()))
        for (const pugi::xml_node& each : document.document_element().children("si"))
            out.push_back(textIn(each));
    return out;
}

std::string cellText(const pugi::xml_node& cell, const std::vector<std::string>& shared) {
    const std::string_view type = cell.attribute("t").value();
    const std::string value = cell.child_value("v");
    if (type == "inlineStr")
        return textIn(cell.child("is"));
    if (type == "b")
        return value == "1" ? "yes" : "no";
    if (type != "s")
        return value;
    std::size_t index = 0;
    const auto [end, code] = std::from_chars(value.data(), value.data() + value.size(), index);
    return code == std::errc() && index < shared.size() ? shared[index] : std::string();
}

TextRow rowOf(const pugi::xml_node& row, int line, const std::vector<std::string>& shared) {
    TextRow out{row.attribute("r").as_int(line), {}};
    for (const pugi::xml_node& cell : row.children("c")) {
        const std::size_t at = columnOf(cell.attribute("r").value()).value_or(out.cells.size());
        if (at >= maxSheetColumns)
            continue;
        if (out.cells.size() <= at)
            out.cells.resize(at + 1);
        out.cells[at] = cellText(cell, shared);
    }
    if (std::all_of(out.cells.begin(), out.cells.end(), [](const std::string& each) { return each.empty(); }))
        out.cells.clear();
    return out;
}

/// A file that is gone when it goes out of scope: the library writes to a path only.
class ScratchFile {
public:
    ScratchFile() : path_((std::filesystem::temp_directory_path() / "underridge-XXXXXX").string()) {
        const int file = mkstemp(path_.data());
        if (file >= 0)
            close(file);
    }
    ~ScratchFile() {
        std::error_code ignored;
        std::filesystem::remove(path_, ignored);
    }
    ScratchFile(const ScratchFile&) = delete;
    ScratchFile& operator=(const ScratchFile&) = delete;
    const std::string& path() const { return path_; }

private:
    std::string path_;
};

} // namespace

bool isWorkbook(std::string_view bytes) {
    return bytes.starts_with("PK\x03\x04");
}

Result<std::vector<std::vector<TextRow>>> readWorkbook(std::string_view bytes, const std::string& file) {
    const Archive archive(bytes);
    if (!archive)
        return error("the workbook is damaged", "save it again as .xlsx", {file});
    const auto shared = sharedTexts(archive);
    std::vector<std::vector<TextRow>> out;
    std::size_t all = 0;
    for (const std::string& path : sheetPaths(archive)) {
        const auto text = archive.part(path);
        if (!text)
            return error("there is a worksheet that cannot be read",
                         "save it again as .xlsx, without a password", {file});
        pugi::xml_document document;
        if (const auto parsed = document.load_buffer(text->data(), text->size()); !parsed)
            return error(fmt::format("a worksheet is damaged: {}", parsed.description()),
                         "save it again as .xlsx", {file});
        auto& rows = out.emplace_back();
        for (const pugi::xml_node& row : document.document_element().child("sheetData").children("row")) {
            if (++all > maxSheetRows)
                return error(fmt::format("the workbook has more than {} rows", maxSheetRows), "split it",
                             {file});
            rows.push_back(rowOf(row, static_cast<int>(rows.size()) + 1, shared));
        }
    }
    return out;
}

Result<std::vector<TextRow>> readTable(std::string_view bytes, const std::string& file,
                                       const std::vector<std::string>& titles, std::vector<Remark>& remarks) {
    if (!isWorkbook(bytes)) {
        const auto text = decodeText(bytes, file, remarks);
        if (!text)
            return text.refusal();
        return readRows(*text, separatorOf(*text));
    }
    auto sheets = readWorkbook(bytes, file);
    if (!sheets)
        return sheets.refusal();
    for (auto& rows : *sheets)
        if (!rows.empty())
            for (const std::string& cell : rows.front().cells)
                if (std::find(titles.begin(), titles.end(), lowered(trimmed(cell))) != titles.end())
                    return std::move(rows);
    return std::move(sheets->front());
}

Result<std::string> writeWorkbook(const std::vector<Worksheet>& sheets) {
    const ScratchFile scratch;
    lxw_workbook* book = workbook_new(scratch.path().c_str());
    if (!book)
        return error("the workbook cannot be made", "free some memory");
    lxw_format* bold = workbook_add_format(book);
    format_set_bold(bold);
    std::set<std::string> names;
    for (const Worksheet& sheet : sheets) {
        std::string name = sheet.name.substr(0, 31);
        for (char& c : name)
            if (std::string_view("[]:*?/\\").find(c) != std::string_view::npos)
                c = '-';
        lxw_worksheet* page =
            workbook_add_worksheet(book, names.insert(name).second ? name.c_str() : nullptr);
        if (!page)
            page = workbook_add_worksheet(book, nullptr);
        for (std::size_t c = 0; c < sheet.titles.size(); ++c) {
            worksheet_write_string(page, 0, static_cast<lxw_col_t>(c), sheet.titles[c].c_str(), bold);
            std::size_t widest = sheet.titles[c].size();
            for (const auto& row : sheet.rows)
                if (c < row.size())
                    widest = std::max(widest, row[c].size());
            worksheet_set_column(page, static_cast<lxw_col_t>(c), static_cast<lxw_col_t>(c),
                                 std::min<double>(60, static_cast<double>(widest) + 2), nullptr);
        }
        for (std::size_t r = 0; r < sheet.rows.size(); ++r)
            for (std::size_t c = 0; c < sheet.rows[r].size(); ++c) {
                const std::string& cell = sheet.rows[r][c];
                double number = 0;
                const auto [end, code] = std::from_chars(cell.data(), cell.data() + cell.size(), number);
                const bool plain = code == std::errc() && end == cell.data() + cell.size() &&
                                   !(cell.size() > 1 && cell[0] == '0' && cell[1] != '.');
                if (cell.empty())
                    continue;
                if (plain)
                    worksheet_write_number(page, static_cast<lxw_row_t>(r + 1), static_cast<lxw_col_t>(c),
                                           number, nullptr);
                else
                    worksheet_write_string(page, static_cast<lxw_row_t>(r + 1), static_cast<lxw_col_t>(c),
                                           cell.c_str(), nullptr);
            }
        if (!sheet.titles.empty()) {
            worksheet_freeze_panes(page, 1, 0);
            worksheet_autofilter(page, 0, 0,
                                 static_cast<lxw_row_t>(std::max<std::size_t>(1, sheet.rows.size())),
                                 static_cast<lxw_col_t>(sheet.titles.size() - 1));
        }
    }
    if (const lxw_error failed = workbook_close(book); failed != LXW_NO_ERROR)
        return error(fmt::format("the workbook cannot be made: {}", lxw_strerror(failed)), "try again");
    std::ifstream made(scratch.path(), std::ios::binary);
    std::string out((std::istreambuf_iterator<char>(made)), std::istreambuf_iterator<char>());
    if (out.empty())
        return error("the workbook cannot be read back", "free some room for temporary files");
    return out;
}

} // namespace underridge::exchange
