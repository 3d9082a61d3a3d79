// SPDX-License-Identifier: GPL-3.0-or-later
// Looking for words in everything a network has: names, addresses, MAC addresses, serial
// numbers, notes, labels. Ranked in sections, so that none crowds out another.
#pragma once
#include "core/find/filter.h"
#include "core/model/network.h"

namespace underridge::find {

enum class Section { devices, groups, ports, addresses, cables, vlans, notes, sheets };
inline constexpr int sectionCount = 8;

/// One find: what is shown when it is chosen, and why it was found.
struct Found {
    model::ObjectRef object; ///< none for a sheet
    model::PortRef port;     ///< known for a port
    model::SheetId sheet;    ///< of a sheet
    std::string text;        ///< what the words were found in
    int rank = 0;            ///< 0: the whole text, 1: its start, 2: the start of a word, 3: any part
};

struct FoundIn {
    std::vector<Found> best; ///< at most mostFound, the best first, then in natural order
    std::size_t all = 0;     ///< how many there are
};
inline constexpr std::size_t mostFound = 200;

/// The texts of a network in one run, so that looking through them takes a few
/// milliseconds however many there are. Made anew when the network has changed.
class TextIndex {
public:
    TextIndex() = default;
    explicit TextIndex(const model::Network& network);

    /// Whether it is of this very value.
    bool isOf(const model::Network& network) const;

    /// What holds every word, not regarding case; by section. A prefix (10.84.20.0/24)
    /// finds the addresses in it, four or more digits of a MAC address find it in any
    /// notation.
    std::vector<FoundIn> search(std::string_view words) const;

private:
    struct Entry {
        std::uint32_t at = 0; ///< where its text begins
        Section section = Section::devices;
        model::ObjectRef object;
        std::uint32_t port = 0; ///< in keys_, from 1
    };
    void add(Section section, model::ObjectRef object, std::string_view text, const std::string& port = {});
    void addDevices(const model::Network& network);
    void addPorts(const model::Network& network, const model::Device& device);
    std::string_view textOf(std::size_t entry) const;

    model::Network of_;
    std::string whole_; ///< as written, each text ended by a line feed
    std::string low_;   ///< the same in lower case
    std::vector<Entry> entries_;
    std::vector<std::string> keys_;
    struct Mac {
        std::string digits;
        model::DeviceId device;
    };
    std::vector<Mac> macs_;
};

} // namespace underridge::find
