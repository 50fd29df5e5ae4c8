// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/phrase/entry/words.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <charconv>
#include <optional>

namespace ear {
namespace {

struct Entry {
  std::string_view text;
  Word word;
  int value = 0;
};

// Lower case; what is said, and a short form of it.
constexpr Entry kEnglish[] = {{"fret", Word::fret},
                              {"frets", Word::fret},
                              {"string", Word::string},
                              {"strings", Word::string},
                              {"open", Word::open},
                              {"opens", Word::opens},
                              {"x", Word::dead},
                              {"dead", Word::dead},
                              {"all", Word::all},
                              {"high", Word::high},
                              {"low", Word::low},
                              {"top", Word::top},
                              {"bottom", Word::bottom},
                              {"on", Word::on},
                              {"at", Word::on},
                              {"and", Word::conjunction},
                              {"&", Word::conjunction},
                              {"to", Word::to},
                              {"of", Word::of},
                              {"the", Word::article},
                              {"an", Word::article},
                              {"together", Word::together},
                              {"both", Word::together},
                              {"+", Word::together},
                              {"singly", Word::singly},
                              {"run", Word::singly},
                              {"chord", Word::chord},
                              {"strum", Word::chord},
                              {"slide", Word::slide},
                              {"slides", Word::slide},
                              {"slid", Word::slide},
                              {"/", Word::slide},
                              {"\\", Word::slide},
                              {"hammer", Word::hammer},
                              {"hammers", Word::hammer},
                              {"hammered", Word::hammer},
                              {"pull", Word::pull},
                              {"pulls", Word::pull},
                              {"pulled", Word::pull},
                              {"bend", Word::bend},
                              {"bends", Word::bend},
                              {"bent", Word::bent},
                              {"prebend", Word::before},
                              {"prebent", Word::before},
                              {"before", Word::before},
                              {"release", Word::release},
                              {"released", Word::release},
                              {"vibrato", Word::vibrato},
                              {"vib", Word::vibrato},
                              {"~", Word::vibrato},
                              {"shake", Word::vibrato},
                              {"wide", Word::wide},
                              {"trill", Word::trill},
                              {"ghost", Word::ghost},
                              {"harmonic", Word::harmonic},
                              {"harmonics", Word::harmonic},
                              {"harm", Word::harmonic},
                              {"pinch", Word::pinch},
                              {"tap", Word::tap},
                              {"tapped", Word::tap},
                              {"rake", Word::rake},
                              {"sweep", Word::rake},
                              {"staccato", Word::staccato},
                              {"short", Word::staccato},
                              {"barre", Word::barre},
                              {"barré", Word::barre},
                              {"stays", Word::stays},
                              {"pluck", Word::pluck},
                              {"plucked", Word::pluck},
                              {"hybrid", Word::hybrid},
                              {"lifted", Word::lifted},
                              {"held", Word::held},
                              {"hold", Word::held},
                              {"choke", Word::choke},
                              {"choked", Word::choke},
                              {"fade", Word::fade},
                              {"fades", Word::fade},
                              {"again", Word::again},
                              {"dive", Word::dive},
                              {"bar", Word::bar},
                              {"tremolo", Word::tremolo},
                              {"downstroke", Word::strokeDown},
                              {"upstroke", Word::strokeUp},
                              {"thumb", Word::thumb},
                              {"finger", Word::finger},
                              {"feedback", Word::feedback},
                              {"slap", Word::slap},
                              {"slapped", Word::slap},
                              {"up", Word::up},
                              {"down", Word::down},
                              {"out", Word::out},
                              {"off", Word::off},
                              {"from", Word::from},
                              {"palm", Word::palmMute},
                              {"pm", Word::palmMute},
                              {"mute", Word::mute},
                              {"muted", Word::mute},
                              {"let", Word::letRing},
                              {"ring", Word::ring},
                              {"stop", Word::stop},
                              {"quarter", Word::quarter},
                              {"quarters", Word::quarter},
                              {"half", Word::half},
                              {"halves", Word::half},
                              {"whole", Word::whole},
                              {"full", Word::whole},
                              {"step", Word::step},
                              {"steps", Word::step},
                              {"tone", Word::step},
                              {"tones", Word::step},
                              {"semitone", Word::semitone},
                              {"eighth", Word::eighth},
                              {"eighths", Word::eighth},
                              {"sixteenth", Word::sixteenth},
                              {"sixteenths", Word::sixteenth},
                              {"thirty-second", Word::thirtySecond},
                              {"thirty-seconds", Word::thirtySecond},
                              {"dotted", Word::dotted},
                              {"triplet", Word::triplet},
                              {"triplets", Word::triplet},
                              {"beat", Word::beats},
                              {"beats", Word::beats},
                              {"per", Word::per},
                              {"note", Word::note},
                              {"notes", Word::note},
                              {"rest", Word::rest},
                              {"count", Word::count},
                              {"trip", Word::trip},
                              {"once", Word::times, 1},
                              {"twice", Word::times, 2},
                              {"times", Word::times},
                              {"more", Word::more},
                              {"back", Word::back},
                              {"same", Word::same},
                              {"but", Word::but},
                              {"last", Word::last},
                              {"time", Word::time},
                              {"without", Word::without},
                              {"no", Word::without},
                              {"then", Word::comma},
                              {",", Word::comma},
                              {";", Word::comma},
                              {"|", Word::comma},
                              {"zero", Word::number, 0},
                              {"one", Word::number, 1},
                              {"two", Word::number, 2},
                              {"three", Word::number, 3},
                              {"four", Word::number, 4},
                              {"five", Word::number, 5},
                              {"six", Word::number, 6},
                              {"seven", Word::number, 7},
                              {"eight", Word::number, 8},
                              {"nine", Word::number, 9},
                              {"ten", Word::number, 10},
                              {"eleven", Word::number, 11},
                              {"twelve", Word::number, 12},
                              {"thirteen", Word::number, 13},
                              {"fourteen", Word::number, 14},
                              {"fifteen", Word::number, 15},
                              {"sixteen", Word::number, 16},
                              {"seventeen", Word::number, 17},
                              {"eighteen", Word::number, 18},
                              {"nineteen", Word::number, 19},
                              {"twenty", Word::number, 20},
                              {"first", Word::ordinal, 1},
                              {"second", Word::ordinal, 2},
                              {"third", Word::ordinal, 3},
                              {"fourth", Word::ordinal, 4},
                              {"fifth", Word::ordinal, 5},
                              {"sixth", Word::ordinal, 6},
                              {"seventh", Word::ordinal, 7},
                              {"eighth-string", Word::ordinal, 8},
                              {"1st", Word::ordinal, 1},
                              {"2nd", Word::ordinal, 2},
                              {"3rd", Word::ordinal, 3},
                              {"4th", Word::ordinal, 4},
                              {"5th", Word::ordinal, 5},
                              {"6th", Word::ordinal, 6},
                              {"7th", Word::ordinal, 7},
                              {"8th", Word::ordinal, 8}};

constexpr Entry kGerman[] = {{"bund", Word::fret},
                             {"saite", Word::string},
                             {"saiten", Word::string},
                             {"leer", Word::open},
                             {"leersaite", Word::open},
                             {"leersaiten", Word::opens},
                             {"hohe", Word::high},
                             {"hohes", Word::high},
                             {"tiefe", Word::low},
                             {"tiefes", Word::low},
                             {"auf", Word::on},
                             {"und", Word::conjunction},
                             {"bis", Word::to},
                             {"die", Word::article},
                             {"der", Word::article},
                             {"das", Word::article},
                             {"zusammen", Word::together},
                             {"einzeln", Word::singly},
                             {"akkord", Word::chord},
                             {"rutschen", Word::slide},
                             {"gerutscht", Word::slide},
                             {"hämmern", Word::hammer},
                             {"aufschlag", Word::hammer},
                             {"abzug", Word::pull},
                             {"abgezogen", Word::pull},
                             {"ziehen", Word::bend},
                             {"gezogen", Word::bent},
                             {"vorgezogen", Word::before},
                             {"zurück", Word::release},
                             {"triller", Word::trill},
                             {"flageolett", Word::harmonic},
                             {"getippt", Word::tap},
                             {"kurz", Word::staccato},
                             {"bleibt", Word::stays},
                             {"zupfen", Word::pluck},
                             {"gezupft", Word::pluck},
                             {"gehalten", Word::held},
                             {"nochmal", Word::again},
                             {"daumen", Word::thumb},
                             {"gedämpft", Word::palmMute},
                             {"klingen", Word::letRing},
                             {"ende", Word::stop},
                             {"viertel", Word::quarter},
                             {"halbe", Word::half},
                             {"halber", Word::half},
                             {"ganze", Word::whole},
                             {"ganzer", Word::whole},
                             {"ton", Word::step},
                             {"halbton", Word::semitone},
                             {"achtel", Word::eighth},
                             {"sechzehntel", Word::sixteenth},
                             {"punktierte", Word::dotted},
                             {"triole", Word::triplet},
                             {"triolen", Word::triplet},
                             {"schlag", Word::beats},
                             {"schläge", Word::beats},
                             {"pro", Word::per},
                             {"pause", Word::rest},
                             {"alle", Word::all},
                             {"alles", Word::all},
                             {"zweimal", Word::times, 2},
                             {"dreimal", Word::times, 3},
                             {"viermal", Word::times, 4},
                             {"mal", Word::times},
                             {"mehr", Word::more},
                             {"dasselbe", Word::same},
                             {"aber", Word::but},
                             {"letzte", Word::last},
                             {"letzter", Word::last},
                             {"ohne", Word::without},
                             {"dann", Word::comma},
                             {"erste", Word::ordinal, 1},
                             {"zweite", Word::ordinal, 2},
                             {"dritte", Word::ordinal, 3},
                             {"vierte", Word::ordinal, 4},
                             {"fünfte", Word::ordinal, 5},
                             {"sechste", Word::ordinal, 6}};

bool isDigit(char c) {
  return c >= '0' && c <= '9';
}

/// Letters, and bytes of those beyond ASCII.
bool isLetter(char c) {
  return std::isalpha(static_cast<unsigned char>(c)) != 0 || static_cast<unsigned char>(c) >= 0x80;
}

std::string lower(std::string_view text) {
  std::string small(text);
  for (char& c : small)
    if (static_cast<unsigned char>(c) < 0x80) c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
  return small;
}

std::optional<Token> known(std::string_view text, bool german) {
  const std::string small = lower(text);
  const auto among = [&](const auto& list) -> std::optional<Token> {
    for (const Entry& e : list)
      if (e.text == small) return Token{e.word, e.value, {}, std::string(text)};
    return std::nullopt;
  };
  if (german)
    if (auto found = among(kGerman)) return found;
  return among(kEnglish);
}

class Cutter {
 public:
  Cutter(std::string_view line, bool german) : line_(line), german_(german) {}

  std::vector<Token> all() {
    while (at_ < line_.size()) next();
    return std::move(tokens_);
  }

 private:
  char here(std::size_t ahead = 0) const { return at_ + ahead < line_.size() ? line_[at_ + ahead] : '\0'; }

  void put(Token token, std::size_t length) {
    token.range = {at_, at_ + length};
    token.text = line_.substr(at_, length);
    tokens_.push_back(std::move(token));
    at_ += length;
  }

  std::size_t run(bool (*of)(char), std::size_t from) const {
    std::size_t end = from;
    while (end < line_.size() && of(line_[end])) ++end;
    return end - from;
  }

  void next() {
    const char c = here();
    if (std::isspace(static_cast<unsigned char>(c)) != 0 || c == '.') {
      ++at_;
    } else if (isDigit(c)) {
      number();
    } else if (isLetter(c)) {
      word();
    } else {
      const auto mark = known(line_.substr(at_, 1), german_);
      put(mark.value_or(Token{}), 1);
    }
  }

  void number() {
    const std::size_t digits = run(isDigit, at_), letters = run(isLetter, at_ + digits);
    const std::string_view whole = line_.substr(at_, digits + letters);
    if (const auto ordinal = letters > 0 ? known(whole, german_) : std::nullopt) return put(*ordinal, whole.size());
    int value = 0;
    const auto read = std::from_chars(line_.data() + at_, line_.data() + at_ + digits, value);
    put(read.ec == std::errc() ? Token{Word::number, value, {}, {}} : Token{}, digits);
    // A short mark follows at once: 5h7, 7p5, 12b14, 10r8, 8t.
    if (letters == 1 || (letters > 1 && isDigit(here(letters)))) {
      static constexpr std::pair<char, Word> kMarks[] = {{'h', Word::hammer}, {'p', Word::pull},    {'s', Word::slide},
                                                         {'b', Word::bend},   {'r', Word::release}, {'t', Word::tap}};
      for (const auto& [mark, meaning] : kMarks)
        if (here() == mark) return put({meaning, 0, {}, {}}, 1);
    }
  }

  void word() {
    // A chord's name goes on over digits and signs: "Am7", "D/F#", "C#m7b5".
    std::size_t length = run([](char c) { return isLetter(c) || c == '-'; }, at_);
    while (length > 0 && line_[at_ + length - 1] == '-') --length;
    const std::string_view plain = line_.substr(at_, length);
    const std::size_t digits = run(isDigit, at_ + length);
    int value = 0;
    if (digits > 0) std::from_chars(line_.data() + at_ + length, line_.data() + at_ + length + digits, value);
    if (digits > 0 && (plain == "x" || plain == "X")) return put({Word::times, value, {}, {}}, length + digits);
    std::size_t end = length;
    while (at_ + end < line_.size() && (isLetter(here(end)) || isDigit(here(end)) || here(end) == '#' ||
                                        (here(end) == '/' && isLetter(here(end + 1)))))
      ++end;
    const bool letter = length == 1 && ((plain[0] >= 'A' && plain[0] <= 'H') || (plain[0] >= 'a' && plain[0] <= 'h'));
    if (letter && digits > 0 && end == length + digits) return put({Word::joined, value, {}, {}}, end);
    if (end == length) {
      if (letter) return put({Word::letter, plain[0], {}, {}}, 1);
      if (const auto found = known(plain, german_)) return put(*found, length);
    }
    if (plain[0] >= 'A' && plain[0] <= 'H') return put({Word::name, 0, {}, {}}, end);
    if (const auto found = known(plain, german_)) return put(*found, length);
    put({}, end);
  }

  std::string_view line_;
  bool german_;
  std::size_t at_ = 0;
  std::vector<Token> tokens_;
};

}  // namespace

std::vector<Token> wordsOf(std::string_view line, bool german) {
  return Cutter(line, german).all();
}

}  // namespace ear
