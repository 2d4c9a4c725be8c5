#include "saunter/grid/frame.hpp"

#include <cmath>
#include <limits>
#include <numbers>

#include "saunter/grid/eigen.hpp"

namespace saunter::inline v0_2 {
namespace {

constexpr double half_sqrt3 = std::numbers::sqrt3 / 2;
constexpr double third_sqrt3 = std::numbers::sqrt3 / 3;  // a hex's centre to its corner
constexpr double triangle_height = 1.5;
constexpr double far_limit = 1 << 30;

double within_range(double value) { return std::fmin(std::fmax(value, -far_limit), far_limit); }

/// floor() for numbers within the limit; the standard one is a call on processors without an instruction for it.
double floor_within(double x) {
  const auto cut = static_cast<double>(static_cast<std::int64_t>(x));
  return cut - (x < cut ? 1.0 : 0.0);
}

/// Nearest whole number, halves up. floor(x + 0.5) would round the addition; x - floor(x) does not.
double round_half_up(double x) {
  const double below = floor_within(x);
  return x - below >= 0.5 ? below + 1 : below;
}

/// The hex that holds a point given on the axes q and r: the nearest lattice point of the rhombus round it, where the
/// bisectors between its corners are the hexes' edges.
Axial hex_at(double q, double r) {
  const double q0 = floor_within(q);
  const double r0 = floor_within(r);
  const double fq = q - q0;
  const double fr = r - r0;
  Axial cell{static_cast<std::int32_t>(q0), static_cast<std::int32_t>(r0)};
  const double along_q = 2 * fq + fr;
  const double along_r = fq + 2 * fr;
  if (along_q < 1 && along_r < 1) return cell;
  if (along_q >= 2 && along_r >= 2) return {cell.q + 1, cell.r + 1};
  if (fq >= fr) return {cell.q + 1, cell.r};
  return {cell.q, cell.r + 1};
}

Cell triangle_at(Tiling tiling, double x, double y) {
  const bool up_first = tiling.first() == FirstTriangle::up;
  const double rows = (y + (up_first ? 1.0 : 0.5)) / triangle_height;
  const double row = floor_within(rows);
  const double down_row = rows - row;  // 0 at the row's top edge, 1 at its bottom
  const double cols = x / half_sqrt3;
  const double col = floor_within(cols);
  const double right_of = cols - col;
  const Cell left{static_cast<std::int32_t>(col), static_cast<std::int32_t>(row)};
  const double edge = tiling.kind(left) == 0 ? down_row : 1 - down_row;
  return right_of < edge ? left : Cell{left.col + 1, left.row};
}

}  // namespace

Frame::Frame(Tiling tiling, double cell_size, Point origin, WorldY world_y)
    : Frame(tiling, {cell_size, 0, 0, world_y == WorldY::up ? -cell_size : cell_size, origin}) {
  SAUNTER_EXPECT(std::isfinite(cell_size) && cell_size > 0);
}

Frame::Frame(Tiling tiling, const Affine& to_world) : tiling_(tiling), to_world_(to_world) {
  const Eigen::Affine2d transform = to_eigen(to_world);
  const bool sound = transform.matrix().allFinite() && transform.linear().determinant() != 0;
  SAUNTER_EXPECT(sound);
  if (!sound) {
    to_world_ = {};
  } else {
    to_steps_ = from_eigen(transform.inverse());
  }
}

Frame Frame::diamond(Tiling tiling, double width, double height, Point origin) {
  return {tiling, Affine{width / 2, -width / 2, height / 2, height / 2, origin}};
}

Point Frame::centre_in_steps(Tiling tiling, Cell cell) {
  const double kind = tiling.kind(cell);
  switch (tiling.shape()) {
    case Shape::hex_pointy: return {cell.col + kind / 2, cell.row * half_sqrt3};
    case Shape::hex_flat: return {cell.col * half_sqrt3, cell.row + kind / 2};
    case Shape::triangle: {
      // The two orientations of a row have their centres half a step apart, down ones higher.
      const double first = tiling.first() == FirstTriangle::down ? 1 : 0;
      return {cell.col * half_sqrt3, cell.row * triangle_height + (first - kind) / 2};
    }
    case Shape::square: break;
  }
  return {double(cell.col), double(cell.row)};
}

CellPolygon Frame::corners(Cell cell) const {
  CellPolygon polygon;
  const Point centre = centre_in_steps(tiling_, cell);
  const auto add = [&](double x, double y) {
    polygon.points[static_cast<unsigned>(polygon.count++)] = to_world_({centre.x + x, centre.y + y});
  };
  switch (tiling_.shape()) {
    case Shape::square: add(-0.5, -0.5), add(0.5, -0.5), add(0.5, 0.5), add(-0.5, 0.5); break;
    case Shape::hex_pointy:
      add(0, -third_sqrt3), add(0.5, -third_sqrt3 / 2), add(0.5, third_sqrt3 / 2);
      add(0, third_sqrt3), add(-0.5, third_sqrt3 / 2), add(-0.5, -third_sqrt3 / 2);
      break;
    case Shape::hex_flat:
      add(-third_sqrt3 / 2, -0.5), add(third_sqrt3 / 2, -0.5), add(third_sqrt3, 0);
      add(third_sqrt3 / 2, 0.5), add(-third_sqrt3 / 2, 0.5), add(-third_sqrt3, 0);
      break;
    case Shape::triangle:
      if (tiling_.kind(cell) == 0) {
        add(0, -1), add(half_sqrt3, 0.5), add(-half_sqrt3, 0.5);
      } else {
        add(-half_sqrt3, -0.5), add(half_sqrt3, -0.5), add(0, 1);
      }
      break;
  }
  return polygon;
}

Cell Frame::cell_at(Point world) const {
  const Point steps = to_steps_(world);
  if (std::isnan(steps.x) || std::isnan(steps.y)) {
    constexpr auto lowest = std::numeric_limits<std::int32_t>::min();
    return {lowest, lowest};
  }
  double x = within_range(steps.x);
  double y = within_range(steps.y);
  if (tiling_.is_hex()) {
    // The axes meet in the centre of cell (0,0); the origin is that of the unshifted line.
    const Point axes = centre_in_steps(tiling_, {0, 0});
    x -= axes.x;
    y -= axes.y;
  }
  switch (tiling_.shape()) {
    case Shape::hex_pointy: return tiling_.from_axial(hex_at(x - y * third_sqrt3, y * (2 * third_sqrt3)));
    case Shape::hex_flat: {
      // The pointy rule with x and y exchanged: there q runs along the shifted line, here r does.
      const Axial swapped = hex_at(y - x * third_sqrt3, x * (2 * third_sqrt3));
      return tiling_.from_axial({swapped.r, swapped.q});
    }
    case Shape::triangle: return triangle_at(tiling_, x, y);
    case Shape::square: break;
  }
  return {static_cast<std::int32_t>(round_half_up(x)), static_cast<std::int32_t>(round_half_up(y))};
}

std::optional<Cell> Frame::cell_at(Point world, Size size) const {
  const Cell cell = cell_at(world);
  if (!size.contains(cell)) return std::nullopt;
  return cell;
}

Cell Frame::drag_anchor(Point pointer, Point grip, Cell anchor) const {
  const Point wanted = pointer - grip;
  const Cell found = cell_at(wanted);
  if (tiling_.shape() != Shape::triangle || tiling_.kind(found) == tiling_.kind(anchor)) return found;
  // All edge neighbours of a triangle point the other way; the nearest one in edge steps is the one meant.
  const Point steps = to_steps_(wanted);
  Cell best = found;
  double best_distance = std::numeric_limits<double>::infinity();
  for (Direction d{0}; d < tiling_.edge_count(); ++d) {
    const Cell candidate = tiling_.neighbour(found, d);
    const Point away = centre_in_steps(tiling_, candidate) - steps;
    const double distance = dot(away, away);
    if (distance < best_distance) {
      best = candidate;
      best_distance = distance;
    }
  }
  return best;
}

}  // namespace saunter::inline v0_2
