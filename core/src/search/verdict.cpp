#include "saunter/search/verdict.hpp"

namespace saunter::inline v0_2 {

std::string_view reason_name(Reason reason) {
  switch (reason) {
    case Reason::found: return "found";
    case Reason::start_off_map: return "start-off-map";
    case Reason::start_blocked: return "start-blocked";
    case Reason::goal_off_map: return "goal-off-map";
    case Reason::goal_blocked: return "goal-blocked";
    case Reason::no_way: return "no-way";
    case Reason::over_budget: return "over-budget";
    case Reason::stopped: return "stopped";
    case Reason::cost_overflow: return "cost-overflow";
    case Reason::not_asked: return "not-asked";
  }
  return "";
}

std::string to_string(const Verdict& verdict) {
  std::string text(reason_name(verdict.reason));
  if (verdict.reason == Reason::found || verdict.reason == Reason::not_asked) return text;
  return text + " at " + std::to_string(verdict.at.col) + "," + std::to_string(verdict.at.row);
}

}  // namespace saunter::inline v0_2
