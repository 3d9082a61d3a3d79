// SPDX-License-Identifier: GPL-3.0-or-later
// The file system as the core needs it, passed in so that tests can run out of disk or
// lose power. Implementations may be used from any thread; one Appender belongs to one
// thread at a time.
#pragma once
#include "core/base/result.h"

#include <cstdint>
#include <map>
#include <memory>
#include <mutex>
#include <string>
#include <string_view>
#include <vector>

namespace underridge {

/// A file that only grows. Its bytes survive the death of the program once append()
/// returns, and the loss of power once sync() returns. What cannot be appended whole
/// leaves the file as it was.
class Appender {
public:
    virtual ~Appender() = default;
    virtual Result<Done> append(std::string_view bytes) = 0;
    virtual Result<Done> sync() = 0;
};

/// What startAppending() may put a file in place of.
enum class Over {
    nothing, ///< the path must be free
    left,    ///< nothing, or what no living program holds
    own      ///< also what this caller holds itself, up to this moment
};

class Files {
public:
    virtual ~Files() = default;
    virtual Result<std::string> read(const std::string& path) = 0;
    /// The path holds either the old bytes or all of the new ones, whatever happens. A
    /// refusal leaves the old file as it was.
    virtual Result<Done> writeAtomically(const std::string& path, std::string_view bytes) = 0;
    /// Starts a file with these bytes, in place of an old one all at once, held under an
    /// exclusive lock until the appender is destroyed. Refuses when there is what may not
    /// be replaced.
    virtual Result<std::unique_ptr<Appender>> startAppending(const std::string& path, std::string_view bytes,
                                                             Over over) = 0;
    /// Whether some living program holds the path through startAppending().
    virtual bool isHeld(const std::string& path) = 0;
    virtual bool exists(const std::string& path) = 0;
    virtual Result<Done> remove(const std::string& path) = 0;
    /// Names (not paths) of the files in a folder, sorted; empty when the folder does not
    /// exist.
    virtual std::vector<std::string> list(const std::string& folder) = 0;
};

/// The real file system (POSIX).
class DiskFiles : public Files {
public:
    Result<std::string> read(const std::string& path) override;
    Result<Done> writeAtomically(const std::string& path, std::string_view bytes) override;
    Result<std::unique_ptr<Appender>> startAppending(const std::string& path, std::string_view bytes,
                                                     Over over) override;
    bool isHeld(const std::string& path) override;
    bool exists(const std::string& path) override;
    Result<Done> remove(const std::string& path) override;
    std::vector<std::string> list(const std::string& folder) override;
};

/// Files in memory. `capacity` bytes fit in all; what was never synced is lost by
/// losePower().
class MemoryFiles : public Files {
public:
    Result<std::string> read(const std::string& path) override;
    Result<Done> writeAtomically(const std::string& path, std::string_view bytes) override;
    Result<std::unique_ptr<Appender>> startAppending(const std::string& path, std::string_view bytes,
                                                     Over over) override;
    bool isHeld(const std::string& path) override;
    bool exists(const std::string& path) override;
    Result<Done> remove(const std::string& path) override;
    std::vector<std::string> list(const std::string& folder) override;

    void losePower();
    /// Whether losing power now would cost nothing of this file.
    bool syncedAll(const std::string& path);

    std::size_t capacity = SIZE_MAX;

private:
    friend class MemoryAppender;
    struct File {
        std::string bytes;
        std::size_t synced = 0;
        bool held = false;
    };
    std::size_t used() const;
    std::mutex mutex_;
    std::map<std::string, std::shared_ptr<File>> files_;
};

} // namespace underridge
