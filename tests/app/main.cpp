#include <gtest/gtest.h>

#include <QApplication>
#include <QStandardPaths>
#include <cstdlib>

#include "app/theme/theme.h"

int main(int argc, char** argv) {
  if (std::getenv("QT_QPA_PLATFORM") == nullptr) setenv("QT_QPA_PLATFORM", "offscreen", 1);
  testing::InitGoogleTest(&argc, argv);
  QStandardPaths::setTestModeEnabled(true);
  QApplication app(argc, argv);
  QApplication::setOrganizationName("inner-ear-tests");
  // Each test is a process of its own under CTest: settings must not pass from one to another.
  QApplication::setApplicationName(QStringLiteral("run-%1").arg(QApplication::applicationPid()));
  ear::Theme::apply(app, ear::Theme::Choice::light);
  return RUN_ALL_TESTS();
}
