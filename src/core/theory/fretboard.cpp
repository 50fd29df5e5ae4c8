// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/theory/fretboard.h"

#include <algorithm>
#include <charconv>

namespace ear {
namespace {

constexpr int kReachBelow = 1, kReachAbove = 3;  // frets around the first finger's
constexpr int kHighestRoot = 15;                 // frets; regions further up repeat those an octave below

std::vector<FretPosition> between(const Guitar& guitar, const auto& wanted, int low, int high) {
  std::vector<FretPosition> places;
  for (int s = 0; s < guitar.strings(); ++s)
    for (int f = std::max(0, low); f <= std::min(high, guitar.lastFret(s)); ++f)
      if (wanted(PitchClass(guitar.pitch({s, f})))) places.push_back({s, f});
  return places;
}

bool standardIntervals(const Guitar& guitar) {
  if (guitar.strings() != 6 || (guitar.capo.fret > 0 && guitar.capo.strings != 0)) return false;
  const auto shifts = shiftsFromStandard(guitar.tuning);
  return std::all_of(shifts.begin(), shifts.end(), [&](int s) { return s == shifts.front(); });
}

}  // namespace

int Guitar::open(int string) const {
  const auto i = static_cast<std::size_t>(string);
  return tuning.strings[i] + (capo.covers(i) ? capo.fret : 0);
}

int Guitar::lastFret(int string) const {
  return frets - (capo.covers(static_cast<std::size_t>(string)) ? capo.fret : 0);
}

Hertz Guitar::frequency(FretPosition place) const {
  return frequencyOf(MidiPitch(pitch(place)), a4At(offset));
}

std::vector<FretPosition> placesOf(const Guitar& guitar, int midi) {
  std::vector<FretPosition> places;
  for (int s = 0; s < guitar.strings(); ++s)
    if (const int fret = midi - guitar.open(s); fret >= 0 && fret <= guitar.lastFret(s)) places.push_back({s, fret});
  return places;
}

std::vector<NeckRegion> boxesOf(const Guitar& guitar, const Scale& scale) {
  // The blues scale lies in the boxes of the minor pentatonic, with one more note in each.
  const Scale frame = scale.kind == ScaleKind::blues ? Scale{scale.tonic, ScaleKind::minorPentatonic} : scale;
  std::vector<NeckRegion> boxes;
  int number = 0;
  for (const PitchClass note : frame.notes()) {
    const int fret = PitchClass(note.value - guitar.open(0)).value;
    // An open-string box has no finger below it; played an octave up it is the same.
    NeckRegion box = positionAt(guitar, scale, fret);
    box.number = ++number;
    box.label = "box " + std::to_string(number);
    boxes.push_back(std::move(box));
  }
  return boxes;
}

NeckRegion positionAt(const Guitar& guitar, const Scale& scale, int firstFinger) {
  return {"position " + std::to_string(firstFinger), firstFinger, firstFinger,
          between(
              guitar, [&](PitchClass pc) { return scale.contains(pc); }, firstFinger - kReachBelow,
              firstFinger + kReachAbove)};
}

std::vector<NeckRegion> shapesOf(const Guitar& guitar, const Chord& chord) {
  const auto notes = notesOf(chord);
  const auto wanted = [&](PitchClass pc) { return std::find(notes.begin(), notes.end(), pc) != notes.end(); };
  struct Frame {
    const char* letter;
    int string, low, high;  // frets around the root
  };
  // Where the hand lies around the root in the open C, A, G, E and D chords of a guitar in standard tuning: common
  // practice, no source.
  static constexpr Frame kFrames[] = {{"E", 0, 0, 2}, {"D", 2, 0, 3}, {"C", 1, -3, 0}, {"A", 1, 0, 2}, {"G", 0, -3, 0}};
  std::vector<NeckRegion> regions;
  const auto add = [&](const std::string& label, int string, int low, int high) {
    int root = PitchClass(chord.root.value - guitar.open(string)).value;
    if (root + low < 0) root += 12;
    if (root > kHighestRoot) return;
    NeckRegion region{label, static_cast<int>(regions.size()) + 1, root + low,
                      between(guitar, wanted, root + low, root + high)};
    region.firstFinger =
        region.places.empty()
            ? root
            : std::min_element(region.places.begin(), region.places.end(), [](FretPosition a, FretPosition b) {
                return a.fret < b.fret;
              })->fret;
    regions.push_back(std::move(region));
  };
  if (standardIntervals(guitar))
    for (const Frame& frame : kFrames) add(std::string(frame.letter) + " shape", frame.string, frame.low, frame.high);
  else
    for (int s = 0; s < guitar.strings(); ++s)
      add("root on string " + std::to_string(guitar.strings() - s), s, 0, kReachAbove);
  return regions;
}

std::vector<FretPosition> placesInShape(const Guitar& guitar, std::span<const Chord> chords, std::string_view label) {
  std::vector<FretPosition> places;
  for (const Chord& chord : chords)
    for (const NeckRegion& shape : shapesOf(guitar, chord)) {
      if (shape.label != label) continue;
      for (const FretPosition low : shape.places)
        for (const FretPosition p : {low, FretPosition{low.string, low.fret + 12}})
          if (p.fret <= guitar.lastFret(p.string) && std::find(places.begin(), places.end(), p) == places.end())
            places.push_back(p);
    }
  return places;
}

std::optional<std::vector<FretPosition>> parseFrets(std::string_view text, int strings) {
  const bool spaced = text.find_first_of(" -,") != std::string_view::npos;
  std::vector<FretPosition> places;
  int string = 0;
  while (!text.empty()) {
    if (text.front() == ' ' || text.front() == '-' || text.front() == ',') {
      text.remove_prefix(1);
      continue;
    }
    if (text.front() == 'x' || text.front() == 'X') {
      text.remove_prefix(1);
    } else {
      int fret = 0;
      const auto end = spaced ? text.data() + text.size() : text.data() + 1;
      const auto [next, error] = std::from_chars(text.data(), end, fret);
      if (error != std::errc() || fret > 30) return std::nullopt;
      text.remove_prefix(static_cast<std::size_t>(next - text.data()));
      places.push_back({string, fret});
    }
    ++string;
  }
  if (string != strings) return std::nullopt;
  return places;
}

std::vector<int> pitchesOf(const Guitar& guitar, std::span<const FretPosition> places) {
  std::vector<int> pitches;
  for (const FretPosition place : places) pitches.push_back(guitar.pitch(place));
  return pitches;
}

}  // namespace ear
