// [mover.name]
#include <algorithm>

#include "reading.hpp"
#include "saunter/io/text.hpp"

namespace saunter::inline v0_2::io::detail {
namespace {

/// What the mover pays on kinds of terrain, where it pays something else than the kind says.
void read_costs(const Reading& reading, const toml::node& node, Mover& mover) {
  const Source& source = reading.source;
  const Map& map = reading.scenario.map;
  if (!node.is_table()) source.fail(node, "costs = " + describe(node), "a table such as { kelp = 2.5 }");
  mover.costs.resize(map.kinds().size());
  std::vector<std::pair<toml::source_position, std::string>> in_order;
  for (auto&& [key, value] : *node.as_table()) in_order.emplace_back(key.source().begin, std::string(key.str()));
  std::sort(in_order.begin(), in_order.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
  for (const auto& [at, name] : in_order) {
    source.attempt([&, at = at, name = name] {
      const auto id = map.find_kind(name);
      if (!id) source.fail(at, "terrain " + shown(name), "the name of a [terrain.name]");
      mover.costs[*id] = entry_cost(source, *node.as_table()->get(name), name);
    });
  }
}

void read_step_rules(const Fields& fields, const Reading& reading, Mover& mover) {
  const Source& source = fields.source();
  const Tiling tiling = reading.scenario.map.tiling();
  const int usual_steps = default_steps(tiling);
  source.attempt([&] {
    mover.rules.steps = static_cast<int>(fields.whole_or("steps", 1, 12, usual_steps));
    if (const auto problem = reading.tiling_known ? mover_problem(tiling, mover) : std::nullopt) {
      mover.rules.steps = usual_steps;
      const std::size_t words = problem->find("must be ");
      fields.fail("steps", std::string(words == std::string_view::npos ? *problem : problem->substr(words + 8)));
    }
  });
  source.attempt([&] {
    if (!fields.has("corners")) return;
    mover.rules.corners = static_cast<Corners>(fields.word("corners", {"strict", "lenient", "free"}));
  });
  source.attempt([&] {
    if (!fields.has("diagonal")) return;
    if (reading.tiling_known && tiling.shape() != Shape::square)
      fields.fail("diagonal", "no such key except on square maps");
    mover.rules.diagonal = static_cast<Length>(fields.hundredths("diagonal", min_diagonal, max_diagonal));
  });
}

}  // namespace

void read_mover(Reading& reading, const NamedTable& entry) {
  const Source& source = reading.source;
  const Fields fields(source, *entry.table, "[mover." + entry.name + "]",
                      {"steps", "corners", "size", "diagonal", "climb", "drop", "costs"});
  Mover mover{.name = entry.name};
  const Tiling tiling = reading.scenario.map.tiling();
  read_step_rules(fields, reading, mover);
  source.attempt([&] {
    const int most_size = tiling.shape() == Shape::triangle ? 1 : max_mover_size;
    mover.size = static_cast<int>(fields.whole_or("size", 1, most_size, 1));
  });
  constexpr std::int64_t most_height_difference = 65'535;
  const auto read_limit = [&](const char* key, std::optional<std::int32_t>& limit) {
    source.attempt([&] {
      if (fields.has(key)) limit = static_cast<std::int32_t>(fields.whole(key, 0, most_height_difference));
    });
  };
  read_limit("climb", mover.climb);
  read_limit("drop", mover.drop);
  source.attempt([&] {
    if (const toml::node* costs = fields.find("costs")) read_costs(reading, *costs, mover);
  });
  reading.scenario.movers.push_back(std::move(mover));
}

}  // namespace saunter::inline v0_2::io::detail
