// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawer/scale_box.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <algorithm>

#include "app/theme/pieces.h"
#include "app/theme/words.h"
#include "app/workbench/workbench.h"
#include "core/base/text.h"

namespace ear {
namespace {

constexpr double kMostlyInside = 0.8;  // of the notes, before a scale is suggested

}  // namespace

ScaleBox::ScaleBox(Workbench& bench, QWidget* parent) : QWidget(parent), bench_(bench) {
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(6);
  scale_ = new QComboBox(this);
  scale_->setObjectName("phrase-scale");
  scale_->setAccessibleName(tr("Scale of the phrase"));
  scale_->setToolTip(tr("The scale that the phrase uses: notes outside of it are asked about"));
  box_ = new QComboBox(this);
  box_->setObjectName("phrase-box");
  box_->setAccessibleName(tr("Box of the scale"));
  box_->setToolTip(tr("Which box of the scale lies under the hand"));
  switch_ = new QComboBox(this);
  switch_->setObjectName("phrase-switch");
  switch_->setAccessibleName(tr("Another scale from the caret on"));
  switch_->setToolTip(tr("The line goes over to another scale where the caret stands"));
  used_ = wrappingLabel(this, "phrase-used", Theme::Face::text);
  takeUsed_ = plainButton(this, "phrase-take-used", tr("State it so"), tr("The phrase is said to use these scales"));
  auto* scales = new QHBoxLayout;
  scales->addWidget(scale_, 3);
  scales->addWidget(box_, 2);
  column->addLayout(scales);
  column->addWidget(switch_);
  column->addWidget(used_);
  column->addLayout(rowOf({takeUsed_}));
  connect(scale_, &QComboBox::activated, this,
          [this](int i) { bench_.phrases().sayScale(scaleOf(scale_->itemData(i)), 0); });
  connect(box_, &QComboBox::activated, this, [this](int i) {
    if (const ScaleStretch* s = bench_.phrases().scaleInHand()) bench_.phrases().sayScale(s->scale, i);
  });
  connect(switch_, &QComboBox::activated, this, [this](int i) {
    if (const auto scale = scaleOf(switch_->itemData(i))) bench_.phrases().switchScaleHere(*scale);
  });
  connect(takeUsed_, &QPushButton::clicked, &bench.phrases(), &PhraseKeeper::sayScalesUsed);
  connect(&bench.phrases(), &PhraseKeeper::changed, this, &ScaleBox::refresh);
  refresh();
}

/// The scale of a choice, on the tonic that the choices are named by; nothing for none.
std::optional<Scale> ScaleBox::scaleOf(const QVariant& kind) const {
  const ScaleStretch* here = bench_.phrases().scaleInHand();
  const auto key = settled(bench_.brief().key);
  if (kind.toInt() < 0 || (!key && here == nullptr)) return std::nullopt;
  return Scale{here != nullptr ? here->scale.tonic : key->tonic, static_cast<ScaleKind>(kind.toInt())};
}

/// The scales on the tonic of the key; without one there is nothing to choose from.
void ScaleBox::refresh() {
  const Phrase* p = bench_.phrases().phrase();
  const ScaleStretch* here = bench_.phrases().scaleInHand();
  const auto key = settled(bench_.brief().key);
  const QSignalBlocker a(scale_), b(box_), c(switch_);
  const Spelling spelling = bench_.session().spelling();
  const PitchClass tonic = here != nullptr ? here->scale.tonic : key ? key->tonic : PitchClass(0);
  const bool there = key || here != nullptr;
  for (QComboBox* box : {scale_, switch_}) {
    box->clear();
    box->addItem(box == scale_ ? tr("no scale stated") : tr("from here on …"), -1);
    for (const ScaleKind kind : kAllScales)
      if (there)
        box->addItem(QString("%1 %2").arg(text(pitchClassName(tonic, spelling)), text(scaleName(kind))),
                     static_cast<int>(kind));
  }
  scale_->setCurrentIndex(here != nullptr ? scale_->findData(static_cast<int>(here->scale.kind)) : 0);
  scale_->setEnabled(p != nullptr);
  box_->clear();
  box_->addItem(tr("no box"));
  if (here != nullptr) {
    const int boxes = static_cast<int>(boxesOf(bench_.phrases().view().guitar, here->scale).size());
    for (int i = 1; i <= boxes; ++i) box_->addItem(tr("box %1").arg(i));
    box_->setCurrentIndex(std::clamp(here->box, 0, boxes));
  }
  box_->setEnabled(here != nullptr);
  switch_->setVisible(here != nullptr);
  showUsed();
}

/// What the notes lie in, as long as it is not what is stated.
void ScaleBox::showUsed() {
  const ScaleUse used = bench_.phrases().scalesUsed();
  const Phrase* p = bench_.phrases().phrase();
  const bool tells =
      p != nullptr && !used.stretches.empty() && used.stretches != p->scales && used.inside >= kMostlyInside * used.of;
  used_->setVisible(tells);
  takeUsed_->setVisible(tells);
  if (!tells) return;
  QStringList parts;
  for (const ScaleStretch& s : used.stretches) {
    QString words =
        QString("%1 %2, box %3")
            .arg(text(pitchClassName(s.scale.tonic, bench_.session().spelling())), text(scaleName(s.scale.kind)))
            .arg(s.box);
    if (!parts.isEmpty())
      words = tr("from %1 on %2").arg(text(clockTenths(bench_.phrases().timeOf(*p, s.from))), words);
    parts << words;
  }
  used_->setText(tr("By its notes: %1 (%2 of %3).").arg(parts.join("; ")).arg(used.inside).arg(used.of));
}

}  // namespace ear
