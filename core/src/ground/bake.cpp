#include "saunter/ground/bake.hpp"

#include "baker.hpp"

namespace saunter::inline v0_2 {
using namespace detail;

/// A block as it was, put back unless what came instead is kept.
class CostGrid::Baker::Undo {
 public:
  Undo(Baker& baker, Rect anchors, Rect sides, Kept& kept)
      : baker_(baker), anchors_(anchors), block_(sides), places_(kept.places), steps_(kept.steps) {
    CostGrid& costs = baker.costs_;
    places_.clear();
    steps_.clear();
    had_sides_ = costs.has_sides();
    had_walls_ = !costs.walls_.empty();
    had_split_ = costs.split_.size() == costs.size();
    for_each_cell(anchors, [&](Cell cell) {
      places_.push_back({costs.entry_[cell], costs.ground_entry(cell), costs.split_.test(cell)});
    });
    if (had_sides_) {
      for_each_cell(sides, [&](Cell cell) {
        steps_.push_back({costs.sides_.at(cell), costs.unbarred_moves(cell), costs.barred_edges(cell)});
      });
    }
    for (const Kept::Place& place : places_) costs.counts_.remove(place.entry);
  }
  ~Undo() {
    if (kept_) return;
    CostGrid& costs = baker_.costs_;
    auto place = places_.begin();
    for_each_cell(anchors_, [&](Cell cell) {
      costs.counts_.add(place->entry);  // its page is there already
      costs.entry_[cell] = place->entry;
      if (!costs.ground_.empty()) costs.ground_[cell] = place->ground;
      if (had_split_) costs.split_.set(cell, place->split);
      ++place;
    });
    for (std::int32_t row = anchors_.top; row < anchors_.bottom; ++row) {
      baker_.set_open_bits(costs.entry_.row(row).data(), anchors_, row);
    }
    costs.take_open_bits(anchors_);
    if (!had_split_) costs.split_ = {};
    if (!had_walls_) costs.walls_ = {};
    if (!had_sides_) {
      costs.sides_ = {};
      costs.unbarred_ = {};
      return;
    }
    auto step = steps_.begin();
    for_each_cell(block_, [&](Cell cell) {
      costs.sides_.put(cell, step->legal);
      costs.unbarred_.put(cell, step->unbarred);
      if (had_walls_) costs.walls_[cell] = step->walls;
      ++step;
    });
  }
  Undo(const Undo&) = delete;
  Undo& operator=(const Undo&) = delete;
  void keep() { kept_ = true; }

 private:
  Baker& baker_;
  Rect anchors_;
  Rect block_;  // of the steps
  bool had_sides_ = false;
  bool had_split_ = false;
  bool had_walls_ = false;
  bool kept_ = false;
  std::vector<Kept::Place>& places_;
  std::vector<Kept::Steps>& steps_;
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
  if (costs_.walls_.empty() && (limited_ || mover_.size > 1)) {
    costs_.walls_ = Grid<std::uint8_t>(map_.size());
    set_walls(Rect::whole(map_.size()));
  } else if (!costs_.walls_.empty()) {
    set_walls(anchors);
  }
  anchors = anchors.grown(2, map_.size());
  set_sides(anchors);
  return anchors;
}

Rect CostGrid::Baker::rebake(Rect anchors, Kept& kept) {
  if (costs_.has_sides() && costs_.unbarred_.empty()) costs_.unbarred_ = costs_.sides_;  // not baked: from a plane
  const bool first_sides = (map_.has_barriers() || limited_) && !costs_.has_sides();
  const Rect sides = first_sides ? Rect::whole(map_.size()) : anchors.grown(2, map_.size());
  make_room(anchors);
  costs_.changes_.make_room(costs_.size());
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
  const bool same = costs.board() == map.board() && costs.mover_size() == mover.size;
  SAUNTER_EXPECT(same);
  expect_fitting(map, occupied, added);
  if (!same) {
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

}  // namespace saunter::inline v0_2
