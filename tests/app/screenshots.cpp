// SPDX-License-Identifier: GPL-3.0-or-later
// Takes the pictures of docs/screenshots: the real window on the demo shop. See
// scripts/screenshots.
#include <CLI/CLI.hpp>
#include <QAbstractButton>
#include <QApplication>
#include <QElapsedTimer>
#include <QLineEdit>
#include <QSlider>
#include <QTabBar>
#include <QTemporaryDir>
#include <QThread>
#include <SQLiteCpp/SQLiteCpp.h>
#include <cstdio>
#include <filesystem>

#include "app/parts/measure_page.h"
#include "app/parts/parts_page.h"
#include "app/shelf/shelf_page.h"
#include "app/shell/job_view.h"
#include "app/shell/main_window.h"
#include "app/stations/bench/bench_page.h"
#include "app/stations/bench/bench_work.h"
#include "app/stations/bench/practice_sheet.h"
#include "app/stations/handling/card_sheet.h"
#include "app/stations/handling/motion_sheet.h"
#include "app/stations/handling/rehearse_sheet.h"
#include "app/table/table.h"
#include "core/bench/discharge_fit.h"
#include "core/diagnose/test_plan.h"
#include "core/findings/answered.h"
#include "core/harness/data_map.h"
#include "files/catalogue_json.h"
#include "files/disk.h"
#include "files/job_json.h"
#include "files/readings_csv.h"
#include "shop/backup.h"
#include "shop/unkept.h"
#include "support/bench_strip.h"
#include "support/sample_bench.h"

using namespace conductus;

namespace {

void settle(int milliseconds) {
    QElapsedTimer t;
    t.start();
    while (t.elapsed() < milliseconds) {
        QApplication::processEvents(QEventLoop::AllEvents, 10);
        QThread::msleep(2);
    }
}

/// A bench with something on it: half the plan is tried, a worn pin is looked for, the pretend
/// meter is joined, an evening was logged, a case is being practised.
void show_bench(app::MainWindow& window, const std::string& view) {
    app::BenchWork& work = window.findChild<app::BenchPage*>()->work();
    app::Session& session = window.job_view()->session();
    for (int i = 0; i < 200 && !work.diagnosis(); ++i)
        settle(50);
    if (!work.bench()) return;
    (void)session.edit("Begin", job::Edit([](job::Job& j) { j.bench = {}; }));
    settle(1500);
    const auto& steps = work.bench()->tests.steps;
    if (view == "tests") {
        for (std::size_t i = 0; i < steps.size() * 2 / 3; ++i) {
            const auto& s = steps[i];
            const bool seen = s.what == job::Reads::seen;
            const double share = double(i * 7 % 10) / 10;
            (void)session.edit("Read",
                               diagnose::try_step(s,
                                                  seen ? std::optional<double>()
                                                  : s.state == diagnose::by_itself ? 4.17
                                                  : s.open()                       ? 1e6
                                                             : s.low + (s.high - s.low) * share,
                                                  true, "2026-11-20"));
        }
        settle(900);
        auto* table = window.findChild<app::Table*>("testPlan");
        table->choose(static_cast<int>(steps.size() * 2 / 3), 5);
        emit table->row_chosen(static_cast<int>(steps.size() * 2 / 3));
    }
    if (view == "find") {
        diagnose::Finder hilt = *work.bench()->finder;
        const auto& fault = hilt.faults()[test::fault_named(hilt, "turned P1.plus")];
        for (const diagnose::Sight& s : hilt.sights())
            if (hilt.world().shows(s, {&fault}))
                (void)session.edit("Tell", diagnose::tell_symptom(s));
        for (int k = 0; k < 3; ++k) {
            for (int i = 0; i < 60; ++i)
                settle(20);
            if (!work.diagnosis() || work.diagnosis()->next.empty()) break;
            // What tells everything is left to whoever looks.
            const auto& next = work.diagnosis()->next;
            const auto& then = next[next.size() > 1 && next[0].turned ? 1 : 0];
            job::BenchReading r{then.measure.what, then.measure.state, then.measure.from,
                                then.measure.to};
            r.turned = then.turned, r.on = "2026-11-20";
            r.value = hilt.world().read(then.measure, {&fault}, {}, then.turned).value_or(0);
            (void)session.edit("Read", diagnose::add_reading(r));
        }
        settle(1500);
    }
    if (view == "meter") {
        (void)work.start_stand_in({});
        work.put_probes(job::Reads::volts, "Tidewater", "U1.bat", "U1.gnd", false);
        for (int i = 0; i < 100 && !work.meter().is_steady(); ++i)
            settle(50);
    }
    if (view == "log") {
        job::DischargeLog log = test::logged_discharge(session.job(), session.parts(), 2610, 0.021,
                                                       work.bench()->path_ohms + 0.07, 1.9, 5);
        log.points = bench::thinned(std::move(log.points));
        (void)session.edit("Read", bench::keep_discharge(std::move(log)));
        settle(900);
    }
    if (view == "practice") {
        auto* sheet = window.findChild<app::PracticeSheet*>();
        sheet->begin(2, 3);
        const auto press = [&](const char* state, const char* from, const char* to, int what) {
            window.findChild<QComboBox*>("practiceWhat")->setCurrentIndex(what);
            window.findChild<QComboBox*>("practiceState")->setEditText(state);
            window.findChild<QComboBox*>("practiceFrom")->setEditText(from);
            window.findChild<QComboBox*>("practiceTo")->setEditText(to);
            window.findChild<QAbstractButton*>("practiceMeasure")->click();
        };
        press("idle", "B1.plus", "B1.minus", 0);
        press("Tidewater", "U1.bat", "U1.gnd", 0);
        press("Tidewater", "K1.in", "K1.out", 2);
        press("cell out", "K1.in", "K1.out", 2);
    }
    settle(600);
}

} // namespace

int main(int argc, char** argv) {
    CLI::App cli("Takes pictures of the window.", "screenshots");
    std::string out, job = "Heron", look;
    int width = 1280, height = 800, percent = 100;
    bool night = false, folded = false;
    std::vector<std::string> views;
    cli.add_option("-o", out, "folder")->required();
    cli.add_option("--job", job);
    cli.add_option("--look", look);
    cli.add_option("--width", width);
    cli.add_option("--height", height);
    cli.add_option("--text-size", percent);
    cli.add_flag("--night", night);
    cli.add_flag("--folded", folded, "section and findings");
    cli.add_option(
        "views", views,
        "shelf search new brief agreed received found past owner hilt joints passing "
        "assembly arrange tray part "
        "lights loads currents time lines variants blades presets states along plugs "
        "accepted power day spares discharge cold "
        "options "
        "map commands hand-states rehearse rehearse-quiz changes card card-loud card-sounds "
        "card-prepare motion motion-set motion-trace motion-tests tests find meter log practice "
        "tenths charging wires gauges "
        "faces data solder built "
        "why changed "
        "moved damaged aside missing importing blank start later settings parts own measure");
    CLI11_PARSE(cli, argc, argv);
    std::error_code no_folder;
    std::filesystem::create_directories(out, no_folder);
    if (no_folder)
        return std::fprintf(stderr, "The folder %s can not be made: %s.\n", out.c_str(),
                            no_folder.message().c_str()),
               1;
    qputenv("QT_QPA_PLATFORM", "offscreen");
    const auto data = files::find_data(files::this_executable());
    if (!data) return std::fprintf(stderr, "%s\n", data.error().text().c_str()), 1;
    app::prepare_fonts(QString::fromStdString((*data / "fonts").string()));
    int one = 1;
    QApplication app(one, argv);
    auto parts = files::read_catalogue(*data / "catalogue");
    app::register_fonts(QString::fromStdString((*data / "fonts").string()));
    auto shared = std::make_shared<const catalogue::Catalogue>(std::move(*parts));
    QTemporaryDir folder;
    const std::filesystem::path book = (folder.path() + "/shop.book").toStdString();
    if (auto made = shop::make_demo_book(book, *data / "demo", *shared); !made)
        return std::fprintf(stderr, "%s\n", made.error().text().c_str()), 1;

    app::MainWindow window(shared, book);
    window.settings().set_shop("Quayside Prop Workshop");
    window.appearance().set_percent(percent);
    window.appearance().set_night(night);
    window.resize(width, height);
    window.open_book();
    window.show();
    settle(400);
    auto keep = [&](const std::string& name) {
        window.grab().save(QString::fromStdString(out + "/" + name + ".png"));
    };
    for (const std::string& view : views) {
        if (view == "shelf" || view == "search" || view == "new") {
            window.show_shelf();
            auto* search = window.findChild<QLineEdit*>("search");
            search->setText(view == "search" ? "left-hand" : "");
            if (view == "new") window.shelf()->begin_new(true);
            settle(600);
            keep(view);
            continue;
        }
        if (view == "damaged" || view == "aside" || view == "missing" || view == "importing") {
            // Another window, on a book of its own to which something happened.
            const std::filesystem::path own = book.parent_path() / view / "shop.book";
            (void)shop::make_demo_book(own, *data / "demo", *shared);
            (void)shop::back_up_daily(own, "2027-01-02");
            if (view == "damaged") // one state of one job is no longer what was written
                SQLite::Database(own.string(), SQLite::OPEN_READWRITE)
                    .exec("UPDATE state SET label = 'x' WHERE job = 2");
            if (view == "missing") std::filesystem::remove(own);
            if (view == "aside") {
                // As a program left it that was killed: of no process there is.
                const auto left =
                    *shop::Book::open(own, shop::Access::read_only)->load("Heron", *shared);
                const auto file =
                    *shop::keep_aside(own, left.uid, {files::bare(left.job), {}}, *shared);
                std::filesystem::rename(file,
                                        file.parent_path() / "Heron.0123456789abcdef.1_1.json");
            }
            app::MainWindow other(shared, own);
            other.appearance().set_percent(percent);
            other.appearance().set_night(night);
            other.resize(width, height);
            other.open_book();
            other.show();
            settle(1500);
            if (view == "importing") {
                const auto many = own.parent_path() / "many.book";
                std::vector<shop::Whole> jobs;
                job::Job dunlin =
                    files::bare(files::read_job_file(*data / "demo/dunlin.json", *shared)->job);
                for (int n = 0; n < 400; ++n) {
                    dunlin.name = "Dunlin " + std::to_string(n + 10);
                    shop::Whole whole;
                    whole.states.push_back({0, "new", {}, files::job_text(dunlin), {}});
                    jobs.push_back(std::move(whole));
                }
                (void)shop::Book::open(many, shop::Access::read_write)->add_whole(std::move(jobs));
                other.import_job(QString::fromStdString(many.string()));
                settle(300);
            }
            other.grab().save(QString::fromStdString(out + "/" + view + ".png"));
            continue;
        }
        if (view == "parts" || view == "own" || view == "measure") {
            // The parts of the shop; one of its own as a form; a strip measured.
            window.show_shelf();
            window.shelf()->show_parts(true);
            auto& page = window.shelf()->parts();
            settle(200);
            if (!page.shelf().is_own("own.board-1")) {
                page.make_own("board.standard");
                app::Table* fields = window.findChild<app::Table*>("formFields");
                const auto typed = [&](const char* name, const char* text) {
                    for (int row = 0; row < fields->rows().source_count(); ++row)
                        if (fields->text(row, 0) == name)
                            fields->rows().setData(fields->rows().index(row, 1), text,
                                                   Qt::EditRole);
                };
                typed("name", "sound board, 4 pads, second batch");
                typed("body: length", "44");
                typed("a pad carries", "7.5");
                typed("its card is drawn at", "end");
                typed("its data port is plugged at", "start");
                page.make_own("cell.18650-power");
                typed("name", "18650 cell, drawer three");
                typed("capacity", "2850");
            }
            page.show_list();
            if (view == "own") (void)page.open("own.board-1");
            if (view == "measure") {
                page.measure("strip.rgb-144");
                const auto file = book.parent_path() / "readings.csv";
                (void)files::write_output(file, files::readings_csv(test::read_strip()),
                                          files::Content::text);
                window.findChild<app::MeasurePage*>()->read_file(file);
            }
            settle(1500);
            keep(view);
            continue;
        }
        if (view == "settings") {
            window.show();
            window.show_settings();
            settle(300);
            window.findChild<QWidget*>("settingsPanel")
                ->grab()
                .save(QString::fromStdString(out + "/settings.png"));
            window.findChild<QAbstractButton*>("closeSettings")->click();
            continue;
        }
        if (view == "blank" || view == "start" || view == "later settings") {
            // A job nothing is known of, and a station that is still to come.
            app::MainWindow other(shared, book);
            other.appearance().set_percent(percent);
            other.appearance().set_night(night);
            other.resize(width, height);
            auto own = shop::Book::open(book, shop::Access::read_write);
            job::Job nothing;
            nothing.name = "Blank " + view;
            other.open_book();
            other.show();
            other.open_job(*own->add(nothing, "new"));
            settle(400);
            if (view == "start") {
                for (const auto& [field, typed] :
                     {std::pair{"start_length_typed", "280"}, {"start_bore_typed", "28.4"}}) {
                    auto* line = other.findChild<QLineEdit*>(field);
                    line->setFocus();
                    line->setText(typed);
                    line->setModified(true);
                    emit line->editingFinished();
                }
                other.findChild<QWidget*>("start_cell")->setFocus();
                settle(2500);
            } else {
                other.job_view()->go_to(view == "blank" ? 1 : 5);
            }
            settle(400);
            other.grab().save(QString::fromStdString(out + "/" + view + ".png"));
            continue;
        }
        auto entries = shop::Book::open(book, shop::Access::read_write)->entries();
        if (!window.job_view())
            for (const auto& e : *entries)
                if (e.name == job) window.open_job(e.id);
        settle(250);
        if (view == "moved") {
            std::filesystem::rename(book, book.string() + ".away");
            settle(1500);
            keep(view);
            std::filesystem::rename(book.string() + ".away", book);
            settle(1500);
            continue;
        }
        auto* v = window.job_view();
        if (!look.empty()) v->selection().look_at(QString::fromStdString(look));
        v->selection().overlay(view == "power" || view == "discharge" ? app::Overlay::volts
                               : view == "lights"                     ? app::Overlay::amps
                               : view == "time"                       ? app::Overlay::heat
                                                                      : app::Overlay::body);
        struct Station {
            const char* tabs;
            std::vector<std::string> sheets;
        };
        static const std::vector<Station> stations{
            {"briefSheets", {"brief", "agreed", "received", "found", "past", "owner"}},
            {"hiltSheets", {"hilt", "joints", "passing", "assembly", "arrange", "tray", "part"}},
            {"lightsSheets",
             {"lights", "loads", "currents", "time", "lines", "variants", "blades", "presets",
              "states", "along"}},
            {"powerSheets",
             {"power", "day", "spares", "discharge", "cold", "options", "tenths", "charging",
              "plugs"}},
            {"harnessSheets", {"wires", "gauges", "faces", "data", "solder", "built"}},
            {"handlingSheets",
             {"map", "commands", "hand-states", "rehearse", "changes", "card", "motion"}},
            {"benchSheets", {"tests", "find", "meter", "log", "practice"}}};
        std::size_t station = 3;
        for (std::size_t i = 0; i < stations.size(); ++i) {
            const auto& sheets = stations[i].sheets;
            // What is looked at within a sheet: "card-loud".
            const auto it = std::find_if(sheets.begin(), sheets.end(), [&](auto& sheet) {
                return sheet == view ||
                       (view.starts_with(sheet + "-") &&
                        (sheet == "card" || sheet == "motion" || sheet == "rehearse"));
            });
            if (it == sheets.end()) continue;
            station = i;
            window.findChild<QTabBar*>(stations[i].tabs)
                ->setCurrentIndex(view == "part" ? 0 : static_cast<int>(it - sheets.begin()));
        }
        if (view == "assembly") v->selection().overlay(app::Overlay::sound);
        if (view == "wires") {
            v->selection().overlay(app::Overlay::amps);
            v->selection().choose("W7");
        }
        if (view == "data") // one line soldered elsewhere than it is set
            (void)v->session().edit("Set", [&](job::Job& j) {
                harness::configure_as_wired(v->session().parts())(j);
                harness::move_pad("U1.d1", "U1.d2")(j);
            });
        v->go_to(station);
        if (folded) {
            v->fold_section(true);
            v->fold_findings(true);
        }
        v->focus_rail();
        if (view == "why") window.findChild<QAbstractButton*>("gauge4")->click();
        if (view == "accepted") {
            // One is answered, another is about to be.
            const auto plan = v->session().figures();
            if (!plan->findings.empty())
                if (const auto edit =
                        findings::answer(plan->findings.front(), job::Answer::accepted,
                                         "New pins are ordered for the next service", "2027-03-12"))
                    (void)v->session().edit("Accept the finding", *edit);
            settle(400);
            for (auto* link : window.findChildren<QAbstractButton*>())
                if (link->objectName().startsWith("accept:")) {
                    link->click();
                    break;
                }
        }
        if (view == "changed")
            (void)v->session().edit("Fit the 18500", job::fit_type("B1", "cell.18500"));
        settle(300);
        if (view == "spares" || view == "options") {
            settle(200);
            window.findChild<QAbstractButton*>(view == "spares" ? "liveDays" : "workOptions")
                ->click();
            auto* bar =
                window.findChild<QWidget*>(view == "spares" ? "daysProgress" : "optionsProgress");
            while (bar->isVisible())
                settle(50);
            settle(200);
        }
        if (view == "tenths" || view == "data") settle(1200);
        if (view.starts_with("card")) {
            auto* card = window.findChild<app::CardSheet*>();
            card->check(QString::fromStdString((*data / "cards" / "heron").string()));
            while (window.findChild<QWidget*>("cardStop")->isVisible())
                settle(50);
            using V = app::CardSheet;
            if (view == "card-loud") card->look_at(V::loud);
            if (view == "card-sounds") {
                card->look_at(V::course);
                window.findChild<app::Table*>("cardSounds")->choose(2);
                emit window.findChild<app::Table*>("cardSounds")->row_chosen(2);
            }
            if (view == "card-prepare")
                card->plan_preparing(QString::fromStdString((*data / "cards" / "heron").string()),
                                     folder.filePath("card"));
            settle(300);
        }
        if (view.starts_with("motion")) {
            auto* motion = window.findChild<app::MotionSheet*>();
            if (view != "motion") window.findChild<QAbstractButton*>("motionUsual")->click();
            if (view == "motion-trace") {
                motion->look_at(app::MotionSheet::movement);
                auto* which = window.findChild<QComboBox*>("motionMovement");
                which->setCurrentIndex(which->findText("strike"));
            }
            if (view == "motion-tests") {
                motion->look_at(app::MotionSheet::tests);
                window.findChild<QAbstractButton*>("motionBeginTests")->click();
            }
            settle(400);
        }
        if (view == "tests" || view == "find" || view == "meter" || view == "log" ||
            view == "practice")
            show_bench(window, view);
        if (view == "rehearse-quiz") {
            window.findChild<app::RehearseSheet*>()->quiz("owner");
            settle(800);
        }
        if (view == "discharge") {
            auto* time = window.findChild<QSlider*>("dischargeTime");
            time->setValue(time->maximum() * 2 / 3);
            settle(200);
        }
        if (view == "time") {
            auto* time = window.findChild<QSlider*>("filmTime");
            time->setValue(time->maximum() / 3);
            settle(100);
        }
        if (view == "tray") {
            v->selection().choose("K1");
            window.findChild<QLineEdit*>("trayWords")->setText("switch 5 A");
            settle(200);
        }
        if (view == "part") {
            v->selection().open("U1");
            settle(200);
        }
        if (view == "passing") {
            auto* way = window.findChild<QSlider*>("slideWay");
            way->setValue(way->maximum() * 2 / 3);
            settle(200);
        }
        keep(view);
        if (view == "why") window.findChild<QAbstractButton*>("whyClose")->click();
    }
    return 0;
}
