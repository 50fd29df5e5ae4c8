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
#include <algorithm>
#include <set>

#include "app/theme/pieces.h"
#include "app/theme/words.h"
#include "app/workbench/background_job.h"
#include "app/workbench/paths.h"
#include "app/workbench/workbench.h"
#include "core/audio/encode.h"
#include "core/base/text.h"
#include "core/practice/backing.h"
#include "core/practice/phrase_strikes.h"

namespace ear {
namespace {

enum Kind { phrase, passage, onDesk, backing };

bool hasChords(const std::vector<ShownChord>& chords, TimeSpan span) {
  return std::any_of(chords.begin(), chords.end(), [&](const ShownChord& c) {
    return c.chord && isSettled(c) && overlap(c.span, span) > Seconds(0);
  });
}

/// All of the sound but what sits where a guitar does. Nothing is known of how wide it is: a side is taken whole.
Isolation without(Side side) {
  Isolation i;
  i.place = Isolation::Panned::remove;
  i.centre = side == Side::left ? -0.65 : side == Side::right ? 0.65 : 0.0;
  i.width = side == Side::centre ? 0.15 : 0.4;
  return i;
}

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
  bench.session().whenChanged(kOfBrief | Changed::phrases | Changed::passages | Changed::title, this,
                              &PracticeFilesWindow::list);
  connect(&bench.selection(), &Selection::changed, this, &PracticeFilesWindow::list);
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
  heard_ = new QComboBox(panel);
  heard_->setObjectName("practice-heard");
  heard_->addItems(
      {tr("the whole sound"), tr("with the isolation of the desk"), tr("without the guitar that plays it")});
  heard_->setToolTip(
      tr("A passage keeps its own isolation. Without its guitar a phrase can be played over: what sits "
         "where that guitar does is left out"));
  form->addRow(tr("Heard is"), heard_);
  count_ = box("practice-count", tr("Counted in"), tr("A bar of clicks before each time"), true);
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
  QSet<QString> off, on;
  for (int i = 0; i < items_->count(); ++i)
    (items_->item(i)->checkState() == Qt::Unchecked ? off : on).insert(items_->item(i)->data(Qt::UserRole).toString());
  const QSignalBlocker quiet(items_);
  items_->clear();
  const auto add = [&](Kind kind, const std::string& id, const QString& name, TimeSpan span) {
    auto* item = new QListWidgetItem(
        tr("%1   %2 to %3").arg(name, text(clockTenths(span.start)), text(clockTenths(span.end))), items_);
    item->setData(Qt::UserRole, text(id));
    item->setData(Qt::UserRole + 1, kind);
    item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsUserCheckable);
    // What is not of the lesson itself is ticked by who wants it.
    const bool usual = kind == phrase || kind == passage;
    item->setCheckState(off.contains(text(id)) || (!usual && !on.contains(text(id))) ? Qt::Unchecked : Qt::Checked);
  };
  const Take* take = bench_.take();
  for (const Phrase* p : bench_.phrases().ofTake()) {
    const QString name = p->name.empty() ? tr("Phrase") : text(p->name);
    add(phrase, p->id, p->number > 0 ? QStringLiteral("%1 %2").arg(p->number).arg(name) : name, p->span);
  }
  for (const auto& p : bench_.document().study().passages)
    if (take != nullptr && p.take == take->id)
      add(passage, p.id, p.name.empty() ? tr("Passage") : text(p.name), p.span);
  if (const auto& here = bench_.selection().passage(); here && take != nullptr)
    add(onDesk, "desk", tr("The passage on the desk, as it is heard"), *here);
  // Chords to play over hold nothing of the recording.
  if (const auto& form = bench_.brief().form; form && !bench_.time().grid().empty()) {
    std::set<std::string> letters;  // of sections with a chord that is surely enough known
    for (const Section& s : form->value)
      if (hasChords(bench_.document().chords(), s.span) && letters.insert(s.letter).second)
        add(backing, "backing " + s.letter,
            tr("Chords of %1, strummed with a click").arg(text(s.letter) + (s.name.empty() ? "" : " " + text(s.name))),
            s.span);
  }
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
  bool ofRecording = false;
  for (int i = 0; i < items_->count(); ++i) {
    if (items_->item(i)->checkState() != Qt::Checked) continue;
    ++ticked;
    ofRecording = ofRecording || items_->item(i)->data(Qt::UserRole + 1).toInt() != backing;
  }
  const bool allowed = !ofRecording || bench_.document().study().audioForStudents,
             sound = bench_.transport().hasSound();
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

Side PracticeFilesWindow::sideOf(const std::string& part) const {
  for (const GuitarPart& p : bench_.document().parts())
    if (p.id == part) return p.side;
  return bench_.document().part().side;
}

/// The first section of a letter, strummed on the guitar in hand, or in standard tuning where its own is open.
bool PracticeFilesWindow::addBacking(Wanted& w, const std::string& id) const {
  const auto& form = bench_.brief().form;
  if (!form) return false;
  const auto section = std::find_if(form->value.begin(), form->value.end(), [&](const Section& s) {
    return "backing " + s.letter == id && hasChords(bench_.document().chords(), s.span);
  });
  if (section == form->value.end()) return false;
  const int rate = bench_.transport().player().recording()->sampleRate;
  const Grid& grid = bench_.time().grid();
  Guitar guitar = bench_.document().guitar();
  guitar.offset += w.audio.settings.shift;
  const auto time = settled(bench_.brief().time);
  w.name = tr("Chords of %1").arg(text(section->letter));
  w.audio.span = section->span;
  w.audio.settings.isolation = {};
  w.audio.recordingSounds = false;
  w.audio.written =
      strummed(section->span, grid, bench_.document().chords(), time ? time->swing : Swing{}, guitar, rate);
  w.audio.ticks = ticksIn(section->span, grid, rate);
  return true;
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
    const bool asOnDesk = heard_->currentIndex() == 1, overIt = heard_->currentIndex() == 2;
    if (asOnDesk) w.audio.settings.isolation = bench_.transport().sounding().isolation;
    const int kind = item.data(Qt::UserRole + 1).toInt();
    if (kind == backing) {
      if (!addBacking(w, id)) continue;
    } else if (kind == onDesk) {
      if (!bench_.selection().passage()) continue;
      w.name = tr("Passage at %1").arg(text(clockTenths(bench_.selection().passage()->start)).replace(':', '.'));
      w.audio.span = *bench_.selection().passage();
      w.audio.settings = bench_.transport().sounding();
      w.audio.speeds = {w.audio.settings.speed};
    } else if (kind == phrase) {
      const Phrase* p = std::as_const(bench_.document()).study().phrase(id);
      if (p == nullptr) continue;
      w.name = p->name.empty() ? tr("Phrase") : text(p->name);
      w.audio.span = p->span;
      if (overIt) w.audio.settings.isolation = without(sideOf(p->part));
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
      if (asOnDesk) w.audio.settings.isolation = p->isolation;
      if (overIt) w.audio.settings.isolation = without(sideOf(p->part));
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
