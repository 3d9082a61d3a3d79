// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/find/filter_bar.h"

#include "app/session/typed_fields.h"
#include "app/shown_text.h"
#include "app/style/pieces.h"
#include "core/edit/sheets.h"

#include <QHBoxLayout>
#include <QKeyEvent>

namespace underridge::app {
using namespace model;
namespace {
constexpr std::size_t countedAtOnce = 3000; ///< devices
}

FilterBar::FilterBar(Session& session, QWidget* parent)
    : QWidget(parent),
      session_(session),
      field_(new FilterField([this]() -> const Network& { return session_.network(); })),
      how_(new QComboBox),
      says_(plainLabel()),
      off_(new QToolButton) {
    auto* name = plainLabel(tr("Filter"));
    name->setWordWrap(false);
    field_->setAccessibleName(tr("Filter of the sheet"));
    field_->setPlaceholderText(tr("role:camera vlan:20 in:concourse free-ports>4"));
    field_->installEventFilter(this);
    how_->addItems({tr("others faint"), tr("others hidden")});
    how_->setAccessibleName(tr("What the filter leaves out"));
    says_->setWordWrap(false);
    off_->setText(tr("Off"));
    off_->setToolTip(tr("Show everything on this sheet again"));
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(8, 0, 8, 0);
    row->setSpacing(8);
    row->addWidget(name);
    row->addWidget(field_, 1);
    row->addWidget(how_);
    row->addWidget(says_, 1);
    row->addWidget(off_);
    connect(field_, &QLineEdit::textEdited, this, &FilterBar::say);
    connect(how_, &QComboBox::activated, this, [this] { commit(); });
    connect(off_, &QToolButton::clicked, this, [this] {
        open_ = false;
        field_->setModified(false);
        apply({});
        Q_EMIT wantedChanged();
        Q_EMIT left();
    });
    connect(&session_.navigation(), &Navigation::leaving, this, [this] {
        if (field_->isModified())
            commit(); // what cannot be read does not go along to another sheet
    });
    connect(&session_.sheets(), &SheetSession::sheetShown, this, [this] {
        open_ = false;
        field_->setModified(false);
        follow();
    });
    connect(&session_.sheets(), &SheetSession::sceneChanged, this, &FilterBar::follow);
    follow();
}

bool FilterBar::isWanted() const {
    const Sheet* sheet = session_.network().sheet(session_.sheet());
    return open_ || (sheet && !sheet->filter.empty());
}

void FilterBar::open() {
    open_ = true;
    say();
    Q_EMIT wantedChanged();
    field_->setFocus();
    field_->selectAll();
}

void FilterBar::follow() {
    const Sheet* sheet = session_.network().sheet(session_.sheet());
    if (!field_->isModified()) { // what is being typed stays
        field_->setText(sheet ? shownText(sheet->filter) : QString());
        how_->setCurrentIndex(sheet && sheet->filterHides ? 1 : 0);
    }
    say();
    Q_EMIT wantedChanged();
}

/// What is typed would find, or what the sheet's own filter does, which the scene knows.
void FilterBar::say() {
    counter_.forget();
    if (!isWanted())
        return;
    const auto read = find::Filter::parse(said(field_->text()));
    says_->setText(read ? QString() : wrongFilter(read.refusal()));
    says_->setToolTip(read ? QString() : shownText(read.refusal().remedy));
    if (!read)
        return;
    if (read->empty())
        return says_->setText(tr("everything is shown"));
    const bool isShown = !field_->isModified() && !session_.workspace().isUnsettled();
    if (const auto& shown = session_.scene().filtered(); shown && isShown)
        return tell(*shown);
    const Order order{session_.network(), session_.sheet(), session_.workspace().findings(),
                      said(field_->text())};
    if (order.network.all<Device>().size() <= countedAtOnce)
        return tell(counted(order));
    says_->setText(tr("counting…"));
    counter_.ask(order);
}

scene::Filtered FilterBar::counted(const Order& order) {
    scene::Filtered out;
    const auto filter = find::Filter::parse(order.filter);
    const find::Matcher matcher(order.network, *filter, order.findings.get());
    for (const DeviceId id : matcher.devices())
        out.found += order.network.position(order.sheet, id.value) != nullptr;
    order.network.all<Position>().forEachIn(
        order.sheet.value, [&](const Position& position) { out.all += position.of == Kind::device; });
    return out;
}

void FilterBar::tell(const scene::Filtered& counted) {
    const QString some =
        tr("%1 of %Ln device(s)", nullptr, counted.all).arg(QLocale().toString(counted.found));
    says_->setText(how_->currentIndex() == 1
                       ? tr("%1, %2 hidden").arg(some, QLocale().toString(counted.all - counted.found))
                       : some);
}

void FilterBar::apply(const QString& text) {
    const auto act = [now = session_.network(), sheet = session_.sheet(), filter = said(text),
                      hides = how_->currentIndex() == 1] {
        return edit::setSheetFilter(now, sheet, filter, hides);
    };
    if (session_.network().all<Device>().size() <= countedAtOnce)
        session_.apply(act());
    else
        session_.applyLater(act, {}); // the whole scene is another
}

bool FilterBar::commit() {
    const Sheet* sheet = session_.network().sheet(session_.sheet());
    if (!sheet || !isWanted())
        return true;
    if (!find::Filter::parse(said(field_->text()))) {
        say();
        return false;
    }
    const bool hides = how_->currentIndex() == 1;
    field_->setModified(false);
    if (trimmed(said(field_->text())) != sheet->filter ||
        (hides != sheet->filterHides && !sheet->filter.empty()))
        apply(field_->text());
    say();
    return true;
}

void FilterBar::revert() {
    open_ = false;
    const Sheet* sheet = session_.network().sheet(session_.sheet());
    field_->setText(sheet ? shownText(sheet->filter) : QString());
    say();
    Q_EMIT wantedChanged();
    Q_EMIT left();
}

bool FilterBar::eventFilter(QObject* watched, QEvent* event) {
    if (watched == field_ && event->type() == QEvent::KeyPress) {
        const auto* key = static_cast<QKeyEvent*>(event);
        if (key->key() == Qt::Key_Escape) {
            revert();
            return true;
        }
        if (key->key() == Qt::Key_Return || key->key() == Qt::Key_Enter) {
            if (commit())
                Q_EMIT left();
            return true;
        }
    }
    if (watched == field_ && event->type() == QEvent::FocusOut &&
        TypedFields::leaves(*static_cast<QFocusEvent*>(event)))
        commit();
    return QWidget::eventFilter(watched, event);
}

} // namespace underridge::app
