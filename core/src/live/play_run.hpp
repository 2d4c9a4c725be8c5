/// @file
/// A scripted run under way.
#pragma once

#include <algorithm>
#include <utility>

#include "saunter/live/play.hpp"
#include "saunter/place/footprint.hpp"
#include "saunter/search/searcher.hpp"
#include "standing_wary.hpp"

namespace saunter::inline v0_2 {
namespace detail {

/// One unit that goes.
struct Goer {
  Footprint body = {};
  std::optional<RouteId> route = {};
  std::optional<FieldId> field = {};
  std::optional<StandingWary> wary = {};
  std::optional<Walker> walker = {};
  bool held_up = false;                 // it could not step in the last tick
  std::vector<Cell> around = {};        // the rest of a way round others, from where it stands; empty: by its plan
  std::vector<std::uint32_t> met = {};  // who stood in its way so far, from 1
};

}  // namespace detail

class Play::Run {
 public:
  Run(LiveMap& live, PlayScript script) : script_(std::move(script)), live_(live), taken_(live.board().size) {
    goers_.resize(script_.units.size());
    units.resize(script_.units.size());
    for (std::size_t i = 0; i < goers_.size(); ++i) {
      const MoverId mover = script_.units[i].mover;
      const int size = mover < live.movers().size() ? live.movers()[mover].size : 1;
      goers_[i].body = Footprint::of_size(live.board().tiling, size);
    }
    (void)live.danger();
  }

  [[nodiscard]] bool ended() const {
    const auto later = [&](const PlayEdit& edit) { return edit.tick >= tick; };
    return tick >= script_.ticks || (all_arrived() && std::none_of(script_.edits.begin(), script_.edits.end(), later));
  }
  [[nodiscard]] bool all_arrived() const {
    return std::all_of(units.begin(), units.end(), [](const Gone& unit) { return unit.arrived.has_value(); });
  }
  [[nodiscard]] const PlayScript& script() const { return script_; }
  [[nodiscard]] std::uint64_t expanded() const {
    std::uint64_t sum = live_.looked_at() + detours_;
    for (const detail::Goer& goer : goers_) sum += goer.wary ? goer.wary->expanded() : 0;
    return sum;
  }

  void step() {
    happened = {};
    make_edits();
    for (std::size_t i = 0; i < goers_.size(); ++i) move(i);
    ++tick;
  }

  std::uint32_t tick = 0;
  std::vector<Gone> units;
  PlayTick happened;
  std::uint64_t fresh_expanded = 0;

 private:
  const CostGrid& costs(std::size_t i) { return live_.costs(script_.units[i].mover); }
  [[nodiscard]] Cell cell(std::size_t i) const { return units[i].path.back(); }

  // Edits.
  void make_edits();
  [[nodiscard]] bool begin_posts();
  [[nodiscard]] Edited make(const PaintEdit& edit);
  [[nodiscard]] Edited make(const EdgeEdit& edit);
  [[nodiscard]] Edited make(const UnitEdit& edit);
  [[nodiscard]] Edited make(const ThreatEdit& edit);
  [[nodiscard]] std::optional<std::size_t> covered_by(const PlayEdit& edit);
  [[nodiscard]] std::optional<std::size_t> who_stands_on(Cell cell) const;
  void report(std::size_t i);

  // Moves.
  void move(std::size_t i);
  [[nodiscard]] bool set_out(std::size_t i);
  void make_plan(std::size_t i);
  [[nodiscard]] bool free_for(std::size_t i, Cell to);
  void put(std::size_t i, bool stands);
  [[nodiscard]] std::optional<Cell> planned(std::size_t i);
  void find_detour(std::size_t i);
  [[nodiscard]] bool plan_is_clear(std::size_t i);
  [[nodiscard]] bool has_met(std::size_t i, std::uint32_t who) const {
    const std::vector<std::uint32_t>& met = goers_[i].met;
    return std::find(met.begin(), met.end(), who) != met.end();
  }
  [[nodiscard]] std::optional<Cell> next_step(std::size_t i);
  [[nodiscard]] bool can_step(std::size_t i, Cell to);
  void take_step(std::size_t i, Cell to);

  PlayScript script_;
  LiveMap& live_;
  std::vector<detail::Goer> goers_;
  Grid<std::uint32_t> taken_;  // by which unit that goes, from 1
  Searcher searcher_;
  WarySearcher wary_searcher_;
  std::vector<Cell> cells_;
  std::vector<Cell> way_;
  std::vector<EntryChange> others_;  // cells under other units that go
  std::uint64_t detours_ = 0;
};

}  // namespace saunter::inline v0_2
