#include "play_run.hpp"

namespace saunter::inline v0_2 {
using namespace detail;

/// The cells of a unit's body become its own, or nobody's.
void Play::Run::put(std::size_t i, bool stands) {
  goers_[i].body.cells_at(live_.board().tiling, cell(i), cells_);
  for (const Cell part : cells_) taken_[part] = stands ? static_cast<std::uint32_t>(i + 1) : 0;
}

bool Play::Run::free_for(std::size_t i, Cell to) {
  goers_[i].body.cells_at(live_.board().tiling, to, cells_);
  return std::all_of(cells_.begin(), cells_.end(),
                     [&](Cell part) { return taken_[part] == 0 || taken_[part] == i + 1; });
}

void Play::Run::make_plan(std::size_t i) {
  const Go& go = script_.units[i];
  Goer& goer = goers_[i];
  switch (go.plan) {
    case GoPlan::route:
      goer.route = live_.keep_route(go.mover, go.from, go.to);
      fresh_expanded += searcher_.route(costs(i), go.from, go.to).expanded();
      break;
    case GoPlan::wary:
      goer.wary.emplace(go.from, go.to, go.care);
      (void)goer.wary->follow(wary_searcher_, costs(i), live_.levels(go.mover));
      fresh_expanded += goer.wary->expanded();
      break;
    case GoPlan::field: {
      for (std::size_t other = 0; other < i && !goer.field; ++other) {  // one for all that go there
        const Go& with = script_.units[other];
        if (with.plan == GoPlan::field && with.mover == go.mover && with.to == go.to) goer.field = goers_[other].field;
      }
      const Source goal{go.to};
      if (!goer.field) goer.field = live_.keep_field(go.mover, {&goal, 1});
      fresh_expanded += live_.field(*goer.field).reached_count();
      break;
    }
    case GoPlan::walker: goer.walker.emplace(live_.board(), go.from, WalkerOptions{go.walker, go.to, go.seed}); break;
  }
}

/// Whether it stands on the board.
bool Play::Run::set_out(std::size_t i) {
  const Go& go = script_.units[i];
  if (units[i].standing) return true;
  if (tick < go.tick || !costs(i).open(go.from) || !free_for(i, go.from)) return false;
  make_plan(i);
  units[i].path = {go.from};
  units[i].standing = true;
  put(i, true);
  if (go.from != go.to) return true;
  units[i].arrived = tick;
  return true;
}

/// Where a unit steps next by its plan; nothing where it has none.
std::optional<Cell> Play::Run::planned(std::size_t i) {
  Goer& goer = goers_[i];
  switch (script_.units[i].plan) {
    case GoPlan::route: {
      const auto cells = live_.route(*goer.route).cells();
      return cells.size() < 2 ? std::nullopt : std::optional(cells[1]);
    }
    case GoPlan::wary: return goer.wary->cells().size() < 2 ? std::nullopt : std::optional(goer.wary->cells()[1]);
    case GoPlan::field: return live_.field(*goer.field).next(cell(i));
    case GoPlan::walker:
      if (const auto intent = goer.walker->intend(costs(i))) {
        return live_.board().tiling.neighbour(cell(i), intent->direction);
      }
      return std::nullopt;
  }
  return std::nullopt;
}

/// A way on which the cells that other units stand on are blocked.
void Play::Run::find_detour(std::size_t i) {
  const Go& go = script_.units[i];
  std::vector<Cell>& around = goers_[i].around;
  around.clear();
  others_.clear();
  for (const Cell other : taken_.size().cells()) {
    if (std::as_const(taken_)[other] != 0 && std::as_const(taken_)[other] != i + 1) others_.push_back({other, blocked});
  }
  if (const std::optional<Cell> wanted = planned(i)) {
    goers_[i].body.cells_at(live_.board().tiling, *wanted, cells_);
    for (const Cell part : cells_) {
      const std::uint32_t who = std::as_const(taken_)[part];
      if (who != 0 && who != i + 1 && !has_met(i, who)) goers_[i].met.push_back(who);
    }
  }
  std::uint64_t looked_at = 0;
  if (go.plan == GoPlan::wary) {
    CostGrid crowded = costs(i);
    for (const EntryChange& other : others_) (void)crowded.set_entry(other.cell, blocked);
    const WaryRoute& way = wary_searcher_.route(crowded, live_.levels(go.mover), cell(i), go.to,
                                                {.care = go.care, .exposed_before = goers_[i].wary->exposed()});
    if (way.found()) around.assign(way.cells().begin(), way.cells().end());
    looked_at = way.expanded();
  } else {
    const Route& way = searcher_.route(costs(i), cell(i), go.to, {.changes = others_});
    if (way.found()) around.assign(way.cells().begin(), way.cells().end());
    looked_at = way.expanded();
  }
  detours_ += looked_at;
  fresh_expanded += looked_at;
}

/// Whether nobody it has met stands on the way its plan would take from here.
bool Play::Run::plan_is_clear(std::size_t i) {
  const Goer& goer = goers_[i];
  const auto clear = [&](Cell at) {
    goer.body.cells_at(live_.board().tiling, at, cells_);
    return std::none_of(cells_.begin(), cells_.end(),
                        [&](Cell part) { return has_met(i, std::as_const(taken_)[part]); });
  };
  const auto all_clear = [&](std::span<const Cell> way) {
    return way.size() > 1 && std::all_of(way.begin() + 1, way.end(), clear);
  };
  if (goer.route) return all_clear(live_.route(*goer.route).cells());
  if (goer.wary) return all_clear(goer.wary->cells());
  live_.field(*goer.field).path(cell(i), way_);
  return all_clear(way_);
}

bool Play::Run::can_step(std::size_t i, Cell to) {
  const Direction d = live_.board().tiling.direction(cell(i), to);
  return d >= 0 && holds(costs(i).moves(cell(i)), d) && free_for(i, to);
}

/// Whoever goes round somebody goes on doing so until the plan is free of all it has met: one that turned back to it
/// after each step aside would never get past.
std::optional<Cell> Play::Run::next_step(std::size_t i) {
  Goer& goer = goers_[i];
  std::optional<Cell> next;
  if (script_.units[i].plan == GoPlan::walker) {
    next = planned(i);
  } else {
    if (!goer.around.empty() && plan_is_clear(i)) goer.around.clear();
    const bool stuck = goer.around.empty() ? goer.held_up : !can_step(i, goer.around[1]);
    if (stuck) find_detour(i);
    if (!goer.around.empty()) {
      next = goer.around[1];
    } else if (!stuck) {
      next = planned(i);
    }
  }
  return next && can_step(i, *next) ? next : std::nullopt;
}

void Play::Run::take_step(std::size_t i, Cell to) {
  const Go& go = script_.units[i];
  Goer& goer = goers_[i];
  if (!goer.around.empty()) goer.around.erase(goer.around.begin());
  const Direction d = live_.board().tiling.direction(cell(i), to);
  units[i].cost += costs(i).cost_of_step(cell(i), d);
  put(i, false);
  units[i].path.push_back(to);
  put(i, true);
  if (goer.route) {
    live_.stand_at(*goer.route, to);
    if (live_.route(*goer.route).cells().empty()) {  // it went round somebody
      (void)live_.follow(*goer.route);
      fresh_expanded += searcher_.route(costs(i), to, go.to).expanded();
    }
  }
  if (goer.wary) {
    goer.wary->stepped(to, live_.levels(go.mover)[to]);
    const std::uint64_t before = goer.wary->expanded();
    if (goer.wary->cells().empty()) (void)goer.wary->follow(wary_searcher_, costs(i), live_.levels(go.mover));
    fresh_expanded += goer.wary->expanded() - before;
  }
  if (goer.walker) goer.walker->follow(*goer.walker->intend(costs(i)));
}

void Play::Run::move(std::size_t i) {
  const Go& go = script_.units[i];
  Gone& unit = units[i];
  if (unit.arrived || !set_out(i)) return;
  if (!unit.arrived) {
    Goer& goer = goers_[i];
    const std::optional<Cell> next = next_step(i);
    goer.held_up = !next;
    if (next) {
      take_step(i, *next);
    } else {
      unit.path.push_back(cell(i));
    }
    if (cell(i) == go.to) unit.arrived = tick;
  }
  if (unit.arrived && go.leaves) {
    put(i, false);
    unit.standing = false;
  }
  if (unit.arrived && goers_[i].route) live_.drop_route(*goers_[i].route);
}

Play::Play(LiveMap& live, PlayScript script) : run_(std::make_unique<Run>(live, std::move(script))) {}
Play::~Play() = default;
Play::Play(Play&&) noexcept = default;
Play& Play::operator=(Play&&) noexcept = default;

bool Play::ended() const { return run_->ended(); }
const PlayTick& Play::step() {
  if (!run_->ended()) run_->step();
  return run_->happened;
}
std::uint32_t Play::tick() const { return run_->tick; }
const std::vector<Gone>& Play::units() const { return run_->units; }
const PlayScript& Play::script() const { return run_->script(); }
bool Play::all_arrived() const { return run_->all_arrived(); }
std::uint64_t Play::expanded() const { return run_->expanded(); }
std::uint64_t Play::fresh_expanded() const { return run_->fresh_expanded; }

}  // namespace saunter::inline v0_2
