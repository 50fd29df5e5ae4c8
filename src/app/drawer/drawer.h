// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>
#include <functional>
#include <memory>

#include "app/workbench/workbench.h"

class QButtonGroup;
class QStackedWidget;

namespace ear {

class GuitarPage;
class FormPage;
class PassagesPage;
class PhrasePage;
class TimePage;

/// The right side of the desk, by task: evidence of a fact of the brief, the passages, what is heard, ways to
/// repeat, the ear's guesses, the phrase that is written.
class Drawer : public QWidget {
  Q_OBJECT
 public:
  enum Page { pitch, guitar, key, time, form, passages, isolate, practise, hear, phrase };
  static constexpr int kPages = 10, kFacts = 5;  ///< the first ones are the facts of the brief
  /// @param makeInput  opens the input for guesses that are sung or played
  Drawer(Workbench& bench, std::function<std::unique_ptr<AudioInput>()> makeInput, QWidget* parent = nullptr);
  void open(int page);
  int page() const;
  GuitarPage* guitarPage() { return guitar_; }
  TimePage* timePage() { return time_; }
  FormPage* formPage() { return form_; }
  PassagesPage* passagesPage() { return passages_; }
  PhrasePage* phrasePage() { return phrase_; }

 signals:
  void opened(int page);

 private:
  QStackedWidget* pages_;
  QButtonGroup* tabs_;
  int fact_ = pitch;  // the one that was open last
  GuitarPage* guitar_;
  TimePage* time_;
  FormPage* form_;
  PassagesPage* passages_;
  PhrasePage* phrase_;
};

}  // namespace ear
