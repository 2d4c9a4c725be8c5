/// @file
/// The room `threat` in one include: danger, and routes that mind it.
#pragma once

#include "saunter/threat/cover.hpp"
#include "saunter/threat/front.hpp"
#include "saunter/threat/levels.hpp"
#include "saunter/threat/side.hpp"
#include "saunter/threat/schedule.hpp"
#include "saunter/threat/threat_field.hpp"
#include "saunter/threat/timed_route.hpp"
#include "saunter/threat/wary.hpp"
#include "saunter/threat/weighed_ground.hpp"
