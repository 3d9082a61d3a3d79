// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/find/find_field.h"

#include "app/session/settings.h"
#include "app/shown_text.h"

#include <QKeyEvent>

namespace underridge::app {
using namespace model;
namespace {

/// 0: the whole name, 1: its start, 2: any part.
int rankOf(const QString& name, const QString& query) {
    return name.compare(query, Qt::CaseInsensitive) == 0 ? 0
           : name.startsWith(query, Qt::CaseInsensitive) ? 1
                                                         : 2;
}

} // namespace

FindField::FindField(Workspace& workspace, std::vector<QAction*> commands, QSettings& store, QWidget* parent)
    : QLineEdit(parent),
      finder_(new Finder(workspace, this)),
      store_(store),
      commands_(std::move(commands)),
      results_(new QListWidget(parent ? parent->window() : nullptr)) {
    setPlaceholderText(tr("Find a name, address, label… or role:camera"));
    setClearButtonEnabled(true);
    setAccessibleName(tr("Find"));
    results_->setFocusPolicy(Qt::NoFocus);
    results_->setAccessibleName(tr("Found"));
    results_->hide();
    connect(this, &QLineEdit::textEdited, this, [this] {
        whole_.clear();
        search();
    });
    connect(results_, &QListWidget::itemClicked, this,
            [this](QListWidgetItem* item) { take(results_->row(item)); });
    connect(finder_, &Finder::goTo, this, &FindField::goTo);
    connect(finder_, &Finder::goToPort, this, &FindField::goToPort);
    connect(finder_, &Finder::goToSheet, this, &FindField::goToSheet);
    connect(finder_, &Finder::selectWanted, this, &FindField::selectWanted);
    connect(finder_, &Finder::typeWanted, this, &FindField::type);
}

void FindField::search() {
    if (text().trimmed().isEmpty()) {
        const FoundSection last = lastFinds();
        return last.lines.empty() ? results_->hide() : show({last});
    }
    auto sections = finder_->look(text(), cursorPosition());
    if (!find::looksLikeFilter(said(text())))
        sections.push_back(commands(text().trimmed()));
    show(sections);
}

/// What was found before, with nothing typed yet.
FoundSection FindField::lastFinds() {
    FoundSection section{tr("Found last"), {}, 0};
    for (const QString& query : Settings(store_).lastFinds())
        section.lines.push_back({query, [this, query] { type(query); }});
    return section;
}

void FindField::type(const QString& next) {
    setText(next);
    whole_.clear();
    goesOn_ = true;
    search();
}

void FindField::addLine(const QString& words, std::function<void()> take) {
    auto* item = new QListWidgetItem(words, results_);
    if (!take)
        item->setFlags(Qt::NoItemFlags);
    takes_.push_back(std::move(take));
}

void FindField::show(const std::vector<FoundSection>& sections) {
    results_->clear();
    takes_.clear();
    for (const FoundSection& section : sections) {
        if (section.lines.empty())
            continue;
        addLine(section.title, {});
        const bool all = whole_ == section.title || sections.size() == 1;
        const std::size_t shownHere =
            all ? section.lines.size() : std::min<std::size_t>(section.lines.size(), mostOfSection);
        for (std::size_t i = 0; i < shownHere; ++i)
            addLine(section.lines[i].words, section.lines[i].take);
        if (const auto left = section.lines.size() - shownHere; left > 0)
            addLine(tr("%1 more").arg(left + section.more), [this, title = section.title] {
                whole_ = title;
                goesOn_ = true;
                search();
            });
        else if (section.more > 0)
            addLine(tr("%1 more: type on to narrow them down").arg(section.more), {});
    }
    if (results_->count() == 0)
        addLine(tr("Nothing found"), {});
    const auto first =
        std::find_if(takes_.begin(), takes_.end(), [](const auto& take) { return bool(take); });
    results_->setCurrentRow(first == takes_.end() ? -1 : static_cast<int>(first - takes_.begin()));
    placeResults();
}

void FindField::placeResults() {
    const QPoint below = mapTo(window(), QPoint(0, height() + 2));
    const int wide = std::max(width(), 380), room = window()->height() - below.y() - 8;
    results_->setGeometry(below.x() + width() - wide, below.y(), wide,
                          std::min(room, results_->sizeHintForRow(0) * results_->count() + 8));
    results_->show();
    results_->raise();
}

FoundSection FindField::commands(const QString& query) {
    std::vector<std::pair<int, FoundLine>> found;
    for (QAction* action : commands_) {
        const QString name = action->text().remove(QLatin1Char('&'));
        if (!action->isEnabled() || !matchesWords(said(name), said(query)))
            continue;
        const QString key = action->shortcut().toString(QKeySequence::NativeText);
        found.push_back({rankOf(name, query),
                         {key.isEmpty() ? name : QStringLiteral("%1   %2").arg(name, key),
                          [action] { action->trigger(); }}});
    }
    std::stable_sort(found.begin(), found.end(),
                     [](const auto& a, const auto& b) { return a.first < b.first; });
    FoundSection section{tr("Commands"), {}, 0};
    for (auto& [rank, line] : found)
        section.lines.push_back(std::move(line));
    return section;
}

void FindField::take(int row) {
    if (row < 0 || row >= static_cast<int>(takes_.size()) || !takes_[static_cast<std::size_t>(row)])
        return;
    const auto chosen = takes_[static_cast<std::size_t>(row)];
    const QString query = text().trimmed();
    goesOn_ = false;
    whole_.clear();
    chosen();
    if (goesOn_)
        return;
    Settings(store_).addFind(query);
    results_->hide();
    clear();
}

/// The next line that can be chosen.
void FindField::step(int by) {
    for (int row = results_->currentRow() + by; row >= 0 && row < results_->count(); row += by)
        if (takes_[static_cast<std::size_t>(row)])
            return results_->setCurrentRow(row);
}

void FindField::keyPressEvent(QKeyEvent* event) {
    const int by = event->key() == Qt::Key_Down ? 1 : event->key() == Qt::Key_Up ? -1 : 0;
    const bool enter = event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter;
    if (by != 0 && results_->isVisible()) {
        step(by);
    } else if (enter && event->modifiers().testFlag(Qt::ControlModifier)) {
        const edit::Refs all = finder_->everything(text());
        if (all.empty())
            return;
        Settings(store_).addFind(text().trimmed());
        results_->hide();
        clear();
        Q_EMIT selectWanted(all);
    } else if (enter && results_->isVisible()) {
        take(results_->currentRow());
    } else if (event->key() == Qt::Key_Escape) {
        results_->hide();
        clear();
        Q_EMIT left();
    } else {
        QLineEdit::keyPressEvent(event);
    }
}

void FindField::focusInEvent(QFocusEvent* event) {
    QLineEdit::focusInEvent(event);
    if (text().isEmpty())
        search();
}

void FindField::focusOutEvent(QFocusEvent* event) {
    results_->hide();
    QLineEdit::focusOutEvent(event);
}

} // namespace underridge::app
