// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/window/find_field.h"

#include "app/window/editor.h"
#include "core/edit/links.h"
#include "core/linking/chain.h"
#include "core/model/ports.h"

#include <QKeyEvent>

namespace underridge::app {
using namespace model;
namespace {
constexpr int idRole = Qt::UserRole, linkRole = Qt::UserRole + 1, commandRole = Qt::UserRole + 2,
              portRole = Qt::UserRole + 3;
}

FindField::FindField(Editor& editor, std::vector<QAction*> commands, QWidget* parent)
    : QLineEdit(parent),
      editor_(editor),
      commands_(std::move(commands)),
      results_(new QListWidget(parent ? parent->window() : nullptr)) {
    setPlaceholderText(tr("Find a name, address, label… or a command"));
    setClearButtonEnabled(true);
    setAccessibleName(tr("Find"));
    results_->setFocusPolicy(Qt::NoFocus);
    results_->setAccessibleName(tr("Found"));
    results_->hide();
    connect(this, &QLineEdit::textEdited, this, &FindField::search);
    connect(results_, &QListWidget::itemClicked, this,
            [this](QListWidgetItem* item) { take(results_->row(item)); });
}

void FindField::search() {
    results_->clear();
    const std::string query = text().trimmed().toStdString();
    if (query.empty()) {
        results_->hide();
        return;
    }
    const auto add = [&](const QString& words) { return new QListWidgetItem(words, results_); };
    const auto room = [&] { return results_->count() < mostResults; };
    std::vector<const Device*> devices;
    editor_.network().all<Device>().forEach([&](const Device& device) {
        if (devices.size() < 200 && matchesWords(device.name, query))
            devices.push_back(&device);
    });
    std::stable_sort(devices.begin(), devices.end(),
                     [](const Device* a, const Device* b) { return naturalLess(a->name, b->name); });
    for (const Device* device : devices)
        if (room())
            add(QStringLiteral("%1 · %2").arg(QString::fromStdString(device->name),
                                              QString::fromStdString(modelName(editor_.network(), *device))))
                ->setData(idRole, QVariant::fromValue<quint64>(device->id.value));
    searchPorts(query);
    editor_.network().all<Interface>().forEach([&](const Interface& interface) {
        for (const Address& held : interface.addresses)
            if (const std::string& address = held.text(); room() && address.find(query) != std::string::npos)
                add(QStringLiteral("%1 · %2").arg(QString::fromStdString(address),
                                                  editor_.nameOf(refTo(interface.device))))
                    ->setData(idRole, QVariant::fromValue<quint64>(interface.device.value));
    });
    editor_.network().all<Link>().forEach([&](const Link& link) {
        const Cable* cable = editor_.network().cable(link.cable);
        if (!room() || !cable || cable->label.empty() || !matchesWords(cable->label, query))
            return;
        auto* item = add(
            QStringLiteral("%1 · %2").arg(QString::fromStdString(cable->label),
                                          QString::fromStdString(edit::linkText(editor_.network(), link))));
        item->setData(idRole, QVariant::fromValue<quint64>(link.id.value));
        item->setData(linkRole, true);
    });
    for (std::size_t i = 0; i < commands_.size(); ++i)
        if (room() && commands_[i]->isEnabled() &&
            matchesWords(commands_[i]->text().remove(QLatin1Char('&')).toStdString(), query)) {
            auto* item = add(tr("%1 · command %2")
                                 .arg(commands_[i]->text().remove(QLatin1Char('&')),
                                      commands_[i]->shortcut().toString(QKeySequence::NativeText)));
            item->setData(commandRole, static_cast<int>(i));
        }
    if (results_->count() == 0)
        add(tr("Nothing found"))->setFlags(Qt::NoItemFlags);
    results_->setCurrentRow(0);
    const QPoint below = mapTo(window(), QPoint(0, height() + 2));
    const int wide = std::max(width(), 320);
    results_->setGeometry(below.x() + width() - wide, below.y(), wide,
                          results_->sizeHintForRow(0) * results_->count() + 8);
    results_->show();
    results_->raise();
}

/// Ports with a label of their own, and those of outlets and panels: each with the two ends of its chain, so
/// that the search itself answers which switch port is behind an outlet.
void FindField::searchPorts(const std::string& query) {
    const Network& network = editor_.network();
    const auto add = [&](const PortRef& port, const std::string& label) {
        if (results_->count() >= mostResults)
            return;
        const linking::Chain chain = linking::chainThrough(network, port);
        QString words = QString::fromStdString(label.empty() ? portText(network, port)
                                                             : label + " · " + portText(network, port));
        if (!chain.empty())
            words += tr(" · %1 to %2")
                         .arg(QString::fromStdString(portText(network, chain.a)),
                              QString::fromStdString(portText(network, chain.b)));
        auto* item = new QListWidgetItem(words, results_);
        item->setData(idRole, QVariant::fromValue<quint64>(port.device.value));
        item->setData(portRole, QString::fromStdString(port.port));
    };
    network.all<Port>().forEach([&](const Port& port) {
        if (!port.label.empty() && matchesWords(port.label, query))
            add({port.device, port.port}, port.label);
    });
    network.all<Device>().forEach([&](const Device& device) {
        const Role role = roleOf(network, device);
        if ((role != Role::outlet && role != Role::patchPanel) || results_->count() >= mostResults)
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
}

void FindField::take(int row) {
    const QListWidgetItem* item = results_->item(row);
    results_->hide();
    if (!item || !(item->flags() & Qt::ItemIsEnabled))
        return;
    const QVariant command = item->data(commandRole);
    const quint64 id = item->data(idRole).toULongLong();
    const bool isLink = item->data(linkRole).toBool();
    const QString port = item->data(portRole).toString();
    clear();
    if (!port.isEmpty())
        Q_EMIT goToPort({{id}, port.toStdString()});
    else if (command.isValid())
        commands_[static_cast<std::size_t>(command.toInt())]->trigger();
    else
        Q_EMIT goTo(id, isLink);
}

void FindField::keyPressEvent(QKeyEvent* event) {
    const int step = event->key() == Qt::Key_Down ? 1 : event->key() == Qt::Key_Up ? -1 : 0;
    if (step != 0 && results_->isVisible()) {
        results_->setCurrentRow(std::clamp(results_->currentRow() + step, 0, results_->count() - 1));
    } else if ((event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter) && results_->isVisible()) {
        take(results_->currentRow());
    } else if (event->key() == Qt::Key_Escape) {
        results_->hide();
        clear();
        Q_EMIT goTo(0, false);
    } else {
        QLineEdit::keyPressEvent(event);
    }
}

void FindField::focusOutEvent(QFocusEvent* event) {
    results_->hide();
    QLineEdit::focusOutEvent(event);
}

} // namespace underridge::app
