#include "saunter/search/route.hpp"

namespace saunter {

std::string_view algorithm_name(Algorithm algorithm) {
  switch (algorithm) {
    case Algorithm::astar: return "astar";
    case Algorithm::dijkstra: return "dijkstra";
    case Algorithm::bfs: return "bfs";
  }
  return "";
}

}  // namespace saunter
