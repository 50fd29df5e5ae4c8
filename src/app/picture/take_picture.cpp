// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/picture/take_picture.h"

#include <QApplication>
#include <QElapsedTimer>
#include <QTimer>
#include <cstdio>

#include "app/chordbox/chord_box.h"
#include "app/closeup/close_up.h"
#include "app/desk/desk_window.h"
#include "app/desk/study_keeper.h"
#include "app/ears/ears_window.h"
#include "app/exchange/export_window.h"
#include "app/form/jump_window.h"
#include "app/form/strokes_window.h"
#include "app/hear/compare_window.h"
#include "app/hear/freeze_window.h"
#include "app/keys/key_window.h"
#include "app/lesson/lesson_plan_box.h"
#include "app/lesson/lesson_view.h"
#include "app/phrasebench/phrase_bench.h"
#include "app/phrasebench/refinger_window.h"
#include "app/practicefiles/practice_files_window.h"
#include "app/settings/naming_window.h"
#include "app/sheet/sheet_preview.h"
#include "app/sheet/sheet_window.h"
#include "app/tuneup/tune_up_window.h"
#include "devices/simulated_guitar.h"

namespace ear {
namespace {

QElapsedTimer started() {
  QElapsedTimer clock;
  clock.start();
  return clock;
}

QPixmap pictureOf(DeskWindow& window, const QString& view) {
  if (view == "sheet" || view == "sheet-phrases") {
    auto* sheet = window.openSheet();
    sheet->resize(1280, 800);
    QApplication::processEvents();
    if (view == "sheet-phrases") sheet->preview().goToPage(std::min(2, sheet->pages().count() - 1));
    return sheet->grab();
  }
  if (view == "practice-files") return window.openPracticeFiles()->grab();
  if (view == "export") return window.openExport()->grab();
  if (view == "tune-up") {
    auto* tune = window.openTuneUp();
    if (auto* guitar = dynamic_cast<SimulatedGuitar*>(&tune->tuner().input())) {
      guitar->pluck(window.bench().document().guitar(), 1, Cents(-12));
      for (QElapsedTimer clock = started(); clock.elapsed() < 900;) QApplication::processEvents();
    }
    return tune->grab();
  }
  if (view == "refinger") return window.openRefinger()->grab();
  if (view == "times") return window.openJumps()->grab();
  if (view == "strokes") {
    auto* strokes = window.openStrokes();
    while (strokes->busy()) QApplication::processEvents(QEventLoop::WaitForMoreEvents);
    QApplication::processEvents();  // its sentences find their room
    return strokes->grab();
  }
  if (view == "compare") {
    auto* compare = window.openCompare();
    while (compare->working()) QApplication::processEvents(QEventLoop::WaitForMoreEvents);
    return compare->grab();
  }
  if (view == "walk" || view == "check") {
    PhraseEar& ear = window.bench().phraseEar();
    const bool walk = view == "walk";
    if (walk) {  // through two bars of the demo's solo that nobody has written down
      window.bench().document().takeInHand("take1-right");
      window.bench().selection().put({Seconds(92.658), Seconds(97.273)});
      window.showBench(true);
      window.closeUp().zoomToPassage();
    }
    PhraseKeeper& phrases = window.bench().phrases();
    if (!walk && phrases.view().shown.notes.size() > 4) {  // a wrong fret and a bend too wide, to be found
      phrases.choose({phrases.view().shown.notes[4].note.id});
      phrases.moveChosenByFrets(1);
      for (const ShownNote& s : phrases.view().shown.notes)
        if (s.note.bend) phrases.choose({s.note.id});
      phrases.changeChosen("", [](Note& n) {
        if (n.bend) n.bend->size = Cents(200);
      });
    }
    walk ? ear.walk() : ear.check();
    while (ear.listening()) QApplication::processEvents(QEventLoop::WaitForMoreEvents);
    if (walk) {
      for (const char* answer : {"15 on 2", "15 on 2", "12 on 2", "14 on 3"}) ear.answer(answer);
      window.phraseBench().write();
      window.bench().transport().togglePlay();
    }
    QApplication::processEvents();
    return window.grab();
  }
  if (view == "freeze") return window.openFreeze()->grab();
  if (view == "keys") return window.openKeys()->grab();
  if (view == "ears") return window.openEars()->grab();
  if (view == "big-deck") {
    window.showBigDeck(true);
    return window.grab();
  }
  if (view == "lesson" || view == "lesson-plan") {
    LessonKeeper& lesson = window.bench().lesson();
    if (lesson.plan() == nullptr) lesson.make(LessonOrder::joined);
    window.showLesson(true, false);
    if (view == "lesson-plan") window.lesson().planBox().showTools(true);
    if (view == "lesson") {  // within the second phrase, after a quarter of an hour
      const auto clock = lesson.clock;
      for (int step = 0; step < 8; ++step) lesson.stepBy(1);
      lesson.clock = [clock] { return clock() + Seconds(16 * 60.0); };
      lesson.goTo(lesson.step()->id);
      if (const auto span = lesson.spanOf(*lesson.step()))
        window.bench().transport().seek(span->start + span->length() * 0.4);
    }
    QApplication::processEvents();
    return window.grab();
  }
  if (view == "naming") return window.openNaming()->grab();
  if (view != "chord-box") return window.grab();
  auto* box = window.openChordBox();
  box->typeName("Bm7");
  QApplication::processEvents();
  return box->grab();
}

}  // namespace

void takePicture(DeskWindow& window, const QString& file, const QString& view) {
  auto* timer = new QTimer(&window);
  QObject::connect(timer, &QTimer::timeout, &window, [&window, file, view, timer] {
    if (window.bench().analysis().running() || window.bench().ear().following()) return;
    if (window.keeper().complained()) {
      QApplication::exit(1);
      return;
    }
    if (!file.isEmpty()) window.grab();  // asks for the parts of the pitch map
    if (window.closeUp().pitchMap().busy() || window.closeUp().sound().attacks().busy()) return;
    timer->stop();
    QApplication::processEvents();  // a strip that has just gone gives its room back
    const QPixmap picture = pictureOf(window, view);
    const bool saved = file.isEmpty() || picture.save(file);
    if (!saved) std::fprintf(stderr, "“%s” could not be written. Choose another place.\n", qPrintable(file));
    QApplication::exit(saved ? 0 : 1);
  });
  timer->start(20);
}

}  // namespace ear
