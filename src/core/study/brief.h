// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>

#include "core/listening/results/findings.h"
#include "core/study/parts.h"
#include "core/study/study.h"

namespace ear {

/// What a study says of a take: the person's decision where there is one, else the first reading of the measurement.
struct Brief {
  std::optional<Decision<PitchValue>> pitch;
  std::optional<Decision<GuitarSetup>> guitar;  ///< of the part in hand
  std::optional<Decision<Key>> key;
  std::optional<Decision<TimeValue>> time;
  std::optional<Decision<Form>> form;
};

/// The measurement alone.
Brief measuredBrief(const Findings& findings);

/// Decisions over measurement. @param findings  null while nothing was measured
Brief briefOf(const Take& take, const GuitarPart& part, const Findings* findings);

/// The measured form as a list to edit.
Form formOf(const Findings& findings);

// Plain sentences, as tiles and sheets print them.
std::string sentenceOf(const PitchValue& pitch);  ///< "12 cents sharp of A 440"
std::string sentenceOf(const Key& key);           ///< "E♭ minor"
std::string sentenceOf(const TimeValue& time);    ///< "104 beats a minute, 4 to the bar, straight"
std::string sentenceOf(const Form& form);         ///< "9 sections: A B B C B B C B D"

// The figure under the sentence.
std::string figureOf(const PitchValue& pitch);  ///< "A4 = 443.1 Hz"
std::string feelOf(const Swing& swing);         ///< "straight", "eighths swung 1.7 : 1"

/// "measured", "set by hand", "confirmed by ear".
std::string_view originWord(Origin origin);

}  // namespace ear
