/// @file
/// Where the fields of the C interface's structs begin. A caller's struct may be an older one, which ends before some
/// of ours: it ends between two fields, and never within one.
#pragma once

#include <array>
#include <cstddef>

#include "saunter.h"

namespace saunter::c {

template <typename Struct>
inline constexpr std::array<std::size_t, 0> field_places = {};  // none: every struct has its own

template <>
inline constexpr auto field_places<saunter_board> = std::to_array<std::size_t>(
    {offsetof(saunter_board, tiling), offsetof(saunter_board, cols), offsetof(saunter_board, rows)});
template <>
inline constexpr auto field_places<saunter_rules> = std::to_array<std::size_t>(
    {offsetof(saunter_rules, steps), offsetof(saunter_rules, corners), offsetof(saunter_rules, diagonal)});
template <>
inline constexpr auto field_places<saunter_route_options> =
    std::to_array<std::size_t>({offsetof(saunter_route_options, by),
                                offsetof(saunter_route_options, starts),
                                offsetof(saunter_route_options, start_count),
                                offsetof(saunter_route_options, goals),
                                offsetof(saunter_route_options, goal_count),
                                offsetof(saunter_route_options, has_budget),
                                offsetof(saunter_route_options, budget),
                                offsetof(saunter_route_options, limit),
                                offsetof(saunter_route_options, weight),
                                offsetof(saunter_route_options, turn_cost),
                                offsetof(saunter_route_options, within),
                                offsetof(saunter_route_options, beside),
                                offsetof(saunter_route_options, or_nearest),
                                offsetof(saunter_route_options, natural),
                                offsetof(saunter_route_options, changes),
                                offsetof(saunter_route_options, change_count),
                                offsetof(saunter_route_options, has_heading),
                                offsetof(saunter_route_options, heading),
                                offsetof(saunter_route_options, regions),
                                offsetof(saunter_route_options, prepared),
                                offsetof(saunter_route_options, until),
                                offsetof(saunter_route_options, until_context),
                                offsetof(saunter_route_options, start_costs),
                                offsetof(saunter_route_options, trace),
                                offsetof(saunter_route_options, trace_capacity)});
template <>
inline constexpr auto field_places<saunter_route> = std::to_array<std::size_t>(
    {offsetof(saunter_route, reason), offsetof(saunter_route, at), offsetof(saunter_route, cells),
     offsetof(saunter_route, cell_count), offsetof(saunter_route, cost), offsetof(saunter_route, by),
     offsetof(saunter_route, expanded), offsetof(saunter_route, remaining), offsetof(saunter_route, start_number),
     offsetof(saunter_route, goal_number), offsetof(saunter_route, trace_count)});
template <>
inline constexpr auto field_places<saunter_field_options> =
    std::to_array<std::size_t>({offsetof(saunter_field_options, has_budget), offsetof(saunter_field_options, budget),
                                offsetof(saunter_field_options, count_steps), offsetof(saunter_field_options, again)});
template <>
inline constexpr auto field_places<saunter_threat> = std::to_array<std::size_t>(
    {offsetof(saunter_threat, at), offsetof(saunter_threat, range), offsetof(saunter_threat, level),
     offsetof(saunter_threat, far_level), offsetof(saunter_threat, near_part), offsetof(saunter_threat, needs_sight),
     offsetof(saunter_threat, looks), offsetof(saunter_threat, facing), offsetof(saunter_threat, arc)});
template <>
inline constexpr auto field_places<saunter_wary_options> =
    std::to_array<std::size_t>({offsetof(saunter_wary_options, wary), offsetof(saunter_wary_options, linger),
                                offsetof(saunter_wary_options, has_highest), offsetof(saunter_wary_options, highest),
                                offsetof(saunter_wary_options, mover_size), offsetof(saunter_wary_options, has_budget),
                                offsetof(saunter_wary_options, budget), offsetof(saunter_wary_options, limit)});
template <>
inline constexpr auto field_places<saunter_exposure> = std::to_array<std::size_t>(
    {offsetof(saunter_exposure, exposed_steps), offsetof(saunter_exposure, cost), offsetof(saunter_exposure, exposure),
     offsetof(saunter_exposure, weighed), offsetof(saunter_exposure, longest)});
template <>
inline constexpr auto field_places<saunter_frame> = std::to_array<std::size_t>(
    {offsetof(saunter_frame, tiling), offsetof(saunter_frame, cell_size), offsetof(saunter_frame, origin_x),
     offsetof(saunter_frame, origin_y), offsetof(saunter_frame, y_up)});

/// Whether a struct of this size has whole fields only.
template <typename Struct>
constexpr bool ends_between_fields(std::size_t size) {
  static_assert(!field_places<Struct>.empty());
  if (size == sizeof(Struct)) return true;
  for (const std::size_t place : field_places<Struct>) {
    if (place == size) return true;
  }
  return false;
}

}  // namespace saunter::c
