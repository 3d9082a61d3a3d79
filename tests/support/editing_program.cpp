// SPDX-License-Identifier: GPL-3.0-or-later
// Edits without end and saves now and then, until it is killed: editing-program JOURNALS FILE SEED. Before
// each act it writes the act's number and the hash of the value before and after to standard output.
#include "core/edit/document.h"
#include "core/exchange/own_format.h"
#include "tests/support/random_edits.h"

#include <cstdio>
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

} // namespace

int main(int argc, char** argv) {
    if (argc != 4)
        return 2;
    DiskFiles files;
    const edit::World world{files, argv[1], [] { return std::int64_t{0}; }};
    tests::RandomEdits edits(std::stoull(argv[3]));
    auto document = edit::Document::fresh(world, edits.start());
    tell("done", hashOf(document.network()));
    for (int i = 0;; ++i) {
        auto act = edits.act(document.network());
        if (!act || act->network == document.network())
            continue;
        tell("begin", hashOf(act->network));
        document.apply(*std::move(act), {}, {});
        tell("done", hashOf(document.network()));
        if (i % 7 == 6 && !document.save(argv[2]))
            return 1;
        if (i % 7 == 6)
            tell("saved", hashOf(document.network()));
    }
}
