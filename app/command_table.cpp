#include "command_table.hpp"

#include <CLI/CLI.hpp>

#include <algorithm>
#include <array>
#include <span>
#include <string_view>

namespace saunter::app {
namespace {

using Make = std::unique_ptr<Command> (*)();
constexpr std::array way_commands = {make_route, make_reach,   make_field, make_gather,
                                     make_walk,  make_compare, make_check, make_prepare};
constexpr std::array map_commands = {make_survey, make_regions, make_sight,  make_threat,
                                     make_draw,   make_layer,   make_convert};
constexpr std::array making_commands = {make_fit, make_scatter, make_generate, make_play};
constexpr std::array program_commands = {make_serve, make_demo, make_keys, make_manual};

/// Commands that answer the same kind of question, in the order of the help.
struct Group {
  const char* title;
  std::span<const Make> commands;
};
constexpr std::array command_groups = {Group{"Ways", way_commands}, Group{"The map", map_commands},
                                       Group{"Placing and making", making_commands},
                                       Group{"The program", program_commands}};

void add_common(Words& words, Command& command) {
  using Takes = Command::Takes;
  Common& common = command.common;
  words.heading("Answer");
  words.flag("--json", common.json, "print one JSON object and nothing else");
  if (command.takes == Takes::nothing) return;
  if (command.takes != Takes::picture) {
    words.flag("--all-errors", common.all_errors, "tell everything that is wrong with the scenario, a line each");
  }
  if (command.takes == Takes::scenario) return;
  words.flag("--view", common.view, "show the map in characters too, as on a terminal");
  words.file("--draw", common.draw, "write a picture: FILE.png or FILE.svg");
  if (command.takes == Takes::scenario_picture_and_page) {
    words.file("--page", common.page, "write a page that shows it step by step in a browser: FILE.html");
  }
  words.pixels("--size-px", common.pixels, "how large the picture may be: 1280x800 (default), 360x640, 3840x2160, ...");
  words.exclude({"--view"}, {"--json"});
  words.need({"--size-px"}, {"--draw"});
}

/// Options only for the command that is named.
void add_command(CLI::App& app, const char* group, const std::string& named, Entry& entry) {
  Command& command = *entry.command;
  entry.parser = app.add_subcommand(command.command_name, command.summary)->group(group);
  entry.parser->footer(std::string("Example: saunter ") + command.example);
  entry.words = std::make_unique<Words>(*entry.parser);
  if (named != command.command_name && named != every_command) return;
  if (command.takes != Command::Takes::nothing && command.takes != Command::Takes::picture) {
    entry.words->file("SCENARIO", command.common.scenario, "scenario file, - for standard input").required();
  }
  command.add_words(*entry.words);
  add_common(*entry.words, command);
}

}  // namespace

std::vector<Entry> add_commands(CLI::App& app, const std::string& named) {
  std::vector<Entry> list;
  for (const Group& group : command_groups) {
    for (const Make make : group.commands) {
      Entry entry{make(), nullptr, nullptr};
      add_command(app, group.title, named, entry);
      list.push_back(std::move(entry));
    }
  }
  return list;
}

bool for_page(const std::string& command) {
  constexpr std::array<std::string_view, 14> asked = {"route", "compare", "reach",  "field",   "regions",
                                                      "sight", "threat",  "fit",    "walk",    "gather",
                                                      "check", "scatter", "survey", "generate"};
  return std::find(asked.begin(), asked.end(), command) != asked.end();
}

namespace {

Json told(const CLI::Option& option, const Words& words) {
  const std::string name = option.get_name();
  return {{"name", name},
          {"heading", option.get_group()},
          {"help", option.get_description()},
          {"takes", option.get_items_expected_max() == 0 ? std::string() : option.get_type_name()},
          {"choices", words.choices_of(name)},
          {"file", words.names_file(name)},
          {"required", option.get_required()},
          {"several", option.get_multi_option_policy() == CLI::MultiOptionPolicy::TakeAll}};
}

/// How an answer is told, which the page sees to itself.
bool of_every_command(const std::string& option) {
  constexpr std::array<std::string_view, 5> told = {"--help", "--json", "--view", "--all-errors", "--size-px"};
  return std::find(told.begin(), told.end(), option) != told.end();
}

Json table(bool page) {
  CLI::App app;
  Json commands = Json::array();
  for (const Entry& entry : add_commands(app, every_command)) {
    if (page && !for_page(entry.command->command_name)) continue;
    Json options = Json::array();
    for (const CLI::Option* option : entry.parser->get_options()) {
      const std::string name = option->get_name();
      if (page && (of_every_command(name) || entry.words->names_file(name))) continue;
      options.push_back(told(*option, *entry.words));
    }
    commands.push_back({{"name", entry.command->command_name},
                        {"summary", entry.command->summary},
                        {"example", entry.command->example},
                        {"options", std::move(options)}});
  }
  return commands;
}

}  // namespace

Json page_table() { return table(true); }
Json whole_table() { return table(false); }

}  // namespace saunter::app
