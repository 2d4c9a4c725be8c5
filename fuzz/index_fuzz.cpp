// Bytes as alterations of a stored index, whose checksum is then made right: six bytes name a number and what it
// becomes. What is taken all the same leads by legal ways, and nowhere else.
#include <bit>
#include <cstdint>
#include <cstdlib>
#include <cstring>
#include <vector>

#include "saunter/grid/dice.hpp"
#include "saunter/search/path.hpp"
#include "saunter/search/prepared.hpp"
#include "saunter/search/searcher.hpp"

using namespace saunter;

namespace {

CostGrid board(std::uint64_t seed) {
  Dice dice(seed);
  const Tiling tiling = seed == 0 ? Tiling::square() : Tiling::hex(HexTop::pointy, Shift::odd);
  return CostGrid({tiling, {18, 14}}, {}, [&](Cell) -> EntryCost {
    return dice.below(100) < 22 ? blocked : static_cast<EntryCost>(seed == 0 ? 100 : 50 + 50 * dice.below(4));
  });
}

/// As the file has it.
std::uint64_t checksum(std::span<const std::uint64_t> words) {
  std::uint64_t sum = 0x243F'6A88'85A3'08D3ULL;
  for (const std::uint64_t word : words.subspan(3)) sum = std::rotl((sum ^ word) * 0x9E37'79B9'7F4A'7C15ULL, 29);
  return sum;
}

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  if (size == 0) return 0;
  static const CostGrid boards[] = {board(0), board(1)};
  static const Prepared indices[] = {prepare(boards[0]), prepare(boards[1])};
  const std::size_t which = *data & 1U;
  const CostGrid& costs = boards[which];
  const std::span<const std::byte> whole = indices[which].bytes();
  std::vector<std::uint32_t> words(whole.size() / 4);
  std::memcpy(words.data(), whole.data(), words.size() * 4);
  for (std::size_t at = 1; at + 6 <= size; at += 6) {
    std::uint16_t place = 0;
    std::uint32_t value = 0;
    std::memcpy(&place, data + at, 2);
    std::memcpy(&value, data + at + 2, 4);
    words[place % words.size()] = value;
  }
  std::vector<std::uint64_t> sealed(words.size() / 2);
  std::memcpy(sealed.data(), words.data(), sealed.size() * 8);
  sealed[2] = checksum(sealed);
  const auto read = Prepared::from_bytes(std::as_bytes(std::span(sealed)), {}, costs);
  if (!read.problem.empty()) return 0;
  static Searcher searcher;
  for (std::int32_t i = 0; i < 6; ++i) {
    const Route& route = searcher.route(costs, {i, i}, {17 - i, 13 - i}, {.prepared = &read.index});
    if (route.found() && cost_of_path(costs, route.cells()) != route.cost()) std::abort();
  }
  return 0;
}
