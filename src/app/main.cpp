// SPDX-License-Identifier: GPL-3.0-or-later
#include <QCommandLineParser>
#include <QFileInfo>
#include <QSettings>
#include <QTimer>
#include <cstdio>
#include <cstdlib>

#include "app/closeup/close_up.h"
#include "app/desk/desk_window.h"
#include "app/desk/study_keeper.h"
#include "app/drawer/drawer.h"
#include "app/picture/take_picture.h"
#include "app/safety/guarded_application.h"
#include "app/workbench/paths.h"
#include "core/audio/encode.h"
#include "devices/simulated_audio_output.h"
#include "devices/simulated_guitar.h"

namespace {

bool displayThere() {
  return std::getenv("DISPLAY") != nullptr || std::getenv("WAYLAND_DISPLAY") != nullptr;
}

/// A file named on the command line, with its bytes as they were given.
QString asGiven(const QString& argument, int argc, char** argv) {
  for (int i = 1; i < argc; ++i)
    if (QString::fromLocal8Bit(argv[i]) == argument) return ear::pathText(argv[i]);
  return argument;
}

void describe(QCommandLineParser& options) {
  options.setApplicationDescription("Prepares a guitar lesson from a recording.");
  options.addHelpOption();
  options.addVersionOption();
  options.addOptions(
      {{"demo", "Open the demo study."},
       {"screenshot", "Draw the desk into a PNG file and quit.", "file"},
       {"page",
        "Drawer page to open: 0 pitch, 1 guitar, 2 key, 3 time, 4 form, 5 passages, 6 isolate, 7 practise, 8 hear, "
        "9 phrase.",
        "number"},
       {"passage", "Kept passage to open, counted from 1.", "number"},
       {"phrase", "Phrase to open on the bench, by its time, counted from 1.", "number"},
       {"follow-voice", "Follow the voice of the passage and zoom to it, for a picture."},
       {"quit-when-shown", "Quit as soon as the desk stands with its recording (for measuring the start)."},
       {"view",
        "What to draw: desk, sheet, chord-box, tune-up, naming, times, strokes, freeze, compare, keys, ears, "
        "big-deck, walk or check.",
        "name"},
       {"theme", "light or dark, instead of the chosen one.", "theme"},
       {"simulated-output", "Play into the simulated output, even where there is a sound card."},
       {"simulated-input", "Tune the simulated guitar, even where there is an input."},
       {"keep-played", "With the simulated output: write what was played to a WAV file on quitting.", "file"}});
  options.addPositionalArgument("file", "A study or a recording.", "[file]");
}

/// Opens what the command line names, and draws it where a picture is asked for.
/// @param named  the file, empty for none
void openAsAsked(ear::DeskWindow& window, const QCommandLineParser& options, const QString& named) {
  if (options.isSet("demo"))
    window.keeper().openDemo();
  else if (!named.isEmpty())
    window.keeper().open(named);
  else if (!options.isSet("screenshot"))
    window.keeper().offerOrphans();
  if (const auto n = options.value("passage").toUInt(); n > 0 && n <= window.bench().document().study().passages.size())
    window.bench().selection().open(window.bench().document().study().passages[n - 1].id);
  const auto phrases = window.bench().phrases().ofTake();
  if (const auto n = options.value("phrase").toUInt(); n > 0 && n <= phrases.size()) {
    window.bench().phrases().open(phrases[n - 1]->id);
    window.showBench(true);
    QObject::connect(&window.bench().analysis(), &ear::Analysis::soundReady, &window.closeUp(),
                     &ear::CloseUp::zoomToPassage);
  }
  if (options.isSet("follow-voice"))
    QObject::connect(&window.bench().analysis(), &ear::Analysis::soundReady, &window, [&window] {
      window.closeUp().zoomToPassage();
      window.bench().ear().followVoice();
    });
  if (options.isSet("screenshot") || options.isSet("quit-when-shown"))
    ear::takePicture(window, options.value("screenshot"), options.value("view"));
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
  QApplication::setApplicationVersion(INNER_EAR_VERSION);

  QCommandLineParser options;
  describe(options);
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
  QObject::connect(&app, &ear::GuardedApplication::caught, &window.bench().session(), &ear::Session::said);
  app.catchSignals();
  window.show();
  const QStringList named = options.positionalArguments();
  const QString file = named.isEmpty() ? QString() : asGiven(named.front(), argc, argv);
  QTimer::singleShot(0, &window, [&] { openAsAsked(window, options, file); });
  const int code = QApplication::exec();
  app.rescue = nullptr;
  if (options.isSet("keep-played"))
    if (auto* simulated = dynamic_cast<ear::SimulatedAudioOutput*>(&window.bench().transport().output()))
      if (const auto done = ear::writeWav(simulated->kept(), options.value("keep-played").toStdString()); !done)
        std::fprintf(stderr, "%s\n", done.problem().c_str());
  return code;
}
