#include "saunter/search/route.hpp"

namespace saunter::inline v0_2 {

std::string_view algorithm_name(Algorithm algorithm) {
  switch (algorithm) {
    case Algorithm::automatic: return "automatic";
    case Algorithm::astar: return "astar";
    case Algorithm::dijkstra: return "dijkstra";
    case Algorithm::bfs: return "bfs";
    case Algorithm::greedy: return "greedy";
    case Algorithm::jump: return "jump";
    case Algorithm::dead_ends: return "dead-ends";
    case Algorithm::prepared: return "prepared";
  }
  return "";
}

}  // namespace saunter::inline v0_2
