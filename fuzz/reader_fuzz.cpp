// Feeds bytes to one reader, chosen when built: SAUNTER_FUZZ_SCENARIO, _CSV, _PNG, _PATH or _RULE. What a reader
// accepts must also bake, and be written and read again without change.
#include <cstdint>
#include <cstdlib>
#include <filesystem>
#include <string>
#include <string_view>

#include "saunter/ground/bake.hpp"
#include "saunter/io/files.hpp"
#include "saunter/io/png.hpp"
#include "saunter/io/rule.hpp"
#include "saunter/io/scenario.hpp"
#include "saunter/io/path.hpp"
#include "saunter/io/write_scenario.hpp"

using namespace saunter;

namespace {

constexpr std::size_t largest_baked = 4096;

[[maybe_unused]] void check(const io::Result<io::Scenario>& result) {
  if (!result) {
    if (result.error().message().empty() || result.error().message().find('\n') != std::string::npos) std::abort();
    return;
  }
  const io::Scenario& scenario = result.value();
  if (scenario.map.size().cell_count() > largest_baked) return;
  const BitGrid occupied = scenario.occupied();
  for (const Mover& mover : scenario.movers) (void)bake(scenario.map, mover, &occupied);
  const auto files = io::write_scenario(scenario, "again");
  if (!files || scenario.map.has_heights()) return;  // heights go to a file of their own
  const auto again = io::parse_scenario(files.value().front().bytes, "again.toml");
  if (!again || again.value().map.terrain() != scenario.map.terrain()) std::abort();
}

[[maybe_unused]] void through_layer_file(std::string_view bytes, const char* key, const char* name) {
  static const std::string folder = [] {
    const auto path = std::filesystem::temp_directory_path() / "saunter_fuzz";
    std::filesystem::create_directories(path);
    return path.string();
  }();
  (void)io::write_file(folder + "/" + name, std::string(bytes));
  const std::string text =
      std::string("saunter = 1\n[map]\ntiling = 'square'\n") + key + " = '" + name +
      "'\n[terrain.a]\nglyph = 'a'\ncolor = '#000000'\n[terrain.b]\nglyph = 'b'\ncolor = '#ffffff'\n";
  check(io::parse_scenario(text, "fuzz.toml", folder));
}

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  const std::string_view bytes(reinterpret_cast<const char*>(data), size);
#if defined(SAUNTER_FUZZ_SCENARIO)
  check(io::parse_scenario(bytes, "fuzz.toml", "/nonexistent"));
#elif defined(SAUNTER_FUZZ_CSV)
  through_layer_file(bytes, "terrain_csv", "layer.csv");
  through_layer_file(bytes, "rows = '..'\nheight_csv", "layer.csv");
#elif defined(SAUNTER_FUZZ_PNG)
  (void)io::decode_grey_png(bytes, "grey");
  through_layer_file(bytes, "terrain_png", "layer.png");
#elif defined(SAUNTER_FUZZ_PATH)
  const auto path = io::parse_path(bytes, "path.json");
  if (!path && (path.error().message().find('\n') != std::string::npos || path.error().message().size() > 1000))
    std::abort();
#elif defined(SAUNTER_FUZZ_RULE)
  (void)io::parse_hundredths(std::string(bytes));
  if (const auto rule = io::parse_rule_words(std::string(bytes))) {
    check(io::parse_scenario(
        "saunter = 1\n[map]\ntiling = 'square'\nrows = '..'\n[terrain.sand]\nglyph = '.'\n[rules]\nhut = ['" +
            std::string(bytes) + "']\n",
        "fuzz.toml"));
  }
#endif
  return 0;
}
