/// @file
/// What a search or a walker did, step by step, for pages that show it on a clock.
#pragma once

#include "saunter/search/query.hpp"
#include "saunter/search/route.hpp"
#include "shared.hpp"

namespace saunter::app {

/// Steps beyond these are counted, not shown.
inline constexpr std::size_t most_steps_shown = 1'000'000;

/// The order in which a search checked cells, and when each came into its sight: `visits` (cells, costs, estimates,
/// parents) and `opened` (at which visit, cells, costs).
/// @param by  the search that was used. Of one that opens each legal neighbour of a cell it checks every cell seen is
///            told, of others those that were checked later
/// @param as_it_is  false: it knew of changes or turns, so that what it saw can't be told from the grid alone
[[nodiscard]] Json search_replay(const CostGrid& costs, std::span<const Visit> visits, Algorithm by,
                                 bool as_it_is = true);
/// The cells a walker was on.
[[nodiscard]] Json walk_replay(Size size, std::span<const Cell> cells);
/// A page that needs nothing else: the answer, its map, and what happened, in one file.
[[nodiscard]] std::string page_of(const Answer& answer);

}  // namespace saunter::app
