// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <QAction>
#include <QApplication>
#include <QMessageBox>
#include <QMouseEvent>
#include <QPushButton>
#include <QSettings>
#include <QSignalSpy>
#include <QTest>
#include <QTimer>

#include "app/closeup/close_up.h"
#include "app/desk/desk_window.h"
#include "app/desk/study_keeper.h"
#include "app/drawer/drawer.h"
#include "app/map/map_view.h"
#include "devices/simulated_audio_output.h"
#include "devices/simulated_guitar.h"
#include "support/sounds.h"

namespace ear::test {

/// A desk with a simulated output whose clock the test turns.
class DeskTest : public testing::Test {
 protected:
  void SetUp() override {
    auto output = std::make_unique<SimulatedAudioOutput>(SimulatedAudioOutput::Clock::manual);
    output_ = output.get();
    window_ = std::make_unique<DeskWindow>(std::move(output), [this] {
      auto guitar = std::make_unique<SimulatedGuitar>(SimulatedGuitar::Clock::manual);
      guitar_ = guitar.get();
      return guitar;
    });
    window_->resize(1280, 800);
    window_->show();
    ASSERT_TRUE(QTest::qWaitForWindowExposed(window_.get()));
  }

  Workbench& bench() { return window_->bench(); }
  template <class T>
  T* child(const char* name) {
    T* found = window_->findChild<T*>(name);
    EXPECT_NE(found, nullptr) << name;
    return found;
  }

  void waitUntilHeard() {
    ASSERT_TRUE(
        QTest::qWaitFor([&] { return bench().transport().hasSound() && !bench().analysis().running(); }, 60000));
  }
  void openDemo() {
    ASSERT_TRUE(window_->keeper().openDemo(QStringLiteral(DEMO_DIR) + "/copper-weather.innerear"));
    waitUntilHeard();
  }
  void press(Qt::Key key, Qt::KeyboardModifiers modifiers = Qt::NoModifier) {
    QTest::keyClick(window_.get(), key, modifiers);
  }
  /// Presses the button with this label in the next message box.
  void answerNext(const QString& label) {
    QTimer::singleShot(0, window_.get(), [this, label] { answer(label, 100); });
  }
  void drag(QWidget* widget, QPoint from, QPoint to, Qt::KeyboardModifiers modifiers = {}) {
    QTest::mousePress(widget, Qt::LeftButton, modifiers, from);
    for (int k = 1; k <= 8; ++k) {
      const QPointF at = from + (to - from) * k / 8;
      QMouseEvent move(QEvent::MouseMove, at, widget->mapToGlobal(at), Qt::NoButton, Qt::LeftButton, modifiers);
      QApplication::sendEvent(widget, &move);
    }
    QTest::mouseRelease(widget, Qt::LeftButton, modifiers, to);
  }

  std::unique_ptr<DeskWindow> window_;
  SimulatedAudioOutput* output_ = nullptr;
  SimulatedGuitar* guitar_ = nullptr;  // once the tuner was opened

 private:
  void answer(const QString& label, int tries) {
    for (auto* box : window_->findChildren<QMessageBox*>())
      for (auto* button : box->buttons())
        if (box->isVisible() && button->text() == label) {
          button->click();
          return;
        }
    if (tries > 0) QTimer::singleShot(20, window_.get(), [=, this] { answer(label, tries - 1); });
  }
};

}  // namespace ear::test
