// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/document.h"

#include "core/exchange/own_format.h"

#include <fmt/format.h>

namespace underridge::edit {
using namespace model;
namespace {

constexpr std::string_view suffix = ".journal";
constexpr int mostJournals = 20; ///< of one network, in as many programs

/// The file a journal's work continues: the one of a save that came through though the journal was not begun
/// anew, else the one in the header.
struct Base {
    std::string path, bytes;
    std::size_t payloadsIn = 0; ///< how many of the journal's payloads the file surely holds
    bool asLeft = true;         ///< nobody changed it since
};

Result<Base> baseOf(Files& files, const JournalContents& contents) {
    for (auto mark = contents.marks.rbegin(); mark != contents.marks.rend(); ++mark)
        if (auto bytes = files.read(mark->path); bytes && fnv1a(*bytes) == mark->hash)
            return Base{mark->path, *std::move(bytes), mark->before, true};
    if (contents.header.hash == 0)
        return Base{contents.header.path, {}, 0, true};
    auto bytes = files.read(contents.header.path);
    if (!bytes)
        return bytes.refusal();
    const bool asLeft = fnv1a(*bytes) == contents.header.hash;
    return Base{contents.header.path, *std::move(bytes), 0, asLeft};
}

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
        if (!contents)
            continue;
        const auto base = baseOf(world.files, *contents);
        const std::size_t known = base ? base->payloadsIn : 0;
        if (contents->payloads.size() > known)
            found.push_back({path, contents->header, contents->payloads.size() - known});
        else
            static_cast<void>(world.files.remove(path)); // its program ended between two acts
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
    auto base = baseOf(world.files, *contents);
    if (!base)
        return base.refusal();
    Network start;
    std::vector<Remark> remarks;
    if (!base->bytes.empty()) {
        auto loaded = exchange::readOwn(base->bytes, base->path);
        if (!loaded)
            return loaded.refusal();
        start = std::move(loaded->network);
        remarks = std::move(loaded->remarks);
    }
    if (!base->asLeft)
        remarks.push_back(warning("the file was changed by another program after the work to be recovered",
                                  "compare before saving", {base->path, 0, 0, {}}));
    if (contents->bytesLost > 0)
        remarks.push_back(
            warning(fmt::format("the journal is damaged; its last {} bytes were lost", contents->bytesLost),
                    "check the latest work", {from.journalPath, 0, 0, {}}));
    auto network = replay(start, contents->payloads);
    if (!network)
        return network.refusal();
    Document document(std::move(world), start, base->path, base->bytes.empty() ? 0 : fnv1a(base->bytes));
    document.history_ = History(*network);
    document.saved_ = std::move(start);
    document.startJournal(from.journalPath); // takes the old journal's place all at once
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
    Saving saving = beginSave(path);
    auto written = write(world_.files, saving);
    if (!written)
        return written.refusal();
    endSave(std::move(saving), *written);
    return Done{};
}

Document::Saving Document::beginSave(const std::string& path) {
    history_.seal();
    return {network(), path, journal_};
}

Result<std::uint64_t> Document::write(Files& files, const Saving& saving) {
    const std::string bytes = exchange::writeOwn(saving.network);
    const std::uint64_t hash = fnv1a(bytes);
    if (saving.journal)
        static_cast<void>(saving.journal->write(savePayload(saving.path, hash)));
    if (auto written = files.writeAtomically(saving.path, bytes); !written)
        return written.refusal();
    return hash;
}

void Document::endSave(Saving saving, std::uint64_t hash) {
    saved_ = saving.network;
    path_ = saving.path;
    hash_ = hash;
    saving.journal.reset();
    dropJournal();
    if (modified()) // edited while the worker wrote
        journal("Edit while saving", saved_, network());
}

void Document::rebase(Network onDisk, std::uint64_t hash) {
    saved_ = std::move(onDisk);
    hash_ = hash;
    history_.seal();
    if (!journal_)
        return;
    dropJournal();
    if (modified())
        startJournal();
}

void Document::close() {
    if (journal_)
        dropJournal();
}

void Document::dropJournal() {
    journal_.reset();
    if (!journalPath_.empty())
        static_cast<void>(world_.files.remove(journalPath_));
    journalPath_.clear();
}

std::string Document::freeJournalPath() const {
    const std::string id = idText(network().info().id.value);
    for (int copy = 1;; ++copy) {
        const std::string path = copy == 1
                                     ? fmt::format("{}/{}{}", world_.journalFolder, id, suffix)
                                     : fmt::format("{}/{}-{}{}", world_.journalFolder, id, copy, suffix);
        if (copy == mostJournals || !world_.files.isHeld(path))
            return path;
    }
}

void Document::startJournal(const std::string& path) {
    journalPath_ = path.empty() ? freeJournalPath() : path;
    // What was never saved begins from nothing; what was recovered, from the file as it is.
    const Network& base = hash_ == 0 ? Network() : saved_;
    auto writer = JournalWriter::start(world_.files, journalPath_,
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
        dropJournal();
    }
}

} // namespace underridge::edit
