// SPDX-License-Identifier: GPL-3.0-or-later
#include "paint/findings_report.h"

#include "core/analysis/report.h"

#include <QBuffer>
#include <QPageSize>
#include <QPdfWriter>
#include <QTextDocument>

namespace underridge::paint {
namespace {

QString escaped(std::string_view text) {
    return QString::fromUtf8(text.data(), static_cast<qsizetype>(text.size())).toHtmlEscaped();
}

} // namespace

QByteArray findingsPdf(const model::Network& network, const analysis::Sifted& findings,
                       const std::string& date) {
    int count[3] = {};
    for (const auto& finding : findings.open)
        ++count[static_cast<int>(finding.rule->severity)];
    QString html =
        QStringLiteral("<h1>%1: findings</h1><p>%2. %3 errors, %4 warnings, %5 pieces of advice.</p>")
            .arg(escaped(network.info().name), escaped(date))
            .arg(count[0])
            .arg(count[1])
            .arg(count[2]);
    if (findings.open.empty())
        html += QStringLiteral("<p>Nothing is found at fault, as far as the drawing tells.</p>");
    const linking::Rule* last = nullptr;
    for (const auto& finding : findings.open) {
        if (finding.rule != last) {
            html += QStringLiteral("<h3>%1 (%2, %3)</h3>")
                        .arg(escaped(finding.rule->title), escaped(finding.rule->code),
                             escaped(analysis::textOf(finding.rule->severity)));
            if (!finding.rule->source.empty())
                html += QStringLiteral("<p><small>%1</small></p>").arg(escaped(finding.rule->source));
        }
        last = finding.rule;
        html += QStringLiteral("<p>%1.").arg(escaped(finding.message));
        if (!finding.remedy.words.empty())
            html += QStringLiteral("<br/><i>%1</i>").arg(escaped(finding.remedy.words));
        html += QStringLiteral("</p>");
    }
    if (!findings.aside.empty())
        html += QStringLiteral("<h2>Set aside</h2>");
    for (const auto& [finding, by] : findings.aside) {
        const auto& record = *network.find<model::SetAside>({by.value, 0});
        html += QStringLiteral("<p>%1.<br/><i>%2 (%3%4)</i></p>")
                    .arg(escaped(finding.message), escaped(record.reason), escaped(record.date),
                         record.until.empty() ? QString() : QStringLiteral(" to ") + escaped(record.until));
    }
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    QPdfWriter writer(&buffer);
    writer.setPageSize(QPageSize(QPageSize::A4));
    writer.setTitle(QString::fromStdString(network.info().name));
    constexpr double marginMm = 15;
    writer.setPageMargins(QMarginsF(marginMm, marginMm, marginMm, marginMm), QPageLayout::Millimeter);
    QTextDocument document;
    document.setHtml(html);
    document.print(&writer);
    return bytes;
}

} // namespace underridge::paint
