#include "core/audio/decode.h"

#include <algorithm>
#include <array>
#include <fstream>

#include "core/audio/media_file.h"
#include "core/text.h"

namespace ear {
namespace {

constexpr float kSilencePeak = 3.2e-5F;  // -90 dB: below the last bit of a 16-bit file
constexpr double kMissingTail = 0.5;     // seconds that may lack before a file counts as cut short
constexpr double kLongestHours = 12.0;   // a sane limit: planar float of this takes 15 GB of disk
constexpr double kStep = 5.0;            // seconds between two reports

/// WAV and AIFF say how long they are in their first bytes, but the demuxer trusts the file's end instead.
bool shorterThanItsHeader(const std::filesystem::path& file) {
  std::array<unsigned char, 12> head{};
  std::ifstream(file, std::ios::binary).read(reinterpret_cast<char*>(head.data()), head.size());
  const std::string_view kind(reinterpret_cast<const char*>(head.data()), 4),
      form(reinterpret_cast<const char*>(head.data()) + 8, 4);
  const auto size = [&](int first, int step) {
    std::uint32_t value = 0;
    for (int i = 0; i < 4; ++i) value = value << 8 | head[static_cast<std::size_t>(first + step * i)];
    return value;
  };
  std::uint32_t said = 0;
  if (kind == "RIFF" && form == "WAVE")
    said = size(7, -1);
  else if (kind == "FORM" && (form == "AIFF" || form == "AIFC"))
    said = size(4, 1);
  std::error_code error;
  return said != 0 && said != 0xFFFFFFFFU && said > std::filesystem::file_size(file, error);
}

/// For the whole recording at once: growing a long one would copy it. A damaged file may claim any length.
void makeRoom(Recording& recording, double seconds) {
  const double expected = (std::clamp(seconds, 0.0, kLongestHours * 3600) + 1) * recording.sampleRate;
  for (auto& plane : recording.channels) plane.reserve(static_cast<std::size_t>(expected));
}

}  // namespace

Outcome<Recording> decode(const std::filesystem::path& file, const Progress& progress) {
  auto opened = MediaFile::open(file);
  if (!opened) return Problem{opened.problem()};
  const std::string name = file.filename().string();
  const double declared = opened->declared().value;

  Recording recording;
  bool roomMade = false;
  double reported = 0.0;
  while (opened->read(recording)) {
    if (progress.cancelled()) return Problem{"Opening “" + name + "” was cancelled."};
    if (recording.sampleRate == 0) continue;
    if (!roomMade) makeRoom(recording, declared);
    roomMade = true;
    const double done = recording.duration().value;
    if (done > kLongestHours * 3600) return Problem{"“" + name + "” is longer than 12 hours. Cut it into parts first."};
    if (done - reported < kStep) continue;
    reported = done;
    for (const auto& plane : recording.channels) letGo(plane);
    if (declared > 0) progress.report(std::min(1.0, done / declared));
  }
  for (const auto& plane : recording.channels) letGo(plane);

  if (recording.frames() == 0)
    return Problem{"“" + name +
                   "” is damaged: not one sample of its sound could be decoded. Copy or download it again."};
  if (opened->peak() < kSilencePeak)
    return Problem{"“" + name + "” holds nothing but silence (" + clockTime(recording.duration()) +
                   " of it). Check that it is the right file."};
  if (declared - recording.duration().value > kMissingTail)
    recording.notice = "The file ends early: " + clockTime(recording.duration()) + " of " +
                       clockTime(Seconds(declared)) + " could be read.";
  else if (shorterThanItsHeader(file))
    recording.notice = "The file ends early: only its first " + clockTime(recording.duration()) + " could be read.";
  else if (opened->damaged())
    recording.notice = "Some places of the file could not be read; times after them may be off.";
  return recording;
}

}  // namespace ear
