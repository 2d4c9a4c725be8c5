/// @file
/// The room `region` in one include: what is connected, and what splits or joins it.
#pragma once

#include "saunter/region/chokes.hpp"
#include "saunter/region/cut_off.hpp"
#include "saunter/region/farthest.hpp"
#include "saunter/region/joins.hpp"
#include "saunter/region/passages.hpp"
#include "saunter/region/regions.hpp"
