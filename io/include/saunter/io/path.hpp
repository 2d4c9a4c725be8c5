/// @file
/// Paths as cells, from files that others have written.
///
/// Units: cells as col,row.
/// Errors: one Error with line, what was found and what was expected.
/// Cost: O(bytes).
/// Threads: any number, nothing is shared.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "saunter/grid/cell.hpp"
#include "saunter/grid/visible.hpp"
#include "saunter/io/result.hpp"

namespace saunter::inline v0_2 {
namespace io SAUNTER_VISIBLE {

/// Reads a path: JSON (`[[col,row],...]`, or an object whose `path` is such a list, as the program prints it) or CSV (a
/// cell a line, `col,row`). Cells may lie off any map. "-" reads standard input.
/// @errors file, line, what was found and what was expected; a path without cells
[[nodiscard]] Result<std::vector<Cell>> read_path(const std::string& file);
/// The same from text. @param name  for errors
[[nodiscard]] Result<std::vector<Cell>> parse_path(std::string_view text, const std::string& name);
/// "12,3": two 32-bit whole numbers and a comma, nothing else.
[[nodiscard]] bool parse_cell(std::string_view text, Cell& cell);

}  // namespace io SAUNTER_VISIBLE
}  // namespace saunter::inline v0_2
