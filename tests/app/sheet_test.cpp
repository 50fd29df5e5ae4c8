// SPDX-License-Identifier: GPL-3.0-or-later
#include <QFile>
#include <cstdio>

#include "app/sheet/sheet_document.h"
#include "desk_fixture.h"

namespace ear::test {
namespace {

using testing::HasSubstr;

std::string pdfText(const std::filesystem::path& file) {
  FILE* pipe = popen(("pdftotext -layout " + file.string() + " -").c_str(), "r");
  std::string text;
  char buffer[4096];
  while (const std::size_t n = fread(buffer, 1, sizeof buffer, pipe)) text.append(buffer, n);
  pclose(pipe);
  return text;
}

TEST_F(DeskTest, SheetOfTheDemoBecomesPdfAndText) {
  openDemo();
  const auto& study = bench().document().study();
  const Sheet sheet = layOutSheet(study, *bench().take(), bench().session().findings());
  const auto folder = freshFolder("sheet");
  const auto pdf = folder / "sheet.pdf", plain = folder / "sheet.txt";
  ASSERT_TRUE(writeSheetPdf(sheet, QString::fromStdString(pdf.string()), "Copper Weather").ok());
  ASSERT_TRUE(writeSheetText(sheet, QString::fromStdString(plain.string())).ok());
  // Read back by poppler's pdftotext.
  const std::string printed = pdfText(pdf);
  for (const char* wanted :
       {"Copper Weather", "cents sharp of A 440", "How to tune", "Form", "Opening hook", "B|-----8-8/10----8-|"})
    EXPECT_THAT(printed, HasSubstr(wanted));
  QFile file(QString::fromStdString(plain.string()));
  ASSERT_TRUE(file.open(QIODevice::ReadOnly));
  EXPECT_EQ(file.readAll().toStdString(), sheetText(sheet));
}

TEST(SheetFiles, SayWhenTheyCannotBeWritten) {
  EXPECT_FALSE(writeSheetPdf({}, "/no/such/folder/a.pdf", "x").ok());
  EXPECT_FALSE(writeSheetText({}, "/no/such/folder/a.txt").ok());
}

}  // namespace
}  // namespace ear::test
