// The C interface, called in any order with handles of any kind and numbers of any size. What must be so is known from
// outside: grids answer what was put into them, ways cost what fields say, and no array is written beyond its end.
#include <catch2/catch.hpp>

#include <algorithm>
#include <array>
#include <chrono>
#include <limits>
#include <string>
#include <vector>

#include "saunter.h"
#include "support/random_maps.hpp"
#include "support/seeds.hpp"

using saunter::test::number_of_environment;
using saunter::test::Random;
using saunter::test::seeds;

namespace {

constexpr std::uint32_t canary = 0xA5A5A5A5;
/// An array of the caller's with something behind its end that nobody may touch.
template <typename T>
struct Guarded {
  explicit Guarded(std::size_t count) : items(count + 8, static_cast<T>(canary)), size(count) {}
  ~Guarded() {
    for (std::size_t i = size; i < items.size(); ++i) CHECK(items[i] == static_cast<T>(canary));
  }
  Guarded(const Guarded&) = delete;
  Guarded& operator=(const Guarded&) = delete;
  T* data() { return items.data(); }
  std::vector<T> items;
  std::size_t size;
};

template <typename Struct>
Struct sized() {
  Struct made = {};
  made.size = sizeof(Struct);
  return made;
}

/// What one run has made, and what is known of it.
class Drive {
 public:
  explicit Drive(std::uint64_t seed) : random_(seed) {}
  ~Drive() {
    for (auto* live : lives_) saunter_live_free(live);
    for (auto* field : fields_) saunter_field_free(field);
    for (auto* danger : dangers_) saunter_danger_free(danger);
    for (auto* sight : sights_) saunter_sight_free(sight);
    for (auto* prepared : prepareds_) saunter_prepared_free(prepared);
    for (auto* regions : regions_) saunter_regions_free(regions);
    for (auto* searcher : searchers_) saunter_searcher_free(searcher);
    for (const Known& known : grids_) saunter_grid_free(known.grid);
    for (auto* scenario : scenarios_) saunter_scenario_free(scenario);
  }
  Drive(const Drive&) = delete;
  Drive& operator=(const Drive&) = delete;
  void run() {
    for (int call = random_.whole(20, 120); call > 0; --call) one();
  }

 private:
  struct Known {
    saunter_grid* grid = nullptr;
    std::int32_t cols = 0;
    std::int32_t rows = 0;
    std::vector<std::uint16_t> costs;  // empty: a scenario's, not known
  };

  std::int32_t number() {
    switch (random_.whole(0, 15)) {
      case 0: return std::numeric_limits<std::int32_t>::min();
      case 1: return std::numeric_limits<std::int32_t>::max();
      case 2: return random_.whole(-3, -1);
      case 3: return random_.whole(65'530, 65'540);
      default: return random_.whole(0, 9);
    }
  }
  saunter_cell cell() { return {number(), number()}; }
  std::uint32_t amount() {
    if (random_.chance(10)) return std::numeric_limits<std::uint32_t>::max();
    return static_cast<std::uint32_t>(random_.whole(0, 1200));
  }
  /// One of a kind; sometimes none, or one of another kind.
  template <typename Handle>
  Handle* any(const std::vector<Handle*>& list) {
    if (random_.chance(4)) return nullptr;
    if (random_.chance(4)) return reinterpret_cast<Handle*>(any_other());
    return list.empty() ? nullptr : random_.one_of(list);
  }
  void* any_other() {
    if (!searchers_.empty() && random_.chance(50)) return searchers_.front();
    return grids_.empty() ? nullptr : static_cast<void*>(grids_.front().grid);
  }
  saunter_grid* any_grid() {
    std::vector<saunter_grid*> list;
    for (const Known& known : grids_) list.push_back(known.grid);
    return any(list);
  }
  std::int32_t check(saunter_status status) {
    const auto told = static_cast<std::int32_t>(status);
    CHECK((told >= SAUNTER_OK && told < SAUNTER_UNEXPECTED));
    if (told > SAUNTER_NO) CHECK(*saunter_message() != '\0');
    return told;
  }

  void one() {
    switch (random_.whole(0, 17)) {
      case 0: make_grid(); break;
      case 1: make_scenario(); break;
      case 2: make_searcher(); break;
      case 3: change_grid(); break;
      case 4:
      case 5:
      case 6: ask_route(); break;
      case 7:
      case 8: ask_field(); break;
      case 9: ask_regions(); break;
      case 10: ask_prepared(); break;
      case 11: ask_sight(); break;
      case 12: ask_danger(); break;
      case 13: ask_placing(); break;
      case 14:
      case 15: ask_live(); break;
      case 16: ask_frame(); break;
      default: drop_one();
    }
  }

  void make_grid() {
    auto board = sized<saunter_board>();
    board.tiling = random_.whole(0, 7);  // one too many
    board.cols = random_.chance(90) ? random_.whole(1, 9) : number();
    board.rows = random_.chance(90) ? random_.whole(1, 9) : number();
    auto rules = sized<saunter_rules>();
    rules.steps = random_.one_of(std::vector<std::int32_t>{0, 0, 0, 4, 6, 3, 12, number()});
    rules.corners = random_.chance(90) ? random_.whole(0, 2) : number();
    rules.diagonal = random_.chance(80) ? 0 : amount();
    if (random_.chance(10)) board.size = amount() % 40;
    const std::size_t count = static_cast<std::size_t>(std::clamp(board.cols, 0, 9)) *
                                  static_cast<std::size_t>(std::clamp(board.rows, 0, 9)) +
                              (random_.chance(5) ? 1U : 0U);
    Known known{nullptr, board.cols, board.rows, std::vector<std::uint16_t>(std::max<std::size_t>(count, 1))};
    for (std::uint16_t& cost : known.costs) cost = static_cast<std::uint16_t>(random_.chance(25) ? 0 : amount());
    const auto status = saunter_grid_create(random_.chance(3) ? nullptr : &board, &rules,
                                            random_.chance(3) ? nullptr : known.costs.data(), count, &known.grid);
    if (check(status) == SAUNTER_OK) grids_.push_back(known);
  }
  void make_scenario() {
    const std::string text =
        "saunter = 1\n[map]\ntiling = \"square\"\nrows = '''\n......\n..##..\n......\n...v..\n'''\n[terrain.sand]\n"
        "glyph = \".\"\n[terrain.rock]\nglyph = \"#\"\ncost = false\nopaque = true\n[terrain.hole]\nglyph = \"v\"\n"
        "void = true\n[mover.crab]\n[mover.sled]\nsize = 2\n[[barrier]]\nbetween = [[0, 0], [1, 0]]\n"
        "[[unit]]\nname = \"hut\"\nat = [4, 2]\n[[threat]]\nname = \"gull\"\nat = [5, 0]\nrange = 2\n";
    saunter_scenario* made = nullptr;
    const std::size_t bytes = random_.chance(85) ? text.size() : static_cast<std::size_t>(random_.whole(0, 300));
    if (check(saunter_scenario_parse(text.data(), bytes, random_.chance(50) ? nullptr : "hold", &made)) == SAUNTER_OK)
      scenarios_.push_back(made);
    auto* const scenario = any(scenarios_);
    auto board = sized<saunter_board>();
    check(saunter_scenario_board(scenario, &board));
    for (std::size_t i = 0; i < 3; ++i) {
      (void)saunter_scenario_mover(scenario, i);
      (void)saunter_scenario_unit(scenario, i);
      (void)saunter_scenario_threat(scenario, std::numeric_limits<std::size_t>::max() - i);
    }
    Known known{nullptr, 6, 4, {}};
    if (check(saunter_scenario_grid(scenario, name(), name(), &known.grid)) == SAUNTER_OK) grids_.push_back(known);
  }
  const char* name() {
    return random_.one_of(
        std::vector<const char*>{nullptr, "", "crab", "sled", "hut", "gull", "whale", "sand", "rock"});
  }
  void make_searcher() {
    saunter_searcher* made = nullptr;
    if (check(saunter_searcher_create(random_.chance(5) ? nullptr : &made)) == SAUNTER_OK) searchers_.push_back(made);
  }
  void change_grid() {
    if (grids_.empty()) return;
    Known& known = grids_[static_cast<std::size_t>(random_.whole(0, static_cast<int>(grids_.size()) - 1))];
    const saunter_cell at = cell();
    const auto cost = static_cast<std::uint16_t>(amount());
    const bool on_map = at.col >= 0 && at.col < known.cols && at.row >= 0 && at.row < known.rows;
    const std::int32_t status = check(saunter_grid_set_cost(known.grid, at, cost));
    CHECK((status == SAUNTER_OK) == on_map);
    if (on_map && !known.costs.empty())
      known.costs[static_cast<std::size_t>(at.row) * static_cast<std::size_t>(known.cols) +
                  static_cast<std::size_t>(at.col)] = cost;
    std::uint16_t told = 1;
    const saunter_cell asked = cell();
    check(saunter_grid_cost(known.grid, asked, &told));
    const bool inside = asked.col >= 0 && asked.col < known.cols && asked.row >= 0 && asked.row < known.rows;
    if (!inside) CHECK(told == 0);
    if (inside && !known.costs.empty()) {
      CHECK(told == known.costs[static_cast<std::size_t>(asked.row) * static_cast<std::size_t>(known.cols) +
                                static_cast<std::size_t>(asked.col)]);
    }
    auto board = sized<saunter_board>();
    check(saunter_grid_board(any_grid(), &board));
  }
  saunter_route_options question(std::array<saunter_cell, 4>& cells, std::array<saunter_entry_change, 3>& changes) {
    auto asked = sized<saunter_route_options>();
    for (saunter_cell& one : cells) one = cell();
    for (saunter_entry_change& change : changes) change = {cell(), amount() % (random_.chance(95) ? 60'000U : 70'000U)};
    asked.by = random_.chance(50) ? 0 : random_.whole(-1, 7);
    asked.starts = cells.data();
    asked.start_count = static_cast<std::size_t>(random_.whole(random_.chance(5) ? 0 : 1, 2));
    asked.goals = cells.data() + 2;
    asked.goal_count = static_cast<std::size_t>(random_.whole(random_.chance(5) ? 0 : 1, 2));
    const auto some = [&] { return random_.chance(15) ? 1U : 0U; };
    asked.has_budget = some();
    asked.budget = amount();
    if (random_.chance(10)) asked.limit = amount();
    if (random_.chance(10)) asked.weight = amount();
    if (random_.chance(10)) asked.turn_cost = amount();
    if (random_.chance(10)) asked.within = number();
    asked.beside = some();
    asked.or_nearest = some();
    asked.natural = some();
    asked.has_heading = some();
    asked.heading = random_.chance(50) ? random_.whole(0, 7) : number();
    if (random_.chance(30)) {
      asked.changes = changes.data();
      asked.change_count = static_cast<std::size_t>(random_.whole(0, 3));
    }
    if (random_.chance(10)) asked.regions = any(regions_);
    if (random_.chance(10)) asked.prepared = any(prepareds_);
    if (random_.chance(5)) asked.size = amount() % 250;
    return asked;
  }
  void ask_route() {
    std::array<saunter_cell, 4> cells;
    std::array<saunter_entry_change, 3> changes;
    const saunter_route_options asked = question(cells, changes);
    auto told = sized<saunter_route>();
    auto* const searcher = any(searchers_);
    auto* const grid = any_grid();
    const std::int32_t status = check(saunter_find_route(searcher, grid, random_.chance(3) ? nullptr : &asked, &told));
    if (status == SAUNTER_OK) CHECK((told.reason == SAUNTER_FOUND && told.cell_count > 0 && told.cells != nullptr));
    if (status == SAUNTER_NO) CHECK(told.reason != SAUNTER_FOUND);
    // A plain question costs what a reach says.
    if (status != SAUNTER_OK && status != SAUNTER_NO) return;
    auto plain = sized<saunter_route_options>();
    plain.starts = cells.data();
    plain.start_count = 1;
    plain.goals = cells.data() + 2;
    plain.goal_count = 1;
    auto way = sized<saunter_route>();
    const std::int32_t found = check(saunter_find_route(searcher, grid, &plain, &way));
    saunter_field* reach = nullptr;
    const std::int32_t reached = check(saunter_reach(searcher, grid, cells.data(), 1, nullptr, &reach));
    if (reached > SAUNTER_NO) return;
    std::uint32_t cost = 0;
    const std::int32_t there = check(saunter_field_cost(reach, cells[2], &cost));
    CHECK((found == SAUNTER_OK) == (there == SAUNTER_OK));
    if (found == SAUNTER_OK) CHECK(way.cost == cost);
    if (random_.chance(50) && fields_.size() < 8) {
      fields_.push_back(reach);
    } else {
      saunter_field_free(reach);
    }
  }
  void ask_field() {
    auto options = sized<saunter_field_options>();
    options.has_budget = random_.chance(30) ? 1 : 0;
    options.budget = amount();
    options.count_steps = random_.chance(30) ? 1 : 0;
    std::array<saunter_cell, 3> cells;
    for (saunter_cell& one : cells) one = cell();
    if (random_.chance(30)) options.again = any(fields_);
    saunter_field* made = nullptr;
    const auto count = static_cast<std::size_t>(random_.whole(0, 3));
    check(random_.chance(50) ? saunter_field_to(any(searchers_), any_grid(), cells.data(), count, &options, &made)
                             : saunter_reach(any(searchers_), any_grid(), cells.data(), count, &options, &made));
    CHECK((made == nullptr || options.again == nullptr || made == options.again));
    if (made != nullptr && made != options.again) fields_.push_back(made);
    auto* const field = any(fields_);
    std::uint32_t cost = 0;
    saunter_cell next = {};
    check(saunter_field_cost(field, cell(), &cost));
    check(saunter_field_next(field, cell(), &next));
    Guarded<std::uint32_t> all(static_cast<std::size_t>(random_.whole(0, 81)));
    check(saunter_field_costs(field, all.data(), all.size));
  }
  void ask_regions() {
    saunter_regions* made = nullptr;
    if (check(saunter_regions_create(any_grid(), &made)) == SAUNTER_OK) regions_.push_back(made);
    auto* const regions = any(regions_);
    (void)saunter_regions_count(regions);
    std::uint32_t at = 0;
    check(saunter_regions_at(regions, cell(), &at));
    Guarded<std::uint32_t> all(static_cast<std::size_t>(random_.whole(0, 81)));
    check(saunter_regions_labels(regions, all.data(), all.size));
  }
  void ask_prepared() {
    saunter_prepared* made = nullptr;
    if (prepareds_.size() < 3 && check(saunter_prepared_create(any_grid(), &made)) == SAUNTER_OK)
      prepareds_.push_back(made);
    check(saunter_prepared_follow(any(prepareds_), any_grid()));
    check(saunter_prepared_load("not-there", any_grid(), &made));
  }
  void ask_sight() {
    saunter_sight* made = nullptr;
    auto board = sized<saunter_board>();
    board.tiling = random_.whole(0, 6);
    board.cols = random_.whole(1, 9);
    board.rows = random_.whole(1, 9);
    std::vector<std::uint8_t> opaque(static_cast<std::size_t>(board.cols * board.rows));
    for (std::uint8_t& one : opaque) one = random_.chance(20) ? 1 : 0;
    check(random_.chance(50) ? saunter_sight_create(&board, opaque.data(), opaque.size(), &made)
                             : saunter_scenario_sight(any(scenarios_), &made));
    if (made != nullptr) sights_.push_back(made);
    auto* const sight = any(sights_);
    saunter_cell hidden = {};
    check(saunter_sees(sight, cell(), cell(), random_.chance(50) ? nullptr : &hidden));
    Guarded<std::uint8_t> all(static_cast<std::size_t>(random_.whole(0, 81)));
    check(saunter_visible(sight, cell(), random_.chance(50) ? 0 : amount(), all.data(), all.size));
  }
  void ask_danger() {
    saunter_danger* made = nullptr;
    check(random_.chance(50) ? saunter_danger_create(any(sights_), &made)
                             : saunter_scenario_danger(any(scenarios_), amount(), &made));
    if (made != nullptr) dangers_.push_back(made);
    auto* const danger = any(dangers_);
    auto threat = sized<saunter_threat>();
    threat.at = cell();
    threat.range = amount();
    threat.level = static_cast<std::uint16_t>(random_.whole(0, 9));
    threat.near_part = random_.chance(80) ? 0 : amount();
    threat.needs_sight = random_.chance(50) ? 1 : 0;
    threat.looks = random_.chance(50) ? 1 : 0;
    threat.facing = number();
    threat.arc = random_.chance(80) ? random_.whole(1, 360) : number();
    std::uint32_t named = 0;
    check(saunter_danger_add(danger, &threat, &named));
    check(saunter_danger_move(danger, amount() % 5, cell()));
    check(saunter_danger_turn(danger, amount() % 5, number()));
    check(saunter_danger_remove(danger, amount() % 5));
    std::uint16_t level = 0;
    check(saunter_danger_level(danger, cell(), &level));
    Guarded<std::uint16_t> all(static_cast<std::size_t>(random_.whole(0, 81)));
    check(saunter_danger_levels(danger, all.data(), all.size));
    auto options = sized<saunter_wary_options>();
    options.wary = amount();
    options.linger = random_.chance(60) ? 0 : amount();
    options.has_highest = random_.chance(30) ? 1 : 0;
    options.highest = 2;
    options.mover_size = static_cast<std::uint16_t>(random_.chance(80) ? 0 : random_.whole(0, 300));
    auto told = sized<saunter_route>();
    auto exposure = sized<saunter_exposure>();
    check(saunter_find_wary_route(any(searchers_), any_grid(), danger, cell(), cell(), &options, &told, &exposure));
  }
  void ask_placing() {
    auto* const scenario = any(scenarios_);
    std::array<saunter_problem, 2> problems = {};
    std::size_t count = 0;
    check(saunter_fits(scenario, name(), cell(), random_.whole(-1, 5), problems.data(), problems.size(), &count));
    Guarded<std::uint8_t> all(static_cast<std::size_t>(random_.chance(70) ? 24 : random_.whole(0, 30)));
    check(saunter_spots(scenario, name(), random_.whole(-1, 5), all.data(), all.size));
    check(saunter_scenario_put_unit(scenario, name(), cell(), random_.whole(-1, 5)));
    std::array<saunter_cell, 4> path;
    for (saunter_cell& one : path) one = cell();
    std::uint64_t cost = 0;
    check(saunter_check_path(scenario, name(), path.data(), static_cast<std::size_t>(random_.whole(0, 4)),
                             problems.data(), problems.size(), &count, &cost));
  }
  void ask_live() {
    saunter_live* made = nullptr;
    if (lives_.size() < 3 && check(saunter_live_create(any(scenarios_), &made)) == SAUNTER_OK) lives_.push_back(made);
    auto* const live = any(lives_);
    check(saunter_live_set_terrain(live, cell(), name()));
    check(saunter_live_close_edge(live, cell(), cell(), amount() % 2));
    check(saunter_live_move_unit(live, name(), cell(), random_.whole(-1, 5)));
    check(saunter_live_close_for(live, cell(),
                                 random_.chance(80) ? random_.whole(-1, 4) : std::numeric_limits<std::int64_t>::max()));
    std::uint32_t route = 0;
    check(saunter_live_keep_route(live, name(), cell(), cell(), &route));
    check(saunter_live_stand_at(live, amount() % 6, cell()));
    if (random_.chance(60)) {
      std::size_t changed = 0;
      const std::int32_t status = check(saunter_live_commit(live, &changed));
      const saunter_cell* list = nullptr;
      std::size_t count = 0;
      if (status == SAUNTER_OK && check(saunter_live_changed(live, &list, &count)) == SAUNTER_OK)
        CHECK(count == changed);
    }
    std::int32_t standing = 0;
    auto told = sized<saunter_route>();
    check(saunter_live_follow(live, amount() % 6, &standing, random_.chance(50) ? nullptr : &told));
    if (random_.chance(30)) check(saunter_live_drop_route(live, amount() % 6));
    const saunter_grid* grid = nullptr;
    if (check(saunter_live_grid(live, name(), &grid)) == SAUNTER_OK) {
      std::uint16_t cost = 0;
      check(saunter_grid_cost(grid, cell(), &cost));
    }
  }
  void ask_frame() {
    auto frame = sized<saunter_frame>();
    frame.tiling = random_.whole(-1, 7);
    const std::array<double, 8> numbers = {0,
                                           1,
                                           -3.5,
                                           1e300,
                                           -1e300,
                                           std::numeric_limits<double>::infinity(),
                                           std::numeric_limits<double>::quiet_NaN(),
                                           1e-300};
    const auto any_number = [&] { return numbers.at(static_cast<std::size_t>(random_.whole(0, 7))); };
    frame.cell_size = any_number();
    frame.origin_x = any_number();
    frame.origin_y = any_number();
    double x = 0;
    double y = 0;
    saunter_cell at = {};
    check(saunter_frame_centre(&frame, cell(), &x, &y));
    check(saunter_frame_cell_at(&frame, any_number(), any_number(), &at));
  }
  /// Whatever is freed is not asked again; what was made from it goes on.
  void drop_one() {
    const auto drop = [&](auto& list, auto&& release) {
      if (list.empty()) return;
      release(list.back());
      list.pop_back();
    };
    switch (random_.whole(0, 5)) {
      case 0: drop(fields_, saunter_field_free); break;
      case 1: drop(regions_, saunter_regions_free); break;
      case 2: drop(sights_, saunter_sight_free); break;
      case 3: drop(scenarios_, saunter_scenario_free); break;
      case 4: drop(prepareds_, saunter_prepared_free); break;
      default:
        if (grids_.size() < 2) break;
        saunter_grid_free(grids_.back().grid);
        grids_.pop_back();
    }
  }

  Random random_;
  std::vector<Known> grids_;
  std::vector<saunter_scenario*> scenarios_;
  std::vector<saunter_searcher*> searchers_;
  std::vector<saunter_field*> fields_;
  std::vector<saunter_regions*> regions_;
  std::vector<saunter_prepared*> prepareds_;
  std::vector<saunter_sight*> sights_;
  std::vector<saunter_danger*> dangers_;
  std::vector<saunter_live*> lives_;
};

}  // namespace

TEST_CASE("handles of the C interface driven in any order, by any kind and number, answer or refuse") {
  const std::uint64_t seconds = number_of_environment("SAUNTER_DRIVE_SECONDS", 0);
  const auto until = std::chrono::steady_clock::now() + std::chrono::seconds(seconds);
  std::uint64_t last = 0;
  const auto drive = [&](std::uint64_t seed) {
    INFO("seed " << seed);
    last = seed;
    Drive(seed).run();
  };
  for (const std::uint64_t seed : seeds(2000)) drive(seed);
  while (seconds > 0 && std::chrono::steady_clock::now() < until) drive(last + 1);
}
