// SPDX-License-Identifier: GPL-3.0-or-later
// The Lights station: what would change a look, films, data lines, and the section's overlays.
#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QSlider>
#include <QSpinBox>
#include <QTabBar>
#include <set>

#include "app/drawing/section_drawing.h"
#include "app/stations/lights/colour_field.h"
#include "app/stations/lights/effects_sheet.h"
#include "app/stations/lights/lines_sheet.h"
#include "app/stations/lights/look_list.h"
#include "core/base/format.h"
#include "core/job/lookup.h"
#include "window.h"

namespace conductus::app {
namespace {

class LightsTest : public Window {
protected:
    void open_sheet(const QString& job, int sheet) {
        open_card(job);
        keys(Qt::Key_3, Qt::AltModifier);
        for (int i = 0; i < sheet; ++i)
            keys(Qt::Key_PageDown, Qt::ControlModifier);
        ASSERT_EQ(find<QTabBar>("lightsSheets")->currentIndex(), sheet);
        settled();
    }
    [[nodiscard]] bool found(const std::string& id) {
        const auto& all = session().plan()->findings;
        return std::any_of(all.begin(), all.end(), [&](const auto& f) { return f.id == id; });
    }
};

TEST_F(LightsTest, AClickDoesWhatWouldChangeTheLook) {
    open_sheet("Heron", 0);
    window_->job_view()->selection().look_at("Moonrise");
    turn();
    const double before = session().plan()->look("Moonrise")->mean.value();
    auto* white = find<QAbstractButton>("whatIf_white-die");
    ASSERT_TRUE(white);
    EXPECT_TRUE(white->text().contains(QChar(0x2212))) << white->text().toStdString();
    QTest::mouseClick(white, Qt::LeftButton);
    settled();
    EXPECT_LT(session().plan()->look("Moonrise")->mean.value(), before * 0.6);
    EXPECT_EQ(session().job().blades[0].strips[0].type, "strip.rgbw-144-wide");
    keys(Qt::Key_Z, Qt::ControlModifier);
    settled();
    EXPECT_EQ(session().job(), demo("heron"));
}

TEST_F(LightsTest, AnEffectPlaysAndTheTraceIsItsCurrent) {
    open_sheet("Bittern", 3);
    auto* which = find<QComboBox>("filmOf");
    tab_to("filmOf");
    choose_item(which, which->findText("ignition"));
    auto* time = find<QSlider>("filmTime");
    auto* said = find<QLabel>("filmFigures");
    ASSERT_TRUE(QTest::qWaitFor([&] { return said->text().contains("Mean"); }, 5000));
    time->setValue(0);
    const QString start = said->text();
    time->setValue(time->maximum() / 2);
    EXPECT_NE(said->text(), start);
    // Played, it moves by itself; ten times slower it moves less.
    find<QCheckBox>("slowFilm")->setChecked(true);
    time->setValue(0);
    QTest::mouseClick(find<QPushButton>("playFilm"), Qt::LeftButton);
    ASSERT_TRUE(QTest::qWaitFor([&] { return time->value() > 0; }, 5000));
    QTest::mouseClick(find<QPushButton>("playFilm"), Qt::LeftButton);
    EXPECT_FALSE(find<QTimer>("filmClock")->isActive()) << "stopped, nothing moves it on";
    // A click on the trace goes there.
    auto* film = find<DrawingView>("film");
    QTest::mouseClick(film, Qt::LeftButton, {}, QPoint(film->width() * 3 / 4, film->height() / 2));
    EXPECT_GT(time->value(), time->maximum() / 2);
}

TEST_F(LightsTest, WhatIsProgrammedIsHeldAgainstWhatIsFitted) {
    open_sheet("Bittern", 4);
    EXPECT_TRUE(find<DrawingView>("chains")->accessibleDescription().contains("117"));
    auto* lines = find<Table>("programmedLines");
    ASSERT_EQ(lines->rows().rowCount(), 1);
    EXPECT_EQ(lines->text(0, 1), "117");
    auto write = [&](const QString& text) {
        retype(lines, 0, 2, text);
        settled();
    };
    write("110");
    EXPECT_EQ(session().job().lines[0].pixels, 110);
    EXPECT_TRUE(found("line.programmed-differs"));
    write("many");
    EXPECT_EQ(session().job().lines[0].pixels, 110); // refused, and kept to be mended
    EXPECT_EQ(lines->text(0, 2), "many");
    write("117");
    EXPECT_FALSE(found("line.programmed-differs"));
    // A hop chosen in the table is chosen everywhere.
    auto* hops = find<Table>("dataHops");
    ASSERT_EQ(hops->rows().rowCount(), 6);
    go(hops, 2, 0);
    EXPECT_EQ(window_->job_view()->selection().options().chosen, "ST3");
}

TEST_F(LightsTest, AStripIsCutFedAndChangedInPlace) {
    open_sheet("Bittern", 1);
    auto* loads = find<Table>("loads");
    ASSERT_EQ(loads->rows().rowCount(), 6);
    EXPECT_TRUE(loads->text(0, 0).startsWith("ST1"));
    tab_to("loads");
    go(loads, 0, 0);
    // A count that followed from the length follows to the new one.
    auto* length = find<QLineEdit>("loadLength");
    length->setFocus();
    length->selectAll();
    QTest::keyClicks(length, "500 mm");
    QTest::keyClick(length, Qt::Key_Return);
    settled();
    EXPECT_EQ(session().job().blades[0].strips[0].pixels, 72);
    EXPECT_EQ(session().job().blades[0].strips[1].pixels, 117); // the other one stays
    length->setFocus();
    length->selectAll();
    QTest::keyClicks(length, "long");
    QTest::keyClick(length, Qt::Key_Return);
    EXPECT_EQ(session().job().blades[0].strips[0].length, Millimetre(500));
    EXPECT_EQ(length->text(), "long");
    length->selectAll();
    QTest::keyClicks(length, "813 mm");
    QTest::keyClick(length, Qt::Key_Return);
    settled();
    auto* feed = find<QComboBox>("loadFeed");
    choose_item(feed, feed->currentIndex() + 1);
    settled();
    ASSERT_EQ(session().job().blades[0].strips[0].feeds.size(), 1u);
    EXPECT_EQ(session().job().blades[0].strips[0].feeds[0].at, 1);
    EXPECT_GT(session().job().blades[0].strips[0].feeds[0].lead, Ohm(0.05));
}

TEST_F(LightsTest, AnAccentGoesAheadOfTheBladeAndAwayAgain) {
    open_sheet("Heron", 1);
    auto* what = find<QComboBox>("addAccentWhat");
    what->setCurrentIndex(what->findData("pixels.micro-5"));
    find<QComboBox>("addAccentHow")->setCurrentIndex(1);
    QTest::mouseClick(find<QPushButton>("addAccent"), Qt::LeftButton);
    settled();
    const auto* accent = session().plan()->chains.group("A1");
    ASSERT_TRUE(accent);
    EXPECT_EQ(accent->first, 0);
    EXPECT_EQ(session().plan()->chains.group("ST1")->first, 5);
    auto* loads = find<Table>("loads");
    for (int r = 0; r < loads->rows().rowCount(); ++r)
        if (loads->text(r, 0) == "A1") go(loads, r, 0);
    EXPECT_TRUE(find<QLabel>("loadSaid")->text().contains("Left on"));
    QTest::mouseClick(find<QPushButton>("removeLoad"), Qt::LeftButton);
    settled();
    job::Job as_before = session().job();
    EXPECT_EQ(session().plan()->chains.group("ST1")->first, 0);
    EXPECT_EQ(as_before, demo("heron"));
}

TEST_F(LightsTest, TwoWaysOfBuildingStandSideBySide) {
    open_sheet("Curlew", 5);
    auto* said = find<QLabel>("variantWords");
    ASSERT_TRUE(QTest::qWaitFor([&] { return !said->text().isEmpty(); }, 5000));
    EXPECT_TRUE(said->text().contains("D1")) << said->text().toStdString();
    QTest::mouseClick(find<QPushButton>("variantTake"), Qt::LeftButton);
    settled();
    EXPECT_EQ(session().job().variant, "LED in the hilt");
    EXPECT_TRUE(session().job().blades[0].strips.empty());
    EXPECT_EQ(find<QComboBox>("variantWhich")->currentText(), "pixel blade");
    keys(Qt::Key_Z, Qt::ControlModifier);
    settled();
    EXPECT_EQ(session().job(), demo("curlew"));
    // A name is needed to keep another.
    QTest::mouseClick(find<QPushButton>("variantKeep"), Qt::LeftButton);
    EXPECT_TRUE(find<QLabel>("variantRefused")->isVisible());
    auto* name = find<QLineEdit>("variantName");
    name->setFocus();
    QTest::keyClicks(name, "as agreed");
    QTest::mouseClick(find<QPushButton>("variantKeep"), Qt::LeftButton);
    settled();
    ASSERT_EQ(session().job().variants.size(), 2u);
    EXPECT_EQ(session().job().variants[1].name, "as agreed");
}

TEST_F(LightsTest, ADragIsSeenAtOnceAndIsOneEdit) {
    open_sheet("Heron", 0);
    window_->job_view()->selection().look_at("Tidewater");
    auto* red = find<QSlider>("lookRed");
    const std::size_t states = session().history().size();
    const QString before = gauge(1);
    int seen = 0;
    QObject::connect(&session(), &Session::previewed, red, [&] { ++seen; });
    red->setSliderDown(true);
    for (int percent = 20; percent <= 90; percent += 10) {
        red->setValue(percent);
        ASSERT_TRUE(QTest::qWaitFor([&, was = seen] { return seen > was; }, 5000)) << percent;
    }
    EXPECT_EQ(session().history().size(), states); // nothing is kept while it is dragged
    EXPECT_NEAR(session().job().looks[0].colour.red, 0.1, 1e-9);
    red->setSliderDown(false);
    settled();
    EXPECT_EQ(session().history().size(), states + 1);
    EXPECT_NEAR(session().job().looks[0].colour.red, 0.9, 1e-9);
    // Dragged back to where it was, it is no edit.
    keys(Qt::Key_Z, Qt::ControlModifier);
    settled();
    red->setSliderDown(true);
    red->setValue(70);
    ASSERT_TRUE(QTest::qWaitFor([&, was = seen] { return seen > was; }, 5000));
    red->setValue(10);
    red->setSliderDown(false);
    settled();
    EXPECT_EQ(session().job(), demo("heron"));
    EXPECT_EQ(gauge(1), before);
}

TEST_F(LightsTest, AColourIsChosenByEye) {
    open_sheet("Heron", 0);
    window_->job_view()->selection().look_at("Signal red");
    auto* field = find<ColourField>("colourField");
    ASSERT_TRUE(field->isVisible());
    const auto at = [&](double u, double v) { return field->place_of({u, v}).toPoint(); };
    const std::size_t states = session().history().size();
    int seen = 0;
    QObject::connect(&session(), &Session::previewed, field, [&] { ++seen; });
    // From red to green: shown on the way, one edit at the end, told by the sliders.
    const lights::Uv red = lights::channel_tint(0), green = lights::channel_tint(1);
    QTest::mousePress(field, Qt::LeftButton, {}, at(red.u, red.v));
    QTest::mouseMove(field, at((red.u + green.u) / 2, (red.v + green.v) / 2));
    ASSERT_TRUE(QTest::qWaitFor([&] { return seen > 0; }, 5000));
    EXPECT_EQ(session().history().size(), states);
    QTest::mouseMove(field, at(green.u, green.v));
    QTest::mouseRelease(field, Qt::LeftButton, {}, at(green.u, green.v));
    settled();
    EXPECT_EQ(session().history().size(), states + 1);
    const job::Look* look = job::find_name(session().job().looks, "Signal red");
    EXPECT_GT(look->colour.green, 0.99);
    EXPECT_LT(look->colour.red, 0.1);
    EXPECT_EQ(find<QSlider>("lookGreen")->value(), qRound(look->colour.green * 100));
    // The keys step.
    field->setFocus();
    QTest::keyClick(field, Qt::Key_Right);
    settled();
    EXPECT_EQ(session().history().size(), states + 2);
    // By numbers.
    auto* blue = find<QSpinBox>("lookBlueShare");
    blue->setFocus();
    blue->selectAll();
    QTest::keyClicks(blue, "40");
    QTest::keyClick(blue, Qt::Key_Return);
    settled();
    EXPECT_NEAR(job::find_name(session().job().looks, "Signal red")->colour.blue, 0.4, 1e-9);
    EXPECT_EQ(find<QSlider>("lookBlue")->value(), 40);
}

TEST_F(LightsTest, TheFieldOfTintsIsAsTheEyeSpacesThem) {
    open_sheet("Heron", 0);
    auto* field = find<ColourField>("colourField");
    for (double u = 0.1; u < 0.5; u += 0.07)
        for (double v = 0.1; v < 0.6; v += 0.07) {
            const lights::Uv back = field->tint_at(field->place_of({u, v}));
            EXPECT_NEAR(back.u, u, 1e-9);
            EXPECT_NEAR(back.v, v, 1e-9);
        }
    // Equal steps in u and v are equal on the screen.
    const QPointF at = field->place_of({0.2, 0.4});
    const double du = field->place_of({0.3, 0.4}).x() - at.x();
    const double dv = at.y() - field->place_of({0.2, 0.5}).y();
    EXPECT_NEAR(du, dv, 0.05 * du);
    // Without pixels there is nothing to choose.
    window_->show_shelf();
    open_sheet("Godwit", 0);
    EXPECT_FALSE(find<ColourField>("colourField")->isVisible());
}

TEST_F(LightsTest, StripsAndBladesAreAddedAndTakenOut) {
    open_sheet("Heron", 1);
    auto* loads = find<Table>("loads");
    auto* what = find<QComboBox>("addAccentWhat");
    auto add = [&](const char* kind, int how) {
        go(loads, 0, 0);
        what->setCurrentIndex(what->findData(kind));
        find<QComboBox>("addAccentHow")->setCurrentIndex(how);
        QTest::mouseClick(find<QPushButton>("addAccent"), Qt::LeftButton);
        settled();
    };
    const double before = session().plan()->looks[0].mean.value();
    add("strip", 2);
    EXPECT_EQ(session().job().blades[0].strips.size(), 3u);
    EXPECT_GT(session().plan()->looks[0].mean.value(), before);
    add("blade", 2);
    ASSERT_EQ(session().job().blades.size(), 2u);
    EXPECT_EQ(loads->rows().rowCount(), 6);
    EXPECT_EQ(session().plan()->looks[0].views[plan::full].blades.size(), 2u);
    while (loads->rows().rowCount() > 3) {
        go(loads, loads->rows().rowCount() - 1, 0);
        QTest::mouseClick(find<QPushButton>("removeLoad"), Qt::LeftButton);
        settled();
    }
    EXPECT_EQ(session().job().blades.size(), 1u);
    go(loads, 2, 0);
    QTest::mouseClick(find<QPushButton>("removeLoad"), Qt::LeftButton);
    settled();
    EXPECT_EQ(session().job(), demo("heron"));
}

TEST_F(LightsTest, ALightShowsSomethingOfItsOwn) {
    open_sheet("Curlew", 0);
    auto* light = find<QComboBox>("lookLight");
    EXPECT_GE(light->findText("A1, its own"), 1);
    ASSERT_GE(light->findText("ST1"), 1);
    choose_item(light, light->findText("ST1"));
    EXPECT_FALSE(find<QPushButton>("lightAsLook")->isVisible());
    auto* blue = find<QSlider>("lookBlue");
    blue->setFocus();
    keys(blue->value() > 50 ? Qt::Key_Home : Qt::Key_End);
    settled();
    const auto& look = session().job().looks[0];
    ASSERT_EQ(look.lights.size(), 2u);
    EXPECT_EQ(look.lights[1].light, "ST1");
    EXPECT_NE(look.lights[1].colour.blue, look.colour.blue);
    EXPECT_EQ(look.colour, demo("curlew").looks[0].colour);
    EXPECT_EQ(light->currentText(), "ST1, its own");
    QTest::mouseClick(find<QPushButton>("lightAsLook"), Qt::LeftButton);
    settled();
    EXPECT_EQ(session().job(), demo("curlew"));
}

TEST_F(LightsTest, LooksAreRankedByWhatTheyDrawAndToldByPixel) {
    open_sheet("Bittern", 0);
    auto* looks = find<LookList>("looks");
    looks->setFocus();
    auto drawn = [&] {
        keys(Qt::Key_Down);
        const auto name = window_->job_view()->selection().options().look.toStdString();
        return session().plan()->look(name)->mean.value();
    };
    for (int i = 0; i < 20; ++i)
        keys(Qt::Key_Up);
    double before = 1e9;
    for (std::size_t i = 1; i < session().job().looks.size(); ++i) {
        const double now = drawn();
        EXPECT_LE(now, before);
        before = now;
    }
    // Each blade of the first row, on a full cell and a nearly empty one.
    std::set<QString> told;
    for (int y = 0; y < 90; ++y)
        for (const double x : {0.22, 0.35}) // the third stands beside the second
            told.insert(looks->told_at(QPointF(looks->width() * x, y)));
    for (const char* blade : {"BL1", "BL2", "BL3"})
        for (const char* cell : {"full cell", "10 %"})
            EXPECT_TRUE(std::any_of(told.begin(), told.end(), [&](const QString& s) {
                return s.startsWith(blade) && s.contains(cell) && s.contains("V, ") &&
                       s.contains("pixel") && s.contains("tint shift");
            })) << blade;
    EXPECT_TRUE(looks->told_at(QPointF(2, 60)).isEmpty());
}

TEST_F(LightsTest, EffectsAndStretchesAreTyped) {
    open_sheet("Bittern", 3);
    auto* effects = find<Table>("effects");
    const int rows = effects->rows().rowCount();
    ASSERT_EQ(rows, static_cast<int>(demo("bittern").effects.size()) + 1);
    auto write = [&](Table* table, int row, int column, const QString& text) {
        retype(table, row, column, text);
        settled();
    };
    write(effects, 0, 4, "0.35 s");
    EXPECT_EQ(session().job().effects[0].lasts, Second(0.35));
    write(effects, rows - 1, 0, "spark");
    ASSERT_EQ(session().job().effects.size(), static_cast<std::size_t>(rows));
    const job::Effect& spark = session().job().effects.back();
    EXPECT_EQ(spark.colour, (job::Colour{1, 1, 1, 0})); // white where nothing is said
    EXPECT_EQ(effects->rows().rowCount(), rows + 1);
    EXPECT_FALSE(effects->text(rows - 1, 11).isEmpty()); // its peak is solved
    write(effects, 0, 1, "fireworks");
    EXPECT_TRUE(find<QLabel>("effectsRefusal")->isVisible());
    EXPECT_TRUE(find<QLabel>("effectsRefusal")->text().contains("fireworks"));
    EXPECT_EQ(effects->text(0, 1), "fireworks"); // kept to be mended
    write(effects, 0, 1, "clash");
    EXPECT_FALSE(find<QLabel>("effectsRefusal")->isVisible());
    keys(Qt::Key_PageDown, Qt::ControlModifier);
    settled();
    auto* stretches = find<Table>("stretches");
    write(stretches, 0, 0, "foot glow");
    ASSERT_EQ(session().job().stretches.size(), 1u);
    EXPECT_EQ(session().job().stretches[0].of, session().plan()->chains.groups[0].ref);
    write(stretches, 0, 3, "12");
    EXPECT_EQ(session().job().stretches[0].last, 12);
    write(stretches, 0, 3, "1200");
    EXPECT_TRUE(find<QLabel>("stretchesRefusal")->isVisible());
    EXPECT_EQ(session().job().stretches[0].last, 12);
}

TEST_F(LightsTest, CurrentsOfEveryPlaceInOneLookOrWhereTheyAreMost) {
    open_sheet("Bittern", 2);
    auto* table = find<Table>("currents");
    auto* which = find<QComboBox>("currentsIn");
    const auto peak_of = [&](const std::string& ref, const std::string& label) {
        double most = 0;
        for (const auto* list : {&session().plan()->looks, &session().plan()->effects})
            for (const auto& look : *list)
                for (const auto& c : look.carried)
                    if (c.place.ref == ref && c.place.label == label)
                        most = std::max(most, c.peak.value());
        return most;
    };
    int pads = 0, wires = 0, pins = 0;
    for (int r = 0; r < table->rows().rowCount(); ++r) {
        const std::string ref = table->text(r, 0).toStdString();
        std::string label = table->text(r, 1).toStdString();
        if (label.empty()) label = ref;
        EXPECT_EQ(table->text(r, 4).toStdString(), text(Ampere(peak_of(ref, label))))
            << ref << " " << label;
        pads += ref == "U1", wires += ref[0] == 'W', pins += ref == "P1";
    }
    EXPECT_EQ(pads, 4);
    EXPECT_EQ(pins, 2);
    EXPECT_GE(wires, 10);
    // In one look: all rows say so.
    choose_item(which, which->findData("Marsh gold"));
    for (int r = 0; r < table->rows().rowCount(); ++r)
        EXPECT_EQ(table->text(r, 6), "Marsh gold");
    go(table, 0, 0);
    EXPECT_EQ(window_->job_view()->selection().options().chosen, table->text(0, 0));
}

TEST_F(LightsTest, OverlaysSayAmpsAndHeat) {
    open_sheet("Curlew", 0);
    QTest::mouseClick(find<QPushButton>("overlayAmps"), Qt::LeftButton);
    EXPECT_EQ(window_->job_view()->selection().options().overlay, Overlay::amps);
    QTest::mouseClick(find<QPushButton>("overlayHeat"), Qt::LeftButton);
    EXPECT_EQ(window_->job_view()->selection().options().overlay, Overlay::heat);
    EXPECT_TRUE(find<QPushButton>("overlayHeat")->isChecked());
    EXPECT_FALSE(find<QPushButton>("overlayAmps")->isChecked());
}

} // namespace
} // namespace conductus::app
