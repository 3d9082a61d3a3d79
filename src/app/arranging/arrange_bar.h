// SPDX-License-Identifier: GPL-3.0-or-later
// The bar above the sheet from which it is arranged: a small picture of what each style
// would make of this sheet, and what the styles are told.
#pragma once
#include "app/arranging/arrange_acts.h"
#include "app/sheets/scene_pictures.h"

#include <QButtonGroup>
#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QSlider>
#include <QToolButton>

namespace underridge::app {

class ArrangeBar : public QWidget {
    Q_OBJECT
public:
    ArrangeBar(Session& session, ArrangeActs& acts, QWidget* parent = nullptr);

    /// Shows it, with the keyboard on the style used last.
    void open();
    void close();
    bool isWanted() const { return open_; }
    void setTheme(const paint::Theme& theme);

    QToolButton* button(layout::Style style) const;
    QComboBox& flow() { return *flow_; }
    QSlider& spacing() { return *spacing_; }
    QCheckBox& onlySelected() { return *only_; }
    QCheckBox& keepsOrder() { return *keep_; }
    QComboBox& order() { return *order_; }
    /// Takes what there is of an arrangement that was cancelled; hidden while there is none.
    QToolButton& takesOffer() { return *take_; }
    QToolButton& anchor() { return *anchor_; }
    QString says() const { return says_->text(); }

Q_SIGNALS:
    void wantedChanged();
    /// The sheet gets the keyboard back.
    void left();

protected:
    void keyPressEvent(QKeyEvent* event) override;

private:
    edit::ArrangeWish wish(layout::Style style) const;
    void arrange();
    void follow();
    void picture();

    Session& session_;
    ArrangeActs& acts_;
    QButtonGroup* styles_;
    QComboBox* flow_;
    QSlider* spacing_;
    QToolButton* anchor_;
    QCheckBox *only_, *keep_;
    QToolButton* take_;
    QComboBox* order_;
    QLabel* says_;
    QTimer rest_;
    const paint::Theme* theme_ = &paint::lightTheme();
    model::DeviceId anchored_;
    bool open_ = false;
    ScenePictures pictures_; ///< its thread uses what is above
};

} // namespace underridge::app
