// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <functional>
#include <memory>
#include <thread>

#include "core/base/progress.h"

namespace ear {

/// The thread that calls it, and those that it starts, give way to the window and the sound from now on.
void standBack();

/// What to say of an exception that nobody expected: what happened and that nothing is lost by it.
QString sentenceOf(const std::exception& error);

/// One piece of work on a thread of its own; what it posts runs on the window's thread, and nothing does after
/// cancel().
class BackgroundJob : public QObject {
  Q_OBJECT
 public:
  using Post = std::function<void(std::function<void()>)>;

  /// Work that stands back leaves the processor to what plays and draws; work that keeps what was done does not.
  enum class Haste { standsBack, urgent };
  explicit BackgroundJob(QObject* parent = nullptr, Haste haste = Haste::standsBack) : QObject(parent), haste_(haste) {}
  ~BackgroundJob() override { cancel(); }

  /// Cancels what runs and starts `work`. @param work  called on the new thread; what it throws ends in failed()
  void run(std::function<void(const Progress&, const Post&)> work);

  /// Waits until the work has noticed.
  void cancel();
  /// Waits until the work is done. What it has posted by then still comes.
  void wait();
  bool running() const { return running_; }

 signals:
  void progressed(double share);
  void failed(const QString& sentence);
  void finished();

 private:
  Haste haste_;
  std::shared_ptr<Progress> progress_;
  std::jthread thread_;
  int generation_ = 0;
  bool running_ = false;
};

}  // namespace ear
