// SPDX-License-Identifier: GPL-3.0-or-later
// A pattern filled in, with a picture of what it will be and how much that is.
#pragma once
#include "app/sheets/scene_pictures.h"
#include "core/edit/patterns.h"

#include <QComboBox>
#include <QDialog>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSpinBox>
#include <QTimer>

namespace underridge::app {

class Session;

class PatternDialog : public QDialog {
    Q_OBJECT
public:
    /// `centre`: where on the sheet it is put.
    PatternDialog(Session& session, model::Point centre, QWidget* parent);

    QComboBox& shape() { return *shape_; }
    /// The field of a figure by its name on the command line: "count".
    QSpinBox& figure(const char* name);
    QComboBox& model(int part) { return *models_[part]; }
    QLineEdit& names(int part) { return *names_[part]; }
    /// Of the links among the devices, or to endpoints.
    QComboBox& medium(bool toEndpoints) { return *media_[toEndpoints ? 1 : 0]; }
    QSpinBox& spacing() { return *spacing_; }
    QSpinBox& middleX() { return *x_; }
    QSpinBox& middleY() { return *y_; }
    QPushButton& act() { return *act_; }
    /// Its place and size are drawn on the sheet, once the dialog has closed.
    QPushButton& draws() { return *draw_; }
    bool isToBeDrawn() const { return drawn_; }
    /// The plates of what it will be, as it stands by itself.
    const std::vector<scene::Rect>& plates() const { return plates_; }
    QString summary() const { return summary_->text(); }
    bool hasPicture() const { return !picture_->pixmap(Qt::ReturnByValue).isNull(); }

    edit::Pattern pattern() const;

private:
    struct Figure {
        const char* name;
        int edit::Pattern::*to;
        int least, most;
        std::vector<edit::PatternShape> of;
        QSpinBox* field = nullptr;
    };
    void addFigures();
    void follow();
    void draw();
    void addMedia();
    void addPlace();

    Session& session_;
    model::Point centre_;
    QFormLayout* form_;
    QComboBox* shape_;
    std::vector<Figure> figures_;
    QComboBox* models_[3];
    QLineEdit* names_[3];
    QComboBox* media_[2];
    QSpinBox *spacing_, *x_, *y_;
    QLabel *picture_, *summary_;
    QPushButton *act_, *draw_;
    bool drawn_ = false;
    std::vector<scene::Rect> plates_;
    QTimer rest_;
    ScenePictures pictures_; ///< its thread uses nothing of the dialog
};

} // namespace underridge::app
