#include "saunter/threat/wary.hpp"

#include <algorithm>
#include <array>
#include <bit>

#include "../search/kernel/best_first.hpp"
#include "../search/kernel/ends.hpp"
#include "../search/kernel/legal_steps.hpp"
#include "../search/kernel/queue.hpp"
#include "saunter/search/estimate.hpp"
#include "usable_ends.hpp"

namespace saunter {
using namespace detail;
namespace {

constexpr unsigned most_in_a_row = 8;

unsigned run_after(unsigned run, std::uint16_t level) { return level == 0 ? 0 : std::min(run + 1, most_in_a_row); }

/// What steps weigh, in hundredths, rounded half up once.
class Scale {
 public:
  explicit Scale(const Wariness& care) : wary_(Length{care.wary}) {
    factor_[0] = 0;
    for (unsigned run = 1; run <= most_in_a_row; ++run) {
      factor_[run] = 100 + std::min<std::uint64_t>(Length{care.linger}, 65'535) * (run - 1);
      most_[run] = cut / factor_[run];
    }
  }
  [[nodiscard]] std::uint64_t operator()(Length length, EntryCost entry, std::uint16_t level, unsigned run) const {
    const std::uint64_t danger = wary_ * level;
    const std::uint64_t weight = danger > most_[run] ? cut : danger * factor_[run];
    return (length * (std::uint64_t{entry} * 100 + weight) + 5000) / 10'000;
  }

 private:
  static constexpr std::uint64_t cut = std::uint64_t{1} << 47U;  // beyond it a step exceeds any sum that fits
  std::uint64_t wary_;
  std::array<std::uint64_t, most_in_a_row + 1> factor_ = {};
  std::array<std::uint64_t, most_in_a_row + 1> most_ = {};  // danger that stays below the cut
};

}  // namespace

Exposure exposure_of(const CostGrid& costs, const Levels& levels, std::span<const Cell> cells, const Wariness& care) {
  const Scale scale(care);
  Exposure sum;
  unsigned run = 0;
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

struct WarySearcher::Queue {
  RadixHeap<std::uint32_t> labels;  // last in first out among equals
};

WarySearcher::WarySearcher() : queue_(std::make_unique<Queue>()) {}
WarySearcher::~WarySearcher() = default;
WarySearcher::WarySearcher(WarySearcher&&) noexcept = default;
WarySearcher& WarySearcher::operator=(WarySearcher&&) noexcept = default;

/// One wary question.
class WarySearch {
 public:
  using Label = WarySearcher::Label;
  using Mark = WarySearcher::Mark;

  WarySearch(WarySearcher& home, const CostGrid& costs, const Levels& levels, Cell from, Cell to,
             const WaryOptions& options)
      : home_(home),
        costs_(costs),
        levels_(levels),
        from_(from),
        to_(to),
        options_(options),
        queue_(home.queue_->labels),
        estimate_(costs, to),
        scale_(options.care),
        hood_(costs.tiling().neighbourhood()) {}

  void run() {
    WaryRoute& route = home_.route_;
    route.cells_.clear();
    route.measure_ = {};
    route.expanded_ = 0;
    route.verdict_ = {};  // should an exception cut the search short
    const Verdict ends = unusable_end(costs_, levels_, options_.care.highest, from_, to_);
    if (ends.reason != Reason::found) {
      route.verdict_ = ends;
      return;
    }
    begin();
    reach(from_, no_label, 0, 0);
    if (!run_dry()) return;
    end_without(!cut_ ? Reason::no_way : options_.budget ? Reason::over_budget : Reason::cost_overflow);
  }

 private:
  void begin() {
    home_.labels_.clear();
    home_.touched_.clear();
    queue_.begin();
    const std::size_t cells = costs_.size().cell_count();
    if (home_.marks_.size() < cells) home_.marks_.resize(cells);
    if (++home_.query_ == 0) {  // wrapped: old marks would look new
      std::fill(home_.marks_.begin(), home_.marks_.end(), Mark{});
      home_.query_ = 1;
    }
  }

  /// @return whether it saw all there is, and answered nothing
  bool run_dry() {
    return best_first(
        queue_, [&](std::uint32_t number) { return look(number); }, [&](std::uint32_t number) { expand(number); });
  }
  Take look(std::uint32_t number) {
    const Label& label = home_.labels_[number];
    Mark& mark = home_.marks_[label.cell];
    if (mark.expanded <= label.run) return Take::skip;  // a place no worse was expanded before, for no more
    if (!surveys_ && home_.route_.expanded_ == options_.limit) {
      end_without(Reason::stopped);
      return Take::stop;
    }
    mark.expanded = label.run;
    if (surveys_) return Take::expand;
    ++home_.route_.expanded_;
    if (costs_.size().cell(CellIndex{label.cell}) != to_) return Take::expand;
    write_way(number);
    return Take::stop;
  }
  void expand(std::uint32_t number) {
    const Label label = home_.labels_[number];  // a copy: more are taken
    const Cell cell = costs_.size().cell(CellIndex{label.cell});
    const int kind = costs_.tiling().kind(cell);
    const auto& offsets = hood_.offset[static_cast<unsigned>(kind)];
    for_each_direction(costs_.moves(cell), [&](unsigned d) {
      const Cell next = cell + offsets[d];
      const CellIndex index = costs_.size().index(next);
      const Mark& mark = home_.marks_[index.value()];
      if (mark.query == home_.query_ && mark.expanded == 0) return;  // nothing can be better
      const std::uint16_t level = levels_[index];
      if (options_.care.highest && level > *options_.care.highest) return;
      const unsigned run = run_after(label.run, level);
      const std::uint64_t step = scale_(costs_.step_length(kind, static_cast<int>(d)), costs_.entry(index), level, run);
      // Without linger the number of steps in a row does not matter: all places of a cell are one.
      reach(next, number, label.cost + step, options_.care.linger == 0 ? 0 : run);
    });
  }

  void reach(Cell cell, std::uint32_t before, std::uint64_t cost, unsigned run) {
    const std::uint32_t index = costs_.size().index(cell).value();
    Mark& mark = home_.marks_[index];
    if (mark.query == home_.query_) {
      if (mark.expanded <= run || (mark.best <= cost && mark.run <= run)) return;
    }
    const std::uint64_t total = cost + (surveys_ ? 0 : estimate_(cell));
    if (total > options_.budget.value_or(max_cost)) {
      cut_ = true;
      if (before != no_label) return;  // a unit is where it starts, though nowhere else within the bound
    }
    const auto sum = static_cast<Cost>(cost);
    if (mark.query != home_.query_) {
      mark = {home_.query_, sum, static_cast<std::uint8_t>(run), 255};
      home_.touched_.push_back(index);
    } else if (sum <= mark.best && run <= mark.run) {
      mark.best = sum;
      mark.run = static_cast<std::uint8_t>(run);
    }
    if (cut_ && before == no_label) return;
    const auto number = static_cast<std::uint32_t>(home_.labels_.size());
    home_.labels_.push_back({index, before, sum, static_cast<std::uint8_t>(run)});
    queue_.enqueue(total, number);
  }

  void write_way(std::uint32_t number) {
    WaryRoute& route = home_.route_;
    for (std::uint32_t at = number; at != no_label; at = home_.labels_[at].before) {
      route.cells_.push_back(costs_.size().cell(CellIndex{home_.labels_[at].cell}));
    }
    std::reverse(route.cells_.begin(), route.cells_.end());
    route.measure_ = exposure_of(costs_, levels_, route.cells_, options_.care);
    route.verdict_ = {Reason::found, to_};
  }

  /// A "no", at the cell nearest to the goal: of all the start can get to, or of all whose least sum fits, which a
  /// search that was guided has not seen.
  void end_without(Reason reason) {
    if (reason == Reason::cost_overflow) {
      Nearest of_all(from_, estimate_(from_));
      if (!leads_to_goal(of_all)) {
        home_.route_.verdict_ = {Reason::no_way, of_all.cell()};
        return;
      }
    }
    if (reason == Reason::over_budget || reason == Reason::cost_overflow) survey();
    Nearest nearest(from_, estimate_(from_));
    for (const std::uint32_t index : home_.touched_) {
      const Cell cell = costs_.size().cell(CellIndex{index});
      nearest.look(cell, estimate_(cell));
    }
    home_.route_.verdict_ = {reason, nearest.cell()};
  }

  /// Whether a way leads to the goal at all, whatever it costs. @param nearest  the nearest to it of all cells met
  [[nodiscard]] bool leads_to_goal(Nearest& nearest) const {
    const auto onward = [&](Cell cell, const auto& take) {
      for_each_next(costs_.tiling(), costs_.moves(cell), cell, [&](Cell next) {
        if (!options_.care.highest || levels_[next] <= *options_.care.highest) take(next);
      });
    };
    const auto arrives = [&](Cell cell) { return cell == to_; };
    return leads_to(costs_.size(), std::span<const Cell>(&from_, 1), onward, arrives, estimate_, nearest);
  }

  /// Expands all that the budget allows, unguided.
  void survey() {
    surveys_ = true;
    begin();
    cut_ = false;
    reach(from_, no_label, 0, 0);
    (void)run_dry();
  }

  WarySearcher& home_;
  const CostGrid& costs_;
  const Levels& levels_;
  const Cell from_;
  const Cell to_;
  const WaryOptions options_;
  RadixHeap<std::uint32_t>& queue_;
  const Estimate estimate_;
  const Scale scale_;
  const Neighbourhood& hood_;
  bool cut_ = false;
  bool surveys_ = false;  // no goal is wanted any more
};

const WaryRoute& WarySearcher::route(const CostGrid& costs, const Levels& levels, Cell from, Cell to,
                                     const WaryOptions& options) & {
  SAUNTER_EXPECT(levels.size() == costs.size() && options.limit > 0 && options.care.linger <= 65'535);
  WaryOptions asked = options;
  asked.limit = std::max<std::uint64_t>(asked.limit, 1);
  if (levels.size() == costs.size()) {
    WarySearch(*this, costs, levels, from, to, asked).run();
  } else {
    Levels fitting(costs.size());
    for (std::uint32_t i = 0; i < costs.size().cell_count(); ++i) {
      const Cell cell = costs.size().cell(CellIndex{i});
      fitting[cell] = levels[cell];
    }
    WarySearch(*this, costs, fitting, from, to, asked).run();
  }
  return route_;
}

}  // namespace saunter
