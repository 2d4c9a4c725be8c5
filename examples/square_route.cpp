// A route on a square map, from the game's own array of costs: no map object, no file.
#include <cstdio>
#include <string>
#include <vector>

#include "saunter/saunter.hpp"

int main() {
  // The beach as the game keeps it: entry costs in hundredths of a step, 0 = cannot be entered.
  constexpr saunter::EntryCost sand = 100;
  constexpr saunter::EntryCost kelp = 250;
  constexpr saunter::EntryCost rock = saunter::blocked;
  const saunter::Size size{8, 5};
  const std::vector<saunter::EntryCost> beach = {
      sand, sand, sand, sand, sand, sand, sand, sand,  //
      sand, rock, rock, rock, rock, rock, kelp, sand,  //
      sand, rock, sand, sand, sand, rock, kelp, sand,  //
      sand, rock, sand, sand, sand, kelp, kelp, sand,  //
      sand, sand, sand, rock, sand, rock, sand, sand,  //
  };
  const auto costs = saunter::CostGrid::from_hundredths({saunter::Tiling::square(), size}, {.steps = 8}, beach);

  saunter::Searcher searcher;  // keep it: it owns the memory the searches work in
  const saunter::Route& route = searcher.route(costs, {0, 0}, {4, 3});
  if (!route.found()) {
    std::printf("%s\n", to_string(route.verdict()).c_str());
    return 1;
  }
  std::printf("cost %s, %zu steps:", saunter::to_decimal(route.cost()).c_str(), route.steps());
  for (const saunter::Cell cell : route.cells()) std::printf(" %d,%d", cell.col, cell.row);
  std::printf("\n");

  // "No" comes with its reason and its place.
  const saunter::Route& refused = searcher.route(costs, {0, 0}, {3, 1});
  std::printf("%s\n", to_string(refused.verdict()).c_str());
  return 0;
}
