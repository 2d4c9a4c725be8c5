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

-- The library asked for, else the one installed beside this file, else the system's.
local function library()
  local name, told = "libsaunter.so.0.2", os.getenv("SAUNTER_LIBRARY")
  if told then return told end
  local here = debug.getinfo(1, "S").source:match("^@(.*)/[^/]*$")
  for _, folder in ipairs {"lib", "lib/" .. ({x64 = "x86_64", arm64 = "aarch64"})[jit.arch] .. "-linux-gnu", "lib64"} do
    local file = here and here .. "/../../" .. folder .. "/" .. name
    local found = file and io.open(file, "rb")
    if found then
      found:close()
      return file
    end
  end
  return name
end

local lib = ffi.load(library())
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

-- A whole number that C takes as it is: nothing wraps or is cut.
local function whole(value, name, least, most)
  if type(value) ~= "number" or value ~= math.floor(value) or value < least or value > most then
    error(("%s: found %s, expected a whole number from %.0f to %.0f"):format(name, tostring(value), least, most), 0)
  end
  return value
end
local most_32, most_signed = 2 ^ 32 - 1, 2 ^ 31 - 1

local function cell_of(cell, name)
  if type(cell) ~= "table" or #cell ~= 2 then error(name .. ": found no {col, row}, expected one", 0) end
  return ffi.new("saunter_cell", whole(cell[1], name, -most_signed - 1, most_signed),
                 whole(cell[2], name, -most_signed - 1, most_signed))
end

-- {3, 4}, or {{3, 4}, {5, 6}}; and how many.
local function cells(list, name)
  if type(list) ~= "table" then error(name .. ": found no cells, expected {col, row} or a list of such", 0) end
  if type(list[1]) == "number" then list = {list} end
  local array = ffi.new("saunter_cell[?]", #list)
  for i, cell in ipairs(list) do array[i - 1] = cell_of(cell, name) end
  return array, #list
end

local function handle_of(object, class, name)
  if type(object) ~= "table" or getmetatable(object) ~= class then error(name .. ": found another thing, expected one of saunter's", 0) end
  return object.handle
end
local function flag(value) return value and value ~= 0 and 1 or 0 end
-- Unknown options are told, not passed over.
local function known(options, names)
  for key in pairs(options) do
    if not names[key] then error("options: found " .. tostring(key) .. ", which is none", 0) end
  end
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
  known(rules, {tiling = true, steps = true, corners = true})
  local count = whole(cols, "cols", 0, 65535) * whole(rows, "rows", 0, 65535)
  if type(costs) == "table" then
    count = #costs
    for i = 1, count do whole(costs[i], "costs", 0, 65535) end
    costs = ffi.new("uint16_t[?]", count, costs)
  end
  local board = sized("saunter_board", {tiling = whole(rules.tiling or saunter.square, "tiling", 0, 6), cols = cols, rows = rows})
  local steps = sized("saunter_rules", {steps = rules.steps or 0, corners = rules.corners or 0})
  local make = function(slot) return lib.saunter_grid_create(board, steps, costs, count, slot) end
  return setmetatable({handle = owned("grid", lib.saunter_grid_free, make)}, Grid)
end

function Grid:set_cost(cell, cost)
  check(lib.saunter_grid_set_cost(self.handle, cell_of(cell, "cell"), whole(cost, "cost", 0, 65535)))
end

-- One for each thread, kept between questions.
function saunter.searcher()
  return setmetatable({handle = owned("searcher", lib.saunter_searcher_free, lib.saunter_searcher_create)}, Searcher)
end

local numbers = {budget = most_32, by = 6, limit = 2 ^ 53, weight = most_32, turn_cost = most_32, within = most_signed}
local flags = {beside = true, or_nearest = true, natural = true}
local route_options = setmetatable({}, {__index = function(_, key) return numbers[key] or flags[key] end})

-- options: budget, by, limit, weight, turn_cost, within; flags: beside, or_nearest, natural
function Searcher:route(grid, from, to, options)
  options = options or {}
  known(options, route_options)
  local asked = sized("saunter_route_options")
  for key, most in pairs(numbers) do
    if options[key] then asked[key] = whole(options[key], key, 0, most) end
  end
  for key in pairs(flags) do asked[key] = flag(options[key]) end
  if options.budget then asked.has_budget = 1 end
  local starts, start_count = cells(from, "from")
  local goals, goal_count = cells(to, "to")
  asked.starts, asked.start_count, asked.goals, asked.goal_count = starts, start_count, goals, goal_count
  local told = sized("saunter_route")
  local found = check(lib.saunter_find_route(self.handle, handle_of(grid, Grid, "grid"), asked, told))
  local way = {found = found, reason = ffi.string(lib.saunter_reason_name(told.reason)), at = {told.at.col, told.at.row},
               cost = told.cost, expanded = tonumber(told.expanded), cells = {}}
  for i = 0, tonumber(told.cell_count) - 1 do way.cells[i + 1] = {told.cells[i].col, told.cells[i].row} end
  return way
end

local function field(make, searcher, grid, from, options)
  options = options or {}
  known(options, {budget = true, count_steps = true})
  local list, count = cells(from, "cells")
  local budget = whole(options.budget or 0, "budget", 0, most_32)
  local asked = sized("saunter_field_options", {has_budget = options.budget and 1 or 0, budget = budget,
                                                count_steps = flag(options.count_steps)})
  local ground = handle_of(grid, Grid, "grid")
  local made = function(slot) return make(searcher.handle, ground, list, count, asked, slot) end
  return setmetatable({handle = owned("field", lib.saunter_field_free, made)}, Field)
end

-- The cost and the next step from every cell to the cheapest of some goals; options: budget, count_steps
function Searcher:field_to(grid, goals, options) return field(lib.saunter_field_to, self, grid, goals, options) end
function Searcher:reach(grid, starts, options) return field(lib.saunter_reach, self, grid, starts, options) end

-- nil where there is no way.
function Field:cost(cell)
  local value = ffi.new("uint32_t[1]")
  return check(lib.saunter_field_cost(self.handle, cell_of(cell, "cell"), value)) and value[0] or nil
end
-- nil at the end, and where there is no way.
function Field:next(cell)
  local value = ffi.new("saunter_cell[1]")
  return check(lib.saunter_field_next(self.handle, cell_of(cell, "cell"), value)) and {value[0].col, value[0].row} or nil
end

return saunter
