#include "saunter/place/rule.hpp"

#include <algorithm>
#include <memory>

#include "saunter/grid/area.hpp"

namespace saunter::inline v0_2 {
namespace {

/// Whether any cell of the map within so many edge steps of one of the cells passes a test. Disks are made anew for
/// each cell: units are small and so are margins.
template <typename Test>
bool any_within(Tiling tiling, std::span<const Cell> cells, int steps, Size size, Test&& test) {
  std::vector<Cell> disk;
  return std::any_of(cells.begin(), cells.end(), [&](Cell cell) {
    disk_of_cells(tiling, cell, steps, size, disk);
    return std::any_of(disk.begin(), disk.end(), test);
  });
}

std::string steps_text(int steps) { return std::to_string(steps) + (steps == 1 ? " step" : " steps"); }

}  // namespace

namespace {

/// A rule without a test holds everywhere.
std::function<bool(std::span<const Cell>)> test_of(Rule rule) {
  if (rule.holds) return std::move(rule.holds);
  return [](std::span<const Cell>) { return true; };
}

}  // namespace

// What the rules hold is moved out of them, which the check does not see.
// NOLINTBEGIN(performance-unnecessary-value-param)
Rule both(Rule a, Rule b) {
  std::string name = a.name + " and " + b.name;
  return {std::move(name),
          [a = test_of(std::move(a)), b = test_of(std::move(b))](auto cells) { return a(cells) && b(cells); }};
}
Rule either(Rule a, Rule b) {
  std::string name = a.name + " or " + b.name;
  return {std::move(name),
          [a = test_of(std::move(a)), b = test_of(std::move(b))](auto cells) { return a(cells) || b(cells); }};
}
Rule no(Rule rule) {
  std::string name = "not " + rule.name;
  return {std::move(name), [holds = test_of(std::move(rule))](auto cells) { return !holds(cells); }};
}
// NOLINTEND(performance-unnecessary-value-param)

Rule against(Tiling tiling, const BitGrid& cells, int edges) {
  return {"against " + std::to_string(edges), [tiling, &cells, edges](std::span<const Cell> body) {
            int met = 0;
            for (const Cell cell : body) {
              for (Direction d{0}; d < tiling.edge_count(); ++d) {
                const Cell beside = tiling.neighbour(cell, d);
                if (std::find(body.begin(), body.end(), beside) != body.end()) continue;
                met += !cells.size().contains(beside) || cells.test(beside) ? 1 : 0;
              }
            }
            return met >= edges;
          }};
}

Rule away_from(Tiling tiling, const BitGrid& cells, int steps) {
  return {"away by " + steps_text(steps), [tiling, &cells, steps](std::span<const Cell> body) {
            return steps <= 0 ||
                   !any_within(tiling, body, steps - 1, cells.size(), [&](Cell cell) { return cells.test(cell); });
          }};
}

Rule near_to(Tiling tiling, const BitGrid& cells, int steps) {
  return {"near by " + steps_text(steps), [tiling, &cells, steps](std::span<const Cell> body) {
            return any_within(tiling, body, steps, cells.size(), [&](Cell cell) { return cells.test(cell); });
          }};
}

Rule clear_margin(Tiling tiling, const BitGrid& clear, int steps) {
  return {"clear margin of " + steps_text(steps), [tiling, &clear, steps](std::span<const Cell> body) {
            std::vector<Cell> disk;
            return std::all_of(body.begin(), body.end(), [&](Cell cell) {
              // Off the map nothing is clear: what lies there is asked for too, but never beyond one ring of it.
              disk_of_cells(tiling, cell, std::min(steps, std::max(clear.size().cols, clear.size().rows) + 1), disk);
              return std::all_of(disk.begin(), disk.end(), [&](Cell near) {
                return clear.test(near) || std::find(body.begin(), body.end(), near) != body.end();
              });
            });
          }};
}

Rule reached_within(const Field& field, Hundredths cost) {
  return {"within reach", [&field, cost](std::span<const Cell> body) {
            const Size size = field.board().size;
            return any_within(field.board().tiling, body, 1, size,
                              [&](Cell cell) { return field.reached(cell) && field.cost(cell) <= cost; });
          }};
}

Rule seen_from(const SightGrid& sight, Cell from, std::optional<Hundredths> range) {
  return {"seen", [&sight, from, range](std::span<const Cell> body) {
            return std::any_of(body.begin(), body.end(), [&](Cell cell) {
              const bool far = range && distance_squared(sight.board().tiling, from, cell) > farthest_squared(*range);
              return !far && sees(sight, from, cell);
            });
          }};
}

Rule in_region(const Regions& regions, std::uint32_t id) {
  return {"in region " + std::to_string(id), [&regions, id](std::span<const Cell> body) {
            return std::all_of(body.begin(), body.end(), [&](Cell cell) { return regions.at(cell) == id; });
          }};
}

}  // namespace saunter::inline v0_2
