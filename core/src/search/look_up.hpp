/// @file
/// Questions that a prepared map answers without a route.
#pragma once

#include "prepared/prepared_answer.hpp"
#include "saunter/search/searcher.hpp"

namespace saunter::inline v0_2 {
namespace detail {

/// Memory of such questions.
struct LookUpScratch {
  bool reading = false;                // whether a route is being read part by part; any other question ends that
  bool by_index = false;               // whether its parts come from the index
  std::shared_ptr<const void> keeper;  // of that index
  StraightParts straight;
  std::vector<PreparedGoal> goals;
  std::vector<Cost> row;

  [[nodiscard]] std::size_t memory() const {
    std::size_t bytes = bytes_of(goals, row);
    for (const PreparedGoal& goal : goals) bytes += goal.memory();
    return bytes;
  }
};

}  // namespace detail

/// One such question.
class Searcher::LookUp {
 public:
  LookUp(Searcher& searcher, const CostGrid& costs, const Prepared& prepared)
      : searcher_(searcher), costs_(costs), prepared_(prepared) {}

  /// From the index, else from a search.
  Cost cost(Cell from, Cell to);
  Cost begin_legs(Cell from, Cell to);
  void table(std::span<const Cell> from, std::span<const Cell> goals, std::span<Cost> out);
  void nearest(Cell from, std::span<const Cell> goals, std::size_t most, std::vector<NearGoal>& out);

 private:
  Searcher& searcher_;
  const CostGrid& costs_;
  const Prepared& prepared_;
};

}  // namespace saunter::inline v0_2
