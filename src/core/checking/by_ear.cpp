// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/checking/by_ear.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <map>

#include "core/base/parameter.h"
#include "core/base/text.h"
#include "core/theory/pitch.h"

namespace ear {
namespace {

struct Parameters {
  double near = parameter("byEar.near", 0.16, "s");           ///< farther apart a written and a heard note are no pair
  double missing = parameter("byEar.missing", 1.0, "price");  ///< of a written note that has no pair
  double unwritten = parameter("byEar.unwritten", 0.6, "price");       ///< of a heard one
  double wrong = parameter("byEar.wrong", 0.8, "price");               ///< of a pair at two pitches
  double same = parameter("byEar.same", 0.6, "semitones");             ///< within which two pitches are one
  Seconds late = parameter("byEar.late", Seconds(0.07), "s");          ///< from here on it is said
  double there = parameter("byEar.there", 0.4, "share of frames");     ///< of a note's time at its pitch: it sounds
  double strong = parameter("byEar.strong", 0.5, "of the strongest");  ///< of a pitch that sounds among others
  double clear = parameter("byEar.clear", 1.15, "ratio");              ///< against the semitones beside it
  double bent = parameter("byEar.bent", 0.85, "share of frames");      ///< that lie under the height of a bend
};
const Parameters kPar{};

struct Written {
  const Note* note;
  TimeSpan span;
  std::optional<MidiPitch> pitch;
};

/// Pitch of the string where a heard note starts, of the recording's own pitch: a pre-bend is up already.
MidiPitch startOf(const PlayedNote& p, Cents offset) {
  const MidiPitch pitch = p.bend && p.bend->before ? p.bend->to : frettedPitch(p);
  return MidiPitch(pitch.value - offset.value / 100);
}

double priceOf(const Written& w, const PlayedNote& p, Cents offset) {
  const double apart = std::abs((p.note.span.start - w.span.start).value);
  if (apart > kPar.near) return std::numeric_limits<double>::infinity();
  const bool same = !w.pitch || std::abs((startOf(p, offset) - *w.pitch).value) <= kPar.same;
  return (same ? 0.0 : kPar.wrong) + 0.5 * apart / kPar.near;
}

/// For each written note the index of the heard one that is its pair.
std::vector<std::optional<std::size_t>> pairs(const std::vector<Written>& written, std::span<const PlayedNote> heard,
                                              Cents offset) {
  const std::size_t n = written.size(), m = heard.size();
  std::vector<double> price((n + 1) * (m + 1), std::numeric_limits<double>::infinity());
  std::vector<char> step(price.size());
  const auto at = [&](std::size_t i, std::size_t k) { return i * (m + 1) + k; };
  price[0] = 0;
  for (std::size_t i = 0; i <= n; ++i)
    for (std::size_t k = 0; k <= m; ++k) {
      const auto come = [&](double cost, char way) {
        if (cost < price[at(i, k)]) price[at(i, k)] = cost, step[at(i, k)] = way;
      };
      if (i > 0 && k > 0) come(price[at(i - 1, k - 1)] + priceOf(written[i - 1], heard[k - 1], offset), 'p');
      if (i > 0) come(price[at(i - 1, k)] + kPar.missing, 'w');
      if (k > 0) come(price[at(i, k - 1)] + kPar.unwritten, 'h');
    }
  std::vector<std::optional<std::size_t>> found(n);
  for (std::size_t i = n, k = m; i > 0 || k > 0;) {
    const char way = step[at(i, k)];
    if (way == 'p') found[i - 1] = k - 1;
    if (way != 'h') --i;
    if (way != 'w') --k;
  }
  return found;
}

/// What the pitch line does while a note is written to sound, in semitones over its string's pitch, rising.
std::vector<double> linePitches(const Written& w, const F0Contour& line, double string) {
  std::vector<double> pitches;
  // A string speaks a moment after it is struck, and another one is struck a moment before the end.
  const Seconds edge = std::min(Seconds(0.02), w.span.length() * 0.15);
  const std::size_t end = std::min(line.points.size(), line.clock.frameBefore(w.span.end - edge) + 1);
  for (std::size_t i = line.clock.frameAt(w.span.start + edge); i < end; ++i)
    for (const auto& pitch : {line.points[i].pitch, line.points[i].second})
      if (pitch) pitches.push_back(pitch->value - string);
  std::sort(pitches.begin(), pitches.end());
  return pitches;
}

/// Asks the pitch line where the notes that were cut out of it do not confirm what is written.
void askLine(NoteVerdict& v, const Written& w, const F0Contour& line, const Guitar& guitar) {
  if (!w.pitch || w.note->harmonic) return;
  const double string = guitar.pitch(w.note->place) + guitar.offset.value / 100;
  const auto pitches = linePitches(w, line, string);
  if (pitches.empty()) return;
  const auto within = [&](double low, double high) {
    return static_cast<double>(std::upper_bound(pitches.begin(), pitches.end(), high) -
                               std::lower_bound(pitches.begin(), pitches.end(), low)) /
           static_cast<double>(pitches.size());
  };
  const auto& bend = w.note->bend;
  const double top = bend && bend->size ? bend->size->value / 100 : 0.0;
  if (v.kind != NoteVerdict::Kind::heard && within(-kPar.same, top + kPar.same) >= kPar.there) {
    v.kind = NoteVerdict::Kind::heard;
    v.heard = w.pitch, v.late = Seconds(0);
    v.certainty = within(-kPar.same, top + kPar.same);
  }
  if (v.kind != NoteVerdict::Kind::heard) return;
  if (!bend) {
    // What goes up at the end belongs to the note that is led to.
    v.bendDiffers = v.bendDiffers && within(-kPar.same, kPar.same) < kPar.there;
  } else if (bend->size && (!v.bendHeard || v.bendDiffers)) {
    const auto at = static_cast<std::size_t>(kPar.bent * static_cast<double>(pitches.size() - 1));
    if (pitches[at] < 0.25) return;
    v.bendHeard = Cents(100 * pitches[at]);
    v.bendDiffers = std::abs((*v.bendHeard - *bend->size).value) > kBendTolerance.value;
  }
}

/// Share of a note's frames in which its pitch stands out from its neighbours, among the strongest that sound.
double supported(const Written& w, const PitchSalience& salience, const FrameClock& clock, double pitch) {
  constexpr int kStep = PitchSalience::kBinsPerSemitone;
  const int bin = static_cast<int>(std::lround((pitch - PitchSalience::kLowest) * kStep));
  if (bin < 2 * kStep || bin + 2 * kStep >= PitchSalience::kBins) return 0.0;
  const auto around = [&](std::span<const float> frame, int middle) {
    return *std::max_element(frame.begin() + middle - 1, frame.begin() + middle + 2);
  };
  const std::size_t from = clock.frameAt(w.span.start), end = std::min(salience.count(), clock.frameAt(w.span.end));
  int there = 0;
  for (std::size_t i = from; i < end; ++i) {
    const auto frame = salience.frame(i);
    const float own = around(frame, bin), most = *std::max_element(frame.begin(), frame.end());
    const float beside = std::max(around(frame, bin - kStep), around(frame, bin + kStep));
    if (own >= kPar.strong * most && own >= kPar.clear * beside) ++there;
  }
  return end > from ? static_cast<double>(there) / static_cast<double>(end - from) : 0.0;
}

void judge(NoteVerdict& v, const Written& w, const PlayedNote& p, Cents offset) {
  v.heard = startOf(p, offset);
  v.late = p.note.span.start - w.span.start;
  v.certainty = static_cast<double>(std::clamp(p.note.certainty, 0.0F, 1.0F));
  v.kind = !w.pitch || std::abs((*v.heard - *w.pitch).value) <= kPar.same ? NoteVerdict::Kind::heard
                                                                          : NoteVerdict::Kind::somethingElse;
  if (p.bend) v.bendHeard = p.bend->size();
  const auto& bend = w.note->bend;
  if (bend && bend->size && v.bendHeard)
    v.bendDiffers = std::abs((*bend->size - *v.bendHeard).value) > kBendTolerance.value;
  else if (v.kind == NoteVerdict::Kind::heard)
    v.bendDiffers = bend.has_value() != v.bendHeard.has_value();
}

}  // namespace

EarCheck checkByEar(std::span<const Note> notes, const HeardVoice& voice, const PitchSalience& salience,
                    const PhraseTime& time, const Guitar& guitar) {
  const std::span<const PlayedNote> heard = voice.notes;
  EarCheck check;
  std::vector<Written> written;
  for (const Note& n : notes) {
    const auto span = time.spanOf(n);
    // What is dead or ghosted has no pitch to be heard by.
    if (!span || n.tone == Tone::dead || n.place.string >= guitar.strings())
      check.verdicts.push_back({.note = n.id});
    else
      written.push_back({&n, *span, pitchAtStart(guitar, n)});
  }
  std::stable_sort(written.begin(), written.end(),
                   [](const Written& a, const Written& b) { return a.span.start < b.span.start; });
  const auto found = pairs(written, heard, guitar.offset);
  std::vector<bool> used(heard.size());
  for (std::size_t i = 0; i < written.size(); ++i) {
    NoteVerdict v{.note = written[i].note->id, .kind = NoteVerdict::Kind::notHeard};
    if (found[i]) judge(v, written[i], heard[*found[i]], guitar.offset), used[*found[i]] = true;
    if (v.kind != NoteVerdict::Kind::heard || v.bendDiffers) askLine(v, written[i], voice.line, guitar);
    if (v.kind != NoteVerdict::Kind::heard && written[i].pitch) {
      const double pitch = written[i].pitch->value + guitar.offset.value / 100;
      const double share = supported(written[i], salience, voice.line.clock, pitch);
      if (share >= kPar.there) v.kind = NoteVerdict::Kind::heard, v.late = Seconds(0), v.certainty = share;
    }
    check.verdicts.push_back(v);
  }
  if (written.empty()) return check;
  const Seconds from = written.front().span.start - Seconds(kPar.near),
                to = written.back().span.start + Seconds(kPar.near);
  for (std::size_t k = 0; k < heard.size(); ++k)
    if (!used[k] && heard[k].note.span.start >= from && heard[k].note.span.start <= to)
      check.unwritten.push_back(heard[k]);
  return check;
}

double shareHeard(const EarCheck& check) {
  int heard = 0, of = 0;
  for (const NoteVerdict& v : check.verdicts) {
    if (v.kind == NoteVerdict::Kind::timeless) continue;
    ++of;
    if (v.kind == NoteVerdict::Kind::heard && !v.bendDiffers) ++heard;
  }
  return of > 0 ? static_cast<double>(heard) / of : 0.0;
}

std::optional<int> commonShift(const EarCheck& check, std::span<const Note> notes, const Guitar& guitar) {
  constexpr int kLeast = 4;
  std::map<int, int> apart;
  int pitched = 0;
  for (const NoteVerdict& v : check.verdicts) {
    const auto note = std::find_if(notes.begin(), notes.end(), [&](const Note& n) { return n.id == v.note; });
    const auto written = note != notes.end() ? pitchAtStart(guitar, *note) : std::nullopt;
    if (!written || v.kind == NoteVerdict::Kind::timeless) continue;
    ++pitched;
    if (v.heard) ++apart[static_cast<int>(std::lround((*v.heard - *written).value))];
  }
  const auto most =
      std::max_element(apart.begin(), apart.end(), [](const auto& a, const auto& b) { return a.second < b.second; });
  if (most == apart.end() || most->first == 0 || most->second < kLeast || 2 * most->second <= pitched)
    return std::nullopt;
  return most->first;
}

std::string sentenceOf(const NoteVerdict& v, const Note& note, const Guitar& guitar, Spelling spelling) {
  using Kind = NoteVerdict::Kind;
  const auto name = [&](MidiPitch pitch) { return noteName(static_cast<int>(std::lround(pitch.value)), spelling); };
  if (v.kind == Kind::timeless) return {};
  if (v.kind == Kind::notHeard) return "Nothing starts here.";
  std::string text;
  if (v.kind == Kind::somethingElse) {
    const auto written = pitchAtStart(guitar, note);
    text = name(*v.heard) + " is heard here" + (written ? ", not " + name(*written) : "") + ".";
    // Over all nodes but the twelfth a harmonic and the fretted note are two pitches.
    const int midi = static_cast<int>(std::lround(v.heard->value)), fretted = guitar.pitch(note.place);
    const bool natural = note.harmonic && note.harmonic->kind == PlayedHarmonic::Kind::natural;
    if (natural && midi == fretted) text += " It is fretted, by that.";
    if (!note.harmonic && written) {
      Note touched = note;
      touched.harmonic = PlayedHarmonic{};
      const auto sounds = pitchAtStart(guitar, touched);
      if (sounds && std::lround(sounds->value) == midi) text += " A harmonic over the fret would sound so.";
    }
  }
  const auto add = [&](const std::string& sentence) { text += (text.empty() ? "" : " ") + sentence; };
  if (v.bendDiffers) {
    if (!v.bendHeard)
      add("No bend is heard.");
    else if (!note.bend || !note.bend->size)
      add("It is bent by " + fixed(v.bendHeard->value, 0) + " cents.");
    else
      add("It is bent by " + fixed(v.bendHeard->value, 0) + " cents, written are " + fixed(note.bend->size->value, 0) +
          ".");
  }
  if (std::abs(v.late.value) >= kPar.late.value)
    add("It comes " + fixed(std::abs(v.late.value) * 1000, 0) + " ms " + (v.late > Seconds(0) ? "late." : "early."));
  return text;
}

}  // namespace ear
