/* Saunter for C and for whatever calls C: where a unit can go, what it costs, and why not.
 *
 *  - Costs, lengths and ranges are hundredths: 125 is 1.25 steps. Entry cost 0 means: cannot be entered.
 *  - Cells are columns and rows from 0; lists of all cells run row by row.
 *  - Every call that can fail returns a saunter_status. SAUNTER_OK and SAUNTER_NO are answers ("no" carries its reason and
 *    cell in the result); all others are errors, told in words by saunter_message(), and nothing has been changed.
 *  - Handles are made by calls that end in _create, _load, _parse or the like and freed by saunter_..._free, which takes
 *    NULL too. A NULL handle, or one of another kind, is SAUNTER_BAD_HANDLE. One that was freed must not be used again.
 *  - Structs begin with `size`, to be set to sizeof the struct; SAUNTER_INIT does that and leaves the rest 0, which means
 *    the default. So programs built with an older header go on working.
 *  - Arrays the caller gives are read during the call only. Arrays the caller lends to be filled have a length; too short
 *    a one is SAUNTER_SHORT_ARRAY and nothing is written. Arrays a result points to are borrowed: they live until the next
 *    call to the object they came from, or its end.
 *  - Threads: different objects may be used from different threads at once; one object from one thread at a time, but
 *    grids, scenarios, regions, fields, sights and frames may be read from any number while nobody changes them. Messages
 *    are each thread's own.
 *  - No exception leaves the library. Out of memory is SAUNTER_NO_MEMORY.
 */
#ifndef SAUNTER_H
#define SAUNTER_H

#include <stddef.h>
#include <stdint.h>
#include <string.h>

#ifdef __GNUC__
#define SAUNTER_API __attribute__((visibility("default")))
#else
#define SAUNTER_API
#endif

#ifdef __cplusplus
extern "C" {
#endif

/* ---- Status and words ---------------------------------------------------------------------------------------------- */
typedef enum saunter_status {
  SAUNTER_OK = 0,           /* yes */
  SAUNTER_NO = 1,           /* answered no: the result says why and where */
  SAUNTER_BAD_HANDLE = 2,   /* NULL, or a handle of another kind */
  SAUNTER_BAD_ARGUMENT = 3, /* a value that can't be: NULL, out of range, off the map where that is no answer */
  SAUNTER_BAD_SIZE = 4,     /* a struct whose `size` this library does not know */
  SAUNTER_SHORT_ARRAY = 5,  /* the caller's array is too short (or of another length than wanted) */
  SAUNTER_BAD_INPUT = 6,    /* a scenario that can't be read: file, line, what was found, what was expected */
  SAUNTER_NO_MEMORY = 7,
  SAUNTER_UNEXPECTED = 8    /* what should not happen */
} saunter_status;

/* What was wrong with this thread's last call that failed; "" when none has. Valid until its next failing call. */
SAUNTER_API const char* saunter_message(void);
/* "ok", "no", "bad-handle", ...; and "0.2.0": of the library, which may be newer than this header. */
SAUNTER_API const char* saunter_status_name(int32_t status);
SAUNTER_API const char* saunter_library_version(void);

/* Sets a struct to its defaults: SAUNTER_INIT(options); */
#define SAUNTER_INIT(thing)                 \
  do {                                      \
    memset(&(thing), 0, sizeof(thing));     \
    (thing).size = (uint32_t)sizeof(thing); \
  } while (0)

/* Why a search found no way. */
typedef enum saunter_reason {
  SAUNTER_FOUND = 0,
  SAUNTER_START_OFF_MAP,
  SAUNTER_START_BLOCKED,
  SAUNTER_GOAL_OFF_MAP,
  SAUNTER_GOAL_BLOCKED,
  SAUNTER_NO_WAY,        /* proven: there is none at any cost */
  SAUNTER_OVER_BUDGET,   /* none within the budget */
  SAUNTER_STOPPED,       /* the limit of cells was used up first */
  SAUNTER_COST_OVERFLOW, /* there is one, but its cost does not fit */
  SAUNTER_NOT_ASKED
} saunter_reason;
/* "found", "goal-blocked", ...; "" for what is none. */
SAUNTER_API const char* saunter_reason_name(int32_t reason);

/* ---- Boards -------------------------------------------------------------------------------------------------------- */
typedef struct saunter_cell {
  int32_t col, row;
} saunter_cell;

typedef enum saunter_tiling {
  SAUNTER_SQUARE = 0,
  SAUNTER_HEX_POINTY_ODD,  /* odd rows lie half a cell to the right */
  SAUNTER_HEX_POINTY_EVEN,
  SAUNTER_HEX_FLAT_ODD,    /* odd columns lie half a cell lower */
  SAUNTER_HEX_FLAT_EVEN,
  SAUNTER_TRIANGLE_UP,     /* the cell 0,0 points up */
  SAUNTER_TRIANGLE_DOWN
} saunter_tiling;

typedef struct saunter_board {
  uint32_t size;
  int32_t tiling; /* saunter_tiling */
  int32_t cols, rows; /* 1 to 65535 each */
} saunter_board;

/* How a mover steps. */
typedef struct saunter_rules {
  uint32_t size;
  int32_t steps;     /* 4 or 8, 6, 3 or 12; 0: the tiling's usual 8, 6, 3 */
  int32_t corners;   /* past corners: 0 both ways open, 1 one is enough, 2 none */
  uint32_t diagonal; /* length of a square diagonal; 0: 141 */
} saunter_rules;

/* ---- Grids: what a mover can enter, at what cost -------------------------------------------------------------------- */
typedef struct saunter_grid saunter_grid;
/* From the caller's own numbers, one for each cell, copied. @param count  must be cols x rows. O(cells) */
SAUNTER_API saunter_status saunter_grid_create(const saunter_board* board, const saunter_rules* rules,
                                               const uint16_t* entry_costs, size_t count, saunter_grid** out);
SAUNTER_API void saunter_grid_free(saunter_grid* grid);
SAUNTER_API saunter_status saunter_grid_board(const saunter_grid* grid, saunter_board* out);
/* 0 where it can't be entered, and off the map. O(1) */
SAUNTER_API saunter_status saunter_grid_cost(const saunter_grid* grid, saunter_cell cell, uint16_t* out);
/* Changes a cell; what was made from the grid (regions, fields) is then of the past. Not for grids of a live map. O(1) */
SAUNTER_API saunter_status saunter_grid_set_cost(saunter_grid* grid, saunter_cell cell, uint16_t entry_cost);

/* ---- Scenarios: maps in files --------------------------------------------------------------------------------------- */
typedef struct saunter_scenario saunter_scenario;
SAUNTER_API saunter_status saunter_scenario_load(const char* file, saunter_scenario** out);
/* From memory; files it names are refused. @param name  what errors call it; NULL: "scenario" */
SAUNTER_API saunter_status saunter_scenario_parse(const char* text, size_t bytes, const char* name,
                                                  saunter_scenario** out);
SAUNTER_API void saunter_scenario_free(saunter_scenario* scenario);
SAUNTER_API saunter_status saunter_scenario_board(const saunter_scenario* scenario, saunter_board* out);
/* Names of its movers, units and threats by number; NULL when there are not so many. Live as long as the scenario. */
SAUNTER_API const char* saunter_scenario_mover(const saunter_scenario* scenario, size_t number);
SAUNTER_API const char* saunter_scenario_unit(const saunter_scenario* scenario, size_t number);
SAUNTER_API const char* saunter_scenario_threat(const saunter_scenario* scenario, size_t number);
/* The grid of a mover, with units in its way. @param mover  NULL or "": the first  @param as_unit  the unit that walks,
 * which is not in its own way; NULL: none. O(cells) */
SAUNTER_API saunter_status saunter_scenario_grid(const saunter_scenario* scenario, const char* mover,
                                                 const char* as_unit, saunter_grid** out);

/* ---- Regions ---------------------------------------------------------------------------------------------------------- */
/* Cells from which one gets to each other and back. */
typedef struct saunter_regions saunter_regions;
SAUNTER_API saunter_status saunter_regions_create(const saunter_grid* grid, saunter_regions** out);
SAUNTER_API void saunter_regions_free(saunter_regions* regions);
SAUNTER_API size_t saunter_regions_count(const saunter_regions* regions);
/* 1, 2, ...; 0 where the mover can't be, and off the map. O(1) */
SAUNTER_API saunter_status saunter_regions_at(const saunter_regions* regions, saunter_cell cell, uint32_t* out);
/* The numbers of all cells. @param count  must be cols x rows */
SAUNTER_API saunter_status saunter_regions_labels(const saunter_regions* regions, uint32_t* out, size_t count);

/* ---- Searches ------------------------------------------------------------------------------------------------------- */
/* Owns the memory of searches: one for each thread, kept between questions. */
typedef struct saunter_searcher saunter_searcher;
SAUNTER_API saunter_status saunter_searcher_create(saunter_searcher** out);
SAUNTER_API void saunter_searcher_free(saunter_searcher* searcher);
typedef enum saunter_search {
  SAUNTER_AUTOMATIC = 0, /* the fastest that finds a way of least cost */
  SAUNTER_ASTAR,
  SAUNTER_DIJKSTRA,
  SAUNTER_BFS,      /* fewest steps, whatever they cost */
  SAUNTER_GREEDY,   /* some way soon */
  SAUNTER_JUMP,
  SAUNTER_DEAD_ENDS
} saunter_search;

typedef struct saunter_entry_change {
  saunter_cell cell;
  uint32_t entry_cost; /* 0: keep out */
} saunter_entry_change;

/* An index of a grid, for ways that are looked up. Made from the grid, which takes seconds on large ones, or read from a
 * file that `saunter prepare` has written for the same map. `follow` takes in how the grid has changed since. */
typedef struct saunter_prepared saunter_prepared;
SAUNTER_API saunter_status saunter_prepared_create(const saunter_grid* grid, saunter_prepared** out);
SAUNTER_API saunter_status saunter_prepared_load(const char* file, const saunter_grid* grid, saunter_prepared** out);
SAUNTER_API saunter_status saunter_prepared_follow(saunter_prepared* prepared, const saunter_grid* grid);
SAUNTER_API void saunter_prepared_free(saunter_prepared* prepared);

/* A function of the caller's. It returns, and asks nothing of the searcher that called it. */
typedef int (*saunter_cell_test)(void* context, saunter_cell cell);

typedef struct saunter_visit {
  saunter_cell cell, parent; /* the cell it was reached from; itself at a start */
  uint32_t cost;             /* from the start; bfs: 100 for each step */
  uint64_t estimate;         /* of what remains; 0 for the unguided searches */
} saunter_visit;

/* A question for a way. 0 everywhere but in starts and goals asks for a way of least cost. */
typedef struct saunter_route_options {
  uint32_t size;
  int32_t by;                 /* saunter_search */
  const saunter_cell* starts; /* from the one that makes the way cheapest */
  size_t start_count;
  const saunter_cell* goals;
  size_t goal_count;
  uint32_t has_budget;        /* 1: give up beyond `budget`. Not for SAUNTER_BFS */
  uint32_t budget;
  uint64_t limit;             /* check at most so many cells; 0: any number */
  uint32_t weight;            /* astar: trust the estimate so many times as much, 100 to 10000; 0: 100 */
  uint32_t turn_cost;         /* for each eighth (hexes: sixth) of a turn; not on triangles */
  int32_t within;             /* arrive at most so many edge steps from a goal */
  uint32_t beside;            /* 1: arrive next to the goal, which may be blocked */
  uint32_t or_nearest;        /* 1: without a way, the one to the nearest cell there is one to; the status stays "no" */
  uint32_t natural;           /* 1: of the cheapest ways one with few turns, close to the straight line */
  const saunter_entry_change* changes; /* answer as if these cells had other costs */
  size_t change_count;
  uint32_t has_heading;       /* with turn_cost. 1: the unit looks to `heading`, and its first turn counts */
  int32_t heading;            /* squares: 0 to 3 n e s w, 4 to 7 ne se sw nw; hexes: 0 to 5 clockwise from north */
  const saunter_regions* regions;   /* of this grid as it is: a "no way" between two of them needs no search; NULL: none */
  const saunter_prepared* prepared; /* of this grid: ways are looked up where they can be; NULL: none */
  saunter_cell_test until; /* any cell for which it is not 0 is a goal too; then goals may be none; NULL: no such cells */
  void* until_context;
  const uint32_t* start_costs; /* what each start costs already: a head start for the others; NULL: nothing */
  saunter_visit* trace;        /* filled with the cells checked, in order, as many as fit; NULL: none */
  size_t trace_capacity;
} saunter_route_options;

typedef struct saunter_route {
  uint32_t size;
  int32_t reason;   /* saunter_reason */
  saunter_cell at;  /* what the reason is about */
  const saunter_cell* cells; /* borrowed from the searcher; start and goal included; NULL without a way */
  size_t cell_count;
  uint32_t cost;
  int32_t by;       /* the search that was used; -1: it was looked up, or this header does not name it */
  uint64_t expanded; /* cells checked */
  uint64_t remaining; /* or_nearest: what is left to the goal at the least */
  size_t start_number, goal_number; /* which of several starts and goals it joins */
  size_t trace_count; /* how many cells there were to trace, which may be more than fit */
} saunter_route;
/* SAUNTER_OK with the way, SAUNTER_NO with the reason. Allocates nothing after the first question on a board. */
SAUNTER_API saunter_status saunter_find_route(saunter_searcher* searcher, const saunter_grid* grid,
                                              const saunter_route_options* options, saunter_route* out);

/* ---- Fields and reach ------------------------------------------------------------------------------------------------ */
/* The cost and the next step between every cell and some others. */
typedef struct saunter_field saunter_field;
typedef struct saunter_field_options {
  uint32_t size;
  uint32_t has_budget;
  uint32_t budget;
  uint32_t count_steps; /* 1: every step counts 1.00 */
  saunter_field* again; /* or one to fill again: with a budget that costs what it can reach; after an error it is empty */
} saunter_field_options;
/* To the cheapest of some goals, from every cell. SAUNTER_NO when none of them can be used. O(cells reached) */
SAUNTER_API saunter_status saunter_field_to(saunter_searcher* searcher, const saunter_grid* grid,
                                            const saunter_cell* goals, size_t goal_count,
                                            const saunter_field_options* options, saunter_field** out);
/* From the cheapest of some starts, to every cell. */
SAUNTER_API saunter_status saunter_reach(saunter_searcher* searcher, const saunter_grid* grid,
                                         const saunter_cell* starts, size_t start_count,
                                         const saunter_field_options* options, saunter_field** out);
SAUNTER_API void saunter_field_free(saunter_field* field);
#define SAUNTER_UNREACHED UINT32_MAX
/* SAUNTER_UNREACHED, and SAUNTER_NO, where there is no way. O(1) */
SAUNTER_API saunter_status saunter_field_cost(const saunter_field* field, saunter_cell cell, uint32_t* out);
/* The next cell towards the goal (of a reach: back to the start). SAUNTER_NO at the end and where there is no way. */
SAUNTER_API saunter_status saunter_field_next(const saunter_field* field, saunter_cell cell, saunter_cell* out);
/* The costs of all cells. @param count  must be cols x rows */
SAUNTER_API saunter_status saunter_field_costs(const saunter_field* field, uint32_t* out, size_t count);

/* ---- Sight ------------------------------------------------------------------------------------------------------------ */
typedef struct saunter_sight saunter_sight;
/* @param opaque  a byte for each cell: 1 hides what lies behind. @param count  must be cols x rows */
SAUNTER_API saunter_status saunter_sight_create(const saunter_board* board, const uint8_t* opaque, size_t count,
                                                saunter_sight** out);
/* By a scenario's opaque terrain and units. */
SAUNTER_API saunter_status saunter_scenario_sight(const saunter_scenario* scenario, saunter_sight** out);
SAUNTER_API void saunter_sight_free(saunter_sight* sight);
/* SAUNTER_OK or SAUNTER_NO; then `hidden_by` (may be NULL) is the first cell that hides it. O(distance) */
SAUNTER_API saunter_status saunter_sees(const saunter_sight* sight, saunter_cell from, saunter_cell to,
                                        saunter_cell* hidden_by);
/* 1 for each cell seen, else 0. @param range  0: any  @param count  must be cols x rows */
SAUNTER_API saunter_status saunter_visible(const saunter_sight* sight, saunter_cell from, uint32_t range, uint8_t* out,
                                           size_t count);

/* ---- Danger ----------------------------------------------------------------------------------------------------------- */
/* Levels of danger from any number of threats, kept up to date as they move. */
typedef struct saunter_danger saunter_danger;
typedef struct saunter_threat {
  uint32_t size;
  saunter_cell at;
  uint32_t range;
  uint16_t level;       /* within `near` its level, beyond `far_level` */
  uint16_t far_level;   /* from `near` to 1.00 of the range; 0 with near 100 */
  uint32_t near_part;   /* part of the range that has `level`, 1 to 100; 0: 100 */
  uint32_t needs_sight; /* 1: only cells it sees */
  uint32_t looks;       /* 1: only within `arc` degrees about `facing` */
  int32_t facing;       /* degrees clockwise from north */
  int32_t arc;          /* 1 to 360 */
} saunter_threat;
/* Without threats yet. The sight is copied. */
SAUNTER_API saunter_status saunter_danger_create(const saunter_sight* sight, saunter_danger** out);
/* With the scenario's own threats, as they are at a tick. */
SAUNTER_API saunter_status saunter_scenario_danger(const saunter_scenario* scenario, uint64_t tick,
                                                   saunter_danger** out);
SAUNTER_API void saunter_danger_free(saunter_danger* danger);
/* @param number  what the others call it by. O(cells covered), here and below */
SAUNTER_API saunter_status saunter_danger_add(saunter_danger* danger, const saunter_threat* threat, uint32_t* number);
SAUNTER_API saunter_status saunter_danger_move(saunter_danger* danger, uint32_t number, saunter_cell to);
SAUNTER_API saunter_status saunter_danger_turn(saunter_danger* danger, uint32_t number, int32_t facing);
SAUNTER_API saunter_status saunter_danger_remove(saunter_danger* danger, uint32_t number);
/* 0 to 65535; 0 off the map. O(1) */
SAUNTER_API saunter_status saunter_danger_level(const saunter_danger* danger, saunter_cell cell, uint16_t* out);
SAUNTER_API saunter_status saunter_danger_levels(const saunter_danger* danger, uint16_t* out, size_t count);

typedef struct saunter_wary_options {
  uint32_t size;
  uint32_t wary;        /* what one level of danger weighs; 0: 100. A cell of cost e and level v counts e + wary x v */
  uint32_t linger;      /* how much more each exposed step in a row weighs than the one before */
  uint32_t has_highest; /* 1: enter no cell above `highest` */
  uint16_t highest;
  uint16_t mover_size;  /* cells a large mover covers count together; 0: 1 */
  uint32_t has_budget;
  uint32_t budget;
  uint64_t limit;       /* 0: any number of cells */
} saunter_wary_options;
typedef struct saunter_exposure {
  uint32_t size;
  uint32_t exposed_steps;
  uint64_t cost;     /* of travel alone */
  uint64_t exposure; /* sum of level x length */
  uint64_t weighed;  /* what the search made least */
  uint32_t longest;  /* most exposed steps in a row */
} saunter_exposure;
/* A way that weighs danger. @param exposure  may be NULL */
SAUNTER_API saunter_status saunter_find_wary_route(saunter_searcher* searcher, const saunter_grid* grid,
                                                   const saunter_danger* danger, saunter_cell from, saunter_cell to,
                                                   const saunter_wary_options* options, saunter_route* out,
                                                   saunter_exposure* exposure);

/* ---- Placing and checking ----------------------------------------------------------------------------------------------- */
typedef struct saunter_problem {
  const char* why; /* "ground", "occupied", ...: see docs/meaning.md. Lives for ever */
  saunter_cell at;
  int64_t step;    /* of a path, from 0; -1 where it is about a place */
  const char* by;  /* the unit in the way, or NULL; lives as long as the scenario */
} saunter_problem;
/* Whether a unit of the scenario can be put somewhere: SAUNTER_OK, or SAUNTER_NO with every reason.
 * @param problems  filled with as many as there are, up to `capacity`; may be NULL with capacity 0
 * @param count  how many there are; may be NULL */
SAUNTER_API saunter_status saunter_fits(const saunter_scenario* scenario, const char* unit, saunter_cell at,
                                        int32_t turn, saunter_problem* problems, size_t capacity, size_t* count);
/* 1 for each cell at which it fits, else 0. SAUNTER_NO when there is none. @param array_size  must be cols x rows */
SAUNTER_API saunter_status saunter_spots(const saunter_scenario* scenario, const char* unit, int32_t turn, uint8_t* out,
                                         size_t array_size);
/* Puts a unit where it fits; where it does not it stays, and the answer is SAUNTER_NO. */
SAUNTER_API saunter_status saunter_scenario_put_unit(saunter_scenario* scenario, const char* unit, saunter_cell at,
                                                     int32_t turn);
/* Everything that is wrong with a finished path; as saunter_fits. @param cost  of the path; may be NULL */
SAUNTER_API saunter_status saunter_check_path(const saunter_scenario* scenario, const char* mover,
                                              const saunter_cell* cells, size_t cell_count, saunter_problem* problems,
                                              size_t capacity, size_t* count, uint64_t* cost);

/* ---- Frames: cells and the game's world --------------------------------------------------------------------------------- */
typedef struct saunter_frame {
  uint32_t size;
  int32_t tiling;   /* saunter_tiling */
  double cell_size; /* world units between centres of edge neighbours; 0: 1 */
  double origin_x, origin_y; /* of the centre of cell 0,0 */
  uint32_t y_up;    /* 1: world y grows against the rows */
} saunter_frame;
SAUNTER_API saunter_status saunter_frame_centre(const saunter_frame* frame, saunter_cell cell, double* x, double* y);
/* The cell that holds a place; it may lie off the map. O(1) */
SAUNTER_API saunter_status saunter_frame_cell_at(const saunter_frame* frame, double x, double y, saunter_cell* out);

/* ---- A map that changes ------------------------------------------------------------------------------------------------- */
/* A scenario's map in play: edits are gathered, a commit makes them, and grids and routes follow. */
typedef struct saunter_live saunter_live;
SAUNTER_API saunter_status saunter_live_create(const saunter_scenario* scenario, saunter_live** out);
SAUNTER_API void saunter_live_free(saunter_live* live);
/* Edits: each is taken, or SAUNTER_NO with words in saunter_message(). */
SAUNTER_API saunter_status saunter_live_set_terrain(saunter_live* live, saunter_cell cell, const char* terrain);
SAUNTER_API saunter_status saunter_live_close_edge(saunter_live* live, saunter_cell a, saunter_cell b, uint32_t closed);
SAUNTER_API saunter_status saunter_live_move_unit(saunter_live* live, const char* unit, saunter_cell at, int32_t turn);
/* Keeps a cell from being entered until so many commits have followed; less than 0: for good, 0: opens it again. */
SAUNTER_API saunter_status saunter_live_close_for(saunter_live* live, saunter_cell cell, int64_t commits);
/* Makes the edits. @param changed  how many cells are different now; may be NULL */
SAUNTER_API saunter_status saunter_live_commit(saunter_live* live, size_t* changed);
/* The cells of the last commit, in reading order; borrowed until the next. */
SAUNTER_API saunter_status saunter_live_changed(const saunter_live* live, const saunter_cell** cells, size_t* count);
/* The grid of a mover, as of the last commit. Belongs to the live map: not to be freed, kept up to date by commits. */
SAUNTER_API saunter_status saunter_live_grid(saunter_live* live, const char* mover, const saunter_grid** out);

typedef enum saunter_standing {
  SAUNTER_HOLDS = 0, /* it can still be walked, and no way costs less */
  SAUNTER_BETTER,    /* it can, but a cheaper way has opened; the route is that one now */
  SAUNTER_BROKEN     /* a step of it is not legal any more; the route is another now, or none */
} saunter_standing;
/* A way that is kept in mind. @param number  what the others call it by */
SAUNTER_API saunter_status saunter_live_keep_route(saunter_live* live, const char* mover, saunter_cell from,
                                                   saunter_cell to, uint32_t* number);
/* Where its unit stands now. */
SAUNTER_API saunter_status saunter_live_stand_at(saunter_live* live, uint32_t number, saunter_cell cell);
/* How it stands after commits. SAUNTER_NO when there is no way (any more). @param out  may be NULL; cells are borrowed */
SAUNTER_API saunter_status saunter_live_follow(saunter_live* live, uint32_t number, int32_t* standing,
                                               saunter_route* out);
SAUNTER_API saunter_status saunter_live_drop_route(saunter_live* live, uint32_t number);

#ifdef __cplusplus
}
#endif

#endif
