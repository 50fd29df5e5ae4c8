// SPDX-License-Identifier: GPL-3.0-or-later
#include <gmock/gmock.h>

#include <algorithm>
#include <filesystem>
#include <fstream>
#include <map>
#include <set>
#include <sstream>
#include <string>
#include <string_view>

namespace ear::test {
namespace {

namespace fs = std::filesystem;
using Arrows = std::map<std::string, std::set<std::string>>;

/// "room:used,used+room:..." as the build declares them (src/core/CMakeLists.txt).
Arrows declared() {
  Arrows arrows;
  std::istringstream rooms(INNER_EAR_ARROWS);
  for (std::string room; std::getline(rooms, room, '+');) {
    const auto colon = room.find(':');
    auto& used = arrows[room.substr(0, colon)];
    std::istringstream list(room.substr(colon + 1));
    for (std::string name; std::getline(list, name, ',');) used.insert(name);
  }
  return arrows;
}

/// What a room may include: what it names, and what those name.
std::set<std::string> reach(const Arrows& arrows, const std::string& room) {
  std::set<std::string> found{room};
  for (const auto& used : arrows.at(room))
    for (const auto& further : reach(arrows, used)) found.insert(further);
  return found;
}

TEST(Rooms, IncludeNothingButWhatTheyNameAndNothingOfTheInterface) {
  const Arrows arrows = declared();
  ASSERT_THAT(arrows, testing::SizeIs(testing::Ge(15U)));
  const fs::path core = CORE_DIR;
  int seen = 0;
  for (const auto& entry : fs::recursive_directory_iterator(core)) {
    if (entry.path().extension() != ".h" && entry.path().extension() != ".cpp") continue;
    const std::string room = fs::relative(entry.path().parent_path(), core).generic_string();
    ASSERT_TRUE(arrows.contains(room)) << room << " is no room of the build";
    const auto allowed = reach(arrows, room);
    std::ifstream file(entry.path());
    for (std::string line; std::getline(file, line);) {
      constexpr std::string_view kInclude = "#include ";
      if (!line.starts_with(kInclude) || line.size() < kInclude.size() + 3) continue;
      const std::string header = line.substr(kInclude.size() + 1, line.find_last_of("\">") - kInclude.size() - 1);
      EXPECT_NE(header[0], 'Q') << entry.path() << " includes " << header;
      if (!header.starts_with("core/")) continue;
      ++seen;
      EXPECT_TRUE(allowed.contains(fs::path(header.substr(5)).parent_path().generic_string()))
          << entry.path() << " includes " << header;
    }
  }
  EXPECT_GT(seen, 200);
}

TEST(Rooms, NoArrowGoesUp) {
  // An arrow up would close a circle, and reach() would not end: so each room is taken away once nothing of it is used.
  Arrows left = declared();
  while (!left.empty()) {
    const auto top = std::find_if(left.begin(), left.end(), [&](const auto& room) {
      return std::none_of(left.begin(), left.end(),
                          [&](const auto& other) { return other.second.contains(room.first); });
    });
    ASSERT_NE(top, left.end()) << left.begin()->first << " is part of a circle";
    left.erase(top);
  }
}

}  // namespace
}  // namespace ear::test
