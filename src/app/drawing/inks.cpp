// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawing/inks.h"

#include <QCoreApplication>
#include <QFontDatabase>

namespace conductus::app {

Inks Inks::day() {
    Inks i;
    i.paper = "#fcfbf7", i.backdrop = "#e6eae8", i.ink = "#1d2b33", i.second = "#5c6b72",
    i.hair = "#c9d1d0";
    i.petrol = "#0b5f66", i.strip = "#1d2b33", i.on_strip = "#fcfbf7",
    i.on_strip_second = "#a9b8bd";
    i.stop = "#a1262c", i.warn = "#8f5600", i.note = "#0b5f66", i.fine = "#3c7247";
    i.chosen = "#dfeceb";
    i.cell = "#dde9e1", i.board = "#dbe6ef", i.switches = "#efe5c8", i.speaker = "#ecdfd1";
    i.connector = "#e6dff0", i.blade = "#eef5f4";
    i.clean = "#0b5f66", i.clean_pale = "#8fb3b3", i.crackle = "#dab36a", i.dim = "#d18b86";
    return i;
}

Inks Inks::night_variant() {
    Inks i;
    i.night = true;
    i.paper = "#1f282d", i.backdrop = "#151c20", i.ink = "#e8ebe6", i.second = "#a3b1b6",
    i.hair = "#3c4a50";
    i.petrol = "#6cc3c6", i.strip = "#0f1518", i.on_strip = "#f1f2ec",
    i.on_strip_second = "#9fb0b5";
    i.stop = "#ef8d8c", i.warn = "#e6ad54", i.note = "#6cc3c6", i.fine = "#8bc796";
    i.chosen = "#27393d";
    i.cell = "#2c4036", i.board = "#293b49", i.switches = "#453d27", i.speaker = "#44392d";
    i.connector = "#3a3348", i.blade = "#26343a";
    i.clean = "#2f8a8d", i.clean_pale = "#3f5f62", i.crackle = "#8a6a2c", i.dim = "#87484a";
    return i;
}

QColor Inks::of(findings::Severity s) const {
    switch (s) {
    case findings::Severity::stop:
        return stop;
    case findings::Severity::warn:
        return warn;
    case findings::Severity::note:
        return note;
    }
    return ink;
}

QFont page_font(double pixels, bool bold) {
    QFont font("B612");
    font.setPixelSize(std::max(6, qRound(pixels)));
    font.setBold(bold);
    return font;
}

QFont drawing_font(double pixels) {
    QFont font("osifont");
    font.setPixelSize(std::max(6, qRound(pixels)));
    return font;
}

void prepare_fonts(const QString& folder) {
    // A change of text size goes down to every widget by itself; a new style sheet would take
    // five times as long.
    QCoreApplication::setAttribute(Qt::AA_UseStyleSheetPropagationInWidgetStyles);
    if (!qEnvironmentVariableIsSet("FONTCONFIG_FILE"))
        qputenv("FONTCONFIG_FILE", (folder + "/fonts.conf").toLocal8Bit());
}

bool register_fonts(const QString& folder) {
    bool all = true;
    for (const char* name : {"B612-Regular.otf", "B612-Bold.otf", "B612-Italic.otf", "osifont.ttf"})
        all &= QFontDatabase::addApplicationFont(folder + "/" + name) >= 0;
    return all;
}

} // namespace conductus::app
