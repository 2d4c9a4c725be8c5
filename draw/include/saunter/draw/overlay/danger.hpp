/// @file
/// Threats, the danger they spread, and what is seen.
///
/// Units: levels of danger, ranges in edge steps.
/// Errors: threats off the map are drawn where they would be.
/// Cost: O(cells) a picture.
/// Threads: any number, nothing is shared.
#pragma once

#include <vector>
#include <string>

#include "saunter/draw/overlay.hpp"
#include "saunter/threat/threat_field.hpp"

namespace saunter::inline v0_2 {
namespace draw SAUNTER_VISIBLE {

/// Danger as depth of one colour, the level where it fits, and a wedge on the side that most comes from.
class Danger : public Overlay {
 public:
  /// @param field  must live until the picture is made
  explicit Danger(const ThreatField& field) : field_(field) {}
  [[nodiscard]] Tier tier() const override { return Tier::cells; }
  void shade(Stage& stage) const override;
  void number(Stage& stage) const override;
  void paint(Stage& stage) const override;
  void explain(Legend& legend) const override;
  void show(Screen& screen) const override;

 private:
  const ThreatField& field_;
};

/// A threat with its name.
struct NamedThreat {
  std::string name = {};
  Threat threat = {};
};

/// Threats: an eye, its name and how far it reaches.
class Threats : public Overlay {
 public:
  explicit Threats(std::vector<NamedThreat> threats) : threats_(std::move(threats)) {}
  [[nodiscard]] Tier tier() const override { return Tier::paths; }
  void paint(Stage& stage) const override;
  void explain(Legend& legend) const override;
  void show(Screen& screen) const override;

 private:
  std::vector<NamedThreat> threats_;
};

/// All cells that are not seen, darkened.
class Unseen : public Overlay {
 public:
  /// @param seen  must live until the picture is made
  explicit Unseen(const BitGrid& seen) : seen_(seen) {}
  [[nodiscard]] Tier tier() const override { return Tier::cells; }
  void shade(Stage& stage) const override;
  void explain(Legend& legend) const override;
  void show(Screen& screen) const override;

 private:
  const BitGrid& seen_;
};

}  // namespace draw SAUNTER_VISIBLE
}  // namespace saunter::inline v0_2
