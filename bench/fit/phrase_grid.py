#!/usr/bin/env python3
# SPDX-License-Identifier: GPL-3.0-or-later
"""Learns by what the beats and bars of a phrase are told, and writes src/core/listening/rhythm/phrase_grid_weights.h.

A conditional logistic regression (McFadden 1974, "Conditional logit analysis of qualitative choice behavior") over the
beats and bars that may be a phrase's, of which the right ones are those that hit the most true downbeats. Phrases in
three are in neither source: how rare they are is set by hand. Each source is judged with weights learned on the other
one; what is written is learned on all. Usage: phrase_grid.py NAME=SIGNS[,SIGNS...] NAME=SIGNS [--write] [--ridge 3],
SIGNS being what phrase-grid-signs printed.
"""

import argparse
import datetime
import json
from pathlib import Path

import numpy as np
from scipy.optimize import minimize

HEADER = Path(__file__).resolve().parent.parent.parent / "src/core/listening/rhythm/phrase_grid_weights.h"
NEAR = 0.07  # seconds, the usual window for beats
THREE, RARITY_OF_THREE = 9, -3.0  # GridSigns::three; log odds


def f_measure(true, said, gap):
    true = true[(true > said[0] - gap) & (true < said[-1] + gap)]
    hit = sum(np.abs(true - t).min() < NEAR for t in said) if len(true) else 0
    return 2 * hit / (len(true) + len(said))


def read(paths):
    phrases = []
    for path in paths.split(","):
        for text in Path(path).read_text().splitlines():
            line = json.loads(text)
            true, bars = np.array(line["beats"]), np.array(line["downbeats"])
            beats, downbeats = [], []
            for c in line["candidates"]:
                said = np.array(c["beats"])
                gap = (said[-1] - said[0]) / (len(said) - 1)
                same = abs(gap / np.median(np.diff(true)) - 1) < 0.1
                beats.append(f_measure(true, said, gap))
                downbeats.append(f_measure(bars, said[c["first"]::c["meter"]], gap) if same and beats[-1] > 0.8 else 0.0)
            phrases.append({"signs": np.array([c["signs"] for c in line["candidates"]]), "beats": np.array(beats),
                            "downbeats": np.array(downbeats), "four": line["meter"] == 4})
    return phrases


def learn(phrases, ridge):
    """From phrases in four of which one candidate is right."""
    known = [(p["signs"], int(p["downbeats"].argmax())) for p in phrases if p["four"] and p["downbeats"].max() > 0.7]
    pull = np.full(known[0][0].shape[1], ridge)

    def loss(w):
        value, slope = (pull * w * w).sum() / 2, pull * w
        for signs, right in known:
            score = signs @ w
            p = np.exp(score - score.max())
            p /= p.sum()
            value -= np.log(p[right] + 1e-12)
            p[right] -= 1
            slope = slope + p @ signs
        return value, slope

    w = minimize(loss, np.zeros(len(pull)), jac=True, method="L-BFGS-B", options={"maxiter": 300}).x
    w[THREE] = RARITY_OF_THREE
    return w


def judge(phrases, w):
    beats, downbeats, said, before = [], [], [], []
    for p in phrases:
        score = p["signs"] @ w
        odds = np.exp(score - score.max())
        best = int(score.argmax())
        beats.append(p["beats"][best]), downbeats.append(p["downbeats"][best]), said.append(1 / odds.sum())
        before.append(p["beats"][0])
    right = np.mean(np.array(downbeats) > 0.7)
    return (f"beats {np.mean(beats):.3f} (as tracked {np.mean(before):.3f}), downbeats {np.mean(downbeats):.3f}, "
            f"said {np.mean(said):.3f}, right {right:.3f}")


def main():
    parser = argparse.ArgumentParser()
    parser.add_argument("sources", nargs=2)
    parser.add_argument("--ridge", type=float, default=3.0)
    parser.add_argument("--write", action="store_true")
    args = parser.parse_args()
    sources = {s.split("=")[0]: read(s.split("=")[1]) for s in args.sources}
    for name, phrases in sources.items():
        (other,) = [o for o in sources if o != name]
        print(f"{name}, {len(phrases)} phrases, learned on the other: {judge(phrases, learn(sources[other], args.ridge))}")
    w = learn(sum(sources.values(), []), args.ridge)
    for name, phrases in sources.items():
        print(f"{name}, learned on all: {judge(phrases, w)}")
    if args.write:
        numbers = ",\n    ".join(", ".join(f"{v:.3f}" for v in w[i:i + 9]) for i in range(0, len(w), 9))
        HEADER.write_text(f"""// SPDX-License-Identifier: GPL-3.0-or-later
// Written by bench/fit/phrase_grid.py.
#pragma once

#include <array>

namespace ear {{

// Learned on {datetime.date.today()}, ridge {args.ridge:g}, from {"; ".join(f"{n}: {len(p)} phrases" for n, p in sources.items())}.
// A weight for each of GridSigns.
inline constexpr std::array<double, {len(w)}> kPhraseGridWeights = {{
    {numbers}}};

}}  // namespace ear
""")


if __name__ == "__main__":
    main()
