#!/usr/bin/env python3
# SPDX-License-Identifier: GPL-3.0-or-later
"""Learns what section borders are weighed with, and writes src/core/listening/form/border_weights.h.

A logistic regression (ridge, by Newton's steps) over the signs of each bar tells the odds of a border; how usual a
length is, is counted. Each source of recordings is judged with weights learned on the other one; what is written is
learned on both. Usage: borders.py NAME=FOLDER NAME=FOLDER [--write] [--ridge 3]
"""

import argparse
import datetime
import json
import re
import subprocess
from pathlib import Path

import numpy as np

ROOT = Path(__file__).resolve().parent.parent.parent
PROGRAM = ROOT / "build/release/bin/border-signs"
HEADER = ROOT / "src/core/listening/form/border_weights.h"
CLASSES = ("eights", "fours", "twos", "odd")
SHORTEST, LONGEST = 2, 24  # bars, as in borders.cpp
NEAR = 0.5  # seconds: the narrower window of the usual measure of borders


def kind(bars):
    return 0 if bars % 8 == 0 else 1 if bars % 4 == 0 else 2 if bars % 2 == 0 else 3


def songs_of(folder):
    lines = subprocess.run([PROGRAM, folder], check=True, capture_output=True, text=True).stdout.splitlines()
    songs = [json.loads(line) for line in lines]
    return [dict(s, bars=np.array(s["bars"]), signs=np.array(s["signs"])) for s in songs if len(s["bars"]) >= 8]


def labels(song):
    """1 for each bar that is the nearest one to a border, where it lies within half a bar of it."""
    marks = np.zeros(len(song["bars"]))
    half = np.median(np.diff(song["bars"])) / 2
    for start in song["truth"][1:]:
        bar = int(np.argmin(np.abs(song["bars"] - start)))
        if bar > 0 and abs(song["bars"][bar] - start) <= half:
            marks[bar] = 1
    return marks


def learn(songs, ridge):
    """Weights of the signs with the constant last, and log odds of the four classes of lengths."""
    x = np.vstack([s["signs"][1:] for s in songs])
    x = np.hstack([x, np.ones((len(x), 1))])
    y = np.concatenate([labels(s)[1:] for s in songs])
    pull = np.diag([ridge] * (x.shape[1] - 1) + [0.0])
    w = np.zeros(x.shape[1])
    for _ in range(50):
        p = 1 / (1 + np.exp(-x @ w))
        step = np.linalg.solve(x.T @ (x * (p * (1 - p))[:, None]) + pull, x.T @ (y - p) - pull @ w)
        w += step
        if np.abs(step).max() < 1e-9:
            break
    counts = np.ones(4)  # one more of each, so that what was not seen is not impossible
    for s in songs:
        at = np.flatnonzero(labels(s)).tolist()
        for a, b in zip([0] + at, at + [len(s["bars"])]):
            if SHORTEST <= b - a <= LONGEST:
                counts[kind(b - a)] += 1
    by_chance = np.array([sum(kind(n) == k for n in range(SHORTEST, LONGEST + 1)) for k in range(4)])
    return w, np.log(counts / counts.sum()) - np.log(by_chance / by_chance.sum())


def choose(odds, lengths):
    """As chooseBorders()."""
    n = len(odds)
    best, origin = [0.0] + [-1e9] * n, [0] * (n + 1)
    for end in range(1, n + 1):
        for start in range(max(0, end - LONGEST), end):
            if end - start < SHORTEST and end != n and start != 0:
                continue
            value = best[start] + (odds[start] if start else 0.0) + lengths[kind(end - start)]
            if value > best[end]:
                best[end], origin[end] = value, start
    borders, at = [], n
    while at > 0:
        at = origin[at]
        borders.append(at)
    return borders[::-1]


def judge(songs, w, lengths):
    """Mean F measure of the borders but the first, within half a second."""
    values = []
    for s in songs:
        found = [s["bars"][b] for b in choose(s["signs"] @ w[:-1] + w[-1], lengths)[1:]]
        true = s["truth"][1:]
        hit = sum(any(abs(t - f) <= NEAR for f in found) for t in true)
        right = sum(any(abs(t - f) <= NEAR for t in true) for f in found)
        recall, precision = hit / max(1, len(true)), right / max(1, len(found))
        values.append(2 * recall * precision / max(1e-9, recall + precision))
    return float(np.mean(values))


def written_now():
    text = HEADER.read_text()
    of = [float(v) for v in re.search(r"of = \{([^}]*)\}", text)[1].split(",")]
    value = lambda name: float(re.search(rf"\b{name} = (-?[\d.]+)", text)[1])
    return np.array(of + [value("rarity")]), np.array([value(c) for c in CLASSES])


def write(w, lengths, recipe):
    values = ", ".join(f"{v:.2f}" for v in w[:-1])
    names = ", ".join(f"{c} = {v:.2f}" for c, v in zip(CLASSES, lengths))
    HEADER.write_text(f"""// SPDX-License-Identifier: GPL-3.0-or-later
// bench/fit/borders.py --write writes this file anew.
#pragma once

#include <array>
#include <cstddef>

namespace ear {{

/// What borders are weighed with: fitted by bench/fit/borders.py on {datetime.date.today()},
/// {recipe}.
struct BorderWeights {{
  static constexpr std::size_t kSigns = {len(w) - 1};
  /// Log odds that one deviation adds, in the order of BorderSign.
  std::array<double, kSigns> of = {{{values}}};
  double rarity = {w[-1]:.2f};  ///< log odds of a bar at which nothing stands out
  /// Log odds of a section by its number of bars: of eights, of fours, of twos, odd.
  double {names};
}};

}}  // namespace ear
""")


def main():
    parser = argparse.ArgumentParser()
    parser.add_argument("sources", nargs=2, metavar="NAME=FOLDER")
    parser.add_argument("--ridge", type=float, default=3.0)
    parser.add_argument("--write", action="store_true")
    args = parser.parse_args()
    sources = {name: songs_of(folder) for name, folder in (s.split("=", 1) for s in args.sources)}
    now = written_now()
    for name, songs in sources.items():
        (other,) = [o for o in sources if o != name]
        print(f"{name}, {len(songs)} songs: borders within {NEAR} s "
              f"{judge(songs, *now):.3f} as written, {judge(songs, *learn(sources[other], args.ridge)):.3f} learned on {other}, "
              f"{judge(songs, *learn(songs, args.ridge)):.3f} learned on itself")
    # Each source counts alike, however many songs it has.
    w, lengths = (sum(part) / 2 for part in zip(*(learn(songs, args.ridge) for songs in sources.values())))
    for name, songs in sources.items():
        print(f"{name}: {judge(songs, w, lengths):.3f} learned on both")
    recipe = " and ".join(f"{len(songs)} songs of {name}" for name, songs in sources.items())
    if args.write:
        write(w, lengths, f"{recipe}, ridge {args.ridge:g}")
    else:
        print(np.round(w, 2).tolist(), np.round(lengths, 2).tolist())


if __name__ == "__main__":
    main()
