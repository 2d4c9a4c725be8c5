/// @file
/// What the handles of the C interface hold, and the guard that every call goes through: no exception leaves, a wrong
/// handle or struct is told by its status.
#pragma once

#include <algorithm>
#include <cstring>
#include <memory>
#include <new>
#include <optional>
#include <string>
#include <type_traits>
#include <vector>

#include "saunter.h"
#include "saunter/ground/bake.hpp"
#include "saunter/io/scenario.hpp"
#include "saunter/live/live_map.hpp"
#include "saunter/region/regions.hpp"
#include "saunter/search/prepared.hpp"
#include "saunter/search/searcher.hpp"
#include "saunter/sight/sight.hpp"
#include "saunter/threat/threat_field.hpp"
#include "saunter/threat/wary.hpp"
#include "sizes.hpp"

namespace saunter::c {

/// An error on its way out of a call.
struct Failure {
  saunter_status status;
  std::string message;
};

/// Begins every handle, so that one of another kind is seen. Emptied when it is freed.
template <std::uint32_t mark>
struct Handle {
  static constexpr std::uint32_t mark_of_kind = mark;
  std::uint32_t kind = mark;
  Handle() = default;
  Handle(const Handle&) = delete;
  Handle& operator=(const Handle&) = delete;
  ~Handle() {
    volatile std::uint32_t* const seen = &kind;
    *seen = 0;
  }
};

[[noreturn]] inline void fail(saunter_status status, std::string message) { throw Failure{status, std::move(message)}; }

/// Keeps the words of an error for this thread.
void set_message(const char* message) noexcept;

/// Runs the body of a call.
template <typename Body>
saunter_status guarded(Body&& body) noexcept {
  try {
    return body();
  } catch (const Failure& failure) {
    set_message(failure.message.c_str());
    return failure.status;
  } catch (const std::bad_alloc&) {
    set_message("found not enough memory, expected more");
    return SAUNTER_NO_MEMORY;
  } catch (const std::exception& error) {
    set_message(error.what());
    return SAUNTER_UNEXPECTED;
  } catch (...) {
    set_message("found what should not happen, expected an answer");
    return SAUNTER_UNEXPECTED;
  }
}

/// Whether a handle is one of its own kind.
template <typename Object>
bool is_own(const Object* handle) {
  return handle != nullptr && handle->kind == Object::mark_of_kind;
}
template <typename Object>
void free_own(Object* handle) {
  if (is_own(handle)) delete handle;
}

/// The object behind a handle.
template <typename Object>
Object& held(Object* handle, const char* name) {
  if (is_own(handle)) return *handle;
  fail(SAUNTER_BAD_HANDLE, std::string(name) + (handle == nullptr ? ": found NULL, expected a handle"
                                                                  : ": found a handle of another kind"));
}

template <typename Pointer>
void expect_given(const Pointer* pointer, const char* name) {
  if (pointer == nullptr) fail(SAUNTER_BAD_ARGUMENT, std::string(name) + ": found NULL, expected an address");
}

inline void expect_turn(Tiling tiling, std::int32_t turn) {
  if (turn >= 0 && turn < full_turn(tiling)) return;
  fail(SAUNTER_BAD_ARGUMENT,
       "turn: found " + std::to_string(turn) + ", expected 0 to " + std::to_string(full_turn(tiling) - 1));
}

template <typename Struct>
void expect_size(const Struct& given, const char* name) {
  if (ends_between_fields<Struct>(given.size)) return;
  fail(SAUNTER_BAD_SIZE, std::string(name) + ": found size " + std::to_string(given.size) + ", expected up to " +
                             std::to_string(sizeof(Struct)) + ", the end of a field");
}

/// A struct as its caller knows it: what an older one has not is 0. @param given  null: all defaults
template <typename Struct>
Struct taken(const Struct* given, const char* name) {
  Struct all;
  std::memset(&all, 0, sizeof all);
  if (given == nullptr) return all;
  expect_size(*given, name);
  std::memcpy(&all, given, given->size);
  return all;
}

/// Fills a caller's struct as far as it goes.
template <typename Struct>
void give(Struct& filled, Struct* out) {
  filled.size = out->size;
  std::memcpy(out, &filled, out->size);
}
template <typename Struct>
void expect_result(const Struct* out, const char* name) {
  expect_given(out, name);
  expect_size(*out, name);
}

inline void expect_count(std::size_t found, std::size_t wanted, const char* name) {
  if (found == wanted) return;
  fail(SAUNTER_SHORT_ARRAY,
       std::string(name) + ": found " + std::to_string(found) + " elements, expected " + std::to_string(wanted));
}

inline Cell cell_of(saunter_cell cell) { return {cell.col, cell.row}; }
inline saunter_cell to_c(Cell cell) { return {cell.col, cell.row}; }
static_assert(sizeof(Cell) == sizeof(saunter_cell) && std::is_standard_layout_v<Cell>);
/// Cells are alike on both sides.
inline const saunter_cell* to_c(std::span<const Cell> cells) {
  return cells.empty() ? nullptr : reinterpret_cast<const saunter_cell*>(cells.data());  // NOLINT
}
inline std::span<const Cell> cells_of(const saunter_cell* cells, std::size_t count) {
  return {reinterpret_cast<const Cell*>(cells), count};  // NOLINT(cppcoreguidelines-pro-type-reinterpret-cast)
}

/// What every search tells: its verdict, its way, and how many cells it checked.
[[nodiscard]] inline saunter_route route_of(const Verdict& verdict, std::span<const Cell> cells,
                                            std::uint64_t expanded) {
  saunter_route told = {};
  told.reason = static_cast<std::int32_t>(verdict.reason);
  told.at = to_c(verdict.at);
  told.cells = to_c(cells);
  told.cell_count = cells.size();
  told.by = SAUNTER_ASTAR;
  told.expanded = expanded;
  return told;
}

[[nodiscard]] Tiling tiling_of(std::int32_t tiling);
[[nodiscard]] Board board_of(const saunter_board* board);
void give_board(const Board& board, saunter_board* out);
/// A mover of a scenario by name.
[[nodiscard]] std::size_t mover_number(const std::vector<Mover>& movers, const char* name);
[[nodiscard]] const io::Unit& unit_of(const io::Scenario& scenario, const char* name);

}  // namespace saunter::c

struct saunter_grid : saunter::c::Handle<0x53475244> {
  saunter::CostGrid own;
  const saunter::CostGrid* costs = &own;  ///< its own, or a live map's
};

struct saunter_scenario : saunter::c::Handle<0x53534345> {
  saunter::io::Scenario scenario;
};

struct saunter_searcher : saunter::c::Handle<0x53534541> {
  saunter::Searcher searcher;
  saunter::WarySearcher wary;
  std::vector<saunter::Source> starts;  // of the last question; kept for their memory
  std::vector<saunter::EntryChange> changes;
  std::vector<saunter::Visit> visits;
  saunter::Levels levels;  // of a large mover
};

struct saunter_field : saunter::c::Handle<0x53464945> {
  saunter::Field field;
  saunter::Size size;
};

struct saunter_regions : saunter::c::Handle<0x53524547> {
  saunter::Regions regions;
  saunter::Size size;
};

struct saunter_prepared : saunter::c::Handle<0x53505245> {
  saunter::Prepared index;
};

struct saunter_sight : saunter::c::Handle<0x53534947> {
  saunter::SightGrid grid;
  saunter::BitGrid nowhere;  ///< void of a scenario: seen by nobody, of no level; 0 x 0 without one
};

struct saunter_danger : saunter::c::Handle<0x5344414e> {
  saunter::SightGrid sight;
  saunter::ThreatField field;
};

struct saunter_live : saunter::c::Handle<0x534c4956> {
  explicit saunter_live(saunter::LiveMap made) : map(std::move(made)) {}
  saunter::LiveMap map;
  std::vector<std::string> units;                    ///< by their numbers, from 1
  std::vector<std::unique_ptr<saunter_grid>> grids;  // one for each mover, once it was asked for
  std::vector<saunter_cell> changed;
  std::vector<saunter::RouteId> routes;  // those kept
};
