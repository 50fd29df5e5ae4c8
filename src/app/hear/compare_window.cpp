// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/hear/compare_window.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "app/theme/pieces.h"
#include "app/theme/words.h"
#include "app/workbench/workbench.h"
#include "core/audio/decode.h"
#include "core/base/text.h"
#include "core/checking/near_repeat.h"
#include "core/practice/repeats.h"
#include "core/study/kept_tree.h"

namespace ear {
namespace {

constexpr int kPause = 400;  // ms until the passage in hand counts as chosen
constexpr Seconds kLongest{36.0};
constexpr double kCovered = 0.5;  // of a passage, by the phrase that is written there

QString spanWords(TimeSpan s) {
  return QObject::tr("%1 to %2").arg(text(clockTenths(s.start)), text(clockTenths(s.end)));
}

Seconds shared(TimeSpan a, TimeSpan b) {
  return std::min(a.end, b.end) - std::max(a.start, b.start);
}

QString nameOf(const Study& study, const KeptSpan& k) {
  const std::string& name = k.kind == KeptSpan::Kind::phrase ? study.phrase(k.id)->name : study.passage(k.id)->name;
  return name.empty() ? QObject::tr("(no name)") : text(name);
}

}  // namespace

CompareWindow::CompareWindow(Workbench& bench, QWidget* parent) : QDialog(parent), bench_(bench), job_(this) {
  setWindowTitle(tr("Compare with another time"));
  setObjectName("compare");
  resize(860, 600);
  auto* column = windowColumn(this);
  sentence_ = wrappingLabel(this, "compare-sentence", Theme::Face::sentence);
  state_ = wrappingLabel(this, "soft", Theme::Face::text);
  list_ = new QComboBox(this);
  list_->setObjectName("compare-other");
  list_->setAccessibleName(tr("The other time"));
  list_->setToolTip(tr("The same bars of other sections first, then all that is kept, of this take and the others"));
  chart_ = new RepeatChart(this);
  hearFirst_ = plainButton(this, "compare-first", tr("Loop the passage"), tr("The upper one"));
  hearSecond_ = plainButton(this, "compare-second", tr("Loop the other time"), tr("The lower one"));
  column->addWidget(sentence_);
  column->addWidget(state_);
  column->addLayout(rowOf({list_, hearFirst_, hearSecond_}));
  column->addWidget(chart_, 1);
  connect(list_, &QComboBox::currentIndexChanged, this, &CompareWindow::compare);
  pause_.setSingleShot(true);
  pause_.setInterval(kPause);
  connect(&pause_, &QTimer::timeout, this, &CompareWindow::find);
  connect(&bench.selection(), &Selection::changed, this, [this] {
    // Not to one that this window itself has put in hand to be heard.
    const auto& now = bench_.selection().passage();
    const auto own = [&](const Other& o) { return o.span == *now; };
    if (now && *now != passage_ && std::none_of(others_.begin(), others_.end(), own)) pause_.start();
  });
  bench.session().whenChanged(Changed::phrases, this, &CompareWindow::compareWritten);
  connect(&job_, &BackgroundJob::failed, state_, &QLabel::setText);
  connect(hearFirst_, &QPushButton::clicked, this, [this] { hear(take_, passage_); });
  connect(hearSecond_, &QPushButton::clicked, this, [this] {
    if (const Other* o = other()) hear(o->take, o->span);
  });
  connect(chart_, &RepeatChart::chosen, this, [this](std::size_t c, bool second) {
    const Other* o = other();
    if (o == nullptr) return;
    second ? hear(o->take, o->span, difference_->secondTime[c]) : hear(take_, passage_, difference_->firstTime[c]);
  });
  connect(&bench.analysis(), &Analysis::soundReady, this, [this] {
    const auto next = std::exchange(awaited_, std::nullopt);
    if (!next || bench_.take() == nullptr) return;
    // Another take may have been chosen meanwhile.
    const std::string& now = bench_.take()->id;
    const auto wanted = [&](const Other& o) { return o.take == now && o.span == next->first; };
    if ((now == take_ && next->first == passage_) || std::any_of(others_.begin(), others_.end(), wanted))
      hear(now, next->first, next->second);
  });
  find();
}

CompareWindow::~CompareWindow() {
  job_.cancel();
}

/// Loops it; once its sound is there, where it lies in a take that is not on the desk.
void CompareWindow::hear(const std::string& take, TimeSpan span, std::optional<Seconds> from) {
  if (bench_.take() == nullptr) return;
  if (bench_.take()->id != take) {
    awaited_ = {span, from};
    bench_.session().activateTake(take);
    return;
  }
  bench_.selection().playSpot(span);
  if (from) bench_.transport().seek(*from);
}

const CompareWindow::Other* CompareWindow::other() const {
  const int row = list_->currentIndex();
  return row >= 0 && static_cast<std::size_t>(row) < others_.size() ? &others_[static_cast<std::size_t>(row)] : nullptr;
}

/// The same bars of other sections, and what is kept, this take's first.
std::vector<CompareWindow::Other> CompareWindow::others() const {
  std::vector<Other> found;
  for (const TimeSpan& span : repeatsOf(bench_.time().grid(), bench_.form().form(), passage_))
    found.push_back({tr("the same bars, %1").arg(spanWords(span)), take_, span});
  const Study& study = std::as_const(bench_.document()).study();
  std::vector<const Take*> takes = {study.take(take_)};
  for (const Take& t : study.takes)
    if (t.id != take_) takes.push_back(&t);
  for (const Take* t : takes)
    for (const KeptSpan& k : keptTree(study, t->id, {})) {
      const bool itself = t->id == take_ && shared(k.span, passage_) > passage_.length() * kCovered;
      const bool there =
          std::any_of(found.begin(), found.end(), [&](const Other& o) { return o.take == t->id && o.span == k.span; });
      if (itself || there || k.span.length() > kLongest) continue;
      const QString name = nameOf(study, k);
      found.push_back({t->id == take_ ? tr("%1, %2").arg(name, text(clockTenths(k.span.start)))
                                      : tr("%1: %2, %3").arg(text(t->name), name, text(clockTenths(k.span.start))),
                       t->id, k.span});
    }
  return found;
}

void CompareWindow::find() {
  others_.clear();
  const auto passage = bench_.selection().passage();
  if (bench_.transport().hasSound() && passage && passage->length() <= kLongest) {
    passage_ = *passage;
    take_ = bench_.take()->id;
    sound_ = bench_.transport().player().shared();
    others_ = others();
  }
  {
    const QSignalBlocker quiet(list_);
    list_->clear();
    for (const Other& o : others_) list_->addItem(o.name);
  }
  for (QWidget* w : std::initializer_list<QWidget*>{list_, hearFirst_, hearSecond_}) w->setEnabled(!others_.empty());
  if (others_.empty()) {
    sentence_->setText(tr("Nothing to compare with"));
    state_->setText(!passage ? tr("Take a passage first: drag one, or press O for the bar at the playhead.")
                    : passage->length() > kLongest
                        ? tr("The passage is too long: take one of up to %1 seconds.").arg(std::lround(kLongest.value))
                        : tr("The section of this passage does not come again, and nothing else is kept. Give sections "
                             "that are the same music the same letter on the map, or keep another passage with K."));
    chart_->show(nullptr);
    return;
  }
  compare();
}

void CompareWindow::compare() {
  const Other* o = other();
  if (o == nullptr) return;
  chart_->show(nullptr);
  sentence_->setText(tr("Comparing …"));
  state_->setText(spanWords(passage_));
  const Study& study = std::as_const(bench_.document()).study();
  const Take* take = study.take(o->take);
  const auto pitchOf = [&](const Take& t) {
    const auto pitch = settled(briefOf(t, {}, bench_.document().findings(t.id)).pitch);
    return pitch ? pitch->offset : Cents(0);
  };
  job_.run([this, sound = sound_, file = o->take == take_ ? std::filesystem::path() : take->file, first = passage_,
            second = o->span, offset = pitchOf(*study.take(take_)),
            other = pitchOf(*take)](const Progress& progress, const BackgroundJob::Post& post) {
    std::shared_ptr<const Recording> theirs = sound;
    if (!file.empty()) {
      auto read = decode(file, progress);
      if (progress.cancelled()) return;
      if (!read)
        return post([this, why = read.problem()] {
          sentence_->setText(tr("The other take cannot be read"));
          state_->setText(text(why));
        });
      theirs = std::make_shared<const Recording>(std::move(*read));
    }
    auto difference = std::make_shared<const RepeatDifference>(
        compareRepeats({*sound, first, offset}, {*theirs, second, other}, progress));
    if (progress.cancelled()) return;
    post([this, difference] { tell(difference); });
  });
}

void CompareWindow::tell(std::shared_ptr<const RepeatDifference> difference) {
  difference_ = std::move(difference);
  chart_->show(difference_);
  const auto count = static_cast<int>(difference_->differs.size());
  sentence_->setText(count == 0 ? tr("The same notes, as far as can be told")
                                : tr("Differs in %1").arg(counted(count, tr("place"), tr("places"))));
  compareWritten();
}

/// The phrase that is written over most of it, of the guitar in hand where there are several.
const Phrase* CompareWindow::phraseIn(const std::string& take, TimeSpan span) const {
  const Phrase* found = nullptr;
  for (const Phrase& p : std::as_const(bench_.document()).study().phrases) {
    if (p.take != take || shared(p.span, span) < span.length() * kCovered) continue;
    if (found == nullptr || p.part == bench_.document().part().id) found = &p;
  }
  return found;
}

RepeatChart::Written CompareWindow::writtenAs(const Phrase* phrase) const {
  RepeatChart::Written written;
  if (phrase == nullptr) return written;
  written.view = bench_.phrases().viewOf(*phrase);
  for (const TabHead& head : written.view.score.heads)
    for (const Beats at : {head.at, head.end}) written.times.emplace_back(at, bench_.phrases().timeOf(*phrase, at));
  std::sort(written.times.begin(), written.times.end());
  return written;
}

/// What is typed of both, where it is, and what the ear has to settle.
void CompareWindow::compareWritten() {
  const Other* o = other();
  if (o == nullptr || !difference_) return;
  auto above = writtenAs(phraseIn(take_, passage_)), below = writtenAs(phraseIn(o->take, o->span));
  QStringList words;
  for (const TimeSpan& span : difference_->differs) words << spanWords(span);
  QString state = words.isEmpty() ? tr("Measured on the notes that stand out. Check by ear.")
                                  : tr("%1. Measured: check by ear, click to hear.").arg(words.join("; "));
  if (!above.times.empty() && !below.times.empty()) {
    const std::vector<int> own = differingFrom(above.view.notes, below.view.notes);
    const std::vector<int> theirs = differingFrom(below.view.notes, above.view.notes);
    above.differing = {own.begin(), own.end()};
    below.differing = {theirs.begin(), theirs.end()};
    const int apart = static_cast<int>(std::max(own.size(), theirs.size()));
    state +=
        " " + (apart == 0
                   ? tr("Written alike, note for note.")
                   : tr("Written otherwise in %1, marked in the tab.").arg(counted(apart, tr("note"), tr("notes"))));
  } else if (!above.times.empty() || !below.times.empty()) {
    state += " " + tr("Only one of them is written down.");
  }
  state_->setText(state);
  chart_->setWritten(std::move(above), std::move(below));
}

}  // namespace ear
