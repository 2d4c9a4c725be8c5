/// @file
/// The room `check` in one include: a finished path inspected.
#pragma once

#include "saunter/check/inspect.hpp"
