// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/phrasebench/note_words.h"

#include <algorithm>
#include <cmath>

#include "app/theme/words.h"
#include "app/workbench/workbench.h"
#include "core/base/text.h"
#include "core/theory/interval.h"

namespace ear {
namespace {

constexpr double kOffGrid = 0.12;  // beats
constexpr double kManner = 0.7;    // weight of how a note is played, below what it is

QString tr(const char* words) {
  return QObject::tr(words);
}

QStringList gestureWords(const Note& n, const NotationPreferences& schools) {
  QStringList words;
  if (n.bend) {
    QString bend = n.bend->size ? tr("bent %1 (%2 cents)")
                                      .arg(text(bendName(schools, *n.bend->size)))
                                      .arg(text(fixed(n.bend->size->value, 0)))
                                : tr("bent, no size yet");
    if (n.bend->before) bend += tr(", before the stroke");
    if (n.bend->released) bend += tr(", let down");
    if (n.bend->again > 0) bend += tr(", struck again %1 times").arg(n.bend->again);
    words << bend;
  }
  static constexpr const char* kAttacks[] = {
      "", "hammered on", "pulled off", "slid into", "slid from below", "slid from above", "tapped", "raked"};
  if (n.attack != Attack::plucked) words << tr(kAttacks[static_cast<std::size_t>(n.attack)]);
  if (n.vibrato) words << tr("vibrato");
  if (n.palmMuted) words << tr("palm muted");
  if (n.letRing) words << tr("rings on");
  if (n.staccato) words << tr("staccato");
  return words;
}

/// "The 5 of B♭7", where a chord sounds under the note.
QString chordTone(const Workbench& bench, const PhraseKeeper::View& view, const Note& note) {
  const Phrase* p = bench.phrases().phrase();
  const auto pitch = pitchAtStart(view.guitar, note);
  if (p == nullptr || !pitch) return {};
  const Seconds at = (note.free ? note.free->start : bench.phrases().timeOf(*p, note.at)) + Transport::kBlink;
  const auto chord = bench.chords().at(at);
  if (!chord || !chord->chord) return {};
  const int above = PitchClass(static_cast<int>(std::lround(pitch->value)) - chord->chord->root.value).value;
  const auto tones = notesOf(*chord->chord);
  const bool inside = std::any_of(tones.begin(), tones.end(), [&](PitchClass pc) {
    return pc == PitchClass(static_cast<int>(std::lround(pitch->value)));
  });
  return tr("%1 of %2%3")
      .arg(text(degreeName(above)), text(bench.session().chordWords(*chord->chord).sounding),
           inside ? QString() : tr(", beside the chord"));
}

/// A natural harmonic that sounds what the stopped string would, as over the twelfth fret: no listening tells the two
/// apart (bench/RESULTS.md).
bool soundsAsStopped(const Guitar& guitar, const Note& n) {
  const auto pitch = pitchAtStart(guitar, n);
  return n.harmonic && n.harmonic->kind == PlayedHarmonic::Kind::natural && pitch &&
         std::lround(pitch->value) == guitar.pitch(n.place);
}

const Note* find(const PhraseKeeper::View& view, int id) {
  for (const ShownNote& s : view.shown.notes)
    if (s.note.id == id) return &s.note;
  return nullptr;
}

}  // namespace

QString noteSentence(const Workbench& bench, const Guitar& guitar, const Note& note) {
  const NotationPreferences& schools = bench.session().notation();
  const Spelling spelling = bench.session().spelling();
  QString place = text(placeName(schools, guitar, note.place, bench.document().fretsFromNut(), spelling));
  const auto pitch = pitchAtStart(guitar, note);
  if (!pitch) return place;
  const int midi = static_cast<int>(std::lround(pitch->value));
  QString name = text(noteName(midi, spelling));
  if (const auto key = settled(bench.brief().key))
    name += tr(", %1 in %2").arg(text(degreeName(midi - key->tonic.value)), text(keyName(*key, spelling)));
  return tr("%1; %2").arg(name, place);
}

QString noteTip(const Workbench& bench, int id) {
  if (id < 0) {
    const auto i = static_cast<std::size_t>(-1 - id);
    const auto& offered = bench.phraseEar().suggestions();
    if (i >= offered.size()) return {};
    const Suggestion& s = offered[i];
    QString tip = tr("Heard, not written yet: %1").arg(noteSentence(bench, bench.phrases().view().guitar, s.note));
    if (std::abs(s.moved.value) > 0.005)
      tip += tr("\nPut on the beat: moved by %1 ms").arg(text(withSign(s.moved.value * 1000, 0)));
    return tip;
  }
  const PhraseKeeper::View& view = bench.phrases().view();
  const Note* n = find(view, id);
  if (n == nullptr) return {};
  QStringList lines{noteSentence(bench, view.guitar, *n)};
  if (const auto gestures = gestureWords(*n, bench.session().notation()); !gestures.isEmpty())
    lines << capitalised(gestures.join(", "));
  QString standing = capitalised(text(originWord(n->origin)));
  if (n->origin == Origin::measured) standing += ", " + text(certaintyWord(n->certainty));
  if (!n->why.empty()) standing += ": " + text(n->why);
  lines << standing;
  if (const QString tone = chordTone(bench, view, *n); !tone.isEmpty()) lines << tone;
  for (const NoteReading& r : n->readings)
    lines << tr("Or: %1%2")
                 .arg(text(placeName(bench.session().notation(), view.guitar, r.place, bench.document().fretsFromNut(),
                                     bench.session().spelling())),
                      r.why.empty() ? QString() : tr(" (%1)").arg(text(r.why)));
  for (const Doubt& d : doubtsOf(bench))
    if (d.note == id) lines << d.sentence;
  const NoteVerdict* verdict = bench.phraseEar().verdictOf(*n);
  if (verdict != nullptr && verdict->kind == NoteVerdict::Kind::heard && soundsAsStopped(view.guitar, *n))
    lines << tr("Heard at its pitch. A stopped string sounds the same here: listen which of the two it is.");
  return lines.join('\n');
}

namespace {

/// How far a late or early note is off in beats; empty where it is not worth a word.
QString onGrid(const Workbench& bench, const Note& note, Seconds late) {
  const Phrase* p = bench.phrases().phrase();
  if (p == nullptr || !bench.phrases().view().timed || note.free) return {};
  const Seconds written = bench.phrases().timeOf(*p, note.at);
  const double beats = bench.phrases().placeOf(*p, written + late) - bench.phrases().placeOf(*p, written);
  return std::abs(beats) < kOffGrid ? QString()
                                    : QObject::tr(" That is %1 of a beat.").arg(text(fixed(std::abs(beats), 2)));
}

}  // namespace

std::vector<Doubt> doubtsOf(const Workbench& bench) {
  const PhraseKeeper::View& view = bench.phrases().view();
  const SlipContext context = bench.phrases().slipContext();
  const NotationPreferences& schools = bench.session().notation();
  const Spelling spelling = bench.session().spelling();
  std::vector<Doubt> doubts;
  for (const Slip& slip : view.slips) {
    static constexpr double kWeights[] = {3.0, 1.5, 1.0};
    doubts.push_back({slip.notes.front(), slip.at, text(sentenceOf(slip, context, schools, spelling)), false,
                      kWeights[static_cast<std::size_t>(slip.weight())]});
  }
  for (const ShownNote& s : view.shown.notes) {
    const NoteVerdict* v = bench.phraseEar().verdictOf(s.note);
    // Where all of it is beside what sounds, no note is at fault by itself.
    if (v == nullptr || bench.phraseEar().commonShift()) continue;
    for (const MannerDoubt& d : bench.phraseEar().mannerOf(s.note))
      doubts.push_back({s.note.id, s.note.at, text(sentenceOf(d)), true, kManner});
    QString sentence = text(sentenceOf(*v, s.note, view.guitar, spelling));
    if (sentence.isEmpty()) continue;
    sentence += onGrid(bench, s.note, v->late);
    const double weight = v->kind == NoteVerdict::Kind::somethingElse ? 1.5 + v->certainty
                          : v->kind == NoteVerdict::Kind::notHeard    ? 1.4
                          : v->bendDiffers                            ? 1.3
                                                                      : 0.5;
    doubts.push_back({s.note.id, s.note.at, sentence, true, weight});
  }
  std::stable_sort(doubts.begin(), doubts.end(), [](const Doubt& a, const Doubt& b) { return a.weight > b.weight; });
  return doubts;
}

std::map<int, HeadCheck> checksOf(const Workbench& bench) {
  std::map<int, HeadCheck> checks;
  const PhraseKeeper::View& view = bench.phrases().view();
  for (const ShownNote& s : view.shown.notes) {
    const NoteVerdict* v = bench.phraseEar().verdictOf(s.note);
    if (v == nullptr) continue;
    if (v->kind == NoteVerdict::Kind::notHeard) checks[s.note.id] = HeadCheck::notHeard;
    if (v->kind == NoteVerdict::Kind::somethingElse) checks[s.note.id] = HeadCheck::other;
    if (v->kind == NoteVerdict::Kind::heard) checks[s.note.id] = v->bendDiffers ? HeadCheck::other : HeadCheck::heard;
  }
  for (const Slip& slip : view.slips)
    if (slip.weight() == Slip::Weight::wrong)
      for (const int id : slip.notes) checks[id] = HeadCheck::impossible;
  return checks;
}

TabScore withOffered(const Workbench& bench) {
  const PhraseKeeper::View& view = bench.phrases().view();
  ShownPhrase all = view.shown;
  int id = 0;
  for (const Suggestion& s : bench.phraseEar().suggestions()) {
    all.notes.push_back({s.note, false});
    all.notes.back().note.id = --id;
  }
  std::stable_sort(all.notes.begin(), all.notes.end(),
                   [](const ShownNote& a, const ShownNote& b) { return a.note.at < b.note.at; });
  return engrave(all, {view.guitar, bench.session().notation(), bench.document().fretsFromNut(), view.score.barLines});
}

void playWritten(Workbench& bench) {
  std::vector<int> pitches;
  for (const Note& n : bench.phrases().chosenNotes())
    if (const auto pitch = pitchAtStart(bench.phrases().view().guitar, n))
      pitches.push_back(static_cast<int>(std::lround(pitch->value)));
  if (pitches.size() == 1)
    bench.voice().tone(pitches.front());
  else if (!pitches.empty())
    bench.voice().strum(std::move(pitches));
}

void loopChosen(Workbench& bench) {
  const Phrase* p = bench.phrases().phrase();
  const auto some = bench.phrases().chosenNotes();
  if (p == nullptr || some.empty()) return;
  const PhraseTime time = bench.phrases().timing(*p);
  std::optional<TimeSpan> span;
  for (const Note& n : some)
    if (const auto own = time.spanOf(n))
      span = span ? TimeSpan{std::min(span->start, own->start), std::max(span->end, own->end)} : *own;
  if (!span) return bench.say(tr("The beats of this take are not known. Tap the beat with T."));
  constexpr Seconds kLead{0.04}, kLeast{0.4};
  bench.selection().playSpot({span->start - kLead, std::max(span->end, span->start + kLeast)});
}

}  // namespace ear
