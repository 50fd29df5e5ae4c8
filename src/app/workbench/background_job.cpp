#include "app/workbench/background_job.h"

#include <sys/resource.h>
#include <unistd.h>

namespace ear {

void standBack() {
  constexpr int kNice = 5;
  setpriority(PRIO_PROCESS, static_cast<id_t>(gettid()), kNice);  // on Linux: of this thread alone
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
    standBack();
    work(*progress, post);
    post([this] {
      running_ = false;
      emit finished();
    });
  });
}

void BackgroundJob::cancel() {
  ++generation_;
  if (progress_) progress_->cancel();
  if (thread_.joinable()) thread_.join();
  running_ = false;
}

}  // namespace ear
