// SPDX-License-Identifier: GPL-3.0-or-later
// For loops over plain numbers: as many of them at once as the machine can. Never contracted, so that the
// same comes of it on every machine (src/core/CMakeLists.txt).
#pragma once

// A sanitizer's runtime is not there yet when the choice is made.
#if defined(__x86_64__) && defined(__GNUC__) && !defined(__clang__) && !defined(__SANITIZE_THREAD__) &&      \
    !defined(__SANITIZE_ADDRESS__)
#define UNDERRIDGE_WIDE __attribute__((target_clones("avx512f", "avx2", "default")))
#else
#define UNDERRIDGE_WIDE
#endif
