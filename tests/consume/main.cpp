#include <cstdio>
#include <vector>

#include "saunter/saunter.hpp"

int main() {
  const std::vector<std::uint8_t> steps = {1, 1, 1, 0, 0, 1, 1, 1, 1};
  const auto costs = saunter::CostGrid::from_steps({saunter::Tiling::square(), {3, 3}}, {.steps = 4}, steps);
  saunter::Searcher searcher;
  const saunter::Route& route = searcher.route(costs, {0, 0}, {0, 2});
  std::printf("%s %s\n", to_string(route.verdict()).c_str(), saunter::to_decimal(route.cost()).c_str());
  return route.found() ? 0 : 1;
}
