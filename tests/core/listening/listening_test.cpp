// SPDX-License-Identifier: GPL-3.0-or-later
#include <aubio/aubio.h>
#include <gtest/gtest.h>

#include <cmath>
#include <fstream>
#include <map>
#include <nlohmann/json.hpp>
#include <numbers>
#include <random>

#include "core/audio/resample.h"
#include "core/listening/frontend/stereo_field.h"
#include "core/listening/listener.h"
#include "core/playback/stream.h"
#include "measures.h"
#include "support/sounds.h"

namespace ear {
namespace {

/// Plucked notes at a reference, each with decaying overtones a little stretched, as a string has.
double plucked(double t, double offsetCents) {
  static const std::vector<int> notes = {57, 60, 64, 67, 69, 64, 60, 55, 62, 65};
  const auto n = static_cast<std::size_t>(t / 0.6);
  const double since = t - static_cast<double>(n) * 0.6;
  const double f = 440 * std::exp2((notes[n % notes.size()] - 69) / 12.0 + offsetCents / 1200);
  double sum = 0;
  for (int k = 1; k <= 6; ++k)
    sum += std::exp(-since * (1.5 + 0.6 * k)) / k *
           std::sin(2 * std::numbers::pi * f * k * std::sqrt(1 + 2e-5 * k * k) * since);
  return 0.3 * sum;
}

Recording pluckedScale(double offsetCents, double seconds = 12.0) {
  return test::soundOf(seconds, 44100, [=](double t) { return plucked(t, offsetCents); });
}

Recording noise(double seconds) {
  std::mt19937 random(7);
  std::normal_distribution<double> normal(0, 0.1);
  return test::soundOf(seconds, 44100, [&](double) { return normal(random); });
}

nlohmann::json demoTruth(const std::string& take) {
  return nlohmann::json::parse(std::ifstream(std::string(DEMO_DIR) + "/" + take + ".truth.json"));
}

Findings only(Aspect part, const Recording& recording) {
  Listener listener;
  listener.parts = {part};
  return *listener.listen(recording);
}

TEST(FoldToSemitone, StaysInTheHalfOpenRange) {
  EXPECT_DOUBLE_EQ(foldToSemitone(Cents(50)).value, 50);
  EXPECT_DOUBLE_EQ(foldToSemitone(Cents(-50)).value, 50);
  EXPECT_DOUBLE_EQ(foldToSemitone(Cents(-90)).value, 10);
  EXPECT_DOUBLE_EQ(foldToSemitone(Cents(149)).value, 49);
  EXPECT_DOUBLE_EQ(foldToSemitone(Cents(-49)).value, -49);
}

class Offsets : public testing::TestWithParam<double> {};

TEST_P(Offsets, AreMeasuredToTwoCents) {
  const auto found = only(Aspect::reference, pluckedScale(GetParam()));
  ASSERT_TRUE(found.reference.has_value());
  EXPECT_NEAR(foldToSemitone(Cents(found.reference->offset.value - GetParam())).value, 0, 2.0);
  EXPECT_GT(found.reference->certainty, 0.5);
}

INSTANTIATE_TEST_SUITE_P(Cents, Offsets, testing::Values(0.0, 10.0, -31.0, 49.0, -49.5));

TEST(Reference, IsNotInventedForNoise) {
  EXPECT_FALSE(only(Aspect::reference, noise(10)).reference.has_value());
}

TEST(Reference, OfTwoGroupsTheStrongerIsTheFigureAndTheOtherIsTold) {
  for (const double apart : {14.0, -18.0, 25.0}) {
    // One after the other, so that they do not beat in one peak; the second one for half as long.
    const auto all =
        test::soundOf(18.0, 44100, [=](double t) { return t < 12 ? plucked(t, 6.0) : plucked(t - 12, 6.0 + apart); });
    const auto found = only(Aspect::reference, all).reference;
    ASSERT_TRUE(found.has_value()) << apart;
    EXPECT_NEAR(found->offset.value, 6.0, 2.0) << apart;
    ASSERT_TRUE(found->second.has_value()) << apart;
    EXPECT_NEAR(found->second->offset.value, 6.0 + apart, 2.5) << apart;
    EXPECT_LT(found->second->share, 0.5);
  }
  EXPECT_FALSE(only(Aspect::reference, pluckedScale(6.0)).reference->second.has_value());
}

TEST(Reference, FollowsARecordingThatIsPlayedFaster) {
  // Resampled by 2 %, everything lies 1200 log2(1.02) = 34.28 cents higher.
  const auto take = test::demoTake("live");
  const Recording part = excerpt(*take, {Seconds(20), Seconds(60)});
  Recording faster = resample(part, 43235);  // 44100 / 1.02
  faster.sampleRate = 44100;
  const double plain = only(Aspect::reference, part).reference->offset.value,
               moved = only(Aspect::reference, faster).reference->offset.value;
  EXPECT_NEAR(moved - plain, 1200 * std::log2(44100.0 / 43235.0), 0.5);
}

class Takes : public testing::TestWithParam<const char*> {};
class MovedTakes : public Takes {};

TEST_P(Takes, ReferenceAndKeyAreThoseOfTheScore) {
  const auto& found = test::demoFindings(GetParam());
  const auto truth = demoTruth(GetParam());
  EXPECT_NEAR(found.reference->offset.value, truth["reference_cents"].get<double>(), 1.5);
  EXPECT_GT(found.reference->curve.size(), 40U);
  const Key wanted =
      *parseKey(truth["key"]["tonic"].get<std::string>() + " " + truth["key"]["mode"].get<std::string>());
  EXPECT_EQ(keyName(found.key->readings.front().key), keyName(wanted));
}

TEST_P(Takes, BeatsAreThoseOfTheScore) {
  const auto& found = *test::demoFindings(GetParam()).rhythm;
  const auto truth = demoTruth(GetParam());
  EXPECT_NEAR(found.tempo.front().tempo.value / truth["tempo_bpm"].get<double>(), 1.0, 0.01);
  EXPECT_EQ(found.meter, truth["meter"].get<int>());
  EXPECT_NEAR(found.swing.ratio, truth["swing"].get<double>(), 0.1);
  const auto hit = [](const std::vector<Seconds>& said, const nlohmann::json& wanted) {
    std::size_t hits = 0;
    for (const double w : wanted.get<std::vector<double>>())
      for (const Seconds s : said)
        if (std::abs(s.value - w) < 0.07) {  // MIREX beat tracking: within 70 ms
          ++hits;
          break;
        }
    return 2.0 * static_cast<double>(hits) / static_cast<double>(said.size() + wanted.size());
  };
  EXPECT_GT(hit(found.beats, truth["beats"]), 0.97);
  EXPECT_GT(hit(found.downbeats, truth["downbeats"]), 0.95);
}

TEST_P(Takes, TempoAgreesWithAubio) {
  // A second opinion from an independent library: aubio's tempo tracker, the median of its beat distances.
  const auto take = test::demoTake(GetParam());
  constexpr uint_t kHop = 512;
  aubio_tempo_t* tempo = new_aubio_tempo("default", 1024, kHop, static_cast<uint_t>(take->sampleRate));
  fvec_t *in = new_fvec(kHop), *out = new_fvec(2);
  std::vector<double> beats, gaps;
  for (std::size_t at = 0; at + kHop <= take->frames(); at += kHop) {
    for (uint_t i = 0; i < kHop; ++i) in->data[i] = 0.5F * (take->left()[at + i] + take->right()[at + i]);
    aubio_tempo_do(tempo, in, out);
    if (out->data[0] != 0) beats.push_back(aubio_tempo_get_last_s(tempo));
  }
  del_aubio_tempo(tempo), del_fvec(in), del_fvec(out);
  for (std::size_t i = 1; i < beats.size(); ++i) gaps.push_back(beats[i] - beats[i - 1]);
  ASSERT_GT(gaps.size(), 50U);
  std::nth_element(gaps.begin(), gaps.begin() + static_cast<std::ptrdiff_t>(gaps.size() / 2), gaps.end());
  const double theirs = 60.0 / gaps[gaps.size() / 2],
               ours = test::demoFindings(GetParam()).rhythm->tempo.front().tempo.value;
  double nearest = 1;  // libraries differ on the octave: half and double count as agreement
  for (const double factor : {0.5, 1.0, 2.0}) nearest = std::min(nearest, std::abs(ours / (theirs * factor) - 1));
  EXPECT_LT(nearest, 0.04) << ours << " against " << theirs;
}

TEST_P(Takes, FormIsGapFreeOnDownbeatsAndRepeats) {
  const auto& found = test::demoFindings(GetParam());
  const auto truth = demoTruth(GetParam());
  ASSERT_GE(found.form.size(), 5U);
  EXPECT_EQ(found.form.front().span.start, Seconds(0));
  EXPECT_EQ(found.form.back().span.end, found.duration);
  std::map<std::string, int> letters;
  for (std::size_t i = 0; i < found.form.size(); ++i) {
    ++letters[found.form[i].letter];
    if (i == 0) continue;
    EXPECT_EQ(found.form[i].span.start, found.form[i - 1].span.end);
    EXPECT_TRUE(std::find(found.rhythm->downbeats.begin(), found.rhythm->downbeats.end(), found.form[i].span.start) !=
                found.rhythm->downbeats.end());
  }
  EXPECT_LT(letters.size(), found.form.size()) << "nothing repeats";
  // Most borders of the score are found within half a second (Turnbull et al. 2007).
  std::size_t hits = 0;
  const auto& sections = truth["sections"];
  for (std::size_t i = 1; i < sections.size(); ++i)
    for (const auto& s : found.form)
      if (std::abs(s.span.start.value - sections[i]["start_s"].get<double>()) < 0.5) {
        ++hits;
        break;
      }
  EXPECT_GE(static_cast<double>(hits) / static_cast<double>(sections.size() - 1), 0.6);
}

TEST_P(Takes, ChordsAreThoseOfTheScore) {
  const auto& found = test::demoFindings(GetParam()).chords;
  ASSERT_FALSE(found.empty());
  EXPECT_EQ(found.front().span.start, Seconds(0));
  EXPECT_EQ(found.back().span.end, test::demoFindings(GetParam()).duration);
  for (std::size_t i = 1; i < found.size(); ++i) EXPECT_EQ(found[i].span.start, found[i - 1].span.end);
  // Share of the time with the right root and third (chord symbol recall, Harte 2010), where the score has a triad.
  double right = 0, all = 0;
  const auto truth = demoTruth(GetParam());
  for (const auto& c : truth["chords"]) {
    const auto label = c["label"].get<std::string>();
    if (label == "N" || label.find("(4)") != std::string::npos) continue;
    const PitchClass root = *parsePitchClass(label.substr(0, label.find(':')));
    const bool minor = label.find(":min") != std::string::npos;
    for (double t = c["start_s"].get<double>() + 0.05; t < c["end_s"].get<double>(); t += 0.1) {
      all += 1;
      for (const auto& f : found)
        if (f.span.contains(Seconds(t)) && f.chord && f.chord->root == root && f.chord->minor() == minor) right += 1;
    }
  }
  EXPECT_GT(right / all, 0.85);
}

TEST_P(Takes, GuitarIsReadWithAndWithoutACapoAndWithReasons) {
  const auto& guitars = test::demoFindings(GetParam()).guitars;
  ASSERT_FALSE(guitars.empty());
  for (const auto& guitar : guitars) {
    bool capo = false, none = false;
    double sum = 0;
    for (const auto& r : guitar.readings) {
      (r.capo.fret > 0 ? capo : none) = true;
      sum += r.certainty;
      ASSERT_FALSE(r.reasons.empty());
      EXPECT_TRUE(r.reasons.front().at.has_value()) << "every reason can be heard";
    }
    EXPECT_TRUE(capo && none);
    EXPECT_LE(sum, 1.0 + 1e-9);
  }
}

/// How much of the time the chords of one recording are those of another, so many semitones higher and at a time ratio.
double sameChords(const Findings& before, const Findings& after, int up, double ratio) {
  const auto at = [](const Findings& f, double time) {
    for (const auto& c : f.chords)
      if (c.span.contains(Seconds(time))) return c.chord;
    return std::optional<Chord>();
  };
  double same = 0, all = 0;
  for (double t = 1; t < before.duration.value - 1; t += 0.25) {
    const auto was = at(before, t), is = at(after, t / ratio);
    all += 1;
    if (was && is && PitchClass(was->root.value + up) == is->root) same += 1;
  }
  return same / all;
}

/// Checks that pitches moved by `cents`; the reference folds to a semitone, the rest moves the key.
void expectMoved(const Findings& before, const Findings& after, double cents, double tolerance) {
  const double offset = before.reference->offset.value + cents;
  EXPECT_NEAR(foldToSemitone(Cents(after.reference->offset.value - offset)).value, 0, tolerance);
  const int up = static_cast<int>(std::lround((offset - after.reference->offset.value) / 100));
  EXPECT_EQ(keyName(after.key->readings.front().key), keyName(transposed(before.key->readings.front().key, up)));
}

int semitonesUp(const Findings& before, const Findings& after, double cents) {
  return static_cast<int>(std::lround((before.reference->offset.value + cents - after.reference->offset.value) / 100));
}

TEST_P(MovedTakes, MovingTheRecordingMovesEveryAnswer) {
  // Played faster, all pitches rise together: by two semitones and 30 cents here.
  const double cents = 230;
  const auto take = test::demoTake(GetParam());
  const double ratio = std::exp2(cents / 1200);
  Recording faster = *take;
  faster.sampleRate = static_cast<int>(std::lround(take->sampleRate * ratio));
  const auto& before = test::demoFindings(GetParam());
  const auto after = *Listener{}.listen(faster);
  expectMoved(before, after, cents, 0.5);
  EXPECT_NEAR(after.rhythm->tempo.front().tempo.value / before.rhythm->tempo.front().tempo.value, ratio, 0.02);
  EXPECT_GT(sameChords(before, after, semitonesUp(before, after, cents), ratio), 0.9);
}

/// A take as the playback's own stretcher plays it.
Recording played(const std::shared_ptr<const Recording>& take, const PlaybackSettings& sounding) {
  Stream voice;
  voice.attach(take);
  voice.cue(0, sounding, voice);
  while (!voice.prime(1 << 16)) {
  }
  const auto frames = static_cast<std::size_t>(static_cast<double>(take->frames()) / sounding.speed);
  Recording result{take->sampleRate, {Samples(frames), Samples(frames)}, ""};
  constexpr std::size_t kBlock = 4096;
  for (std::size_t at = 0; at < frames; at += kBlock) {
    const std::size_t count = std::min(kBlock, frames - at);
    voice.render(std::span(result.channels[0]).subspan(at, count), std::span(result.channels[1]).subspan(at, count));
  }
  return result;
}

TEST_P(MovedTakes, ShiftingThePitchAloneMovesPitchAlone) {
  // The playback's own stretcher moves the pitch by a semitone and 40 cents and leaves the time as it is.
  const double cents = -140;
  const auto take = test::demoTake(GetParam());
  const Recording shifted = played(take, {1.0, Cents(cents)});
  const auto& before = test::demoFindings(GetParam());
  const auto after = *Listener{}.listen(shifted);
  expectMoved(before, after, cents, 1.0);
  EXPECT_NEAR(after.rhythm->tempo.front().tempo / before.rhythm->tempo.front().tempo, 1.0, 0.01);
  EXPECT_GT(sameChords(before, after, semitonesUp(before, after, cents), 1.0), 0.85);
}

TEST_P(MovedTakes, StretchingTimeMovesTempoBeatsAndBordersByJustThat) {
  for (const double speed : {0.9, 1.12}) {
    Listener listener;
    listener.parts = {Aspect::time, Aspect::form};
    const auto& before = test::demoFindings(GetParam());
    const auto after = *listener.listen(played(test::demoTake(GetParam()), {speed, Cents(0)}));
    EXPECT_NEAR(after.rhythm->tempo.front().tempo / before.rhythm->tempo.front().tempo / speed, 1.0, 0.005);
    EXPECT_EQ(after.rhythm->meter, before.rhythm->meter);
    const auto times = [&](const std::vector<Seconds>& list, double factor) {
      bench::Times values;
      for (const Seconds t : list) values.push_back(t.value * factor);
      return values;
    };
    EXPECT_GT(*bench::beatF(times(before.rhythm->beats, 1), times(after.rhythm->beats, speed)), 0.97);
    EXPECT_GT(*bench::beatF(times(before.rhythm->downbeats, 1), times(after.rhythm->downbeats, speed)), 0.95);
    bench::Times was, is;
    for (const auto& s : before.form) was.push_back(s.span.start.value);
    for (const auto& s : after.form) is.push_back(s.span.start.value * speed);
    EXPECT_GT(*bench::fMeasure(was, is, 0.1), 0.75) << speed;
  }
}

const auto kNameOfTake = [](const auto& of) { return std::string(of.param); };
INSTANTIATE_TEST_SUITE_P(Demo, Takes, testing::Values("studio", "live"), kNameOfTake);
INSTANTIATE_TEST_SUITE_P(Demo, MovedTakes, testing::Values("studio", "live"), kNameOfTake);

TEST(Listener, SameSoundSameAnswer) {
  const Recording part = excerpt(*test::demoTake("studio"), {Seconds(5), Seconds(35)});
  const auto a = *Listener{}.listen(part), b = *Listener{}.listen(part);
  EXPECT_EQ(a.reference->offset, b.reference->offset);
  EXPECT_EQ(a.reference->histogram, b.reference->histogram);
  EXPECT_EQ(a.key->chroma, b.key->chroma);
  EXPECT_EQ(a.rhythm->beats, b.rhythm->beats);
  ASSERT_EQ(a.form.size(), b.form.size());
  for (std::size_t i = 0; i < a.form.size(); ++i) EXPECT_EQ(a.form[i].span, b.form[i].span);
}

TEST(Listener, ReportsPartsInOrderAndProgress) {
  std::vector<Aspect> order;
  double last = 0;
  Listener listener;
  listener.onPart = [&](Aspect part, const Findings&) { order.push_back(part); };
  const Progress progress([&](double share) {
    EXPECT_GE(share, last);
    last = share;
  });
  ASSERT_TRUE(listener.listen(excerpt(*test::demoTake("studio"), {Seconds(0), Seconds(20)}), progress).ok());
  EXPECT_EQ(order, (std::vector<Aspect>{Aspect::reference, Aspect::time, Aspect::chords, Aspect::key, Aspect::guitar,
                                        Aspect::form}));
  EXPECT_DOUBLE_EQ(last, 1.0);
}

TEST(Listener, StopsWhenCancelled) {
  Progress progress;
  progress.cancel();
  const auto result = Listener{}.listen(*test::demoTake("studio"), progress);
  ASSERT_FALSE(result.ok());
  EXPECT_NE(result.problem().find("cancelled"), std::string::npos);
}

TEST(Listener, WhatWasToldBeforeCancellingHoldsAndNothingMoreIsTold) {
  const Recording part = excerpt(*test::demoTake("studio"), {Seconds(0), Seconds(20)});
  Progress progress;
  std::vector<Aspect> told;
  Findings last;
  Listener listener;
  listener.onPart = [&](Aspect which, const Findings& findings) {
    told.push_back(which);
    last = findings;
    if (which == Aspect::time) progress.cancel();
  };
  EXPECT_FALSE(listener.listen(part, progress).ok());
  EXPECT_EQ(told.back(), Aspect::time);
  EXPECT_TRUE(last.reference.has_value());
  const auto whole = *Listener{}.listen(part);
  EXPECT_EQ(last.rhythm->beats, whole.rhythm->beats);
  EXPECT_EQ(last.reference->offset, whole.reference->offset);
}

TEST(Listener, APartIsTheSameWhicheverOthersAreAskedFor) {
  // With a count-in, which takes its chords away, and two guitars at the sides.
  const Recording part = excerpt(*test::demoTake("live"), {Seconds(0), Seconds(40)});
  const auto whole = *Listener{}.listen(part);
  const auto alone = [&](Aspect which) {
    Listener listener;
    listener.parts = {which};
    return *listener.listen(part);
  };
  EXPECT_EQ(alone(Aspect::reference).reference->offset, whole.reference->offset);
  EXPECT_EQ(alone(Aspect::time).rhythm->beats, whole.rhythm->beats);
  const auto chords = alone(Aspect::chords);
  ASSERT_EQ(chords.chords.size(), whole.chords.size());
  for (std::size_t i = 0; i < whole.chords.size(); ++i) {
    EXPECT_EQ(chords.chords[i].span, whole.chords[i].span);
    EXPECT_EQ(chords.chords[i].chord, whole.chords[i].chord);
  }
  EXPECT_EQ(alone(Aspect::key).key->readings.front().key, whole.key->readings.front().key);
  const auto form = alone(Aspect::form);
  ASSERT_EQ(form.form.size(), whole.form.size());
  for (std::size_t i = 0; i < whole.form.size(); ++i) {
    EXPECT_EQ(form.form[i].span, whole.form[i].span);
    EXPECT_EQ(form.form[i].letter, whole.form[i].letter);
    EXPECT_EQ(form.form[i].difference, whole.form[i].difference);
  }
  EXPECT_TRUE(form.chords.empty()) << "what nobody asked for is not told";
  const auto guitar = alone(Aspect::guitar);
  ASSERT_EQ(guitar.guitars.size(), whole.guitars.size());
  for (std::size_t i = 0; i < whole.guitars.size(); ++i)
    EXPECT_EQ(guitar.guitars[i].readings.front().tuning, whole.guitars[i].readings.front().tuning);
}

TEST(Listener, BearsLittleAndStrangeSound) {
  EXPECT_FALSE(Listener{}.listen(test::sine(440, 0.2)).ok());
  for (const Recording& sound :
       {test::sine(440, 3.0), noise(3.0), test::sine(440, 2.0, 8000), test::sine(100, 1.0, 192000)})
    EXPECT_TRUE(Listener{}.listen(sound).ok());
  const auto tone = *Listener{}.listen(test::sine(440, 5.0));
  EXPECT_NEAR(tone.reference->offset.value, 0, 0.2);
}

TEST(SpectralPeaks, FrequenciesOfTonesAreExact) {
  // Reassigned peaks (Auger & Flandrin 1995) of two tones, one of them between two bins.
  const auto sound = test::soundOf(3.0, kListeningRate, [](double t) {
    return 0.3 * std::sin(2 * std::numbers::pi * 196.7 * t) + 0.2 * std::sin(2 * std::numbers::pi * 331.13 * t);
  });
  const auto frames = measureSpectralPeaks(sound.left(), {});
  const auto frame = frames.frame(frames.count() / 2);
  ASSERT_GE(frame.size(), 2U);
  std::vector<Partial> loudest(frame.begin(), frame.end());
  std::sort(loudest.begin(), loudest.end(), [](auto a, auto b) { return a.amplitude > b.amplitude; });
  EXPECT_NEAR(test::cents(loudest[0].hertz, 196.7), 0, 0.1);
  EXPECT_NEAR(test::cents(loudest[1].hertz, 331.13), 0, 0.1);
  EXPECT_NEAR(loudest[0].amplitude, 0.3, 0.05);
}

TEST(StereoField, TellsSidesApart) {
  // 440 Hz on the left, 550 in the middle, 660 on the right.
  auto left = test::sine(440, 2.0, kListeningRate).channels[0],
       right = test::sine(660, 2.0, kListeningRate).channels[0];
  const auto middle = test::sine(550, 2.0, kListeningRate).channels[0];
  for (std::size_t i = 0; i < left.size(); ++i) left[i] += middle[i], right[i] += middle[i];
  const auto field = splitStereo(measureSpectralPeaks(left, {}), measureSpectralPeaks(right, {}));
  const auto strongest = [&](Side side) {
    const auto frame = field.at(side).frame(10);
    return std::max_element(frame.begin(), frame.end(), [](auto a, auto b) { return a.amplitude < b.amplitude; })
        ->hertz;
  };
  EXPECT_NEAR(strongest(Side::left), 440, 1);
  EXPECT_NEAR(strongest(Side::centre), 550, 1);
  EXPECT_NEAR(strongest(Side::right), 660, 1);
  for (const Side side : kAllSides) EXPECT_NEAR(field.shareOf(side), 1.0 / 3, 0.02);
}

TEST(Onsets, VibratoRaisesLittle) {
  // A steady tone with vibrato of +-40 cents at 6 Hz against the same tone struck anew twice a second.
  const auto shaking = test::soundOf(6.0, kListeningRate, [](double t) {
    const double phase =
        2 * std::numbers::pi * 440 * t + 440 * std::log(2) * 40 / 1200 / 6 * std::sin(2 * std::numbers::pi * 6 * t);
    return 0.3 * std::sin(phase) + 0.1 * std::sin(2 * phase);
  });
  const auto bands = measureLogBandSpectrogram(shaking.left(), {});
  double flux = 0, widened = 0;
  for (std::size_t i = 203; i + 100 < bands.count(); ++i)
    for (std::size_t b = 1; b + 1 < static_cast<std::size_t>(LogBandSpectrogram::kBands); ++b) {
      const auto now = bands.frame(i), before = bands.frame(i - 3);
      flux += std::max(0.0F, now[b] - before[b]);
      widened += std::max(0.0F, now[b] - std::max({before[b - 1], before[b], before[b + 1]}));
    }
  EXPECT_LT(widened, 0.5 * flux);  // SuperFlux's point (Boeck & Widmer 2013)
}

}  // namespace
}  // namespace ear
