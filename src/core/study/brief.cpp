// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/study/brief.h"

#include <algorithm>
#include <cmath>
#include <cstdlib>

#include "core/base/quantities.h"
#include "core/base/text.h"
#include "core/study/grid.h"
#include "core/theory/pitch.h"

namespace ear {
namespace {

std::string pitchEvidence(const ReferencePitch& found) {
  double inside = 0, total = 1e-9;
  for (int i = 0; i < 100; ++i) {
    const double weight = found.histogram[static_cast<std::size_t>(i)];
    total += weight;
    if (std::abs(foldToSemitone(Cents(i - 49.5 - found.offset.value)).value) <= 14) inside += weight;
  }
  std::string text = percentWords(inside / total) + " of the steady partials lie within 14 cents of it.";
  if (!found.second) return text;
  const Cents off = foldToSemitone(found.second->offset - found.offset);
  return text + " A second group of steady tones, " + percentWords(found.second->share) + " of them, lies " +
         centsWords(off) + (off < Cents(0) ? " lower" : " higher") +
         ": two instruments may be out of tune with each other. The figure is that of the stronger group.";
}

/// How a key lies to another one, as players say it.
std::string relation(const Key& key, const Key& to) {
  const int up = PitchClass(key.tonic.value - to.tonic.value).value;
  if (key.mode == to.mode) return up == 7 ? "a fifth higher" : up == 5 ? "a fifth lower" : "";
  if (up == 0) return "on the same tonic";
  if (up == (to.mode == Mode::minor ? 3 : 9)) return "its relative, with the same notes";
  return "";
}

/// Which chords speak for the key, and what comes next to it.
std::string keyEvidence(const Findings& findings) {
  const KeyFindings& found = *findings.key;
  const Key& key = found.readings.front().key;
  const auto isTonic = [&](const FoundChord& c) {
    return c.chord && c.chord->root == key.tonic && c.chord->minor() == (key.mode == Mode::minor);
  };
  double tonic = 0, all = 0;
  for (const auto& c : findings.chords) {
    if (!c.chord) continue;
    all += c.span.length().value;
    if (isTonic(c)) tonic += c.span.length().value;
  }
  std::string text;
  if (all > 0) {
    text = "Its tonic chord stands " + percentWords(tonic / all) + " of the time";
    const auto sounding = [](const FoundChord& c) { return c.chord.has_value(); };
    const auto first = std::find_if(findings.chords.begin(), findings.chords.end(), sounding);
    const auto last = std::find_if(findings.chords.rbegin(), findings.chords.rend(), sounding);
    const bool opens = isTonic(*first), closes = isTonic(*last);
    text += opens && closes ? ", first and last" : opens ? ", first of all" : closes ? ", last of all" : "";
    text += ". ";
  }
  if (found.readings.size() > 1) {
    const Key& next = found.readings[1].key;
    const std::string how = relation(next, key);
    text += "Next comes " + keyName(next, spellingOf(key)) + (how.empty() ? "" : ", " + how) + " (" +
            percentWords(found.readings[1].certainty) + ").";
  }
  for (const auto& change : found.changes)
    text += (text.empty() ? "" : " ") +
            ("From " + clockTenths(change.at) + " on it stands in " + keyName(change.key, spellingOf(key)) + ".");
  return text;
}

std::string timeEvidence(const RhythmFindings& found) {
  std::string text =
      std::to_string(found.beats.size()) + " beats followed, " + std::to_string(found.downbeats.size()) + " bars.";
  if (found.reason != LevelReason::none) return text + " " + std::string(sentenceOf(found.reason));
  const double beat = found.profile.near(0);
  if (beat <= 0) return text;
  return text + " Half-way through the beat things start " + percentWords(found.profile.near(0.5) / beat) +
         " as strongly as on it.";
}

}  // namespace

Form formOf(const Findings& findings) {
  Form form;
  for (const auto& s : findings.form)
    form.push_back(
        {s.span, s.letter, "", Origin::measured, s.certainty, wordsOf(s.difference), std::string(roleWord(s.role))});
  return form;
}

Brief measuredBrief(const Findings& findings) {
  Brief brief;
  if (findings.reference)
    brief.pitch = {{findings.reference->offset},
                   Origin::measured,
                   findings.reference->certainty,
                   pitchEvidence(*findings.reference)};
  if (findings.key && !findings.key->readings.empty()) {
    const auto& first = findings.key->readings.front();
    brief.key = {first.key, Origin::measured, first.certainty, keyEvidence(findings)};
  }
  if (findings.rhythm && !findings.rhythm->tempo.empty()) {
    const auto& rhythm = *findings.rhythm;
    // The first reading's share of all readings: octave doubt is nearly always there, so 0.6 counts as sure.
    const double certainty = std::min(1.0, rhythm.tempo.front().certainty / 0.6) * rhythm.pulse;
    brief.time = {
        {rhythm.tempo.front().tempo, rhythm.meter, rhythm.swing}, Origin::measured, certainty, timeEvidence(rhythm)};
  }
  if (!findings.form.empty()) {
    double sum = 0;
    for (const auto& s : findings.form) sum += s.certainty;
    brief.form = {formOf(findings), Origin::measured, 0.8 * sum / static_cast<double>(findings.form.size()),
                  "Borders where the bars change, letters where they match."};
  }
  return brief;
}

Brief briefOf(const Take& take, const GuitarPart& part, const Findings* findings) {
  Brief brief = findings != nullptr ? measuredBrief(*findings) : Brief{};
  if (take.pitch) brief.pitch = take.pitch;
  brief.guitar = setupOf(part, findings);
  if (take.key) brief.key = take.key;
  if (take.time) {
    brief.time = take.time;
  } else if (const auto tempo = take.grid ? tempoOf(take.grid->value) : std::nullopt) {
    const Swing swing = brief.time ? brief.time->value.swing : Swing{};
    brief.time = {{*tempo, meterOf(take.grid->value), swing}, take.grid->origin, 1.0, take.grid->evidence};
  }
  if (take.form) brief.form = {*take.form->value, take.form->origin, take.form->certainty, take.form->evidence};
  return brief;
}

std::string sentenceOf(const PitchValue& pitch) {
  if (wholeCents(pitch.offset) == 0) return "At concert pitch, A 440";
  return centsWords(pitch.offset) + (pitch.offset > Cents(0) ? " sharp of A 440" : " flat of A 440");
}

std::string figureOf(const PitchValue& pitch) {
  return "A4 = " + referenceWords(a4At(pitch.offset)) + ", " + signedCents(pitch.offset, 1);
}

std::string sentenceOf(const Key& key) {
  return keyName(key);
}

std::string feelOf(const Swing& swing) {
  if (swing.ratio < 1.15) return "straight";
  return (swing.level == SwingLevel::sixteenths ? "sixteenths swung " : "eighths swung ") + fixed(swing.ratio, 1) +
         " : 1";
}

std::string sentenceOf(const TimeValue& time) {
  return tempoWords(time.tempo) + ", " + std::to_string(time.meter) + " to the bar, " + feelOf(time.swing);
}

std::string sentenceOf(const Form& form) {
  constexpr std::size_t kMostLetters = 40;  // an evening's recording has hundreds of sections
  std::string text = std::to_string(form.size()) + (form.size() == 1 ? " section" : " sections");
  if (form.size() > kMostLetters) return text;
  text += ":";
  for (const auto& s : form) text += " " + s.letter;
  return text;
}

std::string_view originWord(Origin origin) {
  switch (origin) {
    case Origin::measured:
      return "measured";
    case Origin::set:
      return "set by hand";
    case Origin::confirmed:
      return "confirmed by ear";
  }
  return "";
}

}  // namespace ear
