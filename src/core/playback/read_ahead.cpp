// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/playback/read_ahead.h"

#include <algorithm>
#include <chrono>
#include <cmath>

namespace ear {
namespace {

constexpr auto kEvery = std::chrono::milliseconds(500);
constexpr double kPart = 5.0;  // seconds: what is kept at once, so that it can be added to as the playing goes on

}  // namespace

ReadAhead::ReadAhead(std::function<Seconds()> position)
    : position_(std::move(position)), thread_([this](const std::stop_token& stop) { run(stop); }) {}

ReadAhead::~ReadAhead() {
  thread_.request_stop();
}

void ReadAhead::change(const std::function<std::shared_ptr<const Recording>()>& load) {
  {
    const std::scoped_lock lock(guard_);
    recording_ = load();
    expected_.clear();
    hurried_ = true;
  }
  wake_.notify_all();
}

void ReadAhead::expect(std::vector<TimeSpan> spans) {
  {
    const std::scoped_lock lock(guard_);
    expected_ = std::move(spans);
    hurried_ = true;
  }
  wake_.notify_all();
}

void ReadAhead::hurry() {
  {
    const std::scoped_lock lock(guard_);
    hurried_ = true;
  }
  wake_.notify_all();
}

/// The parts of the recording that shall be there, the most urgent first.
std::vector<TimeSpan> ReadAhead::wantedParts() const {
  std::vector<TimeSpan> parts;
  const auto want = [&](TimeSpan span) {
    const Seconds end = std::min({span.end, span.start + kAhead, recording_->duration()});
    for (double at = std::max(0.0, std::floor(span.start.value / kPart) * kPart); at < end.value; at += kPart)
      if (const TimeSpan part{Seconds(at), Seconds(at + kPart)}; std::ranges::find(parts, part) == parts.end())
        parts.push_back(part);
  };
  const Seconds now = position_();
  want({now, now + kAhead});
  for (const TimeSpan& span : expected_) want(span);
  return parts;
}

void ReadAhead::run(const std::stop_token& stop) {
  std::shared_ptr<const Recording> recording;
  std::vector<Kept> kept;  // of that recording; goes before it does
  while (!stop.stop_requested()) {
    std::vector<TimeSpan> parts;
    {
      std::unique_lock lock(guard_);
      wake_.wait_for(lock, stop, kEvery, [this] { return hurried_; });
      hurried_ = false;
      if (recording != recording_) {
        kept.clear();
        recording = recording_;
      }
      if (recording != nullptr && recording->sampleRate > 0) parts = wantedParts();
    }
    std::erase_if(kept, [&](const Kept& k) { return std::ranges::find(parts, k.span) == parts.end(); });
    for (const TimeSpan& part : parts) {
      if (stop.stop_requested()) return;
      if (std::ranges::find(kept, part, &Kept::span) != kept.end()) continue;
      Kept fresh{part, {}};
      for (const auto& plane : recording->channels) fresh.planes.emplace_back(partOf(*recording, plane, part));
      kept.push_back(std::move(fresh));
    }
  }
}

}  // namespace ear
