// Turns, gatherings and threats by time through the program, on small maps worked out by hand.
#include <algorithm>
#include <catch2/catch.hpp>
#include <nlohmann/json.hpp>

#include "run_program.hpp"
#include "schema.hpp"
#include "saunter/io/files.hpp"
#include "saunter/io/scenario.hpp"
#include "saunter/io/write_scenario.hpp"

using namespace saunter::test;
using Json = nlohmann::ordered_json;

namespace {

// Two banks with a friend on the bridge; a gull that paces and turns.
const std::string banks = R"(saunter = 1
title = "banks"
[map]
tiling = "square"
rows = '''
.......
###.###
...v...
'''
[terrain.sand]
glyph = "."
color = "#e6d5a8"
[terrain.rock]
glyph = "#"
color = "#6b6560"
cost = false
opaque = true
[terrain.hole]
glyph = "v"
color = "#000000"
void = true
[mover.crab]
steps = 4
[mover.sled]
steps = 4
size = 2
[[unit]]
name = "tender"
at = [3, 1]
[[unit]]
name = "net"
at = [1, 0]
[[threat]]
name = "gull"
range = 2
arc = 90
schedule = [[0, 0, 2, "e"], [2, 1, 2, 90], [5, 6, 0, 270]]
repeat = 8
)";

/// Words split at blanks, but for what stands in quotes.
Ran run_words(const std::string& line) {
  std::vector<std::string> words(1);
  bool quoted = false;
  for (const char letter : line) {
    if (letter == '"') {
      quoted = !quoted;
    } else if (letter == ' ' && !quoted) {
      words.emplace_back();
    } else {
      words.back() += letter;
    }
  }
  return run_program(words, banks);
}

Json ask(const std::string& line) { return json_of(run_words(line + " --json")); }

}  // namespace

TEST_CASE("reach: where a move may end, what is left, what stops it and what it passes") {
  const Json all = ask("reach - --from 2,0 --budget 3");
  CHECK(all["cells"] == Json::parse("[[2,0,0],[3,0,1],[4,0,2],[5,0,3]]"));
  CHECK(all["left"] == Json::parse("[3,2,1,0]"));
  const Json stopped = ask("reach - --from 2,0 --budget 3 --stop 4,0");
  CHECK(stopped["cells"] == Json::parse("[[2,0,0],[3,0,1],[4,0,2]]"));
  CHECK(stopped["left"] == Json::parse("[3,2,0]"));
  CHECK(ask("reach - --from 2,0 --budget 3 --stop-around 5,0:1")["cells"] == stopped["cells"]);
  // A start is never a stop; cells under a friend are crossed, not ended on.
  CHECK(ask("reach - --from 2,0 --budget 3 --stop 2,0")["cells"] == all["cells"]);
  const Json over = ask("reach - --from 2,0 --budget 3 --pass tender --pass net");
  CHECK(over["cells"] == Json::parse("[[0,0,2],[2,0,0],[3,0,1],[4,0,2],[5,0,3]]"));
  const Json from_under = ask("reach - --from 3,1 --budget 1 --pass tender");
  CHECK(from_under["cells"] == Json::parse("[[3,0,1]]"));
}

TEST_CASE("reach: what is in range, from where, and only what is seen") {
  const Json near = ask("reach - --from 2,0 --budget 1 --range 2");
  CHECK(near["in_range"].size() == near["act_from"].size());
  // Void is never listed; rock and units are.
  for (const Json& cell : near["in_range"]) CHECK(cell != Json::parse("[3,2]"));
  CHECK(near["in_range"][0] == Json::parse("[0,0]"));
  CHECK(near["act_from"][0] == Json::parse("[2,0]"));
  const Json ring = ask("reach - --from 2,0 --budget 1 --range 2-2");
  CHECK(ring["in_range"] == Json::parse("[[0,0],[1,0],[4,0],[5,0],[1,1],[2,1],[3,1],[4,1],[2,2]]"));
  CHECK(ring["act_from"] == Json::parse("[[2,0],[3,0],[2,0],[3,0],[2,0],[3,0],[2,0],[3,0],[2,0]]"));
  const Json seen = ask("reach - --from 2,0 --budget 1 --range 2-2 --range-sight");
  CHECK(seen["in_range"] == Json::parse("[[0,0],[1,0],[4,0],[5,0],[1,1],[2,1],[3,1],[4,1]]"));
}

TEST_CASE("reach: a touch acts across an edge, but not through a wall") {
  const std::string hold =
      "saunter = 1\n[map]\ntiling = \"square\"\nrows = \"...\"\n[terrain.deck]\nglyph = \".\"\n"
      "color = \"#806040\"\n[mover.crab]\n[[barrier]]\nbetween = [[1, 0], [2, 0]]\n";
  const auto answer = [&](const std::string& words) {
    return json_of(run_line("reach - --from 1,0 --budget 0 --json " + words, hold));
  };
  CHECK(answer("--range 1-1")["in_range"] == Json::parse("[[0,0],[2,0]]"));
  CHECK(answer("--touch")["in_range"] == Json::parse("[[0,0]]"));
  CHECK(answer("--touch --why 2,0")["why"]["act"] == "out-of-range");
  CHECK(answer("--touch --why 0,0")["why"]["act"] == "can-act");
  check_refused({{"reach demo/strand.toml --from 1,1 --touch --range 2", "--touch"}});
}

TEST_CASE("reach: one reason for a cell that is asked about") {
  const auto why = [](const std::string& words) { return ask("reach - --from 2,0 --budget 2 " + words)["why"]; };
  CHECK(why("--why 4,0")["move"] == "reached");
  CHECK(why("--why 6,0")["missing"] == 2);
  CHECK(why("--why 1,0")["by"] == "net");
  CHECK(why("--why 1,0")["move"] == "occupied");
  CHECK(why("--why 0,1")["move"] == "blocked");
  CHECK(why("--why 9,9")["move"] == "off-map");
  CHECK(why("--why 0,2")["move"] == "no-way");
  CHECK(why("--why 3,1 --pass tender")["move"] == "passed-over");
  CHECK(why("--why 4,0 --stop 3,0")["place"] == Json::parse("[3,0]"));
  CHECK(why("--why 6,0 --range 2")["act_from"] == Json::parse("[4,0]"));
  CHECK(why("--why 6,2 --range 1")["act"] == "out-of-range");
  CHECK(why("--why 2,2 --range 2 --range-sight")["act"] == "not-seen");
}

TEST_CASE("route by turns: the fewest, ended by stops, never on a friend") {
  const Json plain = ask("route - --from 2,0 --to 6,0 --turns 3");
  CHECK(plain["turns_end"] == Json::parse("[[5,0],[6,0]]"));
  CHECK(plain["cost"] == 4);
  CHECK(ask("route - --from 2,0 --to 6,0 --turns 3 --stop 3,0")["turns_end"] == Json::parse("[[3,0],[6,0]]"));
  const Json over = ask("route - --from 2,0 --to 0,0 --turns 1.5 --pass net");
  CHECK(over["reason"] == "no-way");  // a turn would have to end on it
  CHECK(over["turns_end"].is_null());
  CHECK(ask("route - --from 2,0 --to 0,0 --turns 2 --pass net")["turns_end"] == Json::parse("[[0,0]]"));
  CHECK(ask("route - --from 2,0 --to 1,0 --turns 2 --pass net")["reason"] == "goal-blocked");
  CHECK(ask("route - --from 2,0 --to 2,0 --turns 2")["turns_end"] == Json::array());
  CHECK(run_line("route - --from 2,0 --to 0,2 --turns 3", banks).exit_code == 1);
}

TEST_CASE("gather: a place for each, the least sum or the soonest") {
  const Json all = ask("gather - --from 2,0 --from 6,0 --from 4,0 --to 3,0");
  CHECK(all["placed"] == 3);
  CHECK(all["places"] == Json::parse("[[3,0],[2,0],[4,0]]"));
  CHECK(all["sum"] == 3);
  CHECK(all["units"][0]["path"].size() == all["units"][0]["cost"].get<std::size_t>() + 1);
  CHECK(ask("gather - --from 2,0 --from 6,0 --to 3,0 --aim soonest")["last"] == 3);
  const Json shaped = ask("gather - --from 2,0 --from 6,0 --to 3,0 --formation \"2,0 -9,0 3,0\"");
  CHECK(shaped["places"] == Json::parse("[[5,0],[6,0]]"));
  const Ran apart = run_line("gather - --from 2,0 --from 0,2 --to 3,0 --json", banks);
  CHECK(apart.exit_code == 1);
  CHECK(json_of(apart)["units"][1]["to"].is_null());
  CHECK(run_line("gather - --from 2,0 --to 30,0 --json", banks).exit_code == 1);
}

TEST_CASE("threats by time: where they are at a tick, and what a way meets there") {
  CHECK(ask("threat - --at 1,2")["level"] == 1);
  CHECK(ask("threat - --at 0,2 --tick 3")["level"] == 0);
  CHECK(ask("threat - --at 5,0 --tick 5")["level"] == 1);
  CHECK(ask("threat - --at 5,0 --tick 13")["level"] == 1);  // the same again
  CHECK(ask("threat - --at 5,0 --tick 8")["level"] == 0);
  // At tick 5 the gull has flown over to the other bank.
  const std::string way = "check - --path \"4,0 5,0 5,0\" --max-threat 0";
  CHECK(run_words(way).exit_code == 1);
  CHECK(run_words(way + " --waiting").exit_code == 0);
  CHECK(run_words(way + " --waiting --tick 2").exit_code == 0);
  CHECK(ask(way + " --waiting --tick 3")["problems"][0]["step"] == 2);
  // Waits until it has gone again.
  const Json late = ask("route - --from 2,0 --to 6,0 --wary 9 --tick 4");
  CHECK(late["exposure"] == 0);
  CHECK(late["waits"] == 2);
  CHECK(ask("route - --from 2,0 --to 6,0 --wary 9 --tick 0")["waits"] == 0);
}

TEST_CASE("play follows schedules: a post that begins is an edit of its tick") {
  const TemporaryFolder folder;
  const auto play = [&](const std::string& more) {
    const std::string file = folder.path("script.toml");
    (void)saunter::io::write_file(file, "saunter_play = 1\nticks = 10\n" + more);
    return json_of(run_program({"play", "-", file, "--json"}, banks));
  };
  // Cut off: the run goes on to its last tick.
  const std::string lost = "[[go]]\nname = \"pip\"\nmover = \"crab\"\nfrom = [2, 0]\nto = [0, 2]\nplan = \"wary\"\n";
  const Json all = play(lost);
  REQUIRE(all["ticks"].size() == 10);
  for (std::size_t tick = 0; tick < 10; ++tick) {
    INFO("tick " << tick);
    const bool begins = tick == 2 || tick == 5 || tick == 8;  // the last: from the beginning again
    CHECK(all["ticks"][tick]["changed"].empty() != begins);
    CHECK(all["ticks"][tick]["events"].size() == (begins ? 1 : 0));
  }
  CHECK(all["ticks"][5]["changed"] == Json::parse("[[4,0],[5,0],[6,0],[1,2],[2,2]]"));
  // An edit of the same tick has the last word; posts to come keep no run from ending.
  const Json moved = play("[[edit]]\ntick = 5\nwatch = \"gull\"\nat = [5, 2]\nfacing = \"e\"\n" + lost);
  CHECK(moved["ticks"][5]["changed"] == Json::parse("[[1,2],[2,2],[5,2],[6,2]]"));
  const std::string near = "[[go]]\nname = \"pip\"\nmover = \"crab\"\nfrom = [2, 0]\nto = [3, 0]\n";
  CHECK(play(near)["ticks"].size() == 1);
}

TEST_CASE("a scenario with schedules is written as it was read") {
  const auto read = saunter::io::parse_scenario(banks, "banks.toml");
  REQUIRE(read);
  const auto files = saunter::io::write_scenario(read.value(), "again");
  REQUIRE(files);
  const auto again = saunter::io::parse_scenario(files.value().front().bytes, "again.toml");
  REQUIRE(again);
  CHECK(again.value().threats.front().schedule == read.value().threats.front().schedule);
  CHECK(again.value().threats.front().threat.facing == saunter::Facing(saunter::Side(2)));
  CHECK(again.value().threats.front().threat.arc == 90);
}

TEST_CASE("what is wrong with words and schedules is told in one line") {
  check_refused({{"reach demo/strand.toml --from 1,1 --range-sight", "--range-sight"},
                 {"reach demo/strand.toml --from 1,1 --range 3-1", "--range: found \"1\""},
                 {"reach demo/strand.toml --from 1,1 --range x", "--range: found \"x\""},
                 {"reach demo/strand.toml --from 1,1 --stop-around 3,3", "c,r:R"},
                 {"reach demo/strand.toml --from 1,1 --stop-around 3,3:-1", "--stop-around"},
                 {"reach demo/strand.toml --from 1,1 --pass nobody", "--pass: found \"nobody\""},
                 {"route demo/strand.toml --from 1,1 --to 2,2 --stop 3,3", "--turns"},
                 {"route demo/strand.toml --from 1,1 --to 2,2 --turns 0", "--turns"},
                 {"route demo/strand.toml --from 1,1 --to 2,2 --turns 3 --by bfs", "--turns"},
                 {"route demo/strand.toml --from 1,1 --to 2,2 --turns 3 --wary 2", "--turns"},
                 {"route demo/strand.toml --from 1,1 --to 2,2 --tick 3", "--tick"},
                 {"route demo/strand.toml --from 1,1 --to 2,2 --wary 1 --linger 1 --tick 3", "--tick"},
                 {"gather demo/strand.toml --from 1,1 --to 2,2 --formation x", "--formation: found \"x\""},
                 {"gather demo/strand.toml --to 2,2", "--from"},
                 {"threat demo/gulls.toml --tick -1", "--tick"}});
  const auto refused = [&](const std::string& schedule, const std::string& expected) {
    std::string text = banks;
    const std::size_t from = text.find("schedule = ");
    text.replace(from, text.find("\nrepeat = 8\n") + 12 - from, schedule + "\n");
    const Ran ran = run_line("threat -", text);
    INFO(ran.err);
    CHECK(ran.exit_code == 2);
    CHECK(std::count(ran.err.begin(), ran.err.end(), '\n') == 1);
    CHECK(ran.err.find(expected) != std::string::npos);
  };
  refused("schedule = [[1, 0, 0, \"e\"]]", "ticks rising from 0");
  refused("schedule = [[0, 0, 0, \"e\"], [0, 1, 0, \"e\"]]", "ticks rising from 0");
  refused("schedule = [[0, 9, 0, \"e\"]]", "a cell of the map");
  refused("schedule = [[0, 0, 0, 360]]", "whole degrees from 0 to 359");
  refused("schedule = [[0, 0, 0, \"up\"]]", "a side: n ne");
  refused("schedule = [[0, 0, 0]]", "a facing at every post");
  refused("schedule = []", "at least one");
  refused("schedule = [[0, 0, 0, \"e\"], [4, 0, 0, \"w\"]]\nrepeat = 4", "repeat");
  refused("at = [0, 0]\nfacing = \"e\"\nrepeat = 4", "a schedule beside it");
  refused("", "a schedule");
}
