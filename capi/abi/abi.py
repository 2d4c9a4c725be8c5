"""What programs built with saunter.h rely on, and whether it still holds: abi.py HEADER [RELEASED]

Prints every prototype, enumerator and struct field with its value or place, a line each. With the lines of a release it
fails when one of them is gone or another: such a change needs a new name of the library. Structs that begin with their size may grow
at their end.
"""
import pathlib
import re
import subprocess
import sys
import tempfile


def parts(header):
    text = re.sub(r"/\*.*?\*/", " ", header.read_text(), flags=re.S)
    prototypes = [" ".join(found.split()) for found in re.findall(r"SAUNTER_API\s+([^;{]*\));", text)]
    enumerators = [name for body in re.findall(r"typedef enum \w+ \{(.*?)\}", text, re.S)
                   for name in re.findall(r"\b(SAUNTER_\w+)", body)]
    structs = {}
    for body, name in re.findall(r"typedef struct \w+ \{(.*?)\} (\w+);", text, re.S):
        structs[name] = [re.sub(r"\[.*?\]", "", part.split()[-1].lstrip("*"))
                         for line in body.split(";") if line.strip() for part in line.split(",")]
    return prototypes, enumerators, structs


def lines_of(header):
    prototypes, enumerators, structs = parts(header)
    program = ["#include <stddef.h>", "#include <stdio.h>", f'#include "{header.resolve()}"', "int main(void) {"]
    for name in enumerators:
        program.append(f'printf("{name} = %d\\n", (int){name});')
    for name, fields in structs.items():
        program.append(f'printf("{name} has %zu bytes\\n", sizeof({name}));')
        for field in fields:
            place = f"offsetof({name}, {field}), sizeof((({name}*)0)->{field})"
            program.append(f'printf("{name}.{field} at %zu, %zu bytes\\n", {place});')
    program.append("return 0; }")
    with tempfile.TemporaryDirectory() as folder:
        source = pathlib.Path(folder) / "print.c"
        source.write_text("\n".join(program))
        subprocess.run(["cc", "-std=c99", str(source), "-o", f"{folder}/print"], check=True)
        printed = subprocess.run([f"{folder}/print"], check=True, capture_output=True, text=True).stdout.splitlines()
    return prototypes + printed, structs


def main():
    lines, structs = lines_of(pathlib.Path(sys.argv[1]))
    if len(sys.argv) < 3:
        print("\n".join(lines))
        return
    wrong = []
    for line in pathlib.Path(sys.argv[2]).read_text().splitlines():
        if line in lines:
            continue
        grown = re.fullmatch(r"(\w+) has (\d+) bytes", line)
        if grown and structs.get(grown[1], [""])[0] == "size":
            now = next(int(re.search(r"\d+", found.split(" has ")[1])[0]) for found in lines
                       if found.startswith(f"{grown[1]} has "))
            if now > int(grown[2]):
                continue
        wrong.append(f"found no {line!r} any more, expected what was released")
    if wrong:
        sys.exit("\n".join(wrong))
    print(f"{len(lines)} lines, all of the release hold")


main()
