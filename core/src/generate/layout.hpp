/// @file
/// Where rooms lie, and which are joined.
#pragma once

#include <optional>
#include <vector>

#include "digging.hpp"
#include "saunter/generate/rooms.hpp"

namespace saunter::inline v0_2::detail {

struct RoomPair {
  std::size_t from = 0;
  std::size_t to = 0;
};

/// Boxes inside the rim, one after the other.
class RoomLayout {
 public:
  RoomLayout(Board board, const RoomsOptions& options, Dice& dice);

  [[nodiscard]] const std::vector<Rect>& rooms() const { return rooms_; }
  [[nodiscard]] std::size_t asked() const { return asked_; }
  /// Where a room begins: corridors lead there.
  [[nodiscard]] Cell start(const Digging& ground, std::size_t room) const {
    return room < starts_.size() ? starts_[room] : ground.middle(rooms_[room]);
  }
  /// Pairs that walks have joined.
  [[nodiscard]] const std::vector<RoomPair>& walked() const { return walked_; }

  /// Puts one more room down, scattered or in the next piece. @return false when no more is wanted or fits
  bool place_next(Dice& dice);
  /// A walk from a room that is there, with a room at its end and perhaps at bends; the first room has no walk.
  /// @param corridor  its places. @return as place_next
  bool walk_to_next(const Digging& ground, Dice& dice, std::vector<Cell>& corridor);

 private:
  void cut(Rect piece, Dice& dice);
  [[nodiscard]] int side(Dice& dice, int most) const;
  [[nodiscard]] Rect box_in(Rect piece, Dice& dice) const;
  [[nodiscard]] bool holds_a_room(Rect piece) const;
  [[nodiscard]] bool wants_more() const;
  [[nodiscard]] bool inside(Rect box) const;
  [[nodiscard]] bool clear(Rect box) const;
  bool add(Rect box);
  bool scatter(Dice& dice);
  bool fill_gap();
  bool fill_piece(Dice& dice);
  [[nodiscard]] std::optional<Rect> box_about(const Digging& ground, Cell place, Dice& dice) const;
  [[nodiscard]] std::vector<Cell> stretch(const Digging& ground, Cell from, Dice& dice) const;

  Board board_;
  RoomsOptions options_;
  Rect within_;
  std::vector<Rect> rooms_;
  std::vector<Cell> starts_;  // of rooms that walks led to
  std::vector<RoomPair> walked_;
  std::vector<Rect> pieces_;  // still without a room, the next one last
  std::size_t asked_ = 0;
  bool crowded_ = false;  // no more fits by lot: gaps are looked for
  Cell gap_;              // where to look on
};

/// Which rooms to join, in order. @param visits  the rooms in the order they are joined
[[nodiscard]] std::vector<RoomPair> pairs_to_join(Tiling tiling, const RoomLayout& layout, const RoomsOptions& options,
                                                  std::vector<std::size_t>& visits);
/// More pairs, for rooms that are joined each to one before: the shortest not joined yet.
[[nodiscard]] std::vector<RoomPair> extra_pairs(Tiling tiling, const RoomLayout& layout, std::size_t count);

}  // namespace saunter::inline v0_2::detail
