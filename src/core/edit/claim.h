// SPDX-License-Identifier: GPL-3.0-or-later
// Telling a second opener of a file that it is open elsewhere. A claim is a small file
// beside the network's, held under a lock as long as the claim lives; one that is not
// held was left by a program that died.
#pragma once
#include "core/base/files.h"

#include <optional>

namespace underridge::edit {

struct Claimant {
    std::string user, host, since; ///< since: as shown to people

    bool operator==(const Claimant&) const = default;
    /// "mara on control-2, since 14:05".
    std::string text() const;
};

class Claim {
public:
    /// "/a/b.underridge" → "/a/.b.underridge.open".
    static std::string pathFor(const std::string& path);

    /// Who has the file open, if somebody has.
    static std::optional<Claimant> holder(Files& files, const std::string& path);

    /// Refuses when it is held. Where nothing can be written beside the file there is no
    /// claim and no refusal: nobody can save there either.
    static Result<std::unique_ptr<Claim>> take(Files& files, const std::string& path, const Claimant& by);
    ~Claim();

    const std::string& path() const { return path_; } ///< of the network

private:
    Claim(Files& files, std::string path, std::unique_ptr<Appender> held)
        : files_(files), path_(std::move(path)), held_(std::move(held)) {}

    Files& files_;
    std::string path_;
    std::unique_ptr<Appender> held_;
};

} // namespace underridge::edit
