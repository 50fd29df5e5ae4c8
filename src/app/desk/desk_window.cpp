// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/desk/desk_window.h"
#include "app/exchange/import_window.h"

#include <QAbstractButton>
#include <QAbstractSpinBox>
#include <QCloseEvent>
#include <QCoreApplication>
#include <QDialog>
#include <QHelpEvent>
#include <QKeyEvent>
#include <QLineEdit>
#include <QMimeData>
#include <QPlainTextEdit>
#include <QSettings>
#include <QSplitter>
#include <QToolTip>
#include <QVBoxLayout>

#include "app/bigdeck/big_deck.h"
#include "app/brief/brief_row.h"
#include "app/closeup/close_up.h"
#include "app/commands/commands.h"
#include "app/deck/deck.h"
#include "app/desk/notice_strip.h"
#include "app/desk/study_keeper.h"
#include "app/desk/study_line.h"
#include "app/drawer/drawer.h"
#include "app/drawer/form_page.h"
#include "app/drawer/guitar_page.h"
#include "app/drawer/phrase_page.h"
#include "app/drawer/time_page.h"
#include "app/form/jump_window.h"
#include "app/keys/key_map.h"
#include "app/lesson/lesson_stage.h"
#include "app/lesson/lesson_view.h"
#include "app/map/map_view.h"
#include "app/neck/neck_view.h"
#include "app/phrasebench/entry_line.h"
#include "app/phrasebench/midi_window.h"
#include "app/phrasebench/phrase_bench.h"
#include "app/phrasebench/tab_view.h"
#include "app/start/start_view.h"

namespace ear {
namespace {

constexpr double kSoft = 0.35;  // of the volume, at most, when the program starts

bool typesInto(const QObject* widget) {
  return qobject_cast<const QLineEdit*>(widget) != nullptr || qobject_cast<const QPlainTextEdit*>(widget) != nullptr ||
         qobject_cast<const QAbstractSpinBox*>(widget) != nullptr || qobject_cast<const TabView*>(widget) != nullptr;
}

}  // namespace

DeskWindow::DeskWindow(std::unique_ptr<AudioOutput> output, std::function<std::unique_ptr<AudioInput>()> makeInput)
    : makeInput_(std::move(makeInput)),
      bench_(new Workbench(std::move(output), this)),
      keeper_(new StudyKeeper(*bench_, this)),
      keys_(new KeyMap(this)),
      commands_(new Commands(this)) {
  setWindowTitle("Inner Ear");
  setAcceptDrops(true);
  bindCommands();
  layOut();
  fillMenus();
  connect(brief_, &BriefRow::opened, drawer_, &Drawer::open);
  connect(drawer_, &Drawer::opened, brief_, &BriefRow::setOpen);
  connect(&bench_->ear(), &EarKeeper::changed, this, [this] {
    (*commands_)["play-notes"]->setChecked(bench_->ear().listeningToInput() && !bench_->ear().asking());
  });
  connect(&bench_->phrases(), &PhraseKeeper::opened, closeUp_, &CloseUp::zoomToPassage);
  connect(closeUp_, &CloseUp::windowChanged, map_, &MapView::setWindow);
  connect(drawer_->guitarPage(), &GuitarPage::tuneUpWanted, this, [this] { openTuneUp(); });
  connect(drawer_->timePage(), &TimePage::strokesWanted, this, [this] { openStrokes(); });
  connect(drawer_->formPage(), &FormPage::timesWanted, this, [this] { openJumps(); });
  connect(drawer_->formPage(), &FormPage::cueWanted, this, &DeskWindow::markSpot);
  connect(neck_, &NeckView::settleWanted, this, &DeskWindow::settleGuitar);
  const auto writing = [this] { return phraseBench_->isVisible() || bench_->phraseEar().walking(); };
  connect(neck_, &NeckView::struck, this, [this, writing](FretPosition place) {
    if (writing()) bench_->phraseEar().played(place);
  });
  connect(drawer_->phrasePage(), &PhrasePage::besideWanted, &phraseBench_->tab(), &TabView::showBeside);
  connect(keys_, &KeyMap::noteStruck, this, [this, writing](int midi) {
    if (writing()) bench_->phraseEar().playedPitch(midi);
  });
  connect(notices_, &NoticeStrip::relocateWanted, keeper_, &StudyKeeper::relocateByDialog);
  connect(&bench_->session(), &Session::documentChanged, this, &DeskWindow::showStudy);
  QCoreApplication::instance()->installEventFilter(this);
  usePedal(openMidiPedal());
  restoreDesk();
  brief_->setOpen(drawer_->page());
  showStudy();
  closeUp_->setFocus();
}

DeskWindow::~DeskWindow() {
  // What stands over the desk goes before what it looks at.
  qDeleteAll(findChildren<QDialog*>(QString(), Qt::FindDirectChildrenOnly));
}

void DeskWindow::layOut() {
  auto* ground = new QWidget(this);
  ground->setObjectName("ground");
  auto* column = new QVBoxLayout(ground);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(0);
  line_ = new StudyLine(*bench_, ground);
  notices_ = new NoticeStrip(*bench_, ground);
  brief_ = new BriefRow(*bench_, ground);
  map_ = new MapView(*bench_, ground);
  closeUp_ = new CloseUp(*bench_, ground);
  drawer_ = new Drawer(*bench_, makeInput_, ground);
  deck_ = new Deck(*bench_, *commands_, ground);
  middle_ = new QSplitter(ground);
  middle_->setObjectName("middle");
  middle_->setHandleWidth(1);
  auto* sound = new QWidget(middle_);
  auto* left = new QVBoxLayout(sound);
  left->setContentsMargins(0, 0, 0, 0);
  left->setSpacing(0);
  left->addWidget(map_);
  neck_ = new NeckView(*bench_, ground);
  phraseBench_ = new PhraseBench(*bench_, *commands_, ground);
  phraseBench_->hide();
  sound_ = new QSplitter(Qt::Vertical, sound);
  sound_->setObjectName("sound");
  sound_->setHandleWidth(1);
  sound_->setChildrenCollapsible(false);
  sound_->addWidget(closeUp_);
  sound_->addWidget(phraseBench_);
  sound_->setStretchFactor(0, 1);
  left->addWidget(sound_, 1);
  left->addWidget(neck_);
  left->addWidget(notices_);  // under the close-up, so that the brief and the map stay where they are
  middle_->addWidget(sound);
  middle_->addWidget(drawer_);
  middle_->setChildrenCollapsible(false);
  middle_->setStretchFactor(0, 1);
  middle_->setStretchFactor(1, 0);
  middle_->setSizes({width() - Theme::kDrawer, Theme::kDrawer});
  start_ = new StartView(*bench_, *keeper_, ground);
  column->addWidget(line_);
  column->addWidget(start_, 1);
  column->addWidget(brief_);
  column->addWidget(middle_, 1);
  column->addWidget(deck_);
  bigDeck_ = new BigDeck(*bench_, ground);
  bigDeck_->hide();
  lesson_ = new LessonView(*bench_, ground);
  lesson_->hide();
  connect(lesson_, &LessonView::leaveWanted, this, [this] { showLesson(false); });
  setCentralWidget(ground);
  setMinimumSize(1180, 640);
}

/// An empty desk shows only what helps to begin.
void DeskWindow::showStudy() {
  const bool study = bench_->take() != nullptr;
  start_->setVisible(!study);
  for (QWidget* w : std::initializer_list<QWidget*>{brief_, middle_, deck_}) w->setVisible(study);
  if (!study) showLesson(false);
  const bool neck = (*commands_)["neck"]->isChecked();
  neck_->setVisible(study && neck);
  if (study && !hadStudy_) {
    closeUp_->setFocus();
    if (neck) showNeck(true);
  }
  hadStudy_ = study;
  const Document& document = bench_->document();
  const QString title = QString::fromStdString(document.study().title);
  setWindowTitle(title.isEmpty() ? QStringLiteral("Inner Ear") : tr("%1[*] – Inner Ear").arg(title));
  setWindowModified(study && document.modified());
}

void DeskWindow::showBigDeck(bool on) {
  bigDeck_->setGeometry(centralWidget()->rect());
  bigDeck_->setVisible(on);
  bigDeck_->raise();
}

void DeskWindow::showLesson(bool on, bool fullScreen) {
  on = on && bench_->take() != nullptr;
  if (on == lesson_->isVisibleTo(this)) return;
  if (on && fullScreen && !isFullScreen()) {
    filledScreen_ = true;
    setWindowState(windowState() | Qt::WindowFullScreen);
  }
  if (!on) {
    bench_->lesson().end();
    if (std::exchange(filledScreen_, false)) setWindowState(windowState() & ~Qt::WindowFullScreen);
  }
  lesson_->setGeometry(centralWidget()->rect());
  lesson_->setVisible(on);
  lesson_->raise();
  commands_->allowLesson(on);
  if (!on) closeUp_->setFocus();
}

void DeskWindow::resizeEvent(QResizeEvent* event) {
  QMainWindow::resizeEvent(event);
  for (QWidget* over : std::initializer_list<QWidget*>{bigDeck_, lesson_}) over->setGeometry(centralWidget()->rect());
}

/// Without a pedal the simulated one stands in.
void DeskWindow::usePedal(std::unique_ptr<Pedal> pedal) {
  if (pedal->ports().empty()) pedal = std::make_unique<SimulatedPedal>();
  keys_->setPedal(std::move(pedal));
}

void DeskWindow::showNeck(bool on) {
  (*commands_)["neck"]->setChecked(on);
  neck_->setVisible(on && bench_->take() != nullptr);
  if (neck_->isVisibleTo(this)) neck_->refresh();
}

void DeskWindow::showBench(bool on) {
  const bool was = phraseBench_->isVisibleTo(sound_);
  phraseBench_->setVisible(on);
  (*commands_)["bench"]->setChecked(on);
  brief_->fold(on);
  closeUp_->tab().setWriting(on);
  if (on == was) return;
  if (on) neckBefore_ = (*commands_)["neck"]->isChecked();
  showNeck(!on && neckBefore_);
  if (on)
    drawer_->open(Drawer::phrase);
  else
    closeUp_->setFocus();
}

void DeskWindow::showPitchMap(bool on) {
  closeUp_->showPitchMap(on);
  (*commands_)["pitch-map"]->setChecked(on);
}

void DeskWindow::restoreDesk() {
  const QSettings settings;
  resize(1280, 800);
  restoreGeometry(settings.value("geometry").toByteArray());
  middle_->restoreState(settings.value("drawer").toByteArray());
  drawer_->open(settings.value("page", 0).toInt() % Drawer::kPages);
  // Never louder at the start than softly: whoever had it loud turns it up by hand.
  bench_->transport().setVolume(std::min(kSoft, settings.value("volume", kSoft).toDouble()));
  showNeck(settings.value("neck", true).toBool());
  showPitchMap(settings.value("pitch-map", true).toBool());
  sound_->restoreState(settings.value("sound").toByteArray());
  if (settings.value("bench", false).toBool()) showBench(true);
}

void DeskWindow::closeEvent(QCloseEvent* event) {
  if (!keeper_->mayClose()) {
    event->ignore();
    return;
  }
  QSettings settings;
  settings.setValue("geometry", saveGeometry());
  settings.setValue("page", drawer_->page());
  settings.setValue("drawer", middle_->saveState());
  settings.setValue("pitch-map", closeUp_->pitchMap().shown());
  const bool bench = (*commands_)["bench"]->isChecked();
  settings.setValue("neck", bench ? neckBefore_ : (*commands_)["neck"]->isChecked());
  settings.setValue("bench", bench);
  settings.setValue("sound", sound_->saveState());
  settings.setValue("volume", bench_->transport().volume());
  event->accept();
}

void DeskWindow::dragEnterEvent(QDragEnterEvent* event) {
  if (event->mimeData()->hasUrls() && event->mimeData()->urls().front().isLocalFile()) event->acceptProposedAction();
}

void DeskWindow::dropEvent(QDropEvent* event) {
  const auto urls = event->mimeData()->urls();
  if (urls.isEmpty() || !urls.front().isLocalFile()) return;
  const QString file = urls.front().toLocalFile();
  // Notes for the phrase in hand; without a study there is nothing to write them into.
  if (isMidiFile(file) && bench_->transport().hasSound()) {
    showBench(true);
    openMidi(file);
  } else if (isTabFile(file) && bench_->take() != nullptr) {
    openImport(file);
  } else {
    keeper_->open(file);
  }
}

/// Space belongs to the playhead, so Return presses the button that has the focus.
/// The key that peeks works while it is held, which no shortcut does.
bool DeskWindow::eventFilter(QObject* watched, QEvent* event) {
  if (event->type() == QEvent::KeyPress || event->type() == QEvent::KeyRelease) {
    const auto* key = static_cast<QKeyEvent*>(event);
    const auto* widget = qobject_cast<QWidget*>(watched);
    const bool press = event->type() == QEvent::KeyPress;
    const QAction* peek = (*commands_)["peek"];
    // Let go of, it no longer has to come with what was held beside it.
    const bool peeks =
        press ? QKeySequence(key->keyCombination()) == peek->shortcut()
              : bench_->ear().peeking() && !peek->shortcut().isEmpty() && key->key() == peek->shortcut()[0].key();
    if (widget != nullptr && widget->window() == this && !typesInto(watched) && peeks) {
      if (!key->isAutoRepeat()) bench_->ear().peek(press);
      return true;
    }
  }
  // Who types wants out of the field with Escape, not to lose the loop.
  if (event->type() == QEvent::ShortcutOverride || event->type() == QEvent::KeyPress) {
    auto* widget = qobject_cast<QWidget*>(watched);
    if (static_cast<QKeyEvent*>(event)->key() == Qt::Key_Escape && widget != nullptr && widget->window() == this &&
        typesInto(watched)) {
      // From the line to the tab, and from there to the sound.
      QWidget* back = lesson_->isVisible()                               ? static_cast<QWidget*>(&lesson_->stage())
                      : widget->parentWidget() == &phraseBench_->entry() ? static_cast<QWidget*>(&phraseBench_->tab())
                                                                         : closeUp_;
      if (event->type() == QEvent::KeyPress) back->setFocus();
      event->accept();
      return true;
    }
  }
  if (event->type() == QEvent::ToolTip)
    if (auto* widget = qobject_cast<QWidget*>(watched); widget != nullptr && widget->window() == this)
      if (const QString tip = keys_->withKeysAsSet(widget->toolTip()); tip != widget->toolTip()) {
        QToolTip::showText(static_cast<QHelpEvent*>(event)->globalPos(), tip, widget);
        return true;
      }
  if (event->type() == QEvent::KeyPress) {
    const auto* key = static_cast<QKeyEvent*>(event);
    if (key->key() == Qt::Key_Return || key->key() == Qt::Key_Enter)
      if (auto* button = qobject_cast<QAbstractButton*>(watched); button != nullptr && button->window() == this) {
        button->click();
        return true;
      }
  }
  return QMainWindow::eventFilter(watched, event);
}

}  // namespace ear
