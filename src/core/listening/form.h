#pragma once

#include <cstdint>
#include <string>
#include <string_view>
#include <vector>

#include "core/listening/rhythm.h"
#include "core/listening/spectra.h"
#include "core/listening/stereo_field.h"

namespace ear {

/// What a section may be in the song: never more than a guess.
enum class Role { none, countIn, intro, verse, chorus, bridge, solo, breakdown, outro, noMusic };
std::string_view roleWord(Role role);  ///< "verse"; empty for none

/// A stretch of the form. Sections with one letter are the same music.
struct FoundSection {
  TimeSpan span;
  std::string letter{};    ///< "A", "B" ...; "-" where there is no music
  double certainty = 0.0;  ///< in [0, 1], of its start
  int bars = 0;
  Role role = Role::none;
  std::string difference{};  ///< from the first section of its letter: "ends differently, 2 bars longer"; may be empty
};

/// Likeness of every pair of bars, for a picture.
struct BarPicture {
  std::size_t size = 0;               ///< rows and columns
  int barsEach = 1;                   ///< bars that a row stands for
  std::vector<std::uint8_t> alike{};  ///< size x size, 0 unlike ... 15 alike
};

struct FormFindings {
  std::vector<FoundSection> sections;  ///< gap-free from 0 to the recording's end
  BarPicture picture;
};

/// Sections of a recording, with borders on downbeats. Borders by borders.h; sections whose bars are alike along a
/// diagonal of the bar self-similarity matrix get one letter (average linkage), also when the key was moved.
/// @param sides  where sound sits, to tell what enters; may be empty
FormFindings findForm(Seconds duration, const BandFrames& bands, const OnsetStrength& onsets, const NoteActivity& notes,
                      const RhythmFindings& rhythm, const std::vector<SidePoint>& sides);

}  // namespace ear
