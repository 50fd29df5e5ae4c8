// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/musicxml_repeats.h"

#include <algorithm>
#include <cstdlib>
#include <string_view>

namespace ear::musicxml {
namespace {

using pugi::xml_node;

constexpr int kMostTimes = 64;

struct Measure {
  xml_node node;
  bool starts = false;      ///< a repeat starts with it
  int times = 0;            ///< a repeat ends with it, played so often; 0: none does
  std::set<int> endings{};  ///< times at which it is played; empty: always
};

/// "1, 2" as numbers.
std::set<int> numbersOf(const char* text) {
  std::set<int> numbers;
  for (const char* at = text; *at != '\0';) {
    char* end = nullptr;
    const long number = std::strtol(at, &end, 10);
    if (end == at) {
      ++at;
      continue;
    }
    if (number > 0 && number <= kMostTimes) numbers.insert(static_cast<int>(number));
    at = end;
  }
  return numbers;
}

/// Words that send the player elsewhere, which are not followed.
bool jumps(xml_node measure) {
  const auto sends = [](xml_node sound) {
    for (const char* name : {"dacapo", "dalsegno", "tocoda"})
      if (sound.attribute(name)) return true;
    return false;
  };
  for (const xml_node sound : measure.children("sound"))
    if (sends(sound)) return true;
  for (const xml_node direction : measure.children("direction"))
    if (sends(direction.child("sound"))) return true;
  return false;
}

std::vector<Measure> measuresOf(xml_node part, std::set<std::string>& losses) {
  std::vector<Measure> measures;
  std::set<int> open;  // numbers of the ending in which one is
  for (const xml_node node : part.children("measure")) {
    Measure m{node};
    bool closes = false;
    for (const xml_node line : node.children("barline")) {
      for (const xml_node ending : line.children("ending")) {
        const std::string_view type = ending.attribute("type").as_string();
        if (type == "start") open = numbersOf(ending.attribute("number").as_string());
        closes = closes || type == "stop" || type == "discontinue";
      }
      if (const xml_node repeat = line.child("repeat")) {
        const std::string_view direction = repeat.attribute("direction").as_string();
        if (direction == "forward") m.starts = true;
        if (direction == "backward") m.times = std::clamp(repeat.attribute("times").as_int(2), 1, kMostTimes);
      }
    }
    m.endings = open;
    if (closes) open.clear();
    if (jumps(node)) losses.insert("Da capo, segno and coda are read as they stand, without going there.");
    measures.push_back(std::move(m));
  }
  return measures;
}

/// How often what starts at `start` is played, as its endings say, or the line behind `at` where there are none.
int timesOf(const std::vector<Measure>& all, std::size_t start, std::size_t at) {
  int most = 0;
  for (std::size_t i = start; i < all.size(); ++i) {
    for (const int number : all[i].endings) most = std::max(most, number);
    // Behind the last ending, or where the next repeat starts, it is over.
    if (i > at && (all[i].endings.empty() || all[i].starts)) break;
  }
  return most > 0 ? most : all[at].times;
}

}  // namespace

std::vector<xml_node> playedMeasures(xml_node part, std::size_t most, std::set<std::string>& losses) {
  const std::vector<Measure> all = measuresOf(part, losses);
  std::vector<xml_node> played;
  std::size_t start = 0;
  int time = 1;
  for (std::size_t i = 0; i < all.size() && played.size() < most;) {
    const Measure& m = all[i];
    const bool leaves = i > 0 && m.endings.empty() && !all[i - 1].endings.empty();
    if ((m.starts || leaves) && i != start) start = i, time = 1;
    const bool skipped = !m.endings.empty() && !m.endings.contains(time);
    if (!skipped) {
      played.push_back(m.node);
      if (m.times > 0 && time < timesOf(all, start, i)) {
        ++time;
        i = start;
        continue;
      }
      if (m.times > 0 && m.endings.empty()) start = i + 1, time = 1;
    }
    ++i;
  }
  if (played.size() > all.size() || std::any_of(all.begin(), all.end(), [](const Measure& m) { return m.times > 0; }))
    losses.insert("Repeats and endings are written out, bar by bar.");
  return played;
}

}  // namespace ear::musicxml
