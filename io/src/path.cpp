#include "saunter/io/path.hpp"

#include <algorithm>
#include <charconv>
#include <nlohmann/json.hpp>

#include "lines.hpp"
#include "saunter/io/files.hpp"
#include "saunter/io/text.hpp"

namespace saunter::inline v0_2::io {
using namespace detail;
namespace {

using Json = nlohmann::json;

constexpr const char* expected_json = "[[col,row],...], or an object with such a \"path\"";

/// A value as an error shows it, never longer than a line.
std::string described(const Json& value) {
  constexpr std::size_t longest = 60;
  const std::string text = value.dump(-1, ' ', true, Json::error_handler_t::replace);  // no deeper than was checked
  return text.size() <= longest ? text : text.substr(0, longest) + "...";
}

Result<std::vector<Cell>> from_json(std::string_view text, const std::string& name) {
  constexpr int deepest = 32;  // an answer of the program is far from it
  if (bracket_depth(text) > deepest) return Error{name, 0, 0, "brackets more than 32 deep", expected_json};
  Json json;
  try {
    json = Json::parse(text);
  } catch (const Json::parse_error& error) {
    const std::size_t end = std::min(text.size(), error.byte > 0 ? error.byte - 1 : 0);
    const auto line = std::count(text.begin(), text.begin() + static_cast<std::ptrdiff_t>(end), '\n') + 1;
    return Error{name, static_cast<int>(line), 0, "text that is not JSON", expected_json};
  } catch (const Json::exception&) {
    return Error{name, 0, 0, "a number that is out of range", expected_json};
  }
  const bool within = json.is_object();
  if (within && !json.contains("path")) return Error{name, 0, 0, "an object without \"path\"", expected_json};
  const Json& list = within ? json["path"] : json;
  if (!list.is_array()) return Error{name, 0, 0, described(list), expected_json};
  std::vector<Cell> cells;
  for (const Json& entry : list) {
    const auto whole = [](const Json& number) {
      return number.is_number_integer() && number >= std::numeric_limits<std::int32_t>::min() &&
             number <= std::numeric_limits<std::int32_t>::max();
    };
    if (!entry.is_array() || entry.size() != 2 || !whole(entry[0]) || !whole(entry[1])) {
      return Error{name, 0, 0, described(entry) + " as cell " + std::to_string(cells.size()), "[col,row]"};
    }
    cells.push_back({entry[0].get<std::int32_t>(), entry[1].get<std::int32_t>()});
  }
  return cells;
}

Result<std::vector<Cell>> from_csv(std::string_view text, const std::string& name) {
  std::vector<Cell> cells;
  int number = 0;
  std::string_view line;
  while (take_line(text, line)) {
    ++number;
    if (line.empty()) continue;
    Cell cell;
    if (!parse_cell(line, cell)) {
      return Error{name, number, 0, shown(line), "a cell as col,row"};
    }
    cells.push_back(cell);
  }
  return cells;
}

}  // namespace

bool parse_cell(std::string_view text, Cell& cell) {
  const char* const end = text.data() + text.size();
  const auto col = std::from_chars(text.data(), end, cell.col);
  if (col.ec != std::errc{} || col.ptr == end || *col.ptr != ',') return false;
  const auto row = std::from_chars(col.ptr + 1, end, cell.row);
  return row.ec == std::errc{} && row.ptr == end;
}

Result<std::vector<Cell>> parse_path(std::string_view text, const std::string& name) {
  text = without_mark(text);
  const std::size_t first = text.find_first_not_of(" \t\r\n");
  const bool json = first != std::string_view::npos && (text[first] == '[' || text[first] == '{');
  Result<std::vector<Cell>> cells = json ? from_json(text, name) : from_csv(text, name);
  if (cells && cells.value().empty()) return Error{name, 0, 0, "no cell", "at least one"};
  return cells;
}

Result<std::vector<Cell>> read_path(const std::string& file) {
  const Result<std::string> text = read_file(file);
  if (!text) return text.error();
  return parse_path(text.value(), file == "-" ? "<stdin>" : file);
}

}  // namespace saunter::inline v0_2::io
