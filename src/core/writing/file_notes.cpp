// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/writing/file_notes.h"

#include <algorithm>
#include <cmath>

namespace ear {
namespace {

constexpr int kRaster = 24;                 // parts of a beat: halves, thirds, fourths, sixths and eighths
const Beats kGap(1, 8);                     // up to the next note: how it was played, not a rest
constexpr Cents kBent{35};                  // by the wheel, from here on
constexpr double kHeld = 0.8, kBack = 0.3;  // of a bend: it is up before the stroke; it has come down again
constexpr double kCertainty = 0.4;          // below "likely"

Beats onRaster(Rational at) {
  return {std::llround(at.value() * kRaster), kRaster};
}

std::optional<Bend> bendOf(const MidiNote& note) {
  if (note.most < kBent) return std::nullopt;
  return Bend{note.most, note.before > note.most * kHeld, note.after < note.most * kBack};
}

}  // namespace

Rational firstBarOf(const MidiVoice& voice, Rational bar) {
  if (voice.notes.empty() || bar <= Rational(0)) return 0;
  return Rational((voice.notes.front().at / bar).floor()) * bar;
}

std::vector<Suggestion> suggestionsOf(const MidiVoice& voice, Rational from, const SuggestionContext& context) {
  std::vector<MidiNote> heard;
  std::copy_if(voice.notes.begin(), voice.notes.end(), std::back_inserter(heard),
               [&](const MidiNote& n) { return n.at >= from; });
  std::vector<NoteToPlace> toPlace;
  std::vector<Beats> starts;  // of the moments
  for (const MidiNote& n : heard) {
    const Beats at = onRaster(n.at - from);
    if (starts.empty() || starts.back() != at) starts.push_back(at);
    NoteToPlace note;
    note.midi = n.midi;
    note.moment = static_cast<int>(starts.size()) - 1;
    note.bent = bendOf(n).has_value();
    toPlace.push_back(note);
  }
  const LinePlacing way = placeLine(context.guitar, toPlace, context.wishes, 1).front();
  std::vector<Suggestion> suggestions;
  std::size_t placed = 0;
  for (std::size_t i = 0; i < heard.size(); ++i) {
    if (std::find(way.unplayable.begin(), way.unplayable.end(), i) != way.unplayable.end()) continue;
    const auto moment = static_cast<std::size_t>(toPlace[i].moment);
    Note note;
    note.id = context.firstId + static_cast<int>(suggestions.size());
    note.place = way.places[placed++];
    note.at = starts[moment];
    const Beats end = onRaster(heard[i].at + heard[i].length - from);
    note.length = std::max(Beats(1, kRaster), end - note.at);
    if (moment + 1 < starts.size() && starts[moment + 1] > note.at && starts[moment + 1] - end <= kGap &&
        end <= starts[moment + 1])
      note.length = starts[moment + 1] - note.at;
    note.bend = bendOf(heard[i]);
    note.origin = Origin::measured;
    note.certainty = kCertainty;
    suggestions.push_back({std::move(note), Seconds(0)});
  }
  return suggestions;
}

}  // namespace ear
