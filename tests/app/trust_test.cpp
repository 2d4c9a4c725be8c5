// What a stranger or a bad day does to the program: numbers that are none, files that are devices, signals, hostile
// words.
#include <catch2/catch.hpp>
#include <fcntl.h>
#include <sys/stat.h>
#include <sys/wait.h>
#include <unistd.h>

#include <algorithm>
#include <chrono>
#include <csignal>
#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <nlohmann/json.hpp>
#include <sstream>
#include <thread>

#include "run_program.hpp"
#include "support/places.hpp"
#include "support/random_maps.hpp"
#include "support/temporary_folder.hpp"

using namespace saunter::test;

namespace {

const std::string strand = "demo/strand.toml";
const std::string cove = R"(saunter = 1
[map]
tiling = "square"
rows = '''
..#.
....
'''
[terrain.sand]
glyph = "."
[terrain.rock]
glyph = "#"
cost = false
[mover.crab]
)";

void write(const std::string& file, const std::string& text) { std::ofstream(file, std::ios::binary) << text; }
std::string read(const std::string& file) {
  std::ifstream in(file, std::ios::binary);
  return {std::istreambuf_iterator<char>(in), {}};
}
unsigned mode_of(const std::string& file) {
  struct stat about = {};
  REQUIRE(lstat(file.c_str(), &about) == 0);
  return about.st_mode & 07777U;
}
/// 0, 1 or 2; what is said fits one line that a terminal can show.
void check_civil(const Ran& ran) {
  INFO(ran.err);
  CHECK(ran.exit_code >= 0);
  CHECK(ran.exit_code <= 2);
  CHECK(std::count(ran.err.begin(), ran.err.end(), '\n') == (ran.exit_code == 2 ? 1 : 0));
  CHECK(ran.err.size() < 600);
  CHECK((ran.exit_code != 2 || ran.out.empty()));
  CHECK(
      std::none_of(ran.err.begin(), ran.err.end(), [](char c) { return (c >= 0 && c < 32 && c != '\n') || c == 127; }));
}

/// Starts the program by itself, so that it can be sent a signal. @return its process
pid_t start_program(const std::vector<std::string>& words) {
  const pid_t child = fork();
  REQUIRE(child >= 0);
  if (child != 0) return child;
  std::vector<char*> list;
  std::string name = program_file();
  list.push_back(name.data());
  std::vector<std::string> copies = words;
  for (std::string& word : copies) list.push_back(word.data());
  list.push_back(nullptr);
  const int nothing = open("/dev/null", O_RDWR);
  dup2(nothing, 1);
  dup2(nothing, 2);
  for (const int signal : {SIGINT, SIGTERM, SIGHUP, SIGPIPE}) (void)std::signal(signal, SIG_DFL);
  execv(name.c_str(), list.data());
  _exit(127);
}

}  // namespace

TEST_CASE("text is read as numbers only where it is one, in decimal") {
  check_refused({
      {"route " + strand + " --from 0,0 --to 5,0 --limit -1",
       "--limit: found \"-1\", expected a whole number from 1 to"},
      {"route " + strand + " --from 0,0 --to 5,0 --limit 100000000000000000000",
       "--limit: found \"100000000000000000000\""},
      {"route " + strand + " --from 0,0 --to 5,0 --limit 0x10", "--limit: found \"0x10\""},
      {"route " + strand + " --from 0,0 --to 5,0 --limit 1e3", "--limit: found \"1e3\""},
      {"route " + strand + " --from 0,0 --to 5,0 --limit +5", "--limit: found \"+5\""},
      {"scatter " + strand + " --footprint x --seed -1", "--seed: found \"-1\""},
      {"route " + strand + " --from 0,0 --to 5,0 --budget nan", "--budget: found \"nan\""},
      {"route " + strand + " --from 0,0 --to 5,0 --budget inf", "--budget: found \"inf\""},
      {"route " + strand + " --from 0x1,0 --to 5,0", "--from: found \"0x1,0\""},
  });
  // A leading zero is not octal: 010 is ten.
  const Ran ten = run_line("route " + strand + " --from 0,0 --to 40,0 --limit 010 --json");
  CHECK(ten.out == run_line("route " + strand + " --from 0,0 --to 40,0 --limit 10 --json").out);
  CHECK(ten.out != run_line("route " + strand + " --from 0,0 --to 40,0 --limit 8 --json").out);
}

TEST_CASE("empty values, words given twice and contradictions are refused in the house's words") {
  for (const std::string option : {"--budget", "--mover", "--csv", "--from", "--draw"}) {
    const Ran ran = run_program({"route", strand, "--to", "5,0", option, ""});
    INFO(option << ": " << ran.err);
    CHECK(ran.exit_code == 2);
    CHECK(ran.err.find(option) != std::string::npos);
    CHECK(ran.err.find("found") != std::string::npos);
  }
  check_refused({
      {"route " + strand + " --from 0,0 --to 5,0 --budget 3 --budget 4", "--budget"},
      {"route " + strand + " --from 0,0 --to 5,0 --json --json", "--json"},
      {"route " + strand + " --from 0,0 --to 5,0 --nothing-like-it", "--nothing-like-it"},
      {"route " + strand + " --from= --to 5,0", "--from: found"},
      {"wander " + strand, "wander"},
      {"", "expected"},
  });
}

TEST_CASE("a full or closed standard output is exit code 2, even for --version and --help") {
  for (const std::string words :
       {"--version", "--help", "route demo/strand.toml --from 0,0 --to 5,0", "route --help"}) {
    const std::string line = std::string("cd '") + source_dir() + "' && '" + program_file() + "' " + words + " ";
    INFO(line);
    CHECK(WEXITSTATUS(std::system((line + ">/dev/full 2>/dev/null").c_str())) == 2);
    CHECK(WEXITSTATUS(std::system((line + ">&- 2>/dev/null").c_str())) == 2);
  }
}

TEST_CASE("output never harms what is there") {
  const TemporaryFolder folder;
  const std::string base = "field " + strand + " --to 5,5 --csv ";
  const std::string wanted = folder.path("wanted.csv");
  REQUIRE(run_line(base + wanted).exit_code == 0);
  const std::string content = read(wanted);
  REQUIRE(content.size() > 100);

  SECTION("a mode stays, and a read-only file is refused") {
    const std::string file = folder.path("mine.csv");
    write(file, "old");
    chmod(file.c_str(), 0600);
    REQUIRE(run_line(base + file).exit_code == 0);
    CHECK(mode_of(file) == 0600);
    CHECK((read(file) == content));
    if (geteuid() != 0) {
      write(file, "old");
      chmod(file.c_str(), 0400);
      CHECK(run_line(base + file).exit_code == 2);
      CHECK(read(file) == "old");
    }
  }
  SECTION("a symlink stays one, its target is written; a dangling one makes its target") {
    write(folder.path("target.csv"), "old");
    std::filesystem::create_symlink("target.csv", folder.path("link.csv"));
    REQUIRE(run_line(base + folder.path("link.csv")).exit_code == 0);
    CHECK(std::filesystem::is_symlink(folder.path("link.csv")));
    CHECK((read(folder.path("target.csv")) == content));
    std::filesystem::create_symlink("new.csv", folder.path("dangling.csv"));
    REQUIRE(run_line(base + folder.path("dangling.csv")).exit_code == 0);
    CHECK(std::filesystem::is_symlink(folder.path("dangling.csv")));
    CHECK((read(folder.path("new.csv")) == content));
    std::filesystem::create_symlink("loop.csv", folder.path("loop.csv"));
    CHECK(run_line(base + folder.path("loop.csv")).exit_code == 2);
  }
  SECTION("a FIFO is written, not replaced") {
    const std::string fifo = folder.path("pipe");
    REQUIRE(mkfifo(fifo.c_str(), 0600) == 0);
    std::string got;
    std::thread reader([&] { got = read(fifo); });
    const Ran ran = run_line(base + fifo);
    reader.join();
    CHECK(ran.exit_code == 0);
    CHECK(std::filesystem::is_fifo(fifo));
    CHECK((got == content));
  }
  SECTION("devices are written to") {
    CHECK(run_line(base + "/dev/null").exit_code == 0);
    CHECK(std::filesystem::is_character_file("/dev/null"));
    CHECK(run_line(base + "/dev/full").exit_code == 2);
  }
  SECTION("the same file twice, a folder, a folder that is not there: refused, nothing written") {
    const std::string two = folder.path("two");
    const Ran same =
        run_line("route " + strand + " --from 0,0 --to 5,0 --draw " + two + ".svg --trace " + folder.path("./two.svg"));
    CHECK(same.exit_code == 2);
    CHECK_FALSE(std::filesystem::exists(two + ".svg"));
    CHECK(run_line(base + folder.path()).exit_code == 2);
    CHECK(run_line(base + folder.path("none/there.csv")).exit_code == 2);
    // One good output and one bad: neither is written, and nothing is printed.
    const Ran half = run_line("field " + strand + " --to 5,5 --csv " + folder.path("good.csv") + " --draw " +
                              folder.path("none/x.svg"));
    CHECK(half.exit_code == 2);
    CHECK(half.out.empty());
    CHECK_FALSE(std::filesystem::exists(folder.path("good.csv")));
  }
  for (const auto& entry : std::filesystem::directory_iterator(folder.path()))
    CHECK(entry.path().string().find(".part") == std::string::npos);
}

TEST_CASE("an answered no keeps its picture, its JSON and exit code 1") {
  const TemporaryFolder folder;
  write(folder.path("cove.toml"), cove);
  const Ran ran =
      run_line("reach " + folder.path("cove.toml") + " --from 2,0 --range 3 --json --draw " + folder.path("no.svg"));
  INFO(ran.err << ran.out);
  CHECK(ran.exit_code == 1);
  CHECK(nlohmann::ordered_json::parse(ran.out).is_object());
  CHECK(std::filesystem::file_size(folder.path("no.svg")) > 100);
}

TEST_CASE("no unfinished file stays behind after a signal") {
  const TemporaryFolder folder;
  int interrupted = 0;
  for (const int signal : {SIGINT, SIGTERM, SIGHUP, SIGPIPE}) {
    for (const int wait : {5, 30, 80}) {
      // Many copies of large output, so that the signal often comes while it is written.
      const pid_t child = start_program({"route", source_dir() + "/" + strand, "--from", "0,0", "--to", "47,0",
                                         "--draw", folder.path("out.png"), "--cell", "64"});
      std::this_thread::sleep_for(std::chrono::milliseconds(wait));
      kill(child, signal);
      int status = 0;
      waitpid(child, &status, 0);
      interrupted += WIFSIGNALED(status) ? 1 : 0;
      CHECK((WIFSIGNALED(status) || WIFEXITED(status)));
      for (const auto& entry : std::filesystem::directory_iterator(folder.path())) {
        INFO(entry.path());
        CHECK(entry.path().filename() == "out.png");
      }
    }
  }
  CAPTURE(interrupted);
}

TEST_CASE("input that never ends, or is no file, is told") {
  const TemporaryFolder folder;
  const std::string fifo = folder.path("pipe");
  REQUIRE(mkfifo(fifo.c_str(), 0600) == 0);
  check_refused({
      {"survey /dev/zero", "/dev/zero"},
      {"survey " + fifo, "pipe"},
      {"survey " + folder.path(), "found"},
      {"check " + strand + " --path-file /dev/zero", "/dev/zero"},
  });
  write(folder.path("layer.toml"),
        "saunter = 1\n[map]\ntiling = \"square\"\nterrain_csv = \"/dev/zero\"\n[terrain.sand]\nglyph = \".\"\n");
  check_refused({{"survey " + folder.path("layer.toml"), "/dev/zero"}});
}

TEST_CASE("deep, long and hostile text: one line, bounded, printable") {
  const TemporaryFolder folder;
  const auto survey = [&](const std::string& text) {
    write(folder.path("s.toml"), text);
    const Ran ran = run_line("survey " + folder.path("s.toml"));
    CHECK(ran.exit_code == 2);
    check_civil(ran);
  };
  std::string dotted = "a";
  for (int i = 0; i < 30'000; ++i) dotted += ".a";
  survey(dotted + " = 1\n");
  survey("[" + dotted + "]\n");
  survey("x = " + std::string(100'000, '['));
  survey("x = " + std::string(50'000, '{'));
  survey("x = \"" + std::string(2'000'000, 'y'));
  survey("saunter = 1\ntitle = \"\x1b[2J\xe2\x80\xa8\xc2\x85\xff\xfe\"\n\x1b]0;boo\x07");
  survey(std::string("saunter = 1\n\0\0\0", 14));
  // A name with escapes reaches no terminal raw, nor does an option's value.
  std::string named = cove;
  named.replace(named.find("mover.crab"), 10, "mover.\"cr\\u001b[31mab\"");
  write(folder.path("named.toml"), named);
  const Ran survey_named = run_line("survey " + folder.path("named.toml"));
  CHECK(survey_named.exit_code == 0);
  CHECK(survey_named.out.find('\x1b') == std::string::npos);
  check_civil(run_program(
      {"route", strand, "--from", "0,0", "--to", "1,1", "--mover", "\x1b[31m\xe2\x80\xa8" + std::string(5'000, 'x')}));

  for (const std::string& way :
       {std::string("[[1e999,1]]"), std::string("[[1,2],[3"), std::string("[[99999999999999999999,1]]"),
        std::string(100'000, '['), std::string("\xff\xfe\xe2\x80\xa8"), std::string("[[1.5,2]]"),
        std::string("{\"path\":" + std::string(5'000, '[')), std::string("null")}) {
    write(folder.path("way.json"), way);
    for (const std::string option : {"--path-file", "--against"}) {
      const Ran ran = run_line("check " + strand + (option == "--against" ? " --path 1,1 " : " ") + option + " " +
                               folder.path("way.json"));
      CHECK(ran.exit_code == 2);
      check_civil(ran);
    }
  }
}

TEST_CASE("words at random: always 0, 1 or 2, one line") {
  Random random(99);
  const std::vector<std::string> pieces = {"route",
                                           "reach",
                                           "field",
                                           "regions",
                                           "compare",
                                           "fit",
                                           "scatter",
                                           "check",
                                           "sight",
                                           "threat",
                                           "survey",
                                           "convert",
                                           "layer",
                                           strand,
                                           "demo/gulls.toml",
                                           "demo/none.toml",
                                           "--from",
                                           "--to",
                                           "1,1",
                                           "5,5",
                                           "-3,2",
                                           "99,99",
                                           "2147483648,1",
                                           "--mover",
                                           "crab",
                                           "--json",
                                           "--budget",
                                           "0",
                                           "-1",
                                           "1.234",
                                           "\xff",
                                           "--by",
                                           "astar",
                                           "jump",
                                           "--footprint",
                                           "xx/x.",
                                           "--at",
                                           "--natural",
                                           "--limit",
                                           "--range",
                                           "--size",
                                           "2",
                                           "--order",
                                           "best",
                                           "--within",
                                           "--beside",
                                           "--turn",
                                           "--count",
                                           "--seed",
                                           "--",
                                           "=",
                                           "--from=",
                                           "''",
                                           "--help",
                                           "--all-errors",
                                           "--or-nearest",
                                           "--wary",
                                           "--front",
                                           "--max-threat",
                                           "--avoid",
                                           "1,1 2,2",
                                           "--path",
                                           "1,1;1,2",
                                           "--chokes",
                                           "--joins"};
  for (int round = 0; round < 250; ++round) {
    std::vector<std::string> words = {pieces[static_cast<std::size_t>(random.whole(0, 12))]};
    if (random.chance(80)) words.push_back(random.chance(70) ? strand : "demo/gulls.toml");
    const int count = random.whole(0, 7);
    for (int i = 0; i < count; ++i) words.push_back(random.one_of(pieces));
    std::string line;
    for (const std::string& word : words) line += word + " ";
    INFO(line);
    const Ran ran = run_program(words);
    const bool wanted_help = std::find(words.begin(), words.end(), "--help") != words.end();
    CHECK((ran.exit_code >= 0 && ran.exit_code <= 2));
    if (!wanted_help) check_civil(ran);
  }
}

TEST_CASE("all errors of a file at once, each on its line") {
  const TemporaryFolder folder;
  std::string text =
      cove + "steps = 5\nsize = 0\n[[unit]]\nname = \"hut\"\nat = [9, 9]\n[[spot]]\nname = \"well\"\nat = [-1, 0]\n";
  text.replace(text.find("..#."), 4, "..?.");
  write(folder.path("s.toml"), text);
  const Ran one = run_line("survey " + folder.path("s.toml"));
  CHECK(one.exit_code == 2);
  CHECK(std::count(one.err.begin(), one.err.end(), '\n') == 1);
  const Ran all = run_line("survey " + folder.path("s.toml") + " --all-errors");
  INFO(all.err);
  CHECK(all.exit_code == 2);
  CHECK(std::count(all.err.begin(), all.err.end(), '\n') >= 4);
  for (const std::string part : {"glyph", "steps", "size", "hut", "-1,0"})
    CHECK(all.err.find(part) != std::string::npos);
  CHECK(all.err.substr(0, one.err.size()) == one.err);
}

TEST_CASE("all errors of one table, each field on its own, in the order of the file") {
  const TemporaryFolder folder;
  const std::string text = R"(saunter = 1
[map]
tiling = "square"
rows = """
..#.
..??
"""
[terrain.sand]
glyph = "."
color = "sandy"
cost = -1
opaque = 3
[terrain.rock]
glyph = "#"
breach = "no"
[mover.crab]
steps = 5
costs = { mud = 1, sand = 0 }
[[barrier]]
between = [[0, 0], [2, 0]]
one_way = 1
[[unit]]
name = ""
at = [9, "x"]
footprint = ["x?", "xx", "?"]
turn = 4
blocks = "yes"
[[unit]]
name = "hut"
at = [3, 1]
footprint = ["xx"]
[[threat]]
name = "gull"
at = [7, 0]
range = -1
levels = [[0.5, -1], [2, 3]]
arc = 30
[[patrol]]
name = "beat"
mover = "eel"
cells = [[0, 0], [1], "x"]
loop = 7
[rules]
hut = ["nonsense", "against-wall:2", "at:9,9"]
den = 3
)";
  write(folder.path("s.toml"), text);
  const Ran all = run_line("survey " + folder.path("s.toml") + " --all-errors");
  INFO(all.err);
  CHECK(all.exit_code == 2);
  // The lines of the file that hold something wrong, once for each thing.
  const std::vector<int> wrong = {6,  6,  10, 11, 12, 15, 17, 18, 18, 20, 21, 23, 24, 25, 25,
                                  26, 27, 30, 34, 35, 36, 36, 37, 40, 41, 41, 42, 44, 44, 45};
  std::vector<int> told;
  std::istringstream lines(all.err);
  const std::string before = folder.path("s.toml") + ":";
  for (std::string line; std::getline(lines, line);) {
    const std::size_t at = line.find(before);
    REQUIRE(at != std::string::npos);
    told.push_back(std::stoi(line.substr(at + before.size())));
  }
  CHECK(told == wrong);
}

TEST_CASE("all errors of layers, and places on a map that can't be read") {
  const TemporaryFolder folder;
  const std::string rest =
      "[terrain.sand]\nglyph = \".\"\n[mover.crab]\n[[unit]]\nname = \"hut\"\nat = [900, 0]\nturn = 9\n";
  write(folder.path("ground.csv"), "sand,mud\nsand,sand\nkelp,sand\n");
  write(folder.path("s.toml"), "saunter = 1\n[map]\ntiling = \"square\"\nterrain_csv = \"ground.csv\"\n" + rest);
  const Ran layer = run_line("survey " + folder.path("s.toml") + " --all-errors");
  INFO(layer.err);
  CHECK(layer.exit_code == 2);
  CHECK(std::count(layer.err.begin(), layer.err.end(), '\n') == 3);  // of the unit only its turn: where it stands waits
  CHECK(layer.err.find("ground.csv:1:6: found terrain \"mud\"") != std::string::npos);
  CHECK(layer.err.find("ground.csv:3:1: found terrain \"kelp\"") != std::string::npos);
  write(folder.path("t.toml"), "saunter = 1\n[map]\ntiling = \"square\"\nterrain_csv = \"none.csv\"\n" + rest);
  const Ran none = run_line("survey " + folder.path("t.toml") + " --all-errors");
  INFO(none.err);
  CHECK(std::count(none.err.begin(), none.err.end(), '\n') == 2);
  CHECK(none.err.find("turn = 9") != std::string::npos);
  CHECK(none.err.find("off the map") == std::string::npos);
  // Wrong all over: a hundred are told, then how many more.
  std::string wrong_all_over;
  for (int row = 0; row < 300; ++row) wrong_all_over += "mud,mud,mud,mud,mud,mud,mud,mud,mud,mud\n";
  write(folder.path("ground.csv"), wrong_all_over);
  const Ran many = run_line("survey " + folder.path("s.toml") + " --all-errors");
  CHECK(std::count(many.err.begin(), many.err.end(), '\n') == 101);
  CHECK(many.err.find("and 2901 more") != std::string::npos);
}

TEST_CASE("all errors: after a ragged line of heights, and without a tiling, the rest is told too") {
  const TemporaryFolder folder;
  const auto told = [&](const std::string& map) {
    const std::string rest = R"([terrain.sand]
glyph = "."
color = "#zz"
[mover.crab]
climb = "a"
steps = 6
[[threat]]
name = "gull"
at = [0, 0]
range = 2
facing = "nne"
[[spot]]
name = "s"
at = [99, 0]
)";
    write(folder.path("s.toml"), "saunter = 1\n[map]\n" + map + rest);
    const Ran all = run_line("survey " + folder.path("s.toml") + " --all-errors");
    CHECK(all.exit_code == 2);
    std::string places;
    for (std::size_t at = 0; (at = all.err.find("s.toml:", at)) != std::string::npos; ++at) {
      places += all.err.substr(at + 7, all.err.find(": ", at) - at - 7) + " ";
    }
    return places;
  };
  // A ragged line, a wrong number, the colour, climb, steps, the side, the spot.
  CHECK(told("tiling = \"square\"\nrows = '''\n....\n....\n'''\nheights = '''\n0,1,2,3\n0,12,x\n'''\n") ==
        "10 10:6 14:9 16:9 17:9 22:10 25:6 ");
  // No `hex`: what depends on sides and steps is not judged, all else is.
  CHECK(told("tiling = \"hex\"\nrows = '''\n....\n..?.\n'''\n") == "2:1 6:3 10:9 12:9 ");
}

TEST_CASE("spots, patrols, tables of others and colours left out") {
  const TemporaryFolder folder;
  const std::string file = folder.path("s.toml");
  const std::string more =
      "[[spot]]\nname = \"well\"\nat = [1, 1]\n[[patrol]]\nname = \"beat\"\nmover = \"crab\"\n"
      "cells = [[0, 0], [1, 0], [1, 1]]\n[x-editor]\nzoom = 3\n";
  write(file, cove + more);
  const Ran survey = run_line("survey " + file);
  INFO(survey.err << survey.out);
  REQUIRE(survey.exit_code == 0);
  CHECK(survey.out.find("well") != std::string::npos);
  CHECK(survey.out.find("beat") != std::string::npos);
  const Ran good = run_line("check " + file);
  INFO(good.err << good.out);
  CHECK(good.exit_code == 0);
  CHECK(good.out.find("beat") != std::string::npos);
  // Written and read again it is the same.
  REQUIRE(run_line("convert " + file + " --out " + folder.path("t.toml")).exit_code == 0);
  CHECK(run_line("survey " + folder.path("t.toml") + " --json").exit_code == 0);
  CHECK(read(folder.path("t.toml")).find("[x-editor]\nzoom = 3\n") != std::string::npos);  // another program's own
  CHECK(run_line("check " + folder.path("t.toml")).out == good.out);
  // A patrol that goes through the rock.
  std::string broken = cove + more;
  broken.replace(broken.find("[1, 0], [1, 1]]"), 15, "[1, 0], [2, 0]]");
  write(file, broken);
  const Ran bad = run_line("check " + file + " --json");
  INFO(bad.out << bad.err);
  CHECK(bad.exit_code == 1);
  const auto json = nlohmann::ordered_json::parse(bad.out);
  REQUIRE(json.at("patrols").size() == 1);
  CHECK(json.at("patrols")[0].dump().find("blocked") != std::string::npos);
  // Way points: every leg is judged, also those after one without a way.
  std::string points = cove + more;
  points.replace(points.find("[0, 0], [1, 0], [1, 1]]"), 23, "[0, 0], [2, 0], [3, 1], [2, 0], [0, 1]]");
  write(file, points);
  const auto legs = nlohmann::ordered_json::parse(run_line("check " + file + " --json").out);
  std::vector<std::string> whys;
  for (const auto& problem : legs.at("patrols")[0].at("problems")) whys.push_back(problem.at("why"));
  CHECK(std::count(whys.begin(), whys.end(), "goal-blocked") == 2);
  CHECK(std::count(whys.begin(), whys.end(), "start-blocked") == 2);
  CHECK(std::count(whys.begin(), whys.end(), "not-a-step") == 0);
  points.replace(points.find("[0, 1]]"), 7, "[0, 2]]");
  write(file, points);
  const Ran off = run_line("check " + file);
  CHECK(off.exit_code == 2);
  CHECK(off.err.find("cell 0,2 off the map") != std::string::npos);
}

TEST_CASE("answers that leave something out say so: overflow, unnatural, apart from whom") {
  const TemporaryFolder folder;
  std::string dear = cove;
  dear.replace(dear.find("glyph = \".\""), 11, "glyph = \".\"\ncost = 655.35");
  // A row so long and dear that the sums leave 32 bits.
  std::string row(60'000, '.');
  dear.replace(dear.find("..#.\n....\n"), 10, row + "\n");
  write(folder.path("dear.toml"), dear + "diagonal = 655.35\n");
  const Ran field = run_line("field " + folder.path("dear.toml") + " --to 0,0 --json");
  INFO(field.err);
  REQUIRE(field.exit_code == 0);
  CHECK(nlohmann::ordered_json::parse(field.out).contains("overflowed"));
  const Ran natural = run_line("route " + strand + " --from 0,0 --to 30,2 --natural --json");
  REQUIRE(natural.exit_code == 0);
  CHECK(nlohmann::ordered_json::parse(natural.out).at("natural") == true);

  write(folder.path("cove.toml"), cove);
  const Ran fit = run_line("fit " + folder.path("cove.toml") +
                           " --footprint x/x --at 1,0 --mover crab --keep-open 0,0 --keep-open 3,1 --json");
  INFO(fit.out << fit.err);
  CHECK(fit.exit_code == 1);
  CHECK(fit.out.find("cuts-off") != std::string::npos);
  CHECK(fit.out.find("\"apart_from\":[") != std::string::npos);
  const Ran covers =
      run_line("fit " + folder.path("cove.toml") + " --footprint x --at 0,0 --mover crab --keep-open 0,0 --json");
  CHECK(covers.out.find("covers") != std::string::npos);
}

TEST_CASE("triangle units without a footprint stand as the default drawing: refused on a down triangle") {
  const TemporaryFolder folder;
  const std::string text =
      "saunter = 1\n[map]\ntiling = \"triangle\"\nfirst = \"up\"\nrows = '''\n....\n....\n'''\n[terrain.sand]\nglyph = "
      "\".\"\n[mover.crab]\n[[unit]]\nname = \"hut\"\n";
  write(folder.path("up.toml"), text + "at = [0, 0]\n");
  CHECK(run_line("survey " + folder.path("up.toml")).exit_code == 0);
  write(folder.path("down.toml"), text + "at = [1, 0]\n");
  const Ran down = run_line("survey " + folder.path("down.toml"));
  CHECK(down.exit_code == 2);
  write(folder.path("drawn.toml"), text + "at = [1, 0]\nfootprint = [\"x\"]\n");
  const Ran drawn = run_line("survey " + folder.path("drawn.toml"));
  CHECK(drawn.exit_code == 2);
  const Ran size = run_line("fit " + folder.path("up.toml") + " --size 1 --at 3,0");
  INFO(size.out << size.err);
  CHECK((size.out + size.err).find("points up") == std::string::npos);
}
