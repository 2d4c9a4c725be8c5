// What follows a changed map, beside doing it all anew: both in one run, by turns.
#include <fmt/format.h>

#include <algorithm>
#include <ctime>
#include <string>
#include <vector>

#include "saunter/search/searcher.hpp"
#include "support/random_maps.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

/// Processor time of this thread, in microseconds.
double now() {
  timespec time = {};
  clock_gettime(CLOCK_THREAD_CPUTIME_ID, &time);
  return static_cast<double>(time.tv_sec) * 1e6 + static_cast<double>(time.tv_nsec) * 1e-3;
}
template <typename Work>
double micros(Work&& work) {
  const double begin = now();
  work();
  return now() - begin;
}

struct Times {
  std::vector<double> all;
  void add(double time) { all.push_back(time); }
  [[nodiscard]] double mean() const {
    double sum = 0;
    for (const double time : all) sum += time;
    return all.empty() ? 0 : sum / static_cast<double>(all.size());
  }
  [[nodiscard]] double part(double share) {
    if (all.empty()) return 0;
    std::sort(all.begin(), all.end());
    return all[std::min(all.size() - 1, static_cast<std::size_t>(share * static_cast<double>(all.size())))];
  }
};

enum class Kind { noise, weighted, rooms };
const char* name_of(Kind kind) { return kind == Kind::noise ? "noise" : kind == Kind::weighted ? "weighted" : "rooms"; }

CostGrid make_grid(Kind kind, int side) {
  Random random(7);
  return CostGrid({Tiling::square(), {side, side}}, {}, [&](Cell cell) -> EntryCost {
    if (kind == Kind::rooms) {
      const bool wall = cell.col % 33 == 32 || cell.row % 33 == 32;
      return wall && !random.chance(3) ? blocked : EntryCost{100};
    }
    if (kind == Kind::noise) return random.chance(20) ? blocked : EntryCost{100};
    return random.chance(10) ? blocked : static_cast<EntryCost>(100 * random.whole(1, 6));
  });
}

/// One cell that is closed or opened: what is open now and what it costs then.
struct Toggle {
  Cell cell;
  EntryCost before = blocked;
  EntryCost after = blocked;
};
Toggle random_toggle(const CostGrid& costs, Random& random, Kind kind) {
  const Cell cell = random.cell(costs.size());
  const auto open = kind == Kind::weighted ? static_cast<EntryCost>(100 * random.whole(1, 6)) : EntryCost{100};
  return {cell, costs.entry(cell), costs.open(cell) ? blocked : open};
}

void field_repair(Kind kind, int side, int toggles, int rebuild_every) {
  CostGrid costs = make_grid(kind, side);
  Searcher searcher;
  Random random(11);
  Cell goal = random.cell(costs.size());
  while (!costs.open(goal)) goal = random.cell(costs.size());
  const Source source{goal};
  Field field = searcher.field_to(costs, std::span(&source, 1));
  Field fresh = field;
  const auto repair = [&](Cell cell, EntryCost cost) {
    costs.set_entry(cell, Hundredths(cost));
    return micros([&] { searcher.repair(costs, field); });
  };
  const auto rebuild_once = [&] {
    return micros([&] { searcher.field_to(costs, std::span(&source, 1), fresh); });
  };
  Times repairs;
  Times rebuilds;
  double worst_ratio = 0;
  std::size_t differing = 0;
  double slowest = 0;
  for (int i = 0; i < toggles; ++i) {
    const Toggle toggle = random_toggle(costs, random, kind);
    double took = repair(toggle.cell, toggle.after);
    repairs.add(took);
    const bool slow = took > slowest / 2;
    slowest = std::max(slowest, took);
    if (i % rebuild_every != 0 && !slow) continue;
    double anew = rebuild_once();
    rebuilds.add(anew);
    differing += fresh.costs() == field.costs() ? 0U : 1U;
    for (int again = 0; slow && again < 2; ++again) {  // the same once more: the machine has its moods
      repair(toggle.cell, toggle.before);
      took = std::min(took, repair(toggle.cell, toggle.after));
      anew = std::min(anew, rebuild_once());
    }
    worst_ratio = std::max(worst_ratio, took / anew);
  }
  const double rebuild = rebuilds.part(0.5);
  fmt::print("{:<28} rebuild {:9.0f} us; repair mean {:8.1f} us ({:7.0f} x) median {:7.2f} us ({:7.0f} x) p99 {:7.0f} us, worst {:.2f} of a rebuild{}\n",
             fmt::format("field {} {}", name_of(kind), side), rebuild, repairs.mean(), rebuild / repairs.mean(),
             repairs.part(0.5), rebuild / repairs.part(0.5), repairs.part(0.99), worst_ratio,
             differing == 0 ? "" : "  DIFFERS");
}

}  // namespace

int main() {
  for (const Kind kind : {Kind::noise, Kind::weighted, Kind::rooms}) {
    field_repair(kind, 512, 4000, 50);
    field_repair(kind, 2048, 1500, 50);
  }
}
