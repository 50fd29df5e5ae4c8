// SPDX-License-Identifier: GPL-3.0-or-later
// Files that are no recordings, or claim what they do not hold; and damage that is said and placed in time.

#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <sys/resource.h>
#include <sys/stat.h>
#include <sys/wait.h>
#include <unistd.h>

#include <cstdlib>
#include <fstream>
#include <thread>

#include "core/audio/decode.h"
#include "core/audio/preview.h"
#include "core/base/text.h"
#include "support/sounds.h"

namespace ear {
namespace {

using testing::HasSubstr;
using testing::Not;
namespace fs = std::filesystem;

void ffmpeg(const std::string& arguments) {
  ASSERT_EQ(std::system(("ffmpeg -v error -y " + arguments).c_str()), 0) << arguments;
}

std::string bytesOf(const fs::path& file) {
  std::ifstream in(file, std::ios::binary);
  return {std::istreambuf_iterator<char>(in), {}};
}

void put(const fs::path& file, const std::string& bytes) {
  std::ofstream(file, std::ios::binary) << bytes;
}

std::string sentenceOn(const fs::path& file) {
  const auto result = decode(file);
  return result.ok() ? "opened: " + result->notice : result.problem();
}

/// Decodes in a process of its own. @return megabytes that it needed; empty where it never ended or broke
std::optional<long> memoryFor(const fs::path& file) {
  const pid_t child = fork();
  if (child == 0) {
    alarm(30);
    decode(file).ok();
    _exit(0);
  }
  int status = 0;
  rusage usage{};
  wait4(child, &status, 0, &usage);
  if (!WIFEXITED(status)) return std::nullopt;
  return usage.ru_maxrss / 1024;
}

// --- lists and addresses -----------------------------------------------------------------------------------------

TEST(Hostile, ListsOfOtherFilesAreNotFollowed) {
  const auto folder = test::freshFolder("hostile-lists");
  ffmpeg("-f lavfi -i sine=440:d=2 " + (folder / "secret.flac").string());
  const std::string secret = (folder / "secret.flac").string();
  put(folder / "m.mp3", "#EXTM3U\n#EXT-X-STREAM-INF:BANDWIDTH=1\nm.mp3\n");
  put(folder / "hls.wav", "#EXTM3U\n#EXT-X-TARGETDURATION:2\n#EXTINF:2,\n" + secret + "\n#EXT-X-ENDLIST\n");
  put(folder / "concat.wav", "ffconcat version 1.0\nfile '" + secret + "'\n");
  put(folder / "dash.m4a",
      "<?xml version=\"1.0\"?><MPD xmlns=\"urn:mpeg:dash:schema:mpd:2011\" type=\"static\"><Period><AdaptationSet "
      "mimeType=\"audio/mp4\"><Representation id=\"1\"><BaseURL>" +
          secret + "</BaseURL></Representation></AdaptationSet></Period></MPD>");
  put(folder / "sdp.ogg", "v=0\no=- 0 0 IN IP4 127.0.0.1\ns=x\nc=IN IP4 127.0.0.1\nt=0 0\nm=audio 5004 RTP/AVP 0\n");
  ASSERT_EQ(mkfifo((folder / "pipe").c_str(), 0600), 0);
  put(folder / "fifo.mp3", "#EXTM3U\n#EXT-X-STREAM-INF:BANDWIDTH=1\n" + (folder / "pipe").string() + "\n");
  for (const char* name : {"m.mp3", "hls.wav", "concat.wav", "dash.m4a", "sdp.ogg", "fifo.mp3"}) {
    const auto megabytes = memoryFor(folder / name);
    ASSERT_TRUE(megabytes.has_value()) << name << " never ended";
    EXPECT_LT(*megabytes, 300) << name;
    EXPECT_THAT(sentenceOn(folder / name), HasSubstr("not a sound or video file")) << name;
  }
  EXPECT_THAT(sentenceOn(folder / "pipe"), HasSubstr("not a regular file"));
}

TEST(Hostile, PicturesAreNeverDecoded) {
  const auto folder = test::freshFolder("hostile-cover");
  const fs::path cover = folder / "cover.png", song = folder / "song.mp3";
  ffmpeg("-f lavfi -i color=s=8000x8000 -frames:v 1 " + cover.string());
  ffmpeg("-f lavfi -i sine=440:d=2 " + (folder / "bare.mp3").string());
  ffmpeg("-i " + (folder / "bare.mp3").string() + " -i " + cover.string() + " -map 0 -map 1 -c copy " + song.string());
  const auto bare = memoryFor(folder / "bare.mp3"), covered = memoryFor(song);
  ASSERT_TRUE(bare && covered);
  EXPECT_LT(*covered, *bare + 40) << "its picture alone would take 190 MB";
  EXPECT_EQ(sentenceOn(song), "opened: ");
}

// --- lengths that are claimed ------------------------------------------------------------------------------------

TEST(Hostile, RoomIsTakenForWhatTheFileCanHold) {
  const auto folder = test::freshFolder("hostile-length");
  const fs::path file = folder / "long.flac";
  ffmpeg("-f lavfi -i \"anoisesrc=d=5:a=0.3\" -ar 44100 " + file.string());
  std::string bytes = bytesOf(file);
  // STREAMINFO (RFC 9639, 8.2): the total of samples, 36 bits, ends at byte 25 of the file.
  const std::uint64_t claimed = 44100ULL * 42840;  // 11.9 hours
  for (std::size_t i = 0; i < 4; ++i) bytes[25 - i] = static_cast<char>(claimed >> (8 * i));
  bytes[21] = static_cast<char>((bytes[21] & 0xF0) | static_cast<char>(claimed >> 32 & 15U));
  put(file, bytes);
  const auto recording = decode(file);
  ASSERT_TRUE(recording.ok()) << recording.problem();
  EXPECT_NEAR(recording->duration().value, 5, 0.1);
  EXPECT_THAT(recording->notice, HasSubstr("of 11:54:00"));
  const double room = static_cast<double>(recording->channels[0].capacity()) / recording->sampleRate;
  EXPECT_LT(room, static_cast<double>(bytes.size()) / 3000 + 10) << "seconds";
}

TEST(Hostile, WithoutRoomThereIsASentence) {
  const auto folder = test::freshFolder("hostile-room");
  const fs::path file = folder / "long.flac";
  ffmpeg("-f lavfi -i \"sine=440:d=900\" -ar 48000 -ac 2 " + file.string());
  const pid_t child = fork();
  if (child == 0) {
    setenv("TMPDIR", "/nowhere/at/all", 1);
    // Neither a folder for temporary files nor memory for more than the program itself.
    const rlimit limit{rlim_t{400} << 20, rlim_t{400} << 20};
    setrlimit(RLIMIT_AS, &limit);
    const auto result = decode(file);
    _exit(!result.ok() && result.problem().find("no room") != std::string::npos ? 0 : 1);
  }
  int status = 0;
  waitpid(child, &status, 0);
  EXPECT_TRUE(WIFEXITED(status) && WEXITSTATUS(status) == 0) << status;
}

TEST(Hostile, CancelEndsOpeningAndReading) {
  const auto file = test::freshFolder("hostile-cancel") / "long.flac";
  ffmpeg("-f lavfi -i \"sine=440:d=1800\" " + file.string());
  Progress progress;
  std::thread other([&] {
    std::this_thread::sleep_for(std::chrono::milliseconds(60));
    progress.cancel();
  });
  const auto result = decode(file, progress);
  other.join();
  ASSERT_FALSE(result.ok());
  EXPECT_THAT(result.problem(), HasSubstr("cancelled"));
}

// --- damage ------------------------------------------------------------------------------------------------------

/// Twelve seconds of soft noise with a loud beep from 9 s on.
fs::path beeping(const std::string& name, const std::string& encoding) {
  const auto folder = test::freshFolder("damage-" + name);
  const fs::path file = folder / ("sound." + name);
  ffmpeg("-f lavfi -i \"aevalsrc=0.02*random(0)+0.7*sin(880*2*PI*t)*between(t\\,9\\,10):d=12:s=48000\" " + encoding +
         " " + file.string());
  return file;
}

double beepOf(const Recording& recording) {
  const auto samples = recording.left();
  for (std::size_t i = 0; i < samples.size(); ++i)
    if (std::abs(samples[i]) > 0.3F) return static_cast<double>(i) / recording.sampleRate;
  return -1;
}

class LostInTheMiddle : public testing::TestWithParam<std::pair<const char*, const char*>> {};

TEST_P(LostInTheMiddle, IsSaidAndLaterTimesStayRight) {
  const auto [name, encoding] = GetParam();
  const auto file = beeping(name, encoding);
  std::string bytes = bytesOf(file);
  ASSERT_NEAR(beepOf(*decode(file)), 9.0, 0.05);
  ASSERT_EQ(decode(file)->notice, "");
  // Noise over what lies a third into the file.
  unsigned random = 5;
  const std::size_t from = bytes.size() / 3, length = bytes.size() / 12;
  for (std::size_t i = from; i < from + length; ++i) {
    random = random * 1664525U + 1013904223U;
    bytes[i] = static_cast<char>(random >> 24);
  }
  put(file, bytes);
  const auto damaged = decode(file);
  ASSERT_TRUE(damaged.ok()) << damaged.problem();
  EXPECT_THAT(damaged->notice, HasSubstr("missing, at 0:0")) << damaged->notice;
  EXPECT_NEAR(beepOf(*damaged), 9.0, 0.1) << damaged->notice;
}

INSTANTIATE_TEST_SUITE_P(Timed, LostInTheMiddle,
                         testing::Values(std::pair("ogg", "-c:a libvorbis"), std::pair("opus", "-c:a libopus"),
                                         std::pair("flac", "")),
                         [](const auto& p) { return std::string(p.param.first); });

TEST(Damage, BareStreamsSayWhereSomethingBroke) {
  const auto file = beeping("mp3", "-b:a 128k");
  const std::string bytes = bytesOf(file);
  ASSERT_EQ(decode(file)->notice, "");
  put(file, bytes.substr(0, bytes.size() / 2) + std::string(5000, '\0') + bytes.substr(bytes.size() / 2 + 20'000));
  EXPECT_THAT(decode(file)->notice, HasSubstr("damaged at 0:0"));
}

TEST(Damage, CutOggAndOpusFilesSaySo) {
  for (const char* encoding : {"libvorbis", "libopus"}) {
    const auto file = beeping("ogg", std::string("-c:a ") + encoding);
    const std::string bytes = bytesOf(file);
    for (int part = 2; part <= 9; ++part) {
      put(file, bytes.substr(0, bytes.size() * static_cast<std::size_t>(part) / 10));
      const auto cut = decode(file);
      ASSERT_TRUE(cut.ok()) << cut.problem();
      EXPECT_THAT(cut->notice, HasSubstr("ends early")) << encoding << " " << part;
    }
  }
}

TEST(Damage, JoinedFlacFilesAreNoticed) {
  const auto file = beeping("flac", "");
  const std::string bytes = bytesOf(file);
  put(file, bytes + bytes);
  EXPECT_THAT(sentenceOn(file), HasSubstr("several recordings"));
}

TEST(Damage, AnMp4WithoutItsIndexIsIncomplete) {
  const auto file = beeping("m4a", "-c:a aac");
  const std::string bytes = bytesOf(file);
  put(file, bytes.substr(0, bytes.size() * 2 / 3));
  EXPECT_THAT(sentenceOn(file), HasSubstr("incomplete: its index is missing"));
}

TEST(Damage, NothingIsSaidWhereNothingIsMissing) {
  const auto folder = test::freshFolder("no-damage");
  const auto quiet = [&](const std::string& name, const std::string& arguments) {
    ffmpeg(arguments + " " + (folder / name).string());
    EXPECT_EQ(sentenceOn(folder / name), "opened: ") << name;
  };
  quiet("late.mkv", "-itsoffset 3 -f lavfi -i sine=440:d=5 -c:a flac");
  quiet("late.m4a", "-itsoffset 3 -f lavfi -i sine=440:d=5 -c:a aac");
  quiet("film.mkv", "-f lavfi -i testsrc=d=8:s=64x64 -f lavfi -i sine=440:d=5 -c:v mpeg4 -c:a flac");
  quiet("film.mp4", "-f lavfi -i testsrc=d=8:s=64x64 -f lavfi -i sine=440:d=5 -c:v mpeg4 -c:a aac");
  quiet("bare.aac", "-f lavfi -i sine=440:d=16 -c:a aac");
  quiet("slow.mp3", "-f lavfi -i sine=440:d=16 -b:a 64k -write_xing 0");
  quiet("vbr.mp3", "-f lavfi -i sine=440:d=16 -q:a 4");
}

}  // namespace
}  // namespace ear
