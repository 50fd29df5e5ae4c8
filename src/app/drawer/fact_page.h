// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "app/workbench/workbench.h"

class QLabel;
class QPushButton;
class QVBoxLayout;

namespace ear {

/// What the pages of the brief share: the sentence, where it comes from, what was measured beside a person's decision,
/// and the buttons to confirm it or to go back to the measurement.
class FactPage : public QWidget {
  Q_OBJECT
 public:
  FactPage(Workbench& bench, const QString& fact, QWidget* parent);

 protected:
  /// Fills the page's own part; called on every change of the document.
  virtual void refreshOwn(const Brief& brief, const Findings* found) = 0;
  virtual void confirm() = 0;
  virtual void takeMeasured() = 0;

  /// Called by refreshOwn: the sentence, origin and evidence on top.
  template <class T>
  void showDecision(const std::optional<Decision<T>>& decided, const std::optional<Decision<T>>& measured) {
    showTop(decided ? QString::fromStdString(sentenceOf(decided->value)) : QString(),
            decided ? standing(decided->origin, decided->certainty) : QString(),
            decided ? QString::fromStdString(sentenceOf(decided->evidence)) : QString(),
            measured && decided && decided->origin != Origin::measured
                ? QString::fromStdString(sentenceOf(measured->value))
                : QString());
  }

  /// Stores a decision on the active take as one step of undo.
  template <class T>
  void decide(const QString& label, std::optional<Decision<T>> Take::*member, const std::type_identity_t<T>& value,
              Origin origin, const Evidence& evidence) {
    const Take* take = bench_.take();
    if (take == nullptr) return;
    bench_.document().edit(label.toStdString(), [&, id = take->id](Study& s) {
      s.take(id)->*member = Decision<T>{value, origin, 1.0, evidence};
    });
  }
  template <class T>
  void undecide(const QString& label, std::optional<Decision<T>> Take::*member) {
    const Take* take = bench_.take();
    if (take == nullptr) return;
    bench_.document().edit(label.toStdString(), [&, id = take->id](Study& s) { (s.take(id)->*member).reset(); });
  }

  /// "42 %   " before a reading; nothing while listening goes on: what is not known yet has no share.
  QString shareOf(double certainty) const;
  /// Another sentence on top than the decision's own.
  void setSentence(const QString& sentence);
  QVBoxLayout* body() { return body_; }
  QLabel* caption(const QString& text);
  void refresh();
  void changeEvent(QEvent* event) override;

  Workbench& bench_;

 private:
  QString standing(Origin origin, double certainty) const;
  void showTop(const QString& sentence, const QString& standing, const QString& evidence, const QString& measured);

  QLabel *sentence_, *standing_, *evidence_, *measured_;
  QVBoxLayout* body_;
  QPushButton *confirm_, *revert_;
};

}  // namespace ear
