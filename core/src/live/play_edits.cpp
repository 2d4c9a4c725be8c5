// What a script changes on the map, tick by tick, and what units hear of it.
#include "play_run.hpp"

namespace saunter::inline v0_2 {
using namespace detail;

std::optional<std::size_t> Play::Run::who_stands_on(Cell cell) const {
  const std::uint32_t number = taken_[cell];
  return number == 0 ? std::nullopt : std::optional<std::size_t>(number - 1);
}

/// A unit that goes which an edit would cover: by ground that it can't enter, or by a unit of the map.
std::optional<std::size_t> Play::Run::covered_by(const PlayEdit& edit) {
  if (const auto* paint = std::get_if<PaintEdit>(&edit.what)) {
    for (const Cell cell : paint->cells) {
      const auto who = who_stands_on(cell);
      if (!who || paint->terrain >= live_.map().kinds().size()) continue;
      const Mover& mover = live_.movers()[script_.units[*who].mover];
      if (mover.cost_on(paint->terrain, live_.map().kinds()[paint->terrain]) == blocked) return who;
    }
  }
  if (const auto* put = std::get_if<UnitEdit>(&edit.what); put != nullptr && put->at) {
    const Occupancy::Unit& unit = live_.units().unit(put->unit);
    Pose pose = unit.pose;
    pose.at = *put->at;
    cells_in_pose(live_.board().tiling, unit.footprint, pose, cells_);
    for (const Cell cell : cells_) {
      if (const auto who = who_stands_on(cell)) return who;
    }
  }
  return std::nullopt;
}

Edited Play::Run::make(const PaintEdit& edit) {
  for (const Cell cell : edit.cells) {  // all or none
    if (!live_.map().size().contains(cell)) return {EditFault::off_map, cell};
  }
  for (const Cell cell : edit.cells) {
    if (const Edited edited = live_.set_terrain(cell, edit.terrain); !edited) return edited;
  }
  return {};
}

Edited Play::Run::make(const EdgeEdit& edit) {
  if (edit.one_way) {
    return edit.open ? live_.close_way(edit.first, edit.second, false) : live_.close_way(edit.second, edit.first);
  }
  return live_.close_edge(edit.first, edit.second, !edit.open);
}

Edited Play::Run::make(const UnitEdit& edit) {
  if (!edit.at) return live_.lift(edit.unit);
  Pose pose = live_.units().unit(edit.unit).pose;
  pose.at = *edit.at;
  return live_.units().unit(edit.unit).standing ? live_.move(edit.unit, pose) : live_.place(edit.unit, pose);
}

Edited Play::Run::make(const ThreatEdit& edit) {
  Threat threat = live_.threat(edit.threat);
  threat.at = edit.at.value_or(threat.at);
  if (edit.facing) threat.facing = edit.facing;
  return live_.change_threat(edit.threat, threat);
}

/// Threats whose schedule has another post from this tick on. @return whether there are any
bool Play::Run::begin_posts() {
  bool any = false;
  for (const PlaySchedule& kept : script_.schedules) {
    if (tick == 0 || &kept.schedule.at(tick) == &kept.schedule.at(tick - 1)) continue;
    any = static_cast<bool>(
              live_.change_threat(kept.threat, threat_at(live_.threat(kept.threat), kept.schedule, tick))) ||
          any;
  }
  return any;
}

void Play::Run::make_edits() {
  bool any = begin_posts();
  for (std::size_t number = 0; number < script_.edits.size(); ++number) {
    const PlayEdit& edit = script_.edits[number];
    if (edit.tick != tick) continue;
    any = true;
    if (const auto who = covered_by(edit)) {
      happened.refused.push_back({number, {EditFault::occupied, cell(*who)}, who});
      continue;
    }
    const Edited edited = std::visit([&](const auto& what) { return make(what); }, edit.what);
    if (!edited) happened.refused.push_back({number, edited, {}});
  }
  if (!any) return;
  for (const ChangedCell& changed : live_.commit().cells) happened.changed.push_back(changed.cell);
  for (std::size_t i = 0; i < goers_.size(); ++i) {
    if (units[i].standing && !units[i].arrived) report(i);
  }
}

void Play::Run::report(std::size_t i) {
  const Go& go = script_.units[i];
  if (go.plan == GoPlan::route) {
    const RouteReport& now = live_.route(*goers_[i].route).report();
    PlayEvent event{.unit = i, .what = now.standing};
    if (now.standing == Standing::broken) event.at = now.at;
    if (now.cost) event.cost = *now.cost;
    fresh_expanded += searcher_.route(costs(i), cell(i), go.to).expanded();
    happened.events.push_back(event);
  } else if (go.plan == GoPlan::wary) {
    const std::uint64_t before = goers_[i].wary->expanded();
    const StandingWary::Report now = goers_[i].wary->follow(wary_searcher_, costs(i), live_.levels(go.mover));
    fresh_expanded += goers_[i].wary->expanded() - before;
    happened.events.push_back({i, now.standing, now.at, now.weighed});
  } else if (go.plan == GoPlan::field) {
    fresh_expanded += live_.field(*goers_[i].field).reached_count();
  }
}

}  // namespace saunter::inline v0_2
