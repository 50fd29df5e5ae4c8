// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QMainWindow>

#include "app/theme/theme.h"
#include "app/workbench/workbench.h"
#include "devices/audio_input.h"

class QSplitter;

namespace ear {

class BriefRow;
class ChordBox;
class Commands;
class CloseUp;
class Deck;
class Drawer;
class MapView;
class JumpWindow;
class NamingWindow;
class NeckView;
class NoticeStrip;
class PhraseBench;
class ExportWindow;
class ImportWindow;
class PracticeFilesWindow;
class SheetWindow;
class StartView;
class StrokesWindow;
class EarsWindow;
class FreezeWindow;
class CompareWindow;
class BigDeck;
class LessonView;
class KeyMap;
class KeyWindow;
class Pedal;
class MidiWindow;
class RefingerWindow;
class StudyKeeper;
class StudyLine;
class TuneUpWindow;

/// The desk: one window for the whole work on a study.
class DeskWindow : public QMainWindow {
  Q_OBJECT
 public:
  /// @param makeInput  opens an input when the tuner needs one
  explicit DeskWindow(std::unique_ptr<AudioOutput> output,
                      std::function<std::unique_ptr<AudioInput>()> makeInput = openAudioInput);
  ~DeskWindow() override;

  Workbench& bench() { return *bench_; }
  StudyKeeper& keeper() { return *keeper_; }
  CloseUp& closeUp() { return *closeUp_; }
  MapView& map() { return *map_; }
  Drawer& drawer() { return *drawer_; }
  /// The sheet of the take on the desk; only with a take.
  SheetWindow* openSheet();
  ChordBox* openChordBox();
  TuneUpWindow* openTuneUp();
  NamingWindow* openNaming();
  JumpWindow* openJumps();
  RefingerWindow* openRefinger();
  /// @param file  empty: it is chosen there
  ExportWindow* openExport();
  PracticeFilesWindow* openPracticeFiles();
  ImportWindow* openImport(const QString& file = {});
  MidiWindow* openMidi(const QString& file = {});
  StrokesWindow* openStrokes();
  FreezeWindow* openFreeze();
  CompareWindow* openCompare();
  EarsWindow* openEars();
  KeyWindow* openKeys();
  /// The pedal that is listened to; the simulated one where this has no ports.
  void usePedal(std::unique_ptr<Pedal> pedal);
  KeyMap& keys() { return *keys_; }
  const Commands& commands() const { return *commands_; }
  void showBigDeck(bool on);
  /// @param fullScreen  the window takes the whole screen while it is on
  void showLesson(bool on, bool fullScreen = true);
  LessonView& lesson() { return *lesson_; }
  /// Asks for a word for the playhead's place.
  void markSpot();
  NeckView& neck() { return *neck_; }
  void showNeck(bool on);
  void showPitchMap(bool on);
  PhraseBench& phraseBench() { return *phraseBench_; }
  /// The bench under the close-up; the brief folds to a line, and the neck gives it its room.
  void showBench(bool on);

 protected:
  void resizeEvent(QResizeEvent* event) override;
  void closeEvent(QCloseEvent* event) override;
  void dragEnterEvent(QDragEnterEvent* event) override;
  void dropEvent(QDropEvent* event) override;
  bool eventFilter(QObject* watched, QEvent* event) override;

 private:
  void layOut();
  void bindCommands();
  void bindStudyCommands();
  void bindViewCommands();
  void bindPhraseCommands();
  void fillMenus();
  void showStudy();
  void chooseTheme(Theme::Choice choice);
  void renameTake();
  void playNotes(bool on);
  void settleGuitar();
  void restoreDesk();

  std::function<std::unique_ptr<AudioInput>()> makeInput_;
  Workbench* bench_;
  StudyKeeper* keeper_;
  KeyMap* keys_;
  Commands* commands_;
  BigDeck* bigDeck_ = nullptr;
  LessonView* lesson_ = nullptr;
  bool filledScreen_ = false;  // for the lesson
  StudyLine* line_;
  StartView* start_;
  QSplitter *middle_, *sound_;
  NoticeStrip* notices_;
  BriefRow* brief_;
  MapView* map_;
  CloseUp* closeUp_;
  NeckView* neck_;
  PhraseBench* phraseBench_;
  Drawer* drawer_;
  Deck* deck_;
  TuneUpWindow* tuneUp_ = nullptr;
  bool hadStudy_ = false;
  bool neckBefore_ = false;  // shown when the bench was opened
};

}  // namespace ear
