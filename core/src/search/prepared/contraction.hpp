/// @file
/// Taking the places of a graph away, the least important first, with short cuts over each so that no distance between
/// those left changes.
#pragma once

#include <array>
#include <cstdint>
#include <span>
#include <vector>

#include "cost_heap.hpp"
#include "saunter/grid/cell.hpp"
#include "saunter/ground/cost.hpp"
#include "workers.hpp"

namespace saunter::inline v0_2::detail {

/// How a way between two places is made up: either a direct one of the board, with the direction in which it leaves, or
/// a short cut over a place that was taken away earlier.
struct Middle {
  static constexpr std::uint32_t direct_mark = 0xFFFF'FFF0U;
  static constexpr std::uint32_t direct(unsigned leaving) { return direct_mark | leaving; }
  static constexpr bool is_direct(std::uint32_t middle) { return middle >= direct_mark; }
  static constexpr unsigned leaving(std::uint32_t middle) { return middle & 15U; }
};

/// A way from the place that keeps it to another, and back. With one side both cost the same.
template <unsigned sides>
struct IndexWay {
  std::uint32_t to = 0;
  std::array<Cost, sides> cost = {};             ///< there (and back); `unreached` where there is none
  std::array<std::uint32_t, sides> middle = {};  ///< of the way there (and of the way back)
  static constexpr unsigned there = 0;
  static constexpr unsigned back = sides - 1;
};

/// Contraction (Geisberger, Sanders, Schultes, Delling 2008) in rounds: every place that matters less than all within
/// two ways of it is taken away, all of a round at once, so that the result is the same with any number of workers.
/// What it would take is tried again only when it is a place's turn. Each place keeps its ways to those taken away
/// later.
template <unsigned sides>
class Contraction {
 public:
  /// @param floor  what a step over so many columns and rows costs at least: see Floor
  struct Floor {
    Cost edge = 0;
    Cost diagonal = 0;        ///< of one column and one row at once; at most two edges
    std::int32_t stride = 1;  ///< columns that one step may lead over

    [[nodiscard]] std::uint64_t operator()(std::int32_t cols, std::int32_t rows) const {
      const auto a = static_cast<std::uint64_t>((cols + stride - 1) / stride);
      const auto b = static_cast<std::uint64_t>(rows);
      const std::uint64_t both = a < b ? a : b;
      return both * diagonal + (a + b - 2 * both) * edge;
    }
  };

  /// Begins with places and no ways.
  void begin(std::vector<Cell> places, Floor floor);
  /// Adds a way, or makes one cheaper. To be called for both ends.
  void add(std::uint32_t from, const IndexWay<sides>& way);
  /// Does some of the work: `amount` is about the number of places looked at. @return whether no more than `until`
  /// places are left at the end of a round, the first such
  bool work(std::size_t amount, std::size_t until, const Workers& workers);
  /// The places left, in the order of their numbers.
  [[nodiscard]] std::span<const std::uint32_t> left() const { return left_; }

  /// The ways of a place to those taken away later, or left over.
  [[nodiscard]] std::span<const IndexWay<sides>> ways(std::uint32_t place) const {
    return std::span(pool_).subspan(lists_[place].begin, lists_[place].count);
  }
  [[nodiscard]] std::size_t memory() const;

 private:
  struct List {
    std::size_t begin = 0;
    std::uint32_t count = 0;
    std::uint32_t room = 0;
  };
  struct Shortcut {
    std::uint32_t from = 0;
    IndexWay<sides> way;
  };
  /// What one worker needs for its searches.
  struct Bench {
    struct Mark {
      std::uint32_t search = 0;  // even: reached in it; one more: still wanted, for less than this cost
      Cost cost = 0;
    };
    std::vector<Mark> marks;
    std::uint32_t search = 0;
    CostHeap heap;
    struct Wanted {
      std::uint32_t place = 0;
      std::uint64_t cost = 0;
    };
    std::vector<Wanted> wanted;
  };
  struct Trial {
    std::vector<Shortcut> shortcuts;
    std::uint64_t key = 0;
  };
  enum class Part : std::uint8_t { first_trials, lowest_near, pick, trials };

  void try_out(std::uint32_t place, Bench& bench, Trial& trial) const;
  void search_from(std::uint32_t source, std::uint32_t without, Bench& bench) const;
  [[nodiscard]] std::uint64_t key_of(std::uint32_t place, std::size_t shortcuts, std::size_t ways) const;
  [[nodiscard]] std::uint64_t lowest_of_others(std::uint32_t place) const;
  void take(std::uint32_t place, const Trial& trial);
  void remove(List& list, std::uint32_t at);
  void take_all();
  void run_part(std::size_t last, const Workers& workers);
  void end_part();

  std::vector<Cell> places_;
  Floor floor_;
  std::vector<List> lists_;
  std::vector<IndexWay<sides>> pool_;
  std::vector<std::uint64_t> keys_;
  std::vector<std::uint64_t> lowest_;  // key of all within one way
  std::vector<std::uint8_t> stale_;    // whether the key may be out of date
  std::vector<std::uint8_t> taken_;
  std::vector<std::uint16_t> levels_;
  std::vector<std::uint32_t> left_;
  std::vector<std::uint32_t> picked_;
  std::vector<Trial> trials_;        // of those picked
  std::vector<Trial> first_trials_;  // by worker
  std::vector<Bench> benches_;
  Part part_ = Part::first_trials;
  std::size_t next_ = 0;
};

/// The places a contraction has left and all ways between them, row by row.
template <unsigned sides>
struct Core {
  std::vector<std::size_t> first;     // one more than places
  std::vector<IndexWay<sides>> ways;  // `to` counts within the core

  [[nodiscard]] std::size_t count() const { return first.empty() ? 0 : first.size() - 1; }
  [[nodiscard]] std::span<const IndexWay<sides>> of(std::uint32_t place) const {
    return std::span(ways).subspan(first[place], first[place + 1] - first[place]);
  }
};

extern template class Contraction<1>;
extern template class Contraction<2>;

}  // namespace saunter::inline v0_2::detail
