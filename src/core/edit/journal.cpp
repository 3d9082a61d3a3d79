// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/journal.h"

#include "core/exchange/record_json.h"

#include <charconv>
#include <fmt/format.h>
#include <zlib.h>

namespace underridge::edit {
using namespace model;
using exchange::Json;
namespace {

constexpr std::string_view mark = "ur1 ";

std::uint32_t checksum(std::string_view bytes) {
    return static_cast<std::uint32_t>(
        crc32_z(0, reinterpret_cast<const unsigned char*>(bytes.data()), bytes.size()));
}

/// One whole record at the start of `bytes`: its payload and its length with frame;
/// nothing if it is not whole.
struct Record {
    std::string_view payload;
    std::size_t length = 0;
};

std::optional<Record> wholeRecord(std::string_view bytes) {
    if (!bytes.starts_with(mark))
        return std::nullopt;
    const auto lineEnd = bytes.find('\n');
    if (lineEnd == std::string_view::npos || lineEnd > 64)
        return std::nullopt;
    const std::string_view head = bytes.substr(mark.size(), lineEnd - mark.size());
    std::size_t length = 0;
    std::uint32_t crc = 0;
    const auto [space, code] = std::from_chars(head.data(), head.data() + head.size(), length);
    if (code != std::errc() || space == head.data() + head.size() || *space != ' ')
        return std::nullopt;
    const auto [end, crcCode] = std::from_chars(space + 1, head.data() + head.size(), crc, 16);
    if (crcCode != std::errc() || end != head.data() + head.size())
        return std::nullopt;
    if (length > bytes.size() || bytes.size() - length < lineEnd + 2 || bytes[lineEnd + 1 + length] != '\n')
        return std::nullopt;
    const std::string_view payload = bytes.substr(lineEnd + 1, length);
    if (checksum(payload) != crc)
        return std::nullopt;
    return Record{payload, lineEnd + 1 + length + 1};
}

bool holdsWholeRecord(std::string_view bytes) {
    for (auto at = bytes.find(mark); at != std::string_view::npos; at = bytes.find(mark, at + 1))
        if (wholeRecord(bytes.substr(at)))
            return true;
    return false;
}

std::uint64_t hashFromText(const std::string& text) {
    std::uint64_t hash = 0;
    std::from_chars(text.data(), text.data() + text.size(), hash, 16);
    return hash;
}

std::optional<SaveMark> parseMark(std::string_view payload) {
    if (!payload.starts_with("{\"save\":"))
        return std::nullopt;
    const auto parsed = exchange::JsonText::parse(std::string(payload), {});
    const auto json = parsed ? parsed->root() : exchange::JsonView();
    if (!json["save"].isText() || !json["hash"].isText())
        return std::nullopt;
    return SaveMark{json["save"].text(), hashFromText(json["hash"].text()),
                    static_cast<std::size_t>(json["before"].whole().value_or(SIZE_MAX))};
}

Result<JournalHeader> parseHeader(std::string_view payload) {
    const auto parsed = exchange::JsonText::parse(std::string(payload), {});
    const auto json = parsed ? parsed->root() : exchange::JsonView();
    const auto id = idFromText(json["document"].text());
    if (!id)
        return error("the journal's header cannot be read", "remove the journal");
    return JournalHeader{{*id}, json["name"].text(), json["path"].text(), hashFromText(json["hash"].text())};
}

} // namespace

std::string frame(std::string_view payload) {
    return fmt::format("{}{} {:08x}\n{}\n", mark, payload.size(), checksum(payload), payload);
}

std::string headerPayload(const JournalHeader& header) {
    return Json{{"document", idText(header.document.value)},
                {"name", header.name},
                {"path", header.path},
                {"hash", fmt::format("{:016x}", header.hash)}}
        .dump(-1, ' ', false, Json::error_handler_t::replace);
}

std::string savePayload(const SaveMark& mark) {
    return Json{{"save", mark.path}, {"hash", fmt::format("{:016x}", mark.hash)}, {"before", mark.before}}
        .dump(-1, ' ', false, Json::error_handler_t::replace);
}

std::string differencePayload(const std::string& act, const Network& before, const Network& after) {
    std::string lines;
    Network::compare(before, after, [&]<class R>(const R* old, const R* fresh) {
        lines += '\n';
        lines += fresh ? exchange::lineOf(*fresh) : exchange::removalLine(R::kind, old->key());
    });
    return lines.empty() ? lines : Json(act).dump(-1, ' ', false, Json::error_handler_t::replace) + lines;
}

Result<JournalContents> readJournal(std::string_view bytes) {
    JournalContents contents;
    bool first = true;
    while (!bytes.empty()) {
        const auto record = wholeRecord(bytes);
        if (!record) {
            if (first)
                return error("the journal's header cannot be read", "remove the journal");
            if (holdsWholeRecord(bytes.substr(1)))
                contents.bytesLost = bytes.size();
            else
                contents.torn = true;
            return contents;
        }
        if (first) {
            auto header = parseHeader(record->payload);
            if (!header)
                return header.refusal();
            contents.header = *std::move(header);
            first = false;
        } else if (auto mark = parseMark(record->payload)) {
            mark->before = std::min(mark->before, contents.payloads.size());
            contents.marks.push_back(*std::move(mark));
        } else {
            contents.payloads.emplace_back(record->payload);
        }
        bytes.remove_prefix(record->length);
    }
    if (first)
        return error("the journal is empty", "remove it");
    return contents;
}

Result<Network> replay(Network network, const std::vector<std::string>& payloads) {
    for (const std::string& payload : payloads) {
        std::string_view rest = payload;
        rest.remove_prefix(std::min(rest.find('\n'), rest.size())); // the act's name
        while (!rest.empty()) {
            rest.remove_prefix(1);
            const auto end = std::min(rest.find('\n'), rest.size());
            if (auto applied = exchange::applyLine(network, rest.substr(0, end)); !applied)
                return applied.refusal();
            rest.remove_prefix(end);
        }
    }
    return network;
}

Result<std::unique_ptr<JournalWriter>> JournalWriter::start(Files& files, const std::string& path,
                                                            const JournalHeader& header,
                                                            std::string_view first, Over over) {
    std::string start = frame(headerPayload(header));
    start += first;
    auto file = files.startAppending(path, start, over);
    if (!file)
        return file.refusal();
    return std::unique_ptr<JournalWriter>(new JournalWriter(*std::move(file), first.empty() ? 0 : 1));
}

JournalWriter::JournalWriter(std::unique_ptr<Appender> file, std::size_t payloads)
    : file_(std::move(file)),
      payloads_(payloads),
      syncer_([this](const std::stop_token& stop) { syncLoop(stop); }) {}

JournalWriter::~JournalWriter() = default; // the thread stops and is joined before the file closes

Result<Done> JournalWriter::append(std::string_view payload) {
    auto written = file_->append(frame(payload));
    dirty_ = true;
    wake_.notify_one();
    return written;
}

Result<Done> JournalWriter::write(std::string_view payload) {
    const std::lock_guard lock(mutex_);
    auto written = append(payload);
    payloads_ += static_cast<bool>(written);
    return written;
}

Result<Done> JournalWriter::mark(const SaveMark& mark) {
    const std::lock_guard lock(mutex_);
    return append(savePayload(mark));
}

std::size_t JournalWriter::payloads() const {
    const std::lock_guard lock(mutex_);
    return payloads_;
}

void JournalWriter::syncLoop(const std::stop_token& stop) {
    std::unique_lock lock(mutex_);
    while (wake_.wait(lock, stop, [this] { return dirty_; })) {
        wake_.wait_for(lock, stop, std::chrono::milliseconds(syncDelayMs), [] { return false; });
        dirty_ = false;
        lock.unlock();
        // A disk that cannot sync still has the record with the operating system; the
        // next save reports it.
        static_cast<void>(file_->sync());
        lock.lock();
    }
}

} // namespace underridge::edit
