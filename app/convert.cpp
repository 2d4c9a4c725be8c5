#include <fmt/format.h>

#include <algorithm>
#include <filesystem>

#include "saunter/io/files.hpp"
#include "saunter/io/write_scenario.hpp"
#include "shared.hpp"

namespace saunter::app {
namespace {

struct Convert {
  Common common;
  std::string out;
  std::string terrain = "rows";
  std::string heights = "csv";
  std::string barriers = "tables";
};

/// The place of a word in a list; refuses others, naming the option.
std::size_t choose(const std::string& word, const std::string& option, std::initializer_list<const char*> words) {
  std::size_t i = 0;
  std::string expected;
  for (const char* known : words) {
    if (word == known) return i;
    expected += (i++ == 0 ? "" : ", ") + std::string(known);
  }
  throw Refused{option + ": found \"" + word + "\", expected one of " + expected};
}

Answer convert(const Convert& options) {
  io::WriteOptions forms;
  forms.terrain = static_cast<io::TerrainForm>(choose(options.terrain, "--terrain", {"rows", "csv", "png"}));
  forms.heights = static_cast<io::HeightForm>(choose(options.heights, "--heights", {"csv", "png"}));
  forms.barriers = static_cast<io::BarrierForm>(choose(options.barriers, "--barriers", {"tables", "png"}));
  if (!options.out.ends_with(".toml")) {
    throw Refused{"--out: found \"" + options.out + "\", expected a name that ends in .toml"};
  }
  const io::Scenario scenario = load(options.common);
  const std::filesystem::path out(options.out);
  const auto files = io::write_scenario(scenario, out.stem().string(), forms);
  if (!files) throw Refused{files.error().message()};

  // All files lie complete beside their places before the first is put there; the scenario itself comes last.
  Answer answer;
  answer.json = {{"command", "convert"}, {"files", Json::array()}};
  for (const io::NamedFile& file : files.value()) {
    const std::string path = (out.parent_path() / file.name).string();
    add_file(answer, path, file.bytes);
    std::rotate(answer.files.begin(), answer.files.end() - 1, answer.files.end());
    answer.json["files"].push_back(path);
    answer.text += fmt::format("{}: {} bytes\n", path, file.bytes.size());
  }
  return answer;
}

}  // namespace

void add_convert(CLI::App& app, Chosen& chosen) {
  auto options = std::make_shared<Convert>();
  CLI::App& command = *app.add_subcommand("convert", "the same scenario with its layers in other forms");
  command.footer("Example: saunter convert demo/strand.toml --terrain png --out /tmp/strand.toml");
  add_scenario(command, options->common);
  command.add_option("--out", options->out, "scenario file to write; its layers are put beside it")->required();
  command.add_option("--terrain", options->terrain, "rows (default), csv or png");
  command.add_option("--heights", options->heights, "csv (default) or png");
  command.add_option("--barriers", options->barriers, "tables (default) or png (square maps)");
  command.callback([&chosen, options] { chosen = {[options] { return convert(*options); }, &options->common}; });
}

}  // namespace saunter::app
