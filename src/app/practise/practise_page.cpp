// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/practise/practise_page.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDateTime>
#include <QFormLayout>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QShortcut>
#include <QSpinBox>
#include <QVBoxLayout>
#include <algorithm>

#include "app/theme/pieces.h"
#include "app/theme/words.h"
#include "core/base/text.h"
#include "core/study/kept_tree.h"

namespace ear {
namespace {

constexpr int kNumber = 82;  // pixels of a field

QString span(TimeSpan s) {
  return QObject::tr("%1 to %2").arg(text(clockTenths(s.start)), text(clockTenths(s.end)));
}

QString entryWords(const PracticeEntry& e) {
  const QString when = QLocale().toString(QDateTime::fromString(text(e.when), Qt::ISODate), QLocale::ShortFormat);
  const QString times = counted(e.times, QObject::tr("time"), QObject::tr("times"));
  switch (e.kind) {
    case PracticeEntry::Kind::ladder:
      return QObject::tr("%1\nLadder, %2: up to %3, %4").arg(when, span(e.span), percent(e.speed), times);
    case PracticeEntry::Kind::chain:
      return QObject::tr("%1\nChain, %2: up to %3 at %4")
          .arg(when, span(e.span), e.reached.empty() ? "1" : text(e.reached), percent(e.speed));
    case PracticeEntry::Kind::answer:
      return QObject::tr("%1\nCall and answer, %2: %3 at %4").arg(when, span(e.span), times, percent(e.speed));
  }
  return {};
}

}  // namespace

QString practiceWords(const PracticeKeeper& practice) {
  if (!practice.running()) return {};
  const auto s = practice.state();
  switch (*practice.kind()) {
    case PracticeEntry::Kind::ladder:
      return s.wanted > 0 ? PractisePage::tr("Step %1 of %2, %3: %4 of %5 clean")
                                .arg(s.step)
                                .arg(s.steps)
                                .arg(s.name)
                                .arg(s.done)
                                .arg(s.wanted)
                          : PractisePage::tr("The top, %1: %2")
                                .arg(s.name, counted(s.done, PractisePage::tr("time"), PractisePage::tr("times")));
    case PracticeEntry::Kind::chain:
      return PractisePage::tr("Phrase %1: time %2 of %3").arg(s.name).arg(std::min(s.done + 1, s.wanted)).arg(s.wanted);
    case PracticeEntry::Kind::answer:
      return capitalised(s.name);
  }
  return {};
}

PractisePage::PractisePage(Workbench& bench, QWidget* parent) : QWidget(parent), bench_(bench) {
  auto* column = pageColumn(this);
  sentence_ = wrappingLabel(this, "practise-sentence", Theme::Face::sentence);
  detail_ = wrappingLabel(this, "soft", Theme::Face::text);
  for (auto* label : {sentence_, detail_}) column->addWidget(label);
  stop_ = plainButton(this, "practise-stop", tr("End it"),
                      tr("Back to the plain loop; what was reached goes into the log"));
  clean_ = plainButton(this, "practise-clean", tr("That was clean"),
                       tr("Counts this repetition of a ladder that goes on by key  (L)"));
  column->addLayout(rowOf({clean_, stop_}));
  column->addWidget(makeLadder());
  column->addWidget(makeChain());
  breath_ = new QDoubleSpinBox(this);
  breath_->setObjectName("practise-breath");
  breath_->setAccessibleName(tr("Breath in beats"));
  breath_->setRange(0, 16);
  breath_->setDecimals(1);
  breath_->setSingleStep(0.5);
  breath_->setSuffix(tr(" beats"));
  breath_->setFixedWidth(kNumber + 44);
  breath_->setToolTip(tr("Silence behind each time"));
  bar_ = new QCheckBox(tr("with a count"), this);
  bar_->setObjectName("practise-bar");
  bar_->setToolTip(tr("A bar of clicks ends each breath"));
  column->addLayout(rowOf({new QLabel(tr("Breath"), this), breath_, bar_}));
  column->addWidget(makeLog(), 1);
  connect(stop_, &QPushButton::clicked, this, [this] { bench_.practice().stop(); });
  connect(clean_, &QPushButton::clicked, this, [this] { bench_.practice().clean(); });
  connect(breath_, &QDoubleSpinBox::valueChanged, this, &PractisePage::store);
  connect(bar_, &QCheckBox::toggled, this, &PractisePage::store);
  connect(&bench.practice(), &PracticeKeeper::changed, this, &PractisePage::refresh);
  bench.session().whenChanged(kOfBrief | Changed::passages | Changed::phrases | Changed::log, this,
                              [this] { listPhrases(), listLog(), refresh(); });
  connect(&bench.transport(), &Transport::changed, this, &PractisePage::refresh);
  connect(&bench.selection(), &Selection::changed, this, &PractisePage::refresh);
  connect(&bench.analysis(), &Analysis::soundChanged, this, &PractisePage::refresh);
  listPhrases();
  listLog();
  refresh();
}

QSpinBox* PractisePage::number(const char* name, const QString& title, int low, int high, const QString& suffix) {
  auto* box = new QSpinBox(this);
  box->setObjectName(name);
  box->setAccessibleName(title);
  box->setRange(low, high);
  box->setSuffix(suffix);
  box->setFixedWidth(suffix.isEmpty() ? kNumber : kNumber + 26);
  connect(box, &QSpinBox::valueChanged, this, &PractisePage::store);
  return box;
}

QWidget* PractisePage::makeLadder() {
  auto* group = new QWidget(this);
  auto* column = new QVBoxLayout(group);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(6);
  column->addWidget(caption(tr("Ladder, in % of full speed"), group));
  from_ = number("ladder-from", tr("From"), 20, 150, {});
  to_ = number("ladder-to", tr("To"), 20, 150, {});
  step_ = number("ladder-step", tr("Step"), 1, 50, {});
  repeats_ = number("ladder-clean", tr("Clean repetitions on each step"), 1, 99, tr(" times"));
  countedBy_ = new QComboBox(group);
  countedBy_->setObjectName("ladder-by");
  countedBy_->addItems({tr("each counts"), tr("on key L")});
  countedBy_->setToolTip(tr("Whether every repetition counts, or only those that you say were clean"));
  auto* speeds = new QHBoxLayout;
  speeds->setSpacing(4);
  for (QWidget* w :
       std::initializer_list<QWidget*>{from_, new QLabel(tr("to"), group), to_, new QLabel(tr("by"), group), step_})
    speeds->addWidget(w);
  auto* counts = new QHBoxLayout;
  counts->setSpacing(4);
  counts->addWidget(repeats_);
  counts->addWidget(countedBy_, 1);
  ladder_ =
      plainButton(group, "practise-ladder", tr("Slow to fast"), tr("Loop the passage from slow to fast  (Shift+L)"));
  column->addLayout(speeds);
  column->addLayout(counts);
  answer_ = plainButton(group, "practise-answer", tr("Call and answer"),
                        tr("Play the passage once, then leave the same length silent for you"));
  column->addLayout(rowOf({ladder_, answer_}));
  connect(countedBy_, &QComboBox::currentIndexChanged, this, &PractisePage::store);
  connect(ladder_, &QPushButton::clicked, this, [this] { bench_.practice().startLadder(); });
  connect(answer_, &QPushButton::clicked, this, [this] { bench_.practice().startAnswer(); });
  return group;
}

QWidget* PractisePage::makeChain() {
  auto* group = new QWidget(this);
  auto* column = new QVBoxLayout(group);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(6);
  column->addWidget(caption(tr("Chain: 1, 2, 1+2, 3, 1+2+3"), group));
  phrases_ = new QListWidget(group);
  phrases_->setObjectName("chain-phrases");
  phrases_->setAccessibleName(tr("Phrases of the chain"));
  phrases_->setToolTip(tr(
      "Mark the passages and phrases that make the chain; drag them, or press Alt and Up or Down, into their order"));
  phrases_->setDragDropMode(QAbstractItemView::InternalMove);
  for (const int by : {-1, 1}) {
    auto* move = new QShortcut(QKeySequence(by < 0 ? "Alt+Up" : "Alt+Down"), phrases_);
    move->setContext(Qt::WidgetShortcut);
    connect(move, &QShortcut::activated, this, [this, by] { moveInChain(by); });
  }
  phrases_->setFixedHeight(96);
  times_ = number("chain-times", tr("Times for each"), 1, 16, tr(" times"));
  chain_ = plainButton(group, "practise-chain", tr("Play as a chain"), tr("Play the phrases one by one and joined"));
  column->addWidget(phrases_, 1);
  column->addLayout(rowOf({times_, chain_}));
  connect(chain_, &QPushButton::clicked, this, [this] {
    std::vector<TimeSpan> spans;
    const Study& study = std::as_const(bench_.document()).study();
    for (int i = 0; i < phrases_->count(); ++i) {
      if (phrases_->item(i)->checkState() != Qt::Checked) continue;
      const std::string id = phrases_->item(i)->data(Qt::UserRole).toString().toStdString();
      if (const Passage* p = study.passage(id)) spans.push_back(p->span);
      if (const Phrase* p = study.phrase(id)) spans.push_back(p->span);
    }
    bench_.practice().startChain(std::move(spans));
  });
  return group;
}

QWidget* PractisePage::makeLog() {
  auto* group = new QWidget(this);
  auto* column = new QVBoxLayout(group);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(6);
  column->addWidget(caption(tr("Log"), group));
  log_ = new QListWidget(group);
  log_->setObjectName("practise-log");
  log_->setAccessibleName(tr("What was practised"));
  log_->setToolTip(tr("What was practised, newest first; choose one to take its passage up again"));
  log_->setWordWrap(true);
  log_->setMinimumHeight(88);
  column->addWidget(log_, 1);
  connect(log_, &QListWidget::itemActivated, this, [this](QListWidgetItem* item) {
    const auto& log = *bench_.document().study().log;
    const auto i = static_cast<std::size_t>(item->data(Qt::UserRole).toInt());
    if (i >= log.size() || bench_.document().study().take(log[i].take) == nullptr) return;
    const PracticeEntry entry = log[i];
    bench_.session().activateTake(entry.take);
    bench_.selection().put(entry.span);
    bench_.transport().setSpeed(entry.speed);
  });
  return group;
}

void PractisePage::store() {
  auto settings = bench_.practice().settings();
  settings.ladder = {from_->value() / 100.0, to_->value() / 100.0, step_->value() / 100.0, repeats_->value(),
                     countedBy_->currentIndex() == 1};
  settings.times = times_->value();
  settings.breathBeats = breath_->value();
  settings.countBar = bar_->isChecked();
  bench_.practice().setSettings(settings);
}

void PractisePage::moveInChain(int by) {
  const int from = phrases_->currentRow(), to = from + by;
  if (from < 0 || to < 0 || to >= phrases_->count()) return;
  QListWidgetItem* item = phrases_->takeItem(from);
  phrases_->insertItem(to, item);
  phrases_->setCurrentRow(to);
}

/// What is kept of the take, in the order it was put into; what is new comes behind, by time.
void PractisePage::listPhrases() {
  QStringList order, marked;
  for (int i = 0; i < phrases_->count(); ++i) {
    const QString id = phrases_->item(i)->data(Qt::UserRole).toString();
    order << id;
    if (phrases_->item(i)->checkState() == Qt::Checked) marked << id;
  }
  phrases_->clear();
  if (bench_.take() == nullptr) return;
  const Study& study = std::as_const(bench_.document()).study();
  auto kept = keptTree(study, bench_.take()->id, {});
  const auto placeOf = [&](const KeptSpan& k) {
    const auto at = order.indexOf(text(k.id));
    return at < 0 ? order.size() : at;
  };
  std::stable_sort(kept.begin(), kept.end(),
                   [&](const KeptSpan& a, const KeptSpan& b) { return placeOf(a) < placeOf(b); });
  for (const KeptSpan& k : kept) {
    const bool phrase = k.kind == KeptSpan::Kind::phrase;
    const std::string& name = phrase ? study.phrase(k.id)->name : study.passage(k.id)->name;
    QString words = tr("%1   %2").arg(text(clockTenths(k.span.start)), name.empty() ? tr("(no name)") : text(name));
    if (phrase) words += tr(", tab");
    auto* item = new QListWidgetItem(words, phrases_);
    item->setData(Qt::UserRole, text(k.id));
    item->setFlags((item->flags() | Qt::ItemIsUserCheckable) & ~Qt::ItemIsDropEnabled);
    // Passages are marked at first, phrases where nothing else is kept.
    const bool fresh = !order.contains(text(k.id));
    const bool first = fresh && (!phrase || study.passages.empty());
    item->setCheckState(first || marked.contains(text(k.id)) ? Qt::Checked : Qt::Unchecked);
  }
}

void PractisePage::listLog() {
  log_->clear();
  const auto& log = *bench_.document().study().log;
  for (std::size_t i = log.size(); i-- > 0;) {
    auto* item = new QListWidgetItem(entryWords(log[i]), log_);
    item->setData(Qt::UserRole, static_cast<int>(i));
  }
  if (log.empty()) {
    auto* item = new QListWidgetItem(tr("Nothing yet. What a ladder or a chain reaches is kept here."), log_);
    item->setFlags(Qt::NoItemFlags);
  }
}

void PractisePage::refresh() {
  const PracticeKeeper& practice = bench_.practice();
  const auto& s = practice.settings();
  const bool running = practice.running(),
             passage = bench_.transport().hasSound() && bench_.selection().passage().has_value();
  sentence_->setText(running ? practiceWords(practice) : tr("The passage loops as it is"));
  detail_->setText(running && practice.state().resting ? tr("Breath: it goes on by itself.")
                   : running                           ? tr("Another passage ends it, Space holds it.")
                   : passage ? tr("Practise it from slow to fast, join passages in a chain, or answer it.")
                             : tr("Loop something first: drag a passage, or press O for the bar at the playhead."));
  stop_->setEnabled(running);
  clean_->setEnabled(running && practice.kind() == PracticeEntry::Kind::ladder && s.ladder.byKey);
  ladder_->setEnabled(passage);
  answer_->setEnabled(passage);
  chain_->setEnabled(bench_.transport().hasSound() && phrases_->count() > 1);
  const QSignalBlocker a(from_), b(to_), c(step_), d(repeats_), e(times_), f(breath_), g(bar_), h(countedBy_);
  from_->setValue(static_cast<int>(std::lround(100 * s.ladder.from)));
  to_->setValue(static_cast<int>(std::lround(100 * s.ladder.to)));
  step_->setValue(static_cast<int>(std::lround(100 * s.ladder.step)));
  repeats_->setValue(s.ladder.clean);
  countedBy_->setCurrentIndex(s.ladder.byKey ? 1 : 0);
  times_->setValue(s.times);
  breath_->setValue(s.breathBeats);
  bar_->setChecked(s.countBar);
}

}  // namespace ear
