#include "saunter/io/play.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <deque>

#include "saunter/draw/overlay/goers.hpp"
#include "saunter/draw/overlay/ground.hpp"
#include "saunter/draw/overlay/marks.hpp"
#include "saunter/draw/overlay/rim.hpp"
#include "shared.hpp"

namespace saunter::app {
namespace {

/// How the map was at one tick, for the strip.
struct Moment {
  std::uint32_t tick = 0;
  Map map;
  ThreatField danger;
  std::vector<draw::NamedThreat> threats;
  std::vector<draw::Unit> units;
  std::vector<draw::Goer> goers;
  std::size_t changed = 0;
};

class PlayCommand final : public Command {
 public:
  PlayCommand()
      : Command("play", "a scripted run: the map changes, units go, tick by tick",
                "play demo/tide.toml demo/tide-script.toml --draw tide.png") {}

  void add_words(Words& words) override {
    words.file("SCRIPT", script_file_, "timed edits and units that go, in TOML; - for standard input").required();
  }

  Answer answer() override {
    if (common.scenario == "-" && script_file_ == "-") {
      throw Refused{"SCRIPT: found standard input, which is the scenario already, expected a file"};
    }
    scenario_ = load(common);
    io::Result<PlayScript> script = io::read_play(script_file_, scenario_);
    if (!script) throw Refused{script.error().message()};
    live_.emplace(io::live_map(scenario_));
    play_.emplace(*live_, std::move(script).value());
    Answer answer;
    answer.json = {{"command", "play"}, {"ticks", Json::array()}};
    keep_moment(0);
    while (!play_->ended()) tell_tick(play_->step(), answer);
    if (moments_.back().tick != play_->tick()) keep_moment(play_->tick());
    tell_end(answer);
    answer.exit_code = play_->all_arrived() ? exit_yes : exit_no;
    answer.sheet = strip();
    if (answer.sheet && !answer.sheet->panels.empty()) answer.picture = answer.sheet->panels.back();
    return answer;
  }

 private:
  static constexpr std::size_t most_moments = 9;

  [[nodiscard]] const std::string& name(std::size_t unit) const { return play_->script().units[unit].name; }

  void keep_moment(std::uint32_t tick, std::size_t changed = 0) {
    Moment& moment = moments_.emplace_back();
    moment.tick = tick;
    moment.map = live_->map();
    moment.danger = live_->danger();
    moment.changed = changed;
    for (std::size_t i = 0; i < scenario_.threats.size(); ++i) {
      moment.threats.push_back({scenario_.threats[i].name, live_->threat(ThreatNumber(static_cast<std::uint32_t>(i + 1)))});
    }
    for (std::size_t i = 0; i < scenario_.units.size(); ++i) {
      const Occupancy::Unit& unit = live_->units().unit(static_cast<UnitId>(i + 1));
      if (unit.standing) moment.units.push_back({scenario_.units[i].name, unit.cells});
    }
    for (std::size_t i = 0; i < play_->units().size(); ++i) {
      const Gone& gone = play_->units()[i];
      moment.goers.push_back({name(i) + ", " + plan_name(play_->script().units[i]), gone.path, state_of(gone)});
    }
  }

  static std::string state_of(const Gone& gone) {
    if (gone.arrived) return fmt::format("arrived at tick {}", *gone.arrived);
    return gone.path.empty() ? "not on the board" : "under way";
  }
  static std::string plan_name(const Go& go) {
    switch (go.plan) {
      case GoPlan::route: return "route";
      case GoPlan::wary: return "wary";
      case GoPlan::field: return "field";
      case GoPlan::walker: return std::string(walker_name(go.walker));
    }
    return "";
  }

  /// Who was in the way of an edit; "" for nobody.
  [[nodiscard]] std::string in_the_way(const RefusedEdit& refused) const {
    if (refused.covers) return name(*refused.covers);
    return refused.why.by == 0 ? "" : scenario_.units[refused.why.by - 1].name;
  }

  void tell_refusal(const RefusedEdit& refused, Json& list, std::string& told) const {
    const bool placed = refused.why.why != EditFault::lifted && refused.why.why != EditFault::standing;
    const std::string by = in_the_way(refused);
    list.push_back({{"edit", refused.edit + 1},
                    {"why", fault_name(refused.why.why)},
                    {"at", placed ? json_cell(refused.why.at) : Json()},
                    {"by", by.empty() ? Json() : Json(by)}});
    told += fmt::format("  edit {} refused: {}{}{}\n", refused.edit + 1, fault_name(refused.why.why),
                        placed ? " at " + show(refused.why.at) : "", by.empty() ? "" : " by " + by);
  }

  void tell_tick(const PlayTick& happened, Answer& answer) {
    const std::uint32_t tick = play_->tick() - 1;
    Json refused = Json::array();
    Json events = Json::array();
    std::string told;
    for (const RefusedEdit& edit : happened.refused) tell_refusal(edit, refused, told);
    for (const PlayEvent& event : happened.events) {
      events.push_back({{"unit", name(event.unit)},
                        {"what", standing_name(event.what)},
                        {"at", event.at ? json_cell(*event.at) : Json()},
                        {"cost", event.cost ? json_sum(*event.cost) : Json()}});
      told += fmt::format("  {}: {}{}{}\n", name(event.unit), standing_name(event.what),
                          event.at ? " at " + show(*event.at) : "",
                          event.cost ? ", " + decimal_sum(*event.cost) + " to go" : ", no way");
    }
    for (std::size_t i = 0; i < play_->units().size(); ++i) {
      if (play_->units()[i].arrived == tick)
        told += fmt::format("  {} arrives, cost {}\n", name(i), decimal_sum(play_->units()[i].cost));
    }
    answer.json["ticks"].push_back(
        {{"tick", tick}, {"changed", json_cells(happened.changed)}, {"refused", refused}, {"events", events}});
    if (!happened.changed.empty()) keep_moment(play_->tick(), happened.changed.size());
    if (told.empty() && happened.changed.empty()) return;
    answer.text +=
        fmt::format("tick {}: {}\n{}", tick, counted(happened.changed.size(), "cell changes", "cells change"), told);
  }

  void tell_end(Answer& answer) {
    answer.json["units"] = Json::array();
    for (std::size_t i = 0; i < play_->units().size(); ++i) {
      const Gone& gone = play_->units()[i];
      answer.json["units"].push_back({{"name", name(i)},
                                      {"arrived", gone.arrived ? Json(*gone.arrived) : Json()},
                                      {"path", json_cells(gone.path)},
                                      {"cost", json_sum(gone.cost)}});
      answer.text += fmt::format("{} ({}): {}, cost {}\n", name(i), plan_name(play_->script().units[i]),
                                 gone.path.empty() ? "never on the board"
                                 : gone.arrived    ? state_of(gone)
                                                   : "on its way at " + show(gone.path.back()),
                                 decimal_sum(gone.cost));
    }
    answer.json["work"] = {{"expanded", play_->expanded()}, {"fresh_expanded", play_->fresh_expanded()}};
    answer.text += fmt::format("{}; places looked at: {}, by searching anew each time: {}\n",
                               counted(play_->tick(), "tick", "ticks"), play_->expanded(), play_->fresh_expanded());
  }

  /// Moments at which the map changed, the first and the last among them.
  [[nodiscard]] draw::Sheet strip() {
    while (moments_.size() > most_moments) {  // the quietest go
      std::size_t least = 1;
      for (std::size_t i = 1; i + 1 < moments_.size(); ++i) {
        if (moments_[i].changed < moments_[least].changed) least = i;
      }
      moments_.erase(moments_.begin() + static_cast<std::ptrdiff_t>(least));
    }
    draw::Sheet sheet{.title = scenario_.title};
    sheet.facts = {{"ticks", std::to_string(play_->tick())},
                   {"places looked at", std::to_string(play_->expanded())},
                   {"by searching anew", std::to_string(play_->fresh_expanded())}};
    for (const Moment& moment : moments_) {
      draw::Picture panel(moment.tick == 0 ? "before" : fmt::format("after tick {}", moment.tick - 1), moment.map);
      if (moment.changed > 0) panel.facts = {{"cells changed", std::to_string(moment.changed)}};
      panel.add(draw::Terrains(nullptr)).add(draw::Barriers()).add(draw::Units(moment.units));
      if (!moment.threats.empty()) panel.add(draw::Danger(moment.danger)).add(draw::Threats(moment.threats));
      std::vector<Cell> goals;
      for (const Go& go : play_->script().units) {
        if (std::find(goals.begin(), goals.end(), go.to) == goals.end()) goals.push_back(go.to);
      }
      panel.add(draw::Ends(draw::Ends::Kind::goal, goals)).add(draw::Goers(moment.goers));
      sheet.panels.push_back(std::move(panel));
    }
    return sheet;
  }

  std::string script_file_;
  io::Scenario scenario_;
  std::optional<LiveMap> live_;
  std::optional<Play> play_;
  std::deque<Moment> moments_;  // they stay where they are: pictures point into them
};

}  // namespace

std::unique_ptr<Command> make_play() { return std::make_unique<PlayCommand>(); }

}  // namespace saunter::app
