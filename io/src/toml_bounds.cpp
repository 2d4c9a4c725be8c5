#include "toml_bounds.hpp"

namespace saunter::inline v0_2::io::detail {
namespace {

/// Goes through TOML without understanding it: strings and comments are passed over, dots between parts of keys
/// counted.
class Scan {
 public:
  Scan(std::string_view text, const std::string& name) : text_(text), name_(name) {}

  std::optional<Error> run() {
    int parts = 0;  // of a key so far; numbers and dates have dots too, but few
    int depth = 0;
    while (at_ < text_.size()) {
      const char c = text_[at_];
      if (c == '\n') {
        ++line_;
        parts = 0;
        ++at_;
      } else if (c == '#') {
        while (at_ < text_.size() && text_[at_] != '\n') ++at_;
      } else if (c == '"' || c == '\'') {
        pass_string(c);
      } else {
        ++at_;
        if (c == '.') {
          if (++parts >= most_key_parts)
            return broken("a key of more than 32 parts", "at most 32 parts joined by dots");
        } else if (c == '[' || c == '{') {
          parts = 0;
          if (++depth > most_bracket_depth) return broken("brackets more than 32 deep", "at most 32");
        } else if (c == ']' || c == '}') {
          depth = depth > 0 ? depth - 1 : 0;
          parts = 0;
        } else if (c == ',' || c == '=') {
          parts = 0;
        }
      }
    }
    return std::nullopt;
  }

 private:
  [[nodiscard]] Error broken(const char* found, const char* expected) const {
    return {name_, line_, 0, found, expected};
  }

  void pass_string(char quote) {
    const std::string three(3, quote);
    const bool long_form = text_.substr(at_).starts_with(three);
    at_ += long_form ? 3 : 1;
    while (at_ < text_.size()) {
      if (text_[at_] == '\\' && quote == '"') {
        ++at_;
        if (at_ < text_.size() && text_[at_] == '\n') ++line_;
        ++at_;
        continue;
      }
      if (text_[at_] == '\n') {
        if (!long_form) return;  // an error that the parser tells
        ++line_;
      }
      const bool ends = long_form ? text_.substr(at_).starts_with(three) : text_[at_] == quote;
      at_ += ends && long_form ? 3 : 1;
      if (!ends) continue;
      while (long_form && at_ < text_.size() && text_[at_] == quote) ++at_;  // up to two more belong to the text
      return;
    }
  }

  std::string_view text_;
  const std::string& name_;
  std::size_t at_ = 0;
  int line_ = 1;
};

}  // namespace

std::optional<Error> broken_bound(std::string_view text, const std::string& name) { return Scan(text, name).run(); }

}  // namespace saunter::inline v0_2::io::detail
