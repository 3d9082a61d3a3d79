// SPDX-License-Identifier: GPL-3.0-or-later
// A persistent table: records sorted by key in a tree of shared chunks. Copying a table
// copies one pointer; an edit copies the one path it touches; comparing two tables skips
// what they share.
//
// The tree is a radix tree on the nibbles of the key with skipped levels (Morrison's
// PATRICIA, 1968) and leaves of up to `leafSize` records. Its shape follows from its
// contents alone: a subtree of at most leafSize records is one leaf, a larger one
// branches at the first nibble in which its keys differ.
//
// The members are defined in table_impl.h, which only the files include that instantiate
// a table: what a table of some record compiles to stands once in the program.
//
// A table may be read from any thread, and copies of it changed on different threads. A
// node that nobody else shares is changed in place, so filling a table is cheap.
#pragma once
#include "core/base/function_ref.h"
#include "core/model/key.h"

#include <atomic>
#include <cstddef>
#include <utility>
#include <vector>

namespace underridge::model {

/// `Record` has `Key key() const` and `operator==`.
template <class Record, std::size_t leafSize = 32>
class Table {
public:
    /// A table of these records all at once, in a time that is linear. REQUIRES: sorted
    /// by key, no key twice.
    static Table fromSorted(std::vector<Record> records);

    std::size_t size() const;
    bool empty() const { return !root_; }

    const Record* find(Key key) const;

    /// Inserts, or replaces the record with the same key.
    void put(Record record);

    /// Whether there was such a record.
    bool erase(Key key);

    /// Calls `each(const Record&)` in the order of keys.
    template <class Each>
    void forEach(Each&& each) const {
        forEachRun([&](const Record* at, const Record* end) {
            for (; at != end; ++at)
                each(*at);
        });
    }

    /// The same for the records whose key has this `hi`.
    template <class Each>
    void forEachIn(std::uint64_t hi, Each&& each) const {
        forEachRunIn(hi, [&](const Record* at, const Record* end) {
            for (; at != end; ++at)
                each(*at);
        });
    }

    std::size_t countIn(std::uint64_t hi) const;

    /// Calls `each(const Record* before, const Record* after)` in the order of keys for
    /// every record that was added (before is null), removed (after is null) or changed.
    /// The cost follows what differs, not the size.
    static void compare(const Table& before, const Table& after,
                        FunctionRef<void(const Record*, const Record*)> each);

    bool operator==(const Table& other) const;

    /// How many nodes this table shares with another: what tests of structure sharing
    /// look at.
    std::size_t nodesSharedWith(const Table& other) const;

private:
    struct Node;
    struct Inner;
    struct Leaf;
    struct Shape;

    /// What all nodes have: the count of those that hold it.
    struct Counted {
        mutable std::atomic<std::uint32_t> references{0};
    };

    /// A counted pointer whose "am I the only one" is ordered after other threads' last
    /// reads.
    class Ref {
    public:
        Ref() = default;
        explicit Ref(Counted* node) : node_(node) { retain(); }
        Ref(const Ref& other) : node_(other.node_) { retain(); }
        Ref(Ref&& other) noexcept : node_(std::exchange(other.node_, nullptr)) {}
        Ref& operator=(Ref other) noexcept {
            std::swap(node_, other.node_);
            return *this;
        }
        ~Ref() {
            if (node_ && node_->references.fetch_sub(1, std::memory_order_acq_rel) == 1)
                destroy(node_);
        }

        explicit operator bool() const { return node_ != nullptr; }
        Node* get() const { return static_cast<Node*>(node_); }
        Node& operator*() const { return *get(); }
        Node* operator->() const { return get(); }
        bool onlyMine() const { return node_->references.load(std::memory_order_acquire) == 1; }

    private:
        void retain() {
            if (node_)
                node_->references.fetch_add(1, std::memory_order_relaxed);
        }

        Counted* node_ = nullptr;
    };

    using Run = FunctionRef<void(const Record* at, const Record* end)>;
    void forEachRun(Run each) const;
    void forEachRunIn(std::uint64_t hi, Run each) const;
    static void destroy(Counted* node);

    Ref root_;
};

} // namespace underridge::model
