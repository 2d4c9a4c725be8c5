#include "saunter/draw/terminal.hpp"

#include <utf8proc.h>

#include "saunter/draw/palette.hpp"
#include "saunter/ground/glyph.hpp"

namespace saunter::inline v0_2::draw {
namespace {

class Printer {
 public:
  Printer(const Screen& screen, bool color) : screen_(screen), map_(screen.map()), color_(color) {}

  [[nodiscard]] std::string text() const {
    const Shape shape = map_.tiling().shape();
    const int lines_per_row = shape == Shape::hex_flat ? 2 : 1;
    const int line_count = map_.size().rows * lines_per_row + (shape == Shape::hex_flat ? 1 : 0);
    std::string out;
    for (int line = 0; line < line_count; ++line) {
      if (shape == Shape::hex_pointy && map_.tiling().kind({0, line}) == 1) out += ' ';
      std::string spaces;
      for (std::int32_t col = 0; col < map_.size().cols; ++col) {
        // Flat hexes are two lines high, and every other column stands one line lower.
        const int from_top = shape == Shape::hex_flat ? line - map_.tiling().kind({col, 0}) : line;
        const Cell cell{col, from_top >= 0 ? from_top / lines_per_row : -1};
        if (!map_.size().contains(cell)) {
          spaces += "  ";
          continue;
        }
        out += spaces;
        spaces.clear();
        append(out, screen_.at(cell), lines_per_row == 1 || from_top % 2 == 0);
      }
      while (out.ends_with(' ')) out.pop_back();
      out += '\n';
    }
    return out;
  }

 private:
  void append(std::string& out, const Screen::Look& look, bool with_glyph) const {
    if (color_) {
      const auto channel = [](Rgb c) {
        return std::to_string(c.red) + ";" + std::to_string(c.green) + ";" + std::to_string(c.blue);
      };
      out += "\x1b[48;2;" + channel(look.ground) + ";38;2;" + channel(look.ink) + (look.strong ? ";1m" : "m");
    }
    // A wide glyph takes both columns of its cell; one that takes none would move what comes after it.
    const int columns = with_glyph ? utf8proc_charwidth(static_cast<utf8proc_int32_t>(look.glyph)) : 1;
    append_glyph(out, !with_glyph ? U' ' : columns < 1 ? U'?' : look.glyph);
    if (columns < 2) out += ' ';
    if (color_) out += "\x1b[0m";
  }

  const Screen& screen_;
  const Map& map_;
  bool color_;
};

}  // namespace

void Screen::shade(Cell cell, Rgb color, double opacity, bool strong) {
  Look& look = looks_[cell];
  look.ground = mix(look.ground, color, opacity);
  look.ink = strong ? readable_on(look.ground) : mix(look.ground, readable_on(look.ground), 0.55);
}

void Screen::mark(Cell cell, char32_t glyph, Rgb color) {
  if (map_.size().contains(cell)) looks_[cell] = {glyph, color, white, true};
}

std::string terminal_view(const Picture& picture, const TerminalOptions& options) {
  const Size size = picture.map()->size();
  const int lines = picture.map()->tiling().shape() == Shape::hex_flat ? size.rows * 2 + 1 : size.rows;
  if (size.cols * 2 + 1 > options.max_columns || lines > options.max_lines) return {};
  Screen screen(*picture.map());
  for (const Overlay* overlay : picture.overlays()) overlay->show(screen);
  return Printer(screen, options.color).text();
}

}  // namespace saunter::inline v0_2::draw
