/// @file
/// Reading the fields of TOML tables so strictly that a typing error never passes silently.
#pragma once

#include <toml++/toml.h>

#include <cstdint>
#include <initializer_list>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "saunter/ground/cost.hpp"
#include "saunter/grid/cell.hpp"
#include "saunter/io/result.hpp"
#include "saunter/io/scenario.hpp"

namespace saunter::inline v0_2::io::detail {

/// Thrown inside the readers only; the public functions catch it and return its error.
struct ReadFailure {
  Error error;
};

/// The file being read, as errors name it. Stops at the first error, or gathers them all.
struct Source {
  std::string name;
  std::vector<Error>* all = nullptr;  ///< where errors are gathered; null: the first one is thrown

  /// Something is wrong, and what depends on it can't be read.
  [[noreturn]] void fail(toml::source_position at, std::string found, std::string expected) const {
    throw ReadFailure{
        {name, static_cast<int>(at.line), static_cast<int>(at.column), std::move(found), std::move(expected)}};
  }
  [[noreturn]] void fail(const toml::node& at, std::string found, std::string expected) const {
    fail(at.source().begin, std::move(found), std::move(expected));
  }
  /// Reads something; where errors are gathered, one in it does not keep the rest from being read.
  /// @return whether it went well
  template <typename Read>
  bool attempt(Read&& read) const {
    if (all == nullptr) {
      read();
      return true;
    }
    try {
      read();
      return true;
    } catch (const ReadFailure& failure) {
      if (all->size() >= most_errors) throw;  // a file that is wrong all over is not read to its end
      all->push_back(failure.error);
      return false;
    }
  }
};

/// The whole of a file. Nesting is bounded before it is parsed.
toml::table parse_toml(const Source& source, const std::string& text);

/// A value as an error message shows it: `"abc"`, `-1`, `true`, `a table`.
std::string describe(const toml::node& node);

/// A whole number of hundredths, or nothing when the node is no number, not finite or has more than two decimals.
std::optional<std::int64_t> hundredths_of(const toml::node& node);

/// The keys of one table. Its constructor refuses any key that is not in the list; tables whose name begins with `x-`
/// are the caller's own.
class Fields {
 public:
  Fields(const Source& source, const toml::table& table, std::string where,
         std::initializer_list<std::string_view> keys);

  [[nodiscard]] bool has(std::string_view key) const { return find(key) != nullptr; }
  [[nodiscard]] const toml::node* find(std::string_view key) const { return table_.get(key); }
  const toml::node& require(std::string_view key, std::string_view expected) const;

  [[nodiscard]] std::string text(std::string_view key) const;
  [[nodiscard]] std::string text_or(std::string_view key, std::string fallback) const;
  /// One of a few words; returns its place in the list.
  [[nodiscard]] std::size_t word(std::string_view key, std::initializer_list<std::string_view> words) const;
  [[nodiscard]] bool flag_or(std::string_view key, bool fallback) const;
  [[nodiscard]] std::int64_t whole(std::string_view key, std::int64_t least, std::int64_t most) const;
  [[nodiscard]] std::int64_t whole_or(std::string_view key, std::int64_t least, std::int64_t most,
                                      std::int64_t fallback) const;
  [[nodiscard]] std::int64_t hundredths(std::string_view key, std::int64_t least, std::int64_t most) const;
  /// A pair of whole numbers as a cell.
  [[nodiscard]] Cell cell(std::string_view key) const;
  [[nodiscard]] const toml::array& list(std::string_view key, std::string_view expected) const;

  [[noreturn]] void fail(std::string_view key, std::string expected) const;
  [[nodiscard]] const Source& source() const { return source_; }
  [[nodiscard]] const toml::table& table() const { return table_; }
  [[nodiscard]] const std::string& where() const { return where_; }

 private:
  const Source& source_;
  const toml::table& table_;
  std::string where_;
};

/// A named entry of a table, in the order of the file (the parser sorts them by name).
struct NamedTable {
  std::string name;
  const toml::table* table = nullptr;
  toml::source_position at;
};
std::vector<NamedTable> named_tables(const Source& source, const toml::node& node, std::string_view what);
/// The tables of a list such as [[unit]]; none when the node is null.
std::vector<const toml::table*> listed_tables(const Source& source, const toml::node* node, std::string_view what);

Cell cell_from(const Source& source, const toml::node& node);

}  // namespace saunter::inline v0_2::io::detail
