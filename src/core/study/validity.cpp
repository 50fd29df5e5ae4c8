// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/study/validity.h"

#include <algorithm>
#include <cmath>
#include <set>
#include <stdexcept>

#include "core/base/text.h"
#include "core/study/grid.h"

namespace ear {
namespace {

using Limits = StudyLimits;

void tidyText(std::string& text, std::size_t bytes) {
  text = shortened(asUtf8(text), bytes);
}

template <class T>
void tidyEvidence(std::optional<Decision<T>>& decision) {
  if (decision && decision->evidence.kind == Evidence::Kind::words)
    tidyText(decision->evidence.sentence, Limits::kLongestSentence);
}

/// Brings each item of a list into its form; a list that has it already stays shared.
template <class T, class Tidy>
void tidyEach(Shared<std::vector<T>>& list, Tidy tidyItem) {
  std::vector<T> formed = *list;
  for (T& item : formed) tidyItem(item);
  if (formed != *list) list = std::move(formed);
}

void require(bool fine, const std::string& otherwise) {
  if (!fine) throw std::runtime_error(otherwise);
}

/// Comparisons with a number that is none are false, so that it never passes.
template <class T>
bool within(T value, T low, T high) {
  return value >= low && value <= high;
}

bool inTime(Seconds t) {
  return within(t, Seconds(0), Limits::kLongestTime);
}

void check(TimeSpan span, const std::string& what) {
  require(inTime(span.start) && inTime(span.end) && span.start <= span.end,
          what + " would end before it starts, or lie outside of any recording");
}

void check(const PitchValue& v) {
  require(within(v.offset.value, -50.0, 50.0), "the recording's pitch would lie more than half a semitone off");
}

void check(const Key& v) {
  require(v.tonic.value >= 0 && v.tonic.value < 12, "the key would have no tonic");
}

void check(const TimeValue& v) {
  require(within(v.tempo, Limits::kSlowest, Limits::kFastest),
          "the tempo would be " + (std::isfinite(v.tempo.value) ? fixed(v.tempo.value, 0) : "endlessly many") +
              " beats a minute; " + fixed(Limits::kSlowest.value, 0) + " to " + fixed(Limits::kFastest.value, 0) +
              " can be kept");
  require(within(v.meter, 1, Limits::kMostBeats),
          "a bar would have " + std::to_string(v.meter) + " beats; 1 to 32 can be kept");
  require(within(v.swing.ratio, Limits::kLeastSwing, Limits::kMostSwing), "the swing would be beyond 5 to 1");
}

void check(const Grid& grid) {
  require(grid.size() <= Limits::kLongestGrid, "there would be over half a million beats");
  for (std::size_t i = 0; i < grid.size(); ++i)
    require(within(grid[i].time, -Limits::kLongestTime, Limits::kLongestTime) &&
                (i == 0 || grid[i - 1].time < grid[i].time),
            "two beats would fall together");
  if (const auto tempo = tempoOf(grid)) check(TimeValue{*tempo, 4, {}});
}

void check(const Form& form) {
  for (std::size_t i = 0; i < form.size(); ++i) {
    check(form[i].span, "a section");
    require(within(form[i].certainty, 0.0, 1.0), "a certainty would be none");
    require(i == 0 || form[i - 1].span.start <= form[i].span.start, "sections would be out of order");
  }
}

void check(const GuitarSetup& setup) {
  require(isGuitar(setup.tuning, setup.capo), "no guitar is strung like that");
}

/// All of a decision but its value.
template <class T>
void checkDecision(const std::optional<Decision<T>>& decision) {
  if (!decision) return;
  const auto& numbers = decision->evidence.numbers;
  require(numbers.size() == numbersOf(decision->evidence.kind) &&
              std::all_of(numbers.begin(), numbers.end(), [](double n) { return std::isfinite(n); }),
          "a decision would rest on numbers that are none");
  require(within(decision->certainty, 0.0, 1.0), "a certainty would be none");
}

template <class T>
void check(const std::optional<Decision<T>>& decision) {
  checkDecision(decision);
  if (decision) check(decision->value);
}

void check(const GuitarPart& part) {
  check(part.setup);
  require(within(part.frets, Limits::kFewestFrets, Limits::kMostFrets),
          "a neck would have " + std::to_string(part.frets) + " frets; 12 to 36 can be kept");
  require(!part.range || (within(part.range->lowest, 0, part.range->highest) && part.range->highest <= 127),
          "a guitar's lowest note would lie above its highest");
  require(part.doubledBy.empty() || part.doubledBy != part.id, "a guitar would double itself");
}

/// Whether a decision holds the very value that another does.
template <class T>
bool sharesValue(const std::optional<Decision<Shared<T>>>& a, const std::optional<Decision<Shared<T>>>& b) {
  return a && b && a->value.isSame(b->value);
}

/// @param known  the same take without fault; may be null
void check(const Take& take, const Take* known) {
  require(!take.id.empty() && !take.file.empty(), "a take would have no recording");
  require(inTime(take.duration), "a recording would last for weeks");
  check(take.pitch), check(take.key), check(take.time);
  checkDecision(take.grid), checkDecision(take.form);
  if (take.grid && !(known != nullptr && sharesValue(take.grid, known->grid))) check(*take.grid->value);
  if (take.form && !(known != nullptr && sharesValue(take.form, known->form))) check(*take.form->value);
  for (std::size_t i = 0; i < take.cues.size(); ++i)
    require(inTime(take.cues[i].time) && (i == 0 || take.cues[i - 1].time <= take.cues[i].time),
            "a mark would lie outside of any recording");
  if (known != nullptr && take.chords.isSame(known->chords)) return;
  for (std::size_t i = 0; i < take.chords->size(); ++i) {
    check((*take.chords)[i].span, "a chord");
    require(i == 0 || (*take.chords)[i - 1].span.end <= (*take.chords)[i].span.start, "two chords would overlap");
  }
}

void check(const Passage& p) {
  check(p.span, "a passage");
  require(within(p.speed, Limits::kLeastSpeed, Limits::kMostSpeed), "a passage would be too slow or too fast to play");
  require(within(p.shift, -Limits::kMostShift, Limits::kMostShift), "a passage would be shifted by over two octaves");
  const Isolation& i = p.isolation;
  require(std::isfinite(i.centre + i.width + i.lowCut.value + i.highCut.value + i.focus.value),
          "what is isolated would be no place or no frequency");
}

void check(FretPosition place) {
  require(within(place.string, 0, Limits::kMostStrings - 1) && within(place.fret, 0, Limits::kMostFrets),
          "a note would lie beside the neck");
}

void checkBeats(Beats at, Beats length) {
  require(at.sane() && length.sane() && (at + length).sane() && length > Beats(0), "a note would have no length");
}

void checkSize(Size size) {
  require(!size || within(*size, -Limits::kMostBend, Limits::kMostBend), "a bend would go over two octaves");
}

void checkRate(std::optional<Hertz> rate) {
  require(!rate || within(rate->value, 0.0, 1000.0), "a vibrato or trill would have no rate");
}

void check(const Note& n) {
  require(within(n.id, 1, Limits::kMostCount), "a note would have no number");
  require(within(n.voice, 0, Limits::kMostVoices - 1), "a phrase would have more than two voices");
  checkBeats(n.at, n.length);
  if (n.free) check(*n.free, "a note");
  check(n.place);
  if (n.slidFrom) check(FretPosition{n.place.string, *n.slidFrom});
  if (n.bend) {
    checkSize(n.bend->size);
    require(within(n.bend->again, 0, 1000), "a note would be struck again more often than anyone can");
  }
  if (n.vibrato) checkRate(n.vibrato->rate), checkSize(n.vibrato->width);
  if (n.dive) checkSize(n.dive->depth);
  if (n.trill) checkRate(n.trill->rate), check(FretPosition{n.place.string, n.trill->fret});
  // A string can be touched beyond the last fret.
  require(!n.harmonic || within(n.harmonic->node, 0, 2 * Limits::kMostFrets), "a harmonic would lie beside the string");
  require(!n.tremolo || within(n.tremolo->strokesInBeat, 0, 64), "a tremolo would be faster than any hand");
  require(within(n.certainty, 0.0, 1.0), "a certainty would be none");
  require(n.readings.size() <= Limits::kMostReadings, "a note would have too many readings");
  for (const NoteReading& r : n.readings) {
    checkBeats(r.at, r.length), check(r.place);
    if (r.bend) checkSize(r.bend->size);
    require(within(r.certainty, 0.0, 1.0), "a certainty would be none");
  }
}

/// @param ids  of the notes that were met before
void checkNotes(const std::vector<Note>& notes, std::set<int>& ids) {
  require(notes.size() <= Limits::kMostNotes, "a phrase would have over 20 000 notes");
  for (const Note& n : notes) {
    check(n);
    require(ids.insert(n.id).second, "two notes would have one number");
  }
}

void check(const Phrase& p) {
  check(p.span, "a phrase");
  require(within(p.certainty, 0.0, 1.0), "a certainty would be none");
  require(within(p.number, 0, Limits::kMostCount), "a phrase would have no number");
  require(within<std::size_t>(p.levels->size(), 1, Limits::kMostLevels), "a phrase would have no level, or over 20");
  std::set<int> ids;
  for (const Arrangement& level : *p.levels) {
    checkNotes(level.notes, ids);
    for (const OpenStretch& o : level.open)
      require(o.from.sane() && o.to.sane() && o.from < o.to, "an unclear stretch would have no length");
    if (level.hardest)
      require(
          level.hardest->first.sane() && level.hardest->second.sane() && level.hardest->first < level.hardest->second,
          "the hardest spot would have no length");
  }
  if (!p.link) return;
  require(p.link->to != p.id, "a phrase would be the same as itself");
  require(within(p.link->frets, -Limits::kMostFrets, Limits::kMostFrets) &&
              within(p.link->strings, -Limits::kMostStrings, Limits::kMostStrings),
          "a repeat would lie beside the neck");
  require(p.levels->front().notes.empty(), "a repeat would have notes beside those it shares");
  ids.clear();
  checkNotes(p.link->changed, ids);
}

void check(const PracticeEntry& e) {
  check(e.span, "a line of the log");
  require(within(e.speed, Limits::kLeastSpeed, Limits::kMostSpeed) && within(e.times, 0, Limits::kMostCount),
          "a line of the log would make no sense");
}

void check(const LessonPlan& plan) {
  require(inTime(plan.target), "a lesson would be longer than any recording");
  require(plan.steps.size() <= Limits::kMostLessonSteps, "a lesson would have over 500 steps");
  std::set<int> ids;
  for (const LessonStep& s : plan.steps) {
    require(s.id > 0 && ids.insert(s.id).second, "two steps of a lesson would have one number");
    require(inTime(s.planned), "a step of a lesson would be longer than any recording");
    require(within(s.speed, Limits::kLeastSpeed, Limits::kMostSpeed), "a step of a lesson would have no speed");
  }
}

/// @param known  see faultOf
void checkAll(const Study& study, const Study& known) {
  std::set<std::string_view> ids;
  const auto fresh = [&](const std::string& id) { require(ids.insert(id).second, "two things would have one id"); };
  for (std::size_t i = 0; i < study.takes.size(); ++i) {
    fresh(study.takes[i].id);
    if (!study.takes.isSame(i, known.takes)) check(study.takes[i], known.take(study.takes[i].id));
  }
  const auto hasTake = [&](const std::string& id) {
    require(study.take(id) != nullptr, "something would belong to a take that is not there");
  };
  // A take may have gone, so that what is shared is asked for its take as well.
  for (const auto& part : study.parts) fresh(part.id), hasTake(part.take);
  for (const auto& p : study.passages) fresh(p.id), hasTake(p.take);
  for (const auto& p : study.phrases) fresh(p.id), hasTake(p.take);
  for (const auto& q : study.questions) fresh(q.id), hasTake(q.take), check(q.span, "a question");
  for (std::size_t i = 0; i < study.parts.size(); ++i)
    if (!study.parts.isSame(i, known.parts)) check(study.parts[i]);
  for (std::size_t i = 0; i < study.passages.size(); ++i)
    if (!study.passages.isSame(i, known.passages)) check(study.passages[i]);
  for (std::size_t i = 0; i < study.phrases.size(); ++i)
    if (!study.phrases.isSame(i, known.phrases)) check(study.phrases[i]);
  for (const auto& n : *study.notes) {
    hasTake(n.take);
    require(inTime(n.time), "a note would lie outside of any recording");
  }
  if (!study.revisions.isSame(known.revisions))
    for (const auto& r : *study.revisions)
      require(within(r.number, 1, Limits::kMostCount), "a sheet would have no number");
  std::set<std::string_view> planned;
  for (const auto& plan : study.plans) {
    hasTake(plan.take);
    require(planned.insert(plan.take).second, "a take would have two plans of its lesson");
  }
  for (std::size_t i = 0; i < study.plans.size(); ++i)
    if (!study.plans.isSame(i, known.plans)) check(study.plans[i]);
  for (const auto& given : *study.lessons)
    require(inTime(given.lasted), "a lesson would have lasted longer than any recording");
  if (!study.log.isSame(known.log))
    for (const auto& e : *study.log) check(e);
  require(within(study.ear.guesses, 0, Limits::kMostCount) && within(study.ear.hits, 0, study.ear.guesses),
          "there would be more hits than guesses");
}

void tidyNotes(std::vector<Note>& notes) {
  for (Note& n : notes) {
    tidyText(n.why, Limits::kLongestSentence);
    for (NoteReading& r : n.readings) tidyText(r.why, Limits::kLongestSentence);
  }
  putInOrder(notes);
}

void tidyPhrase(Phrase& p) {
  for (std::string* text : {&p.name, &p.part}) tidyText(*text, Limits::kLongestName);
  tidyText(p.remark, Limits::kLongestText);
  tidyEach(p.levels, [](Arrangement& a) {
    for (std::string* text : {&a.name, &a.made}) tidyText(*text, Limits::kLongestName);
    for (OpenStretch& o : a.open) tidyText(o.words, Limits::kLongestSentence);
    tidyNotes(a.notes);
  });
  if (!p.link) return;
  for (std::string* text : {&p.link->to, &p.link->how}) tidyText(*text, Limits::kLongestName);
  tidyNotes(p.link->changed);
}

}  // namespace

void tidy(Study& study, const Study* known) {
  const Study none;
  if (known == nullptr) known = &none;
  tidyText(study.title, Limits::kLongestName);
  study.takes.changeEach(
      [](Take& t) {
        tidyText(t.name, Limits::kLongestName);
        tidyText(t.hash, Limits::kLongestName);
        t.file = t.file.lexically_normal();
        tidyEvidence(t.pitch), tidyEvidence(t.key), tidyEvidence(t.time), tidyEvidence(t.grid), tidyEvidence(t.form);
        for (Marker& c : t.cues) tidyText(c.text, Limits::kLongestName);
        if (t.form)
          tidyEach(t.form->value, [](Section& s) {
            for (std::string* text : {&s.letter, &s.name, &s.difference, &s.guess})
              tidyText(*text, Limits::kLongestName);
          });
      },
      &known->takes);
  study.parts.changeEach(
      [](GuitarPart& p) {
        for (std::string* text : {&p.name, &p.sound, &p.doubledBy}) tidyText(*text, Limits::kLongestName);
        tidyEvidence(p.setup);
        if (p.setup) tidyText(p.setup->value.nickname, Limits::kLongestName);
      },
      &known->parts);
  study.passages.changeEach(
      [](Passage& p) {
        for (std::string* text : {&p.name, &p.part}) tidyText(*text, Limits::kLongestName);
        tidyText(p.text, Limits::kLongestText);
        p.isolation = p.isolation.plain() ? Isolation{} : withinLimits(p.isolation);
      },
      &known->passages);
  study.phrases.changeEach(tidyPhrase, &known->phrases);
  study.questions.changeEach(
      [](OpenQuestion& q) {
        for (std::string* text : {&q.text, &q.who, &q.answer}) tidyText(*text, Limits::kLongestSentence);
        for (std::string& reading : q.readings) tidyText(reading, Limits::kLongestSentence);
      },
      &known->questions);
  if (!study.notes.isSame(known->notes))
    tidyEach(study.notes, [](LessonNote& n) { tidyText(n.text, Limits::kLongestText); });
  if (!study.revisions.isSame(known->revisions))
    tidyEach(study.revisions, [](SheetRevision& r) {
      tidyText(r.when, Limits::kLongestName);
      tidyText(r.text, Limits::kLongestText);
    });
  study.plans.changeEach(
      [](LessonPlan& plan) {
        tidyText(plan.level, Limits::kLongestName);
        for (LessonStep& s : plan.steps) {
          tidyText(s.about, Limits::kLongestName);
          tidyText(s.words, Limits::kLongestSentence);
        }
      },
      &known->plans);
  if (!study.lessons.isSame(known->lessons))
    tidyEach(study.lessons, [](LessonGiven& given) {
      tidyText(given.when, Limits::kLongestName);
      for (std::string& words : given.left) tidyText(words, Limits::kLongestSentence);
    });
  if (!study.log.isSame(known->log))
    tidyEach(study.log, [](PracticeEntry& e) {
      for (std::string* text : {&e.when, &e.reached}) tidyText(*text, Limits::kLongestName);
    });
}

std::optional<std::string> faultOf(const Study& study, const Study* known) {
  const Study none;
  try {
    checkAll(study, known != nullptr ? *known : none);
  } catch (const std::runtime_error& fault) {
    return fault.what();
  }
  return std::nullopt;
}

}  // namespace ear
