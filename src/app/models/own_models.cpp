// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/models/own_models.h"

#include "app/models/model_editor.h"
#include "app/models/update_dialog.h"
#include "app/shown_text.h"
#include "core/exchange/catalogue_file.h"
#include "core/exchange/library.h"

#include <QDir>
#include <QFileInfo>

namespace underridge::app {
using namespace model;

OwnModels::OwnModels(const Desk& desk, const DesktopTheme& theme, QString path, QObject* parent)
    : QObject(parent), desk_(desk), theme_(theme), path_(std::move(path)) {}

void OwnModels::load() {
    const std::string path = path_.toStdString();
    if (path.empty() || !desk_.files().exists(path))
        return;
    const auto bytes = desk_.files().read(path);
    auto models =
        bytes ? exchange::readModels(*bytes, path) : Result<std::vector<DeviceModel>>(bytes.refusal());
    if (models)
        desk_.session.workspace().setLibrary(*std::move(models));
    else
        desk_.messages.tell(models.refusal());
}

void OwnModels::keep(const std::vector<DeviceModel>& models) {
    desk_.session.workspace().setLibrary(models);
    if (path_.isEmpty())
        return;
    QDir().mkpath(QFileInfo(path_).absolutePath());
    if (auto kept = desk_.files().writeAtomically(path_.toStdString(), exchange::writeModels(models)); !kept)
        desk_.messages.tell(kept.refusal());
}

void OwnModels::editAll() {
    desk_.typed.commitAll();
    desk_.dialogs.show<ModelEditor>(
        [this] {
            auto* dialog = new ModelEditor(exchange::builtInCatalogue(), desk_.session.workspace().library(),
                                           theme_.theme(), desk_.window);
            connect(dialog, &ModelEditor::saved, this, [this, dialog] { keep(dialog->own()); });
            return dialog;
        },
        [this](ModelEditor&, bool) {
            if (!edit::outdatedModels(desk_.session.network(), desk_.session.catalogue()).empty())
                update();
        });
}

void OwnModels::update() {
    const auto outdated = edit::outdatedModels(desk_.session.network(), desk_.session.catalogue());
    if (outdated.empty())
        return desk_.messages.tell(
            advice(tr("every model in this network is as in the catalogue and the library")));
    desk_.dialogs.show<UpdateDialog>([this, outdated] { return new UpdateDialog(outdated, desk_.window); },
                                     [this](UpdateDialog& dialog, bool accepted) {
                                         if (const auto ids = dialog.chosen(); accepted && !ids.empty())
                                             desk_.session.apply(edit::updateModels(
                                                 desk_.session.network(), desk_.session.catalogue(), ids));
                                     });
}

} // namespace underridge::app
