// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/files/clips.h"

#include "app/files/clipboard.h"
#include "app/shown_text.h"

#include <QClipboard>
#include <QDrag>
#include <QGuiApplication>

namespace underridge::app {

Clips::Clips(const Desk& desk, QObject* parent) : QObject(parent), desk_(desk) {
    connect(QGuiApplication::clipboard(), &QClipboard::dataChanged, this, &Clips::look);
    look();
}

void Clips::copy() {
    if (auto clip = desk_.session.copied())
        QGuiApplication::clipboard()->setMimeData(new ClipData(*std::move(clip), paint::lightTheme()));
}

void Clips::dragOut(QWidget* from) {
    auto clip = desk_.session.copied();
    if (!clip)
        return;
    if (!folder_)
        folder_ = std::make_unique<QTemporaryDir>();
    const QString path = folder_->isValid() ? folder_->filePath(QStringLiteral("selection.svg")) : QString();
    auto* drag = new QDrag(from);
    drag->setMimeData(new ClipData(*std::move(clip), paint::lightTheme(), path));
    drag->exec(Qt::CopyAction);
}

void Clips::look() {
    const QMimeData* held = QGuiApplication::clipboard()->mimeData();
    const bool can = held && mayHoldClip(*held);
    if (std::exchange(canPaste_, can) != can)
        Q_EMIT canPasteChanged();
}

void Clips::paste() {
    const QMimeData* held = QGuiApplication::clipboard()->mimeData();
    if (!held)
        return;
    auto bytes = clipBytes(*held);
    constexpr qsizetype little = 64 << 10; // read in some milliseconds: the next key comes after it
    if (bytes.size() <= little)
        return take(clipFrom(bytes, desk_.session.catalogue()));
    using Made = std::shared_ptr<Result<edit::Clip>>;
    desk_.jobs.run<Made>(
        tr("Reading the clipboard"),
        [bytes = std::move(bytes), catalogue = desk_.session.catalogue()](const Wanted&) {
            return std::make_shared<Result<edit::Clip>>(clipFrom(bytes, catalogue));
        },
        [this, onto = desk_.session.sheet(), of = desk_.session.network().info().id](Made clip) {
            if (desk_.session.sheet() == onto && desk_.session.network().info().id == of)
                take(*clip); // else the person is elsewhere by now
        });
}

void Clips::take(const Result<edit::Clip>& clip) {
    if (clip)
        Q_EMIT pasted(*clip);
    else
        desk_.messages.tell(
            advice(tr("the clipboard holds no network: %1").arg(shownText(clip.refusal().what)),
                   tr("copy devices, or a table with a line of column names")));
}

} // namespace underridge::app
