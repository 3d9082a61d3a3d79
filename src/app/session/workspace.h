// SPDX-License-Identifier: GPL-3.0-or-later
// The document being edited and what one can choose from for it, without a window. Panels
// and tools change the network only through apply() and its kind, and hear of it by
// signals.
#pragma once
#include "core/edit/document.h"
#include "core/edit/objects.h"
#include "core/find/matching.h"
#include "core/linking/best.h"
#include "core/model/length.h"

#include <QObject>
#include <functional>
#include <thread>

namespace underridge::app {

class Workspace : public QObject {
    Q_OBJECT
public:
    Workspace(edit::World world, model::Catalogue catalogue, std::uint64_t seed, QObject* parent = nullptr);
    ~Workspace() override;

    const model::Network& network() const { return document_->network(); }
    /// Everything one can choose from: with own models, and with the network's own cable
    /// types.
    const model::Catalogue& catalogue() const { return stocked_; }
    /// The same without the network's own cable types.
    const model::Catalogue& plainCatalogue() const { return catalogue_; }
    /// Own models; they stand beside those of the catalogue that ships with the program.
    const std::vector<model::DeviceModel>& library() const { return library_; }
    void setLibrary(std::vector<model::DeviceModel> models);
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

    /// What each step remembers of where the person is; empty without one.
    void setAttention(std::function<edit::Session()> attention) { attention_ = std::move(attention); }

    /// What the checks reported last, by object; never null.
    const std::shared_ptr<const find::Findings>& findings() const { return findings_; }
    void setFindings(std::shared_ptr<const find::Findings> findings);

    /// Takes an act. A refusal is told by refused(). Whether it changed anything.
    bool apply(edit::ActResult act, std::optional<edit::MergeKey> merge = std::nullopt);
    void undo();
    void redo();

    /// Puts another document in place of the present one, which is closed in peace.
    void setDocument(edit::Document document);

    /// What an object is called, for cards and lists; empty when it is not there.
    QString nameOf(model::ObjectRef object) const;

Q_SIGNALS:
    /// First of all after an edit: what shows the network follows. `at`: where the person
    /// is then.
    void changed(const model::Network& before, const edit::Session& at);
    void networkChanged();
    /// Everybody has heard of the change.
    void told();
    /// Undo and redo lead back to a view.
    void viewWanted(const edit::Session& at);
    void findingsChanged();
    void catalogueChanged();
    void documentReplaced();
    void lengthUnitChanged();
    void stateChanged(); ///< undo names, modified, path
    void refused(const underridge::Remark& why);

private:
    void show(const model::Network& before, const edit::Session& at);
    void restock();

    edit::World world_;
    model::Catalogue catalogue_;
    model::Catalogue stocked_;
    std::size_t builtIn_ = 0; ///< how many device models of the catalogue ship with the program
    std::vector<model::DeviceModel> library_;
    model::IdSource ids_;
    std::unique_ptr<edit::Document> document_;
    model::LengthUnit lengthUnit_ = model::LengthUnit::metres;
    linking::Habits habits_;
    std::shared_ptr<const find::Findings> findings_ = std::make_shared<const find::Findings>();
    std::function<edit::Session()> attention_;
    std::jthread releaser_; ///< large values are let go of beside the window's thread
};

} // namespace underridge::app
