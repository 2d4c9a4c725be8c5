"""Saunter from Python, by ctypes alone: where a unit can go, what it costs, and why not.

Costs are hundredths (125 is 1.25 steps), 0 cannot be entered; cells are (col, row). Arrays are anything with the buffer
protocol and 16-bit unsigned items, row by row: array.array("H"), numpy.uint16; they are not copied on the way in.
A question that is answered "no" returns a Route without cells and with its reason; what can't be asked raises Error.
"""
import ctypes as c
import glob
import operator
import os

SQUARE, HEX_POINTY_ODD, HEX_POINTY_EVEN, HEX_FLAT_ODD, HEX_FLAT_EVEN, TRIANGLE_UP, TRIANGLE_DOWN = range(7)
AUTOMATIC, ASTAR, DIJKSTRA, BFS, GREEDY, JUMP, DEAD_ENDS = range(7)
UNREACHED = 0xFFFFFFFF


class Error(Exception):
    """What the library said, in its words."""


class _Cell(c.Structure):
    _fields_ = [("col", c.c_int32), ("row", c.c_int32)]


class _Sized(c.Structure):
    def __init__(self, **values):
        super().__init__(size=c.sizeof(type(self)), **values)


class _Board(_Sized):
    _fields_ = [("size", c.c_uint32), ("tiling", c.c_int32), ("cols", c.c_int32), ("rows", c.c_int32)]


class _Rules(_Sized):
    _fields_ = [("size", c.c_uint32), ("steps", c.c_int32), ("corners", c.c_int32), ("diagonal", c.c_uint32)]


class _RouteOptions(_Sized):
    _fields_ = [("size", c.c_uint32), ("by", c.c_int32), ("starts", c.POINTER(_Cell)), ("start_count", c.c_size_t),
                ("goals", c.POINTER(_Cell)), ("goal_count", c.c_size_t), ("has_budget", c.c_uint32),
                ("budget", c.c_uint32), ("limit", c.c_uint64), ("weight", c.c_uint32), ("turn_cost", c.c_uint32),
                ("within", c.c_int32), ("beside", c.c_uint32), ("or_nearest", c.c_uint32), ("natural", c.c_uint32),
                ("changes", c.c_void_p), ("change_count", c.c_size_t)]


class _Route(_Sized):
    _fields_ = [("size", c.c_uint32), ("reason", c.c_int32), ("at", _Cell), ("cells", c.POINTER(_Cell)),
                ("cell_count", c.c_size_t), ("cost", c.c_uint32), ("by", c.c_int32), ("expanded", c.c_uint64),
                ("remaining", c.c_uint64), ("start_number", c.c_size_t), ("goal_number", c.c_size_t)]


class _FieldOptions(_Sized):
    _fields_ = [("size", c.c_uint32), ("has_budget", c.c_uint32), ("budget", c.c_uint32), ("count_steps", c.c_uint32)]


def _library():
    """The library asked for, else the one installed beside this file, else the system's."""
    name = "libsaunter.so.0.2"
    told = os.environ.get("SAUNTER_LIBRARY")
    if told:
        return told
    prefix = os.path.join(os.path.dirname(os.path.abspath(__file__)), "..", "..")
    for folder in ("lib", os.path.join("lib", "*-linux-gnu*"), "lib64"):
        for file in sorted(glob.glob(os.path.join(glob.escape(prefix), folder, name))):
            return file
    return name


_lib = c.CDLL(_library())
for _name in ("saunter_message", "saunter_reason_name", "saunter_library_version"):
    getattr(_lib, _name).restype = c.c_char_p


def _check(status):
    if status > 1:
        raise Error(_lib.saunter_message().decode(errors="replace"))
    return status == 0


def _whole(value, name, least, most):
    """A whole number that C takes as it is: nothing wraps."""
    try:
        number = operator.index(value)
    except TypeError:
        raise Error(f"{name}: found {value!r}, expected a whole number") from None
    if not least <= number <= most:
        raise Error(f"{name}: found {number}, expected {least} to {most}")
    return number


_U32, _U64, _I32 = 2**32 - 1, 2**64 - 1, 2**31 - 1


def _cell(cell, name="cell"):
    try:
        col, row = cell
    except (TypeError, ValueError):
        raise Error(f"{name}: found {cell!r}, expected (col, row)") from None
    return _Cell(_whole(col, name, -_I32 - 1, _I32), _whole(row, name, -_I32 - 1, _I32))


def _cells(cells, name):
    cells = cells if isinstance(cells, list) else [cells]
    return (_Cell * len(cells))(*[_cell(cell, name) for cell in cells])


def _held(handle, kind, name):
    if not isinstance(handle, kind):
        raise Error(f"{name}: found {handle!r}, expected a {kind.__name__}")
    return handle


def _budget(budget):
    return {"has_budget": budget is not None, "budget": 0 if budget is None else _whole(budget, "budget", 0, _U32)}


class _Handle:
    """Frees what it holds when it is no longer used."""
    def __init__(self, kind):
        self._kind = kind
        self._as_parameter_ = c.c_void_p()

    def __del__(self):
        if getattr(self, "_as_parameter_", None):
            getattr(_lib, f"saunter_{self._kind}_free")(self._as_parameter_)

    def __reduce_ex__(self, protocol):
        raise TypeError(f"a {type(self).__name__} is held once: it can't be copied")


def version():
    return _lib.saunter_library_version().decode()


class Scenario(_Handle):
    def __init__(self, file):
        super().__init__("scenario")
        _check(_lib.saunter_scenario_load(os.fsencode(file), c.byref(self._as_parameter_)))

    def grid(self, mover="", as_unit=""):
        grid = Grid.__new__(Grid)
        _Handle.__init__(grid, "grid")
        _check(_lib.saunter_scenario_grid(self, mover.encode(), as_unit.encode(), c.byref(grid._as_parameter_)))
        return grid


class Grid(_Handle):
    """What a mover can enter, at what cost."""
    def __init__(self, cols, rows, costs, tiling=SQUARE, steps=0, corners=0):
        super().__init__("grid")
        told = memoryview(costs)
        if told.format not in ("H", "<H") or not told.c_contiguous:
            raise Error(f"costs: found items {told.format!r}, expected 16-bit unsigned ones, row by row")
        count = told.nbytes // 2
        address = _address(costs, told)
        board = _Board(tiling=_whole(tiling, "tiling", 0, 6), cols=_whole(cols, "cols", 0, _I32),
                       rows=_whole(rows, "rows", 0, _I32))
        rules = _Rules(steps=_whole(steps, "steps", 0, _I32), corners=_whole(corners, "corners", 0, 2))
        _check(_lib.saunter_grid_create(c.byref(board), c.byref(rules), c.c_void_p(address), c.c_size_t(count),
                                        c.byref(self._as_parameter_)))

    def size(self):
        board = _Board()
        _check(_lib.saunter_grid_board(self, c.byref(board)))
        return board.cols, board.rows

    def cost(self, cell):
        """What entering a cell costs, 0 = cannot be entered."""
        value = c.c_uint16()
        _check(_lib.saunter_grid_cost(self, _cell(cell), c.byref(value)))
        return value.value

    def set_cost(self, cell, cost):
        _check(_lib.saunter_grid_set_cost(self, _cell(cell), c.c_uint16(_whole(cost, "cost", 0, 65535))))

    def __repr__(self):
        return "<saunter.Grid of {} x {} cells>".format(*self.size())


def _address(owner, view):
    """Where an array lies, without copying it."""
    told = getattr(owner, "__array_interface__", None)
    if told is not None:
        return told["data"][0]
    if view.readonly:
        raise Error("costs: found an array that is read only and not numpy's, expected one that can be written")
    return c.addressof((c.c_char * view.nbytes).from_buffer(view)) if view.nbytes else 0


class Route:
    """cells (empty without a way), cost, reason ("found", "no-way", ...), at, expanded."""
    def __init__(self, told):
        self.cells = [(told.cells[i].col, told.cells[i].row) for i in range(told.cell_count)]
        self.cost, self.expanded, self.remaining = told.cost, told.expanded, told.remaining
        self.reason = _lib.saunter_reason_name(told.reason).decode()
        self.at = (told.at.col, told.at.row)
        self.start_number, self.goal_number = told.start_number, told.goal_number

    @property
    def found(self):
        return self.reason == "found"

    __bool__ = found.fget

    def __repr__(self):
        if not self.found:
            return f"<saunter.Route: {self.reason} at {self.at}>"
        return f"<saunter.Route: cost {self.cost}, {len(self.cells)} cells from {self.cells[0]} to {self.cells[-1]}>"


class Searcher(_Handle):
    """One for each thread, kept between questions."""
    def __init__(self):
        super().__init__("searcher")
        _check(_lib.saunter_searcher_create(c.byref(self._as_parameter_)))

    def route(self, grid, starts, goals, by=AUTOMATIC, budget=None, *, limit=0, weight=0, turn_cost=0, within=0,
              beside=False, or_nearest=False, natural=False):
        """starts and goals: a cell, or a list of cells. The Route is true when there is a way."""
        starts, goals = _cells(starts, "starts"), _cells(goals, "goals")
        asked = _RouteOptions(by=_whole(by, "by", 0, 6), starts=starts, start_count=len(starts), goals=goals,
                              goal_count=len(goals), limit=_whole(limit, "limit", 0, _U64),
                              weight=_whole(weight, "weight", 0, _U32),
                              turn_cost=_whole(turn_cost, "turn_cost", 0, _U32),
                              within=_whole(within, "within", 0, _I32), beside=bool(beside),
                              or_nearest=bool(or_nearest), natural=bool(natural), **_budget(budget))
        told = _Route()
        _check(_lib.saunter_find_route(self, _held(grid, Grid, "grid"), c.byref(asked), c.byref(told)))
        return Route(told)

    def field_to(self, grid, goals, budget=None, count_steps=False):
        return Field(_lib.saunter_field_to, self, grid, goals, budget, count_steps)

    def reach(self, grid, starts, budget=None, count_steps=False):
        return Field(_lib.saunter_reach, self, grid, starts, budget, count_steps)


class Field(_Handle):
    """The cost and the next step between every cell and some others."""
    def __init__(self, make, searcher, grid, cells, budget, count_steps):
        super().__init__("field")
        cells = _cells(cells, "cells")
        options = _FieldOptions(count_steps=bool(count_steps), **_budget(budget))
        _check(make(searcher, _held(grid, Grid, "grid"), cells, c.c_size_t(len(cells)), c.byref(options), c.byref(self._as_parameter_)))
        self._size = grid.size()

    def cost(self, cell):
        """None where there is no way."""
        value = c.c_uint32()
        return value.value if _check(_lib.saunter_field_cost(self, _cell(cell), c.byref(value))) else None

    def next(self, cell):
        """None at the end, and where there is no way."""
        value = _Cell()
        return (value.col, value.row) if _check(_lib.saunter_field_next(self, _cell(cell), c.byref(value))) else None

    def costs(self):
        """All of them, row by row; UNREACHED where there is no way."""
        values = (c.c_uint32 * (self._size[0] * self._size[1]))()
        _check(_lib.saunter_field_costs(self, values, c.c_size_t(len(values))))
        return values
