// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/desk/asking.h"

#include <QAbstractButton>
#include <QMessageBox>
#include <QPushButton>
#include <cstdio>

#include "app/theme/words.h"

namespace ear {

void Asking::complain(const QString& title, const std::string& sentence) {
  complained_ = true;
  if (unattended_) {
    std::fprintf(stderr, "%s\n", sentence.c_str());
    return;
  }
  QMessageBox box(QMessageBox::Warning, title, text(sentence), QMessageBox::Ok, window_);
  box.exec();
}

int Asking::ask(const QString& title, const QString& question, const QStringList& answers) const {
  if (unattended_) return static_cast<int>(answers.size()) - 1;
  QMessageBox box(QMessageBox::Question, title, question, QMessageBox::NoButton, window_);
  QList<QAbstractButton*> buttons;
  for (const QString& answer : answers) {
    auto* button = box.addButton(answer, QMessageBox::ActionRole);
    button->setObjectName("answer-" + QString::number(buttons.size()));
    buttons.append(button);
  }
  box.setDefaultButton(qobject_cast<QPushButton*>(buttons.front()));
  box.setEscapeButton(buttons.back());
  box.exec();
  return static_cast<int>(buttons.indexOf(box.clickedButton()));
}

}  // namespace ear
