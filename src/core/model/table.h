// SPDX-License-Identifier: GPL-3.0-or-later
// A persistent table: records sorted by key in a tree of shared chunks. Copying a table copies one
// pointer; an edit copies the one path it touches; comparing two tables skips what they share.
//
// The tree is a radix tree on the nibbles of the key with skipped levels (Morrison's PATRICIA, 1968) and
// leaves of up to `leafSize` records. Its shape follows from its contents alone: a subtree of at most
// leafSize records is one leaf, a larger one branches at the first nibble in which its keys differ.
//
// A table may be read from any thread, and copies of it changed on different threads. A node that nobody
// else shares is changed in place, so filling a table is cheap.
#pragma once
#include "core/model/key.h"

#include <algorithm>
#include <array>
#include <atomic>
#include <bit>
#include <cstddef>
#include <utility>
#include <vector>

namespace underridge::model {

/// `Record` has `Key key() const` and `operator==`.
template <class Record, std::size_t leafSize = 32>
class Table {
public:
    Table() = default;

    std::size_t size() const { return root_ ? root_->count() : 0; }
    bool empty() const { return !root_; }

    const Record* find(Key key) const {
        const Node* node = root_.get();
        while (node && !node->leaf)
            node = node->inner().children[nibble(key, node->inner().level)].get();
        if (!node)
            return nullptr;
        const auto& records = node->asLeaf().records;
        const auto at = lowerBound(records, key);
        return at != records.end() && at->key() == key ? &*at : nullptr;
    }

    /// Inserts, or replaces the record with the same key.
    void put(Record record) { put(root_, record.key(), std::move(record)); }

    /// Whether there was such a record.
    bool erase(Key key) {
        if (!find(key))
            return false;
        erase(root_, key);
        return true;
    }

    /// Calls `each(const Record&)` in the order of keys.
    template <class Each>
    void forEach(Each&& each) const {
        if (root_)
            walk(*root_, each);
    }

    /// The same for the records whose key has this `hi`.
    template <class Each>
    void forEachIn(std::uint64_t hi, Each&& each) const {
        const Node* node = root_.get();
        while (node && !node->leaf && node->inner().level < 16)
            node = node->inner().children[nibble({hi, 0}, node->inner().level)].get();
        if (!node)
            return;
        if (!node->leaf) {
            if (node->inner().prefix.hi == hi)
                walk(*node, each);
            return;
        }
        const auto& records = node->asLeaf().records;
        for (auto at = lowerBound(records, {hi, 0}); at != records.end() && at->key().hi == hi; ++at)
            each(*at);
    }

    std::size_t countIn(std::uint64_t hi) const {
        std::size_t n = 0;
        forEachIn(hi, [&](const Record&) { ++n; });
        return n;
    }

    /// Calls `each(const Record* before, const Record* after)` in the order of keys for every record
    /// that was added (before is null), removed (after is null) or changed. The cost follows what
    /// differs, not the size.
    template <class Each>
    static void compare(const Table& before, const Table& after, Each&& each) {
        compareNodes(before.root_.get(), after.root_.get(), each);
    }

    bool operator==(const Table& other) const { return equalNodes(root_.get(), other.root_.get()); }

    /// How many nodes this table shares with another: what tests of structure sharing look at.
    std::size_t nodesSharedWith(const Table& other) const {
        std::vector<const Node*> mine, theirs;
        gather(root_.get(), mine);
        gather(other.root_.get(), theirs);
        std::sort(mine.begin(), mine.end());
        return static_cast<std::size_t>(std::count_if(theirs.begin(), theirs.end(), [&](const Node* n) {
            return std::binary_search(mine.begin(), mine.end(), n);
        }));
    }

private:
    struct Inner;
    struct Leaf;

    struct Node {
        explicit Node(bool isLeaf) : leaf(isLeaf) {}
        Node(const Node& other) : leaf(other.leaf) {}
        Node& operator=(const Node&) = delete;

        const Inner& inner() const { return static_cast<const Inner&>(*this); }
        Inner& inner() { return static_cast<Inner&>(*this); }
        const Leaf& asLeaf() const { return static_cast<const Leaf&>(*this); }
        Leaf& asLeaf() { return static_cast<Leaf&>(*this); }
        std::size_t count() const { return leaf ? asLeaf().records.size() : inner().total; }

        mutable std::atomic<std::uint32_t> references{0};
        const bool leaf;
    };

    /// A counted pointer whose "am I the only one" is ordered after other threads' last reads.
    class Ref {
    public:
        Ref() = default;
        explicit Ref(Node* node) : node_(node) { retain(); }
        Ref(const Ref& other) : node_(other.node_) { retain(); }
        Ref(Ref&& other) noexcept : node_(std::exchange(other.node_, nullptr)) {}
        Ref& operator=(Ref other) noexcept {
            std::swap(node_, other.node_);
            return *this;
        }
        ~Ref() { release(); }

        explicit operator bool() const { return node_ != nullptr; }
        Node* get() const { return node_; }
        Node& operator*() const { return *node_; }
        Node* operator->() const { return node_; }
        bool onlyMine() const { return node_->references.load(std::memory_order_acquire) == 1; }

    private:
        void retain() {
            if (node_)
                node_->references.fetch_add(1, std::memory_order_relaxed);
        }
        void release() {
            if (!node_ || node_->references.fetch_sub(1, std::memory_order_acq_rel) != 1)
                return;
            if (node_->leaf)
                delete static_cast<Leaf*>(node_);
            else
                delete static_cast<Inner*>(node_);
        }

        Node* node_ = nullptr;
    };

    struct Leaf : Node {
        Leaf() : Node(true) {}
        std::vector<Record> records; ///< sorted by key, never empty
    };

    struct Inner : Node {
        Inner() : Node(false) {}
        unsigned level =
            0;      ///< which nibble the children differ in: 0 the highest of `hi`, 31 the lowest of `lo`
        Key prefix; ///< a key with the nibbles above `level` that all below share
        std::size_t total = 0;
        std::array<Ref, 16> children;
    };

    static unsigned nibble(Key key, unsigned level) {
        const std::uint64_t word = level < 16 ? key.hi : key.lo;
        return static_cast<unsigned>(word >> (60 - 4 * (level % 16))) & 15;
    }

    /// The first nibble in which two keys differ; 32 when they are the same.
    static unsigned firstDifference(Key a, Key b) {
        if (a.hi != b.hi)
            return static_cast<unsigned>(std::countl_zero(a.hi ^ b.hi)) / 4;
        if (a.lo != b.lo)
            return 16 + static_cast<unsigned>(std::countl_zero(a.lo ^ b.lo)) / 4;
        return 32;
    }

    template <class Records>
    static auto lowerBound(Records& records, Key key) {
        return std::lower_bound(records.begin(), records.end(), key,
                                [](const Record& r, Key k) { return r.key() < k; });
    }

    static Key someKey(const Node& node) {
        return node.leaf ? node.asLeaf().records.front().key() : node.inner().prefix;
    }

    static void makeMine(Ref& slot) {
        if (!slot.onlyMine())
            slot = slot->leaf ? Ref(new Leaf(slot->asLeaf())) : Ref(new Inner(slot->inner()));
    }

    static Ref branchOf(unsigned level, Key prefix) {
        auto* inner = new Inner;
        inner->level = level;
        inner->prefix = prefix;
        return Ref(inner);
    }

    static void split(Ref& slot) {
        auto& records = slot->asLeaf().records;
        const Key first = records.front().key();
        const unsigned level = firstDifference(first, records.back().key());
        Ref branch = branchOf(level, first);
        Inner& inner = branch->inner();
        inner.total = records.size();
        for (auto& record : records) {
            Ref& child = inner.children[nibble(record.key(), level)];
            if (!child)
                child = Ref(new Leaf);
            child->asLeaf().records.push_back(std::move(record));
        }
        slot = std::move(branch);
    }

    /// Whether the number of records grew.
    static bool put(Ref& slot, Key key, Record&& record) {
        if (!slot) {
            auto* leaf = new Leaf;
            leaf->records.push_back(std::move(record));
            slot = Ref(leaf);
            return true;
        }
        if (!slot->leaf) {
            const unsigned differs = firstDifference(key, slot->inner().prefix);
            if (differs < slot->inner().level) {
                Ref branch = branchOf(differs, key);
                branch->inner().total = slot->count() + 1;
                branch->inner().children[nibble(slot->inner().prefix, differs)] = slot;
                put(branch->inner().children[nibble(key, differs)], key, std::move(record));
                slot = std::move(branch);
                return true;
            }
            makeMine(slot);
            Inner& inner = slot->inner();
            const bool grew = put(inner.children[nibble(key, inner.level)], key, std::move(record));
            inner.total += grew;
            return grew;
        }
        makeMine(slot);
        auto& records = slot->asLeaf().records;
        const auto at = lowerBound(records, key);
        if (at != records.end() && at->key() == key) {
            *at = std::move(record);
            return false;
        }
        records.insert(at, std::move(record));
        if (records.size() > leafSize)
            split(slot);
        return true;
    }

    static void flatten(Ref& slot) {
        auto* leaf = new Leaf;
        leaf->records.reserve(slot->count());
        walk(*slot, [&](const Record& r) { leaf->records.push_back(r); });
        slot = Ref(leaf);
    }

    /// REQUIRES: the key is there.
    static void erase(Ref& slot, Key key) {
        makeMine(slot);
        if (slot->leaf) {
            auto& records = slot->asLeaf().records;
            records.erase(lowerBound(records, key));
            if (records.empty())
                slot = Ref();
            return;
        }
        Inner& inner = slot->inner();
        erase(inner.children[nibble(key, inner.level)], key);
        if (--inner.total <= leafSize) {
            flatten(slot);
            return;
        }
        const auto present = [](const Ref& child) { return static_cast<bool>(child); };
        if (std::count_if(inner.children.begin(), inner.children.end(), present) == 1) {
            Ref only = *std::find_if(inner.children.begin(), inner.children.end(), present);
            slot = std::move(only);
        }
    }

    template <class Each>
    static void walk(const Node& node, Each&& each) {
        if (node.leaf) {
            for (const Record& record : node.asLeaf().records)
                each(record);
        } else {
            for (const Ref& child : node.inner().children)
                if (child)
                    walk(*child, each);
        }
    }

    static void gather(const Node* node, std::vector<const Node*>& out) {
        if (!node)
            return;
        out.push_back(node);
        if (!node->leaf)
            for (const Ref& child : node->inner().children)
                gather(child.get(), out);
    }

    static bool equalNodes(const Node* a, const Node* b) {
        if (a == b)
            return true;
        if (!a || !b || a->leaf != b->leaf || a->count() != b->count())
            return false;
        if (a->leaf)
            return a->asLeaf().records == b->asLeaf().records;
        if (a->inner().level != b->inner().level)
            return false;
        for (std::size_t i = 0; i < 16; ++i)
            if (!equalNodes(a->inner().children[i].get(), b->inner().children[i].get()))
                return false;
        return true;
    }

    template <class Each>
    static void compareNodes(const Node* a, const Node* b, Each& each) {
        if (a == b)
            return;
        if (!b)
            return walk(*a, [&](const Record& r) { each(&r, static_cast<const Record*>(nullptr)); });
        if (!a)
            return walk(*b, [&](const Record& r) { each(static_cast<const Record*>(nullptr), &r); });
        if (a->leaf || b->leaf)
            return compareFlat(*a, *b, each);
        const unsigned levelA = a->inner().level, levelB = b->inner().level;
        const unsigned differs = firstDifference(someKey(*a), someKey(*b));
        if (differs < std::min(levelA, levelB)) {
            const bool aFirst = someKey(*a) < someKey(*b);
            compareNodes(aFirst ? a : nullptr, aFirst ? nullptr : b, each);
            compareNodes(aFirst ? nullptr : a, aFirst ? b : nullptr, each);
            return;
        }
        for (unsigned i = 0; i < 16; ++i) {
            const Node* inA = levelA <= levelB                   ? a->inner().children[i].get()
                              : nibble(someKey(*a), levelB) == i ? a
                                                                 : nullptr;
            const Node* inB = levelB <= levelA                   ? b->inner().children[i].get()
                              : nibble(someKey(*b), levelA) == i ? b
                                                                 : nullptr;
            compareNodes(inA, inB, each);
        }
    }

    template <class Each>
    static void compareFlat(const Node& a, const Node& b, Each& each) {
        std::vector<const Record*> before, after;
        walk(a, [&](const Record& r) { before.push_back(&r); });
        walk(b, [&](const Record& r) { after.push_back(&r); });
        auto i = before.begin();
        auto j = after.begin();
        const Record* none = nullptr;
        while (i != before.end() || j != after.end()) {
            if (j == after.end() || (i != before.end() && (*i)->key() < (*j)->key())) {
                each(*i++, none);
            } else if (i == before.end() || (*j)->key() < (*i)->key()) {
                each(none, *j++);
            } else {
                if (!(**i == **j))
                    each(*i, *j);
                ++i;
                ++j;
            }
        }
    }

    Ref root_;
};

} // namespace underridge::model
