// SPDX-License-Identifier: GPL-3.0-or-later
// Names in series, and what is typed to add devices.
#pragma once
#include "core/base/result.h"
#include "core/model/network.h"

namespace underridge::edit {

/// Names by a pattern: "till-{01..}" gives till-01, till-02 …; "{3..}" begins at 3; a
/// pattern without braces gets "-1", "-2" … when more than one name is wanted. Names in
/// `taken` are passed over. Refuses a pattern with more than one brace, a beginning of more
/// than nine digits, or a count over 10,000.
Result<std::vector<std::string>> seriesNames(const std::string& pattern, int count,
                                             const std::vector<std::string>& taken);

/// The order in which a series numbers devices: as they were selected, or as they stand
/// on the sheet.
enum class NameOrder { selection, rows, columns };

struct NewName {
    model::DeviceId device;
    std::string before, after;
    std::string remark; ///< "another device has this name", or empty
};

/// Names for devices by a pattern with fields: {role}, {model}, {name} (the present one),
/// {site}, {building}, {floor}, {room}, {rack} and {group} of each device, and a number
/// {n}, {01..} or {3..12} that counts anew for every combination of the fields. Names of
/// devices that are not among them are told, not avoided. Refuses a field that is not
/// known or that a device has nothing for, and an empty name.
Result<std::vector<NewName>> newNames(const model::Network& network, model::SheetId sheet,
                                      const std::vector<model::DeviceId>& devices, const std::string& pattern,
                                      NameOrder order);

/// The pattern a role's devices get when nobody names them: "switch-{1..}".
std::string defaultPattern(model::Role role);

/// Names of devices that begin with the fixed part of a pattern.
std::vector<std::string> namesLike(const model::Network& network, const std::string& pattern);

/// "4 access switch 24 named acc-{1..}".
struct Addition {
    int count = 1;
    const model::DeviceModel* model = nullptr;
    std::string pattern; ///< never empty
};

/// Understands what is typed. Refuses a model that is not known (naming those that are
/// near) or a pattern that is wrong.
Result<Addition> parseAddition(const std::string& typed, const model::Catalogue& catalogue);

/// Models whose name or ports match the part of `typed` that names the model; best match
/// first.
std::vector<const model::DeviceModel*> completions(const std::string& typed,
                                                   const model::Catalogue& catalogue);

/// `typed` with its model part replaced by a model's name.
std::string completed(const std::string& typed, const model::DeviceModel& model);

} // namespace underridge::edit
