// SPDX-License-Identifier: GPL-3.0-or-later
// Edits without end and saves now and then, until it is killed: editing-program JOURNALS
// FILE SEED [background]. Before and after each act it writes the hash of the value to
// standard output. With "background" it goes on editing while a thread saves.
#include "core/edit/document.h"
#include "core/exchange/own_format.h"
#include "tests/support/random_edits.h"

#include <atomic>
#include <cstdio>
#include <thread>
#include <unistd.h>

using namespace underridge;

namespace {

std::uint64_t hashOf(const model::Network& network) {
    return fnv1a(exchange::writeOwn(network));
}

void tell(const char* what, std::uint64_t hash) {
    char line[64];
    const int n =
        std::snprintf(line, sizeof line, "%s %016llx\n", what, static_cast<unsigned long long>(hash));
    if (::write(STDOUT_FILENO, line, static_cast<std::size_t>(n)) != n)
        _exit(1);
}

/// A save on a thread of its own, as the window does it.
class BackgroundSave {
public:
    BackgroundSave(Files& files, edit::Document& document) : files_(files), document_(document) {}

    void begin(const std::string& path) {
        saving_ = document_.beginSave(path);
        done_ = false;
        thread_ = std::jthread([this] {
            written_ = edit::Document::write(files_, saving_);
            done_ = true;
        });
    }
    /// What the window does when it hears that the thread is done.
    void endIfDone() {
        if (!thread_.joinable() || !done_)
            return;
        thread_.join();
        if (*written_)
            document_.endSave(saving_, **written_);
    }
    bool isUnderway() const { return thread_.joinable(); }

private:
    Files& files_;
    edit::Document& document_;
    edit::Document::Saving saving_;
    std::optional<Result<std::uint64_t>> written_;
    std::atomic<bool> done_ = false;
    std::jthread thread_;
};

} // namespace

int main(int argc, char** argv) {
    if (argc != 4 && argc != 5)
        return 2;
    DiskFiles files;
    const edit::World world{files, argv[1], [] { return std::int64_t{0}; }};
    tests::RandomEdits edits(std::stoull(argv[3]));
    auto document = edit::Document::fresh(world, edits.start());
    BackgroundSave saver(files, document);
    tell("done", hashOf(document.network()));
    for (int i = 0;; ++i) {
        saver.endIfDone();
        auto act = edits.act(document.network());
        if (!act || act->network == document.network())
            continue;
        tell("begin", hashOf(act->network));
        static_cast<void>(document.apply(*std::move(act), {}, {}));
        tell("done", hashOf(document.network()));
        if (argc == 5) {
            if (i % 3 == 2 && !saver.isUnderway())
                saver.begin(argv[2]);
        } else if (i % 7 == 6) {
            if (!document.save(argv[2]))
                return 1;
            tell("saved", hashOf(document.network()));
        }
    }
}
