// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/workbench/time_keeper.h"

#include <cmath>

#include "app/theme/words.h"
#include "app/workbench/workbench.h"
#include "core/base/text.h"
#include "core/listening/rhythm/rhythm.h"

namespace ear {
namespace {

constexpr int kTapPause = 2500;  // ms without a tap that end it
constexpr double kClickLevel = 0.5;
constexpr double kLatency = 0.12;  // seconds that taps may lie behind beats of the same tempo by the way of the sound
constexpr double kSameTempo = 0.04;

}  // namespace

TimeKeeper::TimeKeeper(Workbench& bench) : QObject(&bench), bench_(bench), job_(this) {
  pause_.setSingleShot(true);
  pause_.setObjectName("tap-pause");
  pause_.setInterval(kTapPause);
  connect(&pause_, &QTimer::timeout, this, &TimeKeeper::endTaps);
  bench.transport().countBefore = [this] { return barToCount(); };
  bench.session().whenChanged(kOfTake | Changed::time, this, &TimeKeeper::refresh);
  connect(&bench.analysis(), &Analysis::soundChanged, this, [this] {
    job_.cancel();
    taps_.clear();
    giveClick();
  });
  connect(&job_, &BackgroundJob::progressed, this, &TimeKeeper::followed);
  connect(&job_, &BackgroundJob::failed, &bench.session(), &Session::said);
  connect(&job_, &BackgroundJob::finished, this, &TimeKeeper::changed);
}

TimeKeeper::~TimeKeeper() {
  job_.cancel();
}

void TimeKeeper::refresh() {
  Grid now = bench_.take() != nullptr ? gridOf(*bench_.take(), bench_.session().findings()) : Grid{};
  if (now == grid_) return;
  grid_ = std::move(now);
  giveClick();
  emit changed();
}

QString TimeKeeper::counted(Seconds t) const {
  return text(countedAt(grid_, t, bench_.session().notation()));
}

void TimeKeeper::edit(const QString& label, const std::function<void(Grid&)>& change, const Evidence& evidence,
                      const std::string& merge) {
  if (bench_.take() == nullptr) return;
  Grid grid = grid_;
  change(grid);
  if (grid == grid_) return;
  bench_.document().edit(
      label.toStdString(),
      [&, id = bench_.take()->id](Study& s) { decideGrid(*s.take(id), grid, Origin::set, evidence); }, merge);
}

void TimeKeeper::halve() {
  edit(tr("Half the tempo"), halveTempo, Evidence::Kind::halfTempo);
}

void TimeKeeper::makeDouble() {
  edit(tr("Twice the tempo"), doubleTempo, Evidence::Kind::doubleTempo);
}

void TimeKeeper::shiftBars(int beats) {
  edit(
      tr("Move the one"), [beats](Grid& g) { ear::shiftBars(g, beats); }, Evidence::Kind::barsMoved);
}

void TimeKeeper::set(const QString& label, const TimeValue& value, const Evidence& evidence) {
  if (bench_.take() == nullptr) return;
  Grid grid = grid_;
  if (!grid.empty() && value.meter != meterOf(grid)) setMeter(grid, value.meter);
  bench_.document().edit(label.toStdString(), [&, id = bench_.take()->id](Study& s) {
    Take& take = *s.take(id);
    if (grid != grid_) decideGrid(take, grid, Origin::set, evidence);
    take.time = Decision<TimeValue>{value, Origin::set, 1.0, evidence};
  });
}

std::size_t TimeKeeper::beatNear(Seconds t) const {
  std::size_t best = 0;
  for (std::size_t i = 0; i < grid_.size(); ++i)
    if (std::abs((grid_[i].time - t).value) < std::abs((grid_[best].time - t).value)) best = i;
  return best;
}

void TimeKeeper::barHere() {
  if (grid_.empty()) return;
  edit(
      tr("Start a bar here"), [i = beatNear(bench_.transport().position())](Grid& g) { startBarAt(g, i); },
      Evidence::Kind::barsSet);
}

void TimeKeeper::fixPassage(bool fixed) {
  if (!bench_.selection().passage()) {
    bench_.say(tr("Drag a passage first: its beats are the ones to hold."));
    return;
  }
  edit(
      fixed ? tr("Hold the beats") : tr("Let go of the beats"),
      [&](Grid& g) { fixBeats(g, *bench_.selection().passage(), fixed); }, Evidence::Kind::beatsHeld);
}

/// The beats are kept with the figures, so that another measurement does not move them.
void TimeKeeper::confirm() {
  const auto time = bench_.brief().time;
  if (bench_.take() == nullptr || !time) return;
  const Evidence evidence = Evidence::Kind::confirmedByEar;
  bench_.document().edit(tr("Confirm time").toStdString(), [&, id = bench_.take()->id](Study& s) {
    Take& take = *s.take(id);
    if (!grid_.empty()) take.grid = Decision<Shared<Grid>>{grid_, Origin::confirmed, 1.0, evidence};
    take.time = Decision<TimeValue>{time->value, Origin::confirmed, 1.0, evidence};
  });
}

void TimeKeeper::drop() {
  if (bench_.take() == nullptr) return;
  bench_.document().edit(tr("Back to measured time").toStdString(), [id = bench_.take()->id](Study& s) {
    s.take(id)->time.reset();
    s.take(id)->grid.reset();
  });
}

void TimeKeeper::tap(bool first) {
  if (!bench_.transport().playing()) {
    bench_.say(tr("Play the recording and tap along: T on each beat, Shift+T on the first beat of a bar."));
    return;
  }
  const Seconds at = bench_.transport().position();
  if (!taps_.empty() && at <= taps_.back()) endTaps();  // the loop went round, or a jump
  if (first) firstOfBar_ = taps_.size();
  taps_.push_back(at);
  pause_.start();
  emit changed();
}

void TimeKeeper::endTaps() {
  pause_.stop();
  auto beats = smoothTaps(taps_);
  const std::size_t first = std::exchange(firstOfBar_, 0);
  const auto count = std::exchange(taps_, {}).size();
  emit changed();
  if (beats.empty()) {
    if (count > 0) bench_.say(tr("Four taps at least make a tempo."));
    return;
  }
  const double tapped = 60.0 * static_cast<double>(beats.size() - 1) / (beats.back() - beats.front()).value;
  // Taps come late by the way of the sound to the ear and back. Where they have the grid's own tempo and lie a little
  // beside it all the time, it is the grid's beats that were meant.
  if (const auto tempo = tempoOf(grid_); tempo && std::abs(tempo->value / tapped - 1) < kSameTempo) {
    double sum = 0;
    for (const Seconds b : beats) sum += (b - grid_[beatNear(b)].time).value;
    const double late = sum / static_cast<double>(beats.size());
    if (std::abs(late) < kLatency)
      for (Seconds& b : beats) b -= Seconds(late);
  }
  const int meter = grid_.empty() ? 4 : meterOf(grid_);
  const QString what = ear::counted(static_cast<int>(count), tr("beat"), tr("beats"));
  edit(tr("Tap the beat"), [&](Grid& g) { placeTaps(g, beats, meter, first); },
       {Evidence::Kind::beatsTapped, {static_cast<double>(count), tapped}});
  bench_.say(tr("%1 tapped: %2 a minute. They are held; “Follow held beats” lets the machine find the others.")
                 .arg(what, text(fixed(tapped, 1))));
}

void TimeKeeper::followAround() {
  std::vector<Seconds> fixed;
  for (const Beat& b : grid_)
    if (b.fixed) fixed.push_back(b.time);
  if (!bench_.transport().hasSound() || bench_.take() == nullptr) return;
  if (fixed.size() < 2) {
    bench_.say(tr("Hold some beats first: tap along with T, drag a bar line, or hold those of a passage."));
    return;
  }
  job_.run([this, fixed, recording = bench_.transport().player().shared(), id = bench_.take()->id,
            meter = meterOf(grid_)](const Progress& progress, const BackgroundJob::Post& post) {
    const auto mono = listeningMono(*recording);
    progress.report(0.2);
    const auto onsets = measureOnsets(measureLogBandSpectrogram(mono, progress));
    progress.report(0.6);
    const auto beats = trackThrough(onsets, fixed, progress);
    if (progress.cancelled() || beats.size() < 2) return;
    post([=, this] {
      if (bench_.take() == nullptr || bench_.take()->id != id) return;
      edit(tr("Follow the beat"), [&](Grid& g) { g = aroundFixed(g, beats, meter); },
           {Evidence::Kind::beatsFollow, {static_cast<double>(fixed.size())}});
    });
  });
  emit changed();
}

void TimeKeeper::giveClick() {
  if (!bench_.transport().hasSound()) return;
  const double rate = bench_.transport().player().recording()->sampleRate;
  std::vector<Click::Tick> beats;
  for (const Beat& b : grid_) beats.push_back({b.time.value * rate, b.bar});
  bench_.transport().player().click().setBeats(std::move(beats));
  bench_.transport().player().click().setLevel(click_ ? kClickLevel : 0.0);
}

void TimeKeeper::setClick(bool on) {
  click_ = on;
  bench_.transport().player().click().setLevel(on ? kClickLevel : 0.0);
  emit changed();
}

void TimeKeeper::setCountIn(bool on) {
  countIn_ = on;
  emit changed();
}

/// A bar at the tempo of the place where it starts: the players may have drifted.
Transport::Count TimeKeeper::barToCount() const {
  if (!countIn_ || grid_.size() < 2) return {};
  const std::size_t i = std::min(beatNear(bench_.transport().position()), grid_.size() - 2);
  return {meterOf(grid_), (grid_[i + 1].time - grid_[i].time) / bench_.transport().sounding().speed};
}

}  // namespace ear
