// SPDX-License-Identifier: GPL-3.0-or-later
// The line above the sheet that says what the sheet is filtered by, and how much that
// leaves out: there as long as a filter is on, so that nobody takes a part for the whole.
#pragma once
#include "app/find/filter_field.h"
#include "app/jobs/worker.h"
#include "app/session/session.h"

#include <QComboBox>
#include <QLabel>
#include <QToolButton>

namespace underridge::app {

class FilterBar : public QWidget {
    Q_OBJECT
public:
    explicit FilterBar(Session& session, QWidget* parent = nullptr);

    /// Ready to be typed in, whether a filter is on or not.
    void open();
    /// Takes what is typed; false when it cannot be read, which is said beside it.
    bool commit();
    /// Whether it has anything to show: a filter is on, or being typed.
    bool isWanted() const;

    FilterField& field() { return *field_; }
    QComboBox& how() { return *how_; }
    QToolButton& off() { return *off_; }
    QString says() const { return says_->text(); }

Q_SIGNALS:
    void wantedChanged();
    /// The sheet gets the keyboard back.
    void left();

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    struct Order {
        model::Network network;
        model::SheetId sheet;
        std::shared_ptr<const find::Findings> findings;
        std::string filter;
    };
    static scene::Filtered counted(const Order& order);
    void follow();
    void say();
    void tell(const scene::Filtered& counted);
    void revert();
    void apply(const QString& text);

    Session& session_;
    FilterField* field_;
    QComboBox* how_;
    QLabel* says_;
    QToolButton* off_;
    bool open_ = false; ///< asked for, though no filter may be on
    /// Counts in a large network.
    Latest<Order, scene::Filtered> counter_{this, &counted,
                                            [this](const scene::Filtered& found) { tell(found); }};
};

} // namespace underridge::app
