#include "saunter/generate/rooms.hpp"

#include <algorithm>
#include <limits>

#include "digging.hpp"
#include "layout.hpp"

namespace saunter::inline v0_2 {
using namespace detail;

std::string_view method_name(RoomsMethod method) {
  switch (method) {
    case RoomsMethod::scattered: return "scattered";
    case RoomsMethod::split: return "split";
    case RoomsMethod::corridors: return "corridors";
  }
  return "";
}

std::string_view rooms_problem(Board board, const RoomsOptions& options) {
  const bool squares = board.tiling.shape() == Shape::square;
  if (!board.size.sound()) return "a map's sides must be 0 to 65,535 cells";
  if (board.size.cell_count() > max_made_cells) return "a map must have no more than 268,435,456 cells";
  if (options.width < 1 || options.width > 4) return "width must be 1 to 4";
  if (options.width > 1 && !squares) return "width must be 1 but on squares";
  if (options.width > 1 && options.doors) return "doors go with corridors of width 1";
  if (options.least_side < 1 || options.least_side > options.most_side) return "the least side must be 1 to the most";
  if (options.least_side < options.width) return "the least side must be at least the width";
  if (board.tiling.shape() == Shape::triangle && options.least_side < 2) return "on triangles sides must be at least 2";
  if (options.margin < 0 || options.margin > 64) return "margin must be 0 to 64";
  if (options.smallest_piece.cols < 1 || options.smallest_piece.rows < 1) return "pieces must have cells";
  return {};
}

struct RoomsMaker::Work {
  enum class Stage : std::uint8_t { place, join, done };

  RoomsOptions options;
  Dice dice;
  Digging ground;
  RoomLayout layout;
  Stage stage = Stage::place;
  std::vector<RoomPair> pairs;  // still to be joined, the next one last
  std::vector<std::vector<Cell>> corridors;
  std::vector<std::size_t> visits;
  std::vector<Cell> last;

  Work(Board board, const RoomsOptions& wanted)
      : options(wanted), dice(wanted.seed), ground(board, wanted.width, wanted.fresh), layout(board, wanted, dice) {}

  void dig_room(std::size_t room) {
    const Rect box = layout.rooms()[room];
    if (!options.grown) {
      for (std::int32_t row = box.top; row + options.width <= box.bottom; ++row) {
        for (std::int32_t col = box.left; col + options.width <= box.right; ++col) ground.dig({col, row}, last);
      }
      return;
    }
    grow_room(box, layout.start(ground, room));
  }

  /// Walks from its start until most of the box is dug.
  void grow_room(Rect box, Cell at) {
    const Tiling tiling = ground.board().tiling;
    const auto area = static_cast<std::size_t>(box.right - box.left) * static_cast<std::size_t>(box.bottom - box.top);
    const std::size_t before = last.size();
    ground.dig(at, last);
    for (std::size_t step = 0; step < 12 * area && 100 * (last.size() - before) < 65 * area; ++step) {
      const Cell next = tiling.neighbour(at, Direction(dice.pick(static_cast<std::uint32_t>(tiling.edge_count()))));
      const bool within = next.col >= box.left && next.row >= box.top && next.col + options.width <= box.right &&
                          next.row + options.width <= box.bottom;
      if (!within) continue;
      at = next;
      ground.dig(at, last);
    }
  }

  void place_next() {
    std::vector<Cell> corridor;
    const bool walked = options.by == RoomsMethod::corridors;
    const std::size_t before = layout.rooms().size();
    const bool placed = walked ? layout.walk_to_next(ground, dice, corridor) : layout.place_next(dice);
    for (std::size_t i = before; i < layout.rooms().size(); ++i) {
      dig_room(i);
      if (walked) visits.push_back(i);
    }
    if (!corridor.empty()) {
      ground.dig(corridor, last);
      corridors.push_back(std::move(corridor));
    }
    if (placed) return;
    stage = Stage::join;
    const Tiling tiling = ground.board().tiling;
    pairs = walked ? extra_pairs(tiling, layout, options.extra) : pairs_to_join(tiling, layout, options, visits);
    std::reverse(pairs.begin(), pairs.end());
  }

  void join_next() {
    if (pairs.empty()) {
      stage = Stage::done;
      return;
    }
    const RoomPair pair = pairs.back();
    pairs.pop_back();
    const auto start = [&](std::size_t room) { return layout.start(ground, room); };
    const CorridorShape shape = options.by == RoomsMethod::corridors ? CorridorShape::dog_leg : options.corridor;
    std::vector<Cell> corridor;
    ground.path(shape, start(pair.from), start(pair.to), dice, corridor);
    ground.dig(corridor, last);
    corridors.push_back(std::move(corridor));
  }

  [[nodiscard]] Made made() const {
    const Tiling tiling = ground.board().tiling;
    Made made{.tiling = tiling, .parts = parts_of(tiling, ground.open()), .closed = {}};
    made.rooms = layout.rooms();
    made.visits = visits;
    made.corridors = corridors;
    made.asked = layout.asked();
    if (options.doors && stage == Stage::done) put_doors(made);
    return made;
  }

  /// Cells of corridors that enter a room between walls.
  static void put_doors(Made& made) {
    const Size size = made.size();
    BitGrid in_room(size);
    for (const Rect& box : made.rooms) {
      for (const Cell cell : box.cells()) in_room.set(cell);
    }
    for (const Cell cell : size.cells()) {
      if (made.parts[cell] != Part::floor || in_room.test(cell) || !between_walls(made, cell)) continue;
      bool enters = false;
      bool beside_door = false;
      for (Direction d{0}; d < made.tiling.edge_count(); ++d) {
        const Cell next = made.tiling.neighbour(cell, d);
        enters = enters || (in_room.test(next) && made.open(next));
        beside_door = beside_door || made.parts[next] == Part::door;
      }
      if (!enters || beside_door) continue;
      made.parts[cell] = Part::door;
      made.doors.push_back(cell);
    }
  }
  /// Closed on two opposite sides; a triangle on one, its two other neighbours open.
  [[nodiscard]] static bool between_walls(const Made& made, Cell cell) {
    const int edges = made.tiling.edge_count();
    const auto shut = [&](int d) { return !made.open(made.tiling.neighbour(cell, Direction(d))); };
    if (edges == 3) return (shut(0) ? 1 : 0) + (shut(1) ? 1 : 0) + (shut(2) ? 1 : 0) == 1;
    for (int d = 0; d < edges / 2; ++d) {
      if (shut(d) && shut(d + edges / 2)) return true;
    }
    return false;
  }
};

RoomsMaker::RoomsMaker(Board board, const RoomsOptions& options) {
  const bool sound = rooms_problem(board, options).empty();
  SAUNTER_EXPECT(sound);
  work_ = std::make_unique<Work>(sound ? board : Board{board.tiling, {}}, sound ? options : RoomsOptions{});
}
RoomsMaker::~RoomsMaker() = default;
RoomsMaker::RoomsMaker(RoomsMaker&&) noexcept = default;
RoomsMaker& RoomsMaker::operator=(RoomsMaker&&) noexcept = default;

bool RoomsMaker::run(std::uint64_t steps) {
  work_->last.clear();
  for (; steps > 0 && work_->stage != Work::Stage::done; --steps) {
    if (work_->stage == Work::Stage::place) {
      work_->place_next();
    } else {
      work_->join_next();
    }
  }
  return work_->stage == Work::Stage::done;
}

std::span<const Cell> RoomsMaker::last() const { return work_->last; }
Made RoomsMaker::so_far() const { return work_->made(); }

Made RoomsMaker::take() {
  (void)run(std::numeric_limits<std::uint64_t>::max());
  return work_->made();
}

Made make_rooms(Board board, const RoomsOptions& options) { return RoomsMaker(board, options).take(); }

}  // namespace saunter::inline v0_2
