-- Saunter from Lua, by the ffi of LuaJIT: where a unit can go, what it costs, and why not.
--
-- Costs are hundredths (125 is 1.25 steps), 0 cannot be entered; cells are {col, row}. Costs of a grid are a table of
-- numbers or a uint16_t array of ffi, row by row. A question that is answered "no" returns a way without cells, with its
-- reason; what can't be asked is an error.
local ffi = require("ffi")

-- As saunter.h has them.
ffi.cdef [[
typedef struct saunter_cell { int32_t col, row; } saunter_cell;
typedef struct saunter_board { uint32_t size; int32_t tiling, cols, rows; } saunter_board;
typedef struct saunter_rules { uint32_t size; int32_t steps, corners; uint32_t diagonal; } saunter_rules;
typedef struct saunter_route_options {
  uint32_t size; int32_t by;
  const saunter_cell* starts; size_t start_count;
  const saunter_cell* goals; size_t goal_count;
  uint32_t has_budget, budget; uint64_t limit; uint32_t weight, turn_cost; int32_t within;
  uint32_t beside, or_nearest, natural; const void* changes; size_t change_count;
} saunter_route_options;
typedef struct saunter_route {
  uint32_t size; int32_t reason; saunter_cell at; const saunter_cell* cells; size_t cell_count;
  uint32_t cost; int32_t by; uint64_t expanded, remaining; size_t start_number, goal_number;
} saunter_route;
typedef struct saunter_field_options { uint32_t size, has_budget, budget, count_steps; } saunter_field_options;
typedef struct saunter_grid saunter_grid;
typedef struct saunter_scenario saunter_scenario;
typedef struct saunter_searcher saunter_searcher;
typedef struct saunter_field saunter_field;
const char* saunter_message(void);
const char* saunter_reason_name(int32_t reason);
const char* saunter_library_version(void);
int saunter_grid_create(const saunter_board*, const saunter_rules*, const uint16_t*, size_t, saunter_grid**);
int saunter_grid_board(const saunter_grid*, saunter_board*);
int saunter_grid_set_cost(saunter_grid*, saunter_cell, uint16_t);
void saunter_grid_free(saunter_grid*);
int saunter_scenario_load(const char*, saunter_scenario**);
int saunter_scenario_grid(const saunter_scenario*, const char*, const char*, saunter_grid**);
void saunter_scenario_free(saunter_scenario*);
int saunter_searcher_create(saunter_searcher**);
void saunter_searcher_free(saunter_searcher*);
int saunter_find_route(saunter_searcher*, const saunter_grid*, const saunter_route_options*, saunter_route*);
int saunter_field_to(saunter_searcher*, const saunter_grid*, const saunter_cell*, size_t, const saunter_field_options*,
                     saunter_field**);
int saunter_reach(saunter_searcher*, const saunter_grid*, const saunter_cell*, size_t, const saunter_field_options*,
                  saunter_field**);
int saunter_field_cost(const saunter_field*, saunter_cell, uint32_t*);
int saunter_field_next(const saunter_field*, saunter_cell, saunter_cell*);
void saunter_field_free(saunter_field*);
]]

local lib = ffi.load(os.getenv("SAUNTER_LIBRARY") or "libsaunter.so.0.2")
local saunter = {square = 0, hex_pointy_odd = 1, hex_pointy_even = 2, hex_flat_odd = 3, hex_flat_even = 4, triangle_up = 5,
                 triangle_down = 6}
local Scenario, Grid, Searcher, Field = {}, {}, {}, {}
for _, class in ipairs {Scenario, Grid, Searcher, Field} do class.__index = class end

-- A "no" is false; what can't be asked is an error in the library's words, told of whoever asked.
local function check(status)
  if status > 1 then error(ffi.string(lib.saunter_message()), 3) end
  return status == 0
end

-- A struct that knows its size.
local function sized(kind, values)
  local made = ffi.new(kind, values or {})
  made.size = ffi.sizeof(kind)
  return made
end

-- A handle that is freed when nobody holds it any more.
local function owned(class, free, make, ...)
  local slot = ffi.new("saunter_" .. class .. "*[1]")
  check(make(slot, ...))
  return ffi.gc(slot[0], free)
end

-- {3, 4}, or {{3, 4}, {5, 6}}; and how many.
local function cells(list)
  if type(list[1]) == "number" then list = {list} end
  local array = ffi.new("saunter_cell[?]", #list)
  for i, cell in ipairs(list) do array[i - 1].col, array[i - 1].row = cell[1], cell[2] end
  return array, #list
end

function saunter.version() return ffi.string(lib.saunter_library_version()) end

function saunter.load(file)
  local make = function(slot) return lib.saunter_scenario_load(file, slot) end
  return setmetatable({handle = owned("scenario", lib.saunter_scenario_free, make)}, Scenario)
end

function Scenario:grid(mover, as_unit)
  local make = function(slot) return lib.saunter_scenario_grid(self.handle, mover, as_unit, slot) end
  return setmetatable({handle = owned("grid", lib.saunter_grid_free, make)}, Grid)
end

-- rules: tiling, steps, corners
function saunter.grid(cols, rows, costs, rules)
  rules = rules or {}
  local count = cols * rows
  if type(costs) == "table" then
    count = #costs
    costs = ffi.new("uint16_t[?]", count, costs)
  end
  local board = sized("saunter_board", {tiling = rules.tiling or saunter.square, cols = cols, rows = rows})
  local steps = sized("saunter_rules", {steps = rules.steps or 0, corners = rules.corners or 0})
  local make = function(slot) return lib.saunter_grid_create(board, steps, costs, count, slot) end
  return setmetatable({handle = owned("grid", lib.saunter_grid_free, make)}, Grid)
end

function Grid:set_cost(cell, cost) check(lib.saunter_grid_set_cost(self.handle, {cell[1], cell[2]}, cost)) end

-- One for each thread, kept between questions.
function saunter.searcher()
  return setmetatable({handle = owned("searcher", lib.saunter_searcher_free, lib.saunter_searcher_create)}, Searcher)
end

-- options: budget, by, limit, weight, turn_cost, within, beside, or_nearest, natural (flags are 1)
function Searcher:route(grid, from, to, options)
  local asked = sized("saunter_route_options")
  for key, value in pairs(options or {}) do asked[key] = value end
  if options and options.budget then asked.has_budget = 1 end
  local starts, start_count = cells(from)
  local goals, goal_count = cells(to)
  asked.starts, asked.start_count, asked.goals, asked.goal_count = starts, start_count, goals, goal_count
  local told = sized("saunter_route")
  local found = check(lib.saunter_find_route(self.handle, grid.handle, asked, told))
  local way = {found = found, reason = ffi.string(lib.saunter_reason_name(told.reason)), at = {told.at.col, told.at.row},
               cost = told.cost, expanded = tonumber(told.expanded), cells = {}}
  for i = 0, tonumber(told.cell_count) - 1 do way.cells[i + 1] = {told.cells[i].col, told.cells[i].row} end
  return way
end

local function field(make, searcher, grid, from, options)
  options = options or {}
  local list, count = cells(from)
  local asked = sized("saunter_field_options", {has_budget = options.budget and 1 or 0, budget = options.budget or 0,
                                                count_steps = options.count_steps and 1 or 0})
  local made = function(slot) return make(searcher.handle, grid.handle, list, count, asked, slot) end
  return setmetatable({handle = owned("field", lib.saunter_field_free, made)}, Field)
end

-- The cost and the next step from every cell to the cheapest of some goals; options: budget, count_steps
function Searcher:field_to(grid, goals, options) return field(lib.saunter_field_to, self, grid, goals, options) end
function Searcher:reach(grid, starts, options) return field(lib.saunter_reach, self, grid, starts, options) end

-- nil where there is no way.
function Field:cost(cell)
  local value = ffi.new("uint32_t[1]")
  return check(lib.saunter_field_cost(self.handle, {cell[1], cell[2]}, value)) and value[0] or nil
end
-- nil at the end, and where there is no way.
function Field:next(cell)
  local value = ffi.new("saunter_cell[1]")
  return check(lib.saunter_field_next(self.handle, {cell[1], cell[2]}, value)) and {value[0].col, value[0].row} or nil
end

return saunter
