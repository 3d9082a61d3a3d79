// SPDX-License-Identifier: GPL-3.0-or-later
// One step of the chain strip, drawn as the sheet draws it: a device with the ports the
// chain passes, or a cable in the form and colour of its kind.
#pragma once
#include "core/scene/lines.h"
#include "paint/theme.h"

#include <QAbstractButton>

namespace underridge::app {

class ChainStep : public QAbstractButton {
    Q_OBJECT
public:
    void setTheme(const paint::Theme& theme);
    QSize minimumSizeHint() const override { return sizeHint(); }

protected:
    explicit ChainStep(const paint::Theme& theme);
    /// Where all steps have their middle, so that cables meet plates: from the top, in
    /// pixels.
    int middle() const;
    /// Of all steps alike, with a line of words below a plate.
    int tall() const;
    void paintFocus(QPainter& painter, const QRectF& around);
    const paint::Theme* theme_;
};

/// A device or panel: its role's spine, its name, and the ports in the order they are
/// passed.
class ChainPlate : public ChainStep {
    Q_OBJECT
public:
    /// `ports`: one at an end of the chain, two where the chain goes on. `loss`: of light in
    /// what is joined here, below the plate; may be empty.
    ChainPlate(const paint::Theme& theme, model::Role role, const QString& name, const QStringList& ports,
               const QString& loss);
    QSize sizeHint() const override;

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    int portWidth(const QString& port) const;

    model::Role role_;
    QString name_;
    QStringList ports_;
    QString loss_;
};

/// A cable, or all that was skipped: what it is above the line, how long below it.
class ChainCable : public ChainStep {
    Q_OBJECT
public:
    /// `dress`: form, colour and status; its path is not looked at.
    ChainCable(const paint::Theme& theme, scene::LinkLine dress, const QString& above, const QString& below);
    QSize sizeHint() const override;

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    scene::LinkLine dress_;
    QString above_, below_;
};

} // namespace underridge::app
