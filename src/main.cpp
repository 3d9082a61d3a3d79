// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/plurals.h"
#include "app/window/main_window.h"
#include "cli/command_line.h"

#include <QApplication>
#include <QDir>
#include <QFileInfo>
#include <QStandardPaths>
#include <chrono>
#include <iostream>

namespace {

using namespace underridge;

std::int64_t nowMs() {
    return std::chrono::duration_cast<std::chrono::milliseconds>(
               std::chrono::system_clock::now().time_since_epoch())
        .count();
}

/// $XDG_STATE_HOME, which QStandardPaths of Qt 6.4 does not know.
QString stateFolder() {
    QString base = qEnvironmentVariable("XDG_STATE_HOME");
    if (base.isEmpty())
        base = QDir::homePath() + QStringLiteral("/.local/state");
    return base + QStringLiteral("/underridge/journal");
}

/// Own models, by the desktop's conventions: $XDG_DATA_HOME/underridge/models.json.
QString libraryPath() {
    return QStandardPaths::writableLocation(QStandardPaths::GenericDataLocation) +
           QStringLiteral("/underridge/models.json");
}

/// The samples beside the program when installed, else in the source tree.
QString demoFolder() {
    const QString installed =
        QCoreApplication::applicationDirPath() + QStringLiteral("/../share/underridge/demo");
    return QFileInfo::exists(installed) ? installed : QStringLiteral(UNDERRIDGE_SOURCE_DEMO);
}

int openWindow(int argc, char** argv, const cli::OpenWindow& wanted) {
    QApplication app(argc, argv);
    QApplication::setStyle(QStringLiteral("fusion"));
    app::useEnglishPlurals(); // before any translation, which is asked first
    DiskFiles files;
    app::WindowWorld world{{files, stateFolder().toStdString(), nowMs},
                           model::seedFromSystem(),
                           {},
                           libraryPath(),
                           demoFolder(),
                           QStandardPaths::writableLocation(QStandardPaths::GenericCacheLocation) +
                               QStringLiteral("/thumbnails"),
                           QFileInfo(libraryPath()).path() + QStringLiteral("/plans")};
    app::MainWindow window(std::move(world));
    const bool cutOff = window.startPage().offersRecovery();
    if (wanted.demo && !cutOff) // work to recover comes first: the start page offers both
        window.files().openSample(QStringLiteral("fennick-quay"));
    else if (!wanted.file.empty())
        window.files().open(QFileInfo(QString::fromStdString(wanted.file)).absoluteFilePath());
    else if (!cutOff)
        window.files().openLast();
    window.showWhenOpened();
    return QApplication::exec();
}

} // namespace

int main(int argc, char** argv) {
    QCoreApplication::setOrganizationName(QStringLiteral("underridge"));
    QCoreApplication::setApplicationName(QStringLiteral("underridge"));
    QCoreApplication::setApplicationVersion(QStringLiteral(UNDERRIDGE_VERSION));
    const std::vector<std::string> arguments(argv + 1, argv + argc);
    std::unique_ptr<QGuiApplication> drawing;
    const auto prepareDrawing = [&] {
        if (qEnvironmentVariableIsEmpty("QT_QPA_PLATFORM"))
            qputenv("QT_QPA_PLATFORM", "offscreen"); // pictures need fonts, not a display
        drawing = std::make_unique<QGuiApplication>(argc, argv);
        app::useEnglishPlurals();
    };
    const cli::Outcome outcome = cli::run(arguments, std::cin, std::cout, std::cerr, prepareDrawing);
    return outcome.window ? openWindow(argc, argv, *outcome.window) : outcome.exitCode;
}
