/// @file
/// How many cases a property test draws, and which. Names of tests tell the whole number.
#pragma once

#include <algorithm>
#include <chrono>
#include <concepts>
#include <cstdint>
#include <cstdlib>
#include <ostream>
#include <ranges>
#include <utility>

namespace saunter::test {

/// A whole number from the environment. It is read in one thread.
inline std::uint64_t number_of_environment(const char* name, std::uint64_t otherwise) {
  const char* const text = std::getenv(name);  // NOLINT(concurrency-mt-unsafe)
  return text == nullptr || *text == '\0' ? otherwise : std::strtoull(text, nullptr, 10);
}

/// SAUNTER_CASES percent of `whole`, a quarter where nothing is said; at least one.
inline std::uint64_t cases(std::uint64_t whole) {
  return std::max<std::uint64_t>(1, whole * number_of_environment("SAUNTER_CASES", 25) / 100);
}

/// The same for what a test counts while it draws them: of how many it must have met. Half as many of cases by chance:
/// other seeds than the first, or fewer of them.
struct Share {
  std::uint64_t least = 0;
  friend bool operator>(std::integral auto count, Share share) { return std::cmp_greater(count, share.least); }
  friend std::ostream& operator<<(std::ostream& out, Share share) { return out << share.least; }
};
inline Share share_of(std::uint64_t whole) {
  const bool as_written = cases(100) == 100 && number_of_environment("SAUNTER_SEED", 0) == 0;
  return {as_written ? whole : cases(whole) / 2};
}

/// The seeds of a test's cases: from SAUNTER_SEED on (0), which CI draws anew each day.
inline auto seeds(std::uint64_t whole) {
  const std::uint64_t first = number_of_environment("SAUNTER_SEED", 0) * 1'000'000 + 1;
  return std::views::iota(first, first + cases(whole));
}

/// Calls drive(seed) for so many seeds, then on for SAUNTER_DRIVE_SECONDS where they are told.
template <typename Drive>
void drive_on(std::uint64_t whole, Drive&& drive) {
  const std::uint64_t seconds = number_of_environment("SAUNTER_DRIVE_SECONDS", 0);
  const auto until = std::chrono::steady_clock::now() + std::chrono::seconds(seconds);
  std::uint64_t last = 0;
  for (const std::uint64_t seed : seeds(whole)) drive(last = seed);
  while (seconds > 0 && std::chrono::steady_clock::now() < until) drive(++last);
}

}  // namespace saunter::test
