// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/workbench/written_voice.h"

#include "app/workbench/workbench.h"
#include "core/practice/phrase_strikes.h"

namespace ear {
namespace {

constexpr double kLevel = 0.9;

}  // namespace

WrittenVoice::WrittenVoice(Workbench& bench) : QObject(&bench), bench_(bench) {
  connect(&bench.phrases(), &PhraseKeeper::changed, this, &WrittenVoice::refresh);
  connect(&bench.transport(), &Transport::changed, this, &WrittenVoice::refresh);
  connect(&bench.analysis(), &Analysis::soundChanged, this, &WrittenVoice::refresh);
}

void WrittenVoice::setMode(Mode mode) {
  if (mode == mode_) return;
  mode_ = mode;
  refresh();
  emit changed();
}

void WrittenVoice::step() {
  setMode(static_cast<Mode>((static_cast<int>(mode_) + 1) % 4));
}

/// Every phrase of the take sounds where it belongs; of the one in hand the level that is looked at.
void WrittenVoice::refresh() {
  Mixer& mixer = bench_.transport().mixer();
  mixer.line().setLevel(mode_ == Mode::off ? 0.0 : kLevel);
  mixer.player().setRecordingPlace(mode_ == Mode::alone ? 0.0 : 1.0, mode_ == Mode::oneEach ? 1.0 : 0.0);
  if (mode_ == Mode::off || !bench_.transport().hasSound()) return;
  const PhraseKeeper& phrases = bench_.phrases();
  const Phrase* inHand = phrases.phrase();
  std::vector<WrittenLine::Strike> strikes;
  for (const Phrase* p : phrases.ofTake()) {
    const PhraseKeeper::View& view = p == inHand ? phrases.view() : phrases.viewOf(*p);
    Guitar guitar = view.guitar;
    guitar.offset += bench_.transport().sounding().shift;
    const auto more =
        strikesOf(view.notes, phrases.timing(*p), guitar, bench_.transport().player().recording()->sampleRate,
                  mode_ == Mode::oneEach ? 1.0 : 0.0);
    strikes.insert(strikes.end(), more.begin(), more.end());
  }
  mixer.line().setStrikes(std::move(strikes));
}

}  // namespace ear
