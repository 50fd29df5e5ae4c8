// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <utility>
#include <variant>

namespace ear {

/// An expected failure, in a sentence for a person: what is wrong and what to do.
struct Problem {
  std::string message;
};

/// A value or the reason why there is none.
template <class T>
class Outcome {
 public:
  Outcome(T value) : state_(std::move(value)) {}
  Outcome(Problem problem) : state_(std::move(problem)) {}

  bool ok() const { return state_.index() == 0; }
  explicit operator bool() const { return ok(); }

  T& value() { return std::get<0>(state_); }
  const T& value() const { return std::get<0>(state_); }
  T& operator*() & { return value(); }
  T&& operator*() && { return std::move(value()); }
  const T& operator*() const& { return value(); }
  T* operator->() { return &value(); }
  const T* operator->() const { return &value(); }

  /// The sentence; only when not ok().
  const std::string& problem() const { return std::get<1>(state_).message; }

 private:
  std::variant<T, Problem> state_;
};

/// For work that yields nothing but success.
struct Done {};

}  // namespace ear
