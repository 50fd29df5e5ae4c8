// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawer/pitch_page.h"

#include <QDoubleSpinBox>
#include <QFormLayout>
#include <QLabel>
#include <QListWidget>
#include <QVBoxLayout>

#include "app/theme/theme.h"
#include "app/theme/words.h"
#include "core/base/quantities.h"
#include "core/base/text.h"
#include "core/study/tune_up.h"

namespace ear {

PitchPage::PitchPage(Workbench& bench, QWidget* parent) : FactPage(bench, "Pitch", parent) {
  histogram_ = new CentsHistogram(this);
  curve_ = new CurveChart(
      10, [](double cents) { return text(centsFigure(Cents(cents))); }, this);
  curve_->setAccessibleName(tr("Pitch over time"));
  curve_->setToolTip(tr("The offset over the length of the recording. Click to go there"));
  body()->addWidget(caption(tr("Strings and recording, likeliest first")));
  splits_ = new QListWidget(this);
  splits_->setObjectName("pitch-splits");
  splits_->setAccessibleName(tr("How strings and recording share the offset"));
  splits_->setFixedHeight(132);
  splits_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  splits_->setWordWrap(true);
  splits_->setToolTip(tr(
      "How the guitar in hand may have been tuned as a whole, and how far the recording lies from that. Double-click "
      "or press Return to take one: it sets the recording's pitch and the strings."));
  body()->addWidget(splits_);
  reason_ = new QLabel(this);
  reason_->setObjectName("soft");
  reason_->setWordWrap(true);
  body()->addWidget(reason_);
  connect(splits_, &QListWidget::currentItemChanged, this, [this](QListWidgetItem* item) {
    reason_->setText(item != nullptr ? item->data(Qt::UserRole).toString() : QString());
  });
  connect(splits_, &QListWidget::itemActivated, this, [this](QListWidgetItem* item) { takeSplit(splits_->row(item)); });
  body()->addWidget(caption(tr("Steady tones, cents off A 440")));
  body()->addWidget(histogram_);
  body()->addWidget(caption(tr("Over the recording")));
  body()->addWidget(curve_);
  connect(curve_, &CurveChart::clicked, &bench.transport(), &Transport::seek);

  body()->addWidget(caption(tr("Set by hand")));
  auto* form = new QFormLayout;
  form->setLabelAlignment(Qt::AlignLeft);
  cents_ = new QDoubleSpinBox(this);
  cents_->setObjectName("pitch-cents");
  cents_->setRange(-49.9, 50.0);
  cents_->setDecimals(1);
  cents_->setSuffix(tr(" cents"));
  cents_->setKeyboardTracking(false);
  form->addRow(tr("Recording"), cents_);
  body()->addLayout(form);
  advice_ = new QLabel(this);
  advice_->setWordWrap(true);
  advice_->setObjectName("soft");
  body()->addWidget(advice_);
  body()->addStretch();
  connect(cents_, &QDoubleSpinBox::valueChanged, this, &PitchPage::set);
  refresh();
}

void PitchPage::set() {
  decide(tr("Set pitch"), &Take::pitch, PitchValue{Cents(cents_->value())}, Origin::set, Evidence::Kind::setByHand);
}

/// One step of undo for both: the recording's pitch and the strings of the guitar in hand.
void PitchPage::takeSplit(int row) {
  const auto pitch = bench_.brief().pitch;
  const Take* take = bench_.take();
  if (!pitch || take == nullptr || row < 0) return;
  const GuitarPart part = bench_.document().part();
  const auto splits = splitsOf(pitch->value.offset, part, bench_.session().findings());
  if (static_cast<std::size_t>(row) >= splits.size()) return;
  const PitchSplit& split = splits[static_cast<std::size_t>(row)];
  GuitarSetup setup = bench_.document().setup();
  const int by = split.semitones - commonShift(setup.tuning);
  for (int& string : setup.tuning.strings) string += by;
  if (!isGuitar(setup.tuning, setup.capo)) return;
  const Evidence evidence = Evidence::Kind::takenFromReadings;
  bench_.document().edit(tr("Take pitch reading").toStdString(),
                         [&, on = *take, found = bench_.session().findings()](Study& s) {
                           s.take(on.id)->pitch = Decision<PitchValue>{{split.offset}, Origin::set, 1.0, evidence};
                           keepParts(s, on, found);
                           s.part(part.id)->setup = Decision<GuitarSetup>{setup, Origin::set, 1.0, evidence};
                         });
}

void PitchPage::confirm() {
  if (const auto pitch = bench_.brief().pitch)
    decide(tr("Confirm pitch"), &Take::pitch, pitch->value, Origin::confirmed, Evidence::Kind::confirmedByEar);
}

void PitchPage::takeMeasured() {
  undecide(tr("Back to measured pitch"), &Take::pitch);
}

void PitchPage::refreshOwn(const Brief& brief, const Findings* found) {
  showDecision(brief.pitch, found != nullptr ? measuredBrief(*found).pitch : std::nullopt);
  const std::optional<ReferencePitch> measured = found != nullptr ? found->reference : std::nullopt;
  histogram_->show(measured, brief.pitch ? std::optional(brief.pitch->value.offset) : std::nullopt);
  std::vector<CurveChart::Point> curve;
  if (measured)
    for (const auto& point : measured->curve) curve.push_back({point.time, point.offset.value});
  curve_->show(std::move(curve), bench_.analysis().duration());
  const QSignalBlocker a(cents_);
  cents_->setValue(brief.pitch ? brief.pitch->value.offset.value : 0);
  splits_->clear();
  if (brief.pitch)
    for (const auto& split : splitsOf(brief.pitch->value.offset, bench_.document().part(), found)) {
      auto* item = new QListWidgetItem(shareOf(split.certainty) + text(sentenceOf(split)), splits_);
      item->setData(Qt::UserRole, text(split.reason));
    }
  splits_->setCurrentRow(0);
  advice_->setText(isSettled(brief.pitch) ? text(tuningAdvice(bench_.document().setup(), brief.pitch->value.offset))
                                          : QString());
  cents_->setEnabled(bench_.take() != nullptr);
}

}  // namespace ear
