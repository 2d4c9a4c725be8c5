/// @file
/// The room `generate` in one include: mazes, caves, rooms and corridors.
#pragma once

#include "saunter/generate/cave.hpp"
#include "saunter/generate/made.hpp"
#include "saunter/generate/maze.hpp"
#include "saunter/generate/rooms.hpp"
