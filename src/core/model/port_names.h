// SPDX-License-Identifier: GPL-3.0-or-later
// Names of ports, in natural order, each once. Devices whose names are the same share
// one list: copying it copies a pointer.
#pragma once
#include <memory>
#include <string>
#include <string_view>
#include <vector>

namespace underridge::model {

class PortNames {
public:
    PortNames() = default;
    /// In any order, some perhaps twice; empty ones are left out.
    PortNames(std::vector<std::string> names);

    const std::vector<std::string>& all() const;
    bool empty() const { return !held_; }
    bool contains(std::string_view name) const;
    bool operator==(const PortNames& other) const { return held_ == other.held_ || all() == other.all(); }

private:
    std::shared_ptr<const std::vector<std::string>> held_;
};

} // namespace underridge::model
