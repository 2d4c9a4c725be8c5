/// @file
/// Ways that weigh danger: the words for it, and the answer to `route` when one of them is used.
#pragma once

#include "saunter/threat/front.hpp"
#include "shared.hpp"

namespace saunter::app {

struct WaryWords {
  std::string wary;
  std::string linger;
  std::optional<std::int64_t> max_threat;

  [[nodiscard]] bool any() const { return !wary.empty() || !linger.empty() || max_threat; }
};
void add_wary(CLI::App& command, WaryWords& words);
[[nodiscard]] Wariness parse_wariness(const WaryWords& words);

/// A question with one start and one goal.
struct WaryQuestion {
  Common common;
  Walker walker;
  Cell from;
  Cell to;
  WaryWords words;
  bool front = false;
  std::optional<Cost> budget;
  std::optional<std::uint64_t> limit;
};
[[nodiscard]] Answer wary_route(const WaryQuestion& question);

}  // namespace saunter::app
