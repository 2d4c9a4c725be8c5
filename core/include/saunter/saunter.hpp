/// @file
/// The whole core in one include.
#pragma once

#include "saunter/grid/area.hpp"
#include "saunter/grid/bit_grid.hpp"
#include "saunter/grid/cell.hpp"
#include "saunter/grid/frame.hpp"
#include "saunter/grid/grid.hpp"
#include "saunter/grid/tiling.hpp"
#include "saunter/ground/bake.hpp"
#include "saunter/ground/clearance.hpp"
#include "saunter/ground/cost.hpp"
#include "saunter/ground/cost_grid.hpp"
#include "saunter/ground/glyph.hpp"
#include "saunter/ground/map.hpp"
#include "saunter/ground/mover.hpp"
#include "saunter/ground/paint.hpp"
#include "saunter/place/footprint.hpp"
#include "saunter/region/regions.hpp"
#include "saunter/search/estimate.hpp"
#include "saunter/search/route.hpp"
#include "saunter/search/searcher.hpp"
#include "saunter/search/verdict.hpp"
