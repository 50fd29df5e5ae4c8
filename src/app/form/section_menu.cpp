// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/form/section_menu.h"

#include <QInputDialog>
#include <QMenu>

#include "app/theme/words.h"
#include "app/workbench/workbench.h"
#include "core/base/text.h"
#include "core/study/form_edit.h"

namespace ear {
namespace {

constexpr Seconds kReach{3.0};

QString tr(const char* words) {
  return QObject::tr(words);
}

QString called(const Section& s) {
  return s.name.empty() ? text(s.letter) : text(s.letter) + " " + text(s.name);
}

}  // namespace

void askSameAs(Workbench& bench, std::size_t section, std::size_t as, QWidget* parent) {
  const auto form = bench.brief().form;
  if (!form || section >= form->value.size() || as >= form->value.size()) return;
  bool fine = false;
  const QString what = QInputDialog::getText(parent, tr("The same music"), tr("What differs here (empty: nothing):"),
                                             QLineEdit::Normal, text(form->value[section].difference), &fine);
  if (fine)
    bench.form().edit(tr("Mark as the same"), [&](Form& f) { markSame(f, section, as, what.trimmed().toStdString()); });
}

void openSectionMenu(Workbench& bench, std::size_t section, Seconds at, QWidget* parent, QPoint globalPos) {
  const Form form = bench.brief().form->value;
  const Section& s = form[section];
  auto* menu = new QMenu(parent);
  menu->setObjectName("section-menu");
  menu->setAttribute(Qt::WA_DeleteOnClose);
  menu->addAction(tr("Loop it"), parent, [&bench, span = s.span] { bench.selection().playSpot(span); });
  menu->addSeparator();
  menu->addAction(tr("Name …"), parent, [&bench, parent, section, s] {
    bool fine = false;
    const QString name = QInputDialog::getText(parent, tr("Name of the section"), tr("What you call it:"),
                                               QLineEdit::Normal, text(s.name.empty() ? s.guess : s.name), &fine);
    if (fine)
      bench.form().edit(tr("Rename section"),
                        [&](Form& f) { renameSection(f, section, {}, name.trimmed().toStdString()); });
  });
  if (s.name.empty() && !s.guess.empty())
    menu->addAction(tr("It is the %1").arg(text(s.guess)), parent, [&bench, section, s] {
      bench.form().edit(tr("Rename section"), [&](Form& f) { renameSection(f, section, {}, s.guess); });
    });
  auto* same = menu->addMenu(tr("The same music as"));
  for (std::size_t i = 0; i < form.size(); ++i)
    if (i != section)
      same->addAction(QStringLiteral("%1  %2").arg(called(form[i]), text(clockTenths(form[i].span.start))), parent,
                      [&bench, parent, section, i] { askSameAs(bench, section, i, parent); });
  same->setEnabled(form.size() > 1);
  menu->addSeparator();
  const Seconds cut = snapToBar(bench.time().grid(), at, kReach);
  menu->addAction(tr("Cut at %1").arg(text(clockTenths(cut))), parent,
                  [&bench, cut] { bench.form().edit(tr("Split section"), [&](Form& f) { splitSection(f, cut); }); });
  auto* join = menu->addAction(tr("Join to the one before"), parent, [&bench, section] {
    bench.form().edit(tr("Join sections"), [&](Form& f) { mergeWithPrevious(f, section); });
  });
  join->setEnabled(section > 0);
  menu->popup(globalPos);
}

}  // namespace ear
