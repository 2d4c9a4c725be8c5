/// @file
/// The room `live` in one include: a map that changes, and all that follows it.
#pragma once

#include "saunter/live/standing_route.hpp"
