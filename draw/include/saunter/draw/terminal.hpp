/// @file
/// A map as text for a terminal.
///
/// Units: characters, two columns a cell.
/// Errors: nothing when the map is larger than the options allow.
/// Cost: O(cells), a look of 16 bytes a cell.
/// Threads: any number, nothing is shared.
#pragma once

#include <string>

#include "saunter/draw/picture.hpp"
#include "saunter/grid/visible.hpp"

namespace saunter::inline v0_2 {
namespace draw SAUNTER_VISIBLE {

struct TerminalOptions {
  bool color = false;     ///< 24-bit colour escapes; without: plain glyphs
  int max_columns = 120;  ///< wider maps are not drawn
  int max_lines = 200;
};

/// The map in glyphs: each cell two characters wide, shifted hex rows by one character, shifted hex columns by one
/// line. Path cells show `*`, start `S`, goal `G`, units `U`, cells the mover cannot enter a `×`. Danger shows its
/// level
/// (`+` beyond 9), threats `@`, what is not seen `░`, spots `+`, cells to be kept open `K`, what is wrong `!`.
/// @return lines with line ends; empty when the map is larger than the options allow
[[nodiscard]] std::string terminal_view(const Picture& picture, const TerminalOptions& options);

}  // namespace draw SAUNTER_VISIBLE
}  // namespace saunter::inline v0_2
