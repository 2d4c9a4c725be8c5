#include <algorithm>

#include "strokes.hpp"

namespace saunter::inline v0_2::draw {
using namespace detail;
namespace {

constexpr double entry_height = 22;
constexpr double fact_height = 21;

}  // namespace

void Legend::turn_to(const Map& map, const Layout& layout, bool diamond) {
  map_ = &map;
  cell_ = layout.cell;
  diamond_ = diamond;
}

void Legend::add(Item item) {
  const auto same = [&](const Item& known) { return known.key == item.key; };
  if (std::none_of(items_.begin(), items_.end(), same)) items_.push_back(std::move(item));
}

void Legend::fact(const std::string& what, const std::string& value) {
  facts_.push_back({what, fact_height, [what, value](Canvas& canvas, Point corner, double width) {
                      const double right = corner.x + width;
                      const double room = width - canvas.text_width(what, 13) - 12;
                      const bool fits = canvas.text_width(value, 13, true) <= room;
                      canvas.text(corner.x, corner.y + 14, what, 13, {soft_ink});
                      if (fits) {
                        canvas.text(right, corner.y + 14, value, 13, {night}, Align::right, true);
                      } else {
                        write_within(canvas, {right - room, corner.y + 14}, value, 13, {night}, room, true);
                      }
                    }});
}

void Legend::entry(const std::string& name, const std::string& value, Sample sample) {
  add({"entry " + name + " " + value, entry_height,
       [name, value, sample = std::move(sample)](Canvas& canvas, Point corner, double width) {
         sample(canvas, corner + Point(10, 9));
         const double taken = value.empty() ? 0 : canvas.text_width(value, 13) + 8;
         write_within(canvas, corner + Point(30, 14), name, 13, {night}, width - 30 - taken);
         canvas.text(corner.x + width, corner.y + 14, value, 13, {soft_ink}, Align::right);
       }});
}

void Legend::swatch(const std::string& name, const std::string& value, Ink fill) {
  entry(name, value, [fill](Canvas& canvas, Point at) {
    canvas.fill(box_about(at), fill);
    canvas.outline(box_about(at), {night, 0.3}, 1);
  });
}

void Legend::ramp(const std::string& name, std::span<const Rgb> stops, const std::string& low,
                  const std::string& high) {
  const std::vector<Rgb> colors(stops.begin(), stops.end());
  add({"ramp " + name, 62, [name, colors, low, high](Canvas& canvas, Point corner, double width) {
         constexpr int parts = 60;
         canvas.text(corner.x, corner.y + 14, name, 13, {night});
         for (int i = 0; i < parts; ++i) {
           canvas.fill_rect(corner.x + width * i / parts, corner.y + 22, width / parts + 0.5, 12,
                            {on_ramp(colors, i / (parts - 1.0))});
         }
         canvas.text(corner.x, corner.y + 48, low, 11, {soft_ink});
         canvas.text(corner.x + width, corner.y + 48, high, 11, {soft_ink}, Align::right);
       }});
}

void Legend::note(const std::string& words) {
  add({"note " + words, 18, [words](Canvas& canvas, Point corner, double width) {
         write_within(canvas, corner + Point(0, 10), words, 11, {soft_ink}, width);
       }});
}

void Legend::drawing(const std::string& name, double height, std::function<void(Canvas&, Point, double)> paint) {
  add({"drawing " + name, height + 16, [name, paint = std::move(paint)](Canvas& canvas, Point corner, double width) {
         canvas.text(corner.x, corner.y + 10, name, 11, {soft_ink});
         paint(canvas, corner + Point(0, 16), width);
       }});
}

double Legend::height() const {
  double sum = facts_.empty() ? 0 : 10;
  for (const Item& item : facts_) sum += item.height;
  for (const Item& item : items_) sum += item.height;
  return sum;
}

void Legend::paint(Canvas& canvas, Point corner, double width) const {
  for (const Item& item : facts_) {
    item.paint(canvas, corner, width);
    corner.y += item.height;
  }
  if (!facts_.empty()) corner.y += 10;
  for (const Item& item : items_) {
    item.paint(canvas, corner, width);
    corner.y += item.height;
  }
}

}  // namespace saunter::inline v0_2::draw
