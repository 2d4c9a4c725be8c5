/// @file
/// The estimate in forms that the inner loops can take in.
#pragma once

#include <array>
#include <cstdlib>
#include <optional>

#include "kernel/ends.hpp"
#include "kernel/pack.hpp"
#include "saunter/search/estimate.hpp"

namespace saunter::inline v0_2::detail {

/// Estimates on squares, with or without diagonals.
class SquareGuide {
 public:
  static constexpr bool squares = true;
  /// @param guided  false: 0 everywhere
  SquareGuide(const Estimate& estimate, Cell goal, bool guided)
      : col_(goal.col),
        row_(goal.row),
        edge_(guided ? estimate(goal + Offset{1, 0}) : 0),
        saved_(guided ? 2 * edge_ - estimate(goal + Offset{1, 1}) : 0) {}
  std::uint64_t operator()(std::uint32_t packed) const {
    const auto cols = static_cast<std::uint32_t>(std::abs(static_cast<std::int32_t>(packed & 0xFFFFU) - col_));
    const auto rows = static_cast<std::uint32_t>(std::abs(static_cast<std::int32_t>(packed >> 16U) - row_));
    return edge_ * (std::uint64_t{cols} + rows) - saved_ * (cols < rows ? cols : rows);
  }

 private:
  std::int32_t col_;
  std::int32_t row_;
  std::uint64_t edge_;
  std::uint64_t saved_;  // by a diagonal step in place of two edge steps
};

/// Estimates on hexes.
class HexGuide {
 public:
  static constexpr bool squares = false;
  HexGuide(Tiling tiling, const Estimate& estimate, Cell goal, bool guided)
      : along_rows_(tiling.shape() == Shape::hex_pointy),
        round_up_(tiling.shift() == Shift::even ? 1 : 0),
        edge_(guided ? estimate(tiling.neighbour(goal, Direction(0))) : 0) {
    const Cube at = cube(goal.col, goal.row);
    line_ = at.r;
    along_ = at.q;
  }
  std::uint64_t operator()(std::uint32_t packed) const {
    const Cube at = cube(static_cast<std::int32_t>(packed & 0xFFFFU), static_cast<std::int32_t>(packed >> 16U));
    const std::int32_t q = at.q - along_;
    const std::int32_t r = at.r - line_;
    return edge_ * static_cast<std::uint32_t>((std::abs(q) + std::abs(r) + std::abs(q + r)) / 2);
  }

 private:
  /// Flat tops swap the first two axes, which changes no distance.
  [[nodiscard]] Cube cube(std::int32_t col, std::int32_t row) const {
    const std::int32_t line = along_rows_ ? row : col;
    const std::int32_t q = (along_rows_ ? col : row) - ((line + round_up_) >> 1);
    return {q, line, -q - line};
  }

  bool along_rows_;
  std::int32_t round_up_;
  std::int32_t line_ = 0;
  std::int32_t along_ = 0;
  std::uint64_t edge_;
};

/// Estimates on triangles.
class TriangleGuide {
 public:
  static constexpr bool squares = false;
  TriangleGuide(const Estimate& estimate, bool guided) : estimate_(estimate), guided_(guided) {}
  std::uint64_t operator()(std::uint32_t packed) const { return guided_ ? estimate_(unpack(packed)) : 0; }

 private:
  const Estimate& estimate_;
  bool guided_;
};

/// Estimates to one aim, less how far from it one may arrive.
template <typename Guide>
class GuideWithin {
 public:
  static constexpr bool squares = Guide::squares;
  GuideWithin(const Guide& guide, const Goals& goals) : guide_(guide) {
    for (const Goals::Accepted& accepted : goals.accepted()) slack_ = std::max(slack_, guide_(pack(accepted.cell)));
  }
  std::uint64_t operator()(std::uint32_t packed) const {
    const std::uint64_t to_aim = guide_(packed);
    return to_aim > slack_ ? to_aim - slack_ : 0;
  }

 private:
  Guide guide_;
  std::uint64_t slack_ = 0;
};

/// Estimates to the nearest of several aims, each less how far from it one may arrive. Without aims 0 everywhere.
template <typename Guide>
class GuideToAny {
 public:
  static constexpr bool squares = Guide::squares;
  /// @param make  Guide make(const Goals::Aim&)
  template <typename Make>
  GuideToAny(const Goals& goals, bool guided, Make&& make) {
    if (!guided) return;
    for (const Goals::Aim& aim : goals.aims()) guides_[count_++].emplace(make(aim));
    for (const Goals::Accepted& accepted : goals.accepted()) {
      const std::size_t aim = goals.aim_of(accepted);
      slack_[aim] = std::max(slack_[aim], (*guides_[aim])(pack(accepted.cell)));
    }
  }
  std::uint64_t operator()(std::uint32_t packed) const {
    if (count_ == 0) return 0;
    std::uint64_t least = ~std::uint64_t{0};
    for (std::size_t i = 0; i < count_; ++i) {
      const std::uint64_t to_aim = (*guides_[i])(packed);
      least = std::min(least, to_aim > slack_[i] ? to_aim - slack_[i] : 0);
    }
    return least;
  }

 private:
  std::array<std::optional<Guide>, Goals::most_aims> guides_;
  std::array<std::uint64_t, Goals::most_aims> slack_ = {};
  std::size_t count_ = 0;
};

}  // namespace saunter::inline v0_2::detail
