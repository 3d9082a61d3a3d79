// SPDX-License-Identifier: GPL-3.0-or-later
// The command line: docs/command-line.md.
#pragma once
#include <functional>
#include <istream>
#include <optional>
#include <ostream>
#include <string>
#include <vector>

namespace underridge::cli {

enum ExitCode { done = 0, doneWithFindings = 1, wrongUsage = 2, cannotRead = 3, cannotWrite = 4 };

/// What to do when no subcommand was given.
struct OpenWindow {
    std::string file;
    bool demo = false;
};

struct Outcome {
    int exitCode = done;
    std::optional<OpenWindow> window;
};

/// Runs a command line without the program's name. Rendering needs a QGuiApplication;
/// `prepareDrawing` is called once before the first thing is drawn.
Outcome run(const std::vector<std::string>& arguments, std::istream& in, std::ostream& out, std::ostream& err,
            const std::function<void()>& prepareDrawing);

/// Whether the arguments ask for something that needs no window.
bool isSubcommand(const std::vector<std::string>& arguments);

} // namespace underridge::cli
