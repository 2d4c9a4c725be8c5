/// @file
/// Rules for placing things, in words.
///
/// Units: edge steps, costs in hundredths.
/// Errors: words that are no rule give nothing.
/// Cost: O(length), allocates names.
/// Threads: any number, nothing is shared.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "saunter/grid/cell.hpp"
#include "saunter/grid/visible.hpp"
#include "saunter/ground/cost.hpp"

namespace saunter::inline v0_2 {
namespace io SAUNTER_VISIBLE {

/// A rule as it is written, taken apart: "against-wall:2", "away-from:channel:3", "seen-from:4,5", "reach:4,5:12".
struct RuleWords {
  enum class Kind : std::uint8_t { against_wall, margin, away_from, near_to, seen_from, unseen_from, reach };
  Kind kind = Kind::margin;
  std::string text = {};  ///< as written
  std::string name = {};  ///< of a terrain or a unit: away_from, near_to
  Cell cell = {};         ///< seen_from, unseen_from, reach
  int steps = 0;          ///< edges or edge steps, 0 .. 100
  Cost cost = 0;          ///< reach, hundredths
};

inline constexpr const char* rule_words_expected =
    "against-wall:N, away-from:NAME:N, near:NAME:N, margin:N, seen-from:c,r, unseen-from:c,r or reach:c,r:COST";

/// "12.5" in hundredths: digits, perhaps a point and one or two digits more, exact for every size; else nothing.
[[nodiscard]] std::optional<std::int64_t> parse_hundredths(const std::string& text);

/// Takes a rule apart, or nothing when it is none of those. Names and cells are not looked up.
[[nodiscard]] std::optional<RuleWords> parse_rule_words(const std::string& text);

/// Rules under a name: those of the unit so called, or for whatever is asked with that name.
struct RuleSet {
  std::string name = {};
  std::vector<RuleWords> rules = {};
};

}  // namespace io SAUNTER_VISIBLE
}  // namespace saunter::inline v0_2
