#include "prepared_map.hpp"

#include "index_check.hpp"

namespace saunter::inline v0_2::detail {

PreparedMap::PreparedMap(CostGrid board, std::vector<std::uint64_t> block)
    : base(std::move(board)), words(std::move(block)), bytes(std::as_bytes(std::span(words))) {
  open();
}

PreparedMap::PreparedMap(CostGrid board, std::span<const std::byte> block) : base(std::move(board)), bytes(block) {
  open();
}

void PreparedMap::open() {
  OpenedBlock opened = open_block(bytes, base);
  problem = opened.problem;
  if (!problem.empty()) return;
  kind = opened.kind;
  index = opened.index;
  // The places follow from the board; the block tells only how they are numbered.
  if (kind == PlaceKind::turning_points) {
    bends = TurningPoints(base);
  } else {
    passages = Passages(base);
  }
  if (!sound(*this)) problem = "damaged";
}

std::size_t PreparedMap::memory() const {
  const std::size_t cells = base.size().cell_count();
  return bytes.size() + bends.memory() + passages.memory() + cells * (sizeof(EntryCost) + (base.has_sides() ? 1 : 0)) +
         base.open_cells().memory() + base.open_cells_turned().memory();
}

}  // namespace saunter::inline v0_2::detail
