#include "saunter/threat/wary.hpp"

#include <algorithm>
#include <array>
#include <bit>

#include "../search/kernel/best_first.hpp"
#include "../search/kernel/dead_ends.hpp"
#include "../search/kernel/ends.hpp"
#include "../search/kernel/legal_steps.hpp"
#include "../search/kernel/marks.hpp"
#include "../search/kernel/queue.hpp"
#include "saunter/search/estimate.hpp"
#include "usable_ends.hpp"

namespace saunter::inline v0 {
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

/// What a search works in, kept for the next question.
struct WarySearcher::Memory {
  struct Label {
    std::uint32_t cell = 0;  // its index
    std::uint32_t before = 0;
    Cost cost = 0;  // weighed, hundredths
    std::uint8_t run = 0;
  };
  struct Mark {
    std::uint32_t query = 0;
    Cost best = 0;                // least sum enqueued
    std::uint8_t run = 0;         // its exposed steps in a row
    std::uint8_t expanded = 255;  // fewest exposed steps in a row of those expanded
  };
  std::vector<Label> labels;
  std::vector<Mark> marks;
  QueryNumber query;
  std::vector<std::uint32_t> touched;
  RadixHeap<std::uint32_t> queue;  // labels, last in first out among equals
  ChangedMoves ground;             // the grid as it is
  DeadEnds dead_ends;
};

WarySearcher::WarySearcher() : memory_(std::make_unique<Memory>()) {}
WarySearcher::~WarySearcher() = default;
WarySearcher::WarySearcher(WarySearcher&&) noexcept = default;
WarySearcher& WarySearcher::operator=(WarySearcher&&) noexcept = default;

std::size_t WarySearcher::memory() const {
  return bytes_of(memory_->labels, memory_->marks, memory_->touched, route_.cells_) + memory_->queue.memory() +
         memory_->dead_ends.memory();
}

/// One wary question.
class WarySearcher::Search {
 public:
  using Label = Memory::Label;
  using Mark = Memory::Mark;

  Search(Memory& memory, WaryRoute& route, const CostGrid& costs, const Levels& levels, Cell from, Cell to,
         const WaryOptions& options)
      : memory_(memory),
        route_(route),
        costs_(costs),
        levels_(levels),
        from_(from),
        to_(to),
        options_(options),
        queue_(memory.queue),
        estimate_(costs, to),
        scale_(options.care),
        hood_(costs.tiling().neighbourhood()) {}

  void run() {
    route_.cells_.clear();
    route_.measure_ = {};
    route_.expanded_ = 0;
    route_.verdict_ = {};  // should an exception cut the search short
    const Verdict ends = unusable_end(costs_, levels_, options_.care.highest, from_, to_);
    if (ends.reason != Reason::found) {
      route_.verdict_ = ends;
      return;
    }
    begin();
    if (options_.strike_dead_ends) strike_dead_ends();
    begin_at_start();
    if (!run_dry()) return;
    end_without(!cut_ ? Reason::no_way : options_.budget ? Reason::over_budget : Reason::cost_overflow);
  }

 private:
  void begin() {
    memory_.labels.clear();
    memory_.touched.clear();
    queue_.begin();
    const std::size_t cells = costs_.size().cell_count();
    memory_.query.begin(memory_.marks, cells);
  }

  /// Without linger the number of steps in a row does not matter.
  void begin_at_start() {
    reach(from_, no_label, 0, options_.care.linger == 0 ? 0 : std::min(options_.exposed_before, most_in_a_row));
  }

  void strike_dead_ends() {
    memory_.ground.begin(costs_, {});
    memory_.dead_ends.strike(costs_, memory_.ground, [&](Cell cell) { return cell == from_ || cell == to_; });
  }

  /// @return whether it saw all there is, and answered nothing
  bool run_dry() {
    return best_first(
        queue_, [&](std::uint32_t number) { return look(number); }, [&](std::uint32_t number) { expand(number); });
  }
  Take look(std::uint32_t number) {
    const Label& label = memory_.labels[number];
    Mark& mark = memory_.marks[label.cell];
    if (mark.expanded <= label.run) return Take::skip;  // a place no worse was expanded before, for no more
    if (!surveys_ && route_.expanded_ == options_.limit) {
      end_without(Reason::stopped);
      return Take::stop;
    }
    mark.expanded = label.run;
    if (surveys_) return Take::expand;
    ++route_.expanded_;
    if (costs_.size().cell(CellIndex{label.cell}) != to_) return Take::expand;
    write_way(number);
    return Take::stop;
  }
  void expand(std::uint32_t number) {
    const Label label = memory_.labels[number];  // a copy: more are taken
    const Cell cell = costs_.size().cell(CellIndex{label.cell});
    const int kind = costs_.tiling().kind(cell);
    const auto& offsets = hood_.offset[static_cast<unsigned>(kind)];
    unsigned legal = costs_.moves(cell);
    if (options_.strike_dead_ends && !surveys_) legal &= memory_.dead_ends.left(label.cell);
    for_each_direction(legal, [&](unsigned d) {
      const Cell next = cell + offsets[d];
      const CellIndex index = costs_.size().index(next);
      const Mark& mark = memory_.marks[index.value()];
      if (memory_.query.knows(mark) && mark.expanded == 0) return;  // nothing can be better
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
    Mark& mark = memory_.marks[index];
    if (memory_.query.knows(mark)) {
      if (mark.expanded <= run || (mark.best <= cost && mark.run <= run)) return;
    }
    const std::uint64_t total = cost + (surveys_ ? 0 : estimate_(cell));
    if (total > options_.budget.value_or(max_cost)) {
      cut_ = true;
      if (before != no_label) return;  // a unit is where it starts, though nowhere else within the bound
    }
    const auto sum = static_cast<Cost>(cost);
    if (!memory_.query.knows(mark)) {
      mark = {memory_.query.now(), sum, static_cast<std::uint8_t>(run), 255};
      memory_.touched.push_back(index);
    } else if (sum <= mark.best && run <= mark.run) {
      mark.best = sum;
      mark.run = static_cast<std::uint8_t>(run);
    }
    if (cut_ && before == no_label) return;
    const auto number = static_cast<std::uint32_t>(memory_.labels.size());
    memory_.labels.push_back({index, before, sum, static_cast<std::uint8_t>(run)});
    queue_.enqueue(total, number);
  }

  void write_way(std::uint32_t number) {
    for (std::uint32_t at = number; at != no_label; at = memory_.labels[at].before) {
      route_.cells_.push_back(costs_.size().cell(CellIndex{memory_.labels[at].cell}));
    }
    std::reverse(route_.cells_.begin(), route_.cells_.end());
    route_.measure_ = exposure_of(costs_, levels_, route_.cells_, options_.care, options_.exposed_before);
    route_.verdict_ = {Reason::found, to_};
  }

  /// A "no", at the cell nearest to the goal: of all the start can get to, or of all whose least sum fits, which a
  /// search that was guided has not seen.
  void end_without(Reason reason) {
    if (reason == Reason::cost_overflow || (reason == Reason::no_way && options_.strike_dead_ends)) {
      Nearest of_all(from_, estimate_(from_));
      if (!leads_to_goal(of_all)) {
        route_.verdict_ = {Reason::no_way, of_all.cell()};
        return;
      }
    }
    if (reason == Reason::over_budget || reason == Reason::cost_overflow) survey();
    Nearest nearest(from_, estimate_(from_));
    for (const std::uint32_t index : memory_.touched) {
      const Cell cell = costs_.size().cell(CellIndex{index});
      nearest.look(cell, estimate_(cell));
    }
    route_.verdict_ = {reason, nearest.cell()};
  }

  /// Whether a route leads to the goal at all, whatever it costs. @param nearest  the nearest to it of all cells met
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
    begin_at_start();
    (void)run_dry();
  }

  Memory& memory_;
  WaryRoute& route_;
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
  SAUNTER_EXPECT(!asked.strike_dead_ends || asked.care.linger == 0);
  if (asked.care.linger > 0) asked.strike_dead_ends = false;
  if (levels.size() == costs.size()) {
    Search(*memory_, route_, costs, levels, from, to, asked).run();
  } else {
    Levels fitting(costs.size());
    for (const Cell cell : costs.size().cells()) {
      fitting[cell] = levels[cell];
    }
    Search(*memory_, route_, costs, fitting, from, to, asked).run();
  }
  return route_;
}

}  // namespace saunter::inline v0
