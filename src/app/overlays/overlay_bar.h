// SPDX-License-Identifier: GPL-3.0-or-later
// The line above the sheet that says which overlays are on it, and chooses others. They are
// the sheet's own: kept with it, and undone as any act.
#pragma once
#include "app/find/filter_field.h"
#include "app/jobs/worker.h"
#include "core/analysis/forwarding.h"
#include "core/analysis/set_aside.h"
#include "paint/overlays/overlay.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QToolButton>
#include <set>

namespace underridge::app {

class Checker;
class Session;

class OverlayBar : public QWidget {
    Q_OBJECT
public:
    OverlayBar(Session& session, Checker& checker, QWidget* parent = nullptr);

    /// Ready to choose from; lays something over the sheet where nothing is.
    void open();
    bool isWanted() const;
    QComboBox& choice() { return *choice_; }
    /// Where a filter is typed while it is what is chosen.
    FilterField& filter() { return *filter_; }
    /// Keeps what is chosen and adds another.
    QToolButton& another() { return *another_; }
    /// One for each that is on beside what is chosen: it takes it off.
    const std::vector<QToolButton*>& others() const { return others_; }
    QString says() const { return says_->text(); }
    /// Takes all overlays off and goes away.
    void close();

Q_SIGNALS:
    void wantedChanged();
    /// The sheet gets the keyboard back.
    void left();

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    /// Of the sheet shown; what is chosen last.
    std::vector<std::string> keys() const;
    void setKeys(const std::vector<std::string>& keys);
    void chosen();
    void commitFilter();
    void addAnother();
    void follow();
    void fill(const std::vector<std::string>& keys);
    void fillOthers(const std::vector<std::string>& keys);
    /// At once, or for large networks by a thread while what was on stays.
    void lay(const std::vector<std::string>& keys);
    using Made = std::vector<std::shared_ptr<const paint::Overlay>>;
    struct Order {
        std::vector<std::string> keys;
        std::shared_ptr<const analysis::Forwarding> forwarding;
        std::shared_ptr<const analysis::Sifted> sifted;
    };
    static Made made(const std::vector<std::string>& keys, const analysis::Forwarding& forwarding,
                     const std::vector<linking::Finding>& findings);
    void take(const Made& overlays);
    QString titleOf(const std::string& key) const;

    Session& session_;
    Checker& checker_;
    QComboBox* choice_;
    FilterField* filter_;
    QHBoxLayout* othersRow_;
    std::vector<QToolButton*> others_;
    QLabel* says_;
    QToolButton *another_, *off_;
    std::set<QString> laid_;            ///< ids of overlays that are on by this bar
    std::vector<std::string> keysLaid_; ///< what they were made for
    bool open_ = false;                 ///< wanted though nothing is on
    /// Of a large network.
    Latest<Order, Made> maker_{
        this, [](const Order& order) { return made(order.keys, *order.forwarding, order.sifted->open); },
        [this](const Made& overlays) { take(overlays); }};
};

} // namespace underridge::app
