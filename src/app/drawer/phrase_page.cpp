// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawer/phrase_page.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QSpinBox>
#include <QTableWidget>

#include "app/drawer/questions_box.h"
#include "app/drawer/scale_box.h"
#include "app/phrasebench/note_words.h"
#include "app/theme/pieces.h"
#include "app/theme/words.h"
#include "app/workbench/workbench.h"
#include "core/base/text.h"
#include "core/study/kept_tree.h"
#include "core/theory/harmonic.h"
#include "core/theory/interval.h"

namespace ear {
namespace {

constexpr std::size_t kShownWays = 4;
constexpr Seconds kBehindEnd{0.2};
constexpr int kMostDoubts = 210;  // pixels

/// "minor third (3 frets)".
QString intervalOf(const Guitar& guitar, const Note& one, const Note& other) {
  const int apart = std::abs(guitar.pitch(other.place) - guitar.pitch(one.place));
  return apart == 0 ? PhrasePage::tr("nothing")
                    : QString("%1 (%2)").arg(text(intervalName(apart)),
                                             counted(apart, PhrasePage::tr("fret"), PhrasePage::tr("frets")));
}

}  // namespace

PhrasePage::PhrasePage(Workbench& bench, QWidget* parent) : QWidget(parent), bench_(bench) {
  auto* column = pageColumn(this);
  hint_ = wrappingLabel(this, "phrase-hint", Theme::Face::sentence);
  column->addWidget(hint_);
  name_ = new QLineEdit(this);
  name_->setObjectName("phrase-name");
  name_->setPlaceholderText(tr("Name of the phrase"));
  name_->setAccessibleName(tr("Name of the phrase"));
  number_ = new QSpinBox(this);
  number_->setObjectName("phrase-number");
  number_->setRange(0, 99);
  number_->setSpecialValueText(tr("no number"));
  number_->setAccessibleName(tr("Number in the chain"));
  number_->setToolTip(tr("Its place in the chain in which the solo is taught"));
  faith_ = new QComboBox(this);
  faith_->setObjectName("phrase-faith");
  faith_->addItems({tr("as recorded"), tr("arranged"), tr("in the style")});
  faith_->setAccessibleName(tr("How true it is to the recording"));
  faith_->setToolTip(tr("As recorded; arranged, as parts that were merged for one pair of hands; or in the style"));
  column->addWidget(name_);
  column->addLayout(rowOf({number_, faith_}));
  column->addWidget(new ScaleBox(bench, this));
  remark_ = new QLineEdit(this);
  remark_->setObjectName("phrase-remark");
  remark_->setPlaceholderText(tr("A remark, such as the hand's position or the tone"));
  remark_->setAccessibleName(tr("Remark on the phrase"));
  column->addWidget(remark_);
  made_ = new QLineEdit(this);
  made_->setObjectName("phrase-made");
  made_->setPlaceholderText(tr("What is made easier, such as “without the bends”"));
  made_->setAccessibleName(tr("What is made easier in this level"));
  levelAway_ = plainButton(this, "phrase-level-away", tr("Remove"), tr("Take this level away; Ctrl+Z brings it back"));
  auto* level = new QHBoxLayout;
  level->addWidget(made_, 1);
  level->addWidget(levelAway_);
  column->addLayout(level);
  link_ = wrappingLabel(this, "phrase-link", Theme::Face::text);
  detach_ = plainButton(this, "phrase-detach", tr("Make it its own"),
                        tr("The notes become its own; a correction of the other one no longer reaches it"));
  column->addWidget(link_);
  beside_ = plainButton(this, "phrase-beside", tr("Side by side"), tr("Both, one below the other, on the bench"));
  beside_->setCheckable(true);
  column->addLayout(rowOf({detach_, beside_}));
  column->addSpacing(6);
  column->addWidget(caption(tr("What is wrong or open in it"), this));
  state_ = wrappingLabel(this, "phrase-state", Theme::Face::text);
  column->addWidget(state_);
  doubts_ = new QTableWidget(0, 2, this);
  doubts_->setObjectName("phrase-doubts");
  doubts_->setAccessibleName(tr("What the checks found"));
  doubts_->setHorizontalHeaderLabels({tr("Where"), tr("What")});
  doubts_->verticalHeader()->hide();
  doubts_->verticalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
  doubts_->setEditTriggers(QAbstractItemView::NoEditTriggers);
  doubts_->setSelectionBehavior(QAbstractItemView::SelectRows);
  doubts_->setShowGrid(false);
  doubts_->setWordWrap(true);
  doubts_->horizontalHeader()->setSectionResizeMode(1, QHeaderView::Stretch);
  doubts_->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft);
  doubts_->setColumnWidth(0, 64);
  doubts_->setToolTip(tr("Click one to choose its note; Return plays the spot, once more what is written"));
  column->addWidget(doubts_);
  check_ = plainButton(this, "phrase-check", tr("Check by ear"),
                       tr("Compare every note with the recording, the part isolated as it sits  (Ctrl+Shift+E)"));
  column->addLayout(rowOf({check_}));
  column->addSpacing(6);
  column->addWidget(caption(tr("The chosen notes"), this));
  note_ = wrappingLabel(this, "phrase-note", Theme::Face::text);
  column->addWidget(note_);
  confirm_ = plainButton(this, "phrase-confirm", tr("Confirm by ear"), tr("You heard that it is so"));
  meant_ =
      plainButton(this, "phrase-meant", tr("It is meant"), tr("The note lies outside of the stated scale on purpose"));
  column->addLayout(rowOf({confirm_, meant_}));
  ways_ = new QListWidget(this);
  ways_->setObjectName("phrase-ways");
  ways_->setAccessibleName(tr("Other places on the neck"));
  ways_->setToolTip(tr("Ways to play these notes, the easiest first; double-click or Return takes one"));
  ways_->setMaximumHeight(118);
  ways_->setWordWrap(true);
  ways_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  column->addWidget(ways_);
  questions_ = new QuestionsBox(bench, this);
  column->addWidget(questions_);
  column->addStretch();

  PhraseKeeper& phrases = bench.phrases();
  connect(name_, &QLineEdit::textEdited, this, [&phrases](const QString& words) {
    phrases.describe(
        tr("Name the phrase"), [&](Phrase& p) { p.name = words.toStdString(); }, "name");
  });
  connect(remark_, &QLineEdit::textEdited, this, [&phrases](const QString& words) {
    phrases.describe(
        tr("Remark on the phrase"), [&](Phrase& p) { p.remark = words.toStdString(); }, "remark");
  });
  connect(made_, &QLineEdit::textEdited, this, [&phrases](const QString& words) {
    phrases.describe(
        tr("What is made easier"),
        [&, level = phrases.level()](Phrase& p) { p.levels.change()[level].made = words.toStdString(); }, "made");
  });
  connect(levelAway_, &QPushButton::clicked, &phrases, &PhraseKeeper::removeLevel);
  connect(number_, &QSpinBox::valueChanged, this, [&phrases](int n) {
    phrases.describe(
        tr("Number the phrase"), [&](Phrase& p) { p.number = n; }, "number");
  });
  connect(faith_, &QComboBox::activated, this, [&phrases](int i) {
    phrases.describe(tr("How true it is"), [&](Phrase& p) { p.faith = static_cast<Faith>(i); });
  });
  connect(detach_, &QPushButton::clicked, this, [this, &phrases] {
    const Phrase* p = phrases.phrase();
    p != nullptr && p->link ? phrases.detach() : phrases.linkTo(likeThis());
  });
  connect(beside_, &QPushButton::toggled, this, [this, &phrases](bool on) {
    const Phrase* p = phrases.phrase();
    emit besideWanted(!on || p == nullptr ? std::string() : p->link ? p->link->to : likeThis());
  });
  connect(check_, &QPushButton::clicked, this,
          [this] { bench_.phraseEar().listening() ? bench_.phraseEar().stopListening() : bench_.phraseEar().check(); });
  connect(confirm_, &QPushButton::clicked, &phrases, &PhraseKeeper::confirmChosen);
  connect(doubts_, &QTableWidget::cellClicked, this,
          [this](int row, int) { bench_.phrases().choose({rows_[static_cast<std::size_t>(row)]}); });
  connect(doubts_, &QTableWidget::cellActivated, this, [this](int row, int) {
    const std::set<int> note = {rows_[static_cast<std::size_t>(row)]};
    // The spot first; where it loops already, what is written there.
    const bool again = bench_.phrases().chosen() == note && bench_.transport().playing();
    bench_.phrases().choose(note);
    again ? playWritten(bench_) : loopChosen(bench_);
  });
  connect(meant_, &QPushButton::clicked, &phrases, [&phrases] { phrases.meanChosen(true); });
  connect(ways_, &QListWidget::itemActivated, this, [this, &phrases](QListWidgetItem* item) {
    const int row = ways_->row(item);
    if (row < placings_) return phrases.placeAnew(static_cast<std::size_t>(row));
    phrases.changeChosen(tr("As a harmonic"), [place = harmonics_[static_cast<std::size_t>(row - placings_)]](Note& n) {
      n.place = place;
      n.harmonic = PlayedHarmonic{};
      n.bend.reset();
    });
  });
  connect(&phrases, &PhraseKeeper::changed, this, &PhrasePage::refresh);
  connect(&bench.phraseEar(), &PhraseEar::changed, this, &PhrasePage::refresh);
  connect(&bench.phraseEar(), &PhraseEar::progressed, this, [this](double share) {
    if (bench_.phraseEar().listening()) state_->setText(tr("Listening … %1").arg(percent(share)));
  });
  refresh();
}

void PhrasePage::describeLevel() {
  made_->setFocus();
}

/// Another phrase that is written nearly like the one in hand, or sounds where it is written; empty: none.
std::string PhrasePage::likeThis() const {
  if (const auto near = bench_.phrases().nearest()) return near->other;
  const auto& alike = bench_.phraseEar().alike();
  return alike ? alike->other : std::string();
}

void PhrasePage::showLink() {
  const Phrase* p = bench_.phrases().phrase();
  const bool linked = p != nullptr && p->link.has_value();
  const auto near = bench_.phrases().nearest();
  const auto& alike = bench_.phraseEar().alike();
  const bool tells = linked || near || alike;
  for (QWidget* w : std::initializer_list<QWidget*>{link_, detach_, beside_}) w->setVisible(tells);
  if (beside_->isChecked() && !tells) beside_->setChecked(false);
  detach_->setText(linked ? tr("Make it its own") : tr("Make it a link"));
  detach_->setToolTip(linked ? tr("The notes become its own; a correction of the other one no longer reaches it")
                             : tr("Only the differences are kept; a correction of the other one reaches this one"));
  if (near) {
    const Phrase* like = std::as_const(bench_.document()).study().phrase(near->other);
    const int apart = std::max(static_cast<int>(near->differing.size()), near->missing);
    link_->setText(apart == 0 ? tr("Written just like “%1”.").arg(text(like->name))
                              : tr("Nearly the same as “%1”: %2. Meant so, or a slip in one of them?")
                                    .arg(text(like->name), counted(apart, tr("note differs"), tr("notes differ"))));
  }
  if (!near && !linked && alike)
    if (const Phrase* like = std::as_const(bench_.document()).study().phrase(alike->other))
      link_->setText(tr("“%1” is written otherwise in %2, and sounds here all the same. Recorded alike?")
                         .arg(text(like->name), counted(alike->differing, tr("note"), tr("notes"))));
  if (!linked) return;
  const Phrase* other = std::as_const(bench_.document()).study().phrase(p->link->to);
  const int changed = static_cast<int>(p->link->changed.size() + p->link->without.size());
  const QString problem = text(bench_.phrases().view().shown.problem);
  QString words = tr("The same as “%1”").arg(other != nullptr ? text(other->name) : tr("a phrase that is gone"));
  if (p->link->frets != 0) words += tr(", %1 frets up").arg(p->link->frets);
  words += changed == 0 ? tr(", note for note.")
                        : tr(", but for %1, starred in the tab.").arg(counted(changed, tr("note"), tr("notes")));
  if (!p->link->how.empty()) words += " " + text(p->link->how);
  link_->setText(problem.isEmpty() ? words : problem);
}

void PhrasePage::listDoubts() {
  const auto doubts = doubtsOf(bench_);
  rows_.clear();
  doubts_->setRowCount(static_cast<int>(doubts.size()));
  const Phrase* p = bench_.phrases().phrase();
  int row = 0;
  for (const Doubt& d : doubts) {
    rows_.push_back(d.note);
    const QString where = p != nullptr ? text(clockTenths(bench_.phrases().timeOf(*p, d.at))) : QString();
    doubts_->setItem(row, 0, new QTableWidgetItem(where));
    auto* what = new QTableWidgetItem(d.sentence);
    what->setToolTip(d.byEar ? tr("By ear") : tr("By arithmetic"));
    doubts_->setItem(row++, 1, what);
  }
  doubts_->setVisible(!doubts.empty());
  doubts_->resizeRowsToContents();
  int high = doubts_->horizontalHeader()->height() + 4;
  for (int r = 0; r < doubts_->rowCount(); ++r) high += doubts_->rowHeight(r);
  doubts_->setFixedHeight(std::min(high, kMostDoubts));
  const bool ear = bench_.phraseEar().checked();
  const int extra = static_cast<int>(bench_.phraseEar().unwritten().size());
  QString state = p == nullptr || bench_.phrases().view().shown.notes.empty() ? tr("Nothing is written yet.")
                  : doubts.empty() ? (ear ? tr("Every note is heard where it is written.")
                                          : tr("The arithmetic adds up. The recording was not asked yet."))
                                   : tr("%1 to look at, the likeliest first.")
                                         .arg(counted(static_cast<int>(doubts.size()), tr("thing"), tr("things")));
  if (ear && extra > 0)
    state +=
        tr(" %1 heard and not written, perhaps of another part.").arg(counted(extra, tr("note is"), tr("notes are")));
  if (const auto shift = bench_.phraseEar().commonShift(); ear && shift)
    state =
        tr("Nearly all of it sounds %1 %2 than written: strings tuned %3, or a capo? Settle the guitar (Shift+G), then "
           "check again.")
            .arg(counted(std::abs(*shift), tr("semitone"), tr("semitones")), *shift < 0 ? tr("lower") : tr("higher"),
                 *shift < 0 ? tr("down") : tr("up"));
  if (p != nullptr && bench_.take() != nullptr && bench_.take()->duration > Seconds(0) &&
      p->span.end > bench_.take()->duration + kBehindEnd)
    state = tr("It ends behind the end of this take: is its time that of another recording?");
  if (bench_.phraseEar().listening()) state = tr("Listening …");
  state_->setText(state);
  check_->setText(bench_.phraseEar().listening() ? tr("Stop") : tr("Check by ear"));
  check_->setEnabled(p != nullptr);
}

void PhrasePage::showChosen() {
  const auto some = bench_.phrases().chosenNotes();
  const PhraseKeeper::View& view = bench_.phrases().view();
  note_->setText(some.empty()       ? tr("None. Click a note in the tab, or step through it with the arrows.")
                 : some.size() == 1 ? noteTip(bench_, some.front().id)
                 : some.size() == 2 ? tr("Two notes, %1 apart.").arg(intervalOf(view.guitar, some.front(), some.back()))
                                    : tr("%1 notes.").arg(some.size()));
  confirm_->setEnabled(!some.empty());
  ways_->clear();
  const auto ways = some.empty() ? std::vector<LinePlacing>{} : bench_.phrases().waysOfChosen(kShownWays);
  for (const LinePlacing& way : ways) {
    QString words = capitalised(text(sentenceOf(way)));
    if (some.size() == 1 && !way.places.empty())
      words = capitalised(text(placeName(bench_.session().notation(), view.guitar, way.places.front(),
                                         bench_.document().fretsFromNut(), bench_.session().spelling())));
    bool here = way.places.size() == some.size();
    for (std::size_t i = 0; here && i < some.size(); ++i) here = way.places[i] == some[i].place;
    ways_->addItem(here ? tr("%1 (as written)").arg(words) : words);
  }
  placings_ = ways_->count();
  harmonics_.clear();
  if (some.size() == 1 && !some.front().harmonic) listHarmonics(some.front());
  ways_->setVisible(ways_->count() > 0);
  meant_->setVisible(std::any_of(view.slips.begin(), view.slips.end(), [&](const Slip& slip) {
    return slip.kind == Slip::Kind::outsideScale && bench_.phrases().chosen().contains(slip.notes.front());
  }));
}

/// The same pitch as a natural harmonic, where a string has it.
void PhrasePage::listHarmonics(const Note& note) {
  const Guitar& guitar = bench_.phrases().view().guitar;
  for (const HarmonicPlace& h : harmonicPlaces(guitar, guitar.pitch(note.place))) {
    QString words = tr("Harmonic, touch %1")
                        .arg(text(placeName(bench_.session().notation(), guitar, h.touched,
                                            bench_.document().fretsFromNut(), bench_.session().spelling())));
    if (std::abs(h.off.value) >= 1) words += tr(" (%1 cents off)").arg(text(withSign(h.off.value, 0)));
    ways_->addItem(words);
    harmonics_.push_back(h.touched);
  }
}

void PhrasePage::refresh() {
  const Phrase* p = bench_.phrases().phrase();
  const QSignalBlocker a(name_), b(remark_), c(number_), d(faith_);
  const auto keep = [](QLineEdit* line, const QString& words) {
    if (line->text() == words) return;
    line->setText(words);
    line->setCursorPosition(0);
  };
  keep(name_, p != nullptr ? text(p->name) : QString());
  const std::size_t level = bench_.phrases().level();
  keep(made_, p != nullptr && level > 0 ? text((*p->levels)[level].made) : QString());
  made_->setVisible(level > 0);
  levelAway_->setVisible(level > 0);
  keep(remark_, p != nullptr ? text(p->remark) : QString());
  number_->setValue(p != nullptr ? p->number : 0);
  faith_->setCurrentIndex(p != nullptr ? static_cast<int>(p->faith) : 0);
  for (QWidget* w : std::initializer_list<QWidget*>{name_, remark_, number_, faith_}) w->setEnabled(p != nullptr);
  const auto notes = static_cast<int>(bench_.phrases().view().shown.notes.size());
  hint_->setText(p == nullptr ? tr("No phrase in hand")
                              : tr("%1, %2 to %3")
                                    .arg(counted(notes, tr("note"), tr("notes")), text(clockTenths(p->span.start)),
                                         text(clockTenths(p->span.end))));
  if (p == nullptr && bench_.take() != nullptr) {
    QStringList open;
    for (const Section& s : unwrittenSections(bench_.document().study(), bench_.take()->id, bench_.form().form()))
      open << tr("%1 %2").arg(text(s.letter), text(clockTime(s.span.start)));
    if (!open.isEmpty()) hint_->setText(tr("No phrase in hand. Nothing is written in: %1").arg(open.join(", ")));
  }
  hint_->setFont(Theme::font(p == nullptr ? Theme::Face::text : Theme::Face::sentence));
  showLink();
  listDoubts();
  showChosen();
}

}  // namespace ear
