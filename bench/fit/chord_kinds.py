#!/usr/bin/env python3
# SPDX-License-Identifier: GPL-3.0-or-later
"""Learns by what the kinds of chords are told, and writes src/core/listening/harmony/chord_kind_weights.h.

A multinomial logistic regression (ridge, by L-BFGS) over the signs of KindSigns, for songs from songs and for phrases
from both, since few phrases have chords beneath them: there a lead plays over most, whose notes are not the chord's.
Each source of recordings is judged
with weights learned on the other one, and on songs left out; what is written is learned on all. Shares are of the time
in which the root is right; ninths count as their sevenths there, as in the usual scores. Usage: chord_kinds.py
NAME=SIGNS[,SIGNS...] NAME=SIGNS [--write] [--ridge 5], SIGNS being what chord-kind-signs printed.
"""

import argparse
import datetime
import json
import re
from pathlib import Path

import numpy as np
from scipy.optimize import minimize

HEADER = Path(__file__).resolve().parent.parent.parent / "src/core/listening/harmony/chord_kind_weights.h"
# In the order of kHeardKinds, by Harte's syntax.
KINDS = ("maj", "min", "5", "7", "maj7", "min7", "maj6", "min6", "sus2", "sus4", "dim", "hdim7", "dim7", "aug", "9",
         "min9", "maj9", "maj(9)")
OF_PHRASES = 10.0  # what a phrase's chords count for beside a song's
PLAIN = {"9": "7", "min9": "min7", "maj9": "maj7", "maj(9)": "maj"}
SAME = {"6": "maj6", "sus4(b7)": "sus4", "11": "9", "13": "9", "min11": "min9", "7(#9)": "7", "min(9)": "min"}


def kind_of(label):
    kind = re.sub(r"/.*", "", label.split(":")[1]) if ":" in label else "maj"
    kind = SAME.get(kind, kind)
    return KINDS.index(kind) if kind in KINDS else None


def read(paths):
    rows = []
    for path in paths.split(","):
        for text in Path(path).read_text().splitlines():
            line = json.loads(text)
            kind = kind_of(line["label"])
            if kind is not None:
                rows.append((line["signs"], kind, line["seconds"], line["told"], path + line["id"], line["phrase"]))
    return tuple(np.array(column) for column in zip(*rows))


def joined(sources):
    return tuple(np.concatenate(column) for column in zip(*sources))


def of_songs(data):
    return tuple(column[~data[5]] for column in data)


def of_phrases(data):
    return tuple(column[data[5]] for column in data)


def learn(data, ridge):
    x, y, seconds = data[:3]
    share = np.minimum(4.0, seconds) * np.where(data[5], OF_PHRASES, 1.0)
    rows, size = np.arange(len(y)), (x.shape[1], len(KINDS))

    def loss(flat):
        w = flat.reshape(size)
        score = x @ w
        score -= score.max(1, keepdims=True)
        p = np.exp(score)
        p /= p.sum(1, keepdims=True)
        value = -(share * np.log(p[rows, y] + 1e-12)).sum() + ridge * (w * w).sum() / 2
        p[rows, y] -= 1
        return value, (x.T @ (p * share[:, None]) + ridge * w).reshape(-1)

    return minimize(loss, np.zeros(size).reshape(-1), jac=True, method="L-BFGS-B",
                    options={"maxiter": 300}).x.reshape(size)


def odds(x, w):
    p = np.exp(x @ w - (x @ w).max(1, keepdims=True))
    return p / p.sum(1, keepdims=True)


def plain(kinds):
    return np.array([PLAIN.get(k, k) for k in kinds])


def judge(data, p):
    x, y, seconds, told = data[:4]
    names = np.array(KINDS)
    best = p.argmax(1)
    right = plain(names[best]) == plain(names[y])
    before = told == plain(names[y])
    said = p.max(1)
    wrong = {}
    for a, b, t in zip(names[y[~right]], names[best[~right]], seconds[~right]):
        wrong[f"{a} called {b}"] = wrong.get(f"{a} called {b}", 0) + t / seconds.sum()
    most = ", ".join(f"{k} {v:.3f}" for k, v in sorted(wrong.items(), key=lambda e: -e[1])[:5])
    return (f"before {np.average(before, weights=seconds):.3f}, now {np.average(right, weights=seconds):.3f}, "
            f"said {np.average(said, weights=seconds):.3f} ({most})")


def left_out(data, ridge, parts=5):
    """Odds of each recording by weights learned on others."""
    ids = sorted(set(data[4]))
    part = {name: i % parts for i, name in enumerate(ids)}
    of = np.array([part[i] for i in data[4]])
    p = np.zeros((len(of), len(KINDS)))
    for k in range(parts):
        w = learn(tuple(d[of != k] for d in data), ridge)
        p[of == k] = odds(data[0][of == k], w)
    return p


def main():
    parser = argparse.ArgumentParser()
    parser.add_argument("sources", nargs="+")
    parser.add_argument("--ridge", type=float, default=5.0)
    parser.add_argument("--write", action="store_true")
    args = parser.parse_args()
    sources = {s.split("=")[0]: read(s.split("=")[1]) for s in args.sources}
    all_of = {"songs": (of_songs, of_songs), "phrases": (lambda data: data, of_phrases)}  # learned from, judged on
    tables = {}
    for what, (fitting, judging) in all_of.items():
        parts = {n: fitting(d) for n, d in sources.items()}
        for name, data in sources.items():
            others = [d for n, d in parts.items() if n != name] or [parts[name]]
            x = judging(data)
            print(f"{what} of {name}, {len(x[1])} chords, learned on the other: "
                  f"{judge(x, odds(x[0], learn(joined(others), args.ridge)))}")
        both = joined(list(parts.values()))
        p, owner = left_out(both, args.ridge), np.repeat(list(parts), [len(d[1]) for d in parts.values()])
        for name in sources:
            mine = (owner == name) & (both[5] == (what == "phrases"))
            print(f"{what} of {name}, recordings left out: {judge(tuple(c[mine] for c in both), p[mine])}")
        tables[what] = learn(both, args.ridge)
    if args.write:
        recipe = "; ".join(f"{n}: {len(of_songs(d)[1])} chords of {len(set(of_songs(d)[4]))} songs and {len(of_phrases(d)[1])} "
                           f"of {len(set(of_phrases(d)[4]))} phrases" for n, d in sources.items())
        lines = ["// SPDX-License-Identifier: GPL-3.0-or-later", "// Written by bench/fit/chord_kinds.py.", "#pragma once", "",
                 "#include <array>", "", "namespace ear {", "",
                 f"// Learned on {datetime.date.today()}, ridge {args.ridge:g}, from {recipe}.", "",
                 "/// A row for each of KindSigns, in it a weight for each of kHeardKinds.",
                 f"using ChordKindWeights = std::array<std::array<float, {len(KINDS)}>, {len(next(iter(tables.values())))}>;"]
        for what, w in tables.items():
            lines += ["", f"inline constexpr ChordKindWeights kKindWeightsOf{what.title()} = {{{{"]
            lines += ["    {{" + ", ".join(f"{v:.4f}F" for v in row) + "}}," for row in w]
            lines[-1] = lines[-1].rstrip(",") + "}};"
        lines += ["", "}  // namespace ear", ""]
        HEADER.write_text("\n".join(lines))


if __name__ == "__main__":
    main()
