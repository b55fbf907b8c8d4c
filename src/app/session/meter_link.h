// SPDX-License-Identifier: GPL-3.0-or-later
// A meter on a serial line or a port, and what it says: core/meter/talk.h over a real cable.
#pragma once

#include <QElapsedTimer>
#include <QIODevice>
#include <QObject>
#include <QProcess>
#include <QStringList>
#include <QTimer>
#include <memory>
#include <optional>

#include "core/meter/talk.h"

namespace conductus::app {

class MeterLink : public QObject {
    Q_OBJECT
public:
    explicit MeterLink(QObject* parent = nullptr);
    ~MeterLink() override;

    /// "/dev/ttyUSB0" or the name of a serial port, with its speed: "ttyUSB0 9600"; or "host:port".
    /// Serial ports that there are, by name.
    static QStringList serial_ports();
    /// Opens it, and again whenever it is cut, until close(). What is wrong is told by trouble().
    void open(const QString& address, const meter::Dialect& dialect);
    void close();
    [[nodiscard]] bool is_wanted() const { return !address_.isEmpty(); }
    [[nodiscard]] bool is_there() const { return talk_ && !talk_->identity().empty(); }
    [[nodiscard]] QString identity() const;
    [[nodiscard]] const QString& address() const { return address_; }

    /// What is read from now on.
    void measure(job::Reads what);
    [[nodiscard]] job::Reads measures() const { return what_; }
    /// The latest reading that was believed; empty: none, or not since it was cut or told to read
    /// something else. Of ohms beyond the range: 1e6, which is open.
    [[nodiscard]] std::optional<double> reading() const { return reading_; }
    /// The current beside those volts, of an instrument that reads both.
    [[nodiscard]] std::optional<double> amps() const { return amps_; }
    [[nodiscard]] bool is_steady() const { return steady_; }
    /// Where the probes are to be, and in which state the hilt: a stand-in puts them there itself.
    void probes(const std::string& state, const std::string& from, const std::string& to,
                bool turned);

    /// Starts the stand-in that ships, on a job file, and opens it. False: it is not there.
    bool start_stand_in(const QString& job_file, const QStringList& more,
                        const meter::Dialect& dialect);
    [[nodiscard]] bool is_stand_in() const { return stand_in_ != nullptr; }

signals:
    void changed(); ///< what there is to read, or whether there is anything
    void read();    ///< a reading more was believed
    void trouble(const QString& words);

private:
    void connect_now();
    void cut(const QString& why);
    void follow();
    QIODevice* device_ = nullptr;
    std::unique_ptr<meter::Talk> talk_;
    meter::Dialect dialect_;
    QString address_;
    QElapsedTimer clock_;
    QTimer tick_, again_;
    job::Reads what_ = job::Reads::volts;
    std::optional<double> reading_, amps_;
    bool steady_ = false;
    QProcess* stand_in_ = nullptr;
    void tell_stand_in();
    QStringList told_; ///< where the probes are
};

} // namespace conductus::app
