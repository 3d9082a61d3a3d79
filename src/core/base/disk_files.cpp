// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/files.h"

#include <algorithm>
#include <cerrno>
#include <cstring>
#include <filesystem>
#include <fmt/format.h>

#include <fcntl.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <unistd.h>

namespace underridge {
namespace {

/// An open descriptor, closed on every way out.
class Descriptor {
public:
    explicit Descriptor(int fd) : fd_(fd) {}
    Descriptor(const Descriptor&) = delete;
    Descriptor& operator=(const Descriptor&) = delete;
    ~Descriptor() {
        if (fd_ >= 0)
            ::close(fd_);
    }
    int get() const { return fd_; }
    explicit operator bool() const { return fd_ >= 0; }

private:
    int fd_;
};

Remark systemError(const std::string& doing, const std::string& path, int code) {
    std::string remedy;
    switch (code) {
    case ENOSPC:
    case EDQUOT:
        remedy = "free some space or choose another place";
        break;
    case EACCES:
    case EPERM:
    case EROFS:
        remedy = "check its permissions or choose another place";
        break;
    case ENOENT:
        remedy = "check the path";
        break;
    default:
        break;
    }
    return error(fmt::format("cannot {}: {}", doing, std::strerror(code)), remedy, {path, 0, 0, {}});
}

Result<Done> writeAll(int fd, std::string_view bytes, const std::string& path) {
    while (!bytes.empty()) {
        const ssize_t n = ::write(fd, bytes.data(), bytes.size());
        if (n < 0 && errno == EINTR)
            continue;
        if (n < 0)
            return systemError("write", path, errno);
        bytes.remove_prefix(static_cast<std::size_t>(n));
    }
    return Done{};
}

std::string folderOf(const std::string& path) {
    const auto parent = std::filesystem::path(path).parent_path();
    return parent.empty() ? "." : parent.string();
}

class DiskAppender : public Appender {
public:
    DiskAppender(int fd, std::string path) : fd_(fd), path_(std::move(path)) {}
    Result<Done> append(std::string_view bytes) override {
        auto written = writeAll(fd_.get(), bytes, path_);
        if (written)
            size_ += static_cast<off_t>(bytes.size());
        else if (::ftruncate(fd_.get(), size_) != 0) // a part of it may be there
            return systemError("write", path_, errno);
        return written;
    }
    Result<Done> sync() override {
        if (::fdatasync(fd_.get()) != 0)
            return systemError("write", path_, errno);
        return Done{};
    }

private:
    Descriptor fd_;
    std::string path_;
    off_t size_ = 0;
};

/// Gives a file its name: at once in place of another, or only where there is none.
bool giveName(const std::string& temporary, const std::string& path, Over over) {
    if (over != Over::nothing)
        return ::rename(temporary.c_str(), path.c_str()) == 0;
    if (::link(temporary.c_str(), path.c_str()) == 0)
        return ::unlink(temporary.c_str()) == 0;
    // File systems without hard links: the moment between looking and renaming is left to
    // chance.
    return errno != EEXIST && ::access(path.c_str(), F_OK) != 0 &&
           ::rename(temporary.c_str(), path.c_str()) == 0;
}

} // namespace

Result<std::string> DiskFiles::read(const std::string& path) {
    const Descriptor fd(::open(path.c_str(), O_RDONLY | O_CLOEXEC));
    if (!fd)
        return systemError("read", path, errno);
    std::string bytes;
    struct stat info {};
    if (::fstat(fd.get(), &info) == 0 && S_ISREG(info.st_mode))
        bytes.reserve(static_cast<std::size_t>(info.st_size));
    char part[1 << 16];
    for (;;) {
        const ssize_t n = ::read(fd.get(), part, sizeof part);
        if (n < 0 && errno == EINTR)
            continue;
        if (n < 0)
            return systemError("read", path, errno);
        if (n == 0)
            return bytes;
        bytes.append(part, static_cast<std::size_t>(n));
    }
}

Result<Done> DiskFiles::writeAtomically(const std::string& path, std::string_view bytes) {
    // A link is followed so that it stays a link; the new file keeps the old one's
    // permissions.
    std::error_code ignored;
    std::string target = path;
    if (std::filesystem::is_symlink(path, ignored)) {
        const auto real = std::filesystem::weakly_canonical(path, ignored);
        if (!ignored)
            target = real.string();
    }
    struct stat old {};
    const mode_t mode = ::stat(target.c_str(), &old) == 0 ? (old.st_mode & 07777) : 0644;
    std::string temporary = target + ".XXXXXX";
    const Descriptor fd(::mkostemp(temporary.data(), O_CLOEXEC));
    if (!fd)
        return systemError("write", path, errno);
    auto giveUp = [&](Remark why) -> Result<Done> {
        ::unlink(temporary.c_str());
        why.where.file = path;
        return why;
    };
    if (auto written = writeAll(fd.get(), bytes, path); !written)
        return giveUp(written.refusal());
    if (::fchmod(fd.get(), mode) != 0 || ::fsync(fd.get()) != 0)
        return giveUp(systemError("write", path, errno));
    if (::rename(temporary.c_str(), target.c_str()) != 0)
        return giveUp(systemError("write", path, errno));
    const Descriptor folder(::open(folderOf(target).c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC));
    if (folder)
        ::fsync(folder.get());
    return Done{};
}

Result<std::unique_ptr<Appender>> DiskFiles::startAppending(const std::string& path, std::string_view bytes,
                                                            Over over) {
    if (over == Over::left && isHeld(path))
        return error("is in use by another window", "close it there first", {path, 0, 0, {}});
    std::error_code code;
    std::filesystem::create_directories(folderOf(path), code);
    std::string temporary = path + ".XXXXXX";
    const int fd = ::mkostemp(temporary.data(), O_CLOEXEC | O_APPEND);
    if (fd < 0)
        return systemError("write", path, errno);
    auto appender = std::make_unique<DiskAppender>(fd, path);
    auto written =
        ::flock(fd, LOCK_EX | LOCK_NB) == 0 ? appender->append(bytes) : systemError("lock", path, errno);
    if (written && !giveName(temporary, path, over))
        written = systemError("write", path, errno);
    if (!written) {
        ::unlink(temporary.c_str());
        return written.refusal();
    }
    return std::unique_ptr<Appender>(std::move(appender));
}

bool DiskFiles::isHeld(const std::string& path) {
    const Descriptor fd(::open(path.c_str(), O_RDONLY | O_CLOEXEC));
    return fd && ::flock(fd.get(), LOCK_SH | LOCK_NB) != 0;
}

bool DiskFiles::exists(const std::string& path) {
    return ::access(path.c_str(), F_OK) == 0;
}

Result<Done> DiskFiles::remove(const std::string& path) {
    if (::unlink(path.c_str()) != 0 && errno != ENOENT)
        return systemError("remove", path, errno);
    return Done{};
}

std::vector<std::string> DiskFiles::list(const std::string& folder) {
    std::vector<std::string> names;
    std::error_code code;
    for (const auto& entry : std::filesystem::directory_iterator(folder, code))
        names.push_back(entry.path().filename().string());
    std::sort(names.begin(), names.end());
    return names;
}

} // namespace underridge
