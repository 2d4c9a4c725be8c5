/// @file
/// The caller's threads, as the inner parts see them.
#pragma once

#include <algorithm>
#include <atomic>
#include <cstddef>

namespace saunter::inline v0_2::detail {

/// An executor whose type is forgotten.
class Workers {
 public:
  using Call = void (*)(void* what, std::size_t worker);
  using Run = void (*)(void* executor, std::size_t workers, void* what, Call call);

  /// @param run  calls call(what, worker) once for each worker, on whatever threads, and returns when all have returned
  Workers(std::size_t count, void* executor, Run run)
      : count_(std::max<std::size_t>(1, count)), executor_(executor), run_(run) {}
  [[nodiscard]] std::size_t count() const { return count_; }

  /// Calls work(worker, i) for each i of first .. last - 1, some at a time on each worker.
  template <typename Work>
  void for_each(std::size_t first, std::size_t last, std::size_t at_a_time, Work&& work) const {
    if (count_ == 1 || last - first <= at_a_time) {
      for (std::size_t i = first; i < last; ++i) work(std::size_t{0}, i);
      return;
    }
    std::atomic<std::size_t> next{first};
    auto job = [&](std::size_t worker) {
      for (;;) {
        const std::size_t begin = next.fetch_add(at_a_time, std::memory_order_relaxed);
        if (begin >= last) return;
        for (std::size_t i = begin; i < std::min(begin + at_a_time, last); ++i) work(worker, i);
      }
    };
    run_(executor_, count_, &job, [](void* what, std::size_t worker) { (*static_cast<decltype(job)*>(what))(worker); });
  }

 private:
  std::size_t count_;
  void* executor_;
  Run run_;
};

}  // namespace saunter::inline v0_2::detail
