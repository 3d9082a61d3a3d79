// SPDX-License-Identifier: GPL-3.0-or-later
// One person at one network: the workspace, what is selected, the sheets as they are
// looked at, and going about. Its parts know nothing of each other but this: after an
// edit the scene follows first, then the selection, then everybody hears.
#pragma once
#include "app/overlays/overlays.h"
#include "app/session/navigation.h"
#include "app/session/selection.h"
#include "app/session/sheet_session.h"
#include "app/session/workspace.h"
#include "core/edit/shown_places.h"

namespace underridge::app {

class Session : public QObject {
    Q_OBJECT
public:
    Session(edit::World world, model::Catalogue catalogue, std::uint64_t seed, QObject* parent = nullptr);

    Workspace& workspace() { return workspace_; }
    const Workspace& workspace() const { return workspace_; }
    Selection& selected() { return selection_; }
    SheetSession& sheets() { return sheets_; }
    Navigation& navigation() { return navigation_; }
    Overlays& overlays() { return overlays_; }

    // What is asked for most.
    const model::Network& network() const { return workspace_.network(); }
    const model::Catalogue& catalogue() const { return workspace_.catalogue(); }
    const scene::Scene& scene() const { return sheets_.scene(); }
    model::SheetId sheet() const { return sheets_.sheet(); }
    /// How the sheet is looked at, for acts on what is shown.
    edit::Look look() const {
        return {sheet(), scene().entered(), scene().standing(), scene().sharedFolding()};
    }
    const edit::Refs& selection() const { return selection_.objects(); }
    void select(edit::Refs objects) { selection_.select(std::move(objects)); }
    void selectPort(const model::PortRef& port) { selection_.selectPort(port); }
    model::LengthUnit lengthUnit() const { return workspace_.lengthUnit(); }
    const linking::Habits& habits() const { return workspace_.habits(); }
    model::IdSource& ids() { return workspace_.ids(); }
    edit::Document& document() { return workspace_.document(); }
    const edit::Document& document() const { return workspace_.document(); }
    bool apply(edit::ActResult act, std::optional<edit::MergeKey> merge = std::nullopt) {
        return workspace_.apply(std::move(act), std::move(merge));
    }
    /// An act that a thread has made ready to be taken within a frame.
    struct Ahead {
        edit::Document::Prepared step;
        SheetSession::Ready shown;         ///< the sheet shown, as it will be
        std::optional<scene::Scene> fresh; ///< the first sheet that comes with it
    };
    /// Makes acts ready on any thread, for what there is now.
    std::function<Result<Ahead>(edit::ActResult)> ahead() const;
    /// Takes it. What was done meanwhile stays, or it is refused. Whether it changed anything.
    bool take(Ahead ahead);
    /// An act on thousands of objects: a thread makes it, and the scene with it. `ended`: it was taken, or
    /// is not to be; `done`: it was taken, and is shown.
    void applyLater(std::function<edit::ActResult()> make, std::function<void()> ended,
                    std::optional<edit::MergeKey> merge = std::nullopt, std::function<void()> done = {});
    /// So many objects can be changed within a frame.
    static constexpr std::size_t mostAtOnce = 300;
    /// Applies an act on so many: at once where that is within a frame, else later.
    void applyTo(std::size_t objects, std::function<edit::ActResult()> make, std::function<void()> done = {});
    /// Folds or unfolds groups on the sheet shown; in a large network a thread does so. `selected`:
    /// instead of the groups. `ended` and `done` as of applyLater().
    void setFolded(const std::vector<model::GroupId>& groups, bool folded,
                   std::optional<edit::Refs> selected = std::nullopt, const std::function<void()>& ended = {},
                   const std::function<void()>& done = {});
    void undo() { workspace_.undo(); }
    void redo() { workspace_.redo(); }
    QString nameOf(model::ObjectRef object) const;
    void showSheet(model::SheetId sheet) { navigation_.showSheet(sheet); }

    /// What the selection is as a clip; refused() tells when there is nothing to copy.
    std::optional<edit::Clip> copied();

    /// Puts another document in place of the present one; with the scene of its first
    /// sheet, if a worker made it.
    void setDocument(edit::Document document, std::optional<scene::Scene> scene = std::nullopt);

private:
    edit::Session attention() const;

    Workspace workspace_;
    Selection selection_;
    SheetSession sheets_;
    Overlays overlays_;
    Navigation navigation_;
    std::optional<scene::Scene> readyScene_; ///< of the document being put in place
};

} // namespace underridge::app
