/// @file
/// How fields are computed.
#pragma once

#include <span>
#include <vector>

#include "bucket_queue.hpp"
#include "onward.hpp"
#include "saunter/search/field.hpp"

namespace saunter {

/// Memory a field search works in, kept between searches.
struct FieldScratch {
  BucketQueue queue;
  Onward onward;
  std::vector<BucketQueue::Entry> waiting;  // sources not in the queue yet, by cost
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
  void prepare(std::span<const Source> sources);
  void add_source(const Source& source, std::size_t number);
  /// Settles every cell in reach. @tparam asked  barriers or height limits take part, so that the steps that arrive at
  /// a cell must be asked for at its neighbours
  template <Travel travel, bool asked, bool many>
  void settle_all();
  /// Calls visit(direction) for each legal step at a cell among those wanted: those that leave it, or those that arrive
  /// there.
  template <Travel travel, bool asked, typename Visitor>
  void for_each_step(Cell cell, unsigned kind, unsigned wanted, Visitor&& visit) const;
  [[nodiscard]] bool leaves_cells_out() const;

  FieldScratch& scratch_;
  Field& field_;
  const CostGrid& costs_;
  const Neighbourhood& hood_;
  Travel travel_;
  Cost bound_ = max_cost;
  bool count_steps_ = false;
  bool budgeted_ = false;
  bool overflow_seen_ = false;
};

}  // namespace saunter
