// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/catalogue.h"

#include <charconv>
#include <fmt/format.h>
#include <set>

namespace underridge::model {
namespace {

constexpr int maxPorts = 4096;

struct Numbered {
    std::string prefix;
    int number = 0;
    bool ok = false;
};

Numbered numbered(std::string_view text) {
    const auto last = text.find_last_not_of("0123456789");
    const std::size_t start = last == std::string_view::npos ? 0 : last + 1;
    Numbered out{std::string(text.substr(0, start)), 0, false};
    const auto digits = text.substr(start);
    const auto [end, code] = std::from_chars(digits.data(), digits.data() + digits.size(), out.number);
    out.ok = code == std::errc() && end == digits.data() + digits.size();
    return out;
}

template <class Entry>
const Entry* byId(const std::vector<Entry>& entries, std::string_view id) {
    const auto at = std::find_if(entries.begin(), entries.end(), [&](const Entry& e) { return e.id == id; });
    return at == entries.end() ? nullptr : &*at;
}

void checkId(const std::string& id, const std::string& name, std::vector<Remark>& out) {
    const bool good =
        !id.empty() && id.find_first_not_of("abcdefghijklmnopqrstuvwxyz0123456789-") == std::string::npos;
    if (!good)
        out.push_back(error("the id may hold only lower-case letters, digits and hyphens", "rename it",
                            {{}, 0, 0, id}));
    if (name.empty())
        out.push_back(error("the name is missing", "give it one", {{}, 0, 0, id}));
}

void checkPorts(const std::string& id, const std::vector<PortBlock>& blocks, std::vector<Remark>& out) {
    const Where where{{}, 0, 0, id};
    std::set<std::string> seen;
    for (const PortBlock& block : blocks) {
        const auto keys = expandKeys(block.keys);
        if (!keys) {
            out.push_back(error(keys.refusal().what, keys.refusal().remedy, where));
            continue;
        }
        for (const std::string& key : *keys)
            if (!seen.insert(key).second)
                out.push_back(
                    error(fmt::format("port {} is there twice", key), "give each port its own key", where));
        if (block.use == PortUse::data && block.connector == Connector::none && block.cage == Cage::none &&
            block.media.empty())
            out.push_back(error(fmt::format("ports {} have neither connector nor cage", block.keys),
                                "state one", where));
        if (!std::is_sorted(block.rates.begin(), block.rates.end()))
            out.push_back(error(fmt::format("the rates of ports {} are not ascending", block.keys),
                                "sort them", where));
        if (!(block.lossDb >= 0 && block.lossDb <= 100))
            out.push_back(error(fmt::format("the loss of ports {} is not between 0 and 100 dB", block.keys),
                                "correct it", where));
        const bool singlePair = !block.media.empty() && block.media.front() == Medium::singlePair;
        if (block.power != PowerSide::none && !block.passivePower && !singlePair &&
            (block.powerType < 1 || block.powerType > 4))
            out.push_back(
                error(fmt::format("ports {} have no power Type from 1 to 4", block.keys), "state it", where));
    }
}

void append(std::vector<Remark>& to, std::vector<Remark> from) {
    to.insert(to.end(), std::make_move_iterator(from.begin()), std::make_move_iterator(from.end()));
}

template <class Entry>
void checkAll(const std::vector<Entry>& entries, std::vector<Remark>& out) {
    std::set<std::string> ids;
    for (const Entry& entry : entries) {
        append(out, problemsOf(entry));
        if (!ids.insert(entry.id).second)
            out.push_back(error("the id is there twice", "rename one", {{}, 0, 0, entry.id}));
    }
}

} // namespace

PortLayout::PortLayout(std::vector<PortBlock> blocks) {
    auto held = std::make_shared<Held>();
    for (const PortBlock& block : blocks) {
        const auto keys = expandKeys(block.keys);
        if (!keys)
            continue;
        int number = 0;
        for (const std::string& key : *keys) {
            held->specs.push_back({key, block, number++});
            held->specs.back().like.keys.clear();
        }
    }
    held->blocks = std::move(blocks);
    held_ = std::move(held);
}

const std::vector<PortBlock>& PortLayout::blocks() const {
    static const std::vector<PortBlock> none;
    return held_ ? held_->blocks : none;
}

const PortSpecs& PortLayout::specs() const {
    static const PortSpecs none;
    return held_ ? held_->specs : none;
}

const PortSpec* PortLayout::find(std::string_view key) const {
    const auto& all = specs();
    const auto at =
        std::find_if(all.begin(), all.end(), [&](const PortSpec& spec) { return spec.key == key; });
    return at == all.end() ? nullptr : &*at;
}

const DeviceModel* Catalogue::device(std::string_view id) const {
    return byId(devices, id);
}
const ModuleModel* Catalogue::module(std::string_view id) const {
    return byId(modules, id);
}
const TransceiverModel* Catalogue::transceiver(std::string_view id) const {
    return byId(transceivers, id);
}
const CableType* Catalogue::cable(std::string_view id) const {
    return byId(cables, id);
}

Result<std::vector<std::string>> expandKeys(std::string_view keys) {
    std::vector<std::string> out;
    while (!keys.empty()) {
        const auto comma = keys.find(',');
        const std::string part = trimmed(keys.substr(0, comma));
        keys = comma == std::string_view::npos ? std::string_view() : keys.substr(comma + 1);
        const auto dash = part.find('-', 1);
        if (part.empty())
            return error("a port key is empty", "write keys such as 1-24 or X1-X4");
        if (dash == std::string::npos) {
            out.push_back(part);
            continue;
        }
        const Numbered from = numbered(std::string_view(part).substr(0, dash));
        const Numbered to = numbered(std::string_view(part).substr(dash + 1));
        if (!from.ok || !to.ok || from.prefix != to.prefix || to.number < from.number ||
            to.number - from.number >= maxPorts)
            return error(fmt::format("{} is not a range of port keys", part), "write it as 1-24 or X1-X4");
        for (int i = from.number; i <= to.number; ++i)
            out.push_back(from.prefix + std::to_string(i));
        if (out.size() > maxPorts)
            return error(fmt::format("more than {} ports", maxPorts), "use fewer ports");
    }
    return out;
}

std::string rateText(int mbps) {
    if (mbps >= 1000)
        return mbps % 1000 == 0 ? fmt::format("{}G", mbps / 1000) : fmt::format("{:.1f}G", mbps / 1000.0);
    return fmt::format("{}M", mbps);
}

std::string speedText(int mbps) {
    if (mbps >= 1000)
        return mbps % 1000 == 0 ? fmt::format("{} Gbit/s", mbps / 1000)
                                : fmt::format("{:.1f} Gbit/s", mbps / 1000.0);
    return fmt::format("{} Mbit/s", mbps);
}

std::string portSummary(const DeviceModel& model) {
    std::string out;
    const auto add = [&](const std::string& part) { out += (out.empty() ? "" : ", ") + part; };
    for (const PortBlock& block : model.ports.blocks()) {
        if (block.use != PortUse::data || block.block == Block::management)
            continue;
        const auto keys = expandKeys(block.keys);
        const std::string_view form = block.cage != Cage::none             ? titleOf(block.cage)
                                      : block.connector != Connector::none ? titleOf(block.connector)
                                      : block.media.empty()                ? titleOf(block.connector)
                                                                           : titleOf(block.media.front());
        std::string part = fmt::format("{} × {}", keys ? keys->size() : 0, form);
        if (block.block == Block::rear)
            part += " rear";
        if (!block.rates.empty())
            part += " " + rateText(block.rates.back());
        if (block.power == PowerSide::source)
            part += fmt::format(" PoE Type {}", block.powerType);
        add(part);
    }
    if (!model.slots.empty())
        add(fmt::format("{} slot{}", model.slots.size(), model.slots.size() == 1 ? "" : "s"));
    return out.empty() ? "no ports" : out;
}

DeviceModel modelForRole(Role role) {
    DeviceModel model;
    model.id = fmt::format("{}-not-known", textOf(role));
    model.name = std::string(titleOf(role)) + ", model not known";
    if (!model.name.empty() && model.name[0] >= 'a' && model.name[0] <= 'z')
        model.name[0] = static_cast<char>(model.name[0] - 'a' + 'A');
    model.role = role;
    return model;
}

std::vector<Remark> problemsOf(const DeviceModel& model) {
    std::vector<Remark> out;
    checkId(model.id, model.name, out);
    if (model.watts < 0 || model.ratingWatts < 0 || !(model.weightKg >= 0))
        out.push_back(error("power or weight is less than nothing", "correct it", {{}, 0, 0, model.id}));
    checkPorts(model.id, model.ports.blocks(), out);
    std::set<std::string> slots;
    for (const Slot& slot : model.slots)
        if (slot.key.empty() || !slots.insert(slot.key).second)
            out.push_back(
                error("a slot has no key of its own", "give each slot its own key", {{}, 0, 0, model.id}));
    return out;
}

std::vector<Remark> problemsOf(const ModuleModel& model) {
    std::vector<Remark> out;
    checkId(model.id, model.name, out);
    checkPorts(model.id, model.ports.blocks(), out);
    return out;
}

std::vector<Remark> problemsOf(const TransceiverModel& model) {
    std::vector<Remark> out;
    checkId(model.id, model.name, out);
    if (model.cage == Cage::none)
        out.push_back(error("the cage it goes into is missing", "state it", {{}, 0, 0, model.id}));
    if (model.rate <= 0)
        out.push_back(error("the rate is missing", "state it in Mbit/s", {{}, 0, 0, model.id}));
    else if (!std::is_sorted(model.lowerRates.begin(), model.lowerRates.end()) ||
             (!model.lowerRates.empty() &&
              (model.lowerRates.front() <= 0 || model.lowerRates.back() >= model.rate)))
        out.push_back(
            error("the lower rates are not ascending and below the rate", "sort them", {{}, 0, 0, model.id}));
    if (!(model.lossDb >= 0 && model.lossDb <= 100) || !(model.minLossDb >= 0 && model.minLossDb <= 100))
        out.push_back(error("a loss is not between 0 and 100 dB", "correct it", {{}, 0, 0, model.id}));
    return out;
}

std::vector<Remark> problemsOf(const CableType& type) {
    std::vector<Remark> out;
    checkId(type.id, type.name, out);
    if (type.medium == Medium::unknown)
        out.push_back(error("the medium is missing", "state it", {{}, 0, 0, type.id}));
    const bool hex = type.jacket.size() == 7 && type.jacket[0] == '#' &&
                     type.jacket.find_first_not_of("0123456789abcdefABCDEF", 1) == std::string::npos;
    if (!hex)
        out.push_back(
            error("the jacket colour is not of the form #RRGGBB", "correct it", {{}, 0, 0, type.id}));
    if (type.farEnds < 1 || type.farEnds > 12)
        out.push_back(error("an assembly has 1 to 12 far ends", "correct it", {{}, 0, 0, type.id}));
    if (!(type.diameterMm >= 0 && type.diameterMm <= 200))
        out.push_back(error("the diameter is not between 0 and 200 mm", "correct it", {{}, 0, 0, type.id}));
    if (!std::is_sorted(type.lengthsMm.begin(), type.lengthsMm.end()) ||
        (!type.lengthsMm.empty() && type.lengthsMm.front() <= 0))
        out.push_back(error("the lengths are not ascending", "put the shortest first", {{}, 0, 0, type.id}));
    return out;
}

double diameterOf(const CableType& type) {
    if (type.diameterMm > 0)
        return type.diameterMm;
    switch (type.medium) {
    case Medium::twistedPair:
        return 7.2;
    case Medium::singleMode:
    case Medium::multimode:
        return type.positions <= 2 ? 3.0 : type.positions <= 12 ? 3.6 : 8.5;
    case Medium::coax:
        return 5.4;
    case Medium::directAttach:
        return 6.0;
    case Medium::activeOptical:
        return 3.0;
    default:
        return 5.0;
    }
}

std::vector<int> ratesOf(const TransceiverModel& model) {
    std::vector<int> rates = model.lowerRates;
    rates.push_back(model.rate);
    return rates;
}

bool isFibre(Medium medium) {
    return medium == Medium::singleMode || medium == Medium::multimode;
}

bool isArray(Connector connector) {
    return connector == Connector::mpo || connector == Connector::mpo16;
}

bool isMains(Connector connector) {
    return mateOf(connector) != connector;
}

Connector mateOf(Connector connector) {
    switch (connector) {
    case Connector::c13:
        return Connector::c14;
    case Connector::c14:
        return Connector::c13;
    case Connector::c19:
        return Connector::c20;
    case Connector::c20:
        return Connector::c19;
    default:
        return connector;
    }
}

std::int64_t stockLength(const CableType& type, std::int64_t mm) {
    if (type.lengthsMm.empty())
        return mm;
    const auto next = std::lower_bound(type.lengthsMm.begin(), type.lengthsMm.end(), mm);
    return next == type.lengthsMm.end() ? mm : *next;
}

std::vector<Remark> problemsOf(const Catalogue& catalogue) {
    std::vector<Remark> out;
    checkAll(catalogue.devices, out);
    checkAll(catalogue.modules, out);
    checkAll(catalogue.transceivers, out);
    checkAll(catalogue.cables, out);
    for (const DeviceModel& model : catalogue.devices)
        for (const Slot& slot : model.slots)
            for (const std::string& fits : slot.fits)
                if (!catalogue.module(fits))
                    out.push_back(error(
                        fmt::format("slot {} takes module {}, which is not in the catalogue", slot.key, fits),
                        "correct the id", {{}, 0, 0, model.id}));
    return out;
}

int strandsOf(Connector connector) {
    switch (connector) {
    case Connector::lc:
    case Connector::sc:
    case Connector::splice:
        return 2;
    case Connector::mpo:
        return 12;
    case Connector::mpo16:
        return 16;
    default:
        return 1;
    }
}

bool isTrunk(const CableType& cable) {
    return cable.farEnds == 1 && isFibre(cable.medium) && cable.positions > strandsOf(cable.connectorA);
}

} // namespace underridge::model
