/// @file
/// Scenarios back into files.
///
/// Units: as read.
/// Errors: an Error where a form can't hold what is there.
/// Cost: O(cells), the bytes are allocated.
/// Threads: any number, nothing is shared.
#pragma once

#include <string>
#include <vector>

#include "saunter/grid/visible.hpp"
#include "saunter/io/scenario.hpp"

namespace saunter::inline v0_2 {
namespace io SAUNTER_VISIBLE {

/// In which form the layers are written.
enum class TerrainForm : std::uint8_t { rows, csv, png };
enum class HeightForm : std::uint8_t { csv, png, rows };
enum class BarrierForm : std::uint8_t { tables, png };

struct WriteOptions {
  TerrainForm terrain = TerrainForm::rows;
  HeightForm heights = HeightForm::csv;        ///< only when the map has heights
  BarrierForm barriers = BarrierForm::tables;  ///< only when it has barriers; png: squares only
};

/// Everything in one file: layers as rows and tables.
inline constexpr WriteOptions one_file = {TerrainForm::rows, HeightForm::rows, BarrierForm::tables};

/// A file to be written: its name without folder, and its bytes.
struct NamedFile {
  std::string name;
  std::string bytes;
};

/// The files of a scenario: first the TOML, named `stem`.toml, then its layers, named `stem`.terrain.png and the like.
/// Read again, they give the same scenario.
/// @errors a terrain name that a CSV file can't hold; barriers as PNG off squares
[[nodiscard]] Result<std::vector<NamedFile>> write_scenario(const Scenario& scenario, const std::string& stem,
                                                            const WriteOptions& options = {});

}  // namespace io SAUNTER_VISIBLE
}  // namespace saunter::inline v0_2
