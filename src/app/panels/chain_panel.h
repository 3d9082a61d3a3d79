// SPDX-License-Identifier: GPL-3.0-or-later
// The chain strip: every port and cable from one end to the other, in one line; a click
// goes there.
#pragma once
#include "core/linking/channel.h"
#include "paint/theme.h"

#include <QCheckBox>
#include <QLabel>
#include <QScrollArea>

namespace underridge::app {

class LossBar;
class Session;

class ChainPanel : public QWidget {
    Q_OBJECT
public:
    explicit ChainPanel(Session& session, QWidget* parent = nullptr);
    const linking::Chain& chain() const { return chain_; }
    QCheckBox& skipPanels() { return *skip_; }
    QString summary() const { return summary_->text(); }
    void setTheme(const paint::Theme& theme);
    /// The steps as they are shown, in order: for tests and screen readers.
    QStringList steps() const;

Q_SIGNALS:
    void goTo(const std::vector<underridge::model::ObjectRef>& subjects);

protected:
    void showEvent(QShowEvent* event) override;
    void hideEvent(QHideEvent* event) override;

private:
    void refresh();
    void fill();
    void putInPlace();
    void addPort(const model::PortRef& in, const model::PortRef& out, std::optional<double> lossDb);
    void addCable(const linking::Stretch& stretch, std::optional<double> lossDb);
    void addSkipped(int cables, std::int64_t lengthMm);
    template <class Step, class Act>
    void add(Step* step, const QString& said, const QString& tip, Act act);
    model::PortRef portWanted() const;

    Session& session_;
    const paint::Theme* theme_;
    linking::Chain chain_;
    model::PortRef at_; ///< the port the chain was followed from
    QLabel* summary_;
    LossBar* bar_;
    QCheckBox* skip_;
    QScrollArea* area_;
    QWidget* strip_ = nullptr;
};

} // namespace underridge::app
