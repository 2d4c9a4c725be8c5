#include "saunter/io/rule.hpp"

#include <charconv>

#include "saunter/io/path.hpp"

namespace saunter::inline v0_2::io {
namespace {

/// A whole number from 0 to `most`, digits only.
std::optional<std::int64_t> whole(const std::string& text, std::int64_t most) {
  std::int64_t value = 0;
  const char* const end = text.data() + text.size();
  const auto read = std::from_chars(text.data(), end, value);
  if (read.ec != std::errc{} || read.ptr != end || text.starts_with('-') || value > most) return std::nullopt;
  return value;
}

}  // namespace

std::optional<std::int64_t> parse_hundredths(const std::string& text) {
  const std::size_t point = text.find('.');
  const std::string before = text.substr(0, point);
  std::string after = point == std::string::npos ? "0" : text.substr(point + 1);
  if (before.size() > 12 || after.empty() || after.size() > 2) return std::nullopt;
  after.resize(2, '0');
  const auto steps = whole(before, 999'999'999'999);
  const auto rest = whole(after, 99);
  if (!steps || !rest) return std::nullopt;
  return *steps * 100 + *rest;
}

std::optional<RuleWords> parse_rule_words(const std::string& text) {
  using Kind = RuleWords::Kind;
  std::vector<std::string> words = {""};
  for (const char c : text) {
    if (c == ':') {
      words.emplace_back();
    } else {
      words.back().push_back(c);
    }
  }
  struct Form {
    const char* word;
    Kind kind;
    std::size_t words;
  };
  constexpr Form forms[] = {{"against-wall", Kind::against_wall, 2},
                            {"margin", Kind::margin, 2},
                            {"away-from", Kind::away_from, 3},
                            {"near", Kind::near_to, 3},
                            {"seen-from", Kind::seen_from, 2},
                            {"unseen-from", Kind::unseen_from, 2},
                            {"reach", Kind::reach, 3}};
  for (const Form& form : forms) {
    if (words[0] != form.word) continue;
    if (words.size() != form.words) return std::nullopt;
    RuleWords rule{.kind = form.kind, .text = text};
    switch (form.kind) {
      case Kind::away_from:
      case Kind::near_to: rule.name = words[1]; [[fallthrough]];
      case Kind::against_wall:
      case Kind::margin: {
        const auto steps = whole(words.back(), 100);
        if (!steps) return std::nullopt;
        rule.steps = static_cast<int>(*steps);
        break;
      }
      case Kind::reach: {
        const auto cost = parse_hundredths(words[2]);
        if (!cost || *cost > max_cost) return std::nullopt;
        rule.cost = static_cast<Cost>(*cost);
        [[fallthrough]];
      }
      case Kind::seen_from:
      case Kind::unseen_from:
        if (!parse_cell(words[1], rule.cell)) return std::nullopt;
        break;
    }
    return rule;
  }
  return std::nullopt;
}

}  // namespace saunter::inline v0_2::io
