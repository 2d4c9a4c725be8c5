#include "saunter/search/searcher.hpp"

#include <algorithm>
#include <bit>

#include "field_search.hpp"

namespace saunter {
namespace {

/// What a search knows of a cell; valid when `query` is the current one.
struct Node {
  std::uint32_t query = 0;
  Cost cost = 0;
  std::uint8_t back = 0;  // direction that leads back to where the cell was reached from
  bool expanded = false;
};

/// Steps dearer than this would need more buckets than they are worth; a heap takes over, in the same order.
constexpr Cost most_bucketed_step = 20'000;

/// Places in line to be expanded: least cost + estimate first, among equals the last one put in line.
class Line {
 public:
  using Entry = BucketQueue::Entry;

  void begin(Cost dearest_step) {
    bucketed_ = dearest_step <= most_bucketed_step;
    heap_.clear();
    number_ = 0;
    // The estimate changes by no more than the step costs.
    if (bucketed_) buckets_.begin(1, 2 * std::uint64_t{dearest_step});
  }
  void start_at(std::uint64_t total) {
    if (bucketed_) buckets_.start_at(static_cast<Cost>(total));
  }
  [[nodiscard]] bool empty() const { return bucketed_ ? buckets_.empty() : heap_.empty(); }
  void push(Entry entry, std::uint64_t total) {
    if (bucketed_) {
      buckets_.push(entry, total);
      return;
    }
    heap_.push_back({total, number_++, entry});
    std::push_heap(heap_.begin(), heap_.end(), goes_after);
  }
  Entry pop() {
    if (bucketed_) return buckets_.pop();
    std::pop_heap(heap_.begin(), heap_.end(), goes_after);
    const Entry entry = heap_.back().entry;
    heap_.pop_back();
    return entry;
  }

 private:
  struct Waiting {
    std::uint64_t total = 0;
    std::uint64_t number = 0;
    Entry entry;
  };
  static bool goes_after(const Waiting& a, const Waiting& b) {
    return a.total != b.total ? a.total > b.total : a.number < b.number;
  }

  bool bucketed_ = true;
  BucketQueue buckets_;
  std::vector<Waiting> heap_;
  std::uint64_t number_ = 0;
};

}  // namespace

struct Searcher::Scratch {
  std::vector<Node> nodes;
  std::uint32_t query = 0;
  Line line;
  std::vector<std::uint32_t> queue;  // packed cells, first in, first out
  FieldScratch field;

  void begin(std::size_t cells) {
    if (nodes.size() < cells) nodes.resize(cells);
    if (++query == 0) {  // wrapped: old marks would look new
      std::fill(nodes.begin(), nodes.end(), Node{});
      query = 1;
    }
    queue.clear();
  }
  [[nodiscard]] bool knows(CellIndex cell) const { return nodes[cell.value()].query == query; }
  [[nodiscard]] Node& node(CellIndex cell) { return nodes[cell.value()]; }
};

/// One query under way.
class RouteSearch {
 public:
  RouteSearch(Searcher::Scratch& scratch, Route& route, const CostGrid& costs, Cell from, Cell to,
              const RouteOptions& options)
      : scratch_(scratch),
        route_(route),
        costs_(costs),
        size_(costs.size()),
        hood_(costs.tiling().neighbourhood()),
        options_(options),
        estimate_(costs, to),
        from_(from),
        to_(to),
        nearest_(from),
        nearest_estimate_(estimate_(from)) {}

  void run() {
    route_.cells_.clear();
    route_.cost_ = 0;
    route_.expanded_ = 0;
    route_.algorithm_ = options_.by;
    route_.verdict_ = unusable_end();
    if (!route_.found()) return;
    goal_ = size_.index(to_);
    scratch_.begin(size_.cell_count());
    const Reason reason = options_.by == Algorithm::bfs ? search_by_steps() : search_by_cost();
    route_.verdict_ = {reason, reason == Reason::found ? to_ : nearest_};
    if (reason == Reason::found) write_way();
  }

 private:
  [[nodiscard]] Verdict unusable_end() const {
    if (!size_.contains(from_)) return {Reason::start_off_map, from_};
    if (!costs_.open(from_)) return {Reason::start_blocked, from_};
    if (!size_.contains(to_)) return {Reason::goal_off_map, to_};
    if (!costs_.open(to_)) return {Reason::goal_blocked, to_};
    return {Reason::found, to_};
  }

  /// Calls visit(cell, index, way back, step cost) for each legal step.
  template <typename Visitor>
  void for_each_step(Cell cell, Visitor&& visit) const {
    const auto kind = static_cast<unsigned>(costs_.tiling().kind(cell));
    for (unsigned left = costs_.moves(cell); left != 0; left &= left - 1) {
      const auto d = static_cast<unsigned>(std::countr_zero(left));
      const Cell next = cell + hood_.offset[kind][d];
      const CellIndex index = size_.index(next);
      visit(next, index, hood_.opposite[kind][d],
            step_cost(costs_.step_length(static_cast<int>(kind), static_cast<Direction>(d)), costs_.entry(index)));
    }
  }

  [[nodiscard]] Cell parent(Cell cell) const {
    const std::uint8_t back = scratch_.node(size_.index(cell)).back;
    return cell + hood_.offset[static_cast<unsigned>(costs_.tiling().kind(cell))][back];
  }

  /// Keeps the reached cell with the least estimate, the first of them in reading order.
  void note_reached(Cell cell, std::uint64_t estimate) {
    if (estimate > nearest_estimate_ || (estimate == nearest_estimate_ && cell > nearest_)) return;
    nearest_estimate_ = estimate;
    nearest_ = cell;
  }

  /// Counts a place as expanded; false when the limit is used up.
  [[nodiscard]] bool expand(Cell cell, CellIndex index, bool guided) {
    if (route_.expanded_ == options_.limit) return false;
    ++route_.expanded_;
    if (options_.trace != nullptr) {
      const CellIndex came_from = cell == from_ ? index : size_.index(parent(cell));
      options_.trace->push_back({index, came_from, scratch_.node(index).cost, guided ? estimate_(cell) : 0});
    }
    return true;
  }

  Reason search_by_cost() {
    const bool guided = options_.by == Algorithm::astar;
    const std::uint64_t bound = options_.budget.value_or(max_cost);
    bool cut = false;
    scratch_.line.begin(costs_.dearest_step());
    const auto reach = [&](Cell cell, CellIndex index, std::uint64_t cost, std::uint8_t back) {
      const std::uint64_t estimate = estimate_(cell);
      const std::uint64_t total = cost + (guided ? estimate : 0);
      if (total > bound) {
        cut = true;
        return;
      }
      note_reached(cell, estimate);
      scratch_.node(index) = {scratch_.query, static_cast<Cost>(cost), back, false};
      scratch_.line.push({pack(cell), static_cast<Cost>(cost)}, total);
    };
    if (guided) scratch_.line.start_at(std::min<std::uint64_t>(estimate_(from_), max_cost));
    reach(from_, size_.index(from_), 0, 0);
    while (!scratch_.line.empty()) {
      const BucketQueue::Entry first = scratch_.line.pop();
      const Cell cell = unpack(first.cell);
      const CellIndex index = size_.index(cell);
      if (scratch_.node(index).expanded) continue;  // an older, dearer entry
      if (!expand(cell, index, guided)) return Reason::stopped;
      if (index == goal_) return Reason::found;
      scratch_.node(index).expanded = true;
      const std::uint64_t cost_here = scratch_.node(index).cost;
      for_each_step(cell, [&](Cell next, CellIndex next_index, std::uint8_t back, Cost step) {
        const std::uint64_t cost = cost_here + step;
        const Node& known = scratch_.node(next_index);
        if (known.query == scratch_.query && (known.expanded || known.cost <= cost)) return;
        reach(next, next_index, cost, back);
      });
    }
    if (!cut) return Reason::no_way;
    if (options_.budget) return Reason::over_budget;
    return can_reach_goal() ? Reason::cost_overflow : Reason::no_way;
  }

  Reason search_by_steps() {
    auto& queue = scratch_.queue;
    const auto reach = [&](Cell cell, CellIndex index, std::uint8_t back) {
      note_reached(cell, estimate_(cell));
      scratch_.node(index) = {scratch_.query, 0, back, false};
      queue.push_back(pack(cell));
    };
    reach(from_, size_.index(from_), 0);
    for (std::size_t i = 0; i < queue.size(); ++i) {
      const Cell at = unpack(queue[i]);
      if (!expand(at, size_.index(at), false)) return Reason::stopped;
      if (at == to_) return cost_of_way() <= max_cost ? Reason::found : Reason::cost_overflow;
      for_each_step(at, [&](Cell next, CellIndex index, std::uint8_t back, Cost /*step*/) {
        if (!scratch_.knows(index)) reach(next, index, back);
      });
    }
    return Reason::no_way;
  }

  /// Whether any way leads to the goal, whatever it costs. Ends the cost search: its marks are gone afterwards.
  bool can_reach_goal() {
    scratch_.begin(size_.cell_count());
    auto& queue = scratch_.queue;
    const auto reach = [&](Cell cell, CellIndex index) {
      scratch_.node(index).query = scratch_.query;
      queue.push_back(pack(cell));
    };
    reach(from_, size_.index(from_));
    for (std::size_t i = 0; i < queue.size() && !scratch_.knows(goal_); ++i) {
      for_each_step(unpack(queue[i]), [&](Cell cell, CellIndex index, std::uint8_t, Cost) {
        if (!scratch_.knows(index)) reach(cell, index);
      });
    }
    return scratch_.knows(goal_);
  }

  /// Cost of the way found by steps, which was not added up on the way.
  [[nodiscard]] std::uint64_t cost_of_way() const {
    std::uint64_t sum = 0;
    for (Cell cell = to_; cell != from_;) {
      const Cell before = parent(cell);
      sum += costs_.cost_of_step(before, costs_.tiling().direction(before, cell));
      cell = before;
    }
    return sum;
  }

  void write_way() {
    for (Cell cell = to_; cell != from_; cell = parent(cell)) route_.cells_.push_back(cell);
    route_.cells_.push_back(from_);
    std::reverse(route_.cells_.begin(), route_.cells_.end());
    route_.cost_ = options_.by == Algorithm::bfs ? static_cast<Cost>(cost_of_way()) : scratch_.node(goal_).cost;
  }

  Searcher::Scratch& scratch_;
  Route& route_;
  const CostGrid& costs_;
  const Size size_;
  const Neighbourhood& hood_;
  const RouteOptions& options_;
  const Estimate estimate_;
  const Cell from_;
  const Cell to_;
  CellIndex goal_;
  Cell nearest_;
  std::uint64_t nearest_estimate_;
};

Searcher::Searcher() : scratch_(std::make_unique<Scratch>()) {}
Searcher::~Searcher() = default;
Searcher::Searcher(Searcher&&) noexcept = default;
Searcher& Searcher::operator=(Searcher&&) noexcept = default;

const Route& Searcher::route(const CostGrid& costs, Cell from, Cell to, const RouteOptions& options) & {
  SAUNTER_EXPECT(options.limit > 0);
  SAUNTER_EXPECT(options.by != Algorithm::bfs || !options.budget);
  RouteSearch(*scratch_, route_, costs, from, to, options).run();
  return route_;
}

void Searcher::field_to(const CostGrid& costs, std::span<const Source> goals, Field& out, const FieldOptions& options) {
  FieldSearch(scratch_->field, out, costs, Travel::to_sources).run(goals, options);
}

Field Searcher::field_to(const CostGrid& costs, std::span<const Source> goals, const FieldOptions& options) {
  Field field;
  field_to(costs, goals, field, options);
  return field;
}

void Searcher::reach(const CostGrid& costs, std::span<const Source> starts, Field& out, const FieldOptions& options) {
  FieldSearch(scratch_->field, out, costs, Travel::from_sources).run(starts, options);
}

Field Searcher::reach(const CostGrid& costs, Cell start, const FieldOptions& options) {
  Field field;
  const Source source{start};
  reach(costs, std::span(&source, 1), field, options);
  return field;
}

}  // namespace saunter
