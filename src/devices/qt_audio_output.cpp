#include "devices/qt_audio_output.h"

#include <QAudioDevice>
#include <QAudioFormat>
#include <QAudioSink>
#include <QIODevice>
#include <QMediaDevices>
#include <QThread>
#include <cstring>

namespace ear {
namespace {

constexpr int kBufferFrames = 2048;  // about 45 ms: short enough to answer a key at once, long enough not to break off

QAudioFormat formatAt(int sampleRate) {
  QAudioFormat format;
  format.setSampleRate(sampleRate);
  format.setChannelCount(2);
  format.setSampleFormat(QAudioFormat::Float);
  return format;
}

/// What the sink reads from: renders on demand, without end.
class Source : public QIODevice {
 public:
  explicit Source(RenderBlock render) : render_(std::move(render)), block_(2 * 512) {
    open(QIODevice::ReadOnly | QIODevice::Unbuffered);
  }

  qint64 bytesAvailable() const override { return 1 << 20; }
  bool isSequential() const override { return true; }

 protected:
  qint64 readData(char* data, qint64 wanted) override {
    constexpr qint64 kFrame = 2 * sizeof(float);
    qint64 frames = wanted / kFrame;
    qint64 done = 0;
    while (frames > 0) {
      const auto size = std::min<std::size_t>(static_cast<std::size_t>(frames), block_.size() / 2);
      render_(std::span(block_).first(2 * size));
      std::memcpy(data + done, block_.data(), size * kFrame);
      done += static_cast<qint64>(size) * kFrame;
      frames -= static_cast<qint64>(size);
    }
    return done;
  }
  qint64 writeData(const char*, qint64) override { return -1; }

 private:
  RenderBlock render_;
  std::vector<float> block_;
};

}  // namespace

struct QtAudioOutput::Worker {
  QThread thread;
  QObject context;  // lives on the thread; what is called through it runs there
  std::unique_ptr<Source> source;
  std::unique_ptr<QAudioSink> sink;
  bool stopping = false;
};

QtAudioOutput::QtAudioOutput() : worker_(std::make_unique<Worker>()) {
  worker_->context.moveToThread(&worker_->thread);
  worker_->thread.start(QThread::TimeCriticalPriority);
}

QtAudioOutput::~QtAudioOutput() {
  stop();
  worker_->thread.quit();
  worker_->thread.wait();
}

bool QtAudioOutput::available() {
  return !QMediaDevices::defaultAudioOutput().isNull();
}

std::string QtAudioOutput::name() const {
  return QMediaDevices::defaultAudioOutput().description().toStdString();
}

std::function<bool(int)> QtAudioOutput::rateCheck() const {
  return [device = QMediaDevices::defaultAudioOutput()](int sampleRate) {
    return device.isFormatSupported(formatAt(sampleRate));
  };
}

bool QtAudioOutput::start(int sampleRate, RenderBlock render) {
  stop();
  const QAudioDevice device = QMediaDevices::defaultAudioOutput();
  const QAudioFormat format = formatAt(sampleRate);
  if (device.isNull() || !device.isFormatSupported(format)) return false;
  bool playing = false;
  QMetaObject::invokeMethod(
      &worker_->context,
      [&] {
        Worker& w = *worker_;
        w.stopping = false;
        w.source = std::make_unique<Source>(std::move(render));
        w.sink = std::make_unique<QAudioSink>(device, format);
        w.sink->setBufferSize(kBufferFrames * format.bytesPerFrame());
        QObject::connect(w.sink.get(), &QAudioSink::stateChanged, &w.context, [this](QAudio::State state) {
          if (state == QAudio::StoppedState && !worker_->stopping && worker_->sink->error() != QAudio::NoError &&
              onTrouble)
            onTrouble("The sound output “" + name() + "” stopped answering.");
        });
        w.sink->start(w.source.get());
        playing = w.sink->error() == QAudio::NoError;
      },
      Qt::BlockingQueuedConnection);
  return playing;
}

void QtAudioOutput::stop() {
  QMetaObject::invokeMethod(
      &worker_->context,
      [this] {
        worker_->stopping = true;
        if (worker_->sink) worker_->sink->stop();
        worker_->sink.reset();
        worker_->source.reset();
      },
      Qt::BlockingQueuedConnection);
}

}  // namespace ear
