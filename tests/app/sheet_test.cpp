// SPDX-License-Identifier: GPL-3.0-or-later
#include <QCheckBox>
#include <QComboBox>
#include <QFile>
#include <QLineEdit>
#include <QListWidget>
#include <cstdio>
#include <fstream>
#include <sstream>

#include "app/paper/sheet_files.h"
#include "app/sheet/sheet_preview.h"
#include "app/sheet/sheet_window.h"
#include "desk_fixture.h"

namespace ear::test {
namespace {

using testing::AllOf;
using testing::HasSubstr;
using testing::Not;

/// What another program makes of a file; of poppler's tools.
std::string outputOf(const std::string& command) {
  FILE* pipe = popen(command.c_str(), "r");
  std::string text;
  char buffer[4096];
  while (const std::size_t n = fread(buffer, 1, sizeof buffer, pipe)) text.append(buffer, n);
  pclose(pipe);
  return text;
}

class SheetTest : public DeskTest {
 protected:
  SheetWindow& open() {
    openDemo();
    auto* window = window_->openSheet();
    EXPECT_NE(window, nullptr);
    return *window;
  }
  template <class Widget>
  static Widget& in(SheetWindow& window, const char* name) {
    auto* found = window.findChild<Widget*>(name);
    EXPECT_NE(found, nullptr) << name;
    return *found;
  }
  static std::string textOf(const SheetWindow& window) { return sheetText(window.sheet()); }
};

TEST_F(SheetTest, BecomesAPdfThatCanBeSearchedATextAndAWebPage) {
  SheetWindow& window = open();
  const auto folder = freshFolder("sheet");
  const auto pdf = folder / "sheet.pdf", plain = folder / "sheet.txt", page = folder / "sheet.html";
  ASSERT_TRUE(writeSheetPdf(window.pages(), pdf, "Copper Weather").ok());
  ASSERT_TRUE(writeSheetText(window.sheet(), plain).ok());
  ASSERT_TRUE(writeSheetHtml(window.sheet(), page).ok());
  // The page carries its tab as pictures in the page's own colours, and as characters beside them.
  std::stringstream html;
  html << std::ifstream(page).rdbuf();
  EXPECT_THAT(html.str(), AllOf(HasSubstr("<svg "), HasSubstr("fill=\"currentColor\""), HasSubstr("var(--accent)"),
                                HasSubstr("<details>"), Not(HasSubstr("fill=\"#14181c\""))));
  EXPECT_LT(html.str().size(), 400'000U);
  const std::string printed = outputOf("pdftotext -layout " + pdf.string() + " -");
  for (const char* wanted : {"Copper Weather", "cents sharp of A 440", "How to tune", "Form", "Opening hook",
                             "B|-----8-8/10----8-|", "Usual grips", "The same as 1 (Opening hook)"})
    EXPECT_THAT(printed, HasSubstr(wanted));
  EXPECT_THAT(outputOf("pdfinfo " + pdf.string()),
              AllOf(HasSubstr("Pages:           " + std::to_string(window.pages().count())), HasSubstr("A4")));
  EXPECT_LT(std::filesystem::file_size(pdf), 500'000U);
  // The columns are emb, sub, uni: what is embedded, and whose letters are known.
  const std::string fonts = outputOf("pdffonts " + pdf.string() + " | tail -n +3");
  EXPECT_THAT(fonts, HasSubstr("Inter"));
  EXPECT_EQ(outputOf("pdffonts " + pdf.string() + " | tail -n +3 | grep -v 'Identity-H *yes *[a-z]* *yes'"), "")
      << fonts;
  QFile file(plain);
  ASSERT_TRUE(file.open(QIODevice::ReadOnly));
  EXPECT_EQ(file.readAll().toStdString(), sheetText(window.sheet()));
}

TEST_F(SheetTest, HoldsWhatIsChosen) {
  SheetWindow& window = open();
  const int all = window.pages().count();
  EXPECT_GT(all, 2);
  auto& extent = in<QComboBox>(window, "sheet-extent");
  extent.setCurrentIndex(1);
  EXPECT_EQ(window.pages().count(), 1) << "one page is one page";
  extent.setCurrentIndex(4);
  EXPECT_THAT(textOf(window), AllOf(HasSubstr("Form"), Not(HasSubstr("How to tune"))));
  extent.setCurrentIndex(3);
  EXPECT_THAT(textOf(window), AllOf(HasSubstr("Chords"), HasSubstr("Usual grips"), Not(HasSubstr("Opening hook"))));
  EXPECT_FALSE(in<QComboBox>(window, "sheet-first").isEnabled());
  extent.setCurrentIndex(2);
  in<QComboBox>(window, "sheet-first").setCurrentText("2  Solo, the call");
  in<QComboBox>(window, "sheet-last").setCurrentText("3  Solo, the answer");
  EXPECT_THAT(textOf(window), AllOf(HasSubstr("Solo, the call"), HasSubstr("Solo, the answer"),
                                    Not(HasSubstr("Opening hook")), Not(HasSubstr("Chords\n"))));
  EXPECT_THAT(textOf(window), HasSubstr("as recorded"));
  in<QComboBox>(window, "sheet-level").setCurrentText("easier");
  EXPECT_THAT(textOf(window), HasSubstr("easier"));
}

TEST_F(SheetTest, PaperPrintAndOwnLinesAreKeptForTheNextOne) {
  {
    SheetWindow& window = open();
    const int pages = window.pages().count();
    in<QCheckBox>(window, "sheet-large").click();
    EXPECT_GT(window.pages().count(), pages);
    in<QComboBox>(window, "sheet-paper").setCurrentText("Letter");
    QTest::keyClicks(&in<QLineEdit>(window, "sheet-header"), "Room 4");
    EXPECT_TRUE(QTest::qWaitFor([&] { return window.sheet().header == "Room 4"; }));
    window.close();
  }
  auto* again = window_->openSheet();
  EXPECT_EQ(again->sheet().header, "Room 4");
  EXPECT_NEAR(again->pages().size().width() / mm(1), 215.9, 0.2);
  EXPECT_TRUE(in<QCheckBox>(*again, "sheet-large").isChecked());
}

TEST_F(SheetTest, FollowsTheStudyAndIsSeenLargerAndSmaller) {
  SheetWindow& window = open();
  bench().document().edit("Title", [](Study& s) { s.title = "Tin Weather"; });
  EXPECT_TRUE(QTest::qWaitFor([&] { return window.sheet().title == "Tin Weather"; }));
  const double fit = window.preview().zoom();
  QTest::keyClick(&window.preview(), Qt::Key_Plus);
  EXPECT_GT(window.preview().zoom(), fit);
  QTest::keyClick(&window.preview(), Qt::Key_0);
  EXPECT_NEAR(window.preview().zoom(), fit, 1e-6);
  QTest::keyClick(&window, Qt::Key_Escape);
  EXPECT_FALSE(window.isVisible());
}

TEST_F(SheetTest, IsARevisionOnceItWasGivenAwayAndTellsWhatChangedSince) {
  SheetWindow& window = open();
  EXPECT_EQ(window.sheet().revision, 1);
  const auto folder = freshFolder("revision");
  const auto file = [&](const char* name) { return QString::fromStdString((folder / name).string()); };
  ASSERT_TRUE(window.keep(SheetWindow::File::pdf, file("one.pdf")));
  EXPECT_EQ(bench().document().study().revisions->size(), 1U);
  ASSERT_TRUE(window.keep(SheetWindow::File::text, file("one.txt")));
  EXPECT_EQ(bench().document().study().revisions->size(), 1U) << "nothing has changed";
  bench().document().edit("Title", [](Study& s) {
    for (std::size_t i = 0; i < s.phrases.size(); ++i)
      if (s.phrases[i].id == "phrase1") s.phrase("phrase1")->name = "First hook";
  });
  ASSERT_TRUE(QTest::qWaitFor([&] { return window.sheet().revision == 2; }));
  auto& since = in<QComboBox>(window, "sheet-since");
  ASSERT_EQ(since.count(), 2);
  since.setCurrentIndex(1);
  const auto& changes = in<QListWidget>(window, "sheet-changes");
  EXPECT_TRUE(changes.isVisible());
  std::string all;
  for (int i = 0; i < changes.count(); ++i) all += changes.item(i)->text().toStdString() + "\n";
  EXPECT_THAT(all, AllOf(HasSubstr("Phrases\n"), HasSubstr("gone:  1 Opening hook"), HasSubstr("new:  1 First hook")));
  EXPECT_THAT(all, Not(HasSubstr("How to tune")));
  bench().document().undo();
  EXPECT_EQ(bench().document().study().revisions->size(), 1U) << "what was given away stays given away";
  ASSERT_TRUE(QTest::qWaitFor([&] { return window.sheet().revision == 1; }));
}

TEST_F(SheetTest, TearsNoBlockAndLeavesNoHeadingAtAFoot) {
  SheetWindow& window = open();
  for (const bool large : {false, true}) {
    const SheetPages pages(window.sheet(), {PageLook::Paper::a4, large});
    const auto items = itemsOf(window.sheet(), SheetStyle{large ? 1.35 : 1.0}, mm(176));
    std::size_t next = 0;
    for (int page = 0; page < pages.count(); ++page) {
      const auto placed = pages.placedOn(page);
      ASSERT_FALSE(placed.empty());
      for (const auto& [item, top] : placed) {
        EXPECT_EQ(item, next++) << "in order, each once";
        EXPECT_LE(top + items[item].height, pages.size().height() - mm(18) + 1) << "within the page";
      }
      if (page + 1 < pages.count()) {
        EXPECT_FALSE(items[placed.back().first].staysWithNext) << "on page " << page;
      }
    }
    EXPECT_EQ(next, items.size());
  }
}

TEST(SheetFiles, SayWhenTheyCannotBeWritten) {
  EXPECT_FALSE(writeSheetPdf(SheetPages({}, {}), "/no/such/folder/a.pdf", "x").ok());
  EXPECT_FALSE(writeSheetText({}, "/no/such/folder/a.txt").ok());
  EXPECT_FALSE(writeSheetHtml({}, "/no/such/folder/a.html").ok());
}

}  // namespace
}  // namespace ear::test
