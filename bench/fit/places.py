#!/usr/bin/env python3
# SPDX-License-Identifier: GPL-3.0-or-later
"""Looks for the efforts by which core/phrase/placing.cpp puts a line on the neck: ./inner-ear fit-places ONE TWO

ONE and TWO are folders of recordings of two sources with their truth. For each source the efforts that suit it best are
looked for, step by step, and judged on the other one; those written last are found on both. What is to become better is
how often a note is put on the string it was played on, given the pitches alone and given the place of the first note as
well. Values go into the code by hand.
"""

import json
import os
import subprocess
import sys
from pathlib import Path

PROGRAM = Path(__file__).resolve().parent.parent.parent / "build/fit/bin/places"
WISHES = {"placing.wish", "placing.thick", "placing.otherString"}  # what a recording does not tell


def agreement(values, folder):
    told = subprocess.run([PROGRAM, folder], check=True, capture_output=True, text=True,
                          env=dict(os.environ, **{k: repr(v) for k, v in values.items()}))
    return json.loads(told.stdout)


def start(folder):
    told = subprocess.run([PROGRAM, folder], check=True, capture_output=True, text=True,
                          env=dict(os.environ, INNER_EAR_PARAMETERS="1")).stderr
    rows = [line.split("\t") for line in told.splitlines()]
    return {name: float(value) for name, value, *_ in rows if name.startswith("placing.") and name not in WISHES}


def score(values, folders):
    found = [agreement(values, folder) for folder in folders]
    return sum(f["from_pitches"] + f["from_first_place"] for f in found) / 2 / len(found)


def search(values, folders, step=1.0, rounds=4):
    best = score(values, folders)
    while rounds > 0:
        better = False
        for name in values:
            for factor in (1 + step, 1 / (1 + step)):
                tried = dict(values, **{name: values[name] * factor})
                if (now := score(tried, folders)) > best + 1e-6:
                    values, best, better = tried, now, True
                    break
        if not better:
            step, rounds = step / 2, rounds - 1
    return values


def main():
    if len(sys.argv) != 3:
        sys.exit(__doc__)
    one, two = sys.argv[1:]
    for folders, judge in (([one], two), ([two], one), ([one, two], None)):
        values = search(start(one), folders)
        print("found on", *folders, {name: round(value, 3) for name, value in values.items()})
        for folder in (one, two):
            print("  judged on" if folder == judge else "  on", folder, agreement(values, folder))


main()
