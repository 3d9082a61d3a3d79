// SPDX-License-Identifier: GPL-3.0-or-later
// Runs the test that is named; without a name says which there are.
#include "tests/support/registered.h"

#include <cstdio>
#include <filesystem>
#include <map>
#include <string>
#include UNDERRIDGE_TEST_HEADER

namespace {

std::map<std::string, underridge::tests::Run>& known() {
    static std::map<std::string, underridge::tests::Run> all;
    return all;
}

} // namespace

bool underridge::tests::registerTest(const char* file, Run run) {
    return known().emplace(std::filesystem::path(file).stem().string(), run).second;
}

int main(int count, char** words) {
    const auto test = count > 1 ? known().find(words[1]) : known().end();
    if (test == known().end()) {
        for (const auto& [name, run] : known())
            std::puts(name.c_str());
        return 2;
    }
    UNDERRIDGE_TEST_APPLICATION application(count, words);
    application.setAttribute(Qt::AA_Use96Dpi);
    words[1] = words[0];
    return test->second(count - 1, words + 1);
}
