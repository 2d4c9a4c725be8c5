/// @file
/// The room `turn` in one include: what a unit can do in a turn, and ways over several.
#pragma once

#include "saunter/turn/acting.hpp"
#include "saunter/turn/turn_reach.hpp"
#include "saunter/turn/turn_route.hpp"
