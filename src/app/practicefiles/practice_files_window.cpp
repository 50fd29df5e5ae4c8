// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/practicefiles/practice_files_window.h"

#include <QCheckBox>
#include <QComboBox>
#include <QFileDialog>
#include <QFormLayout>
#include <QLineEdit>
#include <QListWidget>
#include <QProgressBar>
#include <QRegularExpression>
#include <QSettings>
#include <QSpinBox>
#include <QStandardPaths>

#include "app/theme/pieces.h"
#include "app/theme/words.h"
#include "app/workbench/background_job.h"
#include "app/workbench/paths.h"
#include "app/workbench/workbench.h"
#include "core/audio/encode.h"
#include "core/base/text.h"
#include "core/practice/phrase_strikes.h"

namespace ear {
namespace {

enum Kind { phrase, passage };

}  // namespace

PracticeFilesWindow::PracticeFilesWindow(Workbench& bench, QWidget* parent)
    : QDialog(parent), bench_(bench), job_(std::make_unique<BackgroundJob>()) {
  setWindowTitle(tr("Practice files for a student"));
  setObjectName("practice-files");
  auto* column = windowColumn(this);
  auto* head = wrappingLabel(this, "practice-head", Theme::Face::sentence);
  head->setText(tr("What does the student take home?"));
  column->addWidget(head);
  items_ = new QListWidget(this);
  items_->setObjectName("practice-items");
  items_->setAccessibleName(tr("Phrases and passages"));
  items_->setToolTip(tr("Each that is ticked becomes a file; Space ticks"));
  column->addWidget(items_, 1);
  column->addWidget(makeChoices());
  state_ = wrappingLabel(this, "soft", Theme::Face::text);
  column->addWidget(state_);
  bar_ = new QProgressBar(this);
  bar_->setObjectName("practice-progress");
  bar_->setRange(0, 1000);
  bar_->setTextVisible(false);
  bar_->hide();
  column->addWidget(bar_);
  make_ = plainButton(this, "primary", tr("Make them …"), tr("Choose the folder they go into"));
  cancel_ = plainButton(this, "practice-cancel", tr("Stop"), tr("What is whole by then stays"));
  column->addLayout(rowOf({make_, cancel_}));
  connect(make_, &QPushButton::clicked, this, &PracticeFilesWindow::chooseFolder);
  connect(cancel_, &QPushButton::clicked, this, [this] {
    job_->cancel();
    outcome_ = tr("Stopped. What was whole by then stays.");
    refresh();
  });
  connect(job_.get(), &BackgroundJob::progressed, this,
          [this](double share) { bar_->setValue(static_cast<int>(1000 * share)); });
  connect(job_.get(), &BackgroundJob::failed, this,
          [this](const QString& sentence) { outcome_ = sentence, refresh(); });
  connect(job_.get(), &BackgroundJob::finished, this, &PracticeFilesWindow::refresh);
  connect(items_, &QListWidget::itemChanged, this, &PracticeFilesWindow::refresh);
  bench.session().whenChanged(Changed::phrases | Changed::passages | Changed::desk | Changed::title, this,
                              &PracticeFilesWindow::list);
  resize(480, 640);
  list();
  items_->setFocus();
}

PracticeFilesWindow::~PracticeFilesWindow() = default;

QWidget* PracticeFilesWindow::makeChoices() {
  auto* panel = new QWidget(this);
  auto* form = new QFormLayout(panel);
  form->setContentsMargins(0, 0, 0, 0);
  const QSettings stored;
  speeds_ = new QLineEdit(stored.value("practice-files/speeds", "60, 100").toString(), panel);
  speeds_->setObjectName("practice-speeds");
  speeds_->setToolTip(tr("Per cent of the recording's own speed, one after the other: 50, 75, 100"));
  form->addRow(tr("Speeds in %"), speeds_);
  times_ = new QSpinBox(panel);
  times_->setObjectName("practice-times");
  times_->setRange(1, 20);
  times_->setValue(stored.value("practice-files/times", 2).toInt());
  times_->setToolTip(tr("How often at each speed"));
  form->addRow(tr("Times each"), times_);
  format_ = new QComboBox(panel);
  format_->setObjectName("practice-format");
  format_->addItem(tr("FLAC, without loss"), ".flac");
  format_->addItem(tr("OGG, small"), ".ogg");
  format_->addItem(tr("WAV, for anything"), ".wav");
  format_->setCurrentIndex(std::clamp(stored.value("practice-files/format", 0).toInt(), 0, 2));
  format_->setToolTip(tr("Kind of file"));
  form->addRow(tr("Kind of file"), format_);
  const auto box = [&](const char* name, const QString& label, const QString& tip, bool on) {
    auto* made = new QCheckBox(label, panel);
    made->setObjectName(name);
    made->setToolTip(tip);
    made->setChecked(on);
    form->addRow(made);
    return made;
  };
  count_ = box("practice-count", tr("Counted in"), tr("A bar of clicks before each time"), true);
  isolated_ = box("practice-isolated", tr("With the isolation of the desk"),
                  tr("What is heard of the sound now; a passage keeps its own"), false);
  written_ = box("practice-written", tr("What is written in the right ear"),
                 tr("The recording is in the left one; for phrases with notes"), false);
  allowed_ = box("practice-allowed", tr("Parts of this recording may be given to my students"),
                 tr("Say so once for the study, when you have the right to"), false);
  connect(allowed_, &QCheckBox::clicked, this, [this](bool on) {
    bench_.document().edit(tr("Recording for students").toStdString(), [on](Study& s) { s.audioForStudents = on; });
  });
  connect(speeds_, &QLineEdit::textChanged, this, &PracticeFilesWindow::refresh);
  return panel;
}

void PracticeFilesWindow::list() {
  QSet<QString> off;
  for (int i = 0; i < items_->count(); ++i)
    if (items_->item(i)->checkState() == Qt::Unchecked) off.insert(items_->item(i)->data(Qt::UserRole).toString());
  const QSignalBlocker quiet(items_);
  items_->clear();
  const auto add = [&](Kind kind, const std::string& id, const QString& name, TimeSpan span) {
    auto* item = new QListWidgetItem(
        tr("%1   %2 to %3").arg(name, text(clockTenths(span.start)), text(clockTenths(span.end))), items_);
    item->setData(Qt::UserRole, text(id));
    item->setData(Qt::UserRole + 1, kind);
    item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsUserCheckable);
    item->setCheckState(off.contains(text(id)) ? Qt::Unchecked : Qt::Checked);
  };
  const Take* take = bench_.take();
  for (const Phrase* p : bench_.phrases().ofTake()) {
    const QString name = p->name.empty() ? tr("Phrase") : text(p->name);
    add(phrase, p->id, p->number > 0 ? QStringLiteral("%1 %2").arg(p->number).arg(name) : name, p->span);
  }
  for (const auto& p : bench_.document().study().passages)
    if (take != nullptr && p.take == take->id)
      add(passage, p.id, p.name.empty() ? tr("Passage") : text(p.name), p.span);
  allowed_->setChecked(bench_.document().study().audioForStudents);
  refresh();
}

std::vector<double> PracticeFilesWindow::speeds() const {
  std::vector<double> found;
  for (const QString& part : speeds_->text().split(QRegularExpression("[^0-9]+"), Qt::SkipEmptyParts)) {
    const double speed = part.toDouble() / 100;
    if (speed < Player::kSlowest || speed > Player::kFastest || found.size() == 8) return {};
    found.push_back(speed);
  }
  return found;
}

bool PracticeFilesWindow::working() const {
  return job_->running();
}

void PracticeFilesWindow::refresh() {
  int ticked = 0;
  for (int i = 0; i < items_->count(); ++i) ticked += items_->item(i)->checkState() == Qt::Checked;
  const bool allowed = bench_.document().study().audioForStudents, sound = bench_.transport().hasSound();
  const bool works = working();
  make_->setEnabled(!works && ticked > 0 && allowed && sound && !speeds().empty());
  make_->setText(ticked == 1 ? tr("Make it …") : tr("Make %1 files …").arg(ticked));
  cancel_->setEnabled(works);
  bar_->setVisible(works);
  if (works) return;
  if (items_->count() == 0)
    state_->setText(tr("There is no phrase and no passage yet: what you keep of the recording is listed here."));
  else if (speeds().empty())
    state_->setText(tr("Speeds lie between %1 and %2 %, eight of them at the most.")
                        .arg(std::lround(100 * Player::kSlowest))
                        .arg(std::lround(100 * Player::kFastest)));
  else if (!sound)
    state_->setText(tr("The recording is not there yet."));
  else if (!allowed)
    state_->setText(tr("Say first that parts of this recording may be given to your students."));
  else
    state_->setText(outcome_);
}

std::vector<PracticeFilesWindow::Wanted> PracticeFilesWindow::wanted() const {
  std::vector<Wanted> all;
  const auto time = settled(bench_.brief().time);
  for (int i = 0; i < items_->count(); ++i) {
    const QListWidgetItem& item = *items_->item(i);
    if (item.checkState() != Qt::Checked) continue;
    const std::string id = item.data(Qt::UserRole).toString().toStdString();
    Wanted w;
    w.audio.speeds = speeds();
    w.audio.times = times_->value();
    w.audio.clicks = count_->isChecked() ? (time ? time->meter : 4) : 0;
    w.audio.beat = Seconds(60.0 / (time ? time->tempo.value : 100.0));
    w.audio.settings.shift = bench_.transport().sounding().shift;
    if (isolated_->isChecked()) w.audio.settings.isolation = bench_.transport().sounding().isolation;
    if (item.data(Qt::UserRole + 1).toInt() == phrase) {
      const Phrase* p = std::as_const(bench_.document()).study().phrase(id);
      if (p == nullptr) continue;
      w.name = p->name.empty() ? tr("Phrase") : text(p->name);
      w.audio.span = p->span;
      const PhraseKeeper::View& view = bench_.phrases().viewOf(*p);
      if (written_->isChecked() && !view.notes.empty()) {
        Guitar guitar = view.guitar;
        guitar.offset += w.audio.settings.shift;
        w.audio.written = strikesOf(view.notes, bench_.phrases().timing(*p), guitar,
                                    bench_.transport().player().recording()->sampleRate, 1.0);
        w.audio.inOneEar = true;
      }
    } else {
      const Passage* p = std::as_const(bench_.document()).study().passage(id);
      if (p == nullptr) continue;
      w.name = p->name.empty() ? tr("Passage") : text(p->name);
      w.audio.span = p->span;
      w.audio.settings.shift = p->shift;
      if (isolated_->isChecked()) w.audio.settings.isolation = p->isolation;
    }
    w.name = QStringLiteral("%1 %2").arg(all.size() + 1, 2, 10, QChar('0')).arg(w.name);
    w.name.replace('/', '-');
    all.push_back(std::move(w));
  }
  return all;
}

void PracticeFilesWindow::chooseFolder() {
  const QString folder = QFileDialog::getExistingDirectory(
      this, tr("Folder for the practice files"),
      QSettings()
          .value("practice-files/folder", QStandardPaths::writableLocation(QStandardPaths::MusicLocation))
          .toString());
  if (!folder.isEmpty()) make(folder);
}

void PracticeFilesWindow::make(const QString& folder) {
  if (!make_->isEnabled()) return;
  QSettings stored;
  stored.setValue("practice-files/folder", folder);
  stored.setValue("practice-files/speeds", speeds_->text());
  stored.setValue("practice-files/times", times_->value());
  stored.setValue("practice-files/format", format_->currentIndex());
  const auto recording = bench_.transport().player().shared();
  const std::string album = bench_.document().study().title, how = speeds_->text().toStdString() + " %";
  const QString ending = format_->currentData().toString();
  outcome_.clear();
  state_->setText(tr("Being made …"));
  job_->run([this, recording, all = wanted(), folder, ending, album, how](const Progress& progress,
                                                                          const BackgroundJob::Post& post) {
    QString problem;
    int made = 0;
    const auto count = static_cast<double>(all.size());
    for (std::size_t i = 0; i < all.size() && problem.isEmpty() && !progress.cancelled(); ++i) {
      const auto sound = renderPractice(recording, all[i].audio, progress, static_cast<double>(i) / count, 1.0 / count);
      if (!sound) break;
      const auto done =
          writeSound(*sound, toPath(folder + "/" + all[i].name + ending), {all[i].name.toStdString(), album, how});
      if (!done)
        problem = text(done.problem());
      else
        ++made;
    }
    post([this, problem, made, folder] {
      outcome_ =
          (!problem.isEmpty() ? problem : tr("Made: %1 in %2").arg(counted(made, tr("file"), tr("files")), folder));
      refresh();
    });
  });
  refresh();
}

}  // namespace ear
