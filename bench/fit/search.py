#!/usr/bin/env python3
# SPDX-License-Identifier: GPL-3.0-or-later
"""Looks for better values of an estimator's parameters: ./inner-ear fit keyFinder --by key --fit FOLDER --judge FOLDER.

Each parameter whose name begins as asked for is tried a step up and a step down; what betters the measure on the
recordings of --fit is kept, until a round betters nothing, then with half the step. The recordings of --judge, of
another source, have no say: the table at the end shows what the values found do to them, and no value belongs in the
code that does not help there. Nothing is written: values go into the code by hand, with `fitted by bench/fit/search.py
on ...` as their source.

Folders are of the form that the corpora make (FOLDER/*/truth.json and mix.flac); measures are those of their scorer.
"""

import argparse
import json
import os
import subprocess
import sys
import tempfile
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent.parent
PROGRAM = ROOT / "build/fit/bin/inner-ear-cli"
CORPUS = ROOT.parent / "shared/corpus"
PARTS = {"ref_err": "reference", "key": "key", "acc1": "tempo", "beat_f": "beats", "down_f": "downbeats", "bound05": "sections",
         "bound3": "sections", "pairwise": "sections", "chords": "chords", "quality": "chords", "setup1": "guitar_setups"}
SMALLER_IS_BETTER = {"ref_err"}


def parameters(prefix):
    """Value, unit and source by name, as the program was built with."""
    with tempfile.NamedTemporaryFile(suffix=".wav") as nothing:
        told = subprocess.run([PROGRAM, "analyze", nothing.name], capture_output=True, text=True,
                              env=dict(os.environ, INNER_EAR_PARAMETERS="1")).stderr
    rows = [line.split("\t") for line in told.splitlines() if line.count("\t") == 3]
    found = {name: (float(value), unit, source) for name, value, unit, source in rows if name.startswith(prefix)}
    if not found:
        sys.exit(f"No parameter begins with “{prefix}”. There are: {', '.join(sorted(r[0] for r in rows))}")
    return found


class Judge:
    """Scores values on one folder; what was asked before is remembered."""

    def __init__(self, folder, measure, only):
        self.folder, self.measure, self.only, self.known = Path(folder), measure, only, {}
        self.files = sorted(self.folder.glob("*/mix.flac"))
        if not self.files:
            sys.exit(f"There are no recordings in {folder}.")

    def summary(self, values):
        key = tuple(sorted(values.items()))
        if key not in self.known:
            environment = dict(os.environ, **{name: repr(value) for name, value in values.items()})
            with tempfile.TemporaryDirectory() as reports:
                def hear(file):
                    told = subprocess.run([PROGRAM, "analyze", "--only", self.only, file], check=True,
                                          capture_output=True, text=True, env=environment).stdout
                    (Path(reports) / f"{file.parent.name}.json").write_text(told)
                with ThreadPoolExecutor(os.cpu_count()) as pool:
                    list(pool.map(hear, self.files))
                out = Path(reports) / "summary"
                subprocess.run(["/usr/bin/python3", CORPUS / "score.py", self.folder, reports, "--json", out],
                               check=True, capture_output=True)
                self.known[key] = json.loads(out.read_text())["summary"]
        return self.known[key]

    def score(self, values):
        """Of the measure; greater is better."""
        found = self.summary(values)[self.measure]
        if self.measure in SMALLER_IS_BETTER:
            return -found["median"]
        return found["pooled"] if "pooled" in found else found["mean_all"]


def search(start, judge, step, rounds):
    values, best = dict(start), judge.score(start)
    while rounds > 0:
        better = False
        for name in values:
            for factor in (1 + step, 1 / (1 + step)):
                tried = dict(values, **{name: values[name] * factor})
                if (score := judge.score(tried)) > best + 1e-9:
                    values, best, better = tried, score, True
                    print(f"{best:.4f}  {name} = {values[name]:.4g}", flush=True)
                    break
        if not better:
            step, rounds = step / 2, rounds - 1
    return values


def main():
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    parser.add_argument("prefix", help="first letters of the parameters' names, as in the code: keyFinder, chords.fit")
    parser.add_argument("--by", choices=PARTS, help="measure of the scorer that is to become better")
    parser.add_argument("--fit", help="folder of recordings to fit on")
    parser.add_argument("--judge", help="folder of recordings of another source")
    parser.add_argument("--step", type=float, default=0.25, help="first step, as a share of the value")
    parser.add_argument("--rounds", type=int, default=2, help="how often the step is halved")
    args = parser.parse_args()
    found = parameters(args.prefix)
    if not (args.by and args.fit and args.judge):
        for name, (value, unit, source) in sorted(found.items()):
            print(f"{name:32} {value:10.5g} {unit:26} {source}")
        return
    start = {name: value for name, (value, _, _) in found.items() if value != 0}
    fit, judge = (Judge(folder, args.by, PARTS[args.by]) for folder in (args.fit, args.judge))
    values = search(start, fit, args.step, args.rounds)
    print(f"\n{'':32} {'was':>10} {'found':>10}")
    for name, value in values.items():
        if value != start[name]:
            print(f"{name:32} {start[name]:10.5g} {value:10.5g}")
    for what, one in (("fitted on", fit), ("judged on", judge)):
        print(f"{args.by} {what} {str(one.folder):20} {one.score(start):10.4f} {one.score(values):10.4f}")


main()
