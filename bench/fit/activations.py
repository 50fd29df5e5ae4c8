#!/usr/bin/env python3
# SPDX-License-Identifier: GPL-3.0-or-later
"""Learns the note activations of guitars, and writes their weights.

A small convolutional network looks at each frame with what surrounds it (frames as activation_frames.py makes them;
harmonics stacked, after Bittner et al. 2017, "Deep salience representations for F0 estimation in polyphonic music") and
says of each semitone whether a guitar sounds it, and whether it was struck just then. Recordings are varied while it
learns: transposed, equalised, louder and softer, with noise.

Usage: activations.py --fit A.npz [B.npz ...] --judge C.npz [...] [--steps 1500] [--write WEIGHTS] [--keep MODEL.pt]
"""

import argparse
import datetime
import time
from pathlib import Path

import numpy as np
import torch
from torch import nn

from activation_frames import BINS, BINS_PER_SEMITONE, FIRST_NOTE, HOP, LOWEST, NOTES, RATE

CHECK = Path(__file__).resolve().parent.parent.parent / "tests/core/listening/frontend/guitar_activations.check"

LONG_SHIFTS = (0.5, 1, 2, 3, 4, 5, 6)  # of the middle in long windows
SIDE_SHIFTS = (1, 2, 3)
SHORT_SHIFTS = (1, 2)
MARGIN = 2  # bins on either side of the notes, for the first filters
EXCERPT, CONTEXT = 96, 6


def stacked(frames):
    """count x planes x bins from a semitone's three bins around the notes: the same bins at each harmonic."""
    first = (FIRST_NOTE - LOWEST) * BINS_PER_SEMITONE - 1 - MARGIN
    width = NOTES * BINS_PER_SEMITONE + 2 * MARGIN
    planes = []
    for source, shifts in ((0, LONG_SHIFTS), (1, SIDE_SHIFTS), (2, SHORT_SHIFTS)):
        for shift in shifts:
            at = first + round(12 * BINS_PER_SEMITONE * np.log2(shift))
            plane = frames.new_zeros(frames.shape[0], frames.shape[1], width)
            low, high = max(0, at), min(BINS, at + width)
            if high > low:
                plane[:, :, low - at:high - at] = frames[:, :, source, low:high]
            planes.append(plane)
    return torch.stack(planes, 1)  # batch x planes x frames x bins


class Network(nn.Module):
    def __init__(self, a=16, b=32, c=24):
        super().__init__()
        planes = len(LONG_SHIFTS) + len(SIDE_SHIFTS) + len(SHORT_SHIFTS)
        self.fine = nn.Conv2d(planes, a, (3, 5), padding=(1, 0))  # three bins a semitone
        self.note = nn.Conv2d(a, b, (3, 3), stride=(1, 3), padding=(1, 0))  # one
        self.time = nn.Conv2d(b, c, (5, 1), padding=(2, 0))
        self.pitch = nn.Conv2d(c, c, (1, 25), padding=(0, 12))
        self.again = nn.Conv2d(c + c, c, (3, 1), padding=(1, 0))
        self.wide = nn.Conv2d(c, c, (1, 13), padding=(0, 6))
        self.out = nn.Conv2d(b + c + c, 2, 1)

    def forward(self, x):
        x = torch.relu(self.note(torch.relu(self.fine(x))))
        t = torch.relu(self.time(x))
        p = torch.relu(self.pitch(t))
        q = torch.relu(self.again(torch.cat([t, p], 1)))
        w = torch.relu(self.wide(q))
        return self.out(torch.cat([x, p, w], 1))  # batch x 2 x frames x notes


def written(network, calibration):
    """All numbers in the order in which src/core/listening/frontend/guitar_activations.cpp reads them."""
    numbers = []

    def filters(weight):  # outputs x inputs x frames x places
        numbers.append(weight.detach().permute(2, 0, 3, 1).reshape(-1).numpy())

    def bias(layer):
        numbers.append(layer.bias.detach().numpy())

    for layer in (network.fine, network.note, network.time, network.pitch):
        filters(layer.weight), bias(layer)
    c = network.time.out_channels
    filters(network.again.weight[:, :c]), filters(network.again.weight[:, c:]), bias(network.again)
    filters(network.wide.weight), bias(network.wide)
    b = network.note.out_channels
    for part in (slice(0, b), slice(b, b + c), slice(b + c, b + 2 * c)):
        filters(network.out.weight[:, part])
    bias(network.out)
    numbers.append(np.array(calibration, np.float32).T.reshape(-1))  # slopes, then shifts
    return np.concatenate(numbers).astype("<f4")


def check(network, calibration):
    """What the program has to answer to frames made by a formula, a line for each of a few: frame, note, both."""
    t, p, b = np.meshgrid(np.arange(24), np.arange(3), np.arange(BINS), indexing="ij")
    frames = (1 + np.sin(0.37 * t + 1.3 * p + 0.11 * b)).astype(np.float32)
    with torch.no_grad():
        odds = network(stacked(torch.from_numpy(frames)[None]) / 3)[0].numpy()
    lines = ["# frame, note, log odds of sounding and struck, calibrated; of log levels 1 + sin(0.37 frame + 1.3 plane + 0.11 bin)"]
    for frame in (0, 1, 6, 12, 23):
        for note in (0, 7, 20, 41, NOTES - 1):
            both = [calibration[k][0] * odds[k, frame, note] + calibration[k][1] for k in (0, 1)]
            lines.append(f"{frame} {note} {both[0]:.5f} {both[1]:.5f}")
    return "\n".join(lines) + "\n"


def calibrated(network, recordings):
    """Slope and shift of the log odds of both answers, so that they are probabilities (Platt 1999), each recording
    weighing as much: songs are longer than phrases."""
    from sklearn.linear_model import LogisticRegression
    each = [answers(network, [r]) for r in recordings]
    found = []
    for k in range(2):
        logit, truth = (np.concatenate([e[i][k] for e in each]) for i in range(2))
        weight = np.concatenate([np.full(len(e[0][k]), 1e5 / len(e[0][k])) for e in each])
        model = LogisticRegression(C=1e6).fit(logit[:, None], truth, weight)
        found.append((model.coef_[0, 0], model.intercept_[0]))
    return found


def read(paths):
    recordings = []
    for path in paths:
        z = np.load(path)
        frames, sounding, struck, first = z["frames"], z["sounding"], z["struck"], z["first"]
        for i, name in enumerate(z["names"]):
            s = slice(first[i], first[i + 1])
            recordings.append((str(name), frames[s], sounding[s], struck[s]))
    return recordings


def excerpt(recording, random):
    """A varied piece of it."""
    _, frames, sounding, struck = recording
    at = random.integers(0, max(1, len(frames) - EXCERPT + 1))
    x = frames[at:at + EXCERPT].astype(np.float32)
    y = np.stack([sounding[at:at + EXCERPT], struck[at:at + EXCERPT]]).astype(np.int8)
    if len(x) < EXCERPT:
        more = EXCERPT - len(x)
        x = np.pad(x, ((0, more), (0, 0), (0, 0)))
        y = np.pad(y, ((0, 0), (0, more), (0, 0)), constant_values=-1)
    by = int(random.integers(-5, 6))
    if by:
        x = np.roll(x, 3 * by, 2)
        y = np.roll(y, by, 2)
        edge = slice(0, by) if by > 0 else slice(by, None)
        x[:, :, slice(0, 3 * by) if by > 0 else slice(3 * by, None)] = 0
        y[:, :, edge] = -1
    x = np.expm1(x)
    # A gentle equalisation, another level, sides narrower or wider, noise.
    knots = random.normal(0, 0.35, 7)
    curve = np.exp(np.interp(np.linspace(0, 6, BINS), np.arange(7), knots) + random.normal(0, 0.4))
    x *= curve.astype(np.float32)
    x[:, 1] *= np.float32(np.exp(random.normal(0, 0.3)) if random.random() > 0.15 else 0.0)
    noise = np.exp(random.normal(-3.2, 1.0))
    x += np.abs(random.standard_normal((x.shape[0], x.shape[1], BINS), dtype=np.float32)) * np.float32(noise)
    return np.log1p(x), y


def answers(network, recordings):
    """Log odds and truths of all frames and notes of which the truth is known, for both answers."""
    logits, truths = [[], []], [[], []]
    network.eval()
    with torch.no_grad():
        for _, frames, sounding, struck in recordings:
            out = network(stacked(torch.from_numpy(frames.astype(np.float32))[None]) / 3)[0].numpy()
            for k, truth in enumerate((sounding, struck)):
                known = truth >= 0
                logits[k].append(out[k][known]), truths[k].append(truth[known] > 0)
    network.train()
    return [np.concatenate(x) for x in logits], [np.concatenate(x) for x in truths]


def judge(network, recordings):
    """F of frames and of strikes (within a frame), at the threshold 0.5 and at the best one of the set."""
    found = answers(network, recordings)
    told = []
    for k in range(2):
        p, t = found[0][k], found[1][k]

        def f(threshold):
            said = p > threshold
            hit = np.count_nonzero(said & t)
            return 2 * hit / max(1, np.count_nonzero(said) + np.count_nonzero(t))

        best = max((f(th), th) for th in np.arange(-3, 3.1, 0.25))
        told.append((f(0.0), *best))
    return told


def main():
    parser = argparse.ArgumentParser()
    parser.add_argument("--fit", nargs="+", required=True)
    parser.add_argument("--judge", nargs="*", default=[])
    parser.add_argument("--steps", type=int, default=1500)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--keep")
    parser.add_argument("--from", dest="start", help="a model that was kept, learned from already")
    parser.add_argument("--calibrate", nargs="*", default=[], help="recordings that nothing was learned from")
    parser.add_argument("--write", help="where the weights go")
    parser.add_argument("--threads", type=int, default=1)
    args = parser.parse_args()
    torch.manual_seed(args.seed), torch.set_num_threads(args.threads)
    random = np.random.default_rng(args.seed)
    recordings = read(args.fit)
    # Half of the excerpts by length, half by recording, so that short phrases have their say.
    lengths = np.array([len(r[1]) for r in recordings], float)
    share = 0.5 * lengths / lengths.sum() + 0.5 / len(recordings)
    network = Network()
    kept = {"steps": args.steps, "seed": args.seed}
    if args.start:
        kept = torch.load(args.start)
        network.load_state_dict(kept["weights"])
    print(f"{sum(p.numel() for p in network.parameters())} weights, {len(recordings)} recordings", flush=True)
    optimiser = torch.optim.AdamW(network.parameters(), lr=2e-3, weight_decay=1e-3)
    plan = torch.optim.lr_scheduler.OneCycleLR(optimiser, 3e-3, total_steps=max(1, args.steps), pct_start=0.1)
    loss_of = nn.BCEWithLogitsLoss(reduction="none", pos_weight=torch.tensor([1.5, 3.0]).view(2, 1, 1))
    began, seen = time.time(), 0.0
    for step in range(1, args.steps + 1):
        pieces = [excerpt(recordings[random.choice(len(recordings), p=share)], random) for _ in range(8)]
        x = stacked(torch.from_numpy(np.stack([p[0] for p in pieces]))) / 3
        y = torch.from_numpy(np.stack([p[1] for p in pieces]))
        known = (y >= 0).float()
        loss = (loss_of(network(x), y.clamp(min=0).float()) * known)[:, :, CONTEXT:-CONTEXT].sum() / known[:, :, CONTEXT:-CONTEXT].sum()
        optimiser.zero_grad(), loss.backward(), optimiser.step(), plan.step()
        seen += loss.item()
        if step % 100 == 0 or step == args.steps:
            print(f"step {step}, {time.time() - began:.0f} s, loss {seen / 100:.4f}", flush=True)
            seen = 0.0
            if args.keep:
                torch.save(dict(kept, weights=network.state_dict()), args.keep)
    if args.write:
        calibration = calibrated(network, read(args.calibrate)) if args.calibrate else [(1.0, 0.0)] * 2
        written(network, calibration).tofile(args.write)
        CHECK.write_text(check(network, calibration))
        Path(args.write).with_suffix(".txt").write_text(
            f"Learned by bench/fit/activations.py on {datetime.date.today()}, seed {kept['seed']}, {kept['steps']} steps, from {len(recordings)} recordings of "
            f"{lengths.sum() * HOP / RATE / 60:.0f} minutes:\n" + "".join(f"{Path(p).stem}\n" for p in args.fit)
            + "calibrated on:\n" + "".join(f"{Path(p).stem}\n" for p in args.calibrate)
            + f"log odds times {calibration[0][0]:.3f} plus {calibration[0][1]:.3f} (sounding), {calibration[1][0]:.3f} plus {calibration[1][1]:.3f} (struck)\n")
    for path in args.judge:
        told = judge(network, read([path]))
        print(path, " ".join(f"{w} F {a:.3f} at 0.5, {b:.3f} at best ({c:+.2f})"
                             for w, (a, b, c) in zip(("sounding", "struck"), told)), flush=True)


if __name__ == "__main__":
    main()
