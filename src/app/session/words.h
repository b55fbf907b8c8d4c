// SPDX-License-Identifier: GPL-3.0-or-later
// Words of the core as the interface's strings.
#pragma once

#include <QCoreApplication>
#include <QDate>
#include <QFile>
#include <QString>
#include <concepts>
#include <filesystem>
#include <string>
#include <string_view>

#include "core/base/format.h"
#include "core/base/problem.h"

namespace conductus::app {

inline QString words(std::string_view s) {
    return QString::fromUtf8(s.data(), static_cast<qsizetype>(s.size()));
}

/// A message of the core in the language of the window: the one place where its texts are put into
/// words for a page.
template <std::same_as<Message> M>
QString words(const M& message) {
    return QString::fromStdString(message.in([](std::string_view id) {
        return QCoreApplication::translate("Core", std::string(id).c_str()).toStdString();
    }));
}

/// What went wrong, for a line of a page: as of Problem::text().
template <std::same_as<Problem> P>
QString words(const P& problem) {
    // As one line that a label can show, whatever was quoted.
    const auto clipped = [](const Message& m) { return words(shown(words(m).toStdString(), 600)); };
    const QString what = clipped(problem.what), mend = clipped(problem.mend);
    QString line = problem.where.empty() ? what : words(shown(problem.where)) + ": " + what;
    if (!mend.isEmpty()) line += ". " + mend;
    return line;
}

/// A word of the core's tables, for a kind, a state or an axis.
inline QString term(std::string_view word) {
    return QCoreApplication::translate("Core", std::string(word).c_str());
}

/// A length with its unit.
inline QString words(Millimetre length) { return words(text(length)); }

/// Today as the job writes it: "2027-03-12".
inline std::string today() { return QDate::currentDate().toString(Qt::ISODate).toStdString(); }

/// A path that was chosen in a dialog, and back.
inline std::filesystem::path path_of(const QString& path) {
    return QFile::encodeName(path).toStdString();
}
inline QString shown_path(const std::filesystem::path& path) {
    return QFile::decodeName(path.string().c_str());
}

} // namespace conductus::app
