#include "app/drawer/pitch_page.h"

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QFormLayout>
#include <QLabel>
#include <QVBoxLayout>

#include "app/theme/theme.h"
#include "core/sheet/sheet.h"

namespace ear {

PitchPage::PitchPage(Workbench& bench, QWidget* parent) : FactPage(bench, "Pitch", parent) {
  histogram_ = new CentsHistogram(this);
  curve_ = new CentsCurve(this);
  body()->addWidget(caption(tr("Steady tones, cents off A 440")));
  body()->addWidget(histogram_);
  body()->addWidget(caption(tr("Over the recording")));
  body()->addWidget(curve_);
  connect(curve_, &CentsCurve::clicked, &bench, &Workbench::seek);

  body()->addWidget(caption(tr("Set by hand")));
  auto* form = new QFormLayout;
  form->setLabelAlignment(Qt::AlignLeft);
  cents_ = new QDoubleSpinBox(this);
  cents_->setObjectName("pitch-cents");
  cents_->setRange(-49.9, 50.0);
  cents_->setDecimals(1);
  cents_->setSuffix(tr(" cents"));
  cents_->setKeyboardTracking(false);
  strings_ = new QComboBox(this);
  strings_->setObjectName("pitch-strings");
  for (const auto& [words, semitones] : {std::pair{tr("Standard"), 0},
                                         {tr("All a semitone down"), -1},
                                         {tr("All a whole tone down"), -2},
                                         {tr("All 3 semitones down"), -3},
                                         {tr("All 4 semitones down"), -4},
                                         {tr("All 5 semitones down"), -5},
                                         {tr("All a semitone up"), 1},
                                         {tr("All a whole tone up"), 2}})
    strings_->addItem(words, semitones);
  form->addRow(tr("Recording"), cents_);
  form->addRow(tr("Strings"), strings_);
  body()->addLayout(form);
  advice_ = new QLabel(this);
  advice_->setWordWrap(true);
  advice_->setObjectName("soft");
  body()->addWidget(advice_);
  body()->addStretch();
  connect(cents_, &QDoubleSpinBox::valueChanged, this, &PitchPage::set);
  connect(strings_, &QComboBox::activated, this, &PitchPage::set);
  refresh();
}

void PitchPage::set() {
  decide(tr("Set pitch"), &Take::pitch, PitchValue{Cents(cents_->value()), strings_->currentData().toInt()},
         Origin::set, tr("Set by hand."));
}

void PitchPage::confirm() {
  if (const auto pitch = bench_.brief().pitch)
    decide(tr("Confirm pitch"), &Take::pitch, pitch->value, Origin::confirmed, tr("Confirmed by ear."));
}

void PitchPage::takeMeasured() {
  undecide(tr("Back to measured pitch"), &Take::pitch);
}

void PitchPage::refreshOwn(const Brief& brief, const Findings* found) {
  showDecision(brief.pitch, found != nullptr ? measuredBrief(*found).pitch : std::nullopt);
  const std::optional<ReferencePitch> measured = found != nullptr ? found->reference : std::nullopt;
  histogram_->show(measured, brief.pitch ? std::optional(brief.pitch->value.offset) : std::nullopt);
  curve_->show(measured, bench_.duration());
  const QSignalBlocker a(cents_), b(strings_);
  cents_->setValue(brief.pitch ? brief.pitch->value.offset.value : 0);
  strings_->setCurrentIndex(strings_->findData(brief.pitch ? brief.pitch->value.semitones : 0));
  advice_->setText(brief.pitch ? QString::fromStdString(tuningAdvice(brief.pitch->value)) : QString());
  for (QWidget* w : std::initializer_list<QWidget*>{cents_, strings_}) w->setEnabled(bench_.take() != nullptr);
}

}  // namespace ear
