// The page in a real browser: what a person does with pointer and keys, and what it then shows.
#include <catch2/catch.hpp>

#include <csignal>
#include <filesystem>
#include <fstream>
#include <iostream>
#include <sstream>
#include <thread>

#include "app/run_program.hpp"
#include "browser.hpp"

namespace saunter::test {
namespace {

using Place = std::pair<double, double>;

/// A page of the program in a browser. At its end it must have told no error and asked nobody else.
class Page {
 public:
  explicit Page(const std::vector<std::string>& words = {"demo/strand.toml"}) : served(words) {
    browser.visit(served.address);
    settle();
  }
  ~Page() {
    for (const std::string& error : browser.errors()) FAIL_CHECK("the page told an error: " << error);
    for (const std::string& url : browser.requests()) {
      const bool own = url.starts_with(served.address) || url.starts_with("blob:http://127.0.0.1:");
      if (!own && !url.starts_with("chrome") && !url.starts_with("data:")) FAIL_CHECK("the page asked " << url);
    }
    CHECK(served.child.end(SIGINT) == 0);
  }
  Page(const Page&) = delete;
  Page& operator=(const Page&) = delete;

  /// Waits until every edit is made and answered, and drawn.
  void settle() {
    browser.wait_for("window.page && page.answer && !page.busy && page.waiting.length === 0");
    browser.run("return new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)))");
  }
  Json get(const std::string& expression) { return browser.run("return " + expression); }
  /// Where a cell's middle is in the window.
  Place at(int col, int row) {
    const Json place = browser.run(
        "const box = page.view.canvas.getBoundingClientRect();"
        "const [x, y] = page.view.toScreen(page.scene.layout.centre([arguments[0], arguments[1]]));"
        "return [x + box.left, y + box.top]",
        {col, row});
    return {place[0], place[1]};
  }
  void drag(const std::vector<std::pair<int, int>>& cells) {
    std::vector<Place> places;
    for (const auto& [col, row] : cells) places.push_back(at(col, row));
    browser.drag(places);
    settle();
  }
  void press(const std::vector<std::string>& keys) {
    browser.press(keys);
    settle();
  }
  /// Makes a map from the form.
  void make(const std::string& kind, int cols, int rows) {
    browser.run("document.querySelector('#making').open = true");
    browser.choose("#make-form [data-option='KIND']", kind);
    browser.type("#make-form [data-option='--size']", std::to_string(cols) + "x" + std::to_string(rows));
    browser.click("#make");
    browser.wait_for("page.scene.told.size[0] === " + std::to_string(cols));
  }
  void set_ends(const std::string& start, const std::string& goal) {
    browser.run("page.setEnd('start', " + start + "); page.setEnd('goal', " + goal + ")");
    settle();
  }
  Json answer() { return get("page.answer.json"); }
  std::string status() { return browser.text("#status"); }
  /// The scenario as the page saves it.
  std::string save() {
    const std::string file = browser.downloads() + "/" + get("page.name").get<std::string>();
    std::filesystem::remove(file);
    browser.click("#save");
    for (int i = 0; i < 200 && !std::filesystem::exists(file); ++i)
      std::this_thread::sleep_for(std::chrono::milliseconds(25));
    REQUIRE(std::filesystem::exists(file));
    return file;
  }
  /// The same question asked of the program, about a file.
  static Json command(const std::string& line) {
    const Ran ran = run_line(line + " --json");
    INFO(line << ": " << ran.err);
    REQUIRE(ran.exit_code != 2);
    return Json::parse(ran.out);
  }

  Served served;
  Browser browser;
};

/// Without a browser these tests say so, loudly, and are left out.
bool browser_missing() {
  if (Browser::installed()) return false;
  WARN("SKIPPED: no chromium and chromedriver on this machine, so the page was not tried in a browser");
  std::cerr << "SKIPPED: no browser on this machine\n";
  return true;
}

std::string content(const std::string& file) {
  std::ifstream in(file);
  std::ostringstream text;
  text << in.rdbuf();
  return text.str();
}

}  // namespace

TEST_CASE("a wall painted across the way changes the route as the command says of the saved scenario") {
  if (browser_missing()) return;
  Page page;
  page.set_ends("[3, 4]", "[45, 25]");
  const Json before = page.answer();
  CHECK(before["cost"] == Page::command("route demo/strand.toml --from 3,4 --to 45,25")["cost"]);
  page.browser.run("page.chooseTerrain(page.scene.kinds.findIndex((kind) => kind.name === 'boulder'))");
  page.drag({{8, 2}, {9, 14}, {3, 16}});
  const Json after = page.answer();
  CHECK(after["found"] == true);
  CHECK(after["cost"] > before["cost"]);
  // No gap between the places of the pointer: all cells of the two lines are walls now.
  CHECK(page.get("page.scene.kinds[page.scene.terrain[page.scene.layout.index([9, 8])]].name !== 'boulder' && "
                 "page.scene.kinds[page.scene.terrain[page.scene.layout.index([8, 8])]].name !== 'boulder'") == false);
  const std::string file = page.save();
  const Json told = Page::command("route " + file + " --from 3,4 --to 45,25");
  CHECK(after["cost"] == told["cost"]);
  CHECK(after["path"] == told["path"]);
  CHECK(after["expanded"] == told["expanded"]);
  page.press({"z"});  // a stroke is undone as one
  CHECK(page.answer()["cost"] == before["cost"]);
  page.press({"y"});
  CHECK(page.answer()["cost"] == after["cost"]);
}

TEST_CASE("a hut dragged onto a boulder tells why it does not fit and is back home") {
  if (browser_missing()) return;
  Page page;
  const Json home = page.get("page.scene.told.units.find((unit) => unit.name === 'hut').at");
  const int col = home[0];
  const int row = home[1];
  // The reef's boulders begin at 25,14.
  page.drag({{col, row}, {col - 2, row - 4}, {26, 14}});
  CHECK(page.status().find("hut is back home") != std::string::npos);
  CHECK(page.status().find("it does not fit at") != std::string::npos);
  CHECK(page.get("page.scene.told.units.find((unit) => unit.name === 'hut').at") == home);
  CHECK(page.get("page.past.length") == 0);
  page.drag({{col, row}, {col + 1, row - 2}, {20, 10}});
  CHECK(page.get("page.scene.told.units.find((unit) => unit.name === 'hut').at") == Json({20, 10}));
  CHECK(content(page.save()).find("at = [20, 10]") != std::string::npos);
}

TEST_CASE("the clock goes through a search to its end, and every search answers as its command does") {
  if (browser_missing()) return;
  Page page;
  page.set_ends("[3, 4]", "[45, 25]");
  page.browser.click("#time-first");
  CHECK(page.get("page.clock.time") == 0);
  const std::string count_of =
      "[...page.scene.costs.keys()].filter((cell) => page.view.replay.state(cell, page.view.time) === ";
  CHECK(page.get(count_of + "'closed').length") == 0);
  CHECK(page.get(count_of + "'open').length").get<int>() >= 1);
  page.press({".", ".", ","});
  CHECK(page.get("page.clock.time") == 1);
  CHECK(page.browser.text("#time-where") == "step 1 of " + std::to_string(page.answer()["expanded"].get<int>()));
  page.browser.run("page.clock.speed = 20000");
  page.browser.click("#time-play");
  page.browser.wait_for("page.clock.time === page.clock.length && !page.clock.playing");
  CHECK(page.get(count_of + "'closed').length") == page.answer()["expanded"]);
  // The goal was checked last: what is left of the way is nothing, what it cost is the answer.
  page.browser.run("page.tell([45, 25], page.view)");
  CHECK(page.browser.text("#cell").find("+ estimate 0 = " + page.answer()["cost"].dump()) != std::string::npos);

  for (const Json& name :
       page.get("[...document.querySelectorAll('#algorithms button')].map((at) => at.dataset.name)")) {
    const auto by = name.get<std::string>();
    INFO(by);
    page.browser.click("#algorithms button[data-name='" + by + "']");
    page.settle();
    const Json told = Page::command("route demo/strand.toml --from 3,4 --to 45,25 --by " + by);
    for (const char* const key : {"cost", "steps", "expanded", "path", "algorithm"})
      CHECK(page.answer()[key] == told[key]);
    page.browser.click("#time-first");
    page.browser.click("#time-last");
    CHECK(page.get("page.clock.time") == page.get("page.clock.length"));
  }
}

TEST_CASE("a saved map opens again as the same map, from disk and by serve") {
  if (browser_missing()) return;
  Page page;
  page.browser.run("page.chooseTool('height'); page.tools.height = 9");
  page.drag({{2, 2}, {6, 6}});
  page.browser.run("page.chooseTool('barrier')");
  page.drag({{12, 3}});
  page.browser.run("page.tools.sides = 'one-way'");
  page.drag({{30, 3}});
  page.browser.run("page.chooseTerrain(2); page.tools.shape = 'disk'; page.tools.radius = 2");
  page.drag({{15, 20}});
  page.browser.run("page.tools.shape = 'flood'");
  page.drag({{36, 6}});
  page.browser.run("page.tools.shape = 'block'");
  page.drag({{1, 20}, {4, 23}});
  const std::string text = page.get("page.text");
  const std::string file = page.save();
  CHECK(content(file) == text);
  CHECK(run_line("survey " + file).exit_code == 0);
  page.browser.choose("#maps", "atoll.toml");
  page.settle();
  REQUIRE(page.get("page.scene.told.tiling") == "hex");
  page.browser.run("document.querySelector('#file').hidden = false");
  const Json cost = page.answer()["cost"];
  page.browser.give_file("#file", file);
  page.browser.wait_for("page.scene.told.tiling === 'square'");
  page.settle();
  CHECK(page.get("page.text") == text);
  // Served anew, it is the same map.
  const Served again({file});
  CHECK(again.ask("start", Json::object())["scenario"] == text);
}

TEST_CASE("the keyboard alone paints, asks, steps and carries") {
  if (browser_missing()) return;
  Page page;
  page.set_ends("[3, 4]", "[20, 4]");
  const Json before = page.answer();
  page.browser.run("document.querySelector('#map').focus(); page.cursor = [9, 0]");
  std::vector<std::string> keys = {"8"};  // boulder
  for (int row = 0; row < 10; ++row) keys.insert(keys.end(), {"Enter", "ArrowDown"});
  page.press(keys);
  CHECK(page.get("page.tools.terrain") == "boulder");
  CHECK(page.get("page.cursor") == Json({9, 10}));
  CHECK(page.answer()["cost"] > before["cost"]);
  CHECK(page.answer()["cost"] == Page::command("route " + page.save() + " --from 3,4 --to 20,4")["cost"]);
  page.press({"z", "z", "z", "z", "z", "z", "z", "z", "z", "z"});
  CHECK(page.answer()["cost"] == before["cost"]);
  page.press({"ArrowRight", "g"});
  CHECK(page.answer()["path"].back() == Json({10, 10}));
  page.press({",", ",", "."});
  CHECK(page.get("page.clock.length - page.clock.time") == 1);
  // The hut is carried off the map's ground and sent home, then put down a cell further.
  const Json home = page.get("page.scene.told.units.find((unit) => unit.name === 'hut').at");
  page.browser.run("page.cursor = " + home.dump());
  page.press({"m", "ArrowUp", "ArrowUp", "Escape"});
  CHECK(page.get("page.scene.told.units.find((unit) => unit.name === 'hut').at") == home);
  page.browser.run("page.cursor = " + home.dump());
  page.press({"m", "ArrowUp", "Enter"});
  CHECK(page.get("page.scene.told.units.find((unit) => unit.name === 'hut').at") ==
        Json({home[0], home[1].get<int>() - 1}));
  page.press({"?"});
  CHECK(page.browser.text("#keys").find("undo") != std::string::npos);
  CHECK(page.get("document.querySelector('#keys-part').open") == true);
}

TEST_CASE("danger follows what watches: dragged, turned, weighed, and the front to pick from") {
  if (browser_missing()) return;
  Page page({"demo/gulls.toml"});
  page.set_ends("[1, 10]", "[30, 9]");
  const Json cheapest = page.answer();
  CHECK(page.get("page.front") == Page::command("route demo/gulls.toml --from 1,10 --to 30,9 --front")["front"]);
  page.browser.run(
      "const slider = document.querySelector('#wary'); slider.value = 200;"
      "slider.dispatchEvent(new Event('input'))");
  page.settle();
  const Json wary = page.answer();
  CHECK(wary == Page::command("route demo/gulls.toml --from 1,10 --to 30,9 --wary 2"));
  CHECK(wary["exposure"] < cheapest["exposure"]);
  page.browser.click("#front circle:last-of-type");
  CHECK(page.status().find("picked: cost ") != std::string::npos);
  CHECK(page.get("page.view.shown.paths[0].dashed") == true);

  const Json gull = page.get("page.scene.told.threats[0]");
  const int col = gull["at"][0];
  const int row = gull["at"][1];
  const Json levels = page.get("[...page.scene.levels]");
  page.drag({{col, row}, {col - 4, row + 2}});
  CHECK(page.get("page.scene.told.threats[0].at") == Json({col - 4, row + 2}));
  CHECK(page.get("[...page.scene.levels]") != levels);
  page.press({"e"});
  CHECK(page.get("page.scene.told.threats[0].facing") == 15);
  // Its handle lies ahead; dragged to the south of it, it looks south.
  const Json handle = page.browser.run(
      "const box = page.view.canvas.getBoundingClientRect();"
      "const [x, y] = page.view.toScreen(page.tools.handle(page.selected)); return [x + box.left, y + box.top]");
  const Place to = page.at(col - 4, row + 6);
  page.browser.drag({{handle[0], handle[1]}, to});
  page.settle();
  CHECK(page.get("page.scene.told.threats[0].facing") == 180);
  CHECK(page.answer() == Page::command("route " + page.save() + " --from 1,10 --to 30,9 --wary 2"));
  page.browser.choose("#maps", "guards.toml");
  page.settle();
  page.browser.type("#tick", "7");
  page.settle();
  const Json at_seven = Page::command("threat demo/guards.toml --tick 7");
  CHECK(page.get("[...page.scene.levels].filter((level) => level > 0).length") == at_seven["cells"]);
}

TEST_CASE("every command answers on every demo map, and two searches run on one clock") {
  if (browser_missing()) return;
  Page page(std::vector<std::string>{});
  for (const Json& map : page.get("[...document.querySelectorAll('#maps option')].map((at) => at.value).slice(1)")) {
    page.browser.choose("#maps", map.get<std::string>());
    page.settle();
    const Json commands = page.get("[...document.querySelectorAll('#command option')].map((at) => at.value)");
    CHECK(commands.size() == 13);
    for (const Json& command : commands) {
      INFO(map << " " << command);
      page.browser.choose("#command", command.get<std::string>());
      page.settle();
      // What only a path or a footprint of the tiling can answer is refused in words.
      const bool needs_more = command == "check" || command == "scatter";
      CHECK((page.get("page.answer.error === undefined") == true || needs_more));
      CHECK_FALSE(page.status().empty());
    }
  }
  page.browser.choose("#maps", "strand.toml");
  page.settle();
  page.browser.choose("#command", "compare");
  page.settle();
  CHECK(page.get("document.querySelector('#second').hidden") == false);
  CHECK(page.get("document.querySelectorAll('#runs tbody tr').length") == 2);
  page.browser.run("page.clock.set(100)");
  CHECK(page.get("[page.view.time, page.second.time]") == Json({100, 100}));
  CHECK(page.browser.text("#caption2") == "dijkstra");
  page.browser.type("[data-option='--by']", "right-hand,astar");
  page.settle();
  CHECK(page.browser.text("#caption") == "right-hand");
  const double half = page.get("page.view.camera.scale");
  page.browser.choose("#command", "walk");
  page.settle();
  CHECK(page.get("page.view.camera.scale").get<double>() > 1.5 * half);  // the whole map is fitted to the whole place
  CHECK(page.get("page.clock.length") == page.answer()["steps"]);
}

TEST_CASE("a map is made from the form, watched, and asked about, wild words are told, and nothing is lost") {
  if (browser_missing()) return;
  Page page;
  page.make("maze", 31, 21);
  page.browser.wait_for("document.querySelector('#status').textContent.startsWith('maze by')");
  page.settle();
  CHECK(page.answer()["found"] == true);
  const std::string text = page.get("page.text");
  for (const char* const wild : {"0x0", "99999x99999", "9000x9000", "-1x5", "axb", "1x99999999999999999999"}) {
    page.browser.type("#make-form [data-option='--size']", wild);
    page.browser.click("#make");
    page.browser.wait_for("document.querySelector('#status').classList.contains('alarm')");
    INFO(wild << ": " << page.status());
    CHECK(page.status().find("expected") != std::string::npos);
    page.browser.run("page.say('')");
  }
  page.browser.run("page.setMap('[map', 'broken.toml')");
  page.browser.wait_for("document.querySelector('#status').classList.contains('alarm')");
  page.settle();
  CHECK(page.get("page.text") == text);
  page.browser.choose("#command", "route");
  page.settle();
  page.browser.run("document.querySelectorAll('#form details').forEach((group) => { group.open = true; })");
  page.browser.type("#form [data-option='--budget']", "-3");
  page.settle();
  CHECK(page.status().find("--budget: found \"-3\"") != std::string::npos);
  CHECK(page.get("page.answer.exit") == 2);
}

TEST_CASE("fingers paint with one and zoom with two, and a zoomed view shows each cell where it is") {
  if (browser_missing()) return;
  Page page;
  const double scale = page.get("page.view.camera.scale");
  const Place a = page.at(20, 12);
  const Place b = page.at(28, 12);
  page.browser.pinch(a, {a.first - 120, a.second}, b, {b.first + 120, b.second});
  page.settle();
  CHECK(page.get("page.view.camera.scale").get<double>() > 1.5 * scale);
  CHECK(page.get("page.past.length") == 0);
  // Wherever one looks and however near: the cell under a cell's middle is that cell, on every tiling, upright or as
  // diamonds.
  for (const char* const map : {"strand.toml", "atoll.toml", "mosaic.toml"}) {
    page.browser.choose("#maps", map);
    page.settle();
    for (int round = 0; round < 2; ++round) {
      const Json wrong = page.get(
          "(() => { const { layout } = page.scene; let wrong = 0;"
          "for (let i = 0; i < page.scene.count; ++i) {"
          "  const cell = layout.cell(i); const [x, y] = layout.centre(cell);"
          "  for (const [dx, dy] of [[0, 0], ...layout.outline(cell)])"
          "    if (String(layout.cellAt(x + dx * 0.9, y + dy * 0.9)) !== String(cell)) ++wrong;"
          "} return wrong; })()");
      CHECK(wrong == 0);
      page.browser.click("#show-diamond");
      page.settle();
    }
  }
  page.browser.run("page.chooseTerrain(0); page.wholeMap()");
  page.settle();
  const std::string before = page.get("page.text");
  const Place from = page.at(22, 8);
  page.browser.pinch(from, page.at(24, 9), page.at(30, 9), page.at(36, 9));
  page.browser.wait_for("page.text === " + Json(before).dump());  // two fingers paint nothing
  page.settle();
  CHECK(page.get("page.text") == before);
  page.browser.run("page.wholeMap()");
  page.settle();
  page.browser.pinch(page.at(22, 8), page.at(24, 9), {5, 795}, {5, 790});  // the second finger is not on the map
  page.settle();
  CHECK(page.get("page.text") != before);
}

TEST_CASE("edits of two tabs do not mix") {
  if (browser_missing()) return;
  Page page;
  Browser other;
  other.visit(page.served.address);
  other.wait_for("window.page && page.answer && !page.busy");
  const std::string before = page.get("page.text");
  page.browser.run("page.chooseTerrain(7)");
  page.drag({{8, 2}, {8, 9}});
  CHECK(other.run("return page.text") == before);
  CHECK(page.get("page.text") != before);
  other.run("page.undo()");
  CHECK(other.run("return page.text") == before);
}

TEST_CASE("answers on maps of 100 x 100, measured in the page") {
  if (browser_missing()) return;
  Page page;
  page.make("cave", 100, 100);
  page.settle();
  for (const char* const command : {"route", "reach", "field", "regions", "sight"}) {
    page.browser.choose("#command", command);
    page.settle();
    std::vector<double> times;
    for (int i = 0; i < 9; ++i) {
      times.push_back(page.browser
                          .run("const began = performance.now(); return page.refresh().then(() => performance.now() - "
                               "began)")
                          .get<double>());
    }
    std::sort(times.begin(), times.end());
    std::cout << "  " << command << " on 100 x 100, asked, answered and drawn: median " << times[4] << " ms, slowest "
              << times.back() << " ms\n";
    CHECK(times.front() > 0);
  }
}

TEST_CASE("a file written by --page replays its answer without a server") {
  if (browser_missing()) return;
  const TemporaryFolder folder;
  Browser browser;
  const std::vector<std::string> lines = {"route demo/strand.toml --from 3,4 --to 45,25",
                                          "compare demo/atoll.toml --from 6,4 --to 17,3 --by astar,dijkstra,explore",
                                          "walk demo/mosaic.toml --walker right-hand --from 14,0 --to 38,5"};
  for (const std::string& line : lines) {
    INFO(line);
    const std::string file = folder.path("answer.html");
    REQUIRE(run_line(line + " --page " + file).exit_code != 2);
    browser.visit("file://" + file);
    browser.wait_for("document.querySelector('#time-where')?.textContent.startsWith('step ')");
    const auto steps = browser.run("return Number(document.querySelector('#time').max)").get<int>();
    CHECK(steps > 10);
    CHECK(browser.text("#time-where") == "step " + std::to_string(steps) + " of " + std::to_string(steps));
    browser.click("#time-back");
    CHECK(browser.run("return Number(document.querySelector('#time').value)") == steps - 1);
    const Json box = browser.run(
        "const box = document.querySelector('canvas').getBoundingClientRect();"
        "return [box.left + box.width / 2, box.top + box.height / 2]");
    browser.drag({{box[0], box[1]}, {box[0].get<double>() + 3, box[1].get<double>() + 3}});
    CHECK(browser.text("#cell").starts_with("cell "));
    CHECK_FALSE(browser.text("#legend").empty());
    CHECK(browser.errors().empty());
  }
  for (const std::string& url : browser.requests()) {
    CHECK((url.starts_with("file://") || url.starts_with("data:") || url.starts_with("chrome")));
  }
}

}  // namespace saunter::test
