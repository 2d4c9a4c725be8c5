#include "layout.hpp"

#include <algorithm>
#include <queue>

namespace saunter::inline v0_2::detail {
namespace {

constexpr int tries_by_lot = 60;

Cell middle_of(Rect box) {
  return {box.left + (box.right - box.left - 1) / 2, box.top + (box.bottom - box.top - 1) / 2};
}

std::int64_t apart(Tiling tiling, Rect a, Rect b) { return tiling.edge_distance(middle_of(a), middle_of(b)); }

/// From the first on to the nearest that is not joined yet.
std::vector<RoomPair> by_nearest(Tiling tiling, const std::vector<Rect>& rooms, std::vector<std::size_t>& visits) {
  std::vector<RoomPair> pairs;
  std::vector<bool> joined(rooms.size(), false);
  std::size_t at = 0;
  joined[0] = true;
  visits = {0};
  while (visits.size() < rooms.size()) {
    std::size_t best = rooms.size();
    for (std::size_t i = 0; i < rooms.size(); ++i) {
      if (joined[i]) continue;
      if (best == rooms.size() || apart(tiling, rooms[at], rooms[i]) < apart(tiling, rooms[at], rooms[best])) best = i;
    }
    pairs.push_back({at, best});
    joined[best] = true;
    visits.push_back(best);
    at = best;
  }
  return pairs;
}

/// A spanning tree of least length, grown from the first room.
std::vector<RoomPair> by_tree(Tiling tiling, const std::vector<Rect>& rooms, std::vector<std::size_t>& visits) {
  std::vector<RoomPair> pairs;
  std::vector<std::size_t> nearest(rooms.size(), 0);  // of those joined
  std::vector<bool> joined(rooms.size(), false);
  std::vector<std::int64_t> distance(rooms.size());
  for (std::size_t i = 0; i < rooms.size(); ++i) distance[i] = apart(tiling, rooms[0], rooms[i]);
  joined[0] = true;
  visits = {0};
  while (visits.size() < rooms.size()) {
    std::size_t best = rooms.size();
    for (std::size_t i = 0; i < rooms.size(); ++i) {
      if (!joined[i] && (best == rooms.size() || distance[i] < distance[best])) best = i;
    }
    pairs.push_back({nearest[best], best});
    joined[best] = true;
    visits.push_back(best);
    for (std::size_t i = 0; i < rooms.size(); ++i) {
      const std::int64_t now = joined[i] ? 0 : apart(tiling, rooms[best], rooms[i]);
      if (joined[i] || now >= distance[i]) continue;
      distance[i] = now;
      nearest[i] = best;
    }
  }
  return pairs;
}

/// The shortest pairs that are not among these; of equals those of lower numbers.
std::vector<RoomPair> shortest_beside(Tiling tiling, const std::vector<Rect>& rooms, std::vector<RoomPair> joined,
                                      std::size_t count) {
  struct Candidate {
    std::int64_t distance;
    RoomPair pair;
    bool operator<(const Candidate& other) const {
      if (distance != other.distance) return distance < other.distance;
      return pair.from != other.pair.from ? pair.from < other.pair.from : pair.to < other.pair.to;
    }
  };
  const auto ordered = [](RoomPair pair) {
    return std::pair(std::min(pair.from, pair.to), std::max(pair.from, pair.to));
  };
  const auto less = [&](RoomPair a, RoomPair b) { return ordered(a) < ordered(b); };
  std::sort(joined.begin(), joined.end(), less);
  std::priority_queue<Candidate> best;  // the longest of those kept on top
  for (std::size_t i = 0; count > 0 && i < rooms.size(); ++i) {
    for (std::size_t k = i + 1; k < rooms.size(); ++k) {
      const Candidate candidate{apart(tiling, rooms[i], rooms[k]), {i, k}};
      if (best.size() == count && !(candidate < best.top())) continue;
      if (std::binary_search(joined.begin(), joined.end(), candidate.pair, less)) continue;
      if (best.size() == count) best.pop();
      best.push(candidate);
    }
  }
  std::vector<RoomPair> pairs(best.size());
  for (std::size_t i = pairs.size(); i-- > 0; best.pop()) pairs[i] = best.top().pair;
  return pairs;
}

}  // namespace

RoomLayout::RoomLayout(Board board, const RoomsOptions& options, Dice& dice)
    : board_(board), options_(options), within_{1, 1, board.size.cols - 1, board.size.rows - 1}, asked_(options.rooms) {
  gap_ = {within_.left, within_.top};
  if (options.by != RoomsMethod::split) return;
  if (!within_.empty()) cut(within_, dice);
  std::reverse(pieces_.begin(), pieces_.end());
  asked_ = pieces_.size();
}

/// Cuts a piece across its longer side, anywhere that leaves two of the smallest size; else it is one room's.
void RoomLayout::cut(Rect piece, Dice& dice) {
  const int width = piece.right - piece.left;
  const int height = piece.bottom - piece.top;
  const bool can_x = width >= 2 * options_.smallest_piece.cols;
  const bool can_y = height >= 2 * options_.smallest_piece.rows;
  if (!can_x && !can_y) {
    pieces_.push_back(piece);
    return;
  }
  const bool across = can_x && (!can_y || width > height || (width == height && dice.pick(2) == 0));
  const int least = across ? options_.smallest_piece.cols : options_.smallest_piece.rows;
  const int length = across ? width : height;
  const int at = least + static_cast<int>(dice.pick(static_cast<std::uint32_t>(length - 2 * least + 1)));
  Rect first = piece;
  Rect second = piece;
  (across ? first.right : first.bottom) = (across ? piece.left : piece.top) + at;
  (across ? second.left : second.top) = (across ? piece.left : piece.top) + at;
  cut(first, dice);
  cut(second, dice);
}

int RoomLayout::side(Dice& dice, int most) const {
  const int largest = std::min(options_.most_side, most);
  return options_.least_side +
         static_cast<int>(dice.pick(static_cast<std::uint32_t>(largest - options_.least_side + 1)));
}

/// A room's box anywhere in a piece, by lot. @pre the piece holds a room
Rect RoomLayout::box_in(Rect piece, Dice& dice) const {
  const int width = piece.right - piece.left;
  const int height = piece.bottom - piece.top;
  const int cols = side(dice, width);
  const int rows = side(dice, height);
  const int left = piece.left + static_cast<int>(dice.pick(static_cast<std::uint32_t>(width - cols + 1)));
  const int top = piece.top + static_cast<int>(dice.pick(static_cast<std::uint32_t>(height - rows + 1)));
  return {left, top, left + cols, top + rows};
}

bool RoomLayout::holds_a_room(Rect piece) const {
  return piece.right - piece.left >= options_.least_side && piece.bottom - piece.top >= options_.least_side;
}

bool RoomLayout::wants_more() const { return rooms_.size() < options_.rooms && holds_a_room(within_); }

bool RoomLayout::inside(Rect box) const {
  return box.left >= within_.left && box.top >= within_.top && box.right <= within_.right &&
         box.bottom <= within_.bottom;
}

/// Far enough from all others: the larger of the gaps by columns and by rows counts.
bool RoomLayout::clear(Rect box) const {
  if (options_.overlap && options_.by == RoomsMethod::scattered) return true;
  return std::none_of(rooms_.begin(), rooms_.end(), [&](const Rect& other) {
    const int across = std::max(box.left - other.right, other.left - box.right);
    const int along = std::max(box.top - other.bottom, other.top - box.bottom);
    return std::max(across, along) < std::max(options_.margin, 0);
  });
}

bool RoomLayout::add(Rect box) {
  if (!inside(box) || !clear(box)) return false;
  rooms_.push_back(box);
  return true;
}

bool RoomLayout::scatter(Dice& dice) {
  for (int i = 0; i < tries_by_lot; ++i) {
    if (add(box_in(within_, dice))) return true;
  }
  return false;
}

/// A smallest room in the first gap there is, going on from the last one found.
bool RoomLayout::fill_gap() {
  const int least = options_.least_side;
  for (; gap_.row + least <= within_.bottom; ++gap_.row, gap_.col = within_.left) {
    for (; gap_.col + least <= within_.right; ++gap_.col) {
      if (add({gap_.col, gap_.row, gap_.col + least, gap_.row + least})) return true;
    }
  }
  return false;
}

/// The next piece's room; it keeps the margin from the piece's right and lower side, beyond which others lie.
bool RoomLayout::fill_piece(Dice& dice) {
  while (!pieces_.empty()) {
    Rect piece = pieces_.back();
    pieces_.pop_back();
    if (piece.right < within_.right) piece.right -= options_.margin;
    if (piece.bottom < within_.bottom) piece.bottom -= options_.margin;
    if (holds_a_room(piece) && add(box_in(piece, dice))) return true;
  }
  return false;
}

bool RoomLayout::place_next(Dice& dice) {
  if (options_.by == RoomsMethod::split) return fill_piece(dice);
  if (!wants_more()) return false;
  if (!crowded_ && scatter(dice)) return true;
  crowded_ = true;
  return fill_gap();
}

/// A box by lot that holds a place and fits.
std::optional<Rect> RoomLayout::box_about(const Digging& ground, Cell place, Dice& dice) const {
  const int width = within_.right - within_.left;
  const int height = within_.bottom - within_.top;
  for (int i = 0; i < 12; ++i) {
    const int cols = side(dice, width);
    const int rows = side(dice, height);
    const int left = place.col - static_cast<int>(dice.pick(static_cast<std::uint32_t>(cols - ground.width() + 1)));
    const int top = place.row - static_cast<int>(dice.pick(static_cast<std::uint32_t>(rows - ground.width() + 1)));
    const Rect box{left, top, left + cols, top + rows};
    if (inside(box) && clear(box)) return box;
  }
  return std::nullopt;
}

/// Straight on in some direction, as far as chance and the rim have it. The first place is not repeated.
std::vector<Cell> RoomLayout::stretch(const Digging& ground, Cell from, Dice& dice) const {
  const Tiling tiling = board_.tiling;
  const auto count = static_cast<std::uint32_t>(tiling.edge_count());
  const int length =
      3 + options_.most_side / 2 + static_cast<int>(dice.pick(static_cast<std::uint32_t>(options_.most_side) + 4));
  const unsigned first = dice.pick(count);
  // On triangles straight on is the exit that turns the other way than the last turn did.
  const unsigned second = tiling.shape() == Shape::triangle ? (first + 1 + dice.pick(count - 1)) % count : first;
  std::vector<Cell> places;
  Cell at = from;
  for (int i = 0; i < length; ++i) {
    const Cell next = tiling.neighbour(at, Direction(i % 2 == 0 ? first : second));
    if (!ground.fits(next)) break;
    places.push_back(next);
    at = next;
  }
  return places;
}

bool RoomLayout::walk_to_next(const Digging& ground, Dice& dice, std::vector<Cell>& corridor) {
  corridor.clear();
  if (!wants_more()) return false;
  if (rooms_.empty()) {
    if (!scatter(dice)) return false;
    starts_.push_back(ground.middle(rooms_.front()));
    return true;
  }
  for (int i = 0; i < 4 * tries_by_lot; ++i) {
    const std::size_t origin = dice.pick(static_cast<std::uint32_t>(rooms_.size()));
    std::vector<Cell> walk = {starts_[origin]};
    std::vector<Cell> bends;
    for (std::uint32_t left = 1 + dice.pick(3); left > 0; --left) {
      const std::vector<Cell> on = stretch(ground, walk.back(), dice);
      walk.insert(walk.end(), on.begin(), on.end());
      if (left > 1) bends.push_back(walk.back());
    }
    const std::optional<Rect> at_end = box_about(ground, walk.back(), dice);
    if (!at_end) continue;
    walked_.push_back({origin, rooms_.size()});
    rooms_.push_back(*at_end);
    starts_.push_back(walk.back());
    for (const Cell bend : bends) {
      if (rooms_.size() >= options_.rooms || dice.pick(4) != 0) continue;
      const std::optional<Rect> box = box_about(ground, bend, dice);
      if (!box) continue;
      rooms_.push_back(*box);
      starts_.push_back(bend);
    }
    corridor = std::move(walk);
    return true;
  }
  return false;
}

std::vector<RoomPair> pairs_to_join(Tiling tiling, const RoomLayout& layout, const RoomsOptions& options,
                                    std::vector<std::size_t>& visits) {
  const std::vector<Rect>& rooms = layout.rooms();
  if (rooms.empty()) return {};
  std::vector<RoomPair> pairs;
  switch (options.order) {
    case JoinOrder::made:
      visits = {0};
      for (std::size_t i = 1; i < rooms.size(); ++i) {
        pairs.push_back({i - 1, i});
        visits.push_back(i);
      }
      break;
    case JoinOrder::nearest: pairs = by_nearest(tiling, rooms, visits); break;
    case JoinOrder::tree: pairs = by_tree(tiling, rooms, visits); break;
  }
  const std::vector<RoomPair> more = shortest_beside(tiling, rooms, pairs, options.extra);
  pairs.insert(pairs.end(), more.begin(), more.end());
  return pairs;
}

std::vector<RoomPair> extra_pairs(Tiling tiling, const RoomLayout& layout, std::size_t count) {
  return shortest_beside(tiling, layout.rooms(), layout.walked(), count);
}

}  // namespace saunter::inline v0_2::detail
