// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/document.h"

#include "core/exchange/own_format.h"

#include <fmt/format.h>

namespace underridge::edit {
using namespace model;
namespace {

constexpr std::string_view suffix = ".journal";

} // namespace

Document::Document(World world, Network network, std::string path, std::uint64_t hash)
    : world_(std::move(world)),
      history_(network),
      saved_(path.empty() ? Network() : std::move(network)),
      path_(std::move(path)),
      hash_(hash) {}

Document Document::fresh(World world, Network network) {
    Document document(std::move(world), network, {}, 0);
    document.saved_ = std::move(network); // an untouched new document has nothing to save
    return document;
}

Result<Document::Opened> Document::open(World world, const std::string& path) {
    auto bytes = world.files.read(path);
    if (!bytes)
        return bytes.refusal();
    auto loaded = exchange::readOwn(*bytes, path);
    if (!loaded)
        return loaded.refusal();
    return Opened{Document(std::move(world), std::move(loaded->network), path, fnv1a(*bytes)),
                  std::move(loaded->remarks)};
}

std::vector<Recoverable> Document::recoverable(World world) {
    std::vector<Recoverable> found;
    for (const std::string& name : world.files.list(world.journalFolder)) {
        const std::string path = world.journalFolder + "/" + name;
        if (!name.ends_with(suffix) || world.files.isHeld(path))
            continue;
        const auto bytes = world.files.read(path);
        if (!bytes)
            continue;
        const auto contents = readJournal(*bytes);
        if (contents && !contents->payloads.empty())
            found.push_back({path, contents->header, contents->payloads.size()});
    }
    return found;
}

Result<Document::Opened> Document::recover(World world, const Recoverable& from) {
    auto bytes = world.files.read(from.journalPath);
    if (!bytes)
        return bytes.refusal();
    auto contents = readJournal(*bytes);
    if (!contents)
        return contents.refusal();
    Network start;
    std::vector<Remark> remarks;
    std::string path = contents->header.path;
    if (contents->header.hash != 0) {
        auto file = world.files.read(path);
        if (!file)
            return file.refusal();
        auto loaded = exchange::readOwn(*file, path);
        if (!loaded)
            return loaded.refusal();
        start = std::move(loaded->network);
        remarks = std::move(loaded->remarks);
        if (fnv1a(*file) != contents->header.hash)
            remarks.push_back(warning("the file was changed by another program after the work to be recovered",
                                      "compare before saving", {path, 0, 0, {}}));
    }
    if (contents->bytesLost > 0)
        remarks.push_back(warning(fmt::format("the journal is damaged; its last {} bytes were lost", contents->bytesLost),
                                  "check the latest work", {from.journalPath, 0, 0, {}}));
    auto network = replay(start, contents->payloads);
    if (!network)
        return network.refusal();
    Document document(std::move(world), start, path, contents->header.hash);
    document.history_ = History(*network);
    document.saved_ = std::move(start);
    document.startJournal(); // takes the old journal's place all at once
    return Opened{std::move(document), std::move(remarks)};
}

void Document::discard(World world, const Recoverable& from) {
    static_cast<void>(world.files.remove(from.journalPath));
}

bool Document::modified() const {
    return !(network() == saved_);
}

bool Document::apply(Act act, const Session& before, const Session& after, std::optional<MergeKey> merge) {
    if (act.network == network())
        return false;
    journal(act.name, network(), act.network);
    return history_.apply(std::move(act), before, after, world_.nowMs(), std::move(merge));
}

std::optional<Session> Document::undo() {
    if (!history_.canUndo())
        return std::nullopt;
    const Network before = network();
    const std::string name = history_.undoName();
    Session session = history_.undo();
    journal("Undo " + name, before, network());
    return session;
}

std::optional<Session> Document::redo() {
    if (!history_.canRedo())
        return std::nullopt;
    const Network before = network();
    const std::string name = history_.redoName();
    Session session = history_.redo();
    journal("Redo " + name, before, network());
    return session;
}

Result<Done> Document::save(const std::string& path) {
    const Saving saving = beginSave(path);
    auto written = write(world_.files, saving);
    if (!written)
        return written.refusal();
    endSave(saving, *written);
    return Done{};
}

Document::Saving Document::beginSave(const std::string& path) {
    history_.seal();
    return {network(), path};
}

Result<std::uint64_t> Document::write(Files& files, const Saving& saving) {
    const std::string bytes = exchange::writeOwn(saving.network);
    if (auto written = files.writeAtomically(saving.path, bytes); !written)
        return written.refusal();
    return fnv1a(bytes);
}

void Document::endSave(const Saving& saving, std::uint64_t hash) {
    saved_ = saving.network;
    path_ = saving.path;
    hash_ = hash;
    journal_.reset();
    static_cast<void>(world_.files.remove(journalPath()));
    if (modified()) // edited while the worker wrote
        journal("Edit while saving", saved_, network());
}

void Document::close() {
    if (!journal_)
        return;
    journal_.reset();
    static_cast<void>(world_.files.remove(journalPath()));
}

std::string Document::journalPath() const {
    return fmt::format("{}/{}{}", world_.journalFolder, idText(network().info().id.value), suffix);
}

void Document::startJournal() {
    // What was never saved begins from nothing; what was recovered, from the file as it is.
    const Network& base = hash_ == 0 ? Network() : saved_;
    auto writer = JournalWriter::start(world_.files, journalPath(),
                                       {network().info().id, network().info().name, path_, hash_},
                                       differencePayload("Begin", base, network()));
    if (!writer) {
        journalTrouble_ = writer.refusal();
        return;
    }
    journalTrouble_.reset();
    journal_ = *std::move(writer);
}

void Document::journal(const std::string& act, const Network& before, const Network& after) {
    if (!journal_)
        startJournal();
    if (!journal_)
        return;
    const std::string difference = differencePayload(act, before, after);
    if (difference.empty())
        return;
    if (auto written = journal_->write(difference); !written) {
        // A journal that is not whole is no use; the next act starts it anew.
        journalTrouble_ = written.refusal();
        journal_.reset();
        static_cast<void>(world_.files.remove(journalPath()));
    }
}

} // namespace underridge::edit
