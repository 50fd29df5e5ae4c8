// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <atomic>
#include <cstddef>
#include <initializer_list>
#include <iterator>
#include <memory>
#include <utility>
#include <vector>

namespace ear {

/// A value whose copies are one until one of them changes it: a copy costs a pointer, and two copies of which none was
/// changed are known to be equal without a look at them. Copies may live in different threads.
template <class T>
class Shared {
 public:
  Shared() : value_(std::make_shared<T>()) {}
  Shared(T value) : value_(std::make_shared<T>(std::move(value))) {}  // NOLINT(google-explicit-constructor): a T it is
  template <class U = T>
  Shared(std::initializer_list<typename U::value_type> values) : Shared(U(values)) {}

  const T& operator*() const { return *value_; }
  const T* operator->() const { return value_.get(); }
  operator const T&() const { return *value_; }  // NOLINT(google-explicit-constructor)

  /// The value as one's own, to be changed. A reference holds until the next copy is made.
  T& change() {
    if (value_.use_count() > 1)
      value_ = std::make_shared<T>(*value_);
    else
      std::atomic_thread_fence(std::memory_order_acquire);  // another thread may have read it until a moment ago
    return *value_;
  }

  /// Whether both are the very same; two that are not may be equal yet.
  bool isSame(const Shared& other) const { return value_ == other.value_; }
  bool operator==(const Shared& other) const { return isSame(other) || *value_ == *other.value_; }

 private:
  std::shared_ptr<T> value_;
};

/// A list of which each piece is shared: a copy with one piece changed costs that piece and a pointer for each other.
/// Read like a std::vector; pieces are changed through change() alone.
template <class T>
class Pieces {
  using List = std::vector<Shared<T>>;

 public:
  class Iterator {
   public:
    using iterator_category = std::random_access_iterator_tag;
    using value_type = T;
    using difference_type = std::ptrdiff_t;
    using pointer = const T*;
    using reference = const T&;

    Iterator() = default;
    explicit Iterator(typename List::const_iterator at) : at_(at) {}
    reference operator*() const { return **at_; }
    pointer operator->() const { return &**at_; }
    Iterator& operator++() { return ++at_, *this; }
    Iterator operator++(int) { return Iterator(at_++); }
    Iterator& operator--() { return --at_, *this; }
    Iterator operator+(difference_type n) const { return Iterator(at_ + n); }
    difference_type operator-(const Iterator& other) const { return at_ - other.at_; }
    bool operator==(const Iterator&) const = default;

   private:
    typename List::const_iterator at_{};
  };

  Pieces() = default;
  Pieces(std::initializer_list<T> values) : list_(values.begin(), values.end()) {}

  Iterator begin() const { return Iterator(list_.begin()); }
  Iterator end() const { return Iterator(list_.end()); }
  std::size_t size() const { return list_.size(); }
  bool empty() const { return list_.empty(); }
  const T& operator[](std::size_t i) const { return *list_[i]; }
  const T& front() const { return *list_.front(); }
  const T& back() const { return *list_.back(); }

  /// A piece as this list's own. @pre i < size()
  T& change(std::size_t i) { return list_[i].change(); }
  void clear() { list_.clear(); }
  // NOLINTNEXTLINE(readability-identifier-naming): as a vector has it
  void push_back(T value) { list_.emplace_back(std::move(value)); }
  template <class Predicate>
  void removeIf(Predicate predicate) {
    std::erase_if(list_, [&](const Shared<T>& piece) { return predicate(*piece); });
  }
  /// Brings each piece into a form; one that has it already stays shared.
  /// @param known  a list whose pieces have that form: what is shared with it is not looked at. May be null
  template <class Change>
  void changeEach(Change form, const Pieces* known = nullptr) {
    for (std::size_t i = 0; i < size(); ++i) {
      if (known != nullptr && isSame(i, *known)) continue;
      T formed = *list_[i];
      form(formed);
      if (!(formed == *list_[i])) list_[i] = Shared<T>(std::move(formed));
    }
  }

  /// Whether a piece is the very one that stands there in another list.
  bool isSame(std::size_t i, const Pieces& other) const { return i < other.size() && list_[i].isSame(other.list_[i]); }

  bool operator==(const Pieces&) const = default;

 private:
  List list_;
};

}  // namespace ear
