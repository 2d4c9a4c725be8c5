"""Follows a guide to the letter, as a newcomer would: follow.py PAGE.md FOLDER [DEMO]

In an empty folder (with our demo maps in it, where DEMO says where they are) it saves each block that the words before it name ("Save this as `crossing.cpp`:"), types each line that
begins with "$ ", and compares what is printed with what the page shows. In shown output "..." stands for anything: within
a line for its rest, alone on a line for any lines. A block of another kind than those is for reading only and must say so
by its language: cmake, toml, c, cpp, python, lua, json and sh blocks without a name are refused.

With SAUNTER_NEW_GOLDENS set, what is printed is written into the page instead where it differs. Read it before you keep it.
"""
import os
import pathlib
import re
import shutil
import subprocess
import sys


def blocks(text):
    """(language, name of the file or None, lines, number of the first line)"""
    lines = text.split("\n")
    before, at = "", 0
    while at < len(lines):
        fence = re.fullmatch(r"(```+)(\w*)", lines[at])
        if not fence:
            before = lines[at] if lines[at].strip() else before
            at += 1
            continue
        first = at + 1
        end = lines.index(fence[1], first)
        named = re.search(r"as `([\w./-]+)`[^`]*:$", before)
        yield fence[2], named[1] if named else None, lines[first:end], first + 1
        before, at = "", end + 1


def same(shown, printed):
    pattern = ""
    for line in shown:
        if line == "...":
            pattern += r"(?:.*\n)*?"
        else:
            pattern += ".*".join(re.escape(part) for part in line.split("...")) + r"\n"
    return re.fullmatch(pattern, printed) is not None


def type_lines(page, lines, number, folder):
    """Types a block's lines. Returns how many, and the block as it should be."""
    typed, told = 0, []
    at = 0
    while at < len(lines):
        assert lines[at].startswith("$ "), f"{page}:{number + at}: found {lines[at]!r}, expected a line to type"
        command, where, asked = lines[at][2:], number + at, at
        at += 1
        while command.endswith("\\"):
            command = command[:-1] + lines[at].lstrip()
            at += 1
        told += lines[asked:at]
        begin = at
        while at < len(lines) and not lines[at].startswith("$ "):
            at += 1
        shown = lines[begin:at]
        ran = subprocess.run(["bash", "-c", command], cwd=folder, stdout=subprocess.PIPE, stderr=subprocess.STDOUT,
                             stdin=subprocess.DEVNULL, text=True)
        printed = "".join(line.rstrip() + "\n" for line in ran.stdout.splitlines())
        if not same(shown, printed) and "SAUNTER_NEW_GOLDENS" in os.environ:
            shown = printed.splitlines()
        elif not same(shown, printed):
            sys.exit(f"{page}:{where}: $ {command}\nprinted (exit code {ran.returncode}):\n{printed}"
                     f"the page shows:\n" + "\n".join(shown))
        told += shown
        typed += 1
    return typed, told


def main():
    page, folder = pathlib.Path(sys.argv[1]), pathlib.Path(sys.argv[2])
    shutil.rmtree(folder, ignore_errors=True)
    folder.mkdir(parents=True)
    if len(sys.argv) > 3:
        (folder / "demo").symlink_to(pathlib.Path(sys.argv[3]).resolve())
    os.environ["LC_ALL"] = "C.UTF-8"
    saved = typed = 0
    text = page.read_text()
    for language, name, lines, number in blocks(text):
        if language == "console":
            count, told = type_lines(page.name, lines, number, folder)
            typed += count
            text = text.replace("\n".join(lines), "\n".join(told), 1)
        elif name:
            (folder / name).parent.mkdir(parents=True, exist_ok=True)
            (folder / name).write_text("\n".join(lines) + "\n")
            saved += 1
        elif language in ("cmake", "toml", "c", "cpp", "python", "lua", "json", "sh", ""):
            sys.exit(f"{page.name}:{number}: found a block of {language or 'no language'} without a name, "
                     "expected one that is saved, typed or marked as text")
    if text != page.read_text():
        page.write_text(text)
    assert typed > 0, f"{page.name}: found nothing to type"
    print(f"{page.name}: {saved} files saved, {typed} lines typed, every output as shown")


main()
