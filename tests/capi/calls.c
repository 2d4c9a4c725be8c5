/* Every call of the C interface, as C99: what it answers, and what it says to what can't be. */
#include <stddef.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

#include "saunter.h"

static int failed = 0;
#define CHECK(what)                                                                                   \
  do {                                                                                                \
    if (!(what)) {                                                                                    \
      printf("%s:%d: failed: %s (last message: %s)\n", __FILE__, __LINE__, #what, saunter_message()); \
      failed = 1;                                                                                     \
    }                                                                                                 \
  } while (0)
/* The last error's words hold these. */
#define CHECK_SAID(words) CHECK(strstr(saunter_message(), words) != NULL)

enum { cols = 6, rows = 4, count = cols * rows };

static saunter_cell at(int32_t col, int32_t row) {
  saunter_cell cell;
  cell.col = col;
  cell.row = row;
  return cell;
}

static saunter_board small_board(void) {
  saunter_board board;
  SAUNTER_INIT(board);
  board.tiling = SAUNTER_SQUARE;
  board.cols = cols;
  board.rows = rows;
  return board;
}

/* A board with a wall in column 3, open at the bottom. */
static saunter_grid* walled(void) {
  saunter_grid* grid = NULL;
  uint16_t costs[count];
  const saunter_board board = small_board();
  int i;
  for (i = 0; i < count; ++i) costs[i] = i % cols == 3 && i / cols < 3 ? 0 : 100;
  CHECK(saunter_grid_create(&board, NULL, costs, count, &grid) == SAUNTER_OK);
  return grid;
}

static void grids(void) {
  saunter_grid* grid = walled();
  saunter_grid* none = NULL;
  saunter_board board = small_board();
  saunter_board told;
  saunter_rules rules;
  uint16_t costs[count] = {0};
  uint16_t cost = 7;
  CHECK(saunter_grid_cost(grid, at(3, 0), &cost) == SAUNTER_OK && cost == 0);
  CHECK(saunter_grid_cost(grid, at(2, 0), &cost) == SAUNTER_OK && cost == 100);
  CHECK(saunter_grid_cost(grid, at(-9, 900), &cost) == SAUNTER_OK && cost == 0);
  CHECK(saunter_grid_set_cost(grid, at(3, 0), 250) == SAUNTER_OK);
  CHECK(saunter_grid_cost(grid, at(3, 0), &cost) == SAUNTER_OK && cost == 250);
  CHECK(saunter_grid_set_cost(grid, at(9, 9), 1) == SAUNTER_BAD_ARGUMENT);
  SAUNTER_INIT(told);
  CHECK(saunter_grid_board(grid, &told) == SAUNTER_OK && told.cols == cols && told.rows == rows);
  /* Misuse. */
  CHECK(saunter_grid_cost(NULL, at(0, 0), &cost) == SAUNTER_BAD_HANDLE);
  CHECK(saunter_grid_cost(grid, at(0, 0), NULL) == SAUNTER_BAD_ARGUMENT);
  CHECK(saunter_grid_create(&board, NULL, costs, count - 1, &none) == SAUNTER_SHORT_ARRAY);
  CHECK_SAID("found 23 elements, expected 24");
  CHECK(saunter_grid_create(&board, NULL, NULL, count, &none) == SAUNTER_BAD_ARGUMENT);
  CHECK(saunter_grid_create(NULL, NULL, costs, count, &none) == SAUNTER_BAD_ARGUMENT);
  CHECK(saunter_grid_create(&board, NULL, costs, count, NULL) == SAUNTER_BAD_ARGUMENT);
  board.size = 0;
  CHECK(saunter_grid_create(&board, NULL, costs, count, &none) == SAUNTER_BAD_SIZE);
  board.size = 4000;
  CHECK(saunter_grid_create(&board, NULL, costs, count, &none) == SAUNTER_BAD_SIZE);
  board = small_board();
  board.tiling = 70;
  CHECK(saunter_grid_create(&board, NULL, costs, count, &none) == SAUNTER_BAD_ARGUMENT);
  board = small_board();
  board.cols = -6;
  CHECK(saunter_grid_create(&board, NULL, costs, count, &none) == SAUNTER_BAD_ARGUMENT);
  board = small_board();
  SAUNTER_INIT(rules);
  rules.steps = 7;
  CHECK(saunter_grid_create(&board, &rules, costs, count, &none) == SAUNTER_BAD_ARGUMENT);
  rules.steps = 4;
  rules.corners = 3;
  CHECK(saunter_grid_create(&board, &rules, costs, count, &none) == SAUNTER_BAD_ARGUMENT);
  rules.corners = 0;
  CHECK(saunter_grid_create(&board, &rules, costs, count, &none) == SAUNTER_OK);
  CHECK(none != NULL);
  saunter_grid_free(none);
  saunter_grid_free(grid);
  saunter_grid_free(NULL);
}

static void routes(void) {
  saunter_grid* grid = walled();
  saunter_searcher* searcher = NULL;
  saunter_route_options asked;
  saunter_route route;
  saunter_cell start[2];
  saunter_cell goal[1];
  saunter_entry_change change;
  int32_t by;
  CHECK(saunter_searcher_create(&searcher) == SAUNTER_OK);
  CHECK(saunter_searcher_create(NULL) == SAUNTER_BAD_ARGUMENT);
  start[0] = at(0, 0);
  start[1] = at(2, 3);
  goal[0] = at(5, 0);
  SAUNTER_INIT(asked);
  SAUNTER_INIT(route);
  asked.starts = start;
  asked.start_count = 1;
  asked.goals = goal;
  asked.goal_count = 1;
  for (by = SAUNTER_AUTOMATIC; by <= SAUNTER_DEAD_ENDS; ++by) {
    asked.by = by;
    CHECK(saunter_find_route(searcher, grid, &asked, &route) == SAUNTER_OK);
    CHECK(route.reason == SAUNTER_FOUND && route.cell_count >= 2);
    CHECK(route.cells[0].col == 0 && route.cells[route.cell_count - 1].col == 5);
    if (by != SAUNTER_BFS && by != SAUNTER_GREEDY) CHECK(route.cost == 923);
  }
  asked.by = 0;
  asked.start_count = 2;
  CHECK(saunter_find_route(searcher, grid, &asked, &route) == SAUNTER_OK);
  CHECK(route.start_number == 1 && route.goal_number == 0 && route.cost < 923);
  asked.start_count = 1;
  asked.has_budget = 1;
  asked.budget = 200;
  CHECK(saunter_find_route(searcher, grid, &asked, &route) == SAUNTER_NO);
  CHECK(route.reason == SAUNTER_OVER_BUDGET && route.cells == NULL && route.cell_count == 0);
  CHECK(strcmp(saunter_reason_name(route.reason), "over-budget") == 0);
  asked.or_nearest = 1;
  CHECK(saunter_find_route(searcher, grid, &asked, &route) == SAUNTER_NO);
  CHECK(route.cell_count > 0 && route.remaining > 0);
  asked.has_budget = 0;
  asked.or_nearest = 0;
  change.cell = at(3, 0);
  change.entry_cost = 100;
  asked.changes = &change;
  asked.change_count = 1;
  CHECK(saunter_find_route(searcher, grid, &asked, &route) == SAUNTER_OK && route.cost == 500);
  asked.change_count = 0;
  goal[0] = at(3, 1);
  CHECK(saunter_find_route(searcher, grid, &asked, &route) == SAUNTER_NO);
  CHECK(route.reason == SAUNTER_GOAL_BLOCKED && route.at.col == 3 && route.at.row == 1);
  asked.beside = 1;
  CHECK(saunter_find_route(searcher, grid, &asked, &route) == SAUNTER_OK);
  asked.beside = 0;
  asked.within = 1;
  CHECK(saunter_find_route(searcher, grid, &asked, &route) == SAUNTER_OK);
  asked.within = 0;
  /* Misuse. */
  goal[0] = at(5, 0);
  asked.by = 99;
  CHECK(saunter_find_route(searcher, grid, &asked, &route) == SAUNTER_BAD_ARGUMENT);
  asked.by = SAUNTER_BFS;
  asked.has_budget = 1;
  CHECK(saunter_find_route(searcher, grid, &asked, &route) == SAUNTER_BAD_ARGUMENT);
  asked.has_budget = 0;
  asked.by = SAUNTER_DIJKSTRA;
  asked.weight = 300;
  CHECK(saunter_find_route(searcher, grid, &asked, &route) == SAUNTER_BAD_ARGUMENT);
  asked.by = SAUNTER_ASTAR;
  CHECK(saunter_find_route(searcher, grid, &asked, &route) == SAUNTER_OK);
  asked.weight = 3;
  CHECK(saunter_find_route(searcher, grid, &asked, &route) == SAUNTER_BAD_ARGUMENT);
  asked.weight = 0;
  asked.natural = 1;
  asked.turn_cost = 50;
  CHECK(saunter_find_route(searcher, grid, &asked, &route) == SAUNTER_BAD_ARGUMENT);
  asked.natural = 0;
  CHECK(saunter_find_route(searcher, grid, &asked, &route) == SAUNTER_OK && route.cost > 923);
  asked.turn_cost = 0;
  asked.within = -1;
  CHECK(saunter_find_route(searcher, grid, &asked, &route) == SAUNTER_BAD_ARGUMENT);
  asked.within = 0;
  asked.goal_count = 0;
  CHECK(saunter_find_route(searcher, grid, &asked, &route) == SAUNTER_BAD_ARGUMENT);
  asked.goal_count = 1;
  asked.goals = NULL;
  CHECK(saunter_find_route(searcher, grid, &asked, &route) == SAUNTER_BAD_ARGUMENT);
  asked.goals = goal;
  asked.changes = NULL;
  asked.change_count = 3;
  CHECK(saunter_find_route(searcher, grid, &asked, &route) == SAUNTER_BAD_ARGUMENT);
  asked.change_count = 0;
  CHECK(saunter_find_route(searcher, grid, NULL, &route) == SAUNTER_BAD_ARGUMENT);
  CHECK(saunter_find_route(searcher, grid, &asked, NULL) == SAUNTER_BAD_ARGUMENT);
  CHECK(saunter_find_route(NULL, grid, &asked, &route) == SAUNTER_BAD_HANDLE);
  CHECK(saunter_find_route((saunter_searcher*)(void*)grid, grid, &asked, &route) == SAUNTER_BAD_HANDLE);
  CHECK_SAID("searcher: found a handle of another kind");
  route.size = 3;
  CHECK(saunter_find_route(searcher, grid, &asked, &route) == SAUNTER_BAD_SIZE);
  /* No size ends within a pointer: each is refused, or the question is one. */
  for (route.size = 0; route.size <= sizeof(route) + 9; ++route.size) {
    const saunter_status status = saunter_find_route(searcher, grid, &asked, &route);
    CHECK(status == SAUNTER_OK || status == SAUNTER_BAD_SIZE);
    CHECK(status == SAUNTER_BAD_SIZE || route.size % 4 == 0);
  }
  SAUNTER_INIT(route);
  {
    saunter_route_options cut = asked;
    memset((char*)&cut + sizeof(cut.size), 0x5A, sizeof(cut) - sizeof(cut.size));
    cut.by = SAUNTER_ASTAR;
    for (cut.size = 0; cut.size < sizeof(cut); ++cut.size) {
      if (cut.size == offsetof(saunter_route_options, by) || cut.size == offsetof(saunter_route_options, starts)) continue;
      if (cut.size % sizeof(void*) == 0) continue; /* whole pointers are the caller's to set right */
      if (cut.size > offsetof(saunter_route_options, has_budget)) break;
      CHECK(saunter_find_route(searcher, grid, &cut, &route) == SAUNTER_BAD_SIZE);
    }
  }
  /* One who knows less of the struct gets what he knows. */
  route.size = (uint32_t)(2 * sizeof(int32_t));
  route.cost = 4711;
  CHECK(saunter_find_route(searcher, grid, &asked, &route) == SAUNTER_OK);
  CHECK(route.reason == SAUNTER_FOUND && route.cost == 4711);
  saunter_searcher_free(searcher);
  saunter_searcher_free(NULL);
  saunter_grid_free(grid);
}

/* Says yes in the last column, and counts how often it was asked. */
static int last_column(void* context, saunter_cell cell) {
  ++*(int*)context;
  return cell.col == cols - 1;
}

/* What belongs to a question but is another object: regions, an index, a function. */
static void questions_with_others(const char* demo) {
  saunter_grid* grid = walled();
  saunter_grid* other = NULL;
  saunter_searcher* searcher = NULL;
  saunter_regions* regions = NULL;
  saunter_prepared* prepared = NULL;
  saunter_prepared* none = NULL;
  saunter_route_options asked;
  saunter_route route;
  const saunter_cell start = at(0, 0);
  saunter_cell goal = at(5, 0);
  uint16_t costs[4] = {100, 100, 100, 100};
  saunter_board board = small_board();
  int times = 0;
  uint32_t straight;
  CHECK(saunter_searcher_create(&searcher) == SAUNTER_OK);
  SAUNTER_INIT(asked);
  SAUNTER_INIT(route);
  asked.starts = &start;
  asked.start_count = 1;
  asked.goals = &goal;
  asked.goal_count = 1;

  CHECK(saunter_prepared_create(grid, &prepared) == SAUNTER_OK);
  asked.prepared = prepared;
  CHECK(saunter_find_route(searcher, grid, &asked, &route) == SAUNTER_OK && route.cost == 923 && route.by == -1);
  CHECK(saunter_grid_set_cost(grid, at(3, 0), 100) == SAUNTER_OK);
  CHECK(saunter_find_route(searcher, grid, &asked, &route) == SAUNTER_OK && route.cost == 500);
  CHECK(saunter_prepared_follow(prepared, grid) == SAUNTER_OK);
  CHECK(saunter_find_route(searcher, grid, &asked, &route) == SAUNTER_OK && route.cost == 500);
  asked.prepared = (const saunter_prepared*)(const void*)grid;
  CHECK(saunter_find_route(searcher, grid, &asked, &route) == SAUNTER_BAD_HANDLE);
  asked.prepared = NULL;
  board.cols = board.rows = 2;
  CHECK(saunter_grid_create(&board, NULL, costs, 4, &other) == SAUNTER_OK);
  CHECK(saunter_prepared_follow(prepared, other) == SAUNTER_BAD_ARGUMENT);
  CHECK(saunter_prepared_follow(NULL, grid) == SAUNTER_BAD_HANDLE);
  CHECK(saunter_prepared_create(NULL, &none) == SAUNTER_BAD_HANDLE);
  CHECK(saunter_prepared_create(grid, NULL) == SAUNTER_BAD_ARGUMENT);
  CHECK(saunter_prepared_load(demo, grid, &none) == SAUNTER_BAD_INPUT);
  CHECK(saunter_prepared_load(NULL, grid, &none) == SAUNTER_BAD_ARGUMENT && none == NULL);
  saunter_prepared_free(prepared);
  saunter_prepared_free(NULL);

  /* A wall from top to bottom: the same no, without a search. */
  CHECK(saunter_grid_set_cost(grid, at(3, 0), 0) == SAUNTER_OK);
  CHECK(saunter_grid_set_cost(grid, at(3, 3), 0) == SAUNTER_OK);
  CHECK(saunter_find_route(searcher, grid, &asked, &route) == SAUNTER_NO && route.expanded > 0);
  CHECK(saunter_regions_create(grid, &regions) == SAUNTER_OK);
  asked.regions = regions;
  CHECK(saunter_find_route(searcher, grid, &asked, &route) == SAUNTER_NO);
  CHECK(route.reason == SAUNTER_NO_WAY && route.expanded == 0);
  /* Regions of another time are not believed. */
  CHECK(saunter_grid_set_cost(grid, at(3, 3), 100) == SAUNTER_OK);
  CHECK(saunter_find_route(searcher, grid, &asked, &route) == SAUNTER_OK && route.cost == 923);
  asked.regions = NULL;

  asked.goal_count = 0;
  asked.until = last_column;
  asked.until_context = &times;
  CHECK(saunter_find_route(searcher, grid, &asked, &route) == SAUNTER_OK && times > 0);
  CHECK(route.cells[route.cell_count - 1].col == cols - 1);
  asked.until = NULL;
  asked.goal_count = 1;

  /* A trace: as many cells as were checked, as far as there is room. */
  {
    saunter_visit visits[count];
    saunter_visit two[2];
    memset(two, 7, sizeof two);
    asked.by = SAUNTER_ASTAR;
    asked.trace = visits;
    asked.trace_capacity = count;
    CHECK(saunter_find_route(searcher, grid, &asked, &route) == SAUNTER_OK);
    CHECK(route.trace_count == route.expanded && route.trace_count > 3);
    CHECK(visits[0].cell.col == 0 && visits[0].parent.col == 0 && visits[0].cost == 0 && visits[0].estimate > 0);
    CHECK(visits[1].parent.col == 0 && visits[1].parent.row == 0 && visits[1].cost > 0);
    asked.trace = two;
    asked.trace_capacity = 1;
    CHECK(saunter_find_route(searcher, grid, &asked, &route) == SAUNTER_OK && route.trace_count > 1);
    CHECK(two[0].cell.col == 0 && two[1].cell.col == 0x07070707);
    asked.trace = NULL;
    asked.by = SAUNTER_AUTOMATIC;
    CHECK(saunter_find_route(searcher, grid, &asked, &route) == SAUNTER_OK && route.trace_count == 0);
  }
  /* A head start: the nearer start loses when it costs too much already. */
  {
    saunter_cell starts[2];
    uint32_t already[2] = {0, 5000};
    starts[0] = at(0, 0);
    starts[1] = at(4, 0);
    asked.starts = starts;
    asked.start_count = 2;
    CHECK(saunter_find_route(searcher, grid, &asked, &route) == SAUNTER_OK && route.start_number == 1 && route.cost == 100);
    asked.start_costs = already;
    CHECK(saunter_find_route(searcher, grid, &asked, &route) == SAUNTER_OK && route.start_number == 0);
    asked.start_costs = NULL;
    asked.starts = &start;
    asked.start_count = 1;
  }

  goal = at(2, 0);
  asked.turn_cost = 100;
  CHECK(saunter_find_route(searcher, grid, &asked, &route) == SAUNTER_OK);
  straight = route.cost;
  asked.has_heading = 1;
  asked.heading = 1; /* east: the way it goes */
  CHECK(saunter_find_route(searcher, grid, &asked, &route) == SAUNTER_OK && route.cost == straight);
  asked.heading = 3;
  CHECK(saunter_find_route(searcher, grid, &asked, &route) == SAUNTER_OK && route.cost > straight);
  asked.heading = 8;
  CHECK(saunter_find_route(searcher, grid, &asked, &route) == SAUNTER_BAD_ARGUMENT);
  asked.turn_cost = 0;
  asked.heading = 1;
  CHECK(saunter_find_route(searcher, grid, &asked, &route) == SAUNTER_BAD_ARGUMENT);
  CHECK_SAID("heading");
  saunter_regions_free(regions);
  saunter_grid_free(other);
  saunter_searcher_free(searcher);
  saunter_grid_free(grid);
}

/* Every option with every other, on squares, hexes and triangles: each is answered or refused, and a plain question
 * in between is answered as ever. */
static void options_with_each_other(void) {
  static const int32_t tilings[3] = {SAUNTER_SQUARE, SAUNTER_HEX_POINTY_ODD, SAUNTER_TRIANGLE_UP};
  int kind;
  for (kind = 0; kind < 3; ++kind) {
    saunter_board board = small_board();
    saunter_grid* grid = NULL;
    saunter_regions* regions = NULL;
    saunter_prepared* prepared = NULL;
    saunter_searcher* searcher = NULL;
    uint16_t costs[count];
    saunter_cell ends[4];
    saunter_entry_change change;
    const uint32_t head_starts[2] = {30, 0};
    saunter_visit visits[8];
    uint32_t set, plain_cost = 0;
    int times = 0, answered = 0;
    int i;
    board.tiling = tilings[kind];
    for (i = 0; i < count; ++i) costs[i] = i % 7 == 3 ? 0 : (uint16_t)(100 + 50 * (i % 3));
    CHECK(saunter_grid_create(&board, NULL, costs, count, &grid) == SAUNTER_OK);
    CHECK(saunter_regions_create(grid, &regions) == SAUNTER_OK);
    CHECK(saunter_prepared_create(grid, &prepared) == SAUNTER_OK);
    CHECK(saunter_searcher_create(&searcher) == SAUNTER_OK);
    ends[0] = at(0, 0);
    ends[1] = at(2, 2);
    ends[2] = at(5, 3);
    ends[3] = at(4, 1);
    change.cell = at(1, 1);
    change.entry_cost = 0;
    for (set = 0; set < 1u << 15; ++set) {
      saunter_route_options asked;
      saunter_route route;
      saunter_status status;
      SAUNTER_INIT(asked);
      SAUNTER_INIT(route);
      asked.by = (int32_t)(set & 7u);
      asked.starts = ends;
      asked.start_count = set & 8u ? 2 : 1;
      asked.goals = ends + 2;
      asked.goal_count = set & 16u ? 2 : 1;
      asked.has_budget = set & 32u ? 1 : 0;
      asked.budget = 350;
      asked.limit = set & 64u ? 5 : 0;
      asked.weight = set & 128u ? 150 : 0;
      asked.turn_cost = set & 256u ? 40 : 0;
      asked.has_heading = asked.turn_cost != 0 && set & 8u ? 1 : 0;
      asked.heading = 1;
      asked.within = set & 512u ? 1 : 0;
      asked.beside = set & 1024u ? 1 : 0;
      asked.or_nearest = set & 2048u ? 1 : 0;
      asked.natural = set & 4096u ? 1 : 0;
      asked.changes = &change;
      asked.change_count = set & 8192u ? 1 : 0;
      if (set & 16384u) {
        asked.regions = regions;
        asked.prepared = prepared;
        asked.until = set & 16u ? last_column : NULL;
        asked.until_context = &times;
        asked.start_costs = head_starts;
        asked.trace = visits;
        asked.trace_capacity = 8;
      }
      status = saunter_find_route(searcher, grid, &asked, &route);
      CHECK(status == SAUNTER_OK || status == SAUNTER_NO || status == SAUNTER_BAD_ARGUMENT);
      if (status == SAUNTER_OK) {
        ++answered;
        CHECK(route.cell_count > 0 && route.cells[0].col == ends[route.start_number].col);
      }
      if (set == 0) plain_cost = route.cost;
      if (set % 64 == 63) {
        SAUNTER_INIT(asked);
        asked.starts = ends;
        asked.goals = ends + 2;
        asked.start_count = asked.goal_count = 1;
        CHECK(saunter_find_route(searcher, grid, &asked, &route) == SAUNTER_OK && route.cost == plain_cost);
      }
    }
    CHECK(answered > 1000 && times > 1000);
    saunter_prepared_free(prepared);
    saunter_regions_free(regions);
    saunter_searcher_free(searcher);
    saunter_grid_free(grid);
  }
}

static void fields_and_regions(void) {
  saunter_grid* grid = walled();
  saunter_searcher* searcher = NULL;
  saunter_field* field = NULL;
  saunter_field_options options;
  saunter_regions* regions = NULL;
  saunter_cell goal = at(5, 0);
  saunter_cell next;
  uint32_t all[count];
  uint32_t value = 0;
  CHECK(saunter_searcher_create(&searcher) == SAUNTER_OK);
  CHECK(saunter_field_to(searcher, grid, &goal, 1, NULL, &field) == SAUNTER_OK);
  CHECK(saunter_field_cost(field, at(0, 0), &value) == SAUNTER_OK && value == 923);
  CHECK(saunter_field_cost(field, at(3, 0), &value) == SAUNTER_NO && value == SAUNTER_UNREACHED);
  CHECK(saunter_field_next(field, at(4, 0), &next) == SAUNTER_OK && next.col == 5);
  CHECK(saunter_field_next(field, goal, &next) == SAUNTER_NO);
  CHECK(saunter_field_costs(field, all, count) == SAUNTER_OK && all[0] == 923 && all[5] == 0);
  CHECK(saunter_field_costs(field, all, count - 1) == SAUNTER_SHORT_ARRAY);
  CHECK(saunter_field_costs(field, NULL, count) == SAUNTER_BAD_ARGUMENT);
  saunter_field_free(field);
  SAUNTER_INIT(options);
  options.has_budget = 1;
  options.budget = 150;
  goal = at(0, 0);
  CHECK(saunter_reach(searcher, grid, &goal, 1, &options, &field) == SAUNTER_OK);
  CHECK(saunter_field_cost(field, at(1, 1), &value) == SAUNTER_OK && value == 141);
  CHECK(saunter_field_cost(field, at(2, 0), &value) == SAUNTER_NO);
  options.again = field;
  goal = at(1, 1);
  CHECK(saunter_reach(searcher, grid, &goal, 1, &options, &field) == SAUNTER_OK && field == options.again);
  CHECK(saunter_field_cost(field, goal, &value) == SAUNTER_OK && value == 0);
  CHECK(saunter_field_cost(field, at(0, 0), &value) == SAUNTER_OK && value == 141);
  CHECK(saunter_reach(searcher, grid, &goal, 0, &options, &field) == SAUNTER_BAD_ARGUMENT);
  CHECK(saunter_field_cost(field, goal, &value) != SAUNTER_OK);
  saunter_field_free(field);
  goal = at(3, 0);
  CHECK(saunter_reach(searcher, grid, &goal, 1, NULL, &field) == SAUNTER_NO);
  CHECK(saunter_field_cost(field, at(0, 0), &value) == SAUNTER_NO);
  saunter_field_free(field);
  field = NULL;
  CHECK(saunter_reach(searcher, grid, &goal, 0, NULL, &field) == SAUNTER_BAD_ARGUMENT && field == NULL);
  CHECK(saunter_field_to(searcher, NULL, &goal, 1, NULL, &field) == SAUNTER_BAD_HANDLE && field == NULL);
  CHECK(saunter_field_cost(NULL, goal, &value) == SAUNTER_BAD_HANDLE);
  saunter_field_free(NULL);

  CHECK(saunter_grid_set_cost(grid, at(3, 3), 0) == SAUNTER_OK);
  CHECK(saunter_regions_create(grid, &regions) == SAUNTER_OK);
  CHECK(saunter_regions_count(regions) == 2);
  CHECK(saunter_regions_at(regions, at(0, 0), &value) == SAUNTER_OK && value == 1);
  CHECK(saunter_regions_at(regions, at(5, 0), &value) == SAUNTER_OK && value == 2);
  CHECK(saunter_regions_at(regions, at(-1, 0), &value) == SAUNTER_OK && value == 0);
  CHECK(saunter_regions_labels(regions, all, count) == SAUNTER_OK && all[3] == 0 && all[4] == 2);
  CHECK(saunter_regions_labels(regions, all, 1) == SAUNTER_SHORT_ARRAY);
  CHECK(saunter_regions_create(NULL, &regions) == SAUNTER_BAD_HANDLE);
  CHECK(saunter_regions_count(NULL) == 0);
  saunter_regions_free(regions);
  saunter_regions_free(NULL);
  saunter_searcher_free(searcher);
  saunter_grid_free(grid);
}

static void sight_and_danger(void) {
  saunter_grid* grid = walled();
  saunter_searcher* searcher = NULL;
  saunter_sight* sight = NULL;
  saunter_danger* danger = NULL;
  saunter_threat threat;
  saunter_wary_options options;
  saunter_route route;
  saunter_exposure exposure;
  saunter_cell hides = at(-1, -1);
  const saunter_board board = small_board();
  uint8_t opaque[count];
  uint8_t seen[count];
  uint16_t levels[count];
  uint16_t level = 0;
  uint32_t number = 0;
  int i;
  for (i = 0; i < count; ++i) opaque[i] = i % cols == 3 && i / cols < 3;
  CHECK(saunter_sight_create(&board, opaque, count, &sight) == SAUNTER_OK);
  CHECK(saunter_sight_create(&board, opaque, 1, &sight) == SAUNTER_SHORT_ARRAY);
  CHECK(saunter_sees(sight, at(0, 0), at(2, 3), NULL) == SAUNTER_OK);
  CHECK(saunter_sees(sight, at(0, 0), at(5, 0), &hides) == SAUNTER_NO && hides.col == 3);
  CHECK(saunter_sees(sight, at(0, 0), at(50, 0), &hides) == SAUNTER_BAD_ARGUMENT);
  CHECK(saunter_visible(sight, at(0, 0), 0, seen, count) == SAUNTER_OK && seen[0] == 1 && seen[5] == 0);
  CHECK(saunter_visible(sight, at(0, 0), 100, seen, count) == SAUNTER_OK && seen[1] == 1 && seen[2] == 0);
  CHECK(saunter_visible(sight, at(0, 0), 0, seen, 3) == SAUNTER_SHORT_ARRAY);

  CHECK(saunter_danger_create(sight, &danger) == SAUNTER_OK);
  SAUNTER_INIT(threat);
  threat.at = at(2, 0);
  threat.range = 200;
  threat.level = 5;
  threat.needs_sight = 1;
  CHECK(saunter_danger_add(danger, &threat, &number) == SAUNTER_OK);
  CHECK(saunter_danger_level(danger, at(1, 0), &level) == SAUNTER_OK && level == 5);
  CHECK(saunter_danger_level(danger, at(4, 0), &level) == SAUNTER_OK && level == 0);
  CHECK(saunter_danger_level(danger, at(-4, 0), &level) == SAUNTER_OK && level == 0);
  CHECK(saunter_danger_levels(danger, levels, count) == SAUNTER_OK && levels[1] == 5);
  CHECK(saunter_danger_levels(danger, levels, 2) == SAUNTER_SHORT_ARRAY);

  CHECK(saunter_searcher_create(&searcher) == SAUNTER_OK);
  SAUNTER_INIT(options);
  SAUNTER_INIT(route);
  SAUNTER_INIT(exposure);
  CHECK(saunter_find_wary_route(searcher, grid, danger, at(0, 0), at(5, 0), NULL, &route, &exposure) == SAUNTER_OK);
  CHECK(route.cells != NULL && exposure.cost == route.cost && exposure.weighed >= exposure.cost);
  options.has_highest = 1;
  options.highest = 4;
  CHECK(saunter_danger_move(danger, number, at(5, 0)) == SAUNTER_OK);
  CHECK(saunter_find_wary_route(searcher, grid, danger, at(0, 0), at(5, 0), &options, &route, NULL) == SAUNTER_NO);
  CHECK(route.reason != SAUNTER_FOUND && route.cells == NULL);
  options.mover_size = 300;
  CHECK(saunter_find_wary_route(searcher, grid, danger, at(0, 0), at(5, 0), &options, &route, NULL) ==
        SAUNTER_BAD_ARGUMENT);
  CHECK(saunter_danger_turn(danger, number, 90) == SAUNTER_BAD_ARGUMENT || saunter_danger_level(danger, at(4, 0), &level) == SAUNTER_OK);
  CHECK(saunter_danger_move(danger, number, at(50, 0)) == SAUNTER_BAD_ARGUMENT);
  CHECK(saunter_danger_remove(danger, number) == SAUNTER_OK);
  CHECK(saunter_danger_remove(danger, number) == SAUNTER_BAD_ARGUMENT);
  CHECK(saunter_danger_level(danger, at(5, 0), &level) == SAUNTER_OK && level == 0);
  threat.looks = 1;
  threat.arc = 0;
  CHECK(saunter_danger_add(danger, &threat, &number) == SAUNTER_BAD_ARGUMENT);
  threat.near_part = 400;
  CHECK(saunter_danger_add(danger, &threat, &number) == SAUNTER_BAD_ARGUMENT);
  CHECK(saunter_danger_add(danger, NULL, &number) == SAUNTER_BAD_ARGUMENT);
  CHECK(saunter_danger_create(NULL, &danger) == SAUNTER_BAD_HANDLE);
  saunter_danger_free(danger);
  saunter_danger_free(NULL);
  saunter_sight_free(sight);
  saunter_sight_free(NULL);
  saunter_searcher_free(searcher);
  saunter_grid_free(grid);
}

static void scenarios(const char* demo) {
  static const char broken[] = "saunter = 1\n[map\n";
  char file[1000];
  saunter_scenario* strand = NULL;
  saunter_scenario* none = NULL;
  saunter_board board;
  saunter_grid* grid = NULL;
  saunter_sight* sight = NULL;
  saunter_danger* danger = NULL;
  saunter_searcher* searcher = NULL;
  saunter_route_options asked;
  saunter_route route;
  saunter_problem problems[4];
  saunter_cell ends[2];
  saunter_cell path[3];
  uint8_t* spots = NULL;
  size_t found = 0;
  uint64_t cost = 0;
  snprintf(file, sizeof file, "%s/strand.toml", demo);
  CHECK(saunter_scenario_load(file, &strand) == SAUNTER_OK);
  SAUNTER_INIT(board);
  CHECK(saunter_scenario_board(strand, &board) == SAUNTER_OK && board.cols == 48 && board.rows == 32);
  CHECK(strcmp(saunter_scenario_mover(strand, 0), "crab") == 0 && saunter_scenario_mover(strand, 99) == NULL);
  CHECK(saunter_scenario_unit(strand, 0) != NULL && saunter_scenario_threat(strand, 0) == NULL);
  CHECK(saunter_scenario_mover(NULL, 0) == NULL);
  CHECK(saunter_scenario_grid(strand, "crab", NULL, &grid) == SAUNTER_OK);
  CHECK(saunter_scenario_grid(strand, "whale", NULL, &grid) == SAUNTER_BAD_ARGUMENT);
  CHECK_SAID("mover: found \"whale\"");
  CHECK(saunter_scenario_grid(strand, NULL, "ghost", &grid) == SAUNTER_BAD_ARGUMENT);
  CHECK(saunter_searcher_create(&searcher) == SAUNTER_OK);
  ends[0] = at(3, 4);
  ends[1] = at(45, 25);
  SAUNTER_INIT(asked);
  SAUNTER_INIT(route);
  asked.starts = &ends[0];
  asked.goals = &ends[1];
  asked.start_count = asked.goal_count = 1;
  CHECK(saunter_find_route(searcher, grid, &asked, &route) == SAUNTER_OK && route.cost == 6038);
  CHECK(saunter_check_path(strand, "crab", route.cells, route.cell_count, NULL, 0, &found, &cost) == SAUNTER_OK);
  CHECK(found == 0 && cost == 6038);
  path[0] = at(3, 4);
  path[1] = at(9, 9);
  path[2] = at(9, 9);
  CHECK(saunter_check_path(strand, NULL, path, 3, problems, 4, &found, NULL) == SAUNTER_NO);
  CHECK(found >= 1 && problems[0].step == 1 && problems[0].at.col == 9);
  CHECK(saunter_check_path(strand, NULL, path, 0, NULL, 0, NULL, NULL) == SAUNTER_BAD_ARGUMENT);
  CHECK(saunter_check_path(strand, NULL, path, 3, NULL, 4, NULL, NULL) == SAUNTER_BAD_ARGUMENT);

  CHECK(saunter_fits(strand, "hut", at(26, 14), 0, problems, 4, &found) == SAUNTER_NO);
  CHECK(found >= 1 && strcmp(problems[0].why, "") != 0 && problems[0].step == -1);
  CHECK(saunter_fits(strand, "hut", at(20, 10), 0, NULL, 0, NULL) == SAUNTER_OK);
  CHECK(saunter_fits(strand, "hut", at(20, 10), 9, NULL, 0, NULL) == SAUNTER_BAD_ARGUMENT);
  CHECK(saunter_fits(strand, NULL, at(20, 10), 0, NULL, 0, NULL) == SAUNTER_BAD_ARGUMENT);
  spots = malloc(48 * 32);
  CHECK(saunter_spots(strand, "hut", 0, spots, 48 * 32) == SAUNTER_OK);
  CHECK(spots[10 * 48 + 20] == 1 && spots[14 * 48 + 26] == 0);
  CHECK(saunter_spots(strand, "hut", 0, spots, 7) == SAUNTER_SHORT_ARRAY);
  free(spots);
  CHECK(saunter_scenario_put_unit(strand, "hut", at(26, 14), 0) == SAUNTER_NO);
  CHECK(saunter_scenario_put_unit(strand, "hut", at(20, 10), 0) == SAUNTER_OK);
  CHECK(saunter_fits(strand, "crate", at(20, 10), 0, problems, 4, &found) == SAUNTER_NO);
  CHECK(problems[0].by != NULL && strcmp(problems[0].by, "hut") == 0);

  CHECK(saunter_scenario_sight(strand, &sight) == SAUNTER_OK);
  CHECK(saunter_scenario_danger(strand, 0, &danger) == SAUNTER_OK);
  saunter_danger_free(danger);
  saunter_sight_free(sight);
  CHECK(saunter_scenario_load("not-there.toml", &none) == SAUNTER_BAD_INPUT && none == NULL);
  CHECK_SAID("not-there.toml");
  CHECK(saunter_scenario_load(NULL, &none) == SAUNTER_BAD_ARGUMENT);
  CHECK(saunter_scenario_parse(broken, strlen(broken), "tide", &none) == SAUNTER_BAD_INPUT && none == NULL);
  CHECK_SAID("tide:2:");
  CHECK(saunter_scenario_board(NULL, &board) == SAUNTER_BAD_HANDLE);
  saunter_searcher_free(searcher);
  saunter_grid_free(grid);
  saunter_scenario_free(strand);
  saunter_scenario_free(NULL);
}

static void frames(void) {
  saunter_frame frame;
  saunter_cell cell;
  double x = 0;
  double y = 0;
  int32_t tiling;
  SAUNTER_INIT(frame);
  frame.cell_size = 32;
  frame.origin_x = 100;
  for (tiling = SAUNTER_SQUARE; tiling <= SAUNTER_TRIANGLE_DOWN; ++tiling) {
    frame.tiling = tiling;
    CHECK(saunter_frame_centre(&frame, at(7, 5), &x, &y) == SAUNTER_OK);
    CHECK(saunter_frame_cell_at(&frame, x, y, &cell) == SAUNTER_OK && cell.col == 7 && cell.row == 5);
  }
  frame.tiling = 7;
  CHECK(saunter_frame_centre(&frame, at(0, 0), &x, &y) == SAUNTER_BAD_ARGUMENT);
  frame.tiling = 0;
  frame.cell_size = -1;
  CHECK(saunter_frame_cell_at(&frame, 0, 0, &cell) == SAUNTER_BAD_ARGUMENT);
  CHECK(saunter_frame_cell_at(NULL, 0, 0, &cell) == SAUNTER_BAD_ARGUMENT);
  CHECK(saunter_frame_centre(&frame, at(0, 0), NULL, &y) == SAUNTER_BAD_ARGUMENT);
}

static void living(const char* demo) {
  char file[1000];
  saunter_scenario* strand = NULL;
  saunter_live* live = NULL;
  const saunter_grid* grid = NULL;
  const saunter_cell* cells = NULL;
  saunter_route route;
  size_t changed = 0;
  uint32_t number = 0;
  int32_t standing = -1;
  uint16_t cost = 0;
  uint32_t before;
  snprintf(file, sizeof file, "%s/strand.toml", demo);
  CHECK(saunter_scenario_load(file, &strand) == SAUNTER_OK);
  CHECK(saunter_live_create(strand, &live) == SAUNTER_OK);
  saunter_scenario_free(strand); /* the live map needs it no more */
  CHECK(saunter_live_keep_route(live, "crab", at(3, 4), at(45, 25), &number) == SAUNTER_OK);
  SAUNTER_INIT(route);
  CHECK(saunter_live_follow(live, number, &standing, &route) == SAUNTER_OK && route.cost == 6038);
  before = route.cost;
  CHECK(saunter_live_grid(live, "crab", &grid) == SAUNTER_OK);
  CHECK(saunter_live_set_terrain(live, route.cells[5], "boulder") == SAUNTER_OK);
  CHECK(saunter_live_commit(live, &changed) == SAUNTER_OK && changed == 1);
  CHECK(saunter_live_changed(live, &cells, &changed) == SAUNTER_OK && changed == 1);
  CHECK(saunter_grid_cost(grid, cells[0], &cost) == SAUNTER_OK && cost == 0);
  CHECK(saunter_live_follow(live, number, &standing, &route) == SAUNTER_OK);
  CHECK(standing == SAUNTER_BROKEN && route.cost >= before);
  CHECK(saunter_live_stand_at(live, number, route.cells[1]) == SAUNTER_OK);
  CHECK(saunter_live_close_edge(live, at(0, 0), at(1, 0), 1) == SAUNTER_OK);
  CHECK(saunter_live_close_edge(live, at(0, 0), at(5, 0), 1) == SAUNTER_NO);
  CHECK_SAID("not-beside");
  CHECK(saunter_live_close_for(live, at(2, 2), 1) == SAUNTER_OK);
  CHECK(saunter_live_close_for(live, at(-2, 2), -1) == SAUNTER_NO);
  CHECK(saunter_live_move_unit(live, "hut", at(20, 10), 0) == SAUNTER_OK);
  CHECK(saunter_live_move_unit(live, "hut", at(-20, 10), 0) == SAUNTER_NO);
  CHECK(saunter_live_move_unit(live, "ghost", at(20, 10), 0) == SAUNTER_BAD_ARGUMENT);
  CHECK(saunter_live_commit(live, NULL) == SAUNTER_OK);
  CHECK(saunter_grid_cost(grid, at(20, 10), &cost) == SAUNTER_OK && cost == 0);
  CHECK(saunter_live_set_terrain(live, at(0, 0), "lava") == SAUNTER_BAD_ARGUMENT);
  CHECK(saunter_live_drop_route(live, number) == SAUNTER_OK);
  CHECK(saunter_live_drop_route(live, number) == SAUNTER_BAD_ARGUMENT);
  CHECK(saunter_live_follow(live, number, &standing, NULL) == SAUNTER_BAD_ARGUMENT);
  CHECK(saunter_live_keep_route(live, "whale", at(0, 0), at(1, 1), &number) == SAUNTER_BAD_ARGUMENT);
  CHECK(saunter_live_commit(NULL, NULL) == SAUNTER_BAD_HANDLE);
  CHECK(saunter_live_create(NULL, &live) == SAUNTER_BAD_HANDLE);
  saunter_live_free(live);
  saunter_live_free(NULL);
}

int main(int argc, char** argv) {
  if (argc != 2) return 2;
  CHECK(strcmp(saunter_message(), "") == 0);
  CHECK(strcmp(saunter_status_name(SAUNTER_SHORT_ARRAY), "short-array") == 0);
  CHECK(strcmp(saunter_status_name(-1), "") == 0);
  CHECK(strcmp(saunter_reason_name(77), "") == 0);
  CHECK(strlen(saunter_library_version()) >= 5);
  grids();
  routes();
  questions_with_others(argv[1]);
  options_with_each_other();
  fields_and_regions();
  sight_and_danger();
  scenarios(argv[1]);
  frames();
  living(argv[1]);
  printf(failed ? "some calls failed\n" : "every call answered as told\n");
  return failed;
}
