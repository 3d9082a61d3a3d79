// SPDX-License-Identifier: GPL-3.0-or-later
// The tests of a library are one program, which runs one of them, by the name of its file:
// core_tests routing_test, and what Qt Test takes after it.
#pragma once
#include <QtTest>

namespace underridge::tests {

#if defined(__SANITIZE_ADDRESS__) || defined(__SANITIZE_THREAD__)
inline constexpr bool isSanitized = true;
#elif defined(__has_feature)
inline constexpr bool isSanitized = __has_feature(address_sanitizer) || __has_feature(thread_sanitizer);
#else
inline constexpr bool isSanitized = false;
#endif

/// How often something random is tried: a quarter as often under sanitizers, where a try
/// takes ten times as long.
constexpr int tries(int many) {
    return isSanitized ? (many + 3) / 4 : many;
}

using Run = int (*)(int count, char** words);

/// Makes a test known under its file's name, before main().
bool registerTest(const char* file, Run run);

} // namespace underridge::tests

/// In place of Qt Test's main functions: at the end of each test's file.
#define UNDERRIDGE_TEST(Class)                                                                               \
    namespace {                                                                                              \
    [[maybe_unused]] const bool registered =                                                                 \
        underridge::tests::registerTest(__FILE__, [](int count, char** words) {                              \
            Class test;                                                                                      \
            return QTest::qExec(&test, count, words);                                                        \
        });                                                                                                  \
    }
