#include "app/workbench/workbench.h"

#include <QFileInfo>

#include "app/workbench/schools_settings.h"
#include "core/audio/decode.h"
#include "core/audio/fingerprint.h"
#include "core/audio/resample.h"
#include "core/listening/listener.h"
#include "core/text.h"

namespace ear {
namespace {

constexpr int kFrame = 16;        // ms between two looks at the playhead
constexpr int kToneRate = 48000;  // of the output while there is no recording

Take takeOf(const Study& study, const QString& file) {
  Take take;
  take.id = freshId(study, "take");
  take.file = QFileInfo(file).absoluteFilePath().toStdString();
  take.name = QFileInfo(file).completeBaseName().toStdString();
  return take;
}

/// The recording at a rate the output plays.
std::shared_ptr<const Recording> playable(std::shared_ptr<const Recording> recording,
                                          const std::function<bool(int)>& plays) {
  if (plays(recording->sampleRate)) return recording;
  for (const int rate : {48000, 44100})
    if (plays(rate)) return std::make_shared<const Recording>(resample(*recording, rate));
  return recording;
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
      practice_(new PracticeKeeper(*this)),
      ear_(new EarKeeper(*this)),
      guard_(new ListeningGuard(*this)) {
  connect(this, &Workbench::documentChanged, this, [this] { voice_.tuneDrone(); });
  connect(this, &Workbench::settingsChanged, this, [this] { voice_.tuneDrone(); });
  connect(&job_, &BackgroundJob::progressed, this, &Workbench::listeningProgress);
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
  clock_.setInterval(kFrame);
  connect(&clock_, &QTimer::timeout, this, [this] {
    const bool now = player_.playing();
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
  emit documentChanged();
}

Spelling Workbench::spelling() const {
  const auto key = brief().key;
  return spellingIn(schools_, key ? std::optional(key->value) : std::nullopt);
}

Workbench::ChordWords Workbench::chordWords(const Chord& chord) const {
  ChordWords words{chordName(chord, spelling()), {}};
  const int shift = shapeShift(document_->setup());
  if (shift == 0) return words;
  const Chord shape = transposed(chord, -shift);
  const Key own{shape.root, shape.minor() ? Mode::minor : Mode::major};
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
  document_->file = file.toStdString();
  document_->changed = [this] {
    // Undo may take away the passage or the take on the desk.
    followPassage();
    if (take() != nullptr && take()->id != loadedTake_) loadTake();
    emit documentChanged();
  };
  passage_.reset();
  passageId_.clear();
  dropSound();
  loadTake();
  emit documentChanged();
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
  rememberSettings();
  passage_.reset();
  passageId_.clear();
  document_->activate(id);
  emit settingsChanged();
}

void Workbench::markSaved(const QString& file) {
  document_->file = file.toStdString();
  document_->markSaved();
  emit documentChanged();
}

void Workbench::dropSound() {
  output_->stop();
  outputRuns_ = false;
  player_.load(nullptr);
  envelope_ = {};
  loadedTake_.clear();
  emit soundChanged();
  emit positionChanged();
}

void Workbench::loadTake() {
  dropSound();
  problem_.clear();
  missing_ = false;
  const Take* active = take();
  if (active == nullptr) return;
  loadedTake_ = active->id;
  const auto file = active->file;
  const bool measured = document_->findings(active->id) != nullptr;
  std::error_code error;
  if (!std::filesystem::exists(file, error)) {
    missing_ = true;
    problem_ = tr("The recording “%1” is not where it was. Point to it to hear it again; everything else of the study "
                  "is here.")
                   .arg(QString::fromStdString(file.filename().string()));
    emit listeningChanged();
    return;
  }
  doing_ = tr("Opening “%1”").arg(QString::fromStdString(active->name));
  job_.run([this, file, measured, id = active->id, known = active->hash, plays = output_->rateCheck()](
               const Progress& progress, const BackgroundJob::Post& post) {
    auto decoded = decode(file, progress);
    if (!decoded) {
      if (!progress.cancelled())
        post([this, sentence = decoded.problem()] {
          problem_ = QString::fromStdString(sentence);
          emit said(problem_);
        });
      return;
    }
    const auto recording = std::make_shared<const Recording>(std::move(*decoded));
    const auto sound = playable(recording, plays);
    const Envelope envelope(sound);
    const auto hash = contentHash(file, progress);
    if (progress.cancelled()) return;
    post([=, this] { receiveSound(sound, envelope, known.empty() && hash ? *hash : known); });
    if (hash && !known.empty() && *hash != known)
      post([this] {
        emit said(
            tr("The recording's file is not the one this study was made from: its contents differ, so times may not "
               "fit. Measure it again, or point to the right "
               "file in the Study menu."));
      });
    if (measured) return;
    Listener listener;
    listener.onPart = [&](Part, const Findings& soFar) {
      post([this, id, copy = std::make_shared<const Findings>(soFar)] { document_->setMeasured(id, copy); });
    };
    const auto found = listener.listen(*recording, progress);
    if (found)
      post([this, id, copy = std::make_shared<const Findings>(*found)] { document_->setMeasured(id, copy); });
    else if (!progress.cancelled())
      post([this, sentence = found.problem()] { emit said(QString::fromStdString(sentence)); });
  });
  emit listeningChanged();
}

void Workbench::receiveSound(std::shared_ptr<const Recording> recording, Envelope envelope, const std::string& hash) {
  output_->stop();
  player_.load(recording);
  if (!startOutput(recording->sampleRate))
    emit said(tr("The sound output does not play this recording (%1 Hz). Choose another output in the system's "
                 "settings and open the study again.")
                  .arg(recording->sampleRate));
  envelope_ = std::move(envelope);
  const bool wasModified = document_->modified();
  const Take* active = take();
  if (active->hash != hash || active->duration != recording->duration())
    document_->settle([&](Study& s) {
      Take* t = s.take(loadedTake_);
      if (t == nullptr) return;  // a step of undo from before the take was added
      t->hash = hash;
      t->duration = recording->duration();
    });
  if (!wasModified && !document_->file.empty()) document_->markSaved();
  doing_ = tr("Listening to “%1”").arg(QString::fromStdString(active->name));
  if (!recording->notice.empty()) emit said(QString::fromStdString(recording->notice));
  applyLoop();
  emit soundChanged();
  if (passage_) {
    player_.seek(passage_->start);
    emit passageOpened();
  }
  emit positionChanged();
  emit listeningChanged();
}

void Workbench::listenAgain() {
  const Take* active = take();
  if (active == nullptr || player_.recording() == nullptr) return;
  document_->setMeasured(active->id, nullptr);
  loadTake();
}

void Workbench::cancelListening() {
  if (!job_.running()) return;
  job_.cancel();
  emit listeningChanged();
  emit said(hasSound() ? tr("Listening was stopped; what is known so far stays. “Listen again” starts anew.")
                       : tr("Opening was stopped."));
}

void Workbench::relocate(const QString& file) {
  const Take* active = take();
  if (active == nullptr) return;
  const auto hash = contentHash(file.toStdString());
  if (!hash) {
    emit said(QString::fromStdString(hash.problem()));
    return;
  }
  const bool same = active->hash.empty() || *hash == active->hash;
  document_->edit("Point to recording", [&](Study& s) {
    Take* t = s.take(active->id);
    t->file = QFileInfo(file).absoluteFilePath().toStdString();
    t->hash = *hash;
  });
  if (!same) {
    document_->setMeasured(active->id, nullptr);
    emit said(
        tr("This is not the same file as before, so it is listened to anew. Check the times of your passages against "
           "it."));
  }
  loadTake();
  emit documentChanged();
}

// --- sound -----------------------------------------------------------------------------------------------------

Seconds Workbench::duration() const {
  if (player_.recording() != nullptr) return player_.recording()->duration();
  return take() != nullptr ? take()->duration : Seconds(0);
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

void Workbench::seek(Seconds to) {
  player_.seek(to);
  emit positionChanged();
}

/// Gives the player what is set.
void Workbench::sound() {
  Sounding sounding = player_.sounding();
  sounding.isolation = isolating_ ? isolation_ : Isolation{};
  player_.setSounding(sounding);
}

void Workbench::setSounding(double speed, Cents shift, const Isolation& isolation) {
  if (!isolation.plain()) isolation_ = isolation;
  isolating_ = !isolation.plain();
  player_.setSounding({speed, shift, isolation});
}

void Workbench::setSpeed(double speed) {
  setSounding(speed, player_.sounding().shift, player_.sounding().isolation);
  rememberSettings();
  emit settingsChanged();
}

void Workbench::setShift(Cents shift) {
  setSounding(player_.sounding().speed, shift, player_.sounding().isolation);
  rememberSettings();
  emit settingsChanged();
}

void Workbench::setIsolation(const Isolation& isolation) {
  isolation_ = withinLimits(isolation);
  isolating_ = !isolation_.plain();
  sound();
  rememberSettings();
  emit settingsChanged();
}

void Workbench::setIsolating(bool on) {
  isolating_ = on && !isolation_.plain();
  if (on && !isolating_) emit said(tr("Nothing is isolated yet: choose a side, a place, a part or a band first."));
  sound();
  rememberSettings();
  emit settingsChanged();
}

void Workbench::setVolume(double volume) {
  player_.setVolume(std::clamp(volume, 0.0, 1.0));
  emit settingsChanged();
}

Cents Workbench::recordingPitch() const {
  const auto pitch = brief().pitch;
  return pitch ? pitch->value.offset : Cents(0);
}

Cents Workbench::shiftToConcert() const {
  return -recordingPitch();
}

Cents Workbench::shiftToStandardGuitar() const {
  return -recordingPitch() - Cents(100.0 * commonShift(document_->setup().tuning));
}

Cents Workbench::soundingOffset() const {
  return recordingPitch() + player_.sounding().shift;
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
