#include <QCommandLineParser>
#include <QElapsedTimer>
#include <QFileInfo>
#include <QSettings>
#include <QTimer>
#include <cstdio>
#include <cstdlib>

#include "app/chordbox/chord_box.h"
#include "app/closeup/close_up.h"
#include "app/desk/desk_window.h"
#include "app/desk/study_keeper.h"
#include "app/drawer/drawer.h"
#include "app/ears/ears_window.h"
#include "app/form/jump_window.h"
#include "app/form/strokes_window.h"
#include "app/hear/compare_window.h"
#include "app/hear/freeze_window.h"
#include "app/keys/key_window.h"
#include "app/safety/guarded_application.h"
#include "app/settings/naming_window.h"
#include "app/sheet/sheet_window.h"
#include "app/tuneup/tune_up_window.h"
#include "app/workbench/paths.h"
#include "core/audio/encode.h"
#include "devices/simulated_audio_output.h"
#include "devices/simulated_guitar.h"

namespace {

QElapsedTimer started() {
  QElapsedTimer clock;
  clock.start();
  return clock;
}

QPixmap pictureOf(ear::DeskWindow& window, const QString& view) {
  if (view == "sheet") return window.makeSheet()->grab();
  if (view == "tune-up") {
    auto* tune = window.openTuneUp();
    if (auto* guitar = dynamic_cast<ear::SimulatedGuitar*>(&tune->input())) {
      guitar->pluck(window.bench().document().guitar(), 1, ear::Cents(-12));
      for (QElapsedTimer clock = started(); clock.elapsed() < 900;) QApplication::processEvents();
    }
    return tune->grab();
  }
  if (view == "times") return window.openJumps()->grab();
  if (view == "strokes") return window.openStrokes()->grab();
  if (view == "compare") {
    auto* compare = window.openCompare();
    while (compare->working()) QApplication::processEvents(QEventLoop::WaitForMoreEvents);
    return compare->grab();
  }
  if (view == "freeze") return window.openFreeze()->grab();
  if (view == "keys") return window.openKeys()->grab();
  if (view == "ears") return window.openEars()->grab();
  if (view == "big-deck") {
    window.showBigDeck(true);
    return window.grab();
  }
  if (view == "naming") return window.openNaming()->grab();
  if (view != "chord-box") return window.grab();
  auto* box = window.openChordBox();
  box->typeName("Bm7");
  QApplication::processEvents();
  return box->grab();
}

/// Draws the desk (or another view) once the recording has been heard, saves the picture unless `file` is empty, then
/// quits.
void takePicture(ear::DeskWindow& window, const QString& file, const QString& view) {
  auto* timer = new QTimer(&window);
  QObject::connect(timer, &QTimer::timeout, &window, [&window, file, view, timer] {
    if (window.bench().listening() || window.bench().ear().following()) return;
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

bool displayThere() {
  return std::getenv("DISPLAY") != nullptr || std::getenv("WAYLAND_DISPLAY") != nullptr;
}

/// A file named on the command line, with its bytes as they were given.
QString asGiven(const QString& argument, int argc, char** argv) {
  for (int i = 1; i < argc; ++i)
    if (QString::fromLocal8Bit(argv[i]) == argument) return ear::pathText(argv[i]);
  return argument;
}

}  // namespace

int main(int argc, char** argv) {
  bool picture = false, asking = false;
  for (int i = 1; i < argc; ++i) {
    const QString argument(argv[i]);
    picture = picture || argument.startsWith("--screenshot");
    asking = asking || QStringList{"-h", "--help", "--help-all", "-v", "--version"}.contains(argument);
  }
  if (std::getenv("QT_QPA_PLATFORM") == nullptr && !displayThere()) {
    if (!picture && !asking) {
      std::fputs(
          "There is no display to open a window on. With --screenshot OUT.png the desk is drawn into a picture "
          "instead.\n",
          stderr);
      return 1;
    }
    setenv("QT_QPA_PLATFORM", "offscreen", 1);
  }
  ear::GuardedApplication app(argc, argv);
  QApplication::setOrganizationName("inner-ear");
  QApplication::setApplicationName("inner-ear");
  QApplication::setApplicationVersion("0.1.0");

  QCommandLineParser options;
  options.setApplicationDescription("Prepares a guitar lesson from a recording.");
  options.addHelpOption();
  options.addVersionOption();
  options.addOptions(
      {{"demo", "Open the demo study."},
       {"screenshot", "Draw the desk into a PNG file and quit.", "file"},
       {"page",
        "Drawer page to open: 0 pitch, 1 guitar, 2 key, 3 time, 4 form, 5 passages, 6 isolate, 7 practise, 8 hear.",
        "number"},
       {"passage", "Kept passage to open, counted from 1.", "number"},
       {"follow-voice", "Follow the voice of the passage and zoom to it, for a picture."},
       {"quit-when-shown", "Quit as soon as the desk stands with its recording (for measuring the start)."},
       {"view",
        "What to draw: desk, sheet, chord-box, tune-up, naming, times, strokes, freeze, compare, keys, ears or "
        "big-deck.",
        "name"},
       {"theme", "light or dark, instead of the chosen one.", "theme"},
       {"simulated-output", "Play into the simulated output, even where there is a sound card."},
       {"simulated-input", "Tune the simulated guitar, even where there is an input."},
       {"keep-played", "With the simulated output: write what was played to a WAV file on quitting.", "file"}});
  options.addPositionalArgument("file", "A study or a recording.", "[file]");
  options.process(app);

  auto choice = static_cast<ear::Theme::Choice>(QSettings().value("theme", 0).toInt());
  if (options.isSet("theme"))
    choice = options.value("theme") == "dark" ? ear::Theme::Choice::dark : ear::Theme::Choice::light;
  ear::Theme::apply(app, choice);

  std::unique_ptr<ear::AudioOutput> output;
  if (options.isSet("simulated-output"))
    output = std::make_unique<ear::SimulatedAudioOutput>();
  else
    output = ear::openAudioOutput();
  const auto makeInput = [&]() -> std::unique_ptr<ear::AudioInput> {
    if (options.isSet("simulated-input")) return std::make_unique<ear::SimulatedGuitar>();
    return ear::openAudioInput();
  };
  ear::DeskWindow window(std::move(output), makeInput);
  if (picture) {
    window.resize(1280, 800);
    window.keeper().setUnattended();
  }
  if (options.isSet("page")) window.drawer().open(options.value("page").toInt());
  app.rescue = [&window] { window.keeper().copies().writeNow(); };
  QObject::connect(&app, &ear::GuardedApplication::caught, &window.bench(), &ear::Workbench::said);
  app.catchSignals();
  window.show();
  QTimer::singleShot(0, &window, [&] {
    if (options.isSet("demo"))
      window.keeper().openDemo();
    else if (!options.positionalArguments().isEmpty())
      window.keeper().open(asGiven(options.positionalArguments().front(), argc, argv));
    else if (!picture)
      window.keeper().offerOrphans();
    if (const auto n = options.value("passage").toUInt();
        n > 0 && n <= window.bench().document().study().passages.size())
      window.bench().openPassage(window.bench().document().study().passages[n - 1].id);
    if (options.isSet("follow-voice"))
      QObject::connect(&window.bench(), &ear::Workbench::soundChanged, &window, [&window] {
        window.closeUp().zoomToPassage();
        window.bench().ear().followVoice();
      });
    if (picture || options.isSet("quit-when-shown"))
      takePicture(window, options.value("screenshot"), options.value("view"));
  });
  const int code = QApplication::exec();
  app.rescue = nullptr;
  if (options.isSet("keep-played"))
    if (auto* simulated = dynamic_cast<ear::SimulatedAudioOutput*>(&window.bench().output()))
      if (const auto done = ear::writeWav(simulated->kept(), options.value("keep-played").toStdString()); !done)
        std::fprintf(stderr, "%s\n", done.problem().c_str());
  return code;
}
