// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/shared.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <string>
#include <thread>

namespace ear {
namespace {

TEST(Shared, CopiesAreOneUntilOneIsChanged) {
  Shared<std::string> a(std::string("verse"));
  const Shared<std::string> b = a;
  EXPECT_TRUE(a.isSame(b));
  a.change() = "chorus";
  EXPECT_FALSE(a.isSame(b));
  EXPECT_EQ(*b, "verse");
  a.change() = "verse";
  EXPECT_EQ(a, b) << "equal again, though not the same";
}

TEST(Shared, OneThatIsNobodyElsesIsChangedInPlace) {
  Shared<std::vector<int>> list{1, 2, 3};
  const int* where = list->data();
  list.change()[1] = 7;
  EXPECT_EQ(list->data(), where);
}

TEST(Shared, CopiesInThreadsDoNotDisturbEachOther) {
  Shared<std::vector<int>> list(std::vector<int>(1000, 1));
  std::vector<std::thread> readers;
  std::vector<long> sums(4);
  for (long& sum : sums)
    readers.emplace_back([copy = list, &sum] {
      for (int round = 0; round < 200; ++round) sum += std::count(copy->begin(), copy->end(), 1);
    });
  for (int i = 0; i < 200; ++i) list.change()[0] = i;
  for (auto& reader : readers) reader.join();
  for (const long sum : sums) EXPECT_EQ(sum, 200 * 1000);
}

TEST(Pieces, OnlyThePieceThatChangesIsCopied) {
  const Pieces<std::string> a{"one", "two", "three"};
  Pieces<std::string> b = a;
  b.change(1) = "other";
  EXPECT_EQ(&a[0], &std::as_const(b)[0]);
  EXPECT_NE(&a[1], &std::as_const(b)[1]);
  EXPECT_EQ(&a[2], &std::as_const(b)[2]);
  EXPECT_EQ(a[1], "two");
  EXPECT_FALSE(a == b);
}

TEST(Pieces, BroughtIntoAFormKeepThoseThatHaveIt) {
  const Pieces<std::string> a{"plain", "x  ", "short"};
  Pieces<std::string> b = a;
  b.changeEach([](std::string& s) { std::erase(s, ' '); });
  EXPECT_EQ(b[1], "x");
  EXPECT_EQ(&a[0], &b[0]);
  EXPECT_EQ(&a[2], &b[2]);
}

TEST(Pieces, AreReadLikeAList) {
  Pieces<int> list;
  EXPECT_TRUE(list.empty());
  for (int i = 0; i < 5; ++i) list.push_back(i);
  EXPECT_EQ(list.back(), 4);
  EXPECT_EQ(*std::find(list.begin(), list.end(), 3), 3);
  list.removeIf([](int i) { return i % 2 == 0; });
  EXPECT_EQ(std::vector<int>(list.begin(), list.end()), (std::vector<int>{1, 3}));
}

}  // namespace
}  // namespace ear
