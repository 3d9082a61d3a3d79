// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/document.h"

#include "core/edit/following.h"
#include "core/edit/late.h"
#include "core/exchange/own_format.h"

#include <fmt/format.h>

namespace underridge::edit {
using namespace model;
namespace {

constexpr std::string_view suffix = ".journal";
constexpr int mostJournals = 1000; ///< of one network
constexpr std::int64_t retryMs = 2000;

/// The file a journal's work continues: the one of a save that came through though the
/// journal was not begun anew, else the one in the header.
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

/// A save between beginSave() and endSave(): which journal is to know of it, and how much
/// of that journal the file will hold. Both threads look at it.
struct Document::Underway {
    std::mutex mutex;
    std::shared_ptr<JournalWriter> journal; ///< none while nothing was edited
    SaveMark mark;                          ///< hash 0: not known yet

    /// The journal gets its mark as soon as both are there.
    void tell() const {
        if (journal && mark.hash != 0)
            static_cast<void>(journal->mark(mark));
    }
};

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
    const auto bytes = world.files.read(path);
    return bytes ? openRead(std::move(world), path, *bytes) : Result<Opened>(bytes.refusal());
}

Result<Document::Opened> Document::openRead(World world, const std::string& path, std::string_view bytes) {
    auto loaded = exchange::readOwn(bytes, path);
    if (!loaded)
        return loaded.refusal();
    return Opened{Document(std::move(world), std::move(loaded->network), path, fnv1a(bytes)),
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
    if (world.files.isHeld(from.journalPath))
        return error("this work is being recovered in another window", "go on there");
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
    document.startJournal(from.journalPath, Over::left); // takes the old journal's place all at once
    return Opened{std::move(document), std::move(remarks)};
}

void Document::discard(World world, const Recoverable& from) {
    if (!world.files.isHeld(from.journalPath))
        static_cast<void>(world.files.remove(from.journalPath));
}

bool Document::modified() const {
    return !(network() == saved_);
}

namespace {

/// The act on the network of now, with what follows of it; nothing where it changes nothing.
Result<std::optional<Act>> completed(const Network& now, Act act) {
    auto present = broughtUpTo(std::move(act), now);
    if (!present)
        return present.refusal();
    if (present->network == now)
        return std::optional<Act>();
    followAct(now, present->network);
    if (auto kept = canBeKept(now, present->network); !kept)
        return kept.refusal();
    return std::optional(*std::move(present));
}

} // namespace

Result<bool> Document::apply(Act act, const Session& before, const Session& after,
                             std::optional<MergeKey> merge) {
    auto complete = completed(network(), std::move(act));
    if (!complete)
        return complete.refusal();
    if (!*complete)
        return false;
    journal((*complete)->name, (*complete)->network);
    return history_.apply(**std::move(complete), before, after, world_.nowMs(), std::move(merge));
}

Result<Document::Prepared> Document::prepared(const Network& now, Act act) {
    auto complete = completed(now, act);
    if (!complete)
        return complete.refusal();
    Prepared out{std::move(act), {}, std::nullopt};
    if (*complete) {
        out.act = **std::move(complete);
        out.difference = differencePayload(out.act.name, now, out.act.network);
    }
    out.act.base = now;
    return out;
}

Result<bool> Document::take(Prepared prepared, const Session& before, const Session& after) {
    if (!(*prepared.act.base == network()))
        return apply(std::move(prepared.act), before, after, std::move(prepared.merge));
    if (prepared.difference.empty())
        return false;
    journal(prepared.act.name, prepared.act.network, &prepared);
    prepared.act.base.reset();
    return history_.apply(std::move(prepared.act), before, after, world_.nowMs(), std::move(prepared.merge));
}

std::optional<Session> Document::undo() {
    if (!history_.canUndo())
        return std::nullopt;
    const std::string name = history_.undoName();
    Session session = history_.undo();
    journal("Undo " + name, network());
    return session;
}

std::optional<Session> Document::redo() {
    if (!history_.canRedo())
        return std::nullopt;
    const std::string name = history_.redoName();
    Session session = history_.redo();
    journal("Redo " + name, network());
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
    underway_ = std::make_shared<Underway>();
    underway_->journal = journal_;
    underway_->mark = {path, 0, journal_ ? journal_->payloads() : 0};
    return {network(), path, underway_};
}

Result<std::uint64_t> Document::write(Files& files, const Saving& saving) {
    const std::string bytes = exchange::writeOwn(saving.network);
    const std::uint64_t hash = fnv1a(bytes);
    if (saving.underway) {
        const std::lock_guard lock(saving.underway->mutex);
        saving.underway->mark.hash = hash;
        saving.underway->tell();
    }
    if (auto written = files.writeAtomically(saving.path, bytes); !written)
        return written.refusal();
    return hash;
}

bool Document::endSave(const Saving& saving, std::uint64_t hash) {
    if (saving.underway != underway_)
        return false;
    underway_.reset();
    saved_ = saving.network;
    path_ = saving.path;
    hash_ = hash;
    dropAhead();
    if (!modified())
        dropJournal();
    else if (journal_) // edited while the worker wrote: the new journal takes the old one's place all at once
        startJournal(journalPath_, Over::own);
    return true;
}

void Document::rebase(Network onDisk, std::uint64_t hash) {
    saved_ = std::move(onDisk);
    hash_ = hash;
    history_.seal();
    if (!journal_)
        return;
    if (modified())
        startJournal(journalPath_, Over::own);
    else
        dropJournal();
}

void Document::close() {
    underway_.reset();
    dropJournal();
}

void Document::dropJournal() {
    if (journal_)
        static_cast<void>(world_.files.remove(journalPath_));
    journal_.reset();
    journalPath_.clear();
    journalTrouble_.reset();
}

Document::Beginning Document::beginning(const Network& base, const Network& now) {
    const std::string payload = differencePayload("Begin", base, now);
    return {now, payload.empty() ? std::string() : frame(payload)};
}

void Document::beginAhead() {
    if (hash_ == 0 && !journal_ && !ahead_.valid()) // where the system gives no thread: when it is asked for
        ahead_ = std::async([now = network()] { return beginning(Network(), now); });
}

/// Its record is large; one that is still being made would be waited for.
void Document::dropAhead() {
    if (ahead_.valid() && ahead_.wait_for(std::chrono::seconds(0)) == std::future_status::ready)
        ahead_ = {};
}

bool Document::startJournal(const std::string& path, Over over) {
    // What was never saved begins from nothing; what was recovered, from the file as it
    // is.
    const bool ready = hash_ == 0 && ahead_.valid();
    const Beginning made = ready ? Beginning() : beginning(hash_ == 0 ? Network() : saved_, network());
    const Beginning& begins = ready ? ahead_.get() : made;
    auto writer = JournalWriter::start(
        world_.files, path, {network().info().id, network().info().name, path_, hash_}, begins.record, over);
    if (!writer) {
        journalTrouble_ = writer.refusal();
        retryAtMs_ = world_.nowMs() + retryMs;
        return false;
    }
    journalTrouble_.reset();
    journalPath_ = path;
    journal_ = *std::move(writer);
    journaled_ = begins.network; // what it lacks of the present the next record says
    dropAhead();
    if (underway_) {
        const std::lock_guard lock(underway_->mutex);
        underway_->journal = journal_;
        underway_->mark.before = 0;
        underway_->tell();
    }
    return true;
}

/// A journal that holds anything is taken, whoever left it there.
bool Document::startFreeJournal() {
    const std::string id = idText(network().info().id.value);
    for (int copy = 1; copy <= mostJournals; ++copy) {
        const std::string path = copy == 1
                                     ? fmt::format("{}/{}{}", world_.journalFolder, id, suffix)
                                     : fmt::format("{}/{}-{}{}", world_.journalFolder, id, copy, suffix);
        if (world_.files.exists(path))
            continue;
        if (startJournal(path, Over::nothing))
            return true;
        if (!world_.files.exists(path)) // else another program was quicker
            return false;
    }
    journalTrouble_ = error("there are too many journals of this network", "recover or discard some",
                            {world_.journalFolder, 0, 0, {}});
    return false;
}

void Document::journal(const std::string& act, const Network& after, const Prepared* prepared) {
    if (!journal_ && (world_.nowMs() < retryAtMs_ || !startFreeJournal()))
        return;
    const bool ready = prepared && *prepared->act.base == journaled_;
    const std::string difference = ready ? prepared->difference : differencePayload(act, journaled_, after);
    if (difference.empty()) {
        journalTrouble_.reset(); // it holds everything
        return;
    }
    if (auto written = journal_->write(difference); !written) {
        journalTrouble_ = written.refusal(); // the next record will say this one's changes too
        return;
    }
    journaled_ = after;
    journalTrouble_.reset();
}

void Document::catchUpJournal() {
    if (journalTrouble_)
        journal("Catch up", network());
}

} // namespace underridge::edit
