/// @file
/// What reading and writing files gives back: a value, or one error that names the place.
///
/// Units: lines and columns from 1.
/// Errors: this is how errors are told.
/// Cost: O(1); messages allocate.
/// Threads: any number, nothing is shared.
#pragma once

#include <string>
#include <utility>
#include <variant>

#include "saunter/grid/expect.hpp"
#include "saunter/grid/visible.hpp"

namespace saunter::inline v0_2 {
namespace io SAUNTER_VISIBLE {

/// What was wrong with a file, where, and what would have been right.
struct Error {
  std::string file;  ///< as the caller named it; "<stdin>" for standard input
  int line = 0;      ///< from 1; 0 = the file as a whole
  int column = 0;    ///< from 1, in characters; 0 = the line as a whole
  std::string found;
  std::string expected;  ///< may be empty when there is nothing to choose from

  /// "tide.toml:12:9: found cost 0, expected 0.01 to 655.35 or false". Always a single line.
  [[nodiscard]] std::string message() const;
};

/// A value or an Error. @pre for value(): ok(); for error(): !ok()
template <typename T>
class [[nodiscard]] Result {
 public:
  Result(T value) : content_(std::in_place_index<0>, std::move(value)) {}
  Result(Error error) : content_(std::in_place_index<1>, std::move(error)) {}

  [[nodiscard]] bool ok() const { return content_.index() == 0; }
  explicit operator bool() const { return ok(); }

  [[nodiscard]] const T& value() const& { return std::get<0>(content_); }
  [[nodiscard]] T& value() & { return std::get<0>(content_); }
  [[nodiscard]] T&& value() && { return std::get<0>(std::move(content_)); }
  [[nodiscard]] const Error& error() const { return std::get<1>(content_); }

 private:
  std::variant<T, Error> content_;
};

/// The result of writing: nothing, or an error.
using Outcome = Result<std::monostate>;

}  // namespace io SAUNTER_VISIBLE
}  // namespace saunter::inline v0_2
