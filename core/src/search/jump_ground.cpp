#include "jump_ground.hpp"

#include <algorithm>

namespace saunter::inline v0_2::detail {
namespace {

void copy_lines(const BitGrid& from, BitGrid& to, std::int32_t first, std::int32_t last) {
  for (std::int32_t line = first; line < last; ++line) {
    const std::span<const std::uint64_t> words = from.row_words(line);
    std::copy(words.begin(), words.end(), to.row_words(line).begin());
  }
}

}  // namespace

void JumpGround::begin(const CostGrid& costs, const ChangedMoves* ground) {
  rows_ = &costs.open_cells();
  columns_ = &costs.open_cells_turned();
  if (ground == nullptr || !ground->any()) return;
  follow(costs);
  ground->for_each([&](Cell cell, EntryCost cost) {
    mended_.push_back(cell);  // first: should memory run out, it is put right all the same
    set(cell, cost != blocked);
  });
  rows_ = &own_rows_;
  columns_ = &own_columns_;
}

void JumpGround::follow(const CostGrid& costs) {
  const BitGrid& rows = costs.open_cells();
  const BitGrid& columns = costs.open_cells_turned();
  const Stamp of = of_;
  of_ = {};  // until they fit again
  const bool followed = own_rows_.size() == rows.size() && costs.for_each_change_since(of, [&](Rect block) {
    copy_lines(rows, own_rows_, block.top, block.bottom);
    copy_lines(columns, own_columns_, block.left, block.right);
  });
  if (followed) {
    for (const Cell cell : mended_) set(cell, rows.test(cell));
  } else {
    own_rows_ = rows;
    own_columns_ = columns;
  }
  mended_.clear();
  of_ = costs.stamp();
}

}  // namespace saunter::inline v0_2::detail
