// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawer/fact_page.h"

#include <QEvent>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/theme/theme.h"
#include "app/theme/words.h"

namespace ear {

FactPage::FactPage(Workbench& bench, const QString& fact, QWidget* parent) : QWidget(parent), bench_(bench) {
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(16, 12, 16, 12);
  column->setSpacing(6);
  sentence_ = new QLabel(this);
  sentence_->setObjectName(fact.toLower() + "-sentence");
  sentence_->setFont(Theme::font(Theme::Face::sentence));
  standing_ = new QLabel(this);
  standing_->setFont(Theme::font(Theme::Face::strong));
  evidence_ = new QLabel(this);
  measured_ = new QLabel(this);
  for (auto* soft : {evidence_, measured_}) soft->setObjectName("soft");
  for (auto* label : {sentence_, standing_, evidence_, measured_}) {
    label->setWordWrap(true);
    column->addWidget(label);
  }
  auto* buttons = new QHBoxLayout;
  confirm_ = new QPushButton(tr("Confirm by ear"), this);
  confirm_->setObjectName(fact.toLower() + "-confirm");
  confirm_->setToolTip(tr("Confirm this value by ear: no measurement will replace it"));
  revert_ = new QPushButton(tr("Back to measured"), this);
  revert_->setObjectName(fact.toLower() + "-revert");
  revert_->setToolTip(tr("Drop what was set by hand and show the measurement again"));
  buttons->addWidget(confirm_);
  buttons->addWidget(revert_);
  buttons->addStretch();
  column->addLayout(buttons);
  body_ = new QVBoxLayout;
  body_->setSpacing(6);
  column->addLayout(body_, 1);
  connect(confirm_, &QPushButton::clicked, this, [this] { confirm(); });
  connect(revert_, &QPushButton::clicked, this, [this] { takeMeasured(); });
  bench.session().whenChanged(kOfBrief | Changed::cues, this, &FactPage::refresh);
  connect(&bench.analysis(), &Analysis::changed, this, &FactPage::refresh);
}

void FactPage::changeEvent(QEvent* event) {
  QWidget::changeEvent(event);
  if (event->type() == QEvent::PaletteChange) refresh();  // tables keep colours of what they show
}

QLabel* FactPage::caption(const QString& words) {
  return ear::caption(words, this);
}

QString FactPage::standing(Origin origin, double certainty) const {
  QString words = text(originWord(origin));
  if (origin == Origin::measured) {
    words += ", " + text(certaintyWord(certainty));
    if (!bench_.analysis().running()) words += QStringLiteral(" (%1)").arg(percent(certainty));
  }
  return capitalised(words);
}

QString FactPage::shareOf(double certainty) const {
  return bench_.analysis().running() ? QString() : percent(certainty) + "   ";
}

void FactPage::setSentence(const QString& sentence) {
  sentence_->setText(sentence);
}

void FactPage::showTop(const QString& sentence, const QString& standing, const QString& evidence,
                       const QString& measured) {
  sentence_->setText(!sentence.isEmpty()           ? capitalised(sentence)
                     : bench_.analysis().running() ? tr("Listening …")
                                                   : tr("Not known"));
  standing_->setText(standing);
  standing_->setVisible(!standing.isEmpty());
  evidence_->setText(evidence);
  evidence_->setVisible(!evidence.isEmpty());
  measured_->setText(tr("Measured: %1").arg(measured));
  measured_->setVisible(!measured.isEmpty());
  confirm_->setEnabled(!sentence.isEmpty() && !standing.startsWith(tr("Confirmed")));
  revert_->setEnabled(!sentence.isEmpty() && !standing.startsWith(tr("Measured")));
}

void FactPage::refresh() {
  const Brief brief = bench_.brief();
  refreshOwn(brief, bench_.session().findings());
}

}  // namespace ear
