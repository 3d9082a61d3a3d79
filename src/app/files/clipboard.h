// SPDX-License-Identifier: GPL-3.0-or-later
// What is copied, as other windows and other programs can take it: the own format, CSV
// text, SVG and PNG, each made when it is asked for.
#pragma once
#include "core/edit/objects.h"
#include "core/exchange/foreign.h"
#include "paint/theme.h"

#include <QMimeData>

namespace underridge::app {

/// A piece of a network in the own format.
inline constexpr const char* networkMimeType = "application/x-underridge";

class ClipData : public QMimeData {
    Q_OBJECT
public:
    /// `svgPath`: where an SVG file is written when a program asks for files; empty: none
    /// is offered.
    ClipData(edit::Clip clip, const paint::Theme& theme, QString svgPath = {})
        : clip_(std::move(clip)), theme_(theme), svgPath_(std::move(svgPath)) {}

    QStringList formats() const override;
    bool hasFormat(const QString& type) const override { return formats().contains(type); }

protected:
    QVariant retrieveData(const QString& type, QMetaType wanted) const override;

private:
    QByteArray picture(const QString& type) const;

    edit::Clip clip_;
    const paint::Theme& theme_;
    QString svgPath_;
};

/// What of the data can be pasted: a piece in the own format, else its text.
QByteArray clipBytes(const QMimeData& data);
/// The piece in those bytes, in whichever format that is read. May run on any thread;
/// refuses anything else.
Result<edit::Clip> clipFrom(const QByteArray& bytes, const model::Catalogue& catalogue);
/// Whether it is worth trying.
bool mayHoldClip(const QMimeData& data);

} // namespace underridge::app
