// Prepared maps in files: written, read, mapped, and refused.
#include <catch2/catch.hpp>
#include <fstream>

#include "saunter/io/files.hpp"
#include "saunter/io/prepared.hpp"
#include "saunter/search/searcher.hpp"
#include "support/random_maps.hpp"
#include "support/temporary_folder.hpp"

using namespace saunter;
using namespace saunter::io;
using namespace saunter::test;

namespace {

CostGrid board(std::uint64_t seed) {
  Random random(seed);
  return CostGrid({Tiling::hex(HexTop::flat, Shift::even), {30, 20}}, {}, [&](Cell) -> EntryCost {
    return random.chance(20) ? blocked : static_cast<EntryCost>(100 * random.whole(1, 3));
  });
}

std::string refusal(const std::string& file, const CostGrid& costs, Loading loading) {
  const Result<Prepared> read = read_prepared(file, costs, loading);
  REQUIRE_FALSE(read.ok());
  return read.error().message();
}

}  // namespace

TEST_CASE("an index is written and read back, into memory or as the file's own pages") {
  const TemporaryFolder folder;
  const std::string file = folder.path("reef.idx");
  const CostGrid costs = board(1);
  const Prepared index = prepare(costs);
  REQUIRE(write_prepared(file, index).ok());
  CHECK(read_file(file).value().size() == index.bytes().size());
  Searcher searcher;
  for (const Loading loading : {Loading::copied, Loading::mapped}) {
    Result<Prepared> read = read_prepared(file, costs, loading);
    REQUIRE(read.ok());
    const Prepared copy = read.value();
    read = Error{};  // the copy keeps the bytes
    CHECK(copy.follows(costs));
    CHECK(std::ranges::equal(copy.bytes(), index.bytes()));
    Random random(2);
    for (int i = 0; i < 100; ++i) {
      const Cell from = random.cell(costs.size());
      const Cell to = random.cell(costs.size());
      CHECK(searcher.cost(costs, from, to, copy) == searcher.cost(costs, from, to, index));
    }
  }
}

TEST_CASE("what is not this board's index is refused in one line, with what it was") {
  const TemporaryFolder folder;
  const std::string file = folder.path("reef.idx");
  const CostGrid costs = board(1);
  REQUIRE(write_prepared(file, prepare(costs)).ok());
  const std::string whole = read_file(file).value();
  const std::string expected = ", expected a prepared map of this map and mover, made anew";
  for (const Loading loading : {Loading::copied, Loading::mapped}) {
    CHECK(refusal(file, board(2), loading) ==
          file + ": found made for another map or mover, or before the map changed" + expected);
    const std::string other = folder.path("other.idx");
    const auto refused_as = [&](const std::string& content, const std::string& found) {
      REQUIRE(write_file(other, content).ok());
      CHECK(refusal(other, costs, loading) == other + ": found " + found + expected);
    };
    refused_as("", "too short for a prepared map");
    refused_as("sand", "too short for a prepared map");
    refused_as(std::string(whole.size(), 'x'), "not a prepared map");
    refused_as(whole.substr(0, whole.size() - 8), "cut short, or with something after its end");
    refused_as(whole + "12345678", "cut short, or with something after its end");
    refused_as(whole.substr(0, 1000), "cut short");
    std::string newer = whole;
    newer[8] = 9;
    refused_as(newer, "of another version");
    std::string flipped = whole;
    flipped[whole.size() / 2] = static_cast<char>(flipped[whole.size() / 2] ^ 1);
    refused_as(flipped, "damaged");
    CHECK(refusal(folder.path("none.idx"), costs, loading).find("expected a file that can be read") !=
          std::string::npos);
    CHECK(refusal(folder.path(""), costs, loading).find("found a folder") != std::string::npos);
  }
}

TEST_CASE("an empty index is not written, and a file that can't be written stays as it was") {
  const TemporaryFolder folder;
  CHECK_FALSE(write_prepared(folder.path("none.idx"), Prepared()).ok());
  CHECK_FALSE(std::ifstream(folder.path("none.idx")).good());
  CHECK_FALSE(write_prepared(folder.path("missing/reef.idx"), prepare(board(1))).ok());
}
