// SPDX-License-Identifier: GPL-3.0-or-later
#include "devices/qt_audio_output.h"

#include <QAudioDevice>
#include <QAudioFormat>
#include <QAudioSink>
#include <QElapsedTimer>
#include <QIODevice>
#include <QMediaDevices>
#include <QThread>
#include <QTimer>
#include <algorithm>
#include <iterator>
#include <vector>

namespace ear {
namespace {

// About 45 ms to begin with: short enough to answer a key at once. A system that cannot keep up gets twice that, and
// again.
constexpr int kFirstBuffer = 2048, kLongestBuffer = 16384;  // frames
constexpr int kTick = 5;                                    // ms between two looks at the room in the buffer
constexpr int kGapsBeforeMore = 3;                          // that many breaks in the sound make the buffer longer
constexpr std::size_t kBlock = 512;                         // frames rendered at once
// ms in which a device takes nothing until it counts as gone. One that was idle may have two seconds of silence in
// hand.
constexpr int kPatience = 2500;
constexpr int kRetired = 3000;            // ms for which a sink that was stopped is kept
constexpr int kSteady = kPatience + 500;  // ms that it must have played to be tried once more

/// PulseAudio and what stands in for it let a device buffer up to two seconds unless a stream asks for less; Qt does
/// not ask, and with a short buffer of its own there would be gaps. The client library asks when this is set.
void askForLatency(int milliseconds) {
  qputenv("PULSE_LATENCY_MSEC", QByteArray::number(milliseconds));
}

/// A sink that was stopped. The PulseAudio thread of Qt's backend may still be about to tell it of an underrun, and
/// would do so after its end: it is only let go of a good while later.
struct RetiredSink {
  std::unique_ptr<QAudioSink> sink;
  QElapsedTimer since;
};

/// Those that an output leaves behind at its own end are never destroyed: nothing tells when it would be safe.
std::vector<RetiredSink>& leftBehind() {
  static auto* const sinks = new std::vector<RetiredSink>;
  return *sinks;
}

QAudioFormat formatAt(int sampleRate) {
  QAudioFormat format;
  format.setSampleRate(sampleRate);
  format.setChannelCount(2);
  format.setSampleFormat(QAudioFormat::Float);
  return format;
}

}  // namespace

/// Lives on the device's thread. Samples are pushed: the sink's own pulling comes to a standstill with short buffers.
struct QtAudioOutput::Worker {
  QThread thread;
  QObject context;  // lives on the thread; what is called through it runs there
  QTimer tick{&context};
  QMediaDevices devices;  // of the thread that made the output
  QAudioDevice device;
  QAudioFormat format;
  RenderBlock render;
  std::unique_ptr<QAudioSink> sink;
  std::vector<RetiredSink> retired;
  QIODevice* to = nullptr;
  std::vector<float> block = std::vector<float>(2 * kBlock);
  std::size_t written = 2 * kBlock * sizeof(float);  // bytes of the block that the sink has taken
  int bufferFrames = kFirstBuffer, gaps = 0;
  bool stopping = false;
  bool lost = false;           // the sink says that it has ended
  bool wanted = false;         // between start() and stop()
  QElapsedTimer opened;        // since the sink was opened
  QElapsedTimer taking;        // since the sink last took samples
  std::function<void()> gone;  // the device went away

  bool open() {
    stopping = lost = false;
    gaps = 0;
    std::erase_if(retired, [](const RetiredSink& r) { return r.since.elapsed() > kRetired; });
    askForLatency(1000 * bufferFrames / format.sampleRate());
    sink = std::make_unique<QAudioSink>(device, format);
    sink->setBufferSize(bufferFrames * format.bytesPerFrame());
    QObject::connect(sink.get(), &QAudioSink::stateChanged, &context, [this](QAudio::State state) {
      if (stopping) return;
      if (state == QAudio::IdleState && sink->error() == QAudio::UnderrunError) ++gaps;
      if (state == QAudio::StoppedState && sink->error() != QAudio::NoError) lost = true;
    });
    to = sink->start();
    if (to == nullptr || sink->error() != QAudio::NoError) return false;
    opened.start();
    taking.start();
    push();
    tick.start(kTick);
    return true;
  }

  void close() {
    stopping = true;
    tick.stop();
    to = nullptr;
    if (!sink) return;
    sink->stop();
    sink->disconnect();
    retired.push_back({std::move(sink), {}});
    retired.back().since.start();
  }

  /// Fills the room there is.
  void push() {
    const std::size_t size = block.size() * sizeof(float);
    for (qint64 room = sink->bytesFree(); room > 0;) {
      if (written == size) {
        render(block);
        written = 0;
      }
      const auto part = std::min<qint64>(room, static_cast<qint64>(size - written));
      const qint64 taken = to->write(reinterpret_cast<const char*>(block.data()) + written, part);
      if (taken <= 0) return;
      taking.restart();
      written += static_cast<std::size_t>(taken);
      room -= taken;
    }
  }
};

QtAudioOutput::QtAudioOutput() : worker_(std::make_unique<Worker>()) {
  worker_->tick.setTimerType(Qt::PreciseTimer);
  worker_->context.moveToThread(&worker_->thread);  // and the timer, its child
  worker_->gone = [this] {
    worker_->wanted = false;
    if (onTrouble) onTrouble("The sound output “" + name() + "” stopped answering.");
  };
  QObject::connect(&worker_->tick, &QTimer::timeout, &worker_->context, [this] {
    Worker& w = *worker_;
    w.push();
    // A device that is pulled out may just stop taking samples without a word; so may one that the system has moved
    // the stream away from. What is the default now gets one try.
    if (w.lost || w.taking.elapsed() > kPatience) {
      w.close();
      if (w.opened.elapsed() > kSteady)
        QMetaObject::invokeMethod(
            &w.devices, [this] { reopen(); }, Qt::QueuedConnection);
      else
        w.gone();
      return;
    }
    if (w.gaps < kGapsBeforeMore || w.bufferFrames >= kLongestBuffer) return;
    w.close();
    w.bufferFrames *= 2;
    w.open();
  });
  QObject::connect(&worker_->devices, &QMediaDevices::audioOutputsChanged, &worker_->devices, [this] {
    if (QMediaDevices::defaultAudioOutput() != worker_->device) reopen();
  });
  worker_->thread.start(QThread::TimeCriticalPriority);
}

void QtAudioOutput::reopen() {
  const QAudioDevice now = QMediaDevices::defaultAudioOutput();
  bool moved = false;
  QMetaObject::invokeMethod(
      &worker_->context,
      [&] {
        Worker& w = *worker_;
        if (!w.wanted) return;
        w.close();
        const bool another = now != w.device;
        w.device = now;
        if (now.isNull() || !now.isFormatSupported(w.format) || !w.open())
          w.gone();
        else
          moved = another;
      },
      Qt::BlockingQueuedConnection);
  if (moved && onMoved) onMoved("Sound now goes to “" + name() + "”.");
}

QtAudioOutput::~QtAudioOutput() {
  QtAudioOutput::stop();
  worker_->thread.quit();
  worker_->thread.wait();
  std::ranges::move(worker_->retired, std::back_inserter(leftBehind()));
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
        w.device = device;
        w.format = format;
        w.render = std::move(render);
        w.written = w.block.size() * sizeof(float);
        playing = w.wanted = w.open();
      },
      Qt::BlockingQueuedConnection);
  return playing;
}

void QtAudioOutput::stop() {
  QMetaObject::invokeMethod(
      &worker_->context,
      [this] {
        worker_->wanted = false;
        worker_->close();
      },
      Qt::BlockingQueuedConnection);
}

}  // namespace ear
