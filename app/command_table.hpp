/// @file
/// All commands with their options: the one table that the parser, the help and the page read.
#pragma once

#include "command.hpp"

namespace saunter::app {

/// A command, its options, and where the parser keeps them.
struct Entry {
  std::unique_ptr<Command> command;
  CLI::App* parser = nullptr;
  std::unique_ptr<Words> words;
};

/// Asks for the options of every command.
inline constexpr const char* every_command = "*";
/// Adds all commands to a parser; options only to the one that is named, which is all that a command line needs.
[[nodiscard]] std::vector<Entry> add_commands(CLI::App& app, const std::string& named);

/// Whether the page may ask this command: its answer is about the map at hand.
[[nodiscard]] bool for_page(const std::string& command);
/// What the page makes its forms from: each command it may ask, with its options and their help.
[[nodiscard]] Json page_table();
/// Every command with every option, for the manual and for completion in shells.
[[nodiscard]] Json whole_table();

}  // namespace saunter::app
