// SPDX-License-Identifier: GPL-3.0-or-later
// What the desk does on command, and the windows that it opens: the other half of class DeskWindow.

#include <QApplication>
#include <QFileInfo>
#include <QInputDialog>
#include <QMenu>
#include <QMessageBox>
#include <QSettings>
#include <cmath>

#include "app/bigdeck/big_deck.h"
#include "app/chordbox/chord_box.h"
#include "app/closeup/close_up.h"
#include "app/commands/commands.h"
#include "app/commands/sound_commands.h"
#include "app/desk/desk_window.h"
#include "app/desk/recent_studies.h"
#include "app/desk/study_keeper.h"
#include "app/desk/study_line.h"
#include "app/drawer/drawer.h"
#include "app/drawer/guitar_page.h"
#include "app/drawer/passages_page.h"
#include "app/drawer/phrase_page.h"
#include "app/drawer/questions_box.h"
#include "app/ears/ears_window.h"
#include "app/exchange/export_window.h"
#include "app/exchange/import_window.h"
#include "app/form/jump_window.h"
#include "app/form/strokes_window.h"
#include "app/hear/compare_window.h"
#include "app/hear/freeze_window.h"
#include "app/keys/command_finder.h"
#include "app/keys/key_map.h"
#include "app/keys/key_window.h"
#include "app/lesson/lesson_view.h"
#include "app/neck/neck_view.h"
#include "app/phrasebench/midi_window.h"
#include "app/phrasebench/phrase_bench.h"
#include "app/phrasebench/refinger_window.h"
#include "app/practicefiles/practice_files_window.h"
#include "app/settings/naming_window.h"
#include "app/sheet/sheet_window.h"
#include "app/tuneup/tune_up_window.h"

namespace ear {
namespace {

constexpr double kZoomStep = 0.7;

/// A window that stands beside the desk: the passage goes on looping.
template <class Window, class... Arguments>
Window* beside(DeskWindow* desk, Arguments&&... arguments) {
  auto* window = new Window(std::forward<Arguments>(arguments)..., desk);
  window->setAttribute(Qt::WA_DeleteOnClose);
  window->show();
  return window;
}

}  // namespace

void DeskWindow::bindCommands() {
  new SoundCommands(*commands_, *bench_, this);
  bindStudyCommands();
  bindPhraseCommands();
  bindViewCommands();
  const auto hear = [this] { drawer_->open(Drawer::hear); };
  commands_->bind("guess", [this, hear] { bench_->ear().ask(), hear(); });
  // A pedal switches it on and off; the key works while it is held.
  commands_->bind("peek", [this] { bench_->ear().peek(!bench_->ear().peeking()); });
  commands_->bind("freeze", [this] { openFreeze(); });
  commands_->bind("compare", [this] { openCompare(); });
  commands_->bind("follow-voice", [this, hear] { bench_->ear().followVoice(), hear(); });
  commands_->bind("strokes", [this] { openStrokes(); });
  commands_->bind("measure-again", [this] { bench_->analysis().listenAgain(); });
  commands_->bind("settle-guitar", [this] { settleGuitar(); });
  commands_->bind("tune-up", [this] { openTuneUp(); });
  commands_->bind("chord-here", [this] {
    const QPointF at(closeUp_->xOf(bench_->transport().position()), closeUp_->areaOf(closeUp_->chords()).center().y());
    closeUp_->chords().menuFor(bench_->transport().position(), closeUp_->mapToGlobal(at).toPoint());
  });
  commands_->bind("chord-box", [this] { openChordBox(); });
  commands_->bind("times", [this] { openJumps(); });
  commands_->bind("find-command", [this] { (new CommandFinder(*keys_, this))->show(); });
  commands_->bind("open-demo", [this] { keeper_->openDemo(); });
  commands_->bind("about", [this] {
    QMessageBox::about(this, tr("About Inner Ear"),
                       tr("Inner Ear %1\n\nPrepares a guitar lesson from a recording: the machine measures and "
                          "suggests, you decide.\n\nFree software under the GNU General Public "
                          "License, version 3 or later. It comes with no warranty.")
                           .arg(QApplication::applicationVersion()));
  });
}

void DeskWindow::bindStudyCommands() {
  commands_->bind("new", [this] { keeper_->newByDialog(); });
  commands_->bind("open", [this] { keeper_->openByDialog(); });
  commands_->bind("add-take", [this] { keeper_->addTakeByDialog(); });
  commands_->bind("point-to", [this] { keeper_->relocateByDialog(); });
  commands_->bind("rename-take", [this] { renameTake(); });
  commands_->bind("save", [this] { keeper_->save(); });
  commands_->bind("save-as", [this] { keeper_->saveAs(); });
  commands_->bind("sheet", [this] { openSheet(); });
  commands_->bind("lesson", [this] { showLesson(!lesson_->isVisible()); });
  commands_->bind("lesson-go", [this] { bench_->lesson().go(); });
  commands_->bind("lesson-on", [this] { bench_->lesson().stepBy(1); });
  commands_->bind("lesson-back", [this] { bench_->lesson().stepBy(-1); });
  commands_->bind("practice-files", [this] { openPracticeFiles(); });
  commands_->bind("export", [this] { openExport(); });
  commands_->bind("import", [this] { openImport(); });
  commands_->bind("quit", [this] { close(); });
  commands_->bind("undo", [this] { bench_->document().undo(); });
  commands_->bind("redo", [this] { bench_->document().redo(); });
  commands_->bind("cue", [this] { markSpot(); });
  commands_->bind("note", [this] {
    drawer_->open(Drawer::passages);
    drawer_->passagesPage()->writeNote();
  });
  commands_->bind("kept-on", [this] { drawer_->passagesPage()->step(1); });
  commands_->bind("kept-back", [this] { drawer_->passagesPage()->step(-1); });
  commands_->bind("name-passage", [this] {
    bench_->selection().keep();
    drawer_->open(Drawer::passages);
    drawer_->passagesPage()->editName();
  });
}

void DeskWindow::bindPhraseCommands() {
  PhraseKeeper& phrases = bench_->phrases();
  PhraseEar& ear = bench_->phraseEar();
  const auto onBench = [this](const QString& id, std::function<void()> run) {
    commands_->bind(id, [this, run = std::move(run)] { showBench(true), run(); });
  };
  onBench("write", [this] { phraseBench_->write(); });
  commands_->bind("bench", [this] { showBench((*commands_)["bench"]->isChecked()); });
  onBench("phrase-on", [&phrases] { phrases.step(true); });
  onBench("phrase-back", [&phrases] { phrases.step(false); });
  onBench("new-phrase", [this, &phrases] { phrases.begin(), phraseBench_->write(); });
  onBench("phrase-again", [&phrases] { phrases.repeatHere(); });
  onBench("phrase-level", [this, &phrases] { phrases.addLevel(tr("easier")), drawer_->phrasePage()->describeLevel(); });
  commands_->bind("phrase-away", [&phrases] { phrases.remove(); });
  onBench("suggest", [&ear] { ear.listening() ? ear.stopListening() : ear.suggest(); });
  onBench("suggest-voices", [&ear] { ear.listening() ? ear.stopListening() : ear.suggestEveryVoice(); });
  onBench("take-next", [&ear] { ear.walking() ? ear.takeHeard() : ear.takeNext(); });
  onBench("take-all", [&ear] { ear.takeAll(); });
  onBench("walk", [this, &ear] { ear.walk(), phraseBench_->write(); });
  onBench("play-notes", [this] { playNotes((*commands_)["play-notes"]->isChecked()); });
  onBench("check-phrase", [&ear] { ear.listening() ? ear.stopListening() : ear.check(); });
  commands_->bind("written-sound", [this] { bench_->written().step(); });
  onBench("fingers", [&phrases] { phrases.proposeFingers(); });
  onBench("refinger", [this] { openRefinger(); });
  onBench("midi-file", [this] { openMidi(); });
  onBench("quantise", [&phrases] { phrases.quantise(4); });
  onBench("unclear", [&phrases] { phrases.markStretch(OpenStretch::Kind::unclear); });
  onBench("free-fill", [&phrases] { phrases.markStretch(OpenStretch::Kind::freeFill); });
  onBench("hardest", [&phrases] { phrases.markHardest(); });
  onBench("octave-up", [&phrases] { phrases.transpose(12); });
  onBench("octave-down", [&phrases] { phrases.transpose(-12); });
  commands_->bind("question", [this] {
    drawer_->open(Drawer::phrase);
    drawer_->phrasePage()->questions().startTyping();
  });
}

void DeskWindow::playNotes(bool on) {
  EarKeeper& ear = bench_->ear();
  if (on)
    ear.listenFor(makeInput_(), [this](int midi) { bench_->phraseEar().playedPitch(midi); });
  else
    ear.stopListening();
}

void DeskWindow::bindViewCommands() {
  int page = 0;
  for (const CommandRow& row : commandRows())
    if (row.group == CommandGroup::drawer) commands_->bind(row.id, [this, n = page++] { drawer_->open(n); });
  commands_->bind("nearer", [this] { closeUp_->zoom(kZoomStep, bench_->transport().position()); });
  commands_->bind("farther", [this] { closeUp_->zoom(1 / kZoomStep, bench_->transport().position()); });
  commands_->bind("show-passage", [this] { closeUp_->zoomToPassage(); });
  commands_->bind("show-whole", [this] { closeUp_->zoomOut(); });
  commands_->bind("pitch-map", [this] { showPitchMap(!closeUp_->pitchMap().shown()); });
  commands_->bind("neck", [this] { showNeck((*commands_)["neck"]->isChecked()); });
  commands_->bind("big-deck", [this] { showBigDeck(!bigDeck_->isVisible()); });
  commands_->bind("look-light", [this] { chooseTheme(Theme::Choice::light); });
  commands_->bind("look-dark", [this] { chooseTheme(Theme::Choice::dark); });
  commands_->bind("look-system", [this] { chooseTheme(Theme::Choice::system); });
  commands_->bind("naming", [this] { openNaming(); });
  commands_->bind("keys-and-pedals", [this] { openKeys(); });
  commands_->bind("ears", [this] { openEars(); });
}

void DeskWindow::fillMenus() {
  commands_->fill(line_->menus());
  for (const CommandRow& row : commandRows()) keys_->add((*commands_)[row.id], groupTitle(row.group).remove('&'));
  auto* recent = new QMenu(tr("Open recent"), this);
  const auto fill = [this, recent] {
    recent->clear();
    recent->setToolTipsVisible(true);
    for (const QString& file : recentStudies()) {
      QAction* action = recent->addAction(QFileInfo(file).completeBaseName());
      action->setToolTip(file);
      connect(action, &QAction::triggered, this, [this, file] { keeper_->open(file); });
    }
    recent->setEnabled(!recent->isEmpty());
  };
  connect(keeper_, &StudyKeeper::recentChanged, this, fill);
  fill();
  commands_->insert(recent, "add-take");
}

void DeskWindow::renameTake() {
  const Take* take = bench_->take();
  bool fine = false;
  const QString name = QInputDialog::getText(this, tr("Rename the take"), tr("Name of this recording:"),
                                             QLineEdit::Normal, QString::fromStdString(take->name), &fine)
                           .trimmed();
  if (fine && !name.isEmpty())
    bench_->document().edit("Rename take", [&, id = take->id](Study& s) { s.take(id)->name = name.toStdString(); });
}

SheetWindow* DeskWindow::openSheet() {
  return bench_->take() != nullptr ? beside<SheetWindow>(this, *bench_) : nullptr;
}

ExportWindow* DeskWindow::openExport() {
  return beside<ExportWindow>(this, *bench_);
}

PracticeFilesWindow* DeskWindow::openPracticeFiles() {
  return beside<PracticeFilesWindow>(this, *bench_);
}

ImportWindow* DeskWindow::openImport(const QString& file) {
  auto* window = beside<ImportWindow>(this, *bench_);
  if (!file.isEmpty()) window->read(file);
  return window;
}

ChordBox* DeskWindow::openChordBox() {
  auto* box = beside<ChordBox>(this, *bench_);
  connect(box, &ChordBox::neckWanted, this, [this](const std::vector<FretPosition>& places) {
    showNeck(true);
    neck_->showShape(places);
  });
  return box;
}

TuneUpWindow* DeskWindow::openTuneUp() {
  if (tuneUp_ == nullptr) tuneUp_ = new TuneUpWindow(*bench_, makeInput_(), this);
  tuneUp_->show();  // beside the desk: the recording can be heard while tuning
  tuneUp_->raise();
  return tuneUp_;
}

MidiWindow* DeskWindow::openMidi(const QString& file) {
  auto* window = beside<MidiWindow>(this, *bench_);
  if (!file.isEmpty()) window->read(file);
  return window;
}

RefingerWindow* DeskWindow::openRefinger() {
  return beside<RefingerWindow>(this, *bench_);
}

JumpWindow* DeskWindow::openJumps() {
  return beside<JumpWindow>(this, *bench_);
}

KeyWindow* DeskWindow::openKeys() {
  // Opened late: a port that was plugged in meanwhile is found.
  if (keys_->pedal() == nullptr || !keys_->pedal()->simulated()) usePedal(openMidiPedal());
  return beside<KeyWindow>(this, *keys_);
}

EarsWindow* DeskWindow::openEars() {
  return beside<EarsWindow>(this, *bench_);
}

CompareWindow* DeskWindow::openCompare() {
  return beside<CompareWindow>(this, *bench_);
}

FreezeWindow* DeskWindow::openFreeze() {
  delete findChild<FreezeWindow*>();  // one moment at a time
  return beside<FreezeWindow>(this, *bench_);
}

StrokesWindow* DeskWindow::openStrokes() {
  return beside<StrokesWindow>(this, *bench_);
}

NamingWindow* DeskWindow::openNaming() {
  return beside<NamingWindow>(this, *bench_);
}

void DeskWindow::markSpot() {
  if (bench_->take() == nullptr) return;
  // A mark within a tenth of a second is the one that is meant.
  Marker cue{bench_->transport().position(), {}};
  for (const auto& c : bench_->take()->cues)
    if (std::abs((c.time - cue.time).value) < 0.1) cue = c;
  bool fine = false;
  const QString words = QInputDialog::getText(
      this, tr("Mark this spot"), tr("What is here, such as “capo change” or a word of the lyrics (empty: no mark):"),
      QLineEdit::Normal, QString::fromStdString(cue.text), &fine);
  if (fine) bench_->form().mark(cue.time, words.trimmed());
}

void DeskWindow::settleGuitar() {
  drawer_->open(Drawer::guitar);
  drawer_->guitarPage()->chooseReading();
}

void DeskWindow::chooseTheme(Theme::Choice choice) {
  QSettings().setValue("theme", static_cast<int>(choice));
  Theme::apply(*qApp, choice);
}

}  // namespace ear
