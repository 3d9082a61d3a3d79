// SPDX-License-Identifier: GPL-3.0-or-later
// The sheets as the person has them: the one shown, its scene, and for each sheet where
// it was looked at. Scenes of sheets seen before are kept and brought up to the network
// when they are shown again.
#pragma once
#include "app/jobs/worker.h"
#include "core/scene/scene.h"

#include <QObject>
#include <map>
#include <optional>

namespace underridge::app {

/// Where one looks: a point of the sheet in the middle, and pixels for each unit.
struct View {
    scene::PointF centre;
    double zoom = 1;

    bool operator==(const View&) const = default;
};

class SheetSession : public QObject {
    Q_OBJECT
public:
    using QObject::QObject;

    model::SheetId sheet() const { return sheet_; }
    const scene::Scene& scene() const { return scene_; }
    /// Where the sheet shown is looked at; nothing before anybody looked.
    const std::optional<View>& view() const { return view_; }
    /// The group that is looked into; none: the whole sheet.
    model::GroupId entered() const { return scene_.entered(); }
    /// Looks into a group of the sheet shown, or with none at the whole of it. Whether that
    /// was not so already.
    bool enter(const model::Network& network, model::GroupId group);
    void setView(const View& view) { view_ = view; }

    /// Another document: everything is forgotten. `scene`: of its first sheet, where it
    /// is made already.
    void begin(const model::Network& network, model::LengthUnit unit,
               std::optional<scene::Scene> scene = std::nullopt);
    /// Shows a sheet of the network. Whether it is there and was not shown already.
    bool show(const model::Network& network, model::SheetId sheet);
    /// After an edit: the sheet wanted, or the first there is when it is gone. Links of an upper
    /// layer of a large network follow a moment later, worked out by a thread.
    void follow(const model::Network& before, const model::Network& after, model::SheetId wanted);
    /// The same made beforehand, on a thread: taken by follow() where it is of what was shown all along.
    struct Ready {
        std::uint64_t of = 0; ///< revision()
        model::Network before, after;
        scene::Updated updated;
    };
    /// The scene of a sheet made beforehand, for when it is shown.
    void keep(scene::Scene scene, const model::Network& of) {
        Kept& kept = kept_[scene.sheet()];
        kept.scene = std::move(scene);
        kept.of = of;
    }
    /// A scene to be made, on any thread.
    struct Unmade {
        model::Network network;
        model::SheetId sheet;
        model::LengthUnit unit;
        std::shared_ptr<const find::Findings> findings;
        model::GroupId entered;
        std::optional<scene::Scene> known; ///< of the whole sheet

        scene::Scene made() const {
            return scene::Scene::build(network, sheet, unit, entered, findings, known ? &*known : nullptr);
        }
    };
    /// What is to be made and kept before a sheet of a large network is shown for the first time;
    /// nothing where it can be shown at once.
    std::optional<Unmade> unmade(const model::Network& network, model::SheetId sheet) const;
    /// The same before a group of the sheet shown is looked into.
    std::optional<Unmade> unmade(const model::Network& network, model::GroupId group) const;
    /// Keeps it unless what it was made with is another by now.
    void keepMade(const Unmade& from, scene::Scene scene);
    void offer(std::optional<Ready> ready) { ready_ = std::move(ready); }
    static scene::Updated updated(const scene::Scene& scene, const model::Network& before,
                                  const model::Network& after);
    /// Another for every scene that was shown.
    std::uint64_t revision() const { return revision_; }
    /// What the checks report now, for sheets whose filter asks for it.
    void setFindings(const model::Network& network, std::shared_ptr<const find::Findings> findings);
    void setLengthUnit(const model::Network& network, model::LengthUnit unit);

Q_SIGNALS:
    /// Rectangles of the sheet to be drawn anew; `all`: everything.
    void sceneChanged(const std::vector<scene::Rect>& damage, bool all);
    /// Another sheet is shown than before.
    void sheetShown();
    /// Another group is looked into, on the same sheet. Where the group that was entered
    /// or left was shown before, and where it is now; empty where it was not.
    void enteredChanged(const underridge::scene::Rect& before, const underridge::scene::Rect& now);

private:
    struct Kept {
        std::optional<scene::Scene> scene; ///< none: to be made anew
        model::Network of;                 ///< what the scene was made from
        std::optional<View> view;
    };
    static bool asksFindings(const model::Network& network, model::SheetId sheet);
    scene::Rect placeOf(model::GroupId group) const;
    void setScene(scene::Scene scene);
    scene::Updated following(const model::Network& before, const model::Network& after);
    scene::Scene sceneOf(const model::Network& network, model::SheetId sheet);
    scene::Scene entering(const model::Network& network, model::GroupId group);
    /// A scene whose layer is to be worked out.
    struct Behind {
        model::Network network;
        model::SheetId sheet;
        scene::Scene scene;
    };
    /// Has a thread work out the layer shown where it is behind.
    void bringUp();
    void takeLayer(const Behind& behind, const std::shared_ptr<const scene::LayerNetwork>& layer,
                   scene::Updated updated);
    /// The nearest group around the entered one that is still there.
    model::GroupId stillEntered(const model::Network& before, const model::Network& after) const;

    model::SheetId sheet_;
    scene::Scene scene_;
    std::optional<View> view_;
    model::LengthUnit unit_ = model::LengthUnit::metres;
    std::shared_ptr<const find::Findings> findings_;
    std::map<model::SheetId, Kept> kept_;
    Kept other_;  ///< what was shown before or after the last act a thread made: undo leads there and back
    Kept inside_; ///< what one is about to look into
    Kept whole_;  ///< of the sheet shown, while a group of it is looked into
    std::optional<Ready> ready_;
    std::uint64_t revision_ = 0;
    model::Network latest_;                  ///< what was followed last
    std::unique_ptr<Worker<Behind>> worker_; ///< once a layer was behind
};

} // namespace underridge::app
