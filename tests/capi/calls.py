"""The C interface from Python, by ctypes alone. Arguments: the folder of the demo scenarios."""
import array
import copy
import pickle
import sys

import saunter

failed = []


def check(what, name):
    if not what:
        failed.append(name)
        print("failed:", name)


def refused(ask, words):
    try:
        ask()
    except saunter.Error as error:
        check(words in str(error), f"{words!r} in {error}")
    else:
        check(False, f"refused with {words!r}")


cols, rows = 6, 4
beach = array.array("H", [0 if i % cols == 3 and i // cols < 3 else 100 for i in range(cols * rows)])
grid = saunter.Grid(cols, rows, beach)
searcher = saunter.Searcher()
route = searcher.route(grid, (0, 0), (5, 0))
check(route.found and route.cost == 923 and route.cells[0] == (0, 0) and route.cells[-1] == (5, 0), "a route")
check(not searcher.route(grid, (0, 0), (3, 1)).found, "a blocked goal")
check(searcher.route(grid, (0, 0), (3, 1)).reason == "goal-blocked", "its reason")
check(searcher.route(grid, [(0, 0), (2, 3)], [(5, 0)]).start_number == 1, "the cheaper of two starts")
check(searcher.route(grid, (0, 0), (5, 0), budget=300, or_nearest=1).remaining > 0, "the nearest cell")
field = searcher.field_to(grid, (5, 0))
check(field.cost((0, 0)) == 923 and field.cost((3, 0)) is None and field.next((5, 0)) is None, "a field")
check(list(field.costs())[5] == 0 and field.costs()[3] == saunter.UNREACHED, "all of its costs")
check(searcher.reach(grid, (0, 0), budget=150).cost((2, 0)) is None, "a reach")
refused(lambda: saunter.Grid(cols, rows + 1, beach), "found 24 elements, expected 30")
refused(lambda: saunter.Grid(cols, rows, array.array("I", [1] * 24)), "16-bit")
refused(lambda: saunter.Grid(cols, rows, bytes(48)), "16-bit")
refused(lambda: searcher.route(grid, [], (5, 0)), "no start")
refused(lambda: saunter.Scenario("not-there.toml"), "not-there.toml")
refused(lambda: searcher.route(grid, (2**32, 0), (5, 0)), "expected -2147483648 to 2147483647")
refused(lambda: searcher.route(grid, (0, 0), (5, 0), budget=-1), "budget: found -1")
refused(lambda: searcher.route(grid, (0, 0), (5, 0), weight=2**32), "weight: found 4294967296")
refused(lambda: searcher.route(grid, 7, (5, 0)), "expected (col, row)")
refused(lambda: searcher.route(grid, (0.5, 0), (5, 0)), "expected a whole number")
refused(lambda: searcher.route(12345, (0, 0), (5, 0)), "expected a Grid")
refused(lambda: searcher.field_to(searcher, (5, 0)), "expected a Grid")
refused(lambda: grid.set_cost((0, 0), 65536), "cost: found 65536")
for wrong in (lambda: searcher.route(grid, (0, 0), (5, 0), or_nearst=True), lambda: copy.copy(grid),
              lambda: copy.deepcopy(searcher), lambda: pickle.dumps(field)):
    try:
        wrong()
    except TypeError:
        pass
    else:
        check(False, "refused with a TypeError")
check(bool(route) and not searcher.route(grid, (0, 0), (3, 1)), "a way is true, a no is false")
check("923" in repr(route) and "goal-blocked" in repr(searcher.route(grid, (0, 0), (3, 1))), "what a route looks like")
grid.set_cost((1, 0), 300)
check(grid.cost((1, 0)) == 300 and "6 x 4" in repr(grid), "a cost that is set")
grid.set_cost((1, 0), 100)
refused(lambda: saunter.Scenario("\u00e9" * 400), "\u00e9")  # cut, but not within a character
strand = saunter.Scenario(sys.argv[1] + "/strand.toml")
refused(lambda: strand.grid("whale"), "whale")
check(searcher.route(strand.grid("crab"), (3, 4), (45, 25)).cost == 6038, "the demo's route")
try:
    import numpy
except ImportError:
    print("numpy is not installed: its arrays were not tried")
else:
    waves = numpy.frombuffer(beach.tobytes(), dtype=numpy.uint16).reshape(rows, cols)
    check(searcher.route(saunter.Grid(cols, rows, waves), (0, 0), (5, 0)).cost == 923, "a numpy array")
    refused(lambda: saunter.Grid(cols, rows, numpy.ones((rows, cols))), "16-bit")
print("some calls failed" if failed else f"every call answered as told by saunter {saunter.version()}")
sys.exit(bool(failed))
