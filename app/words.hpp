/// @file
/// The words of a command: options that turn what was typed into what is meant while words are read, and a table of
/// which do not go together. What is wrong is refused in one line.
#pragma once

#include <functional>
#include <initializer_list>
#include <map>
#include <optional>
#include <set>
#include <string>
#include <vector>

#include "saunter/draw/picture.hpp"
#include "saunter/ground/hundredths.hpp"
#include "saunter/io/rule.hpp"
#include "saunter/search/route.hpp"

namespace CLI {  // the parser's headers cost every file that reads them three seconds: two files do
class App;
class Option;
}  // namespace CLI

namespace saunter::app {

/// Bad input or usage: one line for standard error, exit code 2.
struct Refused {
  std::string message;
  std::vector<std::string> more = {};  ///< further lines, for --all-errors only
};

/// Edge steps beyond these nobody means.
inline constexpr std::int64_t most_edge_steps = 1000;

/// Options of one command, each added with the variable it fills. An option that is not given leaves its variable
/// alone. Names are written as they are typed: "--from".
class Words {
 public:
  /// An option that was added.
  class Option {
   public:
    /// A command line without it is refused.
    void required() const;
    /// What --help shows in place of its value.
    const Option& shown_as(const char* what) const;

   private:
    friend class Words;
    explicit Option(CLI::Option* option) : option_(option) {}
    CLI::Option* option_;
  };

  explicit Words(CLI::App& command) : command_(command) {}

  /// Options that follow are listed under this title.
  void heading(const std::string& title) { heading_ = title; }

  Option text(const std::string& name, std::string& value, const std::string& help);
  /// The name of a file that is read or written.
  Option file(const std::string& name, std::string& value, const std::string& help);
  Option files(const std::string& name, std::vector<std::string>& values, const std::string& help);
  Option texts(const std::string& name, std::vector<std::string>& values, const std::string& help);
  Option flag(const std::string& name, bool& value, const std::string& help);
  /// "12,3"
  Option cell(const std::string& name, Cell& value, const std::string& help);
  Option cell(const std::string& name, std::optional<Cell>& value, const std::string& help);
  Option cells(const std::string& name, std::vector<Cell>& values, const std::string& help);
  /// "12.5", within bounds in hundredths.
  Option hundredths(const std::string& name, Hundredths& value, std::int64_t least, std::int64_t most,
                    const std::string& help);
  Option hundredths(const std::string& name, std::optional<Hundredths>& value, std::int64_t least, std::int64_t most,
                    const std::string& help);
  /// A whole number from `least` to `most`.
  template <typename Number>
  Option whole(const std::string& name, Number& number, std::int64_t least, std::int64_t most,
               const std::string& help) {
    return converted(name, help, "N", [&number, name, least, most](const std::string& text) {
      const std::int64_t value = parse_whole(text, name, least, most);
      if constexpr (std::is_arithmetic_v<Number>) {
        number = static_cast<Number>(value);
      } else {
        number = static_cast<typename Number::value_type>(value);
      }
    });
  }
  /// A level of danger.
  Option level(const std::string& name, std::optional<std::uint16_t>& value, const std::string& help) {
    return whole(name, value, 0, 65'535, help);
  }
  /// 0 to 2^64 - 1.
  Option seed(const std::string& name, std::uint64_t& value, const std::string& help);
  Option algorithm(const std::string& name, Algorithm& value, const std::string& help);
  /// "1280x800"
  Option pixels(const std::string& name, std::optional<draw::PixelSize>& value, const std::string& help);
  Option rules(const std::string& name, std::vector<io::RuleWords>& values, const std::string& help);
  /// One of some words, each with its value.
  template <typename Value>
  Option choice(const std::string& name, Value& value, std::vector<std::pair<std::string, Value>> known,
                const std::string& help) {
    for (const auto& [word, meaning] : known) choices_[name].push_back(word);
    return converted(name, help, "WORD", [&value, name, known = std::move(known)](const std::string& text) {
      std::string names;
      for (const auto& [word, meaning] : known) {
        if (word == text) {
          value = meaning;
          return;
        }
        names += (names.empty() ? "" : ", ") + word;
      }
      refuse_word(name, text, "one of " + names);
    });
  }

  /// None of these goes with any of those. "--by=bfs" is that option with that value.
  void exclude(std::initializer_list<const char*> these, std::initializer_list<const char*> those,
               const char* why = "which it does not go with");
  /// None of these goes with several of those.
  void exclude_several(std::initializer_list<const char*> these, std::initializer_list<const char*> those);
  /// Each of these belongs to one of those.
  void need(std::initializer_list<const char*> these, std::initializer_list<const char*> those,
            const char* why = "which it belongs to");
  /// Refuses what was given and does not go together, in the order of the table.
  void check() const;
  [[nodiscard]] bool given(const std::string& option, std::size_t times = 1) const;
  /// The words an option is one of; empty: it takes others.
  [[nodiscard]] std::vector<std::string> choices_of(const std::string& option) const;
  [[nodiscard]] bool names_file(const std::string& option) const { return files_.contains(option); }

  [[nodiscard]] static std::int64_t parse_whole(const std::string& text, const std::string& option, std::int64_t least,
                                                std::int64_t most);
  [[nodiscard]] static Cell parse_cell(const std::string& text, const std::string& option);
  [[nodiscard]] static std::int64_t parse_hundredths(const std::string& text, const std::string& option,
                                                     std::int64_t least, std::int64_t most);
  /// @param or_else  other words that are fine there: ", word, word"
  [[nodiscard]] static Algorithm parse_algorithm(const std::string& text, const std::string& option,
                                                 const std::string& or_else = {});
  /// "--by: found "magic", expected ..."
  [[noreturn]] static void refuse_word(const std::string& option, const std::string& found,
                                       const std::string& expected);

 private:
  struct Clash {
    std::vector<std::string> these;
    std::vector<std::string> those;
    std::string why;
    enum class Kind : std::uint8_t { excludes, excludes_several, needs } kind = Kind::excludes;
  };
  Option converted(const std::string& name, const std::string& help, const char* shown_as,
                   std::function<void(const std::string&)> convert);
  Option converted_all(const std::string& name, const std::string& help, const char* shown_as,
                       std::function<void(const std::string&)> convert);
  [[nodiscard]] Option listed(CLI::Option* option) const;

  CLI::App& command_;
  std::string heading_;
  std::vector<Clash> clashes_;
  std::map<std::string, std::vector<std::string>> choices_;
  std::set<std::string> files_;
};

}  // namespace saunter::app
