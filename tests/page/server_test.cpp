// The page's server and those it is not for: wrong words, other places, huge and broken bodies.
#include <catch2/catch.hpp>

#include <arpa/inet.h>
#include <sys/socket.h>
#include <sys/stat.h>
#include <unistd.h>

#include <chrono>
#include <csignal>
#include <cstdlib>
#include <fstream>
#include <thread>

#include "app/run_program.hpp"
#include "served.hpp"

namespace saunter::test {
namespace {

#ifdef SAUNTER_SANITIZED
constexpr std::size_t little_memory = 300'000'000;  // the sanitizer keeps what was freed for a while
constexpr std::chrono::seconds soon(40);
#else
constexpr std::size_t little_memory = 10'000'000;
constexpr std::chrono::seconds soon(8);
#endif

int connected(int port) {
  const int connection = socket(AF_INET, SOCK_STREAM, 0);
  sockaddr_in address = {};
  address.sin_family = AF_INET;
  address.sin_port = htons(static_cast<std::uint16_t>(port));
  address.sin_addr.s_addr = htonl(INADDR_LOOPBACK);
  REQUIRE(connect(connection, reinterpret_cast<sockaddr*>(&address), sizeof address) == 0);
  return connection;
}

/// Sends bytes as they are. @return the first line of what comes back, "" when nothing does
std::string sent_raw(int port, const std::string& bytes, bool close_early = false) {
  const int connection = connected(port);
  const timeval patience{15, 0};
  setsockopt(connection, SOL_SOCKET, SO_RCVTIMEO, &patience, sizeof patience);
  std::string line;
  if (send(connection, bytes.data(), bytes.size(), MSG_NOSIGNAL) > 0 && !close_early) {
    for (char c = 0; recv(connection, &c, 1, 0) == 1 && c != '\r';) line += c;
  }
  close(connection);
  return line;
}

const std::string small_map =
    "saunter = 1\n[map]\ntiling = \"square\"\nrows = '''\n....\n.##.\n....\n'''\n"
    "[terrain.sand]\nglyph = \".\"\ncolor = \"#e6d5a8\"\n"
    "[terrain.boulder]\nglyph = \"#\"\ncolor = \"#6b6560\"\ncost = false\n[mover.crab]\n"
    "[[unit]]\nname = \"crate\"\nat = [0, 2]\n[[threat]]\nname = \"gull\"\nat = [3, 0]\nrange = 2\nlevels = [[1, 1]]\n";

Json show(const Json& edits) { return {{"scenario", small_map}, {"edits", edits}}; }

}  // namespace

TEST_CASE("who the server is not for gets 403, 4xx for what is malformed, and it lives on") {
  const Served served;
  auto client = served.client();
  const std::string good = R"({"scenario": "", "ask": []})";
  const std::string host = "127.0.0.1:" + std::to_string(served.port);
  std::string wrong = served.path;
  wrong[5] = wrong[5] == 'a' ? 'b' : 'a';
  using httplib::Headers;
  struct Request {
    std::string path;
    Headers headers;
    std::string body;
    int expected;
  };
  const std::vector<Request> posts = {
      {"/show", {}, good, 403},
      {wrong + "show", {}, good, 403},
      {served.path.substr(0, served.path.size() - 2) + "/show", {}, good, 403},
      {served.path + "unknown", {}, good, 403},
      {served.path + "show/", {}, good, 403},
      {served.path + "", {}, good, 403},
      {served.path + "show", {{"Host", "example.org"}}, good, 403},
      {served.path + "show", {{"Host", "127.0.0.1"}}, good, 403},
      {served.path + "show", {{"Host", "127.0.0.1:1"}}, good, 403},
      {served.path + "show", {{"Host", host + ".example.org"}}, good, 403},
      {served.path + "show", {{"Origin", "http://example.org"}}, good, 403},
      {served.path + "show", {{"Origin", "null"}}, good, 403},
      {served.path + "show", {{"Origin", "https://" + host}}, good, 403},
      {served.path + "show", {{"Sec-Fetch-Site", "cross-site"}}, good, 403},
      {served.path + "show", {{"Sec-Fetch-Site", "same-site"}}, good, 403},
      {served.path + "show", {{"Content-Encoding", "gzip"}}, "\x1f\x8b\x08", 415},
      {served.path + "show", {}, "", 400},
      {served.path + "show", {}, "{", 400},
      {served.path + "show", {}, R"({"scenario": "sau)", 400},
      {served.path + "show", {}, "[1, 2]", 400},
      {served.path + "show", {}, "null", 400},
      {served.path + "show", {}, std::string(100'000, '['), 400},
      {served.path + "show", {}, std::string("\0\xff\xfe", 3), 400},
      {served.path + "show", {}, R"({"scenario": "x", "tick": -1})", 200},
      {served.path + "show", {}, R"({})", 200},
      {served.path + "show", {}, R"({"scenario": 5})", 200},
      {served.path + "open", {}, R"({"name": "../strand.toml"})", 200},
      {served.path + "open", {}, R"({"name": "index.html"})", 200},
      {served.path + "make", {}, R"({"ask": ["route"]})", 400},
      {served.path + "make", {}, R"({"ask": [7]})", 400},
      {served.path + "make", {}, R"({"ask": []})", 400},
      {served.path + "picture", {}, R"({"scenario": "", "ask": {}})", 400},
  };
  for (const Request& request : posts) {
    INFO(request.path << " " << request.body.substr(0, 60));
    const auto reply = client.Post(request.path, request.headers, request.body, "application/json");
    REQUIRE(reply);
    CHECK(reply->status == request.expected);
    if (request.expected == 200 || request.expected == 400)
      CHECK_FALSE(Json::parse(reply->body)["error"].get<std::string>().empty());
  }
  CHECK(client.Post(served.path + "show", good, "text/plain")->status == 415);
  for (const std::string& path : {std::string("/"), std::string("/index.html"), served.path + "../page.js",
                                  served.path + "%2e%2e/page.js", served.path + "strand.toml", served.path + "show",
                                  served.path + "page.js/", served.path + "etc/passwd", wrong}) {
    INFO(path);
    CHECK(client.Get(path)->status == 403);
  }
  for (const char* const method : {"PUT", "DELETE", "PATCH", "OPTIONS"}) {
    httplib::Request request;
    request.method = method;
    request.path = served.path + "show";
    CHECK(client.send(request)->status == 403);
  }
  const auto page = client.Get(served.path);
  CHECK(page->status == 200);
  CHECK(page->get_header_value("Content-Security-Policy").starts_with("default-src 'none'"));
  CHECK(page->get_header_value("Cache-Control") == "no-store");
  CHECK(page->get_header_value("Referrer-Policy") == "no-referrer");

  // Not even HTTP, or half of it.
  const std::string head = "POST " + served.path + "show HTTP/1.1\r\nHost: " + host + "\r\n";
  CHECK(sent_raw(served.port, head + "Host: example.org\r\nContent-Length: 2\r\n\r\n{}").find("403") !=
        std::string::npos);
  CHECK(sent_raw(served.port,
                 head + "Content-Type: application/json\r\nTransfer-Encoding: chunked\r\n\r\n2\r\n{}\r\n0\r\n\r\n")
            .find("411") != std::string::npos);
  (void)sent_raw(served.port, "\x16\x03\x01\x02garbage\r\n\r\n");
  (void)sent_raw(served.port, head + "Content-Length: 99999\r\n\r\n{\"scen", true);
  (void)sent_raw(served.port, head + "Content-Length: -5\r\n\r\n", true);
  (void)sent_raw(served.port, "GET " + std::string(70'000, 'a') + " HTTP/1.1\r\n\r\n");
  CHECK(served.child.running());
  CHECK(served.ask("show", show(Json::array()))["scene"]["size"] == Json({4, 3}));
}

TEST_CASE("bodies and maps that are too large are told, and the server's memory stays bounded") {
  const Served served;
  auto client = served.client();
  (void)served.ask("show", show(Json::array()));
  const std::size_t before = served.child.memory();
  const std::string huge(100'000'000, 'x');
  const auto reply = client.Post(served.path + "show", huge, "application/json");
  REQUIRE(reply);
  CHECK(reply->status == 413);
  CHECK(served.child.memory() < before + 20'000'000);
  // A map of more cells than the page shows.
  std::string rows;
  for (int row = 0; row < 2'001; ++row) rows += std::string(2'000, '.') + "\n";
  std::string large = small_map;
  large.replace(large.find("....\n.##.\n....\n"), 15, rows);
  large.erase(large.find("[[unit]]"));
  const std::string error = served.ask("show", {{"scenario", large}})["error"];
  CHECK(error.find("found a map of 2000 x 2001 cells, expected at most 4000000") != std::string::npos);
  for (const char* const size : {"3000x3000", "65535x65535", "0x5"}) {
    CHECK(served.ask("make", {{"ask", {"generate", "maze", "--size", size}}}).contains("error"));
  }
  for (const Json& ask : {Json{"compare", "--from", "0,0", "--to", "3,2", "--repeat", "1000000"},
                          Json{"walk", "--walker", "wander", "--from", "0,0", "--steps", "9000000000"}}) {
    const Json answer =
        served.ask("show", {{"scenario", small_map}, {"scene", false}, {"ask", Json::array({ask})}})["answers"][0];
    CHECK(answer["error"].get<std::string>().find("on the page") != std::string::npos);
  }
  CHECK(served.child.running());
}

TEST_CASE("an endless head is cut off, and clients that drip a byte at a time keep nobody from the page") {
  const Served served;
  (void)served.ask("show", show(Json::array()));
  const std::size_t before = served.child.memory();
  for (const std::string& begin : {std::string("GET /"), "GET " + served.path + " HTTP/1.1\r\nHost: ",
                                   "GET " + served.path + " HTTP/1.1\r\nHost: 127.0.0.1\r\nX: y\r\n"}) {
    CHECK(sent_raw(served.port, begin + std::string(3'000'000, 'a')).find("431") != std::string::npos);
  }
  std::vector<int> dripping;
  for (int i = 0; i < 100; ++i) {
    dripping.push_back(connected(served.port));
    (void)send(dripping.back(), "G", 1, MSG_NOSIGNAL);
  }
  const auto begun = std::chrono::steady_clock::now();
  for (int i = 0; i < 20; ++i) CHECK(served.ask("show", show(Json::array())).contains("scene"));
  CHECK(std::chrono::steady_clock::now() - begun < soon);  // no waiting for those who drip
  for (const int connection : dripping) close(connection);
  CHECK(served.child.memory() < before + little_memory);
}

TEST_CASE("questions nested deeper than any page asks are refused, and lengths that are none") {
  const Served served;
  auto client = served.client();
  for (const std::string& open : {std::string("["), std::string("{\"a\":")}) {
    std::string nested = R"({"scenario": "", "ask": )";
    for (int i = 0; i < 100'000; ++i) nested += open;
    nested += "1";
    for (int i = 0; i < 100'000; ++i) nested += open == "[" ? ']' : '}';
    const auto reply = client.Post(served.path + "show", nested + "}", "application/json");
    REQUIRE(reply);
    CHECK(reply->status == 400);
    CHECK(reply->body.find("brackets more than 32 deep") != std::string::npos);
  }
  const std::string head = "POST " + served.path + "show HTTP/1.1\r\nHost: 127.0.0.1:" + std::to_string(served.port) +
                           "\r\nContent-Type: application/json\r\n";
  for (const std::string length : {"-5", "0x10", "18446744073709551616", "1 2", "", "2\r\nContent-Length: 2"}) {
    INFO(length);
    CHECK(sent_raw(served.port, head + "Content-Length: " + length + "\r\n\r\n{}").find(" 400 ") != std::string::npos);
  }
  for (const std::string length : {"33554433", "18446744073709551615"}) {
    CHECK(sent_raw(served.port, head + "Content-Length: " + length + "\r\n\r\n").find(" 413 ") != std::string::npos);
  }
  std::string ranges = "Range: bytes=";
  for (int i = 0; i < 2'000; ++i) ranges += "0-1,";
  CHECK(sent_raw(served.port, "GET " + served.path + " HTTP/1.1\r\nHost: 127.0.0.1:" + std::to_string(served.port) +
                                  "\r\n" + ranges + "\r\n\r\n")
            .find(" 200 ") != std::string::npos);  // all of it, in one piece
}

namespace {

/// A question that takes a minute and more.
std::string long_question(const Served& served) {
  const Json asked = {{"scenario", small_map}, {"scene", false}, {"ask", Json::array()}};
  Json question = asked;
  for (int i = 0; i < 3'000; ++i) {
    question["ask"].push_back({"generate", "maze", "--size", "601x601", "--seed", std::to_string(i)});
  }
  const std::string body = question.dump();
  return "POST " + served.path + "show HTTP/1.1\r\nHost: 127.0.0.1:" + std::to_string(served.port) +
         "\r\nContent-Type: application/json\r\nContent-Length: " + std::to_string(body.size()) + "\r\n\r\n" + body;
}

}  // namespace

TEST_CASE("a tab that is closed gives back what answered it, and a signal ends a busy server at once") {
  Served served;
  const std::string question = long_question(served);
  std::vector<int> tabs;
  for (int i = 0; i < 4; ++i) {  // as many as are answered at a time
    tabs.push_back(connected(served.port));
    REQUIRE(send(tabs.back(), question.data(), question.size(), MSG_NOSIGNAL) == static_cast<ssize_t>(question.size()));
  }
  std::this_thread::sleep_for(std::chrono::milliseconds(500));
  const auto begun = std::chrono::steady_clock::now();
  close(tabs.back());
  CHECK(served.ask("show", show(Json::array())).contains("scene"));  // would wait a minute else
  CHECK(std::chrono::steady_clock::now() - begun < soon);
  const auto signalled = std::chrono::steady_clock::now();
  CHECK(served.child.end(SIGTERM) == 0);
  CHECK(std::chrono::steady_clock::now() - signalled < soon);
}

TEST_CASE("ten thousand quick edits, from several tabs at once, each on its own map") {
  const Served served;
  constexpr int tabs = 4;
  std::array<std::string, tabs> ends;
  std::vector<std::thread> threads;
  for (int tab = 0; tab < tabs; ++tab) {
    threads.emplace_back([&, tab] {
      auto client = served.client();
      std::string text = small_map;
      for (int i = 0; i < 250; ++i) {
        Json edits = Json::array();
        for (int k = 0; k < 10; ++k) {
          edits.push_back({{"do", "paint"},
                           {"terrain", (i + k + tab) % 3 == 0 ? "boulder" : "sand"},
                           {"with", "line"},
                           {"cells", {{(i + k) % 4, tab % 3}}}});
        }
        const auto reply =
            client.Post(served.path + "show", Json{{"scenario", text}, {"edits", edits}}.dump(), "application/json");
        if (!reply || reply->status != 200) return;
        text = Json::parse(reply->body)["scenario"];
      }
      ends.at(static_cast<std::size_t>(tab)) = text;
    });
  }
  for (std::thread& thread : threads) thread.join();
  for (int tab = 0; tab < tabs; ++tab) {
    // Only its own row was painted: the others are as they were.
    const std::string& text = ends.at(static_cast<std::size_t>(tab));
    REQUIRE_FALSE(text.empty());
    const std::size_t first = text.find("'''\n") + 4;
    for (int row = 0; row < 3; ++row) {
      const std::string drawn = text.substr(first + static_cast<std::size_t>(row) * 5, 4);
      if (row != tab % 3) CHECK(drawn == (row == 1 ? ".##." : "...."));
    }
  }
#ifdef SAUNTER_SANITIZED
  constexpr std::size_t most = 1'200'000'000;  // the sanitizer keeps what was freed for a while
#else
  constexpr std::size_t most = 200'000'000;
#endif
  CHECK(served.child.memory() < most);
}

TEST_CASE("edits that can't be are refused with a sentence, and nothing is changed") {
  const Served served;
  const std::vector<std::pair<Json, std::string>> refused = {
      {5, "do: found null, expected a text"},
      {Json::object(), "do: found null, expected a text"},
      {{{"do", "fly"}}, "do: found \"fly\", expected one of paint, barrier"},
      {{{"do", "paint"}, {"terrain", "lava"}, {"with", "line"}, {"cells", {{1, 1}}}}, "expected the name of a terrain"},
      {{{"do", "paint"}, {"terrain", "sand"}, {"with", "line"}, {"cells", Json::array()}},
       "expected 1 to 100000 cells"},
      {{{"do", "paint"}, {"terrain", "sand"}, {"with", "line"}, {"cells", {{1, 1.5}}}},
       "expected a cell as [column, row]"},
      {{{"do", "paint"}, {"terrain", "sand"}, {"with", "line"}, {"cells", {{1, 1, 1}}}},
       "expected a cell as [column, row]"},
      {{{"do", "paint"}, {"terrain", "sand"}, {"with", "line"}, {"cells", {{1, 9'000'000'000}}}}, "a cell of the map"},
      {{{"do", "paint"}, {"terrain", "sand"}, {"with", "disk"}, {"radius", 1e9}, {"cells", {{1, 1}}}}, "radius: found"},
      {{{"do", "paint"}, {"terrain", "sand"}, {"with", "spray"}, {"cells", {{1, 1}}}},
       "one of line, block, disk, flood"},
      {{{"do", "paint"}, {"height", 99'999}, {"with", "line"}, {"cells", {{1, 1}}}}, "a whole number from -32768"},
      {{{"do", "barrier"}, {"from", {0, 0}}, {"to", {2, 0}}, {"sides", "closed"}}, "shares an edge with 0,0"},
      {{{"do", "barrier"}, {"from", {0, 0}}, {"to", {0, -1}}, {"sides", "closed"}}, "expected a cell of the map"},
      {{{"do", "unit"}, {"name", "crate"}, {"at", {1, 1}}, {"turn", 0}}, "it does not fit at 1,1"},
      {{{"do", "unit"}, {"name", "ghost"}, {"at", {1, 1}}, {"turn", 0}}, "the name of a [[unit]]"},
      {{{"do", "unit"}, {"name", "crate"}, {"at", {0, 0}}, {"turn", 4}}, "a whole number from 0 to 3"},
      {{{"do", "threat"}, {"name", "gull"}, {"at", {9, 9}}}, "at: found 9,9, expected a cell of the map"},
      {{{"do", "threat"}, {"name", "gull"}, {"facing", 360}}, "a whole number from 0 to 359"},
      {{{"do", "threat"}, {"name", "nobody"}}, "the name of a [[threat]]"},
      {{{"do", "new-threat"}, {"name", "gull"}, {"at", {0, 0}}}, "a name that no other has"},
      {{{"do", "remove"}, {"name", "nobody"}}, "the name of a threat or a unit"},
  };
  const Json fine = {{"do", "paint"}, {"terrain", "boulder"}, {"with", "block"}, {"cells", {{3, 1}, {3, 2}}}};
  for (const auto& [edit, says] : refused) {
    // A sound edit before it is not made either: the tab keeps the map it sent.
    const Json reply = served.ask("show", show(Json::array({fine, edit})));
    INFO(edit << " " << reply);
    REQUIRE(reply.contains("error"));
    CHECK(reply["error"].get<std::string>().find(says) != std::string::npos);
    CHECK_FALSE(reply.contains("scenario"));
  }
  CHECK(served.ask("show", show(Json::array({fine})))["scene"]["terrain"] == Json({0, 5, 1, 3, 0, 3, 1, 1}));
  const Json moved =
      served.ask("show", show({{{"do", "unit"}, {"name", "crate"}, {"at", {0, 0}}, {"turn", 1}},
                               {{"do", "threat"}, {"name", "gull"}, {"facing", 270}, {"arc", 90}, {"range", 300}},
                               {{"do", "new-threat"}, {"name", "owl"}, {"at", {0, 2}}},
                               {{"do", "barrier"}, {"from", {0, 0}}, {"to", {1, 0}}, {"sides", "one-way"}}}));
  CHECK(moved["scene"]["units"][0]["at"] == Json({0, 0}));
  CHECK(moved["scene"]["threats"][0]["facing"] == 270);
  CHECK(moved["scene"]["threats"][1]["name"] == "owl");
  CHECK(moved["scene"]["closed"] == Json({1, 8}));  // out of 1,0 to the west one cannot go
}

TEST_CASE("options that name files, files in a scenario and commands of the shell are refused on the page") {
  const Served served;
  const auto answer = [&](const Json& words) {
    return served.ask("show", {{"scenario", small_map}, {"scene", false}, {"ask", Json::array({words})}})["answers"][0];
  };
  for (const Json& words :
       {Json{"route", "--from", "0,0", "--to", "3,2", "--trace", "/tmp/saunter-stolen.csv"},
        Json{"route", "--from", "0,0", "--to", "3,2", "--draw", "/tmp/saunter-stolen.png"},
        Json{"route", "--from", "0,0", "--to", "3,2", "--page", "/tmp/saunter-stolen.html"},
        Json{"field", "--to", "0,0", "--csv=/tmp/saunter-stolen.csv"}, Json{"check", "--path-file", "/etc/passwd"},
        Json{"check", "--path", "0,0", "--against", "/etc/passwd"}, Json{"play", "/etc/passwd"},
        Json{"demo", "--out", "/tmp/saunter-stolen"}, Json{"serve"},
        Json{"convert", "--out", "/tmp/saunter-stolen.toml"}, Json{"--help"}, Json{"route", "--help"}}) {
    INFO(words);
    CHECK(answer(words)["exit"] == 2);
  }
  CHECK_FALSE(std::filesystem::exists("/tmp/saunter-stolen.csv"));
  CHECK_FALSE(std::filesystem::exists("/tmp/saunter-stolen.png"));
  for (const char* const key : {"terrain_csv", "terrain_png", "height_csv", "height_png", "barriers_png"}) {
    std::string text = small_map;
    text.insert(text.find("rows"), std::string(key) + " = \"/etc/passwd\"\n");
    const std::string error = served.ask("show", {{"scenario", text}})["error"];
    CHECK(error.find("expected no files") != std::string::npos);
  }
  CHECK(answer({"route", "--from", "0,0", "--to", "3,2"})["json"]["cost"] == 5);
}

TEST_CASE("pictures and answers of the page are those of the commands") {
  const Served served({"demo/gulls.toml"});
  const std::string text = served.ask("start", Json::object())["scenario"];
  const TemporaryFolder folder;
  const std::vector<std::vector<std::string>> lines = {
      {"route", "--from", "1,10", "--to", "30,9"},
      {"route", "--from", "1,10", "--to", "30,9", "--wary", "1", "--linger", "0.5"},
      {"reach", "--from", "1,10", "--budget", "6"},
      {"field", "--to", "30,9"},
      {"regions", "--join"},
      {"sight", "--from", "15,6", "--range", "7.5"},
      {"threat", "--at", "12,9"},
      {"fit", "--unit", "hut", "--all"},
      {"walk", "--walker", "right-hand", "--from", "1,10", "--to", "30,9"},
      {"gather", "--from", "1,10", "--from", "2,10", "--to", "20,9"}};
  for (const std::vector<std::string>& line : lines) {
    std::vector<std::string> words = line;
    words.insert(words.begin() + 1, "demo/gulls.toml");
    for (const std::string& word : {std::string("--draw"), folder.path("answer.png"), std::string("--json")})
      words.push_back(word);
    INFO(words.front());
    const Ran ran = run_program(words);
    const Json answer = served.ask("show", {{"scenario", text}, {"ask", Json::array({line})}})["answers"][0];
    CHECK(answer["json"] == Json::parse(ran.out));
    CHECK(answer["exit"] == ran.exit_code);
    auto client = served.client();
    const Json question = {{"scenario", text}, {"ask", line}, {"form", "png"}};
    const auto picture = client.Post(served.path + "picture", question.dump(), "application/json");
    REQUIRE(picture);
    std::ifstream in(folder.path("answer.png"));
    CHECK((picture->body == std::string(std::istreambuf_iterator<char>(in), {})));
    CHECK(picture->get_header_value("Content-Type") == "image/png");
    const Json as_svg = {{"scenario", text}, {"ask", line}, {"form", "svg"}};
    CHECK(client.Post(served.path + "picture", as_svg.dump(), "application/json")->body.starts_with("<?xml"));
  }
}

TEST_CASE("a page to replay goes with every other option of its commands, and with every no") {
  const TemporaryFolder folder;
  const std::string file = folder.path("answer.html");
  const std::string route = "route demo/gulls.toml --from 1,10 --to 30,9";
  const std::vector<std::pair<std::string, int>> lines = {
      {route, 0},
      {route + " --json", 0},
      {route + " --draw " + folder.path("way.png"), 0},
      {route + " --straighten --natural", 0},
      {route + " --trace " + folder.path("trace.csv"), 0},
      {route + " --wary 1 --linger 0.5", 0},
      {route + " --front", 0},
      {route + " --max-threat 0", 0},
      {route + " --wary 1 --tick 3", 0},
      {route + " --turns 8", 0},
      {route + " --order best --to 12,3", 0},
      {route + " --or-nearest --budget 5", 1},
      {route + " --beside --avoid 12,12 --allow 13,13", 0},
      {route + " --by dead-ends", 0},
      {"route demo/strand.toml --from 3,4 --to 38,7", 1},
      {"route demo/strand.toml --from 3,4 --to 36,4", 1},
      {"compare demo/strand.toml --from 3,4 --to 36,4", 1},
      {"compare demo/strand.toml --from 3,4 --to 45,25 --by jump,prepared,wander --repeat 1", 0},
      {"compare demo/gulls.toml --from 1,10 --to 30,9 --wary 1", 0},
      {"walk demo/strand.toml --walker explore --from 3,4 --to 38,7", 1},
      {"walk demo/strand.toml --walker wander --from 36,4 --steps 5", 1},
      {"walk demo/strand.toml --walker right-hand --from 3,4", 1}};
  for (const auto& [line, code] : lines) {
    INFO(line);
    std::filesystem::remove(file);
    const Ran ran = run_line(line + " --page " + file);
    INFO(ran.err);
    CHECK(ran.exit_code == code);
    REQUIRE(std::filesystem::exists(file));
    std::ifstream in(file);
    const std::string page(std::istreambuf_iterator<char>(in), {});
    const std::size_t from = page.find("id=\"data\">") + 10;
    const Json data = Json::parse(page.substr(from, page.find("</script>", from) - from));
    CHECK(data["scene"]["size"].size() == 2);
    CHECK_FALSE(data["text"].get<std::string>().empty());
    CHECK((page.find("\nimport ") == std::string::npos && page.find("\nexport ") == std::string::npos));
  }
  // Words from a scenario stay words.
  std::string wild = small_map;
  wild.replace(0, 11, "saunter = 1\ntitle = \"</script><script>alert(1)</script>\"");
  CHECK(run_line("route - --from 0,0 --to 3,2 --page " + file, wild).exit_code == 0);
  std::ifstream in(file);
  const std::string page(std::istreambuf_iterator<char>(in), {});
  CHECK(page.find("alert(1)") != std::string::npos);
  CHECK(page.find("<script>alert") == std::string::npos);
}

TEST_CASE("serve tells its address, keeps its port to itself and ends by a signal") {
  Served served({"demo/strand.toml"});
  CHECK(served.ask("start", Json::object())["name"].get<std::string>().ends_with("demo/strand.toml"));
  const Ran second = run_program({"serve", "--port", std::to_string(served.port)});
  CHECK(second.exit_code == 2);
  CHECK(second.err.find("--port: found " + std::to_string(served.port)) != std::string::npos);
  CHECK(served.child.end(SIGINT) == 0);
  const Served terminated({"--port", std::to_string(served.port)});  // the port is free again at once
  CHECK(terminated.port == served.port);
  check_refused({{"serve demo/not-there.toml", "not-there.toml"},
                 {"serve --port 70000", "--port: found \"70000\""},
                 {"serve --port x", "--port: found \"x\""},
                 {"serve demo/tide-script.toml", "tide-script.toml"},
                 {"route demo/strand.toml --from 3,4 --to 5,5 --page x.txt", "--page: found \"x.txt\""},
                 {"reach demo/strand.toml --from 3,4 --page x.html", "found \"--page\""}});
}

TEST_CASE("serve --open gives the browser a file that leads on, and no token among words that everybody can list") {
  const TemporaryFolder folder;
  {
    std::ofstream browser(folder.path("xdg-open"));
    browser << "#!/bin/sh\nprintf '%s\\n' \"$1\" > " << folder.path("asked") << "\nstat -c %a \"$1\" > "
            << folder.path("mode") << "\ncat \"$1\" > " << folder.path("page") << "\nkill -0 $$ && sleep 0.1\n"
            << "touch " << folder.path("done") << "\n";
  }
  REQUIRE(chmod(folder.path("xdg-open").c_str(), 0755) == 0);
  const std::string path = std::getenv("PATH");
  REQUIRE(setenv("PATH", (folder.path("") + ":" + path).c_str(), 1) == 0);
  Served served({"--open"});
  REQUIRE(setenv("PATH", path.c_str(), 1) == 0);
  for (int i = 0; i < 100 && !std::ifstream(folder.path("done")); ++i) {
    std::this_thread::sleep_for(std::chrono::milliseconds(50));
  }
  const auto text = [&](const std::string& name) {
    std::ifstream in(folder.path(name));
    return std::string{std::istreambuf_iterator<char>(in), {}};
  };
  const std::string token = served.path.substr(1, served.path.size() - 2);
  CHECK(text("asked").find(token) == std::string::npos);
  CHECK(text("mode") == "600\n");
  CHECK(text("page").find(served.address) != std::string::npos);
  std::string file = text("asked");
  file.pop_back();
  CHECK(served.child.end(SIGINT) == 0);
  CHECK_FALSE(std::ifstream(file));  // gone with the server
}

}  // namespace saunter::test
