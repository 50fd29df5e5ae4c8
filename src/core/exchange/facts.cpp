// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/facts.h"

#include <algorithm>
#include <fstream>
#include <sstream>

#include "core/base/text.h"
#include "core/exchange/jump_list.h"
#include "core/study/grid.h"

namespace ear {
namespace {

constexpr Seconds kLeastBeat{0.05};  // beats of annotators now and then stand twice

Grid gridIn(const JamsContent& content, Seconds duration) {
  Grid grid;
  for (const Beat& b : content.beats) {
    if (b.time >= duration) break;
    if (grid.empty() || b.time - grid.back().time >= kLeastBeat)
      grid.push_back({b.time, b.bar, false});
    else
      grid.back().bar = grid.back().bar || b.bar;
  }
  return grid.size() < 2 ? Grid{} : grid;
}

/// Each ends where the next one starts.
std::vector<ChordDecision> chordsIn(const JamsContent& content, Seconds duration) {
  std::vector<ChordDecision> chords;
  for (ChordDecision c : content.chords) {
    c.span.end = std::min(c.span.end, duration);
    if (c.span.end <= c.span.start) continue;
    if (!chords.empty()) chords.back().span.end = std::min(chords.back().span.end, c.span.start);
    if (!chords.empty() && chords.back().span.length() <= Seconds(0)) chords.pop_back();
    chords.push_back(c);
  }
  return chords;
}

Form formIn(const JamsContent& content, Seconds duration) {
  std::vector<Jump> jumps;
  for (const Section& s : content.form)
    if (!s.letter.empty()) jumps.push_back({s.span, s.letter});
  return formOfJumps(jumps, duration);
}

std::string wordsOf(std::size_t beats, std::size_t chords, std::size_t sections, bool key, bool tempo) {
  std::vector<std::string> words;
  const auto count = [&](std::size_t n, const char* one, const char* many) {
    if (n > 0) words.push_back(std::to_string(n) + " " + (n == 1 ? one : many));
  };
  count(beats, "beat", "beats"), count(chords, "chord", "chords"), count(sections, "section", "sections");
  if (key) words.emplace_back("the key");
  if (tempo) words.emplace_back("the tempo");
  return joined(words, ", ");
}

}  // namespace

std::optional<JamsContent> readFacts(const std::filesystem::path& file) {
  std::ifstream in(file, std::ios::binary);
  // Anything else is no JSON: a look at its first sign saves reading it.
  in >> std::ws;
  if (in.peek() != '{') return std::nullopt;
  std::ostringstream text;
  text << in.rdbuf();
  auto content = readJams(text.str());
  if (!content || factsIn(*content).empty()) return std::nullopt;
  return *std::move(content);
}

std::string factsIn(const JamsContent& c) {
  return wordsOf(c.beats.size(), c.chords.size(), c.form.size(), c.key.has_value(), c.tempo && c.beats.empty());
}

Outcome<std::string> takeFacts(Study& study, const std::string& id, const JamsContent& content) {
  Take* take = study.take(id);
  if (take == nullptr) return Problem{"There is no such take."};
  const Seconds duration = take->duration;
  const Grid grid = gridIn(content, duration);
  const auto chords = chordsIn(content, duration);
  const Form form = formIn(content, duration);
  const bool tempo = grid.empty() && content.tempo.has_value();
  const std::string taken = wordsOf(grid.size(), chords.size(), form.size(), content.key.has_value(), tempo);
  if (taken.empty())
    return Problem{"Nothing in it lies within this recording. Check that it belongs to this take and not to another."};
  const Evidence evidence = Evidence::Kind::readFromFile;
  if (!grid.empty()) decideGrid(*take, grid, Origin::set, evidence);
  if (tempo) take->time = Decision<TimeValue>{{*content.tempo}, Origin::set, 1.0, evidence};
  if (!chords.empty()) take->chords = Shared<std::vector<ChordDecision>>(chords);
  if (!form.empty()) take->form = Decision<Shared<Form>>{form, Origin::set, 1.0, evidence};
  if (content.key) take->key = Decision<Key>{*content.key, Origin::set, 1.0, evidence};
  return taken;
}

}  // namespace ear
