#include <fmt/format.h>

#include "placing.hpp"
#include "saunter/draw/overlay/marks.hpp"
#include "saunter/draw/overlay/path.hpp"
#include "saunter/place/gather.hpp"

namespace saunter::app {
namespace {

class GatherCommand final : public Command {
 public:
  GatherCommand()
      : Command("gather", "a place for each of several units about a rally cell, and who goes where",
                "gather demo/strand.toml --mover crab --from 2,3 --from 5,5 --from 20,18 --to 30,12 --draw g.png") {}

  void add_words(Words& words) override {
    words.heading("Question");
    words.cells("--from", from_, "where a unit stands, as col,row; one for each unit").required();
    words.cell("--to", to_, "the rally cell as col,row").required();
    words.choice<GatherAim>("--aim", options_.aim, {{"sum", GatherAim::least_sum}, {"soonest", GatherAim::soonest}},
                            "what is least: the sum of all costs (default), or the costliest way");
    words.text("--formation", formation_,
               "places wanted first, beside the rally cell: \"0,0 1,0 ...\" as columns and rows, on hexes q and r");
    mover_words_.add_words(words);
  }

  Answer answer() override {
    if (from_.size() > Gatherer::most_units) {
      throw Refused{fmt::format("--from: found {} units, expected at most {}", from_.size(), Gatherer::most_units)};
    }
    for (const std::string& word : split(formation_, ' ')) {
      if (word.empty()) continue;
      const Cell offset = Words::parse_cell(word, "--formation");
      offsets_.push_back({offset.col, offset.row});
    }
    ready_.make(common, mover_words_);
    options_.formation = offsets_;
    Answer answer;
    answer.json = {
        {"command", "gather"},    {"placed", 0},       {"sum", nullptr}, {"last", nullptr}, {"places", Json::array()},
        {"units", Json::array()}, {"reason", nullptr}, {"at", nullptr}};
    if (!ready_.costs.size().contains(to_)) {
      ready_.refuse_cell(answer, "nobody gathers", {Reason::goal_off_map, to_});
      return answer;
    }
    Gatherer gatherer;
    tell(gatherer.gather(ready_.costs, from_, to_, options_), answer);
    return answer;
  }

 private:
  void tell(const Gathering& gathering, Answer& answer) {
    answer.exit_code = gathering.placed == from_.size() ? exit_yes : exit_no;
    answer.json["placed"] = gathering.placed;
    answer.json["sum"] = json_sum(gathering.sum);
    answer.json["last"] = json_cost(gathering.last);
    answer.json["places"] = json_cells(gathering.places);
    answer.text = fmt::format("{} of {} gather about {}: cost {} in all, at most {}\n", gathering.placed,
                              counted(from_.size(), "unit", "units"), show(to_), decimal_sum(gathering.sum),
                              to_decimal(gathering.last));
    draw::Picture picture = ready_.picture();
    picture.facts = {{"mover", ready_.mover->name},
                     {"units placed", fmt::format("{} of {}", gathering.placed, from_.size())},
                     {"cost in all", decimal_sum(gathering.sum)},
                     {"costliest way", to_decimal(gathering.last)}};
    Searcher searcher;
    std::vector<Cell> places;
    for (const Gathered& unit : gathering.units) {
      Json json = {{"from", json_cell(unit.from)}, {"to", nullptr}, {"cost", nullptr}, {"path", nullptr}};
      if (unit.to) {
        const Route& route = searcher.route(ready_.costs, unit.from, *unit.to);
        json["to"] = json_cell(*unit.to);
        json["cost"] = json_cost(unit.cost);
        json["path"] = json_cells(route.cells());
        picture.add(draw::Path({route.cells().begin(), route.cells().end()}));
        places.push_back(*unit.to);
        answer.text += fmt::format("  {} to {}: cost {}\n", show(unit.from), show(*unit.to), to_decimal(unit.cost));
      } else {
        answer.text += fmt::format("  {}: no place it can get to\n", show(unit.from));
      }
      answer.json["units"].push_back(json);
    }
    using Kind = draw::Ends::Kind;
    picture.add(draw::Ends(Kind::start, from_)).add(draw::Ends(Kind::goal, std::move(places)));
    picture.add(draw::Ring(to_, "rally cell"));
    answer.picture = std::move(picture);
  }

  MoverWords mover_words_;
  std::vector<Cell> from_;
  Cell to_;
  std::string formation_;
  GatherOptions options_;
  std::vector<Offset> offsets_;
  Ready ready_;
};

}  // namespace

std::unique_ptr<Command> make_gather() { return std::make_unique<GatherCommand>(); }

}  // namespace saunter::app
