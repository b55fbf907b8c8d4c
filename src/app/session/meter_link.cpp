// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/meter_link.h"

#include <QCoreApplication>
#include <QFile>
#include <QSerialPort>
#include <QSerialPortInfo>
#include <QTcpSocket>

#include "app/session/words.h"
#include "core/job/words.h"

namespace conductus::app {
namespace {

constexpr int again_ms = 500, tick_ms = 50;

/// Open ohms are a reading too.
constexpr double open_ohms = 1e6;

} // namespace

MeterLink::MeterLink(QObject* parent) : QObject(parent) {
    clock_.start();
    tick_.setInterval(tick_ms);
    again_.setInterval(again_ms);
    again_.setSingleShot(true);
    connect(&tick_, &QTimer::timeout, this, [this] {
        if (!talk_) return;
        talk_->tick(clock_.elapsed());
        follow();
    });
    connect(&again_, &QTimer::timeout, this, &MeterLink::connect_now);
}

MeterLink::~MeterLink() { close(); }

QStringList MeterLink::serial_ports() {
    QStringList names;
    for (const QSerialPortInfo& port : QSerialPortInfo::availablePorts())
        names << port.portName();
    return names;
}

QString MeterLink::identity() const { return talk_ ? words(talk_->identity()) : QString(); }

void MeterLink::open(const QString& address, const meter::Dialect& dialect) {
    // The stand-in is closed with its own address.
    QProcess* kept = std::exchange(stand_in_, nullptr);
    close();
    stand_in_ = kept;
    address_ = address.trimmed();
    dialect_ = dialect;
    if (!address_.isEmpty()) connect_now();
}

void MeterLink::close() {
    again_.stop();
    tick_.stop();
    address_.clear();
    if (device_) {
        device_->disconnect(this);
        device_->close();
        device_->deleteLater();
        device_ = nullptr;
    }
    talk_.reset();
    reading_.reset(), amps_.reset();
    steady_ = false;
    if (stand_in_) {
        stand_in_->disconnect(this);
        stand_in_->kill();
        stand_in_->waitForFinished(2000);
        stand_in_->deleteLater();
        stand_in_ = nullptr;
    }
    emit changed();
}

void MeterLink::connect_now() {
    if (address_.isEmpty() || device_) return;
    talk_ = std::make_unique<meter::Talk>(dialect_);
    talk_->measure(what_, clock_.elapsed());
    const auto opened = [this] {
        talk_->opened(clock_.elapsed());
        tell_stand_in();
        follow();
        tick_.start();
    };
    const int colon = static_cast<int>(address_.lastIndexOf(':'));
    bool is_number = false;
    const int port = colon > 0 ? address_.mid(colon + 1).toInt(&is_number) : 0;
    if (is_number && port > 0 && port < 65536) {
        auto* socket = new QTcpSocket(this);
        device_ = socket;
        connect(socket, &QTcpSocket::connected, this, opened);
        connect(socket, &QTcpSocket::errorOccurred, this,
                [this, socket] { cut(socket->errorString()); });
        connect(socket, &QTcpSocket::disconnected, this, [this] { cut(tr("the line was cut")); });
        socket->connectToHost(address_.left(colon), static_cast<quint16>(port));
    } else {
        const QStringList said = address_.split(' ', Qt::SkipEmptyParts);
        auto* serial = new QSerialPort(said.value(0), this);
        device_ = serial;
        const int speed = said.value(1).toInt();
        if (speed > 0) serial->setBaudRate(speed);
        connect(serial, &QSerialPort::errorOccurred, this,
                [this, serial](QSerialPort::SerialPortError error) {
                    if (error != QSerialPort::NoError) cut(serial->errorString());
                });
        if (!serial->open(QIODevice::ReadWrite)) return; // told by its error
        opened();
    }
    if (device_)
        connect(device_, &QIODevice::readyRead, this, [this] {
            const QByteArray bytes = device_->readAll();
            if (talk_)
                talk_->received({bytes.constData(), static_cast<std::size_t>(bytes.size())},
                                clock_.elapsed());
            follow();
        });
}

void MeterLink::cut(const QString& why) {
    if (!device_) return;
    device_->disconnect(this);
    device_->deleteLater();
    device_ = nullptr;
    tick_.stop();
    if (talk_) talk_->closed();
    // What was read is kept by whoever took it; the display says that there is nothing now.
    reading_.reset(), amps_.reset();
    steady_ = false;
    emit trouble(tr("%1: %2. It is tried again.").arg(address_, why));
    emit changed();
    again_.start();
}

void MeterLink::follow() {
    if (!talk_ || !device_) return;
    bool more = false, other = false;
    for (const meter::Event& e : talk_->take_events()) {
        using Kind = meter::Event::Kind;
        switch (e.kind) {
        case Kind::identified:
            other = true;
            break;
        case Kind::reading:
            if (e.what != what_) break;
            reading_ = e.value, steady_ = e.steady, more = true;
            break;
        case Kind::amps:
            amps_ = e.value;
            break;
        case Kind::overload:
            if (what_ == job::Reads::ohms)
                reading_ = open_ohms, steady_ = true, more = true;
            else {
                reading_.reset(), amps_.reset(), steady_ = false, other = true;
                emit trouble(tr("The range is too small: choose a larger one."));
            }
            break;
        case Kind::wrong_function:
            reading_.reset(), amps_.reset(), steady_ = false, other = true;
            emit trouble(tr("The meter reads %1: it was set back to %2. Nothing was taken.")
                             .arg(words(e.text), term(job::word(what_))));
            break;
        case Kind::garbage:
            emit trouble(
                tr("“%1” is no answer: it was asked again. Look at the cable.").arg(words(e.text)));
            break;
        case Kind::silent:
            reading_.reset(), amps_.reset(), steady_ = false, other = true;
            emit trouble(tr("No answer: it was asked again."));
            break;
        case Kind::lost:
            emit trouble(tr("No sense comes of it: look at cable, speed and words."));
            break;
        }
    }
    if (const std::string out = talk_->take_out(); !out.empty())
        device_->write(out.data(), static_cast<qint64>(out.size()));
    if (more) emit read();
    if (more || other) emit changed();
}

void MeterLink::measure(job::Reads what) {
    if (what_ == what && talk_) return;
    what_ = what;
    reading_.reset(), amps_.reset(), steady_ = false;
    if (talk_) {
        talk_->measure(what, clock_.elapsed());
        follow();
    }
    emit changed();
}

void MeterLink::probes(const std::string& state, const std::string& from, const std::string& to,
                       bool turned) {
    reading_.reset(), amps_.reset(), steady_ = false;
    if (talk_) talk_->forget();
    emit changed();
    told_ = {
        QStringLiteral("PROBES \"%1\",\"%2\",\"%3\"").arg(words(state), words(from), words(to)),
        turned ? QStringLiteral("TURN ON") : QStringLiteral("TURN OFF")};
    tell_stand_in();
}

void MeterLink::tell_stand_in() {
    if (!stand_in_ || !talk_) return;
    for (const QString& line : told_)
        talk_->tell(line.toStdString());
}

bool MeterLink::start_stand_in(const QString& job_file, const QStringList& more,
                               const meter::Dialect& dialect) {
    close();
    const QString program = QCoreApplication::applicationDirPath() + "/conductus-meter";
    if (!QFile::exists(program)) return false;
    stand_in_ = new QProcess(this);
    stand_in_->setProcessChannelMode(QProcess::SeparateChannels);
    connect(stand_in_, &QProcess::readyReadStandardOutput, this, [this, dialect] {
        const QString line = QString::fromUtf8(stand_in_->readAllStandardOutput()).trimmed();
        if (line.startsWith("127.0.0.1:")) open(line, dialect);
    });
    connect(stand_in_, &QProcess::readyReadStandardError, this, [this] {
        emit trouble(QString::fromUtf8(stand_in_->readAllStandardError()).trimmed());
    });
    stand_in_->start(program, QStringList{"--job", job_file, "--port", "0"} + more);
    return true;
}

} // namespace conductus::app
