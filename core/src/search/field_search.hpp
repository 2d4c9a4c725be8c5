/// @file
/// How fields are computed.
#pragma once

#include <span>
#include <vector>

#include "bucket_queue.hpp"
#include "saunter/search/field.hpp"

namespace saunter {

/// Memory a field search works in, kept between searches.
struct FieldScratch {
  BucketQueue queue;
  std::vector<BucketQueue::Entry> waiting;  // sources not in the queue yet, by cost
  std::vector<std::uint32_t> order;         // cells as they were settled
};

/// In which direction units travel along the field.
enum class Travel : std::uint8_t { to_sources, from_sources };

/// One field under way: Dijkstra's search from all sources at once, against the travel when it leads to them.
class FieldSearch {
 public:
  FieldSearch(FieldScratch& scratch, Field& field, const CostGrid& costs, Travel travel)
      : scratch_(scratch), field_(field), costs_(costs), hood_(costs.tiling().neighbourhood()), travel_(travel) {}

  void run(std::span<const Source> sources, const FieldOptions& options);

 private:
  /// The steps at a cell: those that leave it, or those that arrive from its neighbours.
  enum class Steps : std::uint8_t { leaving, arriving };

  void prepare();
  void add_source(const Source& source, std::size_t number);
  void relax_around(Cell cell, Cost cost_here);
  [[nodiscard]] bool leaves_cells_out() const;
  void tell_directions(std::span<const Source> sources);
  /// Calls visit(neighbour, its index, direction towards it, step cost) for each legal step.
  template <typename Visitor>
  void for_each_step(Cell cell, Steps steps, Visitor&& visit) const;

  FieldScratch& scratch_;
  Field& field_;
  const CostGrid& costs_;
  const Neighbourhood& hood_;
  Travel travel_;
  Cost bound_ = max_cost;
  bool budgeted_ = false;
  bool overflow_seen_ = false;
};

}  // namespace saunter
