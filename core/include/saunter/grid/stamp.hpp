/// @file
/// Telling whether something was made from an object as it is now.
///
/// Units: none.
/// Errors: none.
/// Cost: O(1), no allocation.
/// Threads: reading from any number; changes from one, with no reader.
#pragma once

#include <cstdint>
#include <memory>
#include <utility>

#include "saunter/grid/visible.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// Names one state of one object. What is made from the object keeps a stamp and compares it later. No other object,
/// and no other state of this one, ever has an equal stamp, whatever was copied, assigned or destroyed in between.
class Stamp {
 public:
  /// Of nothing: equal to no stamp, not even to itself.
  Stamp() = default;
  [[nodiscard]] bool same(const Stamp& other) const { return of_same(other) && revision_ == other.revision_; }
  /// Whether both are of the same object, perhaps in different states.
  [[nodiscard]] bool of_same(const Stamp& other) const { return owner_ != nullptr && owner_ == other.owner_; }
  [[nodiscard]] std::uint64_t revision() const { return revision_; }

 private:
  friend class Identity;
  std::shared_ptr<const char> owner_;  // its address is nobody else's while anyone holds it
  std::uint64_t revision_ = 0;
};

/// What gives an object its stamps. A copy is another object; a move takes the identity along. One small allocation an
/// object, none for a change.
class Identity {
 public:
  /// Of an object that has nothing yet: its stamps are of nothing.
  Identity() = default;
  [[nodiscard]] static Identity fresh() {
    Identity made;
    made.stamp_.owner_ = std::make_shared<const char>();
    return made;
  }
  Identity(const Identity& other) : Identity(other.stamp_.owner_ == nullptr ? Identity() : fresh()) {}
  Identity(Identity&&) noexcept = default;
  Identity& operator=(const Identity&) = delete;  // an object takes a new one before anything else changes
  Identity& operator=(Identity&&) noexcept = default;
  ~Identity() = default;

  void changed() { ++stamp_.revision_; }
  [[nodiscard]] const Stamp& stamp() const { return stamp_; }

 private:
  Stamp stamp_;
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
