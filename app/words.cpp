#include "words.hpp"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <algorithm>
#include <charconv>

#include "saunter/ground/cost.hpp"
#include "saunter/io/text.hpp"
#include "saunter/io/path.hpp"

namespace saunter::app {
namespace {

/// "--by bfs" for "--by=bfs".
std::string as_typed(std::string option) {
  std::replace(option.begin(), option.end(), '=', ' ');
  return option;
}

}  // namespace

void Words::Option::required() const { option_->required(); }

const Words::Option& Words::Option::shown_as(const char* what) const {
  option_->type_name(what);
  return *this;
}

Words::Option Words::listed(CLI::Option* option) const {
  if (!heading_.empty()) option->group(heading_);
  return Option(option);
}

Words::Option Words::converted(const std::string& name, const std::string& help, const char* shown_as,
                               std::function<void(const std::string&)> convert) {
  return listed(command_.add_option_function<std::string>(name, std::move(convert), help)).shown_as(shown_as);
}

Words::Option Words::converted_all(const std::string& name, const std::string& help, const char* shown_as,
                                   std::function<void(const std::string&)> convert) {
  CLI::Option* const option = command_.add_option_function<std::vector<std::string>>(
      name,
      [convert = std::move(convert)](const std::vector<std::string>& all) {
        for (const auto& one : all) convert(one);
      },
      help);
  option->multi_option_policy(CLI::MultiOptionPolicy::TakeAll)->expected(1)->allow_extra_args(false);
  return listed(option).shown_as(shown_as);
}

Words::Option Words::text(const std::string& name, std::string& value, const std::string& help) {
  return listed(command_.add_option(name, value, help)).shown_as(name.starts_with("--") ? "WORD" : "FILE");
}

Words::Option Words::file(const std::string& name, std::string& value, const std::string& help) {
  files_.insert(name);
  return text(name, value, help).shown_as("FILE");
}

Words::Option Words::files(const std::string& name, std::vector<std::string>& values, const std::string& help) {
  files_.insert(name);
  return texts(name, values, help).shown_as("FILE");
}

std::vector<std::string> Words::choices_of(const std::string& option) const {
  const auto found = choices_.find(option);
  return found == choices_.end() ? std::vector<std::string>{} : found->second;
}

Words::Option Words::texts(const std::string& name, std::vector<std::string>& values, const std::string& help) {
  return converted_all(name, help, "WORDS", [&values](const std::string& text) { values.push_back(text); });
}

Words::Option Words::flag(const std::string& name, bool& value, const std::string& help) {
  return listed(command_.add_flag(name, value, help));
}

Words::Option Words::cell(const std::string& name, Cell& value, const std::string& help) {
  return converted(name, help, "c,r", [&value, name](const std::string& text) { value = parse_cell(text, name); });
}

Words::Option Words::cell(const std::string& name, std::optional<Cell>& value, const std::string& help) {
  return converted(name, help, "c,r", [&value, name](const std::string& text) { value = parse_cell(text, name); });
}

Words::Option Words::cells(const std::string& name, std::vector<Cell>& values, const std::string& help) {
  return converted_all(name, help, "c,r",
                       [&values, name](const std::string& text) { values.push_back(parse_cell(text, name)); });
}

Words::Option Words::hundredths(const std::string& name, Hundredths& value, std::int64_t least, std::int64_t most,
                                const std::string& help) {
  return converted(name, help, "NUMBER", [&value, name, least, most](const std::string& text) {
    value = Hundredths(static_cast<std::uint32_t>(parse_hundredths(text, name, least, most)));
  });
}

Words::Option Words::hundredths(const std::string& name, std::optional<Hundredths>& value, std::int64_t least,
                                std::int64_t most, const std::string& help) {
  return converted(name, help, "NUMBER", [&value, name, least, most](const std::string& text) {
    value = Hundredths(static_cast<std::uint32_t>(parse_hundredths(text, name, least, most)));
  });
}

Words::Option Words::seed(const std::string& name, std::uint64_t& value, const std::string& help) {
  return converted(name, help, "N", [&value, name](const std::string& text) {
    const char* const end = text.data() + text.size();
    const auto read = std::from_chars(text.data(), end, value);
    if (read.ec == std::errc{} && read.ptr == end) return;
    refuse_word(name, text, "a whole number from 0 to 18446744073709551615");
  });
}

Words::Option Words::algorithm(const std::string& name, Algorithm& value, const std::string& help) {
  for (const Algorithm algorithm : all_algorithms) choices_[name].emplace_back(algorithm_name(algorithm));
  return converted(name, help, "SEARCH",
                   [&value, name](const std::string& text) { value = parse_algorithm(text, name); });
}

Words::Option Words::pixels(const std::string& name, std::optional<draw::PixelSize>& value, const std::string& help) {
  return converted(name, help, "WxH", [&value, name](const std::string& text) {
    draw::PixelSize size{.firm = true};
    const char* const end = text.data() + text.size();
    const auto width = std::from_chars(text.data(), end, size.width);
    const bool crossed = width.ec == std::errc{} && width.ptr != end && *width.ptr == 'x';
    const auto height = std::from_chars(crossed ? width.ptr + 1 : end, end, size.height);
    const auto within = [](int pixels) { return pixels >= draw::least_pixels && pixels <= draw::most_pixels; };
    const bool sound = crossed && height.ec == std::errc{} && height.ptr == end;
    if (!sound || !within(size.width) || !within(size.height)) {
      refuse_word(name, text, fmt::format("WIDTHxHEIGHT, each {} to {}", draw::least_pixels, draw::most_pixels));
    }
    value = size;
  });
}

Words::Option Words::rules(const std::string& name, std::vector<io::RuleWords>& values, const std::string& help) {
  return converted_all(name, help, "RULE", [&values, name](const std::string& text) {
    const auto rule = io::parse_rule_words(text);
    if (!rule) refuse_word(name, text, io::rule_words_expected);
    values.push_back(*rule);
  });
}

void Words::exclude(std::initializer_list<const char*> these, std::initializer_list<const char*> those,
                    const char* why) {
  clashes_.push_back({{these.begin(), these.end()}, {those.begin(), those.end()}, why, Clash::Kind::excludes});
}

void Words::exclude_several(std::initializer_list<const char*> these, std::initializer_list<const char*> those) {
  clashes_.push_back({{these.begin(), these.end()},
                      {those.begin(), those.end()},
                      "which it does not go with",
                      Clash::Kind::excludes_several});
}

void Words::need(std::initializer_list<const char*> these, std::initializer_list<const char*> those, const char* why) {
  clashes_.push_back({{these.begin(), these.end()}, {those.begin(), those.end()}, why, Clash::Kind::needs});
}

bool Words::given(const std::string& option, std::size_t times) const {
  const std::size_t equals = option.find('=');
  const CLI::Option* const known = command_.get_option(option.substr(0, equals));
  if (known->count() < times) return false;
  return equals == std::string::npos || known->results().front() == option.substr(equals + 1);
}

void Words::check() const {
  for (const Clash& clash : clashes_) {
    const bool several = clash.kind == Clash::Kind::excludes_several;
    const bool needed = clash.kind == Clash::Kind::needs;
    for (const std::string& one : clash.these) {
      if (!given(one)) continue;
      const auto other = std::find_if(clash.those.begin(), clash.those.end(),
                                      [&](const std::string& option) { return given(option, several ? 2 : 1); });
      const bool found = other != clash.those.end();
      if (found == needed) continue;
      throw Refused{fmt::format("{}: found {} {}{}, {}", as_typed(one), found ? "with" : "without",
                                several ? "several " : "", as_typed(found ? *other : clash.those.front()), clash.why)};
    }
  }
}

std::int64_t Words::parse_whole(const std::string& text, const std::string& option, std::int64_t least,
                                std::int64_t most) {
  std::int64_t value = 0;
  const char* const end = text.data() + text.size();
  const auto read = std::from_chars(text.data(), end, value);
  if (read.ec == std::errc{} && read.ptr == end && value >= least && value <= most) return value;
  refuse_word(option, text, fmt::format("a whole number from {} to {}", least, most));
}

Cell Words::parse_cell(const std::string& text, const std::string& option) {
  Cell cell;
  if (!io::parse_cell(text, cell)) refuse_word(option, text, "a cell as col,row");
  return cell;
}

std::int64_t Words::parse_hundredths(const std::string& text, const std::string& option, std::int64_t least,
                                     std::int64_t most) {
  const std::optional<std::int64_t> value = io::parse_hundredths(text);
  if (value && *value >= least && *value <= most) return *value;
  refuse_word(option, text, to_decimal(least) + " to " + to_decimal(most) + " with at most two decimals");
}

Algorithm Words::parse_algorithm(const std::string& text, const std::string& option, const std::string& or_else) {
  std::string names;
  for (const Algorithm algorithm : all_algorithms) {
    if (text == algorithm_name(algorithm)) return algorithm;
    names.append(names.empty() ? "" : ", ").append(algorithm_name(algorithm));
  }
  refuse_word(option, text, "one of " + names + or_else);
}

void Words::refuse_word(const std::string& option, const std::string& found, const std::string& expected) {
  throw Refused{option + ": found " + io::shown(found) + ", expected " + expected};
}

}  // namespace saunter::app
