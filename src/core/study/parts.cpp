// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/study/parts.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <tuple>

#include "core/base/quantities.h"
#include "core/base/text.h"

namespace ear {
namespace {

std::string stepsWord(int semitones) {
  return semitonesWords(semitones) + (semitones < 0 ? " down" : " up");
}

std::string capitalised(std::string text) {
  if (!text.empty() && text[0] >= 'a' && text[0] <= 'z') text[0] = static_cast<char>(text[0] - 'a' + 'A');
  return text;
}

}  // namespace

std::vector<GuitarPart> partsOf(const Study& study, const Take& take, const Findings* findings) {
  std::vector<GuitarPart> parts;
  for (const auto& part : study.parts)
    if (part.take == take.id) parts.push_back(part);
  if (!parts.empty()) return parts;
  std::vector<Side> sides;
  if (findings != nullptr)
    for (const auto& guitar : findings->guitars) sides.push_back(guitar.side);
  if (sides.empty()) sides.push_back(Side::centre);
  for (const Side side : sides)
    parts.push_back({take.id + "-" + std::string(sideWord(side)), take.id,
                     sides.size() == 1 ? "Guitar" : capitalised(std::string(sideWord(side))) + " guitar", side});
  return parts;
}

void keepParts(Study& study, const Take& take, const Findings* findings) {
  const bool kept =
      std::any_of(study.parts.begin(), study.parts.end(), [&](const GuitarPart& p) { return p.take == take.id; });
  if (kept) return;
  for (const auto& part : partsOf(study, take, findings)) study.parts.push_back(part);
}

const FoundGuitar* heardFor(const GuitarPart& part, const Findings* findings) {
  if (findings == nullptr) return nullptr;
  for (const auto& guitar : findings->guitars)
    if (guitar.side == part.side) return &guitar;
  return nullptr;
}

std::optional<Decision<GuitarSetup>> setupOf(const GuitarPart& part, const Findings* findings) {
  if (part.setup) return part.setup;
  const FoundGuitar* heard = heardFor(part, findings);
  if (heard == nullptr || heard->readings.empty()) return std::nullopt;
  const SetupReading& first = heard->readings.front();
  const std::string evidence =
      first.reasons.empty() ? "" : sentenceOf(first.reasons.front(), spellingOf(findings->key));
  return Decision<GuitarSetup>{{first.tuning, first.capo}, Origin::measured, first.certainty, evidence};
}

std::optional<SetupHint> whatWouldTell(const GuitarPart& part, const Findings* findings) {
  if (findings == nullptr || isSettled(setupOf(part, findings))) return std::nullopt;
  const auto span = mostAlone(findings->sides, part.side);
  if (!span) return std::nullopt;
  return SetupHint{*span, "What is heard does not decide it. From " + clockTenths(span->start) + " to " +
                              clockTenths(span->end) +
                              " it stands most alone: open strings that ring there would tell."};
}

Guitar guitarOf(const GuitarSetup& setup, Cents offset) {
  return {.tuning = setup.tuning, .capo = setup.capo, .offset = offset};
}

int shapeShift(const GuitarSetup& setup) {
  return commonShift(setup.tuning) + (setup.capo.strings == 0 ? setup.capo.fret : 0);
}

std::vector<PitchSplit> splitsOf(Cents offset, const GuitarPart& part, const Findings* findings) {
  std::map<int, double> weights;
  std::map<int, std::string> reasons;
  if (const FoundGuitar* heard = heardFor(part, findings))
    for (const auto& reading : heard->readings) {
      const int shift = commonShift(reading.tuning);
      weights[shift] += reading.certainty;
      if (reasons[shift].empty() && !reading.reasons.empty())
        reasons[shift] = "Read as " + sentenceOf(GuitarSetup{reading.tuning, reading.capo}) + ": " +
                         sentenceOf(reading.reasons.front(), spellingOf(findings->key));
    }
  // A teacher always weighs these three, whatever was heard.
  for (const int shift : {0, -1, -2}) weights.try_emplace(shift, 0.0);
  double sum = 0;
  for (const auto& [shift, weight] : weights) sum += weight;
  std::vector<PitchSplit> splits;
  for (const auto& [shift, weight] : weights)
    splits.push_back({shift, offset, sum > 0 ? weight / sum : 0.0,
                      !reasons[shift].empty() ? reasons[shift] : "Nothing heard speaks for it."});
  std::stable_sort(splits.begin(), splits.end(), [](const PitchSplit& a, const PitchSplit& b) {
    return std::tuple(-a.certainty, std::abs(a.semitones)) < std::tuple(-b.certainty, std::abs(b.semitones));
  });
  return splits;
}

std::string sentenceOf(const GuitarSetup& setup) {
  const std::string name = tuningName(setup.tuning);
  const std::string plain = setup.tuning == standardTuning() ? "standard tuning" : name;
  const std::string tuning = setup.nickname.empty() ? plain : "“" + setup.nickname + "” (" + plain + ")";
  if (setup.capo.fret == 0) return tuning + ", no capo";
  std::string capo = "capo " + std::to_string(setup.capo.fret);
  if (setup.capo.strings != 0) {
    int covered = 0;
    for (std::size_t s = 0; s < setup.tuning.count(); ++s) covered += setup.capo.covers(s) ? 1 : 0;
    capo += " on " + std::to_string(covered) + " strings";
  }
  return tuning + ", " + capo;
}

std::string sentenceOf(const PitchSplit& split) {
  const std::string way = split.offset > Cents(0) ? " sharp of that" : " flat of that";
  const std::string strings =
      split.semitones == 0 ? "Strings at standard" : "All strings " + stepsWord(split.semitones);
  return strings + (wholeCents(split.offset) == 0 ? ", at concert pitch" : ", " + centsWords(split.offset) + way);
}

std::string keySentence(const NotationPreferences& schools, const Key& key, const GuitarSetup& setup) {
  std::string sounding = keyName(key, spellingIn(schools, key));
  const int shift = shapeShift(setup);
  if (shift == 0) return sounding;
  const Key shapes = transposed(key, -shift);
  const std::string shape = keyName(shapes, spellingIn(schools, shapes));
  return schools.keyLead == NotationPreferences::KeyLead::sound ? sounding + ", " + shape + " shapes"
                                                                : shape + " shapes, sounding " + sounding;
}

std::string sidesSentence(const Findings& findings) {
  const auto at = [&](Side side) -> const FoundGuitar* {
    for (const auto& g : findings.guitars)
      if (g.side == side && !g.readings.empty()) return &g;
    return nullptr;
  };
  const FoundGuitar *left = at(Side::left), *right = at(Side::right);
  if (left == nullptr && right == nullptr)
    return findings.guitars.empty()
               ? ""
               : "No guitar can be told apart by its side: what is read is read from all of the sound.";
  if (left == nullptr || right == nullptr)
    return "One guitar can be told apart, " + std::string(left != nullptr ? "left" : "right") +
           "; listen to that side alone before taking the whole for one guitar.";
  const SetupReading &l = left->readings.front(), &r = right->readings.front();
  const std::string both = "Two guitars, left and right";
  // Two guesses that differ are no two guitars that do.
  if (l.certainty < kLikely || r.certainty < kLikely)
    return both + "; whether they are set up alike is open. Listen to each side alone.";
  if (l.tuning == r.tuning && l.capo == r.capo)
    return both + ", read alike: " + sentenceOf(GuitarSetup{l.tuning, l.capo}) + ".";
  return both + ", and they differ: left " + sentenceOf(GuitarSetup{l.tuning, l.capo}) + "; right " +
         sentenceOf(GuitarSetup{r.tuning, r.capo}) + ". Do not take the two for one.";
}

std::string_view sideWord(Side side) {
  static constexpr std::array<std::string_view, 3> kWords = {"left", "middle", "right"};
  return kWords[static_cast<std::size_t>(side)];
}

std::string_view instrumentWord(Instrument instrument) {
  static constexpr std::array<std::string_view, kInstruments> kWords = {
      "not said",         "steel-string guitar", "nylon-string guitar", "electric guitar", "twelve-string guitar",
      "resonator guitar", "bass guitar",         "another instrument"};
  return kWords[static_cast<std::size_t>(instrument)];
}

std::string rangeWords(const std::optional<NoteRange>& range) {
  if (!range) return {};
  return noteName(range->lowest, Spelling::sharps) + " to " + noteName(range->highest, Spelling::sharps);
}

std::optional<NoteRange> parseRange(std::string_view text) {
  std::vector<int> notes;
  std::string word;
  for (const char c : std::string(text) + " ") {
    if (c != ' ' && c != '-' && c != ',') {
      word += c;
      continue;
    }
    if (!word.empty() && word != "to") {
      const auto note = parsePitch(word);
      if (!note) return std::nullopt;
      notes.push_back(*note);
    }
    word.clear();
  }
  if (notes.size() != 2) return std::nullopt;
  return NoteRange{std::min(notes[0], notes[1]), std::max(notes[0], notes[1])};
}

void removePart(Study& study, const std::string& id) {
  study.parts.removeIf([&](const GuitarPart& p) { return p.id == id; });
  study.parts.changeEach([&](GuitarPart& p) {
    if (p.doubledBy == id) p.doubledBy.clear();
  });
  study.passages.changeEach([&](Passage& p) {
    if (p.part == id) p.part.clear();
  });
  study.phrases.changeEach([&](Phrase& p) {
    if (p.part == id) p.part.clear();
  });
}

std::vector<ShownChord> chordsOf(const Take& take, const Findings* findings) {
  std::vector<ShownChord> shown;
  if (findings != nullptr)
    for (const auto& found : findings->chords) {
      // What the decisions leave of it.
      const auto left = [&](TimeSpan span) {
        shown.push_back({span, found.chord, Origin::measured, found.certainty, found.kindCertainty});
      };
      Seconds at = found.span.start;
      for (const auto& d : *take.chords) {
        if (d.span.end <= at || d.span.start >= found.span.end) continue;
        if (d.span.start > at) left({at, d.span.start});
        at = d.span.end;
      }
      if (at < found.span.end) left({at, found.span.end});
    }
  for (const auto& d : *take.chords) shown.push_back({d.span, d.chord, d.origin, 1.0, 1.0});
  std::stable_sort(shown.begin(), shown.end(),
                   [](const ShownChord& a, const ShownChord& b) { return a.span.start < b.span.start; });
  return shown;
}

void decideChord(Take& take, const ChordDecision& decision) {
  std::vector<ChordDecision> kept;
  for (const auto& d : *take.chords) {
    if (d.span.start < decision.span.start)
      kept.push_back({{d.span.start, std::min(d.span.end, decision.span.start)}, d.chord, d.origin});
    if (d.span.end > decision.span.end)
      kept.push_back({{std::max(d.span.start, decision.span.end), d.span.end}, d.chord, d.origin});
  }
  kept.push_back(decision);
  std::stable_sort(kept.begin(), kept.end(),
                   [](const ChordDecision& a, const ChordDecision& b) { return a.span.start < b.span.start; });
  take.chords = std::move(kept);
}

}  // namespace ear
