// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/audio/decode.h"

#include <algorithm>
#include <new>
#include <stdexcept>
#include <vector>

#include "core/audio/file_end.h"
#include "core/audio/media_file.h"
#include "core/base/text.h"

namespace ear {
namespace {

constexpr float kSilencePeak = 3.2e-5F;  // -90 dB: below the last bit of a 16-bit file
constexpr double kMissingTail = 0.5;     // seconds that may lack before a file counts as cut short
constexpr double kLongestHours = 12.0;   // a sane limit: planar float of this takes 15 GB of disk
constexpr double kStep = 5.0;            // seconds between two reports

/// For the whole recording at once, since growing a long one copies it; but no more than a file of this size can fill
/// at the lowest rate of sound coding in use: a damaged or hostile one may claim any length. Where more comes all the
/// same, the room grows with it.
void makeRoom(Recording& recording, double seconds, std::uintmax_t bytes) {
  constexpr double kLeastBytes = 3000.0;  // a second
  const double likely = std::min({seconds, kLongestHours * 3600, static_cast<double>(bytes) / kLeastBytes});
  const double expected = (std::max(0.0, likely) + 1) * recording.sampleRate;
  for (auto& plane : recording.channels) plane.reserve(static_cast<std::size_t>(expected));
}

std::string timesOf(const std::vector<Seconds>& times) {
  constexpr std::size_t kNamed = 3;
  std::string words;
  for (std::size_t i = 0; i < std::min(kNamed, times.size()); ++i) words += (i > 0 ? ", " : "") + clockTenths(times[i]);
  if (times.size() > kNamed) words += " and at " + std::to_string(times.size() - kNamed) + " more places";
  return words;
}

/// What of the file is not there, where, and what that means for times; empty where all is.
std::string noticeOf(const std::filesystem::path& file, const MediaFile::Losses& losses, Seconds declared,
                     Seconds read) {
  std::vector<std::string> sentences;
  if (!losses.missing.empty()) {
    double missing = 0;
    std::vector<Seconds> starts;
    for (const TimeSpan& gap : losses.missing) missing += gap.length().value, starts.push_back(gap.start);
    sentences.push_back(fixed(missing, 1) + " s of the sound are missing, at " + timesOf(starts) +
                        ". Silence stands there, so that times are right.");
  }
  if (!losses.damaged.empty())
    sentences.push_back("The file is damaged at " + timesOf(losses.damaged) + "; times after that may be off.");
  if (losses.joined) sentences.emplace_back("The file holds several recordings, one behind the other.");
  if (losses.unreal) sentences.emplace_back("Some samples were no numbers; silence stands there.");
  if (declared - read > Seconds(kMissingTail))
    sentences.push_back("The file ends early: " + clockTenths(read) + " of " + clockTenths(declared) +
                        " could be read.");
  else if (endsBeforeItShould(file))
    sentences.push_back("The file ends early: only its first " + clockTenths(read) + " could be read.");
  std::string notice;
  for (const auto& sentence : sentences) notice += (notice.empty() ? "" : " ") + sentence;
  return notice;
}

Problem noRoom(const std::string& name, double seconds) {
  return Problem{"There is no room to open “" + name + "”" +
                 (seconds > 0 ? ", which is " + clockTime(Seconds(seconds)) + " long" : std::string()) +
                 ". Its samples need up to 1.4 GB an hour in the folder for temporary files ($TMPDIR, else /var/tmp): "
                 "free some room there, or name another folder in TMPDIR."};
}

Outcome<Recording> decoded(const std::filesystem::path& file, MediaFile& media, const Progress& progress) {
  const std::string name = shownPath(file.filename());
  const double declared = media.declared().value;
  std::error_code error;
  const auto bytes = std::filesystem::file_size(file, error);
  Recording recording;
  bool roomMade = false;
  double reported = 0.0;
  while (media.read(recording)) {
    if (progress.cancelled()) break;
    if (recording.sampleRate == 0) continue;
    if (!roomMade) makeRoom(recording, declared, bytes);
    roomMade = true;
    const double done = recording.duration().value;
    if (done > kLongestHours * 3600) return Problem{"“" + name + "” is longer than 12 hours. Cut it into parts first."};
    if (done - reported < kStep) continue;
    reported = done;
    for (const auto& plane : recording.channels) evict(plane);
    if (declared > 0) progress.report(std::min(1.0, done / declared));
  }
  if (progress.cancelled()) return Problem{"Opening “" + name + "” was cancelled."};
  for (const auto& plane : recording.channels) evict(plane);

  if (recording.frames() == 0)
    return Problem{"“" + name +
                   "” is damaged: not one sample of its sound could be decoded. Copy or download it again."};
  if (media.peak() < kSilencePeak)
    return Problem{"“" + name + "” holds nothing but silence (" + clockTime(recording.duration()) +
                   " of it). Check that it is the right file."};
  recording.notice = noticeOf(file, media.losses(), Seconds(declared), recording.duration());
  if (sidesCancel(recording))
    recording.notice += std::string(recording.notice.empty() ? "" : " ") +
                        "Left and right cancel each other, as where one of them is inverted: listening to the left "
                        "side alone.";
  return recording;
}

}  // namespace

Outcome<Recording> decode(const std::filesystem::path& file, const Progress& progress) {
  auto media = MediaFile::open(file, progress);
  if (!media) return Problem{media.problem()};
  try {
    return decoded(file, *media, progress);
  } catch (const std::bad_alloc&) {
    return noRoom(shownPath(file.filename()), media->declared().value);
  } catch (const std::length_error&) {
    return noRoom(shownPath(file.filename()), media->declared().value);
  }
}

}  // namespace ear
