#include "saunter/draw/overlay/visits.hpp"

#include <algorithm>

#include "../strokes.hpp"

namespace saunter::inline v0_2::draw {
using namespace detail;
namespace {

/// Calls f(cell, visit, its number) for the first visit of each cell.
template <typename F>
void for_each_first(Size size, const std::vector<Visit>& visits, F&& f) {
  BitGrid seen(size);
  for (std::size_t i = 0; i < visits.size(); ++i) {
    const Cell cell = size.cell(visits[i].cell);
    if (seen.test(cell)) continue;
    seen.set(cell);
    f(cell, visits[i], i);
  }
}

}  // namespace

Rgb visit_color(std::size_t n, std::size_t count) {
  return on_ramp(visit_ramp, count > 1 ? static_cast<double>(n) / static_cast<double>(count - 1) : 0);
}

void Visits::shade(Stage& stage) const {
  for_each_first(stage.map().size(), visits_, [&](Cell cell, const Visit&, std::size_t n) {
    stage.colors()[cell] = mix(stage.color(cell), visit_color(n, visits_.size()), visit_opacity);
  });
}

void Visits::number(Stage& stage) const {
  if (!stage.room_for_number()) return;
  const double small = std::clamp(stage.cell() * 0.2, 8.0, 11.0);
  for_each_first(stage.map().size(), visits_, [&](Cell cell, const Visit& visit, std::size_t) {
    if (!stage.claim(cell)) return;
    const Rgb ink = readable_on(stage.color(cell));
    if (!stage.room_for_three()) return stage.write(cell, to_decimal(visit.cost), small, ink);
    const auto estimate = static_cast<std::int64_t>(visit.estimate);
    stage.write(cell, to_decimal(visit.cost), small, ink, {-0.21, -0.24});
    stage.write(cell, to_decimal(estimate), small, ink, {0.23, -0.24});
    stage.write(cell, to_decimal(visit.cost + estimate), small + 2, ink, {0, 0.24}, true);
  });
}

void Visits::explain(Legend& legend) const {
  if (visits_.empty()) return;
  legend.ramp("cells checked, in order", visit_ramp, "first",
              legend.shared() ? "last" : "last (" + std::to_string(visits_.size()) + ")");
  if (legend.cell() < 26 || legend.diamond()) return;
  const bool three = legend.cell() >= 46 && legend.map().tiling().shape() != Shape::triangle;
  legend.note(three ? "in a cell: cost so far, estimate, sum below" : "in a cell: cost so far");
}

void Visits::show(Screen& screen) const {
  for (std::size_t i = 0; i < visits_.size(); ++i) {
    screen.shade(screen.map().size().cell(visits_[i].cell), visit_color(i, visits_.size()), visit_opacity, true);
  }
}

}  // namespace saunter::inline v0_2::draw
