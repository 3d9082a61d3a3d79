// SPDX-License-Identifier: GPL-3.0-or-later
// What a filter finds in a network. A condition is asked of what has the field; where it
// is asked of something that has not, those it belongs to answer: of a port its device, of
// a link or cable the devices at its ends (one is enough), of a group the devices in it.
#pragma once
#include "core/find/filter.h"
#include "core/linking/rules.h"
#include "core/model/network.h"

#include <set>
#include <unordered_map>
#include <unordered_set>
#include <variant>

namespace underridge::find {

/// What the checks say of objects, for `finding:`.
class Findings {
public:
    Findings() = default;
    explicit Findings(const std::vector<linking::Finding>& all);

    const std::set<const linking::Rule*>& of(model::ObjectRef object) const;

    /// Calls `each(id, rules)` for every object something is said of, in no order.
    template <class Each>
    void forEach(Each&& each) const {
        for (const auto& [id, rules] : byObject_)
            each(id, rules);
    }

    bool operator==(const Findings&) const = default;

private:
    std::unordered_map<std::uint64_t, std::set<const linking::Rule*>> byObject_;
};

class Matcher {
public:
    /// All three must outlive it. Without findings, `finding:` finds nothing. May be asked
    /// from several threads.
    Matcher(const model::Network& network, const Filter& filter, const Findings* findings = nullptr);

    /// Of a device, group, link, cable, port (PortRef), VLAN, subnet or sheet.
    template <class Record>
    bool matches(const Record& record) const {
        return holds(filter_.term(), Subject(&record));
    }

    /// All devices that match, by id; looks at several side by side.
    std::vector<model::DeviceId> devices() const;

private:
    /// What a condition is asked of.
    using Subject =
        std::variant<const model::Device*, const model::Group*, const model::Link*, const model::Cable*,
                     const model::PortRef*, const model::Vlan*, const model::Subnet*, const model::Sheet*>;
    bool holds(const Term& term, const Subject& subject) const;
    bool holds(const Condition& condition, const Subject& subject) const;
    bool positive(const Condition& condition, const Subject& subject) const;

    bool asked(const Condition& condition, const model::Device& device) const;
    bool asked(const Condition& condition, const model::Group& group) const;
    bool asked(const Condition& condition, const model::Link& link) const;
    bool asked(const Condition& condition, const model::Cable& cable) const;
    bool asked(const Condition& condition, const model::PortRef& port) const;
    bool asked(const Condition& condition, const model::Vlan& vlan) const;
    bool asked(const Condition& condition, const model::Subnet& subnet) const;
    bool asked(const Condition& condition, const model::Sheet& sheet) const;
    bool ofInterface(const Condition& condition, const model::Interface& interface) const;
    bool ofState(const std::string& state, const model::Device& device) const;
    void findGroupsFor(const Term& term);
    bool isVlan(const Condition& condition, model::VlanId id) const;
    bool isInVlan(const Condition& condition, const model::Device& device) const;
    bool isIn(const Condition& condition, model::GroupId group) const;
    bool hasFinding(const Condition& condition, model::ObjectRef object) const;
    bool anyIn(const Condition& condition, model::GroupId group) const;

    const model::Network& network_;
    const Filter& filter_;
    const Findings& findings_;
    std::vector<const model::Subnet*> subnets_;
    std::vector<model::Sheet> sheets_;
    std::vector<const model::Service*> services_;
    /// For each condition on the group something is in: the groups that would do.
    std::unordered_map<const Condition*, std::unordered_set<std::uint64_t>> inside_;
};

/// Values that begin as what is typed, for the field at the cursor, from what the network
/// has; at most 12. `further`: rules beside those of linking that findings may be by.
std::vector<Completion> completions(const model::Network& network, std::string_view text, std::size_t cursor,
                                    std::span<const linking::Rule> further = {});

} // namespace underridge::find
