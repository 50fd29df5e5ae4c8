// SPDX-License-Identifier: GPL-3.0-or-later
// How files that somebody damaged are met: random studies, every truncation, random lists of times. Prints JSON.

#include <chrono>
#include <cstdio>
#include <fstream>
#include <iterator>
#include <nlohmann/json.hpp>
#include <random>

#include "core/exchange/jump_list.h"
#include "core/study/study_file.h"

namespace {

using Json = nlohmann::ordered_json;
using Random = std::mt19937;
using Clock = std::chrono::steady_clock;

struct Tally {
  int tried = 0, opened = 0, lost = 0;
  double worst = 0;  // seconds

  template <class Work>
  void time(Work work) {
    const auto start = Clock::now();
    work();
    worst = std::max(worst, std::chrono::duration<double>(Clock::now() - start).count());
    ++tried;
  }
  Json json() const { return {{"tried", tried}, {"opened", opened}, {"lost", lost}, {"worst_ms", 1000 * worst}}; }
};

std::size_t pick(Random& random, std::size_t below) {
  return static_cast<std::size_t>(random() % below);
}

/// Puts what does not belong there somewhere into the tree.
void spoil(Json& json, Random& random) {
  Json* at = &json;
  while (at->is_structured() && !at->empty() && pick(random, 14) != 0) {
    auto item = at->begin();
    std::advance(item, static_cast<std::ptrdiff_t>(pick(random, at->size())));
    at = &*item;
  }
  const Json odd[] = {nullptr,
                      true,
                      -1,
                      1e308,
                      4294967296,
                      "",
                      std::string(5000, 'x'),
                      Json::array(),
                      Json::object(),
                      18446744073709551615ULL,
                      0.5,
                      {1, 2, 3},
                      -0.0,
                      "E4",
                      1e-320,
                      {{"value", 3}}};
  *at = odd[pick(random, std::size(odd))];
}

void tryStudy(Tally& tally, const std::string& text) {
  tally.time([&] {
    const auto read = ear::readStudyText(text, DEMO_DIR, "x");
    if (!read) return;
    ++tally.opened;
    const auto again = ear::writeStudyText(read->study, read->measurements, DEMO_DIR);
    const auto back = again ? ear::readStudyText(*again, DEMO_DIR, "x") : ear::Problem{"not written"};
    if (!back || !(back->study == read->study)) ++tally.lost;
  });
}

}  // namespace

int main() {
  std::ifstream in(std::string(DEMO_DIR) + "/copper-weather.innerear", std::ios::binary);
  const std::string whole(std::istreambuf_iterator<char>(in), {});
  const Json tree = Json::parse(whole);
  Random random(1);
  Tally studies, truncations, lists;
  for (int i = 0; i < 10'000; ++i) {
    Json json = tree;
    for (std::size_t n = 1 + pick(random, 4); n > 0; --n) spoil(json, random);
    tryStudy(studies, json.dump());
  }
  for (std::size_t cut = 0; cut < whole.size(); ++cut) tryStudy(truncations, whole.substr(0, cut));
  const std::string pieces[] = {"0",   "1.5", ":", "\t",    ",",    "\n",           "\r\n", " to ", "\"", "-",
                                "1e9", "nan", "A", "verse", "\xFF", "\xEF\xBB\xBF", "0.01", "0.02", " ",  "1e308"};
  for (int i = 0; i < 300'000; ++i) {
    std::string text;
    for (std::size_t n = pick(random, 200); n > 0; --n) text += pieces[pick(random, std::size(pieces))];
    lists.time([&] {
      const auto read = ear::readJumps(text);
      if (!read) return;
      ++lists.opened;
      ear::formOfJumps(*read, ear::Seconds(100));
      if (!ear::readJumps(ear::writeJumps(*read, ear::JumpFormat::csv))) ++lists.lost;
    });
  }
  const Json report{
      {"random_studies", studies.json()}, {"truncations", truncations.json()}, {"label_files", lists.json()}};
  std::puts(report.dump(1).c_str());
}
