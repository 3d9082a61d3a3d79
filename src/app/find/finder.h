// SPDX-License-Identifier: GPL-3.0-or-later
// What a text finds in the network, as lines to choose from: words in whatever has them,
// or a filter with what it finds and how it could go on.
#pragma once
#include "app/jobs/worker.h"
#include "core/edit/act.h"
#include "core/find/matching.h"
#include "core/find/search.h"

#include <QObject>
#include <QString>
#include <QTimer>
#include <functional>

namespace underridge::app {

class Workspace;

/// A line of what was found, and what choosing it does; without that it only says
/// something.
struct FoundLine {
    QString words;
    std::function<void()> take;
};
struct FoundSection {
    QString title;
    std::vector<FoundLine> lines;
    std::size_t more = 0; ///< found beyond these
};

class Finder : public QObject {
    Q_OBJECT
public:
    explicit Finder(Workspace& workspace, QObject* parent = nullptr);

    /// Sections in the order they are shown. `cursor`: where the person types, in the
    /// text.
    std::vector<FoundSection> look(const QString& text, int cursor);
    /// Everything found that can be selected: of a filter its devices, of words devices,
    /// groups, links and notes.
    edit::Refs everything(const QString& text);

Q_SIGNALS:
    void goTo(const std::vector<underridge::model::ObjectRef>& object);
    void goToPort(const underridge::model::PortRef& port);
    void goToSheet(underridge::model::SheetId sheet);
    void selectWanted(const underridge::edit::Refs& objects);
    /// The text is to go on like this.
    void typeWanted(const QString& text);

private:
    /// What is looked through, as it is made of one network: at once where there is little or
    /// somebody looks, else by a thread once a while has passed without a change.
    struct Index {
        find::TextIndex texts;
        std::map<std::string, int> models; ///< devices of each model in use
        std::vector<model::Role> roles;    ///< that devices of the network have
    };
    static std::shared_ptr<const Index> indexOf(const model::Network& network);
    void refresh();
    std::vector<FoundSection> byWords(const QString& text);
    std::vector<FoundSection> byFilter(const QString& text);
    FoundSection models(const QString& text);
    FoundSection section(const QString& title, const find::FoundIn& found);
    FoundLine lineOf(const find::Found& found);
    QString wordsOf(const find::Found& found) const;
    QString portWords(const find::Found& found) const;
    FoundSection goingOn(const QString& text, int cursor);
    FoundSection asFilter(const QString& text);
    FoundLine deviceLine(model::DeviceId id);
    std::vector<model::DeviceId> devices(const find::Filter& filter);

    Workspace& workspace_;
    std::shared_ptr<const Index> index_ = std::make_shared<const Index>();
    QTimer settled_;
    Worker<model::Network> worker_;
};

} // namespace underridge::app
