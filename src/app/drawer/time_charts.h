// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>
#include <optional>
#include <vector>

#include "core/listening/results/findings.h"
#include "core/study/study.h"

namespace ear {

/// Where within the beat things start, with the places of straight and of triplet off-beats marked.
class SwingChart : public QWidget {
  Q_OBJECT
 public:
  explicit SwingChart(QWidget* parent = nullptr);
  void show(const std::optional<BeatProfile>& profile, const Swing& swing);

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  std::optional<BeatProfile> profile_;
  Swing swing_;
};

/// Every bar against every other one: dark where they are alike, with the sections that share a letter framed.
class SimilarityChart : public QWidget {
  Q_OBJECT
 public:
  explicit SimilarityChart(QWidget* parent = nullptr);
  void show(const SelfSimilarityPicture& picture, const Form& form, std::vector<Seconds> bars);

 signals:
  void clicked(Seconds at);

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  bool event(QEvent* event) override;

 private:
  double side() const;
  double placeOf(Seconds t) const;
  Seconds timeAt(double place) const;
  SelfSimilarityPicture picture_;
  Form form_;
  std::vector<Seconds> bars_;
};

}  // namespace ear
