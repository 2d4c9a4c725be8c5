// Memory that runs out while something is read is told as that, never as a file that is wrong. (TOML itself is read by
// a library that ends the program then.)
#include <catch2/catch.hpp>

#include <functional>
#include <new>

#include "saunter/io/files.hpp"
#include "saunter/io/play.hpp"
#include "saunter/io/png.hpp"
#include "saunter/io/prepared.hpp"
#include "saunter/io/scenario.hpp"
#include "saunter/io/write_scenario.hpp"
#include "support/failing_memory.hpp"
#include "support/places.hpp"

using namespace saunter;
using namespace saunter::test;

namespace {

/// Lets the n-th allocation of some work fail, for every n. @param work  whether it went well  @return how often
std::size_t run_out_of(const std::function<bool()>& work) {
  for (std::size_t n = 0;; ++n) {
    INFO("allocation " << n);
    failing_memory::fail_after(n);
    bool well = false;
    bool ran_out = false;
    try {
      well = work();
    } catch (const std::bad_alloc&) {
      ran_out = true;
    }
    failing_memory::never_fail();
    if (!ran_out) {
      REQUIRE(well);
      return n;
    }
  }
}

}  // namespace

TEST_CASE("memory that runs out while pictures, files and scenarios are read or written is told as that") {
  const std::string demo = source_dir() + "/demo/";
  std::size_t failures = 0;
  for (const char* const name :
       {"strand.toml", "gulls.toml", "guards.toml", "atoll.toml", "mosaic.toml", "tide.toml"}) {
    INFO(name);
    const std::string text = io::read_file(demo + name).value();
    const io::Scenario scenario = io::parse_scenario(text, name).value();
    failures += run_out_of([&] { return static_cast<bool>(io::write_scenario(scenario, "out")); });
    failures += run_out_of([&] { return scenario.sight().size() == scenario.map.size(); });
  }
  failures += run_out_of([&] { return static_cast<bool>(io::read_file(demo + "strand.toml")); });
  const std::string grey = io::encode_grey_png(Grid<std::uint16_t>(Size{9, 7}, 3), 8);
  failures += run_out_of([&] { return static_cast<bool>(io::decode_grey_png(grey, "grey.png")); });
  failures += run_out_of([&] { return io::encode_grey_png(Grid<std::uint16_t>(Size{9, 7}, 3), 8) == grey; });
  const std::string colours = io::encode_png(Grid<Rgb>(Size{9, 7}));
  failures += run_out_of([&] { return static_cast<bool>(io::decode_rgb_png(colours, "colours.png")); });
  CHECK(failures > 200);
}
