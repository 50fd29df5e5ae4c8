// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/workbench/workbench.h"

#include <QFileInfo>

#include "app/workbench/paths.h"
#include "app/workbench/schools_settings.h"
#include "core/base/text.h"

namespace ear {
namespace {

constexpr int kFrame = 16;        // ms between two looks at the playhead
constexpr int kToneRate = 48000;  // of the output while there is no recording
constexpr Seconds kAhead{30.0};

Take takeOf(const Study& study, const QString& file) {
  Take take;
  take.id = freshId(study, "take");
  take.file = toPath(QFileInfo(file).absoluteFilePath());
  take.name = shownPath(take.file.stem());
  return take;
}

}  // namespace

Workbench::Workbench(std::unique_ptr<AudioOutput> output, QObject* parent)
    : QObject(parent),
      document_(std::make_unique<Document>()),
      voice_(*this),
      schools_(loadSchools()),
      output_(std::move(output)),
      job_(this),
      time_(new TimeKeeper(*this)),
      form_(new FormKeeper(*this)),
      chords_(new ChordKeeper(*this)),
      practice_(new PracticeKeeper(*this)),
      ear_(new EarKeeper(*this)),
      guard_(new ListeningGuard(*this)) {
  connect(this, &Workbench::documentChanged, this, [this] { voice_.tuneDrone(); });
  connect(this, &Workbench::settingsChanged, this, [this] { voice_.tuneDrone(); });
  connect(&job_, &BackgroundJob::progressed, this, &Workbench::listeningProgress);
  connect(&job_, &BackgroundJob::failed, this, &Workbench::said);
  connect(&job_, &BackgroundJob::finished, this, &Workbench::listeningChanged);
  output_->onTrouble = [this](const std::string& message) {
    QMetaObject::invokeMethod(
        this,
        [this, message] {
          player_.pause();
          output_->stop();
          outputRuns_ = false;
          emit settingsChanged();
          emit said(QString::fromStdString(message) +
                    tr(" Playing is paused; choose another output in the system's settings and press Space."));
        },
        Qt::QueuedConnection);
  };
  output_->onMoved = [this](const std::string& message) {
    QMetaObject::invokeMethod(
        this,
        [this, message] {
          emit settingsChanged();
          emit said(QString::fromStdString(message));
        },
        Qt::QueuedConnection);
  };
  clock_.setInterval(kFrame);
  connect(&clock_, &QTimer::timeout, this, [this] {
    const bool now = player_.playing();
    if (++ticks_ % (1000 / kFrame) == 0) readAhead();
    if (now || wasPlaying_) emit positionChanged();
    if (now != wasPlaying_) {
      wasPlaying_ = now;
      emit settingsChanged();
    }
    if (!now) clock_.stop();
  });
}

Workbench::~Workbench() {
  job_.cancel();
  output_->stop();
}

void Workbench::setSchools(const Schools& schools) {
  schools_ = schools;
  saveSchools(schools_);
  emit documentChanged(Changed::everything);
}

Spelling Workbench::spelling() const {
  return spellingIn(schools_, settled(brief().key));
}

Workbench::ChordWords Workbench::chordWords(const Chord& chord) const {
  ChordWords words{chordName(chord, spelling()), {}};
  const int shift = shapeShift(document_->setup());
  if (shift == 0) return words;
  const Chord shape = transposed(chord, -shift);
  const Key own = ownKey(shape);
  words.shape = chordName(shape, spellingIn(schools_, own));
  return words;
}

const Findings* Workbench::findings() const {
  const Take* active = take();
  return active != nullptr ? document_->findings(active->id) : nullptr;
}

void Workbench::setStudy(Study study, Measurements measurements, const QString& file) {
  job_.cancel();
  document_ = std::make_unique<Document>(std::move(study), std::move(measurements));
  document_->file = toPath(file);
  document_->changed = [this](Changed what) {
    // Undo may take away the passage or the take on the desk.
    followPassage();
    if (take() != nullptr && take()->id != loadedTake_) loadTake();
    followConcert();
    emit documentChanged(what);
  };
  document_->refused = [this](const std::string& why) { emit said(QString::fromStdString(why)); };
  passage_.reset();
  passageId_.clear();
  changed_.clear();
  left_.clear();
  resumeAt_.reset();
  concertAwaited_ = false;
  dropSound();
  loadTake();
  emit documentChanged(Changed::everything);
  emit settingsChanged();
}

void Workbench::newFromRecording(const QString& file) {
  Study study;
  study.takes.push_back(takeOf(study, file));
  study.title = study.takes.front().name;
  setStudy(std::move(study), {}, {});
}

void Workbench::addTake(const QString& file) {
  const Take fresh = takeOf(document_->study(), file);
  document_->edit("Add take", [&](Study& s) { s.takes.push_back(fresh); });
  activateTake(fresh.id);
}

void Workbench::activateTake(const std::string& id) {
  if (take() != nullptr && take()->id == id) return;
  const bool atConcert = shiftToConcert() != Cents(0) && player_.sounding().shift == shiftToConcert();
  if (take() != nullptr) left_[take()->id] = {position(), passage_, passageId_};
  leavePassage();
  passage_.reset();
  const auto left = left_.find(id);
  const Passage* kept = left != left_.end() ? document_->study().passage(left->second.passageId) : nullptr;
  if (left != left_.end()) passage_ = left->second.passage;
  if (kept != nullptr) passageId_ = kept->id, kept_ = kept->settings();
  resumeAt_ = left != left_.end() ? std::optional(left->second.position) : std::nullopt;
  document_->activate(id);
  if (atConcert) {
    setShift(Cents(0));
    concertAwaited_ = true;
    followConcert();
  }
  emit settingsChanged();
}

/// A take whose pitch is not known yet comes to concert pitch once it is, where the one before was there.
void Workbench::followConcert() {
  if (!concertAwaited_ || !isSettled(brief().pitch)) return;
  setShift(shiftToConcert());
}

void Workbench::markSaved(const QString& file) {
  document_->file = toPath(file);
  document_->markSaved();
  emit documentChanged(Changed::history);
}

// --- sound -----------------------------------------------------------------------------------------------------

Seconds Workbench::duration() const {
  if (player_.recording() != nullptr) return player_.recording()->duration();
  if (take() == nullptr) return Seconds(0);
  return take()->duration > Seconds(0) ? take()->duration : glance_.duration;
}

void Workbench::togglePlay() {
  if (!hasSound()) return;
  if (player_.playing()) {
    player_.pause();
  } else {
    const bool program = practice_->running();
    if (!program && passage_ && looping_ && !passage_->contains(player_.position())) player_.seek(passage_->start);
    if (!outputRuns_ && !startOutput(player_.recording()->sampleRate)) {
      emit said(
          tr("There is no sound output that plays this recording now. Choose another in the system's settings and "
             "press Space."));
      return;
    }
    if (!program && !passage_ && player_.position() >= duration() - Seconds(0.05)) player_.seek(Seconds(0));
    time_->play();
    clock_.start();
  }
  wasPlaying_ = player_.playing();
  emit settingsChanged();
}

void Workbench::readAhead() {
  if (!hasSound()) return;
  fetch(*player_.recording(), {position(), position() + kAhead});
  if (passage_) fetch(*player_.recording(), {passage_->start, std::min(passage_->start + kAhead, passage_->end)});
}

void Workbench::seek(Seconds to) {
  player_.seek(to);
  readAhead();
  emit positionChanged();
}

void Workbench::goTo(Seconds to) {
  if (passage_ && !passage_->contains(to)) setPassage(std::nullopt);
  seek(to);
}

bool Workbench::startOutput(int sampleRate) {
  voice_.prepare(sampleRate);
  monitor_.prepare(sampleRate);
  outputRuns_ = output_->start(sampleRate, [this](std::span<float> block) {
    player_.render(block);
    voice_.render(block);
    monitor_.process(block);
  });
  return outputRuns_;
}

bool Workbench::openOutput() {
  return outputRuns_ || startOutput(kToneRate);
}

void Workbench::playSpot(TimeSpan span) {
  if (!hasSound()) return;
  setLooping(true);
  putPassage({std::max(Seconds(0), span.start), std::min(duration(), span.end)});
  seek(passage_->start);
  if (!playing()) togglePlay();
}

}  // namespace ear
