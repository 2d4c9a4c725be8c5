#include "saunter/threat/wary.hpp"

#include <algorithm>

#include "lingering.hpp"
#include "usable_ends.hpp"
#include "wary_search.hpp"

namespace saunter::inline v0_2 {
using namespace detail;

Exposure exposure_of(const CostGrid& costs, const Levels& levels, std::span<const Cell> cells, const Wariness& care,
                     std::uint32_t exposed_before) {
  const Scale scale(care);
  Exposure sum;
  unsigned run = std::min(exposed_before, most_in_a_row);
  std::uint32_t stretch = 0;
  std::uint64_t stretch_cost = 0;
  for (std::size_t i = 1; i < cells.size(); ++i) {
    const Tiling tiling = costs.tiling();
    const Direction d = tiling.direction(cells[i - 1], cells[i]);
    SAUNTER_EXPECT(d >= 0);
    if (d < 0) continue;
    const Length length = costs.step_length(tiling.kind(cells[i - 1]), d);
    const EntryCost entry = costs.entry(cells[i]);
    const std::uint16_t level = levels[cells[i]];
    const Cost cost = step_cost(length, entry);
    run = run_after(run, level);
    sum.cost += cost;
    sum.exposure += std::uint64_t{level} * length;
    sum.weighed += scale(length, entry, level, run);
    stretch = level == 0 ? 0 : stretch + 1;
    stretch_cost = level == 0 ? 0 : stretch_cost + cost;
    sum.longest = std::max(sum.longest, stretch);
    sum.longest_cost = std::max(sum.longest_cost, stretch_cost);
    (level == 0 ? sum.covered_steps : sum.exposed_steps) += 1;
  }
  return sum;
}

WarySearcher::WarySearcher() : memory_(std::make_unique<Memory>()) {}
WarySearcher::~WarySearcher() = default;
WarySearcher::WarySearcher(WarySearcher&&) noexcept = default;
WarySearcher& WarySearcher::operator=(WarySearcher&&) noexcept = default;

std::size_t WarySearcher::memory() const {
  return bytes_of(memory_->labels, route_.cells_) + memory_->marks.memory() + memory_->queue.memory() +
         memory_->by_cost.memory() + memory_->dead_ends.memory() + memory_->goals.memory();
}

std::optional<Cell> WaryQuestion::nearest_when_apart() const {
  const Estimate estimate(costs, to);
  Nearest nearest(from, estimate(from));
  const auto onward = [&](Cell cell, const auto& take) {
    for_each_next(costs.tiling(), costs.moves(cell), cell, [&](Cell next) {
      if (!options.care.highest || levels[next] <= *options.care.highest) take(next);
    });
  };
  const auto arrives = [&](Cell cell) { return cell == to; };
  if (leads_to(costs.size(), std::span<const Cell>(&from, 1), onward, arrives, estimate, nearest)) return std::nullopt;
  return nearest.cell();
}

/// Without linger a level adds the same to every step into its cell: a search by cost, with other prices.
class WarySearcher::Weighing {
 public:
  Weighing(Memory& memory, WaryRoute& route, const WaryQuestion& asked)
      : memory_(memory),
        route_(route),
        asked_(asked),
        danger_{asked.levels.values(), Length{asked.options.care.wary},
                asked.options.care.highest.value_or(std::numeric_limits<std::uint16_t>::max())} {}

  void run() {
    Question question = this->question();
    question.limit = asked_.options.limit;
    if (asked_.options.strike_dead_ends) {
      strike_dead_ends();
      const Beyond beyond{memory_.ground, memory_.goals, {}, &memory_.dead_ends};
      question.beyond = &beyond;
      answer(question);
    } else {
      answer(question);
    }
  }

 private:
  [[nodiscard]] Question question() const {
    return {.costs = asked_.costs,
            .from = asked_.from,
            .to = asked_.to,
            .bound = static_cast<Cost>(asked_.bound()),
            .limit = ~std::uint64_t{0},
            .danger = &danger_};
  }
  void strike_dead_ends() {
    memory_.ground.begin(asked_.costs, {});
    (void)memory_.goals.begin(asked_.costs, memory_.ground, std::span<const Cell>(&asked_.to, 1), 0, false);
    memory_.dead_ends.strike(asked_.costs, memory_.ground,
                             [&](Cell cell) { return cell == asked_.from || cell == asked_.to; });
  }
  void answer(const Question& question) {
    const Ending ending = memory_.by_cost.run(question);
    route_.expanded_ = ending.expanded;
    if (ending.reason == Reason::found) {
      memory_.by_cost.write_way_back(question, ending.at, route_.cells_);
      std::reverse(route_.cells_.begin(), route_.cells_.end());
      return;
    }
    // A search that leaves out dead ends has not seen all cells.
    const bool cut = ending.cut || (asked_.options.strike_dead_ends && asked_.options.budget);
    const Reason reason = ending.reason == Reason::stopped ? Reason::stopped : asked_.reason(cut);
    const bool may_be_apart =
        reason == Reason::cost_overflow || (reason == Reason::no_way && asked_.options.strike_dead_ends);
    const std::optional<Cell> apart = may_be_apart ? asked_.nearest_when_apart() : std::nullopt;
    if (apart) {
      route_.verdict_ = {Reason::no_way, *apart};
      return;
    }
    // All whose least sum fits, which a search that was guided has not seen.
    if (cut) survey();
    Question named = question;
    if (cut) named.beyond = nullptr;
    const bool all_of_it = reason == Reason::over_budget && !memory_.by_cost.leads_out(named);
    route_.verdict_ = {all_of_it ? Reason::no_way : reason, memory_.by_cost.nearest(named)};
  }
  void survey() {
    Question all = question();
    all.guided = false;
    (void)memory_.by_cost.run(all);
  }

  Memory& memory_;
  WaryRoute& route_;
  const WaryQuestion& asked_;
  const Danger danger_;
};

const WaryRoute& WarySearcher::route(const CostGrid& costs, const Levels& levels, Cell from, Cell to,
                                     const WaryOptions& options) & {
  SAUNTER_EXPECT(levels.size() == costs.size() && options.limit > 0 && options.care.linger <= 65'535);
  SAUNTER_EXPECT(!options.strike_dead_ends || options.care.linger == 0);
  if (levels.size() != costs.size()) return route(costs, levels_of_size(levels, costs.size()), from, to, options);
  WaryOptions asked = options;
  asked.limit = std::max<std::uint64_t>(asked.limit, 1);
  if (asked.care.linger > 0) asked.strike_dead_ends = false;
  route_.cells_.clear();
  route_.measure_ = {};
  route_.expanded_ = 0;
  route_.verdict_ = {};  // should an exception cut the search short
  const Verdict ends = unusable_end(costs, levels, asked.care.highest, from, to);
  if (ends.reason != Reason::found) {
    route_.verdict_ = ends;
    return route_;
  }
  const WaryQuestion question{costs, levels, from, to, asked};
  if (asked.care.linger > 0) {
    Lingering(*memory_, route_, question).run();
  } else {
    Weighing(*memory_, route_, question).run();
  }
  if (!route_.cells_.empty()) {
    route_.measure_ = exposure_of(costs, levels, route_.cells_, asked.care, asked.exposed_before);
    route_.verdict_ = {Reason::found, to};
  }
  return route_;
}

}  // namespace saunter::inline v0_2
