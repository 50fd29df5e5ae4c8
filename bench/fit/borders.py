#!/usr/bin/env python3
# SPDX-License-Identifier: GPL-3.0-or-later
"""Finds what section borders are weighed with, and writes src/core/listening/form/border_weights.h.

A random search from the weights as they stand, for borders that are right (F within half a second) and that stay where
they are when a recording is moved (F within three seconds, half as much). A logistic regression over the signs of each
bar was no better on either count (bench/RESULTS.md). Each source of recordings is judged with weights found on the
other one; what is written is found on both.

Usage: borders.py NAME=FOLDER[,MOVED] NAME=FOLDER[,MOVED] [--write] [--steps 500] [--seed 1], FOLDER holding <id>/mix.flac
and <id>/truth.json, MOVED <id>/mix.flac and relations.json: recordings and their changed copies, and for each copy its
id, that of its base, and the ratio of their speeds.
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
NEAR, STAYS = 0.5, 3.0  # seconds: the two windows of the usual measure of borders


def kind(bars):
    return 0 if bars % 8 == 0 else 1 if bars % 4 == 0 else 2 if bars % 2 == 0 else 3


def songs_of(folder):
    lines = subprocess.run([PROGRAM, folder], check=True, capture_output=True, text=True).stdout.splitlines()
    songs = [json.loads(line) for line in lines]
    return [dict(s, bars=np.array(s["bars"]), signs=np.array(s["signs"])) for s in songs if len(s["bars"]) >= 8]


def source_of(folders):
    songs, *moved = folders.split(",")
    return {"songs": songs_of(songs), "moved": {s["id"]: s for m in moved for s in songs_of(m)},
            "relations": [r for m in moved for r in json.loads((Path(m) / "relations.json").read_text())]}


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


def f_measure(true, found, near):
    """Each border counts once (greedy in time)."""
    if len(true) == 0 and len(found) == 0:
        return 1.0
    hits, at = 0, 0
    for t in sorted(true):
        while at < len(found) and found[at] < t - near:
            at += 1
        if at < len(found) and found[at] <= t + near:
            hits, at = hits + 1, at + 1
    return 2 * hits / (len(true) + len(found))


def borders_of(song, w, lengths):
    """Seconds at which sections start, the first one left out."""
    return np.array([song["bars"][b] for b in choose(song["signs"] @ w[:-1] + w[-1], lengths)[1:]])


def judge(source, w, lengths):
    """Mean F of the borders of the songs, and of those of copies against those of their base."""
    right = [f_measure(s["truth"][1:], borders_of(s, w, lengths), NEAR) for s in source["songs"]]
    found = {name: borders_of(s, w, lengths) for name, s in source["moved"].items()}
    kept = [f_measure(found[r["base"]] / r["ratio"], found[r["id"]], STAYS)
            for r in source["relations"] if r["base"] in found and r["id"] in found]
    return float(np.mean(right)), float(np.mean(kept)) if kept else float("nan")


def search(sources, steps, seed):
    """Weights of the signs with the constant last, and log odds of the four classes of lengths."""
    random = np.random.default_rng(seed)
    w, lengths = written_now()

    def gain(w, lengths):
        return sum(2 * right + np.nan_to_num(kept) for right, kept in (judge(s, w, lengths) for s in sources))

    best = gain(w, lengths)
    for _ in range(steps):
        w2, lengths2 = w.copy(), lengths.copy()
        for _ in range(random.integers(1, 4)):
            i = random.integers(0, len(w) + len(lengths))
            if i < len(w):
                w2[i] += random.normal(0, 0.2)
            else:
                lengths2[i - len(w)] += random.normal(0, 0.25)
        if (value := gain(w2, lengths2)) > best:
            best, w, lengths = value, w2, lengths2
    return w, lengths


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

/// What borders are weighed with: found by bench/fit/borders.py on {datetime.date.today()},
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
    parser.add_argument("sources", nargs=2, metavar="NAME=FOLDER[,MOVED]")
    parser.add_argument("--steps", type=int, default=500)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--write", action="store_true")
    args = parser.parse_args()
    sources = {name: source_of(folders) for name, folders in (s.split("=", 1) for s in args.sources)}
    show = lambda pair: f"{pair[0]:.3f} / {pair[1]:.3f}"
    now = written_now()
    for name, source in sources.items():
        (other,) = [o for o in sources if o != name]
        print(f"{name}, {len(source['songs'])} songs, borders within {NEAR} s / kept when moved: {show(judge(source, *now))} as written, "
              f"{show(judge(source, *search([sources[other]], args.steps, args.seed)))} found on {other}", flush=True)
    w, lengths = search(list(sources.values()), args.steps, args.seed)
    for name, source in sources.items():
        print(f"{name}: {show(judge(source, w, lengths))} found on both")
    recipe = " and ".join(f"{len(s['songs'])} songs of {name}" for name, s in sources.items())
    copies = sum(len(s["relations"]) for s in sources.values())
    if args.write:
        write(w, lengths, f"from {recipe} and {copies} moved copies, {args.steps} steps, seed {args.seed}")
    else:
        print(np.round(w, 2).tolist(), np.round(lengths, 2).tolist())


if __name__ == "__main__":
    main()
