/// @file
/// A field or a reach that is made or repaired a little at a time.
///
/// Units: costs in hundredths, cells counted.
/// Errors: a grid changed under way ends it: stale().
/// Cost: as the field it makes; memory is kept.
/// Threads: one at a time; each thread its own.
#pragma once

#include <memory>
#include <span>

#include "saunter/grid/visible.hpp"
#include "saunter/search/field.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// One field under way: as many cells a call as its owner allows, so that a large one is spread over frames. When it
/// has ended the field equals one that Searcher made at once. `Shares` (live/shares.hpp) gives several of them turns
/// within one frame's budget.
///
/// The grid and the field must outlive the work and stay where they are. Until the end the field is `made_from` no
/// grid; giving it up leaves nothing else behind, and Searcher::repair makes such a field anew.
class SteppedField {
 public:
  SteppedField();
  ~SteppedField();
  SteppedField(SteppedField&&) noexcept;
  SteppedField& operator=(SteppedField&&) noexcept;

  /// Begins a field to goals, or a reach from starts. O(cells), a few bytes a cell are cleared.
  void begin_field_to(const CostGrid& costs, std::span<const Source> goals, Field& out,
                      const FieldOptions& options = {});
  void begin_reach(const CostGrid& costs, std::span<const Source> starts, Field& out, const FieldOptions& options = {});
  /// Begins what Searcher::repair does. O(cells of the changed blocks log cells)
  void begin_repair(const CostGrid& costs, Field& field);

  /// Looks at so many cells. @return whether the field has ended. @pre !stale(); stale work does nothing more, and says
  /// that it has ended
  bool run(std::uint64_t cells = 1);
  [[nodiscard]] bool ended() const;
  /// Whether it must begin anew: it has not begun, or its grid has changed since.
  [[nodiscard]] bool stale() const;
  /// Cells looked at so far.
  [[nodiscard]] std::uint64_t looked_at() const;
  /// Costs below this are final in a field that is being made; of a repair nothing is before it has ended.
  [[nodiscard]] Cost settled() const;
  /// Bytes of scratch memory.
  [[nodiscard]] std::size_t memory() const;

 private:
  friend class Searcher;
  class Work;
  std::unique_ptr<Work> work_;
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
