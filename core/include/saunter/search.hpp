/// @file
/// The room `search` in one include: routes, fields and tours.
#pragma once

#include "saunter/search/batch.hpp"
#include "saunter/search/estimate.hpp"
#include "saunter/search/field.hpp"
#include "saunter/search/follow.hpp"
#include "saunter/search/query.hpp"
#include "saunter/search/route.hpp"
#include "saunter/search/searcher.hpp"
#include "saunter/search/stepped_field.hpp"
#include "saunter/search/stepped_search.hpp"
#include "saunter/search/tour.hpp"
#include "saunter/search/unstick.hpp"
#include "saunter/search/verdict.hpp"
#include "saunter/search/path.hpp"
#include "saunter/search/prepared.hpp"
