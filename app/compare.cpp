#include <fmt/format.h>

#include <algorithm>
#include <chrono>
#include <limits>

#include "saunter/draw/overlay/marks.hpp"
#include "saunter/draw/overlay/path.hpp"
#include "saunter/draw/overlay/visits.hpp"
#include "saunter/draw/overlay/walked.hpp"
#include "saunter/io/text.hpp"
#include "saunter/search/searcher.hpp"
#include "saunter/walk.hpp"
#include "replay.hpp"
#include "wary.hpp"

namespace saunter::app {
namespace {

/// One that takes part: a search, or a walker that feels its way.
struct Entrant {
  std::string name;
  Algorithm by = Algorithm::automatic;
  std::optional<WalkerKind> walker;
  Hundredths weight = 1_steps;
  Route route;
  std::optional<Walk> walk;
  std::vector<Visit> visits;
  std::vector<Cell> way;  ///< the cells gone over; of a walker without its loops
  Exposure measure;
  std::uint64_t cost = 0;  ///< of the way
  double micros = 0;
  std::size_t memory = 0;  ///< bytes beside the map

  [[nodiscard]] bool found() const { return walk ? walk->arrived() : route.found(); }
  /// Cells a search checked, or a walker was on.
  [[nodiscard]] std::uint64_t checked() const { return walk ? walk->visited() : route.expanded(); }
  [[nodiscard]] std::uint64_t steps() const { return walk ? walk->steps() : route.steps(); }
  [[nodiscard]] std::string verdict() const {
    return walk ? std::string(walk_end_name(walk->end())) : to_string(route.verdict());
  }
};

std::string walker_names() {
  std::string names;
  for (const WalkerKind kind : all_walkers) names.append(", ").append(walker_name(kind));
  return names;
}

/// "astar", "astar:1.5" for a weight, or "right-hand".
Entrant parse_entrant(const std::string& text) {
  Entrant entrant;
  entrant.name = text;
  for (const WalkerKind kind : all_walkers) {
    if (text == walker_name(kind)) entrant.walker = kind;
  }
  if (entrant.walker) return entrant;
  const std::size_t colon = text.find(':');
  entrant.by = Words::parse_algorithm(text.substr(0, colon), "--by", walker_names());
  if (colon == std::string::npos) return entrant;
  entrant.weight =
      Hundredths(static_cast<Length>(Words::parse_hundredths(text.substr(colon + 1), "--by", 100, 10'000)));
  if (entrant.by != Algorithm::astar) Words::refuse_word("--by", text, "a weight for astar only");
  return entrant;
}

std::string kilobytes(std::size_t bytes) { return fmt::format("{:.1f} KB", static_cast<double>(bytes) / 1000); }

/// The median time of a question asked several times, in microseconds.
template <typename Ask>
double median_micros(int repeat, Ask&& ask) {
  using Clock = std::chrono::steady_clock;
  std::vector<double> times;
  for (int i = 0; i < repeat; ++i) {
    const auto began = Clock::now();
    ask();
    times.push_back(std::chrono::duration<double, std::micro>(Clock::now() - began).count());
  }
  std::nth_element(times.begin(), times.begin() + static_cast<std::ptrdiff_t>(times.size() / 2), times.end());
  return times[times.size() / 2];
}

class CompareCommand final : public Command {
 public:
  CompareCommand()
      : Command("compare", "searches and walkers on one question, side by side",
                "compare demo/strand.toml --from 3,4 --to 45,25 --draw compare.png", Takes::scenario_picture_and_page) {
  }

  void add_words(Words& words) override {
    words.heading("Question");
    words.cell("--from", from_, "start cell as col,row").required();
    words.cell("--to", to_, "goal cell as col,row").required();
    words.text(
        "--by", by_,
        "searches and walkers, separated by commas; astar:1.5 has a weight, prepared looks it up in an index made "
        "for it (default: astar,dijkstra,bfs, or astar beside a wary route)");
    words.seed("--seed", seed_, "of a wandering walker (default: 1)");
    words.whole("--repeat", repeat_, 1, 1'000'000, "runs for the median time (default: 5)");
    wary_.add_words(words);
    mover_words_.add_words(words);
  }

  Answer answer() override {
    const std::string by = !by_.empty() ? by_ : wary_.any() ? "astar" : "astar,dijkstra,bfs";
    for (const std::string& name : split(by, ',')) entrants_.push_back(parse_entrant(name));
    ready_.make(common, mover_words_);
    if (common.handed != nullptr && repeat_ > most_repeats_of_page) {
      throw Refused{fmt::format("--repeat: found {}, expected at most {} on the page", repeat_, most_repeats_of_page)};
    }
    watch_ = Watch(ready_.scenario, mover_words_.as_unit);
    levels_ = watch_.levels_for(*ready_.mover);
    for (Entrant& entrant : entrants_) run(entrant);
    // The measure of "optimal" is always asked for itself, whoever takes part.
    Searcher searcher;
    const Route best = searcher.route(ready_.costs, from_, to_);

    Answer answer;
    answer.json = {{"command", "compare"}, {"runs", Json::array()}, {"reason", nullptr}, {"at", nullptr}};
    const Reason reason = best.verdict().reason;
    if (reason != Reason::found && reason < Reason::no_way) {
      ready_.refuse_cell(answer, ready_.mover->name + " finds no way", best.verdict());
      return answer;
    }
    answer.exit_code = best.found() ? exit_yes : exit_no;
    answer.text = fmt::format("{} from {} to {}\n{:<12} {:>10} {:>8} {:>9} {:>12} {:>9}\n", ready_.mover->name,
                              show(from_), show(to_), "by", "cost", "steps", "checked", "microseconds", "memory");
    answer.sheet = draw::Sheet{.title = ready_.scenario.title};
    answer.sheet->facts = {{"mover", ready_.mover->name}, {"from", show(from_)}, {"to", show(to_)}};
    answer.sheet->charts = {{"cells checked", {}}, {"cost", {}}, {"microseconds", {}}, {"memory beside the map", {}}};
    if (!ready_.scenario.threats.empty()) answer.sheet->charts[2] = {"exposure", {}};
    for (const Entrant& entrant : entrants_) tell(entrant, best, answer);
    if (wary_.any()) run_wary(answer);
    if (common.wants_page()) add_replay(answer);
    return answer;
  }

 private:
  static constexpr int most_repeats_of_page = 100;

  void add_replay(Answer& answer) const {
    answer.replay = {{"race", Json::array()}};
    ready_.add_scene(answer, std::span(&from_, 1), std::span(&to_, 1));
    for (const Entrant& entrant : entrants_) {
      const Size size = ready_.costs.size();
      Json one = entrant.walk ? walk_replay(size, entrant.walk->trail().cells())
                              : search_replay(ready_.costs, entrant.visits, entrant.route.algorithm());
      one["name"] = entrant.name;
      one["path"] = entrant.found() ? json_cells(entrant.way) : Json();
      answer.replay["race"].push_back(std::move(one));
    }
  }

  void run(Entrant& entrant) const {
    if (entrant.walker) {
      run_walker(entrant);
      return;
    }
    Searcher searcher;
    RouteOptions options{.by = entrant.by, .weight = entrant.weight, .trace = &entrant.visits};
    Prepared index;
    if (entrant.by == Algorithm::prepared) {  // made for this question, and not timed with it
      index = prepare(ready_.costs);
      options.prepared = &index;
      options.trace = nullptr;
    }
    entrant.route = searcher.route(ready_.costs, from_, to_, options);
    entrant.memory = searcher.memory() + index.figures().bytes;
    options.trace = nullptr;
    entrant.micros = median_micros(repeat_, [&] { (void)searcher.route(ready_.costs, from_, to_, options); });
    entrant.way.assign(entrant.route.cells().begin(), entrant.route.cells().end());
    entrant.cost = entrant.route.cost();
    entrant.measure = exposure_of(ready_.costs, levels_, entrant.way);
  }

  void run_walker(Entrant& entrant) const {
    const WalkOptions options{.kind = *entrant.walker, .from = from_, .to = to_, .seed = seed_};
    const auto ask = [&] {
      entrant.walk.emplace(ready_.costs, options);
      (void)entrant.walk->run(ready_.costs, std::numeric_limits<std::uint64_t>::max());
    };
    entrant.micros = median_micros(repeat_, ask);
    entrant.memory = entrant.walk->memory();
    entrant.way = entrant.walk->trail().without_loops();
    entrant.measure = exposure_of(ready_.costs, levels_, entrant.way);
    entrant.cost = entrant.measure.cost;
  }

  /// The panel of one search: its path over what is shown of it, and its bars.
  struct Shown {
    std::string name;
    std::vector<Cell> cells;
    bool found = false;
    std::uint64_t checked = 0;
    std::uint64_t cost = 0;
    double micros = 0;
    std::size_t memory = 0;
    std::uint64_t exposure = 0;
    std::string verdict;
  };
  void add_panel(Shown shown, const Entrant* entrant, draw::Sheet& sheet) const {
    const bool danger = wary_.any();
    draw::Picture panel = ready_.picture();
    panel.title = shown.name;
    if (danger) {
      panel.add(draw::Danger(watch_.field));
    } else if (entrant->walk) {
      panel.add(draw::Walked(entrant->walk->trail().counts(), {}));
    } else {
      panel.add(draw::Visits(entrant->visits));
    }
    panel.add(draw::Threats(watch_.threats));
    if (shown.found) panel.add(draw::Path(std::move(shown.cells), danger ? &watch_.field : nullptr));
    using Kind = draw::Ends::Kind;
    panel.add(draw::Ends(Kind::start, {from_})).add(draw::Ends(Kind::goal, {to_}));
    if (!shown.found) panel.facts = {{entrant != nullptr && entrant->walk ? "ends by" : "no way:", shown.verdict}};
    sheet.panels.push_back(std::move(panel));
    const auto hundredths = [](std::uint64_t value) { return static_cast<double>(value) / 100; };
    sheet.charts[0].bars.push_back({shown.name, double(shown.checked), std::to_string(shown.checked)});
    sheet.charts[1].bars.push_back(
        {shown.name, shown.found ? hundredths(shown.cost) : 0, shown.found ? decimal_sum(shown.cost) : "none"});
    if (ready_.scenario.threats.empty()) {
      sheet.charts[2].bars.push_back({shown.name, shown.micros, fmt::format("{:.1f}", shown.micros)});
    } else {
      sheet.charts[2].bars.push_back({shown.name, hundredths(shown.exposure), decimal_sum(shown.exposure)});
    }
    sheet.charts[3].bars.push_back({shown.name, double(shown.memory), kilobytes(shown.memory)});
  }

  /// One entrant's line, its object and its panel.
  void tell(const Entrant& entrant, const Route& best, Answer& answer) const {
    const bool found = entrant.found();
    const bool optimal = found && entrant.cost == best.cost();
    const std::string_view used =
        entrant.walker ? walker_name(*entrant.walker) : algorithm_name(entrant.route.algorithm());
    Json run = {{"algorithm", entrant.name},
                {"used", used},
                {"found", found},
                {"cost", found ? json_sum(entrant.cost) : Json()},
                {"steps", found ? Json(entrant.steps()) : Json()},
                {"expanded", entrant.checked()},
                {"micros", json_cost(std::llround(entrant.micros * 100))},
                {"optimal", optimal},
                {"exposure", found ? json_sum(entrant.measure.exposure) : Json()},
                {"weighed", nullptr},
                {"memory", entrant.memory},
                {"way_steps", found ? Json(entrant.way.size() - 1) : Json()}};
    if (entrant.walk) run["ends_by"] = walk_end_name(entrant.walk->end());
    answer.json["runs"].push_back(std::move(run));
    std::string remark;
    if (!ready_.scenario.threats.empty() && found) remark = "  " + exposure_text(entrant.measure);
    if (found && !optimal) {
      remark += fmt::format("  {:.1f} % more than needed",
                            100.0 * static_cast<double>(entrant.cost) / std::max<Cost>(best.cost(), 1) - 100);
    }
    if (entrant.walk && found) {
      remark += fmt::format("  ({} without its loops)", counted(entrant.way.size() - 1, "step", "steps"));
    }
    if (!entrant.walker && (entrant.by == Algorithm::automatic || entrant.by != entrant.route.algorithm())) {
      remark += fmt::format("  (is {} here)", used);
    }
    answer.text += fmt::format("{:<12} {:>10} {:>8} {:>9} {:>12.1f} {:>9}{}\n", entrant.name,
                               found ? decimal_sum(entrant.cost) : entrant.verdict(), entrant.steps(),
                               entrant.checked(), entrant.micros, kilobytes(entrant.memory), remark);
    add_panel({entrant.name, entrant.way, found, entrant.checked(), entrant.cost, entrant.micros, entrant.memory,
               entrant.measure.exposure, entrant.verdict()},
              &entrant, *answer.sheet);
  }

  /// The route that weighs danger, beside the others.
  void run_wary(Answer& answer) {
    const WaryOptions asked{.care = wary_.care()};
    WarySearcher searcher;
    const double micros =
        median_micros(repeat_, [&] { (void)searcher.route(ready_.costs, levels_, from_, to_, asked); });
    const WaryRoute& route = searcher.route(ready_.costs, levels_, from_, to_, asked);
    const Exposure& measure = route.measure();
    answer.json["runs"].push_back({{"algorithm", "wary"},
                                   {"used", "astar"},
                                   {"found", route.found()},
                                   {"cost", route.found() ? json_sum(measure.cost) : Json()},
                                   {"steps", route.found() ? Json(route.steps()) : Json()},
                                   {"expanded", route.expanded()},
                                   {"micros", json_cost(std::llround(micros * 100))},
                                   {"optimal", nullptr},
                                   {"exposure", route.found() ? json_sum(measure.exposure) : Json()},
                                   {"weighed", route.found() ? json_sum(measure.weighed) : Json()},
                                   {"memory", searcher.memory()},
                                   {"way_steps", route.found() ? Json(route.steps()) : Json()}});
    answer.text += fmt::format("{:<12} {:>10} {:>8} {:>9} {:>12.1f} {:>9}  {}\n", "wary",
                               route.found() ? decimal_sum(measure.cost) : to_string(route.verdict()), route.steps(),
                               route.expanded(), micros, kilobytes(searcher.memory()),
                               route.found() ? exposure_text(measure) : "");
    std::string name = "wary";
    if (wary_.wary) name += " " + to_decimal(*wary_.wary);
    if (wary_.linger) name += ", linger " + to_decimal(*wary_.linger);
    if (wary_.max_threat) name += ", no level above " + std::to_string(*wary_.max_threat);
    add_panel({name,
               {route.cells().begin(), route.cells().end()},
               route.found(),
               route.expanded(),
               measure.cost,
               micros,
               searcher.memory(),
               measure.exposure,
               to_string(route.verdict())},
              nullptr, *answer.sheet);
  }

  MoverWords mover_words_;
  Cell from_;
  Cell to_;
  std::string by_;
  WaryWords wary_;
  int repeat_ = 5;
  std::uint64_t seed_ = 1;

  Ready ready_;
  Watch watch_;
  Levels levels_;
  std::vector<Entrant> entrants_;
};

}  // namespace

std::unique_ptr<Command> make_compare() { return std::make_unique<CompareCommand>(); }

}  // namespace saunter::app
