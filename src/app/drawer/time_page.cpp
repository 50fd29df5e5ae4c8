#include "app/drawer/time_page.h"

#include <QDoubleSpinBox>
#include <QFormLayout>
#include <QLabel>
#include <QListWidget>
#include <QSpinBox>
#include <QVBoxLayout>
#include <cmath>

#include "app/theme/theme.h"
#include "core/text.h"

namespace ear {

TimePage::TimePage(Workbench& bench, QWidget* parent) : FactPage(bench, "Time", parent) {
  body()->addWidget(caption(tr("What repeats, by beats a minute")));
  tempogram_ = new BarChart(this);
  tempogram_->setAccessibleName(tr("Tempogram"));
  tempogram_->setToolTip(tr("How strongly attacks repeat at each tempo from 40 to 240 beats a minute"));
  body()->addWidget(tempogram_);
  body()->addWidget(caption(tr("Readings, best first")));
  readings_ = new QListWidget(this);
  readings_->setObjectName("time-readings");
  readings_->setFixedHeight(108);
  readings_->setToolTip(tr("Double-click or press Return to take a reading"));
  body()->addWidget(readings_);
  body()->addWidget(caption(tr("Set by hand")));
  auto* form = new QFormLayout;
  form->setLabelAlignment(Qt::AlignLeft);
  tempo_ = new QDoubleSpinBox(this);
  tempo_->setObjectName("time-tempo");
  tempo_->setRange(20, 400);
  tempo_->setDecimals(1);
  meter_ = new QSpinBox(this);
  meter_->setObjectName("time-meter");
  meter_->setRange(1, 16);
  swing_ = new QDoubleSpinBox(this);
  swing_->setObjectName("time-swing");
  swing_->setRange(1.0, 3.5);
  swing_->setSingleStep(0.1);
  swing_->setDecimals(1);
  swing_->setSuffix(" : 1");
  swing_->setSpecialValueText(tr("straight"));
  form->addRow(tr("Beats a minute"), tempo_);
  form->addRow(tr("Beats to the bar"), meter_);
  form->addRow(tr("Feel"), swing_);
  body()->addLayout(form);
  body()->addStretch();
  for (auto* spin : {tempo_, swing_}) {
    spin->setKeyboardTracking(false);
    connect(spin, &QDoubleSpinBox::valueChanged, this, &TimePage::set);
  }
  meter_->setKeyboardTracking(false);
  connect(meter_, &QSpinBox::valueChanged, this, &TimePage::set);
  connect(readings_, &QListWidget::itemActivated, this, [this](QListWidgetItem* item) {
    const auto* found = bench_.findings();
    const auto index = static_cast<std::size_t>(readings_->row(item));
    const auto now = bench_.brief().time;
    if (found == nullptr || !found->rhythm || !now || index >= found->rhythm->tempo.size()) return;
    TimeValue value = now->value;
    value.tempo = found->rhythm->tempo[index].tempo;
    decide(tr("Take tempo"), &Take::time, value, Origin::set, tr("Taken from the readings."));
  });
  refresh();
}

void TimePage::set() {
  decide(tr("Set time"), &Take::time, TimeValue{Bpm(tempo_->value()), meter_->value(), {swing_->value()}}, Origin::set,
         tr("Set by hand."));
}

void TimePage::confirm() {
  if (const auto time = bench_.brief().time)
    decide(tr("Confirm time"), &Take::time, time->value, Origin::confirmed, tr("Confirmed by ear."));
}

void TimePage::takeMeasured() {
  undecide(tr("Back to measured time"), &Take::time);
}

void TimePage::refreshOwn(const Brief& brief, const Findings* found) {
  showDecision(brief.time, found != nullptr ? measuredBrief(*found).time : std::nullopt);
  std::vector<BarChart::Bar> bars;
  readings_->clear();
  if (found != nullptr && found->rhythm) {
    // One bar for each 2 beats a minute: the tempogram's own grid is finer at slow tempi and coarser at fast ones.
    const auto& gram = found->rhythm->tempogram;
    for (int bpm = 40; bpm < 240; bpm += 2) {
      float height = 0;
      for (std::size_t i = 0; i + 1 < gram.tempi.size(); ++i) {
        const double here = gram.tempi[i].value, next = gram.tempi[i + 1].value;
        if (here >= bpm && here < bpm + 2) height = std::max(height, gram.strength[i]);
        if (here <= bpm + 1 && bpm + 1 < next)
          height = std::max(height, std::lerp(gram.strength[i], gram.strength[i + 1],
                                              static_cast<float>((bpm + 1 - here) / (next - here))));
      }
      const bool marked = brief.time && std::abs(bpm + 1 - brief.time->value.tempo.value) <= 2;
      bars.push_back({bpm > 40 && bpm % 40 == 0 ? QString::number(bpm) : QString(), height, marked});
    }
    for (const auto& r : found->rhythm->tempo)
      readings_->addItem(tr("%1 beats a minute   %2 %")
                             .arg(QString::fromStdString(fixed(r.tempo.value, 1)))
                             .arg(static_cast<int>(100 * r.certainty + 0.5)));
  }
  tempogram_->show(std::move(bars));
  const QSignalBlocker a(tempo_), b(meter_), c(swing_);
  tempo_->setValue(brief.time ? brief.time->value.tempo.value : 100);
  meter_->setValue(brief.time ? brief.time->value.meter : 4);
  swing_->setValue(brief.time ? brief.time->value.swing.ratio : 1.0);
  for (QWidget* w : std::initializer_list<QWidget*>{tempo_, meter_, swing_}) w->setEnabled(bench_.take() != nullptr);
}

}  // namespace ear
