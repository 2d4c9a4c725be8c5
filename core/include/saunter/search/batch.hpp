/// @file
/// Many routes at once, over the caller's threads.
#pragma once

#include <algorithm>
#include <atomic>
#include <concepts>
#include <span>
#include <vector>

#include "saunter/grid/visible.hpp"
#include "saunter/search/searcher.hpp"

namespace saunter SAUNTER_VISIBLE {

struct RouteQuestion {
  Cell from;
  Cell to;
};

/// Answers lists of route queries over several lanes, each with a searcher of its own. Which lane answers what depends
/// on the threads; the answers do not: they are those of one searcher asked in turn.
///
/// The caller brings the threads: an executor is anything that can be called as `executor(lanes, job)` and then calls
/// `job(lane)` once for each lane 0 .. lanes - 1, on whatever threads, and returns when all have returned. For example,
/// with the caller's own pool:
/// ```cpp
/// batch.routes(costs, questions, answers, [&](std::size_t lanes, auto job) { pool.for_each(lanes, job); });
/// ```
/// `in_turn` needs no threads; `saunter::tbb_lanes` of the target saunter::tbb is ready to use.
/// Keep the batch between calls: its searchers and the answers' memory are used again.
class Batch {
 public:
  /// @param lanes  how many run at the same time at most, at least 1
  explicit Batch(std::size_t lanes) : searchers_(std::max<std::size_t>(1, lanes)) {}
  [[nodiscard]] std::size_t lanes() const { return searchers_.size(); }

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
    executor(lanes(), [&](std::size_t lane) {
      for (;;) {
        // A few at a time: lanes meet rarely, and none is left with much more than the others.
        const std::size_t first = next.fetch_add(few, std::memory_order_relaxed);
        if (first >= count) return;
        for (std::size_t i = first; i < std::min(first + few, count); ++i) {
          answers[i] = searchers_[lane].route(costs, questions[i].from, questions[i].to, untraced);
        }
      }
    });
  }

  /// The executor that has no threads: one lane after the other.
  static constexpr auto in_turn = [](std::size_t lanes, auto&& job) {
    for (std::size_t lane = 0; lane < lanes; ++lane) job(lane);
  };

 private:
  static constexpr std::size_t few = 4;
  std::vector<Searcher> searchers_;
};

}  // namespace saunter SAUNTER_VISIBLE
