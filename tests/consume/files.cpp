// A stranger's program that reads a map, asks, and draws it: the libraries with others behind them.
#include <cstdio>

#include "saunter/draw/overlay/ground.hpp"
#include "saunter/draw/picture.hpp"
#include "saunter/io/scenario.hpp"
#include "saunter/saunter.hpp"

int main(int, char** argv) {
  const auto read = saunter::io::read_scenario(argv[1]);
  if (!read) return 2;
  const saunter::io::Scenario& scenario = read.value();
  const saunter::CostGrid costs = saunter::bake(scenario.map, scenario.movers.front());
  saunter::Searcher searcher;
  const saunter::Route& route = searcher.route(costs, {3, 4}, {45, 25});
  saunter::draw::Picture picture("the strand", scenario.map);
  picture.add(saunter::draw::Terrains());
  const std::string drawn = saunter::draw::to_svg(picture);
  std::printf("%s %d\n", to_string(route.verdict()).c_str(), drawn.empty() ? 0 : 1);
  return route.found() ? 0 : 1;
}
