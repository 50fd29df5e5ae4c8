// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/phrasebench/midi_window.h"

#include <QComboBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>

#include "app/theme/pieces.h"
#include "app/theme/words.h"
#include "app/workbench/paths.h"
#include "app/workbench/workbench.h"
#include "core/writing/file_notes.h"

namespace ear {
namespace {

enum Begins { firstBar, firstNote, fileStart };

}  // namespace

bool isMidiFile(const QString& file) {
  const QString ending = QFileInfo(file).suffix().toLower();
  return ending == "mid" || ending == "midi" || ending == "smf";
}

MidiWindow::MidiWindow(Workbench& bench, QWidget* parent) : QDialog(parent), bench_(bench) {
  setWindowTitle(tr("Notes from a MIDI file"));
  setObjectName("midi-window");
  auto* column = windowColumn(this);
  sentence_ = wrappingLabel(this, "midi-sentence", Theme::Face::sentence);
  state_ = wrappingLabel(this, "soft", Theme::Face::text);
  voices_ = new QListWidget(this);
  voices_->setObjectName("midi-voices");
  voices_->setAccessibleName(tr("Tracks with notes"));
  voices_->setToolTip(tr("The track that plays what is written; double-click or Return offers its notes"));
  begins_ = new QComboBox(this);
  begins_->setObjectName("midi-begins");
  begins_->setAccessibleName(tr("What falls on the start of the phrase"));
  begins_->addItems({tr("the bar of its first note"), tr("its first note"), tr("the start of the file")});
  offer_ = plainButton(this, "midi-offer", tr("Offer its notes"),
                       tr("They stand in the tab as suggestions, to be taken one by one or all"));
  auto* other = plainButton(this, "midi-choose", tr("Choose a file …"), tr("Choose a MIDI file"));
  column->addWidget(sentence_);
  column->addWidget(state_);
  column->addWidget(voices_, 1);
  auto* begins = new QLabel(tr("On the first beat of the phrase falls"), this);
  column->addLayout(rowOf({begins, begins_}));
  column->addLayout(rowOf({offer_, other}));
  connect(offer_, &QPushButton::clicked, this, &MidiWindow::offer);
  connect(voices_, &QListWidget::itemActivated, this, &MidiWindow::offer);
  connect(other, &QPushButton::clicked, this, &MidiWindow::chooseFile);
  resize(430, 380);
  refresh();
}

void MidiWindow::chooseFile() {
  const QString file = QFileDialog::getOpenFileName(this, tr("Open a MIDI file"), {},
                                                    tr("MIDI files (*.mid *.midi *.smf);;All files (*)"));
  if (!file.isEmpty()) read(file);
}

void MidiWindow::read(const QString& file) {
  auto found = readMidi(toPath(file));
  file_.reset();
  voices_->clear();
  const QString name = QFileInfo(file).fileName();
  if (found) {
    file_ = std::move(*found);
    for (const MidiVoice& v : file_->voices) {
      const auto [low, high] = std::minmax_element(
          v.notes.begin(), v.notes.end(), [](const MidiNote& a, const MidiNote& b) { return a.midi < b.midi; });
      voices_->addItem(tr("%1: %2, %3 to %4")
                           .arg(text(v.name), counted(static_cast<int>(v.notes.size()), tr("note"), tr("notes")),
                                text(noteName(low->midi, bench_.session().spelling())),
                                text(noteName(high->midi, bench_.session().spelling()))));
    }
    voices_->setCurrentRow(0);
    sentence_->setText(name);
    state_->setText(tr("Nobody knows how it was made: what is taken from it stays in doubt until you confirm it."));
  } else {
    sentence_->setText(tr("%1 cannot be read").arg(name));
    state_->setText(text(found.problem()));
  }
  refresh();
}

void MidiWindow::refresh() {
  if (sentence_->text().isEmpty()) {
    sentence_->setText(tr("Choose a MIDI file"));
    state_->setText(tr("One can also be dropped on the desk. Its notes are placed on the neck of the guitar in hand."));
  }
  offer_->setEnabled(file_.has_value());
  begins_->setEnabled(file_.has_value());
}

void MidiWindow::offer() {
  const int row = voices_->currentRow();
  if (!file_ || row < 0) return;
  const MidiVoice& voice = file_->voices[static_cast<std::size_t>(row)];
  Rational from = 0;
  if (begins_->currentIndex() == firstBar) from = firstBarOf(voice, file_->bar);
  if (begins_->currentIndex() == firstNote) from = voice.notes.front().at;
  const PhraseKeeper& phrases = bench_.phrases();
  SuggestionContext context{phrases.phrase() != nullptr ? phrases.view().guitar : bench_.document().guitar(),
                            phrases.wishes()};
  // What lies behind the phrase belongs to another one.
  auto found = suggestionsOf(voice, from, context);
  const Phrase* p = phrases.phrase();
  if (p != nullptr && phrases.view().timed)
    std::erase_if(found, [&](const Suggestion& s) { return phrases.timeOf(*p, s.note.at) >= p->span.end; });
  if (found.empty()) {
    state_->setText(
        tr("None of its notes falls into the phrase. Choose what falls on its start otherwise, or drag the "
           "phrase longer."));
    return;
  }
  const auto lost = static_cast<int>(voice.notes.size() - found.size());
  bench_.phraseEar().offer(std::move(found));
  bench_.say(lost == 0
                 ? tr("All notes are offered: Shift+Return takes the next one.")
                 : tr("%1 beyond the phrase or the neck is left out.").arg(counted(lost, tr("note"), tr("notes"))));
  close();
}

}  // namespace ear
