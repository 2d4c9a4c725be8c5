#include "saunter/ground/cost.hpp"

namespace saunter::inline v0_2 {

std::string to_decimal(std::int64_t hundredths) {
  // The size as unsigned: the smallest number has no positive twin.
  const auto size =
      hundredths < 0 ? 0 - static_cast<std::uint64_t>(hundredths) : static_cast<std::uint64_t>(hundredths);
  std::string text = (hundredths < 0 ? "-" : "") + std::to_string(size / 100);
  const std::uint64_t rest = size % 100;
  if (rest == 0) return text;
  text += "." + std::to_string(rest / 10);
  if (rest % 10 != 0) text += std::to_string(rest % 10);
  return text;
}

}  // namespace saunter::inline v0_2
