/// @file
/// What a page shows: a map as one object, with where its cells lie and what they mean to one mover.
#pragma once

#include "shared.hpp"

namespace saunter::app {

/// Values with many alike in a row: [value, count, value, count, ...].
template <typename Values>
Json runs_of(const Values& values) {
  Json runs = Json::array();
  std::int64_t last = 0;
  std::uint64_t count = 0;
  const auto put = [&] {
    if (count == 0) return;
    runs.push_back(last);
    runs.push_back(count);
  };
  for (const auto value : values) {
    const auto number = static_cast<std::int64_t>(value);
    if (count > 0 && number != last) {
      put();
      count = 0;
    }
    last = number;
    ++count;
  }
  put();
  return runs;
}

/// The ground alone: terrain, heights and barriers.
[[nodiscard]] Json ground_json(const Map& map);
[[nodiscard]] Json kinds_json(const Map& map);
/// Everything about a map and what it means to one mover. Costs in hundredths, cells as their numbers, places in edge
/// steps. @param tick  of threats with a schedule
[[nodiscard]] Json scene_json(const io::Scenario& scenario, const Mover& mover, const CostGrid& costs,
                              std::uint64_t tick = 0);
[[nodiscard]] inline Json scene_json(const Ready& ready) {
  return scene_json(ready.scenario, *ready.mover, ready.costs);
}

}  // namespace saunter::app
