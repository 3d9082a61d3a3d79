// SPDX-License-Identifier: GPL-3.0-or-later
// What the first window offers: new, first office, open, work to recover, recent files.
#pragma once
#include "app/files/small_pictures.h"
#include "core/edit/document.h"

#include <QVBoxLayout>
#include <QWidget>

namespace underridge::app {

/// Built when it is first shown: a window that opens a file never needs it.
class StartPage : public QWidget {
    Q_OBJECT
public:
    explicit StartPage(QWidget* parent = nullptr);

    void fill(const QStringList& recent, const SmallPictures& pictures,
              const std::vector<edit::Recoverable>& recoverable);
    /// Whether there is work that was cut off.
    bool offersRecovery() const { return !recoverable_.empty(); }

Q_SIGNALS:
    void newWanted();
    void firstOfficeWanted();
    void fennickQuayWanted();
    void openWanted();
    void recentWanted(const QString& path);
    void recoverWanted(const underridge::edit::Recoverable& from);
    void discardWanted(const underridge::edit::Recoverable& from);

protected:
    void showEvent(QShowEvent* event) override;

private:
    void build();
    void fillLists();

    QStringList recent_;
    SmallPictures pictures_;
    std::vector<edit::Recoverable> recoverable_;
    QVBoxLayout* column_ = nullptr;
    QWidget* lists_ = nullptr;
};

} // namespace underridge::app
