/// @file
/// Placing things: the words of `fit` and `scatter`, and what they ask about.
#pragma once

#include "saunter/place/scatter.hpp"
#include "shared.hpp"

namespace saunter::app {

/// What a place has to be like.
struct PlacingWords {
  std::string mover;
  std::optional<std::int64_t> max_threat;
  std::optional<int> flatness;
  std::vector<std::string> keep_open;
  std::vector<std::string> rules;
  std::string rule_set;
};
void add_placing(CLI::App& command, PlacingWords& words);

/// A scenario made ready for questions about placing. Stays where it is: terms and pictures point into it.
struct Placing {
  io::Scenario scenario;
  std::vector<draw::Thing> things;
  const Mover* mover = nullptr;
  CostGrid costs;
  std::optional<Regions> regions;
  Watch watch;                     // only where a level is asked for
  std::optional<SightGrid> sight;  // only where a rule looks
  std::string hidden_unit;         // stands nowhere for these questions
  Occupancy occupancy;
  // What rules look at, for as long as they live.
  std::vector<std::unique_ptr<BitGrid>> cells;
  std::vector<std::unique_ptr<Field>> fields;
  std::vector<Rule> rules;
  std::vector<Cell> keep_open;
  FitTerms terms;
  Fitter fitter;

  Placing() = default;
  ~Placing() = default;
  Placing(const Placing&) = delete;
  Placing& operator=(const Placing&) = delete;

  /// @param unit  stands nowhere for these questions; "" for none. @pre the scenario is loaded
  void prepare(const PlacingWords& words, const std::string& unit = {});
  [[nodiscard]] draw::Picture picture() const;
};

/// "xx/x." by rows, or on hexes "0,0 1,0" by offsets.
[[nodiscard]] Footprint parse_footprint(const std::string& text, Tiling tiling);

}  // namespace saunter::app
