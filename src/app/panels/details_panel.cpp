// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/panels/details_panel.h"

#include "app/panels/remarks_panel.h"
#include "app/sheet/card.h"
#include "app/window/checker.h"
#include "app/window/editor.h"
#include "core/edit/devices.h"
#include "core/edit/links.h"
#include "core/edit/models.h"
#include "core/edit/names.h"
#include "core/edit/sheets.h"
#include "core/linking/chain.h"
#include "paint/sheet_painter.h"

#include <QApplication>
#include <QCheckBox>
#include <QComboBox>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QTimer>
#include <QToolButton>
#include <QVBoxLayout>
#include <fmt/format.h>
#include <map>

namespace underridge::app {
using namespace model;
namespace {

QString text(std::string_view s) {
    return QString::fromUtf8(s.data(), static_cast<qsizetype>(s.size()));
}

} // namespace

DetailsPanel::DetailsPanel(Editor& editor, Checker& checker, QWidget* parent)
    : QScrollArea(parent), editor_(editor), checker_(checker) {
    setObjectName(QStringLiteral("details"));
    setWidgetResizable(true);
    setFrameShape(QFrame::NoFrame);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setAccessibleName(tr("Details"));
    // The form is built anew after the event that changed something, since its own field may have sent it.
    const auto later = [this] {
        if (!std::exchange(refreshing_, true))
            QTimer::singleShot(0, this, &DetailsPanel::refresh);
    };
    connect(&editor_, &Editor::selectionChanged, this, later);
    connect(&editor_, &Editor::networkChanged, this, later);
    connect(&checker_, &Checker::changed, this, later);
    refresh();
}

QString DetailsPanel::sampleLength() const {
    return editor_.lengthUnit() == LengthUnit::feet ? QStringLiteral("72 ft") : QStringLiteral("22 m");
}

QWidget* DetailsPanel::field(const QString& label) const {
    for (QWidget* child : widget()->findChildren<QWidget*>())
        if (child->accessibleName() == label && child->focusPolicy() != Qt::NoFocus)
            return child;
    return nullptr;
}

void DetailsPanel::refresh() {
    refreshing_ = false;
    const edit::Refs& selection = editor_.selection();
    // The field the person is in is built anew too: it gets the focus back, with what is half typed.
    const std::pair shown(selection, editor_.selectedPort());
    QString name, typed;
    int cursor = -1;
    if (QWidget* focus = QApplication::focusWidget(); focus && isAncestorOf(focus) && shown == shown_) {
        name = focus->accessibleName();
        if (auto* edit = qobject_cast<QLineEdit*>(focus); edit && edit->isModified()) {
            typed = edit->text();
            cursor = edit->cursorPosition();
        }
    }
    shown_ = shown;
    showSelection();
    QWidget* again = name.isEmpty() ? nullptr : field(name);
    if (!again)
        return;
    again->setFocus(Qt::OtherFocusReason);
    if (auto* edit = qobject_cast<QLineEdit*>(again); edit && cursor >= 0) {
        edit->setText(typed);
        edit->setModified(true);
        edit->setCursorPosition(cursor);
    }
}

void DetailsPanel::showSelection() {
    const edit::Refs& selection = editor_.selection();
    const Network& network = editor_.network();
    if (editor_.selectedPort().known() && portAt(network, editor_.selectedPort()))
        showPort(editor_.selectedPort());
    else if (selection.size() > 1)
        showSeveral();
    else if (selection.size() == 1 && network.device({selection[0].id}))
        showDevice(*network.device({selection[0].id}));
    else if (selection.size() == 1 && network.link({selection[0].id}))
        showLink(*network.link({selection[0].id}));
    else if (selection.size() == 1 && network.note({selection[0].id}))
        showNote(*network.note({selection[0].id}));
    else
        showSheet();
}

void DetailsPanel::begin(const QString& title, const QString& subtitle) {
    form_ = std::make_unique<DetailsForm>(editor_, title, subtitle);
    setWidget(form_->content());
}

void DetailsPanel::showDevice(const Device& device) {
    const Network& network = editor_.network();
    const DeviceId id = device.id;
    begin(text(device.name), kindText(network, device));
    form_->textRow(tr("Name"), text(device.name), {}, [this, id](const std::string& typed) {
        return edit::rename(editor_.network(), {refTo(id)}, {typed});
    });
    modelRows(device);
    findingRows(refTo(id));
    std::string address;
    network.all<Interface>().forEachIn(id.value, [&](const Interface& i) {
        if (address.empty() && !i.addresses.empty())
            address = i.addresses.front();
    });
    form_->textRow(tr("Address"), text(address), QStringLiteral("10.84.1.1/24"),
                   [this, id](const std::string& typed) {
                       return edit::setAddress(editor_.network(), id, {}, typed, editor_.ids());
                   });
    form_->textRow(tr("Serial"), text(device.serial), {}, [this, id](const std::string& typed) {
        return edit::changeEach<Device>(editor_.network(), {{id.value, 0}}, "Set serial",
                                        [&](Device& d) { d.serial = typed; });
    });
    form_->longRow(tr("Note"), text(device.note.view()), [this, id](const std::string& typed) {
        return edit::changeEach<Device>(editor_.network(), {{id.value, 0}}, "Set note",
                                        [&](Device& d) { d.note = typed; });
    });
    form_->longRow(tr("Start-up"), text(device.startUp.view()), [this, id](const std::string& typed) {
        return edit::changeEach<Device>(editor_.network(), {{id.value, 0}}, "Set start-up configuration",
                                        [&](Device& d) { d.startUp = typed; });
    });
    form_->checkRow(tr("Outside, not ours"), device.outside, [this, id](bool on) {
        return edit::changeEach<Device>(editor_.network(), {{id.value, 0}},
                                        on ? "Mark as outside" : "Mark as ours",
                                        [&](Device& d) { d.outside = on; });
    });
    form_->row(tr("From"), provenanceText(device.provenance));
    if (!device.attributes.empty())
        form_->heading(tr("Attributes"));
    for (const auto& [name, value] : device.attributes)
        form_->textRow(text(name), text(value), {}, [this, id, name = name](const std::string& typed) {
            return edit::changeEach<Device>(editor_.network(), {{id.value, 0}}, "Set " + name,
                                            [&](Device& d) {
                                                if (typed.empty())
                                                    d.attributes.erase(name);
                                                else
                                                    d.attributes[name] = typed;
                                            });
        });
    portLists(device);
}

void DetailsPanel::modelRows(const Device& device) {
    const DeviceId id = device.id;
    const DeviceModel* held = editor_.network().modelOf(device);
    QStringList names;
    int current = -1;
    const auto& models = editor_.catalogue().devices;
    for (const DeviceModel& each : models) {
        if (each.id == device.model)
            current = static_cast<int>(names.size());
        names << text(each.name);
    }
    if (current < 0) // a model that only this network has, or none
        names << text(modelName(editor_.network(), device));
    form_->choiceRow(tr("Model"), names, current < 0 ? static_cast<int>(names.size()) - 1 : current,
                     [this, id](int chosen) -> edit::ActResult {
                         const auto& all = editor_.catalogue().devices;
                         if (chosen < 0 || static_cast<std::size_t>(chosen) >= all.size())
                             return edit::Act{{}, editor_.network(), {}};
                         return edit::setModel(editor_.network(), {id},
                                               all[static_cast<std::size_t>(chosen)]);
                     });
    if (!held)
        return;
    for (const Slot& slot : held->slots) {
        QStringList choices{tr("empty")};
        int fitted = 0;
        for (const std::string& module : slot.fits) {
            const ModuleModel* known = editor_.catalogue().module(module);
            choices << text(known ? known->name : module);
            for (const FittedModule& each : device.modules)
                if (each.slot == slot.key && each.model == module)
                    fitted = static_cast<int>(choices.size()) - 1;
        }
        form_->choiceRow(tr("Slot %1").arg(text(slot.key)), choices, fitted, [this, id, slot](int chosen) {
            return edit::fitModule(editor_.network(), editor_.catalogue(), id, slot.key,
                                   chosen <= 0 ? std::string()
                                               : slot.fits[static_cast<std::size_t>(chosen) - 1]);
        });
    }
}

void DetailsPanel::portLists(const Device& device) {
    const Network& network = editor_.network();
    const PortCount count = countPorts(network, device);
    const bool any = !portsOf(network, device).empty();
    form_->heading(any ? tr("Ports: %1 of %2 used").arg(count.used).arg(count.all) : tr("Ports"));
    if (count.unknown > 0)
        form_->emptyRow(count.unknown == 1
                            ? tr("1 link ends in a port that is not known")
                            : tr("%1 links end in ports that are not known").arg(count.unknown));
    if (!any)
        return;
    for (const PortView& port : portsOf(network, device)) {
        const PortRef ref{device.id, port.key};
        const Link* link = network.linkAt(ref);
        if (!link && !port.record)
            continue;
        const QString words = link              ? text(edit::peerText(network, ref))
                              : port.disabled() ? tr("disabled")
                              : port.reserved() ? tr("reserved")
                                                : text(port.record->label);
        form_->linkRow(text(port.key), words, [this, ref] { editor_.selectPort(ref); });
    }
    auto* free = new QComboBox;
    free->setAccessibleName(tr("Port"));
    free->addItem(tr("Show a port…"));
    for (const PortView& port : portsOf(network, device))
        free->addItem(QStringLiteral("%1 · %2").arg(text(port.key), text(linking::describe(port))),
                      text(port.key));
    const DeviceId id = device.id;
    connect(free, &QComboBox::activated, this, [this, free, id](int index) {
        if (index > 0)
            editor_.selectPort({id, free->itemData(index).toString().toStdString()});
    });
    form_->form().addRow(free);
}

void DetailsPanel::showPort(const PortRef& ref) {
    const Network& network = editor_.network();
    const auto port = portAt(network, ref);
    const Device* device = network.device(ref.device);
    begin(tr("%1, port %2").arg(text(device->name), text(ref.port)),
          QStringLiteral("%1 · %2").arg(text(linking::describe(*port)), text(titleOf(port->like->block))));
    const Port record = port->record ? *port->record : Port{};
    form_->linkRow(tr("Device"), text(device->name),
                   [this, id = device->id] { editor_.select({refTo(id)}); });
    if (const Link* link = network.linkAt(ref)) {
        form_->linkRow(tr("Link"), text(edit::linkText(network, *link)),
                       [this, id = link->id] { editor_.select({refTo(id)}); });
        chainRow(ref);
    }
    form_->textRow(tr("Label"), text(record.label), {}, [this, ref](const std::string& typed) {
        return edit::changePort(editor_.network(), ref, "Set label of port " + ref.port,
                                [&](Port& p) { p.label = typed; });
    });
    std::vector<int> speeds{0};
    for (const int rate : port->like->rates)
        speeds.push_back(rate);
    QStringList names{tr("negotiated")};
    for (std::size_t i = 1; i < speeds.size(); ++i)
        names << text(speedText(speeds[i]));
    const auto at = std::find(speeds.begin(), speeds.end(), record.speed);
    form_->choiceRow(
        tr("Speed"), names, static_cast<int>(at - speeds.begin()), [this, ref, speeds](int index) {
            return edit::changePort(editor_.network(), ref, "Set speed of port " + ref.port,
                                    [&](Port& p) { p.speed = speeds[static_cast<std::size_t>(index)]; });
        });
    QStringList duplexes;
    for (const auto& word : wordsOf(Duplex{}))
        duplexes << text(word.title);
    form_->choiceRow(tr("Duplex"), duplexes, static_cast<int>(record.duplex), [this, ref](int index) {
        return edit::changePort(editor_.network(), ref, "Set duplex of port " + ref.port,
                                [&](Port& p) { p.duplex = static_cast<Duplex>(index); });
    });
    form_->checkRow(tr("Disabled"), record.disabled, [this, ref](bool on) {
        return edit::changePort(editor_.network(), ref, (on ? "Disable port " : "Enable port ") + ref.port,
                                [&](Port& p) { p.disabled = on; });
    });
    form_->checkRow(tr("Reserved"), record.reserved, [this, ref](bool on) {
        return edit::changePort(editor_.network(), ref, (on ? "Reserve port " : "Free port ") + ref.port,
                                [&](Port& p) { p.reserved = on; });
    });
    form_->textRow(tr("Note"), text(record.note), {}, [this, ref](const std::string& typed) {
        return edit::changePort(editor_.network(), ref, "Set note of port " + ref.port,
                                [&](Port& p) { p.note = typed; });
    });
}

void DetailsPanel::chainRow(const PortRef& port) {
    const Network& network = editor_.network();
    const linking::Chain chain = linking::chainThrough(network, port);
    if (chain.stretches.size() < 2)
        return;
    form_->linkRow(tr("Chain"),
                   tr("%1 to %2, %3 cables")
                       .arg(text(edit::portText(network, chain.a)), text(edit::portText(network, chain.b)))
                       .arg(chain.stretches.size()),
                   [this] { Q_EMIT chainWanted(); });
}

void DetailsPanel::findingRows(const ObjectRef& object) {
    for (const linking::Finding& finding : checker_.findings())
        if (std::find(finding.subjects.begin(), finding.subjects.end(), object) != finding.subjects.end())
            form_->linkRow(severityText(finding.rule->severity), text(finding.message),
                           [this] { Q_EMIT findingsWanted(); });
}

void DetailsPanel::showLink(const Link& link) {
    const Network& network = editor_.network();
    const LinkId id = link.id;
    const Cable* cable = network.cable(link.cable);
    const CableType* type = cable ? network.typeOf(*cable) : nullptr;
    begin(text(edit::linkText(network, link)),
          text(link.console ? "console" : titleOf(mediumOf(network, link))));
    for (const int end : {0, 1}) {
        const PortRef& port = link.end(end);
        auto* box = new QWidget;
        auto* column = new QVBoxLayout(box);
        column->setContentsMargins(0, 0, 0, 0);
        column->setSpacing(0);
        auto* words = new QLabel(text(edit::portText(network, port)));
        words->setTextFormat(Qt::PlainText);
        auto* other = new QToolButton;
        other->setText(tr("Other port…"));
        other->setAutoRaise(true);
        other->setAccessibleName(tr("Other port at end %1").arg(end + 1));
        connect(other, &QToolButton::clicked, this,
                [this, id, end] { Q_EMIT otherPortWanted(id.value, end); });
        column->addWidget(words);
        column->addWidget(other, 0, Qt::AlignLeft);
        form_->form().addRow(end == 0 ? tr("End A") : tr("End B"), box);
    }
    chainRow(link.a.known() ? link.a : link.b);
    findingRows(refTo(id));
    if (!link.console)
        form_->row(tr("Speed"),
                   speedOf(network, link) > 0 ? text(speedText(speedOf(network, link))) : tr("not known"));
    if (cable) {
        const CableId cableId = cable->id;
        const auto change = [this, id, cableId](std::string name, auto act) {
            auto result =
                edit::changeEach<Cable>(editor_.network(), {{cableId.value, 0}}, std::move(name), act);
            if (result)
                result->subjects = {refTo(id)};
            return result;
        };
        const linking::Fit fits = linking::fitFor(network, editor_.catalogue(), link);
        const auto fitted = [&](const PortRef& ref) {
            const auto port = portAt(network, ref);
            return port && port->transceiver ? port->transceiver->id : std::string();
        };
        QStringList names;
        int current = -1;
        for (const linking::Joint& joint : fits.joints) {
            const CableType* choice = editor_.catalogue().cable(joint.cable);
            QString words = choice ? text(choice->name) : text(joint.cable);
            if (!joint.console)
                words += QStringLiteral(", ") + text(speedText(joint.speed));
            if (joint.transceivers() > 0)
                words +=
                    joint.transceivers() == 1 ? tr(", with a transceiver") : tr(", with two transceivers");
            if (joint.cable == cable->type && joint.transceiverA == fitted(link.a) &&
                joint.transceiverB == fitted(link.b))
                current = static_cast<int>(names.size());
            names << words;
        }
        if (current < 0) {
            form_->row(tr("Cable"), type ? text(type->name) : text(cable->type));
        } else {
            form_->choiceRow(
                tr("Cable"), names, current, [this, id, joints = fits.joints](int index) -> edit::ActResult {
                    const Link* now = editor_.network().link(id);
                    if (!now)
                        return error("the link is no longer there", "select again");
                    return edit::changeLink(editor_.network(), editor_.catalogue(), id,
                                            {now->a, now->b, joints[static_cast<std::size_t>(index)], {}});
                });
        }
        form_->textRow(tr("Length"),
                       cable->lengthMm > 0 ? text(lengthText(cable->lengthMm, editor_.lengthUnit()))
                                           : QString(),
                       tr("not set, such as %1").arg(sampleLength()),
                       [this, change](const std::string& typed) -> edit::ActResult {
                           const auto length = parseLength(typed, editor_.lengthUnit());
                           if (!length)
                               return error(fmt::format("{} is not a length", typed),
                                            fmt::format("write it as {}", sampleLength().toStdString()));
                           return change("Set length", [&](Cable& c) { c.lengthMm = *length; });
                       });
        form_->textRow(tr("Label"), text(cable->label), {}, [change](const std::string& typed) {
            return change("Set cable label", [&](Cable& c) { c.label = typed; });
        });
        QStringList states;
        for (const auto& word : wordsOf(CableStatus{}))
            states << text(word.title);
        form_->choiceRow(tr("Status"), states, static_cast<int>(cable->status), [change](int index) {
            return change("Set cable status", [&](Cable& c) { c.status = static_cast<CableStatus>(index); });
        });
        form_->textRow(tr("Jacket"), text(cable->jacket), type ? text(type->jacket) : QString(),
                       [change](const std::string& typed) -> edit::ActResult {
                           const bool hex =
                               typed.size() == 7 && typed[0] == '#' &&
                               typed.find_first_not_of("0123456789abcdefABCDEF", 1) == std::string::npos;
                           if (!typed.empty() && !hex)
                               return error(fmt::format("{} is not a colour", typed), "write it as #19A7A0");
                           return change("Set jacket colour", [&](Cable& c) { c.jacket = typed; });
                       });
    }
    form_->textRow(tr("Note"), text(link.note), {}, [this, id](const std::string& typed) {
        return edit::changeEach<Link>(editor_.network(), {{id.value, 0}}, "Set note of link",
                                      [&](Link& l) { l.note = typed; });
    });
    form_->row(tr("From"), provenanceText(link.provenance));
}

void DetailsPanel::showNote(const Note& note) {
    const NoteId id = note.id;
    begin(tr("Note"), tr("on %1").arg(text(editor_.network().sheet(note.sheet)->name)));
    form_->longRow(tr("Text"), text(note.text.view()), [this, id](const std::string& typed) {
        return edit::setNoteText(editor_.network(), id, typed);
    });
}

void DetailsPanel::showSeveral() {
    const Network& network = editor_.network();
    const edit::Refs selection = editor_.selection();
    std::map<std::string, int> counts;
    std::vector<Key> devices, cables;
    bool allOutside = true;
    for (const ObjectRef ref : selection) {
        if (const Device* device = network.device({ref.id})) {
            ++counts[std::string(titleOf(roleOf(network, *device)))];
            devices.push_back(device->key());
            allOutside &= device->outside;
        } else if (const Link* link = network.link({ref.id})) {
            ++counts["link"];
            if (link->cable)
                cables.push_back({link->cable.value, 0});
        } else {
            ++counts["note"];
        }
    }
    QStringList parts;
    for (const auto& [what, n] : counts)
        parts << QStringLiteral("%1 × %2").arg(n).arg(text(what));
    begin(tr("%1 selected").arg(selection.size()), parts.join(QStringLiteral(", ")));
    const auto keep = [selection](edit::ActResult act) {
        if (act)
            act->subjects = selection;
        return act;
    };
    if (!devices.empty()) {
        form_->textRow(tr("Names"), {}, QStringLiteral("till-{01..}"),
                       [this, selection, keep](const std::string& typed) -> edit::ActResult {
                           edit::Refs named;
                           for (const ObjectRef ref : selection)
                               if (ref.kind == Kind::device)
                                   named.push_back(ref);
                           auto names = edit::seriesNames(typed, static_cast<int>(named.size()), {});
                           if (!names)
                               return names.refusal();
                           return keep(edit::rename(editor_.network(), named, *names));
                       });
        form_->checkRow(tr("Outside, not ours"), allOutside, [this, devices, keep](bool on) {
            return keep(edit::changeEach<Device>(editor_.network(), devices,
                                                 fmt::format("Mark {} devices", devices.size()),
                                                 [&](Device& d) { d.outside = on; }));
        });
    }
    if (!cables.empty()) {
        form_->textRow(tr("Length"), {}, tr("for all, such as %1").arg(sampleLength()),
                       [this, cables, keep](const std::string& typed) -> edit::ActResult {
                           const auto length = parseLength(typed, editor_.lengthUnit());
                           if (!length)
                               return error(fmt::format("{} is not a length", typed),
                                            fmt::format("write it as {}", sampleLength().toStdString()));
                           return keep(
                               edit::changeEach<Cable>(editor_.network(), cables,
                                                       fmt::format("Set length of {} cables", cables.size()),
                                                       [&](Cable& c) { c.lengthMm = *length; }));
                       });
        QStringList states;
        for (const auto& word : wordsOf(CableStatus{}))
            states << text(word.title);
        const auto status = network.find<Cable>(cables.front())->status;
        form_->choiceRow(tr("Status"), states, static_cast<int>(status), [this, cables, keep](int index) {
            return keep(edit::changeEach<Cable>(
                editor_.network(), cables, fmt::format("Set status of {} cables", cables.size()),
                [&](Cable& c) { c.status = static_cast<CableStatus>(index); }));
        });
    }
}

void DetailsPanel::legendRow(const Link& sample, int count) {
    constexpr QSize size(54, 16);
    const double ratio = devicePixelRatioF();
    QPixmap picture(size * ratio);
    picture.setDevicePixelRatio(ratio);
    picture.fill(Qt::transparent);
    scene::LinkLine line;
    if (const scene::LinkLine* drawn = editor_.scene().link(sample.id))
        line = *drawn;
    line.form = scene::formOf(editor_.network(), sample);
    line.path = {{2, size.height() / 2.0}, {size.width() - 2.0, size.height() / 2.0}};
    line.planned = line.toRemove = false;
    QPainter painter(&picture);
    painter.setRenderHint(QPainter::Antialiasing);
    const bool dark = palette().color(QPalette::Window).lightness() < 128;
    paint::SheetPainter(dark ? paint::darkTheme() : paint::lightTheme())
        .line(painter, line, scene::Detail::middle, 1);
    painter.end();
    auto* form = new QLabel;
    form->setPixmap(picture);
    const QString words = text(sample.console ? "console" : titleOf(mediumOf(editor_.network(), sample)));
    form->setAccessibleName(words);
    form_->form().addRow(form, new QLabel(QStringLiteral("%1 × %2").arg(count).arg(words)));
}

void DetailsPanel::showSheet() {
    const Network& network = editor_.network();
    begin(text(network.info().name), tr("Nothing selected"));
    form_->textRow(tr("Network"), text(network.info().name), {}, [this](const std::string& typed) {
        auto act = edit::renameNetwork(editor_.network(), typed);
        return act;
    });
    if (const Sheet* sheet = network.sheet(editor_.sheet()))
        form_->textRow(tr("Sheet"), text(sheet->name), {}, [this](const std::string& typed) {
            return edit::renameSheet(editor_.network(), editor_.sheet(), typed);
        });
    std::map<Role, int> roles;
    int endpoints = 0;
    network.all<Device>().forEach([&](const Device& device) {
        const Role role = roleOf(network, device);
        ++roles[role];
        endpoints += isEndpoint(role);
    });
    form_->heading(tr("Devices"));
    if (roles.empty())
        form_->emptyRow(tr("None yet. Press A to add some."));
    for (const auto& [role, n] : roles)
        form_->row(text(pluralOf(role)), QString::number(n));
    if (!roles.empty())
        form_->row(tr("Endpoints"), tr("%1 of %2").arg(endpoints).arg(network.all<Device>().size()));
    if (network.all<Link>().size() > 0)
        form_->linkRow(tr("Findings"), findingCounts(checker_), [this] { Q_EMIT findingsWanted(); });
    std::map<std::pair<scene::LinkForm, Medium>, std::pair<LinkId, int>> forms;
    network.all<Link>().forEach([&](const Link& link) {
        auto& [sample, n] = forms[{scene::formOf(network, link), mediumOf(network, link)}];
        sample = link.id;
        ++n;
    });
    form_->heading(tr("Links"));
    if (forms.empty())
        form_->emptyRow(tr("None yet. Drag a plate's grip to another plate."));
    for (const auto& [form, found] : forms)
        legendRow(*network.link(found.first), found.second);
}

} // namespace underridge::app
