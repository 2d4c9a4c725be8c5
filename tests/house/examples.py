"""Every example in a public header compiles, and every call a document names is one there is.

Arguments: the source folder, a compiler and its words.
"""
import pathlib
import re
import subprocess
import sys

source = pathlib.Path(sys.argv[1]).resolve()
compiler = sys.argv[2:]
headers = [file for part in ("core", "io", "draw", "capi") for file in sorted((source / part / "include").rglob("*.h*"))]

# What examples speak of without saying where it comes from.
known = """
#include "saunter/saunter.hpp"
using namespace saunter::literals;
extern int cols, rows;
extern saunter::Map map;
extern saunter::Mover crab;
extern saunter::Cell rally_point, unit, from, to;
extern saunter::TerrainId rubble;
void redraw(saunter::Cell);
extern saunter::CostGrid costs;
extern saunter::Searcher searcher;
extern saunter::Batch batch;
extern std::vector<saunter::RouteQuestion> questions;
extern std::vector<saunter::Route> answers;
struct Pool { template <typename Job> void for_each(std::size_t workers, Job job) { for (std::size_t i = 0; i < workers; ++i) job(i); } };
extern Pool pool;
extern saunter::Prepared index;
extern saunter::ThreatField threat;
extern std::vector<saunter::Source> goals;
extern saunter::Field field;
"""
wrong = []
count = 0
for header in headers:
    lines = header.read_text().splitlines()
    example, begun = [], None
    for number, line in enumerate(lines, 1):
        text = re.sub(r"^\s*/// ?", "", line)
        if text.startswith("```cpp"):
            example, begun = [], number
        elif text.startswith("```") and begun:
            count += 1
            code = known + "void example() {\n" + "\n".join(example).replace("...", "{}") + "\n}\n"
            made = subprocess.run([*compiler, "-std=c++20", "-fsyntax-only", "-x", "c++", "-"], input=code, text=True,
                                  capture_output=True)
            if made.returncode:
                wrong.append(f"{header.relative_to(source)}:{begun}: does not compile:\n{made.stderr[:800]}")
            begun = None
        elif begun:
            example.append(text)
assert count > 4, f"found only {count} examples"

words = set()
classes = set()
for header in headers:
    text = header.read_text()
    words.update(re.findall(r"\w+", text))
    classes.update(re.findall(r"\b(?:class|struct|enum class|concept|using) (\w+)", text))
named = 0
for page in sorted(source.glob("docs/**/*.md")):
    text = re.sub(r"^(```+).*?^\1", "", page.read_text(), flags=re.M | re.S)
    for quoted in re.findall(r"`([^`\n]+)`", text):
        for owner, member in re.findall(r"\b([A-Z]\w+)::(\w+)", quoted):
            named += 1
            if owner not in classes or member not in words:
                wrong.append(f"{page.relative_to(source)}: `{quoted}`: there is no {owner}::{member}")
        for call in re.findall(r"(?:^|[.>])([a-z]\w+)\(", quoted):
            named += 1
            if call not in words and call not in {"find_package", "target_link_libraries", "add_subdirectory"}:
                wrong.append(f"{page.relative_to(source)}: `{quoted}`: there is no {call}")
assert named > 100, f"found only {named} calls"
if wrong:
    sys.exit("\n".join(wrong))
print(f"{count} examples compile, {named} calls are there")
