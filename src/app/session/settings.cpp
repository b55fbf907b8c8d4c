// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/settings.h"

#include <QSettings>
#include <QStandardPaths>
#include <algorithm>

#include "app/session/words.h"

namespace conductus::app {

Settings::Settings(std::filesystem::path file, QObject* parent)
    : QObject(parent), file_(std::move(file)) {
    if (file_.empty()) return;
    const QSettings ini(shown_path(file_), QSettings::IniFormat);
    shop_ = ini.value("shop/name").toString();
    text_percent_ = std::clamp(ini.value("window/text_percent", 100).toInt(), 80, 200);
    night_ = ini.value("window/night", false).toBool();
    meter_ = ini.value("meter/words").toString();
    for (std::size_t i = 0; i < rooms_.size(); ++i) {
        const QStringList kept =
            ini.value(QStringLiteral("room/station%1").arg(i + 1)).toString().split(' ');
        if (kept.size() != 4) continue;
        // What somebody wrote there leaves room for both.
        rooms_[i] = {std::clamp(kept[0].toDouble(), 0.0, 0.8),
                     std::clamp(kept[1].toDouble(), 0.0, 0.6), kept[2] == "1", kept[3] == "1"};
    }
}

void Settings::keep() {
    emit changed();
    write();
}

void Settings::write() {
    if (file_.empty()) return;
    QSettings ini(shown_path(file_), QSettings::IniFormat);
    ini.setValue("shop/name", shop_);
    ini.setValue("meter/words", meter_);
    ini.setValue("window/text_percent", text_percent_);
    ini.setValue("window/night", night_);
    for (std::size_t i = 0; i < rooms_.size(); ++i) {
        const Room& r = rooms_[i];
        const QString key = QStringLiteral("room/station%1").arg(i + 1);
        if (r == Room{})
            ini.remove(key);
        else
            ini.setValue(key, QStringLiteral("%1 %2 %3 %4")
                                  .arg(r.section, 0, 'f', 4)
                                  .arg(r.findings, 0, 'f', 4)
                                  .arg(int(r.section_folded))
                                  .arg(int(r.findings_folded)));
    }
    ini.sync();
    if (ini.status() != QSettings::NoError) emit not_kept(shown_path(file_));
}

void Settings::set_meter(const QString& meter) {
    if (meter_ == meter) return;
    meter_ = meter;
    write();
}

void Settings::set_room(std::size_t station, const Room& room) {
    if (rooms_.at(station) == room) return;
    rooms_[station] = room;
    write();
}

void Settings::set_shop(const QString& name) {
    if (name.trimmed() == shop_) return;
    shop_ = name.trimmed().left(200);
    keep();
}

void Settings::set_text_percent(int percent) {
    if (percent == text_percent_) return;
    text_percent_ = std::clamp(percent, 80, 200);
    keep();
}

void Settings::set_night(bool night) {
    if (night == night_) return;
    night_ = night;
    keep();
}

void Settings::begin_with(std::optional<int> text_percent, bool night) {
    if (text_percent) text_percent_ = std::clamp(*text_percent, 80, 200);
    night_ = night_ || night;
    emit changed();
}

std::filesystem::path settings_file() {
    return path_of(QStandardPaths::writableLocation(QStandardPaths::AppConfigLocation)) /
           "conductus.ini";
}

std::filesystem::path log_file() {
    const QByteArray set = qgetenv("XDG_STATE_HOME");
    const std::filesystem::path state =
        set.isEmpty() ? path_of(QStandardPaths::writableLocation(QStandardPaths::HomeLocation)) /
                            ".local/state"
                      : std::filesystem::path(set.toStdString());
    return state / "conductus/conductus.log";
}

} // namespace conductus::app
