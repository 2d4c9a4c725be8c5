#include "index_block.hpp"

#include <algorithm>
#include <bit>
#include <cstring>

namespace saunter::inline v0_2::detail {
namespace {

constexpr std::uint64_t index_magic = 0x5844'4952'5041'5357ULL;  // "WSPARIDX"
constexpr std::uint64_t index_version = 1;

/// The arrays, in their order.
struct Section {
  enum Number : std::size_t {
    cells,
    places,
    first,
    ways,
    text,
    hub_first,
    hubs,
    steps,
    in_first,
    in_hubs,
    in_steps,
    count
  };
};

struct BlockHead {
  std::uint64_t magic = 0;
  std::uint64_t version = 0;
  std::uint64_t checksum = 0;  // of all words after this one
  std::uint64_t board = 0;
  std::uint64_t kind = 0;
  std::uint64_t sides = 0;
  std::uint64_t core = 0;
  std::array<std::uint64_t, Section::count> bytes = {};
};
constexpr std::size_t head_words = sizeof(BlockHead) / 8;

/// A sum in which a change of any one word can't be undone by what follows.
class BlockSum {
 public:
  void add(std::uint64_t word) {
    sum_ = (sum_ ^ word) * 0x9E37'79B9'7F4A'7C15ULL;
    sum_ = std::rotl(sum_, 29);
  }
  [[nodiscard]] std::uint64_t value() const { return sum_; }

 private:
  std::uint64_t sum_ = 0x243F'6A88'85A3'08D3ULL;
};

std::uint64_t checksum_of(std::span<const std::uint64_t> block) {
  BlockSum sum;
  for (const std::uint64_t word : block.subspan(3)) sum.add(word);
  return sum.value();
}

constexpr std::size_t words_for(std::uint64_t bytes) { return static_cast<std::size_t>((bytes + 7) / 8); }

class BlockWriter {
 public:
  template <typename T>
  void add(Section::Number section, std::span<const T> values) {
    head.bytes[section] = values.size_bytes();
    const std::size_t at = words.size();
    words.resize(at + words_for(values.size_bytes()));
    if (!values.empty()) std::memcpy(words.data() + at, values.data(), values.size_bytes());
  }
  template <unsigned sides>
  void add_hubs(const HubLists<sides>& lists, unsigned side) {
    const std::size_t core = lists.core().count();
    std::vector<std::uint32_t> starts(1, 0);
    std::vector<HubCost> list;
    std::vector<std::uint16_t> steps_to;
    for (std::uint32_t place = 0; place < core; ++place) {
      for (const Hub& hub : lists.hubs(place, side)) {
        list.push_back({hub.hub, hub.cost});
        steps_to.push_back(hub.way);
      }
      starts.push_back(static_cast<std::uint32_t>(list.size()));
    }
    const std::size_t shift = side == 0 ? 0 : Section::in_first - Section::hub_first;
    add<std::uint32_t>(static_cast<Section::Number>(Section::hub_first + shift), starts);
    add<HubCost>(static_cast<Section::Number>(Section::hubs + shift), list);
    add<std::uint16_t>(static_cast<Section::Number>(Section::steps + shift), steps_to);
  }

  BlockHead head;
  std::vector<std::uint64_t> words = std::vector<std::uint64_t>(head_words);
};

/// Reads the arrays of a block whose head is sound.
class BlockReader {
 public:
  BlockReader(const BlockHead& head, const std::byte* block) : head_(head) {
    std::size_t at = sizeof(BlockHead);
    for (std::size_t i = 0; i < Section::count; ++i) {
      starts_[i] = block + at;
      at += words_for(head.bytes[i]) * 8;
    }
  }
  template <typename T>
  [[nodiscard]] std::span<const T> array(std::size_t section) const {
    return {reinterpret_cast<const T*>(starts_[section]), static_cast<std::size_t>(head_.bytes[section] / sizeof(T))};
  }
  [[nodiscard]] HubTable table(std::size_t shift) const {
    return {array<std::uint32_t>(Section::hub_first + shift), array<HubCost>(Section::hubs + shift),
            array<std::uint16_t>(Section::steps + shift)};
  }

 private:
  const BlockHead& head_;
  std::array<const std::byte*, Section::count> starts_ = {};
};

}  // namespace

std::uint64_t fingerprint(const CostGrid& costs) {
  BlockSum sum;
  sum.add(static_cast<std::uint64_t>(costs.tiling().shape()));
  sum.add(costs.tiling().is_hex() ? static_cast<std::uint64_t>(costs.tiling().shift()) : 0);
  sum.add(costs.tiling().shape() == Shape::triangle ? static_cast<std::uint64_t>(costs.tiling().first()) : 0);
  sum.add(static_cast<std::uint64_t>(costs.size().cols));
  sum.add(static_cast<std::uint64_t>(costs.size().rows));
  sum.add(static_cast<std::uint64_t>(costs.rules().steps));
  sum.add(static_cast<std::uint64_t>(costs.rules().corners));
  sum.add(costs.rules().diagonal);
  for (const EntryCost entry : costs.entries()) sum.add(entry);
  if (!costs.has_sides()) return sum.value();
  for (const Cell cell : costs.size().cells()) sum.add(costs.moves_on_map(cell));
  return sum.value();
}

template <unsigned sides>
std::vector<std::uint64_t> make_block(const IndexParts& parts, std::span<const IndexWay<sides>> way_list,
                                      const HubLists<sides>& lists, const CostGrid& costs) {
  BlockWriter writer;
  writer.head = {.magic = index_magic,
                 .version = index_version,
                 .board = fingerprint(costs),
                 .kind = static_cast<std::uint64_t>(parts.kind),
                 .sides = sides,
                 .core = lists.core().count()};
  writer.add<std::uint32_t>(Section::cells, parts.cells);
  writer.add<std::uint32_t>(Section::places, parts.places);
  writer.add<std::uint32_t>(Section::first, parts.first);
  writer.add<IndexWay<sides>>(Section::ways, way_list);
  writer.add<std::uint8_t>(Section::text, parts.text);
  for (unsigned side = 0; side < sides; ++side) writer.add_hubs(lists, side);
  std::memcpy(writer.words.data(), &writer.head, sizeof(BlockHead));
  writer.words[2] = checksum_of(writer.words);
  return std::move(writer.words);
}

OpenedBlock open_block(std::span<const std::byte> block, const CostGrid& costs) {
  if constexpr (std::endian::native != std::endian::little)
    return {.problem = "made for machines of another byte order"};
  BlockHead head;
  if (block.size() < sizeof(BlockHead)) return {.problem = "too short for a prepared map"};
  std::memcpy(&head, block.data(), sizeof(BlockHead));
  if (head.magic != index_magic) return {.problem = "not a prepared map"};
  if (head.version != index_version) return {.problem = "of another version"};
  std::uint64_t words = head_words;
  for (const std::uint64_t bytes : head.bytes) {
    if (bytes > block.size()) return {.problem = "cut short"};
    words += words_for(bytes);
  }
  if (words * 8 != block.size()) return {.problem = "cut short, or with something after its end"};
  if (reinterpret_cast<std::uintptr_t>(block.data()) % 8 != 0) return {.problem = "not at a multiple of 8 in memory"};
  if (checksum_of({reinterpret_cast<const std::uint64_t*>(block.data()), block.size() / 8}) != head.checksum)
    return {.problem = "damaged"};
  if (head.board != fingerprint(costs)) return {.problem = "made for another map or mover, or before the map changed"};
  if (head.kind < 1 || head.kind > 3 || head.sides < 1 || head.sides > 2 || (head.kind != 2 && head.sides != 1))
    return {.problem = "damaged"};
  const BlockReader reader(head, block.data());
  OpenedBlock opened;
  opened.kind = static_cast<PlaceKind>(head.kind);
  opened.index = {.sides = static_cast<std::uint32_t>(head.sides),
                  .core = static_cast<std::uint32_t>(std::min<std::uint64_t>(head.core, ~std::uint32_t{0})),
                  .cells = reader.array<std::uint32_t>(Section::cells),
                  .places = reader.array<std::uint32_t>(Section::places),
                  .first = reader.array<std::uint32_t>(Section::first),
                  .way_words = reader.array<std::uint32_t>(Section::ways),
                  .text = reader.array<std::uint8_t>(Section::text),
                  .hubs = {reader.table(0), reader.table(Section::in_first - Section::hub_first)}};
  return opened;
}

template std::vector<std::uint64_t> make_block<1>(const IndexParts&, std::span<const IndexWay<1>>, const HubLists<1>&,
                                                  const CostGrid&);
template std::vector<std::uint64_t> make_block<2>(const IndexParts&, std::span<const IndexWay<2>>, const HubLists<2>&,
                                                  const CostGrid&);

}  // namespace saunter::inline v0_2::detail
