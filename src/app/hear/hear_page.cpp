// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/hear/hear_page.h"

#include <QCheckBox>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QTableWidget>
#include <QVBoxLayout>
#include <cmath>

#include "app/isolate/isolate_page.h"
#include "app/theme/pieces.h"
#include "app/theme/words.h"
#include "core/base/quantities.h"
#include "core/base/statistics.h"
#include "core/base/text.h"

namespace ear {
namespace {

int nearestNote(MidiPitch pitch, Cents offset) {
  return static_cast<int>(std::lround(pitch.value - offset.value / 100));
}

/// What lies over an octave under the middle of a voice does not belong to it: where the voice rests, something else is
/// followed.
MidiPitch lowestOf(const std::vector<PlayedNote>& voice) {
  constexpr double kApart = 12.5;  // semitones
  std::vector<double> pitches;
  for (const auto& n : voice) pitches.push_back(n.note.pitch.value);
  return MidiPitch(pitches.empty() ? 0.0 : medianOf(std::move(pitches)) - kApart);
}

}  // namespace

QString gestureWords(const PlayedNote& played, Cents offset, const NotationPreferences& schools, Spelling spelling) {
  const auto tr = [](const char* words) { return HearPage::tr(words); };
  QStringList words;
  if (const auto& bend = played.bend) {
    const QString size = text(bendName(schools, bend->size()) + ", " + centsWords(bend->size()));
    const QString to = text(noteName(nearestNote(bend->to, offset), spelling));
    // The same pitch on another fret or string sounds alike.
    words << (bend->again    ? tr("%1 again: still bent and struck once more, or picked on another fret").arg(to)
              : bend->before ? tr("bent to %1 before the stroke (%2)").arg(to, size)
                             : tr("bend to %1 (%2) in %3 s").arg(to, size, text(fixed(bend->rise.length().value, 2))));
    if (bend->released) words.last() += tr(", let down");
  }
  if (const auto& vibrato = played.vibrato)
    words << tr("vibrato %1 a second, %2 wide")
                 .arg(text(fixed(vibrato->rate.value, 1)), text(centsWords(vibrato->width)));
  if (const auto& slide = played.slide)
    words << tr("slide from %1?").arg(text(noteName(nearestNote(slide->from, offset), spelling)));
  return capitalised(words.join("; "));
}

HearPage::HearPage(Workbench& bench, std::function<std::unique_ptr<AudioInput>()> makeInput, QWidget* parent)
    : QWidget(parent), bench_(bench), makeInput_(std::move(makeInput)) {
  auto* column = pageColumn(this);
  const auto label = [&](const char* name, Theme::Face face) {
    auto* l = wrappingLabel(this, name, face);
    column->addWidget(l);
    return l;
  };
  sentence_ = label("hear-sentence", Theme::Face::sentence);
  verdict_ = label("hear-verdict", Theme::Face::text);
  ask_ = plainButton(this, "hear-ask", tr("Guess"), tr("Take the moment at the playhead and guess what sounds  (9)"));
  reveal_ = plainButton(this, "hear-reveal", tr("Hold to peek"),
                        tr("What sounds at the playhead, while it is held  (hold 0)"));
  sing_ = plainButton(this, "hear-sing", tr("Sing or play it"), tr("Listen to the input until a note stands still"));
  typed_ = new QLineEdit(this);
  typed_->setObjectName("hear-typed");
  typed_->setPlaceholderText(tr("Type a note, or click it on the neck"));
  typed_->setAccessibleName(tr("A note as a guess"));
  typed_->setToolTip(tr("A note such as E♭4, or without its octave"));
  column->addLayout(rowOf({ask_, sing_, reveal_}));
  column->addWidget(typed_);
  tally_ = label("hear-tally", Theme::Face::text);
  column->addSpacing(6);
  column->addWidget(caption(tr("The voice of the passage"), this));
  voiceState_ = label("hear-voice", Theme::Face::text);
  follow_ = plainButton(this, "hear-follow", tr("Follow it"),
                        tr("Measure the pitch of the leading voice, its notes, bends, vibrato and slides  (Shift+J)"));
  drop_ = plainButton(this, "hear-drop", tr("Hide it"), tr("Take the line off the pitch map"));
  column->addLayout(rowOf({follow_, drop_}));
  notes_ = new QTableWidget(0, 3, this);
  notes_->setObjectName("hear-notes");
  notes_->setAccessibleName(tr("Notes of the voice"));
  notes_->setHorizontalHeaderLabels({tr("Time"), tr("Note"), tr("What it does")});
  notes_->verticalHeader()->hide();
  notes_->verticalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);  // whatever the drawer's width
  notes_->setEditTriggers(QAbstractItemView::NoEditTriggers);
  notes_->setSelectionBehavior(QAbstractItemView::SelectRows);
  notes_->setShowGrid(false);
  notes_->setWordWrap(true);
  notes_->setTextElideMode(Qt::ElideNone);
  notes_->horizontalHeader()->setSectionResizeMode(2, QHeaderView::Stretch);
  notes_->setColumnWidth(0, 62);
  notes_->setColumnWidth(1, 52);
  notes_->setMinimumHeight(150);
  notes_->setToolTip(tr("Click a note to go there and hear it"));
  column->addWidget(notes_, 1);
  asides_ = new QCheckBox(this);
  asides_->setObjectName("hear-asides");
  asides_->setToolTip(
      tr("Where the voice rests, the bass or another part is followed: these are left out of the list"));
  asides_->hide();
  column->addWidget(asides_);
  connect(asides_, &QCheckBox::toggled, this, &HearPage::refresh);
  EarKeeper& ear = bench.ear();
  connect(ask_, &QPushButton::clicked, this, [&ear] { ear.ask(); });
  connect(reveal_, &QPushButton::pressed, this, [&ear] { ear.peek(true); });
  connect(reveal_, &QPushButton::released, this, [&ear] { ear.peek(false); });
  connect(sing_, &QPushButton::clicked, this,
          [this, &ear] { ear.listeningToInput() ? ear.stopListening() : ear.listenTo(makeInput_()); });
  connect(typed_, &QLineEdit::returnPressed, this, &HearPage::takeTyped);
  connect(follow_, &QPushButton::clicked, this, [&ear] { ear.following() ? ear.stopFollowing() : ear.followVoice(); });
  connect(drop_, &QPushButton::clicked, this, [&ear] { ear.dropVoice(); });
  connect(notes_, &QTableWidget::cellClicked, this, [this](int r, int) {
    const EarKeeper::Followed* followed = bench_.ear().voice();
    if (followed == nullptr || static_cast<std::size_t>(r) >= rows_.size()) return;
    const auto& played = followed->voice->notes[rows_[static_cast<std::size_t>(r)]];
    bench_.transport().seek(followed->span.start + played.note.span.start);
    bench_.voice().tone(nearestNote(played.note.pitch, bench_.document().offset()));
  });
  connect(&ear, &EarKeeper::changed, this, &HearPage::refresh);
  bench.session().whenChanged(kOfBrief | Changed::ear, this, &HearPage::refresh);
  connect(&bench.transport(), &Transport::changed, this, &HearPage::refresh);
  connect(&bench.selection(), &Selection::changed, this, &HearPage::refresh);
  connect(&bench.analysis(), &Analysis::soundChanged, this, &HearPage::refresh);
  refresh();
}

void HearPage::takeTyped() {
  const std::string words = typed_->text().trimmed().toStdString();
  if (!bench_.ear().asking()) bench_.ear().ask();
  if (const auto midi = parsePitch(words))
    bench_.ear().guess(*midi);
  else if (const auto pc = parsePitchClass(words))
    bench_.ear().guessClass(pc->value);
  else
    verdict_->setText(tr("“%1” is no note. Type one such as E♭4, F#3 or just G.").arg(typed_->text()));
  typed_->selectAll();
}

void HearPage::listNotes() {
  const EarKeeper::Followed* followed = bench_.ear().voice();
  const HeardVoice* voice = followed != nullptr ? followed->voice.get() : nullptr;
  if (voice == listed_ && bench_.session().notation() == named_ && asides_->isChecked() == withAsides_) return;
  listed_ = voice;
  named_ = bench_.session().notation();
  withAsides_ = asides_->isChecked();
  rows_.clear();
  notes_->setRowCount(0);
  const MidiPitch lowest = lowestOf(voice != nullptr ? voice->notes : std::vector<PlayedNote>{});
  int left = 0;
  for (std::size_t i = 0; voice != nullptr && i < voice->notes.size(); ++i) {
    const bool other = voice->notes[i].note.pitch < lowest;
    left += other ? 1 : 0;
    if (!other || withAsides_) rows_.push_back(i);
  }
  asides_->setVisible(left > 0);
  asides_->setText(tr("with %1 far below it").arg(counted(left, tr("note"), tr("notes"))));
  if (voice == nullptr) return;
  const Cents offset = bench_.document().offset();
  notes_->setRowCount(static_cast<int>(rows_.size()));
  for (std::size_t row = 0; row < rows_.size(); ++row) {
    const auto& played = voice->notes[rows_[row]];
    const Seconds at = followed->span.start + played.note.span.start;
    QString hand = gestureWords(played, offset, bench_.session().notation(), bench_.session().spelling());
    if (played.note.pitch < lowest) hand = tr("Far below the others: the bass, or another part?");
    const QString cells[] = {text(clockTenths(at)),
                             text(noteName(nearestNote(frettedPitch(played), offset), bench_.session().spelling())),
                             hand};
    for (int c = 0; c < 3; ++c) notes_->setItem(static_cast<int>(row), c, new QTableWidgetItem(cells[c]));
  }
}

void HearPage::refresh() {
  const EarKeeper& ear = bench_.ear();
  const bool sound = bench_.transport().hasSound();
  QStringList names;
  for (const auto& h : ear.hints()) names << text(noteName(h.midi, bench_.session().spelling()));
  sentence_->setText(ear.listeningToInput() ? tr("Sing or play it now")
                     : ear.asking()         ? tr("Which note sounds here?")
                     : !names.isEmpty()     ? names.join(" ")
                                            : tr("Ear first"));
  verdict_->setText(
      !ear.verdict().isEmpty() ? ear.verdict()
      : ear.asking()
          ? tr("At %1. Sing it, play it, type it, or click it on the neck.").arg(text(clockTenths(ear.moment())))
      : ear.peeking() ? tr("Seems to sound here, the strongest first.")
                      : tr("Stop where a note sounds, guess it, and see whether you were right."));
  const EarTally& tally = bench_.document().study().ear;
  tally_->setText(tally.guesses == 0 ? tr("No first guess yet in this study.")
                                     : tr("First guesses right in this study: %1 of %2 (%3).")
                                           .arg(tally.hits)
                                           .arg(tally.guesses)
                                           .arg(percent(static_cast<double>(tally.hits) / tally.guesses)));
  sing_->setText(ear.listeningToInput() ? tr("Stop listening") : tr("Sing or play it"));
  ask_->setEnabled(sound);
  reveal_->setEnabled(sound);
  sing_->setEnabled(sound);
  typed_->setEnabled(sound);
  const EarKeeper::Followed* followed = ear.voice();
  listNotes();
  follow_->setText(ear.following() ? tr("Stop") : tr("Follow it"));
  follow_->setEnabled(sound && (ear.following() || bench_.selection().passage().has_value()));
  drop_->setEnabled(followed != nullptr);
  voiceState_->setText(
      ear.following()       ? tr("Following …")
      : followed != nullptr ? tr("%1, %2 to %3. Heard: %4. Measured: check them by ear.")
                                  .arg(counted(static_cast<int>(rows_.size()), tr("note"), tr("notes")),
                                       text(clockTenths(followed->span.start)), text(clockTenths(followed->span.end)),
                                       lowered(isolationWords(followed->isolation)))
      : bench_.selection().passage() ? tr("Its pitch can be drawn over the map, with bends and vibrato measured.")
                                     : tr("Take a passage first: drag one, or press O."));
}

}  // namespace ear
