// SPDX-License-Identifier: GPL-3.0-or-later
// One call after the other fails while a study is saved: nothing is ever lost.

#include "faults/faults.h"

#include <gtest/gtest.h>
#include <sys/wait.h>
#include <unistd.h>

#include <algorithm>

#include "core/study/durable_file.h"
#include "core/study/study_file.h"
#include "support/sounds.h"

namespace ear::test {
namespace {

namespace fs = std::filesystem;

class SavingFaults : public testing::Test {
 protected:
  void SetUp() override {
    fs::remove_all(folder_);
    fs::create_directories(folder_);
    demo_ = *loadStudy(std::string(DEMO_DIR) + "/copper-weather.innerear");
    ASSERT_TRUE(save().ok());
  }
  Outcome<Done> save() const { return saveStudy(file_, demo_.study, demo_.measurements); }
  void expectTitle(const std::string& title) const {
    const auto now = loadStudy(file_);
    ASSERT_TRUE(now.ok()) << now.problem();
    EXPECT_EQ(now->study.title, title);
  }

  fs::path folder_ = freshFolder("faults-" + std::to_string(getpid()));
  fs::path file_ = folder_ / "song.innerear";
  StoredStudy demo_;
};

class Faults : public SavingFaults, public testing::WithParamInterface<std::pair<Fault, bool>> {};
class AllocationFaults : public SavingFaults {};

TEST_P(Faults, LeaveTheOldStateOrTheNewOne) {
  const auto [fault, linked] = GetParam();
  if (linked) fs::create_hard_link(file_, folder_ / "other.innerear");
  int met = 0, calls = 1;
  for (int call = 0; call < calls; ++call) {
    const std::string before = demo_.study.title;
    demo_.study.title = "Version " + std::to_string(call);
    bool saved = false;
    calls = withFault(fault, call, [&] {
      const auto done = save();
      saved = done.ok();
      EXPECT_TRUE(saved || !done.problem().empty());
    });
    if (calls > call) ++met;
    expectTitle(saved ? demo_.study.title : before);
    if (!saved) demo_.study.title = before;
    for (const auto& entry : fs::directory_iterator(folder_))
      EXPECT_EQ(entry.path().filename().native().find(".saving-"), std::string::npos) << "nothing lies about";
  }
  EXPECT_GT(met, 0);
  EXPECT_TRUE(save().ok());
}

INSTANTIATE_TEST_SUITE_P(Kinds, Faults,
                         testing::Values(std::pair(Fault::write, false), std::pair(Fault::sync, false),
                                         std::pair(Fault::rename, false), std::pair(Fault::open, false),
                                         std::pair(Fault::change, false), std::pair(Fault::write, true),
                                         std::pair(Fault::sync, true), std::pair(Fault::rename, true),
                                         std::pair(Fault::change, true)));

/// The JSON library allocates while it destroys values, where nothing can be thrown: without memory there it ends the
/// process. Each try is therefore a process of its own, and what counts is what it leaves behind.
TEST_F(AllocationFaults, LeaveTheOldStateOrTheNewOne) {
  const std::string before = demo_.study.title;
  demo_.study.title = "New";
  int told = 0, aborted = 0, saved = 0;
  // Allocations are many and alike: each of the first ones, then farther and farther apart, to the last.
  for (int call = 0;; call += std::max(1, call / 12)) {
    const pid_t child = fork();
    if (child == 0) {
      close(STDERR_FILENO);
      bool ok = false;
      const int calls = withFault(Fault::allocation, call, [&] { ok = save().ok(); });
      _exit(calls <= call ? 2 : ok ? 0 : 1);
    }
    int status = 0;
    ASSERT_EQ(waitpid(child, &status, 0), child);
    const bool ended = WIFEXITED(status), over = ended && WEXITSTATUS(status) == 2;
    const bool done = ended && WEXITSTATUS(status) != 1;
    ++(ended ? (done ? saved : told) : aborted);
    expectTitle(done ? "New" : before);
    if (over) break;
    demo_.study.title = before;
    ASSERT_TRUE(save().ok());
    demo_.study.title = "New";
  }
  RecordProperty("told", told);
  RecordProperty("aborted", aborted);
  EXPECT_GT(told, 10);
  sweepLeftovers(file_);
  for (const auto& entry : fs::directory_iterator(folder_))
    EXPECT_EQ(entry.path().filename().native().find(".saving-"), std::string::npos) << entry.path();
}

}  // namespace
}  // namespace ear::test
