// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/results/guitar_findings.h"

#include "core/base/text.h"
#include "core/theory/key.h"
#include "core/theory/tuning.h"

namespace ear {
namespace {

/// "G as 320003"; by its own name where no hand can hold it.
std::string wordsOf(const SetupReason::Grip& grip) {
  const std::string name = chordName(grip.shape, spellingOf(ownKey(grip.shape)));
  return grip.frets.empty() ? name : name + " as " + grip.frets;
}

}  // namespace

std::string sentenceOf(const SetupReason& reason, Spelling spelling) {
  const auto number = [&](std::size_t i) { return i < reason.numbers.size() ? reason.numbers[i] : 0; };
  const auto note = [&](std::size_t i) { return noteName(number(i), spelling); };
  const auto rings = [&] {
    return note(0) + " rings on over " + std::to_string(number(1)) + " % of the chord changes: ";
  };
  using Kind = SetupReason::Kind;
  switch (reason.kind) {
    case Kind::words:
      return reason.text;
    case Kind::lowestIsOpen:
      return "The lowest note heard is " + note(0) + ", its lowest string.";
    case Kind::lowestIsAbove:
      return "The lowest note heard is " + note(0) + "; its lowest string would give " + note(1) + ".";
    case Kind::lowestIsBelow:
      return "But " + note(0) + " was heard, lower than any of its strings.";
    case Kind::lowestIsBass:
      return "A bass plays below it, so its own lowest note cannot be told.";
    case Kind::fitsGrips: {
      std::vector<std::string> words;
      for (const auto& grip : reason.grips) words.push_back(wordsOf(grip));
      return "What sounds fits the grips " + joined(words, ", ") + ".";
    }
    case Kind::ease: {
      std::string text = std::to_string(number(0)) + " of its " + std::to_string(number(1)) + " chords are easy grips";
      if (reason.grips.empty()) return text + ".";
      const auto& hardest = reason.grips.front();
      return text + "; the hardest is " + wordsOf(hardest) +
             (hardest.frets.empty() ? ", which no hand can hold." : ".");
    }
    case Kind::ringsOpen:
      return rings() + "an open string here.";
    case Kind::ringsFretted:
      return rings() + "no open string here, so a finger would have to stay on it.";
    case Kind::cannotHold:
      return "For " + std::to_string(number(0)) + " % of the time no hand could hold what sounds together.";
    case Kind::soundsLike: {
      if (reason.numbers.size() < 2) return "";
      const Tuning tuning{{reason.numbers.begin() + 1, reason.numbers.end()}};
      return "The open strings would sound the same with " + tuningName(tuning) +
             (number(0) > 0 ? ", capo " + std::to_string(number(0)) : " and no capo") + ".";
    }
  }
  return "";
}

}  // namespace ear
