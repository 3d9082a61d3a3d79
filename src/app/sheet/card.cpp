// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/card.h"

#include "app/shown_text.h"
#include "core/edit/cables.h"
#include "core/edit/links.h"
#include "core/linking/chain.h"
#include "core/linking/fit.h"
#include "core/linking/route_loads.h"
#include "core/model/group_tree.h"
#include "core/model/racks.h"
#include "core/model/standing.h"

#include <QVBoxLayout>
#include <map>

namespace underridge::app {
using namespace model;
namespace {

QStringList deviceLines(const Network& network, const Device& device) {
    const PortCount ports = countPorts(network, device);
    QStringList out{shownText(device.name), kindText(network, device)};
    if (const Address address = firstAddress(network, device.id); !address.empty())
        out << Card::tr("Address %1").arg(shownText(address.host()));
    if (network.group(device.group))
        out << Card::tr("In %1").arg(shownText(pathText(network, device.group)));
    out << Card::tr("%L1 of %L2 ports used").arg(ports.used).arg(ports.all);
    if (device.outside)
        out << Card::tr("Outside: not ours to manage");
    return out;
}

QStringList linkLines(const Network& network, const Link& link, LengthUnit unit) {
    QStringList out{shownText(edit::linkText(network, link))};
    const Cable* cable = network.cable(link.cable);
    const CableType* type = cable ? network.typeOf(*cable) : nullptr;
    QString medium = shownText(titleOf(mediumOf(network, link)));
    if (type)
        medium += QStringLiteral(" · ") + shownText(type->name);
    out << medium;
    if (const int speed = speedOf(network, link); speed > 0 && !link.console)
        out << shownText(speedText(speed));
    if (cable && cable->lengthMm > 0)
        out << shownLength(cable->lengthMm, unit);
    if (cable && !cable->label.empty())
        out << Card::tr("Label %1").arg(shownText(cable->label));
    if (cable && !link.positions.empty()) {
        const edit::Strands strands = edit::strandsOf(network, *cable);
        out << Card::tr("Uses %L1 of %L2 strands, %L3 spare")
                   .arg(link.positions.size())
                   .arg(strands.all)
                   .arg(strands.spare.size());
    }
    if (isInLag(network, link))
        out << Card::tr("In %1").arg(shownText(lagAt(network, link.a)->name));
    const linking::Chain chain = linking::chainThrough(network, link.a.known() ? link.a : link.b);
    if (chain.stretches.size() > 1)
        out << Card::tr("Part of %1 to %2, %3")
                   .arg(shownText(edit::portText(network, chain.a)),
                        shownText(edit::portText(network, chain.b)),
                        Card::tr("%Ln cable(s)", nullptr, static_cast<int>(chain.stretches.size())));
    out << provenanceText(link.provenance);
    return out;
}

/// How many there are, role by role.
QStringList roleLines(const Network& network, const std::vector<DeviceId>& devices) {
    std::map<Role, int> roles;
    for (const DeviceId id : devices)
        ++roles[roleOf(network, *network.device(id))];
    QStringList out{Card::tr("%Ln device(s)", nullptr, static_cast<int>(devices.size()))};
    for (const auto& [role, count] : roles)
        out << QStringLiteral("%1 × %2").arg(count).arg(shownText(titleOf(role)));
    return out;
}

QStringList groupLines(const Network& network, const Group& group, LengthUnit unit) {
    QStringList out{shownText(group.name), shownText(titleOf(group.type))};
    if (group.type == GroupKind::floor)
        out[1] += Card::tr(", level %1").arg(group.level);
    if (network.group(group.parent))
        out << Card::tr("In %1").arg(shownText(pathText(network, group.parent)));
    if (isRack(group.type) && group.rackUnits > 0)
        out << Card::tr("%L1 of %Ln unit(s) free", nullptr, group.rackUnits)
                   .arg(useOf(network, group).free());
    if (const Asset* plan = group.plan ? network.find<Asset>({group.plan.value, 0}) : nullptr)
        out << Card::tr("On a plan of %1 by %2")
                   .arg(shownLength(std::llround(plan->width * group.planMmPerPixel), unit),
                        shownLength(std::llround(plan->height * group.planMmPerPixel), unit));
    const auto devices = devicesWithin(network, group.id);
    out << roleLines(network, devices);
    return out;
}

QStringList routeLines(const Network& network, const CableRoute& route) {
    QStringList out{shownText(route.name)};
    out << (route.type == CableRouteKind::tray
                ? Card::tr("Tray, %L1 × %L2 mm").arg(route.widthMm).arg(route.depthMm)
                : Card::tr("Conduit, %L1 mm").arg(route.widthMm));
    for (const linking::RouteLoad& load : linking::loadsOn(network, route.floor))
        if (load.route == route.id)
            out << Card::tr("%Ln cable(s)", nullptr, static_cast<int>(load.cables.size()))
                << Card::tr("Filled %1 %, at most %2 %").arg(load.percent).arg(load.limit);
    return out;
}

QStringList portLines(const Network& network, const PortRef& ref) {
    const auto port = portAt(network, ref);
    if (!port)
        return {};
    QStringList out{shownText(edit::portText(network, ref)),
                    QStringLiteral("%1 · %2").arg(shownText(linking::describe(*port)),
                                                  shownText(titleOf(port->like->block)))};
    if (const std::string peer = edit::peerText(network, ref); !peer.empty())
        out << Card::tr("To %1").arg(shownText(peer));
    else
        out << (port->disabled()   ? Card::tr("Disabled")
                : port->reserved() ? Card::tr("Reserved")
                                   : Card::tr("Free"));
    if (port->record && !port->record->label.empty())
        out << shownText(port->record->label);
    return out;
}

} // namespace

QString provenanceText(const Provenance& p) {
    QString out = shownText(titleOf(p.origin));
    if (!p.source.empty())
        out += QStringLiteral(", ") + shownText(p.source);
    return out + (p.lastSeen == 0 ? Card::tr(", not yet seen live") : QString());
}

QString kindText(const Network& network, const Device& device) {
    const std::string model = modelName(network, device);
    const std::string role(titleOf(roleOf(network, device)));
    // "Access switch 24" says its role already.
    return matchesWords(model, role) ? shownText(model)
                                     : QStringLiteral("%1 · %2").arg(shownText(model), shownText(role));
}

QStringList cardLines(const Network& network, ObjectRef object, const std::string& port, LengthUnit unit) {
    if (!port.empty())
        return portLines(network, {{object.id}, port});
    if (const Device* device = network.device({object.id}))
        return deviceLines(network, *device);
    if (const Link* link = network.link({object.id}))
        return linkLines(network, *link, unit);
    if (const Group* group = network.group({object.id}))
        return groupLines(network, *group, unit);
    if (const CableRoute* route = network.cableRoute({object.id}))
        return routeLines(network, *route);
    return {};
}

QStringList spreadLines(const Network& network, const scene::Scene& scene, const scene::Item& item) {
    constexpr std::size_t mostRead = 12;
    std::vector<LinkId> links;
    QString title;
    const auto take = [&](const scene::LinkLine& line) {
        if (line.merged.empty())
            links.push_back(line.id);
        links.insert(links.end(), line.merged.begin(), line.merged.end());
    };
    if (const auto* line = item.as<scene::LinkLine>(); line && line->merged.size() > 1) {
        take(*line);
        title = Card::tr("%Ln link(s)", nullptr, static_cast<int>(links.size()));
    } else if (const auto* doorway = item.as<scene::Doorway>()) {
        scene.forEachLink([&](const scene::LinkLine& each) {
            if (each.a == doorway->beyond || each.b == doorway->beyond)
                take(each);
        });
        title = Card::tr("To %1: %2")
                    .arg(shownText(doorway->name),
                         Card::tr("%Ln link(s)", nullptr, static_cast<int>(links.size())));
    }
    if (links.empty())
        return {};
    QStringList out{title};
    for (std::size_t i = 0; i < std::min(mostRead, links.size()); ++i)
        if (const Link* link = network.link(links[i]))
            out << shownText(edit::linkText(network, *link));
    if (links.size() > mostRead)
        out << Card::tr("and %Ln more", nullptr, static_cast<int>(links.size() - mostRead));
    return out;
}

QStringList zoneLines(const Network& network, const scene::Scene& scene, const scene::NoteCard& zone) {
    const Note* note = network.note(zone.id);
    if (!note || !zone.zone)
        return {};
    QStringList out{zone.lines.empty() ? Card::tr("Zone")
                                       : shownText(note->text.view()).section(QLatin1Char('\n'), 0, 0)};
    std::vector<DeviceId> within;
    for (const scene::Plate* plate : scene.itemsIn(zone.frame).of<scene::Plate>())
        if (!plate->subnet && zone.frame.contains(plate->frame.centre()))
            within.push_back(plate->id);
    out << roleLines(network, within);
    if (const Group* group = network.group(note->group))
        out << Card::tr("Moves with %1").arg(shownText(group->name));
    return out;
}

QString troubleText(const scene::Trouble& trouble) {
    QStringList parts;
    if (trouble.errors > 0)
        parts << Card::tr("%Ln object(s) with errors", nullptr, trouble.errors);
    if (trouble.warnings > 0)
        parts << Card::tr("%Ln object(s) with warnings", nullptr, trouble.warnings);
    return parts.join(QStringLiteral(", "));
}

QStringList badgeLines(const scene::Scene& scene, DeviceId device) {
    const scene::Plate* plate = scene.plate(device);
    if (!plate || plate->tucked.empty())
        return {};
    QStringList out{Card::tr("Tucked in")};
    for (const auto& [role, count] : plate->tucked)
        out << QStringLiteral("%1 × %2").arg(count).arg(shownText(titleOf(role)));
    out << Card::tr("Click to bring them out");
    return out;
}

Card::Card(QWidget* parent)
    : FloatingBox(QStringLiteral("card"), parent), title_(new QLabel(this)), lines_(new QLabel(this)) {
    setAttribute(Qt::WA_TransparentForMouseEvents);
    for (QLabel* label : {title_, lines_})
        label->setTextFormat(Qt::PlainText);
    embolden(title_);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(10, 6, 10, 6);
    layout->setSpacing(2);
    layout->addWidget(title_);
    layout->addWidget(lines_);
    hide();
}

void Card::open(QPoint pointer, const QString& title, const QStringList& lines) {
    title_->setText(title);
    lines_->setText(lines.join(QLatin1Char('\n')));
    adjustSize();
    const QRect room = parentWidget()->rect();
    QPoint at = pointer + QPoint(16, 20);
    if (at.x() + width() > room.right() - 4)
        at.setX(pointer.x() - width() - 12);
    if (at.y() + height() > room.bottom() - 4)
        at.setY(pointer.y() - height() - 12);
    move(std::max(4, at.x()), std::max(4, at.y()));
    show();
    raise();
}

} // namespace underridge::app
