// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/checking/manner.h"

#include <algorithm>
#include <cmath>
#include <string_view>

#include "core/base/parameter.h"
#include "core/base/text.h"
#include "core/listening/rhythm/strokes.h"

namespace ear {
namespace {

constexpr Seconds kNear{0.12};                            // of a written and a heard start
constexpr Seconds kFrom{0.02}, kOver{0.12}, kLong{0.04};  // behind an attack, where fading is measured
constexpr Seconds kLeastTremolo{0.33}, kEarly{0.04};      // of its length; by which a stroke may come before it
constexpr double kMiscounted = 1.2;                       // strokes that are missed or heard twice
constexpr std::string_view kMeasured = "39 licks of two sources (seeds 6601, 6606), 2026-11-29";

struct Parameters {
  Cents wide = parameter("manner.wide", Cents(18), "cents", kMeasured);  ///< of a vibrato that is told
  double otherFret = parameter("manner.otherFret", 1.5, "semitones");
  double muted = parameter("manner.muted", 3.5, "dB", kMeasured);      ///< that a palm-muted note loses at least
  double ringing = parameter("manner.ringing", 8.0, "dB", kMeasured);  ///< that one that rings loses at most
};
const Parameters kPar{};

/// Greatest level around a pitch in a stretch of time; 0 outside of what was measured.
double levelIn(const PitchSalience& salience, const FrameClock& clock, TimeSpan span, double pitch) {
  const int bin = static_cast<int>(std::lround((pitch - PitchSalience::kLowest) * PitchSalience::kBinsPerSemitone));
  if (bin < 1 || bin + 1 >= PitchSalience::kBins) return 0.0;
  float most = 0;
  const std::size_t end = std::min(salience.count(), clock.frameAt(span.end) + 1);
  for (std::size_t i = clock.frameAt(span.start); i < end; ++i)
    for (int b = bin - 1; b <= bin + 1; ++b)
      most = std::max(most, salience.level[i * PitchSalience::kBins + static_cast<std::size_t>(b)]);
  return static_cast<double>(most);
}

bool isHeard(const EarCheck& check, const Note& note) {
  return std::any_of(check.verdicts.begin(), check.verdicts.end(),
                     [&](const NoteVerdict& v) { return v.note == note.id && v.kind == NoteVerdict::Kind::heard; });
}

const PlayedNote* heardAt(const HeardVoice& voice, Seconds start) {
  const PlayedNote* nearest = nullptr;
  for (const PlayedNote& p : voice.notes) {
    const auto away = [&](const PlayedNote& n) { return std::abs((n.note.span.start - start).value); };
    if (away(p) <= kNear.value && (nearest == nullptr || away(p) < away(*nearest))) nearest = &p;
  }
  return nearest;
}

/// The fret on its string that a note is slid into from, as written.
std::optional<int> writtenSlide(std::span<const Note> notes, std::size_t i) {
  const Note& n = notes[i];
  if (n.attack != Attack::slidInto) return std::nullopt;
  if (n.slidFrom) return n.slidFrom;
  for (std::size_t k = i; k-- > 0;)
    if (notes[k].place.string == n.place.string) return notes[k].place.fret;
  return std::nullopt;
}

}  // namespace

Manner mannerOf(const Note& note, const PlayedNote* heard, const HeardVoice& voice, const PitchSalience& salience,
                const Guitar& guitar) {
  Manner manner;
  if (heard != nullptr) {
    if (heard->vibrato) manner.vibrato = heard->vibrato->width;
    if (heard->slide) manner.slid = MidiPitch(heard->slide->from.value - guitar.offset.value / 100);
  }
  if (!note.free) return manner;
  for (const PlayedNote& p : voice.notes)
    if (p.bend && p.bend->again && p.note.span.start > note.free->start + kNear &&
        p.note.span.start < note.free->end - kNear)  // what starts there is the next note
      ++manner.again;
  const auto pitch = pitchAtStart(guitar, note);
  if (!pitch || note.bend) return manner;  // what moves away does not fade
  const double sounding = pitch->value + guitar.offset.value / 100;
  const Seconds start = heard != nullptr ? heard->note.span.start : note.free->start;
  const FrameClock& clock = voice.line.clock;
  const double before = levelIn(salience, clock, {start + kFrom, start + kFrom + kLong}, sounding);
  const double after = levelIn(salience, clock, {start + kOver, start + kOver + kLong}, sounding);
  if (before > 0) manner.fading = 20 * std::log10(before / std::max(after, 1e-3 * before));
  return manner;
}

std::vector<MannerDoubt> mannerDoubts(std::span<const Note> notes, const EarCheck& check, const HeardVoice& voice,
                                      const PitchSalience& salience, const Guitar& guitar) {
  using Kind = MannerDoubt::Kind;
  std::vector<MannerDoubt> doubts;
  for (std::size_t i = 0; i < notes.size(); ++i) {
    const Note& n = notes[i];
    if (!n.free || !isHeard(check, n)) continue;
    const Manner manner = mannerOf(n, heardAt(voice, n.free->start), voice, salience, guitar);
    const auto tell = [&](Kind kind, double value) { doubts.push_back({n.id, kind, value}); };
    if (!n.vibrato && !n.trill && manner.vibrato && *manner.vibrato >= kPar.wide)
      tell(Kind::vibrato, manner.vibrato->value);
    if (const auto from = writtenSlide(notes, i); from && manner.slid)
      if (const double fret = manner.slid->value - guitar.open(n.place.string); std::abs(fret - *from) > kPar.otherFret)
        tell(Kind::slidFrom, std::round(fret));
    if (n.palmMuted && manner.fading && *manner.fading < kPar.muted) tell(Kind::ringsOn, *manner.fading);
    if (n.letRing && manner.fading && *manner.fading > kPar.ringing) tell(Kind::damped, *manner.fading);
    if (n.bend && manner.again != n.bend->again) tell(Kind::again, manner.again);
  }
  return doubts;
}

std::vector<MannerDoubt> strokeDoubts(std::span<const Note> notes, const EarCheck& check, const Recording& passage) {
  std::vector<MannerDoubt> doubts;
  for (const Note& n : notes) {
    if (!n.tremolo || !n.free || n.free->length() < kLeastTremolo || !isHeard(check, n)) continue;
    // Of the note alone, so that a louder one elsewhere does not hide its strokes.
    const TimeSpan around{std::max(Seconds(0), n.free->start - kNear), n.free->end + kNear};
    const PassageStrokes heard = measureStrokes(excerpt(passage, around));
    if (heard.repeats == Repeats::tremolo) continue;  // a wave of loudness has no strokes to count
    const Seconds from = n.free->start - around.start - kEarly, to = n.free->end - around.start - kEarly;
    const auto count = std::count_if(heard.attacks.begin(), heard.attacks.end(),
                                     [&](const StruckMoment& s) { return s.time >= from && s.time < to; });
    const double written = n.tremolo->strokesInBeat * n.length.value();
    if (std::abs(static_cast<double>(count) - written) > kMiscounted)
      doubts.push_back({n.id, MannerDoubt::Kind::strokes, static_cast<double>(count)});
  }
  return doubts;
}

std::string sentenceOf(const MannerDoubt& doubt) {
  const std::string value = fixed(doubt.value, 0);
  switch (doubt.kind) {
    case MannerDoubt::Kind::vibrato:
      return "It is shaken by " + value + " cents, and no vibrato is written.";
    case MannerDoubt::Kind::slidFrom:
      return "The slide comes from about fret " + value + ".";
    case MannerDoubt::Kind::ringsOn:
      return "It rings on: no palm mute by its sound.";
    case MannerDoubt::Kind::damped:
      return "It is damped soon, and written to ring.";
    case MannerDoubt::Kind::again:
      return doubt.value == 0 ? std::string("It is not heard struck again.")
                              : "It is struck again " + value + (doubt.value == 1 ? " time." : " times.");
    case MannerDoubt::Kind::strokes:
      return value + " strokes are counted while it lasts.";
  }
  return {};
}

}  // namespace ear
