#include <fmt/format.h>

#include <algorithm>
#include <limits>

#include "saunter/draw/overlay/marks.hpp"
#include "saunter/draw/overlay/walked.hpp"
#include "saunter/io/text.hpp"
#include "saunter/walk.hpp"
#include "replay.hpp"

namespace saunter::app {
namespace {

class WalkCommand final : public Command {
 public:
  WalkCommand()
      : Command("walk", "a mover without a plan feels its way",
                "walk demo/strand.toml --walker turn-to-goal --from 2,3 --to 40,25 --draw walk.png",
                Takes::scenario_picture_and_page) {}

  void add_words(Words& words) override {
    words.heading("Question");
    std::vector<std::pair<std::string, WalkerKind>> kinds;
    for (const WalkerKind kind : all_walkers) kinds.emplace_back(walker_name(kind), kind);
    words
        .choice("--walker", kind_, kinds,
                "wander, turn-right, turn-left, turn-to-goal, right-hand, left-hand or explore")
        .required();
    words.cell("--from", from_, "start cell as col,row").required();
    words.cell("--to", to_, "goal cell as col,row; without one it walks until it goes round or gives up");
    words.whole("--steps", most_steps_, 1, std::numeric_limits<std::int64_t>::max(),
                "take at most so many steps (default: four for each cell of the map)");
    words.seed("--seed", seed_, "wander alone goes by chance: another number, another way (default: 1)");
    words.need({"--walker=explore", "--walker=turn-to-goal"}, {"--to"}, "which it heads for");
    mover_words_.add_words(words);
  }

  Answer answer() override {
    ready_.make(common, mover_words_);
    if (common.handed != nullptr && most_steps_.value_or(0) > most_steps_shown) {
      throw Refused{fmt::format("--steps: found {}, expected at most {} on the page", *most_steps_, most_steps_shown)};
    }
    walk_.emplace(ready_.costs, WalkOptions{kind_, from_, to_, seed_, most_steps_, true});
    Answer answer;
    answer.json = {{"command", "walk"}, {"walker", walker_name(kind_)}, {"at", nullptr}};
    if (walk_->verdict().reason != Reason::found) {
      for (const char* const key : {"steps", "visited", "revisits", "restarts", "path"}) answer.json[key] = nullptr;
      answer.json["arrived"] = false;
      ready_.refuse_cell(answer, ready_.mover->name + " finds no way", walk_->verdict());
      return answer;
    }
    (void)walk_->run(ready_.costs, std::numeric_limits<std::uint64_t>::max());
    answer.exit_code = walk_->arrived() ? exit_yes : exit_no;
    answer.json.update({{"arrived", walk_->arrived()},
                        {"reason", walk_end_name(walk_->end())},
                        {"steps", walk_->steps()},
                        {"visited", walk_->visited()},
                        {"revisits", walk_->revisits()},
                        {"restarts", walk_->restarts()},
                        {"path", json_cells(walk_->trail().cells())}});
    answer.text = sentence();
    answer.picture = picture();
    if (common.wants_page()) {
      answer.replay = walk_replay(ready_.costs.size(), walk_->trail().cells());
      ready_.add_scene(answer, std::span(&from_, 1), to_ ? std::span<const Cell>(&*to_, 1) : std::span<const Cell>());
    }
    return answer;
  }

 private:
  [[nodiscard]] std::string how_it_ended() const {
    switch (walk_->end()) {
      case WalkEnd::arrived: return "arrives";
      case WalkEnd::loop: return "goes round for ever: it is where it was before, heading as it did then";
      case WalkEnd::stuck: return "is stuck: no step is legal";
      case WalkEnd::steps: return "has used up its steps";
      case WalkEnd::none: break;
    }
    return "is on its way";
  }

  [[nodiscard]] std::string sentence() const {
    const std::string where = walk_->arrived() ? show(*to_) : fmt::format("at {}", show(walk_->cell()));
    std::string text =
        fmt::format("{}, {}, from {}: {} {}\n{}, {} walked on, {} into cells it had been on", ready_.mover->name,
                    walker_name(kind_), show(from_), how_it_ended(), where, counted(walk_->steps(), "step", "steps"),
                    counted(walk_->visited(), "cell", "cells"), counted(walk_->revisits(), "step", "steps"));
    if (walk_->restarts() > 0) text += fmt::format(", {}", counted(walk_->restarts(), "restart", "restarts"));
    return text + "\n";
  }

  [[nodiscard]] draw::Picture picture() const {
    constexpr std::size_t last_steps = 24;
    draw::Picture picture = ready_.picture();
    picture.facts = {{"mover", ready_.mover->name},
                     {"walker", std::string(walker_name(kind_))},
                     {"ends by", std::string(walk_end_name(walk_->end()))},
                     {"steps", std::to_string(walk_->steps())},
                     {"cells walked on", std::to_string(walk_->visited())}};
    if (walk_->restarts() > 0) picture.facts.emplace_back("restarts", std::to_string(walk_->restarts()));
    std::vector<Cell> cells = walk_->trail().cells();
    if (cells.size() > last_steps + 1) cells.erase(cells.begin(), cells.end() - last_steps - 1);
    picture.add(draw::Walked(walk_->trail().counts(), std::move(cells)));
    picture.add(draw::Ends(draw::Ends::Kind::start, {from_}));
    if (to_) picture.add(draw::Ends(draw::Ends::Kind::goal, {*to_}));
    return picture;
  }

  MoverWords mover_words_;
  WalkerKind kind_ = WalkerKind::explore;
  Cell from_;
  std::optional<Cell> to_;
  std::optional<std::uint64_t> most_steps_;
  std::uint64_t seed_ = 1;

  Ready ready_;
  std::optional<Walk> walk_;
};

}  // namespace

std::unique_ptr<Command> make_walk() { return std::make_unique<WalkCommand>(); }

}  // namespace saunter::app
