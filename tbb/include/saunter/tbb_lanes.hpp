/// @file
/// The lanes of a batch on the threads of oneTBB. Target saunter::tbb; core does not need it.
#pragma once

#include <oneapi/tbb/parallel_for.h>

#include <cstddef>

namespace saunter {

/// An executor for `Batch`: runs each lane as a task of its own. Waits for all.
inline constexpr auto tbb_lanes = [](std::size_t lanes, const auto& job) {
  oneapi::tbb::parallel_for(
      std::size_t{0}, lanes, [&](std::size_t lane) { job(lane); }, oneapi::tbb::simple_partitioner());
};

}  // namespace saunter
