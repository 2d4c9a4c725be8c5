/// @file
/// The workers of a batch on the threads of oneTBB. Target saunter::tbb; core does not need it.
///
/// Units: tasks counted.
/// Errors: exceptions of a task pass through.
/// Cost: one task a worker.
/// Threads: those of oneTBB.
#pragma once

#include <oneapi/tbb/parallel_for.h>

#include <cstddef>

namespace saunter {

/// An executor for `Batch`: runs each worker as a task of its own. Waits for all.
inline constexpr auto tbb_workers = [](std::size_t workers, const auto& job) {
  oneapi::tbb::parallel_for(
      std::size_t{0}, workers, [&](std::size_t worker) { job(worker); }, oneapi::tbb::simple_partitioner());
};

}  // namespace saunter
