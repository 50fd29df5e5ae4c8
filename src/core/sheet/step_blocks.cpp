// SPDX-License-Identifier: GPL-3.0-or-later
// The sheet as a lesson is given from it, step by step.
#include <algorithm>
#include <set>

#include "core/base/text.h"
#include "core/sheet/sheet_parts.h"

namespace ear {
namespace {

using Kind = LessonStep::Kind;

/// Chords of the first section with this letter, with the bars they are written in, and the grips of those.
std::vector<SheetBlock> chordsOf(const std::string& letter, const sheet::Setting& s) {
  Sheet all;
  addChart(all, s);
  std::vector<SheetBlock> blocks;
  std::set<std::string> used;
  for (const SheetBlock& block : all.blocks) {
    const auto* chart = std::get_if<SheetChart>(&block);
    if (chart == nullptr) continue;
    for (SheetChart::Section section : chart->sections) {
      if (section.letter != letter) continue;
      if (section.bars.empty())
        for (const auto& other : chart->sections)
          if (clockTenths(other.span.start) == section.sameAs) section.bars = other.bars, section.sameAs.clear();
      for (const auto& bar : section.bars)
        for (const SheetChord& c : bar.chords) used.insert(c.sounding);
      blocks.emplace_back(SheetChart{{section}});
      break;
    }
  }
  all.blocks.clear();
  addBoxes(all, s);
  for (const SheetBlock& block : all.blocks)
    if (const auto* boxes = std::get_if<SheetBoxes>(&block)) {
      SheetBoxes own{.capo = boxes->capo, .boxes = {}};
      std::copy_if(boxes->boxes.begin(), boxes->boxes.end(), std::back_inserter(own.boxes),
                   [&](const SheetBoxes::Box& b) { return used.contains(b.sounding); });
      if (!own.boxes.empty()) blocks.emplace_back(std::move(own));
    }
  return blocks;
}

std::vector<SheetBlock> tabOf(const std::string& id, const sheet::Setting& s) {
  Sheet all;
  addPhrases(all, s, 999, false);
  const auto find = [&](const std::string& wanted) -> SheetPhrase* {
    for (SheetBlock& block : all.blocks)
      if (auto* phrase = std::get_if<SheetPhrase>(&block); phrase != nullptr && phrase->id == wanted) return phrase;
    return nullptr;
  };
  SheetPhrase* phrase = find(id);
  if (phrase == nullptr) return {};
  const Phrase* own = s.study().phrase(id);
  if (phrase->score.heads.empty() && own != nullptr && own->link)
    if (const SheetPhrase* original = find(own->link->to)) {
      phrase->score = original->score;
      phrase->chords = original->chords;
      phrase->scales = original->scales;
    }
  return {*phrase};
}

}  // namespace

std::vector<SheetBlock> stepBlocks(const SheetSource& source, const LessonStep& step, const std::string& level) {
  SheetChoice choice;
  choice.level = level;
  const sheet::Setting s(source, choice);
  if (step.kind == Kind::chords) return chordsOf(step.about, s);
  if (const Passage* passage = source.study.passage(step.about)) return {passageOf(*passage, s)};
  if (step.kind != Kind::tuning) return step.about.empty() ? std::vector<SheetBlock>() : tabOf(step.about, s);
  Sheet all;
  addGuitars(all, s);
  return all.blocks;
}

}  // namespace ear
