// SPDX-License-Identifier: GPL-3.0-or-later
// A whole build of three blades made in the window from a blank job, by mouse and keyboard: its
// plan is that of the job that ships.
#include <QClipboard>
#include <QSpinBox>
#include <QTabBar>
#include <fmt/format.h>

#include "app/session/words.h"
#include "app/shell/section_pane.h"
#include "app/window.h"
#include "core/job/words.h"
#include "files/job_json.h"

namespace conductus::app {
namespace {

class ByHand : public Window {
protected:
    /// Copied rows of a spreadsheet into a table, behind its last row.
    void paste(const QString& table, const QString& rows) {
        auto* t = find<Table>(table);
        go(t, t->rows().source_count(), 0);
        QApplication::clipboard()->setText(rows);
        keys(Qt::Key_V, Qt::ControlModifier);
        settled();
        EXPECT_TRUE(t->refusal()->isHidden())
            << table.toStdString() << ": " << t->refusal()->text().toStdString();
    }
    void press(const QString& name) {
        auto* button = find<QAbstractButton>(name);
        ASSERT_TRUE(button->isVisible()) << name.toStdString();
        QTest::mouseClick(button, Qt::LeftButton);
        settled();
    }
    /// A value on the page of what is chosen.
    void value(const QString& name, const QString& text) {
        auto* values = find<Table>("partValues");
        for (int r = 0; r < values->rows().source_count(); ++r)
            if (values->text(r, 0).startsWith(name)) {
                retype(values, r, 1, text);
                settled();
                ASSERT_TRUE(values->refusal()->isHidden())
                    << values->refusal()->text().toStdString();
                return;
            }
        FAIL() << name.toStdString() << " is no value there";
    }
    void on_page_of(const QString& ref, std::initializer_list<std::pair<QString, QString>> all) {
        window_->job_view()->selection().choose(ref);
        keys(Qt::Key_Return, Qt::AltModifier);
        turn();
        for (const auto& [name, text] : all)
            value(name, text);
        keys(Qt::Key_Escape);
        turn();
    }
    void type_into(const QString& field, const QString& text) {
        auto* line = find<QLineEdit>(field);
        line->setFocus();
        line->selectAll();
        type(text);
        keys(Qt::Key_Return);
        settled();
    }
    void choose_word(const QString& combo, const QString& word) {
        auto* box = find<QComboBox>(combo);
        const int index = box->findText(word);
        choose_item(box, index);
        // The keys moved it; an item is taken as it is clicked in the list.
        emit box->activated(index);
        settled();
    }
};

TEST_F(ByHand, ThreeBladesFromABlankJobAreThePlanThatShips) {
    const job::Job shipped = demo("bittern");
    keys(Qt::Key_N, Qt::ControlModifier);
    type("Bittern by hand");
    keys(Qt::Key_Return);
    settled();
    // The hilt: readings off the calipers, its end, chassis and screw.
    keys(Qt::Key_2, Qt::AltModifier);
    turn();
    paste("survey", "pommel\t0\t40\t33\t40\ngrip\t40\t178\t30\t37\ncross\t178\t232\t31\t44\n"
                    "socket\t232\t288\t25.7\t38\n");
    turn_to("hiltSheets", 1);
    choose_word("hiltChassis", "slide-out");
    type_into("hiltWall", "1.5");
    paste("screws", "M4 at the socket\t260\t90\tM4\t2.5 mm hex\tblade\tmay be loosened\n"
                    "M3 at the upper side socket\t193\t90\tM3\t2 mm hex\tblade in P2\n"
                    "M3 at the lower side socket\t193\t270\tM3\t2 mm hex\tblade in P3\n");
    paste("sideBores", "P2\t32\t19.4\nP3\t32\t19.4\n");
    // Parts, each found by words; what shall lie elsewhere is said on its page.
    turn_to("hiltSheets", 5);
    for (const char* words :
         {"speaker.28-4ohm", "cell.21700-power", "slide 10 A", "board.large", "momentary-12",
          "7 pins", "connector.side-6", "connector.side-6", "resistor.0w25"})
        fit(words);
    fit("protection.12a");
    on_page_of("SP1", {{"starts at", "5"}});
    on_page_of("B1", {{"starts at", "22"}});
    on_page_of("K1", {{"starts at", "104"}});
    on_page_of("U1", {{"starts at", "122"}});
    on_page_of("S1", {{"starts at", "184"}, {"up", "9"}});
    on_page_of("P1", {{"starts at", "214"}});
    on_page_of("P2", {{"starts at", "199"}, {"up", "10"}});
    on_page_of("P3", {{"starts at", "199"}, {"up", "-10"}});
    on_page_of("R1", {{"starts at", "176"}, {"chosen value", "330"}});
    // One blade ahead of two strips, two short ones at the sides, the second like the first.
    fit("strip.rgb-144-wide-2oz");
    on_page_of("ST1", {{"lead at the foot", "40"}});
    press("trayInto");
    fit("strip.rgb-144-wide ");
    ASSERT_EQ(session().job().blades.size(), 2u);
    EXPECT_EQ(session().job().blades[0].strips.size(), 2u);
    EXPECT_EQ(session().job().blades[0].connector, "P1");
    ASSERT_EQ(window_->job_view()->selection().options().chosen, "BL2");
    on_page_of(
        "BL2",
        {{"length", "178"}, {"diameter", "19.1"}, {"its axis meets", "205"}, {"points", "90"}});
    on_page_of("ST3", {{"type", "strip.rgb-144-wide"}});
    on_page_of("ST3", {{"length", "174"}, {"pixels", "25"}, {"lead at the foot", "50"}});
    window_->job_view()->selection().choose("ST3");
    turn();
    press("trayAgain");
    window_->job_view()->selection().choose("BL2");
    turn();
    press("trayAgain");
    on_page_of("BL3", {{"points", "-90"}});
    // Wires, as a list from a spreadsheet.
    keys(Qt::Key_5, Qt::AltModifier);
    turn();
    QString wires;
    for (const job::Wire& w : shipped.wires)
        wires += words(
            fmt::format("{}\t{}\t{}\t{}\t{}\n", w.ref, w.from, w.to, job::word(w.role), w.gauge));
    paste("wires", wires);
    // Looks one by one, effects as a list, what the board is told.
    keys(Qt::Key_3, Qt::AltModifier);
    turn();
    while (!session().job().looks.empty())
        press("removeLook");
    for (const job::Look& look : shipped.looks) {
        press("addLook");
        type_into("lookName", words(look.name));
        choose_word("lookStyle", words(job::word(look.style)));
        const std::pair<const char*, double> shares[] = {{"lookRedShare", look.colour.red},
                                                         {"lookGreenShare", look.colour.green},
                                                         {"lookBlueShare", look.colour.blue},
                                                         {"lookCapShare", look.cap}};
        for (const auto& [name, share] : shares) {
            auto* spin = find<QSpinBox>(name);
            spin->setFocus();
            spin->selectAll();
            QTest::keyClicks(spin, QString::number(qRound(share * 100)));
            QTest::keyClick(spin, Qt::Key_Return);
        }
        settled();
    }
    for (int i = 0; i < find<QTabBar>("lightsSheets")->count(); ++i) {
        turn_to("lightsSheets", i);
        if (find<Table>("effects")->isVisible()) break;
    }
    QString effects;
    for (const job::Effect& e : shipped.effects)
        effects += words(
            fmt::format("{}\t{}\t{:.6g}\t{:.6g}\t{:.6g}\t{:.6g}\t{:.6g}\t{:.6g}\t{:.6g}\n", e.name,
                        job::word(e.kind), e.from * 100, e.to * 100, e.lasts.value(), e.cap * 100,
                        e.colour.red * 100, e.colour.green * 100, e.colour.blue * 100));
    paste("effects", effects);
    for (int i = 0; i < find<QTabBar>("lightsSheets")->count(); ++i) {
        turn_to("lightsSheets", i);
        if (find<Table>("programmedLines")->isVisible()) break;
    }
    retype(find<Table>("programmedLines"), 0, 2, "117");
    settled();
    // Either side socket takes either short blade; a plug for each socket, and a longer blade.
    turn_to("lightsSheets", 6);
    auto* set = find<Table>("blades");
    retype(set, 1, 4, "P2");
    retype(set, 1, 5, "P3");
    retype(set, 2, 4, "P3");
    retype(set, 2, 5, "P2");
    const struct {
        const char *ref, *is_a, *length, *outer, *socket, *also, *pixels;
    } more[] = {{"PL1", "plug", "62", "25.4", "P1", "", "plain"},
                {"BL4", "blade", "305", "19.1", "P2", "P3", "43 + 43"},
                {"PL2", "plug", "30", "19.1", "P2", "P3", "plain"},
                {"PL3", "plug", "30", "19.1", "P3", "P2", "plain"}};
    int row = 3;
    for (const auto& m : more) {
        int column = 0;
        for (const char* typed : {m.ref, m.is_a, m.length, m.outer, m.socket, m.also, m.pixels}) {
            if (set->text(row, column) != typed) retype(set, row, column, typed);
            ++column;
        }
        EXPECT_TRUE(set->refusal()->isHidden()) << set->refusal()->text().toStdString();
        ++row;
    }
    settled();
    // Their tubes.
    auto* tubes = find<Table>("tubes");
    for (const auto& [blade, bore] : {std::pair{0, "21.4"}, {1, "16"}, {2, "16"}, {4, "16"}})
        for (const auto& [column, typed] : {std::pair{1, bore},
                                            {2, "polycarbonate"},
                                            {3, "frosted"},
                                            {4, "film"},
                                            {5, "0.3"},
                                            {10, "vented"}})
            retype(tubes, blade, column, typed);
    settled();
    // The day it shall last.
    keys(Qt::Key_4, Qt::AltModifier);
    turn();
    for (int i = 0; i < find<QTabBar>("powerSheets")->count(); ++i) {
        turn_to("powerSheets", i);
        if (find<Table>("phases")->isVisible()) break;
    }
    paste("phases", "ignited\t15\t3\t45\t6\t2\t1\t0.5\nidle\t30\t1\t0\n");
    turn_to("powerSheets", 0);
    choose_word("useLook", "Marsh gold");
    for (const auto& [field, text] : {std::pair{"useClean", "25"},
                                      {"useIgnited", "45"},
                                      {"useIdle", "120"},
                                      {"useTemperature", "18"},
                                      {"useVolume", "60"}})
        type_into(field, text);

    const job::Job& made = session().job();
    EXPECT_EQ(made.hilt, shipped.hilt);
    EXPECT_EQ(made.parts, shipped.parts);
    const auto blades = [](const job::Job& job) { return files::job_json(job)["blades"].dump(1); };
    EXPECT_EQ(blades(made), blades(shipped));
    EXPECT_EQ(made.wires, shipped.wires);
    EXPECT_EQ(made.looks, shipped.looks);
    EXPECT_EQ(made.effects, shipped.effects);
    EXPECT_EQ(made.lines, shipped.lines);
    const plan::Plan& plan = *session().plan();
    job::Job same_use = shipped;
    same_use.use.name = made.use.name; // what the day is called
    EXPECT_EQ(made.use, same_use.use);
    same_use.brief = {}, same_use.inspection.clear();
    const plan::Plan wanted = plan_of(same_use);
    ASSERT_EQ(plan.figures.size(), wanted.figures.size());
    for (std::size_t i = 0; i < wanted.figures.size(); ++i) {
        ASSERT_TRUE(plan.figures[i].value) << wanted.figures[i].id;
        EXPECT_DOUBLE_EQ(*plan.figures[i].value, *wanted.figures[i].value) << wanted.figures[i].id;
    }
    const auto ids = [](const plan::Plan& p) {
        std::multiset<std::string> all;
        for (const auto& f : p.findings)
            if (f.station != findings::Station::brief) all.insert(f.id);
        return all;
    };
    EXPECT_EQ(ids(plan), ids(wanted));
    ASSERT_EQ(plan.looks.size(), wanted.looks.size());
    for (std::size_t i = 0; i < wanted.looks.size(); ++i) {
        EXPECT_DOUBLE_EQ(plan.looks[i].mean.value(), wanted.looks[i].mean.value());
        EXPECT_DOUBLE_EQ(plan.looks[i].peak.value(), wanted.looks[i].peak.value());
    }
    for (std::size_t i = 0; i < wanted.harness.wires.size(); ++i)
        EXPECT_DOUBLE_EQ(plan.harness.wires[i].length.value(),
                         wanted.harness.wires[i].length.value());
}

} // namespace
} // namespace conductus::app
