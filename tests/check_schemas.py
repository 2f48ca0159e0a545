#!/usr/bin/env python3
"""Markings, walk-throughs, books, plans, matches and the shipped data meet their JSON Schemas, and what a schema refuses the
program refuses as well."""
import copy
import json
import pathlib
import subprocess
import sys
import tempfile

import jsonschema

LINE = {"kind": "line", "at": [{"x": 1, "y": 2}, {"landmark": "knee.left"}], "lives": {"repetition": True}}
GOOD = [LINE, {"kind": "spiral", "turns": 3}, {"kind": "circle", "at": [{"x": 9, "y": 9}], "radius": 4, "lives": {"from": 1, "to": 3}},
        {"kind": "strobe", "at": [], "every": 5, "lives": {"keyPosition": "release"}}]
BAD = [{"at": []}, dict(LINE, at=[{"x": 1, "y": 2}]), dict(LINE, at=[{"x": 1}, {"x": 2, "y": 2}]), dict(LINE, lives={}),
       dict(LINE, lives={"from": -1, "to": 2}), {"kind": "circle", "at": [{"x": 9, "y": 9}], "lives": {"repetition": True}}, 7]


def main(root, cli):
    def validator(name):
        schema = json.loads((root / "schemas" / f"{name}.schema.json").read_text())
        if name == "walk":  # the drawing's schema stands in the marking's
            schema["$defs"] = json.loads((root / "schemas" / "marking.schema.json").read_text())["$defs"]
            schema = json.loads(json.dumps(schema).replace("marking.schema.json#", "#"))
        jsonschema.Draft202012Validator.check_schema(schema)
        return jsonschema.Draft202012Validator(schema)

    wrong = []
    with tempfile.TemporaryDirectory() as folder:
        folder = pathlib.Path(folder)

        def run(*words):
            return subprocess.run([cli, *map(str, words)], capture_output=True, text=True, check=False)

        run("simulate", "--skill", "overhand-pitch", "--view", "side", "--truth-only", "--out", folder)
        truth = json.loads((folder / "truth.json").read_text())
        truth["marks"] = truth["marks"][:200]
        check = validator("marking")
        file = folder / "marking.json"

        def accepted(marking):
            file.write_text(json.dumps(marking))
            return run("read", "--pack", "overhand-pitch", "--marking", file).returncode == 0

        for drawings, isGood in [([d], True) for d in GOOD] + [([d], False) for d in BAD]:
            marking = dict(copy.deepcopy(truth), drawings=drawings)
            if check.is_valid(marking) != isGood:
                wrong.append(f"the marking's schema is wrong about {drawings}")
            if accepted(marking) != isGood:
                wrong.append(f"the program is wrong about {drawings}")
        walk = validator("walk")
        good = {"format": "jolly-kestrel/walk", "version": 1, "stops": [{"from": 3, "to": 9, "speed": 0.25, "text": "x", "drawings": [LINE]}]}
        if not walk.is_valid(good):
            wrong.append("the walk-through's schema refuses a good one")
        for broken in ({"stops": {}}, {"stops": [{}]}, {"stops": [{"from": -1}]}, {"stops": [{"from": 1, "speed": 9}]}):
            if walk.is_valid(dict(good, **broken)):
                wrong.append(f"the walk-through's schema accepts {broken}")
        # what comes with the program
        shipped = [("workload", root / "data" / "workload.json"), ("balls", root / "data" / "balls.json"),
                   ("places", root / "data" / "places.json"), *(("match-rules", f) for f in sorted((root / "matches").glob("*.json")))]
        for name, data in shipped:
            for error in validator(name).iter_errors(json.loads(data.read_text())):
                wrong.append(f"{data.name}: {error.message}")

        # books and matches, good and broken: schema and program say the same
        def said(words, document):
            file.write_text(json.dumps(document))
            return run(*words, file).returncode == 0

        book = {"format": "jolly-kestrel/book", "version": 1, "birthDate": "2014-03-02",
                "days": [{"date": "2026-11-20", "counts": {"pitch": 52}, "pain": [{"where": "elbow", "level": 3}], "effort": 6}]}
        match = {"format": "jolly-kestrel/match", "version": 1, "sport": "tennis", "players": ["Ada", "Bo"], "rallies": [{"won": "Ada"}]}
        cases = [("book", ["workload", "--on", "2026-11-21", "--book"], book,
                  [{"days": {}}, {"days": [{}]}, {"days": [{"date": "soon"}]}, {"days": [{"date": "2026-11-20", "effort": 12}]},
                   {"days": [{"date": "2026-11-20", "pain": [{"where": "ear", "level": 1}]}]}]),
                 ("match", ["match", "score", "--log"], match,
                  [{"players": ["Ada", "Ada"]}, {"players": ["Ada"]}, {"rallies": {}}, {"rallies": [{"from": "soon"}]}])]
        for name, words, good, broken in cases:
            for change, isGood in [({}, True), *((b, False) for b in broken)]:
                document = dict(good, **change)
                if validator(name).is_valid(document) != isGood:
                    wrong.append(f"the schema of {name} is wrong about {change}")
                if said(words, document) != isGood:
                    wrong.append(f"the program is wrong about {name} {change}")
    print("\n".join(wrong) or "schemas and program agree")
    return 1 if wrong else 0


if __name__ == "__main__":
    sys.exit(main(pathlib.Path(sys.argv[1]), sys.argv[2]))
