#include "saunter/draw/overlay/rooms.hpp"

#include "../strokes.hpp"

namespace saunter::inline v0_2::draw {
using namespace detail;

void RoomNumbers::paint(Stage& stage) const {
  for (std::size_t i = 0; i < boxes_.size(); ++i) {
    const Rect& box = boxes_[i];
    const Point corner = stage.centre({box.left, box.top});
    const Point middle = corner + (stage.centre({box.right - 1, box.bottom - 1}) - corner) * 0.5;
    write_name(stage.canvas(), middle, std::to_string(i + 1), {threat_color, 0.8});
  }
}

void RoomNumbers::explain(Legend& legend) const {
  if (boxes_.empty()) return;
  legend.entry("rooms, as they were joined", std::to_string(boxes_.size()), [](Canvas& canvas, Point at) {
    write_name(canvas, at, "1", {threat_color, 0.8});
  });
}

}  // namespace saunter::inline v0_2::draw
