/// @file
/// The room `live` in one include: a map that changes, and all that follows it.
#pragma once

#include "saunter/live/change.hpp"
#include "saunter/live/crowd.hpp"
#include "saunter/live/live_map.hpp"
#include "saunter/live/plan_together.hpp"
#include "saunter/live/play.hpp"
#include "saunter/live/shares.hpp"
#include "saunter/live/snapshot.hpp"
#include "saunter/live/standing_route.hpp"
