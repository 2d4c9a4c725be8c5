/// @file
/// The room `sight` in one include: what is seen from where.
#pragma once

#include "saunter/sight/range.hpp"
#include "saunter/sight/sight.hpp"
