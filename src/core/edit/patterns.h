// SPDX-License-Identifier: GPL-3.0-or-later
// Patterns: shapes of networks laid down in one act, devices named, linked over the best ports
// and placed.
#pragma once
#include "core/edit/shown_places.h"
#include "core/linking/best.h"

#include <string_view>

namespace underridge::edit {

enum class PatternShape { row, chain, ring, star, mesh, tree, fabric, dualHomed, campus };
inline constexpr PatternShape allPatternShapes[] = {
    PatternShape::row,    PatternShape::chain,     PatternShape::ring,
    PatternShape::star,   PatternShape::mesh,      PatternShape::tree,
    PatternShape::fabric, PatternShape::dualHomed, PatternShape::campus};
/// "dual-homed".
std::string_view textOf(PatternShape shape);
std::optional<PatternShape> patternShapeFromText(std::string_view text);

/// One kind of device of a pattern.
struct PatternPart {
    std::string model; ///< by id; empty: the usual one of the shape
    std::string names; ///< a series, see core/edit/names.h; empty: the usual one

    bool operator==(const PatternPart&) const = default;
};

struct Pattern {
    PatternShape shape = PatternShape::star;
    PatternPart upper;                             ///< the middle of a star, spines, distribution and core
    PatternPart middle;                            ///< leaves, access; of row, chain, ring, mesh and tree all
    PatternPart lower;                             ///< endpoints
    int count = 8;                                 ///< of row, chain, ring and mesh; endpoints of a star
    int depth = 2, fan = 3;                        ///< of a tree
    int spines = 2, leaves = 4;                    ///< of a fabric
    int parallel = 1;                              ///< links between each spine and leaf
    int access = 4;                                ///< switches on each pair, of dual-homed and campus
    int sites = 2;                                 ///< buildings of a campus, a group each
    int endpoints = 0;                             ///< on each leaf and access switch
    model::Medium medium = model::Medium::unknown; ///< of links but those to endpoints; unknown: as fits best
    model::Medium endpointMedium = model::Medium::unknown; ///< the same of links to endpoints
    std::optional<model::Point> centre;                    ///< none: below what is there
    int radius = 0;      ///< of star, ring and mesh, in sheet units; 0: what plates need
    double spacing = 1;  ///< 0.5 to 3
    model::GroupId into; ///< the group they come into

    bool operator==(const Pattern&) const = default;
};

/// The parts of a shape as they are called, by how they are filled in: of a star "centre" and
/// "endpoints". Empty: the shape has no such part.
struct PartTitles {
    std::string_view upper, middle, lower;
};
PartTitles partTitles(PatternShape shape);

/// What a pattern makes.
struct PatternCount {
    int devices = 0, links = 0;
};
PatternCount countOf(const Pattern& pattern);

/// Which of the media of a pattern a shape has links of.
bool hasMedium(PatternShape shape);
bool hasEndpointMedium(PatternShape shape);

/// The same pattern in the middle of an area and as large as that lets it be, by its radius or its
/// spacing; within the ranges of those.
Pattern fittedInto(const model::Catalogue& catalogue, Pattern pattern, const scene::Rect& area,
                   const linking::Habits& habits = {});

/// Adds a pattern. Refuses figures out of range, models that are not known, more than 5,000
/// devices, and ports that do not suffice: then it says the largest that does.
ActResult addPattern(const model::Network& network, const model::Catalogue& catalogue, model::SheetId sheet,
                     const Pattern& pattern, model::IdSource& ids, const linking::Habits& habits = {});

} // namespace underridge::edit
