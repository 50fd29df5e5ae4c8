// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/brief/brief_row.h"

#include <QHBoxLayout>

#include "app/theme/theme.h"
#include "app/theme/words.h"
#include "core/base/quantities.h"
#include "core/base/text.h"

namespace ear {
namespace {

/// A guess is no statement.
QString perhaps(const QString& sentence) {
  return QObject::tr("Perhaps %1")
      .arg(sentence.startsWith("At ") ? sentence.left(1).toLower() + sentence.mid(1) : sentence);
}

template <class T>
TileFace faceOf(const std::optional<Decision<T>>& decision, const QString& figure) {
  TileFace face;
  if (!decision) return face;
  const QString sentence = QString::fromStdString(sentenceOf(decision->value));
  face.sentence = isSettled(decision) ? sentence : perhaps(sentence);
  face.figure = figure;
  face.origin = decision->origin;
  face.standing = QString::fromUtf8(originWord(decision->origin).data());
  if (decision->origin == Origin::measured)
    face.standing += ", " + QString::fromUtf8(certaintyWord(decision->certainty).data());
  return face;
}

}  // namespace

BriefRow::BriefRow(Workbench& bench, QWidget* parent) : QWidget(parent), bench_(bench) {
  setFixedHeight(Theme::kBriefRow);
  auto* row = new QHBoxLayout(this);
  row->setContentsMargins(16, Theme::kGrid, 16, Theme::kGrid);
  row->setSpacing(Theme::kGrid);
  const std::array<QString, kFacts> names = {tr("Pitch"), tr("Guitar"), tr("Key"), tr("Time"), tr("Form")};
  for (int i = 0; i < kFacts; ++i) {
    auto* tile = new FactTile(names[static_cast<std::size_t>(i)], this);
    tile->setObjectName("tile-" + names[static_cast<std::size_t>(i)].toLower());
    connect(tile, &QAbstractButton::clicked, this, [this, i] { emit opened(i); });
    row->addWidget(tile, 1);
    tiles_[static_cast<std::size_t>(i)] = tile;
  }
  bench.session().whenChanged(kOfBrief, this, &BriefRow::refresh);
  connect(&bench.analysis(), &Analysis::changed, this, &BriefRow::refresh);
  refresh();
}

TileFace BriefRow::guitarFace(const Brief& brief) const {
  TileFace face = faceOf(brief.guitar, "");
  if (!brief.guitar) return face;
  face.sentence = capitalised(face.sentence);
  const auto parts = bench_.document().parts();
  const GuitarPart part = bench_.document().part();
  const FoundGuitar* heard = heardFor(part, bench_.session().findings());
  QString other;
  if (heard != nullptr)
    for (const auto& r : heard->readings)
      if (GuitarSetup{r.tuning, r.capo} != brief.guitar->value) {
        other = tr("or %1").arg(text(sentenceOf(GuitarSetup{r.tuning, r.capo})));
        break;
      }
  if (!isSettled(brief.guitar)) {
    face.sentence = tr("Not settled");
    other = tr("perhaps %1").arg(text(sentenceOf(brief.guitar->value)));
  }
  if (parts.size() > 1) face.about = tr("%1, %2 in all").arg(text(part.name)).arg(parts.size());
  face.figure = other;
  return face;
}

/// What the hand plays in, of the guitar in hand; empty where that is the sounding key.
QString BriefRow::shapesWords(const Brief& brief) const {
  if (brief.guitar && !isSettled(brief.guitar)) return tr("shapes: guitar not settled");
  const int shift = shapeShift(bench_.document().setup());
  if (shift == 0) return {};
  const Key shapes = transposed(brief.key->value, -shift);
  const QString name = tr("%1 shapes").arg(text(keyName(shapes, spellingIn(bench_.session().notation(), shapes))));
  const auto& played = *brief.guitar;
  return played.origin == Origin::measured ? tr("%1 (%2)").arg(name, text(certaintyWord(played.certainty))) : name;
}

void BriefRow::fold(bool on) {
  setFixedHeight(on ? Theme::kBriefLine : Theme::kBriefRow);
  const int edge = on ? 3 : Theme::kGrid;
  layout()->setContentsMargins(16, edge, 16, edge);
  for (FactTile* tile : tiles_) tile->fold(on);
}

void BriefRow::setOpen(int fact) {
  for (int i = 0; i < kFacts; ++i) tiles_[static_cast<std::size_t>(i)]->setChecked(i == fact);
}

void BriefRow::refresh() {
  const Brief brief = bench_.brief();
  const Findings* found = bench_.session().findings();
  std::array<TileFace, kFacts> faces;
  faces[pitch] = faceOf(brief.pitch, brief.pitch ? text(figureOf(brief.pitch->value)) : "");
  QString runnerUp;
  if (found != nullptr && found->key && found->key->readings.size() > 1)
    runnerUp = tr("or %1").arg(text(keyName(found->key->readings[1].key, bench_.session().spelling())));
  faces[key] = faceOf(brief.key, runnerUp);
  if (brief.key) {
    // Sound and shapes on two lines, whichever leads; each half says how sure it is itself.
    const QString sound = text(keyName(brief.key->value, spellingIn(bench_.session().notation(), brief.key->value)));
    faces[key].sentence = isSettled(brief.key) ? sound : perhaps(sound);
    QString second = shapesWords(brief);
    if (shapeShift(bench_.document().setup()) != 0 &&
        bench_.session().notation().keyLead == NotationPreferences::KeyLead::shapes) {
      std::swap(faces[key].sentence, second);
      second = tr("sounding %1").arg(second);
    }
    if (!second.isEmpty()) faces[key].figure = second + (runnerUp.isEmpty() ? "" : "; " + runnerUp);
  }
  faces[guitar] = guitarFace(brief);
  if (brief.time) {
    const auto& v = brief.time->value;
    faces[time] = faceOf(brief.time, tr("%1 to the bar, %2").arg(v.meter).arg(text(feelOf(v.swing))));
    faces[time].sentence = text(tempoWords(v.tempo));
    if (!isSettled(brief.time)) faces[time].sentence = perhaps(faces[time].sentence);
  }
  if (brief.form) {
    const auto& sections = brief.form->value;
    faces[form] = faceOf(brief.form, "");
    QString letters;
    for (const auto& s : sections) letters += text(s.letter) + " ";
    faces[form].sentence = letters.trimmed();
    faces[form].figure = counted(static_cast<int>(sections.size()), tr("section"), tr("sections"));
  }
  const bool working = bench_.analysis().running();
  const QString why = bench_.take() == nullptr ? tr("No recording yet")
                      : working                ? QString()
                                               : tr("Not known. Open to set it by hand.");
  for (std::size_t i = 0; i < kFacts; ++i) {
    faces[i].working = working;
    faces[i].whyUnknown = why;
    if (!working && found != nullptr) {
      if (i == pitch && !found->reference) faces[i].whyUnknown = tr("No stable pitch heard");
      if (i == key && (!found->key || found->key->readings.empty())) faces[i].whyUnknown = tr("No key heard");
      if (i == time && found->rhythm && found->rhythm->tempo.empty()) faces[i].whyUnknown = tr("No steady beat");
    }
    tiles_[i]->show(faces[i]);
    // All of it in words as well: a narrow tile cuts a long line.
    QString tip = tr("How this was found, other readings, and setting your own (Ctrl+%1)").arg(i + 1);
    if (!faces[i].sentence.isEmpty()) tip = faces[i].sentence + "; " + faces[i].figure + "\n" + tip;
    tiles_[i]->setToolTip(tip);
  }
}

}  // namespace ear
