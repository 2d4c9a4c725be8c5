/// @file
/// The memory of a searcher.
#pragma once

#include "broad_search.hpp"
#include "field_search.hpp"
#include "field_work.hpp"
#include "look_up.hpp"
#include "route_search.hpp"

namespace saunter::inline v0_2 {

struct Searcher::Scratch {
  detail::RouteScratch route;
  SteppedSearch::BroadSearch broad;
  detail::FieldScratch field;
  SteppedField::Work repair;
  detail::LookUpScratch look_up;
};

}  // namespace saunter::inline v0_2
