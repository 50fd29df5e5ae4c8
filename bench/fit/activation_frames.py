#!/usr/bin/env python3
# SPDX-License-Identifier: GPL-3.0-or-later
"""Frames and labels that the note activations of guitars are learned from.

Frames are those of src/core/listening/frontend/guitar_frames.h, made here a second time so that whole sets of
recordings can be varied while they are learned from. Usage: activation_frames.py FOLDER OUT.npz, where FOLDER holds
recordings as the corpora make them (*/mix.flac and */truth.json).
"""

import json
import subprocess
import sys
from pathlib import Path

import numpy as np

RATE, HOP, LONG, SHORT = 22050, 1024, 8192, 2048
LOWEST, HIGHEST, BINS_PER_SEMITONE = 24, 120, 3
BINS = (HIGHEST - LOWEST) * BINS_PER_SEMITONE + 1
FIRST_NOTE, NOTES = 36, 53  # C2 to E6
GAIN = 3.0


def decode(path):
    raw = subprocess.run(["ffmpeg", "-v", "error", "-i", str(path), "-f", "f32le", "-ac", "2", "-ar", str(RATE), "-"],
                         check=True, capture_output=True).stdout
    return np.frombuffer(raw, np.float32).reshape(-1, 2).T


def bands(window, cents):
    """Triangles on the bins of a transform: a third of a semitone to either side, and at least one bin."""
    freq = np.arange(window // 2 + 1) * RATE / window
    middle = 440 * 2 ** ((LOWEST + np.arange(BINS) / BINS_PER_SEMITONE - 69) / 12 + cents / 1200)
    half = np.maximum(middle * (2 ** (1 / 36) - 1), RATE / window)
    return np.maximum(0, 1 - np.abs(freq[None, :] - middle[:, None]) / half[:, None]).astype(np.float32)


def magnitudes(x, window, count):
    """Of Hann windows around each frame's middle, as amplitudes of sinusoids."""
    hann = np.hanning(window + 1)[:-1].astype(np.float32)
    padded = np.pad(x, (window // 2, window + HOP))
    found = np.empty((count, window // 2 + 1), np.float32)
    for i in range(0, count, 256):
        n = min(256, count - i)
        rows = np.stack([padded[k * HOP:k * HOP + window] for k in range(i, i + n)])
        found[i:i + n] = np.abs(np.fft.rfft(rows * hann, axis=1)) * (2 / hann.sum())
    return found


def frames_of(stereo, cents):
    """count x 3 x BINS: the middle in long windows, the sides in long ones, the middle in short ones."""
    middle, side = (stereo[0] + stereo[1]) / 2, (stereo[0] - stereo[1]) / 2
    count = len(middle) // HOP + 1
    long, short = bands(LONG, cents), bands(SHORT, cents)
    planes = np.stack([magnitudes(middle, LONG, count) @ long.T, magnitudes(side, LONG, count) @ long.T,
                       magnitudes(middle, SHORT, count) @ short.T], axis=1)
    return np.log1p(GAIN * planes / max(planes[:, 0].mean(), 1e-9))


MOVING = 0.35  # seconds that a bend moves for at the most, where the truth does not say how long


def pitches_of(note):
    """(from, to, semitone or None) in seconds: what a note sounds; None stands for what cannot be said, as while it is
    bent between semitones."""
    start, end, midi = note["start_s"], note["end_s"], note["midi"]
    size = abs(note.get("bend_cents", 0)) / 100
    if note["technique"] not in ("bend", "release") or size <= 0.3:
        return [(start, end, round(midi))]
    there = midi + (size if note["technique"] == "bend" else -size)
    moves = note.get("bend_start_s", start), min(end, note.get("bend_end_s", start + MOVING))
    settled = round(there) if abs(there - round(there)) < 0.3 else None
    return [(start, moves[0], round(midi)), (*moves, None), (moves[1], end, settled)]


def labels_of(truth, count):
    """count x NOTES twice: sounding and struck; 0, 1, or -1 where it cannot be said, as in the middle of a bend."""
    sounding, struck = np.zeros((count, NOTES), np.int8), np.zeros((count, NOTES), np.int8)
    frame = RATE / HOP
    doubtful = []
    for n in truth["notes"]:
        size = abs(n.get("bend_cents", 0)) / 100
        low = round(n["midi"] - (size if n["technique"] == "release" else 0)) - FIRST_NOTE
        for first, last, midi in pitches_of(n):
            rows = slice(*(max(0, int(np.ceil(t * frame))) for t in (first, last)))
            if midi is None:
                doubtful.append((rows, max(0, low), max(0, min(NOTES, low + round(size) + 1))))
            elif 0 <= midi - FIRST_NOTE < NOTES:
                sounding[rows, midi - FIRST_NOTE] = 1
        note, at = round(n["midi"]) - FIRST_NOTE, int(round(n["start_s"] * frame))
        if 0 <= note < NOTES and n["technique"] != "release" and at < count:
            struck[at, note] = 1
            for k in (at - 1, at + 1):
                if 0 <= k < count and struck[k, note] == 0:
                    struck[k, note] = -1
    for rows, low, high in doubtful:
        part = sounding[rows, low:high]
        part[part == 0] = -1
    return sounding, struck


def main(folder, out):
    frames, sounding, struck, first, names = [], [], [], [0], []
    for path in sorted(Path(folder).rglob("truth.json")):
        truth = json.loads(path.read_text())
        one = frames_of(decode(path.with_name("mix.flac")), truth["reference_cents"])
        labels = labels_of(truth, len(one))
        frames.append(one.astype(np.float16)), sounding.append(labels[0]), struck.append(labels[1])
        first.append(first[-1] + len(one)), names.append(truth["id"])
    np.savez(out, frames=np.concatenate(frames), sounding=np.concatenate(sounding), struck=np.concatenate(struck),
             first=np.array(first), names=np.array(names))
    print(f"{out}: {len(names)} recordings, {first[-1]} frames, {np.concatenate(sounding).clip(0).sum(1).mean():.2f} notes a frame")


if __name__ == "__main__":
    main(*sys.argv[1:])
