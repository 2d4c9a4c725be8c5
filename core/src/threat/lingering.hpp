/// @file
/// Wary searches in which danger weighs more the longer a unit is exposed.
#pragma once

#include "../search/kernel/pack.hpp"
#include "saunter/search/estimate.hpp"
#include "wary_search.hpp"

namespace saunter::inline v0_2 {

/// One question, by A* over cells and the number of exposed steps in a row.
class WarySearcher::Lingering {
 public:
  Lingering(Memory& memory, WaryRoute& route, const detail::WaryQuestion& asked);
  /// Writes the cells of the route, or the verdict.
  void run();

 private:
  using Label = Memory::Label;
  using Mark = Memory::Mark;

  bool run_dry();
  template <typename Guide>
  bool run_dry(const Guide& guide);
  template <typename Guide>
  void expand(std::uint32_t number, const Guide& guide);
  template <typename Guide>
  void reach(std::uint32_t packed, std::uint32_t index, std::uint32_t before, std::uint64_t cost, unsigned run,
             const Guide& guide);
  void write_way(std::uint32_t number);
  void end_without(Reason reason);
  void survey();
  [[nodiscard]] std::uint32_t index_of(std::uint32_t packed) const {
    return (packed >> 16U) * cols_ + (packed & 0xFFFFU);
  }

  Memory& memory_;
  WaryRoute& route_;
  const detail::WaryQuestion& asked_;
  const CostGrid& costs_;
  const Estimate estimate_;
  const detail::Scale scale_;
  const detail::StepTable table_;
  const std::span<const EntryCost> entry_;
  const std::span<const std::uint16_t> level_;
  const std::uint32_t cols_;
  const std::uint32_t goal_;  // packed
  const std::uint64_t bound_;
  const unsigned highest_;
  detail::Span expanded_;
  bool cut_ = false;
  bool surveys_ = false;  // no goal is wanted any more
};

}  // namespace saunter::inline v0_2
