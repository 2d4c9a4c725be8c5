/// @file
/// Processor time, and what many measurements come to.
#pragma once

#include <algorithm>
#include <ctime>
#include <vector>

namespace saunter::bench {

/// Processor time of this thread, in microseconds.
inline double now() {
  timespec time = {};
  clock_gettime(CLOCK_THREAD_CPUTIME_ID, &time);
  return static_cast<double>(time.tv_sec) * 1e6 + static_cast<double>(time.tv_nsec) * 1e-3;
}
template <typename Work>
double micros(Work&& work) {
  const double begin = now();
  work();
  return now() - begin;
}

struct Times {
  std::vector<double> all;
  void add(double time) { all.push_back(time); }
  [[nodiscard]] double mean() const {
    double sum = 0;
    for (const double time : all) sum += time;
    return all.empty() ? 0 : sum / static_cast<double>(all.size());
  }
  [[nodiscard]] double part(double share) {
    if (all.empty()) return 0;
    std::sort(all.begin(), all.end());
    return all[std::min(all.size() - 1, static_cast<std::size_t>(share * static_cast<double>(all.size())))];
  }
};

}  // namespace saunter::bench
