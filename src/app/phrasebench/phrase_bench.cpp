// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/phrasebench/phrase_bench.h"

#include <QAction>
#include <QComboBox>
#include <QHBoxLayout>
#include <QMenu>
#include <QPushButton>
#include <QScrollArea>
#include <QScrollBar>
#include <QVBoxLayout>

#include "app/commands/commands.h"
#include "app/phrasebench/entry_line.h"
#include "app/phrasebench/tab_view.h"
#include "app/theme/pieces.h"
#include "app/theme/words.h"
#include "app/workbench/workbench.h"
#include "core/base/text.h"

namespace ear {
namespace {

constexpr int kLeast = 276;  // pixels

struct Length {
  const char* name;
  Beats beats;
};
const Length kLengths[] = {{QT_TRANSLATE_NOOP("ear::PhraseBench", "quarters"), Beats(1)},
                           {QT_TRANSLATE_NOOP("ear::PhraseBench", "eighths"), Beats(1, 2)},
                           {QT_TRANSLATE_NOOP("ear::PhraseBench", "eighth triplets"), Beats(1, 3)},
                           {QT_TRANSLATE_NOOP("ear::PhraseBench", "sixteenths"), Beats(1, 4)}};

/// A button that does what a command does, and looks as it does.
QPushButton* buttonFor(QWidget* parent, QAction* action, const QString& title) {
  auto* button = plainButton(parent, "bench-command", title, action->toolTip());
  button->setProperty("compact", true);
  button->setFixedHeight(30);
  const auto follow = [button, action] {
    const QString key = action->shortcut().toString(QKeySequence::NativeText);
    button->setToolTip(key.isEmpty() ? action->toolTip() : QString("%1  (%2)").arg(action->toolTip(), key));
    button->setEnabled(action->isEnabled());
    button->setCheckable(action->isCheckable());
    button->setChecked(action->isChecked());
  };
  QObject::connect(action, &QAction::changed, button, follow);
  QObject::connect(button, &QPushButton::clicked, action, &QAction::trigger);
  follow();
  return button;
}

}  // namespace

PhraseBench::PhraseBench(Workbench& bench, const Commands& commands, QWidget* parent)
    : QWidget(parent), bench_(bench), commands_(commands) {
  setObjectName("phrase-bench");
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(12, 4, 12, 6);
  column->setSpacing(4);
  column->addWidget(head());
  tab_ = new TabView(bench, this);
  scroll_ = new QScrollArea(this);
  scroll_->setObjectName("tab-scroll");
  scroll_->setWidgetResizable(true);
  scroll_->setFocusPolicy(Qt::NoFocus);
  scroll_->setWidget(tab_);
  setMinimumHeight(kLeast);
  scroll_->setVerticalScrollBarPolicy(Qt::ScrollBarAsNeeded);
  column->addWidget(scroll_, 1);
  entry_ = new EntryLine(bench, this);
  column->addWidget(entry_);
  connect(tab_, &TabView::caretMoved, this, &PhraseBench::seeCaret);
  connect(tab_, &TabView::wordsWanted, entry_, &EntryLine::start);
  connect(&bench.phrases(), &PhraseKeeper::changed, this, &PhraseBench::refresh);
  connect(&bench.written(), &WrittenVoice::changed, this, &PhraseBench::refresh);
  connect(&bench.phraseEar(), &PhraseEar::changed, this, &PhraseBench::refresh);
  refresh();
}

QWidget* PhraseBench::head() {
  auto* head = new QWidget(this);
  auto* row = new QHBoxLayout(head);
  row->setContentsMargins(0, 0, 0, 0);
  row->setSpacing(6);
  const auto box = [&](const char* name, const QString& says, const QString& tip) {
    auto* combo = new QComboBox(head);
    combo->setObjectName(name);
    combo->setAccessibleName(says);
    combo->setToolTip(tip);
    combo->setFixedHeight(30);
    row->addWidget(combo);
    return combo;
  };
  phrases_ = box("bench-phrases", tr("Phrase"), tr("The phrase that is written; it becomes the passage"));
  phrases_->setMinimumWidth(150);
  phrases_->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
  levels_ = box("bench-levels", tr("Level"), tr("As recorded, or an easier way to play it"));
  voices_ =
      box("bench-voices", tr("Voice"), tr("Which voice is written: the upper one, or what the thumb plays beneath"));
  voices_->addItems({tr("upper"), tr("thumb")});
  lengths_ = box("bench-lengths", tr("Usual length"), tr("How long a note is of which no length is said"));
  for (const Length& l : kLengths) lengths_->addItem(tr(l.name));
  sound_ = box("bench-sound", tr("What is written sounds"),
               tr("What is written, played on strings along the recording  (Ctrl+Shift+P)"));
  sound_->addItems({tr("tab silent"), tr("tab along"), tr("an ear each"), tr("tab alone")});
  row->addWidget(buttonFor(head, commands_["suggest"], tr("Suggest")));
  row->addWidget(buttonFor(head, commands_["walk"], tr("Walk")));
  allLevels_ = plainButton(head, "bench-all-levels", tr("Levels"), tr("Every level, one below the other"));
  allLevels_->setCheckable(true);
  allLevels_->setProperty("compact", true);
  allLevels_->setFixedHeight(30);
  row->addWidget(allLevels_);
  connect(phrases_, &QComboBox::activated, this,
          [this](int i) { bench_.phrases().open(phrases_->itemData(i).toString().toStdString()); });
  connect(levels_, &QComboBox::activated, this,
          [this](int i) { bench_.phrases().setLevel(static_cast<std::size_t>(i)); });
  connect(voices_, &QComboBox::activated, this, [this](int i) { bench_.phrases().setVoice(i); });
  connect(lengths_, &QComboBox::activated, this,
          [this](int i) { bench_.phrases().setUsualLength(kLengths[static_cast<std::size_t>(i)].beats); });
  connect(sound_, &QComboBox::activated, this,
          [this](int i) { bench_.written().setMode(static_cast<WrittenVoice::Mode>(i)); });
  connect(allLevels_, &QPushButton::toggled, this, [this](bool on) { tab_->showAllLevels(on); });
  return head;
}

QSize PhraseBench::sizeHint() const {
  return {900, 282};
}

void PhraseBench::write() {
  entry_->start({});
}

void PhraseBench::refresh() {
  const PhraseKeeper& keeper = bench_.phrases();
  const Phrase* inHand = keeper.phrase();
  const QSignalBlocker a(phrases_), b(levels_), c(voices_), d(lengths_), e(sound_);
  phrases_->clear();
  for (const Phrase* p : keeper.ofTake()) {
    QString name = p->name.empty() ? tr("Phrase") : text(p->name);
    if (p->number > 0) name = tr("%1 · %2").arg(p->number).arg(name);
    if (p->link) name += tr(" (again)");
    phrases_->addItem(tr("%1   %2").arg(name, text(clockTenths(p->span.start))), text(p->id));
  }
  const bool any = phrases_->count() > 0;
  if (!any) phrases_->addItem(tr("No phrase yet"));
  phrases_->setEnabled(any);
  phrases_->setPlaceholderText(tr("No phrase here"));
  phrases_->setCurrentIndex(inHand != nullptr ? phrases_->findData(text(inHand->id)) : any ? -1 : 0);
  levels_->clear();
  if (inHand != nullptr)
    for (std::size_t i = 0; i < inHand->levels->size(); ++i) {
      const std::string& name = (*inHand->levels)[i].name;
      levels_->addItem(!name.empty() ? text(name) : i == 0 ? tr("as recorded") : tr("level %1").arg(i + 1));
    }
  levels_->setCurrentIndex(static_cast<int>(keeper.level()));
  const bool several = inHand != nullptr && inHand->levels->size() > 1;
  levels_->setVisible(several);
  allLevels_->setVisible(several);
  voices_->setCurrentIndex(keeper.caret().voice);
  for (int i = 0; i < lengths_->count(); ++i)
    if (kLengths[static_cast<std::size_t>(i)].beats == keeper.usualLength()) lengths_->setCurrentIndex(i);
  sound_->setCurrentIndex(static_cast<int>(bench_.written().mode()));
}

void PhraseBench::seeCaret() {
  const QRect caret = tab_->caretRect();
  if (!caret.isEmpty()) scroll_->ensureVisible(caret.center().x(), caret.center().y(), 80, 40);
}

}  // namespace ear
