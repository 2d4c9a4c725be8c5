#include "turn_floods.hpp"

namespace saunter::inline v0_2::detail {

void TurnFloods::begin() {
  sets_.begin(0);
  contested_.clear();
  contest_ends_.clear();
}

std::uint32_t TurnFloods::add() {
  const std::uint32_t number = sets_.add();
  if (floods_.size() <= number) floods_.emplace_back();
  floods_[number].line.clear();
  floods_[number].done = 0;
  return number;
}

void TurnFloods::contest(std::span<const std::uint32_t> floods) {
  contested_.insert(contested_.end(), floods.begin(), floods.end());
  contest_ends_.push_back(contested_.size());
}

bool TurnFloods::choose_active() {
  active_.assign(size(), false);
  open_ends_.assign(size(), 0);
  for (std::uint32_t flood = 0; flood < size(); ++flood) {
    if (!floods_[flood].ended()) ++open_ends_[set_of(flood)];
  }
  bool any = false;
  std::size_t from = 0;
  for (const std::size_t to : contest_ends_) {
    const std::span<const std::uint32_t> floods = std::span(contested_).subspan(from, to - from);
    from = to;
    std::uint32_t one = size();
    bool apart = false;
    for (const std::uint32_t flood : floods) {
      const std::uint32_t set = set_of(flood);
      if (open_ends_[set] == 0 || set == one) continue;
      apart = apart || one != size();
      one = set;
    }
    if (!apart) continue;
    any = true;
    for (const std::uint32_t flood : floods) active_[flood] = true;
  }
  return any;
}

}  // namespace saunter::inline v0_2::detail
