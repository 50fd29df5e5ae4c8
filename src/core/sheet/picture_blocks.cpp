// SPDX-License-Identifier: GPL-3.0-or-later
// Parts of the sheet that become pictures of their own.
#include <algorithm>
#include <set>

#include "core/base/text.h"
#include "core/sheet/sheet_parts.h"

namespace ear {
namespace {

template <class Block>
std::vector<SheetBlock> blocksOf(const Sheet& sheet) {
  std::vector<SheetBlock> blocks;
  for (const SheetBlock& block : sheet.blocks)
    if (std::holds_alternative<Block>(block)) blocks.push_back(block);
  return blocks;
}

SheetNeck emptyNeck(const sheet::Setting& s, const Guitar& guitar) {
  constexpr int kFrets = 15;
  SheetNeck neck{.name = {}, .strings = {}, .frets = kFrets, .capo = guitar.capo.fret, .dots = {}};
  for (int string = 0; string < guitar.strings(); ++string)
    neck.strings.push_back(stringMark(s.schools(), guitar, string, s.spelling()));
  return neck;
}

/// The scale of the key over the neck.
std::optional<SheetNeck> scaleOn(const sheet::Setting& s, const Guitar& guitar) {
  if (!isSettled(s.brief.key)) return std::nullopt;
  const Scale scale = scaleOf(s.brief.key->value);
  SheetNeck neck = emptyNeck(s, guitar);
  neck.name = pitchClassName(scale.tonic, s.spelling()) + " " + std::string(scaleName(scale.kind));
  for (int string = 0; string < guitar.strings(); ++string)
    for (int fret = 0; fret <= std::min(neck.frets, guitar.lastFret(string)); ++fret) {
      const PitchClass note(guitar.pitch({string, fret}));
      if (scale.contains(note))
        neck.dots.push_back({string, fret, pitchClassName(note, s.spelling()), note == scale.tonic});
    }
  return neck;
}

/// Where the notes of a phrase lie.
SheetNeck placesOn(const sheet::Setting& s, const Guitar& guitar, const Phrase& phrase) {
  SheetNeck neck = emptyNeck(s, guitar);
  neck.name = phrase.name.empty() ? "Phrase at " + clockTenths(phrase.span.start) : phrase.name;
  std::set<FretPosition> places;
  for (const ShownNote& n : shown(s.study().phrases, phrase, guitar).notes)
    if (n.note.tone != Tone::dead) places.insert(n.note.place);
  const auto tonic = settled(s.brief.key);
  for (const FretPosition& place : places) {
    const PitchClass note(guitar.pitch(place));
    neck.dots.push_back({place.string, place.fret, pitchClassName(note, s.spelling()), tonic && note == tonic->tonic});
    neck.frets = std::max(neck.frets, place.fret);
  }
  return neck;
}

}  // namespace

std::vector<std::vector<std::string>> SheetNeck::rows() const {
  std::vector<std::vector<std::string>> rows;
  for (std::size_t i = strings.size(); i-- > 0;) {
    std::vector<std::string> on;
    for (const Dot& dot : dots)
      if (dot.string == static_cast<int>(i)) on.push_back(std::to_string(dot.fret));
    rows.push_back({strings[i], joined(on, " ")});
  }
  return rows;
}

std::vector<SheetBlock> pictureBlocks(const SheetSource& source, PictureOf what, const std::string& part,
                                      const std::string& phrase) {
  const SheetChoice choice;
  const sheet::Setting s(source, choice);
  Sheet all;
  switch (what) {
    case PictureOf::phrases:
      addPhrases(all, s, 999, phrase.empty() && part.empty());
      std::erase_if(all.blocks, [&](const SheetBlock& block) {
        const auto* tab = std::get_if<SheetPhrase>(&block);
        const Phrase* own = tab != nullptr ? s.study().phrase(tab->id) : nullptr;
        return own == nullptr || (!phrase.empty() && own->id != phrase) || (!part.empty() && own->part != part);
      });
      return all.blocks;
    case PictureOf::grips:
      addBoxes(all, s);
      return blocksOf<SheetBoxes>(all);
    case PictureOf::tuning:
      addGuitars(all, s);
      return blocksOf<SheetTuning>(all);
    case PictureOf::neck: {
      const Phrase* own = s.study().phrase(phrase);
      const GuitarPart* guitar = own != nullptr ? s.part(own->part) : part.empty() ? s.settledPart() : s.part(part);
      // No neck is drawn for a guitar whose tuning is open.
      if (guitar == nullptr || !s.setup(*guitar)) return {};
      if (own != nullptr) return {placesOn(s, s.guitar(*guitar), *own)};
      if (auto neck = scaleOn(s, s.guitar(*guitar))) return {*std::move(neck)};
    }
  }
  return {};
}

}  // namespace ear
