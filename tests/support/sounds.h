// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <functional>
#include <memory>
#include <span>
#include <vector>

#include "core/audio/recording.h"
#include "core/listening/results/findings.h"

namespace ear::test {

/// A stereo recording of the same function of time (seconds) on both sides.
Recording soundOf(double seconds, int rate, const std::function<double(double)>& at);

/// A steady sine at half of full scale.
Recording sine(double hertz, double seconds, int rate = 44100);

/// Frequency of the strongest partial near `about`, by a long windowed scan; accurate to a few hundredths of a cent.
double frequencyOf(std::span<const float> samples, int rate, double about);

/// 1200 log2(a / b).
double cents(double a, double b);

/// An empty folder for the files of one test.
std::filesystem::path freshFolder(const std::string& name);

/// The demo recordings, decoded once.
std::shared_ptr<const Recording> demoTake(const std::string& name);

/// What the listener tells of a demo recording, listened to once.
const Findings& demoFindings(const std::string& name);

}  // namespace ear::test
