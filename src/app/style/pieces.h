// SPDX-License-Identifier: GPL-3.0-or-later
// Small widgets that several panels and dialogs are made of.
#pragma once
#include <QAbstractButton>
#include <QFrame>
#include <QLabel>

namespace underridge::app {

/// A label that wraps and takes what it shows as it stands: no markup, no keys.
QLabel* plainLabel(const QString& text = {});

/// A plain label, named "wrong", in the colour of errors: what is wrong with what was
/// typed, beside it.
QLabel* errorLabel();

/// Makes a widget's text bold.
void embolden(QWidget* widget);

/// A box that floats on the sheet: plate fill, an edge in the accent, round corners.
class FloatingBox : public QFrame {
    Q_OBJECT
public:
    FloatingBox(const QString& name, QWidget* parent);

protected:
    void paintEvent(QPaintEvent* event) override;
};

/// Words to click, in the accent, underlined under the pointer and with the focus. As
/// wide as there is room, its words elided to that, unless it `hugs` them.
class TextButton : public QAbstractButton {
    Q_OBJECT
public:
    enum class Width { room, hugs };
    explicit TextButton(const QString& words, Width width = Width::room, QWidget* parent = nullptr);

    QSize sizeHint() const override;
    QSize minimumSizeHint() const override;

protected:
    void resizeEvent(QResizeEvent* event) override;
    void paintEvent(QPaintEvent* event) override;

private:
    QString shown() const;

    Width width_;
};

} // namespace underridge::app
