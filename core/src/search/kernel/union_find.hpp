/// @file
/// Which of many things belong together.
#pragma once

#include <cstdint>
#include <vector>

namespace saunter::inline v0_2::detail {

/// Sets of numbers that grow together (Galler and Fischer 1964; path halving, Tarjan and van Leeuwen 1984). The least
/// number of a set stands for it.
class UnionFind {
 public:
  UnionFind() = default;
  /// Every number from 0 on by itself.
  explicit UnionFind(std::size_t count) { begin(count); }
  void begin(std::size_t count) {
    parents_.resize(count);
    for (std::size_t i = 0; i < count; ++i) parents_[i] = static_cast<std::uint32_t>(i);
  }
  [[nodiscard]] std::size_t size() const { return parents_.size(); }
  /// One more number, by itself.
  std::uint32_t add() {
    parents_.push_back(static_cast<std::uint32_t>(parents_.size()));
    return parents_.back();
  }
  [[nodiscard]] std::uint32_t root(std::uint32_t number) {
    while (parents_[number] != number) number = parents_[number] = parents_[parents_[number]];
    return number;
  }
  /// @return false when they were together already
  bool join(std::uint32_t a, std::uint32_t b) {
    a = root(a);
    b = root(b);
    if (a == b) return false;
    parents_[a < b ? b : a] = a < b ? a : b;
    return true;
  }

 private:
  std::vector<std::uint32_t> parents_;
};

}  // namespace saunter::inline v0_2::detail
