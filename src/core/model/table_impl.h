// SPDX-License-Identifier: GPL-3.0-or-later
// The members of Table. Include it where a table is instantiated:
//
//     template class underridge::model::Table<Device>;
#pragma once
#include "core/model/table.h"

#include <algorithm>
#include <array>
#include <bit>

namespace underridge::model {

template <class Record, std::size_t leafSize>
struct Table<Record, leafSize>::Node : Counted {
    explicit Node(bool isLeaf) : leaf(isLeaf) {}
    Node(const Node& other) : Counted(), leaf(other.leaf) {}
    Node& operator=(const Node&) = delete;

    const Inner& inner() const { return static_cast<const Inner&>(*this); }
    Inner& inner() { return static_cast<Inner&>(*this); }
    const Leaf& asLeaf() const { return static_cast<const Leaf&>(*this); }
    Leaf& asLeaf() { return static_cast<Leaf&>(*this); }
    std::size_t count() const { return leaf ? asLeaf().records.size() : inner().total; }

    const bool leaf;
};

template <class Record, std::size_t leafSize>
struct Table<Record, leafSize>::Leaf : Node {
    Leaf() : Node(true) {}
    std::vector<Record> records; ///< sorted by key, never empty
};

template <class Record, std::size_t leafSize>
struct Table<Record, leafSize>::Inner : Node {
    Inner() : Node(false) {}
    unsigned level = 0; ///< which nibble the children differ in: 0 the highest of `hi`, 31 the lowest of `lo`
    Key prefix;         ///< a key with the nibbles above `level` that all below share
    std::size_t total = 0;
    std::array<Ref, 16> children;
};

/// What is done to trees of nodes.
template <class Record, std::size_t leafSize>
struct Table<Record, leafSize>::Shape {
    using Each = FunctionRef<void(const Record*, const Record*)>;

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

    /// The tree of records that are sorted, the same as putting them one by one would
    /// make.
    static Ref build(Record* first, Record* last) {
        if (static_cast<std::size_t>(last - first) <= leafSize) {
            auto* leaf = new Leaf;
            leaf->records.assign(std::make_move_iterator(first), std::make_move_iterator(last));
            return Ref(leaf);
        }
        const Key key = first->key();
        const unsigned level = firstDifference(key, (last - 1)->key());
        Ref branch = branchOf(level, key);
        Inner& inner = branch->inner();
        inner.total = static_cast<std::size_t>(last - first);
        while (first != last) {
            const unsigned digit = nibble(first->key(), level);
            Record* end = std::partition_point(
                first, last, [&](const Record& record) { return nibble(record.key(), level) <= digit; });
            inner.children[digit] = build(first, end);
            first = end;
        }
        return branch;
    }

    static void flatten(Ref& slot) {
        auto* leaf = new Leaf;
        leaf->records.reserve(slot->count());
        walk(*slot, [&](const Record* at, const Record* end) {
            leaf->records.insert(leaf->records.end(), at, end);
        });
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

    static void walk(const Node& node, Run each) {
        if (node.leaf) {
            const auto& records = node.asLeaf().records;
            each(records.data(), records.data() + records.size());
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

    static void compareNodes(const Node* a, const Node* b, Each each) {
        if (a == b)
            return;
        if (!b)
            return walk(*a, [&](const Record* at, const Record* end) {
                for (; at != end; ++at)
                    each(at, nullptr);
            });
        if (!a)
            return walk(*b, [&](const Record* at, const Record* end) {
                for (; at != end; ++at)
                    each(nullptr, at);
            });
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

    static std::vector<const Record*> recordsOf(const Node& node) {
        std::vector<const Record*> out;
        walk(node, [&](const Record* at, const Record* end) {
            for (; at != end; ++at)
                out.push_back(at);
        });
        return out;
    }

    static void compareFlat(const Node& a, const Node& b, Each each) {
        const std::vector<const Record*> before = recordsOf(a), after = recordsOf(b);
        auto i = before.begin();
        auto j = after.begin();
        while (i != before.end() || j != after.end()) {
            if (j == after.end() || (i != before.end() && (*i)->key() < (*j)->key())) {
                each(*i++, nullptr);
            } else if (i == before.end() || (*j)->key() < (*i)->key()) {
                each(nullptr, *j++);
            } else {
                if (!(**i == **j))
                    each(*i, *j);
                ++i;
                ++j;
            }
        }
    }
};

template <class Record, std::size_t leafSize>
Table<Record, leafSize> Table<Record, leafSize>::fromSorted(std::vector<Record> records) {
    Table table;
    if (!records.empty())
        table.root_ = Shape::build(records.data(), records.data() + records.size());
    return table;
}

template <class Record, std::size_t leafSize>
std::size_t Table<Record, leafSize>::size() const {
    return root_ ? root_->count() : 0;
}

template <class Record, std::size_t leafSize>
const Record* Table<Record, leafSize>::find(Key key) const {
    const Node* node = root_.get();
    while (node && !node->leaf)
        node = node->inner().children[Shape::nibble(key, node->inner().level)].get();
    if (!node)
        return nullptr;
    const auto& records = node->asLeaf().records;
    const auto at = Shape::lowerBound(records, key);
    return at != records.end() && at->key() == key ? &*at : nullptr;
}

template <class Record, std::size_t leafSize>
void Table<Record, leafSize>::put(Record record) {
    Shape::put(root_, record.key(), std::move(record));
}

template <class Record, std::size_t leafSize>
bool Table<Record, leafSize>::erase(Key key) {
    if (!find(key))
        return false;
    Shape::erase(root_, key);
    return true;
}

template <class Record, std::size_t leafSize>
std::size_t Table<Record, leafSize>::countIn(std::uint64_t hi) const {
    std::size_t n = 0;
    forEachRunIn(hi, [&](const Record* at, const Record* end) { n += static_cast<std::size_t>(end - at); });
    return n;
}

template <class Record, std::size_t leafSize>
void Table<Record, leafSize>::compare(const Table& before, const Table& after,
                                      FunctionRef<void(const Record*, const Record*)> each) {
    Shape::compareNodes(before.root_.get(), after.root_.get(), each);
}

template <class Record, std::size_t leafSize>
bool Table<Record, leafSize>::operator==(const Table& other) const {
    return Shape::equalNodes(root_.get(), other.root_.get());
}

template <class Record, std::size_t leafSize>
std::size_t Table<Record, leafSize>::nodesSharedWith(const Table& other) const {
    std::vector<const Node*> mine, theirs;
    Shape::gather(root_.get(), mine);
    Shape::gather(other.root_.get(), theirs);
    std::sort(mine.begin(), mine.end());
    return static_cast<std::size_t>(std::count_if(theirs.begin(), theirs.end(), [&](const Node* n) {
        return std::binary_search(mine.begin(), mine.end(), n);
    }));
}

template <class Record, std::size_t leafSize>
void Table<Record, leafSize>::forEachRun(Run each) const {
    if (root_)
        Shape::walk(*root_, each);
}

template <class Record, std::size_t leafSize>
void Table<Record, leafSize>::forEachRunIn(std::uint64_t hi, Run each) const {
    const Node* node = root_.get();
    while (node && !node->leaf && node->inner().level < 16)
        node = node->inner().children[Shape::nibble({hi, 0}, node->inner().level)].get();
    if (!node)
        return;
    if (!node->leaf) {
        if (node->inner().prefix.hi == hi)
            Shape::walk(*node, each);
        return;
    }
    const auto& records = node->asLeaf().records;
    const auto first = Shape::lowerBound(records, {hi, 0});
    const auto last =
        std::find_if(first, records.end(), [&](const Record& record) { return record.key().hi != hi; });
    if (first != last)
        each(&*first, &*first + (last - first));
}

template <class Record, std::size_t leafSize>
void Table<Record, leafSize>::destroy(Counted* node) {
    if (static_cast<Node*>(node)->leaf)
        delete static_cast<Leaf*>(node);
    else
        delete static_cast<Inner*>(node);
}

} // namespace underridge::model
