/// @file
/// Rules of a scenario, from the words of its file to tests a fitter can ask.
///
/// Units: edge steps, costs in hundredths.
/// Errors: a reach rule without a mover gives nothing.
/// Cost: O(cells) a rule, a bit a cell; a reach rule a field.
/// Threads: one at a time; each thread its own.
#pragma once

#include <memory>
#include <optional>
#include <vector>

#include "saunter/grid/visible.hpp"
#include "saunter/io/scenario.hpp"
#include "saunter/place/fit.hpp"

namespace saunter::inline v0_2 {
namespace io SAUNTER_VISIBLE {

/// Makes rules and keeps what they look at: the rules it has made hold as long as it lives and nothing it was given
/// changes. Not copied or moved. One thread at a time.
class RuleMaker {
 public:
  /// @param scenario  where names are looked up
  /// @param terms  of the unit that is to be placed: `mover` decides what walls are and is needed by reach rules, with
  ///               `costs`; `units` and `self` tell what stands in its margin
  /// @param hidden_unit  a unit that hides nothing, "" for none. All must live as long as the maker
  RuleMaker(const Scenario& scenario, const FitTerms& terms, std::string hidden_unit = {})
      : scenario_(scenario), terms_(terms), hidden_unit_(std::move(hidden_unit)) {}
  RuleMaker(const RuleMaker&) = delete;
  RuleMaker& operator=(const RuleMaker&) = delete;

  /// The rule, named by its words; nothing when a reach rule finds no mover in the terms.
  /// @pre scenario.rule_problem(words) is empty
  /// @cost O(cells) for what it looks at, a bit a cell; a reach rule one field
  [[nodiscard]] std::optional<Rule> make(const RuleWords& words);

 private:
  const BitGrid& cells_named(const std::string& name);
  const BitGrid& walls(bool the_opposite);
  const SightGrid& sight();

  const Scenario& scenario_;
  const FitTerms& terms_;
  std::string hidden_unit_;
  std::optional<SightGrid> sight_;  // made when the first rule looks
  std::vector<std::unique_ptr<BitGrid>> cells_;
  std::vector<std::unique_ptr<Field>> fields_;
};

}  // namespace io SAUNTER_VISIBLE
}  // namespace saunter::inline v0_2
