// SPDX-License-Identifier: GPL-3.0-or-later
// Start to usable window, and edit to gauge bar. Printed, never asserted.
#include <QApplication>
#include <QElapsedTimer>
#include <QSlider>
#include <algorithm>
#include <cstdio>
#include <vector>

#include "app/drawing/lanes_drawing.h"
#include "app/shelf/shelf_page.h"
#include "app/shell/gauge_bar.h"
#include "app/shell/job_view.h"
#include "app/shell/main_window.h"
#include "core/plan/analyse.h"
#include "core/plan/answers.h"
#include "shop/book.h"
#include "support/fixtures.h"

using namespace conductus;

namespace {

double median(std::vector<double> v) {
    std::sort(v.begin(), v.end());
    return v[v.size() / 2];
}

/// Edits the volume and waits until the gauge bar shows the plan of that edit, painted.
double edit_to_gauge_ms(app::MainWindow& window, app::Session& session, double volume,
                        double& whole_ms) {
    QElapsedTimer t;
    t.start();
    (void)session.edit("Loudness", [volume](job::Job& j) { j.use.volume = volume; });
    // The view paints the gauge bar before it is told that the figures are there.
    while (session.figures()->job != session.job_ptr())
        QApplication::processEvents(QEventLoop::WaitForMoreEvents);
    const double gauges = static_cast<double>(t.nsecsElapsed()) / 1e6;
    while (!session.plan() || session.plan()->job != session.job_ptr())
        QApplication::processEvents(QEventLoop::WaitForMoreEvents);
    window.grab();
    whole_ms = static_cast<double>(t.nsecsElapsed()) / 1e6;
    return gauges;
}

/// Moves the red slider of a look, held down, and waits until gauge bar, blades and section are
/// painted.
double drag_to_paint_ms(app::MainWindow& window, QSlider& slider, int percent) {
    QElapsedTimer t;
    t.start();
    bool seen = false;
    const auto watch = QObject::connect(&window.job_view()->session(), &app::Session::previewed,
                                        &slider, [&] { seen = true; });
    slider.setValue(percent);
    while (!seen)
        QApplication::processEvents(QEventLoop::WaitForMoreEvents);
    QApplication::processEvents(); // what was asked to be painted anew: blades, section, sliders
    QObject::disconnect(watch);
    return static_cast<double>(t.nsecsElapsed()) / 1e6;
}

/// Bittern with its wires doubled and doubled again until there are 60; one end moved, all of it
/// studied, sized and drawn anew.
void sixty_wires() {
    job::Job job = test::demo("bittern");
    const std::size_t own = job.wires.size();
    for (std::size_t i = 0; job.wires.size() < 60; ++i) {
        job::Wire w = job.wires[i % own];
        if (w.role != job::Role::supply && w.role != job::Role::return_path) continue;
        w.ref = "X" + std::to_string(job.wires.size());
        job.wires.push_back(w);
    }
    for (job::Wire& w : job.wires)
        w.length.reset();
    plan::Plan plan =
        plan::analyse_figures(std::make_shared<const job::Job>(job), test::shared_parts());
    std::vector<harness::SolvedState> states;
    for (const auto* list : {&plan.looks, &plan.effects})
        for (const plan::LookPlan& l : *list)
            states.push_back({l.name, &l.fresh->network, &l.fresh->point});
    QImage image(1120, 900, QImage::Format_RGB32);
    std::vector<double> studied, sized, drawn;
    for (int i = 0; i < 40; ++i) {
        job.parts.front().at += Millimetre(i % 2 ? -1 : 1);
        QElapsedTimer t;
        t.start();
        plan.harness = harness::harness_of(job, test::parts(), *plan.wiring, plan.chains, states);
        studied.push_back(static_cast<double>(t.nsecsElapsed()) / 1e6);
        t.restart();
        (void)plan::size_wires(plan, Volt(0.06 + 1e-4 * i));
        sized.push_back(static_cast<double>(t.nsecsElapsed()) / 1e6);
        t.restart();
        QPainter p(&image);
        (void)app::paint_lanes(p, image.rect(), plan, {}, app::Inks::day());
        drawn.push_back(static_cast<double>(t.nsecsElapsed()) / 1e6);
    }
    std::printf(
        "60 wires: studied, sized, drawn %4.1f + %.1f + %.1f ms  (median of 40; worst %.1f + "
        "%.1f + %.1f)\n",
        median(studied), median(sized), median(drawn),
        *std::max_element(studied.begin(), studied.end()),
        *std::max_element(sized.begin(), sized.end()),
        *std::max_element(drawn.begin(), drawn.end()));
}

void drag(app::MainWindow& window, const char* job, const char* what) {
    window.job_view()->go_to(2);
    auto* red = window.job_view()->findChild<QSlider*>("lookRed");
    std::vector<double> drags;
    red->setSliderDown(true);
    for (int i = 0; i < 60; ++i)
        drags.push_back(drag_to_paint_ms(window, *red, 20 + i));
    window.job_view()->session().end_preview();
    {
        const QSignalBlocker quiet(red); // let go without an edit
        red->setSliderDown(false);
    }
    std::printf("drag to blade and gauges %6.1f ms  (%s, %s; median of %zu; worst %.1f ms)\n",
                median(drags), job, what, drags.size(),
                *std::max_element(drags.begin(), drags.end()));
}

} // namespace

int main(int argc, char** argv) {
    qputenv("QT_QPA_PLATFORM", qEnvironmentVariableIsSet("DISPLAY") ? "xcb" : "offscreen");
    QElapsedTimer start;
    start.start();
    const QString fonts = QString::fromStdString((test::source_dir() / "data/fonts").string());
    app::prepare_fonts(fonts);
    QApplication application(argc, argv);
    app::register_fonts(fonts);
    test::TemporaryFolder folder;
    const auto book = folder / "shop.book";
    const auto parts = test::shared_parts();
    const auto made = shop::make_demo_book(book, test::source_dir() / "data/demo", *parts);
    if (!made) return std::printf("%s\n", made.error().text().c_str()), 1;
    const double with_demo = static_cast<double>(start.nsecsElapsed()) / 1e6;
    app::MainWindow window(parts, book);
    window.open_book();
    window.show();
    QApplication::processEvents();
    window.grab();
    const double usable = static_cast<double>(start.nsecsElapsed()) / 1e6;
    std::printf("start to usable window   %6.0f ms  (of it %.0f ms to make the demo shop, first "
                "start only)\n",
                usable, with_demo);

    QElapsedTimer opening;
    opening.start();
    auto opened = shop::Book::open(book, shop::Access::read_write);
    const auto entries = opened->entries();
    for (const auto& e : *entries)
        if (e.name == "Heron") window.open_job(e.id);
    app::Session& session = window.job_view()->session();
    while (!session.plan())
        QApplication::processEvents(QEventLoop::WaitForMoreEvents);
    window.grab();
    std::printf("card to planned job      %6.0f ms\n",
                static_cast<double>(opening.nsecsElapsed()) / 1e6);

    std::vector<double> edits, wholes;
    for (int i = 0; i < 60; ++i) {
        double whole = 0;
        edits.push_back(edit_to_gauge_ms(window, session, 0.3 + i / 200.0, whole));
        wholes.push_back(whole);
    }
    std::printf("edit to gauge bar        %6.1f ms  (Heron, median of %zu; worst %.1f ms)\n",
                median(edits), edits.size(), *std::max_element(edits.begin(), edits.end()));
    drag(window, "Heron", "the use's look");
    std::printf("edit to everything       %6.1f ms  (with every cell's runtime, all painted)\n",
                median(wholes));
    // A change of text size until everything in sight is painted in it, at each station.
    std::vector<double> sizes;
    for (std::size_t station = 0; station < 5; ++station) {
        window.job_view()->go_to(station);
        QApplication::processEvents();
        for (const int percent : {110, 150, 100}) {
            QElapsedTimer t;
            t.start();
            window.appearance().set_percent(percent);
            QApplication::processEvents();
            sizes.push_back(static_cast<double>(t.nsecsElapsed()) / 1e6);
        }
    }
    std::printf("text size to painted     %6.1f ms  (Heron, five stations, median of %zu; worst "
                "%.1f ms)\n",
                median(sizes), sizes.size(), *std::max_element(sizes.begin(), sizes.end()));
    for (const auto& e : *entries)
        if (e.name == "Bittern") window.open_job(e.id);
    while (!window.job_view()->session().plan())
        QApplication::processEvents(QEventLoop::WaitForMoreEvents);
    drag(window, "Bittern", "the use's look");
    const auto& looks = window.job_view()->session().job().looks;
    window.job_view()->selection().look_at(QString::fromStdString(looks.back().name));
    drag(window, "Bittern", "another look");
    sixty_wires();
    return 0;
}
