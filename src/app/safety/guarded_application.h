// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QApplication>
#include <functional>

class QSocketNotifier;

namespace ear {

/// An application out of which nothing escapes: an exception in an event handler, a timer or a slot, a signal that ends
/// the process (SIGTERM, SIGINT, SIGHUP) and the end of the desktop session all come by here first.
class GuardedApplication : public QApplication {
  Q_OBJECT
 public:
  GuardedApplication(int& argc, char** argv);
  ~GuardedApplication() override;

  bool notify(QObject* receiver, QEvent* event) override;

  /// Saves what is on the desk, whatever the reason; called before anything is said.
  std::function<void()> rescue;

  /// From now on the signals above end the event loop, after rescue(), with 128 + their number.
  void catchSignals();

 signals:
  /// Something was thrown and stopped here. The study has been rescued by then.
  void caught(const QString& sentence);

 private:
  void readSignal();

  QSocketNotifier* notifier_ = nullptr;
};

}  // namespace ear
