/// @file
/// The room `ground` in one include: maps, movers and cost grids.
#pragma once

#include "saunter/ground/bake.hpp"
#include "saunter/ground/clearance.hpp"
#include "saunter/ground/cost.hpp"
#include "saunter/ground/cost_grid.hpp"
#include "saunter/ground/entry_counts.hpp"
#include "saunter/ground/glyph.hpp"
#include "saunter/ground/hundredths.hpp"
#include "saunter/ground/map.hpp"
#include "saunter/ground/mover.hpp"
#include "saunter/ground/paint.hpp"
