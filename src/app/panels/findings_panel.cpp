// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/panels/findings_panel.h"

#include "app/panels/remarks_panel.h"
#include "app/panels/rule_page.h"
#include "app/panels/set_aside_bar.h"
#include "app/session/workspace.h"
#include "app/shown_text.h"
#include "app/style/pieces.h"
#include "app/window/checker.h"
#include "core/analysis/check.h"
#include "core/analysis/finding_places.h"
#include "core/edit/remedies.h"
#include "core/model/group_tree.h"

#include <QHBoxLayout>
#include <QHeaderView>

namespace underridge::app {
using linking::Finding;
using linking::Remedy;
namespace {

constexpr std::size_t mostFindingRows = 2000;

/// What a choice stands for; the first entry of each stands for everything.
QVariant chosen(const QComboBox& box) {
    return box.currentData();
}

/// Fills a choice with entries by their data, keeps what was chosen while it is there.
void refillChoice(QComboBox& box, const QString& everything,
                  const std::vector<std::pair<QString, QVariant>>& entries) {
    const QSignalBlocker quiet(box);
    const QVariant held = chosen(box);
    box.clear();
    box.addItem(everything);
    for (const auto& [text, data] : entries)
        box.addItem(asLabel(text), data);
    box.setCurrentIndex(held.isValid() ? std::max(0, box.findData(held)) : 0);
}

} // namespace

FindingsPanel::FindingsPanel(Workspace& workspace, Checker& checker, QWidget* parent)
    : QWidget(parent),
      workspace_(workspace),
      checker_(checker),
      about_(plainLabel()),
      place_(new QComboBox),
      rule_(new QComboBox),
      severity_(new QComboBox),
      list_(new QTreeWidget),
      empty_(plainLabel()),
      showAside_(new QPushButton),
      putRight_(new QPushButton(tr("Put right"))),
      setAside_(new QPushButton(tr("Set aside…"))),
      aboutRule_(new QPushButton(tr("About this rule"))),
      export_(new QPushButton(tr("Export…"))),
      bar_(new SetAsideBar) {
    setObjectName(QStringLiteral("findings"));
    about_->setWordWrap(false);
    place_->setAccessibleName(tr("Place"));
    rule_->setAccessibleName(tr("Rule"));
    severity_->setAccessibleName(tr("Severity"));
    for (QComboBox* box : {place_, rule_, severity_}) {
        box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        box->setMinimumContentsLength(12);
        connect(box, &QComboBox::activated, this, &FindingsPanel::refill);
    }
    showAside_->setCheckable(true);
    showAside_->setToolTip(tr("List what was set aside, with the reasons"));
    export_->setToolTip(tr("Write all findings as PDF, CSV or JSON"));
    putRight_->setToolTip(tr("Do what the remedy says; undo takes it back"));
    aboutRule_->setToolTip(tr("What the rule regards, its figures and where they come from"));
    list_->setAccessibleName(tr("Findings"));
    list_->setRootIsDecorated(false);
    list_->setUniformRowHeights(true);
    list_->setSelectionMode(QAbstractItemView::ExtendedSelection);
    list_->setHeaderLabels({tr("Finding"), tr("Remedy"), tr("Rule")});
    list_->header()->setStretchLastSection(false);
    list_->header()->setSectionResizeMode(0, QHeaderView::Stretch);
    list_->header()->setSectionResizeMode(1, QHeaderView::Stretch);
    list_->header()->setSectionResizeMode(2, QHeaderView::ResizeToContents);
    empty_->setAlignment(Qt::AlignCenter);
    auto* top = new QHBoxLayout;
    top->addWidget(about_);
    for (QComboBox* box : {place_, rule_, severity_})
        top->addWidget(box);
    top->addStretch(1);
    for (QPushButton* button : {showAside_, export_, aboutRule_, setAside_, putRight_})
        top->addWidget(button);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(6, 4, 6, 6);
    layout->addLayout(top);
    layout->addWidget(bar_);
    layout->addWidget(list_, 1);
    layout->addWidget(empty_, 1);
    const auto go = [this] {
        if (const Finding* finding = current())
            Q_EMIT goTo(finding->subjects);
    };
    connect(list_, &QTreeWidget::itemClicked, this, [this, go] {
        if (list_->selectedItems().size() == 1) // several are gathered to be set aside together
            go();
    });
    connect(list_, &QTreeWidget::itemActivated, this, go);
    connect(list_, &QTreeWidget::itemSelectionChanged, this, &FindingsPanel::refreshButton);
    connect(export_, &QPushButton::clicked, this, &FindingsPanel::exportWanted);
    connect(showAside_, &QPushButton::toggled, this, [this] {
        bar_->close();
        list_->clear();
        refill();
    });
    connect(setAside_, &QPushButton::clicked, this, &FindingsPanel::setAsideOrBack);
    connect(bar_, &SetAsideBar::wanted, this, &FindingsPanel::commitAside);
    connect(putRight_, &QPushButton::clicked, this, [this] {
        if (const Finding* finding = current())
            workspace_.apply(
                edit::applyRemedy(workspace_.network(), workspace_.catalogue(), *finding, workspace_.ids()));
    });
    connect(aboutRule_, &QPushButton::clicked, this, [this] {
        const Finding* finding = current();
        if (!finding)
            return;
        if (!page_)
            page_ = new RulePage(this);
        page_->open(*finding->rule);
    });
    connect(&checker_, &Checker::changed, this, &FindingsPanel::follow);
    connect(&workspace_, &Workspace::documentReplaced, this, [this] {
        bar_->close(); // it is about findings of another network
        showAside_->setChecked(false);
    });
    refill();
}

const Finding* FindingsPanel::current() const {
    const auto rows = list_->selectedItems();
    const int row = rows.isEmpty() ? -1 : list_->indexOfTopLevelItem(rows.front());
    return row < 0 || row >= static_cast<int>(shown_.size()) ? nullptr
                                                             : &shown_[static_cast<std::size_t>(row)].finding;
}

std::vector<FindingsPanel::Row> FindingsPanel::selected() const {
    std::vector<Row> rows;
    for (int i = 0; i < list_->topLevelItemCount(); ++i)
        if (list_->topLevelItem(i)->isSelected())
            rows.push_back(shown_[static_cast<std::size_t>(i)]);
    return rows;
}

void FindingsPanel::setAsideOrBack() {
    std::vector<Finding> findings;
    std::vector<model::SetAsideId> records;
    for (const Row& row : selected()) {
        findings.push_back(row.finding);
        records.push_back(row.by);
    }
    if (showAside_->isChecked())
        workspace_.apply(edit::countAgain(workspace_.network(), records));
    else
        bar_->open(std::move(findings));
}

void FindingsPanel::commitAside() {
    auto act = edit::setAside(workspace_.network(), bar_->findings(), bar_->typed(), workspace_.ids());
    if (!act) {
        bar_->refuse(act.refusal());
        return;
    }
    workspace_.apply(std::move(act));
    bar_->close();
    list_->setFocus();
}

void FindingsPanel::refreshButton() {
    const auto count = list_->selectedItems().size();
    const Finding* finding = count == 1 ? current() : nullptr;
    putRight_->setEnabled(finding && finding->remedy.kind != Remedy::Kind::none && !showAside_->isChecked());
    aboutRule_->setEnabled(finding && finding->rule);
    setAside_->setText(showAside_->isChecked() ? tr("Count again") : tr("Set aside…"));
    setAside_->setToolTip(showAside_->isChecked()
                              ? tr("Take back that it was set aside")
                              : tr("Leave it as it is, with the reason and perhaps a last day"));
    setAside_->setEnabled(count > 0);
}

std::vector<FindingsPanel::Seen> FindingsPanel::seenNow() {
    const analysis::Sifted& all = checker_.sifted();
    std::vector<Seen> seen;
    if (!showAside_->isChecked()) {
        for (const Finding& finding : all.open)
            seen.push_back({&finding, {}});
        return seen;
    }
    for (const auto& [finding, by] : all.aside)
        seen.push_back({&finding, by});
    idle_.clear();
    idle_.reserve(all.idle.size()); // what is pointed at stays
    for (const model::SetAsideId id : all.idle)
        if (const auto* record = workspace_.network().find<model::SetAside>({id.value, 0})) {
            Finding gone;
            gone.rule = analysis::ruleOf(record->rule);
            gone.subjects = record->subjects;
            gone.message = said(tr("Not found now, or its last day is over"));
            idle_.push_back(std::move(gone));
            seen.push_back({&idle_.back(), id});
        }
    return seen;
}

void FindingsPanel::fillChoices(const std::vector<Seen>& all) {
    std::map<QString, QVariant> places;
    std::set<const linking::Rule*> rules;
    std::set<model::GroupId> groups;
    for (const Seen& each : all) {
        rules.insert(each.finding->rule);
        analysis::addPlacesOf(workspace_.network(), *each.finding, groups);
    }
    for (const model::GroupId group : groups)
        places.emplace(shownText(model::pathText(workspace_.network(), group)),
                       QVariant::fromValue<qulonglong>(group.value));
    refillChoice(*place_, tr("Everywhere"), {places.begin(), places.end()});
    std::vector<std::pair<QString, QVariant>> entries;
    for (const auto table : {linking::rules(), analysis::forwardingRules()})
        for (const linking::Rule& rule : table)
            if (rules.contains(&rule))
                entries.emplace_back(shownText(rule.title), shownText(rule.code));
    refillChoice(*rule_, tr("All rules"), entries);
    refillChoice(*severity_, tr("All severities"),
                 {{tr("Errors"), int(Severity::error)},
                  {tr("Warnings"), int(Severity::warning)},
                  {tr("Advice"), int(Severity::advice)}});
}

bool FindingsPanel::isChosen(const Finding& finding) const {
    const QVariant place = chosen(*place_), rule = chosen(*rule_), severity = chosen(*severity_);
    if (rule.isValid() && (!finding.rule || shownText(finding.rule->code) != rule.toString()))
        return false;
    if (severity.isValid() && (!finding.rule || int(finding.rule->severity) != severity.toInt()))
        return false;
    return !place.isValid() ||
           analysis::placesOf(workspace_.network(), finding).contains(model::GroupId{place.toULongLong()});
}

QTreeWidgetItem* FindingsPanel::itemOf(const Row& row) const {
    const Finding& finding = row.finding;
    QString second = sentence(finding.remedy.words);
    if (const auto* record = workspace_.network().find<model::SetAside>({row.by.value, 0})) {
        const auto day = [](const std::string& text) {
            return shownDate(QDate::fromString(shownText(text), Qt::ISODate));
        };
        second = shownText(record->reason);
        if (!record->date.empty())
            second += tr("; set aside %1").arg(day(record->date));
        if (!record->until.empty())
            second += tr(", until %1").arg(day(record->until));
    }
    auto* item = new QTreeWidgetItem({shownText(finding.message), second,
                                      finding.rule ? shownText(finding.rule->title) : tr("An unknown rule")});
    for (int column = 0; column < 2; ++column) // a tool tip would take a leading tag for rich text
        item->setToolTip(column, QStringLiteral("<p>%1</p>").arg(item->text(column).toHtmlEscaped()));
    if (!finding.rule)
        return item;
    item->setIcon(0, severityIcon(finding.rule->severity, palette()));
    item->setData(0, Qt::AccessibleTextRole,
                  severityText(finding.rule->severity) + QStringLiteral(": ") + item->text(0));
    item->setToolTip(2, QStringLiteral("<p>%1</p>").arg(shownText(finding.rule->source).toHtmlEscaped()));
    return item;
}

/// Most edits change neither what is found nor where it is.
void FindingsPanel::follow() {
    const model::Network &was = filled_.network, &is = workspace_.network();
    const bool alike = filled_.of == checker_.sharedSifted() &&
                       was.all<model::Group>() == is.all<model::Group>() &&
                       was.all<model::Device>() == is.all<model::Device>() &&
                       was.all<model::SetAside>() == is.all<model::SetAside>();
    if (!alike)
        refill();
}

void FindingsPanel::refill() {
    filled_ = {checker_.sharedSifted(), workspace_.network()};
    const auto held = list_->selectedItems();
    const int row = held.isEmpty() ? -1 : list_->indexOfTopLevelItem(held.front());
    const auto aside = checker_.sifted().aside.size() + checker_.sifted().idle.size();
    showAside_->setText(tr("Set aside (%1)").arg(aside));
    showAside_->setVisible(aside > 0 || showAside_->isChecked());
    if (aside == 0 && showAside_->isChecked()) { // the last of them counts again
        showAside_->setChecked(false);
        return;
    }
    std::vector<Seen> all = seenNow();
    fillChoices(all);
    const std::size_t count = all.size();
    std::erase_if(all, [this](const Seen& each) { return !isChosen(*each.finding); });
    const std::size_t fitting = all.size();
    shown_.clear();
    for (std::size_t i = 0; i < std::min(fitting, mostFindingRows); ++i)
        shown_.push_back({*all[i].finding, all[i].by});
    list_->clear();
    list_->setHeaderLabels(
        {tr("Finding"), showAside_->isChecked() ? tr("Reason") : tr("Remedy"), tr("Rule")});
    QList<QTreeWidgetItem*> items;
    for (const Row& each : shown_)
        items << itemOf(each);
    list_->addTopLevelItems(items);
    if (!items.isEmpty() && row >= 0) // what was put right is gone: the next one comes in its place
        list_->setCurrentItem(list_->topLevelItem(std::min(row, static_cast<int>(items.size()) - 1)));
    QString about = showAside_->isChecked() ? tr("%1 set aside").arg(count) : findingCounts(checker_);
    if (fitting < count)
        about += tr("; %1 of them here").arg(fitting);
    if (fitting > mostFindingRows)
        about += tr("; the first %1 are shown").arg(mostFindingRows);
    about_->setText(about);
    for (QWidget* widget : std::initializer_list<QWidget*>{place_, rule_, severity_, list_, putRight_,
                                                           setAside_, aboutRule_, export_})
        widget->setVisible(count > 0);
    about_->setVisible(count > 0 || aside > 0);
    list_->setVisible(fitting > 0);
    empty_->setText(count > 0
                        ? tr("No finding is of this place, rule and severity.")
                        : tr("No findings: every link fits, reaches and gets its power, and packets go where "
                             "they are meant to, as far as the drawing tells."));
    empty_->setVisible(fitting == 0);
    refreshButton();
}

} // namespace underridge::app
