// SPDX-License-Identifier: GPL-3.0-or-later
// What one register is: its columns, its rows, and what its cells say and take. Each has
// a file of its own.
#pragma once
#include "core/edit/registers.h"

namespace underridge::edit {

/// A row with the name it is sorted by.
using NamedRow = std::pair<std::string, Row>;

struct RegisterTable {
    std::string_view title;
    std::span<const Column> columns;
    std::vector<NamedRow> (*rows)(const model::Network& network);
    /// Empty when the object is gone.
    std::string (*text)(const model::Network& network, const Row& row, std::size_t column,
                        model::LengthUnit unit);
    Result<Done> (*set)(model::Network& network, const model::Catalogue& catalogue, const CellChange& change,
                        model::LengthUnit unit, model::IdSource& ids);
    /// Adds a row like another, below it where order matters; null: rows are not added here.
    Result<Done> (*add)(model::Network& network, const Row& like, model::IdSource& ids) = nullptr;
    /// Takes rows away; null: what they stand for is deleted elsewhere.
    Result<Done> (*remove)(model::Network& network, const std::vector<Row>& rows) = nullptr;
};

const RegisterTable& devicesTable();
const RegisterTable& portsTable();
const RegisterTable& linksTable();
const RegisterTable& cablesTable();
const RegisterTable& racksTable();
const RegisterTable& interfacesTable();
const RegisterTable& vlansTable();
const RegisterTable& subnetsTable();
const RegisterTable& routesTable();
const RegisterTable& filterRulesTable();
const RegisterTable& ringsTable();
const RegisterTable& cableRoutesTable();

// What several of them read and write.
/// For documentation, in no network (RFC 5737).
inline constexpr const char* examplePrefix = "192.0.2.0/24";
inline constexpr std::string_view yes = "yes", no = "no";
Result<bool> flagFrom(const std::string& text);
std::string provenanceText(const model::Provenance& provenance);
/// Takes over the network of an act that may refuse.
Result<Done> take(model::Network& network, ActResult act);
/// What an object that went away meanwhile answers.
Remark goneFromRegister();
/// The value whose title or word was typed.
template <class Word>
Result<Word> wordFrom(const std::string& typed) {
    std::string all;
    for (const auto& each : wordsOf(Word{})) {
        if (lowered(each.title) == lowered(typed) || each.text == lowered(typed))
            return each.value;
        all += (all.empty() ? "" : ", ") + std::string(each.title);
    }
    return error(typed + " is not known here", "write one of: " + all);
}
/// A whole number from 0; nothing typed is 0.
Result<int> numberFrom(const std::string& text, int most);
/// In millimetres.
Result<std::int64_t> lengthFrom(const std::string& text, model::LengthUnit unit);
/// A length typed for a cable.
Result<Done> setCableLength(model::Network& network, const model::Cable& cable, const std::string& text,
                            model::LengthUnit unit);

} // namespace underridge::edit
