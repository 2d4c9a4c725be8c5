#include "layers.hpp"

#include <algorithm>
#include <charconv>
#include <filesystem>
#include <unordered_map>

#include "lines.hpp"
#include "saunter/io/files.hpp"
#include "saunter/io/png.hpp"
#include "saunter/io/text.hpp"

namespace saunter::inline v0_2::io::detail {
namespace {

std::string beside(const std::string& folder, const std::string& file) {
  return (std::filesystem::path(folder) / file).string();
}

template <typename T>
T value_or_throw(Result<T> result) {
  if (!result) throw ReadFailure{result.error()};
  return std::move(result).value();
}

std::string layer_bytes(const std::string& path) { return value_or_throw(read_file(path)); }

std::string_view trimmed(std::string_view text) {
  const std::size_t first = text.find_first_not_of(" \t");
  if (first == std::string_view::npos) return {};
  return text.substr(first, text.find_last_not_of(" \t") - first + 1);
}

/// Where a layer stands: in a file of its own, or from a place in the scenario on.
struct LayerText {
  std::string file;
  std::string bytes;
  LayerStart start = {};
};

/// Characters before a place in a line.
int characters_before(std::string_view row, std::string_view text) {
  const std::string_view before = row.substr(0, static_cast<std::size_t>(text.data() - row.data()));
  return static_cast<int>(std::count_if(before.begin(), before.end(),
                                        [](char c) { return (static_cast<unsigned char>(c) & 0xC0U) != 0x80U; }));
}

/// Reads a CSV layer cell by cell: parse(text, line, column) gives the value. Lines and columns count from 1, columns
/// in characters.
template <typename T, typename Parse>
Grid<T> read_csv(const Source& source, const LayerText& layer, Parse&& parse) {
  std::string_view left = without_mark(layer.bytes);
  std::vector<T> values;
  std::size_t width = 0;
  int line = 0;
  const auto fail = [&](int column, std::string found, std::string expected) {
    throw ReadFailure{{layer.file, layer.start.lines_above + line, column, std::move(found), std::move(expected)}};
  };
  std::string_view row;
  while (take_line(left, row) || line == 0) {  // no line at all is told as an empty one
    ++line;
    if (trimmed(row).empty()) fail(0, "an empty line", "one value for each cell");
    std::size_t cells = 0;
    std::string_view rest = row;
    for (bool more_cells = true; more_cells; ++cells) {
      const std::size_t comma = rest.find(',');
      more_cells = comma != std::string_view::npos;
      const std::string_view cell = rest.substr(0, comma);
      const std::string_view text = trimmed(cell).empty() ? cell : trimmed(cell);
      const int column = characters_before(row, text) + 1 + (line == 1 ? layer.start.columns_before : 0);
      values.emplace_back();
      source.attempt([&] { values.back() = parse(trimmed(cell), layer.start.lines_above + line, column); });
      rest.remove_prefix(more_cells ? comma + 1 : rest.size());
    }
    if (line == 1) width = cells;
    if (cells != width) {
      source.attempt(
          [&] { fail(0, std::to_string(cells) + " values", std::to_string(width) + " as in its first line"); });
      values.resize(static_cast<std::size_t>(line) * width);
    }
    if (width > static_cast<std::size_t>(max_line_cells) || line > max_line_cells || values.size() > max_map_cells) {
      fail(0, "a larger map", "at most 65535 cells in a line and 33554432 in all");
    }
  }
  Grid<T> grid(Size{static_cast<std::int32_t>(width), line});
  std::copy(values.begin(), values.end(), grid.values().begin());
  return grid;
}

void expect_size(const std::string& path, Size found, Size expected) {
  const auto text = [](Size size) { return std::to_string(size.cols) + "x" + std::to_string(size.rows); };
  if (found != expected)
    throw ReadFailure{{path, 0, 0, text(found) + " cells", text(expected) + " as the terrain has"}};
}

/// Names a pixel as line and column, counting from 1.
[[noreturn]] void fail_at_pixel(const std::string& path, Cell cell, std::string found, std::string expected) {
  throw ReadFailure{{path, cell.row + 1, cell.col + 1, std::move(found), std::move(expected)}};
}

constexpr std::int32_t lowest_height = -32'768;
constexpr std::int32_t highest_height = 32'767;

void read_height_numbers(const Source& source, const LayerText& layer, Map& map) {
  Grid<std::int16_t> heights = read_csv<std::int16_t>(source, layer, [&](std::string_view text, int line, int column) {
    std::int16_t height = 0;
    const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), height);
    if (error != std::errc{} || end != text.data() + text.size()) {
      throw ReadFailure{{layer.file, line, column, "height " + shown(text), "a whole number from -32768 to 32767"}};
    }
    return height;
  });
  expect_size(layer.file, heights.size(), map.size());
  map.set_all_heights(std::move(heights));
}

}  // namespace

Grid<TerrainId> read_terrain_csv(const std::string& folder, const Fields& map, const std::vector<Terrain>& kinds) {
  const std::string path = beside(folder, map.text("terrain_csv"));
  std::unordered_map<std::string_view, TerrainId> by_name;
  for (std::size_t id = 0; id < kinds.size(); ++id) by_name[kinds[id].name] = static_cast<TerrainId>(id);
  return read_csv<TerrainId>(
      map.source(), {path, layer_bytes(path), {}}, [&](std::string_view text, int line, int column) {
        const auto found = by_name.find(text);
        if (found == by_name.end()) {
          throw ReadFailure{{path, line, column, "terrain " + shown(text), "the name of a [terrain.name]"}};
        }
        return found->second;
      });
}

Grid<TerrainId> read_terrain_png(const std::string& folder, const Fields& map, const std::vector<Terrain>& kinds,
                                 bool colors_known) {
  const std::string path = beside(folder, map.text("terrain_png"));
  const auto key = [](Rgb c) { return (unsigned{c.red} << 16U) | (unsigned{c.green} << 8U) | c.blue; };
  std::unordered_map<unsigned, TerrainId> by_color;
  for (std::size_t id = 0; id < kinds.size(); ++id) by_color[key(kinds[id].color)] = static_cast<TerrainId>(id);
  const Grid<Rgb> pixels = value_or_throw(decode_rgb_png(layer_bytes(path), path));
  Grid<TerrainId> terrain(pixels.size());
  // Neighbouring pixels are mostly alike: the last answer saves nearly every look-up.
  Rgb last = kinds[0].color;
  TerrainId last_id = 0;
  std::size_t i = 0;
  for (const Rgb pixel : pixels.values()) {
    if (pixel != last) {
      const auto found = by_color.find(key(pixel));
      if (found == by_color.end() && colors_known) {
        map.source().attempt([&] {
          fail_at_pixel(path, pixels.size().cell(CellIndex{static_cast<std::uint32_t>(i)}),
                        "colour " + hex_color(pixel), "the colour of a [terrain.name], exactly");
        });
      }
      last = pixel;
      last_id = found == by_color.end() ? TerrainId{0} : found->second;
    }
    terrain.values()[i++] = last_id;
  }
  return terrain;
}

void read_heights(const std::string& folder, const Fields& fields, LayerStart start, Map& map) {
  std::string_view chosen;
  for (const std::string_view layer : {"heights", "height_csv", "height_png"}) {
    if (!fields.has(layer)) continue;
    if (!chosen.empty()) fields.fail(layer, "only one of heights, height_csv, height_png");
    chosen = layer;
  }
  if (fields.has("height_base") && chosen != "height_png") fields.fail("height_base", "height_png beside it");
  if (chosen == "heights") {
    read_height_numbers(fields.source(), {fields.source().name, fields.text("heights"), start}, map);
  } else if (chosen == "height_csv") {
    const std::string path = beside(folder, fields.text("height_csv"));
    read_height_numbers(fields.source(), {path, layer_bytes(path), {}}, map);
  } else if (chosen == "height_png") {
    const std::string path = beside(folder, fields.text("height_png"));
    const auto base = static_cast<std::int32_t>(fields.whole_or("height_base", lowest_height, highest_height, 0));
    const GreyImage image = value_or_throw(decode_grey_png(layer_bytes(path), path));
    expect_size(path, image.pixels.size(), map.size());
    Grid<std::int16_t> heights(map.size());
    for (std::size_t i = 0; i < image.pixels.values().size(); ++i) {
      const std::int32_t height = base + image.pixels.values()[i];
      if (height > highest_height) {
        fail_at_pixel(path, map.size().cell(CellIndex{static_cast<std::uint32_t>(i)}),
                      "height " + std::to_string(height), "at most 32767 with the height_base added");
      }
      heights.values()[i] = static_cast<std::int16_t>(height);
    }
    map.set_all_heights(std::move(heights));
  }
}

void read_barriers_png(const std::string& folder, const Fields& fields, Map& map) {
  if (!fields.has("barriers_png")) return;
  if (map.tiling().shape() != Shape::square) fields.fail("barriers_png", "no such key except on square maps");
  const std::string path = beside(folder, fields.text("barriers_png"));
  const GreyImage image = value_or_throw(decode_grey_png(layer_bytes(path), path));
  expect_size(path, image.pixels.size(), map.size());
  constexpr std::uint16_t all_sides = 15;
  Grid<std::uint8_t> closed(map.size());
  for (std::size_t i = 0; i < image.pixels.values().size(); ++i) {
    const std::uint16_t sides = image.pixels.values()[i];
    if (image.bits != 8 || sides > all_sides) {
      fail_at_pixel(path, map.size().cell(CellIndex{static_cast<std::uint32_t>(i)}), "grey " + std::to_string(sides),
                    "8-bit grey 0 to 15: n 1, e 2, s 4, w 8");
    }
    closed.values()[i] = static_cast<std::uint8_t>(sides);  // the same bits as directions n, e, s, w
  }
  map.set_all_closed(std::move(closed));
}

}  // namespace saunter::inline v0_2::io::detail
