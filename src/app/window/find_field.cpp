// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/window/find_field.h"

#include "app/session/workspace.h"
#include "app/shown_text.h"
#include "core/edit/links.h"
#include "core/linking/chain.h"
#include "core/model/group_tree.h"
#include "core/model/ports.h"

#include <QKeyEvent>

namespace underridge::app {
using namespace model;
namespace {

/// Where looking for more of a kind ends, so that a key typed costs no more in a large
/// network. A port's line tells both ends of its chain, which takes longer.
constexpr std::size_t mostCounted = 200, mostPorts = 40;

/// 0: the whole name, 1: its start, 2: any part.
int rankOf(std::string_view name, const std::string& query) {
    const std::string low = lowered(name), wanted = lowered(query);
    return low == wanted ? 0 : low.starts_with(wanted) ? 1 : 2;
}

/// What it is, and the group it is in.
QString whereabouts(const Network& network, const Device& device) {
    const QString model = shownText(modelName(network, device));
    const Group* group = network.group(device.group);
    return group ? QStringLiteral("%1 · %2").arg(model, shownText(group->name)) : model;
}

} // namespace

FindField::FindField(Workspace& workspace, std::vector<QAction*> commands, QWidget* parent)
    : QLineEdit(parent),
      workspace_(workspace),
      commands_(std::move(commands)),
      results_(new QListWidget(parent ? parent->window() : nullptr)) {
    setPlaceholderText(tr("Find a name, address, label… or a command"));
    setClearButtonEnabled(true);
    setAccessibleName(tr("Find"));
    results_->setFocusPolicy(Qt::NoFocus);
    results_->setAccessibleName(tr("Found"));
    results_->hide();
    connect(this, &QLineEdit::textEdited, this, [this] {
        whole_.clear();
        search();
    });
    connect(results_, &QListWidget::itemClicked, this,
            [this](QListWidgetItem* item) { take(results_->row(item)); });
}

void FindField::search() {
    const std::string query = text().trimmed().toStdString();
    if (query.empty()) {
        results_->hide();
        return;
    }
    show({devices(query), groups(query), ports(query), addresses(query), cables(query), sheets(query),
          commands(query)});
}

void FindField::show(const std::vector<Section>& sections) {
    results_->clear();
    takes_.clear();
    const auto add = [&](const QString& words, std::function<void()> take) {
        auto* item = new QListWidgetItem(words, results_);
        if (!take)
            item->setFlags(Qt::NoItemFlags);
        takes_.push_back(std::move(take));
    };
    for (Section section : sections) {
        if (section.found.empty())
            continue;
        std::stable_sort(section.found.begin(), section.found.end(),
                         [](const Found& a, const Found& b) { return a.rank < b.rank; });
        add(section.title, {});
        const std::size_t shownHere = whole_ == section.title
                                          ? section.found.size()
                                          : std::min<std::size_t>(section.found.size(), mostOfSection);
        for (std::size_t i = 0; i < shownHere; ++i)
            add(section.found[i].words, section.found[i].take);
        if (const auto left = section.found.size() - shownHere; left > 0)
            add(section.cut ? tr("%1 or more").arg(left) : tr("%1 more").arg(left),
                [this, title = section.title] {
                    whole_ = title;
                    search();
                });
        else if (section.cut)
            add(tr("perhaps more: type on to narrow them down"), {});
    }
    if (results_->count() == 0)
        add(tr("Nothing found"), {});
    const auto first =
        std::find_if(takes_.begin(), takes_.end(), [](const auto& take) { return bool(take); });
    results_->setCurrentRow(first == takes_.end() ? -1 : static_cast<int>(first - takes_.begin()));
    const QPoint below = mapTo(window(), QPoint(0, height() + 2));
    const int wide = std::max(width(), 380), room = window()->height() - below.y() - 8;
    results_->setGeometry(below.x() + width() - wide, below.y(), wide,
                          std::min(room, results_->sizeHintForRow(0) * results_->count() + 8));
    results_->show();
    results_->raise();
}

FindField::Section FindField::devices(const std::string& query) {
    Section section{tr("Devices"), {}, false};
    const Network& network = workspace_.network();
    std::vector<const Device*> devices;
    network.all<Device>().forEach([&](const Device& device) {
        section.cut = devices.size() >= mostCounted;
        if (!section.cut && matchesWords(device.name, query))
            devices.push_back(&device);
    });
    std::stable_sort(devices.begin(), devices.end(),
                     [](const Device* a, const Device* b) { return naturalLess(a->name, b->name); });
    for (const Device* device : devices)
        section.found.push_back(
            {QStringLiteral("%1 · %2").arg(shownText(device->name), whereabouts(network, *device)),
             rankOf(device->name, query), [this, id = device->id] { Q_EMIT goTo({refTo(id)}); }});
    return section;
}

FindField::Section FindField::groups(const std::string& query) {
    Section section{tr("Groups"), {}, false};
    const Network& network = workspace_.network();
    network.all<Group>().forEach([&](const Group& group) {
        section.cut = section.found.size() >= mostCounted;
        if (section.cut || !matchesWords(group.name, query))
            return;
        QString words = QStringLiteral("%1 · %2").arg(shownText(group.name), shownText(titleOf(group.type)));
        if (network.group(group.parent))
            words = tr("%1 in %2").arg(words, shownText(pathText(network, group.parent)));
        section.found.push_back(
            {words, rankOf(group.name, query), [this, id = group.id] { Q_EMIT goTo({refTo(id)}); }});
    });
    return section;
}

FindField::Section FindField::sheets(const std::string& query) {
    Section section{tr("Sheets"), {}, false};
    for (const Sheet& sheet : workspace_.network().sheetsInOrder())
        if (matchesWords(sheet.name, query))
            section.found.push_back({shownText(sheet.name), rankOf(sheet.name, query),
                                     [this, id = sheet.id] { Q_EMIT goToSheet(id); }});
    return section;
}

/// Ports with a label of their own, and those of outlets and panels: each with the two
/// ends of its chain, so that the search itself answers which switch port is behind an
/// outlet.
FindField::Section FindField::ports(const std::string& query) {
    Section section{tr("Ports"), {}, false};
    const Network& network = workspace_.network();
    const auto add = [&](const PortRef& port, const std::string& label) {
        section.cut = section.found.size() >= mostPorts;
        if (section.cut)
            return;
        const linking::Chain chain = linking::chainThrough(network, port);
        const std::string name = portText(network, port);
        QString words = shownText(label.empty() ? name : label + " · " + name);
        if (!chain.empty())
            words =
                tr("%1 · %2 to %3")
                    .arg(words, shownText(portText(network, chain.a)), shownText(portText(network, chain.b)));
        section.found.push_back(
            {words, rankOf(label.empty() ? name : label, query), [this, port] { Q_EMIT goToPort(port); }});
    };
    network.all<Port>().forEach([&](const Port& port) {
        if (!port.label.empty() && matchesWords(port.label, query))
            add({port.device, port.port}, port.label);
    });
    network.all<Device>().forEach([&](const Device& device) {
        const Role role = roleOf(network, device);
        if (section.cut || (role != Role::outlet && role != Role::patchPanel))
            return;
        const std::string start = query.substr(0, query.find_last_of(' '));
        if (!matchesWords(device.name, query) && !matchesWords(device.name, start))
            return; // no port of it can match
        for (const PortView& port : portsOf(network, device)) {
            const std::string name = device.name + " " + port.key;
            const bool named = lowered(name) == lowered(query);
            if (named ||
                (role == Role::outlet && port.like->block == Block::front && matchesWords(name, query)))
                add({device.id, port.key}, {});
        }
    });
    return section;
}

FindField::Section FindField::addresses(const std::string& query) {
    Section section{tr("Addresses"), {}, false};
    workspace_.network().all<Interface>().forEach([&](const Interface& interface) {
        for (const Address& address : interface.addresses) {
            section.cut = section.found.size() >= mostCounted;
            if (section.cut || address.text().find(query) == std::string::npos)
                continue;
            section.found.push_back(
                {QStringLiteral("%1 · %2").arg(shownText(address.text()),
                                               workspace_.nameOf(refTo(interface.device))),
                 rankOf(address.host(), query), [this, id = interface.device] { Q_EMIT goTo({refTo(id)}); }});
        }
    });
    return section;
}

FindField::Section FindField::cables(const std::string& query) {
    Section section{tr("Cables"), {}, false};
    const Network& network = workspace_.network();
    network.all<Link>().forEach([&](const Link& link) {
        section.cut = section.found.size() >= mostCounted;
        const Cable* cable = section.cut ? nullptr : network.cable(link.cable);
        if (!cable || cable->label.empty() || !matchesWords(cable->label, query))
            return;
        section.found.push_back(
            {QStringLiteral("%1 · %2").arg(shownText(cable->label), shownText(edit::linkText(network, link))),
             rankOf(cable->label, query), [this, id = link.id] { Q_EMIT goTo({refTo(id)}); }});
    });
    return section;
}

FindField::Section FindField::commands(const std::string& query) {
    Section section{tr("Commands"), {}, false};
    for (QAction* action : commands_) {
        const QString name = action->text().remove(QLatin1Char('&'));
        if (!action->isEnabled() || !matchesWords(name.toStdString(), query))
            continue;
        const QString key = action->shortcut().toString(QKeySequence::NativeText);
        section.found.push_back({key.isEmpty() ? name : QStringLiteral("%1   %2").arg(name, key),
                                 rankOf(name.toStdString(), query), [action] { action->trigger(); }});
    }
    return section;
}

void FindField::take(int row) {
    if (row < 0 || row >= static_cast<int>(takes_.size()) || !takes_[static_cast<std::size_t>(row)])
        return;
    const auto chosen = takes_[static_cast<std::size_t>(row)];
    whole_.clear();
    const QString before = text();
    chosen();
    if (!whole_.isEmpty() && text() == before)
        return; // the section is shown whole
    results_->hide();
    clear();
}

/// The next line that can be chosen.
void FindField::step(int by) {
    for (int row = results_->currentRow() + by; row >= 0 && row < results_->count(); row += by)
        if (takes_[static_cast<std::size_t>(row)])
            return results_->setCurrentRow(row);
}

void FindField::keyPressEvent(QKeyEvent* event) {
    const int by = event->key() == Qt::Key_Down ? 1 : event->key() == Qt::Key_Up ? -1 : 0;
    if (by != 0 && results_->isVisible()) {
        step(by);
    } else if ((event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter) && results_->isVisible()) {
        take(results_->currentRow());
    } else if (event->key() == Qt::Key_Escape) {
        results_->hide();
        clear();
        Q_EMIT left();
    } else {
        QLineEdit::keyPressEvent(event);
    }
}

void FindField::focusOutEvent(QFocusEvent* event) {
    results_->hide();
    QLineEdit::focusOutEvent(event);
}

} // namespace underridge::app
