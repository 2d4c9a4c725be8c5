/// @file
/// Cost and flow fields.
///
/// Units: costs in hundredths.
/// Errors: none: cells that are not reached stay as they are.
/// Cost: O(cells) when made and for each picture.
/// Threads: any number, nothing is shared.
#pragma once

#include "saunter/draw/overlay.hpp"
#include "saunter/search/field.hpp"

namespace saunter::inline v0_2 {
namespace draw SAUNTER_VISIBLE {

/// Reached cells shaded by cost, which is written where it fits.
class FieldCosts : public Overlay {
 public:
  /// @param field  must live until the picture is made
  explicit FieldCosts(const Field& field);
  [[nodiscard]] Tier tier() const override { return Tier::cells; }
  void shade(Stage& stage) const override;
  void number(Stage& stage) const override;
  void explain(Legend& legend) const override;
  void show(Screen& screen) const override;

 private:
  const Field& field_;
  Cost most_ = 0;
};

/// From each cell a short arrow the way the field leads. Add it after the costs: nothing else is written there.
class FieldArrows : public Overlay {
 public:
  /// @param field  must live until the picture is made
  explicit FieldArrows(const Field& field) : field_(field) {}
  [[nodiscard]] Tier tier() const override { return Tier::cells; }
  void number(Stage& stage) const override;
  void paint(Stage& stage) const override;
  void explain(Legend& legend) const override;

 private:
  const Field& field_;
};

}  // namespace draw SAUNTER_VISIBLE
}  // namespace saunter::inline v0_2
