// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/playback/isolation_gains.h"
#include "core/playback/stereo_picture.h"

#include <ebur128.h>
#include <gtest/gtest.h>

#include <cmath>
#include <numbers>

#include "core/playback/isolator.h"
#include "support/playing.h"
#include "support/sounds.h"

namespace ear {
namespace {

using Channel = Isolation::Channel;
using Component = Isolation::Component;
using FretPosition = Isolation::Panned;

double sineAt(double hertz, double t) {
  return std::sin(2 * std::numbers::pi * hertz * t);
}

/// Tones at places between left and right, by the sine law of amplitude panning, each 0.2 of full scale.
struct Placed {
  double hertz, place;
};
Recording placed(std::initializer_list<Placed> tones, double seconds = 4.0) {
  Recording r{44100, {{}, {}}, ""};
  for (std::size_t i = 0; i < static_cast<std::size_t>(seconds * 44100); ++i) {
    double left = 0, right = 0;
    for (const auto& [hertz, place] : tones) {
      const double angle = (place + 1) * std::numbers::pi / 4, s = 0.2 * sineAt(hertz, static_cast<double>(i) / 44100);
      left += s * std::cos(angle), right += s * std::sin(angle);
    }
    r.channels[0].push_back(static_cast<float>(left));
    r.channels[1].push_back(static_cast<float>(right));
  }
  return r;
}

/// Both sides of what an isolation leaves of a recording.
Recording isolated(const Recording& recording, const Isolation& isolation) {
  Isolator isolator;
  isolator.attach(std::make_shared<Recording>(recording));
  isolator.cue(0, isolation, isolator);
  Recording out{recording.sampleRate, {Samples(recording.frames()), Samples(recording.frames())}, ""};
  for (std::size_t at = 0; at < recording.frames(); at += 500) {
    const std::size_t run = std::min<std::size_t>(500, recording.frames() - at);
    isolator.read(std::span(out.channels[0]).subspan(at, run), std::span(out.channels[1]).subspan(at, run));
  }
  return out;
}

/// Amplitude of a sine in the middle of a side.
double amplitude(std::span<const float> samples, double hertz) {
  double re = 0, im = 0;
  const std::size_t from = samples.size() / 4, count = samples.size() / 2;
  for (std::size_t i = 0; i < count; ++i) {
    const double turn = 2 * std::numbers::pi * hertz * static_cast<double>(from + i) / 44100;
    const double w = 1 - std::cos(2 * std::numbers::pi * static_cast<double>(i) / static_cast<double>(count));
    re += static_cast<double>(samples[from + i]) * w * std::cos(turn);
    im += static_cast<double>(samples[from + i]) * w * std::sin(turn);
  }
  return 2 * std::hypot(re, im) / static_cast<double>(count);
}

/// How much louder one tone is than another after isolating, in dB.
double difference(const Recording& r, double wanted, double other) {
  const auto both = [&](double hertz) { return std::hypot(amplitude(r.left(), hertz), amplitude(r.right(), hertz)); };
  return 20 * std::log10(both(wanted) / (both(other) + 1e-12));
}

TEST(Isolation, WithoutAnyItReturnsTheSoundItself) {
  // A focus wide of everything still goes through the spectra: what comes back is what went in, up to rounding.
  const Recording sound = placed({{440, 0.3}, {1230, -0.8}});
  Isolation everything;
  everything.lowCut = Hertz(30);
  const Recording same = isolated(sound, everything);
  for (std::size_t i = 8000; i < 100000; ++i) ASSERT_NEAR(same.left()[i], sound.left()[i], 2e-4) << i;
}

TEST(Isolation, PlaceIsFoundByTheGainThatCancels) {
  EXPECT_NEAR(placeOf(1, 0, 0, 0), -1, 1e-6);
  EXPECT_NEAR(placeOf(0, 0, 0, 1), 1, 1e-6);
  EXPECT_NEAR(placeOf(0.7F, 0.2F, 0.7F, 0.2F), 0, 1e-6);
  // By the sine law a place p has the amplitudes cos and sin of (p + 1) 45 degrees.
  for (const double p : {-0.8, -0.3, 0.25, 0.6}) {
    const double angle = (p + 1) * std::numbers::pi / 4;
    EXPECT_NEAR(placeOf(0, static_cast<float>(std::cos(angle)), 0, static_cast<float>(std::sin(angle))), p, 1e-6);
  }
}

TEST(Isolation, KeepsAPlaceBetweenLeftAndRightOrTakesItOut) {
  const Recording sound = placed({{440, 0.0}, {700, -0.7}, {1000, 0.5}});
  for (const auto& [hertz, place] : {std::pair{440.0, 0.0}, {700.0, -0.7}, {1000.0, 0.5}}) {
    Isolation isolation;
    isolation.place = FretPosition::keep, isolation.centre = place, isolation.width = 0.15;
    const Recording kept = isolated(sound, isolation);
    isolation.place = FretPosition::remove;
    const Recording removed = isolated(sound, isolation);
    for (const double other : {440.0, 700.0, 1000.0}) {
      if (other == hertz) continue;
      EXPECT_GT(difference(kept, hertz, other), 25.0) << hertz << " kept against " << other;
      EXPECT_GT(difference(removed, other, hertz), 25.0) << hertz << " removed, " << other;
    }
  }
}

TEST(Isolation, LeftRightMiddleAndSides) {
  const Recording sound = placed({{440, 0.0}, {700, -1.0}, {1000, 1.0}});
  const auto of = [&](Channel channel) {
    Isolation i;
    i.channel = channel;
    return isolated(sound, i);
  };
  EXPECT_GT(difference(of(Channel::left), 700, 1000), 60);
  EXPECT_GT(difference(of(Channel::right), 1000, 700), 60);
  EXPECT_GT(difference(of(Channel::sides), 700, 440), 60);
  EXPECT_NEAR(difference(of(Channel::middle), 440, 700), 20 * std::log10(std::sqrt(2.0)), 0.2);
}

TEST(Isolation, SeparatesWhatLastsFromWhatStrikes) {
  // A held tone and clicks of white noise every half second.
  unsigned noise = 1;
  Recording sound = test::soundOf(5.0, 44100, [&](double t) {
    noise = noise * 1664525U + 1013904223U;
    const double click = std::fmod(t, 0.5) < 0.004 ? 0.5 * (static_cast<double>(noise >> 8) / 8388608.0 - 1) : 0.0;
    return 0.2 * sineAt(440, t) + click;
  });
  Isolation harmonic, percussive;
  harmonic.part = Component::harmonic, percussive.part = Component::percussive;
  const Recording lasting = isolated(sound, harmonic), striking = isolated(sound, percussive);
  const auto energyNearClick = [](const Recording& r) {
    double sum = 0;
    for (std::size_t i = 2 * 44100; i < 2 * 44100 + 200; ++i)
      sum += std::pow(static_cast<double>(r.left()[i] - r.left()[i - 1]), 2);  // of the high end
    return sum;
  };
  EXPECT_LT(energyNearClick(lasting), 0.1 * energyNearClick(sound));
  EXPECT_GT(energyNearClick(striking), 0.5 * energyNearClick(sound));
  EXPECT_LT(amplitude(striking.left(), 440), 0.1 * amplitude(sound.left(), 440) * 8);  // at the most gain of 8
  EXPECT_GT(amplitude(lasting.left(), 440), 0.8 * amplitude(sound.left(), 440));
}

TEST(Isolation, BandsFallAsTheyShould) {
  Isolation i;
  i.lowCut = Hertz(200);
  EXPECT_NEAR(20 * std::log10(bandGain(i, Hertz(200))), -3.01, 0.01);
  EXPECT_NEAR(20 * std::log10(bandGain(i, Hertz(100))), -24.1, 0.2);
  i = {};
  i.highCut = Hertz(1000);
  EXPECT_NEAR(20 * std::log10(bandGain(i, Hertz(2000))), -24.1, 0.2);
  i = {};
  i.focus = Hertz(440);
  EXPECT_EQ(bandGain(i, Hertz(440 * std::exp2(0.49))), 1.0F);
  EXPECT_EQ(bandGain(i, Hertz(440 * std::exp2(-0.49))), 1.0F);
  EXPECT_LT(bandGain(i, Hertz(880)), 1e-6);
}

TEST(Isolation, KeepsWithinItsLimits) {
  Isolation wild;
  wild.centre = -7, wild.width = 0, wild.lowCut = Hertz(5000), wild.highCut = Hertz(400), wild.focus = Hertz(1);
  const Isolation tame = withinLimits(wild);
  EXPECT_EQ(tame.centre, -1);
  EXPECT_EQ(tame.width, Isolation::kLeastWidth);
  EXPECT_EQ(tame.lowCut, Hertz(400));
  EXPECT_EQ(tame.focus, Isolation::kLowest);
  EXPECT_FALSE(tame.plain());
  EXPECT_TRUE(Isolation{}.plain());
}

/// Short-term loudness at the end of a stretch, by libebur128 (EBU R 128).
double shortTerm(const Recording& r, double untilSeconds) {
  ebur128_state* state = ebur128_init(2, 44100, EBUR128_MODE_S);
  std::vector<float> samples;
  for (std::size_t i = 0; i < static_cast<std::size_t>(untilSeconds * 44100); ++i)
    samples.push_back(r.left()[i]), samples.push_back(r.right()[i]);
  ebur128_add_frames_float(state, samples.data(), samples.size() / 2);
  double loudness = 0;
  ebur128_loudness_shortterm(state, &loudness);
  ebur128_destroy(&state);
  return loudness;
}

TEST(Isolation, IsAsLoudAsTheWholeSound) {
  const Recording sound = excerpt(*test::demoTake("studio"), {Seconds(10), Seconds(24)});
  Isolation left, harmonic, band, place, many;
  left.channel = Channel::left;
  harmonic.part = Component::harmonic;
  band.focus = Hertz(330);
  place.place = FretPosition::keep, place.centre = -0.6, place.width = 0.4;
  many.part = Component::harmonic, many.place = FretPosition::keep, many.centre = -0.5, many.width = 0.5,
  many.lowCut = Hertz(100);
  for (const Isolation& i : {left, harmonic, band, place, many}) {
    const Recording heard = isolated(sound, i);
    for (const double at : {4.0, 7.0, 10.0, 13.0})
      EXPECT_NEAR(shortTerm(heard, at), shortTerm(sound, at), 1.5) << "at " << at;
  }
}

TEST(Isolation, NeitherSwitchingNorSeamsJumpInLevel) {
  test::Deck player(*test::demoTake("studio"));
  player.setLoop(TimeSpan{Seconds(12), Seconds(14)});
  player.seek(Seconds(12));
  player.play();
  const auto loudness = [&](double seconds) {
    double sum = 0;
    const auto heard = test::listen(player, seconds);
    for (const float s : heard) sum += static_cast<double>(s * s);
    return 10 * std::log10(sum / static_cast<double>(heard.size()) + 1e-12);
  };
  test::listen(player, 2.0);
  const double plain = loudness(2.0);
  PlaybackSettings sounding;
  sounding.isolation.part = Component::harmonic;
  player.setPlayback(sounding);
  test::listen(player, 2.0);
  EXPECT_NEAR(loudness(2.0), plain, 2.0);
  EXPECT_NEAR(loudness(2.0), loudness(2.0), 0.5);
}

TEST(Isolation, BassComesAnOctaveUp) {
  test::Deck player(test::soundOf(6.0, 44100, [](double t) { return 0.2 * sineAt(82.4, t) + 0.2 * sineAt(1000, t); }));
  PlaybackSettings sounding;
  sounding.isolation.bassUp = true;
  player.setPlayback(sounding);
  player.play();
  const auto heard = test::listen(player, 5.0);
  EXPECT_GT(amplitude(heard, 164.8), 0.15);
  EXPECT_LT(amplitude(heard, 2000), 0.005);
  EXPECT_LT(amplitude(heard, 82.4), 0.01);
}

TEST(Isolation, IsHeardWithinATenthOfASecond) {
  for (const double speed : {1.0, 0.5}) {
    test::Deck player(placed({{440, -1.0}, {1000, 1.0}}, 10.0));
    player.setPlayback({.speed = speed});
    player.play();
    test::listen(player, 1.0);
    PlaybackSettings sounding{.speed = speed};
    sounding.isolation.channel = Channel::right;
    player.setPlayback(sounding);
    test::listen(player, 0.1);
    const auto heard = test::listen(player, 0.3);
    EXPECT_LT(amplitude(heard, 440), 0.02 * amplitude(heard, 1000)) << speed;
  }
}

TEST(StereoPicture, ShowsWhereThingsSit) {
  const Recording sound = placed({{440, -0.7}, {1000, 0.5}});
  const StereoPicture picture = stereoPictureAt(sound.left(), sound.right(), 44100);
  const auto at = [&](double place) {
    return picture.level[static_cast<std::size_t>(std::lround((place + 1) / 2 * (StereoPicture::kPlaces - 1)))];
  };
  EXPECT_GT(at(-0.7), 0.5F);
  EXPECT_GT(at(0.5), 0.5F);
  EXPECT_LT(at(0.0), 0.1F);
  EXPECT_NEAR(static_cast<double>(picture.loudest), 0.14, 0.03);
}

}  // namespace
}  // namespace ear
