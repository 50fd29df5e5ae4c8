// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/writing/suggestions.h"

#include <algorithm>
#include <cmath>

namespace ear {
namespace {

constexpr Seconds kAtOnce{0.03};   // between the starts of notes that are struck together
constexpr Seconds kReaches{0.12};  // a note that ends so shortly before the next one lasts until it
constexpr Cents kWide{45};         // of a vibrato from here on
constexpr Seconds kRings{0.25};    // over the start of the next one
constexpr int kLengths = 4;        // parts of a beat that lengths are rounded to

int moments(std::span<const PlayedNote> heard, std::vector<NoteToPlace>& notes, Cents offset) {
  int moment = -1;
  Seconds last{-1e9};
  for (const PlayedNote& p : heard) {
    if (p.note.span.start - last > kAtOnce) ++moment, last = p.note.span.start;
    NoteToPlace n;
    n.midi = static_cast<int>(std::lround(frettedPitch(p).value - offset.value / 100));
    n.moment = moment;
    n.bent = p.bend.has_value();
    n.led = n.slid = p.slide.has_value() && moment > 0;
    notes.push_back(n);
  }
  return moment + 1;
}

Beats lengthOf(const PlayedNote& p, Beats at, std::optional<std::pair<Seconds, Beats>> next, const PhraseTime& time) {
  if (next && next->first - p.note.span.end < kReaches) return next->second - at;
  const double end = time.placeOf(p.note.span.end);
  const auto rounded = Beats(std::llround(end * kLengths), kLengths) - at;
  const Beats least(1, kLengths);
  const Beats most = next ? next->second - at : std::max(rounded, least);
  return std::clamp(rounded, std::min(least, most), most);
}

/// A bend struck again sounds like its pitch fretted; a hand seldom has the time, but the ear decides.
std::optional<NoteReading> frettedInstead(const Note& n, const PlayedNote& p, const Guitar& guitar) {
  if (!p.bend || !p.bend->again) return std::nullopt;
  const FretPosition place{n.place.string, n.place.fret + static_cast<int>(std::lround(p.bend->size().value / 100))};
  if (place.fret > guitar.lastFret(place.string)) return std::nullopt;
  return NoteReading{n.at, n.length, place, std::nullopt, 0.0, "Fretted there it would sound alike."};
}

void gestures(Note& n, const PlayedNote& p, const Guitar& guitar, const std::optional<FretPosition>& before) {
  if (p.bend) {
    n.bend = Bend{p.bend->size(), p.bend->before, p.bend->released.has_value()};
    if (p.bend->again) n.bend->before = true;
  }
  if (p.vibrato)
    n.vibrato = Vibrato{p.vibrato->width >= kWide ? Vibrato::Kind::wide : Vibrato::Kind::finger, p.vibrato->rate,
                        p.vibrato->width};
  if (!p.slide) return;
  n.attack = Attack::slidInto;
  const int from =
      static_cast<int>(std::lround(p.slide->from.value - guitar.offset.value / 100)) - guitar.open(n.place.string);
  const bool written = before && before->string == n.place.string && before->fret == from;
  if (!written && from >= 0 && from <= guitar.lastFret(n.place.string)) n.slidFrom = from;
}

}  // namespace

std::vector<Suggestion> suggestionsFor(std::span<const PlayedNote> heard, const PhraseTime& time,
                                       const SuggestionContext& context) {
  std::vector<PlayedNote> inOrder(heard.begin(), heard.end());
  std::stable_sort(inOrder.begin(), inOrder.end(),
                   [](const PlayedNote& a, const PlayedNote& b) { return a.note.span.start < b.note.span.start; });
  std::vector<NoteToPlace> toPlace;
  const int count = moments(inOrder, toPlace, context.guitar.offset);
  const LinePlacing way = placeLine(context.guitar, toPlace, context.wishes, 1).front();
  // The start of each moment is put on the raster once.
  std::vector<Seconds> starts;
  for (std::size_t i = 0; i < inOrder.size(); ++i)
    if (i == 0 || toPlace[i].moment != toPlace[i - 1].moment) starts.push_back(inOrder[i].note.span.start);
  const auto placed = time.known() ? quantised(starts, time) : std::vector<Quantised>(starts.size());
  std::vector<Suggestion> suggestions;
  std::optional<FretPosition> before;
  std::size_t at = 0;
  for (std::size_t i = 0; i < inOrder.size(); ++i) {
    if (std::find(way.unplayable.begin(), way.unplayable.end(), i) != way.unplayable.end()) continue;
    const PlayedNote& p = inOrder[i];
    const auto moment = static_cast<std::size_t>(toPlace[i].moment);
    Suggestion s;
    s.note.id = context.firstId + static_cast<int>(suggestions.size());
    s.note.place = way.places[at++];
    s.note.origin = Origin::measured;
    s.note.certainty = static_cast<double>(std::clamp(p.note.certainty, 0.0F, 1.0F));
    const bool more = moment + 1 < static_cast<std::size_t>(count);
    if (time.known()) {
      s.note.at = placed[moment].at;
      s.moved = placed[moment].moved;
      s.note.length =
          lengthOf(p, s.note.at,
                   more ? std::optional(std::pair{starts[moment + 1], placed[moment + 1].at}) : std::nullopt, time);
    } else {
      s.note.free = p.note.span;
    }
    s.note.letRing = more && p.note.span.end - starts[moment + 1] > kRings;
    gestures(s.note, p, context.guitar, before);
    if (auto other = frettedInstead(s.note, p, context.guitar)) s.note.readings.push_back(std::move(*other));
    before = s.note.place;
    suggestions.push_back(std::move(s));
  }
  return suggestions;
}

}  // namespace ear
