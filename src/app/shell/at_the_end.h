// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

class QApplication;

namespace conductus::app {

class MainWindow;

/// Asked to end (SIGTERM, SIGINT, SIGHUP), or when the desktop logs out, the program takes what is
/// typed and not yet entered, keeps it, and ends: with 0, or with 3 where it could not be kept in
/// the book and lies in a file of its own. Once a program.
void keep_all_at_the_end(QApplication& application, MainWindow& window);

} // namespace conductus::app
