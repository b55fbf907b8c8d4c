// SPDX-License-Identifier: GPL-3.0-or-later
#include <QApplication>
#include <gtest/gtest.h>

#include "app/drawing/inks.h"
#include "support/fixtures.h"

namespace conductus::app {
int edit_until_killed(const char* book); // kept_test.cpp
int type_and_wait(const char* book);     // place_test.cpp
} // namespace conductus::app

int main(int argc, char** argv) {
    if (!qEnvironmentVariableIsSet("QT_QPA_PLATFORM")) qputenv("QT_QPA_PLATFORM", "offscreen");
    const QString fonts =
        QString::fromStdString((conductus::test::source_dir() / "data/fonts").string());
    conductus::app::prepare_fonts(fonts);
    testing::InitGoogleTest(&argc, argv);
    QApplication application(argc, argv);
    conductus::app::register_fonts(fonts);
    if (argc == 3 && std::string(argv[1]) == "--edit-until-killed")
        return conductus::app::edit_until_killed(argv[2]);
    if (argc == 3 && std::string(argv[1]) == "--type-and-wait")
        return conductus::app::type_and_wait(argv[2]);
    return RUN_ALL_TESTS();
}
