// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/sheet/sheet.h"

#include <algorithm>

#include "core/base/text.h"
#include "core/sheet/sheet_parts.h"

namespace ear {
namespace {

std::string kindWord(TakeKind kind) {
  switch (kind) {
    case TakeKind::studio:
      return "studio recording";
    case TakeKind::live:
      return "live recording";
    case TakeKind::other:
      return "another recording";
    case TakeKind::unknown:
      return "recording";
  }
  return "";
}

}  // namespace

namespace sheet {

Setting::Setting(const SheetSource& from, const SheetChoice& what)
    : source(from),
      choice(what),
      parts(partsOf(from.study, from.take, from.findings)),
      brief(briefOf(from.take, parts.front(), from.findings)),
      grid(gridOf(from.take, from.findings)),
      map(grid, settled(brief.time).value_or(TimeValue{}).swing),
      chords(chordsOf(from.take, from.findings)) {
  const auto all = phrases();
  const bool chained = std::any_of(all.begin(), all.end(), [](const Phrase* p) { return p->number > 0; });
  for (std::size_t i = 0; i < all.size(); ++i) numbers[all[i]->id] = chained ? all[i]->number : static_cast<int>(i) + 1;
}

Spelling Setting::spelling() const {
  return spellingIn(schools(), settled(brief.key));
}

const GuitarPart* Setting::settledPart() const {
  if (const GuitarPart* inHand = part(source.part); inHand != nullptr && setup(*inHand)) return inHand;
  const auto found = std::find_if(parts.begin(), parts.end(), [&](const GuitarPart& p) { return setup(p); });
  return found == parts.end() ? nullptr : &*found;
}

const GuitarPart* Setting::part(const std::string& id) const {
  const auto found = std::find_if(parts.begin(), parts.end(), [&](const GuitarPart& p) { return p.id == id; });
  return found == parts.end() ? nullptr : &*found;
}

Guitar Setting::guitar(const GuitarPart& part) const {
  Guitar guitar = guitarOf(setup(part).value_or(GuitarSetup{}), offset());
  guitar.frets = part.frets;
  return guitar;
}

std::string Setting::chordName(const Chord& chord) const {
  return ear::chordName(chord, spelling());
}

std::string Setting::shapeName(const Chord& chord, const GuitarPart* part) const {
  const auto known = part != nullptr ? setup(*part) : std::nullopt;
  const int shift = known ? shapeShift(*known) : 0;
  if (shift == 0) return {};
  const Chord shape = transposed(chord, -shift);
  return ear::chordName(shape, spellingIn(schools(), ownKey(shape)));
}

std::vector<const Phrase*> Setting::phrases() const {
  std::vector<const Phrase*> all;
  for (const auto& p : study().phrases)
    if (p.take == take().id) all.push_back(&p);
  std::stable_sort(all.begin(), all.end(),
                   [](const Phrase* a, const Phrase* b) { return a->span.start < b->span.start; });
  return all;
}

}  // namespace sheet

Sheet layOutSheet(const SheetSource& source, const SheetChoice& choice) {
  using Extent = SheetChoice::Extent;
  constexpr std::size_t kOnOnePage = 2;
  const sheet::Setting s(source, choice);
  Sheet sheet{.title = source.study.title,
              .recording = "All times are those of: " + source.take.name + " (" + kindWord(source.take.kind) + ", " +
                           clockTenths(source.take.duration) + ")",
              .header = choice.header,
              .footer = choice.footer,
              .blocks = {}};
  switch (choice.extent) {
    case Extent::complete:
      addFacts(sheet, s);
      addGuitars(sheet, s);
      addForm(sheet, s);
      addChart(sheet, s);
      addBoxes(sheet, s);
      addPhrases(sheet, s);
      addPassages(sheet, s);
      addPlan(sheet, s);
      addPinned(sheet, s);
      addQuestions(sheet, s);
      addCautions(sheet, s);
      break;
    case Extent::onePage:
      addFacts(sheet, s);
      addGuitars(sheet, s);
      addForm(sheet, s);
      addPhrases(sheet, s, kOnOnePage);
      break;
    case Extent::phrases:
      addGuitars(sheet, s);
      addPhrases(sheet, s);
      addCautions(sheet, s);
      break;
    case Extent::chart:
      addGuitars(sheet, s);
      addChart(sheet, s);
      addBoxes(sheet, s);
      break;
    case Extent::form:
      addForm(sheet, s);
      break;
  }
  return sheet;
}

}  // namespace ear
