// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawer/guitar_page.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/drawer/guitar_details.h"
#include "app/drawer/guitar_parts.h"
#include "app/drawer/own_setup.h"
#include "app/theme/words.h"

namespace ear {
namespace {

constexpr Seconds kSpotBefore{0.2}, kSpotLength{3.0};

}  // namespace

GuitarPage::GuitarPage(Workbench& bench, QWidget* parent) : FactPage(bench, "Guitar", parent) {
  parts_ = new GuitarParts(bench, this);
  body()->addWidget(parts_);
  makeReadings();
  body()->addWidget(caption(tr("Set by hand")));
  own_ = new OwnSetup(bench, this);
  body()->addWidget(own_);
  body()->addWidget(caption(tr("What it is")));
  details_ = new GuitarDetails(bench, this);
  body()->addWidget(details_);
  body()->addStretch();
  refresh();
}

void GuitarPage::makeReadings() {
  body()->addWidget(caption(tr("Readings, best first")));
  readings_ = new QListWidget(this);
  readings_->setObjectName("guitar-readings");
  readings_->setAccessibleName(tr("Readings of tuning and capo"));
  readings_->setFixedHeight(158);
  readings_->setWordWrap(true);
  readings_->setTextElideMode(Qt::ElideNone);  // "no capo" is not to be cut off
  readings_->setResizeMode(QListView::Adjust);
  readings_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  readings_->setToolTip(tr("Choose one to see what speaks for it; double-click or press Return to take it"));
  body()->addWidget(readings_);
  reasons_ = new QListWidget(this);
  reasons_->setObjectName("guitar-reasons");
  reasons_->setAccessibleName(tr("What speaks for the reading"));
  reasons_->setWordWrap(true);
  reasons_->setTextElideMode(Qt::ElideNone);
  reasons_->setResizeMode(QListView::Adjust);
  // There from the start: one that comes later would narrow rows whose heights are settled, and cut their last words.
  reasons_->setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOn);
  reasons_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  reasons_->setFixedHeight(140);
  reasons_->setToolTip(tr("Double-click or press Return to loop the spot a reason speaks of"));
  body()->addWidget(caption(tr("Why")));
  body()->addWidget(reasons_);
  take_ = new QPushButton(tr("Take this reading"), this);
  take_->setObjectName("guitar-take");
  auto* tune = new QPushButton(tr("Tune up …"), this);
  tune->setObjectName("guitar-tune");
  tune->setToolTip(tr("What to tune each string to, reference tones and a tuner (Ctrl+T)"));
  auto* row = new QHBoxLayout;
  row->addWidget(take_);
  row->addWidget(tune);
  row->addStretch();
  body()->addLayout(row);
  body()->addWidget(caption(tr("Where sound sits")));
  sides_ = new SidesChart(this);
  body()->addWidget(sides_);
  two_ = new QLabel(this);
  two_->setObjectName("soft");
  two_->setWordWrap(true);
  body()->addWidget(two_);
  connect(sides_, &SidesChart::clicked, &bench_.transport(), &Transport::seek);
  connect(readings_, &QListWidget::currentRowChanged, this, &GuitarPage::showReasons);
  connect(readings_, &QListWidget::itemActivated, this, &GuitarPage::takeReading);
  connect(take_, &QPushButton::clicked, this, &GuitarPage::takeReading);
  connect(tune, &QPushButton::clicked, this, &GuitarPage::tuneUpWanted);
  connect(reasons_, &QListWidget::itemActivated, this, [this](QListWidgetItem* item) {
    if (const QVariant at = item->data(Qt::UserRole); at.isValid()) {
      const Seconds start = Seconds(at.toDouble()) - kSpotBefore;
      bench_.selection().playSpot({start, start + kSpotLength});
    }
  });
}

void GuitarPage::confirm() {
  if (const auto guitar = bench_.brief().guitar)
    decideSetup(bench_, tr("Confirm guitar"), guitar->value, Origin::confirmed, Evidence::Kind::confirmedByEar);
}

void GuitarPage::takeMeasured() {
  bench_.document().editPart(tr("Back to measured guitar").toStdString(), bench_.document().part().id,
                             [](GuitarPart& p) { p.setup.reset(); });
}

const SetupReading* GuitarPage::chosenReading() const {
  const FoundGuitar* heard = heardFor(bench_.document().part(), bench_.session().findings());
  const int row = readings_->currentRow();
  return heard != nullptr && row >= 0 && static_cast<std::size_t>(row) < heard->readings.size()
             ? &heard->readings[static_cast<std::size_t>(row)]
             : nullptr;
}

void GuitarPage::chooseReading() {
  readings_->setFocus();
}

void GuitarPage::takeReading() {
  if (const SetupReading* r = chosenReading())
    decideSetup(bench_, tr("Take guitar reading"), {r->tuning, r->capo}, Origin::set,
                Evidence::Kind::takenFromReadings);
}

void GuitarPage::showReasons() {
  reasons_->clear();
  const SetupReading* reading = chosenReading();
  take_->setEnabled(reading != nullptr);
  if (reading == nullptr) return;
  const auto add = [&](const std::string& sentence, std::optional<Seconds> at) {
    auto* item = new QListWidgetItem(text(sentence), reasons_);
    if (at) item->setData(Qt::UserRole, at->value);
  };
  if (const auto hint = whatWouldTell(bench_.document().part(), bench_.session().findings()))
    add(hint->sentence, hint->span.start + kSpotBefore);
  for (const auto& reason : reading->reasons) add(sentenceOf(reason, bench_.session().spelling()), reason.at);
}

void GuitarPage::refreshOwn(const Brief& brief, const Findings* found) {
  const GuitarPart part = bench_.document().part();
  GuitarPart undecided = part;
  undecided.setup.reset();
  showDecision(brief.guitar, setupOf(undecided, found));
  parts_->refresh();
  own_->refresh();
  details_->refresh();
  const FoundGuitar* heard = heardFor(part, found);
  const int row = std::max(0, readings_->currentRow());
  {
    const QSignalBlocker blocker(readings_);
    readings_->clear();
    if (heard != nullptr)
      for (const auto& r : heard->readings)
        readings_->addItem(shareOf(r.certainty) + text(sentenceOf(GuitarSetup{r.tuning, r.capo})));
    readings_->setCurrentRow(std::min(row, readings_->count() - 1));
  }
  showReasons();
  sides_->show(found != nullptr ? found->sides : std::vector<SidePoint>{}, bench_.analysis().duration());
  two_->setText(found != nullptr ? text(sidesSentence(*found)) : QString());
}

}  // namespace ear
