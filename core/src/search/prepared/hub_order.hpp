/// @file
/// In which order the most important places are made hubs.
#pragma once

#include <cstdint>
#include <vector>

#include "contraction.hpp"

namespace saunter::inline v0_2::detail {

/// Orders places by how many least-cost ways lead over them that no hub chosen before lies on, as trees of such ways
/// from a sample of places tell (Delling, Goldberg, Pajor, Werneck 2014). The trees are grown anew for
/// every few hubs: they end at hubs, so they become small and there can be many.
template <unsigned sides>
class HubOrder {
 public:
  void begin(std::size_t places);
  /// @return whether it is done
  bool work(const Core<sides>& core, std::size_t amount, const Workers& workers);
  [[nodiscard]] const std::vector<std::uint32_t>& order() const { return order_; }
  [[nodiscard]] std::size_t memory() const;

 private:
  /// A place in a tree. Those of a branch follow each other, its root first.
  struct Node {
    std::uint32_t place = 0;
    std::uint32_t parent = 0;  // its own position at a root
    std::uint32_t size = 0;    // places on the branch
    std::uint32_t below = 0;   // the same without those that are covered
  };
  struct Bench {
    struct Mark {
      Cost cost = unreached;
      bool covered = false;  // a hub lies on the way
    };
    std::vector<Mark> marks;
    std::vector<std::uint32_t> parent;  // by place
    std::vector<std::uint32_t> next;
    CostHeap heap;
    std::vector<std::uint32_t> touched;
    std::vector<std::uint32_t> settled;
  };
  enum class Part : std::uint8_t { grow, choose, done };

  void grow_some(const Core<sides>& core, const Workers& workers);
  void grow(const Core<sides>& core, std::uint32_t root, Bench& bench, std::vector<Node>& tree) const;
  static void lay_out(Bench& bench, std::vector<Node>& tree);
  void begin_choosing();
  void cover(std::uint32_t place);

  std::vector<std::uint8_t> chosen_;
  std::vector<std::uint32_t> order_;
  std::vector<Bench> benches_;
  std::vector<std::vector<Node>> grown_;
  Part part_ = Part::grow;
  // Of this round.
  std::vector<std::uint32_t> others_;  // places that are no hubs
  std::size_t next_root_ = 0;
  std::vector<Node> nodes_;
  std::vector<std::size_t> first_at_;  // where a place's positions begin, one more than places
  std::vector<std::uint32_t> at_;      // positions, by place
  std::vector<std::uint64_t> score_;
  std::vector<std::uint64_t> heap_;  // score above place, some out of date
  std::size_t choose_until_ = 0;
};

extern template class HubOrder<1>;
extern template class HubOrder<2>;

}  // namespace saunter::inline v0_2::detail
