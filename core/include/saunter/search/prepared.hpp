/// @file
/// Maps prepared at load time, so that least costs and ways are looked up instead of searched for.
///
/// Units: costs in hundredths, memory in bytes.
/// Errors: bytes that are damaged, or of another board, are refused with the reason; what can't be told is searched.
/// Cost: seconds to minutes, tens to hundreds of bytes a cell; then microseconds a question (docs/which-search.md).
/// Threads: reading from any number; preparing uses the caller's.
#pragma once

#include <chrono>
#include <functional>
#include <limits>
#include <memory>
#include <span>
#include <string_view>
#include <vector>

#include "saunter/grid/visible.hpp"
#include "saunter/ground/cost_grid.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// A straight part of a way: so many steps in one direction.
struct Leg {
  Cell from;
  Direction direction;
  std::uint32_t steps = 0;
  friend bool operator==(const Leg&, const Leg&) = default;
};

/// What an index consists of.
struct PreparedFigures {
  std::size_t places = 0;  ///< cells the index is about: those where ways bend, or all that are not inside passages
  std::size_t ways = 0;    ///< between them, short cuts included
  std::size_t core = 0;    ///< places with a list of hubs
  std::size_t hubs = 0;    ///< entries in those lists
  std::size_t bytes = 0;   ///< all memory, the copy of the board included
};

/// An index over one board: which answers to routes between any two cells it takes together, exactly. Copies share it;
/// what follows a changing grid is each copy's own.
///
/// ```cpp
/// saunter::Prepared index = saunter::prepare(costs);
/// const saunter::Route& route = searcher.route(costs, from, to, {.prepared = &index});
/// ```
/// Exact for every board: squares of one cost with 8 steps and strict corners by the cells where ways bend (subgoals;
/// Uras, Koenig, Hernandez 2013), all others by their cells, passages taken together. The places are taken away one by
/// one with short cuts over them (contraction hierarchies; Geisberger, Sanders, Schultes, Delling 2008) down to a core,
/// whose places get lists of hubs (hub labels; Abraham and others 2011, made by pruned searches: Akiba, Iwata, Yoshida
/// 2013). Movers of several cells and boards with barriers are boards like others; triangles with 12 steps work, at
/// twice the memory of squares.
class Prepared {
 public:
  /// Of no board: every question is answered by a search.
  Prepared() = default;

  [[nodiscard]] bool empty() const { return map_ == nullptr; }
  /// Whether it answers for this grid as it is now.
  [[nodiscard]] bool follows(const CostGrid& costs) const { return follows_.same(costs.stamp()); }
  /// Takes in how a grid differs from the board that was prepared, so that answers are for the grid as it is now: cells
  /// closed, opened, dearer or cheaper, steps lost or gained. Whatever it can't tell exactly any more is searched for.
  /// @return false, and nothing changes, for another size, tiling or other rules
  /// @cost O(cells of the changed blocks) for a grid that was followed before, else O(cells)
  bool follow(const CostGrid& costs);
  /// Cells that cost more, or lead to less, than when the map was prepared. A way that avoids them is still least.
  [[nodiscard]] std::size_t dearer_count() const { return dearer_.size(); }
  /// Cells that cost less, or lead to more. A way is still least when none of them is near enough to better it; with
  /// one that might, the ways through it are looked up too; with more a search is asked.
  [[nodiscard]] std::size_t cheaper_count() const { return cheaper_.size(); }
  /// How much of what it could tell of the board as prepared it still answers for this grid without a search, 0 to 1:
  /// of so many routes between cells at random, the same each time. 0 when it does not follow the grid; when it sinks
  /// below what the game can spare, prepare anew (see Preparation). @cost so many questions; allocates
  [[nodiscard]] double share_exact(const CostGrid& costs, std::size_t routes = 64) const;

  [[nodiscard]] PreparedFigures figures() const;
  /// The index as bytes, to be stored: the same on every machine, with its version, a checksum and the board's
  /// fingerprint. They live as long as this does.
  [[nodiscard]] std::span<const std::byte> bytes() const;
  struct Read;
  /// An index from stored bytes, which are not copied: they may be a file mapped into memory.
  /// @param keeper  what keeps the bytes alive, for as long as the index and its copies
  /// @param costs   the board it was made for; copied
  /// @errors the reason, and an empty index, when the bytes are not an index of this version, damaged anywhere, or of
  ///         another board. Whoever makes their checksum right can't lead out of memory or into a loop by them, and every
  ///         step is checked as it is walked; that ways are *least* is tried for as many as a tenth of a second lasts
  ///         for, so a crafted index may still name some that are not: take indices from where you take programs
  /// @cost O(bytes), and up to 64 searches
  [[nodiscard]] static Read from_bytes(std::span<const std::byte> bytes, std::shared_ptr<const void> keeper,
                                       const CostGrid& costs);

 private:
  friend class Preparation;
  friend struct PreparedAccess;
  struct Inside;
  void compare(const CostGrid& costs, Rect block);

  std::shared_ptr<const Inside> map_;
  Stamp follows_;
  std::vector<Cell> dearer_;
  std::vector<Cell> cheaper_;
};

/// An index read from bytes, or why not.
struct Prepared::Read {
  Prepared index = {};
  std::string_view problem = {};  ///< empty: none
};

struct PrepareOptions {
  /// Bytes the index may take, about. With less memory fewer places get lists of hubs, and questions take longer.
  std::size_t most_bytes = std::numeric_limits<std::size_t>::max();
  /// Time that `prepare` may take, about: after that it gives up and the index is empty, since half an index tells
  /// nothing. (A Preparation is given its time by whoever gives it work.)
  std::chrono::nanoseconds most_time = std::chrono::nanoseconds::max();
};

/// Prepares a map a little at a time, in the background, or over several threads. The index is the same whatever the
/// slices and the number of workers.
///
/// While the game goes on with the old index (or none), a frame's spare time or a thread of the caller's does the work:
/// ```cpp
/// saunter::Preparation work(costs);            // copies the board
/// while (!work.work(1000)) { ... }             // about a millisecond each
/// saunter::Prepared fresh = work.take();
/// fresh.follow(costs);                         // what has changed meanwhile
/// index = std::move(fresh);                    // the swap
/// ```
class Preparation {
 public:
  explicit Preparation(const CostGrid& costs, const PrepareOptions& options = {});
  ~Preparation();
  Preparation(Preparation&&) noexcept;
  Preparation& operator=(Preparation&&) noexcept;

  /// Does some of the work: about so many places are looked at; after an exception (no memory) it begins anew.
  /// @return whether all is done
  bool work(std::size_t places);
  /// The same over the caller's threads. @param executor  see Batch
  template <typename Executor>
  bool work(std::size_t places, std::size_t workers, Executor&& executor);

  [[nodiscard]] bool done() const;
  /// How much is done, about: 0 to 1.
  [[nodiscard]] double share_done() const;
  /// The index; empty before all is done, and afterwards.
  [[nodiscard]] Prepared take();
  /// Bytes in use now.
  [[nodiscard]] std::size_t memory() const;

 private:
  struct Maker;
  bool work_with(std::size_t places, std::size_t workers, void* executor,
                 void (*run)(void*, std::size_t, void*, void (*)(void*, std::size_t)));

  std::unique_ptr<Maker> maker_;
};

template <typename Executor>
bool Preparation::work(std::size_t places, std::size_t workers, Executor&& executor) {
  auto run = [&](std::size_t count, const auto& job) { executor(count, job); };
  return work_with(places, workers, &run,
                   [](void* with, std::size_t count, void* what, void (*call)(void*, std::size_t)) {
                     (*static_cast<decltype(run)*>(with))(count, [=](std::size_t worker) { call(what, worker); });
                   });
}

/// All at once, on this thread. @param progress  told how much is done from time to time; false from it ends the work,
/// and the index is empty
[[nodiscard]] Prepared prepare(const CostGrid& costs, const PrepareOptions& options = {},
                               const std::function<bool(double)>& progress = {});
/// The same over the caller's threads. @param executor  see Batch
template <typename Executor>
[[nodiscard]] Prepared prepare(const CostGrid& costs, const PrepareOptions& options, std::size_t workers,
                               Executor&& executor) {
  const auto began = std::chrono::steady_clock::now();
  Preparation preparation(costs, options);
  while (!preparation.work(20'000, workers, executor)) {
    if (std::chrono::steady_clock::now() - began > options.most_time) return {};
  }
  Prepared made = preparation.take();
  made.follow(costs);
  return made;
}

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
