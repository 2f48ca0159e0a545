#!/usr/bin/env python3
"""The shipped packs meet the JSON Schema, and what breaks it is refused by schema and loader alike."""
import copy
import json
import pathlib
import subprocess
import sys
import tempfile

import jsonschema

# place of the change, new value (None: remove)
MUTATIONS = [
    (("format",), "something/else"), (("version",), 2), (("name",), None), (("caution",), ""), (("schools",), []),
    (("keyPositions", 0, "recognise"), None), (("measures", 0, "kind"), "wobble"), (("measures", 0, "unit"), "furlong"),
    (("measures", 0, "views"), []), (("measures", 0, "views", 0), "sideways"), (("measures", 0, "bands"), []),
    (("measures", 0, "bands", 0, "evidence"), "X"), (("measures", 0, "margin"), -1), (("measures", 0, "points"), "ankle.lead"),
    (("faults", 0, "risk"), 3), (("faults", 0, "teachable"), [1, 1]), (("faults", 0, "stage"), "hair"),
    (("faults", 0, "conditions", 0, "beyond"), "sideways"), (("faults", 0, "drills"), []),
    (("faults", 0, "cue", "teen"), "one two three four five six seven eight nine ten eleven twelve thirteen"),
    (("drills", 0, "steps"), []), (("drills", 0, "dose"), None), (("drills", 0, "feel"), 7),
]


# spoiling one with drills of its own and one that names shared ones is enough
MUTATED = ("overhand-pitch.json", "bat-swing.json")


def changed(pack, place, value):
    pack = copy.deepcopy(pack)
    at = pack
    for key in place[:-1]:
        at = at[key]
    if value is None:
        del at[place[-1]]
    else:
        at[place[-1]] = value
    return pack


def main(root, cli):
    schema = json.loads((root / "packs" / "pack.schema.json").read_text())
    jsonschema.Draft202012Validator.check_schema(schema)
    validator = jsonschema.Draft202012Validator(schema)
    wrong = []
    for file in sorted((root / "packs").glob("*.json")):
        if file.name in ("pack.schema.json", "drills.json", "detectors.json"):
            continue
        pack = json.loads(file.read_text())
        shared = {d["id"]: d for d in json.loads((root / "packs" / "drills.json").read_text())["drills"]}
        written_out = dict(pack, drills=[shared[d] if isinstance(d, str) else d for d in pack["drills"]])
        for p in (pack, written_out):
            wrong += [f"{file.name} {list(e.path)}: {e.message}" for e in validator.iter_errors(p)]
        if file.name not in MUTATED:
            continue
        with tempfile.TemporaryDirectory() as folder:
            for place, value in MUTATIONS:
                broken = changed(written_out, place, value)
                if validator.is_valid(broken):
                    wrong.append(f"{file.name}: the schema accepts {place} = {value!r}")
                copy_of = pathlib.Path(folder) / "broken.json"
                copy_of.write_text(json.dumps(broken))
                run = subprocess.run([cli, "packs", "check", str(copy_of)], capture_output=True, text=True)
                pointer = "/" + "/".join(str(p) for p in place)
                if run.returncode != 2 or not run.stderr.strip():
                    wrong.append(f"{file.name}: the loader accepts {place} = {value!r}")
                elif pointer not in run.stderr and place[0] not in ("format", "version"):
                    wrong.append(f"{file.name}: the loader does not name {pointer}: {run.stderr.strip()}")
    print("\n".join(wrong) or f"{len(MUTATIONS)} mutations passed, 0 failed")
    return 1 if wrong else 0


if __name__ == "__main__":
    sys.exit(main(pathlib.Path(sys.argv[1]), sys.argv[2]))
