// SPDX-License-Identifier: GPL-3.0-or-later
#include <gtest/gtest.h>

#include <QCoreApplication>
#include <QProcess>
#include <QStandardPaths>
#include <QTemporaryDir>
#include <cstdlib>

namespace {

/// A PulseAudio server of the tests' own with one null sink, so that the real device code has a device to play to.
class Server : public testing::Environment {
 public:
  explicit Server(QString folder) : folder_(std::move(folder)) {}
  void TearDown() override {
    server_.terminate();
    server_.waitForFinished(5000);
  }
  bool start() {
    const QString socket = folder_ + "/pulse.socket";
    server_.setStandardErrorFile(folder_ + "/pulse.log");
    server_.start("pulseaudio", {"-n", "--daemonize=no", "--exit-idle-time=-1", "--disallow-exit", "--use-pid-file=no",
                                 "-L", "module-native-protocol-unix auth-anonymous=1 socket=" + socket, "-L",
                                 "module-null-sink sink_name=ear rate=48000 channels=2"});
    qputenv("PULSE_SERVER", ("unix:" + socket).toUtf8());
    for (int i = 0; i < 100; ++i) {
      QProcess ask;
      ask.start("pactl", {"info"});
      if (ask.waitForFinished(2000) && ask.exitCode() == 0) return true;
    }
    return false;
  }

 private:
  QString folder_;
  QProcess server_;
};

}  // namespace

int main(int argc, char** argv) {
  testing::InitGoogleTest(&argc, argv);
  QTemporaryDir folder;
  qputenv("XDG_RUNTIME_DIR", folder.path().toUtf8());
  qputenv("HOME", folder.path().toUtf8());
  QCoreApplication app(argc, argv);
  // The list of test packages brings the server; without it these tests say that they did not run.
  if (!QStandardPaths::findExecutable("pulseaudio").isEmpty()) {
    auto* server = new Server(folder.path());
    if (!server->start()) {
      std::fputs("The PulseAudio server does not start.\n", stderr);
      return 1;
    }
    testing::AddGlobalTestEnvironment(server);
  }
  return RUN_ALL_TESTS();
}
