// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawer/key_page.h"

#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QVBoxLayout>

#include "app/neck/neck_marks.h"
#include "app/theme/theme.h"
#include "app/theme/words.h"
#include "core/base/text.h"
#include "core/theory/scale.h"

namespace ear {
KeyPage::KeyPage(Workbench& bench, QWidget* parent) : FactPage(bench, "Key", parent) {
  body()->addWidget(caption(tr("How much of each note sounds")));
  chroma_ = new BarChart(this);
  chroma_->setAccessibleName(tr("Pitch classes"));
  chroma_->setToolTip(tr("Notes of the key's scale are drawn in the accent colour; the others lie outside of it"));
  body()->addWidget(chroma_);
  body()->addWidget(caption(tr("On the neck of the guitar in hand")));
  neck_ = new NeckMap(this);
  neck_->setObjectName("key-neck");
  neck_->setFixedHeight(122);
  neck_->setToolTip(
      tr("Notes of the key's scale, faded where they hardly sound; notes that sound outside of it have cut corners. "
         "Click one to hear it."));
  body()->addWidget(neck_);
  connect(neck_, &NeckMap::struck, this,
          [this](FretPosition place) { bench_.voice().tone(bench_.document().guitar().pitch(place)); });
  scales_ = new QLabel(this);
  scales_->setObjectName("soft");
  scales_->setWordWrap(true);
  body()->addWidget(scales_);
  changes_ = new QListWidget(this);
  changes_->setObjectName("key-changes");
  changes_->setAccessibleName(tr("Changes of key"));
  changes_->setFixedHeight(40);
  changes_->setToolTip(tr("Double-click or press Return to loop the change"));
  body()->addWidget(changes_);
  connect(changes_, &QListWidget::itemActivated, this, [this](QListWidgetItem* item) {
    const Seconds at(item->data(Qt::UserRole).toDouble());
    bench_.selection().playSpot({at - Seconds(4), at + Seconds(4)});
  });
  body()->addWidget(caption(tr("Readings, best first")));
  readings_ = new QListWidget(this);
  readings_->setObjectName("key-readings");
  readings_->setFixedHeight(168);
  readings_->setToolTip(tr("Double-click or press Return to take a reading"));
  body()->addWidget(readings_);
  body()->addWidget(caption(tr("Set by hand")));
  own_ = new QLineEdit(this);
  own_->setObjectName("key-own");
  own_->setPlaceholderText(tr("such as E flat minor: Eb minor, or Ebm"));
  body()->addWidget(own_);
  wrong_ = new QLabel(this);
  wrong_->setObjectName("warning");
  wrong_->setWordWrap(true);
  wrong_->hide();
  body()->addWidget(wrong_);
  body()->addStretch();
  connect(readings_, &QListWidget::itemActivated, this, [this](QListWidgetItem* item) {
    const auto* found = bench_.session().findings();
    const auto index = static_cast<std::size_t>(readings_->row(item));
    if (found != nullptr && found->key && index < found->key->readings.size())
      decide(tr("Take key"), &Take::key, found->key->readings[index].key, Origin::set,
             Evidence::Kind::takenFromReadings);
  });
  connect(own_, &QLineEdit::returnPressed, this, &KeyPage::set);
  refresh();
}

void KeyPage::set() {
  const auto key = parseKey(own_->text().toStdString());
  wrong_->setVisible(!key);
  if (!key) {
    wrong_->setText(
        tr("“%1” is not a key. Type a letter A to G, # or b if needed, then major or minor.").arg(own_->text()));
    return;
  }
  decide(tr("Set key"), &Take::key, *key, Origin::set, Evidence::Kind::setByHand);
  own_->clear();
}

void KeyPage::confirm() {
  if (const auto key = bench_.brief().key)
    decide(tr("Confirm key"), &Take::key, key->value, Origin::confirmed, Evidence::Kind::confirmedByEar);
}

void KeyPage::takeMeasured() {
  undecide(tr("Back to measured key"), &Take::key);
}

/// By its sound, and by the shapes of the guitar in hand where these differ.
QString KeyPage::bothNames(const Key& key) const {
  return text(keySentence(bench_.session().notation(), key, bench_.document().setup()));
}

void KeyPage::showNeck(const Brief& brief, const Findings* found) {
  constexpr int kFrets = 9;
  const Guitar guitar = bench_.document().guitar();
  QStringList names;
  for (int s = 0; s < guitar.strings(); ++s)
    names << text(stringMark(bench_.session().notation(), guitar, s, bench_.session().spelling()));
  neck_->setGuitar(guitar, names, bench_.document().fretsFromNut(), kFrets);
  const bool heard = found != nullptr && found->key.has_value();
  neck_->setMarks(brief.key && heard ? evidenceMarks(guitar, scaleOf(brief.key->value), found->key->chroma,
                                                     bench_.session().spelling(), kFrets)
                                     : std::vector<NeckMark>{});
  QString best;
  if (brief.key && heard) {
    int shown = 0;
    for (const auto& fit : fitScales(found->key->chroma, brief.key->value.tonic))
      if (shown++ < 3)
        best += (best.isEmpty() ? "" : ", ") + tr("%1 %2").arg(text(scaleName(fit.scale.kind)), percent(fit.inside));
  }
  scales_->setText(best.isEmpty() ? QString() : tr("Of what sounds, so much lies in its scales: %1.").arg(best));
  scales_->setVisible(!best.isEmpty());
  changes_->clear();
  if (heard)
    for (const auto& change : found->key->changes) {
      auto* item =
          new QListWidgetItem(tr("from %1 on: %2").arg(text(clockTenths(change.at)), bothNames(change.key)), changes_);
      item->setData(Qt::UserRole, change.at.value);
    }
  changes_->setVisible(changes_->count() > 0);
}

void KeyPage::refreshOwn(const Brief& brief, const Findings* found) {
  showDecision(brief.key, found != nullptr ? measuredBrief(*found).key : std::nullopt);
  const auto inside = [&](int pc) { return brief.key && scaleOf(brief.key->value).contains(PitchClass(pc)); };
  const Spelling spelling = bench_.session().spelling();
  if (brief.key) setSentence(bothNames(brief.key->value));
  showNeck(brief, found);
  std::vector<BarChart::Bar> bars;
  readings_->clear();
  if (found != nullptr && found->key) {
    for (int pc = 0; pc < 12; ++pc)
      bars.push_back({text(pitchClassName(PitchClass(pc), spelling)), found->key->chroma[static_cast<std::size_t>(pc)],
                      inside(pc)});
    for (const auto& r : found->key->readings) readings_->addItem(shareOf(r.certainty) + bothNames(r.key));
  }
  chroma_->show(std::move(bars));
  own_->setEnabled(bench_.take() != nullptr);
}

}  // namespace ear
