// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/overlays/overlay_bar.h"

#include "app/session/session.h"
#include "app/shown_text.h"
#include "app/style/pieces.h"
#include "app/window/checker.h"
#include "core/edit/sheets.h"
#include "core/scene/overlay_keys.h"
#include "paint/overlays/overlay_choices.h"

#include <QKeyEvent>

namespace underridge::app {
using namespace model;
namespace {

const std::string filterKey = "where:";
constexpr std::size_t atOnce = 1500; ///< devices of networks whose overlays are made within a frame

bool isFilter(const std::string& key) {
    return key.starts_with(filterKey);
}

} // namespace

OverlayBar::OverlayBar(Session& session, Checker& checker, QWidget* parent)
    : QWidget(parent),
      session_(session),
      checker_(checker),
      choice_(new QComboBox),
      filter_(new FilterField([this]() -> const Network& { return session_.network(); })),
      othersRow_(new QHBoxLayout),
      says_(plainLabel()),
      another_(new QToolButton),
      off_(new QToolButton) {
    auto* name = plainLabel(tr("Overlay"));
    name->setWordWrap(false);
    choice_->setAccessibleName(tr("Overlay"));
    choice_->setMinimumContentsLength(28);
    filter_->setAccessibleName(tr("Filter of the overlay"));
    filter_->setPlaceholderText(tr("role:camera vlan:20"));
    for (QWidget* each : {static_cast<QWidget*>(choice_), static_cast<QWidget*>(filter_)})
        each->installEventFilter(this);
    says_->setWordWrap(false);
    another_->setText(tr("Another"));
    another_->setToolTip(tr("Keep what is on and lay another over it"));
    off_->setText(tr("Off"));
    off_->setToolTip(tr("Take all overlays off this sheet"));
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(8, 0, 8, 0);
    row->setSpacing(8);
    row->addWidget(name);
    row->addLayout(othersRow_);
    row->addWidget(choice_);
    row->addWidget(filter_, 1);
    row->addWidget(says_, 1);
    row->addWidget(another_);
    row->addWidget(off_);
    connect(choice_, &QComboBox::currentIndexChanged, this, &OverlayBar::chosen);
    connect(filter_, &QLineEdit::editingFinished, this, &OverlayBar::commitFilter);
    connect(another_, &QToolButton::clicked, this, &OverlayBar::addAnother);
    connect(off_, &QToolButton::clicked, this, &OverlayBar::close);
    connect(&checker_, &Checker::changed, this, &OverlayBar::follow);
    connect(&session_.workspace(), &Workspace::networkChanged, this, [this] {
        if (keys() != keysLaid_) // else what is on follows once it is worked out
            follow();
    });
    connect(&session_.sheets(), &SheetSession::sheetShown, this, [this] {
        open_ = false;
        follow();
    });
    follow();
}

std::vector<std::string> OverlayBar::keys() const {
    const Sheet* sheet = session_.network().sheet(session_.sheet());
    return sheet ? scene::overlaysOf(*sheet) : std::vector<std::string>{};
}

/// Looking through several one after another is one step back.
void OverlayBar::setKeys(const std::vector<std::string>& wanted) {
    if (wanted != keys())
        session_.apply(edit::setSheetOverlays(session_.network(), session_.sheet(), wanted),
                       edit::MergeKey{"overlays", {{Kind::sheet, session_.sheet().value}}});
}

bool OverlayBar::isWanted() const {
    return open_ || !keys().empty();
}

void OverlayBar::open() {
    open_ = true;
    if (keys().empty())
        setKeys({said(paint::overlayChoices(session_.network()).front().key)});
    follow();
    choice_->setFocus();
}

void OverlayBar::close() {
    open_ = false;
    filter_->setModified(false);
    setKeys({});
    follow();
    Q_EMIT left();
}

bool OverlayBar::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() == QEvent::KeyPress && static_cast<QKeyEvent*>(event)->key() == Qt::Key_Escape) {
        close();
        return true;
    }
    return QWidget::eventFilter(watched, event);
}

void OverlayBar::chosen() {
    auto now = keys();
    const std::string key = said(choice_->currentData().toString());
    if (now.empty() || key.empty())
        return;
    filter_->setVisible(isFilter(key));
    if (key == filterKey) { // not typed yet
        filter_->clear();
        filter_->setFocus();
        return;
    }
    now.back() = key;
    setKeys(now);
}

void OverlayBar::commitFilter() {
    const std::string typed = said(filter_->text().trimmed());
    auto now = keys();
    if (typed.empty() || now.empty() || !isFilter(said(choice_->currentData().toString())))
        return;
    filter_->setModified(false);
    now.back() = filterKey + typed;
    if (const auto key = scene::OverlayKey::parse(now.back()); !key)
        says_->setText(wrongFilter(key.refusal()));
    else
        setKeys(now);
}

void OverlayBar::addAnother() {
    auto now = keys();
    for (const paint::OverlayChoice& each : paint::overlayChoices(session_.network()))
        if (std::find(now.begin(), now.end(), said(each.key)) == now.end()) {
            now.push_back(said(each.key));
            break;
        }
    setKeys(now);
    choice_->setFocus();
}

void OverlayBar::follow() {
    const auto now = keys();
    if (isWanted()) {
        fillOthers(now);
        fill(now);
    }
    lay(now);
    Q_EMIT wantedChanged();
}

QString OverlayBar::titleOf(const std::string& key) const {
    const auto read = scene::OverlayKey::parse(key);
    const ObjectRef about{Kind::unknown, read ? read->object : 0};
    for (const paint::OverlayChoice& each : paint::overlayChoices(session_.network(), about))
        if (said(each.key) == key)
            return each.text;
    return shownText(isFilter(key) ? key.substr(filterKey.size()) : key);
}

void OverlayBar::fill(const std::vector<std::string>& now) {
    const QSignalBlocker quiet(choice_);
    const bool typing = filter_->isModified() && filter_->hasFocus();
    const std::string key = now.empty() ? std::string() : now.back();
    const ObjectRef selected = session_.selection().empty() ? ObjectRef{} : session_.selection().front();
    choice_->clear();
    for (const paint::OverlayChoice& each : paint::overlayChoices(session_.network(), selected))
        choice_->addItem(each.text, each.key);
    choice_->addItem(tr("What a filter finds…"), shownText(isFilter(key) ? key : filterKey));
    if (typing)
        return choice_->setCurrentIndex(choice_->count() - 1);
    if (!key.empty() && choice_->findData(shownText(key)) < 0)
        choice_->insertItem(0, titleOf(key), shownText(key)); // as what hangs on something selected before
    choice_->setCurrentIndex(choice_->findData(shownText(key)));
    filter_->setVisible(isFilter(key));
    if (isFilter(key))
        filter_->setText(shownText(key.substr(filterKey.size())));
}

void OverlayBar::fillOthers(const std::vector<std::string>& now) {
    const std::size_t wanted = now.empty() ? 0 : now.size() - 1;
    for (QToolButton* each : others_)
        each->deleteLater();
    others_.clear();
    for (std::size_t i = 0; i < wanted; ++i) {
        auto* other = new QToolButton;
        const QString title = titleOf(now[i]);
        other->setText(title + QStringLiteral(" ×"));
        other->setAccessibleName(tr("Take off %1").arg(title));
        other->setToolTip(other->accessibleName());
        othersRow_->addWidget(other);
        others_.push_back(other);
        connect(other, &QToolButton::clicked, this, [this, key = now[i]] {
            auto left = keys();
            std::erase(left, key);
            setKeys(left);
        });
    }
}

OverlayBar::Made OverlayBar::made(const std::vector<std::string>& keys,
                                  const analysis::Forwarding& forwarding,
                                  const std::vector<linking::Finding>& findings) {
    Made out;
    for (const std::string& key : keys)
        if (auto overlay = paint::overlayOf(shownText(key), forwarding, findings))
            out.push_back(std::move(overlay));
    return out;
}

void OverlayBar::lay(const std::vector<std::string>& now) {
    keysLaid_ = now;
    maker_.forget();
    auto forwarding = now.empty() ? nullptr : checker_.forwarding();
    if (forwarding && forwarding->network().info().id != session_.network().info().id)
        forwarding = nullptr; // of the file that was open before
    if (!forwarding) {
        take({});
        says_->setText(now.empty() ? QString() : tr("being worked out"));
        return;
    }
    if (forwarding->wiring().stations().size() <= atOnce)
        return take(made(now, *forwarding, checker_.findings()));
    maker_.ask({now, forwarding, checker_.sharedSifted()});
}

/// Lays these over the sheet in place of what is on.
void OverlayBar::take(const Made& overlays) {
    std::set<QString> on;
    for (const auto& overlay : overlays) {
        on.insert(overlay->id());
        session_.overlays().put(overlay);
    }
    for (const QString& id : laid_)
        if (!on.contains(id))
            session_.overlays().remove(id);
    laid_ = std::move(on);
    says_->setText(overlays.empty() ? QString() : overlays.back()->legend());
}

} // namespace underridge::app
