/// @file
/// The words of `generate`: what is to be made, and how.
#pragma once

#include "command.hpp"
#include "saunter/generate.hpp"

namespace saunter::app {

enum class MadeKind : std::uint8_t { maze, cave, rooms };

/// Any maker, gone on with by steps.
struct Maker {
  std::function<bool(std::uint64_t)> run;
  std::function<Made()> so_far;
  std::function<Made()> take;
};

/// What is asked for: a kind, a board, and the options of that kind.
class Making {
 public:
  void add_words(Words& words);
  /// Turns words into options and refuses what belongs to another kind or method.
  void prepare();

  [[nodiscard]] Maker maker() const;
  [[nodiscard]] Board board() const { return board_; }
  [[nodiscard]] MadeKind kind() const { return kind_; }
  [[nodiscard]] const char* kind_word() const;
  [[nodiscard]] const char* tiling_word() const;
  [[nodiscard]] const std::string& method() const { return by_; }
  /// As it was typed.
  [[nodiscard]] const std::string& size_word() const { return size_; }
  [[nodiscard]] std::uint64_t seed() const { return seed_; }
  [[nodiscard]] const RoomsOptions& rooms() const { return rooms_; }

 private:
  void add_maze(Words& words);
  void add_cave(Words& words);
  void add_rooms(Words& words);
  void choose_method();
  template <typename Method, std::size_t count>
  void choose(Method& method, const std::array<Method, count>& known);
  void refuse_strangers() const;
  void parse_lean();

  Words* words_ = nullptr;
  MadeKind kind_ = MadeKind::maze;
  std::string size_;
  Tiling tiling_ = Tiling::square();
  std::string by_;
  std::uint64_t seed_ = 1;
  MazeOptions maze_;
  CaveOptions cave_;
  RoomsOptions rooms_;
  std::string lean_;
  std::string room_size_;
  std::string piece_;
  Board board_;
};

}  // namespace saunter::app
