// One call after the other fails while a study is saved: nothing is ever lost.

#include "faults/faults.h"

#include <gtest/gtest.h>

#include <algorithm>

#include "core/study/durable_file.h"
#include "core/study/study_file.h"
#include "support/sounds.h"

namespace ear::test {
namespace {

namespace fs = std::filesystem;

class Faults : public testing::TestWithParam<std::pair<Fault, bool>> {};

TEST_P(Faults, LeaveTheOldStateOrTheNewOne) {
  const auto [fault, linked] = GetParam();
  const auto folder = freshFolder("faults");
  const fs::path file = folder / "song.innerear";
  const auto demo = loadStudy(std::string(DEMO_DIR) + "/copper-weather.innerear");
  ASSERT_TRUE(demo.ok());
  Study study = demo->study;
  ASSERT_TRUE(saveStudy(file, study, demo->measurements).ok());
  if (linked) fs::create_hard_link(file, folder / "other.innerear");

  int failed = 0, calls = 1;
  // Allocations are many and alike: every one at first, then farther apart.
  for (int call = 0; call < calls; call += std::max(1, call / 50)) {
    const std::string before = study.title;
    study.title = "Version " + std::to_string(call);
    bool saved = false, told = true;
    calls = std::max(calls, withFault(fault, call, [&] {
                       const auto done = saveStudy(file, study, demo->measurements);
                       saved = done.ok();
                       told = saved || !done.problem().empty();
                     }));
    failed += saved ? 0 : 1;
    EXPECT_TRUE(told);
    const auto now = loadStudy(file);
    ASSERT_TRUE(now.ok()) << now.problem();
    EXPECT_EQ(now->study.title, saved ? study.title : before) << call;
    if (!saved) study.title = before;
    // Nothing lies about, whatever happened.
    for (const auto& entry : fs::directory_iterator(folder))
      EXPECT_EQ(entry.path().filename().native().find(".saving-"), std::string::npos) << entry.path();
  }
  // A disk that fails while a file of two names is written in place costs the second name, not the study.
  EXPECT_GT(failed, 0) << "the fault was met at all";
  ASSERT_TRUE(saveStudy(file, study, demo->measurements).ok());
}

INSTANTIATE_TEST_SUITE_P(Kinds, Faults,
                         testing::Values(std::pair(Fault::write, false), std::pair(Fault::sync, false),
                                         std::pair(Fault::rename, false), std::pair(Fault::open, false),
                                         std::pair(Fault::change, false), std::pair(Fault::allocation, false),
                                         std::pair(Fault::write, true), std::pair(Fault::sync, true),
                                         std::pair(Fault::rename, true), std::pair(Fault::change, true)));

}  // namespace
}  // namespace ear::test
