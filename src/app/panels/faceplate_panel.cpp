// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/panels/faceplate_panel.h"

#include "app/dialogs/dialogs.h"

#include "app/session/session.h"
#include "app/sheet/card.h"
#include "app/shown_text.h"
#include "app/style/pieces.h"
#include "core/edit/cables.h"
#include "core/edit/links.h"
#include "core/edit/objects.h"
#include "core/linking/chain.h"

#include <QVBoxLayout>

namespace underridge::app {
using namespace model;
FaceplatePanel::FaceplatePanel(Session& session, Dialogs& dialogs, QWidget* parent)
    : QWidget(parent),
      session_(session),
      dialogs_(dialogs),
      empty_(plainLabel(
          tr("Select a device to see its ports as they are on it; select two to see them face to face."))),
      area_(new QScrollArea),
      link_(new QPushButton(tr("Link"))),
      unlink_(new QPushButton(tr("Unlink"))),
      trunk_(new QPushButton(tr("Trunk cable"))),
      trunkMenu_(new QMenu(this)),
      parts_(new PartsList(session_.workspace(), this)) {
    setObjectName(QStringLiteral("faceplates"));
    link_->setToolTip(tr("Link the chosen ports of both devices in order; a range goes onto a range"));
    unlink_->setToolTip(tr("Take away the links of the chosen ports"));
    trunk_->setToolTip(
        tr("Join the chosen ports of two panels by strands of one cable, new or with spare ones"));
    trunk_->setMenu(trunkMenu_);
    connect(trunkMenu_, &QMenu::aboutToShow, this, &FaceplatePanel::fillTrunkMenu);
    empty_->setAlignment(Qt::AlignCenter);
    auto* content = new QWidget;
    both_ = new QBoxLayout(QBoxLayout::LeftToRight, content);
    both_->setContentsMargins(0, 0, 0, 0);
    both_->setSpacing(14);
    for (int i = 0; i < 2; ++i)
        addFace(i, content);
    both_->addStretch(1);
    area_->setWidget(content);
    area_->setWidgetResizable(true);
    area_->setFrameShape(QFrame::NoFrame);
    area_->setAccessibleName(tr("Faceplates"));
    auto* buttons = new QVBoxLayout;
    buttons->addWidget(link_);
    buttons->addWidget(unlink_);
    buttons->addWidget(trunk_);
    buttons->addStretch(1);
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(6, 4, 6, 6);
    layout->addWidget(empty_, 1);
    layout->addWidget(area_, 1);
    layout->addLayout(buttons);
    layout->addWidget(parts_);
    connect(parts_, &PartsList::wanted, this, [this](DeviceId device, const QString& part) {
        take(*faces_[device == faces_[1]->device()], part, {}, {});
    });
    connect(link_, &QPushButton::clicked, this, &FaceplatePanel::linkChosen);
    connect(unlink_, &QPushButton::clicked, this, &FaceplatePanel::unlinkChosen);
    const auto follow = [this] {
        if (isVisible())
            refresh();
    };
    connect(&session_.selected(), &Selection::changed, this, follow);
    connect(&session_.workspace(), &Workspace::networkChanged, this, follow);
    connect(&session_.workspace(), &Workspace::documentReplaced, this, follow);
    refresh();
}

void FaceplatePanel::addFace(int i, QWidget* content) {
    titles_[i] = new QLabel;
    titles_[i]->setTextFormat(Qt::PlainText);
    faces_[i] = new FaceView(session_.workspace(), content);
    auto* column = new QVBoxLayout;
    column->setSpacing(2);
    column->addWidget(titles_[i]);
    column->addWidget(faces_[i]);
    column->addStretch(1);
    both_->addLayout(column);
    connect(faces_[i], &FaceView::chosenChanged, this, &FaceplatePanel::refreshButtons);
    connect(faces_[i], &FaceView::hinted, this, &FaceplatePanel::hinted);
    connect(faces_[i], &FaceView::dropped, this,
            [this, i](const QString& part, const std::string& port, const std::string& slot) {
                take(*faces_[i], part, port, slot);
            });
    connect(faces_[i], &FaceView::removeWanted, this, [this, i] { removeChosen(*faces_[i]); });
    connect(faces_[i], &FaceView::menuWanted, this, [this, i](QPoint global) {
        auto* menu = new QMenu(this);
        menu->setAttribute(Qt::WA_DeleteOnClose);
        fillMenu(*menu, *faces_[i]);
        menu->isEmpty() ? delete menu : menu->popup(global);
    });
    connect(faces_[i], &FaceView::dragged, this,
            [this, i](const PortRef& port, QPoint global, bool begins, bool done) {
                dragOver(i, port, global, begins, done);
            });
}

void FaceplatePanel::dragOver(int i, const PortRef& port, QPoint global, bool begins, bool done) {
    // Let go over a port of the other face: these two are linked.
    FaceView* other = faces_[1 - i];
    const QPoint local = other->mapFromGlobal(global);
    if (done && other->isVisible() && other->rect().contains(local)) {
        Q_EMIT dragged(port, {-1, -1}, false, true); // the sheet lets it go
        for (const scene::FacePort& each : other->face().ports)
            if ((other->middleOf(each.key) - local).manhattanLength() < 24) {
                session_.apply(edit::linkPorts(session_.network(), session_.catalogue(),
                                               {{port, {other->device(), each.key}}}, session_.ids()));
                return;
            }
        return;
    }
    Q_EMIT dragged(port, global, begins, done);
}

void FaceplatePanel::setTheme(const paint::Theme& theme) {
    for (FaceView* face : faces_)
        face->setTheme(theme);
}

void FaceplatePanel::arrange() {
    int wanted = both_->spacing();
    for (const FaceView* face : faces_)
        wanted += face->isHidden() ? 0 : face->width();
    // The area itself is laid out later than this is asked.
    const int room = width() - trunk_->sizeHint().width() - (parts_->isHidden() ? 0 : parts_->width()) - 56;
    both_->setDirection(wanted <= room ? QBoxLayout::LeftToRight : QBoxLayout::TopToBottom);
}

void FaceplatePanel::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    arrange();
}

void FaceplatePanel::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    refresh();
}

void FaceplatePanel::refresh() {
    const Network& network = session_.network();
    std::vector<DeviceId> wanted = session_.selected().devices();
    if (wanted.size() > 2)
        wanted.resize(2);
    // A link selected here is one of the two devices shown: they stay.
    const auto shown = [this](DeviceId id) { return id == faces_[0]->device() || id == faces_[1]->device(); };
    const auto ofShown = [&] {
        const Link* link =
            session_.selection().empty() ? nullptr : network.link({session_.selection().front().id});
        return link && (shown(link->a.device) || shown(link->b.device));
    };
    const bool stay = wanted.size() < 2 && network.device(faces_[0]->device()) &&
                      (wanted.empty() ? ofShown() : faceToFace() && shown(wanted.front()));
    if (stay)
        wanted = {faces_[0]->device(), faces_[1]->device()};
    wanted.resize(2);
    for (int i = 0; i < 2; ++i) {
        faces_[i]->setDevice(wanted[static_cast<std::size_t>(i)]);
        const Device* device = network.device(faces_[i]->device());
        titles_[i]->setVisible(device != nullptr);
        if (device)
            titles_[i]->setText(
                QStringLiteral("%1 · %2").arg(shownText(device->name), kindText(network, *device)));
    }
    const bool any = network.device(faces_[0]->device());
    empty_->setVisible(!any);
    area_->setVisible(any);
    // Two faces are there to be linked, and want the room.
    parts_->setDevices(faceToFace() ? std::vector<DeviceId>() : std::vector{faces_[0]->device()});
    arrange();
    refreshButtons();
}

std::vector<std::pair<PortRef, PortRef>> FaceplatePanel::pairs() const {
    const auto a = faces_[0]->chosen();
    auto b = faces_[1]->chosen();
    if (a.empty() || b.empty())
        return {};
    if (b.size() == 1 && a.size() > 1) { // a range begins there
        const auto& ports = faces_[1]->face().ports;
        auto at = std::find_if(ports.begin(), ports.end(),
                               [&](const scene::FacePort& port) { return port.key == b.front().port; });
        for (++at; at != ports.end() && b.size() < a.size(); ++at)
            b.push_back({faces_[1]->device(), at->key});
    }
    if (a.size() != b.size())
        return {};
    std::vector<std::pair<PortRef, PortRef>> out;
    for (std::size_t i = 0; i < a.size(); ++i)
        out.emplace_back(a[i], b[i]);
    return out;
}

void FaceplatePanel::refreshButtons() {
    link_->setVisible(faceToFace());
    unlink_->setVisible(session_.network().device(faces_[0]->device()) != nullptr);
    link_->setEnabled(!pairs().empty());
    bool used = false;
    for (const FaceView* face : faces_)
        for (const PortRef& port : face->chosen())
            used |= session_.network().linkAt(port) != nullptr;
    unlink_->setEnabled(used);
    const Network& network = session_.network();
    const auto isPanel = [&](const FaceView* face) {
        const Device* device = network.device(face->device());
        return device && linking::isPassive(network, *device);
    };
    trunk_->setVisible(faceToFace() && isPanel(faces_[0]) && isPanel(faces_[1]));
    trunk_->setEnabled(!pairs().empty());
}

void FaceplatePanel::fillTrunkMenu() {
    const Network& network = session_.network();
    const auto chosen = pairs();
    trunkMenu_->clear();
    if (chosen.empty())
        return;
    const auto port = portAt(network, chosen.front().first);
    const auto far = portAt(network, chosen.front().second);
    if (!port || !far)
        return;
    const int strands = linking::strandsOf(port->connector()) * static_cast<int>(chosen.size());
    const auto lay = [this, chosen](const std::string& type, CableId onto) {
        session_.apply(
            edit::layTrunk(session_.network(), session_.catalogue(), chosen, type, onto, session_.ids()));
    };
    for (const CableId id : edit::sparesBetween(network, faces_[0]->device(), faces_[1]->device(), strands)) {
        const Cable& cable = *network.cable(id);
        const CableType* type = network.typeOf(cable);
        const auto spare = edit::strandsOf(network, cable).spare.size();
        trunkMenu_->addAction(tr("%1, %Ln strand(s) spare", nullptr, static_cast<int>(spare))
                                  .arg(shownText(cable.label.empty() ? type->name : cable.label)),
                              this, [lay, id] { lay({}, id); });
    }
    if (!trunkMenu_->isEmpty())
        trunkMenu_->addSeparator();
    for (const CableType& type : session_.catalogue().cables)
        if (linking::isTrunk(type) && type.approved && type.positions >= strands &&
            ((type.connectorA == port->connector() && type.connectorB == far->connector()) ||
             (type.connectorB == port->connector() && type.connectorA == far->connector())))
            trunkMenu_->addAction(tr("New: %1").arg(shownText(type.name)), this,
                                  [lay, id = type.id] { lay(id, {}); });
    if (trunkMenu_->isEmpty())
        trunkMenu_->addAction(tr("No trunk cable has these plugs and so many strands"))->setEnabled(false);
}

void FaceplatePanel::takeOut(const std::function<edit::ActResult(edit::WithLinks)>& act) {
    auto result = act(edit::WithLinks::refuse);
    if (result || !act(edit::WithLinks::unlink)) {
        session_.apply(std::move(result));
        return;
    }
    const QString why = shownText(result.refusal().what);
    dialogs_.choose({tr("Unlink"),
                     tr("%1. Unlink and go on?").arg(why.left(1).toUpper() + why.mid(1)),
                     {{tr("Unlink"), QMessageBox::AcceptRole}, {tr("Cancel"), QMessageBox::RejectRole}}},
                    [this, act](int choice) {
                        if (choice == 0)
                            session_.apply(act(edit::WithLinks::unlink)); // on what is there by now
                    });
}

void FaceplatePanel::take(FaceView& face, const QString& part, const std::string& port,
                          const std::string& slot) {
    const auto colon = part.indexOf(QLatin1Char(':'));
    const QString kind = part.left(colon);
    const std::string id = part.mid(colon + 1).toStdString();
    const DeviceId device = face.device();
    const Network& network = session_.network();
    if (kind == QLatin1String("port")) {
        session_.apply(edit::addPort(network, session_.catalogue(), device, id));
        return;
    }
    if (kind == QLatin1String("module")) {
        std::string into = slot.empty() ? face.chosenSlot() : slot;
        if (into.empty())
            for (const linking::Supply& supply :
                 linking::suppliesFor(network, session_.catalogue(), *network.device(device)))
                if (supply.id == id && !supply.slot.empty())
                    into = supply.slot;
        if (into.empty()) {
            Q_EMIT session_.workspace().refused(
                error(tr("no free slot takes it"), tr("take another module out first")));
            return;
        }
        takeOut([&](edit::WithLinks links) {
            return edit::fitModule(session_.network(), session_.catalogue(), device, into, id, links);
        });
        return;
    }
    std::vector<PortRef> cages;
    if (!port.empty())
        cages.push_back({device, port});
    else
        cages = face.chosen();
    if (cages.empty()) {
        Q_EMIT session_.workspace().refused(
            advice(tr("no cage is chosen"), tr("click one, or drag the transceiver into it")));
        return;
    }
    // Several are one step.
    edit::Act act{tr("Fit transceivers").toStdString(), network, {refTo(device)}};
    for (const PortRef& cage : cages) {
        auto fitted = edit::fitTransceiver(act.network, session_.catalogue(), cage, id);
        if (!fitted) {
            Q_EMIT session_.workspace().refused(fitted.refusal());
            return;
        }
        if (cages.size() == 1)
            act.name = fitted->name;
        act.network = std::move(fitted->network);
    }
    session_.apply(std::move(act));
}

void FaceplatePanel::removeChosen(FaceView& face) {
    const DeviceId device = face.device();
    if (const std::string slot = face.chosenSlot(); !slot.empty()) {
        takeOut([&](edit::WithLinks links) {
            return edit::removeModule(session_.network(), device, slot, links);
        });
        return;
    }
    const auto chosen = face.chosen();
    if (chosen.empty())
        return;
    takeOut([&](edit::WithLinks links) -> edit::ActResult {
        edit::Act act{{}, session_.network(), {}};
        for (const PortRef& port : chosen) {
            auto removed = edit::removeTransceiver(act.network, port, links);
            if (!removed)
                return removed;
            act = *std::move(removed);
        }
        if (chosen.size() > 1)
            act.name = tr("Take out transceivers").toStdString();
        return act;
    });
}

namespace {

/// Where a transceiver is offered: those of one wavelength of a grid in a menu of their own.
QMenu& gridMenu(QMenu& menu, const TransceiverModel& model) {
    if (model.grid.empty())
        return menu;
    const QString title = FaceplatePanel::tr("Fit one of a %1 grid").arg(shownText(model.grid));
    for (QAction* action : menu.actions())
        if (action->menu() && action->text() == title)
            return *action->menu();
    return *menu.addMenu(title);
}

} // namespace

void FaceplatePanel::fillMenu(QMenu& menu, FaceView& face) {
    const Network& network = session_.network();
    const Device* device = network.device(face.device());
    if (!device)
        return;
    if (const std::string slot = face.chosenSlot(); !slot.empty()) {
        for (const linking::SlotView& view : linking::slotsOf(network, *device)) {
            if (view.key != slot)
                continue;
            for (const std::string& id : view.slot->fits)
                if (const ModuleModel* module = session_.catalogue().module(id);
                    module && !(view.fitted && view.fitted->model == id))
                    menu.addAction(tr("Fit %1").arg(shownText(module->name)), this, [this, &face, id, slot] {
                        take(face, QStringLiteral("module:") + shownText(id), {}, slot);
                    });
            if (view.fitted)
                menu.addAction(tr("Take the module out"), this, [this, &face] { removeChosen(face); });
        }
        return;
    }
    const auto chosen = face.chosen();
    if (chosen.empty())
        return;
    const PortRef first = chosen.front();
    const auto view = portAt(network, first);
    if (!view)
        return;
    if (view->like->cage != Cage::none && view->parent.empty())
        for (const TransceiverModel& model : session_.catalogue().transceivers)
            if (!edit::misfit(network, first, model) &&
                !(view->transceiver && view->transceiver->id == model.id))
                gridMenu(menu, model)
                    .addAction(tr("Fit %1").arg(shownText(model.name)), this, [this, &face, id = model.id] {
                        take(face, QStringLiteral("transceiver:") + shownText(id), {}, {});
                    });
    if (view->transceiver)
        menu.addAction(tr("Take the transceiver out"), this, [this, &face] { removeChosen(face); });
    for (const int parts : view->parent.empty() ? linking::splitsOf(view->like->cage) : std::vector<int>())
        menu.addAction(tr("Split into %1 ports").arg(parts), this, [this, first, parts] {
            takeOut([&](edit::WithLinks links) {
                return edit::setBreakout(session_.network(), first, parts, links);
            });
        });
    if (!view->parent.empty())
        menu.addAction(tr("Make %1 one port again").arg(shownText(view->parent)), this,
                       [this, port = PortRef{first.device, view->parent}] {
                           takeOut([&](edit::WithLinks links) {
                               return edit::setBreakout(session_.network(), port, 0, links);
                           });
                       });
    if (std::find(device->added.begin(), device->added.end(), first.port) != device->added.end())
        menu.addAction(tr("Take port %1 away").arg(shownText(first.port)), this, [this, first] {
            takeOut(
                [&](edit::WithLinks links) { return edit::removePort(session_.network(), first, links); });
        });
}

void FaceplatePanel::linkChosen() {
    session_.apply(edit::linkPorts(session_.network(), session_.catalogue(), pairs(), session_.ids()));
}

void FaceplatePanel::unlinkChosen() {
    edit::Refs links;
    for (const FaceView* face : faces_)
        for (const PortRef& port : face->chosen())
            if (const Link* link = session_.network().linkAt(port))
                if (const ObjectRef ref = refTo(link->id);
                    std::find(links.begin(), links.end(), ref) == links.end())
                    links.push_back(ref);
    session_.apply(edit::removeObjects(session_.network(), links));
}

} // namespace underridge::app
