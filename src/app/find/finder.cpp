// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/find/finder.h"

#include "app/find/filter_field.h"
#include "app/session/workspace.h"
#include "app/shown_text.h"
#include "core/analysis/check.h"
#include "core/edit/links.h"
#include "core/linking/chain.h"
#include "core/model/group_tree.h"
#include "core/model/ports.h"

#include <set>

namespace underridge::app {
using namespace model;
using find::Section;
namespace {

/// A port's line tells both ends of its chain, which takes longer than the others.
constexpr std::size_t mostPorts = 40;
/// Of so many devices the index is made in a few milliseconds.
constexpr std::size_t mostAtOnce = 3000;
/// Nothing has changed for so long: the index is made before anybody looks.
constexpr int settledMs = 150;

/// What it is, and the group it is in.
QString whereabouts(const Network& network, const Device& device) {
    const QString model = shownText(modelName(network, device));
    const Group* group = network.group(device.group);
    return group ? QStringLiteral("%1 · %2").arg(model, shownText(group->name)) : model;
}

} // namespace

Finder::Finder(Workspace& workspace, QObject* parent)
    : QObject(parent), workspace_(workspace), worker_([this](const Network& network) {
          QMetaObject::invokeMethod(
              this,
              [this, made = indexOf(network)] {
                  if (made->texts.isOf(workspace_.network())) // else it changed meanwhile
                      index_ = made;
              },
              Qt::QueuedConnection);
      }) {
    settled_.setSingleShot(true);
    settled_.setInterval(settledMs);
    connect(&settled_, &QTimer::timeout, this, [this] {
        if (!index_->texts.isOf(workspace_.network()))
            worker_.change([&](std::vector<Network>& held) { held = {workspace_.network()}; });
    });
    connect(&workspace_, &Workspace::networkChanged, this, [this] {
        if (workspace_.network().all<Device>().size() > mostAtOnce)
            settled_.start();
    });
}

void Finder::refresh() {
    const Network& network = workspace_.network();
    if (index_->texts.isOf(network))
        return;
    index_ = indexOf(network);
}

std::shared_ptr<const Finder::Index> Finder::indexOf(const Network& network) {
    auto made = std::make_shared<Index>();
    made->texts = find::TextIndex(network);
    std::set<Role> roles;
    network.all<Device>().forEach([&](const Device& device) {
        roles.insert(roleOf(network, device));
        ++made->models[device.model];
    });
    made->roles.assign(roles.begin(), roles.end());
    return made;
}

std::vector<FoundSection> Finder::look(const QString& text, int cursor) {
    refresh();
    const QString wanted = text.trimmed();
    if (wanted.isEmpty())
        return {};
    const bool filter = find::looksLikeFilter(said(wanted));
    auto sections = filter ? byFilter(text) : byWords(wanted);
    if (filter) {
        FoundSection next = goingOn(text, cursor);
        if (!next.lines.empty() && sections.size() == 1 && !sections.front().lines.front().take)
            sections.clear(); // that nothing is found as yet need not be said
        sections.insert(sections.begin(), std::move(next));
    } else
        sections.push_back(asFilter(wanted));
    std::erase_if(sections, [](const FoundSection& section) { return section.lines.empty(); });
    return sections;
}

std::vector<FoundSection> Finder::byWords(const QString& text) {
    const auto found = index_->texts.search(said(text));
    const auto of = [&](Section which) { return found[static_cast<std::size_t>(which)]; };
    return {section(tr("Devices"), of(Section::devices)),
            models(text),
            section(tr("Groups"), of(Section::groups)),
            section(tr("Ports"), of(Section::ports)),
            section(tr("Addresses"), of(Section::addresses)),
            section(tr("Cables"), of(Section::cables)),
            section(tr("VLANs and subnets"), of(Section::vlans)),
            section(tr("Notes"), of(Section::notes)),
            section(tr("Sheets"), of(Section::sheets))};
}

/// The models in use; one stands for all devices of it.
FoundSection Finder::models(const QString& text) {
    FoundSection out{tr("Models"), {}, 0};
    for (const auto& [id, count] : index_->models) {
        const DeviceModel* model = workspace_.network().find<DeviceModel>({fnv1a(id), 0});
        if (!model || !matchesWords(model->name, said(text)))
            continue;
        const QString name = shownText(model->name);
        out.lines.push_back({QStringLiteral("%1 · %2").arg(name, tr("%Ln device(s)", nullptr, count)),
                             [this, name] { Q_EMIT typeWanted(QStringLiteral("model:\"%1\"").arg(name)); }});
    }
    return out;
}

FoundSection Finder::section(const QString& title, const find::FoundIn& found) {
    FoundSection out{title, {}, 0};
    std::set<ObjectRef> devices; // one is found once, by the best of what it was found by
    std::size_t again = 0;
    for (const find::Found& each : found.best) {
        if (each.object.kind == Kind::device && !each.port.known() && title == tr("Devices") &&
            !devices.insert(each.object).second) {
            ++again;
            continue;
        }
        if (each.port.known() && out.lines.size() >= mostPorts)
            break;
        out.lines.push_back(lineOf(each));
    }
    out.more = found.all - again - out.lines.size();
    return out;
}

FoundLine Finder::lineOf(const find::Found& found) {
    const Network& network = workspace_.network();
    const QString words = wordsOf(found);
    if (found.sheet)
        return {words, [this, sheet = found.sheet] { Q_EMIT goToSheet(sheet); }};
    if (found.port.known())
        return {words, [this, port = found.port] { Q_EMIT goToPort(port); }};
    if (found.object.kind == Kind::vlan || found.object.kind == Kind::subnet) {
        const Vlan* vlan = network.find<Vlan>({found.object.id, 0});
        const Subnet* subnet = network.find<Subnet>({found.object.id, 0});
        const QString filter = vlan     ? QStringLiteral("vlan:%1").arg(vlan->number)
                               : subnet ? QStringLiteral("subnet:%1").arg(shownText(subnet->prefix.text()))
                                        : QString();
        return {words, [this, filter] { Q_EMIT typeWanted(filter); }};
    }
    return {words, [this, object = found.object] { Q_EMIT goTo({object}); }};
}

QString Finder::wordsOf(const find::Found& found) const {
    const Network& network = workspace_.network();
    const QString text = shownText(found.text);
    if (found.port.known())
        return portWords(found);
    if (const Device* device = network.device({found.object.id})) {
        const QString name = shownText(device->name);
        return text == name ? QStringLiteral("%1 · %2").arg(name, whereabouts(network, *device))
                            : QStringLiteral("%1 · %2").arg(text, name);
    }
    if (const Group* group = network.group({found.object.id})) {
        const QString words = QStringLiteral("%1 · %2").arg(text, shownText(titleOf(group->type)));
        return network.group(group->parent)
                   ? tr("%1 in %2").arg(words, shownText(pathText(network, group->parent)))
                   : words;
    }
    if (const Link* link = network.link({found.object.id}))
        return QStringLiteral("%1 · %2").arg(text, shownText(edit::linkText(network, *link)));
    if (const Note* note = network.note({found.object.id})) {
        const Sheet* sheet = network.sheet(note->sheet);
        return sheet ? QStringLiteral("%1 · %2").arg(text.left(60), shownText(sheet->name)) : text;
    }
    return text;
}

/// A port with the two ends of its chain, so that the search itself answers which switch
/// port is behind an outlet.
QString Finder::portWords(const find::Found& found) const {
    const Network& network = workspace_.network();
    const std::string name = portText(network, found.port);
    const QString words = shownText(found.text == name ? name : found.text + " · " + name);
    const linking::Chain chain = linking::chainThrough(network, found.port);
    return chain.empty() ? words
                         : tr("%1 · %2 to %3")
                               .arg(words, shownText(portText(network, chain.a)),
                                    shownText(portText(network, chain.b)));
}

FoundLine Finder::deviceLine(DeviceId id) {
    const Device* device = workspace_.network().device(id);
    return {
        QStringLiteral("%1 · %2").arg(shownText(device->name), whereabouts(workspace_.network(), *device)),
        [this, id] { Q_EMIT goTo({refTo(id)}); }};
}

std::vector<DeviceId> Finder::devices(const find::Filter& filter) {
    const Network& network = workspace_.network();
    auto found = find::Matcher(network, filter, workspace_.findings().get()).devices();
    std::stable_sort(found.begin(), found.end(), [&](DeviceId a, DeviceId b) {
        return naturalLess(network.device(a)->name, network.device(b)->name);
    });
    return found;
}

std::vector<FoundSection> Finder::byFilter(const QString& text) {
    const auto filter = find::Filter::parse(said(text));
    if (!filter) {
        const Remark& why = filter.refusal();
        return {{tr("Filter"), {{wrongFilter(why), {}}, {shownText(why.remedy), {}}}, 0}};
    }
    const auto found = devices(*filter);
    FoundSection out{tr("Devices"), {}, 0};
    if (found.empty())
        return {{tr("Devices"), {{tr("None is found"), {}}}, 0}};
    for (std::size_t i = 0; i < found.size() && i < find::mostFound; ++i)
        out.lines.push_back(deviceLine(found[i]));
    out.more = found.size() - std::min(found.size(), find::mostFound);
    if (found.size() == 1)
        return {std::move(out)};
    FoundSection together{tr("Together"), {}, 0};
    together.lines.push_back(
        {tr("Select all %Ln device(s)   Ctrl+Enter", nullptr, static_cast<int>(found.size())),
         [this, text] { Q_EMIT selectWanted(everything(text)); }});
    return {std::move(out), std::move(together)};
}

/// Ways to go on with the field or value that is typed.
FoundSection Finder::goingOn(const QString& text, int cursor) {
    FoundSection out{tr("Go on with"), {}, 0};
    const std::string whole = said(text);
    const std::size_t at = text.left(cursor).toUtf8().size();
    for (const find::Completion& each :
         find::completions(workspace_.network(), whole, at, analysis::forwardingRules())) {
        const std::string next = whole.substr(0, each.from) + each.text + whole.substr(at);
        if (next == whole)
            return {out.title, {}, 0}; // it stands there already
        const QString words =
            each.means.empty() ? shownText(each.text)
                               : QStringLiteral("%1 · %2").arg(shownText(each.text), shownText(each.means));
        out.lines.push_back({words, [this, next] { Q_EMIT typeWanted(shownText(next)); }});
    }
    return out;
}

/// Words that could be meant as a filter: a role, or the beginning of a field.
FoundSection Finder::asFilter(const QString& text) {
    FoundSection out{tr("Filters"), {}, 0};
    if (text.size() < 2)
        return out;
    const std::string low = lowered(said(text));
    for (const Role role : index_->roles)
        if (lowered(titleOf(role)).starts_with(low) || lowered(pluralOf(role)).starts_with(low)) {
            const QString filter = QStringLiteral("role:%1").arg(shownText(textOf(role)));
            out.lines.push_back({QStringLiteral("%1 · %2").arg(filter, shownText(pluralOf(role))),
                                 [this, filter] { Q_EMIT typeWanted(filter); }});
        }
    for (const find::Completion& each : find::fieldCompletions(low, low.size()))
        if (each.from == 0)
            out.lines.push_back({QStringLiteral("%1 · %2").arg(shownText(each.text), shownText(each.means)),
                                 [this, next = each.text] { Q_EMIT typeWanted(shownText(next)); }});
    return out;
}

edit::Refs Finder::everything(const QString& text) {
    refresh();
    edit::Refs out;
    const std::string wanted = trimmed(said(text));
    if (wanted.empty())
        return out;
    if (find::looksLikeFilter(wanted)) {
        if (const auto filter = find::Filter::parse(wanted))
            for (const DeviceId id : devices(*filter))
                out.push_back(refTo(id));
        return out;
    }
    std::set<ObjectRef> once;
    for (const find::FoundIn& found : index_->texts.search(wanted))
        for (const find::Found& each : found.best) {
            const Kind kind = each.object.kind;
            if ((kind == Kind::device || kind == Kind::group || kind == Kind::link || kind == Kind::note) &&
                once.insert(each.object).second)
                out.push_back(each.object);
        }
    return out;
}

} // namespace underridge::app
