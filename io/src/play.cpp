#include "saunter/io/play.hpp"

#include <algorithm>
#include <limits>
#include <set>
#include <utility>

#include "lines.hpp"
#include "saunter/io/files.hpp"
#include "saunter/io/text.hpp"
#include "scenario/reading.hpp"

namespace saunter::inline v0_2::io {
using namespace detail;
namespace {

constexpr std::int64_t most_ticks = 1'000'000;

/// Reads one script; what edits of a tick have been about is kept to find two about the same.
class PlayReader {
 public:
  PlayReader(const Source& source, const Scenario& scenario) : source_(source), scenario_(scenario) {}

  PlayScript read(const toml::table& file) {
    const Fields top(source_, file, "the script", {"saunter_play", "ticks", "edit", "go"});
    (void)top.whole("saunter_play", 1, 1);
    script_.ticks = static_cast<std::uint32_t>(top.whole("ticks", 0, most_ticks));
    for (const toml::table* table : listed_tables(source_, top.find("edit"), "edit")) read_edit(*table);
    std::stable_sort(script_.edits.begin(), script_.edits.end(),
                     [](const PlayEdit& a, const PlayEdit& b) { return a.tick < b.tick; });
    Names names;
    for (const toml::table* table : listed_tables(source_, top.find("go"), "go")) read_go(*table, names);
    for (std::size_t i = 0; i < scenario_.threats.size(); ++i) {
      const std::optional<Schedule>& schedule = scenario_.threats[i].schedule;
      if (schedule) script_.schedules.push_back({ThreatNumber(static_cast<std::uint32_t>(i + 1)), *schedule});
    }
    return std::move(script_);
  }

 private:
  [[nodiscard]] const Map& map() const { return scenario_.map; }

  Cell cell_on_map(const toml::node& node) const {
    const Cell cell = cell_from(source_, node);
    const Size size = map().size();
    if (!size.contains(cell)) {
      source_.fail(node, describe_cell(cell) + " off the map",
                   "a cell of the map, which is " + std::to_string(size.cols) + " x " + std::to_string(size.rows));
    }
    return cell;
  }
  static std::string describe_cell(Cell cell) { return std::to_string(cell.col) + "," + std::to_string(cell.row); }

  /// Refuses a second edit of a tick about the same thing.
  template <typename Thing>
  void only_once(std::set<std::pair<std::uint32_t, Thing>>& seen, Thing thing, const toml::node& at,
                 const std::string& what) {
    if (!seen.emplace(tick_, thing).second) {
      source_.fail(at, "a second edit of " + what, "one edit of each cell, side, unit and threat in a tick");
    }
  }

  void read_edit(const toml::table& table) {
    const auto* const tick = table["tick"].as_integer();
    const std::string when = tick == nullptr ? "" : " at tick " + std::to_string(tick->get());
    try {
      const Fields fields(
          source_, table, "[[edit]]",
          {"tick", "paint", "cells", "close", "open", "one_way", "place", "lift", "at", "watch", "facing"});
      if (script_.ticks == 0) source_.fail(table, "an edit in a script of no ticks", "ticks above 0");
      tick_ = static_cast<std::uint32_t>(fields.whole("tick", 0, std::int64_t{script_.ticks} - 1));
      script_.edits.push_back({tick_, read_what(fields)});
    } catch (ReadFailure& failure) {
      failure.error.found += when;
      throw;
    }
  }

  decltype(PlayEdit::what) read_what(const Fields& fields) {
    constexpr const char* one_of = "exactly one of paint, close, open, place, lift, watch";
    std::string_view kind;
    for (const std::string_view key : {"paint", "close", "open", "place", "lift", "watch"}) {
      if (!fields.has(key)) continue;
      if (!kind.empty()) source_.fail(*fields.find(key), std::string(key) + " beside " + std::string(kind), one_of);
      kind = key;
    }
    if (kind.empty()) source_.fail(fields.table(), "an edit that does nothing", one_of);
    const auto only_for = [&](std::string_view key, std::initializer_list<std::string_view> kinds) {
      if (!fields.has(key) || std::find(kinds.begin(), kinds.end(), kind) != kinds.end()) return;
      source_.fail(*fields.find(key), std::string(key) + " beside " + std::string(kind), "an edit that takes it");
    };
    only_for("cells", {"paint"});
    only_for("one_way", {"close", "open"});
    only_for("at", {"place", "watch"});
    only_for("facing", {"watch"});
    if (kind == "paint") return read_paint(fields);
    if (kind == "close" || kind == "open") return read_edge(fields, kind);
    if (kind == "watch") return read_watch(fields);
    return read_unit(fields, kind);
  }

  PaintEdit read_paint(const Fields& fields) {
    PaintEdit edit;
    const auto kind = map().find_kind(fields.text("paint"));
    if (!kind) fields.fail("paint", "the name of a [terrain.name] of the scenario");
    edit.terrain = *kind;
    for (const toml::node& node : fields.list("cells", "a list of cells as [col, row]")) {
      edit.cells.push_back(cell_on_map(node));
      only_once(painted_, edit.cells.back(), node, "cell " + describe_cell(edit.cells.back()));
    }
    if (edit.cells.empty()) fields.fail("cells", "at least one cell");
    return edit;
  }

  EdgeEdit read_edge(const Fields& fields, std::string_view kind) {
    EdgeEdit edit;
    const std::string expected = "two cells that share an edge, as [[col, row], [col, row]]";
    const toml::array& pair = fields.list(kind, expected);
    if (pair.size() != 2) fields.fail(kind, expected);
    edit.first = cell_on_map(pair[0]);
    edit.second = cell_on_map(pair[1]);
    const Direction d = map().tiling().direction(edit.first, edit.second);
    if (d < 0 || d >= map().tiling().edge_count()) fields.fail(kind, expected);
    edit.open = kind == "open";
    edit.one_way = fields.flag_or("one_way", false);
    const auto side = std::minmax(edit.first, edit.second);
    only_once(sides_, std::pair<Cell, Cell>(side), *fields.find(kind),
              "the side between " + describe_cell(side.first) + " and " + describe_cell(side.second));
    return edit;
  }

  UnitEdit read_unit(const Fields& fields, std::string_view kind) {
    const std::string name = fields.text(kind);
    const Unit* const unit = scenario_.find_unit(name);
    if (unit == nullptr) fields.fail(kind, "the name of a [[unit]] of the scenario");
    UnitEdit edit{static_cast<UnitId>(unit - scenario_.units.data() + 1), {}};
    only_once(units_, edit.unit, *fields.find(kind), "unit " + shown(name));
    if (kind == "lift") return edit;
    edit.at = fields.cell("at");
    std::vector<Cell> cells;
    if (map().tiling().shape() == Shape::triangle && map().tiling().kind(*edit.at) != 0) {
      fields.fail("at", "a triangle that points up, as the drawing's top left does");
    }
    cells_in_pose(map().tiling(), unit->footprint, {*edit.at, unit->turn}, cells);
    for (const Cell cell : cells) {
      if (map().size().contains(cell)) continue;
      source_.fail(*fields.find("at"), "unit " + shown(name) + " off the map at " + describe_cell(cell),
                   "all its cells on the map");
    }
    return edit;
  }

  ThreatEdit read_watch(const Fields& fields) {
    const std::string name = fields.text("watch");
    const auto found = std::find_if(scenario_.threats.begin(), scenario_.threats.end(),
                                    [&](const NamedThreat& threat) { return threat.name == name; });
    if (found == scenario_.threats.end()) fields.fail("watch", "the name of a [[threat]] of the scenario");
    ThreatEdit edit{ThreatNumber(static_cast<std::uint32_t>(found - scenario_.threats.begin() + 1)), {}, {}};
    only_once(threats_, edit.threat, *fields.find("watch"), "threat " + shown(name));
    if (fields.has("at")) edit.at = cell_on_map(*fields.find("at"));
    if (fields.has("facing")) edit.facing = read_facing(fields, map().tiling());
    if (!edit.at && !edit.facing) source_.fail(fields.table(), "watch alone", "at or facing beside it");
    return edit;
  }

  void read_go(const toml::table& table, Names& names) {
    const Fields fields(source_, table, "[[go]]",
                        {"name", "mover", "from", "to", "tick", "plan", "wary", "linger", "seed", "leaves"});
    Go go;
    go.name = names.take(fields);
    const std::string mover = fields.text_or("mover", "");
    const Mover* const found = scenario_.find_mover(mover);
    if (found == nullptr && !fields.has("mover"))
      source_.fail(table, "no mover in the scenario", "a [mover.name] in it");
    if (found == nullptr) fields.fail("mover", "the name of a [mover.name] of the scenario");
    go.mover = static_cast<MoverId>(found - scenario_.movers.data());
    go.from = cell_on_map(fields.require("from", "a cell as [col, row]"));
    go.to = cell_on_map(fields.require("to", "a cell as [col, row]"));
    go.tick = static_cast<std::uint32_t>(fields.whole_or("tick", 0, most_ticks, 0));
    read_plan(fields, go);
    go.leaves = fields.flag_or("leaves", false);
    script_.units.push_back(std::move(go));
  }

  void read_plan(const Fields& fields, Go& go) {
    const std::string plan = fields.text_or("plan", "route");
    std::string expected = "route, wary, field";
    bool known = true;
    if (plan == "wary") {
      go.plan = GoPlan::wary;
    } else if (plan == "field") {
      go.plan = GoPlan::field;
    } else if (plan != "route") {
      known = false;
      for (const WalkerKind kind : all_walkers) {
        expected += ", " + std::string(walker_name(kind));
        if (plan != walker_name(kind)) continue;
        go.plan = GoPlan::walker;
        go.walker = kind;
        known = true;
      }
    }
    if (!known) fields.fail("plan", expected);
    const auto only_for = [&](std::string_view key, bool fine, const std::string& which) {
      if (fields.has(key) && !fine) fields.fail(key, "plan = \"" + which + "\" beside it");
    };
    only_for("wary", go.plan == GoPlan::wary, "wary");
    only_for("linger", go.plan == GoPlan::wary, "wary");
    only_for("seed", go.plan == GoPlan::walker && go.walker == WalkerKind::wander, "wander");
    if (fields.has("wary")) go.care.wary = Hundredths(static_cast<Length>(fields.hundredths("wary", 0, 6'553'500)));
    if (fields.has("linger")) go.care.linger = Hundredths(static_cast<Length>(fields.hundredths("linger", 0, 65'535)));
    go.seed = static_cast<std::uint64_t>(fields.whole_or("seed", 0, std::numeric_limits<std::int64_t>::max(), 1));
  }

  const Source& source_;
  const Scenario& scenario_;
  PlayScript script_;
  std::uint32_t tick_ = 0;
  std::set<std::pair<std::uint32_t, Cell>> painted_;
  std::set<std::pair<std::uint32_t, std::pair<Cell, Cell>>> sides_;
  std::set<std::pair<std::uint32_t, UnitId>> units_;
  std::set<std::pair<std::uint32_t, ThreatNumber>> threats_;
};

}  // namespace

LiveMap live_map(const Scenario& scenario) {
  LiveMap live(scenario.map, scenario.movers);
  for (const Unit& unit : scenario.units) {
    const UnitId id = live.add_unit(unit.footprint, 0, unit.blocks, unit.opaque);
    (void)live.place(id, {unit.at, unit.turn});
  }
  for (const NamedThreat& named : scenario.threats) (void)live.add_threat(named.threat);
  (void)live.commit();
  return live;
}

Result<PlayScript> parse_play(std::string_view text, const std::string& name, const Scenario& scenario) {
  try {
    const Source source{name};
    return PlayReader(source, scenario).read(parse_toml(source, plain_text(text)));
  } catch (const ReadFailure& failure) {
    return failure.error;
  }
}

Result<PlayScript> read_play(const std::string& file, const Scenario& scenario) {
  const Result<std::string> text = read_file(file);
  if (!text) return text.error();
  return parse_play(text.value(), file == "-" ? "<stdin>" : file, scenario);
}

}  // namespace saunter::inline v0_2::io
