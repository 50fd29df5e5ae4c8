#!/usr/bin/env python3
# SPDX-License-Identifier: GPL-3.0-or-later
"""Learns how much each sign of a guitar's tuning and capo weighs; the weights are parameters of
src/core/listening/guitar/guitar_setup.cpp.

A conditional logistic regression (McFadden 1974, "Conditional logit analysis of qualitative choice behavior") over all
setups, in which how usual a setup is stands as it is in setup_prior.cpp. Where a source's recordings are tuned as
guitars never are in life, its tunings and capos get free terms besides, which are not kept. Each source is judged with weights learned on the other one. Usage: setups.py NAME=SIGNS[,SIGNS...] NAME=SIGNS [--odd NAME],
SIGNS being what setup-signs printed.
"""

import argparse
import json
from pathlib import Path

import numpy as np
from scipy.optimize import minimize

SIGNS = ("grips", "ease", "held")
CAPOS = 8  # 0 to 7, of each tuning


def read(paths):
    lines = [json.loads(text) for path in paths.split(",") for text in Path(path).read_text().splitlines()]
    signs = np.array([line["setups"] for line in lines])  # recordings x setups x (signs, prior)
    return signs[..., :3], signs[..., 3], np.array([line["right"] for line in lines])


def learn(sources, odd, ridge=1):
    scale = np.concatenate([x for x, _, _ in sources.values()]).reshape(-1, 3).std(0)
    setups = next(iter(sources.values()))[1].shape[1]
    # Of each setup its tuning and its capo.
    kinds = np.zeros((setups, setups // CAPOS + CAPOS))
    kinds[np.arange(setups), np.arange(setups) // CAPOS] = 1
    kinds[np.arange(setups), setups // CAPOS + np.arange(setups) % CAPOS] = 1

    def loss(w):
        value, slope = (ridge * w[3:] ** 2).sum() / 2, np.concatenate([np.zeros(3), ridge * w[3:]])
        for name, (x, prior, right) in sources.items():
            rows = np.arange(len(right))
            score = (x / scale) @ w[:3] + prior + (kinds @ w[3:] if name == odd else 0)
            score -= score.max(1, keepdims=True)
            p = np.exp(score)
            p /= p.sum(1, keepdims=True)
            value -= np.log(p[rows, right] + 1e-300).sum()
            p[rows, right] -= 1
            slope[:3] += np.einsum("ik,ikf->f", p, x / scale)
            if name == odd:
                slope[3:] += p.sum(0) @ kinds
        return value, slope

    w = minimize(loss, np.zeros(3 + kinds.shape[1]), jac=True, method="L-BFGS-B").x
    return w[:3] / scale


def judge(x, prior, right, w):
    score = x @ w + prior
    p = np.exp(score - score.max(1, keepdims=True))
    p /= p.sum(1, keepdims=True)
    order, rows = np.argsort(-p, 1), np.arange(len(right))
    first = order[:, 0] == right
    three = (order[:, :3] == right[:, None]).any(1)
    said = p[rows, order[:, 0]]
    return (f"{len(right)} recordings, first {first.mean():.2f}, of three {three.mean():.2f}, "
            f"said {said.mean():.2f}, Brier {((said - first) ** 2).mean():.3f}, log loss {-np.log(p[rows, right]).mean():.2f}")


def main():
    parser = argparse.ArgumentParser()
    parser.add_argument("sources", nargs="+")
    parser.add_argument("--odd", help="the source whose guitars are tuned as they never are in life")
    args = parser.parse_args()
    sources = {s.split("=")[0]: read(s.split("=")[1]) for s in args.sources}
    for name, source in sources.items():
        others = {n: s for n, s in sources.items() if n != name} or sources
        print(f"{name}, learned on the other: {judge(*source, learn(others, args.odd))}")
    w = learn(sources, args.odd)
    print("weights: " + ", ".join(f"{sign} {v:.3f}" for sign, v in zip(SIGNS, w)))
    for name, source in sources.items():
        print(f"{name}, learned on all: {judge(*source, w)}")


if __name__ == "__main__":
    main()
