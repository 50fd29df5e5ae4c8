// SPDX-License-Identifier: GPL-3.0-or-later
#include "support/sounds.h"

#include <gtest/gtest.h>

#include <cmath>
#include <complex>
#include <map>
#include <numbers>

#include "core/audio/decode.h"
#include "core/listening/listener.h"

namespace ear::test {

Recording soundOf(double seconds, int rate, const std::function<double(double)>& at) {
  Samples plane(static_cast<std::size_t>(seconds * rate));
  for (std::size_t i = 0; i < plane.size(); ++i) plane[i] = static_cast<float>(at(static_cast<double>(i) / rate));
  return {rate, {plane, plane}, ""};
}

Recording sine(double hertz, double seconds, int rate) {
  return soundOf(seconds, rate, [=](double t) { return 0.5 * std::sin(2 * std::numbers::pi * hertz * t); });
}

namespace {
double magnitudeAt(std::span<const float> samples, int rate, double hertz) {
  std::complex<double> sum = 0.0;
  const auto n = static_cast<double>(samples.size());
  for (std::size_t i = 0; i < samples.size(); ++i) {
    const double x = static_cast<double>(i);
    const double window = 0.5 - 0.5 * std::cos(2 * std::numbers::pi * x / n);
    sum += std::polar(window * static_cast<double>(samples[i]), -2 * std::numbers::pi * hertz * x / rate);
  }
  return std::abs(sum);
}
}  // namespace

double frequencyOf(std::span<const float> samples, int rate, double about) {
  double best = about;
  for (double step = about * 0.01; step > about * 2e-6; step /= 4) {
    double centre = best, top = -1.0;
    for (int k = -6; k <= 6; ++k)
      if (const double m = magnitudeAt(samples, rate, centre + k * step); m > top) top = m, best = centre + k * step;
  }
  return best;
}

double cents(double a, double b) {
  return 1200.0 * std::log2(a / b);
}

std::filesystem::path freshFolder(const std::string& name) {
  // Tests run side by side: each has its own.
  const auto* test = testing::UnitTest::GetInstance()->current_test_info();
  const auto folder =
      std::filesystem::path(TEST_TEMP_DIR) / (std::string(test->test_suite_name()) + "." + test->name()) / name;
  std::filesystem::remove_all(folder);
  std::filesystem::create_directories(folder);
  return folder;
}

std::shared_ptr<const Recording> demoTake(const std::string& name) {
  static std::map<std::string, std::shared_ptr<const Recording>> takes;
  auto& take = takes[name];
  if (take == nullptr) take = std::make_shared<Recording>(*decode(std::filesystem::path(DEMO_DIR) / (name + ".ogg")));
  return take;
}

const Findings& demoFindings(const std::string& name) {
  static std::map<std::string, Findings> known;
  auto found = known.find(name);
  if (found == known.end()) found = known.emplace(name, *Listener().listen(*demoTake(name))).first;
  return found->second;
}

}  // namespace ear::test
