// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/workbench/transport.h"

#include <algorithm>

#include "app/workbench/session.h"

namespace ear {
namespace {

constexpr int kFrame = 16;        // ms between two looks at the playhead
constexpr int kToneRate = 48000;  // of the output while there is no recording
constexpr Seconds kAtEnd{0.05};

}  // namespace

Transport::Transport(Session& session, std::unique_ptr<AudioOutput> output, QObject* parent)
    : QObject(parent), session_(session), output_(std::move(output)) {
  output_->onTrouble = [this](const std::string& message) {
    QMetaObject::invokeMethod(
        this, [this, message] { heed(message, true); }, Qt::QueuedConnection);
  };
  output_->onMoved = [this](const std::string& message) {
    QMetaObject::invokeMethod(
        this, [this, message] { heed(message, false); }, Qt::QueuedConnection);
  };
  clock_.setInterval(kFrame);
  connect(&clock_, &QTimer::timeout, this, [this] {
    const bool now = playing();
    if (now || wasPlaying_) emit positionChanged();
    if (now != wasPlaying_) {
      wasPlaying_ = now;
      emit changed();
    }
    if (!now) clock_.stop();
  });
  connect(&session, &Session::studyReplaced, this, [this] { concertAwaited_ = false; });
  connect(&session, &Session::documentChanged, this, &Transport::followConcert);
  connect(&session, &Session::takeLeaving, this,
          [this] { wasAtConcert_ = shiftToConcert() != Cents(0) && sounding().shift == shiftToConcert(); });
  connect(&session, &Session::takeEntered, this, [this] {
    if (!std::exchange(wasAtConcert_, false)) return;
    setShift(Cents(0));
    concertAwaited_ = true;
    followConcert();
  });
}

Transport::~Transport() {
  output_->stop();
}

/// The device says something: that it is gone, or that the sound goes elsewhere now.
void Transport::heed(const std::string& message, bool stopped) {
  QString sentence = QString::fromStdString(message);
  if (stopped) {
    player().pause();
    output_->stop();
    outputRuns_ = false;
    sentence += tr(" Playing is paused; choose another output in the system's settings and press Space.");
  }
  emit changed();
  session_.say(sentence);
}

void Transport::unload() {
  output_->stop();
  outputRuns_ = false;
  mixer_.load({});
  emit positionChanged();
}

void Transport::load(Track track) {
  output_->stop();
  const int rate = track.recording()->sampleRate;
  mixer_.load(std::move(track));
  if (!startOutput(rate))
    session_.say(tr("The sound output does not play this recording (%1 Hz). Choose another output in the system's "
                    "settings and open the study again.")
                     .arg(rate));
}

bool Transport::startOutput(int sampleRate) {
  mixer_.prepare(sampleRate);
  outputRuns_ = output_->start(sampleRate, [this](std::span<float> block) { mixer_.render(block); });
  return outputRuns_;
}

bool Transport::openOutput() {
  return outputRuns_ || startOutput(kToneRate);
}

void Transport::togglePlay() {
  if (!hasSound()) return;
  if (playing()) {
    player().pause();
  } else {
    const auto loop = player().loop();
    const bool freely = !player().hasSequence();
    if (freely && loop && !loop->contains(position())) player().seek(loop->start);
    if (!outputRuns_ && !startOutput(player().recording()->sampleRate)) {
      session_.say(
          tr("There is no sound output that plays this recording now. Choose another in the system's settings and "
             "press Space."));
      return;
    }
    if (freely && !loop && position() >= player().recording()->duration() - kAtEnd) player().seek(Seconds(0));
    const Count count = countBefore ? countBefore() : Count{};
    if (count.beats > 0)
      player().playCounted(count.beats, count.each);
    else
      player().play();
    clock_.start();
  }
  wasPlaying_ = playing();
  emit changed();
}

void Transport::seek(Seconds to) {
  mixer_.seek(to);
  emit positionChanged();
}

// --- how it is heard -------------------------------------------------------------------------------------------

/// Gives the player what is set.
void Transport::sound() {
  PlaybackSettings wanted = sounding();
  wanted.isolation = isolating_ ? isolation_ : Isolation{};
  player().setPlayback(wanted);
  emit changed();
}

void Transport::setPlayback(double speed, Cents shift, const Isolation& isolation) {
  if (!isolation.plain()) isolation_ = isolation;
  isolating_ = !isolation.plain();
  player().setPlayback({speed, shift, isolation});
  emit changed();
}

void Transport::setSpeed(double speed) {
  setPlayback(speed, sounding().shift, sounding().isolation);
}

void Transport::setShift(Cents shift) {
  concertAwaited_ = false;
  setPlayback(sounding().speed, shift, sounding().isolation);
}

void Transport::setIsolation(const Isolation& isolation) {
  isolation_ = withinLimits(isolation);
  isolating_ = !isolation_.plain();
  sound();
}

void Transport::setIsolating(bool on) {
  isolating_ = on && !isolation_.plain();
  if (on && !isolating_) session_.say(tr("Nothing is isolated yet: choose a side, a place, a part or a band first."));
  sound();
}

void Transport::setVolume(double volume) {
  mixer_.setVolume(std::clamp(volume, 0.0, 1.0));
  emit changed();
}

// --- meeting the guitar ----------------------------------------------------------------------------------------

Cents Transport::shiftToConcert() const {
  return -session_.document().offset();
}

Cents Transport::soundingOffset() const {
  return session_.document().offset() + sounding().shift;
}

/// A take whose pitch is not known yet comes to concert pitch once it is, where the one before was there.
void Transport::followConcert() {
  if (concertAwaited_ && isSettled(session_.brief().pitch)) setShift(shiftToConcert());
}

std::vector<PlaybackShift> Transport::meetings() const {
  return playbackShifts(session_.document().setup(), session_.document().offset());
}

void Transport::meetGuitar() {
  auto ways = meetings();
  // Concert pitch has a key of its own; here it would stand in the way of what is wanted more.
  if (ways.size() > 2 && ways[1].shift == shiftToConcert()) ways.erase(ways.begin() + 1);
  const auto now = std::ranges::find(ways, sounding().shift, &PlaybackShift::shift);
  const auto next = now == ways.end() || now + 1 == ways.end() ? ways.begin() : now + 1;
  setShift(next->shift);
  session_.say(QStringLiteral("%1: %2").arg(QString::fromStdString(next->name), QString::fromStdString(next->effect)));
}

}  // namespace ear
