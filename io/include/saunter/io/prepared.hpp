/// @file
/// Prepared maps in files.
///
/// Units: bytes.
/// Errors: a file that is not an index, damaged, of another version or of another board is refused in one line.
/// Cost: O(bytes).
/// Threads: any number, each its own files.
#pragma once

#include <string>

#include "saunter/grid/visible.hpp"
#include "saunter/io/result.hpp"
#include "saunter/search/prepared.hpp"

namespace saunter::inline v0_2 {
namespace io SAUNTER_VISIBLE {

enum class Loading : std::uint8_t {
  copied,  ///< into memory of its own: the file can change afterwards
  mapped   ///< as the pages are needed; nobody may change or shorten the file while the index or a copy of it lives
};

/// The index in a file, for the board it was made for.
/// @errors what can't be read, and whatever Prepared::from_bytes refuses
/// @cost all bytes are checked once
[[nodiscard]] Result<Prepared> read_prepared(const std::string& file, const CostGrid& costs,
                                             Loading loading = Loading::copied);

/// Writes an index. @errors an empty one; a file that can't be written. What was there stays as it was
Outcome write_prepared(const std::string& file, const Prepared& prepared);

}  // namespace io SAUNTER_VISIBLE
}  // namespace saunter::inline v0_2
