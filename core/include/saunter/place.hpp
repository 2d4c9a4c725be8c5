/// @file
/// The room `place` in one include: footprints, occupancy and what fits where.
#pragma once

#include "saunter/place/fit.hpp"
#include "saunter/place/footprint.hpp"
#include "saunter/place/gather.hpp"
#include "saunter/place/occupancy.hpp"
#include "saunter/place/rule.hpp"
#include "saunter/place/scatter.hpp"
