// SPDX-License-Identifier: GPL-3.0-or-later
// edits: what an edit of a study of a two-hour recording costs, and what 500 of them keep for undo. Prints one JSON
// object.

#include <malloc.h>

#include <algorithm>
#include <chrono>
#include <iostream>
#include <random>

#include "core/study/document.h"
#include "core/study/grid.h"
#include "core/study/validity.h"

namespace {

using namespace ear;

/// Two hours with their beats held, 60 sections, a chord a bar decided, and 300 passages.
Study longStudy() {
  Study s;
  Take take;
  take.id = "take1";
  take.file = "/music/two-hours.flac";
  take.duration = Seconds(7200);
  s.takes.push_back(take);
  Grid grid;
  for (int i = 0; i < 14'400; ++i) grid.push_back({Seconds(0.5 * i), i % 4 == 0, false});
  Take& t = *s.take("take1");
  decideGrid(t, grid, Origin::set, "Bar lines set by hand.");
  Form form;
  for (int i = 0; i < 60; ++i) form.push_back({{Seconds(120.0 * i), Seconds(120.0 * (i + 1))}, "A", "verse"});
  t.form = {form, Origin::set, 1.0, "Corrected by hand."};
  for (int i = 0; i < 3'600; ++i)
    decideChord(t, {{Seconds(2.0 * i), Seconds(2.0 * i + 2)}, parseChord("Am7"), Origin::set});
  for (int i = 0; i < 300; ++i) {
    Passage p;
    p.id = "passage" + std::to_string(i);
    p.take = "take1";
    p.span = {Seconds(20.0 * i), Seconds(20.0 * i + 4)};
    p.text = std::string(400, '-');
    s.passages.push_back(p);
  }
  return s;
}

double heapMegabytes() {
  const auto info = mallinfo2();
  return static_cast<double>(info.uordblks + info.hblkhd) / (1 << 20);
}

}  // namespace

int main() {
  Document document(longStudy(), {});
  std::mt19937 random(1);
  std::vector<double> took;
  const double before = heapMegabytes();
  for (int i = 0; i < 500; ++i) {
    const auto start = std::chrono::steady_clock::now();
    document.edit("Edit", [&](Study& s) {
      const auto number = static_cast<double>(i);
      Take& take = *s.take("take1");
      switch (i % 4) {
        case 0:
          s.passage("passage" + std::to_string(random() % 300))->name = "Name " + std::to_string(i);
          break;
        case 1:
          take.key = Decision<Key>{{PitchClass(i % 12), Mode::minor}, Origin::set, 1.0, "Set by hand."};
          break;
        case 2:
          take.pitch = Decision<PitchValue>{{Cents(number / 25)}, Origin::set, 1.0, "Set by hand."};
          break;
        default:
          s.passage("passage" + std::to_string(random() % 300))->speed = 0.5 + number / 1000;
          break;
      }
    });
    took.push_back(std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - start).count());
  }
  const double kept = heapMegabytes() - before;
  std::sort(took.begin(), took.end());
  std::cout << "{\"edit_ms_median\": " << took[took.size() / 2] << ", \"edit_ms_worst\": " << took.back()
            << ", \"undo_500_mb\": " << kept << "}\n";
}
