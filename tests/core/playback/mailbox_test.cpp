// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/playback/mailbox.h"

#include <gtest/gtest.h>

#include <array>
#include <thread>

namespace ear {
namespace {

/// A value of which a half could be told from the whole.
struct Page {
  std::array<int, 64> lines{};
  Page() = default;
  explicit Page(int n) { lines.fill(n); }
  bool whole() const {
    for (const int line : lines)
      if (line != lines.front()) return false;
    return true;
  }
};

TEST(Mailbox, GivesTheNewestAndKeepsIt) {
  Mailbox<int> box;
  EXPECT_EQ(box.newest(), 0) << "before anything was put";
  box.put(1);
  box.put(2);
  EXPECT_EQ(box.newest(), 2) << "what was not read is forgotten";
  EXPECT_EQ(box.newest(), 2);
  box.put(3);
  box.put(4);
  box.put(5);
  EXPECT_EQ(box.newest(), 5);
}

TEST(Mailbox, WhatIsReadStaysWholeWhileMoreIsPut) {
  Mailbox<Page> box;
  box.put(Page(1));
  const Page& held = box.newest();
  for (int n = 2; n < 10; ++n) box.put(Page(n));
  EXPECT_EQ(held.lines.front(), 1) << "until it is asked for again";
  EXPECT_TRUE(held.whole());
  EXPECT_EQ(box.newest().lines.front(), 9);
}

TEST(Mailbox, BetweenThreadsNothingIsTornAndNothingGoesBack) {
  constexpr int kLast = 50'000;
  Mailbox<Page> box;
  std::thread writer([&] {
    for (int n = 1; n <= kLast; ++n) box.put(Page(n));
  });
  int seen = 0, torn = 0, back = 0;
  while (seen < kLast) {
    const Page& page = box.newest();
    torn += page.whole() ? 0 : 1;
    back += page.lines.front() < seen ? 1 : 0;
    seen = page.lines.front();
  }
  writer.join();
  EXPECT_EQ(torn, 0);
  EXPECT_EQ(back, 0);
}

TEST(Handover, FreesWhatTheReaderNoLongerLooksAt) {
  struct Counted {
    int& alive;
    int number;
    Counted(int& a, int n) : alive(a), number(n) { ++alive; }
    ~Counted() { --alive; }
    Counted(const Counted&) = delete;
    Counted& operator=(const Counted&) = delete;
  };
  int alive = 0;
  {
    Handover<Counted> hand;
    EXPECT_EQ(hand.newest(), nullptr);
    hand.give(std::make_unique<Counted>(alive, 1));
    const Counted* held = hand.newest();
    ASSERT_NE(held, nullptr);
    for (int n = 2; n <= 5; ++n) hand.give(std::make_unique<Counted>(alive, n));
    EXPECT_EQ(held->number, 1) << "still looked at";
    EXPECT_EQ(hand.newest()->number, 5);
    hand.give(std::make_unique<Counted>(alive, 6));
    EXPECT_EQ(alive, 2) << "the one in use and the one that comes";
  }
  EXPECT_EQ(alive, 0);
}

TEST(Handover, BetweenThreadsWhatIsReadIsAlive) {
  constexpr int kLast = 20'000;
  Handover<Page> hand;
  hand.give(std::make_unique<Page>(0));
  std::thread writer([&] {
    for (int n = 1; n <= kLast; ++n) hand.give(std::make_unique<Page>(n));
  });
  int seen = 0, torn = 0, back = 0;
  while (seen < kLast) {
    const Page* page = hand.newest();
    torn += page->whole() ? 0 : 1;
    back += page->lines.front() < seen ? 1 : 0;
    seen = page->lines.front();
  }
  writer.join();
  EXPECT_EQ(torn, 0);
  EXPECT_EQ(back, 0);
}

}  // namespace
}  // namespace ear
