#include <algorithm>
#include <optional>
#include <utility>

#include "../search/kernel/legal_steps.hpp"
#include "update_scratch.hpp"

namespace saunter::inline v0_2 {
using namespace detail;

/// One update. The block is taken out of the old regions; what is open in and around it falls into groups that are
/// connected there. A region that touches one group lives on with it; where it touches several, floods set out from
/// each of them (see TurnFloods).
class Regions::Update {
 public:
  using Scratch = RegionsUpdater::Scratch;

  Update(Scratch& scratch, Regions& regions, const CostGrid& costs, Rect block)
      : regions_(regions),
        costs_(costs),
        size_(costs.size()),
        block_(block),
        scratch_(scratch),
        group_at_(scratch.group_at),
        groups_(scratch.groups),
        floods_(scratch.floods),
        group_named_(scratch.group_named),
        olds_(scratch.olds),
        heirs_(scratch.heirs) {
    groups_.clear();
    floods_.begin();
    group_named_.clear();
    olds_.begin();
    heirs_.clear();
  }

  /// @return false when starting over is cheaper; the regions are then spoilt
  [[nodiscard]] bool run() {
    const std::size_t limit = size_.cell_count() / 4 + 256;
    if (!costs_.has_sides()) shrink_block();
    if (block_.empty()) return true;
    if (block_.cell_count() > limit) return false;
    find_steps();
    empty_block();
    find_groups();
    find_contests();
    if (!floods_.run(limit, [&](std::uint32_t g, Cell cell) { return look_beyond(g, cell); })) return false;
    settle();
    if (regions_.labels_.numbers().size() > 2 * regions_.list_.size() + 1024 + size_.cell_count() / 64) use_few_names();
    return true;
  }

 private:
  using Group = Scratch::Group;
  using Old = Scratch::Old;
  using Heir = Scratch::Heir;
  static constexpr std::uint32_t no_group = Scratch::no_group;

  [[nodiscard]] Grid<std::uint32_t>& names() { return regions_.labels_.names(); }
  [[nodiscard]] std::vector<std::uint32_t>& numbers() { return regions_.labels_.numbers(); }

  /// Where steps follow from open cells only those that were opened or closed matter.
  void shrink_block() {
    Rect differs;
    for (std::int32_t row = block_.top; row < block_.bottom; ++row) {
      for (std::int32_t col = block_.left; col < block_.right; ++col) {
        const Cell cell{col, row};
        if (costs_.open(cell) != (names()[cell] != 0)) differs = differs.joined(Rect::of(cell));
      }
    }
    block_ = differs;
  }

  void find_steps() {
    const Tiling tiling = costs_.tiling();
    const bool corners = costs_.rules().steps > tiling.edge_count();
    // Where steps follow from open cells, one across a corner that needs an open way round joins nothing new.
    if (!costs_.has_sides() && !(corners && costs_.rules().corners == Corners::free)) {
      used_ = (1U << static_cast<unsigned>(tiling.edge_count())) - 1;
    }
    const std::int32_t reach = tiling.shape() == Shape::triangle ? 2 : 1;  // columns that a step can lead aside
    window_ = block_.grown(reach, size_);
  }
  [[nodiscard]] unsigned steps(Cell cell) const { return two_way_moves(costs_, cell) & used_; }

  void empty_block() {
    for (std::int32_t row = block_.top; row < block_.bottom; ++row) {
      for (std::int32_t col = block_.left; col < block_.right; ++col) {
        const Cell cell{col, row};
        if (costs_.has_sides() && costs_.moves(cell) != moves_into(costs_, cell)) {
          regions_.labels_.set_proves_apart(false);  // until they are made anew
        }
        std::uint32_t& name = names()[cell];
        if (name != 0) olds_[numbers()[name]].lost.take(cell);
        name = 0;
      }
    }
  }

  [[nodiscard]] std::uint32_t& group_at(Cell cell) {
    const auto width = static_cast<std::size_t>(window_.right - window_.left);
    return group_at_[static_cast<std::size_t>(cell.row - window_.top) * width +
                     static_cast<std::size_t>(cell.col - window_.left)];
  }

  void find_groups() {
    group_at_.assign(static_cast<std::size_t>(window_.cell_count()), no_group);
    std::vector<Cell>& line = scratch_.making.line;
    for (std::int32_t row = window_.top; row < window_.bottom; ++row) {
      for (std::int32_t col = window_.left; col < window_.right; ++col) {
        const Cell first{col, row};
        if (!costs_.open(first) || group_at(first) != no_group) continue;
        const std::uint32_t number = floods_.add();
        Group& group = groups_.emplace_back();
        line.assign(1, first);
        group_at(first) = number;
        while (!line.empty()) {
          const Cell cell = line.back();
          line.pop_back();
          if (block_.contains(cell)) {
            group.inside.take(cell);
          } else {
            floods_[number].line.push_back(cell);
            group.any_old = names()[cell];
          }
          for (const Direction d : directions(steps(cell))) {
            const Cell next = costs_.tiling().neighbour(cell, d);
            if (!window_.contains(next) || group_at(next) != no_group) continue;
            group_at(next) = number;
            line.push_back(next);
          }
        }
      }
    }
  }

  /// Which old regions touch which groups, and who has to find out more. Names the cells of the block.
  void find_contests() {
    for (std::uint32_t g = 0; g < groups_.size(); ++g) {
      for (const Cell cell : floods_[g].line) {
        std::vector<std::uint32_t>& of_old = olds_[regions_.at(cell)].groups;
        if (of_old.empty() || of_old.back() != g) of_old.push_back(g);
      }
    }
    for (const Old& old : olds_.all()) floods_.contest(old.groups);
    floods_.choose_active();
    first_name_ = static_cast<std::uint32_t>(numbers().size());
    for (std::uint32_t g = 0; g < groups_.size(); ++g) {
      Group& group = groups_[g];
      if (!floods_.active(g) && group.any_old != 0) continue;
      group.name = static_cast<std::uint32_t>(numbers().size());
      numbers().push_back(0);
      group_named_.push_back(g);
      for (const Cell cell : floods_[g].line) take_over(group, cell);
    }
    for (std::int32_t row = block_.top; row < block_.bottom; ++row) {
      for (std::int32_t col = block_.left; col < block_.right; ++col) {
        const std::uint32_t g = group_at({col, row});
        if (g == no_group) continue;
        names()[Cell{col, row}] = groups_[g].name != 0 ? groups_[g].name : groups_[g].any_old;
      }
    }
  }

  /// Gives a cell of an old region to a flood.
  void take_over(Group& group, Cell cell) {
    olds_[regions_.at(cell)].lost.take(cell);
    group.found.take(cell);
    names()[cell] = group.name;
  }

  /// @return whether it met another group
  bool look_beyond(std::uint32_t g, Cell cell) {
    Group& group = groups_[g];
    bool met = false;
    for_each_next(costs_.tiling(), steps(cell), cell, [&](Cell next) {
      const std::uint32_t name = names()[next];
      if (name == group.name) return;
      if (name < first_name_) {
        take_over(group, next);
        floods_[g].line.push_back(next);
      } else {
        met = floods_.meet(g, group_named_[name - first_name_]) || met;
      }
    });
    return met;
  }

  /// Makes the list of regions and the table of numbers what they would be anew.
  void settle() {
    // A group's own cells, those of all groups it has met, and what no flood saw of the old regions it goes on with.
    std::vector<std::uint32_t>& heir_of = scratch_.heir_of;
    heir_of.assign(groups_.size(), no_group);
    for (std::uint32_t g = 0; g < groups_.size(); ++g) {
      const std::uint32_t root = floods_.set_of(g);
      if (heir_of[root] == no_group) {
        heir_of[root] = static_cast<std::uint32_t>(heirs_.size());
        heirs_.emplace_back();
      }
      heir_of[g] = heir_of[root];
      Tally& tally = heirs_[heir_of[g]].tally;
      tally.take(groups_[g].inside);
      tally.take(groups_[g].found);
    }
    // Rests that no flood saw: each lies with the one group set that is unfinished.
    for (Old& old : olds_.all()) {
      if (regions_.list_[old.number - 1].cells == old.lost.cells) continue;
      for (const std::uint32_t g : old.groups) {
        if (floods_.unfinished(floods_.set_of(g))) old.heir = heir_of[g];
      }
      SAUNTER_EXPECT(old.heir != no_group);
    }
    for (const Old& old : olds_.all()) {
      if (old.heir == no_group) continue;
      Tally& tally = heirs_[old.heir].tally;
      tally.take(rest_of(old.number, old, tally));
    }
    if (only_counts_changed(heir_of)) return;
    renumber(heir_of);
  }

  /// The cells of an old region that were neither in the block nor flooded. Sides that `known` reaches anyway are not
  /// looked for.
  [[nodiscard]] Tally rest_of(std::uint32_t number, const Old& old, const Tally& known) const {
    const Region& region = regions_.list_[number - 1];
    Tally rest{region.cells - old.lost.cells, region.box, region.first};
    if (old.lost.cells == 0) return rest;
    const bool reaches = known.cells > 0;
    const auto in_row = [&](std::int32_t row, std::int32_t left, std::int32_t right) {
      for (std::int32_t col = left; col < right; ++col) {
        if (regions_.at(Cell{col, row}) == number) return col;
      }
      return right;
    };
    const auto in_column = [&](std::int32_t col) {
      for (std::int32_t row = rest.box.top; row < rest.box.bottom; ++row) {
        if (regions_.at(Cell{col, row}) == number) return true;
      }
      return false;
    };
    Rect& box = rest.box;
    const Rect lost = old.lost.box;
    if (lost.top == box.top && !(reaches && known.box.top <= box.top)) {
      while (in_row(box.top, box.left, box.right) == box.right) ++box.top;
    }
    if (lost.bottom == box.bottom && !(reaches && known.box.bottom >= box.bottom)) {
      while (in_row(box.bottom - 1, box.left, box.right) == box.right) --box.bottom;
    }
    if (old.lost.first == region.first) {
      std::int32_t row = region.first.row;
      std::int32_t col = in_row(row, region.first.col, region.box.right);
      // Beyond a cell that is known to come earlier nothing is of interest.
      while (col == region.box.right && !(reaches && known.first.row <= row)) {
        col = in_row(++row, region.box.left, region.box.right);
      }
      rest.first = col < region.box.right ? Cell{col, row} : known.first;
    }
    if (lost.left == box.left && !(reaches && known.box.left <= box.left)) {
      while (!in_column(box.left)) ++box.left;
    }
    if (lost.right == box.right && !(reaches && known.box.right >= box.right)) {
      while (!in_column(box.right - 1)) --box.right;
    }
    return rest;
  }

  /// Whether each old region lives on as itself and where it stood in the list; takes the counts then.
  bool only_counts_changed(const std::vector<std::uint32_t>& heir_of) {
    if (olds_.all().size() != heirs_.size()) return false;
    for (const Old& old : olds_.all()) {
      if (old.heir == no_group) return false;
      Heir& heir = heirs_[old.heir];
      if (heir.id != 0 || heir.tally.first != regions_.list_[old.number - 1].first) return false;
      heir.id = old.number;
    }
    for (const Heir& heir : heirs_) write(heir);
    name_groups(heir_of);
    return true;
  }
  void write(const Heir& heir) {
    regions_.list_[heir.id - 1] = {heir.id, heir.tally.cells, heir.tally.box, heir.tally.first};
  }
  void name_groups(const std::vector<std::uint32_t>& heir_of) {
    for (const std::uint32_t g : group_named_) numbers()[groups_[g].name] = heirs_[heir_of[g]].id;
  }

  void renumber(const std::vector<std::uint32_t>& heir_of) {
    std::vector<std::uint32_t>& order = scratch_.order;
    order.resize(heirs_.size());
    for (std::uint32_t i = 0; i < order.size(); ++i) order[i] = i;
    std::sort(order.begin(), order.end(),
              [&](std::uint32_t a, std::uint32_t b) { return heirs_[a].tally.first < heirs_[b].tally.first; });
    std::vector<Region>& list = regions_.list_;
    std::vector<Region>& next = scratch_.next;
    next.clear();
    next.reserve(std::max(list.size() + order.size(), list.capacity()));  // they change hands
    std::vector<std::uint32_t>& now = scratch_.now;                       // new number of each old one
    now.assign(list.size() + 1, 0);
    std::size_t taken = 0;
    const auto put_heirs = [&](const Region* before) {
      while (taken < order.size() && (before == nullptr || heirs_[order[taken]].tally.first < before->first)) {
        Heir& heir = heirs_[order[taken++]];
        heir.id = static_cast<std::uint32_t>(next.size()) + 1;
        next.push_back({heir.id, heir.tally.cells, heir.tally.box, heir.tally.first});
      }
    };
    for (const Old& old : olds_.all()) list[old.number - 1].id = 0;
    for (const Region& region : list) {
      if (region.id == 0) continue;
      put_heirs(&region);
      now[region.id] = static_cast<std::uint32_t>(next.size()) + 1;
      next.push_back(region);
      next.back().id = now[region.id];
    }
    put_heirs(nullptr);
    for (const Old& old : olds_.all()) now[old.number] = old.heir == no_group ? 0 : heirs_[old.heir].id;
    std::swap(list, next);
    for (std::uint32_t& number : numbers()) number = now[number];
    name_groups(heir_of);
  }

  /// One name a region again.
  void use_few_names() {
    for (std::uint32_t& name : names().values()) name = numbers()[name];
    numbers().resize(regions_.list_.size() + 1);
    for (std::uint32_t i = 0; i < numbers().size(); ++i) numbers()[i] = i;
  }

  Regions& regions_;
  const CostGrid& costs_;
  Size size_;
  Rect block_;
  Rect window_;
  unsigned used_ = ~0U;
  Scratch& scratch_;
  std::vector<std::uint32_t>& group_at_;
  std::vector<Group>& groups_;
  TurnFloods& floods_;
  std::vector<std::uint32_t>& group_named_;
  Scratch::Olds& olds_;
  std::vector<Heir>& heirs_;
  std::uint32_t first_name_ = 0;
};

RegionsUpdater::RegionsUpdater() : scratch_(std::make_unique<Scratch>()) {}
RegionsUpdater::~RegionsUpdater() = default;
RegionsUpdater::RegionsUpdater(RegionsUpdater&&) noexcept = default;
RegionsUpdater& RegionsUpdater::operator=(RegionsUpdater&&) noexcept = default;

void RegionsUpdater::operator()(Regions& regions, const CostGrid& costs, Rect changed) {
  const std::optional<Rect> known = costs.changed_since(regions.labels_.stamp());
  regions.labels_.set_stamp({});  // until they fit again
  const bool same_grid = known && costs.size() == regions.labels_.size();
  const Rect block = same_grid ? changed.grown(0, costs.size()).joined(*known) : Rect{};
  if (!same_grid || !Regions::Update(*scratch_, regions, costs, block).run()) remake(regions, costs);
  regions.labels_.set_stamp(costs.stamp());
}

void RegionsUpdater::remake(Regions& regions, const CostGrid& costs) { regions.make(costs, scratch_->making); }

void Regions::update(const CostGrid& costs, Rect changed) {
  const Stamp stamp = labels_.stamp();
  labels_.set_stamp({});  // should there be no memory to begin with
  RegionsUpdater updater;
  labels_.set_stamp(stamp);
  updater(*this, costs, changed);
}

}  // namespace saunter::inline v0_2
