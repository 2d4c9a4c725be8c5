#include <fmt/format.h>

#include <filesystem>

#include "shared.hpp"

namespace saunter::app {
namespace {

/// A stop of the tour: a command line, and what it is meant to show.
struct Stop {
  const char* says;
  std::vector<std::string> words;
  const char* picture;  // file name, "" for none
  int expected = exit_yes;
};

std::vector<Stop> strand_stops() {
  return {
      {"The strand at low tide", {"survey", "strand.toml"}, "strand.png"},
      {"What each cell costs the crab",
       {"draw", "strand.toml", "--layers", "cost,units", "--mover", "crab"},
       "strand-costs.png"},
      {"The crab's cheapest way, guided",
       {"route", "strand.toml", "--mover", "crab", "--from", "3,4", "--to", "45,25"},
       "strand-astar.png"},
      {"The same unguided: more cells, the same cost",
       {"route", "strand.toml", "--mover", "crab", "--from", "3,4", "--to", "45,25", "--by", "dijkstra"},
       "strand-dijkstra.png"},
      {"Fewest steps: shorter, at a higher cost",
       {"route", "strand.toml", "--mover", "crab", "--from", "3,4", "--to", "45,25", "--by", "bfs"},
       "strand-bfs.png"},
      {"The walled pool: no way in, and where it ended",
       {"route", "strand.toml", "--mover", "crab", "--from", "3,4", "--to", "38,7"},
       "strand-no-way.png",
       exit_no},
      {"Searches side by side: what they check and what their ways cost",
       {"compare", "strand.toml", "--mover", "crab", "--from", "3,4", "--to", "45,25", "--by",
        "astar,dijkstra,bfs,astar:1.5,astar:3,greedy"},
       "strand-compare.png"},
      {"Past three places in the best order, with way points",
       {"route", "strand.toml", "--mover", "crab", "--from", "3,4", "--to", "45,25", "--to", "20,20", "--to", "30,5",
        "--order", "best", "--straighten"},
       "strand-tour.png"},
      {"From everywhere to two goals: the cost and the next step",
       {"field", "strand.toml", "--mover", "crab", "--to", "45,25", "--to", "3,4"},
       "strand-field.png"},
      {"What is cut off from the rest, which cells would join it, and which must not be lost",
       {"regions", "strand.toml", "--mover", "crab", "--join", "--chokes"},
       "strand-regions.png",
       exit_no},
      {"A sled of two by two: the reef's gaps are too narrow, it goes round",
       {"route", "strand.toml", "--mover", "sled", "--from", "3,4", "--to", "44,24"},
       "strand-sled.png"},
      {"Heights: a dune with a steep face; thin fences and a ledge are drawn as lines",
       {"draw", "strand.toml", "--layers", "height,barriers,units"},
       "strand-heights.png"},
      {"A way drawn by hand, checked step by step",
       {"check", "strand.toml", "--mover", "crab", "--path", "3,4 4,4 5,5 6,6 7,7 8,7 9,6 9,7 12,7"},
       "strand-check.png",
       exit_no},
      {"Crates and planks washed up by chance: with something at their back, apart from each other, no way sealed",
       {"scatter", "strand.toml", "--footprint", "xx*2", "--footprint", "x", "--count", "24", "--spacing", "2",
        "--turned", "--rule", "against-wall:2", "--mover", "crab", "--keep-open", "3,4", "--keep-open", "45,25"},
       "strand-scattered.png"},
      {"A crab that turns to its goal when it bumps: where two cells are as near it takes the one less walked on",
       {"walk", "strand.toml", "--walker", "turn-to-goal", "--from", "30,5", "--to", "28,18"},
       "strand-walk.png"},
      {"The tide comes in by stages: planks float off, a crate is dropped on a ford, and the routes that stand follow",
       {"play", "tide.toml", "tide-script.toml"},
       "tide.png"},
      {"The strand in the diamond view", {"draw", "strand.toml", "--diamond"}, "strand-diamond.png"},
  };
}

std::vector<Stop> squad_stops() {
  return {
      {"By turns of eight points, ended early where the current runs",
       {"route", "strand.toml", "--mover", "crab", "--from", "3,4", "--to", "45,25", "--turns", "8", "--stop-around",
        "22,11:2"},
       "strand-turns.png"},
      {"Eight crabs gather about a rally cell, each in a place of its own",
       {"gather", "strand.toml", "--mover", "crab", "--from", "3,4",  "--from", "5,12",
        "--from", "12,20",       "--from",  "17,3", "--from", "30,5", "--from", "40,12",
        "--from", "45,25",       "--from",  "44,5", "--to",   "30,12"},
       "strand-gather.png"},
  };
}

std::vector<Stop> gull_stops() {
  return {
      {"Gulls over the flats: how dangerous each cell is, and where it comes from",
       {"threat", "gulls.toml", "--at", "12,9", "--facing", "n"},
       "gulls-threat.png"},
      {"What the gull sees", {"sight", "gulls.toml", "--from", "15,6", "--range", "7.5"}, "gulls-sight.png"},
      {"The shortest way across beside one that goes from boulder to boulder",
       {"compare", "gulls.toml", "--from", "1,10", "--to", "30,9", "--wary", "1", "--linger", "0.5"},
       "gulls-compare.png"},
      {"All ways worth choosing from: how much longer for how much less exposure",
       {"route", "gulls.toml", "--from", "1,10", "--to", "30,9", "--front", "--wary", "0.5"},
       "gulls-front.png"},
      {"A bank that two gulls guard: one paces, one turns. Where they look at tick 7",
       {"threat", "guards.toml", "--tick", "7"},
       "guards-tick.png"},
      {"Across the bank on time: a crab that sets out at tick 3 waits for its moment",
       {"route", "guards.toml", "--from", "16,1", "--to", "16,13", "--wary", "3", "--tick", "3"},
       "guards-route.png"},
  };
}

std::vector<Stop> stops_on_other_tilings() {
  return {
      {"The tide-mosaic, on triangles", {"survey", "mosaic.toml"}, "mosaic.png"},
      {"Round corners through the mosaic",
       {"route", "mosaic.toml", "--mover", "crab", "--from", "4,10", "--to", "38,5"},
       "mosaic-route.png"},
      {"The atoll, on hexes", {"survey", "atoll.toml"}, "atoll.png"},
      {"What a crab reaches with 9 points",
       {"reach", "atoll.toml", "--from", "6,4", "--budget", "9"},
       "atoll-reach.png"},
      {"A hut that would seal the only way round the atoll is refused",
       {"fit", "atoll.toml", "--unit", "hut", "--at", "9,14", "--mover", "crab", "--keep-open", "6,4", "--keep-open",
        "17,3"},
       "atoll-refused.png",
       exit_no},
      {"Where the hut fits, with a wall at its back, no way sealed",
       {"fit", "atoll.toml", "--unit", "hut", "--all", "--nearest", "9,14", "--mover", "crab", "--keep-open", "6,4",
        "--keep-open", "17,3", "--rule", "against-wall:2"},
       "atoll-spots.png"},
      {"Moves with 6 points, stopped beside two rovers, then acts on what it sees one or two cells away",
       {"reach", "atoll.toml", "--from", "6,4", "--budget", "6", "--stop-around", "9,3:1", "--stop-around", "3,7:1",
        "--range", "1-2", "--range-sight", "--why", "11,3"},
       "atoll-act.png"},
      {"A crab that turns slowly and keeps out of two cells",
       {"route", "atoll.toml", "--from", "6,4", "--to", "17,3", "--turn-cost", "0.5", "--avoid", "9,3", "--avoid",
        "10,3"},
       "atoll-turns.png"},
      {"Round the lagoon",
       {"route", "atoll.toml", "--mover", "crab", "--from", "6,4", "--to", "17,3"},
       "atoll-route.png"},
  };
}

std::vector<Stop> made_stops() {
  const std::string maze = "salt-pan.toml";
  const std::string caves = "caves.toml";
  const std::string wreck = "wreck.toml";
  return {
      {"A salt-pan maze from a seed",
       {"generate", "maze", "--size", "40x26", "--by", "wilson", "--seed", "3", "-o", maze},
       "salt-pan.png"},
      {"Through it", {"route", maze, "--from", "0,0", "--to", "39,25"}, "salt-pan-route.png"},
      {"Two that feel their way beside one with a plan",
       {"compare", maze, "--from", "0,0", "--to", "39,25", "--by", "astar,right-hand,explore,dead-ends"},
       "salt-pan-race.png"},
      {"Tide caves, on hexes, all joined",
       {"generate", "cave", "--size", "46x34", "--tiling", "hex-pointy", "--keep", "all-joined", "--min", "6", "--seed",
        "5", "-o", caves},
       "caves.png"},
      {"Which of their cells must stay open", {"regions", caves, "--chokes"}, "caves-chokes.png"},
      {"Rooms of a wreck, joined by hatches",
       {"generate", "rooms", "--size", "60x40", "--by", "split", "--doors", "--extra", "2", "--seed", "7", "-o", wreck},
       "wreck.png"},
      {"From one end of the wreck to the other", {"route", wreck, "--from", "4,3", "--to", "54,35"}, "wreck-route.png"},
  };
}

std::vector<Stop> stops() {
  std::vector<Stop> tour = strand_stops();
  for (const auto& more : {squad_stops(), gull_stops(), stops_on_other_tilings(), made_stops()})
    tour.insert(tour.end(), more.begin(), more.end());
  return tour;
}

/// The maps that came with the program.
std::string installed_maps() {
  std::error_code unknown;
  const std::filesystem::path program = std::filesystem::read_symlink("/proc/self/exe", unknown);
  const std::filesystem::path maps = program.parent_path().parent_path() / "share" / "saunter" / "demo";
  return !unknown && std::filesystem::is_directory(maps, unknown) ? maps.string() : "demo";
}

class DemoCommand final : public Command {
 public:
  DemoCommand()
      : Command("demo", "a tour of everything on the demo data", "demo --data demo --out pictures", Takes::nothing) {}

  void add_words(Words& words) override {
    words.heading("Tour");
    words.file("--data", data_, "folder with the demo scenarios (default: demo, else those installed)");
    words.file("--out", out_, "folder for the pictures (default: saunter-demo)");
  }

  Answer answer() override {
    std::error_code failed;
    if (data_.empty()) data_ = std::filesystem::is_directory("demo", failed) ? "demo" : installed_maps();
    std::filesystem::create_directories(out_, failed);
    if (failed) throw Refused{out_ + ": found " + failed.message() + ", expected a folder that can be made"};
    Json done = Json::array();
    Answer answer;
    std::string written;
    for (const Stop& stop : stops()) {
      std::vector<std::string> words = stop.words;
      for (std::string& word : words) {
        // Scenarios of the tour lie in its folder, what it makes goes beside the pictures.
        const bool made = word == "salt-pan.toml" || word == "caves.toml" || word == "wreck.toml";
        if (made || word.ends_with(".toml")) word = (std::filesystem::path(made ? out_ : data_) / word).string();
      }
      const std::string picture = (std::filesystem::path(out_) / stop.picture).string();
      words.insert(words.end(), {"--draw", picture});
      std::string shown = "saunter";
      for (const std::string& word : words) shown.append(" ").append(word);
      std::string printed;
      const int code = answer_command_line(words, &printed);
      if (code != stop.expected)
        throw Refused{"the demo's \"" + shown + "\" ended with exit code " + std::to_string(code)};
      answer.text += fmt::format("\n{}\n$ {}\n{}", stop.says, shown, printed);
      written += fmt::format("  {}   {}\n", picture, stop.says);
      done.push_back({{"shows", stop.says}, {"run", shown}, {"exit", code}, {"picture", picture}});
    }
    answer.text += "\nPictures written:\n" + written;
    answer.json = {{"command", "demo"}, {"stops", done}};
    return answer;
  }

 private:
  std::string data_;
  std::string out_ = "saunter-demo";
};

}  // namespace

std::unique_ptr<Command> make_demo() { return std::make_unique<DemoCommand>(); }

}  // namespace saunter::app
