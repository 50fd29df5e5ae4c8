// SPDX-License-Identifier: GPL-3.0-or-later
#include "devices/qt_audio_input.h"

#include <QAudioDevice>
#include <QAudioFormat>
#include <QAudioSource>
#include <QIODevice>
#include <QMediaDevices>
#include <cstring>
#include <vector>

namespace ear {

struct QtAudioInput::Source {
  std::unique_ptr<QAudioSource> source;
  std::vector<float> block;
};

QtAudioInput::QtAudioInput() : source_(std::make_unique<Source>()) {}

QtAudioInput::~QtAudioInput() {
  QtAudioInput::stop();
}

bool QtAudioInput::available() {
  return !QMediaDevices::defaultAudioInput().isNull();
}

std::string QtAudioInput::name() const {
  return QMediaDevices::defaultAudioInput().description().toStdString();
}

int QtAudioInput::start(TakeBlock take) {
  stop();
  const QAudioDevice device = QMediaDevices::defaultAudioInput();
  if (device.isNull()) return 0;
  QAudioFormat format;
  format.setSampleFormat(QAudioFormat::Float);
  format.setChannelCount(1);
  for (const int rate : {48000, 44100}) {
    format.setSampleRate(rate);
    if (device.isFormatSupported(format)) break;
  }
  if (!device.isFormatSupported(format)) return 0;
  source_->source = std::make_unique<QAudioSource>(device, format);
  QIODevice* from = source_->source->start();
  if (from == nullptr || source_->source->error() != QAudio::NoError) {
    stop();
    return 0;
  }
  QObject::connect(from, &QIODevice::readyRead, from, [this, from, take = std::move(take)] {
    const QByteArray bytes = from->readAll();
    source_->block.resize(static_cast<std::size_t>(bytes.size()) / sizeof(float));
    std::memcpy(source_->block.data(), bytes.constData(), source_->block.size() * sizeof(float));
    take(source_->block);
  });
  return format.sampleRate();
}

void QtAudioInput::stop() {
  if (source_->source) source_->source->stop();
  source_->source.reset();
}

}  // namespace ear
