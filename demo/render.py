# SPDX-License-Identifier: GPL-3.0-or-later
"""From the parts of a song to sound: MIDI files, FluidSynth with the FluidR3 font, and a small mixing desk."""

import struct
import subprocess
import tempfile
import wave
from pathlib import Path

import numpy as np

RATE = 44100
FONT = "/usr/share/sounds/sf2/FluidR3_GM.sf2"
TICKS = 960  # a second: 480 a quarter note at 120 a minute, the default of a MIDI file
BEND_RANGE = 12  # semitones
DRUMS = 9


def _variable(number):
    out = [number & 127]
    while number := number >> 7:
        out.insert(0, number & 127 | 128)
    return bytes(out)


def write_midi(path, events):
    """events: [(seconds, bytes)], in any order."""
    track, now = b"", 0
    for seconds, message in sorted(events, key=lambda e: e[0]):
        tick = round(seconds * TICKS)
        track += _variable(tick - now) + message
        now = tick
    track += b"\x00\xff\x2f\x00"
    path.write_bytes(b"MThd" + struct.pack(">IHHH", 6, 0, 1, 480) + b"MTrk" + struct.pack(">I", len(track)) + track)


def _setup(channel, program):
    """Program and pitch bend range of a channel."""
    control = 0xB0 | channel
    return [(0, bytes([0xC0 | channel, program])), (0, bytes([control, 101, 0])), (0, bytes([control, 100, 0])),
            (0, bytes([control, 6, BEND_RANGE])), (0, bytes([control, 38, 0]))]


def _bend(channel, cents):
    value = int(np.clip(round(8192 + cents / (100 * BEND_RANGE) * 8192), 0, 16383))
    return bytes([0xE0 | channel, value & 127, value >> 7])


def synthesise(events, seconds):
    """Dry stereo sound of MIDI events, float64 (samples, 2)."""
    with tempfile.TemporaryDirectory() as folder:
        score, sound = Path(folder) / "part.mid", Path(folder) / "part.wav"
        write_midi(score, events + [(seconds, bytes([0xB0, 7, 100]))])
        subprocess.run(["fluidsynth", "-ni", "-q", "-R", "0", "-C", "0", "-g", "0.5", "-r", str(RATE), "-T", "wav",
                        "-F", str(sound), FONT, str(score)], check=True, stdout=subprocess.DEVNULL)
        with wave.open(str(sound)) as file:
            data = np.frombuffer(file.readframes(file.getnframes()), np.int16).reshape(-1, 2) / 32768
    out = np.zeros((int(seconds * RATE), 2))
    size = min(len(out), len(data))
    out[:size] = data[:size]
    return out


def sample_offsets(program, keys):
    """Cents by which the font's samples miss equal temperament, measured key by key: {key: cents}."""
    keys = sorted(keys)
    events = _setup(0, program)
    for k, key in enumerate(keys):
        events += [(k * 1.5, bytes([0x90, key, 96])), (k * 1.5 + 1.2, bytes([0x80, key, 0]))]
    sound = synthesise(events, len(keys) * 1.5).mean(axis=1)
    offsets = {}
    for k, key in enumerate(keys):
        part = sound[int((k * 1.5 + .1) * RATE):int((k * 1.5 + 1.1) * RATE)]
        size = 1 << 19
        spectrum = np.abs(np.fft.rfft(part * np.hanning(len(part)), size))
        found = []
        for partial in (1, 2, 3, 4):
            want = partial * 440 * 2 ** ((key - 69) / 12)
            low, high = (int(want * 2 ** (c / 1200) * size / RATE) for c in (-40, 41))
            place = low + int(np.argmax(spectrum[low:high]))
            found.append((spectrum[place], 1200 * np.log2(place * RATE / size / want)))
        offsets[key] = sum(w * c for w, c in found) / sum(w for w, _ in found)
    return offsets


class Player:
    """Renders parts of a take: beats to seconds, all pitches moved by semitones and cents."""

    def __init__(self, clock, semitones, cents, random):
        self.clock, self.semitones, self.cents, self.random = clock, semitones, cents, random

    def part(self, notes, program, seconds, loose=0.004):
        """One pitched part; each guitar string has a channel of its own, so that bends leave the others alone."""
        offsets = sample_offsets(program, {n.pitch + self.semitones for n in notes})
        events = [e for channel in range(7) for e in _setup(channel, program)]
        for note in notes:
            channel, key = note.string, note.pitch + self.semitones
            start = max(0, self.clock(note.beat) + self.random.gauss(0, loose))
            end = max(start + .05, self.clock(note.beat + note.beats) - .004)
            base = self.cents - offsets[key]
            events += [(start - .001, _bend(channel, base)), (start, bytes([0x90 | channel, key, note.velocity])),
                       (end, bytes([0x80 | channel, key, 0]))]
            if note.curve or note.vibrato:
                events += self._moving(note, channel, start, end, base)
        return synthesise(events, seconds)

    @staticmethod
    def _moving(note, channel, start, end, base):
        shares, cents = zip(*(note.curve or [(0, 0), (1, 0)]))
        out = []
        for t in np.arange(start + .006, end, .006):
            value = np.interp((t - start) / (end - start), shares, cents)
            if note.vibrato and t - start > .3:
                value += 16 * np.sin(2 * np.pi * 5.4 * (t - start)) * min(1, (t - start - .3) / .3)
            out.append((t, _bend(channel, base + value)))
        return out

    def drums(self, notes, seconds, loose=0.003):
        events = []
        for note in notes:
            start = max(0, self.clock(note.beat) + self.random.gauss(0, loose))
            events += [(start, bytes([0x90 | DRUMS, note.pitch, note.velocity])),
                       (start + .15, bytes([0x80 | DRUMS, note.pitch, 0]))]
        return synthesise(events, seconds)


def _filter(sound, low=None, high=None):
    """Gentle band limits by the spectrum's magnitude, no phase."""
    spectrum = np.fft.rfft(sound, axis=0)
    hertz = np.fft.rfftfreq(len(sound), 1 / RATE)[:, None]
    if low:
        spectrum *= hertz ** 4 / (hertz ** 4 + low ** 4)
    if high:
        spectrum /= 1 + (hertz / high) ** 4
    return np.fft.irfft(spectrum, len(sound), axis=0)


def overdrive(sound, amount):
    """A small amplifier: saturation between two filters."""
    level = np.sqrt(np.mean(sound ** 2)) + 1e-9
    return _filter(np.tanh(amount * _filter(sound, 120) / level / 6), 80, 4200)


def pan(sound, place):
    """Mono sound at -1 (left) to 1 (right), equal power."""
    angle = (place + 1) * np.pi / 4
    return sound.mean(axis=1)[:, None] * np.array([np.cos(angle), np.sin(angle)])


def room(sound, seconds, wet, seed):
    """Adds a diffuse, darkening reverberation."""
    size = int(seconds * RATE)
    noise = np.random.default_rng(seed).standard_normal((size, 2))
    tail = _filter(noise, 200, 3500) * np.exp(-6.9 * np.arange(size) / size)[:, None]
    tail /= np.sqrt((tail ** 2).sum(axis=0))
    total = 1 << (len(sound) + size).bit_length()
    spectrum = np.fft.rfft(sound.mean(axis=1), total)[:, None] * np.fft.rfft(tail, total, axis=0)
    return sound + wet * np.fft.irfft(spectrum, total, axis=0)[:len(sound)]


def master(sound, peak=0.89):
    """Soft limiting and level."""
    sound = sound / (np.sqrt(np.mean(sound ** 2)) * 7)
    sound = np.tanh(1.4 * sound) / 1.4
    return sound * peak / np.abs(sound).max()


def write_ogg(path, sound, quality):
    """Encodes with ffmpeg; no metadata of the encoder, so that the same sound gives the same file."""
    pcm = (np.clip(sound, -1, 1) * 32767).round().astype("<i2").tobytes()
    subprocess.run(["ffmpeg", "-v", "error", "-y", "-f", "s16le", "-ar", str(RATE), "-ac", "2", "-i", "-",
                    "-c:a", "libvorbis", "-q:a", str(quality), "-fflags", "+bitexact", "-flags:a", "+bitexact",
                    str(path)], input=pcm, check=True)
