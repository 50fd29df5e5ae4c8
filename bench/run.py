#!/usr/bin/env python3
# SPDX-License-Identifier: GPL-3.0-or-later
"""Measures speed and accuracy of the release build and writes the measured part of bench/RESULTS.md.

What stands in RESULTS.md under "Notes" is kept. Accuracy is measured with the development recordings of
../shared/corpus where that folder exists; it is left out elsewhere.
"""

import argparse
import datetime
import json
import os
import subprocess
import sys
import time
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
BIN = ROOT / "build/release/bin"
CORPUS = ROOT.parent / "shared/corpus"
WORK = ROOT / "build/bench"
RESULTS = ROOT / "bench/RESULTS.md"
NOTES = "## Notes\n"


def run(*command, **more):
    return subprocess.run([str(c) for c in command], check=True, capture_output=True, text=True, **more).stdout


def speed():
    """Counters of the speed program by benchmark name."""
    report = json.loads(run(BIN / "speed", "--benchmark_format=json"))
    return {b["name"].removesuffix("/real_time").split("/min_time")[0]: b for b in report["benchmarks"]}


def measured_process(*command, env=None):
    """(seconds, peak MB) of a process."""
    start = time.monotonic()
    child = subprocess.Popen([str(c) for c in command], stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL, env=env)
    _, status, usage = os.wait4(child.pid, 0)
    if status != 0:
        sys.exit(f"{command} failed")
    return time.monotonic() - start, usage.ru_maxrss / 1024


def repeated_demo(seconds):
    """A stereo file of that length made of the demo take."""
    file = WORK / f"{seconds}s.flac"
    if not file.exists():
        run("ffmpeg", "-v", "error", "-stream_loop", "-1", "-i", ROOT / "demo/studio.ogg", "-t", str(seconds), file)
    return file


def speed_rows():
    rows = []
    counters = speed()
    for length, name in ((116, "studio take (1:56)"), (240, "4 minutes"), (600, "10 minutes")):
        b = counters[f"listen/{length}"]
        rows.append((f"listening, {name}", f"{b['times_real']:.0f} x real time", ">= 30 x (4 minutes)" if length == 240 else ""))
        if length == 240:
            rows.append(("first tile after decoding, 4 minutes", f"{b['first_tile_s']:.2f} s", "<= 2 s"))
    rows.append(("decoding the studio take (Vorbis)", f"{counters['decodeDemo']['times_real']:.0f} x real time", ""))
    for seconds in (240, 600):
        took, peak = measured_process(BIN / "inner-ear-cli", "analyze", repeated_demo(seconds))
        rows.append((f"`analyze`, {seconds // 60} minutes, FLAC to JSON", f"{took:.1f} s = {seconds / took:.0f} x real time, peak {peak:.0f} MB",
                     "30 x, < 600 MB" if seconds == 240 else ""))
    for name, b in counters.items():
        if name.startswith("play/"):
            percent, cents = name.split("/")[1:3]
            rows.append((f"playing at {percent} %, {int(cents):+d} cents", f"{100 * b['core_share']:.1f} % of a core", "< 35 %"))
    env = dict(os.environ, QT_QPA_PLATFORM="offscreen")
    times = sorted(measured_process(BIN / "inner-ear", "--demo", "--simulated-output", "--quit-when-shown", env=env)[0] for _ in range(5))
    rows.append(("window up with the demo study, process start to end", f"{times[2]:.2f} s (median of 5)", "<= 1.5 s"))
    return rows


def desk_rows():
    """The listening desk: truth of pitch and length, smear beside the stretcher's own command, answer, cost, an hour."""
    plucks, half = WORK / "plucks.wav", WORK / "plucks-half.wav"
    run(BIN / "desk", "--plucks", plucks)
    run("rubberband", "-q", "-3", "-t2", plucks, half)
    d = json.loads(run(BIN / "desk", ROOT / "demo/studio.ogg", half))
    offscreen = dict(os.environ, QT_QPA_PLATFORM="offscreen")
    took, peak = measured_process(BIN / "inner-ear", "--simulated-output", "--quit-when-shown", repeated_demo(7200), env=offscreen)
    s = json.loads(run(BIN / "screen", repeated_demo(7200), env=offscreen))
    e = json.loads(run(BIN / "edits"))
    w = json.loads(run(BIN / "writing", ROOT / "demo/studio.ogg"))
    p = json.loads(run(BIN / "sheet", ROOT / "demo/copper-weather.innerear", WORK / "sheet.pdf", env=offscreen))
    frames = lambda m: f"{m['median_ms']:.1f}, {m['p99_ms']:.1f}, {m['worst_ms']:.1f} ms; {100 * m['late_share']:.1f} % late"
    return [
        ("steady tone, worst of 8 speeds x 7 shifts", f"{d['steady_tone_cents']:.3f} cents off", "<= 2"),
        ("length of a repetition, worst of 5 speeds", f"{d['loop_length_samples']:.1f} samples off", "<= 1"),
        ("rise of 38 attacks at 50 %: ours, the stretcher's command", f"{d['onset_rise_ms']:.1f} ms, {d['onset_rise_rubberband_ms']:.1f} ms", "no worse"),
        ("key press to sound, simulated device: median, worst of 20", f"{d['key_to_sound_ms'][0]:.0f} ms, {d['key_to_sound_ms'][1]:.0f} ms", "< 60 ms"),
        ("60 %, -12 cents: whole; four isolations, limiter and level", f"{100 * d['plain_core']:.0f} %; {100 * d['isolated_core']:.0f} % of a core", "< 60 %"),
        ("an hour of looping at 100 %: samples that differ between repetitions", f"{d['hour_wrong_samples']}, heap grew by {d['hour_heap_growth_bytes']} bytes", "0"),
        ("ten minutes at 50 %: repetitions", f"{d['slow_repetitions']} of {d['slow_repetitions_wanted']:.1f}, heap grew by {d['slow_heap_growth_bytes']} bytes", ""),
        ("pitch map, columns a second on one thread", f"{d['pitch_columns_per_s']:.0f}", ""),
        ("2 hours: opened, listened to, window up", f"{took:.0f} s, peak {peak:.0f} MB", "< 1200 MB"),
        ("2 hours: map on the screen; sound there; all known, while zooming", f"{s['map_s']:.1f} s; {s['sound_s']:.0f} s; {s['listened_s']:.0f} s", "map 3 s"),
        ("2 hours, a frame (median, 99 of 100, worst): zoom from all to 0.1 s and back", frames(s["zoom"]), "16.7 ms"),
        ("the same while it is listened to", frames(s["zoom_while_listening"]), "16.7 ms"),
        ("scrolling, 10 s in the window", frames(s["scroll_10s"]), "16.7 ms"),
        ("scrolling, 10 min in the window", frames(s["scroll_10min"]), "16.7 ms"),
        ("playing, 4 s in the window", frames(s["play"]), "16.7 ms"),
        ("an edit of a two-hour study: median, worst of 500", f"{e['edit_ms_median']:.2f}, {e['edit_ms_worst']:.2f} ms", "< 5 ms"),
        ("a key press while a phrase of 400 notes is written: all of its arithmetic and engraving, median, worst", f"{w['key_press_ms_median']:.1f}, {w['key_press_ms_worst']:.1f} ms", "< 10 ms"),
        ("sheet of 48 bars with 12 phrases: laid out, median and worst of 9; as PDF", f"{p['layout_ms']:.0f}, {p['worst_ms']:.0f} ms; {p['pdf_ms']:.0f} ms, {p['pages']} pages, {p['pdf_kb']:.0f} kB", "< 300 ms, < 500 kB"),
        ("check by ear of ten seconds, isolated", f"{w['ear_check_ms'] / 1000:.2f} s", "< 1 s"),
        ("what undo of those 500 keeps", f"{e['undo_500_mb']:.1f} MB", "<= 30 MB"),
    ]


def survival_rows():
    """Damaged files: how many were tried and opened, what was lost, the longest one took."""
    found = json.loads(run(BIN / "survival"))
    names = {"random_studies": "random damage to the demo study", "truncations": "the demo study cut at every byte", "label_files": "random lists of times"}
    return [(names[k], f"{v['tried']} tried, {v['opened']} opened, {v['lost']} lost, the longest {v['worst_ms']:.0f} ms", "0 lost, < 2 s") for k, v in found.items()]


def corpus(songs, licks, seed):
    """Folder of made recordings, made once."""
    folder = WORK / f"corpus-{seed}-{songs}-{licks}"
    if not (folder / "done").exists():
        run("/usr/bin/python3", CORPUS / "make_corpus.py", "--out", folder, "--songs", songs, "--licks", licks, "--seed", seed, "--jobs", os.cpu_count())
        (folder / "done").touch()
    return folder


def analyse(folder):
    reports = WORK / f"reports-{folder.name}"
    reports.mkdir(exist_ok=True)
    for truth in sorted(folder.glob("*/truth.json")):
        report = run(BIN / "inner-ear-cli", "analyze", truth.parent / "mix.flac")
        (reports / f"{truth.parent.name}.json").write_text(report)
    return reports


def accuracy(songs, licks, seed):
    """Text table of score.py for songs and for licks."""
    folder = corpus(songs, licks, seed)
    return run("/usr/bin/python3", CORPUS / "score.py", folder, analyse(folder))


def second_opinions(songs, licks, seed):
    """Rows of measures by our own code, ours beside two libraries', in one run."""
    found = json.loads(run(BIN / "second-opinions", corpus(songs, licks, seed)))
    cell = lambda m, who: f"{m[who]:.3f}" if who in m else ""
    return [f"| {name} | {cell(m, 'ours')} | {cell(m, 'aubio')} | {cell(m, 'qm-dsp')} |" for name, m in found.items()]


def checked_lines(licks, seed):
    """The true lines confirmed; one wrong fret, one wrong bend found; nothing lost between the ear and the page."""
    found = json.loads(run(BIN / "ear-check", corpus(0, licks, seed)))
    return [f"| notes of the true line confirmed, of {found['notes']} | {found['confirmed']:.3f} | >= 0.92 |",
            f"| wrong frets found, of {found['wrong_frets']} | {found['wrong_frets_found']:.3f} | >= 0.90 |",
            f"| bends a semitone wrong found, of {found['bends']} | {found['wrong_bends_found']:.3f} | >= 0.90 |",
            f"| notes heard that are suggested | {found['suggested_of_heard']:.3f} | 1 |"]


def main():
    parser = argparse.ArgumentParser()
    parser.add_argument("--songs", type=int, default=24)
    parser.add_argument("--licks", type=int, default=24)
    parser.add_argument("--seed", type=int, default=9203)
    parser.add_argument("--no-speed", action="store_true")
    args = parser.parse_args()
    WORK.mkdir(parents=True, exist_ok=True)
    commit = run("git", "-C", ROOT, "rev-parse", "--short", "HEAD").strip()
    dirty = " with changes" if run("git", "-C", ROOT, "status", "--porcelain", "--", "src", "demo", "CMakeLists.txt").strip() else ""
    text = [f"# Results\n\nMeasured {datetime.date.today()} on commit {commit}{dirty}, {os.cpu_count()} cores, by `./inner-ear bench`.\n"]
    if not args.no_speed:
        text.append("## Speed\n\n| what | measured | wanted |\n| --- | --- | --- |")
        text += [f"| {a} | {b} | {c} |" for a, b, c in speed_rows()]
        text.append("\n## Listening desk\n\n| what | measured | wanted |\n| --- | --- | --- |")
        text += [f"| {a} | {b} | {c} |" for a, b, c in desk_rows()]
        text.append("\n## Damaged files\n\n| what | measured | wanted |\n| --- | --- | --- |")
        text += [f"| {a} | {b} | {c} |" for a, b, c in survival_rows()]
    if CORPUS.exists():
        text.append(f"\n## Accuracy\n\n{args.songs} songs and {args.licks} licks made with seed {args.seed}, scored by the corpus' own scorer.\n")
        if args.songs:
            text.append("Songs:\n\n```\n" + accuracy(args.songs, 0, args.seed) + "```\n")
            text.append("Second opinions on the songs, by `bench/measures.h`, in one run:\n\n| measure | Inner Ear | aubio | QM DSP |\n| --- | --- | --- | --- |")
            text += second_opinions(args.songs, 0, args.seed) + [""]
        if args.licks:
            text.append("Licks:\n\n```\n" + accuracy(0, args.licks, args.seed) + "```\n")
            text.append("Notes of the licks, by `bench/measures.h`:\n\n| measure | Inner Ear | | |\n| --- | --- | --- | --- |")
            text += second_opinions(0, args.licks, args.seed) + [""]
            text.append("Written lines of the licks checked by ear:\n\n| what | measured | wanted |\n| --- | --- | --- |")
            text += checked_lines(args.licks, args.seed) + [""]
    old = RESULTS.read_text() if RESULTS.exists() else NOTES
    RESULTS.write_text("\n".join(text) + "\n" + old[old.index(NOTES):])
    print("\n".join(text))


if __name__ == "__main__":
    main()
