// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/workbench/workbench.h"

namespace ear {

Workbench::Workbench(std::unique_ptr<AudioOutput> output, QObject* parent)
    : QObject(parent),
      session_(nullptr),
      transport_(session_, std::move(output), nullptr),
      analysis_(session_, transport_, nullptr),
      selection_(session_, transport_, analysis_, nullptr),
      voice_(*this),
      time_(new TimeKeeper(*this)),
      form_(new FormKeeper(*this)),
      chords_(new ChordKeeper(*this)),
      practice_(new PracticeKeeper(*this)),
      ear_(new EarKeeper(*this)),
      phrases_(new PhraseKeeper(*this)),
      phraseEar_(new PhraseEar(*this)),
      written_(new WrittenVoice(*this)),
      lesson_(new LessonKeeper(*this)),
      guard_(new ListeningGuard(*this)) {
  connect(&session_, &Session::documentChanged, this, [this] { voice_.tuneDrone(); });
  connect(&transport_, &Transport::changed, this, [this] { voice_.tuneDrone(); });
}

}  // namespace ear
