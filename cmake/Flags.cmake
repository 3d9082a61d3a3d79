# Warning flags for our own code, kept in one interface target; ccache and mold where they are present.
add_library(underridge_flags INTERFACE)
target_compile_options(underridge_flags INTERFACE -Wall -Wextra -Wpedantic -Wshadow -Wnon-virtual-dtor
  -Woverloaded-virtual -Wcast-qual -Wundef -Werror
  # GCC 12 reports these for std::string's own code when it is inlined (GCC bugs 105329, 105651).
  -Wno-stringop-overflow -Wno-restrict -Wno-array-bounds -Wno-maybe-uninitialized -Wno-nonnull)
target_include_directories(underridge_flags INTERFACE ${CMAKE_SOURCE_DIR}/src)
if(CMAKE_CXX_COMPILER_ID MATCHES Clang) # it does not know the names of GCC's false alarms, and has some of its own
  target_compile_options(underridge_flags INTERFACE -Wno-unknown-warning-option -Wno-error)
endif()
if(UNDERRIDGE_SANITIZE)
  target_compile_options(underridge_flags INTERFACE -fsanitize=${UNDERRIDGE_SANITIZE} -fno-omit-frame-pointer -O0 -g1) # -O1 compiles three times as long
  target_link_options(underridge_flags INTERFACE -fsanitize=${UNDERRIDGE_SANITIZE})
  target_compile_definitions(underridge_flags INTERFACE _GLIBCXX_ASSERTIONS)
  if(CMAKE_CXX_COMPILER_ID MATCHES Clang AND UNDERRIDGE_SANITIZE MATCHES address)
    target_compile_options(underridge_flags INTERFACE -fsanitize-ignorelist=${CMAKE_SOURCE_DIR}/cmake/sanitizers.ignore)
  endif()
endif()

find_program(CCACHE ccache)
if(CCACHE)
  # Without these ccache gives up on precompiled headers.
  set(CMAKE_CXX_COMPILER_LAUNCHER ${CMAKE_COMMAND} -E env
    CCACHE_SLOPPINESS=pch_defines,time_macros,include_file_mtime,include_file_ctime ${CCACHE})
  if(CMAKE_CXX_COMPILER_ID STREQUAL GNU)
    add_compile_options(-fpch-preprocess)
  endif()
endif()
find_program(MOLD mold)
if(MOLD)
  add_link_options(-fuse-ld=mold)
endif()
