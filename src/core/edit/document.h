// SPDX-License-Identifier: GPL-3.0-or-later
// A network being edited: its history, its file, its journal. Belongs to one thread.
#pragma once
#include "core/edit/history.h"
#include "core/edit/journal.h"
#include <functional>
#include <future>

namespace underridge::edit {

/// What a document needs of the world.
struct World {
    Files& files;
    std::string journalFolder; ///< in the user's state directory
    std::function<std::int64_t()> nowMs;
};

/// A journal left behind by a program that did not end well.
struct Recoverable {
    std::string journalPath;
    JournalHeader header;
    std::size_t acts = 0;
};

class Document {
public:
    /// A document that was never saved.
    static Document fresh(World world, model::Network network);

    struct Opened;
    /// Reads a file. Refuses what cannot be read; the journal is not looked at.
    static Result<Opened> open(World world, const std::string& path);
    /// The same with the file's bytes, where they have been read already.
    static Result<Opened> openRead(World world, const std::string& path, std::string_view bytes);

    /// Journals that no living program holds and that contain acts.
    static std::vector<Recoverable> recoverable(World world);
    /// The document as its journal left it: what could be used of it, with remarks.
    static Result<Opened> recover(World world, const Recoverable& from);
    static void discard(World world, const Recoverable& from);

    const model::Network& network() const { return history_.now(); }
    const History& history() const { return history_; }
    const std::string& path() const { return path_; }
    bool modified() const;
    /// FNV-1a of the file's bytes as they were last read or written; 0: never saved.
    std::uint64_t hash() const { return hash_; }

    /// Takes an act into the journal, then into the history. False when it changes
    /// nothing. Refuses one that what happened since has overtaken, and one that could
    /// not be read back from a file.
    Result<bool> apply(Act act, const Session& before, const Session& after,
                       std::optional<MergeKey> merge = std::nullopt);
    /// The costly half of apply(), which a thread can do beforehand: an act found good to be taken, with
    /// what follows of it and what the journal says.
    struct Prepared {
        Act act; ///< its base is the network it was prepared for
        std::string difference;
        std::optional<MergeKey> merge = std::nullopt; ///< as of apply()
    };
    static Result<Prepared> prepared(const model::Network& now, Act act);
    /// Takes it at once while the network is the one it was prepared for, else as any act that comes late.
    Result<bool> take(Prepared prepared, const Session& before, const Session& after);
    std::optional<Session> undo();
    std::optional<Session> redo();

    /// Saves under a path, which becomes the document's. On refusal the old file and the
    /// document stay.
    Result<Done> save(const std::string& path);
    /// The same in two halves for saving on a worker: what to write, and what to note
    /// once it is written.
    struct Underway;
    struct Saving {
        model::Network network;
        std::string path;
        std::shared_ptr<Underway> underway; ///< the journal that gets the mark
    };
    Saving beginSave(const std::string& path);
    /// May run on any thread. Gives the FNV-1a of the bytes written.
    static Result<std::uint64_t> write(Files& files, const Saving& saving);
    /// False, and nothing is noted, when it was not this document's latest beginSave().
    bool endSave(const Saving& saving, std::uint64_t hash);

    /// The file was changed by another program: what it holds now is what "modified" and
    /// the journal are measured against.
    void rebase(model::Network onDisk, std::uint64_t hash);

    /// What the journal of a network that was never saved begins with is all of it: a thread makes
    /// that beforehand, so that the first edit need not wait for it. Nothing where there is no need.
    void beginAhead();

    /// Ends the document in peace: its journal is removed.
    void close();

    /// Why the journal cannot be written, if it cannot. What it held before is still in
    /// it.
    const std::optional<Remark>& journalTrouble() const { return journalTrouble_; }
    /// Writes what the journal lacks, as the next act would; to be called now and then
    /// while there is trouble.
    void catchUpJournal();

private:
    Document(World world, model::Network network, std::string path, std::uint64_t hash);
    /// A record that a network comes to from nothing, or from the file.
    struct Beginning {
        model::Network network;
        std::string record; ///< empty: nothing to say
    };
    static Beginning beginning(const model::Network& base, const model::Network& now);
    void dropAhead();
    bool startJournal(const std::string& path, Over over);
    bool startFreeJournal();
    /// `prepared`: the difference an act makes to its base, where it was worked out before.
    void journal(const std::string& act, const model::Network& after, const Prepared* prepared = nullptr);
    void dropJournal();

    World world_;
    History history_;
    model::Network saved_;
    std::string path_;
    std::string journalPath_; ///< of the journal being written
    std::uint64_t hash_ = 0;
    std::shared_ptr<JournalWriter> journal_;
    model::Network journaled_;            ///< what the journal comes to
    std::shared_future<Beginning> ahead_; ///< of beginAhead()
    std::optional<Remark> journalTrouble_;
    std::int64_t retryAtMs_ = 0; ///< a journal that cannot be started is not tried again before
    std::shared_ptr<Underway> underway_;
};

struct Document::Opened {
    Document document;
    std::vector<Remark> remarks;
};

} // namespace underridge::edit
