// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/harmony/phrase_key.h"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "core/listening/harmony/phrase_key_weights.h"

namespace ear {
namespace {

constexpr int kLowestGuitar = 40, kOverBass = 45;  // MIDI
constexpr double kRest = 0.7;                      // seconds, of the end
constexpr float kSounds = 0.5F;                    // probability
constexpr double kShuffled = 1.4;                  // ratio of swing

void scale(ChromaVector& chroma) {
  const float sum = std::accumulate(chroma.begin(), chroma.end(), 0.0F);
  if (sum > 0)
    for (float& c : chroma) c /= sum;
}

std::size_t classOf(int midi) {
  return static_cast<std::size_t>(midi % 12);
}

void addGuitar(KeySigns& signs, const GuitarActivations& guitar) {
  std::size_t end = 0;  // of what sounds
  for (std::size_t i = 0; i < guitar.count(); ++i) {
    const auto now = guitar.soundingAt(i);
    if (*std::max_element(now.begin(), now.end()) > kSounds) end = i + 1;
  }
  for (std::size_t i = 0; i < guitar.count(); ++i) {
    const double before = static_cast<double>(end) - static_cast<double>(i);
    const auto rest = before < 0 ? 0.0F : static_cast<float>(std::exp(-before / (kRest * guitar.clock.rate)));
    for (int n = kLowestGuitar - GuitarActivations::kLowestMidi; n < GuitarActivations::kNotes; ++n) {
      const std::size_t pc = classOf(GuitarActivations::kLowestMidi + n), note = static_cast<std::size_t>(n);
      signs.of[KeySigns::sounding][pc] += guitar.soundingAt(i)[note];
      signs.of[KeySigns::struck][pc] += guitar.struckAt(i)[note];
      signs.of[KeySigns::last][pc] += rest * guitar.soundingAt(i)[note];
    }
  }
}

}  // namespace

KeySigns keySignsOf(const GuitarActivations& guitar, const NoteActivations& notes,
                    const std::vector<FoundChord>& chords, double swing) {
  KeySigns signs;
  signs.inShuffle = swing >= kShuffled;
  addGuitar(signs, guitar);
  if (signs.inShuffle) signs.of[KeySigns::shuffled] = signs.of[KeySigns::sounding];
  for (std::size_t i = 0; i < notes.count(); ++i)
    for (int midi = NoteActivations::kLowestMidi; midi < kOverBass; ++midi)
      signs.of[KeySigns::bass][classOf(midi)] +=
          notes.frame(i)[static_cast<std::size_t>(midi - NoteActivations::kLowestMidi)];
  for (const FoundChord& c : chords) {
    if (!c.chord || c.chord->type->tones.size() < 3) continue;
    const int third = c.chord->type->tones[1];
    if (third != 3 && third != 4) continue;
    signs.of[third == 4 ? KeySigns::majorChords : KeySigns::minorChords][classOf(c.chord->root.value)] +=
        static_cast<float>(c.span.length().value);
  }
  // Major and minor chords are shares of the same time.
  const auto sum = [&](KeySigns::Sign s) { return std::accumulate(signs.of[s].begin(), signs.of[s].end(), 0.0F); };
  const float stood = sum(KeySigns::majorChords) + sum(KeySigns::minorChords);
  for (std::size_t s = 0; s < KeySigns::kSigns; ++s)
    if (s != KeySigns::majorChords && s != KeySigns::minorChords) scale(signs.of[s]);
  if (stood > 0)
    for (const auto s : {KeySigns::majorChords, KeySigns::minorChords})
      for (float& c : signs.of[s]) c /= stood;
  return signs;
}

std::array<double, 24> phraseKeyWeights(const KeySigns& signs) {
  std::array<double, 24> weights{};
  for (std::size_t key = 0; key < 24; ++key) {
    const std::size_t tonic = key % 12, mode = key / 12;
    double& w = weights[key];
    if (mode == 0) w += kPhraseKeyMajor + (signs.inShuffle ? kPhraseKeyShuffled : 0.0);
    for (std::size_t s = 0; s < KeySigns::kSigns; ++s)
      for (std::size_t degree = 0; degree < 12; ++degree)
        w += kPhraseKeyWeights[s][mode][degree] * std::sqrt(static_cast<double>(signs.of[s][(tonic + degree) % 12]));
  }
  return weights;
}

}  // namespace ear
