// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <QString>
#include <array>
#include <filesystem>
#include <optional>

namespace conductus::app {

/// How a station's page shares the window with the long section and the findings.
struct Room {
    double section = 0;  ///< share of the window's height; 0: the usual
    double findings = 0; ///< share of its width; 0: the usual
    bool section_folded = false, findings_folded = false;
    bool operator==(const Room&) const = default;
};

/// What a person set for the program on this machine, kept in an INI file: the name of the shop,
/// the size of the text, day or night, and each station's room.
class Settings : public QObject {
    Q_OBJECT
public:
    /// Without a file nothing is kept beyond this run.
    explicit Settings(std::filesystem::path file = {}, QObject* parent = nullptr);

    [[nodiscard]] const QString& shop() const { return shop_; }
    [[nodiscard]] int text_percent() const { return text_percent_; }
    [[nodiscard]] bool night() const { return night_; }
    /// Of a station, counted from 0; the one after the last is the start sheet.
    [[nodiscard]] const Room& room(std::size_t station) const { return rooms_.at(station); }
    /// The meter of this bench: how it is reached, and the words it understands, a line each.
    [[nodiscard]] const QString& meter() const { return meter_; }
    void set_meter(const QString& meter);
    void set_room(std::size_t station, const Room& room);
    void set_shop(const QString& name);
    void set_text_percent(int percent); ///< 80 to 200
    void set_night(bool night);
    /// What was asked for at the start holds for this run; it is kept with the next change alone.
    void begin_with(std::optional<int> text_percent, bool night);

signals:
    void changed();
    /// The file could not be written.
    void not_kept(const QString& file);

private:
    void keep();
    void write();
    std::filesystem::path file_;
    QString shop_, meter_;
    int text_percent_ = 100;
    bool night_ = false;
    std::array<Room, 9> rooms_{};
};

/// Where the settings of this person lie, and the log.
std::filesystem::path settings_file();
std::filesystem::path log_file();

} // namespace conductus::app
