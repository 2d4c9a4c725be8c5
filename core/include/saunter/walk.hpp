/// @file
/// The room `walk` in one include: movers that feel their way, and what becomes of them.
#pragma once

#include "saunter/walk/trail.hpp"
#include "saunter/walk/walk.hpp"
#include "saunter/walk/walker.hpp"
