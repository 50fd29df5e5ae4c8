#include "app/drawer/key_page.h"

#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QVBoxLayout>

#include "app/theme/theme.h"
#include "core/theory/scale.h"

namespace ear {
namespace {

QString text(const std::string& s) {
  return QString::fromStdString(s);
}

}  // namespace

KeyPage::KeyPage(Workbench& bench, QWidget* parent) : FactPage(bench, "Key", parent) {
  body()->addWidget(caption(tr("How much of each note sounds")));
  chroma_ = new BarChart(this);
  chroma_->setAccessibleName(tr("Pitch classes"));
  chroma_->setToolTip(tr("Notes of the key's scale are drawn in the accent colour; the others lie outside of it"));
  body()->addWidget(chroma_);
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
    const auto* found = bench_.findings();
    const auto index = static_cast<std::size_t>(readings_->row(item));
    if (found != nullptr && found->key && index < found->key->readings.size())
      decide(tr("Take key"), &Take::key, found->key->readings[index].key, Origin::set, tr("Taken from the readings."));
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
  decide(tr("Set key"), &Take::key, *key, Origin::set, tr("Set by hand."));
  own_->clear();
}

void KeyPage::confirm() {
  if (const auto key = bench_.brief().key)
    decide(tr("Confirm key"), &Take::key, key->value, Origin::confirmed, tr("Confirmed by ear."));
}

void KeyPage::takeMeasured() {
  undecide(tr("Back to measured key"), &Take::key);
}

void KeyPage::refreshOwn(const Brief& brief, const Findings* found) {
  showDecision(brief.key, found != nullptr ? measuredBrief(*found).key : std::nullopt);
  const auto inside = [&](int pc) { return brief.key && scaleOf(brief.key->value).contains(PitchClass(pc)); };
  const Spelling spelling = brief.key ? spellingOf(brief.key->value) : Spelling::sharps;
  std::vector<BarChart::Bar> bars;
  readings_->clear();
  if (found != nullptr && found->key) {
    for (int pc = 0; pc < 12; ++pc)
      bars.push_back({text(pitchClassName(PitchClass(pc), spelling)), found->key->chroma[static_cast<std::size_t>(pc)],
                      inside(pc)});
    for (const auto& r : found->key->readings)
      readings_->addItem(tr("%1   %2 %").arg(text(keyName(r.key))).arg(static_cast<int>(100 * r.certainty + 0.5)));
  }
  chroma_->show(std::move(bars));
  own_->setEnabled(bench_.take() != nullptr);
}

}  // namespace ear
