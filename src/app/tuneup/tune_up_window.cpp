// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/tuneup/tune_up_window.h"

#include <QButtonGroup>
#include <QFrame>
#include <QGridLayout>
#include <QLabel>
#include <QPushButton>
#include <QRadioButton>
#include <QVBoxLayout>

#include "app/theme/theme.h"
#include "app/theme/words.h"
#include "core/base/quantities.h"
#include "core/base/text.h"
#include "core/study/tune_up.h"

namespace ear {
namespace {

QLabel* soft(const QString& words, QWidget* parent) {
  auto* label = new QLabel(words, parent);
  label->setObjectName("soft");
  label->setWordWrap(true);
  return label;
}

}  // namespace

TuneUpWindow::TuneUpWindow(Workbench& bench, std::unique_ptr<AudioInput> input, QWidget* parent)
    : QDialog(parent), bench_(bench) {
  setWindowTitle(tr("Tune up"));
  setObjectName("tune-up");
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(20, 16, 20, 16);
  column->setSpacing(6);
  title_ = new QLabel(this);
  title_->setObjectName("tune-title");
  title_->setFont(Theme::font(Theme::Face::sentence));
  advice_ = soft({}, this);
  advice_->setObjectName("tune-advice");
  column->addWidget(title_);
  column->addWidget(advice_);
  auto* sides = new QHBoxLayout;
  sides->setSpacing(28);
  sides->addWidget(makeStrings(), 3);
  auto* right = new QVBoxLayout;
  right->setSpacing(6);
  right->addWidget(caption(tr("Move the playback instead"), this));
  shiftsPlace_ = new QVBoxLayout;
  right->addLayout(shiftsPlace_);
  right->addWidget(caption(tr("Tuner"), this));
  tuner_ = new TunerPanel(
      bench, std::move(input), [this] { return targetGuitar(); }, this);
  right->addWidget(tuner_);
  right->addStretch(1);
  sides->addLayout(right, 2);
  column->addLayout(sides, 1);
  bench.session().whenChanged(kOfBrief, this, &TuneUpWindow::refresh);
  connect(&bench.transport(), &Transport::changed, this, &TuneUpWindow::refresh);
  refresh();
}

QWidget* TuneUpWindow::makeStrings() {
  auto* side = new QWidget(this);
  tablePlace_ = new QVBoxLayout(side);
  tablePlace_->setContentsMargins(0, 0, 0, 0);
  tablePlace_->addWidget(caption(tr("Strings"), side));
  tablePlace_->addStretch(1);
  cautions_ = new QLabel(side);
  cautions_->setObjectName("warning");
  cautions_->setWordWrap(true);
  tablePlace_->addWidget(cautions_);
  return side;
}

/// The guitar that fits the playback as it sounds now.
FittingGuitar TuneUpWindow::target() const {
  return fitting(bench_.document().setup(), bench_.document().offset(), bench_.transport().sounding().shift);
}

/// Open strings without the capo, since one tunes before it goes on.
Guitar TuneUpWindow::targetGuitar() const {
  const FittingGuitar t = target();
  return {.tuning = t.setup.tuning, .capo = {}, .offset = t.offset};
}

void TuneUpWindow::fillStrings(const GuitarSetup& setup) {
  delete table_;
  table_ = new QWidget(this);
  auto* grid = new QGridLayout(table_);
  grid->setContentsMargins(0, 0, 0, 0);
  grid->setHorizontalSpacing(16);
  grid->setVerticalSpacing(4);
  const QStringList heads = {tr("String"), tr("Tune to"), tr("Hz"), tr("From standard"), tr("Tension"), tr("Hear")};
  for (int c = 0; c < heads.size(); ++c) {
    auto* head = soft(heads[c], table_);
    head->setWordWrap(false);
    grid->addWidget(head, 0, c);
  }
  const Guitar guitar = targetGuitar();
  const Spelling spelling = spellingOf(setup.tuning, bench_.session().notation());
  int row = setup.tuning.count() > 0 ? static_cast<int>(setup.tuning.count()) : 0;
  for (const StringTarget& t : tuneUp(setup, target().offset)) {
    const auto cell = [&](const QString& words, int c, bool strong = false) {
      auto* label = new QLabel(words, table_);
      if (strong) label->setFont(Theme::font(Theme::Face::strong));
      if (c == 4 && t.strained()) label->setObjectName("warning");
      if (c == 1) label->setObjectName(QStringLiteral("tune-note-%1").arg(t.string));
      grid->addWidget(label, row, c);
    };
    cell(text(stringName(bench_.session().notation(), guitar, t.string, spelling)), 0);
    cell(text(noteName(t.midi, spelling)), 1, true);
    cell(text(hertzFigure(t.pitch)), 2);
    cell(text(signedCents(t.fromStandard)), 3);
    cell((t.strained() ? tr("! ") : QString()) + text(signedPercent(t.tension - 1)), 4);
    auto* tones = new QHBoxLayout;
    tones->setSpacing(4);
    for (const auto& [name, words, tip, kind] :
         {std::tuple{"pluck", tr("string"), tr("A plucked string at this pitch"), Tones::Kind::plucked},
          std::tuple{"plain", tr("tone"), tr("A plain tone that holds still"), Tones::Kind::plain}}) {
      auto* button = new QPushButton(words, table_);
      button->setObjectName(QStringLiteral("tune-%1-%2").arg(name).arg(t.string));
      button->setToolTip(tip);
      button->setAccessibleName(tr("%1, %2").arg(text(noteName(t.midi, spelling)), tip));
      connect(button, &QPushButton::clicked, this,
              [this, pitch = t.pitch, kind = kind] { bench_.voice().pitch(pitch, kind); });
      tones->addWidget(button);
    }
    grid->addLayout(tones, row--, 5);
  }
  tablePlace_->insertWidget(1, table_);
}

void TuneUpWindow::fillShifts(const GuitarSetup& setup) {
  delete shifts_;
  shifts_ = new QWidget(this);
  auto* column = new QVBoxLayout(shifts_);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(2);
  int i = 0;
  for (const PlaybackShift& s : playbackShifts(setup, bench_.document().offset())) {
    const int semitones = static_cast<int>(s.shift.value / 100);
    const QString size =
        s.shift == Cents(0) ? QString()
        : semitones == 0    ? "   " + text(signedCents(s.shift))
                            : tr("   %1 semitones %2")
                               .arg(text(withSign(semitones, 0)), text(signedCents(s.shift - Cents(100 * semitones))));
    auto* choice = new QRadioButton(text(s.name) + size, shifts_);
    choice->setObjectName(QStringLiteral("tune-shift-%1").arg(i++));
    choice->setToolTip(text(s.effect));
    choice->setChecked(std::abs((bench_.transport().sounding().shift - s.shift).value) < 0.05);
    connect(choice, &QRadioButton::clicked, this, [this, to = s.shift] {
      // The window is filled anew by what this changes: not while the button still handles its click.
      QMetaObject::invokeMethod(
          this, [this, to] { bench_.transport().setShift(to); }, Qt::QueuedConnection);
    });
    column->addWidget(choice);
    auto* effect = soft(text(s.effect), shifts_);
    effect->setContentsMargins(24, 0, 0, 2);
    column->addWidget(effect);
  }
  shiftsPlace_->addWidget(shifts_);
}

void TuneUpWindow::refresh() {
  const auto [setup, offset] = target();
  const auto parts = bench_.document().parts();
  const QString name = parts.empty() ? tr("Guitar") : text(bench_.document().part().name);
  const auto& known = bench_.brief().guitar;
  title_->setText(known && !isSettled(known) ? tr("%1: not settled, here in standard tuning").arg(name)
                                             : name + ": " + text(sentenceOf(setup)));
  advice_->setText(text(tuningAdvice(setup, offset)));
  QStringList words;
  for (const auto& caution : tensionCautions(setup, offset)) words << text(caution);
  cautions_->setText(words.join(' '));
  cautions_->setVisible(!words.isEmpty());
  fillStrings(setup);
  fillShifts(bench_.document().setup());
  tuner_->refresh();
}

void TuneUpWindow::showEvent(QShowEvent* event) {
  QDialog::showEvent(event);
  tuner_->listen(true);
}

void TuneUpWindow::hideEvent(QHideEvent* event) {
  QDialog::hideEvent(event);
  tuner_->listen(false);
}

}  // namespace ear
