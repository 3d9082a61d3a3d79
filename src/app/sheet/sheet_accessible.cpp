// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/sheet_accessible.h"

#include "app/session/session.h"
#include "app/sheet/sheet_view.h"
#include "app/shown_text.h"
#include "core/edit/links.h"
#include "core/model/group_tree.h"
#include "core/model/ports.h"

#include <QAccessible>
#include <QAccessibleActionInterface>
#include <QAccessibleWidget>

namespace underridge::app {
using namespace model;
namespace {

/// More than this in view is a picture, not something to read through; the outline lists
/// everything.
constexpr int mostChildren = 400;

class SheetAccessible;

class ItemAccessible : public QAccessibleInterface, public QAccessibleActionInterface {
public:
    ItemAccessible(SheetView& view, Session& session, ObjectRef object)
        : view_(view), session_(session), object_(object) {}

    bool isValid() const override { return !frame().empty(); }
    QObject* object() const override { return nullptr; }
    QWindow* window() const override { return view_.window()->windowHandle(); }
    QAccessibleInterface* childAt(int, int) const override { return nullptr; }
    QAccessibleInterface* parent() const override { return QAccessible::queryAccessibleInterface(&view_); }
    QAccessibleInterface* child(int) const override { return nullptr; }
    int childCount() const override { return 0; }
    int indexOfChild(const QAccessibleInterface*) const override { return -1; }
    void setText(QAccessible::Text, const QString&) override {}

    QString text(QAccessible::Text which) const override {
        const Network& network = session_.network();
        if (which == QAccessible::Name)
            return session_.nameOf(object_);
        if (which != QAccessible::Description)
            return {};
        if (const Device* device = network.device({object_.id})) {
            const PortCount count = countPorts(network, *device);
            QStringList parts{QString::fromUtf8(titleOf(roleOf(network, *device)).data()),
                              QString::fromStdString(modelName(network, *device))};
            if (const Address address = firstAddress(network, device->id); !address.empty())
                parts << shownText(address.host());
            parts << SheetView::tr("%L1 of %L2 ports used").arg(count.used).arg(count.all);
            return parts.join(QStringLiteral(", "));
        }
        if (const Group* group = network.group({object_.id})) {
            const auto devices = static_cast<int>(devicesWithin(network, group->id).size());
            QStringList parts{shownText(titleOf(group->type)),
                              SheetView::tr("%Ln device(s)", nullptr, devices)};
            if (session_.scene().tile(group->id))
                parts << SheetView::tr("folded");
            return parts.join(QStringLiteral(", "));
        }
        if (const Link* link = network.link({object_.id})) {
            QStringList parts{QString::fromUtf8(titleOf(mediumOf(network, *link)).data())};
            if (const int speed = speedOf(network, *link); speed > 0)
                parts << QString::fromStdString(speedText(speed));
            return parts.join(QStringLiteral(", "));
        }
        return {};
    }

    QRect rect() const override {
        const scene::Rect area = frame();
        const QPointF corner = view_.camera().toScreen({area.x, area.y}),
                      other = view_.camera().toScreen({area.right(), area.bottom()});
        return {view_.mapToGlobal(corner.toPoint()), view_.mapToGlobal(other.toPoint())};
    }

    QAccessible::Role role() const override {
        switch (object_.kind) {
        case Kind::link:
        case Kind::interface:
            return QAccessible::Link;
        case Kind::note:
            return QAccessible::Note;
        default:
            return QAccessible::ListItem;
        }
    }

    QAccessible::State state() const override {
        QAccessible::State state;
        state.selectable = state.focusable = true;
        state.selected = session_.selected().contains(object_);
        state.focused = view_.hasFocus() && view_.selectTool().focused() == object_;
        state.offscreen = !frame().intersects(view_.camera().visible());
        return state;
    }

    void* interface_cast(QAccessible::InterfaceType type) override {
        return type == QAccessible::ActionInterface ? static_cast<QAccessibleActionInterface*>(this)
                                                    : nullptr;
    }
    QStringList actionNames() const override { return {pressAction()}; }
    void doAction(const QString& name) override {
        if (name == pressAction())
            session_.select({object_});
    }
    QStringList keyBindingsForAction(const QString&) const override { return {}; }

    ObjectRef shown() const { return object_; }

private:
    scene::Rect frame() const {
        const scene::Scene& scene = session_.scene();
        if (const auto* line = scene.link({object_.id}))
            return scene::boundsOf(line->path).grown(1);
        const scene::Item* item = scene.item(object_);
        return item ? scene::frameOf(*item) : scene::Rect{};
    }

    SheetView& view_;
    Session& session_;
    ObjectRef object_;
};

class SheetAccessible : public QAccessibleWidget {
public:
    explicit SheetAccessible(SheetView* view) : QAccessibleWidget(view, QAccessible::List), view_(*view) {}
    ~SheetAccessible() override { drop(); }

    int childCount() const override {
        refresh();
        return static_cast<int>(inView_.size() + over_.size());
    }
    QAccessibleInterface* child(int index) const override {
        refresh();
        if (index < 0 || index >= static_cast<int>(inView_.size() + over_.size()))
            return nullptr;
        if (const auto at = static_cast<std::size_t>(index); at >= inView_.size())
            return QAccessible::queryAccessibleInterface(over_[at - inView_.size()]);
        const ObjectRef object = inView_[static_cast<std::size_t>(index)];
        auto& id = made_[object];
        if (id == 0)
            id = QAccessible::registerAccessibleInterface(new ItemAccessible(view_, view_.session(), object));
        return QAccessible::accessibleInterface(id);
    }
    int indexOfChild(const QAccessibleInterface* child) const override {
        refresh();
        for (std::size_t i = 0; i < over_.size(); ++i)
            if (child && child->object() == over_[i])
                return static_cast<int>(inView_.size() + i);
        for (const auto& [object, id] : made_)
            if (QAccessible::accessibleInterface(id) == child) {
                const auto at = std::find(inView_.begin(), inView_.end(), object);
                return at == inView_.end() ? -1 : static_cast<int>(at - inView_.begin());
            }
        return -1;
    }
    QAccessibleInterface* childAt(int x, int y) const override {
        for (int i = childCount() - 1; i >= 0; --i) // what lies over the sheet first
            if (QAccessibleInterface* each = child(i); each && each->rect().contains(x, y))
                return each;
        return nullptr;
    }
    QAccessibleInterface* focusChild() const override {
        for (int i = 0; i < childCount(); ++i) {
            QAccessibleInterface* each = child(i);
            if (each && each->state().focused)
                return each;
            if (QAccessibleInterface* inside = each && each->object() ? each->focusChild() : nullptr)
                return inside;
        }
        return nullptr;
    }
    /// Where an object stands among the children; -1 when it is not in view.
    int indexOf(ObjectRef object) const {
        refresh();
        const auto at = std::find(inView_.begin(), inView_.end(), object);
        return at == inView_.end() ? -1 : static_cast<int>(at - inView_.begin());
    }
    QString text(QAccessible::Text which) const override {
        if (which == QAccessible::Name)
            return SheetView::tr("Sheet");
        if (which == QAccessible::Description) {
            const scene::Scene& scene = view_.session().scene();
            return SheetView::tr(
                       "%L1 devices and %L2 links; Tab goes from device to device, Page Down along links")
                .arg(scene.count<scene::Plate>())
                .arg(scene.count<scene::LinkLine>());
        }
        return QAccessibleWidget::text(which);
    }

private:
    /// What is in view now, plates first, as people look; then what has opened over it.
    void refresh() const {
        over_.clear();
        for (QWidget* widget : view_.findChildren<QWidget*>(QString(), Qt::FindDirectChildrenOnly))
            if (widget->isVisible() && !widget->accessibleName().isEmpty())
                over_.push_back(widget);
        const auto items = view_.session().scene().itemsIn(view_.camera().visible());
        inView_.clear();
        for (const scene::Plate* plate : items.of<scene::Plate>())
            inView_.push_back(plate->object());
        for (const scene::Item* item : items.all())
            if (item->layer != scene::Layer::links && !item->as<scene::Plate>())
                inView_.push_back(item->object);
        for (const scene::LinkLine* line : items.of<scene::LinkLine>())
            inView_.push_back(line->object());
        if (inView_.size() > mostChildren)
            inView_.resize(mostChildren);
        if (made_.size() > 4 * mostChildren)
            drop();
    }
    void drop() const {
        for (const auto& [object, id] : made_)
            QAccessible::deleteAccessibleInterface(id);
        made_.clear();
    }

    SheetView& view_;
    mutable std::vector<ObjectRef> inView_;
    mutable std::vector<QWidget*> over_;
    mutable std::map<ObjectRef, QAccessible::Id> made_;
};

QAccessibleInterface* make(const QString&, QObject* object) {
    auto* view = qobject_cast<SheetView*>(object);
    return view ? new SheetAccessible(view) : nullptr;
}

} // namespace

void tellAccessibly(SheetView& view, QAccessible::Event event, ObjectRef object) {
    if (!QAccessible::isActive())
        return;
    const auto* sheet = static_cast<SheetAccessible*>(QAccessible::queryAccessibleInterface(&view));
    const int index = sheet ? sheet->indexOf(object) : -1;
    if (index < 0)
        return;
    QAccessibleEvent told(&view, event);
    told.setChild(index);
    QAccessible::updateAccessibility(&told);
}

void installSheetAccessibility() {
    static const bool once = [] {
        QAccessible::installFactory(make);
        return true;
    }();
    static_cast<void>(once);
}

} // namespace underridge::app
