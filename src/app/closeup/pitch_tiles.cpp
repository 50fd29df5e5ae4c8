// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/closeup/pitch_tiles.h"

#include <algorithm>
#include <cmath>
#include <new>
#include <optional>

#include "app/workbench/background_job.h"

namespace ear {
namespace {
constexpr int kFarLevel = 8;  // a tile of a minute and a half, or more
}

PitchTiles::PitchTiles(QObject* parent) : QObject(parent) {
  thread_ = std::jthread([this](const std::stop_token& stop) {
    standBack();
    work(stop);
  });
}

PitchTiles::~PitchTiles() {
  thread_.request_stop();
  wake_.notify_all();
  thread_.join();
}

void PitchTiles::setSound(std::shared_ptr<const Recording> recording, Cents offset, PitchMap::Mix mix) {
  {
    const std::lock_guard lock(mutex_);
    recording_ = std::move(recording);
    offset_ = offset;
    mix_ = mix;
    ++generation_;
    asked_.clear();
  }
  tiles_.clear();
  uses_.clear();
  wanted_.clear();
}

const QImage* PitchTiles::present(Key key) {
  const auto found = tiles_.find(key);
  if (found == tiles_.end()) return nullptr;
  uses_.splice(uses_.begin(), uses_, found->second.use);
  return &found->second.picture;
}

const QImage* PitchTiles::tile(Key key) {
  if (const QImage* there = present(key)) return there;
  wanted_.push_back(key);
  return nullptr;
}

void PitchTiles::endOfLook() {
  {
    const std::lock_guard lock(mutex_);
    // The first one that was wished for is done first.
    asked_.assign(wanted_.rbegin(), wanted_.rend());
  }
  missing_ = wanted_.size();
  if (missing_ > 0) wake_.notify_one();
  wanted_.clear();
}

void PitchTiles::work(const std::stop_token& stop) {
  std::unique_ptr<PitchMap> map;
  int mapOf = -1;
  std::vector<float> column(PitchMap::kRows);
  while (!stop.stop_requested()) {
    Key key;
    std::shared_ptr<const Recording> recording;
    PitchMap::Mix mix;
    Cents offset;
    int generation = 0;
    {
      std::unique_lock lock(mutex_);
      if (!wake_.wait(lock, stop, [&] { return !asked_.empty() && recording_ != nullptr; })) return;
      key = asked_.back();
      asked_.pop_back();
      recording = recording_;
      mix = mix_;
      offset = offset_;
      generation = generation_;
    }
    QImage picture(kColumns, PitchMap::kRows, QImage::Format_Indexed8);
    try {
      if (mapOf != generation) map = std::make_unique<PitchMap>(recording->sampleRate, offset);
    } catch (const std::bad_alloc&) {
      picture = {};
    }
    if (picture.isNull()) continue;  // no memory: the place stays empty until it is looked at again
    mapOf = generation;
    const std::int64_t hop = std::int64_t{kHop} << key.level;
    for (int c = 0; c < kColumns; ++c) {
      const std::int64_t frame = (key.index * kColumns + c) * hop + hop / 2;
      if (frame - hop > static_cast<std::int64_t>(recording->frames()))
        std::fill(column.begin(), column.end(), 0.0F);
      else
        map->column(*recording, frame, mix, column);
      for (int row = 0; row < PitchMap::kRows; ++row)
        picture.scanLine(PitchMap::kRows - 1 - row)[c] =
            static_cast<uchar>(std::lround(255 * column[static_cast<std::size_t>(row)]));
    }
    if (key.level >= kFarLevel) {  // every column has read another place of the recording
      const auto at = [&](std::int64_t c) { return Seconds(static_cast<double>(c * hop) / recording->sampleRate); };
      evict(*recording, {at(key.index * kColumns), at((key.index + 1) * kColumns)});
    }
    QMetaObject::invokeMethod(
        this, [this, key, picture = std::move(picture), generation] { receive(key, picture, generation); },
        Qt::QueuedConnection);
  }
}

void PitchTiles::receive(Key key, QImage picture, int generation) {
  if (generation != generation_ || tiles_.contains(key)) return;
  while (tiles_.size() >= kMostTiles) {
    tiles_.erase(uses_.back());
    uses_.pop_back();
  }
  uses_.push_front(key);
  tiles_[key] = {std::move(picture), uses_.begin()};
  emit arrived();
}

}  // namespace ear
