// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/library.h"

#include "core/exchange/record_json.h"

#include <fmt/format.h>
#include <set>

namespace underridge::exchange {
using namespace model;

Result<std::vector<DeviceModel>> readModels(std::string_view text, const std::string& file) {
    std::vector<DeviceModel> models;
    if (auto read = readEntries(text, file, models); !read)
        return read.refusal();
    std::set<std::string> ids;
    for (const DeviceModel& model : models) {
        if (auto problems = problemsOf(model); !problems.empty()) {
            problems.front().where.file = file;
            return problems.front();
        }
        if (!ids.insert(model.id).second)
            return error("the model is there twice", "remove one of the two", {file, 0, 0, model.id});
    }
    return models;
}

std::string writeModels(const std::vector<DeviceModel>& models) {
    std::string out = "[\n";
    for (const DeviceModel& model : models) {
        const auto line = JsonText::parse(lineOf(model), {});
        JsonMembers members(line->root());
        members.erase("kind");
        out += members.text() + (&model == &models.back() ? "\n" : ",\n");
    }
    return out + "]\n";
}

std::string ownModelId(const std::string& name, const Catalogue& taken) {
    std::string id = "own-";
    for (const char c : lowered(name))
        if ((c >= 'a' && c <= 'z') || (c >= '0' && c <= '9'))
            id += c;
        else if (!id.ends_with('-'))
            id += '-';
    while (id.ends_with('-'))
        id.pop_back();
    std::string free = id;
    for (int n = 2; taken.device(free); ++n)
        free = fmt::format("{}-{}", id, n);
    return free;
}

} // namespace underridge::exchange
