// SPDX-License-Identifier: GPL-3.0-or-later
// The journal: what was done since the file was last saved, kept so that a killed program
// or a power cut costs at most the last act. A journal is a text of records
//
//     ur1 LENGTH CRC\n PAYLOAD \n
//
// with LENGTH in bytes and the CRC-32 of the payload (IEEE 802.3 polynomial) in hex. The
// first payload is the header, a JSON object; each further one is the difference of two
// networks: the act's name as a JSON string, then one line for every record that is set
// or removed. Before a file is written the journal gets a mark with the hash the file
// will have, so that a program killed between the two is not taken for another program's
// change.
#pragma once
#include "core/base/files.h"
#include "core/edit/act.h"

#include <condition_variable>
#include <thread>

namespace underridge::edit {

struct JournalHeader {
    model::NetworkId document;
    std::string name;       ///< of the network, for the recovery offer
    std::string path;       ///< of the file it continues; empty: never saved
    std::uint64_t hash = 0; ///< FNV-1a of that file's bytes; 0: never saved, the journal begins from nothing

    bool operator==(const JournalHeader&) const = default;
};

/// "This file is about to be written": the network as the journal has it so far, or a
/// little before.
struct SaveMark {
    std::string path;
    std::uint64_t hash = 0;
    std::size_t before = 0; ///< how many payloads the file surely holds

    bool operator==(const SaveMark&) const = default;
};

struct JournalContents {
    JournalHeader header;
    std::vector<std::string> payloads; ///< in order, without the header and marks
    std::vector<SaveMark> marks;
    bool torn = false;         ///< the last record was cut off: its writer died; nothing to report
    std::size_t bytesLost = 0; ///< damage in the middle: what follows it could not be used
};

std::string frame(std::string_view payload);
std::string headerPayload(const JournalHeader& header);
std::string savePayload(const SaveMark& mark);
/// The difference of two networks; empty when they are equal.
std::string differencePayload(const std::string& act, const model::Network& before,
                              const model::Network& after);

/// Takes a journal's bytes apart. Refuses one whose header cannot be read.
Result<JournalContents> readJournal(std::string_view bytes);

/// Applies the payloads to the network the journal began from, or to any later one up to
/// the last payload: a record of the journal replaces the whole record, so applying it
/// twice does no harm.
Result<model::Network> replay(model::Network start, const std::vector<std::string>& payloads);

/// Writes a journal. A record is with the operating system when write() returns, and on
/// the disk within `syncDelayMs` through a thread of its own.
class JournalWriter {
public:
    /// Starts a journal file with a first record, as frame() gives it (none if empty), in
    /// place of what `over` allows, all at once.
    static Result<std::unique_ptr<JournalWriter>> start(Files& files, const std::string& path,
                                                        const JournalHeader& header, std::string_view first,
                                                        Over over);
    ~JournalWriter();

    /// A difference. What is refused is not there at all, and the next may follow.
    Result<Done> write(std::string_view payload);
    Result<Done> mark(const SaveMark& mark);
    /// How many payloads are in it.
    std::size_t payloads() const;

    static constexpr int syncDelayMs = 500;

private:
    JournalWriter(std::unique_ptr<Appender> file, std::size_t payloads);
    Result<Done> append(std::string_view payload);
    void syncLoop(const std::stop_token& stop);

    std::unique_ptr<Appender> file_;
    mutable std::mutex mutex_;
    std::condition_variable_any wake_;
    std::size_t payloads_ = 0;
    bool dirty_ = false;
    std::jthread syncer_;
};

} // namespace underridge::edit
