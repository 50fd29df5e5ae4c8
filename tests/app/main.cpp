// SPDX-License-Identifier: GPL-3.0-or-later
#include <gtest/gtest.h>

#include <QAbstractButton>
#include <QDateTime>
#include <QStandardPaths>
#include <QTimer>
#include <cstdio>
#include <cstdlib>
#include <cstring>

#include "app/desk/desk_window.h"
#include "app/desk/study_keeper.h"
#include "app/safety/guarded_application.h"
#include "app/theme/theme.h"
#include "devices/simulated_audio_output.h"

namespace {

/// A window whose study is edited without end, and saved now and then, until somebody kills it. Every edit is told.
int editUntilKilled(ear::GuardedApplication& app, const char* file) {
  ear::DeskWindow window(std::make_unique<ear::SimulatedAudioOutput>());
  app.rescue = [&] { window.keeper().copies().writeNow(); };
  app.catchSignals();
  // A copy that an earlier one left is newer than the file: it is opened.
  QTimer::singleShot(0, &window, [&] {
    QTimer answering;
    QObject::connect(&answering, &QTimer::timeout, &window, [&] {
      for (auto* button : window.findChildren<QAbstractButton*>("answer-0")) button->click();
    });
    answering.start(5);
    window.keeper().open(file);
  });
  QTimer editing;
  QObject::connect(&editing, &QTimer::timeout, &window, [&] {
    if (window.bench().take() == nullptr) return;
    auto& document = window.bench().document();
    const int count = std::atoi(document.study().title.c_str()) + 1;
    document.edit("Count", [&](ear::Study& s) { s.title = std::to_string(count); });
    if (count % 97 == 0) window.keeper().save();
    std::printf("%d\n", count);
    std::fflush(stdout);
  });
  editing.start(15);
  return ear::GuardedApplication::exec();
}

}  // namespace

int main(int argc, char** argv) {
  if (std::getenv("QT_QPA_PLATFORM") == nullptr) setenv("QT_QPA_PLATFORM", "offscreen", 1);
  testing::InitGoogleTest(&argc, argv);
  QStandardPaths::setTestModeEnabled(true);
  ear::GuardedApplication app(argc, argv);
  QApplication::setOrganizationName("inner-ear-tests");
  // Each test is a process of its own under CTest: settings must not pass from one to another, nor from an earlier one
  // that had the same number.
  QApplication::setApplicationName(
      QStringLiteral("run-%1-%2").arg(QDateTime::currentMSecsSinceEpoch()).arg(QApplication::applicationPid()));
  ear::Theme::apply(app, ear::Theme::Choice::light);
  if (argc == 3 && std::strcmp(argv[1], "--edit-until-killed") == 0) return editUntilKilled(app, argv[2]);
  return RUN_ALL_TESTS();
}
