// A scenario file as a whole.
#include <algorithm>
#include <filesystem>
#include <sstream>

#include "../lines.hpp"
#include "../toml_bounds.hpp"
#include "reading.hpp"
#include "saunter/io/files.hpp"

namespace saunter::inline v0_2::io {
using namespace detail;

toml::table detail::parse_toml(const Source& source, const std::string& text) {
  if (const auto broken = broken_bound(text, source.name)) throw ReadFailure{*broken};
  try {
    return toml::parse(text);
  } catch (const toml::parse_error& error) {
    source.fail(error.source().begin, "broken TOML (" + std::string(error.description().substr(0, 200)) + ")",
                "valid TOML");
  }
}

namespace {

/// Every table of a list such as [[unit]], each on its own.
template <typename ReadOne>
void read_list(const Source& source, const Fields& top, std::string_view what, ReadOne&& read_one) {
  source.attempt([&] {
    for (const toml::table* table : listed_tables(source, top.find(what), what))
      source.attempt([&] { read_one(*table); });
  });
}

void read_movers(Reading& reading, const toml::node& node) {
  for (const NamedTable& entry : named_tables(reading.source, node, "mover"))
    reading.source.attempt([&] { read_mover(reading, entry); });
}

Scenario read(const Source& source, const std::string& text, const std::optional<std::string>& folder) {
  Reading reading{source, folder, text};
  const toml::table file = parse_toml(source, text);
  const Fields top(
      source, file, "the file",
      {"saunter", "title", "map", "terrain", "mover", "barrier", "unit", "threat", "rules", "spot", "patrol"});
  source.attempt([&] { (void)top.whole("saunter", 1, 1); });
  source.attempt([&] { reading.scenario.title = top.text_or("title", ""); });
  // Without a [map] table, or terrain, nothing that stands on it can be judged.
  if (!source.attempt([&] { read_map(reading, top); })) return {};
  source.attempt([&] {
    if (const toml::node* movers = top.find("mover")) read_movers(reading, *movers);
  });
  UnitReader units;
  Names threats;
  Names spots;
  Names patrols;
  read_list(source, top, "barrier", [&](const toml::table& table) { read_barrier(reading, table); });
  read_list(source, top, "unit", [&](const toml::table& table) { units.read(reading, table); });
  read_list(source, top, "threat", [&](const toml::table& table) { read_threat(reading, threats, table); });
  source.attempt([&] {
    if (const toml::node* rules = top.find("rules")) read_rules(reading, *rules);
  });
  read_list(source, top, "spot", [&](const toml::table& table) { read_spot(reading, spots, table); });
  read_list(source, top, "patrol", [&](const toml::table& table) { read_patrol(reading, patrols, table); });
  for (const auto& [key, value] : file) {
    if (!key.str().starts_with("x-")) continue;
    std::ostringstream told;
    told << toml::toml_formatter(toml::table{{key.str(), value}});
    reading.scenario.others += told.str() + "\n";
  }
  return std::move(reading.scenario);
}

std::string folder_of(const std::string& file) {
  return file == "-" ? std::string() : std::filesystem::path(file).parent_path().string();
}
std::string name_of(const std::string& file) { return file == "-" ? "<stdin>" : file; }

}  // namespace

Result<Scenario> parse_scenario(std::string_view text, const std::string& name,
                                const std::optional<std::string>& folder) {
  try {
    return read({name}, plain_text(text), folder);
  } catch (const ReadFailure& failure) {
    return failure.error;
  }
}

std::vector<Error> scenario_errors(std::string_view text, const std::string& name,
                                   const std::optional<std::string>& folder) {
  std::vector<Error> all;
  try {
    (void)read({name, &all}, plain_text(text), folder);
  } catch (const ReadFailure& failure) {
    all.push_back(failure.error);
  }
  // In the order of the file; what is wrong in files that it names comes after.
  std::stable_sort(all.begin(), all.end(), [&](const Error& a, const Error& b) {
    const bool own_a = a.file == name;
    const bool own_b = b.file == name;
    if (own_a != own_b) return own_a;
    return own_a && (a.line != b.line ? a.line < b.line : a.column < b.column);
  });
  const auto same = [](const Error& a, const Error& b) { return a.message() == b.message(); };
  all.erase(std::unique(all.begin(), all.end(), same), all.end());
  return all;
}

Result<Scenario> read_scenario(const std::string& file) {
  const Result<std::string> text = read_file(file);
  if (!text) return text.error();
  return parse_scenario(text.value(), name_of(file), folder_of(file));
}

std::vector<Error> scenario_errors(const std::string& file) {
  const Result<std::string> text = read_file(file);
  if (!text) return {text.error()};
  return scenario_errors(text.value(), name_of(file), folder_of(file));
}

}  // namespace saunter::inline v0_2::io
