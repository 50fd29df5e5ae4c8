// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/signal/fft.h"

#include <fftw3.h>

#include <cmath>
#include <mutex>
#include <numbers>

namespace ear {
namespace {
// FFTW's planner keeps global state; only executing a plan is thread-safe.
std::mutex& planner() {
  static std::mutex mutex;
  return mutex;
}
}  // namespace

struct RealFft::Plan {
  float* in = nullptr;
  std::complex<float>* out = nullptr;
  fftwf_plan plan = nullptr;
};

RealFft::RealFft(std::size_t size) : size_(size), plan_(std::make_unique<Plan>()) {
  const std::lock_guard lock(planner());
  plan_->in = fftwf_alloc_real(size);
  plan_->out = reinterpret_cast<std::complex<float>*>(fftwf_alloc_complex(size / 2 + 1));
  // FFTW_ESTIMATE picks by rule, not by timing: the same plan, and so the same rounding, in every run.
  plan_->plan = fftwf_plan_dft_r2c_1d(static_cast<int>(size), plan_->in, reinterpret_cast<fftwf_complex*>(plan_->out),
                                      FFTW_ESTIMATE);
}

RealFft::~RealFft() {
  const std::lock_guard lock(planner());
  fftwf_destroy_plan(plan_->plan);
  fftwf_free(plan_->in);
  fftwf_free(plan_->out);
}

std::span<float> RealFft::input() {
  return {plan_->in, size_};
}

std::span<const std::complex<float>> RealFft::transform() {
  fftwf_execute(plan_->plan);
  return {plan_->out, size_ / 2 + 1};
}

struct InverseFft::Plan {
  std::complex<float>* in = nullptr;
  float* out = nullptr;
  fftwf_plan plan = nullptr;
};

InverseFft::InverseFft(std::size_t size) : size_(size), plan_(std::make_unique<Plan>()) {
  const std::lock_guard lock(planner());
  plan_->in = reinterpret_cast<std::complex<float>*>(fftwf_alloc_complex(size / 2 + 1));
  plan_->out = fftwf_alloc_real(size);
  plan_->plan = fftwf_plan_dft_c2r_1d(static_cast<int>(size), reinterpret_cast<fftwf_complex*>(plan_->in), plan_->out,
                                      FFTW_ESTIMATE);
}

InverseFft::~InverseFft() {
  const std::lock_guard lock(planner());
  fftwf_destroy_plan(plan_->plan);
  fftwf_free(plan_->in);
  fftwf_free(plan_->out);
}

std::span<std::complex<float>> InverseFft::input() {
  return {plan_->in, size_ / 2 + 1};
}

std::span<const float> InverseFft::transform() {
  fftwf_execute(plan_->plan);
  const float scale = 1.0F / static_cast<float>(size_);
  for (std::size_t i = 0; i < size_; ++i) plan_->out[i] *= scale;
  return {plan_->out, size_};
}

std::vector<float> hannWindow(std::size_t size) {
  std::vector<float> window(size);
  for (std::size_t n = 0; n < size; ++n)
    window[n] = static_cast<float>(
        0.5 - 0.5 * std::cos(2 * std::numbers::pi * static_cast<double>(n) / static_cast<double>(size)));
  return window;
}

std::vector<float> hannSlope(std::size_t size) {
  std::vector<float> slope(size);
  const double unit = std::numbers::pi / static_cast<double>(size);
  for (std::size_t n = 0; n < size; ++n)
    slope[n] = static_cast<float>(unit * std::sin(2 * unit * static_cast<double>(n)));
  return slope;
}

}  // namespace ear
