// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/find/search.h"

#include "core/base/text.h"
#include "core/model/ports.h"

#include <algorithm>
#include <array>

namespace underridge::find {
using namespace model;
namespace {

bool isWordLetter(char c) {
    return (c >= 'a' && c <= 'z') || (c >= '0' && c <= '9') || static_cast<unsigned char>(c) >= 0x80;
}

int rankOf(std::string_view low, std::string_view wanted, std::size_t at) {
    if (at == 0)
        return low.size() == wanted.size() ? 0 : 1;
    return isWordLetter(low[at - 1]) ? 3 : 2;
}

/// Keeps the best: as many of each rank as could be shown.
class Best {
public:
    /// `make` is asked only where there is room.
    template <class Make>
    void add(int rank, Make make) {
        ++all_;
        auto& those = byRank_[static_cast<std::size_t>(rank)];
        if (those.size() < mostFound) {
            those.push_back(make());
            those.back().rank = rank;
        }
    }
    FoundIn take() {
        FoundIn out;
        out.all = all_;
        for (auto& those : byRank_) {
            std::stable_sort(those.begin(), those.end(),
                             [](const Found& a, const Found& b) { return naturalLess(a.text, b.text); });
            for (Found& found : those)
                if (out.best.size() < mostFound)
                    out.best.push_back(std::move(found));
        }
        return out;
    }

private:
    std::array<std::vector<Found>, 4> byRank_;
    std::size_t all_ = 0;
};

} // namespace

TextIndex::TextIndex(const Network& network) : of_(network) {
    whole_.reserve(network.all<Device>().size() * 48);
    addDevices(network);
    network.all<Group>().forEach(
        [&](const Group& group) { add(Section::groups, refTo(group.id), group.name); });
    network.all<Interface>().forEach([&](const Interface& interface) {
        for (const Address& address : interface.addresses)
            add(Section::addresses, refTo(interface.device), address.text());
        if (const std::string digits = macDigits(interface.mac); !digits.empty())
            macs_.push_back({digits, interface.device});
    });
    network.all<Link>().forEach([&](const Link& link) {
        const Cable* cable = network.cable(link.cable);
        if (cable && !cable->label.empty())
            add(Section::cables, refTo(link.id), cable->label);
    });
    network.all<Vlan>().forEach([&](const Vlan& vlan) {
        add(Section::vlans, {Kind::vlan, vlan.id.value},
            vlan.name.empty() ? std::to_string(vlan.number)
                              : std::to_string(vlan.number) + " · " + vlan.name);
    });
    network.all<Subnet>().forEach([&](const Subnet& subnet) {
        add(Section::vlans, {Kind::subnet, subnet.id.value},
            subnet.name.empty() ? subnet.prefix.text() : subnet.prefix.text() + " · " + subnet.name);
    });
    network.all<Note>().forEach(
        [&](const Note& note) { add(Section::notes, refTo(note.id), note.text.view()); });
    network.all<CableRoute>().forEach(
        [&](const CableRoute& route) { add(Section::cables, refTo(route.id), route.name); });
    for (const Sheet& sheet : network.sheetsInOrder())
        add(Section::sheets, {Kind::sheet, sheet.id.value}, sheet.name);
    low_ = lowered(whole_);
}

bool TextIndex::isOf(const Network& network) const {
    const auto same = [&]<class... Records>(std::type_identity<Records>...) {
        return ((of_.all<Records>() == network.all<Records>()) && ...);
    };
    // Where things are drawn is not looked for.
    return same(std::type_identity<Device>(), std::type_identity<DeviceModel>(), std::type_identity<Group>(),
                std::type_identity<Interface>(), std::type_identity<Port>(), std::type_identity<Link>(),
                std::type_identity<Cable>(), std::type_identity<Vlan>(), std::type_identity<Subnet>(),
                std::type_identity<Note>(), std::type_identity<CableRoute>(), std::type_identity<Sheet>());
}

void TextIndex::add(Section section, ObjectRef object, std::string_view text, const std::string& port) {
    if (text.empty() || whole_.size() > 0xF0000000U)
        return;
    Entry entry{static_cast<std::uint32_t>(whole_.size()), section, object, 0};
    if (!port.empty()) {
        keys_.push_back(port);
        entry.port = static_cast<std::uint32_t>(keys_.size());
    }
    entries_.push_back(entry);
    for (const char c : text)
        whole_ += c == '\n' || c == '\r' ? ' ' : c;
    whole_ += '\n';
}

void TextIndex::addDevices(const Network& network) {
    network.all<Device>().forEach([&](const Device& device) {
        const auto more = [&](std::string_view text) { add(Section::devices, refTo(device.id), text); };
        more(device.name);
        more(device.serial);
        more(device.note.view());
        for (const FittedModule& module : device.modules)
            more(module.serial);
        for (const FittedTransceiver& transceiver : device.transceivers)
            more(transceiver.serial);
        for (const Chassis& chassis : device.stack)
            more(chassis.serial);
        for (const auto& [name, value] : device.attributes)
            more(name + ": " + value);
        const Role role = roleOf(network, device);
        if (role == Role::outlet || role == Role::patchPanel)
            addPorts(network, device);
    });
    network.all<Port>().forEach([&](const Port& port) {
        const ObjectRef device = refTo(port.device);
        add(Section::ports, device, port.label, port.port);
        add(Section::ports, device, port.note, port.port);
    });
}

/// The ports of a panel or outlet go by the name of what they are in: "Q.014 2".
void TextIndex::addPorts(const Network& network, const Device& device) {
    const bool outlet = roleOf(network, device) == Role::outlet;
    for (const PortView& port : portsOf(network, device))
        if (!outlet || port.like->block == Block::front)
            add(Section::ports, refTo(device.id), device.name + " " + port.key, port.key);
}

std::string_view TextIndex::textOf(std::size_t entry) const {
    const std::size_t from = entries_[entry].at;
    const std::size_t to = entry + 1 < entries_.size() ? entries_[entry + 1].at : whole_.size();
    return std::string_view(whole_).substr(from, to - from - 1);
}

std::vector<FoundIn> TextIndex::search(std::string_view query) const {
    std::array<Best, sectionCount> best;
    const std::string low = lowered(trimmed(query));
    auto words = splitWords(low);
    std::sort(words.begin(), words.end(),
              [](const std::string& a, const std::string& b) { return a.size() > b.size(); });
    const auto take = [&](std::size_t index, int rank) {
        const Entry& entry = entries_[index];
        best[static_cast<std::size_t>(entry.section)].add(rank, [&] {
            Found found;
            found.text = textOf(index);
            if (entry.section == Section::sheets)
                found.sheet = SheetId{entry.object.id};
            else
                found.object = entry.object;
            if (entry.port > 0)
                found.port = {DeviceId{entry.object.id}, keys_[entry.port - 1]};
            return found;
        });
    };
    // The longest word is looked for in all texts at once, the others where it was found. The next
    // is often in one of the next texts.
    constexpr std::ptrdiff_t near = 8;
    auto next = entries_.begin(); // the one after
    for (std::size_t at = words.empty() ? std::string::npos : low_.find(words.front());
         at != std::string::npos;) {
        const auto isAfter = [](std::size_t where, const Entry& e) { return where < e.at; };
        const auto soon = entries_.end() - next > near ? next + near : entries_.end();
        next = soon == entries_.end() || isAfter(at, *soon)
                   ? std::upper_bound(next, soon, at, isAfter)
                   : std::upper_bound(soon, entries_.end(), at, isAfter);
        const auto index = static_cast<std::size_t>(next - entries_.begin()) - 1;
        const std::size_t from = entries_[index].at, size = textOf(index).size();
        const std::string_view text = std::string_view(low_).substr(from, size);
        if (std::all_of(words.begin() + 1, words.end(),
                        [&](const std::string& word) { return text.find(word) != std::string_view::npos; }))
            take(index, words.size() == 1 || text.find(low) != std::string_view::npos
                            ? rankOf(text, low, text.find(low))
                            : 3);
        at = low_.find(words.front(), from + size + 1);
    }
    const Address prefix(low);
    if (prefix.valid() && prefix.prefixLength() >= 0)
        for (std::size_t i = 0; i < entries_.size(); ++i)
            if (entries_[i].section == Section::addresses) {
                const std::string_view text = textOf(i);
                if (text != low && prefix.contains(Address(Address(text).host())))
                    take(i, 3);
            }
    if (const std::string digits = macDigits(low); digits.size() >= 4)
        for (const Mac& mac : macs_)
            if (const auto at = mac.digits.find(digits); at != std::string::npos) {
                best[static_cast<std::size_t>(Section::addresses)].add(rankOf(mac.digits, digits, at), [&] {
                    std::string shown;
                    for (std::size_t i = 0; i < mac.digits.size(); i += 2)
                        shown += (i ? ":" : "") + mac.digits.substr(i, 2);
                    return Found{refTo(mac.device), {}, {}, shown, 0};
                });
            }
    std::vector<FoundIn> out;
    for (Best& section : best)
        out.push_back(section.take());
    return out;
}

} // namespace underridge::find
