// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/phrase/refingering.h"

#include <algorithm>

namespace ear {
namespace {

bool isNatural(const Note& n) {
  return n.harmonic && n.harmonic->kind == PlayedHarmonic::Kind::natural;
}

bool stays(const Note& n) {
  return n.tone == Tone::dead || isNatural(n);
}

bool isOnNeck(const Guitar& guitar, FretPosition place) {
  return place.string >= 0 && place.string < guitar.strings() && place.fret >= 0 &&
         place.fret <= guitar.lastFret(place.string);
}

/// Whether what is said of the note in frets lies on the neck where it goes.
bool follow(Note& n, FretPosition to, const Guitar& guitar) {
  const int by = to.fret - n.place.fret;
  n.place = to;
  const auto shift = [&](int& fret) {
    fret += by;
    return isOnNeck(guitar, {to.string, fret});
  };
  if (n.trill && !shift(n.trill->fret)) return false;
  if (n.slidFrom && !shift(*n.slidFrom)) n.slidFrom.reset(), n.attack = Attack::slidFromBelow;
  if (n.harmonic && !isNatural(n) && n.harmonic->node > 0) shift(n.harmonic->node);
  // Readings of another place belonged to the old one.
  n.readings.clear();
  n.finger = Finger::unsaid;
  n.barred = n.keptDown = false;
  return true;
}

}  // namespace

std::vector<NoteToPlace> lineOf(std::span<const Note> notes, const Guitar& guitar, int semitones) {
  std::vector<NoteToPlace> line;
  int moment = -1;
  for (std::size_t i = 0; i < notes.size(); ++i) {
    const Note& n = notes[i];
    const bool together = i > 0 && (n.free ? notes[i - 1].free && n.free->start == notes[i - 1].free->start
                                           : !notes[i - 1].free && n.at == notes[i - 1].at);
    if (!together) ++moment;
    NoteToPlace to{.midi = guitar.pitch(n.place) + semitones, .moment = moment};
    to.slid = n.attack == Attack::slidInto && !n.slidFrom;
    to.led = i > 0 && (to.slid || n.attack == Attack::hammeredOn || n.attack == Attack::pulledOff);
    to.bent = n.bend.has_value();
    if (stays(n)) to.fixed = n.place;
    line.push_back(to);
  }
  return line;
}

std::vector<Refingered> refingered(std::span<const Note> notes, const Guitar& from, const Guitar& to, int semitones,
                                   const PlacingWishes& wishes, std::size_t most) {
  std::vector<int> lost;
  std::vector<Note> movable;
  for (const Note& n : notes) {
    const bool sounds = !isNatural(n) || (n.place.string < to.strings() && semitones == 0 &&
                                          from.open(n.place.string) == to.open(n.place.string));
    if (sounds && (!stays(n) || n.place.string < to.strings()))
      movable.push_back(n);
    else
      lost.push_back(n.id);
  }
  std::vector<Refingered> ways;
  if (movable.empty()) return ways;
  for (LinePlacing& way : placeLine(to, lineOf(movable, from, semitones), wishes, most)) {
    Refingered result;
    result.unplayable = lost;
    std::size_t at = 0;
    for (std::size_t i = 0; i < movable.size(); ++i) {
      const bool gone = std::find(way.unplayable.begin(), way.unplayable.end(), i) != way.unplayable.end();
      Note n = movable[i];
      if (gone || !follow(n, way.places[at], to))
        result.unplayable.push_back(n.id);
      else
        result.notes.push_back(std::move(n));
      if (!gone) ++at;
    }
    result.way = std::move(way);
    ways.push_back(std::move(result));
  }
  return ways;
}

}  // namespace ear
