// SPDX-License-Identifier: GPL-3.0-or-later
// A book of many jobs: start to usable window, search as it is typed, memory. Printed, never
// asserted. shelf_bench [JOBS]
#include <QApplication>
#include <QElapsedTimer>
#include <QLineEdit>
#include <QProcess>
#include <QTest>
#include <algorithm>
#include <cstdio>
#include <fstream>

#include "app/shelf/job_card.h"
#include "app/shell/main_window.h"
#include "files/job_json.h"
#include "shop/book.h"
#include "support/fixtures.h"

using namespace conductus;

namespace {

double memory_MB() {
    std::ifstream status("/proc/self/status");
    for (std::string word; status >> word;)
        if (word == "VmRSS:") {
            double kB = 0;
            status >> kB;
            return kB / 1024;
        }
    return 0;
}

double ms(const QElapsedTimer& t) { return static_cast<double>(t.nsecsElapsed()) / 1e6; }

/// The demo jobs again and again, each with names, dates and notes of its own.
int make(const std::filesystem::path& path, int count) {
    auto book = shop::Book::open(path, shop::Access::read_write);
    if (!book) return 1;
    const char* names[] = {"heron", "dunlin", "bittern", "avocet", "curlew", "godwit"};
    const char* words[] = {"oilcloth", "brass", "bell", "lantern", "ferry", "quay", "tide", "rope"};
    for (int i = 0; i < count; ++i) {
        job::Job job = files::bare(test::demo(names[i % 6]));
        job.name += " " + std::to_string(i);
        job.promised = "2027-0" + std::to_string(1 + i % 9) + "-1" + std::to_string(i % 10);
        for (int k = 0; k < 8; ++k)
            job.log.push_back({"2026-11-1" + std::to_string(k),
                               std::string("The ") + words[(i + k) % 8] + " is seen to, number " +
                                   std::to_string(i * 8 + k) + "."});
        if (!book->add(job, "new")) return 1;
    }
    return 0;
}

int run(int argc, char** argv, const std::filesystem::path& path) {
    QElapsedTimer start;
    start.start();
    const QString fonts = QString::fromStdString((test::source_dir() / "data/fonts").string());
    app::prepare_fonts(fonts);
    QApplication application(argc, argv);
    app::register_fonts(fonts);
    app::MainWindow window(test::shared_parts(), path);
    window.open_book();
    window.show();
    QApplication::processEvents();
    window.grab();
    std::printf("start to usable window   %6.0f ms\n", ms(start));
    std::printf("memory then              %6.0f MB\n", memory_MB());

    auto* search = window.findChild<QLineEdit*>("search");
    search->setFocus();
    std::vector<double> typed;
    for (const char* words : {"bell", "lantern 41", "quay zzz", "oilcloth number"})
        for (const char* c = words; *c; ++c) {
            QElapsedTimer t;
            t.start();
            QTest::keyClick(search, *c);
            window.grab();
            typed.push_back(ms(t));
            if (!c[1]) search->clear();
        }
    std::sort(typed.begin(), typed.end());
    std::printf("letter typed to result   %6.1f ms  (median of %zu, painted; worst %.1f ms)\n",
                typed[typed.size() / 2], typed.size(), typed.back());
    auto book = shop::Book::open(path, shop::Access::read_only);
    QElapsedTimer find;
    find.start();
    const auto hits = book->find("lantern oilcl");
    std::printf("the search in it         %6.1f ms  (%zu jobs found)\n", ms(find), hits->size());

    QElapsedTimer judging;
    judging.start();
    double most = 0;
    auto waiting = [&] {
        most = std::max(most, memory_MB());
        for (auto* card : window.findChildren<app::JobCard*>())
            if (!card->is_judged()) return true;
        return false;
    };
    while (waiting() && judging.elapsed() < 120000)
        QTest::qWait(100);
    std::printf("every job judged in      %6.1f s   (in the background)\n", ms(judging) / 1000);
    std::printf("memory at most           %6.0f MB\n", most);
    return 0;
}

} // namespace

int main(int argc, char** argv) {
    qputenv("QT_QPA_PLATFORM", qEnvironmentVariableIsSet("DISPLAY") ? "xcb" : "offscreen");
    const std::string mode = argc > 2 ? argv[1] : "";
    if (mode == "--make") return make(argv[2], std::atoi(argv[3]));
    if (mode == "--run") return run(argc, argv, argv[2]);
    // In processes of their own, so that making the book is not in the figures.
    test::TemporaryFolder folder;
    const QString book = QString::fromStdString((folder / "shop.book").string());
    const QString count = argc > 1 ? argv[1] : "1000";
    std::printf("%s jobs\n", qPrintable(count));
    std::fflush(stdout);
    for (const QStringList& arguments : {QStringList{"--make", book, count}, {"--run", book}})
        if (QProcess::execute(argv[0], arguments) != 0) return 1;
    return 0;
}
