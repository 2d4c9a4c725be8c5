"""The check of the C interface against a release says no when it should: abi_test.py SOURCE"""
import pathlib
import subprocess
import sys
import tempfile

source = pathlib.Path(sys.argv[1])
header = source / "capi/include/saunter.h"
released = source / "capi/abi/0.2.txt"
text = header.read_text()


def holds(changed):
    with tempfile.TemporaryDirectory() as folder:
        file = pathlib.Path(folder) / "saunter.h"
        file.write_text(changed)
        ran = subprocess.run([sys.executable, source / "capi/abi/abi.py", file, released], capture_output=True, text=True)
        return ran.returncode == 0, ran.stderr


def change(before, after):
    assert text.count(before) >= 1, before
    return text.replace(before, after, 1)


assert holds(text)[0], holds(text)[1]
# May be: another function, a field at the end of a struct that knows its size.
assert holds(change("SAUNTER_API const char* saunter_message(void);",
                    "SAUNTER_API const char* saunter_message(void);\nSAUNTER_API int32_t saunter_more(void);"))[0]
assert holds(change("} saunter_route;", "  uint64_t more;\n} saunter_route;"))[0]
# May not be: each of these breaks programs that were built before.
for broken in (change("SAUNTER_API const char* saunter_message(void);", ""),
               change("saunter_message(void)", "saunter_message(int32_t of)"),
               change("  int32_t reason;", "  int32_t more;\n  int32_t reason;"),
               change("  SAUNTER_NO = 1,", "  SAUNTER_NO = 9,"),
               change("  int32_t col, row;\n", "  int64_t col, row;\n"),
               change("  SAUNTER_NO_WAY,", "  SAUNTER_MORE,\n  SAUNTER_NO_WAY,")):
    fine, says = holds(broken)
    assert not fine and "any more" in says, says
print("told apart")
