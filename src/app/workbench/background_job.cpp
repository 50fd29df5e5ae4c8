// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/workbench/background_job.h"

#include <sys/resource.h>
#include <unistd.h>

#include <new>

namespace ear {

void standBack() {
  constexpr int kNice = 5;
  setpriority(PRIO_PROCESS, static_cast<id_t>(gettid()), kNice);  // on Linux: of this thread alone
}

QString sentenceOf(const std::exception& error) {
  if (dynamic_cast<const std::bad_alloc*>(&error) != nullptr)
    return QObject::tr(
        "There was not enough memory for that, and it was given up; the study is as it was. Close other programs and "
        "try again.");
  return QObject::tr("Something went wrong that should not (%1), and it was given up; the study is as it was.")
      .arg(QString::fromUtf8(error.what()).left(200));
}

void BackgroundJob::run(std::function<void(const Progress&, const Post&)> work) {
  cancel();
  running_ = true;
  const int generation = generation_;
  const Post post = [this, generation](std::function<void()> action) {
    QMetaObject::invokeMethod(
        this,
        [this, generation, action = std::move(action)] {
          if (generation == generation_) action();
        },
        Qt::QueuedConnection);
  };
  progress_ =
      std::make_shared<Progress>([this, post](double share) { post([this, share] { emit progressed(share); }); });
  thread_ = std::jthread([this, post, progress = progress_, work = std::move(work)] {
    if (haste_ == Haste::standsBack) standBack();
    try {
      work(*progress, post);
    } catch (const std::exception& error) {
      post([this, sentence = sentenceOf(error)] { emit failed(sentence); });
    }
    post([this] {
      running_ = false;
      emit finished();
    });
  });
}

void BackgroundJob::wait() {
  if (thread_.joinable()) thread_.join();
}

void BackgroundJob::cancel() {
  ++generation_;
  if (progress_) progress_->cancel();
  if (thread_.joinable()) thread_.join();
  running_ = false;
}

}  // namespace ear
