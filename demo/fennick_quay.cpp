// SPDX-License-Identifier: GPL-3.0-or-later
// The ferry terminal Fennick Quay and its island end, Skarn Pier: an invented place.
#include "core/edit/sheets.h"
#include "core/model/ports.h"
#include "core/model/standing.h"
#include "core/scene/lines.h"
#include "core/scene/plates.h"
#include "demo/fennick_forwarding.h"
#include "demo/floor_plan.h"
#include "demo/maker.h"

#include <cmath>
#include <fmt/format.h>
#include <set>

namespace underridge::demo {
using namespace model;
namespace {

constexpr int pitch = 62; ///< between plates that stand under one another
constexpr int rackTop = -150, rackPitch = 58;
constexpr int panelRow = 590, distRow = 720, accessRow = 900; ///< of the floors
constexpr int aroundGroup = 48;                               ///< room for its border and title
constexpr int underPanel = 110;                               ///< from an access switch to its panel

/// Where something stands on its floor, in metres.
struct Spot {
    double x = 0, y = 0;
};

/// Something that hangs on an access switch.
struct Leaf {
    const char* model;
    std::string name;
    int vlan = 0;
    int metres = 20;
    GroupId group = {};
};

class FennickQuay {
public:
    FennickQuay() : m_("Fennick Quay", 8410) {}

    void make(const std::string& folder) {
        m_.renameSheet("Whole port");
        m_.showGroups(m_.sheet(), false); // tiers across all floors
        groups();
        vlans();
        backbone();
        floors();
        desks();
        outbuildings();
        skarnPier();
        power();
        notes();
        services();
        m_.acts(fennickForwarding(m_.network()));
        furtherSheets();
        siteOverview();
        m_.filter(m_.copySheet("Video only"), "vlan:20", true);
        m_.orderSheets({"Whole port", "Site overview", "Concourse", "Quay level", "Control floor", "Racks",
                        "Routing", "Video only"});
        m_.acts(R"({"act":"lines","style":"axes","sheet":"Routing"}
{"act":"sheet","name":"Data link","layer":"data-link"}
{"act":"overlay","overlays":["tree"],"sheet":"Data link"}
{"act":"sheet","name":"Subnets","layer":"network"}
{"act":"lines","style":"axes","sheet":"Subnets"})");
        m_.save(folder + "/fennick-quay.underridge");
        m_.acts(fennickMistakes());
        m_.save(folder + "/fennick-quay-as-found.underridge");
    }

private:
    // --- what the place is -----------------------------------------------------

    void groups() {
        using Kind = GroupKind;
        fennick_ = m_.group("Fennick Quay", Kind::site);
        skarn_ = m_.group("Skarn Pier", Kind::site);
        const GroupId terminal = m_.group("Terminal building", Kind::building, fennick_);
        quay_ = m_.group("Quay level", Kind::floor, terminal);
        concourse_ = m_.group("Concourse", Kind::floor, terminal);
        control_ = m_.group("Control floor", Kind::floor, terminal);
        m_.setLevel(concourse_, 1);
        m_.setLevel(control_, 2);
        lanes_ = m_.group("Vehicle lanes", Kind::room, quay_);
        hall_ = m_.group("Waiting hall", Kind::room, concourse_);
        shops_ = m_.group("Shops", Kind::room, concourse_);
        vessel_ = m_.group("Vessel traffic room", Kind::room, control_);
        offices_ = m_.group("Offices", Kind::room, control_);
        const GroupId comms = m_.group("Main comms room", Kind::room, control_);
        rack1_ = m_.group("R1", Kind::rack, comms);
        rack2_ = m_.group("R2", Kind::rack, comms);
        m_.shape(terminal, [](Group& g) {
            g.risers = {{"North riser", 18'000, 4'000}, {"South riser", 52'000, 20'000}};
        });
        m_.shape(concourse_, [](Group& g) { g.heightMm = 5'000; });
        m_.shape(control_, [](Group& g) { g.heightMm = 10'000; });
        for (const GroupId rack : {rack1_, rack2_})
            m_.shape(rack, [&](Group& g) {
                g.rackUnits = 42;
                g.xMm = rack == rack1_ ? 20'000 : 22'000;
                g.yMm = 6'000;
            });
        gatehouse_ = outbuilding("Gatehouse", fennick_);
        workshop_ = outbuilding("Workshop", fennick_);
        mast_ = outbuilding("Radar mast", fennick_);
        pier_ = outbuilding("Pier office", skarn_);
        ramp_ = outbuilding("Ramp cabin", skarn_);
        providers_ = m_.group("Providers", Kind::cluster);
    }

    /// A building of one floor; gives the floor.
    GroupId outbuilding(const std::string& name, GroupId site) {
        const GroupId building = m_.group(name, GroupKind::building, site);
        outbuildings_.push_back(building);
        return m_.group(name + ", ground", GroupKind::floor, building);
    }

    void vlans() {
        const std::pair<int, const char*> list[] = {{10, "tickets"},   {20, "video"},    {30, "operations"},
                                                    {40, "voice"},     {50, "visitors"}, {60, "plant"},
                                                    {99, "management"}};
        here_[70] = m_.vlan(70, "transfer", fennick_);
        m_.subnet("10.84.70.0/28", "transfer to Skarn Pier", here_[70]);
        for (const auto& [number, name] : list) {
            here_[number] = m_.vlan(number, name, fennick_);
            there_[number] = m_.vlan(number, name, skarn_);
            m_.subnet(fmt::format("10.84.{}.0/24", number), fmt::format("{}, Fennick Quay", name),
                      here_[number]);
            m_.subnet(fmt::format("10.84.{}.0/24", 100 + number), fmt::format("{}, Skarn Pier", name),
                      there_[number]);
        }
    }

    // --- building blocks -------------------------------------------------------

    DeviceId add(const char* model, const std::string& name, Point at, GroupId group, int host = 0) {
        const std::string address = host > 0 ? fmt::format("10.84.99.{}/24", host) : std::string();
        const DeviceId id = m_.add(model, name, at, address, group);
        named_[name] = id;
        return id;
    }

    LinkId join(linking::End a, linking::End b, int metres, const char* cable = "") {
        return m_.link(a, b, {metres, fmt::format("FQ-{:03}", ++labels_), cable});
    }

    void bend(LinkId link, std::vector<Point> points) { bends_.emplace_back(link, std::move(points)); }

    std::vector<VlanId> all(bool atSkarn = false) const {
        std::vector<VlanId> ids;
        for (const auto& [number, id] : atSkarn ? there_ : here_)
            ids.push_back(id);
        return ids;
    }

    void uplink(LinkId id, bool atSkarn = false) {
        const Link link = *m_.network().link(id);
        m_.tagged(link.a, all(atSkarn));
        m_.tagged(link.b, all(atSkarn));
    }

    void stand(DeviceId id, GroupId floor, Spot at, double height = 0) {
        const auto mm = [](double m) { return static_cast<std::int64_t>(std::llround(m * 1000)); };
        m_.place(id, {floor, mm(at.x), mm(at.y), mm(height), 0, Side::front});
    }

    static Point shifted(Point p, int x, int y) { return {p.x + x, p.y + y}; }

    /// Hangs leaves in two columns below a switch, or below the panel its ports are
    /// patched to. The line of each runs straight down from its port and then to the
    /// side; the outermost port serves the highest leaf, so that none cross.
    void hang(DeviceId upper, Point corner, const std::vector<Leaf>& left, const std::vector<Leaf>& right,
              int firstRow, bool atSkarn = false, int gap = 150, DeviceId panel = {}) {
        int port = 1;
        const auto put = [&](const Leaf& leaf, int x, int row) {
            const int y = corner.y + firstRow + row * pitch;
            const DeviceId id = add(leaf.model, leaf.name, {x, y}, leaf.group);
            const PortRef at{upper, std::to_string(port++)};
            LinkId link;
            if (panel) {
                join({upper, at.port}, {panel, at.port}, 2);
                link = m_.link({panel, "R" + at.port}, {id, {}},
                               {leaf.metres, fmt::format("H-{:03}", ++installed_), "cat6a-idc-rj45"});
                m_.measured(link, {{"NEXT", 41.5 - 0.05 * leaf.metres, 35.3, "dB"},
                                   {"insertion loss", 0.21 * leaf.metres, 32.1, "dB"}});
                columns_.push_back({link, panel, "R" + at.port, y + 22});
            } else {
                link = join({upper, at.port}, {id, {}}, leaf.metres);
                columns_.push_back({link, upper, at.port, y + 22});
            }
            const int vlan = leaf.vlan;
            if (vlan == 0)
                return;
            m_.access(at, (atSkarn ? there_ : here_).at(vlan));
            m_.address({id, m_.network().link(link)->b.port},
                       fmt::format("10.84.{}.{}/24", vlan + (atSkarn ? 100 : 0),
                                   (vlan == 99 ? 60 : 20) + ++hosts_[vlan + (atSkarn ? 100 : 0)]));
        };
        for (std::size_t i = 0; i < left.size(); ++i)
            put(left[i], corner.x - gap + 20, static_cast<int>(i));
        for (std::size_t i = right.size(); i-- > 0;)
            put(right[i], corner.x + gap, static_cast<int>(i));
    }

    // --- the network -----------------------------------------------------------

    void backbone() {
        carrierA_ = add("provider-fibre", "carrier-a", {780, -120}, providers_);
        carrierB_ = add("provider-copper", "carrier-b", {1180, -120}, providers_);
        rtr1_ = add("border-router", "rtr-1", {780, 20}, rack1_, 1);
        rtr2_ = add("border-router", "rtr-2", {1180, 20}, rack2_, 2);
        fw1_ = add("firewall", "fw-1", {780, 170}, rack1_, 3);
        fw2_ = add("firewall", "fw-2", {1180, 170}, rack2_, 4);
        core1_ = add("core-switch-modular", "core-1", {760, 360}, rack1_, 5);
        core2_ = add("core-switch-modular", "core-2", {1160, 360}, rack2_, 6);
        for (const DeviceId core : {core1_, core2_}) {
            m_.fit(core, "1", "module-24-rj45");
            m_.fit(core, "2", "module-12-sfpp");
        }
        join({rtr1_, "X1"}, {carrierA_, "1"}, 40, "os2-lc-installed");
        join({rtr2_, "1"}, {carrierB_, "1"}, 35);
        route(join({rtr1_, "X2"}, {fw1_, "X1"}, 3), 0);
        route(join({rtr2_, "X1"}, {fw2_, "X1"}, 3), 2);
        route(join({rtr1_, "1"}, {fw2_, "1"}, 8), 4);
        route(join({rtr2_, "2"}, {fw1_, "1"}, 8), 6);
        join({fw1_, "8"}, {fw2_, "8"}, 6);
        route(join({fw1_, "X2"}, {core1_, "2/1"}, 3), 8);
        route(join({fw2_, "X2"}, {core2_, "2/1"}, 3), 10);
        join({core1_, "S1"}, {core2_, "S1"}, 3, "dac-qsfp28");
        join({core1_, "S2"}, {core2_, "S2"}, 3, "dac-qsfp28");
        // Each floor goes to both racks over a trunk cable each, with strands to spare.
        const DeviceId racks[] = {add("fibre-panel-12-om4", "mm-r1", {760, 480}, rack1_),
                                  add("fibre-panel-12-om4", "mm-r2", {1160, 480}, rack2_)};
        for (const int r : {0, 1})
            m_.place(racks[r], {r == 0 ? rack1_ : rack2_, 0, 0, 0, 41, Side::front});
        const char* floors[] = {"dist-quay", "dist-conc", "dist-ctrl"};
        const char* panels[] = {"mm-quay", "mm-conc", "mm-ctrl"};
        const GroupId in[] = {quay_, concourse_, control_};
        const int floorX[] = {190, 1000, 2020};
        const Spot spots[] = {{24, 7}, {26, 9}, {30, 8}};
        for (int i = 0; i < 3; ++i) {
            dist_[i] = add("distribution-switch-24", floors[i], {floorX[i], distRow}, in[i], 11 + i);
            const DeviceId panel = add("fibre-panel-12-om4", panels[i], {floorX[i], panelRow}, in[i]);
            stand(dist_[i], in[i], spots[i], 1.2);
            stand(panel, in[i], spots[i], 1.6);
            for (const int r : {0, 1}) {
                const DeviceId core = r == 0 ? core1_ : core2_;
                const std::string front = std::to_string(i + 1), here = std::to_string(r + 1);
                const auto pair = [&](int k) {
                    return std::pair(PortRef{panel, fmt::format("R{}", 6 * k + r + 1)},
                                     PortRef{racks[r], fmt::format("R{}", 6 * k + i + 1)});
                };
                m_.trunk({pair(0), pair(1)}, "om4-trunk-24", fmt::format("T-{}{}", panels[i] + 3, r + 1));
                join({dist_[i], "X" + here}, {panel, here}, 2, "om4-lc");
                join({core, "X" + front}, {racks[r], front}, 2, "om4-lc");
                m_.tagged({dist_[i], "X" + here}, all());
                m_.tagged({core, "X" + front}, all());
            }
        }
        const std::pair<const char*, int> servers[] = {{"srv-video", 20},
                                                       {"srv-tickets", 10},
                                                       {"srv-vessel", 30},
                                                       {"srv-directory", 30},
                                                       {"srv-backup", 30}};
        for (int i = 0; i < 5; ++i) {
            const auto& [name, vlan] = servers[i];
            const DeviceId id = add(i == 0 ? "video-recorder" : "server", name,
                                    {1540, rackTop + i * rackPitch}, i % 2 ? rack1_ : rack2_);
            const LinkId link = join({id, "X1"}, {core2_, fmt::format("2/{}", 3 + i)}, 4);
            m_.access(m_.network().link(link)->b, here_.at(vlan));
            m_.address({id, "X1"}, fmt::format("10.84.{}.{}/24", vlan, 10 + i));
            rackLine(link, i);
        }
    }

    /// From the top of core-2 up a lane of its own and then to the side.
    void rackLine(LinkId link, int row) {
        const int lane = 1352 + row * 12, y = rackTop + row * rackPitch + 22;
        bend(link, {{lane, y}, {lane, 340}});
    }

    /// A routed link: the two ports share a /31.
    void route(LinkId id, int host) {
        const Link link = *m_.network().link(id);
        m_.address(link.a, fmt::format("10.84.200.{}/31", host));
        m_.address(link.b, fmt::format("10.84.200.{}/31", host + 1));
    }

    DeviceId access(const char* name, const char* model, int x, int floor, GroupId group, int host) {
        const DeviceId id = add(model, name, {x, accessRow}, group, host);
        uplink(join({id, "X1"}, {dist_[floor], {}}, 20, "om4-lc"));
        return id;
    }

    /// The panel below an access switch that the cables of its part of the floor come in
    /// on.
    DeviceId panelOf(const char* name, const char* model, int x, GroupId group) {
        return add(model, name, {x, accessRow + underPanel}, group);
    }

    void floors() {
        const auto q1 = access("acc-q1", "access-switch-24", -40, 0, lanes_, 21);
        const auto pq1 = panelOf("pp-q1", "patch-panel-24", -40, lanes_);
        hang(q1, {45, accessRow + underPanel},
             {{"camera", "cam-lane-1", 20, 60, lanes_},
              {"camera", "cam-lane-2", 20, 70, lanes_},
              {"printer", "print-q1", 30, 25, lanes_},
              {"media-converter", "mc-lane-1", 0, 5, lanes_},
              {"media-converter", "mc-lane-2", 0, 5, lanes_}},
             {{"access-point", "ap-q1", 99, 30, lanes_},
              {"phone", "phone-q1", 40, 20, lanes_},
              {"till", "till-q1", 10, 28, lanes_},
              {"ticket-machine", "ticket-q1", 10, 45, lanes_},
              {"ticket-machine", "ticket-q2", 10, 55, lanes_}},
             120, false, 150, pq1);
        scales();
        const auto q2 = access("acc-q2", "access-switch-24", 370, 0, quay_, 22);
        const auto pq2 = panelOf("pp-q2", "patch-panel-24", 370, quay_);
        hang(q2, {455, accessRow + underPanel},
             {{"camera", "cam-quay-1", 20, 80, quay_},
              {"camera", "cam-quay-2", 20, 85, quay_},
              {"gate", "gate-foot-1", 10, 35, quay_},
              {"gate", "gate-foot-2", 10, 36, quay_}},
             {{"access-point", "ap-q2", 99, 40, quay_},
              {"phone", "phone-q2", 40, 20, quay_},
              {"printer", "print-q2", 30, 22, quay_}},
             120, false, 150, pq2);
        const auto c1 = access("acc-c1", "access-switch-48", 840, 1, concourse_, 23);
        const auto pc1 = panelOf("pp-c1", "patch-panel-48", 840, concourse_);
        hang(c1, {870, accessRow + underPanel},
             {{"till", "till-1", 10, 30, concourse_},
              {"till", "till-2", 10, 32, concourse_},
              {"till", "till-3", 10, 34, concourse_},
              {"till", "till-4", 10, 36, concourse_},
              {"ticket-machine", "ticket-1", 10, 40, hall_},
              {"ticket-machine", "ticket-2", 10, 42, hall_}},
             {{"camera", "cam-hall-1", 20, 50, hall_},
              {"camera", "cam-hall-2", 20, 52, hall_},
              {"gate", "gate-1", 10, 55, hall_},
              {"gate", "gate-2", 10, 56, hall_},
              {"gate", "gate-3", 10, 58, hall_},
              {"phone", "phone-c1", 40, 20, concourse_}},
             120, false, 150, pc1);
        const auto c2 = access("acc-c2", "access-switch-24", 1260, 1, concourse_, 24);
        const auto pc2 = panelOf("pp-c2", "patch-panel-24", 1260, concourse_);
        hang(c2, {1345, accessRow + underPanel},
             {{"till", "till-shop-1", 50, 40, shops_},
              {"till", "till-shop-2", 50, 44, shops_},
              {"camera", "cam-shop-1", 20, 47, shops_}},
             {{"access-point", "ap-c1", 99, 40, hall_},
              {"access-point", "ap-c2", 99, 55, shops_},
              {"printer", "print-c1", 30, 18, concourse_}},
             120, false, 150, pc2);
        tablets();
        const auto o1 = access("acc-o1", "access-switch-24", 1860, 2, control_, 25);
        const auto po1 = panelOf("pp-o1", "patch-panel-24", 1860, control_);
        hang(o1, {1945, accessRow + underPanel},
             {{"workstation", "ws-vessel-1", 30, 25, vessel_},
              {"workstation", "ws-vessel-2", 30, 27, vessel_},
              {"workstation", "ws-vessel-3", 30, 29, vessel_},
              {"phone", "phone-o1", 40, 22, vessel_}},
             {{"access-point", "ap-o1", 99, 30, control_},
              {"phone", "phone-o2", 40, 24, offices_},
              {"printer", "print-o1", 30, 15, offices_},
              {"camera", "cam-comms", 20, 12, control_}},
             120, false, 150, po1);
    }

    /// Copper is too short for the lanes: converters carry the scales over fibre.
    void scales() {
        for (int i = 1; i <= 2; ++i) {
            const int y = accessRow + underPanel + 120 + (2 + i) * pitch;
            const DeviceId near = named_.at(fmt::format("mc-lane-{}", i));
            const DeviceId far = add("media-converter", fmt::format("mc-scale-{}", i), {-290, y}, lanes_);
            const DeviceId scale = add("scale", fmt::format("scale-{}", i), {-440, y}, lanes_);
            join({near, "X1"}, {far, "X1"}, 160, "os2-lc-installed");
            join({far, "1"}, {scale, "1"}, 6);
            m_.address({scale, "1"}, fmt::format("10.84.60.{}/24", 60 + i));
        }
    }

    void tablets() {
        for (int i = 1; i <= 4; ++i) {
            const DeviceId ap = named_.at(i <= 2 ? "ap-c1" : "ap-c2");
            const DeviceId id =
                add("tablet", fmt::format("tablet-{}", i),
                    {1345 + 150 + 160, accessRow + underPanel + 120 + (i - 1) * pitch}, hall_);
            join({ap, "radio"}, {id, "radio"}, 0);
            m_.address({id, "radio"}, fmt::format("10.84.30.{}/24", 60 + i));
        }
    }

    /// The offices are wired through a panel and outlets.
    void desks() {
        constexpr int x = 2540;
        const auto o2 = access("acc-o2", "access-switch-24", x, 2, offices_, 26);
        const DeviceId panel = add("patch-panel-24", "pp-ctrl", {x - 20, accessRow + 130}, offices_);
        for (int i = 0; i < 3; ++i) {
            const DeviceId outlet = add("outlet-2", fmt::format("outlet-{}", i + 1),
                                        {x + 30 + (i - 1) * 250, accessRow + 260}, offices_);
            for (int side = 0; side < 2; ++side) {
                const int n = i * 2 + side + 1;
                const std::string port = std::to_string(n);
                join({o2, port}, {panel, port}, 2);
                m_.access({o2, port}, here_.at(30));
                m_.link({panel, "R" + port}, {outlet, fmt::format("R{}", side + 1)},
                        {24 + 4 * n, fmt::format("H-{:03}", ++installed_), "cat6a-installed"});
                const DeviceId desk = add("workstation", fmt::format("ws-office-{}", n),
                                          {x - 30 + (i - 1) * 250 + side * 120, accessRow + 370}, offices_);
                join({outlet, std::to_string(side + 1)}, {desk, "1"}, 3);
                m_.address({desk, "1"}, fmt::format("10.84.30.{}/24", 100 + n));
            }
        }
    }

    /// A fibre ring through Gatehouse, Workshop and Radar mast, with one standby link.
    void outbuildings() {
        const auto panel1 = add("fibre-panel-12-os2", "fp-r1", {470, 372}, rack1_);
        const auto panel2 = add("fibre-panel-12-os2", "fp-r2", {470, 250}, rack2_);
        const auto gate = add("industrial-switch-8", "ind-gate", {100, 372}, gatehouse_, 31);
        const auto work = add("industrial-switch-8", "ind-work", {-90, 190}, workshop_, 32);
        const auto radar = add("industrial-switch-8", "ind-radar", {100, 10}, mast_, 33);
        m_.optics({core1_, "2/10"}, "sfp-1000base-lx");
        m_.optics({core2_, "2/10"}, "sfp-1000base-lx");
        uplink(join({core1_, "2/10"}, {panel1, "1"}, 3, "os2-lc"));
        join({panel1, "R1"}, {gate, "X1"}, 420, "os2-lc-straight"); // with the cord, one crossing in all
        uplink(join({gate, "X2"}, {work, "X1"}, 260, "os2-lc-installed"));
        uplink(join({work, "X2"}, {radar, "X1"}, 540, "os2-lc-installed"));
        join({radar, "X2"}, {panel2, "R1"}, 780, "os2-lc-straight");
        bend(join({panel2, "1"}, {core2_, "2/10"}, 6, "os2-lc"), {{700, 300}, {1230, 300}});
        for (const PortRef& end : {PortRef{gate, "X1"}, {radar, "X2"}, {core2_, "2/10"}})
            m_.tagged(end, all());
        const LinkId standby = join({gate, "X3"}, {radar, "X3"}, 690, "os2-lc-installed");
        uplink(standby);
        bend(standby, {{330, 300}, {330, 110}});
        const auto leaf = [&](DeviceId upper, const char* model, const char* name, Point at, int vlan,
                              GroupId group, int metres, const char* cable = "") {
            const DeviceId id = add(model, name, at, group);
            const LinkId link = join({upper, {}}, {id, {}}, metres, cable);
            m_.access(m_.network().link(link)->a, here_.at(vlan));
            m_.address(m_.network().link(link)->b,
                       fmt::format("10.84.{}.{}/24", vlan, (vlan == 99 ? 60 : 20) + ++hosts_[vlan]));
        };
        leaf(gate, "barrier-controller", "barrier-1", {-90, 310}, 60, gatehouse_, 25);
        leaf(gate, "barrier-controller", "barrier-2", {-90, 372}, 60, gatehouse_, 30);
        leaf(gate, "barrier-controller", "barrier-3", {-90, 434}, 60, gatehouse_, 35);
        leaf(gate, "camera-outdoor", "cam-plate-1", {-90, 496}, 20, gatehouse_, 28);
        leaf(gate, "camera-outdoor", "cam-plate-2", {100, 480}, 20, gatehouse_, 33);
        leaf(gate, "access-point-outdoor", "ap-gate", {250, 480}, 99, gatehouse_, 12);
        leaf(work, "workstation", "ws-work-1", {-280, 130}, 30, workshop_, 18);
        leaf(work, "controller", "plc-crane", {-280, 192}, 60, workshop_, 26);
        leaf(work, "phone", "phone-w1", {-280, 254}, 40, workshop_, 14);
        leaf(radar, "sensor", "radar-head", {-90, -20}, 30, mast_, 45);
        leaf(radar, "camera-outdoor", "cam-mast", {-90, 50}, 20, mast_, 40);
        bridge_ = add("radio-bridge", "rb-mast", {110, -240}, mast_, 34);
        join({radar, "8"}, {bridge_, "1"}, 40);
    }

    void skarnPier() {
        const auto far = add("radio-bridge", "rb-skarn", {2440, -240}, pier_, 41);
        join({bridge_, "radio"}, {far, "radio"}, 0);
        const auto router = add("compact-router", "rtr-skarn", {2430, -20}, pier_, 42);
        const auto access = add("compact-switch-8", "acc-s1", {2430, 110}, pier_, 43);
        const auto ramp = add("industrial-switch-8", "ind-ramp", {2800, 110}, ramp_, 44);
        const auto injector = add("power-injector", "inj-skarn", {2440, -130}, pier_);
        join({injector, "1"}, {far, "1"}, 15);
        join({injector, "2"}, {router, "W1"}, 2);
        m_.tagged(m_.network().link(join({router, "1"}, {access, "8"}, 2))->b, all(true));
        uplink(join({access, "X1"}, {ramp, "X1"}, 320, "os2-lc-installed"), true);
        hang(access, {2430, 110},
             {{"till", "till-s1", 10, 12, pier_},
              {"workstation", "ws-s1", 30, 10, pier_},
              {"phone", "phone-s1", 40, 9, pier_}},
             {{"access-point", "ap-s1", 99, 18, pier_},
              {"printer", "print-s1", 30, 8, pier_},
              {"gate", "gate-s1", 10, 26, pier_}},
             90, true, 120);
        const auto serial = add("serial-server-8", "ser-ramp", {2990, 220}, ramp_, 45);
        join({ramp, "1"}, {serial, "E1"}, 3);
        const DeviceId gauge = add("sensor-serial", "tide-gauge", {3000, 330}, ramp_);
        join({serial, "1"}, {gauge, "S1"}, 900, "line-de9-rj45");
        const char* names[] = {"cam-ramp-1", "plc-ramp", "barrier-s1"};
        const char* models[] = {"camera-outdoor", "controller", "barrier-controller"};
        for (int i = 0; i < 3; ++i) {
            const DeviceId id = add(models[i], names[i], {2790, 240 + i * pitch}, ramp_);
            const LinkId link = join({ramp, {}}, {id, {}}, 25 + 5 * i);
            m_.access(m_.network().link(link)->a, there_.at(i == 0 ? 20 : 60));
            m_.address(m_.network().link(link)->b, fmt::format("10.84.{}.{}/24", i == 0 ? 120 : 160, 21 + i));
        }
    }

    void power() {
        const std::pair<const char*, const char*> units[] = {
            {"ups-1", "ups"}, {"pdu-r1", "pdu"}, {"pdu-r2", "pdu"}};
        for (int i = 0; i < 3; ++i) {
            const DeviceId id = add(units[i].second, units[i].first, {1540, rackTop + (5 + i) * rackPitch},
                                    i == 2 ? rack2_ : rack1_);
            const LinkId link = join({id, "1"}, {core2_, fmt::format("1/{}", 12 + i)}, 3);
            m_.access(m_.network().link(link)->b, here_.at(99));
            rackLine(link, 5 + i);
        }
        const std::pair<const char*, int> places[] = {
            {"rtr-1", 40},         {"fw-1", 38},       {"core-1", 30},      {"fp-r1", 42},
            {"ups-1", 2},          {"pdu-r1", 1},      {"rtr-2", 40},       {"fw-2", 38},
            {"core-2", 30},        {"fp-r2", 42},      {"srv-tickets", 20}, {"srv-vessel", 21},
            {"srv-directory", 22}, {"srv-backup", 23}, {"srv-video", 17},   {"pdu-r2", 1}};
        for (const auto& [name, unit] : places) {
            const DeviceId id = named_.at(name);
            Place place;
            place.in = m_.network().device(id)->group;
            place.unit = unit;
            m_.place(id, place);
        }
        const DeviceId ups = named_.at("ups-1"), first = named_.at("pdu-r1");
        m_.feed(ups, "P1", {}, "A");
        m_.feed(first, "P1", ups, "O1");
        m_.feed(named_.at("pdu-r2"), "P1", {}, "B");
        m_.feedAll(those({"core-1", "core-2", "rtr-1", "rtr-2", "fw-1", "fw-2", "srv-tickets", "srv-vessel",
                          "srv-directory", "srv-backup", "srv-video"}));
    }

    void notes() {
        m_.note({-440, -240},
                "Radar mast, Workshop and Gatehouse hang on a fibre ring. The link from ind-gate to "
                "ind-radar stands by.");
        m_.note({2640, -240}, "Skarn Pier, 11 km across the sound: one licensed radio link.");
        m_.note({-440, accessRow}, "Quay level: vehicle lanes, scales, foot passengers.");
        m_.note({-440, distRow},
                "VLANs: 10 tickets, 20 video, 30 operations, 40 voice, 50 visitors, 60 plant, 99 "
                "management.");
    }

    std::vector<DeviceId> those(std::initializer_list<const char*> names) const {
        std::vector<DeviceId> ids;
        for (const char* name : names)
            ids.push_back(named_.at(name));
        return ids;
    }

    void services() {
        m_.service("Ticket sale",
                   those({"till-1", "till-2", "till-3", "till-4", "ticket-1", "ticket-2", "till-s1"}),
                   those({"srv-tickets"}), "No tickets, no boarding: paper after ten minutes.");
        m_.service("Boarding gates",
                   those({"gate-1", "gate-2", "gate-3", "gate-foot-1", "gate-foot-2", "gate-s1"}),
                   those({"srv-tickets"}), {});
        m_.service("Lane control", those({"barrier-1", "barrier-2", "barrier-3", "scale-1", "scale-2"}),
                   those({"srv-tickets"}), {});
        m_.service("Vessel tracking", those({"ws-vessel-1", "ws-vessel-2", "ws-vessel-3", "radar-head"}),
                   those({"srv-vessel"}), {});
        m_.service("Telephony", those({"phone-q1", "phone-c1", "phone-o1", "phone-s1"}),
                   those({"srv-directory"}), {});
        m_.service("Visitor Wi-Fi", those({"ap-q1", "ap-c1", "ap-c2"}), those({"fw-1", "fw-2"}), {});
    }

    // --- how it is drawn -------------------------------------------------------

    /// Lines of columns run straight down from the port. Ports have their places once all
    /// links are made.
    void furtherSheets() {
        for (const auto& [link, upper, port, y] : columns_) {
            const auto plate = scene::plateOf(m_.network(), m_.sheet(), *m_.network().device(upper));
            const auto ports = portsOf(m_.network(), *m_.network().device(upper));
            const auto at =
                std::find_if(ports.begin(), ports.end(), [&](const PortView& p) { return p.key == port; });
            const auto tick = plate->rail.tick(static_cast<int>(at - ports.begin()));
            const int lane = static_cast<int>(tick.centre().x);
            const auto leaf = scene::plateOf(m_.network(), m_.sheet(),
                                             *m_.network().device(m_.network().link(link)->b.device));
            const auto end =
                scene::leavingFrom(leaf->anchor(), 0, {static_cast<double>(lane), static_cast<double>(y)});
            bend(link, {{lane, static_cast<int>(std::lround(end.y))}});
        }
        for (auto& [link, points] : bends_)
            m_.bend(link, points);
        floorPlans();
        const SheetId routing = m_.addSheet("Routing");
        for (const char* name : {"carrier-a", "carrier-b", "rtr-1", "rtr-2", "fw-1", "fw-2", "core-1",
                                 "core-2", "rb-mast", "rb-skarn", "rtr-skarn"}) {
            const Position at = *m_.network().position(m_.sheet(), named_.at(name).value);
            Point to = shifted(at.at, -700, 0);
            if (std::string(name) == "rb-mast")
                to = {560, 470};
            else if (std::string(name) == "rb-skarn")
                to = {820, 470};
            else if (std::string(name) == "rtr-skarn")
                to = {820, 360};
            m_.showOn(routing, named_.at(name), to);
        }
        m_.noteOn(routing, {-260, -120}, "OSPF area 0 between the routers and the core; one /31 a link.");
    }

    /// Everything by where it is: sites beside one another, floors stacked, rooms side by
    /// side; folded to buildings and floors.
    void siteOverview() {
        const SheetId sheet = m_.addSheet("Site overview", true);
        Point at;
        for (const GroupId site : {fennick_, providers_, skarn_})
            at.x += stack(sheet, site, at).x + 2 * aroundGroup;
        std::vector<GroupId> folded{quay_, concourse_, control_};
        folded.insert(folded.end(), outbuildings_.begin(), outbuildings_.end());
        m_.fold(sheet, folded);
    }

    /// Whether several groups lie in it.
    bool hasFloors(GroupId group) const {
        int groups = 0;
        m_.network().forEachIn(group, [&](ObjectRef member) { groups += member.kind == Kind::group; });
        return groups > 1;
    }

    /// Lays a group out from a corner; gives the room it takes.
    Point stack(SheetId sheet, GroupId group, Point corner) {
        constexpr int acrossPitch = 264, downPitch = 92, most = 5;
        std::vector<DeviceId> devices;
        std::vector<GroupId> groups;
        m_.network().forEachIn(group, [&](ObjectRef member) {
            if (member.kind == Kind::device)
                devices.push_back({member.id});
            else
                groups.push_back({member.id});
        });
        const auto where = [&](DeviceId id) {
            const Point p = m_.network().position(m_.sheet(), id.value)->at;
            return std::pair(p.y, p.x);
        };
        std::sort(devices.begin(), devices.end(),
                  [&](DeviceId a, DeviceId b) { return where(a) < where(b); });
        const auto order = [&](GroupId id) {
            const Group& g = *m_.network().group(id);
            return std::tuple(hasFloors(id) && g.type == GroupKind::building, -g.level, g.name);
        };
        std::sort(groups.begin(), groups.end(), [&](GroupId a, GroupId b) { return order(a) < order(b); });
        const int columns = std::clamp(static_cast<int>(devices.size() + 2) / 3, 1, most);
        for (std::size_t i = 0; i < devices.size(); ++i)
            m_.showOn(sheet, devices[i],
                      corner + Point{static_cast<int>(i) % columns * acrossPitch,
                                     static_cast<int>(i) / columns * downPitch});
        const int rows = (static_cast<int>(devices.size()) + columns - 1) / columns;
        Point taken{devices.empty() ? 0 : columns * acrossPitch, rows * downPitch};
        // Buildings and floors stand under one another, rooms and racks side by side; a
        // building of many floors has a column of its own.
        const GroupKind kind = m_.network().group(group)->type;
        const bool upright = kind == GroupKind::building || kind == GroupKind::site;
        Point next{0, taken.y};
        int indent = 0;
        for (const GroupId inner : groups) {
            const bool high = hasFloors(inner);
            if (kind == GroupKind::site && high)
                next = {taken.x + 2 * aroundGroup, 0};
            const Point at = next + Point{kind == GroupKind::site && !high ? indent : 0, 0};
            indent = indent == 0 ? 320 : 0; // so that links pass beside what lies between
            const Point size = stack(sheet, inner, corner + at + Point{aroundGroup, aroundGroup});
            taken = {std::max(taken.x, at.x + size.x + 2 * aroundGroup),
                     std::max(taken.y, at.y + size.y + 2 * aroundGroup)};
            (upright ? next.y : next.x) += (upright ? size.y : size.x) + 2 * aroundGroup;
        }
        return taken;
    }

    /// Each floor of the terminal on its plan: rooms, and in them what stands there.
    void floorPlans() {
        FloorPlan concourse, control, quay;
        concourse.rooms = {
            {"Concourse comms", 20, 2, 22, 10, {"mm-conc", "acc-c1", "dist-conc", "pp-c1"}, 2, 3},
            {"Ticket counter",
             46,
             2,
             36,
             10,
             {"till-1", "till-2", "till-3", "till-4", "phone-c1", "print-c1"},
             5},
            {"Waiting hall",
             2,
             16,
             46,
             17,
             {"ticket-1", "ticket-2", "cam-hall-1", "cam-hall-2", "gate-1", "gate-2", "gate-3", "ap-c1",
              "tablet-1", "tablet-2"},
             5},
            {"Shops",
             52,
             16,
             30,
             17,
             {"acc-c2", "pp-c2", "till-shop-1", "till-shop-2", "cam-shop-1", "ap-c2", "tablet-3", "tablet-4"},
             2}};
        control.rooms = {
            {"Main comms room", 16, 2, 24, 10, {"mm-ctrl", "acc-o1", "dist-ctrl", "pp-o1"}, 2, 3},
            {"Corridor", 44, 2, 38, 10, {"ap-o1", "cam-comms"}, 4},
            {"Vessel traffic room",
             2,
             16,
             30,
             17,
             {"ws-vessel-1", "ws-vessel-2", "ws-vessel-3", "phone-o1"},
             3},
            {"Offices",
             36,
             16,
             46,
             17,
             {"acc-o2", "pp-ctrl", "print-o1", "outlet-1", "outlet-2", "outlet-3", "ws-office-1",
              "ws-office-3", "ws-office-5", "ws-office-2", "ws-office-4", "ws-office-6", "phone-o2"},
             3}};
        quay.rooms = {
            {"Quay comms", 18, 2, 22, 10, {"mm-quay", "acc-q2", "dist-quay", "pp-q2"}, 2, 3},
            {"Foot passengers",
             46,
             2,
             36,
             14,
             {"gate-foot-1", "gate-foot-2", "cam-quay-1", "cam-quay-2", "ap-q2", "phone-q2", "print-q2"},
             4},
            {"Vehicle lanes",
             2,
             19,
             80,
             15,
             {"acc-q1", "pp-q1", "ticket-q1", "ticket-q2", "till-q1", "cam-lane-1", "cam-lane-2", "ap-q1",
              "phone-q1", "print-q1", "mc-lane-1", "mc-lane-2", "mc-scale-1", "mc-scale-2", "scale-1",
              "scale-2"},
             8}};
        floorPlan(concourse, concourse_, "Concourse");
        floorPlan(quay, quay_, "Quay level");
        floorPlan(control, control_, "Control floor");
        trays();
        m_.racks({rack1_, rack2_}, "Racks");
        smallPlans();
    }

    /// What the cables of the terminal run in: a tray along the middle of each floor, one to
    /// the riser, and conduits into the rooms.
    void trays() {
        using Kind = CableRouteKind;
        m_.cableRoute(concourse_, "C-main", Kind::tray, {{4, 13.8}, {80, 13.8}}, 200, 3);
        m_.cableRoute(concourse_, "C-riser", Kind::tray, {{18, 4}, {24, 4}, {24, 13.8}}, 200, 3);
        m_.cableRoute(concourse_, "C-counter", Kind::tray, {{46, 13.8}, {46, 8.6}, {78, 8.6}}, 100, 3);
        m_.cableRoute(concourse_, "C-hall", Kind::conduit, {{20, 13.8}, {20, 31}}, 50, 3);
        m_.cableRoute(concourse_, "C-shops", Kind::conduit, {{60, 13.8}, {60, 25}}, 40, 3);
        m_.cableRoute(control_, "O-main", Kind::tray, {{4, 13.8}, {80, 13.8}}, 200, 3);
        m_.cableRoute(control_, "O-riser", Kind::tray, {{18, 4}, {26, 4}, {26, 13.8}}, 200, 3);
        m_.cableRoute(control_, "O-vessel", Kind::conduit, {{16, 13.8}, {16, 26}}, 40, 3);
        m_.cableRoute(quay_, "Q-main", Kind::tray, {{4, 17.4}, {80, 17.4}}, 200, 4);
        m_.cableRoute(quay_, "Q-riser", Kind::tray, {{18, 4}, {24, 4}, {24, 17.4}}, 200, 4);
    }

    /// The outbuildings and the island, a room or two each.
    void smallPlans() {
        const auto make = [&](GroupId floor, double w, double h, std::vector<Room> rooms, const char* name) {
            floorPlan({w, h, std::move(rooms)}, floor, name);
        };
        make(gatehouse_, 30, 20,
             {{"Gatehouse", 2, 2, 11, 16, {"ind-gate", "ap-gate"}, 1},
              {"Lanes",
               14,
               2,
               14,
               16,
               {"barrier-1", "cam-plate-1", "barrier-2", "cam-plate-2", "barrier-3"},
               2}},
             "Gatehouse");
        make(workshop_, 30, 18,
             {{"Workshop", 2, 2, 26, 14, {"ind-work", "ws-work-1", "plc-crane", "phone-w1"}, 2}}, "Workshop");
        make(mast_, 24, 18,
             {{"Mast foot", 2, 2, 20, 14, {"ind-radar", "rb-mast", "radar-head", "cam-mast"}, 2}},
             "Radar mast");
        make(pier_, 36, 24,
             {{"Comms", 2, 2, 12, 20, {"rb-skarn", "inj-skarn", "rtr-skarn", "acc-s1"}, 1},
              {"Office", 15, 2, 19, 20, {"till-s1", "ws-s1", "phone-s1", "ap-s1", "print-s1", "gate-s1"}, 2}},
             "Pier office");
        make(ramp_, 30, 20,
             {{"Ramp cabin",
               2,
               2,
               26,
               16,
               {"ind-ramp", "ser-ramp", "tide-gauge", "cam-ramp-1", "plc-ramp", "barrier-s1"},
               2}},
             "Ramp cabin");
    }

    void floorPlan(const FloorPlan& plan, GroupId floor, const std::string& name) {
        for (const Room& room : plan.rooms) {
            const int rows = (static_cast<int>(room.devices.size()) + room.across - 1) / room.across;
            for (std::size_t i = 0; i < room.devices.size(); ++i) {
                const DeviceId id = named_.at(room.devices[i]);
                const int column = static_cast<int>(i) % room.across, row = static_cast<int>(i) / room.across;
                const Spot at{room.x + room.w * (column + 0.5) / room.across,
                              room.down > 0 ? room.y + 4 + room.down * row
                                            : room.y + 1.8 + (room.h - 2) * (row + 0.5) / rows};
                const Device& device = *m_.network().device(id);
                const GroupId in = isWithin(m_.network(), device.group, floor) ? device.group : floor;
                stand(id, in, at, static_cast<double>(device.place.heightMm) / 1000);
            }
        }
        m_.plan(floor, floorPlanSvg(plan), floorPlanMm, name);
    }

    struct Column {
        LinkId link;
        DeviceId upper;
        std::string port;
        int y;
    };

    Maker m_;
    GroupId fennick_, skarn_, quay_, concourse_, control_, lanes_, hall_, shops_, vessel_, offices_, rack1_,
        rack2_, gatehouse_, workshop_, mast_, pier_, ramp_, providers_;
    std::vector<GroupId> outbuildings_;
    std::map<int, VlanId> here_, there_;
    std::map<int, int> hosts_;
    std::map<std::string, DeviceId> named_;
    DeviceId carrierA_, carrierB_, rtr1_, rtr2_, fw1_, fw2_, core1_, core2_, bridge_, dist_[3];
    std::vector<Column> columns_;
    std::vector<std::pair<LinkId, std::vector<Point>>> bends_;
    int labels_ = 0, installed_ = 0;
};

} // namespace

void makeFennickQuay(const std::string& folder) {
    FennickQuay().make(folder);
}

} // namespace underridge::demo
