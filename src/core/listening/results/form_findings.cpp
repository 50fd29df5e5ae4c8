// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/results/form_findings.h"

#include <algorithm>
#include <cstdlib>

#include "core/base/quantities.h"
#include "core/base/text.h"

namespace ear {

std::string_view roleWord(Role role) {
  switch (role) {
    case Role::none:
      return "";
    case Role::countIn:
      return "count-in";
    case Role::intro:
      return "intro";
    case Role::verse:
      return "verse";
    case Role::chorus:
      return "chorus";
    case Role::bridge:
      return "bridge";
    case Role::solo:
      return "solo";
    case Role::breakdown:
      return "breakdown";
    case Role::outro:
      return "outro";
    case Role::noMusic:
      return "no music";
  }
  return "";
}

std::string wordsOf(const SectionDifference& d) {
  std::vector<std::string> words;
  const auto by = [&](int number, const char* thing, const char* more, const char* less) {
    if (number != 0) words.push_back(countWords(std::abs(number), thing) + (number > 0 ? more : less));
  };
  const auto side = [&](int change, const std::string& where) {
    if (change > 0) words.push_back("something enters on the " + where);
    if (change < 0) words.push_back("what was on the " + where + " is gone");
  };
  by(d.semitones, "semitone", " higher", " lower");
  by(d.bars, "bar", " longer", " shorter");
  if (d.endsOtherwise) words.emplace_back("ends differently");
  if (d.otherBeat) words.emplace_back("another beat");
  if (d.loudness != 0) words.emplace_back(d.loudness > 0 ? "fuller" : "thinner");
  side(d.left, "left");
  side(d.right, "right");
  return joined(words, ", ");
}

SectionDifference differenceIn(std::string_view words) {
  SectionDifference d;
  while (!words.empty()) {
    const auto end = std::min(words.find(", "), words.size());
    const std::string word(words.substr(0, end));
    words.remove_prefix(std::min(words.size(), end + 2));
    const auto has = [&](std::string_view part) { return word.find(part) != std::string::npos; };
    const int number = std::atoi(word.c_str());
    if (has("semitone")) d.semitones = has("lower") ? -number : number;
    if (has("bar")) d.bars = has("shorter") ? -number : number;
    if (has("differently")) d.endsOtherwise = true;
    if (has("another beat")) d.otherBeat = true;
    if (has("fuller") || has("thinner")) d.loudness = has("fuller") ? 1 : -1;
    if (has("left")) d.left = has("enters") ? 1 : -1;
    if (has("right")) d.right = has("enters") ? 1 : -1;
  }
  return d;
}

}  // namespace ear
