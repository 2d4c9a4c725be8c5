#!/usr/bin/env python3
"""Draws the ground of the demo maps: prints the rows of one map, ready for its scenario file.

The scenario files under demo/ are the originals; this only shows how their ground was first laid out, and draws it again
when the layout is to change: scripts/draw_demo_maps.py strand | atoll | mosaic | dune
"""
import math
import sys


def ripple(col, row, salt=0):
    """A smooth, repeatable unevenness between -1 and 1."""
    return (math.sin(col * 0.47 + salt) + math.sin(row * 0.61 + 1.7 * salt) + math.sin((col + row) * 0.29 + salt)) / 3


def scattered(col, row, one_in, salt=0):
    value = (col * 73_856_093 ^ row * 19_349_663 ^ salt * 83_492_791) & 0xFFFFFFFF
    value = (value ^ (value >> 15)) * 0x2C1B3C6D & 0xFFFFFFFF
    return (value ^ (value >> 12)) % one_in == 0


def in_ellipse(col, row, mid_col, mid_row, wide, high, wobble=0.0):
    d = ((col - mid_col) / wide) ** 2 + ((row - mid_row) / high) ** 2
    return d < 1 + wobble


def strand(cols=48, rows=32):
    grid = []
    for row in range(rows):
        line = ""
        for col in range(cols):
            shore = row + 2.2 * ripple(col, 0, 1)
            glyph = "."
            if shore < 4:
                glyph = ":"
            elif shore > 28.5:
                glyph = "~"
            elif shore > 25 and not scattered(col, row, 5):
                glyph = "%"
            # The creek runs from the shingle to the sea, with a ford.
            creek = 21 + 3.2 * math.sin(row * 0.33) + 0.12 * row
            if abs(col - creek) < 1.35 and row > 2:
                glyph = "~"
            elif abs(col - creek) < 2.4 and row > 2:
                glyph = "_"
            if in_ellipse(col, row, 10, 13, 5, 3.4, 0.35 * ripple(col, row, 3)):
                glyph = "o"
            if in_ellipse(col, row, 34, 19, 6, 3.2, 0.35 * ripple(col, row, 5)):
                glyph = "o"
            if in_ellipse(col, row, 9, 22, 4.5, 3, 0.4 * ripple(col, row, 7)):
                glyph = "%"
            if in_ellipse(col, row, 43, 12, 3.6, 3.4, 0.4 * ripple(col, row, 2)):
                glyph = "%"
            if glyph == "." and scattered(col, row, 19):
                glyph = "#"
            if glyph == "." and scattered(col, row, 41, 3):
                glyph = ":"
            # A pool walled round by boulders, and a reef with two gaps.
            ring = math.hypot((col - 38) / 1.15, row - 7)
            if ring < 2.2:
                glyph = "o"
            elif ring < 3.6:
                glyph = "#"
            if 25 <= col <= 42 and row in (14, 15) and col not in (31, 40):
                if not (glyph == "~" or glyph == "_"):
                    glyph = "#"
            if row in (10, 11) and abs(col - creek) < 2.4:
                glyph = "="
            line += glyph
        grid.append(line)
    return grid


def atoll(cols=24, rows=20):
    grid = []
    for row in range(rows):
        line = ""
        for col in range(cols):
            x = col + (0.5 if row % 2 else 0) - 11.6
            y = (row - 9.5) * 0.92
            out = math.hypot(x / 1.25, y) + 0.55 * ripple(col, row, 4)
            angle = math.degrees(math.atan2(y, x))
            if out > 9.1:
                glyph = "~"
            elif out > 8.1:
                glyph = "%"
            elif out > 6.6:
                glyph = "."
            elif out > 5.2:
                glyph = ":" if scattered(col, row, 3, 1) else "."
            elif out > 4.2:
                glyph = "o"
            elif out < 1.5:
                glyph = "."
            else:
                glyph = "~"
            if out > 4.9 and -75 < angle < -52:
                glyph = "~"
            if 5.2 < out < 8.6 and 118 < angle < 128:
                glyph = "#"
            if glyph == "." and scattered(col, row, 11, 2):
                glyph = "#"
            line += glyph
        grid.append(line)
    return grid


def mosaic(cols=43, rows=16):
    """Triangles, (0,0) pointing up: a round tide-pool laid out in petals, in a rectangle with void corners."""
    grid = []
    for row in range(rows):
        line = ""
        for col in range(cols):
            down = (col + row) % 2
            x = (col - cols // 2) * 0.866
            y = (row - (rows - 1) / 2) * 1.5 - 0.5 * down + 0.25
            out = math.hypot(x / 1.55, y)
            petal = math.cos(6 * math.atan2(y, x / 1.55))
            if out > 11.9:
                glyph = " "
            elif out > 10.6:
                glyph = "s"
            elif out > 8.6:
                glyph = "w" if petal > 0.25 else "."
            elif out > 5.0:
                glyph = "o" if petal < -0.35 else "s" if petal > 0.8 else "."
            elif out > 3.4:
                glyph = "#" if petal < 0.55 else "."
            elif out > 1.6:
                glyph = "o"
            else:
                glyph = "."
            line += glyph
        grid.append(line)
    return grid


def dune(cols=48, rows=32):
    """Heights of the strand: terraces that rise from the sea, and a dune with a steep west face and a slope to the east."""
    lines = []
    for row in range(rows):
        line = []
        for col in range(cols):
            height = max(0, (31 - row) // 6 - 1)
            if 41 <= col <= 46 and 16 <= row <= 21:
                height += max(0, min(3, 46 - col, 2 * min(row - 15, 22 - row)))
            line.append(str(height))
        lines.append(",".join(line))
    return lines


if __name__ == "__main__":
    maps = {"strand": strand, "atoll": atoll, "mosaic": mosaic, "dune": dune}
    if len(sys.argv) != 2 or sys.argv[1] not in maps:
        sys.exit(__doc__)
    print("\n".join(maps[sys.argv[1]]()))
