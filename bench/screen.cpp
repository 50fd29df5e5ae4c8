// SPDX-License-Identifier: GPL-3.0-or-later
// The desk before a long recording: when its map stands, and how long a frame takes while zooming, scrolling and
// playing. Drawn by the platform's raster engine into memory, so nothing waits for a monitor. JSON to standard output.

#include <QApplication>
#include <QElapsedTimer>
#include <QSettings>
#include <QTemporaryDir>
#include <QTimer>
#include <algorithm>
#include <cmath>
#include <cstdio>
#include <nlohmann/json.hpp>

#include "app/closeup/close_up.h"
#include "app/desk/desk_window.h"
#include "app/desk/study_keeper.h"
#include "app/theme/theme.h"
#include "devices/simulated_audio_output.h"

namespace {

using namespace ear;

constexpr double kFrame = 1000.0 / 60;  // ms

void run(int milliseconds) {
  QEventLoop loop;
  QTimer::singleShot(milliseconds, Qt::PreciseTimer, &loop, &QEventLoop::quit);
  loop.exec();
}

/// Milliseconds that each frame of a movement took, `step` and drawing together. What is left of a sixtieth of a second
/// goes to whatever else the program has to do.
std::vector<double> frames(DeskWindow& window, int count, const std::function<void(int)>& step) {
  std::vector<double> took;
  for (int i = 0; i < count; ++i) {
    QElapsedTimer clock;
    clock.start();
    step(i);
    window.closeUp().repaint();
    QApplication::processEvents();  // the map and whatever follows the window
    took.push_back(static_cast<double>(clock.nsecsElapsed()) / 1e6);
    run(std::max(0, static_cast<int>(kFrame - took.back())));
  }
  return took;
}

nlohmann::json summary(std::vector<double> took) {
  std::sort(took.begin(), took.end());
  const auto late = std::count_if(took.begin(), took.end(), [](double t) { return t > kFrame; });
  return {{"median_ms", took[took.size() / 2]},
          {"p99_ms", took[took.size() * 99 / 100]},
          {"worst_ms", took.back()},
          {"late_share", static_cast<double>(late) / static_cast<double>(took.size())}};
}

}  // namespace

int main(int argc, char** argv) {
  QApplication app(argc, argv);
  if (argc < 2) {
    std::fputs("screen RECORDING\n", stderr);
    return 1;
  }
  const QTemporaryDir settings;
  QSettings::setPath(QSettings::NativeFormat, QSettings::UserScope, settings.path());
  Theme::apply(app, Theme::Choice::light);
  auto output = std::make_unique<SimulatedAudioOutput>();
  DeskWindow window(std::move(output));
  window.resize(1280, 800);
  window.show();
  Workbench& bench = window.bench();

  nlohmann::json out;
  QElapsedTimer clock;
  clock.start();
  bench.session().newFromRecording(argv[1]);
  while (bench.analysis().overview().empty()) run(5);
  window.repaint();
  out["map_s"] = static_cast<double>(clock.elapsed()) / 1000;
  while (!bench.transport().hasSound()) run(5);
  out["sound_s"] = static_cast<double>(clock.elapsed()) / 1000;

  CloseUp& view = window.closeUp();
  const Seconds all = bench.analysis().duration(), middle = all * 0.4;
  const auto zoomAndBack = [&](int i) {
    if (i == 0) view.zoomOut();
    view.zoom(i < 150 ? 0.93 : 1 / 0.93, middle);
  };
  const auto scroll = [&](Seconds length) {
    return [&view, middle, length](int i) {
      const Seconds start = middle + length * (0.02 * i);
      view.setWindow({start, start + length});
    };
  };
  out["zoom_while_listening"] = summary(frames(window, 300, zoomAndBack));
  while (bench.analysis().running()) run(50);
  out["listened_s"] = static_cast<double>(clock.elapsed()) / 1000;
  out["zoom"] = summary(frames(window, 300, zoomAndBack));
  out["scroll_10s"] = summary(frames(window, 300, scroll(Seconds(10))));
  out["scroll_10min"] = summary(frames(window, 300, scroll(Seconds(600))));
  bench.transport().seek(middle);
  view.setWindow({middle, middle + Seconds(4)});
  bench.transport().togglePlay();
  out["play"] = summary(frames(window, 600, [](int) {}));
  std::puts(out.dump(1).c_str());
  return 0;
}
