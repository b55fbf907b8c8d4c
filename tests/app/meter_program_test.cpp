// SPDX-License-Identifier: GPL-3.0-or-later
// The pretend meter as a program of its own: on a port, on a pseudo-terminal, and refusing what it
// can not do.
#include <QFile>
#include <QProcess>
#include <QTcpSocket>

#include "core/diagnose/diagnosis.h"
#include "core/job/mating.h"
#include "files/job_json.h"
#include "support/fixtures.h"

namespace conductus {
namespace {

/// The program, while it runs.
class MeterProgram {
public:
    explicit MeterProgram(const QStringList& arguments) {
        program_.start(QString::fromStdString((test::bin_dir() / "conductus-meter").string()),
                       arguments);
        if (program_.waitForStarted(30000) && program_.waitForReadyRead(30000))
            first_line = QString::fromUtf8(program_.readLine()).trimmed();
    }
    ~MeterProgram() {
        program_.kill();
        program_.waitForFinished(10000);
    }
    QString first_line; ///< where it listens

private:
    QProcess program_;
};

struct Ended {
    int code;
    QString said;
};
Ended ended(const QStringList& arguments) {
    QProcess program;
    program.start(QString::fromStdString((test::bin_dir() / "conductus-meter").string()),
                  arguments);
    if (!program.waitForFinished(30000)) program.kill();
    return {program.exitCode(), QString::fromUtf8(program.readAllStandardError())};
}

QString heron_file() {
    return QString::fromStdString((test::source_dir() / "data/demo/heron.json").string());
}

QByteArray asked(QIODevice& line, const QByteArray& question) {
    line.write(question + "\n");
    QByteArray answer;
    while (!answer.contains('\n') && line.waitForReadyRead(10000))
        answer += line.readAll();
    return answer.trimmed();
}

/// What the whole hilt shows, as `conductus-meter` says it.
double shows(QTcpSocket& line, const char* state, const char* from, const char* to) {
    line.write(QByteArray("PROB \"") + state + "\",\"" + from + "\",\"" + to + "\"\n");
    return asked(line, "READ?").toDouble();
}

TEST(MeterProgram, ReadsTheJobOnAPort) {
    MeterProgram meter({"--job", heron_file(), "--port", "0"});
    ASSERT_TRUE(meter.first_line.startsWith("127.0.0.1:")) << meter.first_line.toStdString();
    const job::Job job = job::as_it_stands(test::demo("heron"));
    diagnose::World world(job, test::parts());
    const auto lit = [&](const char* fault) {
        const auto all = diagnose::faults_of(world);
        std::vector<const diagnose::Fault*> there;
        for (const diagnose::Fault& f : all)
            if (f.id == fault) there.push_back(&f);
        return *world.read({job::Reads::volts, world.lit(), "U1.bat", "U1.gnd"}, there);
    };
    for (int again = 0; again < 2; ++again) { // who goes may come back
        QTcpSocket line;
        line.connectToHost("127.0.0.1", meter.first_line.section(':', 1).toUShort());
        ASSERT_TRUE(line.waitForConnected(10000));
        EXPECT_FALSE(asked(line, "*IDN?").isEmpty());
        const double rest = asked(line, "MEAS:VOLT:DC?").toDouble();
        EXPECT_TRUE(again || std::abs(rest - 4.16) < 0.08) << rest;
        line.write("CONF:VOLT\n");
        EXPECT_NEAR(shows(line, world.lit().c_str(), "U1.bat", "U1.gnd"), lit(""), 0.12);
    }
    MeterProgram worn({"--job", heron_file(), "--fault", "weak B1", "--port", "0"});
    QTcpSocket line;
    line.connectToHost("127.0.0.1", worn.first_line.section(':', 1).toUShort());
    ASSERT_TRUE(line.waitForConnected(10000));
    line.write("CONF:VOLT\n");
    ASSERT_GT(std::abs(lit("") - lit("weak B1")), 0.2);
    EXPECT_NEAR(shows(line, world.lit().c_str(), "U1.bat", "U1.gnd"), lit("weak B1"), 0.1);
}

TEST(MeterProgram, IsATerminalAsWell) {
    MeterProgram meter({"--job", heron_file(), "--pty"});
    QFile line(meter.first_line);
    ASSERT_TRUE(line.open(QIODevice::ReadWrite | QIODevice::Unbuffered))
        << meter.first_line.toStdString();
    line.write("*IDN?\n");
    EXPECT_FALSE(line.readLine().trimmed().isEmpty());
}

TEST(MeterProgram, ItsCellIsAsFullAsTheJobSays) {
    job::Job job = test::demo("heron");
    ASSERT_TRUE(diagnose::add_reading(
        {job::Reads::volts, std::string(diagnose::by_itself), "B1.plus", "B1.minus", 3.7})(job));
    test::TemporaryFolder folder;
    test::write_file(folder / "job.json", files::job_text(job));
    MeterProgram meter(
        {"--job", QString::fromStdString((folder / "job.json").string()), "--port", "0"});
    QTcpSocket line;
    line.connectToHost("127.0.0.1", meter.first_line.section(':', 1).toUShort());
    ASSERT_TRUE(line.waitForConnected(10000));
    line.write("CONF:VOLT\n");
    EXPECT_NEAR(shows(line, "idle", "U1.bat", "U1.gnd"), 3.69, 0.06);
}

TEST(MeterProgram, SaysWhatItCanNotDo) {
    const Ended none = ended({"--job", heron_file(), "--fault", "gremlin", "--port", "0"});
    EXPECT_EQ(none.code, 3);
    EXPECT_TRUE(none.said.contains("open W3")) << none.said.toStdString();
    EXPECT_EQ(ended({"--job", "/nowhere/at/all.json", "--port", "0"}).code, 3);
    EXPECT_EQ(ended({"--job", heron_file()}).code, 2);
    EXPECT_EQ(ended({"--job", heron_file(), "--port", "0", "--pty"}).code, 2);
    EXPECT_EQ(ended({"--job", heron_file(), "--port", "70000"}).code, 2);
    const Ended words = ended({"--job", heron_file(), "--port", "0", "--dialect", "whale"});
    EXPECT_EQ(words.code, 3);
    EXPECT_TRUE(words.said.contains("There are")) << words.said.toStdString();
    MeterProgram meter({"--job", heron_file(), "--port", "0"});
    EXPECT_EQ(ended({"--job", heron_file(), "--port", meter.first_line.section(':', 1)}).code, 3);
}

} // namespace
} // namespace conductus
