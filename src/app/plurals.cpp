// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/plurals.h"

#include <QCoreApplication>
#include <QTranslator>

namespace underridge::app {
namespace {

class EnglishPlurals : public QTranslator {
public:
    using QTranslator::QTranslator;

    bool isEmpty() const override { return false; }
    QString translate(const char*, const char* source, const char*, int n) const override {
        if (n < 0)
            return {}; // nothing is counted
        return QString::fromUtf8(source).replace(QStringLiteral("(s)"),
                                                 n == 1 ? QString() : QStringLiteral("s"));
    }
};

} // namespace

void useEnglishPlurals() {
    static const bool once = [] {
        // First of all: what is installed later is asked before it.
        QCoreApplication::installTranslator(new EnglishPlurals(QCoreApplication::instance()));
        return true;
    }();
    static_cast<void>(once);
}

} // namespace underridge::app
