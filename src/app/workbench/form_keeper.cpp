// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/workbench/form_keeper.h"

#include "app/workbench/workbench.h"
#include "core/practice/nesting.h"
#include "core/study/form_edit.h"

namespace ear {

FormKeeper::FormKeeper(Workbench& bench) : QObject(&bench), bench_(bench) {}

Form FormKeeper::form() const {
  const auto form = bench_.brief().form;
  return form ? form->value : Form{};
}

void FormKeeper::edit(const QString& label, const std::function<void(Form&)>& change, const std::string& merge) {
  const Take* take = bench_.take();
  if (take == nullptr) return;
  const Form now = form();
  Form edited = now.empty() ? Form{{{Seconds(0), bench_.analysis().duration()}, "A", "", Origin::set, 1.0}} : now;
  change(edited);
  if (edited == now) return;
  bench_.document().edit(
      label.toStdString(),
      [&, id = take->id](Study& s) {
        s.take(id)->form = Decision<Shared<Form>>{edited, Origin::set, 1.0, Evidence::Kind::correctedByHand};
      },
      merge);
}

void FormKeeper::mark(Seconds at, const QString& words) {
  const Take* take = bench_.take();
  if (take == nullptr) return;
  bench_.document().edit((words.isEmpty() ? tr("Take mark away") : tr("Mark spot")).toStdString(),
                         [&, id = take->id](Study& s) { setCue(*s.take(id), at, words.toStdString()); });
}

void FormKeeper::take(const std::optional<TimeSpan>& span, const QString& instead) {
  if (span)
    bench_.selection().put(*span);
  else
    bench_.say(instead);
}

void FormKeeper::loopHere() {
  if (!bench_.transport().hasSound()) return;
  bench_.selection().setLooping(true);
  bench_.selection().put(
      nestedAround(bench_.time().grid(), form(), bench_.analysis().duration(), bench_.transport().position()).front());
}

void FormKeeper::widen() {
  const auto passage = bench_.selection().passage();
  if (!passage) return loopHere();
  take(wider(bench_.time().grid(), form(), bench_.analysis().duration(), *passage),
       tr("Nothing is wider than the whole recording."));
}

void FormKeeper::narrow() {
  const auto passage = bench_.selection().passage();
  if (!passage) return loopHere();
  const Seconds at = passage->contains(bench_.transport().position()) ? bench_.transport().position() : passage->start;
  take(narrower(bench_.time().grid(), form(), bench_.analysis().duration(), *passage, at),
       tr("The passage is no longer than a bar. A, S, D and F move its edges."));
}

void FormKeeper::step(bool next) {
  const auto passage = bench_.selection().passage();
  if (!passage) return loopHere();
  take(neighbour(bench_.time().grid(), bench_.analysis().duration(), *passage, next),
       next ? tr("The recording ends before the next one.") : tr("The recording starts after the one before."));
}

}  // namespace ear
