// SPDX-License-Identifier: GPL-3.0-or-later
// What was noticed on opening, importing or exporting a file; a click goes to the object.
#pragma once
#include "core/base/remark.h"

#include <QLabel>
#include <QTreeWidget>
#include <QWidget>
#include <vector>

namespace underridge::app {

/// Remarks as rows: severity and what is wrong, what to do, place in the file. Also used
/// by the import preview.
class RemarksList : public QTreeWidget {
    Q_OBJECT
public:
    explicit RemarksList(QWidget* parent = nullptr);
    void show(const std::vector<Remark>& remarks);
    const Remark& at(int row) const { return remarks_.at(static_cast<std::size_t>(row)); }

private:
    std::vector<Remark> remarks_;
};

class RemarksPanel : public QWidget {
    Q_OBJECT
public:
    explicit RemarksPanel(QWidget* parent = nullptr);
    /// `about`: what was done, such as "Opened harbour.graphml".
    void show(const QString& about, const std::vector<Remark>& remarks);
    RemarksList& list() { return *list_; }

Q_SIGNALS:
    void goTo(const underridge::Remark& remark);

private:
    QLabel* about_;
    RemarksList* list_;
    QLabel* empty_;
};

/// A clause as a sentence: its first letter is made large.
QString sentence(const std::string& clause);
/// Severities, told apart by shape: a cross, a triangle, a dot.
QIcon severityIcon(Severity severity, const QPalette& palette);
QString severityText(Severity severity);
/// "2 errors, 1 piece of advice"; empty when there are none.
QString severityCounts(int errors, int warnings, int pieces);
/// "2 warnings, 1 piece of advice".
QString countsText(const std::vector<Remark>& remarks);

} // namespace underridge::app
