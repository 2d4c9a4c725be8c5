#include "saunter/ground/mover.hpp"

namespace saunter::inline v0_2 {
namespace {

std::optional<std::string_view> steps_problem(Tiling tiling, int steps) {
  if (steps == 0) return std::nullopt;
  switch (tiling.shape()) {
    case Shape::square:
      if (steps != 4 && steps != 8) return "steps must be 4 or 8 on squares";
      break;
    case Shape::triangle:
      if (steps != 3 && steps != 12) return "steps must be 3 or 12 on triangles";
      break;
    case Shape::hex_pointy:
    case Shape::hex_flat:
      if (steps != 6) return "steps must be 6 on hexes";
      break;
  }
  return std::nullopt;
}

}  // namespace

int default_steps(Tiling tiling) {
  if (tiling.shape() == Shape::square) return 8;
  return tiling.is_hex() ? 6 : 3;
}

std::optional<std::string_view> mover_problem(Tiling tiling, const Mover& mover) {
  if (const auto problem = steps_problem(tiling, mover.rules.steps)) return problem;
  if (mover.rules.diagonal < min_diagonal || mover.rules.diagonal > max_diagonal) {
    return "diagonal must be 1.00 to 655.35";
  }
  if (mover.size < 1 || mover.size > max_mover_size) return "size must be 1 to 255";
  if (tiling.shape() == Shape::triangle && mover.size != 1) return "size must be 1 on triangles";
  if (mover.climb && *mover.climb < 0) return "climb must be 0 or more";
  if (mover.drop && *mover.drop < 0) return "drop must be 0 or more";
  return std::nullopt;
}

}  // namespace saunter::inline v0_2
