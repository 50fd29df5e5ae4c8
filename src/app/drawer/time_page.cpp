// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawer/time_page.h"

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QFormLayout>
#include <QGridLayout>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QSpinBox>
#include <QVBoxLayout>
#include <cmath>

#include "app/drawer/time_charts.h"
#include "app/theme/theme.h"
#include "app/theme/words.h"
#include "core/base/quantities.h"
#include "core/base/text.h"

namespace ear {

TimePage::TimePage(Workbench& bench, QWidget* parent) : FactPage(bench, "Time", parent) {
  makeReadings();
  makeCorrections();
  makeOwn();
  body()->addStretch();
  refresh();
}

void TimePage::makeReadings() {
  body()->addWidget(caption(tr("What repeats, by beats a minute")));
  tempogram_ = new BarChart(this);
  tempogram_->setAccessibleName(tr("Tempogram"));
  tempogram_->setToolTip(
      tr("How strongly attacks repeat at each tempo from 40 to 240 beats a minute; wedges are the readings"));
  body()->addWidget(tempogram_);
  body()->addWidget(caption(tr("Readings, best first")));
  readings_ = new QListWidget(this);
  readings_->setObjectName("time-readings");
  readings_->setFixedHeight(100);
  readings_->setToolTip(tr("Double-click or press Return to take a reading"));
  body()->addWidget(readings_);
  body()->addWidget(caption(tr("Over the recording")));
  drift_ = new QLabel(this);
  drift_->setObjectName("time-drift");
  drift_->setWordWrap(true);
  body()->addWidget(drift_);
  curve_ = new CurveChart(
      4, [](double bpm) { return QString::number(bpm); }, this);
  curve_->setObjectName("tempo-curve");
  curve_->setAccessibleName(tr("Tempo over time"));
  curve_->setToolTip(tr("Beats a minute over the length of the recording. Click to go there"));
  body()->addWidget(curve_);
  connect(curve_, &CurveChart::clicked, this, [this](Seconds at) { bench_.transport().seek(at); });
  body()->addWidget(caption(tr("Where the off-beats fall")));
  swingPicture_ = new SwingChart(this);
  body()->addWidget(swingPicture_);
  connect(readings_, &QListWidget::itemActivated, this, [this](QListWidgetItem* item) {
    const auto* found = bench_.session().findings();
    const auto index = static_cast<std::size_t>(readings_->row(item));
    const auto now = bench_.brief().time;
    if (found == nullptr || !found->rhythm || !now || index >= found->rhythm->tempo.size()) return;
    takeTempo(found->rhythm->tempo[index].tempo);
  });
}

void TimePage::makeCorrections() {
  body()->addWidget(caption(tr("Put the beats right")));
  auto* grid = new QGridLayout;
  grid->setSpacing(6);
  int at = 0;
  const auto button = [&](const QString& label, const QString& name, const QString& tip, auto run) {
    auto* b = new QPushButton(label, this);
    b->setObjectName(name);
    b->setToolTip(tip);
    connect(b, &QPushButton::clicked, this, run);
    grid->addWidget(b, at / 2, at % 2);
    ++at;
    return b;
  };
  TimeKeeper& time = bench_.time();
  const auto commands = {
      button(tr("Half the tempo"), "time-halve", tr("Take away every second beat"), [&time] { time.halve(); }),
      button(tr("Twice the tempo"), "time-double", tr("Put a beat between each two"), [&time] { time.makeDouble(); }),
      button(tr("One a beat earlier"), "time-earlier", tr("All bar lines a beat earlier  (,)"),
             [&time] { time.shiftBars(-1); }),
      button(tr("One a beat later"), "time-later", tr("All bar lines a beat later  (.)"),
             [&time] { time.shiftBars(1); }),
      button(tr("Tap the beat"), "time-tap", tr("Tap along while it plays  (T; Shift+T on the first beat of a bar)"),
             [&time] { time.tap(false); }),
      button(tr("A bar starts here"), "time-bar", tr("The beat at the playhead starts a bar  (B)"),
             [&time] { time.barHere(); }),
      button(tr("Hold these beats"), "time-hold",
             tr("Those of the passage are right: nothing moves them when the others are followed anew"),
             [&time] { time.fixPassage(true); }),
      button(tr("Let go"), "time-let-go", tr("The beats of the passage may be moved again"),
             [&time] { time.fixPassage(false); })};
  follow_ = button(tr("Follow held beats"), "time-follow",
                   tr("The machine finds the other beats anew, through those that are held"),
                   [&time] { time.following() ? time.stopFollowing() : time.followAround(); });
  button(tr("Strokes …"), "time-strokes",
         tr("In the passage: picking or an effect, how many strokes, and where each lies  (I)"),
         [this] { emit strokesWanted(); });
  correct_ = commands;
  body()->addLayout(grid);
  connect(&time, &TimeKeeper::changed, this, [this] { refresh(); });
  connect(&time, &TimeKeeper::followed, this,
          [this](double share) { follow_->setText(tr("Stop (%1)").arg(percent(share))); });
}

void TimePage::makeOwn() {
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
  swingLevel_ = new QComboBox(this);
  swingLevel_->setObjectName("time-swing-level");
  swingLevel_->addItems({tr("eighths"), tr("sixteenths")});
  form->addRow(tr("Feel"), swing_);
  form->addRow(tr("Swung are"), swingLevel_);
  body()->addLayout(form);
  for (auto* spin : {tempo_, swing_}) {
    spin->setKeyboardTracking(false);
    connect(spin, &QDoubleSpinBox::valueChanged, this, &TimePage::set);
  }
  meter_->setKeyboardTracking(false);
  connect(meter_, &QSpinBox::valueChanged, this, &TimePage::set);
  connect(swingLevel_, &QComboBox::activated, this, &TimePage::set);
}

/// A reading at half or twice the tempo takes the beats along; others are kept as a figure.
void TimePage::takeTempo(Bpm tempo) {
  const auto now = tempoOf(bench_.time().grid());
  const double factor = now ? tempo / *now : 1.0;
  if (std::abs(factor - 2) < 0.1) return bench_.time().makeDouble();
  if (std::abs(factor - 0.5) < 0.03) return bench_.time().halve();
  TimeValue value = bench_.brief().time->value;
  value.tempo = tempo;
  bench_.time().set(tr("Take tempo"), value, Evidence::Kind::takenFromReadings);
}

void TimePage::set() {
  const auto level = swingLevel_->currentIndex() == 1 ? SwingLevel::sixteenths : SwingLevel::eighths;
  bench_.time().set(tr("Set time"), {Bpm(tempo_->value()), meter_->value(), {swing_->value(), level}},
                    Evidence::Kind::setByHand);
}

void TimePage::confirm() {
  bench_.time().confirm();
}

void TimePage::takeMeasured() {
  bench_.time().drop();
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
      const bool noted = std::any_of(found->rhythm->tempo.begin(), found->rhythm->tempo.end(),
                                     [bpm](const auto& r) { return r.tempo.value >= bpm && r.tempo.value < bpm + 2; });
      bars.push_back({bpm > 40 && bpm % 40 == 0 ? QString::number(bpm) : QString(), height, marked, noted});
    }
    for (const auto& r : found->rhythm->tempo) {
      const double factor = r.tempo / found->rhythm->tempo.front().tempo;
      const QString how = factor > 1.9    ? tr(", twice as fast")
                          : factor < 0.55 ? tr(", half as fast")
                          : factor > 1.4  ? tr(", three in two")
                          : factor < 0.7  ? tr(", two in three")
                                          : QString();
      readings_->addItem(shareOf(r.certainty * found->rhythm->pulse) + text(tempoWords(r.tempo, 1)) + how);
    }
  }
  tempogram_->show(std::move(bars));
  const auto curve = tempoCurve(bench_.time().grid());
  QString moves = capitalised(text(driftWords(curve)));
  const auto add = [&](const QString& more) {
    if (!more.isEmpty()) moves += (moves.isEmpty() ? QString() : QStringLiteral("; ")) + more;
  };
  add(text(metreWords(bench_.time().grid())));
  if (found != nullptr && found->rhythm)
    for (const auto& f : found->rhythm->feels)
      add(tr("%1 from %2 to %3")
              .arg(f.feel == Feel::halfTime ? tr("half time") : tr("double time"), text(clockTenths(f.span.start)),
                   text(clockTenths(f.span.end))));
  drift_->setText(moves);
  drift_->setVisible(!drift_->text().isEmpty());
  std::vector<CurveChart::Point> points;
  for (const auto& p : curve) points.push_back({p.time, p.tempo.value});
  curve_->show(std::move(points), bench_.analysis().duration());
  swingPicture_->show(found != nullptr && found->rhythm ? std::optional(found->rhythm->profile) : std::nullopt,
                      brief.time ? brief.time->value.swing : Swing{});
  const bool beats = bench_.time().grid().size() > 1;
  for (auto* b : correct_) b->setEnabled(b->objectName() == "time-tap" ? bench_.transport().hasSound() : beats);
  follow_->setEnabled(beats && bench_.transport().hasSound());
  if (!bench_.time().following()) follow_->setText(tr("Follow held beats"));
  const QSignalBlocker a(tempo_), b(meter_), c(swing_), d(swingLevel_);
  tempo_->setValue(brief.time ? brief.time->value.tempo.value : 100);
  meter_->setValue(brief.time ? brief.time->value.meter : 4);
  swing_->setValue(brief.time ? brief.time->value.swing.ratio : 1.0);
  swingLevel_->setCurrentIndex(brief.time && brief.time->value.swing.level == SwingLevel::sixteenths ? 1 : 0);
  for (QWidget* w : std::initializer_list<QWidget*>{tempo_, meter_, swing_, swingLevel_})
    w->setEnabled(bench_.take() != nullptr);
}

}  // namespace ear
