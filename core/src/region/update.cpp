#include <algorithm>
#include <optional>
#include <unordered_map>
#include <utility>

#include "saunter/region/regions.hpp"
#include "turn_floods.hpp"
#include "../search/kernel/legal_steps.hpp"

namespace saunter::inline v0 {
using namespace detail;
namespace {

/// What is known of some cells of a region.
struct Tally {
  std::uint32_t cells = 0;
  Rect box;
  Cell first;

  void take(Cell cell) {
    if (cells == 0 || cell < first) first = cell;
    box = box.joined(Rect::of(cell));
    ++cells;
  }
  void take(const Tally& other) {
    if (other.cells == 0) return;
    if (cells == 0 || other.first < first) first = other.first;
    box = box.joined(other.box);
    cells += other.cells;
  }
};

}  // namespace

/// One update. The block is taken out of the old regions; what is open in and around it falls into groups that are
/// connected there. A region that touches one group lives on with it; where it touches several, floods set out from
/// each of them (see TurnFloods).
class Regions::Update {
 public:
  Update(Regions& regions, const CostGrid& costs, Rect block)
      : regions_(regions), costs_(costs), size_(costs.size()), block_(block) {}

  /// @return false when starting over is cheaper; the regions are then spoilt
  [[nodiscard]] bool run() {
    const std::size_t limit = size_.cell_count() / 4 + 256;
    if (!costs_.has_sides()) shrink_block();
    if (block_.empty()) return true;
    if (cells_of(block_) > limit) return false;
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
  /// Open cells of the window that are connected within it. Its flood sets out from those around the block.
  struct Group {
    std::uint32_t name = 0;  // 0 until it has one of its own
    std::uint32_t any_old = 0;
    Tally inside;  // its cells in the block
    Tally found;   // cells its flood has found, other than those
  };
  /// An old region about the block.
  struct Old {
    std::vector<std::uint32_t> groups;
    Tally lost;  // to the block or to floods
    std::uint32_t heir = no_group;
  };
  /// A region as it is afterwards.
  struct Heir {
    Tally tally;
    std::uint32_t id = 0;
  };
  static constexpr std::uint32_t no_group = ~std::uint32_t{0};

  [[nodiscard]] Grid<std::uint32_t>& names() { return regions_.labels_.names(); }
  [[nodiscard]] std::vector<std::uint32_t>& numbers() { return regions_.labels_.numbers(); }
  static std::size_t cells_of(Rect rect) {
    return static_cast<std::size_t>(rect.right - rect.left) * static_cast<std::size_t>(rect.bottom - rect.top);
  }

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
    group_at_.assign(cells_of(window_), no_group);
    std::vector<Cell> line;
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
    for (const auto& [number, old] : olds_) floods_.contest(old.groups);
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
    std::vector<std::uint32_t> heir_of(groups_.size(), no_group);
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
    for (auto& [number, old] : olds_) {
      if (regions_.list_[number - 1].cells == old.lost.cells) continue;
      for (const std::uint32_t g : old.groups) {
        if (floods_.unfinished(floods_.set_of(g))) old.heir = heir_of[g];
      }
      SAUNTER_EXPECT(old.heir != no_group);
    }
    for (auto& [number, old] : olds_) {
      if (old.heir == no_group) continue;
      Tally& tally = heirs_[old.heir].tally;
      tally.take(rest_of(number, old, tally));
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
    if (olds_.size() != heirs_.size()) return false;
    for (auto& [number, old] : olds_) {
      if (old.heir == no_group) return false;
      Heir& heir = heirs_[old.heir];
      if (heir.id != 0 || heir.tally.first != regions_.list_[number - 1].first) return false;
      heir.id = number;
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
    std::vector<std::uint32_t> order(heirs_.size());
    for (std::uint32_t i = 0; i < order.size(); ++i) order[i] = i;
    std::sort(order.begin(), order.end(),
              [&](std::uint32_t a, std::uint32_t b) { return heirs_[a].tally.first < heirs_[b].tally.first; });
    std::vector<Region>& list = regions_.list_;
    std::vector<Region> next;
    next.reserve(list.size() + order.size());
    std::vector<std::uint32_t> now(list.size() + 1, 0);  // new number of each old one
    std::size_t taken = 0;
    const auto put_heirs = [&](const Region* before) {
      while (taken < order.size() && (before == nullptr || heirs_[order[taken]].tally.first < before->first)) {
        Heir& heir = heirs_[order[taken++]];
        heir.id = static_cast<std::uint32_t>(next.size()) + 1;
        next.push_back({heir.id, heir.tally.cells, heir.tally.box, heir.tally.first});
      }
    };
    for (const auto& [number, old] : olds_) list[number - 1].id = 0;
    for (const Region& region : list) {
      if (region.id == 0) continue;
      put_heirs(&region);
      now[region.id] = static_cast<std::uint32_t>(next.size()) + 1;
      next.push_back(region);
      next.back().id = now[region.id];
    }
    put_heirs(nullptr);
    for (const auto& [number, old] : olds_) now[number] = old.heir == no_group ? 0 : heirs_[old.heir].id;
    list = std::move(next);
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
  std::vector<std::uint32_t> group_at_;
  std::vector<Group> groups_;
  TurnFloods floods_;
  std::vector<std::uint32_t> group_named_;
  std::unordered_map<std::uint32_t, Old> olds_;
  std::vector<Heir> heirs_;
  std::uint32_t first_name_ = 0;
};

void Regions::update(const CostGrid& costs, Rect changed) {
  const std::optional<Rect> known = costs.changed_since(labels_.stamp());
  labels_.set_stamp({});  // until they fit again
  const bool same_grid = known && costs.size() == labels_.size();
  const Rect block = same_grid ? changed.grown(0, costs.size()).joined(*known) : Rect{};
  if (!same_grid || !Update(*this, costs, block).run()) *this = Regions(costs);
  labels_.set_stamp(costs.stamp());
}

}  // namespace saunter::inline v0
