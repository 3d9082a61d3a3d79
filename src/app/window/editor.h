// SPDX-License-Identifier: GPL-3.0-or-later
// The network being edited in a window, with what the person is at: sheet, selection, scene. Panels and
// tools change the network only through apply() and its kind, and hear of it by signals.
#pragma once
#include "core/edit/document.h"
#include "core/edit/objects.h"
#include "core/linking/best.h"
#include "core/scene/scene.h"

#include <QObject>
#include <thread>

namespace underridge::app {

class Editor : public QObject {
    Q_OBJECT
public:
    Editor(edit::World world, model::Catalogue catalogue, std::uint64_t seed, QObject* parent = nullptr);
    ~Editor() override;

    const model::Network& network() const { return document_->network(); }
    /// Everything one can choose from: with own models, and with the network's own cable types.
    const model::Catalogue& catalogue() const { return stocked_; }
    /// The same without the network's own cable types.
    const model::Catalogue& plainCatalogue() const { return catalogue_; }
    /// Own models; they stand beside those of the catalogue that ships with the program.
    const std::vector<model::DeviceModel>& library() const { return library_; }
    void setLibrary(std::vector<model::DeviceModel> models);
    const scene::Scene& scene() const { return scene_; }
    model::SheetId sheet() const { return session_.sheet; }
    /// The unit lengths are shown in and typed without one.
    model::LengthUnit lengthUnit() const { return lengthUnit_; }
    void setLengthUnit(model::LengthUnit unit);
    /// How ports are chosen for the person.
    const linking::Habits& habits() const { return habits_; }
    void setHabits(const linking::Habits& habits) { habits_ = habits; }
    model::IdSource& ids() { return ids_; }
    edit::Document& document() { return *document_; }
    const edit::Document& document() const { return *document_; }
    const edit::World& world() const { return world_; }

    /// In the order things were selected.
    const edit::Refs& selection() const { return session_.selection; }
    std::vector<model::DeviceId> selectedDevices() const;
    bool isSelected(model::ObjectRef ref) const;
    /// The port whose details are shown, if one is chosen on a selected device.
    const model::PortRef& selectedPort() const { return port_; }
    void select(edit::Refs objects);
    void toggleSelected(model::ObjectRef object);
    void selectPort(const model::PortRef& port);

    /// What is in view belongs to the session kept with each step.
    void setView(double centreX, double centreY, double zoom);
    const edit::Session& session() const { return session_; }

    /// Takes an act: selects its subjects unless it has none, and tells. A refusal is told by refused().
    bool apply(edit::ActResult act, std::optional<edit::MergeKey> merge = std::nullopt);
    void undo();
    void redo();

    /// What the selection is as a clip; refused() tells when there is nothing to copy.
    std::optional<edit::Clip> copied();

    /// Puts another document in place of the present one, which is closed in peace.
    void setDocument(edit::Document document);
    /// The same with the scene of its first sheet already built, as a worker does.
    void setDocument(edit::Document document, scene::Scene scene);
    /// Shows another sheet of the network.
    void showSheet(model::SheetId sheet);

    /// "4 of 28 ports": what a device is, for cards and lists.
    QString nameOf(model::ObjectRef object) const;

Q_SIGNALS:
    void catalogueChanged();
    void networkChanged();
    /// Rectangles of the sheet to be drawn anew; `all`: everything.
    void sceneChanged(const std::vector<scene::Rect>& damage, bool all);
    void selectionChanged();
    void documentReplaced();
    void stateChanged(); ///< undo names, modified, path
    void refused(const underridge::Remark& why);
    /// The view asked for by undo and redo.
    void viewWanted(double centreX, double centreY, double zoom);

private:
    void show(const model::Network& before, const edit::Session* session);
    void dropGone();
    void restock();

    edit::World world_;
    model::Catalogue catalogue_;
    model::Catalogue stocked_;
    std::size_t builtIn_ = 0; ///< how many device models of the catalogue ship with the program
    std::vector<model::DeviceModel> library_;
    model::IdSource ids_;
    std::unique_ptr<edit::Document> document_;
    scene::Scene scene_;
    model::LengthUnit lengthUnit_ = model::LengthUnit::metres;
    linking::Habits habits_;
    edit::Session session_;
    model::PortRef port_;
    std::jthread releaser_; ///< large values are let go of beside the window's thread
};

} // namespace underridge::app
