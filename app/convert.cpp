#include <fmt/format.h>

#include <algorithm>
#include <filesystem>

#include "saunter/io/files.hpp"
#include "saunter/io/write_scenario.hpp"
#include "shared.hpp"

namespace saunter::app {
namespace {

class ConvertCommand final : public Command {
 public:
  ConvertCommand()
      : Command("convert", "the same scenario with its layers in other forms",
                "convert demo/strand.toml --terrain png --out /tmp/strand.toml", Takes::scenario) {}

  void add_words(Words& words) override {
    words.heading("Answer");
    words.file("--out", out_, "scenario file to write; its layers are put beside it").required();
    words.choice<io::TerrainForm>(
        "--terrain", forms_.terrain,
        {{"rows", io::TerrainForm::rows}, {"csv", io::TerrainForm::csv}, {"png", io::TerrainForm::png}},
        "rows (default), csv or png");
    words.choice<io::HeightForm>(
        "--heights", forms_.heights,
        {{"csv", io::HeightForm::csv}, {"png", io::HeightForm::png}, {"rows", io::HeightForm::rows}},
        "csv (default), png, or rows in the file itself");
    words.choice<io::BarrierForm>("--barriers", forms_.barriers,
                                  {{"tables", io::BarrierForm::tables}, {"png", io::BarrierForm::png}},
                                  "tables (default) or png (square maps)");
  }

  Answer answer() override {
    if (!out_.ends_with(".toml")) Words::refuse_word("--out", out_, "a name that ends in .toml");
    const io::Scenario scenario = load(common);
    const std::filesystem::path out(out_);
    const auto files = io::write_scenario(scenario, out.stem().string(), forms_);
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

 private:
  std::string out_;
  io::WriteOptions forms_;
};

}  // namespace

std::unique_ptr<Command> make_convert() { return std::make_unique<ConvertCommand>(); }

}  // namespace saunter::app
