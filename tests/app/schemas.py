"""The schemas in docs/schema by another reader: each is a schema, and answers of the program are what it says."""
import json
import pathlib
import subprocess
import sys

import jsonschema

program, source = sys.argv[1], pathlib.Path(sys.argv[2])
lines = [
    "survey demo/strand.toml",
    "route demo/strand.toml --from 3,4 --to 45,25",
    "route demo/strand.toml --mover crab --from 3,4 --to 38,7",
    "route demo/gulls.toml --from 1,10 --to 30,9 --front",
    "reach demo/atoll.toml --from 6,4 --budget 6 --range 1-2 --why 9,3",
    "regions demo/strand.toml --mover crab --join --chokes",
    "threat demo/gulls.toml --at 12,9 --facing n",
    "layer demo/strand.toml height",
    "generate rooms --size 40x30 --seed 1",
]

schemas = {}
for file in sorted((source / "docs/schema").glob("*.json")):
    schema = json.loads(file.read_text())
    jsonschema.Draft202012Validator.check_schema(schema)
    schemas[file.stem] = jsonschema.Draft202012Validator(schema)
assert len(schemas) >= 23, schemas.keys()

for line in lines:
    words = line.split()
    ran = subprocess.run([program, *words, "--json"], cwd=source, capture_output=True, text=True)
    assert ran.returncode in (0, 1), (line, ran.stderr)
    answer = json.loads(ran.stdout)
    schemas[words[0]].validate(answer)
    # A schema that lets anything pass would be no contract.
    for wrong in ({**answer, "surprise": 1}, {"command": words[0]}, {**answer, "command": "other"}):
        assert not schemas[words[0]].is_valid(wrong), (line, wrong)
print("every schema holds")
