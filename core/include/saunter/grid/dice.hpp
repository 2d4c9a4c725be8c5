/// @file
/// Chance that is the same on every machine.
///
/// Units: whole numbers below a bound.
/// Errors: none; a bound of 0 gives 0.
/// Cost: O(1) on average, no allocation: what does not divide evenly is drawn again.
/// Threads: one at a time; each thread its own.
#pragma once

#include <cstdint>

#include "saunter/grid/expect.hpp"
#include "saunter/grid/visible.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// A stream of numbers that follows from its seed alone (SplitMix64; Steele, Lea, Flood 2014). For maps and games, not
/// for secrets. A small value; copy it to branch off.
class Dice {
 public:
  explicit constexpr Dice(std::uint64_t seed) : state_(seed) {}

  constexpr std::uint64_t next() {
    std::uint64_t z = state_ += 0x9E37'79B9'7F4A'7C15;
    z = (z ^ (z >> 30U)) * 0xBF58'476D'1CE4'E5B9;
    z = (z ^ (z >> 27U)) * 0x94D0'49BB'1331'11EB;
    return z ^ (z >> 31U);
  }
  /// 0 .. count - 1, each as likely as the others; 0 when there is none. @pre count > 0
  constexpr std::uint64_t below(std::uint64_t count) {
    SAUNTER_EXPECT(count > 0);
    if (count == 0) return 0;
    // What does not divide evenly is drawn again.
    const std::uint64_t most = ~std::uint64_t{0} - ~std::uint64_t{0} % count;
    for (;;) {
      const std::uint64_t drawn = next();
      if (drawn < most) return drawn % count;
    }
  }
  /// The same for small counts, several times as fast: by a product in place of a division (Lemire 2019). Draws other
  /// numbers than below(). @pre count > 0
  constexpr std::uint32_t pick(std::uint32_t count) {
    SAUNTER_EXPECT(count > 0);
    std::uint64_t product = (next() >> 32U) * count;
    if (static_cast<std::uint32_t>(product) < count) {
      // The products that would make some numbers likelier are drawn again.
      const std::uint32_t uneven = count == 0 ? 0 : (~count + 1U) % count;
      while (static_cast<std::uint32_t>(product) < uneven) product = (next() >> 32U) * count;
    }
    return static_cast<std::uint32_t>(product >> 32U);
  }
  /// Yes in so many of ten thousand cases.
  constexpr bool chance(std::uint32_t ten_thousandths) { return below(10'000) < ten_thousandths; }

 private:
  std::uint64_t state_;
};

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
