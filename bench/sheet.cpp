// SPDX-License-Identifier: GPL-3.0-or-later
// The sheet of a study of sixty bars with twelve phrases: how long it takes to lay out and to write as a PDF, and how
// large that is. JSON to standard output. Usage: sheet DEMO_STUDY OUT.pdf

#include <QApplication>
#include <QElapsedTimer>
#include <algorithm>
#include <cstdio>
#include <filesystem>
#include <nlohmann/json.hpp>

#include "app/paper/sheet_files.h"
#include "app/theme/theme.h"
#include "core/study/study_file.h"

int main(int argc, char** argv) {
  using namespace ear;
  QApplication app(argc, argv);
  if (argc < 3) {
    std::fputs("sheet DEMO_STUDY OUT.pdf\n", stderr);
    return 2;
  }
  Theme::apply(app, Theme::Choice::light);
  const auto stored = loadStudy(argv[1]);
  if (!stored) {
    std::fputs((stored.problem() + "\n").c_str(), stderr);
    return 1;
  }
  Study study = stored->study;
  const Take take = study.takes[0];
  const auto found = stored->measurements.find(take.id);
  const Findings* findings = found != stored->measurements.end() ? found->second.get() : nullptr;
  // The written phrases of the take again and again, until there are twelve.
  std::vector<Phrase> written;
  for (const auto& p : study.phrases)
    if (p.take == take.id && !p.link) written.push_back(p);
  study.phrases = {};
  for (std::size_t i = 0; i < 12 && !written.empty(); ++i) {
    Phrase p = written[i % written.size()];
    p.id = "p" + std::to_string(i);
    p.number = static_cast<int>(i) + 1;
    study.phrases.push_back(std::move(p));
  }
  std::vector<double> layout;
  int pages = 0;
  for (int k = 0; k < 9; ++k) {
    QElapsedTimer clock;
    clock.start();
    const SheetPages laid(layOutSheet({study, take, findings}), {});
    layout.push_back(static_cast<double>(clock.nsecsElapsed()) / 1e6);
    pages = laid.count();
  }
  std::sort(layout.begin(), layout.end());
  QElapsedTimer clock;
  clock.start();
  const SheetPages laid(layOutSheet({study, take, findings}), {});
  const auto done = writeSheetPdf(laid, argv[2], "sheet");
  if (!done) return 1;
  std::printf("%s\n", nlohmann::json{{"layout_ms", layout[layout.size() / 2]},
                                     {"worst_ms", layout.back()},
                                     {"pages", pages},
                                     {"pdf_ms", static_cast<double>(clock.nsecsElapsed()) / 1e6},
                                     {"pdf_kb", static_cast<double>(std::filesystem::file_size(argv[2])) / 1000}}
                          .dump()
                          .c_str());
}
