#!/usr/bin/env python3
# SPDX-License-Identifier: GPL-3.0-or-later
"""Renders the two demo recordings and their truth: make_demo.py [OUT_DIR].

Needs fluidsynth, fluid-soundfont-gm, ffmpeg and numpy (group `demo` of packages.txt).
truth.json of a take: see docs/demo.md.
"""

import json
import sys
from dataclasses import dataclass
from pathlib import Path
from random import Random

import numpy as np

import render
import song


@dataclass
class Take:
    """How one take differs from the other."""
    name: str
    tempo: float
    drift: float      # greatest deviation of the tempo, as a share
    lead_in: float    # seconds before the first beat
    semitones: int    # of all strings against standard tuning
    cents: float      # of the whole recording
    solo: list
    count_in: bool
    room_s: float
    wet: float
    noise_db: float | None
    seed: int


TAKES = [
    Take("studio", 104, 0.0, 0.35, -1, 12.0, [song.SOLO_A, song.SOLO_B], False, 1.1, 0.10, None, 11),
    Take("live", 110, 0.015, 1.2, 0, 4.0, [song.SOLO_A, song.SOLO_B, song.SOLO_C, song.SOLO_B], True, 1.9, 0.24, -58, 23),
]


def clock_of(take, beats):
    """Beat -> seconds."""
    place = np.arange(beats + 40)
    lengths = 60 / take.tempo / (1 + take.drift * np.sin(2 * np.pi * place / 61) * np.cos(2 * np.pi * place / 37))
    times = take.lead_in + np.concatenate([[0], np.cumsum(lengths)])
    return lambda beat: float(np.interp(beat, np.arange(len(times)), times))


def mix(take, parts, clock, seconds):
    """The finished stereo sound."""
    random = Random(take.seed)
    player = render.Player(clock, take.semitones, take.cents, random)
    hot = [n for n in parts["right"] if n.velocity > 95 or n.technique == "bend"]
    clean = [n for n in parts["right"] if not (n.velocity > 95 or n.technique == "bend")]
    sound = render.pan(player.part(parts["left"], 25, seconds), -0.62) * 1.0
    sound += render.pan(player.part(clean, 27, seconds), 0.62) * 0.95
    lead = player.part(hot, 27, seconds, loose=0.002)
    sound += render.pan(render.overdrive(lead, 9.0), 0.34) * 0.085
    sound += render.pan(player.part(parts["bass"], 33, seconds), 0.0) * 0.85
    sound += render.pan(player.part(parts["tune"], 71, seconds, loose=0.008), 0.06) * 0.8
    sound += player.drums(parts["drums"], seconds) * 0.85
    sound = render.room(sound, take.room_s, take.wet, take.seed)
    sound = render.master(sound)
    if take.noise_db is not None:
        hiss = np.random.default_rng(take.seed).standard_normal(sound.shape)
        sound += 10 ** (take.noise_db / 20) * hiss
    return sound


def truth_of(take, parts, sections, chords, clock, seconds):
    """What is known about the take."""
    beats = int(sections[-1][1] + 4 * sections[-1][2])
    times = [clock(b) for b in range(beats)]
    marks = [(label, 0.0 if k == 0 else clock(beat)) for k, (label, beat, _) in enumerate(sections)]
    ends = [t for _, t in marks[1:]] + [seconds]
    labels, spans = [], [(0.0, "N")]
    for beat, _, shape in chords:
        spans.append((clock(beat), song.harte(shape, take.semitones) if shape else "N"))
    for (start, label), end in zip(spans, [t for t, _ in spans[1:]] + [seconds]):
        if labels and labels[-1]["label"] == label:
            labels[-1]["end_s"] = end
        elif end > start:
            labels.append({"start_s": start, "end_s": end, "label": label})
    tuning = [f"{song.NAMES[(p + take.semitones) % 12]}{(p + take.semitones) // 12 - 1}"
              for _, p in sorted(song.STANDARD.items(), reverse=True)]
    notes = []
    for number, part in enumerate(("left", "right")):
        for n in parts[part]:
            note = {"guitar": number, "start_s": clock(n.beat), "end_s": clock(n.beat + n.beats),
                    "midi": n.pitch + take.semitones, "string": n.string, "fret": n.fret, "technique": n.technique}
            if n.technique == "bend":
                note["bend_cents"] = max(c for _, c in n.curve)
            notes.append(note)
    notes.sort(key=lambda n: (n["start_s"], n["guitar"], -n["string"]))
    return {
        "id": take.name, "duration_s": seconds, "reference_cents": take.cents,
        "key": {"tonic": song.NAMES[(4 + take.semitones) % 12], "mode": "minor"},
        "tempo_bpm": 60 / float(np.median(np.diff(times))), "meter": 4, "swing": 1.0,
        "beats": times, "downbeats": times[::4],
        "sections": [{"start_s": s, "end_s": e, "label": label} for (label, s), e in zip(marks, ends)],
        "chords": labels,
        "guitars": [{"name": "left steel-string", "tuning": tuning, "capo": 0, "pan": -0.62},
                    {"name": "right electric", "tuning": tuning, "capo": 0, "pan": 0.62}],
        "notes": notes,
    }


def tidy(value):
    """Rounds all numbers for the file."""
    if isinstance(value, dict):
        return {k: tidy(v) for k, v in value.items()}
    if isinstance(value, list):
        return [tidy(v) for v in value]
    return round(value, 4) if isinstance(value, float) else value


def main():
    folder = Path(sys.argv[1] if len(sys.argv) > 1 else Path(__file__).parent)
    for take in TAKES:
        parts, sections, chords = song.arrange(take.seed, take.solo, take.count_in)
        clock = clock_of(take, sections[-1][1] + 4 * sections[-1][2])
        seconds = clock(sections[-1][1] + 4 * sections[-1][2]) + 2.2
        render.write_ogg(folder / f"{take.name}.ogg", mix(take, parts, clock, seconds), 5)
        truth = tidy(truth_of(take, parts, sections, chords, clock, seconds))
        (folder / f"{take.name}.truth.json").write_text(json.dumps(truth, separators=(",", ":")) + "\n")
        print(f"{take.name}: {seconds:.1f} s")


if __name__ == "__main__":
    main()
