// SPDX-License-Identifier: GPL-3.0-or-later
// The links of RFC 8345 as they are read. Those between devices that a network below joins already
// are of the upper layer: drawn on its sheet alone, in no port.
#pragma once
#include "core/exchange/rfc8345_points.h"
#include "core/exchange/rfc8345_remarks.h"

namespace underridge::exchange::rfc8345 {

class Links {
public:
    Links(Builder& builder, const Nets& nets, Points& points, DocumentRemarks& remarks)
        : builder_(builder), nets_(nets), points_(points), remarks_(remarks) {}

    /// Those of a network, after those of all it rests on.
    void read(Net& net);
    /// What is kept of each for the writer.
    const std::unordered_map<std::uint64_t, Entries>& entries() const { return entries_; }

private:
    struct End {
        const Node* node = nullptr;
        model::PortRef port;
        std::string point;

        /// What tells it from others: interfaces that are on no port are there, too.
        model::PortRef key() const { return port.known() ? port : model::PortRef{port.device, point}; }
        /// On a layer above that of its device no port is taken.
        model::PortRef drawn() const {
            return node->isJoinedBelow() ? model::PortRef{port.device, {}} : port;
        }
    };
    struct Direction {
        JsonView json;
        std::string id;
        End source, destination;
        std::vector<model::LinkId>
            over; ///< links below it rests on, in their order, as far as they are there
        bool paired = false;

        bool isUpper() const {
            return source.node->isJoinedBelow() || destination.node->isJoinedBelow() || !over.empty();
        }
    };

    void direction(Net& net, JsonView json, std::unordered_set<std::string>& seen,
                   std::vector<Direction>& out);
    std::vector<model::LinkId> supportsOf(JsonView json, const End& from, const End& to) const;
    std::optional<End> end(const Net& net, JsonView link, std::string_view container,
                           std::string_view nodeName, std::string_view pointName, const std::string& id);
    void join(Net& net, const Direction& forth, const Direction* back);

    Builder& builder_;
    const Nets& nets_;
    Points& points_;
    DocumentRemarks& remarks_;
    std::unordered_map<std::uint64_t, Entries> entries_;
    std::map<std::pair<model::PortRef, model::PortRef>, model::LinkId>
        joined_; ///< by those of the lowest layer
};

} // namespace underridge::exchange::rfc8345
