#include "saunter/generate/cave.hpp"

#include <algorithm>
#include <limits>

#include "pieces.hpp"

namespace saunter::inline v0_2 {
using namespace detail;
namespace {

constexpr std::size_t most_last = 4096;

}  // namespace

std::string_view method_name(CaveMethod method) { return method == CaveMethod::agents ? "agents" : "noise"; }

CaveMaker::CaveMaker(Board board, const CaveOptions& options) : board_(board), options_(options), dice_(options.seed) {
  SAUNTER_EXPECT(board.size.sound() && board.size.cell_count() <= max_made_cells);
  if (!board.size.sound() || board.size.cell_count() > max_made_cells) board_.size = {};
  const Size size = board_.size;
  open_ = BitGrid(size);
  const std::size_t inside = size.cols > 2 && size.rows > 2
                                 ? static_cast<std::size_t>(size.cols - 2) * static_cast<std::size_t>(size.rows - 2)
                                 : 0;
  const bool agents = options.by == CaveMethod::agents;
  const auto share = static_cast<std::size_t>(std::clamp(options.open.value_or(agents ? 100 : 55), 0, 100));
  most_ = inside * share / 100;
  if (inside == 0) stage_ = Stage::done;
  const Tiling tiling = board_.tiling;
  for (const Cell cell : {Cell{2, 2}, Cell{2, 3}, Cell{3, 2}}) {  // of both kinds
    for (Direction d{0}; d < tiling.edge_count(); ++d) {
      const int side = side_towards(tiling, cell, tiling.neighbour(cell, d));
      sides_[static_cast<std::size_t>(tiling.kind(cell))][d.index()] = static_cast<std::int8_t>(side);
    }
  }
  row_ = 1;
}

bool CaveMaker::inside(Cell cell) const {
  return cell.col > 0 && cell.row > 0 && cell.col + 1 < board_.size.cols && cell.row + 1 < board_.size.rows;
}

void CaveMaker::dig(Cell cell) {
  if (open_.test(cell)) return;
  open_.set(cell);
  dug_.push_back(cell);
  if (last_.size() == most_last) last_.erase(last_.begin(), last_.begin() + most_last / 2);
  last_.push_back(cell);
}

/// The edge direction that leads most nearly to a side; of two that do alike, one by lot.
Direction CaveMaker::towards(Side side) {
  const int count = side_count(board_.tiling);
  const auto& sides = sides_[static_cast<std::size_t>(board_.tiling.kind(at_))];
  int best = count;
  std::uint32_t ties = 0;
  Direction found{0};
  for (Direction d{0}; d < board_.tiling.edge_count(); ++d) {
    const int off = std::abs(sides[d.index()] - side);
    const int turn = std::min(off, count - off);
    if (turn > best) continue;
    ties = turn < best ? 1 : ties + 1;
    best = turn;
    if (ties == 1 || dice_.pick(ties) == 0) found = d;
  }
  return found;
}

/// The next agent begins.
void CaveMaker::set_out() {
  at_ = {board_.size.cols / 2, board_.size.rows / 2};
  if (!inside(at_)) at_ = {1, 1};
  if (options_.start_on_dug && !dug_.empty()) at_ = dug_[dice_.pick(static_cast<std::uint32_t>(dug_.size()))];
  heading_.reset();
  dig(at_);
}

void CaveMaker::dig_by_agent() {
  if (agent_ >= options_.agents || dug_.size() >= most_) {
    stage_ = Stage::keep;
    return;
  }
  if (step_ == 0) set_out();
  if (step_++ >= options_.agent_steps) {
    step_ = 0;
    ++agent_;
    return;
  }
  const auto chance = [&](int percent) { return percent > 0 && dice_.pick(100) < static_cast<std::uint32_t>(percent); };
  Direction d{0};
  if (options_.lean && chance(options_.lean_chance)) {
    d = towards(*options_.lean);
  } else if (heading_ && chance(options_.straight)) {
    d = towards(*heading_);
  } else {
    d = Direction(dice_.pick(static_cast<std::uint32_t>(board_.tiling.edge_count())));
  }
  const Cell next = board_.tiling.neighbour(at_, d);
  if (!inside(next)) {
    heading_.reset();
    return;
  }
  heading_ = Side(sides_[static_cast<std::size_t>(board_.tiling.kind(at_))][d.index()]);
  at_ = next;
  if (dug_.size() < most_) dig(at_);
}

void CaveMaker::draw_row() {
  const auto share = static_cast<std::uint32_t>(std::clamp(options_.open.value_or(55), 0, 100));
  for (std::int32_t col = 1; col + 1 < board_.size.cols; ++col) open_.set({col, row_}, dice_.pick(100) < share);
  if (++row_ + 1 < board_.size.rows) return;
  row_ = 1;
  stage_ = options_.smooth > 0 ? Stage::smooth : Stage::keep;
  before_ = open_;
}

void CaveMaker::smooth_row() {
  const Tiling tiling = board_.tiling;
  const int neighbours = tiling.direction_count();
  for (std::int32_t col = 1; col + 1 < board_.size.cols; ++col) {
    const Cell cell{col, row_};
    int open = 0;
    for (Direction d{0}; d < neighbours; ++d) open += before_.test(tiling.neighbour(cell, d)) ? 1 : 0;
    if (2 * open != neighbours) open_.set(cell, 2 * open > neighbours);
  }
  if (++row_ + 1 < board_.size.rows) return;
  row_ = 1;
  if (++round_ == options_.smooth) {
    stage_ = Stage::keep;
  } else {
    before_ = open_;
  }
}

void CaveMaker::keep_regions() {
  if (options_.keep == Keep::largest) {
    keep_largest(board_.tiling, open_);
  } else {
    (void)join_all(board_.tiling, open_, options_.least_cells);
  }
  stage_ = Stage::done;
}

bool CaveMaker::run(std::uint64_t steps) {
  last_.clear();
  for (; steps > 0 && stage_ != Stage::done; --steps) {
    switch (stage_) {
      case Stage::dig: options_.by == CaveMethod::agents ? dig_by_agent() : draw_row(); break;
      case Stage::smooth: smooth_row(); break;
      case Stage::keep: keep_regions(); break;
      case Stage::done: break;
    }
  }
  return stage_ == Stage::done;
}

Made CaveMaker::so_far() const {
  return {.tiling = board_.tiling, .parts = parts_of(board_.tiling, open_), .closed = {}};
}

Made CaveMaker::take() {
  (void)run(std::numeric_limits<std::uint64_t>::max());
  return so_far();
}

Made make_cave(Board board, const CaveOptions& options) { return CaveMaker(board, options).take(); }

}  // namespace saunter::inline v0_2
