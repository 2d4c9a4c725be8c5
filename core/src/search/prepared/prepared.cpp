#include "saunter/search/prepared.hpp"

#include <algorithm>
#include <optional>

#include "prepared_answer.hpp"
#include "prepared_map.hpp"
#include "saunter/grid/dice.hpp"
#include "saunter/search/searcher.hpp"

namespace saunter::inline v0_2 {
using namespace detail;

struct Preparation::Maker {
  Maker(const CostGrid& of_board, std::size_t bytes)
      : board(of_board), most_bytes(bytes), index(IndexMaker::make(board, most_bytes)) {}

  CostGrid board;
  std::size_t most_bytes;
  std::unique_ptr<IndexMaker> index;
  bool whole = true;  // not left in the middle of something by an exception
};

void Prepared::compare(const CostGrid& costs, Rect block) {
  const CostGrid& base = map_->base;
  const auto within = [&](Cell cell) { return block.contains(cell); };
  std::erase_if(dearer_, within);
  std::erase_if(cheaper_, within);
  const bool sides = base.has_sides() || costs.has_sides();
  for (const Cell cell : block.cells()) {
    const EntryCost before = base.entry(cell);
    const EntryCost now = costs.entry(cell);
    unsigned lost = 0;
    unsigned gained = 0;
    if (sides) {
      const unsigned had = base.moves_on_map(cell);
      const unsigned has = costs.moves_on_map(cell);
      lost = had & ~has;
      gained = has & ~had;
    }
    if (lost != 0 || (before != blocked && (now == blocked || now > before))) dearer_.push_back(cell);
    if (gained != 0 || (now != blocked && (before == blocked || now < before))) cheaper_.push_back(cell);
  }
}

bool Prepared::follow(const CostGrid& costs) {
  if (map_ == nullptr || map_->base.board() != costs.board() || map_->base.rules() != costs.rules()) return false;
  if (follows(costs)) return true;
  const Stamp before = follows_;
  follows_ = {};  // should memory run out meanwhile
  const bool known = costs.for_each_change_since(before, [&](Rect block) { compare(costs, block); });
  if (!known) compare(costs, Rect::whole(costs.size()));
  follows_ = costs.stamp();
  return true;
}

double Prepared::share_exact(const CostGrid& costs, std::size_t routes) const {
  if (map_ == nullptr || !follows(costs)) return 0;
  if (dearer_.empty() && cheaper_.empty()) return 1;
  const CostGrid& base = map_->base;
  const Size size = base.size();
  Dice dice(1);
  const auto open_cell = [&]() -> std::optional<Cell> {
    for (int tries = 0; tries < 64; ++tries) {
      const Cell cell = size.cell(CellIndex{static_cast<std::uint32_t>(dice.below(size.cell_count()))});
      if (base.open(cell) && costs.open(cell)) return cell;
    }
    return std::nullopt;
  };
  PreparedWays before;
  PreparedAnswer answer;
  std::size_t told = 0;
  std::size_t exact = 0;
  for (std::size_t i = 0; i < routes; ++i) {
    const std::optional<Cell> from = open_cell();
    const std::optional<Cell> to = open_cell();
    if (!from || !to || before.least(*map_, *from, *to) > max_cost) continue;
    ++told;
    exact += answer.find(*this, costs, *from, *to) ? 1U : 0U;
  }
  return told == 0 ? 0 : static_cast<double>(exact) / static_cast<double>(told);
}

PreparedFigures Prepared::figures() const {
  if (map_ == nullptr) return {};
  const Index& index = map_->index;
  const std::size_t way_bytes = index.sides == 1 ? sizeof(IndexWay<1>) : sizeof(IndexWay<2>);
  return {.places = index.count(),
          .ways = index.way_words.size_bytes() / way_bytes,
          .core = index.core,
          .hubs = index.hubs[0].hubs.size() + index.hubs[1].hubs.size(),
          .bytes = map_->memory()};
}

std::span<const std::byte> Prepared::bytes() const {
  return map_ == nullptr ? std::span<const std::byte>() : map_->bytes;
}

namespace {

/// Whether some ways that are drawn cost what a search finds. All can't be tried; as many as about a tenth of a second
/// lasts for are.
bool tells_least(const Prepared& index, const CostGrid& costs) {
  constexpr int most_ways = 64;
  constexpr std::uint64_t most_states = 500'000;
  const auto count = static_cast<std::uint64_t>(costs.size().cell_count());
  if (count == 0) return true;
  Dice dice(costs.size().cell_count());
  Searcher searcher;
  const auto any_open = [&] {
    CellIndex at{static_cast<std::uint32_t>(dice.below(count))};
    for (int i = 0; i < 100 && costs.entry(at) == blocked; ++i) {
      at = CellIndex{static_cast<std::uint32_t>(dice.below(count))};
    }
    return costs.size().cell(at);
  };
  std::uint64_t states = 0;
  for (int i = 0; i < most_ways && states < most_states; ++i) {
    const Cell from = any_open();
    const Cell to = any_open();
    const Route& found = searcher.route(costs, from, to, {.by = Algorithm::astar, .limit = most_states - states});
    states += found.expanded() + 1;
    if (found.verdict().reason == Reason::stopped) return true;
    const Cost cost = found.found() ? found.cost() : unreached;
    if (searcher.cost(costs, from, to, index) != cost) return false;
  }
  return true;
}

}  // namespace

Prepared::Read Prepared::from_bytes(std::span<const std::byte> bytes, std::shared_ptr<const void> keeper,
                                    const CostGrid& costs) {
  auto map = std::make_shared<Inside>(costs, bytes);
  Read read{.problem = map->problem};
  if (!read.problem.empty()) return read;
  map->keeper = std::move(keeper);
  read.index.map_ = std::move(map);
  read.index.follows_ = costs.stamp();
  if (!tells_least(read.index, costs)) {
    read.index = {};
    read.problem = "ways that are not least";
  }
  return read;
}

Preparation::Preparation(const CostGrid& costs, const PrepareOptions& options)
    : maker_(std::make_unique<Maker>(costs, options.most_bytes)) {}
Preparation::~Preparation() = default;
Preparation::Preparation(Preparation&&) noexcept = default;
Preparation& Preparation::operator=(Preparation&&) noexcept = default;

bool Preparation::work_with(std::size_t places, std::size_t workers, void* executor,
                            void (*run)(void*, std::size_t, void*, void (*)(void*, std::size_t))) {
  if (maker_ == nullptr) return true;
  Maker& maker = *maker_;
  if (!maker.whole) maker.index = IndexMaker::make(maker.board, maker.most_bytes);
  maker.whole = false;
  const bool done = maker.index->work(std::max<std::size_t>(1, places), Workers(workers, executor, run));
  maker.whole = true;
  return done;
}

bool Preparation::work(std::size_t places) {
  return work_with(places, 1, nullptr,
                   [](void*, std::size_t, void* what, void (*call)(void*, std::size_t)) { call(what, 0); });
}

bool Preparation::done() const { return maker_ == nullptr || (maker_->whole && maker_->index->share_done() >= 1); }

double Preparation::share_done() const {
  return maker_ == nullptr ? 1 : maker_->whole ? maker_->index->share_done() : 0;
}

Prepared Preparation::take() {
  Prepared made;
  if (maker_ == nullptr || !done()) return made;
  made.map_ = std::make_shared<const Prepared::Inside>(maker_->board, maker_->index->block());
  maker_.reset();
  return made;
}

std::size_t Preparation::memory() const { return maker_ == nullptr ? 0 : maker_->index->memory(); }

Prepared prepare(const CostGrid& costs, const PrepareOptions& options, const std::function<bool(double)>& progress) {
  const auto began = std::chrono::steady_clock::now();
  Preparation preparation(costs, options);
  while (!preparation.work(20'000)) {
    if (std::chrono::steady_clock::now() - began > options.most_time) return {};
    if (progress && !progress(preparation.share_done())) return {};
  }
  Prepared made = preparation.take();
  made.follow(costs);
  return made;
}

}  // namespace saunter::inline v0_2
