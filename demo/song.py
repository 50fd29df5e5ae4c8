# SPDX-License-Identifier: GPL-3.0-or-later
"""The demo song: "Copper Weather" by the Osier Lane Trio, both invented for this program.

Everything here is in beats and frets; `render.py` turns it into sound. Guitars read in the shapes the hands make;
a take lowers or keeps all of them (`semitones`).
"""

from dataclasses import dataclass, field
from random import Random

STANDARD = {1: 64, 2: 59, 3: 55, 4: 50, 5: 45, 6: 40}  # string -> MIDI pitch
NAMES = ["C", "C#", "D", "D#", "E", "F", "F#", "G", "G#", "A", "A#", "B"]
LETTERS = {"C": 0, "D": 2, "E": 4, "F": 5, "G": 7, "A": 9, "B": 11}

# Shapes as frets from the lowest to the highest string, with the Harte quality and the root (and bass) they give.
SHAPES = {
    "Em": ("022000", "E", "min"), "Em/D": ("xx0000", "E", "min7/b7"), "Cmaj7": ("x32000", "C", "maj7"),
    "B7": ("x21202", "B", "7"), "Am7": ("x02010", "A", "min7"), "G": ("320003", "G", "maj"),
    "D/F#": ("2x0232", "D", "maj/3"), "D": ("xx0232", "D", "maj"), "C": ("x32010", "C", "maj"),
    "B7sus": ("x24252", "B", "7(4)"),
}
BASS_ROOTS = {"Em": "E", "Em/D": "D", "Cmaj7": "C", "B7": "B", "Am7": "A", "G": "G", "D/F#": "F#", "D": "D",
              "C": "C", "B7sus": "B"}

VERSE = ["Em", "Em/D", "Cmaj7", "B7", "Em", "Em/D", "Am7", "B7"]
CHORUS = ["G", "D/F#", "Em", "C", "G", "D", "Am7 C", "B7sus B7"]
SOLO = ["Em", "Cmaj7", "Am7", "B7"]

# Tunes: bars of "note:beats" in sounding octave before a take's shift; r = rest.
VERSE_TUNE = ("E4:1 G4:1 A4:.5 B4:1.5 | A4:1 G4:1 E4:2 | E4:.5 G4:.5 A4:1 B4:2 | A4:.5 F#4:.5 D#4:1 B3:2 | "
              "E4:1 G4:1 A4:.5 B4:1.5 | D5:1 B4:1 A4:2 | C5:1 B4:.5 A4:.5 G4:2 | F#4:1 A4:1 B4:1.5 r:.5")
CHORUS_TUNE = ("D5:1.5 B4:.5 G4:2 | A4:1 F#4:1 D5:2 | E5:1.5 D5:.5 B4:2 | C5:1 B4:1 G4:2 | "
               "D5:1.5 E5:.5 D5:2 | A4:1 B4:1 A4:2 | C5:1 B4:1 A4:1 G4:1 | F#4:2 D#4:1.5 r:.5")

# Lead lines: "string.fret:beats" and what the note does: b = bend (cents), / = slide up to the fret after it,
# ~ = vibrato, p = pull-off (no new attack is modelled, only softer), r = rest.
HOOK = ("3.9:1 2.8:.5 2.8/10:1.5 2.8:1 | 3.9:1 3.7:.5 3.7/9:1.5 r:1 | 3.9:1 2.8:.5 2.8/10:1 1.7:.5 2.10~:1 | "
        "2.7:.5 3.8:.5 3.11:1 3.8~:2")
SOLO_A = ("3.14b200~:1.5 2.12:.5 2.15:.5 2.12p:.5 3.14~:1 | r:.5 3.12:.5 3.14:.5 2.12:.5 2.15b200~:2 | "
          "1.12:.5 1.15p:.5 1.12:.5 2.15:.5 2.13:1 2.12~:1 | 3.14b100:1 3.11:.5 4.13:.5 3.11~:2")
SOLO_B = ("2.15b200:1 2.15:.5 2.12p:.5 3.14b200:1 3.12p:.5 3.14:.5 | 2.12:.5 2.13/15:1 1.12:.5 1.15b200~:2 | "
          "1.17:.5 1.15p:.5 1.12:.5 2.15:.5 2.13:.5 2.12p:.5 3.14~:1 | 1.14:.5 1.11p:.5 2.12:.5 3.14:.5 4.13/16~:2")
SOLO_C = ("4.14:.5 3.12:.5 3.14:.5 2.12:.5 3.14b200:1 3.14b200:.5 3.12p:.5 | 4.14:.5 3.12:.5 2.12:1 3.12/16~:2 | "
          "2.13:.5 2.15:.5 1.12:.5 1.15:.5 1.17b200~:2 | 1.15:.5 1.14p:.5 1.11:.5 2.12:.5 2.10p:.5 2.7/12~:1.5")

ARPEGGIO = [0, 3, 2, 1, 2, 3, 2, 1]  # 0 = the lowest string of the shape, else string number
STRUM = [(0, "d", 1.0), (1, "d", .75), (1.5, "u", .6), (2.5, "u", .6), (3, "d", .85), (3.5, "u", .65)]


@dataclass
class Note:
    """One note of a part; times in beats."""
    beat: float
    beats: float
    pitch: int
    velocity: int
    string: int = 0
    fret: int = 0
    technique: str = "pick"
    curve: list = field(default_factory=list)  # (share of the note, cents) points of its pitch
    vibrato: bool = False


def midi(name):
    """'F#4' -> 66."""
    return LETTERS[name[0]] + name.count("#") + 12 * (int(name[-1]) + 1)


def voicing(shape):
    """Shape -> [(string, fret)], lowest string first."""
    return [(6 - i, int(f)) for i, f in enumerate(SHAPES[shape][0]) if f != "x"]


def harte(shape, semitones):
    """The sounding chord label of a shape."""
    _, root, quality = SHAPES[shape]
    return f"{NAMES[(LETTERS[root[0]] + root.count('#') + semitones) % 12]}:{quality}"


def bars_of(chords):
    """[(bar, [(beat in bar, beats, shape)])]"""
    for bar, names in enumerate(chords):
        names = names.split()
        share = 4 / len(names)
        yield bar, [(k * share, share, name) for k, name in enumerate(names)]


class Band:
    """Plays sections into parts: {part: [Note]}."""

    def __init__(self, seed):
        self.random = Random(seed)
        self.parts = {"left": [], "right": [], "bass": [], "tune": [], "drums": []}

    def _loud(self, level):
        return max(20, min(125, level + self.random.randint(-5, 5)))

    def _fretted(self, part, beat, beats, string, fret, level, **more):
        self.parts[part].append(Note(beat, beats, STANDARD[string] + fret, self._loud(level), string, fret, **more))

    def arpeggio(self, part, start, chords, level):
        for bar, spans in bars_of(chords):
            for at, beats, shape in spans:
                strings = dict(voicing(shape))
                low = max(strings)
                for k in range(int(at * 2), int((at + beats) * 2)):
                    string = low if k in (0, int(at * 2)) else ARPEGGIO[k % 8] or low
                    if string in strings:
                        ring = min(1.9, at + beats - k / 2)
                        self._fretted(part, start + bar * 4 + k / 2, ring, string, strings[string],
                                      level + (8 if k % 4 == 0 else 0))

    def strum(self, part, start, chords, level, last=False):
        for bar, spans in bars_of(chords):
            for at, beats, shape in spans:
                hits = [(0, "d", 1.0)] if last else [h for h in STRUM if at <= h[0] < at + beats]
                if not last and hits[0][0] > at:
                    hits.insert(0, (at, "d", .8))
                for k, (when, way, weight) in enumerate(hits):
                    end = hits[k + 1][0] if k + 1 < len(hits) else at + beats
                    strings = voicing(shape) if way == "d" else list(reversed(voicing(shape)))[:4]
                    for n, (string, fret) in enumerate(strings):
                        self._fretted(part, start + bar * 4 + when + 0.018 * n, end - when - 0.018 * n, string, fret,
                                      int(level * weight))

    def chops(self, part, start, chords, level):
        """Short off-beat chords on the four high strings."""
        for bar, spans in bars_of(chords):
            for at, beats, shape in spans:
                for when in (1, 3):
                    if at <= when < at + beats:
                        for n, (string, fret) in enumerate(s for s in voicing(shape) if s[0] <= 4):
                            self._fretted(part, start + bar * 4 + when + 0.01 * n, .4, string, fret, level)

    def lead(self, part, start, line, level):
        for bar, text in enumerate(line.split("|")):
            beat = start + bar * 4
            for word in text.split():
                what, beats = word.rsplit(":", 1)
                beats = float(beats)
                if what != "r":
                    self._lead_note(part, beat, beats, what, level)
                beat += beats

    def _lead_note(self, part, beat, beats, what, level):
        vibrato, what = what.endswith("~"), what.rstrip("~")
        pulled, what = what.endswith("p"), what.rstrip("p")
        string, rest = what.split(".", 1)
        curve, technique = [], "pull" if pulled else "pick"
        if "b" in rest:
            rest, size = rest.split("b")
            size = int(size)
            curve, technique = [(0, 0), (min(.4, .25 / beats), size), (.9, size), (1, size)], "bend"
        elif "/" in rest:
            rest, to = rest.split("/")
            rise = 100 * (int(to) - int(rest))
            curve, technique = [(0, 0), (.3, 0), (.3 + .1 / beats, rise), (1, rise)], "slide"
        self._fretted(part, beat, beats * .98, int(string), int(rest), level - (14 if pulled else 0),
                      technique=technique, curve=curve, vibrato=vibrato)

    def melody(self, start, tune, level):
        for bar, text in enumerate(tune.split("|")):
            beat = start + bar * 4
            for word in text.split():
                name, beats = word.split(":")
                if name != "r":
                    self.parts["tune"].append(Note(beat, float(beats) * .96, midi(name), self._loud(level),
                                                   vibrato=float(beats) >= 1.5))
                beat += float(beats)

    def bass(self, start, chords, level, busy):
        for bar, spans in bars_of(chords):
            for at, beats, shape in spans:
                name = BASS_ROOTS[shape]
                root = 24 + LETTERS[name[0]] + name.count("#")
                root += 12 if root < 28 else 0
                steps = [(0, 1.5, 0), (1.5, .5, 0), (2, 1.5, 7 if root < 36 else 0), (3.5, .5, 12 if root < 33 else 0)]
                if busy:
                    steps = [(k / 2, .48, 0 if k < 6 else (7 if k == 6 else 12)) for k in range(8)]
                for when, length, up in steps:
                    if when < beats:
                        pitch = root + up if "D/F#" not in shape or not up else root
                        self.parts["bass"].append(Note(start + bar * 4 + at + when, min(length, beats - when), pitch,
                                                       self._loud(level + (6 if when == 0 else 0))))

    def _hit(self, beat, key, level):
        self.parts["drums"].append(Note(beat, .2, key, self._loud(level)))

    def drums(self, start, bars, level, feel, fill=True):
        for bar in range(bars):
            beat = start + bar * 4
            if feel != "hats":
                for when in (0, 2, 2.5) if bar % 2 == 0 else (0, 1.5, 2):
                    self._hit(beat + when, 36, level + 8)
                for when in (1, 3):
                    self._hit(beat + when, 38, level + 4)
            cymbal = 51 if feel == "ride" else 42
            filling = fill and bar == bars - 1
            for k in range(8):
                if not (filling and k >= 6):
                    self._hit(beat + k / 2, cymbal, level - 18 + (8 if k % 2 == 0 else 0))
            if filling:
                for k, key in enumerate((38, 48, 47, 45)):
                    self._hit(beat + 3 + k / 4, key, level - 4 + 4 * k)
            if bar == 0 and feel == "ride":
                self._hit(beat, 49, level + 2)


def arrange(seed, solo_lines, count_in):
    """Plays the song: (parts, sections [(label, first beat, bars)], chords [(beat, beats, shape or None)])."""
    band, sections, chords = Band(seed), [], []
    beat = 0

    def section(label, names):
        nonlocal beat
        sections.append((label, beat, len(names)))
        for bar, spans in bars_of(names):
            chords.extend((beat + bar * 4 + at, beats, shape) for at, beats, shape in spans)
        beat += 4 * len(names)
        return beat - 4 * len(names)

    if count_in:
        sections.append(("count-in", 0, 1))
        chords.append((0, 4, None))
        for k in range(4):
            band._hit(k, 37, 96)
        beat = 4
    at = section("intro", VERSE[:4])
    band.arpeggio("left", at, VERSE[:4], 74)
    band.lead("right", at, HOOK, 84)
    band.drums(at, 4, 74, "hats")
    for visit in range(2):
        at = section("verse", VERSE)
        band.arpeggio("left", at, VERSE, 78)
        if visit:
            band.chops("right", at, VERSE, 72)
        else:
            band.lead("right", at + 12, "r:3 2.10p:.5 2.8:.5", 70)
        band.melody(at, VERSE_TUNE, 88)
        band.bass(at, VERSE, 84, False)
        band.drums(at, 8, 80, "beat")
        at = section("chorus", CHORUS)
        band.strum("left", at, CHORUS, 92)
        band.strum("right", at, CHORUS, 80)
        band.melody(at, CHORUS_TUNE, 98)
        band.bass(at, CHORUS, 92, True)
        band.drums(at, 8, 94, "ride")
    at = section("solo", SOLO * len(solo_lines))
    band.strum("left", at, SOLO * len(solo_lines), 82)
    for k, line in enumerate(solo_lines):
        band.lead("right", at + 16 * k, line, 104)
    band.bass(at, SOLO * len(solo_lines), 90, True)
    band.drums(at, 4 * len(solo_lines), 90, "ride")
    at = section("outro", VERSE[:4] + ["Em"])
    band.arpeggio("left", at, VERSE[:4], 72)
    band.lead("right", at, HOOK, 80)
    band.bass(at, VERSE[:4], 80, False)
    band.drums(at, 4, 72, "beat", fill=False)
    band.strum("left", at + 16, ["Em"], 84, last=True)
    band.strum("right", at + 16, ["Em"], 72, last=True)
    band.bass(at + 16, ["Em"], 84, False)
    band.parts["bass"] = [n for n in band.parts["bass"] if n.beat <= at + 16]
    band.parts["bass"][-1].beats = 4
    band._hit(at + 16, 49, 84)
    band._hit(at + 16, 36, 88)
    return band.parts, sections, chords
