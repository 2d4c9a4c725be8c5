// [terrain.name]
#include <algorithm>
#include <array>

#include "../utf8.hpp"
#include "reading.hpp"
#include "saunter/io/text.hpp"

namespace saunter::inline v0_2::io::detail {
namespace {

constexpr std::int64_t max_breach = max_cost;

/// The color of the n-th kind of terrain that has none of its own: sands, weeds, waters and stones by turns, all
/// different.
Rgb own_color(std::size_t n) {
  constexpr std::array<Rgb, 8> first = {{{228, 212, 172},
                                         {120, 148, 96},
                                         {116, 166, 184},
                                         {132, 122, 116},
                                         {206, 158, 112},
                                         {78, 110, 134},
                                         {174, 184, 140},
                                         {150, 104, 92}}};
  const Rgb base = first[n % first.size()];
  const auto darker = static_cast<std::uint8_t>(n / first.size());  // at most 31 for 256 kinds
  return {static_cast<std::uint8_t>(base.red - darker), static_cast<std::uint8_t>(base.green - 2 * darker),
          static_cast<std::uint8_t>(base.blue - darker)};
}

Rgb read_color(const Fields& fields) {
  const std::string expected = "a colour such as \"#e6d5a8\"";
  const std::string text = fields.text("color");
  Rgb color;
  std::array<std::uint8_t*, 3> channels = {&color.red, &color.green, &color.blue};
  if (text.size() != 7 || text[0] != '#') fields.fail("color", expected);
  for (std::size_t i = 0; i < 6; ++i) {
    constexpr std::string_view digits = "0123456789abcdef";
    const char c = text[i + 1] >= 'A' && text[i + 1] <= 'F' ? static_cast<char>(text[i + 1] + 32) : text[i + 1];
    const std::size_t digit = digits.find(c);
    if (digit == std::string_view::npos) fields.fail("color", expected);
    *channels[i / 2] = static_cast<std::uint8_t>(*channels[i / 2] * 16U + digit);
  }
  return color;
}

char32_t read_glyph(const Fields& fields) {
  const std::string text = fields.text("glyph");
  std::string_view left = text;
  const auto code_point = take_code_point(left);
  if (!code_point || !left.empty() || !is_printable(*code_point)) fields.fail("glyph", "one printable character");
  return *code_point;
}

std::optional<Cost> read_breach(const Fields& fields, const toml::node& node) {
  if (const auto* flag = node.as_boolean(); flag != nullptr && !flag->get()) return std::nullopt;
  const auto cost = hundredths_of(node);
  if (!cost || *cost < 0 || *cost > max_breach) {
    fields.fail("breach", "0 to " + to_decimal(max_breach) + " with at most two decimals, or false");
  }
  return static_cast<Cost>(*cost);
}

/// Kinds that no drawing needs a glyph of get the first letters that are free.
void choose_glyphs(std::vector<Terrain>& kinds) {
  char32_t next = U'a';
  for (Terrain& kind : kinds) {
    if (kind.glyph != U'\0') continue;
    const auto used = [&](char32_t c) {
      return std::any_of(kinds.begin(), kinds.end(), [&](const Terrain& other) { return other.glyph == c; });
    };
    while (used(next)) next = next == U'z' ? U'\u0100' : next + 1;  // letters beyond, for those with so many kinds
    kind.glyph = next;
  }
}

class KindsReader {
 public:
  KindsReader(const Source& source, bool drawn) : source_(source), drawn_(drawn) {}

  void read(const NamedTable& entry) {
    const Fields fields(source_, *entry.table, "[terrain." + entry.name + "]",
                        {"glyph", "color", "cost", "opaque", "breach", "void"});
    Terrain kind{.name = entry.name};
    kinds_.glyphs_known &= source_.attempt([&] {
      if (drawn_ || fields.has("glyph")) kind.glyph = read_glyph(fields);
    });
    const bool has_color = fields.has("color");
    bool colored = source_.attempt([&] { kind.color = has_color ? read_color(fields) : own_color(without_color_++); });
    source_.attempt([&] { kind.is_void = fields.flag_or("void", false); });
    source_.attempt([&] { kind.opaque = fields.flag_or("opaque", false); });
    source_.attempt([&] {
      if (const toml::node* cost = fields.find("cost")) kind.cost = entry_cost(source_, *cost, "cost");
    });
    if (kind.is_void) kind.cost = blocked;
    source_.attempt([&] {
      if (const toml::node* breach = fields.find("breach")) kind.breach = read_breach(fields, *breach);
    });
    for (const Terrain& other : kinds_.list) {
      kinds_.glyphs_known &= source_.attempt([&] {
        if (kind.glyph == U'\0' || other.glyph != kind.glyph) return;
        fields.fail("glyph", "one not used by " + other.name + " already");
      });
      colored = colored && source_.attempt([&] {
        if (other.color != kind.color) return;
        if (has_color) fields.fail("color", "one not used by " + other.name + " already");
        source_.fail(entry.at,
                     "no color in [terrain." + entry.name + "], and " + other.name + " has the one it would take",
                     "a color");
      });
    }
    kinds_.colors_known &= colored;
    kinds_.list.push_back(std::move(kind));
  }

  Kinds take() {
    choose_glyphs(kinds_.list);
    return std::move(kinds_);
  }

 private:
  const Source& source_;
  bool drawn_;
  std::size_t without_color_ = 0;
  Kinds kinds_;
};

}  // namespace

EntryCost entry_cost(const Source& source, const toml::node& node, const std::string& what) {
  if (const auto* flag = node.as_boolean(); flag != nullptr && !flag->get()) return blocked;
  const auto cost = hundredths_of(node);
  if (!cost || *cost < 1 || *cost > max_entry_cost) {
    source.fail(node, what + " = " + describe(node), "0.01 to 655.35 with at most two decimals, or false");
  }
  return static_cast<EntryCost>(*cost);
}

Kinds read_kinds(const Source& source, const toml::node& terrain, bool drawn) {
  const auto entries = named_tables(source, terrain, "terrain");
  if (entries.empty()) source.fail(terrain, "no terrain", "at least one [terrain.name]");
  if (entries.size() > max_terrain_kinds) {
    source.fail(entries[max_terrain_kinds].at, std::to_string(entries.size()) + " kinds of terrain", "at most 256");
  }
  KindsReader reader(source, drawn);
  for (const NamedTable& entry : entries) reader.read(entry);
  return reader.take();
}

}  // namespace saunter::inline v0_2::io::detail
