// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/safety/guarded_application.h"

#include <fcntl.h>
#include <signal.h>  // NOLINT(modernize-deprecated-headers): POSIX has more than <csignal>
#include <unistd.h>

#include <QSessionManager>
#include <QSocketNotifier>
#include <array>
#include <exception>
#include <stdexcept>

#include "app/workbench/background_job.h"

namespace ear {
namespace {

constexpr std::array<int, 3> kEnding = {SIGTERM, SIGINT, SIGHUP};
std::array<int, 2> pipeEnds = {-1, -1};  // a handler may do little more than write to it

void onSignal(int number) {
  const auto byte = static_cast<char>(number);
  [[maybe_unused]] const auto written = write(pipeEnds[1], &byte, 1);
}

}  // namespace

GuardedApplication::GuardedApplication(int& argc, char** argv) : QApplication(argc, argv) {
  connect(this, &QGuiApplication::commitDataRequest, this, [this](QSessionManager&) {
    if (rescue) rescue();
  });
}

GuardedApplication::~GuardedApplication() {
  if (notifier_ == nullptr) return;
  for (const int number : kEnding) signal(number, SIG_DFL);
  for (int& end : pipeEnds) close(end), end = -1;
}

bool GuardedApplication::notify(QObject* receiver, QEvent* event) {
  QString sentence;
  try {
    return QApplication::notify(receiver, event);
  } catch (const std::exception& error) {
    sentence = sentenceOf(error);
  } catch (...) {
    sentence = sentenceOf(std::runtime_error("unknown"));
  }
  if (rescue) rescue();
  emit caught(sentence);
  return true;
}

void GuardedApplication::catchSignals() {
  if (notifier_ != nullptr || pipe2(pipeEnds.data(), O_CLOEXEC | O_NONBLOCK) != 0) return;
  notifier_ = new QSocketNotifier(pipeEnds[0], QSocketNotifier::Read, this);
  connect(notifier_, &QSocketNotifier::activated, this, &GuardedApplication::readSignal);
  struct sigaction action {};
  action.sa_handler = onSignal;
  action.sa_flags = SA_RESTART;
  for (const int number : kEnding) sigaction(number, &action, nullptr);
}

void GuardedApplication::readSignal() {
  char number = 0;
  if (read(pipeEnds[0], &number, 1) != 1) return;
  if (rescue) rescue();
  exit(128 + number);
}

}  // namespace ear
