/// @file
/// Movement by turns: the words of `reach` and `route --turns`, and what they ask about.
#pragma once

#include "saunter/turn/turn_route.hpp"
#include "shared.hpp"

namespace saunter::app {

/// Where a turn ends before its points do, and where it may not end.
struct TurnWords {
  std::vector<Cell> stops;
  std::vector<std::string> stops_around;
  std::vector<std::string> passed;

  void add_words(Words& words);
  [[nodiscard]] bool any() const { return !stops.empty() || !stops_around.empty() || !passed.empty(); }
};

/// The words on a map, for one mover.
struct Turning {
  std::vector<Cell> stop_cells;    // as pictures show them
  std::vector<Cell> passed_cells;  // under the units passed over
  BitGrid stops;                   // cells of ground
  BitGrid passed;

  /// Also bakes the mover's cost grid anew, without the units passed over.
  void make(const TurnWords& words, Ready& ready, const std::string& as_unit);
  [[nodiscard]] TurnTerms terms(std::optional<Hundredths> points) const {
    return {.points = points, .stops = &stops, .passed = &passed};
  }
};

/// A way over several turns.
struct TurnQuestion {
  Cell from;
  Cell to;
  Hundredths points;
  TurnWords words;
  std::optional<std::uint64_t> limit;
  std::vector<EntryChange> changes;
};

/// The answer to `route --turns`. Stays where it is: pictures point into it.
class AnswerByTurns {
 public:
  AnswerByTurns(const Common& common, const MoverWords& mover_words, TurnQuestion question);
  [[nodiscard]] Answer answer();

 private:
  [[nodiscard]] draw::Picture picture(const TurnRoute& route) const;
  [[nodiscard]] std::string text(const TurnRoute& route) const;

  TurnQuestion question_;
  Ready ready_;
  Turning turning_;
  TurnSearcher searcher_;
};

}  // namespace saunter::app
