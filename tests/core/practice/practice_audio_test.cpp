// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/practice/practice_audio.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <cmath>

#include "core/audio/decode.h"
#include "core/audio/encode.h"
#include "support/sounds.h"

namespace ear {
namespace {

using testing::HasSubstr;

/// A steady tone on both sides.
std::shared_ptr<const Recording> tone() {
  Recording r = test::sine(440, 4.0, 44100);
  if (r.channels.size() == 1) r.channels.push_back(r.channels.front());
  return std::make_shared<const Recording>(std::move(r));
}

double levelIn(const Recording& r, std::size_t side, double from, double to) {
  double sum = 0;
  const auto first = static_cast<std::size_t>(from * r.sampleRate), last = static_cast<std::size_t>(to * r.sampleRate);
  for (std::size_t i = first; i < last; ++i) sum += std::pow(static_cast<double>(r.channels[side][i]), 2);
  return std::sqrt(sum / static_cast<double>(last - first));
}

TEST(PracticeAudio, CountsInAndPlaysEachSpeedSoOften) {
  const auto made = renderPractice(
      tone(), {.span = {Seconds(1), Seconds(2)}, .speeds = {0.5, 1.0}, .times = 2, .clicks = 4, .beat = Seconds(0.25)},
      {});
  ASSERT_TRUE(made);
  // Counts of a second at the recording's own speed, and a second of music: (2 + 2) x 2, (1 + 1) x 2, and the tail.
  EXPECT_NEAR(made->duration().value, 8 + 4 + 0.6, 0.25);
  EXPECT_LT(levelIn(*made, 0, 0.15, 0.4), 0.1 * levelIn(*made, 0, 2.5, 3.5)) << "between the clicks of the count";
  EXPECT_GT(levelIn(*made, 0, 6.5, 7.5), 0.1) << "the second time, slow";
  EXPECT_GT(levelIn(*made, 0, 9.2, 9.8), 0.1) << "at full speed";
}

TEST(PracticeAudio, PutsTheWrittenLineIntoOneEar) {
  WrittenLine::Strike strike;
  strike.from = 1.2 * 44100, strike.until = 1.8 * 44100, strike.string = 2;
  strike.pluck.pitch = Hertz(660);
  PracticeAudio wanted{.span = {Seconds(1), Seconds(2)},
                       .speeds = {1.0},
                       .times = 1,
                       .clicks = 0,
                       .written = {strike},
                       .inOneEar = true};
  wanted.written.front().pluck.pan = 1.0;
  const auto made = renderPractice(tone(), wanted, {});
  ASSERT_TRUE(made);
  EXPECT_GT(levelIn(*made, 0, 0.3, 0.9), 0.1) << "the recording on the left";
  EXPECT_GT(levelIn(*made, 1, 0.3, 0.7), 3 * levelIn(*made, 1, 0.02, 0.15)) << "what is written on the right alone";
}

TEST(PracticeAudio, StopsWhenItIsCancelled) {
  Progress progress;
  progress.cancel();
  EXPECT_FALSE(renderPractice(tone(), {.span = {Seconds(1), Seconds(2)}}, progress));
}

TEST(PracticeAudio, IsWrittenInThreeKindsWithTags) {
  const auto folder = test::freshFolder("practice-audio");
  const auto sound = tone();
  for (const char* ending : {".flac", ".ogg", ".wav"}) {
    const auto file = folder / (std::string("a") + ending);
    ASSERT_TRUE(writeSound(*sound, file, {"Solo, the call", "Copper Weather", "60 %, then 100 %"}).ok());
    const auto back = decode(file);
    ASSERT_TRUE(back.ok()) << back.problem();
    EXPECT_NEAR(back->duration().value, 4.0, 0.05);
    EXPECT_FALSE(std::filesystem::exists(file.string() + ".part"));
    const std::string probe = "ffprobe -v error -show_entries format_tags=title:stream_tags=title " + file.string() +
                              " | grep -i 'title=Solo, the call' >/dev/null";
    EXPECT_EQ(std::system(probe.c_str()), 0) << ending;
  }
  EXPECT_THAT(writeSound(*sound, folder / "a.mp3", {}).problem(), HasSubstr(".flac, .ogg or .wav"));
  EXPECT_FALSE(writeSound(*sound, "/no/such/folder/a.wav", {}).ok());
}

}  // namespace
}  // namespace ear
