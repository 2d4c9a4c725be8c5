/// @file
/// Routes that weigh danger: the words for it, and the answer to `route` when one of them is used.
#pragma once

#include "saunter/threat/front.hpp"
#include "shared.hpp"

namespace saunter::app {

struct WaryWords {
  std::optional<Hundredths> wary;
  std::optional<Hundredths> linger;
  std::optional<std::uint16_t> max_threat;

  void add_words(Words& words);
  [[nodiscard]] bool any() const { return wary || linger || max_threat; }
  [[nodiscard]] Wariness care() const {
    return {.wary = wary.value_or(0_steps), .linger = linger.value_or(0_steps), .highest = max_threat};
  }
};

/// A question with one start and one goal.
struct WaryQuestion {
  Cell from;
  Cell to;
  WaryWords words;
  bool front = false;
  std::optional<Hundredths> budget;
  std::optional<std::uint64_t> limit;
  bool strike_dead_ends = false;
  std::optional<std::uint32_t> tick = {};  // at which it sets out; nothing: danger as it is at tick 0
};

/// Answers `route`, or the front of all routes worth choosing from. Stays where it is: the picture points into it.
class WaryAnswer {
 public:
  WaryAnswer(const Common& common, const MoverWords& words, WaryQuestion question);
  [[nodiscard]] Answer answer();

 private:
  void ask();
  void ask_by_ticks();
  void ask_front();
  void tell_route(Answer& answer) const;
  void tell_front(Answer& answer) const;
  [[nodiscard]] draw::Picture picture() const;
  void show_by_ticks(draw::Picture& picture) const;
  [[nodiscard]] bool found() const { return verdict_.reason == Reason::found; }

  WaryQuestion question_;
  Ready ready_;
  Watch watch_;
  Levels levels_;
  Front front_;
  std::size_t chosen_ = 0;  // of the front
  // The route shown: of the search, or chosen from the front.
  Verdict verdict_;
  std::vector<Cell> cells_;
  Exposure measure_;
  std::uint64_t expanded_ = 0;
  std::size_t waits_ = 0;
};

}  // namespace saunter::app
