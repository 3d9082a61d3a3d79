// SPDX-License-Identifier: GPL-3.0-or-later
// Fields in braces, in names and labels: what {role} or {floor} stands for.
#pragma once
#include "core/base/result.h"
#include "core/model/network.h"

#include <functional>
#include <optional>

namespace underridge::edit {

/// What a field stands for: a text, or a refusal that says why there is none.
using FieldText = std::function<Result<std::string>(const std::string& field)>;

/// A pattern with its fields filled in; a number, {n} or {01..}, stays for the series to
/// count.
Result<std::string> filledFields(const std::string& pattern, const FieldText& textOf);

/// {role}, {model}, {name}, {group} and each kind of group a device is in.
Result<std::string> deviceField(const model::Network& network, const model::Device& device,
                                const std::string& field);
/// {from}, {from-port}, {to}, {to-port}, {type}, {medium}, and the groups of the first
/// end.
Result<std::string> cableField(const model::Network& network, const model::Cable& cable,
                               const std::string& field);

} // namespace underridge::edit
