#include "fields.hpp"

#include <algorithm>
#include <array>
#include <charconv>
#include <cmath>
#include <limits>
#include <sstream>

#include "saunter/io/text.hpp"

namespace saunter::inline v0_2::io::detail {
namespace {

std::string joined(std::initializer_list<std::string_view> words) {
  std::string text;
  std::size_t i = 0;
  for (const std::string_view word : words) {
    if (i > 0) text += i + 1 == words.size() ? " or " : ", ";
    text += word;
    ++i;
  }
  return text;
}

}  // namespace

std::string describe(const toml::node& node) {
  if (node.is_table()) return "a table";
  if (node.is_array()) return "a list of " + std::to_string(node.as_array()->size());
  if (const auto* text = node.as_string()) {
    return shown(text->get());
  }
  if (const auto* number = node.as_floating_point()) {  // as short as it can be told: 1.005, nan
    std::array<char, 32> shown;
    const auto end = std::to_chars(shown.data(), shown.data() + shown.size(), number->get()).ptr;
    return {shown.data(), end};
  }
  std::ostringstream out;
  node.visit([&](const auto& value) {
    if constexpr (toml::is_value<decltype(value)>) out << value;
  });
  return out.str();
}

std::optional<std::int64_t> hundredths_of(const toml::node& node) {
  constexpr std::int64_t far = 100'000'000'000'000;
  if (const auto* number = node.as_integer()) {
    if (number->get() > far || number->get() < -far) return std::nullopt;
    return number->get() * 100;
  }
  if (const auto* number = node.as_floating_point()) {
    const double times = 100 * number->get();
    if (!std::isfinite(times) || std::abs(times) > static_cast<double>(far)) return std::nullopt;
    const std::int64_t nearest = std::llround(times);
    if (std::abs(times - static_cast<double>(nearest)) > 0.000001) return std::nullopt;
    return nearest;
  }
  return std::nullopt;
}

Fields::Fields(const Source& source, const toml::table& table, std::string where,
               std::initializer_list<std::string_view> keys)
    : source_(source), table_(table), where_(std::move(where)) {
  std::vector<const toml::key*> unknown;
  for (auto&& [key, node] : table) {
    const bool known = std::find(keys.begin(), keys.end(), key.str()) != keys.end();
    const bool callers_own = key.str().starts_with("x-") && (node.is_table() || node.is_array_of_tables());
    if (!known && !callers_own) unknown.push_back(&key);
  }
  std::sort(unknown.begin(), unknown.end(),
            [](const toml::key* a, const toml::key* b) { return a->source().begin < b->source().begin; });
  for (const toml::key* key : unknown) {
    source.attempt(
        [&] { source.fail(key->source().begin, "unknown key " + shown(key->str()) + " in " + where_, joined(keys)); });
  }
}

const toml::node& Fields::require(std::string_view key, std::string_view expected) const {
  if (const toml::node* node = find(key)) return *node;
  source_.fail(table_, "no \"" + std::string(key) + "\" in " + where_, std::string(expected));
}

void Fields::fail(std::string_view key, std::string expected) const {
  const toml::node& node = *find(key);
  source_.fail(node, std::string(key) + " = " + describe(node), std::move(expected));
}

std::string Fields::text(std::string_view key) const {
  const toml::node& node = require(key, "a text");
  if (!node.is_string()) fail(key, "a text");
  return node.as_string()->get();
}

std::string Fields::text_or(std::string_view key, std::string fallback) const {
  return has(key) ? text(key) : std::move(fallback);
}

std::size_t Fields::word(std::string_view key, std::initializer_list<std::string_view> words) const {
  const toml::node& node = require(key, joined(words));
  if (const auto* text = node.as_string()) {
    const auto* found = std::find(words.begin(), words.end(), text->get());
    if (found != words.end()) return static_cast<std::size_t>(found - words.begin());
  }
  fail(key, joined(words));
}

bool Fields::flag_or(std::string_view key, bool fallback) const {
  const toml::node* node = find(key);
  if (node == nullptr) return fallback;
  if (!node->is_boolean()) fail(key, "true or false");
  return node->as_boolean()->get();
}

std::int64_t Fields::whole(std::string_view key, std::int64_t least, std::int64_t most) const {
  const std::string expected = "a whole number from " + std::to_string(least) + " to " + std::to_string(most);
  const auto* number = require(key, expected).as_integer();
  if (number == nullptr || number->get() < least || number->get() > most) fail(key, expected);
  return number->get();
}

std::int64_t Fields::whole_or(std::string_view key, std::int64_t least, std::int64_t most,
                              std::int64_t fallback) const {
  return has(key) ? whole(key, least, most) : fallback;
}

std::int64_t Fields::hundredths(std::string_view key, std::int64_t least, std::int64_t most) const {
  const std::string expected = to_decimal(least) + " to " + to_decimal(most) + " with at most two decimals";
  const auto number = hundredths_of(require(key, expected));
  if (!number || *number < least || *number > most) fail(key, expected);
  return *number;
}

Cell cell_from(const Source& source, const toml::node& node) {
  constexpr std::int64_t lowest = std::numeric_limits<std::int32_t>::min();
  constexpr std::int64_t highest = std::numeric_limits<std::int32_t>::max();
  const auto* pair = node.as_array();
  const auto coordinate = [&](std::size_t i) -> const toml::value<std::int64_t>* {
    const auto* number = (*pair)[i].as_integer();
    return number != nullptr && number->get() >= lowest && number->get() <= highest ? number : nullptr;
  };
  if (pair == nullptr || pair->size() != 2 || coordinate(0) == nullptr || coordinate(1) == nullptr) {
    source.fail(node, describe(node), "a cell as [col, row], two whole numbers");
  }
  return {static_cast<std::int32_t>(coordinate(0)->get()), static_cast<std::int32_t>(coordinate(1)->get())};
}

Cell Fields::cell(std::string_view key) const {
  return cell_from(source_, require(key, "a cell as [col, row], two whole numbers"));
}

const toml::array& Fields::list(std::string_view key, std::string_view expected) const {
  const toml::node& node = require(key, expected);
  if (!node.is_array()) fail(key, std::string(expected));
  return *node.as_array();
}

std::vector<NamedTable> named_tables(const Source& source, const toml::node& node, std::string_view what) {
  const auto* table = node.as_table();
  const std::string expected = "tables such as [" + std::string(what) + ".name]";
  if (table == nullptr) source.fail(node, std::string(what) + " = " + describe(node), expected);
  std::vector<NamedTable> entries;
  for (auto&& [key, value] : *table) {
    source.attempt([&, &key = key, &value = value] {
      if (!value.is_table()) source.fail(value, std::string(key.str()) + " = " + describe(value), expected);
      entries.push_back({std::string(key.str()), value.as_table(), key.source().begin});
    });
  }
  std::sort(entries.begin(), entries.end(), [](const NamedTable& a, const NamedTable& b) { return a.at < b.at; });
  return entries;
}

std::vector<const toml::table*> listed_tables(const Source& source, const toml::node* node, std::string_view what) {
  std::vector<const toml::table*> tables;
  if (node == nullptr) return tables;
  const std::string expected = "tables such as [[" + std::string(what) + "]]";
  if (!node->is_array()) source.fail(*node, std::string(what) + " = " + describe(*node), expected);
  for (const toml::node& entry : *node->as_array()) {
    source.attempt([&] {
      if (!entry.is_table()) source.fail(entry, describe(entry), expected);
      tables.push_back(entry.as_table());
    });
  }
  return tables;
}

}  // namespace saunter::inline v0_2::io::detail
