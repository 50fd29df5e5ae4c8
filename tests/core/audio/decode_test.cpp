// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/audio/decode.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <unistd.h>

#include <cstdlib>
#include <cstring>
#include <fstream>

#include "core/audio/encode.h"
#include "core/audio/resample.h"
#include "support/sounds.h"

namespace ear {
namespace {

using testing::HasSubstr;
namespace fs = std::filesystem;

/// Runs the ffmpeg tool, the outside reference for everything decoded here.
void ffmpeg(const std::string& arguments) {
  ASSERT_EQ(std::system(("ffmpeg -v error -y " + arguments).c_str()), 0) << arguments;
}

/// What the ffmpeg tool itself makes of a file: interleaved floats, at most two channels.
std::vector<float> decodedByTool(const fs::path& file, int channels) {
  const fs::path raw = file.string() + ".f32";
  ffmpeg("-i " + file.string() + " -vn -f f32le -ac " + std::to_string(channels) + " " + raw.string());
  std::vector<float> samples(fs::file_size(raw) / sizeof(float));
  std::ifstream(raw, std::ios::binary)
      .read(reinterpret_cast<char*>(samples.data()), static_cast<std::streamsize>(samples.size() * sizeof(float)));
  return samples;
}

struct Format {
  const char* name;
  const char* encoding;
  int rate = 44100;
  int channels = 2;
};

class Formats : public testing::TestWithParam<Format> {
 protected:
  static fs::path make(const Format& format) {
    const fs::path file =
        test::freshFolder(std::string("decode-") + format.name) / (std::string("sound.") + format.name);
    ffmpeg("-f lavfi -i \"aevalsrc=exprs=0.4*sin(440*2*PI*t)|0.3*sin(660*2*PI*t):s=" + std::to_string(format.rate) +
           ":d=2\" -ac " + std::to_string(format.channels) + " " + format.encoding + " " + file.string());
    return file;
  }
};

TEST_P(Formats, GivesWhatTheFfmpegToolGives) {
  const Format format = GetParam();
  const fs::path file = make(format);
  const auto recording = decode(file);
  ASSERT_TRUE(recording.ok()) << recording.problem();
  const int kept = std::min(2, format.channels);
  EXPECT_EQ(recording->sampleRate, format.rate);
  EXPECT_EQ(static_cast<int>(recording->channels.size()), kept);
  EXPECT_EQ(recording->notice, "");
  const auto expected = decodedByTool(file, kept);
  ASSERT_NEAR(static_cast<double>(recording->frames()), static_cast<double>(expected.size()) / kept, 1);
  double worst = 0;
  for (std::size_t i = 0; i < std::min(recording->frames(), expected.size() / static_cast<std::size_t>(kept)); ++i)
    for (std::size_t c = 0; c < static_cast<std::size_t>(kept); ++c)
      worst = std::max(worst, static_cast<double>(std::abs(recording->channels[c][i] -
                                                           expected[i * static_cast<std::size_t>(kept) + c])));
  EXPECT_LT(worst, 2e-4);
}

INSTANTIATE_TEST_SUITE_P(All, Formats,
                         testing::Values(Format{"mp3", "-b:a 192k"}, Format{"m4a", "-c:a aac"}, Format{"flac", ""},
                                         Format{"ogg", "-c:a libvorbis"}, Format{"opus", "-c:a libopus", 48000},
                                         Format{"wav", "-c:a pcm_s16le"}, Format{"u8.wav", "-c:a pcm_u8", 8000, 1},
                                         Format{"s24.wav", "-c:a pcm_s24le", 96000},
                                         Format{"s32.wav", "-c:a pcm_s32le", 192000},
                                         Format{"f32.wav", "-c:a pcm_f32le"}, Format{"aiff", ""},
                                         Format{"mp4", "-c:a aac"}, Format{"mkv", "-c:a flac"},
                                         Format{"webm", "-c:a libopus", 48000}, Format{"mono.flac", "", 22050, 1},
                                         Format{"5.1.wav", "-c:a pcm_f32le", 48000, 6},
                                         Format{"7.1.flac", "", 48000, 8}),
                         [](const auto& format) {
                           std::string name = format.param.name;
                           std::replace(name.begin(), name.end(), '.', '_');
                           return name;
                         });

TEST(Decode, TakesTheSoundOfAVideo) {
  const auto file = test::freshFolder("decode-video") / "clip.mp4";
  ffmpeg("-f lavfi -i testsrc=d=1:s=64x64 -f lavfi -i sine=440:d=1 -c:v mpeg4 -c:a aac -shortest " + file.string());
  const auto recording = decode(file);
  ASSERT_TRUE(recording.ok()) << recording.problem();
  EXPECT_NEAR(recording->duration().value, 1.0, 0.1);
}

TEST(Decode, SaysWhatIsWrong) {
  const auto folder = test::freshFolder("decode-wrong");
  const auto sentence = [](const fs::path& file) {
    const auto result = decode(file);
    return result.ok() ? std::string("opened") : result.problem();
  };
  EXPECT_THAT(sentence(folder / "gone.mp3"), HasSubstr("There is no file"));
  EXPECT_THAT(sentence(folder), HasSubstr("is a folder"));
  std::ofstream(folder / "empty.wav").close();
  EXPECT_THAT(sentence(folder / "empty.wav"), HasSubstr("is empty"));
  std::ofstream(folder / "letter.mp3") << "Dear student, this is not a recording at all.";
  EXPECT_THAT(sentence(folder / "letter.mp3"), HasSubstr("letter.mp3"));
  EXPECT_NE(sentence(folder / "letter.mp3"), "opened");
  ffmpeg("-f lavfi -i anullsrc=d=1 " + (folder / "silent.flac").string());
  EXPECT_THAT(sentence(folder / "silent.flac"), HasSubstr("nothing but silence"));
  ffmpeg("-f lavfi -i testsrc=d=1:s=64x64 -an -c:v mpeg4 " + (folder / "mute.mp4").string());
  EXPECT_THAT(sentence(folder / "mute.mp4"), HasSubstr("holds no sound"));
  if (geteuid() != 0) {  // root reads everything
    ffmpeg("-f lavfi -i sine=440:d=1 " + (folder / "locked.wav").string());
    fs::permissions(folder / "locked.wav", fs::perms::none);
    EXPECT_THAT(sentence(folder / "locked.wav"), HasSubstr("permissions"));
  }
}

TEST(Decode, OpensATruncatedFileAsFarAsItGoes) {
  const auto folder = test::freshFolder("decode-cut");
  for (const char* name : {"cut.wav", "cut.flac", "cut.m4a"}) {
    const auto file = folder / name;
    ffmpeg("-f lavfi -i \"sine=440:d=10\" -movflags +faststart " + file.string());
    fs::resize_file(file, fs::file_size(file) / 2);
    const auto recording = decode(file);
    ASSERT_TRUE(recording.ok()) << name << ": " << recording.problem();
    EXPECT_GT(recording->duration().value, 3.0) << name;
    EXPECT_LT(recording->duration().value, 7.0) << name;
    EXPECT_NE(recording->notice, "") << name;
  }
}

TEST(Decode, SurvivesDamage) {
  const auto folder = test::freshFolder("decode-damage");
  const auto file = folder / "sound.ogg";
  ffmpeg("-f lavfi -i sine=440:d=5 -c:a libvorbis " + file.string());
  std::ifstream in(file, std::ios::binary);
  const std::string whole((std::istreambuf_iterator<char>(in)), {});
  unsigned random = 1;
  for (int round = 0; round < 40; ++round) {
    std::string broken = whole;
    for (int k = 0; k < 30; ++k) {
      random = random * 1664525U + 1013904223U;
      broken[random % broken.size()] = static_cast<char>(random >> 24);
    }
    std::ofstream(folder / "broken.ogg", std::ios::binary) << broken;
    const auto result = decode(folder / "broken.ogg");
    if (!result.ok()) {
      EXPECT_FALSE(result.problem().empty());
    }
  }
}

TEST(Decode, CanBeCancelled) {
  Progress progress;
  progress.cancel();
  const auto result = decode(fs::path(DEMO_DIR) / "studio.ogg", progress);
  ASSERT_FALSE(result.ok());
  EXPECT_THAT(result.problem(), HasSubstr("cancelled"));
}

TEST(Encode, WavComesBackAsItWas) {
  const auto file = test::freshFolder("encode") / "tone.wav";
  const Recording tone = test::sine(440, 0.5);
  ASSERT_TRUE(writeWav(tone, file).ok());
  const auto back = decode(file);
  ASSERT_TRUE(back.ok());
  EXPECT_EQ(back->channels, tone.channels);
}

TEST(Resample, KeepsPitchAndLength) {
  const Recording tone = resample(test::sine(1000, 1.0, 44100), 48000);
  EXPECT_EQ(tone.sampleRate, 48000);
  EXPECT_NEAR(tone.duration().value, 1.0, 0.001);
  EXPECT_NEAR(test::frequencyOf(tone.left(), 48000, 1000), 1000, 0.01);
}

}  // namespace
}  // namespace ear
