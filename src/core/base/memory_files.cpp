// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/files.h"

namespace underridge {

/// Keeps the file alive and held, as a descriptor does.
class MemoryAppender : public Appender {
public:
    MemoryAppender(MemoryFiles& owner, std::shared_ptr<MemoryFiles::File> file)
        : owner_(owner), file_(std::move(file)) {}
    ~MemoryAppender() override {
        const std::lock_guard lock(owner_.mutex_);
        file_->held = false;
    }
    Result<Done> append(std::string_view bytes) override {
        const std::lock_guard lock(owner_.mutex_);
        const std::size_t room = owner_.capacity - std::min(owner_.capacity, owner_.used());
        if (bytes.size() > room)
            return error("cannot write: no space left on device", "free some space or choose another place");
        file_->bytes.append(bytes);
        return Done{};
    }
    Result<Done> sync() override {
        const std::lock_guard lock(owner_.mutex_);
        file_->synced = file_->bytes.size();
        return Done{};
    }

private:
    MemoryFiles& owner_;
    std::shared_ptr<MemoryFiles::File> file_;
};

Result<std::string> MemoryFiles::read(const std::string& path) {
    const std::lock_guard lock(mutex_);
    const auto at = files_.find(path);
    if (at == files_.end())
        return error("cannot read: no such file or directory", "check the path", {path, 0, 0, {}});
    return at->second->bytes;
}

Result<Done> MemoryFiles::writeAtomically(const std::string& path, std::string_view bytes) {
    const std::lock_guard lock(mutex_);
    if (used() + bytes.size() > capacity)
        return error("cannot write: no space left on device", "free some space or choose another place",
                     {path, 0, 0, {}});
    auto file = std::make_shared<File>();
    file->bytes = bytes;
    file->synced = bytes.size();
    files_[path] = std::move(file);
    return Done{};
}

Result<std::unique_ptr<Appender>> MemoryFiles::startAppending(const std::string& path, std::string_view bytes,
                                                              Over over) {
    const std::lock_guard lock(mutex_);
    const auto old = files_.find(path);
    if (old != files_.end() && over == Over::nothing)
        return error("is there already", "choose another name", {path, 0, 0, {}});
    if (old != files_.end() && old->second->held && over == Over::left)
        return error("is in use by another window", "close it there first", {path, 0, 0, {}});
    if (used() + bytes.size() > capacity)
        return error("cannot write: no space left on device", "free some space or choose another place",
                     {path, 0, 0, {}});
    auto file = std::make_shared<File>(File{std::string(bytes), 0, true});
    files_[path] = file;
    return std::unique_ptr<Appender>(std::make_unique<MemoryAppender>(*this, std::move(file)));
}

bool MemoryFiles::isHeld(const std::string& path) {
    const std::lock_guard lock(mutex_);
    const auto at = files_.find(path);
    return at != files_.end() && at->second->held;
}

bool MemoryFiles::exists(const std::string& path) {
    const std::lock_guard lock(mutex_);
    return files_.contains(path);
}

Result<Done> MemoryFiles::remove(const std::string& path) {
    const std::lock_guard lock(mutex_);
    files_.erase(path);
    return Done{};
}

std::vector<std::string> MemoryFiles::list(const std::string& folder) {
    const std::lock_guard lock(mutex_);
    std::vector<std::string> names;
    for (const auto& [path, file] : files_)
        if (path.size() > folder.size() + 1 && path.starts_with(folder + "/"))
            names.push_back(path.substr(folder.size() + 1));
    return names;
}

void MemoryFiles::losePower() {
    const std::lock_guard lock(mutex_);
    for (auto& [path, file] : files_)
        file->bytes.resize(file->synced);
}

bool MemoryFiles::syncedAll(const std::string& path) {
    const std::lock_guard lock(mutex_);
    const auto at = files_.find(path);
    return at != files_.end() && at->second->synced == at->second->bytes.size();
}

std::size_t MemoryFiles::used() const {
    std::size_t sum = 0;
    for (const auto& [path, file] : files_)
        sum += file->bytes.size();
    return sum;
}

} // namespace underridge
