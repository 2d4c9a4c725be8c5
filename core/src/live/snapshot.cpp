#include "saunter/live/snapshot.hpp"

#include <algorithm>

#include "world.hpp"

namespace saunter::inline v0_2 {
using namespace detail;

/// What this commit changed, once anyone has asked for a snapshot.
void LiveMap::World::remember() {
  if (past.empty()) return;
  Past& now = past[(change.revision + 1) % most_past];
  now.revision = 0;  // should it be cut short
  now.blocks = change.blocks;
  now.danger = danger_blocks;
  now.revision = change.revision + 1;
}

void LiveMap::World::copy_part(Snapshot::Part& part, const Follower& follower) const {
  part.has_costs = false;
  part.has_regions = false;
  part.has_levels = false;
  if (!follower.has_costs) return;
  part.costs = follower.costs;
  part.has_costs = true;
  if (!follower.has_regions) return;
  part.regions = Regions(part.costs);
  part.has_regions = true;
}

/// Blocks that the commits since changed; all of it where they are not known any more or a part is new.
void LiveMap::World::bring_up_to_date(Snapshot& snapshot) {
  const std::uint64_t now = change.revision;
  const std::uint64_t then = snapshot.revision_;
  bool known_since = then > 0 && now - then < most_past && snapshot.parts_.size() == followers.size();
  for (std::uint64_t revision = then + 1; known_since && revision <= now; ++revision) {
    known_since = past[revision % most_past].revision == revision;
  }
  snapshot.revision_ = 0;  // should it be cut short
  snapshot.parts_.resize(followers.size());
  for (MoverId mover = 0; mover < followers.size(); ++mover) {
    const Follower& follower = followers[mover];
    Snapshot::Part& part = snapshot.parts_[mover];
    if (!known_since || part.has_costs != follower.has_costs || part.has_regions != follower.has_regions) {
      copy_part(part, follower);
    } else {
      for (std::uint64_t revision = then + 1; follower.has_costs && revision <= now; ++revision) {
        for (const Rect block : past[revision % most_past].blocks[mover]) {
          part.costs.take_block(follower.costs, block);
          if (part.has_regions) update_regions(part.regions, part.costs, block);
        }
      }
    }
    // Of a large mover only what was asked for: its places have levels of their own.
    const bool large = mover < movers.size() && movers[mover].size > 1;
    if (!has_danger || (large && !follower.has_levels)) continue;
    const Levels& levels = follower.has_levels ? follower.levels : danger.levels();
    const std::int32_t body = follower.has_levels ? movers[mover].size : 0;
    if (!known_since || !part.has_levels) {
      part.levels = levels;
    } else {
      for (std::uint64_t revision = then + 1; revision <= now; ++revision) {
        for (const Rect block : past[revision % most_past].danger) {
          for (const Cell cell : block.grown(body, board.size).cells()) part.levels[cell] = levels[cell];
        }
      }
    }
    part.has_levels = true;
  }
  snapshot.revision_ = now;
}

std::shared_ptr<const Snapshot> LiveMap::World::publish() {
  if (past.empty()) past.resize(most_past);
  std::unique_ptr<Snapshot> made;
  {
    const std::lock_guard lock(pool->mutex);
    if (!pool->free.empty()) {
      made = std::move(pool->free.back());
      pool->free.pop_back();
    } else {
      pool->free.reserve(++pool->count);  // so that giving one back takes no memory
    }
  }
  if (made == nullptr) made = std::make_unique<Snapshot>();
  bring_up_to_date(*made);
  std::shared_ptr<const Snapshot> shared(made.release(), [pool = pool](const Snapshot* snapshot) {
    const std::lock_guard lock(pool->mutex);
    pool->free.emplace_back(const_cast<Snapshot*>(snapshot));
  });
  std::shared_ptr<const Snapshot> last = shared;
  const std::lock_guard lock(pool->mutex);
  pool->latest.swap(last);
  return shared;
}

}  // namespace saunter::inline v0_2
