// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/claim.h"

#include <nlohmann/json.hpp>

namespace underridge::edit {

std::string Claimant::text() const {
    std::string out = user.empty() ? "somebody" : user;
    if (!host.empty())
        out += " on " + host;
    if (!since.empty())
        out += ", since " + since;
    return out;
}

std::string Claim::pathFor(const std::string& path) {
    const auto slash = path.find_last_of('/');
    const std::size_t name = slash == std::string::npos ? 0 : slash + 1;
    return path.substr(0, name) + "." + path.substr(name) + ".open";
}

std::optional<Claimant> Claim::holder(Files& files, const std::string& path) {
    const std::string claim = pathFor(path);
    if (!files.exists(claim) || !files.isHeld(claim))
        return std::nullopt;
    Claimant who;
    if (const auto bytes = files.read(claim)) {
        const auto json = nlohmann::json::parse(*bytes, nullptr, false);
        const auto text = [&](const char* name) {
            return json.is_object() && json.contains(name) && json[name].is_string()
                       ? json[name].get<std::string>()
                       : std::string();
        };
        who = {text("user"), text("host"), text("since")};
    }
    return who;
}

Result<std::unique_ptr<Claim>> Claim::take(Files& files, const std::string& path, const Claimant& by) {
    if (const auto who = holder(files, path))
        return error("the file is open elsewhere, by " + who->text(), "open it read-only or as a copy",
                     {path});
    auto held =
        files.startAppending(pathFor(path),
                             nlohmann::json{{"user", by.user}, {"host", by.host}, {"since", by.since}}.dump(
                                 -1, ' ', false, nlohmann::json::error_handler_t::replace) +
                                 "\n",
                             Over::left);
    return std::unique_ptr<Claim>(new Claim(files, path, held ? *std::move(held) : nullptr));
}

Claim::~Claim() {
    if (!held_)
        return;
    static_cast<void>(files_.remove(pathFor(path_)));
    held_.reset();
}

} // namespace underridge::edit
