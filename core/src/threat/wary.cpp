#include "saunter/threat/wary.hpp"

#include <algorithm>
#include <array>
#include <bit>

#include "saunter/search/estimate.hpp"
#include "usable_ends.hpp"

namespace saunter {
namespace {

constexpr unsigned most_in_a_row = 8;

unsigned run_after(unsigned run, std::uint16_t level) { return level == 0 ? 0 : std::min(run + 1, most_in_a_row); }

/// What steps weigh, in hundredths, rounded half up once.
class Scale {
 public:
  explicit Scale(const Wariness& care) : wary_(care.wary) {
    factor_[0] = 0;
    for (unsigned run = 1; run <= most_in_a_row; ++run) {
      factor_[run] = 100 + std::uint64_t{care.linger} * (run - 1);
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

/// Whether a way leads to the goal at all, whatever it costs.
bool leads_to(const CostGrid& costs, const Levels& levels, std::optional<std::uint16_t> highest, Cell from, Cell to) {
  BitGrid seen(costs.size());
  std::vector<Cell> line = {from};
  seen.set(from);
  while (!line.empty()) {
    const Cell cell = line.back();
    line.pop_back();
    if (cell == to) return true;
    for (unsigned left = costs.moves(cell); left != 0; left &= left - 1) {
      const Cell next = costs.tiling().neighbour(cell, std::countr_zero(left));
      if (seen.test(next) || (highest && levels[next] > *highest)) continue;
      seen.set(next);
      line.push_back(next);
    }
  }
  return false;
}

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

/// One wary question.
class WarySearch {
 public:
  using Label = WarySearcher::Label;
  using Mark = WarySearcher::Mark;
  using Waiting = WarySearcher::Waiting;

  WarySearch(WarySearcher& home, const CostGrid& costs, const Levels& levels, Cell from, Cell to,
             const WaryOptions& options)
      : home_(home),
        costs_(costs),
        levels_(levels),
        from_(from),
        to_(to),
        options_(options),
        estimate_(costs, to),
        scale_(options.care),
        hood_(costs.tiling().neighbourhood()) {}

  void run() {
    WaryRoute& route = home_.route_;
    route.cells_.clear();
    route.measure_ = {};
    route.expanded_ = 0;
    route.verdict_ = unusable_end(costs_, levels_, options_.care.highest, from_, to_);
    if (!route.found()) return;
    begin();
    reach(from_, no_label, 0, 0);
    for (;;) {
      const std::uint32_t number = take();
      if (number == no_label) {
        end_without(cut_ ? options_.budget ? Reason::over_budget : overflow_or_none() : Reason::no_way);
        return;
      }
      const Label label = home_.labels_[number];
      Mark& mark = home_.marks_[label.cell];
      if (mark.expanded <= label.run) continue;  // a place no worse was expanded before, for no more
      if (route.expanded_ == options_.limit) {
        end_without(Reason::stopped);
        return;
      }
      ++route.expanded_;
      mark.expanded = label.run;
      const Cell cell = costs_.size().cell(CellIndex{label.cell});
      if (cell == to_) {
        write_way(number);
        return;
      }
      expand(cell, number, label);
    }
  }

 private:
  void begin() {
    home_.labels_.clear();
    home_.touched_.clear();
    for (auto& waiting : home_.line_) waiting.clear();
    home_.line_.resize(65);
    last_ = 0;
    const std::size_t cells = costs_.size().cell_count();
    if (home_.marks_.size() < cells) home_.marks_.resize(cells);
    if (++home_.query_ == 0) {  // wrapped: old marks would look new
      std::fill(home_.marks_.begin(), home_.marks_.end(), Mark{});
      home_.query_ = 1;
    }
  }

  void expand(Cell cell, std::uint32_t number, const Label& label) {
    const int kind = costs_.tiling().kind(cell);
    const auto& offsets = hood_.offset[static_cast<unsigned>(kind)];
    for (unsigned left = costs_.moves(cell); left != 0; left &= left - 1) {
      const int d = std::countr_zero(left);
      const Cell next = cell + offsets[static_cast<unsigned>(d)];
      const CellIndex index = costs_.size().index(next);
      const Mark& mark = home_.marks_[index.value()];
      if (mark.query == home_.query_ && mark.expanded == 0) continue;  // nothing can be better
      const std::uint16_t level = levels_[index];
      if (options_.care.highest && level > *options_.care.highest) continue;
      const unsigned run = run_after(label.run, level);
      const std::uint64_t step = scale_(costs_.step_length(kind, d), costs_.entry(index), level, run);
      // Without linger the number of steps in a row does not matter: all places of a cell are one.
      reach(next, number, label.cost + step, options_.care.linger == 0 ? 0 : run);
    }
  }

  void reach(Cell cell, std::uint32_t before, std::uint64_t cost, unsigned run) {
    const std::uint32_t index = costs_.size().index(cell).value();
    Mark& mark = home_.marks_[index];
    if (mark.query == home_.query_) {
      if (mark.expanded <= run || (mark.best <= cost && mark.run <= run)) return;
    }
    const std::uint64_t total = cost + estimate_(cell);
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
    home_.line_[static_cast<unsigned>(std::bit_width(total ^ last_))].push_back({total, number});
  }

  /// Keys never fall, so places are kept by the highest bit in which their key differs from the last one taken (radix
  /// heap; Ahuja, Mehlhorn, Orlin, Tarjan 1990). Among equals the last put in line.
  std::uint32_t take() {
    if (home_.line_[0].empty()) {
      std::size_t i = 1;
      while (i < home_.line_.size() && home_.line_[i].empty()) ++i;
      if (i == home_.line_.size()) return no_label;
      std::vector<Waiting>& all = home_.line_[i];
      last_ = std::min_element(all.begin(), all.end(), [](const Waiting& a, const Waiting& b) {
                return a.key < b.key;
              })->key;
      for (const Waiting& waiting : all) {
        home_.line_[static_cast<unsigned>(std::bit_width(waiting.key ^ last_))].push_back(waiting);
      }
      all.clear();
    }
    const std::uint32_t label = home_.line_[0].back().label;
    home_.line_[0].pop_back();
    return label;
  }

  void write_way(std::uint32_t number) {
    WaryRoute& route = home_.route_;
    for (std::uint32_t at = number; at != no_label; at = home_.labels_[at].before) {
      route.cells_.push_back(costs_.size().cell(CellIndex{home_.labels_[at].cell}));
    }
    std::reverse(route.cells_.begin(), route.cells_.end());
    route.measure_ = exposure_of(costs_, levels_, route.cells_, options_.care);
  }

  [[nodiscard]] Reason overflow_or_none() const {
    return leads_to(costs_, levels_, options_.care.highest, from_, to_) ? Reason::cost_overflow : Reason::no_way;
  }

  void end_without(Reason reason) {
    Cell nearest = from_;
    std::uint64_t least = estimate_(nearest);
    for (const std::uint32_t index : home_.touched_) {
      const Cell cell = costs_.size().cell(CellIndex{index});
      const std::uint64_t here = estimate_(cell);
      if (here < least || (here == least && cell < nearest)) {
        least = here;
        nearest = cell;
      }
    }
    home_.route_.verdict_ = {reason, nearest};
  }

  WarySearcher& home_;
  const CostGrid& costs_;
  const Levels& levels_;
  const Cell from_;
  const Cell to_;
  const WaryOptions& options_;
  const Estimate estimate_;
  const Scale scale_;
  const Neighbourhood& hood_;
  std::uint64_t last_ = 0;
  bool cut_ = false;
};

const WaryRoute& WarySearcher::route(const CostGrid& costs, const Levels& levels, Cell from, Cell to,
                                     const WaryOptions& options) & {
  SAUNTER_EXPECT(levels.size() == costs.size() && options.limit > 0 && options.care.linger <= 65'535);
  WarySearch(*this, costs, levels, from, to, options).run();
  return route_;
}

}  // namespace saunter
