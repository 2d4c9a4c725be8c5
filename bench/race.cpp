// The great race: mazes of three sizes made, stored and solved by every search and every walker, with pictures of their
// ways. Prints one table; tells on standard error what it is at. Called with the folder to write to.
#include <fmt/format.h>
#include <sys/resource.h>
#include <time.h>

#include <cstdio>
#include <filesystem>
#include <fstream>
#include <functional>
#include <optional>
#include <string>

#include "saunter/draw/overlay/ground.hpp"
#include "saunter/draw/overlay/marks.hpp"
#include "saunter/draw/overlay/path.hpp"
#include "saunter/draw/overlay/rim.hpp"
#include "saunter/draw/overlay/walked.hpp"
#include "saunter/draw/picture.hpp"
#include "saunter/io/write_scenario.hpp"
#include "saunter/saunter.hpp"
#include "textbook.hpp"

using namespace saunter;

namespace {

double seconds_used() {
  timespec now = {};
  clock_gettime(CLOCK_THREAD_CPUTIME_ID, &now);
  return static_cast<double>(now.tv_sec) + static_cast<double>(now.tv_nsec) * 1e-9;
}

double peak_megabytes() {
  rusage usage = {};
  getrusage(RUSAGE_SELF, &usage);
  return static_cast<double>(usage.ru_maxrss) / 1000;
}

void tell(const std::string& what) { (void)std::fprintf(stderr, "%s\n", what.c_str()); }

/// Seconds of one run; of the quickest of several where one takes next to nothing.
double time_of(const std::function<void()>& work) {
  double least = 1e9;
  double all = 0;
  for (int i = 0; i < 9 && all < 0.1; ++i) {
    const double began = seconds_used();
    work();
    const double took = seconds_used() - began;
    least = std::min(least, took);
    all += took;
  }
  return least;
}

struct Result {
  std::string name;
  std::string end;
  double seconds = 0;
  std::uint64_t checked = 0;
  std::uint64_t steps = 0;      // walked
  std::size_t way = 0;          // steps of the way, a walker's without its loops
  std::size_t memory = 0;
};

/// Every step of a trail is legal; it is checked cell by cell.
bool legal(const CostGrid& costs, const Trail& trail) {
  Cell cell = trail.from();
  for (const std::uint8_t step : trail.directions()) {
    if (!holds(costs.moves(cell), Direction(step))) return false;
    cell = costs.tiling().neighbour(cell, Direction(step));
  }
  return true;
}

[[noreturn]] void fail(const std::string& what) {
  tell("race: " + what);
  std::exit(2);
}

class Race {
 public:
  Race(std::int32_t side, std::filesystem::path folder) : side_(side), folder_(std::move(folder)) {}

  void run() {
    make();
    store();
    for (const Algorithm by : {Algorithm::astar, Algorithm::bfs, Algorithm::dijkstra, Algorithm::dead_ends}) search(by);
    const std::size_t shortest = results_.front().way;
    for (const WalkerKind kind : all_walkers) walk(kind);
    const double peak = peak_megabytes();
    textbook();
    print(shortest, peak);
  }

 private:
  void make() {
    tell(fmt::format("{0} x {0}: making the maze", side_));
    making_ = time_of([&] { made_ = make_maze({Tiling::square(), {side_, side_}}, {.seed = 5}); });
    const Terrain salt{.name = "salt", .glyph = U'.', .color = {240, 236, 226}};
    scenario_.title = fmt::format("Wrackline, a salt-pan maze of {0} x {0}", side_);
    scenario_.map = to_map(made_, {salt}, {0, 0, 0, 0});
    made_ = {};
    scenario_.movers = {Mover{.name = "crab", .rules = {.steps = 4}}};
    costs_ = bake(scenario_.map, scenario_.movers.front());
  }

  void store() {
    tell("storing it");
    const double began = seconds_used();
    io::WriteOptions forms{.barriers = io::BarrierForm::png};
    if (side_ > 1000) forms.terrain = io::TerrainForm::png;
    const auto files = io::write_scenario(scenario_, fmt::format("maze-{}", side_), forms);
    if (!files) fail(files.error().message());
    for (const io::NamedFile& file : files.value()) {
      write(file.name, file.bytes);
      stored_bytes_ += file.bytes.size();
    }
    storing_ = seconds_used() - began;
  }

  void write(const std::string& name, const std::string& bytes) const {
    std::ofstream out(folder_ / name, std::ios::binary);
    out << bytes;
    if (!out.flush()) fail("cannot write " + (folder_ / name).string());
  }

  void search(Algorithm by) {
    tell("  " + std::string(algorithm_name(by)));
    Searcher searcher;
    const Route* route = nullptr;
    const double took = time_of([&] { route = &searcher.route(costs_, from_, to(), {.by = by}); });
    if (!route->found() || cost_of_path(costs_, route->cells()) != route->cost()) fail("a way through a wall");
    results_.push_back({std::string(algorithm_name(by)), "arrived", took, route->expanded(), route->steps(),
                        route->steps(), searcher.memory()});
    if (by == Algorithm::dead_ends) draw(route->cells());
  }

  void walk(WalkerKind kind) {
    tell("  " + std::string(walker_name(kind)));
    std::optional<Walk> walk;
    std::vector<Cell> way;
    const double took = time_of([&] {
      walk.emplace(costs_, WalkOptions{.kind = kind, .from = from_, .to = to(), .seed = 1, .most_steps = bound(kind)});
      (void)walk->run(costs_, ~std::uint64_t{0});
      way = walk->trail().without_loops();
    });
    if (!legal(costs_, walk->trail())) fail("a step through a wall");
    results_.push_back({std::string(walker_name(kind)), std::string(walk_end_name(walk->end())), took, walk->visited(),
                        walk->steps(), walk->arrived() ? way.size() - 1 : 0, walk->memory()});
  }

  /// Of those that might go on for ever: a step for each cell. The others end by themselves.
  [[nodiscard]] std::uint64_t bound(WalkerKind kind) const {
    const bool ends = goes_by_heading(kind) || kind == WalkerKind::explore;
    return ends ? ~std::uint64_t{0} : std::uint64_t{costs_.size().cell_count()};
  }

  void textbook() {
    tell("  textbook A*");
    bench::Textbook textbook(costs_);
    textbook_ = time_of([&] { (void)textbook.route(from_, to(), true); });
  }

  /// The way over the whole maze, and a crop of it at full size.
  void draw(std::span<const Cell> cells) {
    tell("  drawing");
    const double began = seconds_used();
    const Size crop_size{std::min(side_, 40), std::min(side_, 36)};
    const Cell middle = cells[cells.size() / 2];
    const auto start_at = [&](std::int32_t at, std::int32_t length) {
      return std::clamp(at - length / 2, 0, side_ - length);
    };
    const Cell corner{start_at(middle.col, crop_size.cols), start_at(middle.row, crop_size.rows)};
    Map crop({Tiling::square(), crop_size}, scenario_.map.kinds());
    for (const Cell cell : crop_size.cells()) {
      for (Direction d{0}; d < 4; ++d) {
        if (scenario_.map.closed(cell + (corner - Cell{}), d)) (void)crop.set_closed(cell, d);
      }
    }
    draw::Sheet sheet{.title = scenario_.title};
    sheet.panels.emplace_back("the whole way", scenario_.map);
    sheet.panels.back().add(draw::Terrains()).add(draw::Barriers());
    sheet.panels.back().add(draw::Path({cells.begin(), cells.end()}));
    sheet.panels.emplace_back(fmt::format("{} x {} cells of it, from {},{} on", crop_size.cols, crop_size.rows, corner.col, corner.row), crop);
    sheet.panels.back().add(draw::Terrains()).add(draw::Barriers()).add(draw::Coordinates());
    std::vector<Cell> stretch;
    const auto draw_stretch = [&] {
      if (stretch.size() > 1) sheet.panels.back().add(draw::Path(stretch));
      stretch.clear();
    };
    for (const Cell cell : cells) {
      const Cell here = Cell{} + (cell - corner);
      if (crop_size.contains(here)) {
        stretch.push_back(here);
      } else {
        draw_stretch();
      }
    }
    draw_stretch();
    write(fmt::format("race-{}.png", side_), draw::to_png(sheet));
    drawing_ = seconds_used() - began;
  }

  void print(std::size_t shortest, double peak) const {
    fmt::print("\n{0} x {0}: made in {1:.4f} s, stored in {2:.3f} s ({3:.2f} MB), drawn in {4:.2f} s\n", side_, making_,
               storing_, static_cast<double>(stored_bytes_) / 1e6, drawing_);
    fmt::print("{:<14} {:>8} {:>12} {:>8} {:>12} {:>12} {:>10} {:>9} {:>9}\n", "by", "ends by", "seconds", "ratio",
               "cells", "steps", "way", "to least", "MB");
    fmt::print("{:<14} {:>8} {:>12.6f} {:>8.2f}\n", "textbook A*", "arrived", textbook_, 1.0);
    for (const Result& result : results_) {
      const std::string to_least =
          result.way == 0 ? "-" : fmt::format("{:.2f}", static_cast<double>(result.way) / static_cast<double>(shortest));
      fmt::print("{:<14} {:>8} {:>12.6f} {:>8.2f} {:>12} {:>12} {:>10} {:>9} {:>9.2f}\n", result.name, result.end,
                 result.seconds, textbook_ / result.seconds, result.checked, result.steps, result.way, to_least,
                 static_cast<double>(result.memory) / 1e6);
    }
    fmt::print("peak memory of the process so far, but for the textbook's search: {:.0f} MB\n", peak);
  }

  [[nodiscard]] Cell to() const { return {side_ - 1, side_ - 1}; }

  std::int32_t side_;
  std::filesystem::path folder_;
  Cell from_ = {0, 0};
  Made made_;
  io::Scenario scenario_;
  CostGrid costs_;
  double making_ = 0;
  double storing_ = 0;
  double drawing_ = 0;
  double textbook_ = 0;
  std::size_t stored_bytes_ = 0;
  std::vector<Result> results_;
};

}  // namespace

int main(int argc, char** argv) {
  if (argc != 2) fail("expected the folder to write to, and nothing else");
  std::error_code error;
  std::filesystem::create_directories(argv[1], error);
  if (error) fail("cannot make the folder " + std::string(argv[1]));
  const double began = seconds_used();
  for (const std::int32_t side : {30, 300, 4583}) Race(side, argv[1]).run();
  fmt::print("\nthe whole race: {:.1f} s of processor time\n", seconds_used() - began);
  return 0;
}
