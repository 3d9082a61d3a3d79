// SPDX-License-Identifier: GPL-3.0-or-later
// The document being edited and what one can choose from for it, without a window. Panels
// and tools change the network only through apply() and its kind, and hear of it by
// signals.
#pragma once
#include "core/edit/document.h"
#include "core/edit/objects.h"
#include "core/linking/best.h"
#include "core/model/length.h"
#include "core/scene/trouble.h"

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
    /// For whoever changes, saves or leaves it: with what was still being made.
    edit::Document& document() {
        settle();
        return *document_;
    }
    const edit::Document& document() const { return *document_; }
    const edit::World& world() const { return world_; }

    /// What each step remembers of where the person is; empty without one.
    void setAttention(std::function<edit::Session()> attention) { attention_ = std::move(attention); }

    /// What the checks reported last; never null.
    const std::shared_ptr<const scene::Reported>& reported() const { return reported_; }
    std::shared_ptr<const find::Findings> findings() const { return {reported_, &reported_->byObject}; }
    void setReported(std::shared_ptr<const scene::Reported> reported);

    /// Takes an act. A refusal is told by refused(). Whether it changed anything.
    bool apply(edit::ActResult act, std::optional<edit::MergeKey> merge = std::nullopt);
    /// Takes what was made ready for the network there was then; what was done since stays, or it is
    /// refused. Whether it changed anything.
    bool take(edit::Document::Prepared prepared);
    void undo();
    void redo();

    /// Takes an act that a thread makes, as it takes longer than a frame. Until it is there everything
    /// is as it was; whatever else is done to the document waits for it and comes after it.
    struct Later {
        std::function<Result<edit::Document::Prepared>()> make; ///< on the thread, for the network of now
        std::function<void()> arriving = {};                    ///< before it is taken
        std::function<void()> ended = {};                       ///< it was taken, refused or given up
    };
    void applyLater(Later later);
    /// Whether an act is being made.
    bool isUnsettled() const { return late_ != nullptr; }
    /// Waits for it and takes it; nothing where none is being made. Whether it changed anything.
    bool settle();
    /// Forgets it. Whether there was one.
    bool giveUp();

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
    struct Late;
    /// Where one is, and what will be selected once an act is taken.
    std::pair<edit::Session, edit::Session> sessionsFor(const edit::Refs& subjects) const;
    bool showTaken(const Result<bool>& applied, const model::Network& before, const edit::Session& then);
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
    std::shared_ptr<const scene::Reported> reported_ = std::make_shared<const scene::Reported>();
    std::function<edit::Session()> attention_;
    std::unique_ptr<Late> late_; ///< what is being made; null: nothing
    std::jthread releaser_;      ///< large values are let go of beside the window's thread
};

} // namespace underridge::app
