// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "core/phrase/entry/clause.h"
#include "core/phrase/entry/entry.h"

namespace ear {

/// Goes through the words of a line and fills an Entry, clause by clause. What is said of notes (bends, vibrato ...) is
/// in reader_gestures.cpp, what is said of strings in reader_strings.cpp, repeats in reader_repeats.cpp.
class EntryReader {
 public:
  EntryReader(std::string_view line, const EntryContext& context);
  Entry read();

 private:
  using Change = std::function<void(Note&)>;

  // Words.
  const Token& here(std::size_t ahead = 0) const;
  bool is(Word word, std::size_t ahead = 0) const { return here(ahead).word == word; }
  bool take(Word word);   ///< goes past it if it is there
  bool touching() const;  ///< no blank between the word before and this one
  bool atEnd() const { return at_ >= tokens_.size(); }
  void problem(TextRange range, std::string text) {
    clause_.faulty = true;
    entry_.problems.push_back({range, std::move(text)});
  }

  // The clause in hand.
  void word();
  void flush();
  void addFret(int fret, TextRange range, Tone tone = Tone::full);
  void addStrings(const std::vector<int>& strings, TextRange range);
  /// Changes the fret said last, or the one said next where none was said in this clause.
  void mark(const Change& change);
  void sayLength(Beats length);

  // Strings and chords.
  void number();
  void letter();
  void joined();
  void stringWord();
  void ordinal();
  void highOrLow();
  void topOrBottom();
  void openWord();
  void chordName();
  void addChord(const Chord& chord, TextRange range);
  std::vector<int> stringsOf(const Token& said) const;
  void nameString(const Token& token, const std::vector<int>& found);
  std::optional<int> numbered(int number) const;

  // Gestures.
  bool gesture();
  void slideWord();
  void slurWord();
  void releaseWord();
  void trillWord();
  void tremoloWord();
  void fingerWord();
  void pluckWord();
  void againWord();
  void heldWord();
  void bendWord();
  void preBend();
  void harmonicWord();
  void tapWord();
  void barWord();
  void region(bool Note::*what);
  void goOn(Note& note) const;
  Size sizeHere();  ///< "half", "a whole step", "2 frets", "one and a half tones"; nothing where none is said
  bool lengthWord();
  void lengthBeforeFret();
  void sayOfAll(Beats length);
  void countWords();

  // Again.
  void repeat(int times);
  void sameWord();
  void backWord();
  void beginChanging(std::vector<std::size_t> steps);
  void withoutWord();
  /// Plays steps again behind all others. @return false, with a problem said, where the line holds no more
  bool copy(std::size_t from, std::size_t count, int times = 1);
  void onTimeOf(int which);

  const EntryContext& context_;
  std::vector<Token> tokens_;
  Token end_;
  std::size_t at_ = 0;
  Entry entry_;

  Clause clause_;
  std::vector<Clause::Item> waiting_;  // frets that no string was said for yet
  std::vector<Change> next_;           // what is said of the next fret
  std::optional<int> string_;          // in hand
  Beats length_;                       // of notes from here on
  Beats lengthBefore_;                 // before the one that was said last
  bool lengthAtEnd_ = false;           // a length was said and no fret since
  bool palmMuted_ = false, letRing_ = false, slideBar_ = false;

  struct Said {
    std::size_t first = 0, count = 0;  // steps of one time
    int times = 1;
  };
  std::optional<Said> said_;           // the clause before
  std::vector<std::size_t> changing_;  // steps that marks go to, after "same but"
};

}  // namespace ear
