#include "saunter/region/regions.hpp"

#include <fmt/format.h>

#include <algorithm>

#include "saunter/draw/overlay/marks.hpp"
#include "saunter/draw/overlay/regions.hpp"
#include "saunter/region/chokes.hpp"
#include "saunter/region/cut_off.hpp"
#include "saunter/region/joins.hpp"
#include "shared.hpp"

namespace saunter::app {
namespace {

Json region_json(const Region& region) {
  return {{"id", region.id},
          {"cells", region.cells},
          {"box", {region.box.left, region.box.top, region.box.right - 1, region.box.bottom - 1}},
          {"first", json_cell(region.first)}};
}

Json join_json(const Join& join) {
  return {{"from", join.from},
          {"to", join.to},
          {"cost", json_cost(static_cast<std::int64_t>(join.cost))},
          {"opens", json_cells(join.opens)}};
}

std::string cells_text(std::span<const Cell> cells) {
  std::string text;
  for (std::size_t i = 0; i < cells.size() && i < most_listed; ++i) text += " " + show(cells[i]);
  if (cells.size() > most_listed) text += fmt::format(" and {} more", cells.size() - most_listed);
  return text;
}

class RegionsCommand final : public Command {
 public:
  RegionsCommand()
      : Command("regions", "what is cut off, how to join it, what must stay open",
                "regions demo/strand.toml --mover crab --join --chokes --draw regions.png") {}

  void add_words(Words& words) override {
    words.heading("Question");
    words.cell("--from", from_, "tell what can't be reached from here, and what can't be come back from");
    words.whole("--min", least_cells_, 1, max_map_cells, "list and join only regions of at least so many cells");
    words.flag("--join", join_, "which cells to open so that all regions meet, at least cost");
    words.whole("--extra", extra_, 0, max_map_cells, "so many joins more than needed, for loops");
    words.flag("--chokes", with_chokes_, "cells whose loss would split a region");
    mover_words_.add_words(words);
    words.heading("Answer");
    words.file("--csv", csv_, "write the region of each cell, - where there is none");
    words.need({"--extra"}, {"--join"});
  }

  Answer answer() override {
    ready_.make(common, mover_words_);
    regions_ = Regions(ready_.costs);
    Answer answer;
    answer.json = {{"command", "regions"}, {"regions", Json::array()}, {"cut_off", nullptr},
                   {"no_return", nullptr}, {"joins", nullptr},         {"chokes", nullptr}};
    answer.picture = ready_.picture();
    answer.picture->facts = {{"mover", ready_.mover->name}, {"regions", std::to_string(regions_.list().size())}};
    answer.picture->add(draw::RegionColors(regions_));
    list_regions(answer);
    if (from_) {
      find_cut_off(answer);
    } else {
      find_smaller_regions(answer);
    }
    answer.picture->add(draw::CutOff(cut_off_));
    if (join_) find_joins(answer);
    if (with_chokes_) find_all_chokes(answer);
    if (from_) answer.picture->add(draw::Ends(draw::Ends::Kind::start, {*from_}));
    if (!csv_.empty()) {
      add_file(answer, csv_,
               io::to_csv(filled(ready_.costs.size(), [&](Cell cell) { return none_for_zero(regions_.at(cell)); })));
    }
    return answer;
  }

 private:
  void list_regions(Answer& answer) const {
    std::vector<Region> shown;
    for (const Region& region : regions_.list()) {
      if (region.cells >= least_cells_) shown.push_back(region);
    }
    for (const Region& region : shown) answer.json["regions"].push_back(region_json(region));
    answer.text = fmt::format("{} has {}", ready_.mover->name, counted(regions_.list().size(), "region", "regions"));
    if (shown.size() < regions_.list().size()) {
      answer.text += fmt::format(", {} of at least {} cells", shown.size(), least_cells_);
    }
    answer.text += "\n";
    std::stable_sort(shown.begin(), shown.end(), [](const Region& a, const Region& b) { return a.cells > b.cells; });
    for (std::size_t i = 0; i < shown.size() && i < most_listed; ++i) {
      answer.text += fmt::format("  {}: {}, first {}\n", shown[i].id, counted(shown[i].cells, "cell", "cells"),
                                 show(shown[i].first));
    }
    if (shown.size() > most_listed) answer.text += fmt::format("  and {} more\n", shown.size() - most_listed);
  }

  /// What can't be reached from --from, and what can't be come back from.
  void find_cut_off(Answer& answer) {
    if (!ready_.costs.open(*from_)) {
      throw Refused{"--from: found " + show(*from_) + ", where " + ready_.mover->name +
                    " cannot stand; expected a cell it can start from"};
    }
    saunter::CutOff found = cut_off_from(ready_.costs, *from_);
    cut_off_ = std::move(found.cut_off);
    answer.exit_code = cut_off_.empty() ? exit_yes : exit_no;
    answer.json["cut_off"] = json_cells(cut_off_);
    answer.json["no_return"] = json_cells(found.no_return);
    answer.text += cut_off_.empty() ? fmt::format("all of it can be reached from {}\n", show(*from_))
                                    : fmt::format("{} cut off from {}:{}\n", counted(cut_off_.size(), "cell", "cells"),
                                                  show(*from_), cells_text(cut_off_));
    if (found.no_return.empty()) return;
    answer.text += fmt::format("no return from {}:{}\n", counted(found.no_return.size(), "cell", "cells"),
                               cells_text(found.no_return));
  }

  /// Without --from, what does not belong to the largest region.
  void find_smaller_regions(Answer& answer) {
    answer.exit_code = regions_.list().size() > 1 ? exit_no : exit_yes;
    const Region* const largest = regions_.largest();
    if (largest == nullptr) return;
    for (const Cell cell : ready_.costs.size().cells()) {
      if (regions_.at(cell) != 0 && regions_.at(cell) != largest->id) cut_off_.push_back(cell);
    }
  }

  void find_joins(Answer& answer) const {
    if (ready_.mover->size != 1) {
      throw Refused{"--join: found mover \"" + ready_.mover->name + "\" of size " + std::to_string(ready_.mover->size) +
                    ", expected one of size 1"};
    }
    const Map& map = ready_.scenario.map;
    const BitGrid occupied = ready_.scenario.occupied(mover_words_.as_unit);
    const BreachCosts breach(map, ready_.costs, &occupied);
    const JoinPlan plan =
        plan_joins(map, *ready_.mover, ready_.costs, regions_, breach, {.least_cells = least_cells_, .extra = extra_});
    answer.json["joins"] = Json::array();
    std::vector<Join> all = plan.joins;
    all.insert(all.end(), plan.extra.begin(), plan.extra.end());
    std::vector<Cell> opens;
    for (const Join& join : all) {
      answer.json["joins"].push_back(join_json(join));
      opens.insert(opens.end(), join.opens.begin(), join.opens.end());
    }
    answer.json["apart"] = plan.apart;
    tell_joins(plan, all, answer);
    answer.picture->facts.emplace_back("joins", std::to_string(plan.joins.size()));
    answer.picture->facts.emplace_back("joins cost", to_decimal(static_cast<std::int64_t>(plan.cost)));
    answer.picture->add(draw::Openings(opens));
  }

  static void tell_joins(const JoinPlan& plan, const std::vector<Join>& all, Answer& answer) {
    if (plan.joins.empty()) {
      answer.text += plan.apart.empty() ? "there is nothing to join\n" : "no join can connect them\n";
    } else {
      answer.text += fmt::format("{} would connect {}, at a cost of {}\n", counted(plan.joins.size(), "join", "joins"),
                                 plan.apart.empty() ? "them" : "what can be connected",
                                 to_decimal(static_cast<std::int64_t>(plan.cost)));
    }
    for (std::size_t i = 0; i < all.size() && i < most_listed; ++i) {
      answer.text += fmt::format("  {} and {} for {}: open{}\n", all[i].from, all[i].to,
                                 to_decimal(static_cast<std::int64_t>(all[i].cost)), cells_text(all[i].opens));
    }
    if (all.size() > most_listed) answer.text += fmt::format("  and {} more\n", all.size() - most_listed);
    if (plan.apart.empty()) return;
    answer.text += "can't be joined to the first:";
    for (const std::uint32_t id : plan.apart) answer.text += " " + std::to_string(id);
    answer.text += "\n";
  }

  void find_all_chokes(Answer& answer) const {
    const std::vector<Choke> chokes = find_chokes(ready_.costs, regions_);
    std::vector<Cell> cells;
    cells.reserve(chokes.size());
    for (const Choke& choke : chokes) cells.push_back(choke.cell);
    answer.json["chokes"] = json_cells(cells);
    std::vector<Corridor> by_weight = corridors(ready_.costs, chokes);
    std::stable_sort(by_weight.begin(), by_weight.end(),
                     [](const Corridor& a, const Corridor& b) { return a.smaller_side > b.smaller_side; });
    answer.text += fmt::format("{} in {}\n", counted(chokes.size(), "choke cell", "choke cells"),
                               counted(by_weight.size(), "place", "places"));
    for (std::size_t i = 0; i < by_weight.size() && i < most_listed; ++i) {
      const Corridor& corridor = by_weight[i];
      const std::string where = corridor.cells.size() == 1
                                    ? show(corridor.cells.front())
                                    : fmt::format("{} .. {}, {} cells", show(corridor.cells.front()),
                                                  show(corridor.cells.back()), corridor.cells.size());
      answer.text += fmt::format("  {}: {} beyond\n", where, counted(corridor.smaller_side, "cell", "cells"));
    }
    if (by_weight.size() > most_listed) answer.text += fmt::format("  and {} more\n", by_weight.size() - most_listed);
    answer.picture->add(draw::Chokes(cells));
  }

  MoverWords mover_words_;
  std::optional<Cell> from_;
  std::uint32_t least_cells_ = 1;
  bool join_ = false;
  std::size_t extra_ = 0;
  bool with_chokes_ = false;
  std::string csv_;

  Ready ready_;
  Regions regions_;
  std::vector<Cell> cut_off_;
};

}  // namespace

std::unique_ptr<Command> make_regions() { return std::make_unique<RegionsCommand>(); }

}  // namespace saunter::app
