// Breaks a promise, and prints how often it was told so.
#include <cstdint>
#include <cstdio>
#include <vector>

#include "saunter/ground/cost_grid.hpp"

namespace {
int told = 0;
}

int main() {
  saunter::on_broken_promise([](const char*, const char*, int) { ++told; });
  const std::vector<std::uint16_t> too_few = {100, 100};
  const auto grid = saunter::CostGrid::from_hundredths({saunter::Tiling::square(), {3, 3}}, {}, too_few);
  std::printf("told %d, open %d\n", told, grid.open({1, 0}) && !grid.open({2, 0}) ? 1 : 0);
  return 0;
}
