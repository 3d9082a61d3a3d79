// SPDX-License-Identifier: GPL-3.0-or-later
// What appears on pointing at something: the essentials, as plain text.
#pragma once
#include "app/style/pieces.h"
#include "core/model/length.h"
#include "core/model/network.h"
#include "core/scene/trouble.h"

#include <QLabel>

namespace underridge::app {

class Card : public FloatingBox {
    Q_OBJECT
public:
    explicit Card(QWidget* parent);
    /// Title and lines; placed near a point of the parent, never under it.
    void open(QPoint pointer, const QString& title, const QStringList& lines);

private:
    QLabel *title_, *lines_;
};

/// "Access switch 24", "Border thing · router": what a device is.
QString kindText(const model::Network& network, const model::Device& device);

/// "imported, harbour.graphml, not yet seen live": where something is known from.
QString provenanceText(const model::Provenance& provenance);

/// What a doorway, or a line that stands for several links, spreads into: its name, then
/// each link with the ports at both ends, as many as one reads. Empty of anything else.
QStringList spreadLines(const model::Network& network, const scene::Scene& scene, const scene::Item& item);
/// What a zone is called and what lies in it; empty of a note.
QStringList zoneLines(const model::Network& network, const scene::Scene& scene, const scene::NoteCard& zone);
/// "2 objects with errors, 1 with warnings".
QString troubleText(const scene::Trouble& trouble);
/// What is in the badge of a plate.
QStringList badgeLines(const scene::Scene& scene, model::DeviceId device);

/// The essentials of an object or, with a port named, of that port: title first.
QStringList cardLines(const model::Network& network, model::ObjectRef object, const std::string& port,
                      model::LengthUnit unit);

} // namespace underridge::app
