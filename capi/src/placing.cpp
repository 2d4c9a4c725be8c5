// Placing units, checking paths.
#include "handles.hpp"
#include "saunter/check/inspect.hpp"
#include "saunter/io/rule_maker.hpp"
#include "saunter/place/fit.hpp"

using namespace saunter;
using namespace saunter::c;

namespace {

/// A scenario made ready for placing one of its units, with the unit's own rules.
class Placing {
 public:
  Placing(const io::Scenario& scenario, const io::Unit& unit)
      : occupancy_(scenario.occupancy()), maker_(scenario, terms_, unit.name) {
    terms_.map = &scenario.map;
    terms_.self = static_cast<UnitId>(&unit - scenario.units.data() + 1);
    terms_.units = &occupancy_;
    if (const io::RuleSet* const own = scenario.find_rules(unit.name)) {
      for (const io::RuleWords& words : own->rules) {
        std::optional<Rule> rule = maker_.make(words);
        if (!rule) fail(SAUNTER_BAD_ARGUMENT, "unit: found with rule \"" + words.text + "\", which needs a mover");
        rules_.push_back(std::move(*rule));
      }
    }
    terms_.rules = rules_;
  }

  [[nodiscard]] std::vector<FitProblem> problems(const io::Unit& unit, const Pose& pose) {
    return fitter_.problems(terms_, unit.footprint, pose);
  }
  [[nodiscard]] BitGrid spots(const io::Unit& unit, int turn) { return fitter_.spots(terms_, unit.footprint, turn); }

 private:
  Occupancy occupancy_;
  FitTerms terms_;
  io::RuleMaker maker_;
  std::vector<Rule> rules_;
  Fitter fitter_;
};

void expect_room(const saunter_problem* problems, size_t capacity) {
  if (capacity > 0) expect_given(problems, "problems");
}

}  // namespace

saunter_status saunter_fits(const saunter_scenario* scenario, const char* unit, saunter_cell at, int32_t turn,
                            saunter_problem* problems, size_t capacity, size_t* count) {
  return guarded([&] {
    const io::Scenario& told = held(scenario, "scenario").scenario;
    const io::Unit& who = unit_of(told, unit);
    expect_turn(told.map.tiling(), turn);
    expect_room(problems, capacity);
    const std::vector<FitProblem> found = Placing(told, who).problems(who, {cell_of(at), turn, false});
    if (count != nullptr) *count = found.size();
    for (std::size_t i = 0; i < std::min(capacity, found.size()); ++i) {
      const char* const by = found[i].by == 0 ? nullptr : told.units[found[i].by - 1].name.c_str();
      problems[i] = {fault_name(found[i].why).data(), to_c(found[i].at), -1, by};
    }
    return found.empty() ? SAUNTER_OK : SAUNTER_NO;
  });
}

saunter_status saunter_spots(const saunter_scenario* scenario, const char* unit, int32_t turn, uint8_t* out,
                             size_t array_size) {
  return guarded([&] {
    const io::Scenario& told = held(scenario, "scenario").scenario;
    const io::Unit& who = unit_of(told, unit);
    expect_turn(told.map.tiling(), turn);
    expect_given(out, "out");
    expect_count(array_size, told.map.size().cell_count(), "out");
    const BitGrid spots = Placing(told, who).spots(who, turn);
    bool any = false;
    for (const Cell cell : told.map.size().cells()) {
      *out++ = spots.test(cell) ? 1 : 0;
      any |= spots.test(cell);
    }
    return any ? SAUNTER_OK : SAUNTER_NO;
  });
}

saunter_status saunter_scenario_put_unit(saunter_scenario* scenario, const char* unit, saunter_cell at, int32_t turn) {
  const saunter_status fits = saunter_fits(scenario, unit, at, turn, nullptr, 0, nullptr);
  if (fits != SAUNTER_OK) return fits;
  return guarded([&] {
    io::Scenario& told = held(scenario, "scenario").scenario;
    const io::Unit& known = unit_of(told, unit);
    io::Unit& who = told.units[static_cast<std::size_t>(&known - told.units.data())];
    std::vector<Cell> cells;
    cells_in_pose(told.map.tiling(), who.footprint, {cell_of(at), turn, false}, cells);
    who.cells = std::move(cells);
    who.at = cell_of(at);
    who.turn = turn;
    return SAUNTER_OK;
  });
}

saunter_status saunter_check_path(const saunter_scenario* scenario, const char* mover, const saunter_cell* cells,
                                  size_t cell_count, saunter_problem* problems, size_t capacity, size_t* count,
                                  uint64_t* cost) {
  return guarded([&] {
    const io::Scenario& told = held(scenario, "scenario").scenario;
    expect_given(cells, "cells");
    if (cell_count == 0) fail(SAUNTER_BAD_ARGUMENT, "cells: found none, expected at least one");
    expect_room(problems, capacity);
    const Mover& who = told.movers[mover_number(told.movers, mover)];
    const BitGrid occupied = told.occupied();
    const CostGrid costs = bake(told.map, who, &occupied);
    const Occupancy standing = told.occupancy();
    const InspectOptions with{.occupied = &occupied, .units = standing.layer(0)};
    const Inspection found = inspect_path(told.map, who, costs, cells_of(cells, cell_count), with);
    if (count != nullptr) *count = found.problems.size();
    if (cost != nullptr) *cost = found.measure.cost;
    for (std::size_t i = 0; i < std::min(capacity, found.problems.size()); ++i) {
      const PathProblem& problem = found.problems[i];
      const bool unit = problem.by.kind == InTheWay::Kind::unit && problem.by.number >= 1;
      problems[i] = {fault_name(problem.why).data(), to_c(problem.at), static_cast<std::int64_t>(problem.step),
                     unit ? told.units[problem.by.number - 1].name.c_str() : nullptr};
    }
    return found.ok() ? SAUNTER_OK : SAUNTER_NO;
  });
}
