/// @file
/// The room `grid` in one include: cells, grids, tilings and frames. saunter/grid/eigen.hpp, for programs that use
/// Eigen, is asked for by itself.
#pragma once

#include "saunter/grid/area.hpp"
#include "saunter/grid/bit_grid.hpp"
#include "saunter/grid/borrowed.hpp"
#include "saunter/grid/cell.hpp"
#include "saunter/grid/change_set.hpp"
#include "saunter/grid/compiler.hpp"
#include "saunter/grid/dice.hpp"
#include "saunter/grid/expect.hpp"
#include "saunter/grid/frame.hpp"
#include "saunter/grid/grid.hpp"
#include "saunter/grid/labels.hpp"
#include "saunter/grid/point.hpp"
#include "saunter/grid/stamp.hpp"
#include "saunter/grid/tiling.hpp"
#include "saunter/grid/visible.hpp"
#include "saunter/grid/whole_plane.hpp"
