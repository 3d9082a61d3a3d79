// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/panels/findings_panel.h"

#include "app/panels/remarks_panel.h"
#include "app/panels/rule_page.h"
#include "app/session/workspace.h"
#include "app/shown_text.h"
#include "app/style/pieces.h"
#include "app/window/checker.h"
#include "core/edit/remedies.h"

#include <QHBoxLayout>
#include <QHeaderView>

namespace underridge::app {
using linking::Finding;
using linking::Remedy;
namespace {

constexpr std::size_t mostRows = 2000;

} // namespace

FindingsPanel::FindingsPanel(Workspace& workspace, Checker& checker, QWidget* parent)
    : QWidget(parent),
      workspace_(workspace),
      checker_(checker),
      about_(new QLabel),
      list_(new QTreeWidget),
      empty_(plainLabel()),
      putRight_(new QPushButton(tr("Put right"))),
      aboutRule_(new QPushButton(tr("About this rule"))),
      export_(new QPushButton(tr("Export…"))) {
    export_->setToolTip(tr("Write all findings as PDF, CSV or JSON"));
    connect(export_, &QPushButton::clicked, this, &FindingsPanel::exportWanted);
    setObjectName(QStringLiteral("findings"));
    about_->setTextFormat(Qt::PlainText);
    putRight_->setToolTip(tr("Do what the remedy says; undo takes it back"));
    aboutRule_->setToolTip(tr("What the rule regards, its figures and where they come from"));
    list_->setAccessibleName(tr("Findings"));
    list_->setRootIsDecorated(false);
    list_->setUniformRowHeights(true);
    list_->setHeaderLabels({tr("Finding"), tr("Remedy"), tr("Rule")});
    list_->header()->setStretchLastSection(false);
    list_->header()->setSectionResizeMode(0, QHeaderView::Stretch);
    list_->header()->setSectionResizeMode(1, QHeaderView::Stretch);
    list_->header()->setSectionResizeMode(2, QHeaderView::ResizeToContents);
    empty_->setAlignment(Qt::AlignCenter);
    empty_->setText(
        tr("No findings: every link fits, reaches and gets its power, as far as the drawing tells."));
    auto* top = new QHBoxLayout;
    top->addWidget(about_, 1);
    top->addWidget(export_);
    top->addWidget(aboutRule_);
    top->addWidget(putRight_);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(6, 4, 6, 6);
    layout->addLayout(top);
    layout->addWidget(list_, 1);
    layout->addWidget(empty_, 1);
    const auto go = [this] {
        if (const Finding* finding = current())
            Q_EMIT goTo(finding->subjects);
    };
    connect(list_, &QTreeWidget::itemClicked, this, go);
    connect(list_, &QTreeWidget::itemActivated, this, go);
    connect(list_, &QTreeWidget::currentItemChanged, this, &FindingsPanel::refreshButton);
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
    connect(&checker_, &Checker::changed, this, &FindingsPanel::refill);
    refill();
}

const Finding* FindingsPanel::current() const {
    const int row = list_->indexOfTopLevelItem(list_->currentItem());
    return row < 0 || row >= static_cast<int>(shown_.size()) ? nullptr
                                                             : &shown_[static_cast<std::size_t>(row)];
}

void FindingsPanel::refreshButton() {
    const Finding* finding = current();
    putRight_->setEnabled(finding && finding->remedy.kind != Remedy::Kind::none);
    aboutRule_->setEnabled(finding);
}

void FindingsPanel::refill() {
    const auto& all = checker_.findings();
    const int row = list_->indexOfTopLevelItem(list_->currentItem());
    shown_.assign(all.begin(), all.begin() + static_cast<std::ptrdiff_t>(std::min(all.size(), mostRows)));
    list_->clear();
    QList<QTreeWidgetItem*> items;
    for (const Finding& finding : shown_) {
        auto* item = new QTreeWidgetItem({QString::fromStdString(finding.message),
                                          sentence(finding.remedy.words), shownText(finding.rule->title)});
        item->setIcon(0, severityIcon(finding.rule->severity, palette()));
        item->setData(0, Qt::AccessibleTextRole,
                      severityText(finding.rule->severity) + QStringLiteral(": ") + item->text(0));
        for (int column = 0; column < 2; ++column) // a tool tip would take a leading tag for rich text
            item->setToolTip(column, QStringLiteral("<p>%1</p>").arg(item->text(column).toHtmlEscaped()));
        item->setToolTip(2, QStringLiteral("<p>%1</p>").arg(shownText(finding.rule->source).toHtmlEscaped()));
        items << item;
    }
    list_->addTopLevelItems(items);
    if (!items.isEmpty() && row >= 0) // what was put right is gone: the next one comes in its place
        list_->setCurrentItem(list_->topLevelItem(std::min(row, static_cast<int>(items.size()) - 1)));
    about_->setText(all.size() > mostRows
                        ? tr("%1; the first %2 are shown").arg(findingCounts(checker_)).arg(mostRows)
                        : findingCounts(checker_));
    for (QWidget* widget : std::initializer_list<QWidget*>{about_, list_, putRight_, aboutRule_, export_})
        widget->setVisible(!all.empty());
    empty_->setVisible(all.empty());
    refreshButton();
}

} // namespace underridge::app
