// SPDX-License-Identifier: GPL-3.0-or-later
// Which cables a dialog is about: those of the selection, those that lack something, or
// all.
#pragma once
#include "core/edit/act.h"

#include <QComboBox>
#include <functional>

namespace underridge::app {

class Session;

/// "core-a X1 to pp-1 3".
QString cableText(const model::Network& network, model::CableId cable);

class CableScope : public QComboBox {
    Q_OBJECT
public:
    /// `lacking`: what "those without …" means.
    CableScope(const Session& session, const QString& lackingTitle,
               const std::function<bool(const model::Cable&)>& lacking, QWidget* parent = nullptr);
    /// In the order of their labels and ends.
    const std::vector<model::CableId>& cables() const {
        return sets_[static_cast<std::size_t>(currentIndex())];
    }

private:
    std::vector<std::vector<model::CableId>> sets_;
};

/// The cables of the links and devices that are selected, each once.
std::vector<model::CableId> selectedCables(const Session& session);

} // namespace underridge::app
