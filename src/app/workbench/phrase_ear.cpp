// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/workbench/phrase_ear.h"

#include <algorithm>
#include <cmath>

#include "app/theme/words.h"
#include "app/workbench/workbench.h"
#include "core/checking/near_repeat.h"
#include "core/listening/frontend/spectra.h"
#include "core/listening/melody/voices.h"
#include "core/playback/isolator.h"
#include "core/theory/pitch.h"

namespace ear {
namespace {

constexpr Seconds kAround{0.3};         // heard before and behind the notes that are checked
constexpr double kLengthApart = 0.2;    // of a phrase that may be recorded alike
constexpr std::size_t kFewNotes = 4;    // of a phrase that may sound somewhere by chance
constexpr std::size_t kMostOthers = 6;  // that are tried
constexpr double kSoundsHere = 0.9;     // of the notes of a phrase, for it to sound where another one is written

TimeSpan moved(TimeSpan span, Seconds by) {
  return {span.start + by, span.end + by};
}

/// Notes whose times count from a place of the take, in its own time.
std::vector<PlayedNote> from(std::vector<PlayedNote> notes, Seconds start) {
  for (PlayedNote& n : notes) {
    n.note.span = moved(n.note.span, start);
    if (n.bend) n.bend->rise = moved(n.bend->rise, start);
    if (n.bend && n.bend->released) *n.bend->released += start;
    if (n.vibrato) n.vibrato->span = moved(n.vibrato->span, start);
    if (n.slide) n.slide->span = moved(n.slide->span, start);
  }
  return notes;
}

}  // namespace

PhraseEar::PhraseEar(Workbench& bench) : QObject(&bench), bench_(bench), job_(this) {
  connect(&job_, &BackgroundJob::progressed, this, &PhraseEar::progressed);
  connect(&job_, &BackgroundJob::failed, &bench.session(), &Session::said);
  connect(&job_, &BackgroundJob::finished, this, &PhraseEar::changed);
  connect(&bench.phrases(), &PhraseKeeper::changed, this, [this] {
    const Phrase* p = bench_.phrases().phrase();
    const std::string now = p != nullptr ? p->id : "";
    if (now == phrase_) return;
    // What was heard of a passage goes on into the phrase that is begun over it.
    if (phrase_.empty() && p->span == heardSpan_) {
      phrase_ = now;
      return;
    }
    phrase_ = now;
    forgetHeard();
  });
  connect(&bench.analysis(), &Analysis::soundChanged, this, [this] {
    job_.cancel();
    forgetHeard();
  });
}

PhraseEar::~PhraseEar() {
  const QSignalBlocker quiet(this);
  job_.cancel();
}

void PhraseEar::forgetHeard() {
  walking_ = false;
  suggestions_.clear(), verdicts_.clear(), unwritten_.clear(), shift_.reset(), alike_.reset();
  emit changed();
}

Isolation PhraseEar::isolationOfPart() const {
  const Isolation& set = bench_.transport().sounding().isolation;
  if (!set.plain()) return set;
  Isolation side;
  const Side where = bench_.document().part().side;
  if (bench_.document().parts().size() > 1 && where != Side::centre)
    side.channel = where == Side::left ? Isolation::Channel::left : Isolation::Channel::right;
  return side;
}

std::optional<TimeSpan> PhraseEar::spanToHear() const {
  if (const Phrase* p = bench_.phrases().phrase()) return p->span;
  return bench_.selection().passage();
}

/// Notes at the beats of the phrase in hand with their seconds, counted from a place of the take; those without a time
/// are left out.
std::vector<Note> PhraseEar::timedNotes(std::span<const Note> notes, Seconds start) const {
  std::vector<Note> timed;
  const Phrase* p = bench_.phrases().phrase();
  if (p == nullptr) return timed;
  const PhraseTime time = bench_.phrases().timing(*p);
  for (const Note& n : notes)
    if (const auto span = time.spanOf(n)) {
      timed.push_back(n);
      timed.back().free = moved(*span, -start);
    }
  return timed;
}

/// Phrases of the same guitar that are about as long and written otherwise, as if they stood here.
std::vector<std::pair<PhraseEar::Alike, std::vector<Note>>> PhraseEar::writtenOtherwise(Seconds start) const {
  std::vector<std::pair<Alike, std::vector<Note>>> others;
  const PhraseKeeper& phrases = bench_.phrases();
  const Phrase* own = phrases.phrase();
  if (own == nullptr || own->link || phrases.level() > 0) return others;
  for (const Phrase* p : phrases.ofTake()) {
    const double longer = p->span.length() / own->span.length();
    if (p == own || p->part != own->part || p->link || longer < 1 - kLengthApart || longer > 1 + kLengthApart) continue;
    const std::vector<Note>& theirs = phrases.viewOf(*p).notes;
    const auto apart = std::max(differingFrom(theirs, phrases.view().notes).size(),
                                differingFrom(phrases.view().notes, theirs).size());
    const bool beats = std::none_of(theirs.begin(), theirs.end(), [](const Note& n) { return n.free.has_value(); });
    if (theirs.size() >= kFewNotes && beats && apart > 0 && others.size() < kMostOthers)
      others.push_back({{p->id, static_cast<int>(apart)}, timedNotes(theirs, start)});
  }
  return others;
}

void PhraseEar::hear(TimeSpan span, For what) {
  if (!bench_.transport().hasSound()) return bench_.say(tr("The recording is not there yet."));
  if (span.length() > EarKeeper::kLongest)
    return bench_.say(tr("The passage is too long to be heard note by note: take one of up to %1 seconds.")
                          .arg(std::lround(EarKeeper::kLongest.value)));
  const Phrase* p = bench_.phrases().phrase();
  job_.run([this, recording = bench_.transport().player().shared(), span, what, isolation = isolationOfPart(),
            guitar = bench_.phrases().view().guitar, timed = timedNotes(bench_.phrases().view().notes, span.start),
            others = what == For::check ? writtenOtherwise(span.start) : decltype(writtenOtherwise({})){},
            offset = bench_.document().offset(),
            id = p != nullptr ? p->id : std::string()](const Progress& progress, const BackgroundJob::Post& post) {
    const Recording part = isolatedPart(recording, span, isolation);
    const auto voice = std::make_shared<const HeardVoice>(what == For::everyVoice ? hearAllNotes(part, offset, progress)
                                                                                  : hearVoice(part, offset, progress));
    if (progress.cancelled()) return;
    std::shared_ptr<const Found> found;
    if (what == For::check) {
      const TimeMap noBeats;  // the notes have their seconds
      const PitchSalience salience = measureSalience(listeningMono(part), progress);
      const auto checked = [&](const std::vector<Note>& notes) {
        return checkByEar(notes, *voice, salience, {{}, noBeats}, guitar);
      };
      Found all{checked(timed)};
      all.manner = mannerDoubts(timed, all.check, *voice, salience, guitar);
      const auto strokes = strokeDoubts(timed, all.check, part);
      all.manner.insert(all.manner.end(), strokes.begin(), strokes.end());
      double most = kSoundsHere;
      for (const auto& [other, notes] : others)
        if (const double share = shareHeard(checked(notes)); share >= most && !progress.cancelled())
          most = share, all.alike = other;
      found = std::make_shared<const Found>(std::move(all));
    }
    if (progress.cancelled()) return;
    post([this, voice, found, span, what, id] {
      const Phrase* now = bench_.phrases().phrase();
      if ((now != nullptr ? now->id : "") != id) return;
      if (found)
        keepVerdicts(*found, span);
      else
        useVoice(*voice, span, what == For::walk);
    });
  });
  emit changed();
}

// --- suggestions -----------------------------------------------------------------------------------------------

void PhraseEar::suggest() {
  hearPassage(For::suggestions);
}

void PhraseEar::suggestEveryVoice() {
  hearPassage(For::everyVoice);
}

void PhraseEar::hearPassage(For what) {
  if (const auto span = spanToHear())
    hear(*span, what);
  else
    bench_.say(tr("Take a passage first: drag one, or press O to loop the bar at the playhead."));
}

void PhraseEar::useVoice(const HeardVoice& voice, TimeSpan span, bool thenWalk) {
  heardSpan_ = span;
  // The steps of a walk are passages themselves: the phrase has to be there before.
  if (thenWalk && bench_.phrases().phrase() == nullptr) bench_.phrases().begin();
  const PhraseKeeper& phrases = bench_.phrases();
  Phrase here;
  here.span = span;
  if (const Phrase* p = phrases.phrase()) here = *p;
  const PhraseTime time = phrases.timing(here);
  const Guitar guitar = phrases.phrase() != nullptr ? phrases.view().guitar : bench_.document().guitar();
  auto found = suggestionsFor(from(voice.notes, span.start), time, {guitar, phrases.wishes()});
  if (found.empty())
    bench_.say(tr("No voice that stands out is heard here. Isolate the guitar, or take another passage."));
  if (thenWalk && !found.empty()) {
    heard_ = std::move(found);
    step_ = agreed_ = 0;
    word_.clear(), said_.clear();
    walking_ = true;
    suggestions_.clear();
    playStep();
  } else {
    suggestions_ = std::move(found);
  }
  emit changed();
}

void PhraseEar::takeNext() {
  if (suggestions_.empty()) return;
  const Suggestion first = suggestions_.front();
  suggestions_.erase(suggestions_.begin());
  bench_.phrases().putNotes(tr("Take what was heard"), {first.note});
  emit changed();
}

void PhraseEar::takeAll() {
  if (suggestions_.empty()) return;
  std::vector<Note> all;
  for (const Suggestion& s : suggestions_) all.push_back(s.note);
  suggestions_.clear();
  bench_.phrases().putNotes(tr("Take all that was heard"), std::move(all));
  emit changed();
}

void PhraseEar::dropSuggestions() {
  suggestions_.clear();
  emit changed();
}

void PhraseEar::offer(std::vector<Suggestion> notes) {
  if (bench_.phrases().phrase() == nullptr) bench_.phrases().begin();
  suggestions_ = std::move(notes);
  emit changed();
}

// --- check -----------------------------------------------------------------------------------------------------

void PhraseEar::check() {
  const Phrase* p = bench_.phrases().phrase();
  if (p == nullptr || bench_.phrases().view().shown.notes.empty())
    return bench_.say(tr("There is nothing to check yet: write the notes of a phrase first."));
  const PhraseTime time = bench_.phrases().timing(*p);
  std::optional<TimeSpan> all;
  for (const ShownNote& s : bench_.phrases().view().shown.notes)
    if (const auto span = time.spanOf(s.note))
      all = all ? TimeSpan{std::min(all->start, span->start), std::max(all->end, span->end)} : *span;
  if (!all)
    return bench_.say(
        tr("The beats of this take are not known, so that it cannot be said when these notes sound. Tap "
           "the beat with T."));
  hear({std::max(Seconds(0), all->start - kAround), std::min(bench_.analysis().duration(), all->end + kAround)},
       For::check);
}

void PhraseEar::keepVerdicts(const Found& found, TimeSpan span) {
  verdicts_.clear();
  for (const Note& n : bench_.phrases().view().notes)
    for (const NoteVerdict& v : found.check.verdicts)
      if (v.note == n.id) verdicts_[n.id] = {n, v};
  for (const MannerDoubt& d : found.manner)
    if (const auto of = verdicts_.find(d.note); of != verdicts_.end()) of->second.manner.push_back(d);
  alike_ = found.alike;
  shift_ = ear::commonShift(found.check, bench_.phrases().view().notes, bench_.phrases().view().guitar);
  unwritten_ = from(found.check.unwritten, span.start);
  emit changed();
}

std::vector<MannerDoubt> PhraseEar::mannerOf(const Note& note) const {
  if (verdictOf(note) == nullptr) return {};
  const Checked& then = verdicts_.at(note.id);
  const bool same = then.note.attack == note.attack && then.note.slidFrom == note.slidFrom &&
                    then.note.vibrato == note.vibrato && then.note.palmMuted == note.palmMuted &&
                    then.note.letRing == note.letRing && then.note.tremolo == note.tremolo;
  return same ? then.manner : std::vector<MannerDoubt>{};
}

const NoteVerdict* PhraseEar::verdictOf(const Note& note) const {
  const auto found = verdicts_.find(note.id);
  if (found == verdicts_.end()) return nullptr;
  // What is said of its finger or its certainty does not change what sounds.
  const Note& then = found->second.note;
  const bool same = then.place == note.place && then.at == note.at && then.free == note.free &&
                    then.bend == note.bend && then.harmonic == note.harmonic;
  return same ? &found->second.verdict : nullptr;
}

}  // namespace ear
