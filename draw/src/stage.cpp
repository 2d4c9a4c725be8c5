#include <algorithm>

#include "saunter/draw/palette.hpp"
#include "saunter/draw/overlay.hpp"

namespace saunter::inline v0_2::draw {

Stage::Stage(const Map& map, const Layout& layout, bool diamond, Canvas& canvas)
    : map_(map),
      layout_(layout),
      diamond_(diamond),
      canvas_(canvas),
      colors_(map.size(), paper),
      claimed_(map.size()) {}

bool Stage::claim(Cell cell) {
  if (!map_.size().contains(cell) || claimed_.test(cell)) return false;
  claimed_.set(cell);
  return true;
}

void Stage::write(Cell cell, const std::string& text, double size, Rgb ink, Point off, bool bold) {
  const Point at = centre(cell) + off * layout_.cell;
  canvas_.text(at.x, at.y + size * 0.36 * canvas_.text_scale(), text, size, {ink}, Align::centre, bold);
}

}  // namespace saunter::inline v0_2::draw
