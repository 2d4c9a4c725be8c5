/// @file
/// Many routes at once, over the caller's threads.
///
/// Units: those of the questions.
/// Errors: each question has its own verdict; exceptions pass through.
/// Cost: as single routes; routes are kept and used again.
/// Threads: the caller's executor; one batch at a time.
#pragma once

#include <algorithm>
#include <atomic>
#include <concepts>
#include <span>
#include <vector>

#include "saunter/grid/visible.hpp"
#include "saunter/search/searcher.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

struct RouteQuestion {
  Cell from;
  Cell to;
};

/// Answers lists of route queries over several workers, each with a searcher of its own. Which worker answers what
/// depends on the threads; the answers do not: they are those of one searcher asked in turn.
///
/// The caller brings the threads: an executor is anything that can be called as `executor(workers, job)` and then calls
/// `job(worker)` once for each worker 0 .. workers - 1, on whatever threads, and returns when all have returned. For
/// example, with the caller's own pool:
/// ```cpp
/// batch.routes(costs, questions, answers, {}, [&](std::size_t workers, auto job) { pool.for_each(workers, job); });
/// ```
/// `in_turn` needs no threads; `saunter::tbb_workers` of the target saunter::tbb is ready to use.
/// Keep the batch between calls: its searchers and the answers' memory are used again.
class Batch {
 public:
  /// @param workers  how many run at the same time at most, at least 1
  explicit Batch(std::size_t workers) : searchers_(std::max<std::size_t>(1, workers)) {}
  [[nodiscard]] std::size_t workers() const { return searchers_.size(); }

  /// @param answers  as many as questions; the routes in it are written over
  /// @pre no trace, else none is written; as many answers as questions, else the rest is left; the grid does not change
  /// meanwhile
  template <typename Executor>
  void routes(const CostGrid& costs, std::span<const RouteQuestion> questions, std::span<Route> answers,
              const RouteOptions& options, Executor&& executor) {
    SAUNTER_EXPECT(answers.size() == questions.size() && options.trace == nullptr);
    RouteOptions untraced = options;
    untraced.trace = nullptr;
    const std::size_t count = std::min(questions.size(), answers.size());
    std::atomic<std::size_t> next{0};
    executor(workers(), [&](std::size_t worker) {
      for (;;) {
        // A few at a time: workers meet rarely, and none is left with much more than the others.
        const std::size_t first = next.fetch_add(few, std::memory_order_relaxed);
        if (first >= count) return;
        for (std::size_t i = first; i < std::min(first + few, count); ++i) {
          answers[i] = searchers_[worker].route(costs, questions[i].from, questions[i].to, untraced);
        }
      }
    });
  }

  /// The executor that has no threads: one worker after the other.
  static constexpr auto in_turn = [](std::size_t workers, auto&& job) {
    for (std::size_t worker = 0; worker < workers; ++worker) job(worker);
  };

 private:
  static constexpr std::size_t few = 4;
  std::vector<Searcher> searchers_;
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
