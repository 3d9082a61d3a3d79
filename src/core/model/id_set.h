// SPDX-License-Identifier: GPL-3.0-or-later
// A set of ids that is made once and asked often. Ids are random numbers: their leading
// bits say nearly where one stands in their order.
#pragma once
#include "core/model/table.h"

#include <algorithm>
#include <bit>
#include <cstdint>
#include <vector>

namespace underridge::model {

class IdSet {
public:
    IdSet() = default;
    /// REQUIRES: in ascending order.
    explicit IdSet(std::vector<std::uint64_t> ids) : ids_(std::move(ids)) {
        if (ids_.empty())
            return;
        const auto widthOf = [](std::uint64_t number) { return static_cast<int>(std::bit_width(number)); };
        shift_ = std::max(0, widthOf(ids_.back()) - widthOf(ids_.size()));
        starts_.resize((ids_.back() >> shift_) + 2);
        std::size_t bucket = 0;
        for (std::size_t i = 0; i < ids_.size(); ++i)
            for (; bucket <= ids_[i] >> shift_; ++bucket)
                starts_[bucket] = static_cast<std::uint32_t>(i);
        starts_[bucket] = static_cast<std::uint32_t>(ids_.size());
    }
    /// The ids of a table's records.
    template <class Record, std::size_t n>
    static IdSet of(const Table<Record, n>& table) {
        std::vector<std::uint64_t> ids;
        ids.reserve(table.size());
        table.forEach([&](const Record& record) { ids.push_back(record.id.value); });
        return IdSet(std::move(ids));
    }

    bool contains(std::uint64_t id) const {
        if (ids_.empty() || id > ids_.back())
            return false;
        const std::size_t bucket = id >> shift_;
        const auto from = ids_.begin() + starts_[bucket], to = ids_.begin() + starts_[bucket + 1];
        return std::binary_search(from, to, id);
    }

private:
    std::vector<std::uint64_t> ids_;
    std::vector<std::uint32_t> starts_; ///< by leading bits: where those that have them begin
    int shift_ = 0;
};

} // namespace underridge::model
