/// @file
/// Numbers of hundredths that can't be mistaken for whole steps.
///
/// Units: hundredths.
/// Errors: numbers that do not fit give nothing; literals that do not fit do not compile.
/// Cost: O(1), no allocation.
/// Threads: any number, nothing is shared.
#pragma once

#include <concepts>
#include <cstdint>
#include <optional>

#include "saunter/grid/expect.hpp"
#include "saunter/grid/visible.hpp"

namespace saunter {
inline namespace v0_2 SAUNTER_VISIBLE {

/// A cost, a length or a factor in hundredths. Made by name - `8_steps`, `1.25_steps`, `125_hundredths`, from_steps(8),
/// `Hundredths(route.cost())` - or from an EntryCost; a bare number does not compile, so that `.budget = 8` can't mean
/// 0.08, whatever the type of the 8.
class Hundredths {
 public:
  constexpr Hundredths() = default;
  /// @param count  of a type that counts hundredths: Cost, Length
  template <std::same_as<std::uint32_t> Number>
  constexpr explicit Hundredths(Number count) : count_(count) {}
  /// What a grid tells of a cell can be written into one as it is.
  template <std::same_as<std::uint16_t> Number>
  constexpr Hundredths(Number entry) : count_(entry) {}  // NOLINT(google-explicit-constructor): same unit

  /// So many hundredths, or nothing when the number is negative or does not fit 32 bits.
  [[nodiscard]] static constexpr std::optional<Hundredths> from_hundredths(std::int64_t count) {
    if (count < 0 || count > most) return std::nullopt;
    return Hundredths(static_cast<std::uint32_t>(count));
  }
  /// So many whole steps, or nothing when the number is negative or does not fit.
  [[nodiscard]] static constexpr std::optional<Hundredths> from_steps(std::int64_t steps) {
    return steps > most / 100 ? std::nullopt : from_hundredths(steps * 100);
  }
  /// How many hundredths.
  constexpr operator std::uint32_t() const { return count_; }  // NOLINT(google-explicit-constructor): same unit

  /// Not a constant: a literal that calls it does not compile. Never defined.
  static std::uint32_t literal_out_of_range();

 private:
  static constexpr std::int64_t most = 4'294'967'295;
  std::uint32_t count_ = 0;
};

/// Sums and differences of durations and costs do not wrap: what is too large is the largest, what would be below
/// nothing is nothing, which stops a checked build.
template <std::same_as<Hundredths> A, std::same_as<Hundredths> B>
constexpr Hundredths operator+(A a, B b) {
  const std::uint64_t sum = std::uint64_t{std::uint32_t{a}} + std::uint32_t{b};
  return Hundredths(static_cast<std::uint32_t>(sum < 4'294'967'295U ? sum : 4'294'967'295U));
}
template <std::same_as<Hundredths> A, std::same_as<Hundredths> B>
constexpr Hundredths operator-(A a, B b) {
  SAUNTER_EXPECT(std::uint32_t{b} <= std::uint32_t{a});
  return Hundredths(std::uint32_t{b} <= std::uint32_t{a} ? std::uint32_t{a} - std::uint32_t{b} : std::uint32_t{0});
}

inline namespace literals {
/// `8_steps` is 800 hundredths.
consteval Hundredths operator""_steps(unsigned long long steps) {
  return Hundredths(static_cast<std::uint32_t>(steps <= 42'949'672 ? steps * 100 : Hundredths::literal_out_of_range()));
}
/// `1.25_steps` is 125 hundredths; more than two decimals do not compile.
consteval Hundredths operator""_steps(long double steps) {
  const long double times = steps * 100;
  const auto count = static_cast<std::uint32_t>(
      times >= 0 && times <= 4'294'967'294.0L ? times + 0.5L : Hundredths::literal_out_of_range());
  const long double off = times - static_cast<long double>(count);
  return Hundredths(off > 0.000001L || off < -0.000001L ? Hundredths::literal_out_of_range() : count);
}
/// `150_hundredths`
consteval Hundredths operator""_hundredths(unsigned long long count) {
  return Hundredths(static_cast<std::uint32_t>(count <= 4'294'967'295 ? count : Hundredths::literal_out_of_range()));
}
}  // namespace literals

}  // namespace v0_2 SAUNTER_VISIBLE
}  // namespace saunter
