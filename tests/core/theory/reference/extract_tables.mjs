// SPDX-License-Identifier: GPL-3.0-or-later
// Writes the tables beside this file from two npm packages, which are used for nothing else:
//
//     npm install --no-save --prefix DIR tonal@6.0.0 @tombatossals/chords-db@0.5.1
//     NODE_PATH=DIR/node_modules node extract_tables.mjs
//
// tonal_chords.tsv      symbol, semitones above the root (tonal, MIT)
// tonal_notes.tsv       MIDI note, its name with sharps, with flats, and other names of it (tonal)
// tonal_keys.tsv        tonic, mode, notes of the scale (tonal)
// chords_db_shapes.tsv  key, suffix, frets from the lowest string (x = silent), MIDI notes, fingers (0 = none;
//                       chords-db, MIT)

import { createRequire } from 'module';
import { writeFileSync } from 'fs';
import { dirname, join } from 'path';
import { fileURLToPath } from 'url';

const require = createRequire(join(process.env.NODE_PATH, 'x.js'));
const { ChordType, Interval, Key, Note } = require('tonal');
const guitar = require('@tombatossals/chords-db/lib/guitar.json');
const folder = dirname(fileURLToPath(import.meta.url));

const chords = ChordType.all().flatMap((type) =>
  type.aliases.filter((alias) => /^[\x20-\x7e]*$/.test(alias))
    .map((alias) => [alias, type.intervals.map((i) => Interval.semitones(i)).join(' ')].join('\t')));
writeFileSync(join(folder, 'tonal_chords.tsv'), chords.join('\n') + '\n');

const letters = ['C', 'D', 'E', 'F', 'G', 'A', 'B'];
const spelt = letters.flatMap((l) => ['bb', 'b', '', '#', '##'].map((sign) => l + sign));
const notes = Array.from({ length: 97 }, (_, i) => i + 12).map((midi) => [midi, Note.fromMidiSharps(midi), Note.fromMidi(midi),
  spelt.flatMap((pc) => [-1, 0, 1, 2, 3, 4, 5, 6, 7, 8].map((o) => pc + o)).filter((n) => Note.midi(n) === midi).join(' ')].join('\t'));
writeFileSync(join(folder, 'tonal_notes.tsv'), notes.join('\n') + '\n');

const keys = letters.flatMap((l) => ['b', '', '#'].map((sign) => l + sign)).flatMap((tonic) =>
  [[tonic, 'major', Key.majorKey(tonic).scale], [tonic, 'minor', Key.minorKey(tonic).natural.scale]])
  .filter(([, , scale]) => scale.length === 7).map(([tonic, mode, scale]) => [tonic, mode, scale.join(' ')].join('\t'));
writeFileSync(join(folder, 'tonal_keys.tsv'), keys.join('\n') + '\n');

const shapes = Object.values(guitar.chords).flatMap((list) => list).flatMap(({ key, suffix, positions }) =>
  positions.slice(0, 2).map(({ frets, baseFret, midi, fingers }) =>
    [key, suffix, frets.map((f) => (f < 0 ? 'x' : f === 0 ? 0 : f + baseFret - 1)).join(' '), midi.join(' '), fingers.join(' ')].join('\t')));
writeFileSync(join(folder, 'chords_db_shapes.tsv'), shapes.join('\n') + '\n');
