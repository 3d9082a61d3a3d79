// SPDX-License-Identifier: GPL-3.0-or-later
// Roles and groups proposed from what is known; counts of a sheet.
#include "core/edit/script/script.h"
#include "core/edit/sort_out.h"
#include "core/model/group_tree.h"
#include "core/model/ports.h"
#include "core/scene/counts.h"
#include "tests/support/registered.h"
#include "tests/support/workbench.h"

using namespace underridge;
using namespace underridge::model;
using tests::text;
using tests::Workbench;

namespace {

struct Heap : Workbench {
    std::vector<DeviceId> devices;

    DeviceId bare(const std::string& name, Attributes attributes = {}) {
        Device device;
        device.id = ids.make<DeviceId>();
        device.name = name;
        device.attributes = std::move(attributes);
        network.put(device);
        devices.push_back(device.id);
        return device.id;
    }
    /// The role proposed for a device of this name; "" for none.
    QString roleFor(const std::string& name, Attributes attributes = {}) {
        const DeviceId id = bare(name, std::move(attributes));
        const auto roles = edit::proposeRoles(network, {id});
        return roles.empty() ? QString() : text(std::string(textOf(roles.front().role)));
    }
    void address(DeviceId device, const char* address) {
        Interface interface;
        interface.id = ids.make<InterfaceId>();
        interface.device = device;
        interface.addresses = {Address(address)};
        network.put(interface);
    }
    /// "q1: 2, q2: 3".
    QString groups(edit::By by, const std::string& attribute = {}) const {
        QStringList out;
        for (const auto& group : edit::proposeGroups(network, devices, by, attribute))
            out << QStringLiteral("%1: %2").arg(text(group.name)).arg(group.members.size());
        return out.join(", ");
    }
};

} // namespace

class SortOutTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void a_role_is_read_from_whole_words_of_a_name() {
        Heap heap;
        QCOMPARE(heap.roleFor("cam-lane-1"), "camera");
        QCOMPARE(heap.roleFor("Q1-SW-03"), "switch");
        QCOMPARE(heap.roleFor("b2.ap7"), "access-point");
        QCOMPARE(heap.roleFor("fw2"), "firewall");
        QCOMPARE(heap.roleFor("till_4"), "terminal");
        QCOMPARE(heap.roleFor("campus"), ""); // "cam" is no word of it
        QCOMPARE(heap.roleFor("4711"), "");
        QCOMPARE(heap.roleFor(""), "");
    }
    void what_a_source_says_comes_before_the_name() {
        Heap heap;
        QCOMPARE(heap.roleFor("sw-1", {{"system-capabilities", "bridge, router"}}), "router");
        QCOMPARE(heap.roleFor("x-1", {{"Capabilities", "Bridge WLAN-Access-Point"}}), "access-point");
        QCOMPARE(heap.roleFor("x-2", {{"device-type", "outdoor camera 4 MP"}}), "camera");
        QCOMPARE(heap.roleFor("x-3", {{"colour", "camera"}}), ""); // that tells nothing
    }
    void many_links_speak_for_a_switch_few_for_nothing() {
        Heap heap;
        const DeviceId middle = heap.bare("n0");
        for (int i = 1; i <= 6; ++i) {
            Link link;
            link.id = heap.ids.make<LinkId>();
            link.a = {middle, {}};
            link.b = {heap.bare("n" + std::to_string(i)), {}};
            heap.network.put(link);
        }
        const auto roles = edit::proposeRoles(heap.network, heap.devices);
        QCOMPARE(roles.size(), std::size_t{1});
        QCOMPARE(roles.front().device, middle);
        QVERIFY(roles.front().why.find("6 links") != std::string::npos);
    }
    void roles_are_given_in_one_act_and_ports_stay() {
        Heap heap;
        const DeviceId camera = heap.bare("cam-1"), other = heap.bare("cam-2");
        Device named = *heap.network.device(camera);
        named.learned = PortNames(std::vector<std::string>{"eth0"});
        heap.network.put(named);
        const auto act = edit::giveRoles(heap.network, edit::proposeRoles(heap.network, heap.devices));
        QVERIFY(act);
        QCOMPARE(roleOf(act->network, *act->network.device(camera)), Role::camera);
        QCOMPARE(roleOf(act->network, *act->network.device(other)), Role::camera);
        QVERIFY(portAt(act->network, {camera, "eth0"}));
        QVERIFY(edit::proposeRoles(act->network, heap.devices).empty()); // they have one now
        QVERIFY(!edit::giveRoles(heap.network, {}));
    }
    void a_device_with_a_model_keeps_its_role() {
        Heap heap;
        heap.devices.push_back(heap.add("access-switch-24", "cam-9"));
        QVERIFY(edit::proposeRoles(heap.network, heap.devices).empty());
    }

    void groups_by_the_first_part_of_names() {
        Heap heap;
        for (const char* name :
             {"q1-acc-1", "q1-cam-2", "Q10.ap-1", "q2-acc-1", "q2-acc-2", "q2_acc_3", "alone", "-x"})
            heap.bare(name);
        QCOMPARE(heap.groups(edit::By::prefix), "q1: 2, q2: 3"); // one alone is no group
    }
    void groups_by_subnet_named_or_assumed() {
        Heap heap;
        Subnet subnet;
        subnet.id = heap.ids.make<SubnetId>();
        subnet.prefix = Address("10.84.0.0/16");
        subnet.name = "all";
        heap.network.put(subnet);
        subnet.id = heap.ids.make<SubnetId>();
        subnet.prefix = Address("10.84.10.0/24");
        subnet.name = "tickets";
        heap.network.put(subnet);
        const char* addresses[] = {"10.84.10.1/24",  "10.84.10.2/24",  "192.0.2.4/28",
                                   "192.0.2.200/28", "2001:db8::1/64", "2001:db8::2/64"};
        for (const char* each : addresses)
            heap.address(heap.bare(each), each);
        heap.bare("without");
        QCOMPARE(heap.groups(edit::By::subnet), "192.0.2.0/24: 2, 2001:db8::/64: 2, tickets: 2");
    }
    void groups_by_role_attribute_and_switch() {
        Heap heap;
        const DeviceId acc = heap.add("access-switch-24", "acc-1");
        for (int i = 0; i < 3; ++i) {
            heap.devices.push_back(heap.add("camera"));
            heap.link({heap.devices.back(), {}}, {acc, {}});
        }
        heap.bare("a", {{"building", "North"}, {"floor", " "}});
        heap.bare("b", {{"building", "North"}});
        heap.bare("c", {{"building", "South"}});
        heap.devices.push_back(acc);
        QCOMPARE(heap.groups(edit::By::role), "Cameras: 3");
        QCOMPARE(heap.groups(edit::By::attribute, "building"), "North: 2");
        QCOMPARE(heap.groups(edit::By::uplink), "acc-1: 3");
        const auto attributes = edit::attributesOf(heap.network, heap.devices);
        QCOMPARE(text(attributes.front().first), "building");
        QCOMPARE(attributes.front().second, 3);
    }
    void groups_are_made_in_one_act_and_once() {
        Heap heap;
        for (const char* name : {"q1-1", "q1-2", "q2-1", "q2-2"})
            heap.bare(name);
        auto groups = edit::proposeGroups(heap.network, heap.devices, edit::By::prefix);
        groups[0].kind = GroupKind::floor;
        groups[1].name = "Quay two";
        QVERIFY(heap.take(edit::makeGroups(heap.network, groups, {}, heap.ids)));
        QCOMPARE(heap.network.all<Group>().size(), std::size_t{2});
        const Device& first = *heap.network.device(heap.devices[0]);
        QCOMPARE(heap.network.group(first.group)->type, GroupKind::floor);
        QCOMPARE(text(pathText(heap.network, heap.network.device(heap.devices[3])->group)), "Quay two");
        // Once more: the groups that are there take what comes.
        heap.devices.push_back(heap.bare("q1-3"));
        groups = edit::proposeGroups(heap.network, heap.devices, edit::By::prefix);
        QVERIFY(heap.take(edit::makeGroups(heap.network, {groups.front()}, {}, heap.ids)));
        QCOMPARE(heap.network.all<Group>().size(), std::size_t{2});
        QVERIFY(!edit::makeGroups(heap.network, {}, {}, heap.ids));
        QVERIFY(
            !edit::makeGroups(heap.network, {{"", GroupKind::floor, {heap.devices[0]}, ""}}, {}, heap.ids));
    }
    void what_is_drawn_stays_where_it_is() {
        Heap heap;
        for (int i = 0; i < 6; ++i)
            heap.devices.push_back(
                heap.add("camera", (i % 2 ? "a-" : "b-") + std::to_string(i), {i * 150, i * 40}));
        const Network before = heap.network;
        QVERIFY(heap.take(edit::makeGroups(
            heap.network, edit::proposeGroups(heap.network, heap.devices, edit::By::prefix), {}, heap.ids)));
        for (const DeviceId id : heap.devices)
            QCOMPARE(heap.network.position(heap.sheet, id.value)->at,
                     before.position(heap.sheet, id.value)->at);
    }
    void scripts_sort_out_too() {
        Heap heap;
        for (const char* name : {"q1-cam-1", "q1-cam-2", "q2-sw-1", "q2-sw-2"})
            heap.bare(name);
        const auto run = [&](std::string line) {
            std::replace(line.begin(), line.end(), '\'', '"');
            return edit::applyActs(heap.network, heap.catalogue, line, "some.acts", heap.ids);
        };
        const auto done = run("{'act':'give-roles'}\n{'act':'group-by','by':'prefix','kind':'floor'}\n"
                              "{'act':'group-by','by':'role','members':['q1-cam-1','q1-cam-2'],'in':'q1'}");
        QVERIFY2(done, done ? "" : done.refusal().text().c_str());
        QCOMPARE(done->network.all<Group>().size(), std::size_t{3});
        QVERIFY(!run("{'act':'group-by','by':'colour'}"));
        QVERIFY(!run("{'act':'group-by','by':'vlan'}")); // nothing speaks for that
        QVERIFY(!run("{'act':'give-roles','members':[]}"));
    }

    // ---- counts ----

    void a_sheet_is_counted_by_what_is_on_it() {
        Heap heap;
        const DeviceId acc = heap.add("access-switch-24", "acc-1");
        DeviceId camera;
        for (int i = 0; i < 3; ++i)
            heap.link({camera = heap.add("camera"), {}}, {acc, {}});
        heap.bare("elsewhere"); // in the network, not on the sheet
        const auto counts = scene::countsOf(heap.network, scene::Scene::build(heap.network, heap.sheet));
        QCOMPARE(counts.devices, std::size_t{4});
        QCOMPARE(counts.links, std::size_t{3});
        QCOMPARE(counts.roles.at(Role::camera).size(), std::size_t{3});
        QCOMPARE(counts.endpoints.size(), std::size_t{3});
        QCOMPARE(counts.infrastructure, std::vector{acc});
        QCOMPARE(counts.missing.size(), std::size_t{1});
        QCOMPARE(counts.speeds.size(), std::size_t{1});
        QCOMPARE(counts.speeds.begin()->first, 100);
        QCOMPARE(counts.media.size(), std::size_t{1});
        QCOMPARE(counts.free.at(1000).ports, 24 - 3);
        QCOMPARE(counts.free.at(1000).at, std::vector{acc});
        QVERIFY(counts.groups.empty());
    }
};

UNDERRIDGE_TEST(SortOutTest)
#include "sort_out_test.moc"
