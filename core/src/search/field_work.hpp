/// @file
/// How fields are repaired, and made a little at a time.
#pragma once

#include <array>
#include <optional>
#include <span>
#include <vector>

#include "field_ground.hpp"
#include "kernel/cell_queue.hpp"
#include "kernel/pack.hpp"
#include "saunter/search/searcher.hpp"
#include "saunter/search/stepped_field.hpp"

namespace saunter::inline v0_2 {

/// Work on one field, in five parts: cells whose every cheapest way is lost are forgotten (`lose`), what is left offers
/// its costs to them and to all that may have become cheaper (`pull`), costs spread (`settle`), with several sources
/// their numbers do (`name`). A field that is made anew begins with its sources at `settle`.
class SteppedField::Work {
 public:
  void begin(const CostGrid& costs, std::span<const Source> sources, Field& field, const FieldOptions& options,
             bool to_sources);
  void begin_repair(const CostGrid& costs, Field& field);
  bool run(std::uint64_t cells);
  [[nodiscard]] bool ended() const { return part_ == Part::none || stale(); }
  [[nodiscard]] bool stale() const { return costs_ == nullptr || !stamp_.same(costs_->stamp()); }
  [[nodiscard]] std::uint64_t looked_at() const { return looked_at_; }
  [[nodiscard]] Cost settled() const { return settled_; }
  /// Whether the repair has found that making the field anew is cheaper. It has ended then, and the field is
  /// unfinished.
  [[nodiscard]] bool gave_up() const { return gave_up_; }
  /// What a repair that gives up does: by slices it begins anew itself, else its owner has a faster way.
  bool makes_anew = true;
  [[nodiscard]] std::size_t memory() const;

 private:
  enum class Part : std::uint8_t { none, lose, pull, settle, name };
  /// A source by its place on the map, the best of each place first.
  struct Place {
    std::uint32_t index = 0;
    std::uint32_t number = 0;
  };

  void begin_anew();
  void prepare(const CostGrid& costs, Field& field);
  void list_sources();
  void seed(Rect block);
  void take_in_hand();
  void start(Part part);
  [[nodiscard]] const Source* source_at(std::uint32_t index) const;
  [[nodiscard]] unsigned supports(Cell cell) const;
  [[nodiscard]] unsigned leaners(Cell cell) const;
  /// What a step between two neighbours costs; lengths are the same both ways.
  [[nodiscard]] Cost step(unsigned kind, unsigned d, std::uint32_t leaner, std::uint32_t support) const {
    if (field_->count_steps_) return 100;
    const Length length = lengths_[kind][d];
    const std::uint32_t entered = field_->to_sources_ ? support : leaner;
    const EntryCost entry = limited_ ? ground_.entry(costs_->size().cell(CellIndex{entered})) : entries_[entered];
    return length == 100 ? entry : step_cost(length, entry);
  }
  /// The cheapest of what its neighbours and a source offer a cell.
  struct Offer {
    std::uint64_t cost = unreached;
    std::uint8_t direction = 255;
  };
  [[nodiscard]] Offer best_offer(Cell cell, std::uint32_t index);
  [[nodiscard]] bool still_leans(const detail::QueuedCell& taken, std::uint32_t index);

  template <typename Queue, typename Look>
  bool take_cells(Queue& queue, std::uint64_t& cells, Look&& look);
  template <typename Queue>
  bool lose(Queue& queue, std::uint64_t& cells);
  bool pull(std::uint64_t& cells);
  template <typename Queue>
  bool settle(Queue& queue, std::uint64_t& cells);
  template <typename Queue>
  bool name(Queue& queue, std::uint64_t& cells);
  void begin_naming();
  void end_part();
  void finish();
  [[nodiscard]] std::size_t resting_on_seeds(std::size_t limit);
  [[nodiscard]] bool too_much() const;
  void give_up();

  const CostGrid* costs_ = nullptr;
  Field* field_ = nullptr;
  // What the loops read most, at hand.
  Cost* known_ = nullptr;
  std::uint8_t* next_step_ = nullptr;
  const EntryCost* entries_ = nullptr;
  std::optional<detail::StepTable> steps_;
  std::array<std::array<Length, max_directions>, 2> lengths_ = {};

  Stamp stamp_;
  Part part_ = Part::none;
  bool repairs_ = false;
  bool gave_up_ = false;
  bool limited_ = false;  // its ground differs from the grid's, or it has an end
  bool beyond_ = false;   // a sum went beyond the bound
  Cost bound_ = max_cost;
  Cost wanted_ = max_cost;  // no more than the bound
  Cost settled_ = 0;
  std::size_t most_lost_ = 0;  // beyond it a repair gives up
  std::uint64_t looked_at_ = 0;
  std::size_t next_ = 0;  // of the list being gone through
  detail::FieldGround ground_;
  detail::CellQueues queues_;
  std::vector<detail::QueuedCell> waiting_;  // the cheapest first
  std::size_t fed_ = 0;
  std::vector<std::uint32_t> seeds_;  // packed: cells whose steps or costs may be others now
  std::vector<std::uint32_t> lost_;
  std::vector<std::uint32_t> touched_;  // settled
  std::vector<Place> places_;
};

}  // namespace saunter::inline v0_2
