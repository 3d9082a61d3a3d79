// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/panels/details_panel.h"

#include "app/panels/remarks_panel.h"
#include "app/session/session.h"
#include "app/sheet/card.h"
#include "app/titles.h"
#include "app/window/checker.h"
#include "core/edit/devices.h"
#include "core/edit/interfaces.h"
#include "core/edit/links.h"
#include "core/edit/models.h"
#include "core/edit/names.h"
#include "core/edit/sheets.h"
#include "core/edit/vlans.h"
#include "core/linking/chain.h"
#include "core/model/vlans.h"
#include "core/scene/lines.h"
#include "paint/sheet_painter.h"

#include <QGuiApplication>
#include <QLayout>
#include <QPainter>
#include <QScrollBar>
#include <QTimer>
#include <fmt/format.h>
#include <map>
#include <set>

namespace underridge::app {
using namespace model;
DetailsPanel::DetailsPanel(Session& session, Checker& checker, QWidget* parent)
    : QScrollArea(parent), session_(session), checker_(checker) {
    setObjectName(QStringLiteral("details"));
    setWidgetResizable(true);
    setFrameShape(QFrame::NoFrame);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setAccessibleName(tr("Details"));
    form_ = std::make_unique<DetailsForm>(session_.workspace());
    setWidget(form_->content());
    form_->content()->installEventFilter(this);
    // The form is patched after the event that changed something, since its own field may
    // have sent it.
    const auto later = [this] {
        if (!std::exchange(refreshing_, true))
            QTimer::singleShot(0, this, [this] {
                if (isVisible()) // else when it is shown
                    refresh();
            });
    };
    connect(&session_.selected(), &Selection::changed, this, later);
    connect(&session_.workspace(), &Workspace::networkChanged, this, later);
    connect(&session_.sheets(), &SheetSession::sceneChanged, this, later);
    connect(&checker_, &Checker::changed, this, later);
    connect(&counter_, &SheetCounter::counted, this, later);
    refreshing_ = true; // as soon as it is shown
}

DetailsPanel::~DetailsPanel() = default;

QString DetailsPanel::sampleLength() const {
    return session_.lengthUnit() == LengthUnit::feet ? QStringLiteral("72 ft") : QStringLiteral("22 m");
}

QWidget* DetailsPanel::field(const QString& label) const {
    for (QWidget* child : widget()->findChildren<QWidget*>())
        if (child->accessibleName() == label && child->focusPolicy() != Qt::NoFocus)
            return child;
    return nullptr;
}

void DetailsPanel::refresh() {
    refreshing_ = false;
    const int scrolled = verticalScrollBar()->value();
    showSelection();
    if (form_->end())
        settleHeight();
    verticalScrollBar()->setValue(scrolled);
}

/// Wrapped texts need the height that follows from the width; a scroll area asks for the
/// least height only.
void DetailsPanel::settleHeight() {
    QLayout* layout = widget()->layout();
    widget()->setMinimumHeight(layout->hasHeightForWidth() ? layout->totalHeightForWidth(viewport()->width())
                                                           : 0);
}

bool DetailsPanel::eventFilter(QObject* watched, QEvent* event) {
    // Rows tell of a new height one level after another; the last word is told here.
    if (watched == widget() && event->type() == QEvent::LayoutRequest)
        QTimer::singleShot(0, this, &DetailsPanel::settleHeight);
    return QScrollArea::eventFilter(watched, event);
}

void DetailsPanel::showEvent(QShowEvent* event) {
    if (refreshing_)
        refresh();
    QScrollArea::showEvent(event);
}

void DetailsPanel::resizeEvent(QResizeEvent* event) {
    QScrollArea::resizeEvent(event);
    settleHeight();
}

/// What the form is about: as long as it is the same, what is being typed stays.
QString DetailsPanel::subject() const {
    QString out = QString::fromStdString(idText(session_.network().info().id.value));
    for (const ObjectRef ref : session_.selection())
        out += QLatin1Char(' ') + QString::number(ref.id);
    return out + QLatin1Char(':') + QString::fromStdString(session_.selected().port().port);
}

void DetailsPanel::showSelection() {
    const edit::Refs& selection = session_.selection();
    const Network& network = session_.network();
    if (session_.selected().port().known() && portAt(network, session_.selected().port()))
        showPort(session_.selected().port());
    else if (selection.size() > 1)
        showSeveral();
    else if (selection.size() == 1 && network.device({selection[0].id}))
        showDevice(*network.device({selection[0].id}));
    else if (selection.size() == 1 && network.link({selection[0].id}))
        showLink(*network.link({selection[0].id}));
    else if (selection.size() == 1 && network.note({selection[0].id}))
        showNote(*network.note({selection[0].id}));
    else if (selection.size() == 1 && network.cableRoute({selection[0].id}))
        showRoute(*network.cableRoute({selection[0].id}));
    else if (selection.size() == 1 && network.group({selection[0].id}))
        showGroup(*network.group({selection[0].id}));
    else if (selection.size() == 1 && selection[0].kind == Kind::subnet)
        showSubnet({selection[0].id});
    else if (selection.size() == 1 && selection[0].kind == Kind::interface)
        showAttachment({selection[0].id});
    else
        showSheet();
}

void DetailsPanel::begin(const QString& title, const QString& subtitle) {
    form_->begin(subject(), title, subtitle);
}

void DetailsPanel::findingRows(const ObjectRef& object) {
    for (const linking::Finding& finding : checker_.findings())
        if (std::find(finding.subjects.begin(), finding.subjects.end(), object) != finding.subjects.end())
            form_->linkRow(severityText(finding.rule->severity), shownText(finding.message),
                           [this] { Q_EMIT findingsWanted(); });
}

void DetailsPanel::showNote(const Note& note) {
    const NoteId id = note.id;
    begin(note.zone ? tr("Zone") : tr("Note"),
          tr("on %1").arg(shownText(session_.network().sheet(note.sheet)->name)));
    form_->longRow(tr("Text"), shownText(note.text.view()), [this, id](const std::string& typed) {
        return edit::setNoteText(session_.network(), id, typed);
    });
    if (note.zone)
        form_->checkRow(tr("Border only"), note.outline, [this, id, behind = note.behind](bool on) {
            return edit::setNoteLook(session_.network(), id, behind, on);
        });
    else
        form_->checkRow(tr("Behind everything"), note.behind,
                        [this, id](bool on) { return edit::setNoteLook(session_.network(), id, on, false); });
    noteGroupRow(note);
    form_->row(tr("Marks"), tr("# heading, - item, **strong**"));
}

/// With what a note moves, and is hidden: the sheet, or one of the groups drawn there.
void DetailsPanel::noteGroupRow(const Note& note) {
    const scene::Folding* folding = session_.scene().folding();
    if (!folding)
        return;
    QStringList names{tr("the sheet")};
    std::vector<GroupId> groups{{}};
    int current = 0;
    for (const scene::ShownGroup& shown : folding->groups()) {
        const Group* group = session_.network().group(shown.id);
        if (!group || (shown.folded && shown.id != note.group))
            continue;
        if (shown.id == note.group)
            current = static_cast<int>(groups.size());
        groups.push_back(shown.id);
        names << shownText(group->name);
    }
    form_->choiceRow(tr("Moves with"), names, current, [this, id = note.id, groups](int chosen) {
        return edit::setNoteGroup(session_.network(), session_.look(), id,
                                  groups[static_cast<std::size_t>(chosen)]);
    });
}

void DetailsPanel::showSeveral() {
    const Network& network = session_.network();
    const edit::Refs selection = session_.selection();
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
            ++counts[std::string(titleOf(ref.kind))];
        }
    }
    QStringList parts;
    for (const auto& [what, n] : counts)
        parts << QStringLiteral("%1 × %2").arg(n).arg(shownText(what));
    begin(tr("%L1 selected").arg(selection.size()), parts.join(QStringLiteral(", ")));
    if (!devices.empty())
        severalDevices(devices, allOutside);
    if (!cables.empty())
        severalCables(cables);
}

edit::ActResult DetailsPanel::keepingSelection(edit::ActResult act) const {
    if (act)
        act->subjects = session_.selection();
    return act;
}

/// The VLAN of the ports all that are selected hang on, where each hangs on one.
void DetailsPanel::accessRow() {
    constexpr std::size_t most = 500; // more are not looked at for a row
    const Network& network = session_.network();
    const auto devices = session_.selected().devices();
    std::set<int> numbers;
    for (const DeviceId id : devices) {
        const auto port = devices.size() > most ? std::nullopt : edit::accessPortOf(network, id);
        if (!port)
            return;
        const Interface* set = edit::interfaceNamed(network, port->device, port->port);
        numbers.insert(set ? numberOf(network, set->untagged) : 0);
    }
    const bool one = numbers.size() == 1 && *numbers.begin() > 0;
    form_->textRow(tr("Untagged VLAN"), one ? QString::number(*numbers.begin()) : QString(),
                   numbers.size() > 1 ? tr("several") : QStringLiteral("20"),
                   [this](const std::string& typed) -> edit::ActResult {
                       bool number = true;
                       const int vlan = typed.empty() ? 0 : shownText(typed).toInt(&number);
                       if (!number || vlan < 0)
                           return error(tr("%1 is not a VLAN number").arg(shownText(typed)),
                                        tr("write one, or leave it empty"));
                       return keepingSelection(edit::setAccessVlan(
                           session_.network(), session_.selected().devices(), vlan, session_.ids()));
                   });
}

void DetailsPanel::severalDevices(const std::vector<Key>& devices, bool allOutside) {
    form_->textRow(tr("Names"), {}, QStringLiteral("till-{01..}"),
                   [this](const std::string& typed) -> edit::ActResult {
                       edit::Refs named;
                       for (const DeviceId id : session_.selected().devices())
                           named.push_back(refTo(id));
                       auto names = edit::seriesNames(typed, static_cast<int>(named.size()), {});
                       if (!names)
                           return names.refusal();
                       return keepingSelection(edit::rename(session_.network(), named, *names));
                   });
    form_->textRow(tr("Addresses"), {}, tr("next free of a subnet: 10.84.20.0/24"),
                   [this](const std::string& typed) {
                       return keepingSelection(edit::addressInSeries(
                           session_.network(), session_.selected().devices(), typed, session_.ids()));
                   });
    accessRow();
    form_->checkRow(tr("Outside, not ours"), allOutside, [this, devices](bool on) {
        return keepingSelection(edit::changeEach<Device>(
            session_.network(), devices,
            said(tr("Mark %Ln device(s)", nullptr, static_cast<int>(devices.size()))),
            [&](Device& d) { d.outside = on; }));
    });
}

void DetailsPanel::severalCables(const std::vector<Key>& cables) {
    form_->textRow(tr("Length"), {}, tr("for all, such as %1").arg(sampleLength()),
                   [this, cables](const std::string& typed) -> edit::ActResult {
                       const auto length = parseLength(typed, session_.lengthUnit());
                       if (!length)
                           return error(tr("%1 is not a length").arg(shownText(typed)),
                                        tr("write it as %1").arg(sampleLength()));
                       return keepingSelection(edit::changeEach<Cable>(
                           session_.network(), cables,
                           said(tr("Set length of %Ln cable(s)", nullptr, static_cast<int>(cables.size()))),
                           [&](Cable& c) { c.lengthMm = *length; }));
                   });
    const auto status = session_.network().find<Cable>(cables.front())->status;
    form_->choiceRow(tr("Status"), titlesOf<CableStatus>(), static_cast<int>(status),
                     [this, cables](int index) {
                         return keepingSelection(edit::changeEach<Cable>(
                             session_.network(), cables,
                             said(tr("Set status of %Ln cable(s)", nullptr, static_cast<int>(cables.size()))),
                             [&](Cable& c) { c.status = static_cast<CableStatus>(index); }));
                     });
}

} // namespace underridge::app
