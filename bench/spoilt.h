// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <algorithm>
#include <chrono>
#include <cstdlib>
#include <random>
#include <string>

namespace ear {

/// A file that was damaged: some of its bytes changed, gone, doubled, or made a number beyond all measure.
inline std::string spoilt(std::string text, std::mt19937& random) {
  const auto pick = [&](std::size_t most) {
    return std::uniform_int_distribution<std::size_t>(0, std::max<std::size_t>(1, most) - 1)(random);
  };
  for (std::size_t k = 0; k <= pick(5) && !text.empty(); ++k) {
    const std::size_t at = pick(text.size());
    switch (pick(4)) {
      case 0:
        text[at] = static_cast<char>(pick(256));
        break;
      case 1:
        text.erase(at, pick(60));
        break;
      case 2:
        text.insert(at, text.substr(pick(text.size()), pick(80)));
        break;
      default: {
        // In place of a figure, where there is one: else hardly any number would be read.
        const std::size_t figure = std::min(text.find_first_of("0123456789", at), text.size() - 1);
        text.replace(figure, 1, std::to_string(static_cast<long long>(random()) * 1'000'003));
      }
    }
  }
  return text;
}

/// How long a reader is tried: so many rounds, and on for INNER_EAR_FUZZ_SECONDS where the environment says that.
class Trials {
 public:
  explicit Trials(int rounds) : rounds_(rounds) {
    if (const char* seconds = std::getenv("INNER_EAR_FUZZ_SECONDS")) seconds_ = std::atof(seconds);
  }
  /// Whether there is another round.
  bool next() {
    return done_++ < rounds_ ||
           std::chrono::duration<double>(std::chrono::steady_clock::now() - start_).count() < seconds_;
  }

 private:
  int rounds_, done_ = 0;
  double seconds_ = 0.0;
  std::chrono::steady_clock::time_point start_ = std::chrono::steady_clock::now();
};

}  // namespace ear
