// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/phrase/moving.h"

namespace ear {
namespace {

bool onNeck(const Guitar& guitar, FretPosition place) {
  return place.string >= 0 && place.string < guitar.strings() && place.fret >= 0 &&
         place.fret <= guitar.lastFret(place.string);
}

}  // namespace

bool move(Note& note, const Guitar& guitar, int frets, int strings) {
  Note moved = note;
  const bool natural = note.harmonic && note.harmonic->kind == PlayedHarmonic::Kind::natural;
  const int up = natural ? 0 : frets;
  bool fits = true;
  const auto shift = [&](FretPosition& place) {
    place.string += strings, place.fret += up;
    fits = fits && onNeck(guitar, place);
  };
  shift(moved.place);
  for (NoteReading& r : moved.readings) shift(r.place);
  const auto shiftFret = [&](int& fret) {
    fret += up;
    fits = fits && onNeck(guitar, {moved.place.string, fret});
  };
  if (moved.trill) shiftFret(moved.trill->fret);
  if (moved.slidFrom) shiftFret(*moved.slidFrom);
  // A string can be touched where there is no fret any more.
  if (moved.harmonic && !natural && moved.harmonic->node != 0) moved.harmonic->node += up;
  if (fits) note = std::move(moved);
  return fits;
}

}  // namespace ear
