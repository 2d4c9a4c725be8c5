/// @file
/// The keys of every command's --json: one table that `keys` prints and that the JSON Schemas are made from.
#pragma once

#include <span>
#include <string_view>

#include "command.hpp"

namespace saunter::app {

/// One key of a command's object.
struct Key {
  std::string_view path;     ///< "runs[].cost" is the key cost of each object in the list runs
  std::string_view type;     ///< a word that keys.cpp knows; " or null" behind it where it may be null
  std::string_view meaning;  ///< for a person
  std::string_view with;     ///< when it is there: "with --front"; "": always, or always in its object
};

struct CommandKeys {
  std::string_view command;
  std::span<const Key> keys;
};

/// Each command once.
[[nodiscard]] std::span<const CommandKeys> key_table();

}  // namespace saunter::app
