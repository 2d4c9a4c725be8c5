/// @file
/// Placing units: the words of `fit` and `scatter`, and what they ask about.
#pragma once

#include "saunter/io/rule_maker.hpp"
#include "saunter/place/scatter.hpp"
#include "shared.hpp"

namespace saunter::app {

/// What a place has to be like.
struct PlacingWords {
  std::string mover;
  std::optional<std::uint16_t> max_threat;
  std::optional<int> flatness;
  std::vector<Cell> keep_open;
  std::vector<io::RuleWords> rules;
  std::string rule_set;

  void add_words(Words& words);
};

/// A scenario made ready for questions about placing. Stays where it is: terms and pictures point into it.
struct Placing {
  io::Scenario scenario;
  CostGrid costs;
  std::optional<Regions> regions;
  Watch watch;  // only where a level is asked for
  Occupancy occupancy;
  std::optional<io::RuleMaker> maker;
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

 private:
  void put_units(const std::string& unit);
  void make_rules(const PlacingWords& words, const std::string& unit);
  void add_rule(const io::RuleWords& words);
};

/// "xx/x." by rows, or on hexes "0,0 1,0" by offsets.
[[nodiscard]] Footprint parse_footprint(const std::string& text, Tiling tiling);

}  // namespace saunter::app
