#include "saunter/ground/bake.hpp"

#include "baker.hpp"

namespace saunter::inline v0 {
using namespace detail;

/// A block as it was, put back unless what came instead is kept.
class CostGrid::Baker::Undo {
 public:
  Undo(Baker& baker, Rect anchors, Rect sides, Kept& kept)
      : baker_(baker), anchors_(anchors), sides_(sides), entries_(kept.entries), moves_(kept.moves) {
    CostGrid& costs = baker.costs_;
    entries_.clear();
    moves_.clear();
    had_sides_ = costs.has_sides();
    for_each_cell(anchors, [&](Cell cell) { entries_.push_back(costs.entry_[cell]); });
    if (had_sides_) for_each_cell(sides, [&](Cell cell) { moves_.push_back(costs.moves_on_map(cell)); });
    for (const EntryCost cost : entries_) costs.counts_.remove(cost);
  }
  ~Undo() {
    if (kept_) return;
    CostGrid& costs = baker_.costs_;
    std::size_t i = 0;
    for_each_cell(anchors_, [&](Cell cell) {
      costs.counts_.add(entries_[i]);  // its page is there already
      costs.entry_[cell] = entries_[i++];
    });
    for (std::int32_t row = anchors_.top; row < anchors_.bottom; ++row) {
      baker_.set_open_bits(costs.entry_.row(row).data(), anchors_, row);
    }
    costs.take_open_bits(anchors_);
    if (!had_sides_) {
      costs.narrow_sides_ = {};
      costs.wide_sides_ = {};
      return;
    }
    i = 0;
    for_each_cell(sides_, [&](Cell cell) {
      if (costs.narrow_sides_.empty()) {
        costs.wide_sides_[cell] = moves_[i++];
      } else {
        costs.narrow_sides_[cell] = static_cast<std::uint8_t>(moves_[i++]);
      }
    });
  }
  Undo(const Undo&) = delete;
  Undo& operator=(const Undo&) = delete;
  void keep() { kept_ = true; }

 private:
  Baker& baker_;
  Rect anchors_;
  Rect sides_;
  bool had_sides_ = false;
  bool kept_ = false;
  std::vector<EntryCost>& entries_;
  std::vector<DirectionSet>& moves_;
};

CostGrid::Baker::Baker(CostGrid& costs, const Map& map, const Mover& mover, const BitGrid* occupied,
                       const Grid<EntryCost>* added)
    : costs_(costs), map_(map), mover_(mover), occupied_(occupied), added_(added), tiling_(map.tiling()) {
  for (std::size_t id = 0; id < map.kinds().size(); ++id) {
    cost_by_kind_[id] = mover.cost_on(static_cast<TerrainId>(id), map.kinds()[id]);
  }
  limited_ = map.has_heights() && (mover.climb || mover.drop);
}

Rect CostGrid::Baker::bake(Rect anchors) {
  set_entries(anchors);
  const bool wants_sides = map_.has_barriers() || limited_;
  if (wants_sides && !costs_.has_sides()) {
    add_sides();
    anchors = Rect::whole(map_.size());  // the first barrier or height: every cell needs its steps written down
  }
  if (!costs_.has_sides()) return anchors;
  anchors = anchors.grown(2, map_.size());
  set_sides(anchors);
  return anchors;
}

Rect CostGrid::Baker::rebake(Rect anchors, Kept& kept) {
  const bool first_sides = (map_.has_barriers() || limited_) && !costs_.has_sides();
  const Rect sides = first_sides ? Rect::whole(map_.size()) : anchors.grown(2, map_.size());
  make_room(anchors);
  Undo undo(*this, anchors, sides, kept);
  const Rect touched = bake(anchors);
  undo.keep();
  for_each_cell(anchors, [&](Cell cell) { costs_.counts_.add(costs_.entry_[cell]); });  // there is room for all kinds
  costs_.note_change(touched);
  return touched;
}

namespace {

/// @pre checks of both: a grid that is there has the map's size
void expect_fitting([[maybe_unused]] const Map& map, [[maybe_unused]] const BitGrid* occupied,
                    [[maybe_unused]] const Grid<EntryCost>* added) {
  SAUNTER_EXPECT(occupied == nullptr || occupied->size() == map.size());
  SAUNTER_EXPECT(added == nullptr || added->size() == map.size());
}

}  // namespace

CostGrid bake(const Map& map, const Mover& mover, const BitGrid* occupied, const Grid<EntryCost>* added) {
  SAUNTER_EXPECT(!mover_problem(map.tiling(), mover));
  expect_fitting(map, occupied, added);
  if (mover_problem(map.tiling(), mover) || map.kinds().empty()) return {};
  CostGrid costs = CostGrid::Baker::empty_grid(map, mover);
  CostGrid::Baker baker(costs, map, mover, occupied, added);
  baker.bake(Rect::whole(map.size()));
  baker.finish_all();
  return costs;
}

struct Rebaker::Scratch {
  CostGrid::Baker::Kept kept;
};
Rebaker::Rebaker() : scratch_(std::make_unique<Scratch>()) {}
Rebaker::~Rebaker() = default;
Rebaker::Rebaker(Rebaker&&) noexcept = default;
Rebaker& Rebaker::operator=(Rebaker&&) noexcept = default;

Rect Rebaker::operator()(CostGrid& costs, const Map& map, const Mover& mover, Rect changed, const BitGrid* occupied,
                         const Grid<EntryCost>* added) {
  SAUNTER_EXPECT(costs.board() == map.board());
  expect_fitting(map, occupied, added);
  if (costs.board() != map.board()) {
    costs = bake(map, mover, occupied, added);
    return Rect::whole(costs.size());
  }
  CostGrid::Baker baker(costs, map, mover, occupied, added);
  changed = changed.grown(0, map.size());
  if (changed.empty()) return {};
  return baker.rebake(changed.grown(baker.reach(), map.size()), scratch_->kept);
}

Rect rebake(CostGrid& costs, const Map& map, const Mover& mover, Rect changed, const BitGrid* occupied,
            const Grid<EntryCost>* added) {
  return Rebaker()(costs, map, mover, changed, occupied, added);
}

}  // namespace saunter::inline v0
