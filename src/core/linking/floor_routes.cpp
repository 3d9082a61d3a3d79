// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/linking/floor_routes.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <queue>

namespace underridge::linking {
using namespace model;
namespace {

constexpr std::int64_t unreached = std::numeric_limits<std::int64_t>::max();

struct Vec {
    double x = 0, y = 0;
};

Vec vec(const FloorPoint& p) {
    return {static_cast<double>(p.xMm), static_cast<double>(p.yMm)};
}

/// How far along a segment, from 0 to 1, the point nearest to another lies.
double shareNearest(Vec p, Vec a, Vec b) {
    const double dx = b.x - a.x, dy = b.y - a.y, square = dx * dx + dy * dy;
    return square > 0 ? std::clamp(((p.x - a.x) * dx + (p.y - a.y) * dy) / square, 0.0, 1.0) : 0;
}

Vec mixed(Vec a, Vec b, double share) {
    return {a.x + (b.x - a.x) * share, a.y + (b.y - a.y) * share};
}

double apart(Vec a, Vec b) {
    return std::hypot(a.x - b.x, a.y - b.y);
}

/// Where two segments come nearest to each other: shares of both, and how near.
struct Nearest {
    double onA = 0, onB = 0;
    double distance = std::numeric_limits<double>::infinity();
};

Nearest nearestOf(Vec a, Vec b, Vec c, Vec d) {
    const double cross = (b.x - a.x) * (d.y - c.y) - (b.y - a.y) * (d.x - c.x);
    if (cross != 0) {
        const double onA = ((c.x - a.x) * (d.y - c.y) - (c.y - a.y) * (d.x - c.x)) / cross;
        const double onB = ((c.x - a.x) * (b.y - a.y) - (c.y - a.y) * (b.x - a.x)) / cross;
        if (onA >= 0 && onA <= 1 && onB >= 0 && onB <= 1)
            return {onA, onB, 0};
    }
    Nearest best;
    const auto take = [&](double onA, double onB) {
        const double distance = apart(mixed(a, b, onA), mixed(c, d, onB));
        if (distance < best.distance)
            best = {onA, onB, distance};
    };
    take(0, shareNearest(a, c, d));
    take(1, shareNearest(b, c, d));
    take(shareNearest(c, a, b), 0);
    take(shareNearest(d, a, b), 1);
    return best;
}

std::int64_t axes(double dx, double dy, std::int64_t dh) {
    return std::llround(std::abs(dx) + std::abs(dy)) + std::abs(dh);
}

bool entersAnywhere(const CableRoute& route) {
    return route.type == CableRouteKind::tray;
}

} // namespace

FloorRoutes::FloorRoutes(const Network& network, GroupId floor) {
    network.all<CableRoute>().forEach([&](const CableRoute& route) {
        if (route.floor == floor && route.points.size() > 1)
            routes_.push_back(route);
    });
    if (routes_.empty())
        return;
    for (const CableRoute& route : routes_) {
        std::vector<std::int64_t> along{0};
        for (std::size_t i = 1; i < route.points.size(); ++i)
            along.push_back(along.back() +
                            std::llround(apart(vec(route.points[i - 1]), vec(route.points[i]))));
        alongs_.push_back(std::move(along));
    }
    addStations();
    connect();
}

FloorRoutes::Station FloorRoutes::at(std::size_t route, std::int64_t along) const {
    const auto& alongs = alongs_[route];
    const auto& points = routes_[route].points;
    const auto after = std::upper_bound(alongs.begin(), alongs.end(), along);
    const std::size_t piece = std::min(
        static_cast<std::size_t>(std::max<std::ptrdiff_t>(0, after - alongs.begin() - 1)), points.size() - 2);
    const auto length = static_cast<double>(alongs[piece + 1] - alongs[piece]);
    const double share = length > 0 ? static_cast<double>(along - alongs[piece]) / length : 0;
    const Vec here = mixed(vec(points[piece]), vec(points[piece + 1]), share);
    return {route, along, here.x, here.y};
}

void FloorRoutes::addStations() {
    for (std::size_t i = 0; i < routes_.size(); ++i)
        for (const std::int64_t along : alongs_[i])
            stations_.push_back(at(i, along));
    for (std::size_t i = 0; i < routes_.size(); ++i)
        for (std::size_t j = i + 1; j < routes_.size(); ++j)
            join(i, j);
    const auto order = [](const Station& s) { return std::tuple(s.route, s.along); };
    std::sort(stations_.begin(), stations_.end(),
              [&](const Station& a, const Station& b) { return order(a) < order(b); });
    const auto same = [&](const Station& a, const Station& b) { return order(a) == order(b); };
    stations_.erase(std::unique(stations_.begin(), stations_.end(), same), stations_.end());
}

/// Joins two routes where they come nearest, piece by piece.
void FloorRoutes::join(std::size_t a, std::size_t b) {
    const auto onto = [&](std::size_t route, std::size_t piece, double share) {
        const auto& alongs = alongs_[route];
        return alongs[piece] + std::llround(share * static_cast<double>(alongs[piece + 1] - alongs[piece]));
    };
    const auto &as = routes_[a].points, &bs = routes_[b].points;
    const auto mayEnter = [&](std::size_t route, std::int64_t along) {
        return entersAnywhere(routes_[route]) || along == 0 || along == alongs_[route].back();
    };
    const auto take = [&](std::int64_t alongA, std::int64_t alongB) {
        if (!mayEnter(a, alongA) || !mayEnter(b, alongB))
            return;
        const Station one = at(a, alongA), other = at(b, alongB);
        if (apart({one.x, one.y}, {other.x, other.y}) > static_cast<double>(joinMm))
            return;
        stations_.push_back(one);
        stations_.push_back(other);
        joints_.emplace_back(one, other);
    };
    for (std::size_t i = 0; i + 1 < as.size(); ++i)
        for (std::size_t j = 0; j + 1 < bs.size(); ++j) {
            const Vec p = vec(as[i]), q = vec(as[i + 1]), r = vec(bs[j]), s = vec(bs[j + 1]);
            const Nearest near = nearestOf(p, q, r, s);
            if (near.distance <= static_cast<double>(joinMm))
                take(onto(a, i, near.onA), onto(b, j, near.onB));
            // The ends of a conduit, wherever the routes come nearest.
            for (const double end : {0.0, 1.0}) {
                if (!entersAnywhere(routes_[a]))
                    take(onto(a, i, end), onto(b, j, shareNearest(end == 0 ? p : q, r, s)));
                if (!entersAnywhere(routes_[b]))
                    take(onto(a, i, shareNearest(end == 0 ? r : s, p, q)), onto(b, j, end));
            }
        }
}

void FloorRoutes::connect() {
    edges_.resize(stations_.size());
    const auto add = [&](std::size_t from, std::size_t to, std::int64_t mm) {
        edges_[from].push_back({to, mm});
        edges_[to].push_back({from, mm});
    };
    for (std::size_t i = 1; i < stations_.size(); ++i)
        if (stations_[i].route == stations_[i - 1].route)
            add(i - 1, i, stations_[i].along - stations_[i - 1].along);
    const auto indexOf = [&](const Station& station) {
        const auto found = std::lower_bound(
            stations_.begin(), stations_.end(), station, [](const Station& x, const Station& y) {
                return std::tuple(x.route, x.along) < std::tuple(y.route, y.along);
            });
        return static_cast<std::size_t>(found - stations_.begin());
    };
    for (const auto& [one, other] : joints_)
        add(indexOf(one), indexOf(other),
            axes(one.x - other.x, one.y - other.y,
                 routes_[one.route].heightMm - routes_[other.route].heightMm));
}

std::vector<FloorRoutes::Access> FloorRoutes::accessesOf(const Spot& spot) const {
    std::vector<Access> out;
    const Vec p{static_cast<double>(spot.x), static_cast<double>(spot.y)};
    for (std::size_t i = 0; i < routes_.size(); ++i) {
        const CableRoute& route = routes_[i];
        const std::int64_t up = spot.height ? route.heightMm - *spot.height : 0;
        const auto take = [&](std::int64_t along) {
            const Station here = at(i, along);
            out.push_back({i, along, axes(p.x - here.x, p.y - here.y, up)});
        };
        if (!entersAnywhere(route)) {
            take(0);
            take(alongs_[i].back());
            continue;
        }
        for (std::size_t piece = 0; piece + 1 < route.points.size(); ++piece) {
            const double share = shareNearest(p, vec(route.points[piece]), vec(route.points[piece + 1]));
            const std::int64_t from = alongs_[i][piece], to = alongs_[i][piece + 1];
            take(from + std::llround(share * static_cast<double>(to - from)));
        }
    }
    return out;
}

template <class Each>
void FloorRoutes::forEachNextTo(const Access& access, Each&& each) const {
    const auto after =
        std::lower_bound(stations_.begin(), stations_.end(), access, [](const Station& s, const Access& a) {
            return std::tuple(s.route, s.along) < std::tuple(a.route, a.along);
        });
    const auto index = static_cast<std::size_t>(after - stations_.begin());
    each(index, stations_[index].along - access.along); // its end is a station, so there is one
    if (stations_[index].along > access.along)
        each(index - 1, access.along - stations_[index - 1].along);
}

/// The search for one way: what it costs to come to each station, and from where.
struct FloorRoutes::Search {
    static constexpr std::size_t none = std::numeric_limits<std::size_t>::max();
    const FloorRoutes& self;
    std::vector<std::int64_t> cost = std::vector<std::int64_t>(self.stations_.size(), unreached);
    std::vector<std::size_t> before = std::vector<std::size_t>(self.stations_.size(), none);
    std::vector<std::size_t> by = std::vector<std::size_t>(self.stations_.size(), none); ///< access of a

    void from(const std::vector<Access>& accesses) {
        using Entry = std::pair<std::int64_t, std::size_t>;
        std::priority_queue<Entry, std::vector<Entry>, std::greater<>> open;
        for (std::size_t i = 0; i < accesses.size(); ++i)
            self.forEachNextTo(accesses[i], [&](std::size_t station, std::int64_t along) {
                const std::int64_t whole = accesses[i].besideMm * besideFactor + along;
                if (whole < cost[station]) {
                    cost[station] = whole;
                    by[station] = i;
                    open.emplace(whole, station);
                }
            });
        while (!open.empty()) {
            const auto [reached, station] = open.top();
            open.pop();
            if (reached > cost[station])
                continue;
            for (const Edge& edge : self.edges_[station])
                if (reached + edge.mm < cost[edge.to]) {
                    cost[edge.to] = reached + edge.mm;
                    before[edge.to] = station;
                    by[edge.to] = by[station];
                    open.emplace(cost[edge.to], edge.to);
                }
        }
    }
};

FloorRoutes::Way FloorRoutes::between(const Spot& a, const Spot& b) const {
    const std::int64_t heightA = a.height.value_or(b.height.value_or(0)),
                       heightB = b.height.value_or(heightA);
    Way direct{axes(static_cast<double>(a.x - b.x), static_cast<double>(a.y - b.y), heightA - heightB),
               heightA,
               heightB,
               {}};
    if (routes_.empty())
        return direct;
    const auto from = accessesOf(a), to = accessesOf(b);
    Search search{*this};
    search.from(from);
    std::int64_t best = direct.mm * besideFactor;
    std::size_t first = Search::none, last = Search::none, end = Search::none;
    const auto take = [&](std::int64_t cost, std::size_t access, std::size_t station, std::size_t leave) {
        if (cost <= best && (cost < best || last == Search::none)) {
            best = cost;
            first = access;
            end = station;
            last = leave;
        }
    };
    for (std::size_t j = 0; j < to.size(); ++j) {
        forEachNextTo(to[j], [&](std::size_t station, std::int64_t along) {
            if (search.cost[station] != unreached)
                take(search.cost[station] + along + to[j].besideMm * besideFactor, search.by[station],
                     station, j);
        });
        for (std::size_t i = 0; i < from.size(); ++i) // on one piece, with no station between
            if (from[i].route == to[j].route)
                take((from[i].besideMm + to[j].besideMm) * besideFactor +
                         std::abs(from[i].along - to[j].along),
                     i, Search::none, j);
    }
    if (last == Search::none)
        return direct;
    Way way{best - (from[first].besideMm + to[last].besideMm) * (besideFactor - 1),
            a.height.value_or(routes_[from[first].route].heightMm),
            b.height.value_or(routes_[to[last].route].heightMm),
            {}};
    std::vector<Access> passed{to[last]};
    for (std::size_t station = end; station != Search::none; station = search.before[station])
        passed.push_back({stations_[station].route, stations_[station].along, 0});
    passed.push_back(from[first]);
    std::reverse(passed.begin(), passed.end());
    for (std::size_t i = 1; i < passed.size(); ++i) {
        const Access &was = passed[i - 1], &is = passed[i];
        if (was.route != is.route || was.along == is.along)
            continue;
        const CableRouteId id = routes_[is.route].id;
        if (!way.runs.empty() && way.runs.back().route == id && way.runs.back().toMm == was.along)
            way.runs.back().toMm = is.along;
        else
            way.runs.push_back({id, was.along, is.along});
    }
    return way;
}

} // namespace underridge::linking
