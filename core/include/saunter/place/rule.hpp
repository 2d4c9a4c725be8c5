/// @file
/// What a game wants of a place: small named tests that can be put together.
///
/// Units: distances in edge steps, costs in hundredths.
/// Errors: none: cells off the map never reach a rule.
/// Cost: O(cells of the unit) a question, what each needs besides is told there; a closure is allocated.
/// Threads: any number, nothing is shared.
#pragma once

#include <functional>
#include <span>
#include <string>

#include "saunter/grid/visible.hpp"
#include "saunter/region/regions.hpp"
#include "saunter/search/field.hpp"
#include "saunter/sight/sight.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// A test of the cells a unit would cover (all on the map), with a name for the verdict; one without a test always
/// holds. What the ready ones look at is kept by reference and must live as long as the rule: what has no name does not
/// compile.
struct Rule {
  std::string name = {};
  std::function<bool(std::span<const Cell>)> holds = {};
};

/// Both, either, not.
[[nodiscard]] Rule both(Rule a, Rule b);
[[nodiscard]] Rule either(Rule a, Rule b);
[[nodiscard]] Rule no(Rule rule);

/// At least so many edges of the unit's rim lie against these cells; the rim of the map counts as such.
[[nodiscard]] Rule against(Tiling tiling, const BitGrid& cells, int edges = 1);
Rule against(Tiling tiling, const BitGrid&& cells, int edges = 1) = delete;
/// No cell of the unit is nearer to one of these than so many edge steps on an open board (1: may touch, not overlap;
/// 2: one cell between).
[[nodiscard]] Rule away_from(Tiling tiling, const BitGrid& cells, int steps);
Rule away_from(Tiling tiling, const BitGrid&& cells, int steps = 1) = delete;
/// Some cell of the unit is within so many edge steps of one of these.
[[nodiscard]] Rule near_to(Tiling tiling, const BitGrid& cells, int steps);
Rule near_to(Tiling tiling, const BitGrid&& cells, int steps = 1) = delete;
/// Every cell within so many edge steps of the unit is on the map and among these.
[[nodiscard]] Rule clear_margin(Tiling tiling, const BitGrid& clear, int steps);
Rule clear_margin(Tiling tiling, const BitGrid&& clear, int steps = 1) = delete;
/// Some cell of the unit, or beside it across an edge, is reached by the field for at most this cost.
[[nodiscard]] Rule reached_within(const Field& field, Hundredths cost);
Rule reached_within(const Field&& field, Hundredths cost) = delete;
/// Some cell of the unit is seen from a cell, within a range if one is given.
[[nodiscard]] Rule seen_from(const SightGrid& sight, Cell from, std::optional<Hundredths> range = {});
Rule seen_from(const SightGrid&& sight, Cell from, std::optional<Hundredths> range = {}) = delete;
/// All cells of the unit lie in one region.
[[nodiscard]] Rule in_region(const Regions& regions, std::uint32_t id);
Rule in_region(const Regions&& regions, std::uint32_t id) = delete;

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
