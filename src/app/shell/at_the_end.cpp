// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/at_the_end.h"

#include <QApplication>
#include <QSessionManager>
#include <QSocketNotifier>
#include <csignal>
#include <fcntl.h>
#include <unistd.h>

#include "app/shell/main_window.h"

namespace conductus::app {
namespace {

/// The ends of a pipe between a signal's handler, which may do next to nothing, and the event loop.
int signal_pipe[2] = {-1, -1};

void pass_on(int number) {
    const auto byte = static_cast<char>(number);
    [[maybe_unused]] const auto written = ::write(signal_pipe[1], &byte, 1);
}

} // namespace

void keep_all_at_the_end(QApplication& application, MainWindow& window) {
    QObject::connect(
        &application, &QGuiApplication::commitDataRequest, &window,
        [&window](QSessionManager&) { window.leave(); }, Qt::DirectConnection);
    if (::pipe2(signal_pipe, O_CLOEXEC | O_NONBLOCK) != 0) return;
    auto* notifier = new QSocketNotifier(signal_pipe[0], QSocketNotifier::Read, &window);
    QObject::connect(notifier, &QSocketNotifier::activated, &window, [&window] {
        char byte = 0;
        while (::read(signal_pipe[0], &byte, 1) == 1) {
        }
        QApplication::exit(window.leave() ? 0 : 3);
    });
    struct sigaction action {};
    action.sa_handler = pass_on;
    action.sa_flags = SA_RESTART;
    for (const int number : {SIGTERM, SIGINT, SIGHUP})
        ::sigaction(number, &action, nullptr);
}

} // namespace conductus::app
