// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/phrasebench/entry_line.h"

#include <QApplication>
#include <QHBoxLayout>
#include <QInputMethodEvent>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QTextCharFormat>
#include <QVBoxLayout>

#include "app/phrasebench/entry_echo.h"
#include "app/theme/pieces.h"
#include "app/theme/words.h"
#include "app/workbench/workbench.h"
#include "core/checking/claims.h"

namespace ear {
namespace {

/// A place in UTF-8 as one in a QString.
int placeIn(const QString& line, std::size_t byte) {
  return static_cast<int>(QString::fromUtf8(line.toUtf8().first(static_cast<qsizetype>(byte))).size());
}

}  // namespace

EntryLine::EntryLine(Workbench& bench, QWidget* parent) : QWidget(parent), bench_(bench) {
  auto* row = new QHBoxLayout(this);
  row->setContentsMargins(0, 0, 0, 0);
  row->setSpacing(14);
  auto* left = new QVBoxLayout;
  left->setSpacing(2);
  line_ = new QLineEdit(this);
  line_->setObjectName("entry-line");
  line_->setAccessibleName(tr("Notes in words"));
  line_->installEventFilter(this);
  word_ = wrappingLabel(this, "entry-word", Theme::Face::small);
  word_->setFixedHeight(28);
  auto* below = new QHBoxLayout;
  below->setSpacing(6);
  choices_ = new QHBoxLayout;
  choices_->setSpacing(4);
  below->addWidget(word_, 1);
  below->addLayout(choices_);
  left->addWidget(line_);
  left->addLayout(below);
  left->addStretch();
  echo_ = new EntryEcho(bench, this);
  row->addLayout(left, 5);
  row->addWidget(echo_, 6);
  connect(line_, &QLineEdit::textChanged, this, &EntryLine::read);
  connect(line_, &QLineEdit::returnPressed, this, &EntryLine::enter);
  connect(&bench.phrases(), &PhraseKeeper::changed, this, &EntryLine::refresh);
  connect(&bench.phraseEar(), &PhraseEar::changed, this, &EntryLine::refresh);
  refresh();
}

void EntryLine::start(const QString& begun) {
  line_->setFocus();
  if (!begun.isEmpty()) line_->setText(begun);
}

void EntryLine::refresh() {
  const PhraseEar& ear = bench_.phraseEar();
  const QStringList examples = {tr("12 on G"), tr("9 D G"), tr("3 slide 8 A"), tr("11 half bend"), tr("x 3 2 0 1 0")};
  line_->setPlaceholderText(
      ear.walking() ? tr("What sounds? A fret and a string, or a note; Return alone takes what was heard")
      : !bench_.phrases().chosen().empty()
          ? tr("Words about the chosen note, such as “bent half”, “finger 3”, or new notes from here on")
          : tr("Say notes: %1").arg(examples.join(" · ")));
  line_->setToolTip(
      tr("Frets and strings in either order, with what they do; Return writes them at the caret. The "
         "arrow up brings back what was said before  (Ctrl+Return)"));
  line_->setEnabled(bench_.take() != nullptr);
  read();
}

void EntryLine::read() {
  if (marking_) return;
  const QString line = line_->text();
  const EntryContext context = bench_.phrases().entryContext();
  const QString said = line.section('=', 0, 0), claim = line.section('=', 1);
  entry_ = said.trimmed().isEmpty() ? Entry{} : readEntry(said.toStdString(), context);
  wrongClaim_ =
      entry_.clear()
          ? text(wrongClaim(entry_, claim.toStdString(), context.guitar, context.schools, bench_.session().spelling()))
          : QString();
  slips_ =
      entry_.clear() ? slipsWhileTyped(entry_, context.before, bench_.phrases().slipContext()) : std::vector<Slip>{};
  // A tuplet is open until its last note is typed, and a bend has no size until it is said.
  std::erase_if(slips_,
                [](const Slip& s) { return s.kind == Slip::Kind::tupletOpen || s.weight() == Slip::Weight::unsaid; });
  echo_->show(entry_);
  markWords();
  ask();
  explain();
}

/// What was not understood is underlined where it stands, what is asked back as well, in another way.
void EntryLine::markWords() {
  QList<QInputMethodEvent::Attribute> marks;
  const QString line = line_->text();
  const auto mark = [&](TextRange range, QColor colour, QTextCharFormat::UnderlineStyle style) {
    QTextCharFormat format;
    format.setUnderlineStyle(style);
    format.setUnderlineColor(colour);
    const int from = placeIn(line, range.from), to = placeIn(line, range.to);
    marks << QInputMethodEvent::Attribute(QInputMethodEvent::TextFormat, from - line_->cursorPosition(), to - from,
                                          format);
  };
  const bool aboutChosen = entry_.steps.empty() && !bench_.phrases().chosen().empty();
  if (!aboutChosen)
    for (const EntryProblem& p : entry_.problems) mark(p.range, Theme::current().error, QTextCharFormat::WaveUnderline);
  for (const EntryQuestion& q : entry_.questions)
    mark(q.range, Theme::current().warning, QTextCharFormat::DashUnderline);
  for (const Slip& s : slips_)
    for (const int step : s.notes)
      if (step > 0)
        mark(entry_.steps[static_cast<std::size_t>(step) - 1].range, Theme::current().error,
             QTextCharFormat::WaveUnderline);
  marking_ = true;
  QInputMethodEvent event({}, marks);
  QApplication::sendEvent(line_, &event);
  marking_ = false;
}

/// The first open question with its choices as buttons.
void EntryLine::ask() {
  while (QLayoutItem* item = choices_->takeAt(0)) {
    item->widget()->deleteLater();
    delete item;
  }
  if (entry_.questions.empty()) return;
  const EntryQuestion& question = entry_.questions.front();
  int number = 0;
  for (const EntryQuestion::Choice& choice : question.choices) {
    ++number;
    auto* button = plainButton(this, "entry-choice", text(choice.label), tr("Alt+%1").arg(number));
    button->setShortcut(QKeySequence(tr("Alt+%1").arg(number)));
    button->setProperty("compact", true);
    connect(button, &QPushButton::clicked, this, [this, range = question.range, instead = text(choice.instead)] {
      QString line = line_->text();
      const int from = placeIn(line, range.from), to = placeIn(line, range.to);
      line.replace(from, to - from, instead);
      line_->setFocus();
      line_->setText(line);
    });
    choices_->addWidget(button);
  }
}

void EntryLine::explain() {
  const PhraseEar& ear = bench_.phraseEar();
  QString words;
  bool wrong = false;
  if (!entry_.questions.empty()) {
    words = text(entry_.questions.front().text);
  } else if (!entry_.problems.empty() && !(entry_.steps.empty() && !bench_.phrases().chosen().empty()) &&
             !ear.walking()) {
    words = text(entry_.problems.front().text);
    wrong = true;
  } else if (!wrongClaim_.isEmpty()) {
    words = wrongClaim_;
    wrong = true;
  } else if (!slips_.empty()) {
    words = text(sentenceOf(slips_.front(), bench_.phrases().slipContext(), bench_.session().notation(),
                            bench_.session().spelling()));
    wrong = true;
  } else if (ear.walking()) {
    const auto state = ear.walkState();
    words = tr("Attack %1 of %2, %3 as heard. %4").arg(state.step).arg(state.steps).arg(state.asHeard).arg(state.word);
  } else if (!ear.suggestions().empty()) {
    words = tr("%1 heard and not written yet, dotted in the tab. Take them all with Ctrl+Shift+Return, one by one with "
               "Shift+Return.")
                .arg(counted(static_cast<int>(ear.suggestions().size()), tr("note"), tr("notes")));
  } else if (ear.listening()) {
    words = tr("Listening …");
  } else if (line_->text().isEmpty()) {
    words = bench_.phrases().phrase() != nullptr && !bench_.phrases().view().timed
                ? tr("The beats of this take are not known: lengths are written, but nothing says when they sound.")
                : QString();
  }
  word_->setText(words);
  word_->setProperty("tone", wrong ? "warning" : "soft");
  word_->style()->unpolish(word_);
  word_->style()->polish(word_);
}

void EntryLine::enter() {
  PhraseEar& ear = bench_.phraseEar();
  const QString line = line_->text().trimmed();
  if (ear.walking()) {
    line_->clear();
    ear.answer(line);
    return;
  }
  if (line.isEmpty()) return;
  if (entry_.steps.empty() && !bench_.phrases().chosen().empty()) {
    if (const QString problem = bench_.phrases().sayOfChosen(line); !problem.isEmpty()) {
      word_->setText(problem);
      return;
    }
  } else if (!entry_.clear() || entry_.steps.empty() || !wrongClaim_.isEmpty()) {
    return;  // what is wrong stands below it
  } else {
    bench_.phrases().put(entry_);
  }
  before_ << line;
  recalled_ = before_.size();
  line_->clear();
}

bool EntryLine::eventFilter(QObject* watched, QEvent* event) {
  if (event->type() != QEvent::KeyPress) return QWidget::eventFilter(watched, event);
  const auto* key = static_cast<QKeyEvent*>(event);
  const bool plain = key->modifiers() == Qt::NoModifier;
  if (plain && key->key() == Qt::Key_Up && recalled_ > 0) {
    line_->setText(before_[--recalled_]);
    return true;
  }
  if (plain && key->key() == Qt::Key_Down && recalled_ < before_.size()) {
    line_->setText(++recalled_ < before_.size() ? before_[recalled_] : QString());
    return true;
  }
  return QWidget::eventFilter(watched, event);
}

}  // namespace ear
