// SPDX-License-Identifier: GPL-3.0-or-later
// Faces of devices: every port where it can be seen and hit, nothing over anything else.
#include "core/edit/fittings.h"
#include "core/scene/face.h"
#include "tests/support/registered.h"
#include "tests/support/workbench.h"

using namespace underridge;
using namespace underridge::model;
using scene::Face;
using scene::faceOf;
using scene::FacePort;
using scene::FaceSide;
using scene::FaceSlot;
using scene::FaceSpeed;
using scene::PointF;
using tests::Workbench;

namespace {

const FacePort& portOf(const Face& face, const std::string& key) {
    for (const FacePort& port : face.ports)
        if (port.key == key)
            return port;
    qFatal("no port %s", key.c_str());
}

QStringList captions(const Face& face) {
    QStringList out;
    for (const FaceSide& side : face.sides)
        out << tests::text(side.caption);
    return out;
}

/// Ports lie inside one side each, apart from each other, and are hit where they are.
void verifySound(const Face& face) {
    const scene::Rect whole{0, 0, face.width, face.height};
    for (std::size_t i = 0; i < face.ports.size(); ++i) {
        const FacePort& port = face.ports[i];
        QVERIFY2(whole.contains(port.area), port.key.c_str());
        QVERIFY2(std::count_if(face.sides.begin(), face.sides.end(),
                               [&](const FaceSide& side) { return side.area.contains(port.area); }) == 1,
                 port.key.c_str());
        QCOMPARE(face.at(port.area.centre()), static_cast<int>(i));
        for (std::size_t k = i + 1; k < face.ports.size(); ++k)
            QVERIFY2(!port.area.intersects(face.ports[k].area), port.key.c_str());
    }
    for (std::size_t i = 0; i < face.sides.size(); ++i) {
        QCOMPARE(face.sides[i].area.w, face.width); // all as wide as the widest
        for (std::size_t k = i + 1; k < face.sides.size(); ++k)
            QVERIFY(!face.sides[i].area.intersects(face.sides[k].area));
    }
}

} // namespace

class FaceTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void every_model_of_the_catalogue_has_a_sound_face() {
        const Catalogue catalogue = exchange::builtInCatalogue();
        int count = 0;
        for (const DeviceModel& model : catalogue.devices) {
            const Face face = faceOf(model);
            verifySound(face);
            QCOMPARE(face.ports.size(), model.ports.specs().size());
            QCOMPARE(face.slots.size(), model.slots.size());
            ++count;
        }
        QVERIFY(count > 20);
    }

    void many_like_ports_stand_in_pairs_of_rows_odd_ones_above() {
        Workbench b;
        const Face face = faceOf(*b.catalogue.device("access-switch-24"));
        const FacePort &one = portOf(face, "1"), &two = portOf(face, "2"), &three = portOf(face, "3");
        QCOMPARE(one.area.x, two.area.x);
        QVERIFY(two.area.y > one.area.bottom());
        QVERIFY(three.area.x > one.area.right());
        QCOMPARE(three.area.y, one.area.y);
        const FacePort& uplink = portOf(face, "X1");
        QVERIFY(uplink.area.x > portOf(face, "23").area.right() + 4); // a block of its own
    }

    void a_port_is_hit_on_its_socket_and_its_key_but_not_between_the_rows() {
        Workbench b;
        const Face face = faceOf(*b.catalogue.device("access-switch-24"));
        const FacePort& one = portOf(face, "1");
        const auto keyAt = [&](PointF point) {
            const int at = face.at(point);
            return at < 0 ? std::string() : face.ports[static_cast<std::size_t>(at)].key;
        };
        QCOMPARE(keyAt({one.area.x + 1, one.area.y + 1}), std::string("1"));
        QCOMPARE(keyAt({one.area.centre().x, one.area.bottom() + 6}), std::string("1"));
        QCOMPARE(keyAt({one.area.x - 1, one.area.centre().y}), std::string("1"));
        QCOMPARE(keyAt({one.area.right() + 3, one.area.centre().y}), std::string("3"));
        QCOMPARE(keyAt({1, 1}), std::string());
        QCOMPARE(keyAt({-5, -5}), std::string());
    }

    void speeds_end_where_their_run_of_ports_does() {
        Workbench b;
        const Face face = faceOf(*b.catalogue.device("access-switch-24"));
        QCOMPARE(face.speeds.size(), std::size_t{3}); // access, uplinks, management
        QCOMPARE(face.speeds[0].text, std::string("1G"));
        QCOMPARE(face.speeds[0].right.x, portOf(face, "23").area.right());
        QVERIFY(face.speeds[0].right.y < portOf(face, "23").area.y);
        QCOMPARE(face.speeds[1].text, std::string("10G"));
    }

    void what_is_at_the_rear_is_on_a_side_of_its_own() {
        const Catalogue catalogue = exchange::builtInCatalogue();
        int withRear = 0;
        for (const DeviceModel& model : catalogue.devices) {
            const bool rear = std::any_of(model.ports.specs().begin(), model.ports.specs().end(),
                                          [](const PortSpec& spec) { return spec.like.side == Side::rear; });
            const Face face = faceOf(model);
            QCOMPARE(captions(face), rear ? (QStringList{"front", "rear"}) : QStringList{"front"});
            for (const FacePort& port : face.ports)
                QVERIFY(face.sides[port.like.side == Side::rear ? 1 : 0].area.contains(port.area));
            withRear += rear;
        }
        QVERIFY(withRear > 0);
    }

    void a_device_shows_what_a_source_has_named_beside_what_its_model_gives() {
        Workbench b;
        const DeviceId id = b.add("access-switch-24");
        Device device = *b.network.device(id);
        device.learned = PortNames({"vlan7", "xe-0/0/1"});
        b.network.put(device);
        const Face face = faceOf(b.network, device);
        verifySound(face);
        QCOMPARE(face.ports.size(), b.catalogue.device("access-switch-24")->ports.specs().size() + 2);
        QVERIFY(portOf(face, "xe-0/0/1").area.x > portOf(face, "24").area.x);
    }

    void a_device_of_no_known_model_has_a_face_too() {
        Device device;
        device.id = {7};
        device.name = "something";
        Network network;
        network.put(device);
        const Face face = faceOf(network, device);
        QVERIFY(face.ports.empty());
        QCOMPARE(captions(face), QStringList{"front"});
        QVERIFY(face.width >= 120 && face.height > 0);
        QCOMPARE(face.at({5, 5}), -1);
        QCOMPARE(face.slotAt({5, 5}), -1);
    }

    void slots_that_do_not_fit_beside_each_other_stand_in_rows() {
        Workbench b;
        const DeviceId id = b.add("core-switch-modular");
        for (const char* slot : {"1", "2", "3", "4"})
            b.take(
                edit::fitModule(b.network, b.catalogue, id, slot, "module-12-sfpp", edit::WithLinks::refuse));
        const Face face = faceOf(b.network, *b.network.device(id));
        verifySound(face);
        QCOMPARE(face.slots.size(), std::size_t{4});
        QVERIFY(face.slots.back().area.y > face.slots.front().area.bottom());
        for (const FaceSlot& slot : face.slots) {
            QVERIFY(slot.fitted);
            QCOMPARE(face.slotAt({slot.area.x + 2, slot.area.y + 2}),
                     static_cast<int>(&slot - face.slots.data()));
        }
    }

    void a_faceplate_has_its_slots_and_what_is_in_them() {
        IdSource ids(3);
        const Catalogue catalogue = exchange::builtInCatalogue();
        Network network = emptyNetwork("t", ids);
        network = edit::placeDevices(network, network.sheetsInOrder().front().id,
                                     *catalogue.device("core-switch-modular"), {{"core", {0, 0}}}, {}, ids)
                      ->network;
        DeviceId core;
        network.all<Device>().forEach([&](const Device& device) { core = device.id; });
        const auto empty = faceOf(network, *network.device(core));
        QStringList speeds; // uplinks, stack, management; console and power have none
        for (const FaceSpeed& speed : empty.speeds)
            speeds << QString::fromStdString(speed.text);
        QCOMPARE(speeds, (QStringList{"25G", "100G", "1G"}));
        QCOMPARE(empty.slots.size(), std::size_t(4));
        QVERIFY(!empty.slots[1].fitted);
        network = edit::fitModule(network, catalogue, core, "2", "module-12-sfpp", edit::WithLinks::refuse)
                      ->network;
        network = edit::fitTransceiver(network, catalogue, {core, "2/5"}, "sfpp-10gbase-sr")->network;
        const auto face = faceOf(network, *network.device(core));
        QCOMPARE(tests::text(face.slots[1].caption), QStringLiteral("slot 2 · 12 × SFP+ line module"));
        QCOMPARE(face.ports.size(), empty.ports.size() + 12);
        for (const FacePort& port : face.ports) {
            QVERIFY(face.at(port.area.centre()) >= 0 &&
                    face.ports[static_cast<std::size_t>(face.at(port.area.centre()))].key == port.key);
            if (port.key.starts_with("2/")) {
                QVERIFY(face.slots[1].area.contains(port.area));
                QCOMPARE(port.fitted, port.key == "2/5" ? Connector::lc : Connector::none);
            } else {
                for (const FaceSlot& slot : face.slots)
                    QVERIFY(!slot.area.intersects(port.area));
            }
        }
        for (std::size_t i = 0; i < face.slots.size(); ++i)
            for (std::size_t k = i + 1; k < face.slots.size(); ++k)
                QVERIFY(!face.slots[i].area.intersects(face.slots[k].area));
    }
};

UNDERRIDGE_TEST(FaceTest)
#include "face_test.moc"
