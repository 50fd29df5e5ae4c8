// SPDX-License-Identifier: GPL-3.0-or-later
#include "demo_phrases.h"

#include <cstdlib>
#include <iostream>

#include "core/phrase/entry/entry.h"
#include "core/phrase/fingers.h"

namespace {

using ear::Beats;
using ear::Seconds;

// As they would be said to a student.
constexpr const char* kHook =
    "all eighths, 9 3rd quarter, 8 8 2nd, slide to 10 quarter, 8 2nd quarter, "
    "9 3rd quarter, 7 7 3rd, slide to 9 quarter, quarter rest, "
    "9 3rd quarter, 8 8 2nd, slide to 10 2nd, 7 1st, 10 2nd vibrato quarter, "
    "7 2nd, 8 3rd, 11 3rd quarter, 8 3rd vibrato half";
constexpr const char* kSoloOne =
    "dotted quarter 14 3rd bent a whole step vibrato, eighth 12 2nd, 15 pull 12 2nd, quarter 14 3rd vibrato, "
    "eighth rest, eighth 12 3rd, 14 3rd, 12 2nd, half 15 2nd bent a whole step vibrato";
constexpr const char* kSoloTwo =
    "eighth 12 hammer 15 1st, eighth 12 1st, 15 2nd, quarter 13 2nd, quarter 12 2nd vibrato, "
    "quarter 14 3rd bent a half step, eighth 11 3rd, 13 4th, half 11 3rd vibrato";
constexpr const char* kSoloTwoEasier =
    "quarter 12 1st, quarter 15 2nd, quarter 13 2nd, quarter 12 2nd, quarter 12 3rd, quarter 11 3rd, half 11 3rd";
constexpr const char* kArpeggio =
    "let ring, all eighths, 0 6th, 0 3rd, 0 2nd, 0 1st, 0 2nd, 0 3rd, 0 2nd, 0 1st, "
    "0 4th, 0 3rd, 0 2nd, 0 1st, 0 2nd, 0 3rd, 0 2nd, 0 1st, "
    "3 5th, 0 3rd, 0 2nd, 0 1st, 0 2nd, 0 3rd, 0 2nd, 0 1st, "
    "2 5th, 2 3rd, 0 2nd, 2 1st, 0 2nd, 2 3rd, 0 2nd, 2 1st";

std::vector<ear::Note> read(const char* line, const ear::Study& study) {
  const ear::Entry entry = ear::readEntry(line);
  if (!entry.clear()) {
    for (const auto& p : entry.problems) std::cerr << line << ": " << p.text << '\n';
    for (const auto& q : entry.questions) std::cerr << line << ": " << q.text << '\n';
    std::exit(1);
  }
  int id = ear::freshNoteId(study.phrases);
  std::vector<ear::Note> notes;
  for (const auto& step : entry.steps)
    for (ear::Note n : step.notes) {
      n.id = id++;
      notes.push_back(n);
    }
  const auto fingers = ear::proposedFingers(notes);
  for (std::size_t i = 0; i < notes.size(); ++i)
    notes[i].finger = fingers[i].finger, notes[i].barred = fingers[i].barred;
  return notes;
}

ear::Phrase phrase(const char* id, const char* name, int number, const char* part, double from, double to) {
  ear::Phrase p;
  p.id = id, p.take = "take1", p.part = part, p.name = name, p.number = number;
  p.span = {Seconds(from), Seconds(to)};
  return p;
}

void add(ear::Study& study, ear::Phrase p, const char* line) {
  p.levels.change().front().notes = read(line, study);
  study.phrases.push_back(std::move(p));
}

}  // namespace

void writeDemoPhrases(ear::Study& study) {
  ear::Phrase hook = phrase("phrase1", "Opening hook", 1, "take1-right", 0.35, 9.581);
  hook.remark = "Slide into the long notes; the last bar sings.";
  add(study, hook, kHook);
  ear::Phrase call = phrase("phrase2", "Solo, the call", 2, "take1-right", 83.427, 88.042);
  call.scales = {{ear::Beats(0), {ear::PitchClass(3), ear::ScaleKind::minorPentatonic}, 1}};
  add(study, call, kSoloOne);
  // It is not made out whether the 12 is picked again.
  study.phrases.changeEach([](ear::Phrase& p) {
    if (p.id != "phrase2") return;
    for (ear::Note& n : p.levels.change().front().notes)
      if (n.attack == ear::Attack::pulledOff) {
        n.certainty = 0.4, n.why = "picked softly, or pulled off";
        n.readings.push_back({n.at, n.length, n.place, std::nullopt, 0.4, "picked"});
      }
  });
  ear::Phrase answer = phrase("phrase3", "Solo, the answer", 3, "take1-right", 88.042, 92.658);
  add(study, answer, kSoloTwo);
  const auto easier = read(kSoloTwoEasier, study);
  study.phrases.changeEach([&](ear::Phrase& p) {
    if (p.id == "phrase3")
      p.levels.change().push_back({.name = "easier", .made = "no bend, no hammer-on", .notes = easier});
  });
  add(study, phrase("phrase4", "Arpeggio of the verse", 0, "take1-left", 0.35, 9.581), kArpeggio);
  ear::Phrase again = phrase("phrase5", "Hook at the end", 4, "take1-right", 101.888, 111.119);
  again.link = ear::PhraseLink{.to = "phrase1"};
  study.phrases.push_back(again);
  study.questions.push_back({.id = "question1",
                             .take = "take1",
                             .span = {Seconds(84.55), Seconds(85.2)},
                             .text = "Is the 12 after the 15 picked or pulled off?",
                             .readings = {"picked", "pulled off"},
                             .who = "watch the live film",
                             .answer = ""});
}
