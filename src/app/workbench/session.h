// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <memory>
#include <type_traits>

#include "core/study/document.h"
#include "core/theory/chord.h"
#include "core/theory/notation_preferences.h"

namespace ear {

/// The study on the desk: its document, the take that is worked on, the guitar in hand, and how things are named.
class Session : public QObject {
  Q_OBJECT
 public:
  explicit Session(QObject* parent);

  Document& document() { return *document_; }
  const Document& document() const { return *document_; }
  const Brief& brief() const { return document_->brief(); }
  const Take* take() const { return document_->activeTake(); }
  const Findings* findings() const;

  /// Puts another study on the desk. @param file  empty for one that was never saved
  void setStudy(Study study, Measurements measurements, const QString& file);
  void newFromRecording(const QString& file);
  void addTake(const QString& file);
  void activateTake(const std::string& id);
  /// Another guitar of the take comes to hand, in the order of the parts.
  void nextGuitar();
  void markSaved(const QString& file);

  const NotationPreferences& notation() const { return schools_; }
  /// Kept for the next start; every view names things anew.
  void setNotation(const NotationPreferences& schools);
  /// For names in the key of the take.
  Spelling spelling() const;
  /// A sounding chord by its name, and by that of the shape on the guitar in hand; empty where the two are one.
  struct ChordWords {
    std::string sounding, shape;
  };
  ChordWords chordWords(const Chord& chord) const;

  /// Calls `slot` of a view (a function of it, or any other without arguments) when something of `what` has changed.
  template <class View, class Slot>
  void whenChanged(Changed what, View* view, Slot slot) {
    connect(this, &Session::documentChanged, view, [what, view, slot](Changed changed) {
      if (!touches(changed, what)) return;
      if constexpr (std::is_member_function_pointer_v<Slot>)
        (view->*slot)();
      else
        static_cast<void>(view), slot();
    });
  }
  /// A line to the user.
  void say(const QString& sentence) { emit said(sentence); }

 signals:
  void studyLeaving();                 ///< another one is about to take its place
  void studyReplaced();                ///< before documentChanged()
  void takeLeaving();                  ///< another take is about to be worked on
  void takeEntered();                  ///< after documentChanged()
  void documentChanged(Changed what);  ///< of the study or its measurements; everything when names are said anew
  void said(const QString& sentence);  ///< worth a line to the user

 private:
  std::unique_ptr<Document> document_;
  NotationPreferences schools_;
};

}  // namespace ear
