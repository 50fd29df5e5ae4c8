// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/workbench/ear_keeper.h"

#include <algorithm>
#include <cmath>

#include "app/theme/words.h"
#include "app/workbench/workbench.h"
#include "core/playback/isolator.h"
#include "core/theory/pitch.h"

namespace ear {
namespace {

constexpr int kPoll = 60;          // ms between two looks at the input
constexpr int kSteady = 4;         // looks that a note has to stand
constexpr std::size_t kKept = 32;  // followed voices of a recording
constexpr int kPatience = 20000;   // ms until the input is closed again

}  // namespace

EarKeeper::EarKeeper(Workbench& bench) : QObject(&bench), bench_(bench), job_(this) {
  poll_.setInterval(kPoll);
  connect(&poll_, &QTimer::timeout, this, &EarKeeper::readInput);
  connect(&job_, &BackgroundJob::progressed, this, &EarKeeper::followed);
  connect(&job_, &BackgroundJob::failed, &bench.session(), &Session::said);
  connect(&job_, &BackgroundJob::finished, this, &EarKeeper::changed);
  connect(&bench.analysis(), &Analysis::soundChanged, this, [this] {
    job_.cancel();
    asking_.reset();
    shown_.clear();
    verdict_.clear();
    emit changed();
  });
}

EarKeeper::~EarKeeper() {
  const QSignalBlocker quiet(this);  // who shows it would ask for what is gone already
  stopListening();
  job_.cancel();
}

void EarKeeper::peek(bool on) {
  if (on == peeking_ || (on && !bench_.transport().hasSound())) return;
  peeking_ = on;
  if (on) {
    asking_.reset();
    verdict_.clear();
    moment_ = bench_.transport().position();
    shown_ = noteHintsAt(*bench_.transport().player().recording(), moment_, bench_.document().offset());
  } else {
    shown_.clear();
  }
  emit changed();
}

void EarKeeper::ask() {
  if (!bench_.transport().hasSound()) return;
  moment_ = bench_.transport().position();
  hidden_ = noteHintsAt(*bench_.transport().player().recording(), moment_, bench_.document().offset());
  shown_.clear();
  verdict_.clear();
  if (hidden_.empty()) {
    asking_.reset();
    verdict_ = tr("Nothing with a pitch sounds here.");
  } else {
    asking_ = moment_;
    first_ = true;
  }
  emit changed();
}

QString EarKeeper::names() const {
  QStringList list;
  auto hints = hidden_;
  std::sort(hints.begin(), hints.end(), [](const auto& a, const auto& b) { return a.midi < b.midi; });
  for (const auto& h : hints) list << text(noteName(h.midi, bench_.session().spelling()));
  return list.join(", ");
}

void EarKeeper::judge(bool right, const QString& near) {
  if (first_)
    bench_.document().record([&](Study& s) {
      ++s.ear.guesses;
      if (right) ++s.ear.hits;
    });
  first_ = false;
  if (right) {
    verdict_ = tr("Right. What seems to sound: %1.").arg(names());
    reveal();
  } else {
    verdict_ = near.isEmpty() ? tr("Not among what seems to sound. Listen again, guess again, or reveal it.") : near;
  }
  emit changed();
}

void EarKeeper::reveal() {
  shown_ = hidden_;
  asking_.reset();
  stopListening();
}

void EarKeeper::guess(int midi) {
  if (!asking_) return;
  const auto same = [&](const NoteHint& h) { return h.midi == midi; };
  const auto octave = [&](const NoteHint& h) { return PitchClass(h.midi) == PitchClass(midi); };
  const bool right = std::any_of(hidden_.begin(), hidden_.end(), same);
  const bool near = std::any_of(hidden_.begin(), hidden_.end(), octave);
  judge(right, near ? tr("The right note in another octave.") : QString());
}

void EarKeeper::guessClass(int pitchClass) {
  if (!asking_) return;
  judge(std::any_of(hidden_.begin(), hidden_.end(),
                    [&](const NoteHint& h) { return PitchClass(h.midi) == PitchClass(pitchClass); }),
        {});
}

void EarKeeper::listenTo(std::unique_ptr<AudioInput> input) {
  stopListening();
  wanted_ = nullptr;
  if (!asking_) ask();
  if (asking_) open(std::move(input));
}

void EarKeeper::listenFor(std::unique_ptr<AudioInput> input, std::function<void(int)> heard) {
  stopListening();
  wanted_ = std::move(heard);
  open(std::move(input));
}

void EarKeeper::open(std::unique_ptr<AudioInput> input) {
  const int rate = input->start([this](std::span<const float> block) {
    const std::lock_guard lock(mutex_);
    if (tuner_) tuner_->feed(block);
  });
  if (rate == 0) {
    bench_.say(tr("The input “%1” cannot be listened to. Choose another one in the system's settings, or click "
                  "the neck or type the note.")
                   .arg(text(input->name())));
    return;
  }
  {
    const std::lock_guard lock(mutex_);
    tuner_ = std::make_unique<Tuner>(rate);
  }
  input_ = std::move(input);
  heard_.reset();
  told_.reset();
  steady_ = 0;
  patience_ = kPatience / kPoll;
  poll_.start();
  emit changed();
}

void EarKeeper::stopListening() {
  if (!input_) return;
  poll_.stop();
  input_->stop();
  input_.reset();
  tuner_.reset();
  wanted_ = nullptr;
  emit changed();
}

/// A note that stands still is a guess; a voice may sing it in its own octave.
void EarKeeper::readInput() {
  std::optional<TunerReading> reading;
  {
    const std::lock_guard lock(mutex_);
    reading = tuner_->reading();
  }
  if (--patience_ <= 0) {
    stopListening();
    return;
  }
  if (!reading) {
    told_.reset();
    return;
  }
  // The guess is compared at the pitch at which the recording sounds now.
  const double midi = pitchOf(reading->pitch, a4At(bench_.transport().soundingOffset())).value;
  const auto note = static_cast<int>(std::lround(midi));
  steady_ = heard_ == note ? steady_ + 1 : 0;
  heard_ = note;
  if (steady_ < kSteady) return;
  if (wanted_) {
    if (told_ == note) return;  // it still sounds
    told_ = note;
    patience_ = kPatience / kPoll;
    wanted_(note);
    return;
  }
  stopListening();
  guessClass(note);
}

void EarKeeper::followVoice() {
  const auto passage = bench_.selection().passage();
  if (!bench_.transport().hasSound() || !passage) {
    bench_.say(tr("Following a voice needs a passage: drag one, or press O to loop the bar at the playhead."));
    return;
  }
  if (passage->length() > kLongest) {
    bench_.say(tr("The passage is too long for following a voice: take one of up to %1 seconds.")
                   .arg(std::lround(kLongest.value)));
    return;
  }
  const Cents offset = bench_.document().offset();
  job_.run(
      [this, recording = bench_.transport().player().shared(), span = *passage, offset,
       heard = bench_.transport().sounding().isolation](const Progress& progress, const BackgroundJob::Post& post) {
        const Recording part = isolatedPart(recording, span, heard);
        auto voice = std::make_shared<const HeardVoice>(hearVoice(part, offset, progress));
        if (progress.cancelled()) return;
        post([this, voice, span, heard] {
          auto& all = followed_[bench_.take()->file];
          std::erase_if(all, [&](const Followed& f) { return f.span == span; });
          all.push_back({span, heard, voice});
          if (all.size() > kKept) all.erase(all.begin());
          emit changed();
        });
      });
  emit changed();
}

const EarKeeper::Followed* EarKeeper::voice() const {
  if (!bench_.transport().hasSound() || bench_.take() == nullptr) return nullptr;
  const auto found = followed_.find(bench_.take()->file);
  if (found == followed_.end() || found->second.empty()) return nullptr;
  const auto& all = found->second;
  const auto passage = bench_.selection().passage();
  if (!passage) return &all.back();
  const auto belongs = [&](const Followed& f) {
    const Seconds both = std::min(f.span.end, passage->end) - std::max(f.span.start, passage->start);
    return both > passage->length() * 0.5;
  };
  const auto last = std::find_if(all.rbegin(), all.rend(), belongs);
  return last == all.rend() ? nullptr : &*last;
}

void EarKeeper::dropVoice() {
  if (const Followed* shown = voice())
    std::erase_if(followed_[bench_.take()->file], [span = shown->span](const Followed& f) { return f.span == span; });
  emit changed();
}

}  // namespace ear
