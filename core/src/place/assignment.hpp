/// @file
/// Who gets what, so that it costs least.
#pragma once

#include <algorithm>
#include <cstdint>
#include <limits>
#include <span>
#include <vector>

namespace saunter::inline v0_2::detail {

/// Pairs as many rows as columns. Keeps its memory.
class Assignment {
 public:
  static constexpr std::uint32_t forbidden = std::numeric_limits<std::uint32_t>::max();
  static constexpr std::uint32_t nobody = forbidden;

  /// The column of each row so that as few pairs as possible are forbidden and the sum of the others is least (Kuhn
  /// 1955; by shortest augmenting paths with potentials, Jonker and Volgenant 1987). O(count^3)
  /// @param costs  row by row
  std::span<const std::uint32_t> least_sum(std::span<const std::uint32_t> costs, std::size_t count) {
    // A forbidden pair costs more than all others together.
    const auto far = static_cast<std::int64_t>((std::uint64_t{count} + 1) << 32U);
    row_price_.assign(count, 0);
    column_price_.assign(count + 1, 0);
    row_of_.assign(count + 1, nobody);
    for (std::size_t row = 0; row < count; ++row) add_row(static_cast<std::uint32_t>(row), costs, count, far);
    column_of_.assign(count, nobody);
    for (std::size_t column = 0; column < count; ++column) {
      column_of_[row_of_[column]] = static_cast<std::uint32_t>(column);
    }
    return column_of_;
  }

  /// The least bound such that pairs that cost no more match as many rows as all allowed pairs do; 0 when there are
  /// none. O(log costs) matchings
  std::uint32_t least_bound(std::span<const std::uint32_t> costs, std::size_t count) {
    sorted_.assign(costs.begin(), costs.end());
    std::sort(sorted_.begin(), sorted_.end());
    sorted_.erase(std::unique(sorted_.begin(), sorted_.end()), sorted_.end());
    if (!sorted_.empty() && sorted_.back() == forbidden) sorted_.pop_back();
    if (sorted_.empty()) return 0;
    const std::size_t most = matched(costs, count, sorted_.back());
    const auto enough = std::partition_point(sorted_.begin(), sorted_.end(),
                                             [&](std::uint32_t bound) { return matched(costs, count, bound) < most; });
    return *enough;
  }

 private:
  /// One more row gets a column, others perhaps another than before.
  void add_row(std::uint32_t row, std::span<const std::uint32_t> costs, std::size_t count, std::int64_t far) {
    const std::size_t none = count;  // a column that stands for "not yet"
    slack_.assign(count, std::numeric_limits<std::int64_t>::max());
    before_.assign(count, static_cast<std::uint32_t>(none));
    done_.assign(count + 1, 0);
    row_of_[none] = row;
    std::size_t column = none;
    do {
      done_[column] = 1;
      const std::uint32_t at = row_of_[column];
      const std::uint32_t* const line = costs.data() + std::size_t{at} * count;
      std::int64_t least = std::numeric_limits<std::int64_t>::max();
      std::size_t next = none;
      for (std::size_t c = 0; c < count; ++c) {
        if (done_[c] != 0) continue;
        const std::int64_t cost = line[c] == forbidden ? far : std::int64_t{line[c]};
        const std::int64_t reduced = cost - row_price_[at] - column_price_[c];
        if (reduced < slack_[c]) {
          slack_[c] = reduced;
          before_[c] = static_cast<std::uint32_t>(column);
        }
        if (slack_[c] < least) {
          least = slack_[c];
          next = c;
        }
      }
      for (std::size_t c = 0; c <= count; ++c) {
        if (done_[c] != 0) {
          row_price_[row_of_[c]] += least;
          column_price_[c] -= least;
        } else if (c < count) {
          slack_[c] -= least;
        }
      }
      column = next;
    } while (row_of_[column] != nobody);
    while (column != none) {
      const std::size_t before = before_[column];
      row_of_[column] = row_of_[before];
      column = before;
    }
  }

  /// How many rows can be matched by pairs within a bound (Hopcroft and Karp 1973).
  std::size_t matched(std::span<const std::uint32_t> costs, std::size_t count, std::uint32_t bound) {
    row_of_.assign(count, nobody);
    column_of_.assign(count, nobody);
    std::size_t pairs = 0;
    const auto allowed = [&](std::size_t row, std::size_t column) { return costs[row * count + column] <= bound; };
    while (lay_levels(count, allowed)) {
      next_.assign(count, 0);
      for (std::size_t row = 0; row < count; ++row) {
        if (column_of_[row] == nobody && match(row, count, allowed)) ++pairs;
      }
    }
    return pairs;
  }

  /// Rows by how many exchanges lead to them from one without a column. @return whether a free column is in sight
  template <typename Allowed>
  bool lay_levels(std::size_t count, Allowed&& allowed) {
    level_.assign(count, nobody);
    line_.clear();
    for (std::size_t row = 0; row < count; ++row) {
      if (column_of_[row] != nobody) continue;
      level_[row] = 0;
      line_.push_back(static_cast<std::uint32_t>(row));
    }
    bool free = false;
    for (std::size_t i = 0; i < line_.size(); ++i) {
      for (std::size_t column = 0; column < count; ++column) {
        if (!allowed(line_[i], column)) continue;
        const std::uint32_t other = row_of_[column];
        if (other == nobody) {
          free = true;
        } else if (level_[other] == nobody) {
          level_[other] = level_[line_[i]] + 1;
          line_.push_back(other);
        }
      }
    }
    return free;
  }

  /// Gives a row a column along rising levels, by a list of its own: chains can be as long as there are rows.
  template <typename Allowed>
  bool match(std::size_t first, std::size_t count, Allowed&& allowed) {
    line_.assign(1, static_cast<std::uint32_t>(first));
    while (!line_.empty()) {
      const std::uint32_t row = line_.back();
      if (next_[row] == count) {
        line_.pop_back();
        if (!line_.empty()) ++next_[line_.back()];
        continue;
      }
      const std::size_t column = next_[row];
      const std::uint32_t other = allowed(row, column) ? row_of_[column] : row;
      if (other == nobody) {
        for (const std::uint32_t on_chain : line_) {
          const auto taken = static_cast<std::uint32_t>(next_[on_chain]);
          row_of_[taken] = on_chain;
          column_of_[on_chain] = taken;
        }
        return true;
      }
      if (other != row && level_[other] == level_[row] + 1) {
        line_.push_back(other);
      } else {
        ++next_[row];
      }
    }
    return false;
  }

  std::vector<std::int64_t> row_price_;
  std::vector<std::int64_t> column_price_;
  std::vector<std::int64_t> slack_;
  std::vector<std::uint32_t> before_;
  std::vector<std::uint8_t> done_;
  std::vector<std::uint32_t> row_of_;     // of each column
  std::vector<std::uint32_t> column_of_;  // of each row
  std::vector<std::uint32_t> sorted_;
  std::vector<std::uint32_t> level_;
  std::vector<std::uint32_t> line_;
  std::vector<std::size_t> next_;
};

}  // namespace saunter::inline v0_2::detail
