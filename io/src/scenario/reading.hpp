/// @file
/// What the readers of a scenario's tables share. Each reads one kind of table and throws ReadFailure at the first
/// thing wrong, or tells all of them where the source gathers errors.
#pragma once

#include <string>
#include <unordered_set>
#include <vector>

#include "../fields.hpp"
#include "saunter/io/scenario.hpp"

namespace saunter::inline v0_2::io::detail {

/// A scenario being read.
struct Reading {
  const Source& source;
  const std::optional<std::string>& folder;  ///< where the files it names are looked for; nothing: it may name none
  const std::string& text;                   ///< the whole file
  Scenario scenario = {};
  bool tiling_known = true;  ///< else neither what the tiling decides nor what the map's size does is judged
  bool ground_known = true;  ///< else what depends on the map's size and terrain is not judged
};

/// Several things read one after another: where errors are gathered, one that fails keeps none of the others from being
/// read.
class Attempts {
 public:
  explicit Attempts(const Source& source) : source_(source) {}
  template <typename Read>
  bool operator()(Read&& read) {
    const bool well = source_.attempt(read);
    well_ &= well;
    return well;
  }
  [[nodiscard]] bool well() const { return well_; }  ///< all of them

 private:
  const Source& source_;
  bool well_ = true;
};

/// The kinds of terrain, as far as they could be read.
struct Kinds {
  std::vector<Terrain> list = {};
  bool glyphs_known = true;  ///< else what drawings stand for is not judged
  bool colors_known = true;
};

Kinds read_kinds(const Source& source, const toml::node& terrain, bool drawn);
/// An entry cost, or `blocked` for false. @param what  how an error calls it
EntryCost entry_cost(const Source& source, const toml::node& node, const std::string& what);
/// [map] and the layers it names, with the kinds of terrain; where errors are gathered, a map of one cell stands for one
/// that can't be told, and squares for an unknown tiling.
void read_map(Reading& reading, const Fields& top);
void read_barrier(Reading& reading, const toml::table& table);
Cell cell_on_map(const Reading& reading, const toml::node& node);
void read_mover(Reading& reading, const NamedTable& entry);
void read_rules(Reading& reading, const toml::node& node);

/// Names given so far in one list.
class Names {
 public:
  std::string take(const Fields& fields);  ///< the name of a table: not empty, not used before

 private:
  std::unordered_set<std::string> taken_;
};

/// [[unit]]: they stand beside each other, on the map.
class UnitReader {
 public:
  void read(Reading& reading, const toml::table& table);

 private:
  void stand(Reading& reading, const Fields& fields, Unit& unit);
  Names names_;
  BitGrid standing_;
};

/// facing = "ne", or whole degrees
Facing read_facing(const Fields& fields, Tiling tiling);
void read_threat(Reading& reading, Names& names, const toml::table& table);
void read_spot(Reading& reading, Names& names, const toml::table& table);
void read_patrol(Reading& reading, Names& names, const toml::table& table);

}  // namespace saunter::inline v0_2::io::detail
