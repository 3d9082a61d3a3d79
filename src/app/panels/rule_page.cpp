// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/panels/rule_page.h"

#include "app/shown_text.h"

#include <QAbstractTextDocumentLayout>
#include <QKeyEvent>
#include <QScrollBar>
#include <QTextBlock>

namespace underridge::app::docs_text {
extern const std::string_view linking, forwarding;
}

namespace underridge::app {

RulePage::RulePage(QWidget* parent) : QTextBrowser(parent) {
    setWindowFlag(Qt::Window);
    setObjectName(QStringLiteral("rule"));
    setAccessibleName(tr("About the rules"));
    setWindowTitle(tr("About the rules"));
    setOpenLinks(false);
    constexpr QSize comfortable(640, 480);
    resize(comfortable);
}

void RulePage::open(const linking::Rule& rule) {
    if (document()->isEmpty())
        setMarkdown(shownText(docs_text::linking) + QStringLiteral("\n\n") +
                    shownText(docs_text::forwarding));
    show();
    raise();
    activateWindow();
    const QString code = shownText(rule.code);
    for (QTextBlock block = document()->begin(); block.isValid(); block = block.next()) {
        if (block.blockFormat().headingLevel() == 0 || block.text() != code)
            continue;
        setTextCursor(QTextCursor(block));
        verticalScrollBar()->setValue(
            static_cast<int>(document()->documentLayout()->blockBoundingRect(block).top()));
        shown_ = code;
    }
}

void RulePage::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Escape)
        close();
    else
        QTextBrowser::keyPressEvent(event);
}

} // namespace underridge::app
