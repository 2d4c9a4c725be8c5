-- The Lua module, as a script uses it: yes, no, and what can't be asked. Ends with 1 at the first thing that is not so.
local ffi = require("ffi")
local saunter = require("saunter")
local demo = arg[1]

local function expect(what, found, expected)
  if found ~= expected then error(what .. ": found " .. tostring(found) .. ", expected " .. tostring(expected), 2) end
end
local function refused(what, says, ask, ...)
  local fine, message = pcall(ask, ...)
  if fine or not message:find(says, 1, true) then error(what .. ": found " .. tostring(message) .. ", expected " .. says, 2) end
end

expect("version", saunter.version():match("^%d+%.%d+%.%d+$") ~= nil, true)

-- A crab between two rows of boulders.
local beach = {}
for row = 0, 4 do
  for col = 0, 6 do beach[#beach + 1] = (row == 1 or row == 3) and col < 6 and 0 or 100 end
end
local grid = saunter.grid(7, 5, beach, {steps = 4})
local searcher = saunter.searcher()
local way = searcher:route(grid, {0, 0}, {0, 4})
expect("found", way.found, true)
expect("reason", way.reason, "found")
expect("cost", way.cost, 1600)
expect("cells", #way.cells, 17)
for i = 2, #way.cells do
  local a, b = way.cells[i - 1], way.cells[i]
  expect("a step", math.abs(a[1] - b[1]) + math.abs(a[2] - b[2]), 1)
end

-- The same numbers lent by ffi.
local lent = ffi.new("uint16_t[35]", beach)
expect("lent", searcher:route(saunter.grid(7, 5, lent, {steps = 4}), {0, 0}, {0, 4}).cost, 1600)

local no = searcher:route(grid, {0, 0}, {2, 1})
expect("blocked", no.reason, "goal-blocked")
expect("where", no.at[1], 2)
expect("no cells", #no.cells, 0)
expect("over budget", searcher:route(grid, {0, 0}, {0, 4}, {budget = 300}).reason, "over-budget")
expect("beside", searcher:route(grid, {0, 0}, {2, 1}, {beside = 1}).cost, 200)
expect("several goals", searcher:route(grid, {{0, 0}, {6, 4}}, {{0, 4}, {5, 4}}).cost, 100)
grid:set_cost({2, 1}, 250)
grid:set_cost({2, 3}, 250)
expect("through kelp", searcher:route(grid, {0, 0}, {0, 4}).cost, 1100)

local field = searcher:field_to(grid, {0, 4})
expect("field", field:cost({0, 0}), 1100)
expect("next", field:next({0, 0})[1], 1)
expect("at the goal", field:next({0, 4}), nil)
expect("out of reach", searcher:reach(grid, {0, 0}, {budget = 200}):cost({6, 4}), nil)

local strand = saunter.load(demo .. "/strand.toml")
local crab = searcher:route(strand:grid("crab"), {3, 4}, {45, 25})
expect("the strand", crab.cost, 6038)

refused("no such file", "nowhere.toml", saunter.load, "nowhere.toml")
refused("too few numbers", "expected", saunter.grid, 7, 5, {1, 2, 3})
refused("no such mover", "whale", strand.grid, strand, "whale")
refused("off the map", "expected", grid.set_cost, grid, {99, 0}, 100)
refused("an option that is none", "or_nearst", searcher.route, searcher, grid, {0, 0}, {0, 4}, {or_nearst = 1})
refused("a number that wraps", "expected a whole number", searcher.route, searcher, grid, {2 ^ 32, 0}, {0, 4})
refused("no budget at all", "budget: found -1", searcher.route, searcher, grid, {0, 0}, {0, 4}, {budget = -1})
refused("half a cell", "expected a whole number", searcher.route, searcher, grid, {0.5, 0}, {0, 4})
refused("no cell", "expected", searcher.route, searcher, grid, 7, {0, 4})
refused("no grid", "grid: found", searcher.route, searcher, 12345, {0, 0}, {0, 4})
refused("another thing", "grid: found", searcher.field_to, searcher, searcher, {0, 0})
refused("a cost too large", "cost: found 65536", grid.set_cost, grid, {0, 0}, 65536)
expect("a flag that is off", searcher:route(grid, {0, 0}, {2, 1}, {beside = 0}).cost, searcher:route(grid, {0, 0}, {2, 1}).cost)
for _ = 1, 200 do searcher:field_to(saunter.grid(7, 5, beach), {0, 0}) end
collectgarbage()
print("every answer as told")
