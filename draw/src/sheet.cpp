#include <algorithm>
#include <cmath>

#include "map_part.hpp"
#include "strokes.hpp"

namespace saunter::inline v0_2::draw {
using namespace detail;
namespace {

// All lengths here are those of a sheet of usual size; larger ones are scaled as a whole.
constexpr double margin = 28;
constexpr double title_height = 52;
constexpr double caption_height = 24;  // a panel's name
constexpr double bar_height = 17;
constexpr double chart_head = 26;

double charts_height(const Sheet& sheet) {
  std::size_t most = 0;
  for (const BarChart& chart : sheet.charts) most = std::max(most, chart.bars.size());
  return sheet.charts.empty() ? 0 : chart_head + bar_height * static_cast<double>(most) + margin;
}

/// The room for the numbers of columns and rows, which only cells of some size have.
Point numbers_room(double cell) { return cell >= 9 ? Point(26, 16) : Point(0, 0); }

/// How panels are laid out: as many columns as give the largest cells.
struct Arrangement {
  int columns = 1;
  int rows = 1;
  double width = 0;    // of one panel
  double height = 0;   // of one panel, with its caption
  double cell = 0;     // of the panel with the smallest ones
  double largest = 0;  // of that with the largest
};

/// The cell size of a panel in its room; numbers of columns and rows have room beside cells of some size.
double cell_in(const Picture& panel, double width, double height) {
  const auto cell_beside = [&](Point room) {
    return cell_within(panel, std::max(width - room.x - gap / 2, 16.0),
                       std::max(height - caption_height - room.y - 8, 16.0), largest_cell);
  };
  const double numbered = cell_beside(numbers_room(largest_cell));
  return numbered >= 9 ? numbered : std::min(cell_beside({0, 0}), 8.0);
}

Arrangement arrange(const Sheet& sheet, double width, double height) {
  Arrangement best;
  const int count = static_cast<int>(sheet.panels.size());
  for (int columns = 1; columns <= count; ++columns) {
    Arrangement tried{.columns = columns, .rows = (count + columns - 1) / columns};
    tried.width = width / columns;
    tried.height = height / tried.rows;
    tried.cell = largest_cell;
    for (const Picture& panel : sheet.panels) {
      tried.cell = std::min(tried.cell, cell_in(panel, tried.width, tried.height));
    }
    if (tried.cell >= best.cell) best = tried;  // rather side by side than one above the other
  }
  // Panels no higher than they need to be: what is left over is not spread between them.
  double highest = 0;
  for (const Picture& panel : sheet.panels) {
    const double cell = cell_in(panel, best.width, best.height);
    const Frame frame = frame_at(panel, cell, Point{});
    highest = std::max(highest, extent(frame, panel.map()->size()).height() + numbers_room(cell).y);
    best.largest = std::max(best.largest, cell);
  }
  best.height = std::min(best.height, highest + caption_height + 14);
  return best;
}

void paint_chart(Canvas& canvas, const BarChart& chart, Point corner, double width) {
  double most = 0;
  double names = 0;
  double words = 0;
  for (const BarChart::Bar& bar : chart.bars) {
    most = std::max(most, bar.value);
    names = std::max(names, canvas.text_width(bar.name, 11));
    words = std::max(words, canvas.text_width(bar.words, 11));
  }
  canvas.text(corner.x, corner.y + 12, chart.title, 13, {night}, Align::left, true);
  const double left = corner.x + names + 8;
  const double room = std::max(10.0, width - names - words - 22);
  double line = corner.y + chart_head;
  for (const BarChart::Bar& bar : chart.bars) {
    const double length = most > 0 ? room * bar.value / most : 0;
    canvas.text(corner.x, line + 10, bar.name, 11, {night});
    canvas.fill_rect(left, line, std::max(length, 1.0), bar_height - 5, {start_color});
    canvas.text(left + std::max(length, 1.0) + 6, line + 10, bar.words, 11, {soft_ink});
    line += bar_height;
  }
}

std::string joined(const std::vector<std::pair<std::string, std::string>>& facts) {
  std::string words;
  for (const auto& [what, value] : facts) words += (words.empty() ? "" : ", ") + what + " " + value;
  return words;
}

/// A panel's caption, drawn, and the layout of its map.
Layout place_panel(Canvas& canvas, const Picture& panel, Point corner, const Arrangement& where) {
  const double cell = cell_in(panel, where.width, where.height);
  const Point numbers = numbers_room(cell);
  corner.x += numbers.x;
  const double width = where.width - numbers.x - gap / 2;
  write_within(canvas, corner + Point(0, 14), panel.title, 13, {night}, width, true);
  const double used = canvas.text_width(panel.title, 13, true) + 10;
  if (!panel.facts.empty() && width - used > 60) {
    write_within(canvas, corner + Point(used, 14), joined(panel.facts), 11, {soft_ink}, width - used);
  }
  Layout layout;
  layout.cell = cell;
  layout.frame = frame_at(panel, cell, corner + Point(0, caption_height + numbers.y));
  return layout;
}

Legend shared_legend(const Sheet& sheet, double cell) {
  Layout layout;
  layout.cell = cell;
  Legend legend(*sheet.panels.front().map(), layout, false, true);
  for (const auto& [what, value] : sheet.facts) legend.fact(what, value);
  for (const Picture& panel : sheet.panels) {
    legend.turn_to(*panel.map(), layout, panel.diamond);
    explain(panel, legend);
  }
  return legend;
}

std::string paint(const Sheet& sheet, PixelSize size, Canvas::Kind kind) {
  if (sheet.panels.empty() || !std::all_of(sheet.panels.begin(), sheet.panels.end(), drawable)) return {};
  const double scale = scale_of(size);
  const double width = size.width / scale - 3 * margin - column;
  const double charts = charts_height(sheet);
  const double height = size.height / scale - title_height - charts - margin;
  const Arrangement where = arrange(sheet, std::max(width, 100.0), std::max(height, 100.0));
  const Legend legend = shared_legend(sheet, where.largest);
  const double below = title_height + where.height * where.rows + margin / 2;
  const double bottom = std::max(below + charts, title_height + legend.height() + margin);
  Canvas canvas(kind, size.width, static_cast<int>(std::ceil(bottom * scale)));
  canvas.set_view(0, 0, scale);
  canvas.fill_rect(0, 0, size.width / scale, bottom, {paper});
  write_within(canvas, {margin, 34}, sheet.title, 20, {night}, size.width / scale - 2 * margin, true);
  for (std::size_t i = 0; i < sheet.panels.size(); ++i) {
    const auto place = static_cast<int>(i);
    const Point corner(margin + where.width * (place % where.columns),
                       title_height + where.height * (place / where.columns));
    const Layout layout = place_panel(canvas, sheet.panels[i], corner, where);
    paint_map(sheet.panels[i], layout, canvas);
  }
  for (std::size_t i = 0; i < sheet.charts.size(); ++i) {
    const double part = std::max(width, 100.0) / static_cast<double>(sheet.charts.size());
    paint_chart(canvas, sheet.charts[i], {margin + part * static_cast<double>(i), below}, part - gap);
  }
  legend.paint(canvas, {size.width / scale - margin - column, title_height}, column);
  return canvas.finish();
}

}  // namespace

std::string to_png(const Sheet& sheet, PixelSize size) { return paint(sheet, size, Canvas::Kind::png); }
std::string to_svg(const Sheet& sheet, PixelSize size) { return paint(sheet, size, Canvas::Kind::svg); }

}  // namespace saunter::inline v0_2::draw
