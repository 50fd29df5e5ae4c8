#include "app/brief/brief_row.h"

#include <QHBoxLayout>

#include "app/theme/theme.h"
#include "app/theme/words.h"
#include "core/text.h"

namespace ear {
namespace {

template <class T>
TileFace faceOf(const std::optional<Decision<T>>& decision, const QString& figure) {
  TileFace face;
  if (!decision) return face;
  face.sentence = QString::fromStdString(sentenceOf(decision->value));
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
    tile->setToolTip(tr("How this was found, other readings, and setting your own (Ctrl+%1)").arg(i + 1));
    connect(tile, &QAbstractButton::clicked, this, [this, i] { emit opened(i); });
    row->addWidget(tile, 1);
    tiles_[static_cast<std::size_t>(i)] = tile;
  }
  connect(&bench, &Workbench::documentChanged, this, &BriefRow::refresh);
  connect(&bench, &Workbench::listeningChanged, this, &BriefRow::refresh);
  refresh();
}

TileFace BriefRow::guitarFace(const Brief& brief) const {
  TileFace face = faceOf(brief.guitar, "");
  if (!brief.guitar) return face;
  face.sentence = capitalised(face.sentence);
  const auto parts = bench_.document().parts();
  const GuitarPart part = bench_.document().part();
  const FoundGuitar* heard = heardFor(part, bench_.findings());
  QString other;
  if (heard != nullptr)
    for (const auto& r : heard->readings)
      if (GuitarSetup{r.tuning, r.capo} != brief.guitar->value) {
        other = tr("or %1").arg(text(sentenceOf(GuitarSetup{r.tuning, r.capo})));
        break;
      }
  face.figure = parts.size() > 1 ? tr("%1, 1 of %2; %3").arg(text(part.name)).arg(parts.size()).arg(other) : other;
  return face;
}

void BriefRow::setOpen(int fact) {
  for (int i = 0; i < kFacts; ++i) tiles_[static_cast<std::size_t>(i)]->setChecked(i == fact);
}

void BriefRow::refresh() {
  const Brief brief = bench_.brief();
  const Findings* found = bench_.findings();
  std::array<TileFace, kFacts> faces;
  faces[pitch] = faceOf(brief.pitch, brief.pitch ? text(figureOf(brief.pitch->value)) : "");
  QString runnerUp;
  if (found != nullptr && found->key && found->key->readings.size() > 1)
    runnerUp = tr("or %1").arg(text(keyName(found->key->readings[1].key)));
  faces[key] = faceOf(brief.key, runnerUp);
  if (brief.key) {
    // Sound and shapes on two lines, whichever leads.
    const GuitarSetup setup = bench_.document().setup();
    const QStringList both = text(keySentence(bench_.schools(), brief.key->value, setup)).split(", ");
    faces[key].sentence = both.front();
    if (both.size() > 1) faces[key].figure = both.back() + (runnerUp.isEmpty() ? "" : "; " + runnerUp);
  }
  faces[guitar] = guitarFace(brief);
  if (brief.time) {
    const auto& v = brief.time->value;
    faces[time] = faceOf(brief.time, tr("%1 to the bar, %2").arg(v.meter).arg(text(feelOf(v.swing))));
    faces[time].sentence = tr("%1 beats a minute").arg(text(fixed(v.tempo.value, 0)));
  }
  if (brief.form) {
    const auto& sections = brief.form->value;
    faces[form] = faceOf(brief.form, "");
    QString letters;
    for (const auto& s : sections) letters += text(s.letter) + " ";
    faces[form].sentence = letters.trimmed();
    faces[form].figure = counted(static_cast<int>(sections.size()), tr("section"), tr("sections"));
  }
  const bool working = bench_.listening();
  const QString why = bench_.take() == nullptr ? tr("No recording yet")
                      : working                ? QString()
                                               : tr("Not known. Open to set it by hand.");
  for (std::size_t i = 0; i < kFacts; ++i) {
    faces[i].working = working;
    faces[i].whyUnknown = why;
    if (i == pitch && !working && found != nullptr && !found->reference)
      faces[i].whyUnknown = tr("No stable pitch heard");
    tiles_[i]->show(faces[i]);
  }
}

}  // namespace ear
