// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/log.h"

#include <QDateTime>
#include <QtGlobal>
#include <fstream>
#include <mutex>

#include "core/base/problem.h"

namespace conductus::app {
namespace {

constexpr std::uintmax_t most_bytes = 1u << 20;

struct Log {
    std::mutex mutex;
    std::filesystem::path file;
};

Log& the_log() {
    static Log log;
    return log;
}

void from_toolkit(QtMsgType type, const QMessageLogContext&, const QString& message) {
    const std::string text = message.toStdString();
    if (type != QtDebugMsg && type != QtInfoMsg) log_line(text);
    std::fprintf(stderr, "%s\n", text.c_str());
}

} // namespace

void open_log(const std::filesystem::path& file) {
    {
        Log& log = the_log();
        const std::lock_guard lock(log.mutex);
        std::error_code error;
        if (!file.empty()) std::filesystem::create_directories(file.parent_path(), error);
        log.file = file;
    }
    qInstallMessageHandler(from_toolkit);
}

void log_line(std::string_view line) {
    Log& log = the_log();
    const std::lock_guard lock(log.mutex);
    if (log.file.empty()) return;
    std::error_code error;
    const auto size = std::filesystem::file_size(log.file, error);
    if (!error && size > most_bytes)
        std::filesystem::rename(log.file, log.file.string() + ".1", error);
    std::ofstream out(log.file, std::ios::app);
    out << QDateTime::currentDateTimeUtc().toString(Qt::ISODateWithMs).toStdString() << ' '
        << shown(line, 2000) << '\n';
}

} // namespace conductus::app
