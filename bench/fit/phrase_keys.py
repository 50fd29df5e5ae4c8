#!/usr/bin/env python3
# SPDX-License-Identifier: GPL-3.0-or-later
"""Learns the weights of a short phrase's key, and writes src/core/listening/harmony/phrase_key_weights.h.

A multinomial logistic regression over the 24 keys (ridge, by L-BFGS) with one weight for each sign, mode and degree;
transposing changes nothing. Each source of recordings is judged with weights learned on the other one; what is written
is learned on both. Usage: phrase_keys.py NAME=SIGNS NAME=SIGNS [--write] [--ridge 3], SIGNS being what phrase-key-signs
printed, of one source each.
"""

import argparse
import datetime
import json
from pathlib import Path

import numpy as np
from scipy.optimize import minimize

HEADER = Path(__file__).resolve().parent.parent.parent / "src/core/listening/harmony/phrase_key_weights.h"
NAMES = ("C", "C#", "D", "D#", "E", "F", "F#", "G", "G#", "A", "A#", "B")


# Albrecht & Shanahan 2013, Krumhansl & Kessler 1982, Temperley 1999; major, then minor.
PUBLISHED = (
    ((0.238, 0.006, 0.111, 0.006, 0.137, 0.094, 0.016, 0.214, 0.009, 0.080, 0.008, 0.081),
     (0.220, 0.006, 0.104, 0.123, 0.019, 0.103, 0.012, 0.214, 0.062, 0.022, 0.061, 0.052)),
    ((6.35, 2.23, 3.48, 2.33, 4.38, 4.09, 2.52, 5.19, 2.39, 3.66, 2.29, 2.88),
     (6.33, 2.68, 3.52, 5.38, 2.60, 3.53, 2.54, 4.75, 3.98, 2.69, 3.34, 3.17)),
    ((5.0, 2.0, 3.5, 2.0, 4.5, 4.0, 2.0, 4.5, 2.0, 3.5, 1.5, 4.0),
     (5.0, 2.0, 3.5, 4.5, 2.0, 4.0, 2.0, 4.5, 3.5, 2.0, 1.5, 4.0)))
PROFILES = np.mean([(np.array(p) - np.mean(p, 1, keepdims=True)) / np.std(p, 1, keepdims=True) for p in PUBLISHED], 0)


def features(line):
    """24 keys x weights."""
    signs = np.sqrt(np.array(line["signs"]))
    rows = np.zeros((24, 2 + signs.size * 2))
    for key in range(24):
        tonic, mode = key % 12, key // 12
        turned = np.roll(signs, -tonic, 1)
        block = np.zeros((len(signs), 2, 12))
        block[:, mode] = turned
        rows[key, 2:] = block.reshape(-1)
        if mode == 0:
            rows[key, :2] = 1, line["shuffled"]
    return rows


def read(paths):
    x, y, phrase = [], [], []
    for path in paths.split(","):
        for text in Path(path).read_text().splitlines():
            line = json.loads(text)
            x.append(features(line))
            y.append(NAMES.index(line["key"]["tonic"]) + (12 if line["key"]["mode"] == "minor" else 0))
            phrase.append(line["phrase"])
    return np.array(x), np.array(y), np.array(phrase)


def learn(x, y, share, ridge):
    """The weights of each sign are a multiple of the published profiles, which costs next to nothing, and what the
    recordings add to it, which does."""
    signs = (x.shape[2] - 2) // 24
    by_sign = x[:, :, 2:].reshape(len(x), 24, signs, 2, 12)
    x = np.concatenate([x, np.einsum("nksmd,md->nks", by_sign, PROFILES)], 2)
    pull = np.concatenate([[0.0] * 2, [ridge] * (24 * signs), [0.1] * signs])
    rows = np.arange(len(y))

    def loss(w):
        score = x @ w
        score -= score.max(1, keepdims=True)
        p = np.exp(score)
        p /= p.sum(1, keepdims=True)
        value = -(share * np.log(p[rows, y] + 1e-12)).sum() + (pull * w * w).sum() / 2
        p[rows, y] -= 1
        return value, np.einsum("i,ik,ikf->f", share, p, x) + pull * w

    w = minimize(loss, np.zeros(x.shape[2]), jac=True, method="L-BFGS-B", options={"maxiter": 500}).x
    of_profiles = w[-signs:, None, None] * PROFILES
    return np.concatenate([w[:2], w[2:-signs] + of_profiles.reshape(-1)])


def shares(phrase, of_songs):
    """Pieces of songs are many: together they weigh so much of what phrases do."""
    share = np.ones(len(phrase))
    if (~phrase).any() and phrase.any():
        share[~phrase] = of_songs * phrase.sum() / (~phrase).sum()
    return share


def judge(x, y, phrase, w, temperature=1.0):
    score = temperature * (x @ w)
    p = np.exp(score - score.max(1, keepdims=True))
    p /= p.sum(1, keepdims=True)
    told, rows = [], np.arange(len(y))
    for name, part in (("phrases", phrase), ("pieces", ~phrase)):
        if part.any():
            best = p[part].argmax(1)
            right = best == y[part]
            told.append(f"{name} {right.mean():.3f} (said {p[part].max(1).mean():.3f}, log loss {-np.log(p[rows, y][part]).mean():.3f})")
    return ", ".join(told)


def main():
    parser = argparse.ArgumentParser()
    parser.add_argument("sources", nargs="+")
    parser.add_argument("--ridge", type=float, default=3.0)
    parser.add_argument("--songs", type=float, default=1.0)
    parser.add_argument("--write", action="store_true")
    args = parser.parse_args()
    sources = {s.split("=")[0]: read(s.split("=")[1]) for s in args.sources}
    for name, (x, y, phrase) in sources.items():
        others = [sources[o] for o in sources if o != name] or [sources[name]]
        ox, oy, op = (np.concatenate([o[i] for o in others]) for i in range(3))
        print(f"{name} ({phrase.sum()} phrases, {(~phrase).sum()} pieces), learned on the other: "
              + judge(x, y, phrase, learn(ox, oy, shares(op, args.songs), args.ridge)))
    x, y, phrase = (np.concatenate([s[i] for s in sources.values()]) for i in range(3))
    w = learn(x, y, shares(phrase, args.songs), args.ridge)
    print("all, learned on all: " + judge(x, y, phrase, w))
    if args.write:
        signs = (len(w) - 2) // 24
        rows = w[2:].reshape(signs, 2, 12)
        lines = ["// SPDX-License-Identifier: GPL-3.0-or-later", "// Written by bench/fit/phrase_keys.py.", "#pragma once", "",
                 "#include <array>", "#include <cstddef>", "", "namespace ear {", "",
                 f"// Learned on {datetime.date.today()}, ridge {args.ridge:g}, songs {args.songs:g}, from " + "; ".join(
                     f"{n}: {v[2].sum()} phrases, {(~v[2]).sum()} pieces of songs" for n, v in sources.items()) + ".",
                 f"inline constexpr double kPhraseKeyMajor = {w[0]:.4f}, kPhraseKeyShuffled = {w[1]:.4f};",
                 f"inline constexpr std::array<std::array<std::array<double, 12>, 2>, {signs}> kPhraseKeyWeights = {{{{"]
        for sign in rows:
            lines.append("    {{{{" + "}},\n      {{".join(", ".join(f"{v:.4f}" for v in mode) for mode in sign) + "}}}},")
        lines[-1] = lines[-1].rstrip(",") + "}};"
        lines += ["", "}  // namespace ear", ""]
        HEADER.write_text("\n".join(lines))


if __name__ == "__main__":
    main()
