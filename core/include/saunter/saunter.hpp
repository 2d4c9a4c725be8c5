/// @file
/// The whole core in one include, all but saunter/grid/eigen.hpp.
#pragma once

#include "saunter/check.hpp"
#include "saunter/generate.hpp"
#include "saunter/grid.hpp"
#include "saunter/ground.hpp"
#include "saunter/live.hpp"
#include "saunter/place.hpp"
#include "saunter/region.hpp"
#include "saunter/search.hpp"
#include "saunter/sight.hpp"
#include "saunter/threat.hpp"
#include "saunter/turn.hpp"
#include "saunter/version.hpp"
#include "saunter/walk.hpp"
