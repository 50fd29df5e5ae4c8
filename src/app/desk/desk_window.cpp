#include "app/desk/desk_window.h"

#include <QAbstractButton>
#include <QAbstractSpinBox>
#include <QApplication>
#include <QCloseEvent>
#include <QDialog>
#include <QFileInfo>
#include <QHelpEvent>
#include <QInputDialog>
#include <QKeyEvent>
#include <QLineEdit>
#include <QMenuBar>
#include <QMessageBox>
#include <QMimeData>
#include <QPlainTextEdit>
#include <QSettings>
#include <QSplitter>
#include <QToolTip>
#include <QVBoxLayout>
#include <cmath>

#include "app/bigdeck/big_deck.h"
#include "app/brief/brief_row.h"
#include "app/chordbox/chord_box.h"
#include "app/closeup/close_up.h"
#include "app/deck/deck.h"
#include "app/desk/notice_strip.h"
#include "app/desk/study_keeper.h"
#include "app/desk/study_line.h"
#include "app/drawer/drawer.h"
#include "app/drawer/form_page.h"
#include "app/drawer/guitar_page.h"
#include "app/drawer/passages_page.h"
#include "app/drawer/time_page.h"
#include "app/ears/ears_window.h"
#include "app/form/jump_window.h"
#include "app/form/strokes_window.h"
#include "app/hear/compare_window.h"
#include "app/hear/freeze_window.h"
#include "app/keys/command_finder.h"
#include "app/keys/key_map.h"
#include "app/keys/key_window.h"
#include "app/map/map_view.h"
#include "app/neck/neck_view.h"
#include "app/settings/naming_window.h"
#include "app/sheet/sheet_window.h"
#include "app/start/start_view.h"
#include "app/tuneup/tune_up_window.h"

namespace ear {
namespace {

constexpr double kZoomStep = 0.7;
constexpr double kSoft = 0.35;  // of the volume, at most, when the program starts

bool typesInto(const QObject* widget) {
  return qobject_cast<const QLineEdit*>(widget) != nullptr || qobject_cast<const QPlainTextEdit*>(widget) != nullptr ||
         qobject_cast<const QAbstractSpinBox*>(widget) != nullptr;
}

}  // namespace

DeskWindow::DeskWindow(std::unique_ptr<AudioOutput> output, std::function<std::unique_ptr<AudioInput>()> makeInput)
    : makeInput_(std::move(makeInput)),
      bench_(new Workbench(std::move(output), this)),
      keeper_(new StudyKeeper(*bench_, this)),
      keys_(new KeyMap(this)) {
  setWindowTitle("Inner Ear");
  setAcceptDrops(true);
  layOut();
  makeMenus();
  connect(brief_, &BriefRow::opened, drawer_, &Drawer::open);
  connect(drawer_, &Drawer::opened, brief_, &BriefRow::setOpen);
  connect(closeUp_, &CloseUp::windowChanged, map_, &MapView::setWindow);
  connect(drawer_->guitarPage(), &GuitarPage::tuneUpWanted, this, [this] { openTuneUp(); });
  connect(drawer_->timePage(), &TimePage::strokesWanted, this, [this] { openStrokes(); });
  connect(drawer_->formPage(), &FormPage::timesWanted, this, [this] { openJumps(); });
  connect(drawer_->formPage(), &FormPage::cueWanted, this, &DeskWindow::markSpot);
  connect(neck_, &NeckView::settleWanted, this, &DeskWindow::settleGuitar);
  connect(deck_, &Deck::cueWanted, this, &DeskWindow::markSpot);
  connect(deck_, &Deck::compareWanted, this, [this] { openCompare(); });
  connect(deck_, &Deck::freezeWanted, this, [this] { openFreeze(); });
  connect(deck_, &Deck::noteWanted, this, [this] {
    drawer_->open(Drawer::passages);
    drawer_->passagesPage()->writeNote();
  });
  connect(deck_, &Deck::earWanted, this, [this] { drawer_->open(Drawer::hear); });
  connect(notices_, &NoticeStrip::relocateWanted, keeper_, &StudyKeeper::relocateByDialog);
  connect(bench_, &Workbench::documentChanged, this, &DeskWindow::refreshCommands);
  connect(bench_, &Workbench::soundChanged, this, &DeskWindow::refreshCommands);
  connect(bench_, &Workbench::listeningChanged, this, &DeskWindow::refreshCommands);
  qApp->installEventFilter(this);
  usePedal(openMidiPedal());
  restoreDesk();
  brief_->setOpen(drawer_->page());
  refreshCommands();
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
  deck_ = new Deck(*bench_, ground);
  middle_ = new QSplitter(ground);
  middle_->setObjectName("middle");
  middle_->setHandleWidth(1);
  auto* sound = new QWidget(middle_);
  auto* left = new QVBoxLayout(sound);
  left->setContentsMargins(0, 0, 0, 0);
  left->setSpacing(0);
  left->addWidget(map_);
  neck_ = new NeckView(*bench_, ground);
  left->addWidget(closeUp_, 1);
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
  setCentralWidget(ground);
  setMinimumSize(1180, 640);
}

QAction* DeskWindow::add(QMenu* menu, const QString& title, const QKeySequence& key, std::function<void()> run) {
  QAction* action = menu->addAction(title);
  action->setObjectName(menu->title().remove('&').toLower() + "-" + title.toLower().remove(" …").replace(' ', '-'));
  action->setShortcut(key);
  keys_->add(action, menu->title().remove('&'));
  connect(action, &QAction::triggered, this, [run = std::move(run)] { run(); });
  return action;
}

void DeskWindow::makeMenus() {
  QMenuBar* bar = line_->menus();
  makeStudyMenu(bar->addMenu(tr("&Study")));

  QMenu* edit = bar->addMenu(tr("&Edit"));
  undo_ = add(edit, tr("Undo"), QKeySequence::Undo, [this] { bench_->document().undo(); });
  redo_ = add(edit, tr("Redo"), QKeySequence(tr("Ctrl+Shift+Z")), [this] { bench_->document().redo(); });
  edit->addSeparator();
  add(edit, tr("Name the passage"), tr("F2"), [this] {
    bench_->keepPassage();
    drawer_->open(Drawer::passages);
    drawer_->passagesPage()->editName();
  });

  QMenu* listen = bar->addMenu(tr("&Listen"));
  // In no widget's list of actions, so that its key reaches the event filter; a pedal switches it on and off.
  peek_ = new QAction(tr("Peek at what sounds, while held"), this);
  peek_->setObjectName("peek");
  peek_->setShortcut(Qt::Key_0);
  connect(peek_, &QAction::triggered, this, [this] { bench_->ear().peek(!bench_->ear().peeking()); });
  keys_->add(peek_, tr("Listen"));
  for (QAction* action : deck_->commands())
    if (action != nullptr)
      listen->addAction(action), keys_->add(action, tr("Listen"));
    else
      listen->addSeparator();
  listen->addSeparator();
  add(listen, tr("Chord at the playhead …"), tr("J"), [this] {
    const QPoint at(static_cast<int>(closeUp_->xOf(bench_->position())), CloseUp::kLaneMiddle);
    closeUp_->chordMenu(bench_->position(), closeUp_->mapToGlobal(at));
  });
  add(listen, tr("Settle the guitar"), tr("Shift+G"), [this] { settleGuitar(); });
  add(listen, tr("Strokes of the passage …"), tr("I"), [this] { openStrokes(); });
  listenAgain_ = add(listen, tr("Measure the recording again"), tr("Ctrl+Shift+L"), [this] { bench_->listenAgain(); });

  makeViewMenu(bar->addMenu(tr("&View")));
  QMenu* help = bar->addMenu(tr("&Help"));
  add(help, tr("Find a command …"), tr("Ctrl+Space"), [this] { (new CommandFinder(*keys_, this))->show(); });
  add(help, tr("Open the demo study"), {}, [this] { keeper_->openDemo(); });
  add(help, tr("About Inner Ear"), {}, [this] {
    QMessageBox::about(this, tr("About Inner Ear"),
                       tr("Inner Ear %1\n\nPrepares a guitar lesson from a recording: the machine measures and "
                          "suggests, you decide.\n\nFree software under the GNU General Public "
                          "License, version 3 or later. It comes with no warranty.")
                           .arg(QApplication::applicationVersion()));
  });
}

void DeskWindow::makeStudyMenu(QMenu* menu) {
  add(menu, tr("New from a recording …"), QKeySequence::New, [this] { keeper_->newByDialog(); });
  add(menu, tr("Open …"), QKeySequence::Open, [this] { keeper_->openByDialog(); });
  recent_ = menu->addMenu(tr("Open recent"));
  const auto fill = [this] {
    recent_->clear();
    for (const QString& file : keeper_->recent()) {
      QAction* action = recent_->addAction(QFileInfo(file).completeBaseName());
      action->setToolTip(file);
      connect(action, &QAction::triggered, this, [this, file] { keeper_->open(file); });
    }
    recent_->setEnabled(!recent_->isEmpty());
  };
  connect(keeper_, &StudyKeeper::recentChanged, this, fill);
  fill();
  menu->addSeparator();
  addTake_ = add(menu, tr("Add another take …"), tr("Ctrl+Shift+N"), [this] { keeper_->addTakeByDialog(); });
  pointTo_ = add(menu, tr("Point to the recording …"), {}, [this] { keeper_->relocateByDialog(); });
  renameTake_ = add(menu, tr("Rename the take …"), {}, [this] { renameTake(); });
  menu->addSeparator();
  save_ = add(menu, tr("Save"), QKeySequence::Save, [this] { keeper_->save(); });
  saveAs_ = add(menu, tr("Save as …"), QKeySequence(tr("Ctrl+Shift+S")), [this] { keeper_->saveAs(); });
  menu->addSeparator();
  sheet_ = add(menu, tr("Sheet …"), tr("Ctrl+P"), [this] { openSheet(); });
  menu->addSeparator();
  add(menu, tr("Quit"), QKeySequence(tr("Ctrl+Q")), [this] { close(); });
}

void DeskWindow::makeViewMenu(QMenu* menu) {
  const QString pages[] = {tr("Pitch"),    tr("Guitar"),  tr("Key"),      tr("Time"), tr("Form"),
                           tr("Passages"), tr("Isolate"), tr("Practise"), tr("Hear")};
  for (int i = 0; i < Drawer::kPages; ++i)
    add(menu, pages[i], QKeySequence(QStringLiteral("Ctrl+%1").arg(i + 1)), [this, i] { drawer_->open(i); });
  menu->addSeparator();
  add(menu, tr("Nearer"), tr("+"), [this] { closeUp_->zoom(kZoomStep, bench_->position()); });
  add(menu, tr("Farther"), tr("-"), [this] { closeUp_->zoom(1 / kZoomStep, bench_->position()); });
  add(menu, tr("The passage"), tr("G"), [this] { closeUp_->zoomToPassage(); });
  add(menu, tr("The whole recording"), tr("H"), [this] { closeUp_->zoomOut(); });
  menu->addSeparator();
  showMap_ = add(menu, tr("Pitch map"), tr("Shift+H"), [this] { showPitchMap(!closeUp_->pitchMapShown()); });
  showMap_->setCheckable(true);
  showNeck_ = add(menu, tr("Neck"), tr("N"), [this] { showNeck(showNeck_->isChecked()); });
  showNeck_->setCheckable(true);
  add(menu, tr("Tune up …"), tr("Ctrl+T"), [this] { openTuneUp(); });
  add(menu, tr("Chord box …"), tr("Ctrl+B"), [this] { openChordBox(); });
  add(menu, tr("Times …"), tr("Ctrl+L"), [this] { openJumps(); });
  add(menu, tr("Ears …"), tr("Ctrl+E"), [this] { openEars(); });
  add(menu, tr("Naming …"), {}, [this] { openNaming(); });
  add(menu, tr("Keys and pedals …"), tr("Ctrl+K"), [this] { openKeys(); });
  add(menu, tr("Big deck"), tr("F11"), [this] { showBigDeck(!bigDeck_->isVisible()); });
  menu->addSeparator();
  add(menu, tr("Light"), {}, [this] { chooseTheme(Theme::Choice::light); });
  add(menu, tr("Dark"), {}, [this] { chooseTheme(Theme::Choice::dark); });
  add(menu, tr("As the system"), {}, [this] { chooseTheme(Theme::Choice::system); });
}

void DeskWindow::refreshCommands() {
  const Document& document = bench_->document();
  const bool study = bench_->take() != nullptr;
  undo_->setEnabled(document.canUndo());
  undo_->setText(document.canUndo() ? tr("Undo: %1").arg(QString::fromStdString(document.undoLabel())) : tr("Undo"));
  redo_->setEnabled(document.canRedo());
  redo_->setText(document.canRedo() ? tr("Redo: %1").arg(QString::fromStdString(document.redoLabel())) : tr("Redo"));
  for (QAction* action : {save_, saveAs_, addTake_, pointTo_, renameTake_, sheet_}) action->setEnabled(study);
  // An empty desk shows only what helps to begin.
  start_->setVisible(!study);
  for (QWidget* w : std::initializer_list<QWidget*>{brief_, middle_, deck_}) w->setVisible(study);
  neck_->setVisible(study && showNeck_->isChecked());
  if (study && !hadStudy_) {
    closeUp_->setFocus();
    if (showNeck_->isChecked()) showNeck(true);
  }
  hadStudy_ = study;
  listenAgain_->setEnabled(bench_->hasSound() && !bench_->listening());
  const QString title = QString::fromStdString(document.study().title);
  setWindowTitle(title.isEmpty() ? QStringLiteral("Inner Ear") : tr("%1[*] – Inner Ear").arg(title));
  setWindowModified(study && document.modified());
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

std::unique_ptr<SheetWindow> DeskWindow::makeSheet() {
  const Study& study = bench_->document().study();
  return std::make_unique<SheetWindow>(layOutSheet(study, *bench_->take(), bench_->findings(), bench_->schools()),
                                       QString::fromStdString(study.title), this);
}

void DeskWindow::openSheet() {
  if (bench_->take() != nullptr) makeSheet()->exec();
}

ChordBox* DeskWindow::openChordBox() {
  auto* box = new ChordBox(bench_->document().guitar(), bench_->spelling(), this);
  connect(box, &ChordBox::heard, bench_, [this](const std::vector<int>& midi) { bench_->voice().strum(midi); });
  box->setAttribute(Qt::WA_DeleteOnClose);
  box->show();  // beside the desk: the passage goes on looping
  return box;
}

TuneUpWindow* DeskWindow::openTuneUp() {
  if (tuneUp_ == nullptr) tuneUp_ = new TuneUpWindow(*bench_, makeInput_(), this);
  tuneUp_->show();  // beside the desk: the recording can be heard while tuning
  tuneUp_->raise();
  return tuneUp_;
}

JumpWindow* DeskWindow::openJumps() {
  auto* window = new JumpWindow(*bench_, this);
  window->setAttribute(Qt::WA_DeleteOnClose);
  window->show();
  return window;
}

void DeskWindow::showBigDeck(bool on) {
  bigDeck_->setGeometry(centralWidget()->rect());
  bigDeck_->setVisible(on);
  bigDeck_->raise();
}

void DeskWindow::resizeEvent(QResizeEvent* event) {
  QMainWindow::resizeEvent(event);
  bigDeck_->setGeometry(centralWidget()->rect());
}

KeyWindow* DeskWindow::openKeys() {
  // Opened late: a port that was plugged in meanwhile is found.
  if (keys_->pedal() == nullptr || !keys_->pedal()->simulated()) usePedal(openMidiPedal());
  auto* window = new KeyWindow(*keys_, this);
  window->setAttribute(Qt::WA_DeleteOnClose);
  window->show();
  return window;
}

/// Without a pedal the simulated one stands in.
void DeskWindow::usePedal(std::unique_ptr<Pedal> pedal) {
  if (pedal->ports().empty()) pedal = std::make_unique<SimulatedPedal>();
  keys_->setPedal(std::move(pedal));
}

EarsWindow* DeskWindow::openEars() {
  auto* window = new EarsWindow(*bench_, this);
  window->setAttribute(Qt::WA_DeleteOnClose);
  window->show();
  return window;
}

CompareWindow* DeskWindow::openCompare() {
  auto* window = new CompareWindow(*bench_, this);
  window->setAttribute(Qt::WA_DeleteOnClose);
  window->show();
  return window;
}

FreezeWindow* DeskWindow::openFreeze() {
  delete findChild<FreezeWindow*>();  // one moment at a time
  auto* window = new FreezeWindow(*bench_, this);
  window->setAttribute(Qt::WA_DeleteOnClose);
  window->show();
  return window;
}

StrokesWindow* DeskWindow::openStrokes() {
  auto* window = new StrokesWindow(*bench_, this);
  window->setAttribute(Qt::WA_DeleteOnClose);
  window->show();
  return window;
}

void DeskWindow::markSpot() {
  if (bench_->take() == nullptr) return;
  // A mark within a tenth of a second is the one that is meant.
  Cue cue{bench_->position(), {}};
  for (const auto& c : bench_->take()->cues)
    if (std::abs((c.time - cue.time).value) < 0.1) cue = c;
  bool fine = false;
  const QString words = QInputDialog::getText(
      this, tr("Mark this spot"), tr("What is here, such as “capo change” or a word of the lyrics (empty: no mark):"),
      QLineEdit::Normal, QString::fromStdString(cue.text), &fine);
  if (fine) bench_->form().mark(cue.time, words.trimmed());
}

NamingWindow* DeskWindow::openNaming() {
  auto* window = new NamingWindow(*bench_, this);
  window->setAttribute(Qt::WA_DeleteOnClose);
  window->show();
  return window;
}

void DeskWindow::settleGuitar() {
  drawer_->open(Drawer::guitar);
  drawer_->guitarPage()->chooseReading();
}

void DeskWindow::showNeck(bool on) {
  showNeck_->setChecked(on);
  neck_->setVisible(on && bench_->take() != nullptr);
  if (neck_->isVisibleTo(this)) neck_->refresh();
}

void DeskWindow::showPitchMap(bool on) {
  closeUp_->showPitchMap(on);
  showMap_->setChecked(on);
}

void DeskWindow::chooseTheme(Theme::Choice choice) {
  QSettings().setValue("theme", static_cast<int>(choice));
  Theme::apply(*qApp, choice);
  emit bench_->documentChanged();  // pages set colours as they fill themselves; kept pictures follow the palette
}

void DeskWindow::restoreDesk() {
  const QSettings settings;
  resize(1280, 800);
  restoreGeometry(settings.value("geometry").toByteArray());
  middle_->restoreState(settings.value("drawer").toByteArray());
  drawer_->open(settings.value("page", 0).toInt() % Drawer::kPages);
  // Never louder at the start than softly: whoever had it loud turns it up by hand.
  bench_->setVolume(std::min(kSoft, settings.value("volume", kSoft).toDouble()));
  showNeck(settings.value("neck", true).toBool());
  showPitchMap(settings.value("pitch-map", true).toBool());
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
  settings.setValue("pitch-map", closeUp_->pitchMapShown());
  settings.setValue("neck", showNeck_->isChecked());
  settings.setValue("volume", bench_->player().volume());
  event->accept();
}

void DeskWindow::dragEnterEvent(QDragEnterEvent* event) {
  if (event->mimeData()->hasUrls() && event->mimeData()->urls().front().isLocalFile()) event->acceptProposedAction();
}

void DeskWindow::dropEvent(QDropEvent* event) {
  const auto urls = event->mimeData()->urls();
  if (!urls.isEmpty() && urls.front().isLocalFile()) keeper_->open(urls.front().toLocalFile());
}

/// Space belongs to the playhead, so Return presses the button that has the focus.
/// The key that peeks works while it is held, which no shortcut does.
bool DeskWindow::eventFilter(QObject* watched, QEvent* event) {
  if (event->type() == QEvent::KeyPress || event->type() == QEvent::KeyRelease) {
    const auto* key = static_cast<QKeyEvent*>(event);
    const auto* widget = qobject_cast<QWidget*>(watched);
    const bool press = event->type() == QEvent::KeyPress;
    // Let go of, it no longer has to come with what was held beside it.
    const bool peeks =
        press ? QKeySequence(key->keyCombination()) == peek_->shortcut()
              : bench_->ear().peeking() && !peek_->shortcut().isEmpty() && key->key() == peek_->shortcut()[0].key();
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
      if (event->type() == QEvent::KeyPress) closeUp_->setFocus();
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
