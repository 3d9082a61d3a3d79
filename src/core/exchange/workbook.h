// SPDX-License-Identifier: GPL-3.0-or-later
// Spreadsheet workbooks (ISO/IEC 29500, .xlsx) as tables of texts.
#pragma once
#include "core/base/result.h"
#include "core/exchange/table_text.h"

namespace underridge::exchange {

/// Whether bytes begin as a workbook, which is a ZIP archive.
bool isWorkbook(std::string_view bytes);

/// The rows of each worksheet; numbers as they are stored, shared and inline texts, the
/// results of formulas. Rows count as lines. Refuses what is no workbook, one that is
/// encrypted or damaged, and parts larger than maxForeignBytes.
Result<std::vector<std::vector<TextRow>>> readWorkbook(std::string_view bytes, const std::string& file);

/// The rows of one table, whichever it is: CSV in any form readRows() understands, or of
/// a workbook the worksheet whose first line has a title among those wanted (in small
/// letters), else the first.
Result<std::vector<TextRow>> readTable(std::string_view bytes, const std::string& file,
                                       const std::vector<std::string>& titles, std::vector<Remark>& remarks);

struct Worksheet {
    std::string name; ///< at most 31 characters are kept
    std::vector<std::string> titles;
    std::vector<std::vector<std::string>> rows; ///< texts that are plain numbers are written as numbers
};
/// A workbook with the titles in bold, frozen and filtered. Refuses when it cannot be
/// written.
Result<std::string> writeWorkbook(const std::vector<Worksheet>& sheets);

} // namespace underridge::exchange
