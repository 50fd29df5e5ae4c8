#pragma once

#include <string>
#include <vector>

#include "core/listening/rhythm.h"
#include "core/listening/spectra.h"

namespace ear {

/// A stretch of the form. Sections with one letter are the same music.
struct FoundSection {
  TimeSpan span;
  std::string letter;      ///< "A", "B" ...
  double certainty = 0.0;  ///< in [0, 1], of its start
};

/// Sections of a recording, gap-free from 0 to its end, with borders on downbeats.
///
/// Bars are described by the chroma of their parts, their bass and their colour; borders are where a bar
/// self-similarity matrix changes (checkerboard novelty, Foote 2000), with lengths of whole four-bar groups preferred;
/// sections whose bars match along a diagonal of the matrix get one letter.
std::vector<FoundSection> findForm(const Spectra& spectra, const NoteActivity& notes, const RhythmFindings& rhythm);

}  // namespace ear
