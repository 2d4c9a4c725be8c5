// Bytes as questions: each eight of them choose a map, perhaps a change of it, and a question of any kind. One set of
// objects answers all; each answer must be the one new objects give, and regions brought up to date must equal new
// ones.
#include <cstdint>
#include <cstdlib>
#include <cstring>
#include <vector>

#include "support/desk.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

void change(World& world, Random& random) {
  CostGrid& costs = world.ground.costs;
  const auto cost =
      static_cast<std::uint32_t>(random.chance(40) ? 0 : random.whole(1, random.chance(20) ? 65'535 : 500));
  costs.set_entry(some_cell(random, world.size()), Hundredths(cost));
  const Rect any{random.whole(-2, 9), random.whole(-2, 9), random.whole(0, 12), random.whole(0, 12)};
  if (random.chance(60)) world.regions.update(costs, random.chance(50) ? any : Rect{});
}

void check_regions(const World& world) {
  if (!world.regions.made_from(world.ground.costs)) return;
  Print ours;
  Print anew;
  ours.add(world.regions, world.ground.costs);
  anew.add(Regions(world.ground.costs), world.ground.costs);
  if (ours.value() != anew.value()) std::abort();
}

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  constexpr std::size_t bytes_a_question = 8;
  if (size < bytes_a_question) return 0;
  std::vector<World> worlds;
  for (std::size_t i = 0; i < 3; ++i) {
    Random random(data[i] + i * 256U);
    worlds.emplace_back(random, 12);
  }
  Desk desk;
  for (std::size_t at = 3; at + bytes_a_question <= size && at < 400; at += bytes_a_question) {
    std::uint32_t seed = 0;
    std::memcpy(&seed, data + at, sizeof seed);
    World& world = worlds[data[at + 4] % 3U];
    Random random(seed);
    if (data[at + 5] % 4U == 0) change(world, random);
    check_regions(world);
    const int kind = data[at + 6] % question_kinds;
    Random for_old(seed ^ data[at + 7]);
    Random for_new(seed ^ data[at + 7]);
    Desk fresh;
    if (ask(desk, world, kind, for_old) != ask(fresh, world, kind, for_new)) std::abort();
  }
  return 0;
}
