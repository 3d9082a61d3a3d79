// SPDX-License-Identifier: GPL-3.0-or-later
// The open network's dealings with other files: import, export, cable schedules, tester's
// results, label sheets, pictures, pages. Everything is read and written beside the
// window, and shown before it is taken in.
#pragma once
#include "app/desk.h"
#include "app/style/desktop_theme.h"
#include "core/analysis/set_aside.h"
#include "core/edit/import.h"
#include "core/edit/schedule.h"
#include "core/exchange/foreign.h"
#include "core/linking/rules.h"

namespace underridge::app {

class Interchange : public QObject {
    Q_OBJECT
public:
    Interchange(const Desk& desk, const DesktopTheme& theme, QObject* parent);

    /// Takes a file into the open network after a preview, as one step.
    void importFile(const QString& path, WhenDone done = {});
    /// Matches a cable schedule against the drawing and, after a preview, takes it in as
    /// one step.
    void mergeCables(const QString& path, WhenDone done = {});
    /// Takes in a tester's results after a preview.
    void mergeResults(const QString& path, WhenDone done = {});
    /// Writes the network in the format of the suffix and lists what it cannot hold.
    void exportTo(const QString& path, WhenDone done = {});
    /// Writes the sheet shown as .png, .svg or .pdf.
    void writePicture(const QString& path, WhenDone done = {});
    /// Writes labels of the selected cables, or of all, as PDF.
    void writeLabels(const QString& path, WhenDone done = {});
    /// Writes a page for each rack and panel selected, or for all, as PDF.
    void writeDoorSheets(const QString& path, WhenDone done = {});

    /// Writes findings as .csv, .json or .pdf.
    void writeFindings(const QString& path, analysis::Sifted findings, WhenDone done = {});

    // The same, asking which file.
    void chooseExport();
    void choosePicture();
    void chooseLabels();
    void chooseDoorSheets();
    void chooseFindings(const analysis::Sifted& findings);
    void print();

Q_SIGNALS:
    /// Something was imported, onto sheets of its own or onto the one shown.
    void imported(underridge::edit::ImportOnto onto);

private:
    /// Works beside the window. A refusal is told, and ends it.
    template <class Made>
    void work(const QString& words, std::function<Result<Made>(const Wanted&)> make,
              std::function<void(std::shared_ptr<Made>)> then, const WhenDone& done);
    template <class Made>
    using Reader = std::function<Result<Made>(const std::string& bytes)>;
    /// The same with a file's bytes.
    template <class Made>
    void readFile(const QString& path, Reader<Made> read, std::function<void(std::shared_ptr<Made>)> then,
                  const WhenDone& done);
    void offer(const QString& path, std::shared_ptr<exchange::Loaded> loaded, const WhenDone& done);
    void take(const QString& path, std::shared_ptr<exchange::Loaded> loaded, edit::ImportOnto onto,
              const WhenDone& done);
    void match(const QString& path, const edit::ScheduleTable& table, const WhenDone& done);
    void offer(const QString& path, std::shared_ptr<edit::Schedule> schedule, const WhenDone& done);
    void askColumns(const QString& path, std::shared_ptr<edit::ScheduleTable> table, const WhenDone& done);

    Desk desk_;
    const DesktopTheme& theme_;
};

} // namespace underridge::app
