"""Reads all sources of each library, and of the program, as one unit: names that only their own file keeps apart would meet.

one_unit.py BUILD  (configured with SAUNTER_JUMBO, which leaves a unit for each folder)
"""
import collections
import json
import os
import re
import shlex
import subprocess
import sys

units = collections.defaultdict(list)
for entry in json.load(open(sys.argv[1] + "/compile_commands.json")):
    target = re.search(r"/units_of_(saunter_(?:core|io|draw|commands))/", entry["file"])
    if target:
        units[target[1]].append(entry)
assert len(units) == 4, f"found units of {sorted(units)}, expected those of core, io, draw and commands"
running = []
for target, entries in sorted(units.items()):
    words = shlex.split(entries[0]["command"])
    while "++" not in os.path.basename(words[0]):
        words.pop(0)  # a compiler cache, and what it is told
    kept = words[:words.index("-o")] + ["-fsyntax-only", "-x", "c++", "-"]
    kept = [word for at, word in enumerate(kept) if word != "-MD" and not {word, kept[at - 1]} & {"-MT", "-MF"}]
    process = subprocess.Popen(kept, cwd=entries[0]["directory"], stdin=subprocess.PIPE, text=True)
    process.stdin.write("".join(f'#include "{entry["file"]}"\n' for entry in entries))
    process.stdin.close()
    running.append((target, len(entries), process))
for target, count, process in running:
    assert process.wait() == 0, f"the {count} units of {target} do not compile as one"
    print(f"{target}: {count} units in one")
