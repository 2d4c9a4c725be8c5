#include "making.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <tuple>

namespace saunter::app {
namespace {

constexpr std::array kind_names = {"maze", "cave", "rooms"};

/// Where an option belongs: "maze", or "rooms:split" for one method of a kind.
struct Home {
  const char* option;
  std::vector<std::string> homes;
};
const std::vector<Home>& homes() {
  static const std::vector<Home> list = {
      {"--walls", {"maze"}},
      {"--loops", {"maze"}},
      {"--agents", {"cave:agents"}},
      {"--agent-steps", {"cave:agents"}},
      {"--start", {"cave:agents"}},
      {"--straight", {"cave:agents"}},
      {"--lean", {"cave:agents"}},
      {"--open", {"cave"}},
      {"--smooth", {"cave:noise"}},
      {"--keep", {"cave"}},
      {"--min", {"cave"}},
      {"--rooms", {"rooms:scattered", "rooms:corridors"}},
      {"--room-size", {"rooms"}},
      {"--overlap", {"rooms:scattered"}},
      {"--margin", {"rooms"}},
      {"--smallest-piece", {"rooms:split"}},
      {"--corridor", {"rooms:scattered", "rooms:split"}},
      {"--fresh", {"rooms:scattered", "rooms:split"}},
      {"--order", {"rooms:scattered", "rooms:split"}},
      {"--extra", {"rooms"}},
      {"--width", {"rooms"}},
      {"--doors", {"rooms"}},
      {"--grown", {"rooms"}},
  };
  return list;
}

/// "60x40", "4-10": two whole numbers and what stands between them.
std::pair<int, int> parse_pair(const std::string& text, const char* option, char between, int least, int most) {
  const std::size_t at = text.find(between);
  const std::string expected = fmt::format("two whole numbers from {} to {} joined by {}", least, most, between);
  if (at == std::string::npos) Words::refuse_word(option, text, expected);
  const auto part = [&](const std::string& digits) {
    try {
      return static_cast<int>(Words::parse_whole(digits, option, least, most));
    } catch (const Refused&) {
      Words::refuse_word(option, text, expected);
    }
  };
  return {part(text.substr(0, at)), part(text.substr(at + 1))};
}

template <typename Kind>
Maker maker_of(Kind made) {
  auto shared = std::make_shared<Kind>(std::move(made));
  return {[shared](std::uint64_t steps) { return shared->run(steps); }, [shared] { return shared->so_far(); },
          [shared] { return shared->take(); }};
}

}  // namespace

void Making::add_words(Words& words) {
  words_ = &words;
  words
      .choice<MadeKind>("KIND", kind_, {{"maze", MadeKind::maze}, {"cave", MadeKind::cave}, {"rooms", MadeKind::rooms}},
                        "maze, cave or rooms")
      .required();
  words.heading("All kinds");
  words.text("--size", size_, "columns and rows of the map: 60x40").required();
  words.choice<Tiling>("--tiling", tiling_,
                       {{"square", Tiling::square()},
                        {"hex-pointy", Tiling::hex(HexTop::pointy, Shift::odd)},
                        {"hex-flat", Tiling::hex(HexTop::flat, Shift::odd)},
                        {"triangle", Tiling::triangle(FirstTriangle::up)}},
                       "square (default), hex-pointy, hex-flat or triangle");
  words.text("--by", by_,
             "maze: depth-first (default), prim, kruskal, wilson, eller; cave: noise (default), agents; rooms: "
             "scattered (default), split, corridors");
  words.seed("--seed", seed_, "the same seed makes the same map everywhere (default: 1)");
  add_maze(words);
  add_cave(words);
  add_rooms(words);
  words.need({"--fresh"}, {"--corridor=cheapest"});
  words.need({"--min"}, {"--keep=all-joined"});
  words.exclude({"--overlap"}, {"--margin"});
  words.exclude({"--doors"}, {"--width=2", "--width=3", "--width=4"});
}

void Making::add_maze(Words& words) {
  words.heading("Mazes");
  words.choice<bool>("--walls", maze_.wall_cells, {{"thin", false}, {"cells", true}},
                     "thin (default): between cells; cells: as cells of their own, on squares");
  words.whole("--loops", maze_.loops, 0, 100, "open so many per cent of the dead ends into loops");
}
void Making::add_cave(Words& words) {
  words.heading("Caves");
  words.whole("--open", cave_.open, 0, 100,
              "noise: chance that a cell is open (default: 55); agents: stop at this share, per cent");
  words.whole("--smooth", cave_.smooth, 0, 100, "noise: rounds of smoothing (default: 4)");
  words.whole("--agents", cave_.agents, 1, 1'000'000, "how many dig (default: 8)");
  words.whole("--agent-steps", cave_.agent_steps, 0, 1'000'000'000, "steps of each (default: 400)");
  words.choice<bool>("--start", cave_.start_on_dug, {{"middle", false}, {"carved", true}},
                     "middle (default), or carved: any cell that is dug already");
  words.whole("--straight", cave_.straight, 0, 100, "chance to go straight on, per cent (default: 50)");
  words.text("--lean", lean_, "a side they lean to, and the chance: ne:20");
  words.choice<Keep>("--keep", cave_.keep, {{"largest", Keep::largest}, {"all-joined", Keep::all_joined}},
                     "the largest region alone (default), or all-joined by the least digging");
  words.whole("--min", cave_.least_cells, 1, max_map_cells, "fill regions of fewer cells");
}
void Making::add_rooms(Words& words) {
  words.heading("Rooms");
  words.whole("--rooms", rooms_.rooms, 1, 100'000, "so many at the most (default: 12)");
  words.text("--room-size", room_size_, "least and largest side: 4-10 (default)");
  words.flag("--overlap", rooms_.overlap, "rooms may lie over one another");
  words.whole("--margin", rooms_.margin, 0, 64, "cells between two rooms at the least (default: 1)");
  words.text("--smallest-piece", piece_, "no piece is cut to less than this (default: 8x8)");
  words.choice<CorridorShape>("--corridor", rooms_.corridor,
                              {{"straight", CorridorShape::straight},
                               {"dog-leg", CorridorShape::dog_leg},
                               {"cheapest", CorridorShape::cheapest}},
                              "straight, dog-leg (default) or cheapest, which merge");
  words.hundredths("--fresh", rooms_.fresh, 100, 65'535,
                   "what new ground costs beside ground dug already (default: 4)");
  words.choice<JoinOrder>("--order", rooms_.order,
                          {{"made", JoinOrder::made}, {"nearest", JoinOrder::nearest}, {"tree", JoinOrder::tree}},
                          "which rooms are joined: made, nearest or tree (default)");
  words.whole("--extra", rooms_.extra, 0, 100'000, "so many joins more than needed, for loops");
  words.whole("--width", rooms_.width, 1, 4, "of corridors, on squares (default: 1)");
  words.flag("--doors", rooms_.doors, "where corridors enter rooms");
  words.flag("--grown", rooms_.grown, "rooms are dug by walks, which looks grown");
}

void Making::prepare() {
  const auto [cols, rows] = parse_pair(size_, "--size", 'x', 1, max_line_cells);
  board_ = {tiling_, {cols, rows}};
  if (board_.size.cell_count() > max_map_cells) {
    Words::refuse_word("--size", size_, fmt::format("at most {} cells", max_map_cells));
  }
  choose_method();
  refuse_strangers();
  if (maze_.wall_cells && tiling_.shape() != Shape::square)
    throw Refused{"--walls cells: found with --tiling, expected square"};
  if (!lean_.empty()) parse_lean();
  if (!room_size_.empty()) {
    std::tie(rooms_.least_side, rooms_.most_side) = parse_pair(room_size_, "--room-size", '-', 1, max_line_cells);
  }
  if (!piece_.empty()) {
    std::tie(rooms_.smallest_piece.cols, rooms_.smallest_piece.rows) =
        parse_pair(piece_, "--smallest-piece", 'x', 1, max_line_cells);
  }
  const std::string_view problem = rooms_problem(board_, rooms_);
  if (kind_ == MadeKind::rooms && !problem.empty()) throw Refused{"generate rooms: " + std::string(problem)};
}

void Making::refuse_strangers() const {
  for (const Home& home : homes()) {
    if (!words_->given(home.option)) continue;
    const std::string kind = kind_names[static_cast<std::size_t>(kind_)];
    const auto here = [&](const std::string& place) { return place == kind || place == kind + ":" + by_; };
    if (std::any_of(home.homes.begin(), home.homes.end(), here)) continue;
    const bool of_kind = std::any_of(home.homes.begin(), home.homes.end(),
                                     [&](const std::string& place) { return place.starts_with(kind + ":"); });
    throw Refused{
        fmt::format("{}: found with {}, which it does not go with", home.option, of_kind ? "--by " + by_ : kind)};
  }
}

template <typename Method, std::size_t count>
void Making::choose(Method& method, const std::array<Method, count>& known) {
  std::string names;
  for (const Method candidate : known) {
    if (by_ == method_name(candidate)) {
      method = candidate;
      return;
    }
    names += (names.empty() ? "" : ", ") + std::string(method_name(candidate));
  }
  if (!by_.empty()) Words::refuse_word("--by", by_, "one of " + names);
  method = known.front();
  by_ = method_name(method);
}
void Making::choose_method() {
  maze_.seed = cave_.seed = rooms_.seed = seed_;
  switch (kind_) {
    case MadeKind::maze: choose(maze_.by, all_maze_methods); break;
    case MadeKind::cave: choose(cave_.by, std::array{CaveMethod::noise, CaveMethod::agents}); break;
    case MadeKind::rooms:
      choose(rooms_.by, std::array{RoomsMethod::scattered, RoomsMethod::split, RoomsMethod::corridors});
      break;
  }
}

void Making::parse_lean() {
  const std::size_t colon = lean_.find(':');
  const Side side = side_named(tiling_, lean_.substr(0, colon));
  std::string names;
  for (Side s{0}; s < side_count(tiling_); ++s)
    names += (names.empty() ? "" : " ") + std::string(side_name(tiling_, s));
  if (side < 0 || colon == std::string::npos)
    Words::refuse_word("--lean", lean_, "SIDE:PERCENT with a side of " + names);
  cave_.lean = side;
  cave_.lean_chance = static_cast<int>(Words::parse_whole(lean_.substr(colon + 1), "--lean", 0, 100));
}

Maker Making::maker() const {
  switch (kind_) {
    case MadeKind::maze: return maker_of(MazeMaker(board_, maze_));
    case MadeKind::cave: return maker_of(CaveMaker(board_, cave_));
    case MadeKind::rooms: break;
  }
  return maker_of(RoomsMaker(board_, rooms_));
}

const char* Making::kind_word() const { return kind_names[static_cast<std::size_t>(kind_)]; }

const char* Making::tiling_word() const {
  switch (tiling_.shape()) {
    case Shape::square: return "square";
    case Shape::hex_pointy: return "hex-pointy";
    case Shape::hex_flat: return "hex-flat";
    case Shape::triangle: break;
  }
  return "triangle";
}

}  // namespace saunter::app
