// SPDX-License-Identifier: GPL-3.0-or-later
// What a device, module, transceiver or cable is a piece of. A network carries a copy of
// every model it uses; the catalogue that ships with the program is read from the texts
// in model/catalogue/.
#pragma once
#include "core/base/result.h"
#include "core/base/text.h"
#include "core/model/key.h"
#include "core/model/shared_text.h"
#include "core/model/words.h"

#include <memory>
#include <string>
#include <vector>

namespace underridge::model {

/// A run of like ports. `keys` is a comma list of keys and ranges: "1-24", "X1-X4",
/// "con".
struct PortBlock {
    std::string keys;
    Block block = Block::access;
    PortUse use = PortUse::data;
    Connector connector = Connector::none;
    Cage cage = Cage::none;
    std::vector<int> rates; ///< Mbit/s, ascending
    PowerSide power = PowerSide::none;
    int powerType = 0;                             ///< IEEE 802.3 Type 1–4; 0 when there is no power
    int powerClass = -1;                           ///< of a load, 0–8; -1 when not stated
    PowerPairs powerPairs = PowerPairs::notStated; ///< of a source: those it gives power on
    std::vector<Medium> media; ///< of fixed optical or serial ports; empty: follows from the connector
    Side side = Side::front;
    Mdi mdi = Mdi::automatic;        ///< of twisted-pair ports
    bool passivePower = false;       ///< gives or takes power all the time, outside IEEE 802.3
    bool angled = false;             ///< an end face polished at an angle (APC); else flat (UPC)
    bool pinned = false;             ///< of MPO: guide pins in the port (IEC 61754-7)
    Wiring wiring = Wiring::unknown; ///< of insulation displacement contacts
    SerialSide serialSide = SerialSide::unknown;
    int bitRate = 0;      ///< of an asynchronous serial line, bit/s; 0: not stated
    std::string phy;      ///< what the port itself speaks where rates do not tell: 10BASE-T1L
    double lossDb = 0;    ///< of light, in passing a panel here; 0: what a standard connection may lose
    bool flipped = false; ///< of a cassette: its array is turned over (TIA-568.3, method B)

    bool operator==(const PortBlock&) const = default;
};

/// A place for a module.
struct Slot {
    std::string key;
    std::vector<std::string> fits; ///< module model ids
    bool hotSwap = false;

    bool operator==(const Slot&) const = default;
};

/// One port as its model gives it.
struct PortSpec {
    std::string key;
    PortBlock like; ///< keys is empty
    int number = 0; ///< place within its block, from 0
};

using PortSpecs = std::vector<PortSpec>;

/// The ports of a model: its blocks, and the single ports they stand for. Immutable,
/// cheap to copy.
class PortLayout {
public:
    PortLayout() = default;
    PortLayout(std::vector<PortBlock> blocks);

    const std::vector<PortBlock>& blocks() const;
    /// Empty for blocks whose keys cannot be expanded; problemsOf() tells.
    const PortSpecs& specs() const;
    const PortSpec* find(std::string_view key) const;
    bool operator==(const PortLayout& other) const {
        return held_ == other.held_ || blocks() == other.blocks();
    }

private:
    struct Held {
        std::vector<PortBlock> blocks;
        PortSpecs specs;
    };
    std::shared_ptr<const Held> held_;
};

struct DeviceModel {
    static constexpr Kind kind = Kind::deviceModel;
    std::string id; ///< a word in lower case with hyphens, unique in the catalogue
    std::string name;
    Role role = Role::workstation;
    int rackUnits = 0; ///< 0: does not go in a rack
    PortLayout ports;
    std::vector<Slot> slots;
    PortLayout additional; ///< ports that may be added up to additionalMax
    int additionalMax = 0;
    int watts = 0;          ///< drawn at most; 0: not known
    int ratingWatts = 0;    ///< of what feeds others: what it can carry; 0: not known
    double weightKg = 0;    ///< 0: not known
    int depthMm = 0;        ///< behind the rails of a rack; 0: not known
    bool halfWidth = false; ///< it takes half of a rack's width
    int powerBudgetW = 0;   ///< for all ports that give power together
    bool midspan = false;   ///< data passes it between its access and uplink ports in order; power is added
    SharedText extra;       ///< fields this version does not know, a JSON object

    bool operator==(const DeviceModel&) const = default;
    Key key() const { return {fnv1a(id), 0}; }
};

struct ModuleModel {
    static constexpr Kind kind = Kind::moduleModel;
    std::string id;
    std::string name;
    PortLayout ports;
    SharedText extra;

    bool operator==(const ModuleModel&) const = default;
    Key key() const { return {fnv1a(id), 0}; }
};

struct TransceiverModel {
    static constexpr Kind kind = Kind::transceiverModel;
    std::string id;
    std::string name;
    Cage cage = Cage::none;
    Connector connector = Connector::none;
    Medium medium = Medium::unknown;
    int rate = 0;         ///< Mbit/s
    std::string phy;      ///< IEEE 802.3 name, such as 10GBASE-SR
    int wavelengthNm = 0; ///< it sends on; 0 for copper
    int receiveNm = 0;    ///< it receives on, where that is another: one strand for both directions
    std::int64_t reachMm = 0;
    std::vector<int> lowerRates; ///< Mbit/s, ascending: what it runs at beside `rate`
    double lossDb = 0;           ///< of light, at most in the channel; 0: as its PHY says
    double minLossDb = 0;        ///< at least, else the receiver is overloaded; 0: as its PHY says
    bool angled = false;         ///< an end face polished at an angle (APC)
    std::string grid;            ///< of one wavelength of many: "CWDM" (ITU-T G.694.2) or "DWDM" (G.694.1)
    SharedText extra;

    bool operator==(const TransceiverModel&) const = default;
    Key key() const { return {fnv1a(id), 0}; }
};

struct CableType {
    static constexpr Kind kind = Kind::cableType;
    std::string id;
    std::string name;
    Medium medium = Medium::unknown;
    Connector connectorA = Connector::none;
    Connector connectorB = Connector::none;
    Cage cage = Cage::none;  ///< of direct-attach and active optical assemblies: the plug's form
    Cage cageB = Cage::none; ///< of the far ends, where they differ
    int farEnds = 1;         ///< more than one: a breakout assembly
    Pinout pinout = Pinout::straight;
    std::string grade; ///< "Cat 6A", "OM4", "OS2": TIA-568.2, ISO/IEC 11801-1
    int positions = 1; ///< pairs, strands or lanes
    int maxRate = 0;   ///< Mbit/s
    std::int64_t maxLengthMm = 0;
    std::string jacket;                    ///< #RRGGBB; TIA-598 default for fibre
    bool console = false;                  ///< meant for console ports
    bool angledA = false, angledB = false; ///< end faces polished at an angle (APC)
    bool pinnedA = false, pinnedB = false; ///< of MPO: guide pins in the plug
    std::vector<std::int64_t> lengthsMm;   ///< it can be had in, ascending; empty: cut to length
    int amperes = 0;                       ///< of mains cords: what it may carry (IEC 60320); 0: not known
    double diameterMm = 0;                 ///< outside; 0: as is usual for its medium
    bool approved = true;                  ///< may be chosen for a person
    bool installed = false;                ///< solid cable for fixed routes; else a cord, stranded
    bool socketA = false, socketB = false; ///< of serial cables: the end is a socket, not a plug
    SharedText extra;

    bool operator==(const CableType&) const = default;
    Key key() const { return {fnv1a(id), 0}; }
};

/// The next length a type can be had in, in millimetres; the length itself when it is
/// cut, or longer than all.
std::int64_t stockLength(const CableType& type, std::int64_t mm);

/// The outside diameter in millimetres: its own, else what is usual for its medium.
double diameterOf(const CableType& type);

/// All rates of a transceiver, Mbit/s, ascending.
std::vector<int> ratesOf(const TransceiverModel& model);

/// Whether light goes through it.
bool isFibre(Medium medium);
/// Whether a connector holds an array of fibres, with guide pins on one side (IEC 61754-7).
bool isArray(Connector connector);
/// Whether it is one of the mains (IEC 60320).
bool isMains(Connector connector);
/// Of a mains connector the one it goes together with; else itself.
Connector mateOf(Connector connector);

/// What one connection over a cable may run at, Mbit/s: each far end of a breakout
/// assembly has its share.
inline int connectionRate(const CableType& type) {
    return type.maxRate / type.farEnds;
}

/// Everything one can choose from, in the order it is shown.
struct Catalogue {
    std::vector<DeviceModel> devices;
    std::vector<ModuleModel> modules;
    std::vector<TransceiverModel> transceivers;
    std::vector<CableType> cables;

    const DeviceModel* device(std::string_view id) const;
    const ModuleModel* module(std::string_view id) const;
    const TransceiverModel* transceiver(std::string_view id) const;
    const CableType* cable(std::string_view id) const;
};

/// "1-24" → 1 … 24, "X1-X4,con" → X1 … X4, con. Refuses an empty or turned-round range
/// and more than 4,096 ports.
Result<std::vector<std::string>> expandKeys(std::string_view keys);

/// "24 × RJ45 1G PoE Type 2, 4 × SFP+ 10G, 2 slots".
std::string portSummary(const DeviceModel& model);

/// "10M", "1G", "2.5G" for a rate in Mbit/s.
std::string rateText(int mbps);
/// "1 Gbit/s".
std::string speedText(int mbps);

/// The model of a device of which only the role is known.
DeviceModel modelForRole(Role role);

/// What is wrong with a model, if anything: one remark each.
std::vector<Remark> problemsOf(const DeviceModel& model);
std::vector<Remark> problemsOf(const ModuleModel& model);
std::vector<Remark> problemsOf(const TransceiverModel& model);
std::vector<Remark> problemsOf(const CableType& type);
/// The same for a whole catalogue, with what one entry says of another.
std::vector<Remark> problemsOf(const Catalogue& catalogue);

/// Strands a fibre port takes: a pair, or twelve of an array (IEC 61754-7). 1 for
/// anything else.
int strandsOf(Connector connector);

/// Whether a cable carries more than one connection, between panels.
bool isTrunk(const CableType& cable);

} // namespace underridge::model
