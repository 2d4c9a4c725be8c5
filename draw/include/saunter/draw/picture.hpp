/// @file
/// Pictures of maps and of what was found on them, as PNG or SVG from one code path.
#pragma once

#include <span>
#include <string>
#include <utility>
#include <vector>

#include "saunter/grid/frame.hpp"
#include "saunter/grid/visible.hpp"
#include "saunter/ground/cost_grid.hpp"
#include "saunter/region/regions.hpp"
#include "saunter/search/field.hpp"
#include "saunter/search/searcher.hpp"
#include "saunter/threat/threat_field.hpp"

namespace saunter {
namespace draw SAUNTER_VISIBLE {

/// A thing that stands on the map.
struct Thing {
  std::string name = {};
  std::vector<Cell> cells = {};
};

/// A source of danger, as pictures show it: an eye, its name and how far it reaches.
struct Watcher {
  std::string name = {};
  ThreatSource source = {};
};

/// A way of a trade-off, as the plot beside a map shows it: hundredths, both.
struct PlotPoint {
  std::uint64_t cost = 0;
  std::uint64_t exposure = 0;
  bool chosen = false;
};

/// Which layers are drawn, from the ground up.
struct Layers {
  bool terrain = true;
  bool cost = false;     ///< entry costs as a ramp from cheap to dear, with numbers where they fit
  bool height = false;   ///< heights as a ramp, with numbers where they fit
  bool blocked = false;  ///< hatching where the mover cannot stand
  bool outlines = true;  ///< the cells' edges, where cells are large enough
  bool barriers = true;
  bool units = true;
  bool coordinates = true;  ///< column and row numbers along the rim
};

/// Everything a picture shows. Spans and pointers are read while drawing and not kept.
struct Picture {
  std::string title = {};
  const Map* map = nullptr;
  const CostGrid* costs = nullptr;  ///< needed by the layers cost and blocked; null otherwise
  const Mover* mover = nullptr;     ///< whose costs the legend gives; null = the terrain's own
  Layers layers = {};
  std::span<const Thing> things = {};
  std::span<const Visit> visits = {};  ///< expanded cells, shaded by order; numbers where they fit
  const Field* field = nullptr;        ///< reached cells, shaded by cost; the cost in the cells where it fits
  bool arrows = false;                 ///< the field's next step from each cell
  std::span<const Cell> path = {};
  std::span<const Cell> waypoints = {};  ///< cells the way is straightened to: dots joined by a thin line
  std::span<const Cell> avoided = {};    ///< cells kept out of for one question: crosses
  std::span<const Cell> spots = {};      ///< anchors at which a thing fits: discs
  std::span<const Cell> ghost = {};      ///< the cells a thing would cover: framed
  std::span<const Cell> keep_open = {};  ///< cells that must go on reaching each other: marked K
  std::span<const Cell> faults = {};     ///< where something is wrong: crosses in a warning colour
  std::span<const Cell> in_range = {};   ///< cells that can be acted on from the field's cells: dots
  const Regions* regions = nullptr;      ///< each region in a colour of its own
  std::span<const Cell> cut_off = {};    ///< cells that can't be reached: hatched
  std::span<const Cell> opens = {};      ///< blocked cells to be opened: framed
  std::span<const Cell> chokes = {};     ///< cells whose loss splits a region: lozenges
  const ThreatField* threat = nullptr;  ///< level as depth of one colour, the number where it fits, a wedge on the side
                                        ///< most comes from; exposed parts of the path are marked
  std::span<const Watcher> watchers = {};
  const BitGrid* seen = nullptr;          ///< all other cells are darkened
  std::span<const Cell> sight_line = {};  ///< two cells, joined by a line
  std::span<const Cell> hidden_by = {};   ///< cells that hide something asked for: framed
  std::span<const PlotPoint> plot = {};   ///< cost against exposure, beside the map
  const Cell* start = nullptr;
  const Cell* goal = nullptr;
  std::span<const Cell> starts = {};                            ///< several starts at once
  std::span<const Cell> goals = {};                             ///< several goals at once
  const Cell* mark = nullptr;                                   ///< a ring: where a search without success came nearest
  std::vector<std::pair<std::string, std::string>> facts = {};  ///< lines of the legend: what, how much
  bool diamond = false;                                         ///< the sheared view of isometric games
};

/// Where things lie on the picture, in pixels.
struct Layout {
  Frame frame;      ///< cells to pixels; cell centres and corners are exact
  double cell = 0;  ///< pixels between the centres of edge neighbours
  int width = 0;
  int height = 0;
};
/// Chooses the size of the cells so that the picture is about 1280 x 800; very large maps get a pixel a cell or less.
[[nodiscard]] Layout layout(const Picture& picture);

/// The bytes of a PNG or an SVG file; none when it can't be made (no memory, no surface of that size, no map).
[[nodiscard]] std::string to_png(const Picture& picture);
[[nodiscard]] std::string to_svg(const Picture& picture);

/// Several pictures side by side in one, each made smaller, in the order given.
[[nodiscard]] std::string to_png(std::span<const Picture> panels);
[[nodiscard]] std::string to_svg(std::span<const Picture> panels);

/// The colour of the n-th of `count` visits, before it is laid over the ground (see visit_opacity).
[[nodiscard]] Rgb visit_color(std::size_t n, std::size_t count);
inline constexpr double visit_opacity = 0.62;

}  // namespace draw SAUNTER_VISIBLE
}  // namespace saunter
