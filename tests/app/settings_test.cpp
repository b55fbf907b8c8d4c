// SPDX-License-Identifier: GPL-3.0-or-later
// What is set for the program is kept for the next time; what went wrong is in the log.
#include "app/session/settings.h"

#include <QCheckBox>
#include <QSpinBox>
#include <fstream>

#include "app/session/log.h"
#include "window.h"

namespace conductus::app {
namespace {

TEST_F(Window, TheShopIsNamedInTheSettingsAndKept) {
    const auto file = folder_ / "conductus.ini";
    const auto open_with = [&] {
        window_ = std::make_unique<MainWindow>(shared_parts(), book_, file);
        window_->open_book();
        window_->show();
        window_->activateWindow();
        ASSERT_TRUE(QTest::qWaitForWindowActive(window_.get()));
    };
    open_with();
    EXPECT_EQ(find<QLabel>("jobPurpose")->text(), QString::fromStdString(book_.filename().string()))
        << "a shop without a name is called by its book";
    QTest::keyClick(window_.get(), Qt::Key_Comma, Qt::ControlModifier);
    auto* name = find<QLineEdit>("shopName");
    QTest::keyClicks(name, "Harbour Props");
    QTest::keyClick(name, Qt::Key_Return);
    EXPECT_EQ(find<QLabel>("jobPurpose")->text(), "Harbour Props");
    auto* size = find<QSpinBox>("textPercent");
    size->setFocus();
    QTest::keyClick(size, Qt::Key_Up);
    EXPECT_EQ(window_->appearance().percent(), 110);
    QTest::mouseClick(find<QCheckBox>("nightPaper"), Qt::LeftButton, {}, QPoint(6, 8));
    EXPECT_TRUE(window_->appearance().inks().night);
    EXPECT_TRUE(find<QAbstractButton>("night")->isChecked());
    EXPECT_FALSE(find<QLabel>("logFile")->text().isEmpty());
    QTest::mouseClick(find("closeSettings"), Qt::LeftButton);
    open_with();
    EXPECT_EQ(find<QLabel>("jobPurpose")->text(), "Harbour Props");
    EXPECT_EQ(window_->appearance().percent(), 110);
    EXPECT_TRUE(window_->appearance().inks().night);
    // What is asked for at a start is not kept by itself.
    window_->settings().begin_with(150, false);
    EXPECT_EQ(window_->appearance().percent(), 150);
    open_with();
    EXPECT_EQ(window_->appearance().percent(), 110);
}

TEST(Settings, AFileOfNonsenseIsNoTroubleAndOneThatCanNotBeWrittenIsSaid) {
    TemporaryFolder folder;
    const auto file = folder / "nonsense.ini";
    std::ofstream(file) << "[window]\ntext_percent=huge\nnight=\x01perhaps\n\xff\xfe";
    Settings settings(file);
    EXPECT_GE(settings.text_percent(), 80);
    EXPECT_LE(settings.text_percent(), 200);
    Settings nowhere(folder / "nonsense.ini/below.ini");
    int told = 0;
    QObject::connect(&nowhere, &Settings::not_kept, &nowhere, [&] { ++told; });
    nowhere.set_shop("Quay");
    EXPECT_EQ(told, 1);
    EXPECT_EQ(nowhere.shop(), "Quay") << "it holds for this run";
}

TEST(Log, HoldsLinesWithTheirTimeAndBeginsAnew) {
    TemporaryFolder folder;
    const auto file = folder / "state/conductus.log";
    open_log(file);
    log_line("begins\nwith one line");
    qWarning("the toolkit warns");
    const std::string log = read_file(file);
    EXPECT_EQ(std::count(log.begin(), log.end(), '\n'), 2) << log;
    EXPECT_NE(log.find("Z begins\\nwith one line"), std::string::npos) << log;
    EXPECT_NE(log.find("the toolkit warns"), std::string::npos);
    std::filesystem::resize_file(file, (1 << 20) + 1);
    log_line("after a megabyte");
    EXPECT_TRUE(std::filesystem::exists(file.string() + ".1"));
    EXPECT_LT(std::filesystem::file_size(file), 200u);
    open_log({});
    log_line("nowhere");
    qInstallMessageHandler(nullptr);
}

} // namespace
} // namespace conductus::app
