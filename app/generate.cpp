#include <fmt/format.h>
#include <unistd.h>

#include <algorithm>
#include <cstdio>
#include <filesystem>
#include <list>

#include "saunter/draw/overlay/ground.hpp"
#include "saunter/draw/overlay/rim.hpp"
#include "saunter/draw/overlay/rooms.hpp"
#include "saunter/io/text.hpp"
#include "saunter/io/write_scenario.hpp"
#include "saunter/region/regions.hpp"
#include "edits.hpp"
#include "making.hpp"
#include "scene.hpp"

namespace saunter::app {
namespace {

/// Terrain of our world for what is made, in the order of `Part`.
struct Scenery {
  const char* title;
  std::vector<Terrain> kinds;
};
Scenery scenery_of(MadeKind kind) {
  const Terrain beyond{.name = "deep", .cost = blocked, .is_void = true, .glyph = U' ', .color = {26, 52, 70}};
  const auto wall = [](const char* name, Rgb color) {
    return Terrain{.name = name, .cost = blocked, .opaque = true, .glyph = U'#', .color = color};
  };
  switch (kind) {
    case MadeKind::maze:
      return {"Wrackline, a salt-pan maze",
              {beyond, wall("brine", {116, 150, 162}), {.name = "salt", .glyph = U'.', .color = {240, 236, 226}}}};
    case MadeKind::cave:
      return {"Wrackline, tide caves",
              {beyond, wall("rock", {92, 86, 84}), {.name = "gravel", .glyph = U'.', .color = {204, 192, 168}}}};
    case MadeKind::rooms: break;
  }
  return {"Wrackline, rooms of a wreck",
          {beyond,
           wall("hull", {84, 60, 46}),
           {.name = "deck", .glyph = U'.', .color = {210, 180, 136}},
           {.name = "hatch", .glyph = U'+', .color = {176, 122, 70}}}};
}

class GenerateCommand final : public Command {
 public:
  GenerateCommand()
      : Command("generate", "a maze, a cave, or rooms and corridors, the same for a seed on every machine",
                "generate rooms --size 60x40 --by split --doors --seed 7 -o wreck.toml --draw wreck.png",
                Takes::picture) {}

  void add_words(Words& words) override {
    making_.add_words(words);
    words.heading("Answer");
    words.file("-o", file_,
               "write a scenario: FILE.toml (large or thin-walled ones have pictures of their layers beside)");
    words.whole("--steps", moments_, 2, 12, "draw so many moments of its making, side by side");
    words.need({"--steps"}, {"--draw"});
  }

  Answer answer() override {
    making_.prepare();
    if (common.handed != nullptr) refuse_large(making_.board().size, common.handed->most_cells);
    say_if_long();
    made_ = making_.maker().take();
    Answer answer;
    answer.json = json();
    const std::size_t open = made_.open_count();
    if (open == 0) {
      answer.exit_code = exit_no;
      answer.text = fmt::format("nothing could be made: no {} fits {}\n",
                                making_.kind() == MadeKind::rooms ? "room" : "open cell", making_.size_word());
      return answer;
    }
    answer.text = sentence(open);
    scenario_ = scenario_of(made_);
    if (!file_.empty()) write(answer);
    if (common.handed != nullptr) {
      add_moments(answer);
    } else {
      draw(answer);
    }
    return answer;
  }

 private:
  /// On a terminal one hears what takes a while.
  void say_if_long() const {
    if (making_.board().size.cell_count() < 4'000'000 || isatty(STDERR_FILENO) == 0) return;
    (void)std::fprintf(stderr, "making %s of %d x %d cells ...\n", making_.kind_word(), making_.board().size.cols,
                       making_.board().size.rows);
  }

  [[nodiscard]] std::size_t region_count() const {
    if (making_.kind() == MadeKind::maze) return made_.open_count() > 0 ? 1 : 0;
    const CostGrid costs(making_.board(), {.steps = making_.board().tiling.edge_count()},
                         [&](Cell cell) { return made_.open(cell) ? EntryCost{100} : blocked; });
    return Regions(costs).list().size();
  }

  [[nodiscard]] Json json() const {
    const bool rooms = making_.kind() == MadeKind::rooms;
    Json json = {{"command", "generate"},
                 {"kind", making_.kind_word()},
                 {"by", making_.method()},
                 {"size", {making_.board().size.cols, making_.board().size.rows}},
                 {"tiling", making_.tiling_word()},
                 {"seed", making_.seed()},
                 {"open", made_.open_count()},
                 {"regions", region_count()},
                 {"dead_ends", making_.kind() == MadeKind::maze ? Json(made_.dead_ends) : Json()},
                 {"asked", rooms ? Json(made_.asked) : Json()},
                 {"placed", rooms ? Json(made_.rooms.size()) : Json()},
                 {"rooms", nullptr},
                 {"corridors", nullptr},
                 {"doors", nullptr},
                 {"file", file_.empty() || made_.open_count() == 0 ? Json() : Json(file_)}};
    if (!rooms) return json;
    json["rooms"] = Json::array();
    for (const Rect& box : made_.rooms) json["rooms"].push_back({box.left, box.top, box.right - 1, box.bottom - 1});
    json["corridors"] = Json::array();
    for (const std::vector<Cell>& corridor : made_.corridors) json["corridors"].push_back(json_cells(corridor));
    json["doors"] = json_cells(made_.doors);
    return json;
  }

  [[nodiscard]] std::string sentence(std::size_t open) const {
    std::string text = fmt::format("{} by {}, {}, seed {}: {} open", making_.kind_word(), making_.method(),
                                   making_.size_word(), making_.seed(), counted(open, "cell", "cells"));
    if (making_.kind() == MadeKind::maze) text += ", " + counted(made_.dead_ends, "dead end", "dead ends");
    if (making_.kind() == MadeKind::rooms) {
      text += fmt::format(", {} of {} rooms, {}", made_.rooms.size(), made_.asked,
                          counted(made_.corridors.size(), "corridor", "corridors"));
      if (making_.rooms().doors) text += ", " + counted(made_.doors.size(), "door", "doors");
    }
    return text + "\n";
  }

  [[nodiscard]] io::Scenario scenario_of(const Made& made) const {
    const Scenery scenery = scenery_of(making_.kind());
    io::Scenario scenario;
    scenario.title = scenery.title;
    const bool all_floor = made.open_count() == made.size().cell_count();
    if (all_floor && !made.closed.empty()) {
      scenario.map = to_map(made, {scenery.kinds[2]}, {0, 0, 0, 0});  // a thin-walled maze is all ground
    } else {
      const bool rooms = making_.kind() == MadeKind::rooms;
      scenario.map = to_map(made, scenery.kinds, {0, 1, 2, rooms ? TerrainId{3} : TerrainId{2}});
    }
    scenario.movers = {Mover{.name = "crab", .rules = {.steps = making_.board().tiling.edge_count()}}};
    if (making_.kind() == MadeKind::rooms && making_.rooms().width > 1) {
      scenario.movers.push_back(
          {.name = "sled", .rules = {.steps = making_.board().tiling.edge_count()}, .size = making_.rooms().width});
    }
    return scenario;
  }

  void write(Answer& answer) const {
    if (!file_.ends_with(".toml")) Words::refuse_word("-o", file_, "a name that ends in .toml");
    constexpr std::size_t most_as_text = 1'000'000;
    io::WriteOptions forms;
    if (making_.board().size.cell_count() > most_as_text) forms.terrain = io::TerrainForm::png;
    if (making_.board().tiling.shape() == Shape::square) forms.barriers = io::BarrierForm::png;
    const std::filesystem::path path(file_);
    const auto files = io::write_scenario(scenario_, path.stem().string(), forms);
    if (!files) throw Refused{files.error().message()};
    for (const io::NamedFile& file : files.value()) {
      add_file(answer, (path.parent_path() / file.name).string(), file.bytes);
      std::rotate(answer.files.begin(), answer.files.end() - 1, answer.files.end());
    }
    answer.text += fmt::format("written: {}{}\n", file_, files.value().size() > 1 ? ", and its layers beside it" : "");
  }

  [[nodiscard]] draw::Picture picture_of_map(const io::Scenario& scenario, const Made& made) const {
    draw::Picture picture(scenario.title, scenario.map);
    picture.add(draw::Terrains()).add(draw::Barriers()).add(draw::Coordinates());
    std::vector<Rect> boxes;
    for (const std::size_t room : made.visits) boxes.push_back(made.rooms[room]);
    picture.add(draw::RoomNumbers(std::move(boxes)));
    picture.facts = {{"by", making_.method()}, {"seed", std::to_string(making_.seed())}};
    if (making_.kind() == MadeKind::maze) picture.facts.emplace_back("dead ends", std::to_string(made.dead_ends));
    if (making_.kind() == MadeKind::rooms) picture.facts.emplace_back("rooms", std::to_string(made.rooms.size()));
    return picture;
  }

  void draw(Answer& answer) {
    answer.picture = picture_of_map(scenario_, made_);
    if (moments_) {
      draw_moments(answer);
    } else if (!common.draw.empty() && draw::layout(*answer.picture).cell < 3) {
      draw_crop(answer);
    }
  }

  /// About how many steps its making takes.
  [[nodiscard]] std::uint64_t steps_taken() const {
    const Maker maker = making_.maker();
    std::uint64_t steps = 0;
    for (std::uint64_t at_once = 1; !maker.run(at_once); at_once = std::max<std::uint64_t>(1, steps / 64))
      steps += at_once;
    return steps;
  }

  /// For the page: what was made, and how it came to be.
  void add_moments(Answer& answer) const {
    const std::size_t cells = making_.board().size.cell_count();
    const std::uint64_t count = std::clamp<std::uint64_t>(2'000'000 / std::max<std::size_t>(cells, 1), 2, 48);
    const std::uint64_t steps = steps_taken();
    const Maker maker = making_.maker();
    Json moments = Json::array();
    const auto add = [&](const Made& made) {
      const io::Scenario stage = scenario_of(made);
      moments.push_back(ground_json(stage.map));
      moments.back()["kinds"] = kinds_json(stage.map);
    };
    for (std::uint64_t i = 1; i < count; ++i) {
      (void)maker.run(std::max<std::uint64_t>(1, (steps + count - 1) / count));
      add(maker.so_far());
    }
    add(made_);
    answer.replay = {{"scenario", text_of(scenario_)}, {"moments", std::move(moments)}};
  }

  /// So many moments of its making, the last one when it is made.
  void draw_moments(Answer& answer) {
    const std::uint64_t steps = steps_taken();
    const Maker maker = making_.maker();
    answer.sheet = draw::Sheet{.title = scenario_.title};
    answer.sheet->facts = answer.picture->facts;
    const auto count = static_cast<std::uint64_t>(*moments_);
    for (std::uint64_t i = 1; i <= count; ++i) {
      const bool last = i == count;
      if (!last) (void)maker.run(std::max<std::uint64_t>(1, (steps + count - 1) / count));
      const Made made = last ? made_ : maker.so_far();
      stages_.push_back(scenario_of(made));
      draw::Picture panel = picture_of_map(stages_.back(), made);
      panel.title = last ? "made" : fmt::format("after {} of {} steps", i * ((steps + count - 1) / count), steps);
      panel.facts.clear();
      answer.sheet->panels.push_back(std::move(panel));
    }
  }

  /// A map too large to show: the whole, and a part at full size.
  void draw_crop(Answer& answer) {
    const Size size{std::min(making_.board().size.cols, 44), std::min(making_.board().size.rows, 40)};
    // From a cell whose neighbours lie as those of the first cell do.
    const Cell from{(making_.board().size.cols - size.cols) / 2 & ~1, (making_.board().size.rows - size.rows) / 2 & ~1};
    Made part{.tiling = making_.board().tiling, .parts = Grid<Part>(size), .closed = {}};
    if (!made_.closed.empty()) part.closed = Grid<std::uint8_t>(size);
    for (const Cell cell : size.cells()) {
      const Cell there{cell.col + from.col, cell.row + from.row};
      part.parts[cell] = made_.parts[there];
      if (!made_.closed.empty()) part.closed[cell] = made_.closed[there];
    }
    stages_.push_back(scenario_of(part));
    answer.sheet = draw::Sheet{.title = scenario_.title};
    answer.sheet->facts = answer.picture->facts;
    answer.sheet->panels = {*answer.picture, picture_of_map(stages_.back(), part)};
    answer.sheet->panels[0].title = "all of it";
    answer.sheet->panels[1].title = fmt::format("{} x {} cells from {}", size.cols, size.rows, show(from));
    for (draw::Picture& panel : answer.sheet->panels) panel.facts.clear();
  }

  Making making_;
  std::string file_;
  std::optional<int> moments_;

  Made made_;
  io::Scenario scenario_;
  std::list<io::Scenario> stages_;
};

}  // namespace

std::unique_ptr<Command> make_generate() { return std::make_unique<GenerateCommand>(); }

}  // namespace saunter::app
