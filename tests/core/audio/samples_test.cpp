// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/audio/samples.h"

#include <gtest/gtest.h>

#include <cstdlib>
#include <fstream>
#include <string>

#include "core/audio/recording.h"

namespace ear {
namespace {

constexpr std::size_t kLong = SampleMemory::kLongBlock / sizeof(float) + 12345;

float at(std::size_t i) {
  return static_cast<float>(i % 1009) / 1009.0F;
}

Samples longOne() {
  Samples samples(kLong);
  for (std::size_t i = 0; i < samples.size(); ++i) samples[i] = at(i);
  return samples;
}

/// Bytes of mapped files that are in memory now (proc(5), status; RssShmem where the folder lies in memory itself).
std::size_t residentOfFiles() {
  std::ifstream status("/proc/self/status");
  std::size_t sum = 0;
  for (std::string word; status >> word;)
    if (word == "RssFile:" || word == "RssShmem:") {
      std::size_t kilobytes = 0;
      status >> kilobytes;
      sum += kilobytes * 1024;
    }
  return sum;
}

void expectWhole(const Samples& samples) {
  std::size_t wrong = 0;
  for (std::size_t i = 0; i < samples.size(); ++i) wrong += samples[i] != at(i) ? 1 : 0;
  EXPECT_EQ(wrong, 0U);
}

TEST(Samples, ALongBlockLeavesMemoryAndComesBack) {
  const Samples samples = longOne();
  const std::size_t before = residentOfFiles();
  evict(samples);
  EXPECT_LT(residentOfFiles() + SampleMemory::kLongBlock * 9 / 10, before);
  const Resident back(samples);
  EXPECT_GT(residentOfFiles() + SampleMemory::kLongBlock / 10, before) << "it is there before anybody looks";
  expectWhole(samples);
}

TEST(Samples, WhatIsPlayedIsNotLetGoOf) {
  const Samples samples = longOne();
  const std::size_t before = residentOfFiles();
  const auto whole = std::span<const float>(samples);
  {
    // Two that overlap, as a loop and what follows the playhead do.
    const Resident loop(whole.subspan(samples.size() / 4, samples.size() / 4));
    const Resident ahead(whole.subspan(samples.size() * 3 / 8, samples.size() / 4));
    evict(samples);
    const std::size_t left = residentOfFiles();
    EXPECT_LT(left + SampleMemory::kLongBlock * 55 / 100, before);
    EXPECT_GT(left + SampleMemory::kLongBlock * 70 / 100, before);
  }
  evict(samples);
  EXPECT_LT(residentOfFiles() + SampleMemory::kLongBlock * 9 / 10, before);
  expectWhole(samples);
}

TEST(Samples, TheTrailLetsGoBehindTheReader) {
  const Samples samples = longOne();
  const std::size_t before = residentOfFiles();
  {
    Trail trail(samples);
    trail.reached(samples.size() / 2);
    const std::size_t half = residentOfFiles();
    EXPECT_LT(half + SampleMemory::kLongBlock * 4 / 10, before);
    EXPECT_GT(half + SampleMemory::kLongBlock * 6 / 10, before);
  }
  EXPECT_LT(residentOfFiles() + SampleMemory::kLongBlock * 9 / 10, before);
  expectWhole(samples);
}

TEST(Samples, GrowsAndIsCopiedLikeAnyVector) {
  Samples grown;
  for (std::size_t i = 0; i < kLong; ++i) grown.push_back(at(i));
  const Samples copy = grown;
  grown.clear();
  grown.shrink_to_fit();
  expectWhole(copy);
}

TEST(Samples, ShortBlocksAreLeftAlone) {
  Samples few(5000, 0.5F);
  evict(few);
  EXPECT_EQ(few[4999], 0.5F);
}

TEST(Samples, WithoutAFolderForTheFileTheyAreOrdinaryMemory) {
  const char* was = std::getenv("TMPDIR");
  const std::string kept = was != nullptr ? was : "";
  setenv("TMPDIR", "/nowhere/to/be/found", 1);
  const std::size_t before = residentOfFiles();
  const Samples samples = longOne();
  EXPECT_LT(residentOfFiles(), before + SampleMemory::kLongBlock / 2);
  evict(samples);
  expectWhole(samples);
  if (was != nullptr)
    setenv("TMPDIR", kept.c_str(), 1);
  else
    unsetenv("TMPDIR");
}

TEST(Samples, APartIsReadWithSilenceAroundTheSound) {
  const std::vector<float> sound{1, 2, 3, 4}, window{0.5F, 1, 0.5F};
  const auto read = [&](std::int64_t from, std::size_t size) {
    std::vector<float> part(size, 9.0F);
    readPart(sound, from, part);
    return part;
  };
  EXPECT_EQ(read(1, 2), (std::vector<float>{2, 3}));
  EXPECT_EQ(read(-2, 8), (std::vector<float>{0, 0, 1, 2, 3, 4, 0, 0}));
  EXPECT_EQ(read(-50, 3), (std::vector<float>{0, 0, 0}));
  EXPECT_EQ(read(50, 3), (std::vector<float>{0, 0, 0}));
  std::vector<float> part(3);
  readWindow(sound, 2, window, part);
  EXPECT_EQ(part, (std::vector<float>{1.5F, 4, 0}));
}

TEST(Samples, APartOfARecordingIsLetGoOf) {
  Recording recording{44100, {longOne()}, ""};
  const std::size_t before = residentOfFiles();
  evict(recording, {Seconds(0), recording.duration() * 0.5});
  EXPECT_LT(residentOfFiles() + SampleMemory::kLongBlock * 4 / 10, before);
  EXPECT_GT(residentOfFiles() + SampleMemory::kLongBlock * 6 / 10, before);
  EXPECT_EQ(partOf(recording, recording.left(), {Seconds(-5), recording.duration() + Seconds(5)}).size(),
            recording.frames());
  expectWhole(recording.channels[0]);
}

}  // namespace
}  // namespace ear
