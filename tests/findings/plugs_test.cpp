// SPDX-License-Identifier: GPL-3.0-or-later
// Plugs, boards, tubes, colours: planted mistakes, their fixes, and what is no mistake.
#include "core/hilt/tube.h"
#include "core/job/lookup.h"
#include "core/job/presets.h"
#include "core/plan/analyse.h"
#include "core/plan/fixes.h"
#include "core/plan/owner_page.h"
#include "support/planted.h"

namespace conductus::findings {
namespace {

using namespace test;
using job::Job;

/// A job and the mistake in it: named with its severity, mended by its fix where it has one.
void expect_named(const Job& job, const std::string& id, Severity severity, bool fix,
                  const std::string& about = {}) {
    ASSERT_TRUE(job::validate(job, parts())) << job::validate(job, parts()).error().text();
    plan::Plan plan = plan_of(job);
    const Finding* f = find(plan, id);
    ASSERT_TRUE(f) << id;
    EXPECT_EQ(f->severity, severity) << id;
    EXPECT_FALSE(f->evidence.empty()) << id;
    if (!about.empty()) {
        EXPECT_EQ(f->where.front(), about);
    }
    EXPECT_EQ(f->fix.has_value(), fix) << id;
    if (!f->fix) return;
    Job mended = job;
    ASSERT_TRUE(f->fix->edit(mended));
    EXPECT_EQ(find(plan_of(mended), id), nullptr) << f->fix->text.english();
}

Job plugged() {
    Job job = demo("curlew");
    job.plugs = {{"PG1", job::PlugUse::kill, "J1", Millimetre(5.5), Millimetre(9.5)}};
    return job;
}

TEST(Plugs, AKillThatDoesNotFitOrDoesNotReachIsAStop) {
    Job job = plugged();
    EXPECT_EQ(find(plan_of(job), "plug.wrong-size"), nullptr);
    job.plugs[0].diameter = Millimetre(5.65); // as far off as is still taken
    EXPECT_EQ(find(plan_of(job), "plug.wrong-size"), nullptr);
    job.plugs[0].diameter = Millimetre(5.7);
    expect_named(job, "plug.wrong-size", Severity::stop, true, "PG1");
    job.plugs[0].diameter = Millimetre(5.5);
    job.plugs[0].length = Millimetre(7.9); // J1 opens at 8
    expect_named(job, "plug.too-short", Severity::stop, true, "PG1");
    job.plugs[0].length = Millimetre(8);
    EXPECT_EQ(find(plan_of(job), "plug.too-short"), nullptr);
}

TEST(Plugs, AKillIsProvedWithTwoReadings) {
    Job job = plugged();
    job.stage = job::Stage::wiring;
    expect_named(job, "plug.not-proved", Severity::note, false);
    job.stage = job::Stage::bench;
    expect_named(job, "plug.not-proved", Severity::warn, false);
    job.plugs[0].volts_out = Volt(4.02), job.plugs[0].volts_in = Volt(0.01);
    EXPECT_NE(find(plan_of(job), "plug.not-proved"), nullptr) << "no date yet";
    job.plugs[0].proved_on = "2027-02-02";
    EXPECT_EQ(find(plan_of(job), "plug.not-proved"), nullptr);
    job.plugs[0].volts_in = Volt(4.01);
    expect_named(job, "plug.proved-wrong", Severity::stop, false);
    // A reading without a cell in proves nothing.
    job.plugs[0].volts_out = Volt(0), job.plugs[0].volts_in = Volt(0);
    EXPECT_NE(find(plan_of(job), "plug.not-proved"), nullptr);
}

TEST(Plugs, WhatFitsTheWrongJackIsToldUnlessItIsMarked) {
    Job job = plugged();
    job::Part port;
    port.ref = "J2", port.type = "port.charge-2p1", port.at = Millimetre(20);
    job.parts.push_back(port);
    // The kill plug goes into a jack that kills nothing.
    expect_named(job, "plug.wrong-jack", Severity::warn, true, "PG1");
    job.plugs[0].mark = "red ring";
    EXPECT_EQ(find(plan_of(job), "plug.wrong-jack"), nullptr);
    // A configuration jack of another size takes neither.
    job.plugs[0].mark.clear();
    job::find_ref(job.parts, "J2")->type = "port.configure-3p5";
    EXPECT_EQ(find(plan_of(job), "plug.wrong-jack"), nullptr);
    job.plugs.push_back({"PG2", job::PlugUse::configure, "J2", Millimetre(5.5), Millimetre(9)});
    const plan::Plan plan = plan_of(job);
    EXPECT_EQ(find(plan, "plug.wrong-size")->where.front(), "PG2");
    EXPECT_EQ(find(plan, "plug.wrong-jack")->where.front(), "PG2") << "it is on the cell there";
}

TEST(Plugs, ABlankThatLooksLikeTheKillIsTold) {
    Job job = plugged();
    job.plugs.push_back({"PG2", job::PlugUse::blank, "", Millimetre(5.5), Millimetre(4)});
    expect_named(job, "plug.look-alike", Severity::warn, true, "PG2");
    job.plugs[0].mark = "red";
    EXPECT_EQ(find(plan_of(job), "plug.look-alike"), nullptr);
    // The charger's own plug opens the jack as well: no harm in that.
    job.plugs[0].mark.clear();
    job.plugs[1].use = job::PlugUse::charge;
    EXPECT_EQ(find(plan_of(job), "plug.look-alike"), nullptr);
}

TEST(Plugs, TheOwnersPageSaysThem) {
    Job job = plugged();
    job.plugs[0].mark = "red ring";
    const std::string page = plan::owner_text(plan::owner_page(plan_of(job)));
    EXPECT_NE(page.find("[ ] PG1 – kill plug for J1, red ring, not proved yet"), std::string::npos)
        << page;
}

TEST(Boards, WhatTheyCanNotIsTold) {
    Job job = clean_job();
    job::fit_strips("strip.rgbw-144-wide")(job);
    EXPECT_EQ(find(plan_of(job), "board.pixel-kind"), nullptr);
    job::fit_type("U1", "board.small")(job);
    for (job::Wire& w : job.wires)
        for (std::string* end : {&w.from, &w.to})
            if (*end == "U1.l3" || *end == "U1.l4") *end = "U1.l1";
    const plan::Plan plan = plan_of(job);
    const Finding* f = find(plan, "board.pixel-kind");
    ASSERT_TRUE(f);
    EXPECT_EQ(f->where, (std::vector<std::string>{"ST1", "ST2", "U1"}));
    // Forty presets are held, one more is not; names as long as the board reads them.
    job = clean_job();
    for (int i = 0; i < 40; ++i)
        job.presets.push_back({"preset " + std::to_string(i), "tide", job.looks[0].name});
    EXPECT_EQ(find(plan_of(job), "board.too-many-presets"), nullptr);
    job.presets.push_back({"one more", "tide", job.looks[0].name});
    expect_named(job, "board.too-many-presets", Severity::warn, false, "U1");
    job.presets.resize(1);
    job.presets[0].font = std::string(32, 'a');
    EXPECT_EQ(find(plan_of(job), "board.name-too-long"), nullptr);
    job.presets[0].tracks = {{std::string(33, 'b')}};
    expect_named(job, "board.name-too-long", Severity::warn, false, std::string(33, 'b'));
}

TEST(Boards, AColourOrderThatIsNotDrivenIsTold) {
    auto other = std::make_shared<catalogue::Catalogue>();
    for (const std::string& id : parts().ids()) {
        catalogue::PartType type = *parts().find(id);
        if (auto* p = std::get_if<catalogue::Pixel>(&type.figures); p && id == "pixel.rgb-5050")
            p->order = catalogue::ColourOrder::red_first;
        if (auto* b = std::get_if<catalogue::Board>(&type.figures); b && id == "board.standard")
            b->orders = {{catalogue::ColourOrder::green_first}};
        ASSERT_TRUE(other->add(std::move(type)));
    }
    const plan::Plan plan = plan::analyse(std::make_shared<const Job>(clean_job()), other);
    const Finding* f = find(plan, "board.colour-order");
    ASSERT_TRUE(f);
    EXPECT_EQ(f->where.front(), "ST1");
    EXPECT_EQ(find(plan_of(clean_job()), "board.colour-order"), nullptr);
}

TEST(Boards, FeelTheBladeAsWiredAndAsSet) {
    Job job = clean_job();
    job.config.blade_out = job::BladeOut::stays_dark;
    job.config.sense_pad = "U1.s2";
    expect_named(job, "sense.board-can-not", Severity::warn, false, "U1");
    job::fit_type("U1", "board.large")(job);
    expect_named(job, "sense.not-wired", Severity::warn, false, "U1");
    job::fit_type("P1", "connector.pins-5-sense")(job);
    job.wires.push_back({"WS", "U1.s2", "P1.sense", job::Role::button, 28});
    EXPECT_EQ(find(plan_of(job), "sense.not-wired"), nullptr);
    EXPECT_EQ(find(plan_of(job), "harness.wrong-role"), nullptr);
    job.config.blade_out = {};
    job.config.sense_pad.clear();
    expect_named(job, "sense.not-set", Severity::note, true, "U1");
}

TEST(Boards, ButtonsInParallelAreNamedTogether) {
    Job job = clean_job();
    job::Part second = *job::find_ref(job.parts, "S1");
    second.ref = "S2", second.at = second.at + Millimetre(20);
    job.parts.push_back(second);
    job.wires.push_back({"X1", "U1.s1", "S2.a", job::Role::button, 28, Millimetre(40), {}});
    job.wires.push_back({"X2", "U1.gnd", "S2.b", job::Role::button, 28, Millimetre(40), {}});
    job.config = {1, {{"U1.s1", "main"}}};
    job.brief.wishes.push_back({"S1 and S2 do the same, for either hand"});
    const plan::Plan plan = plan_of(job);
    ASSERT_EQ(plan.harness.data.buttons.size(), 1u);
    EXPECT_EQ(plan.harness.data.buttons[0].named(), "S1 and S2 in parallel");
    EXPECT_EQ(find(plan, "button.shared-pad"), nullptr) << "it is wished for";
    EXPECT_EQ(find(plan, "config.button-mode"), nullptr);
}

TEST(Tubes, TakeWhatTheirBoreLeaves) {
    Job job = clean_job();
    job::Blade& blade = job.blades[0];
    // Two strips of 12 × 2.2 mm back to back: √(12² + 4.4²) = 12.78 mm across.
    blade.tube.bore = Millimetre(20);
    const auto left = hilt::room_in_tube(blade, parts());
    ASSERT_TRUE(left);
    EXPECT_NEAR(left->needs.value(), std::hypot(12, 4.4), 1e-9);
    EXPECT_EQ(find(plan_of(job), "tube.too-narrow"), nullptr);
    blade.tube.diffuser = job::Diffuser::foam;
    blade.tube.diffuser_thick = Millimetre(3.75); // leaves 12.5
    expect_named(job, "tube.too-narrow", Severity::warn, true);
    blade.tube = {};
    blade.tube.bore = Millimetre(26);
    expect_named(job, "tube.no-wall", Severity::warn, false, blade.ref);
    blade.tube = {};
    blade.tube.dark = Millimetre(40);
    expect_named(job, "strip.past-tip", Severity::warn, false);
    // A prism of three: its corners and the pixels on its sides.
    job.blades[0].tube.bore = Millimetre(30);
    job.blades[0].strips.push_back(job.blades[0].strips[0]);
    job.blades[0].strips.back().ref = "ST3";
    EXPECT_NEAR(hilt::room_in_tube(job.blades[0], parts())->needs.value(),
                2 * std::hypot(6, 6 / std::tan(std::acos(-1.0) / 3) + 2.2), 1e-9);
}

TEST(Tubes, SealedOnesAreForShow) {
    Job job = clean_job();
    job.blades[0].tube.closing = job::Closing::sealed;
    job.brief.occasion = job::Occasion::shelf;
    EXPECT_EQ(find(plan_of(job), "tube.sealed"), nullptr);
    job.brief.occasion = job::Occasion::stage;
    EXPECT_EQ(find(plan_of(job), "tube.sealed")->severity, Severity::note);
    job.brief.occasion = job::Occasion::bout;
    EXPECT_EQ(find(plan_of(job), "tube.sealed")->severity, Severity::warn);
    job.blades[0].tube.closing = job::Closing::vented;
    EXPECT_EQ(find(plan_of(job), "tube.sealed"), nullptr);
    // Warmer by 25 K and pressed flat by a third over 100 of 813 mm, by hand.
    job::Blade blade;
    blade.length = Millimetre(813);
    const double lost = 1.5 / 9 * 100 / 813;
    EXPECT_NEAR(hilt::pressure_when_struck(blade),
                101.3 * ((1 + 25.0 / 293) * std::pow(1 - lost, -1.4) - 1), 1e-9);
}

TEST(Tubes, LightSeenIsAsMeasuredOrAsUsual) {
    job::Tube tube;
    EXPECT_NEAR(hilt::light_passed(tube), 0.92, 1e-12);
    tube.tint = job::Tint::white, tube.diffuser = job::Diffuser::foam;
    EXPECT_NEAR(hilt::light_passed(tube), 0.50 * 0.70, 1e-12);
    tube.passes = 0.41;
    EXPECT_EQ(hilt::light_passed(tube), 0.41);
}

TEST(Tubes, PixelsFoldedOverAtTheTipTakeNoLengthOfTheTube) {
    Job job = clean_job();
    job::Blade& blade = job.blades[0];
    const job::Strip& strip = blade.strips[0];
    const double pitch = strip.length.value() / strip.pixels;
    // It begins two pixels from the foot, and would stand out by as much.
    blade.tube.dark = blade.length - strip.length + Millimetre(2 * pitch);
    EXPECT_NE(find(plan_of(job), "strip.past-tip"), nullptr);
    blade.tube.tip_pixels = 2;
    EXPECT_EQ(find(plan_of(job), "strip.past-tip"), nullptr);
    EXPECT_NEAR(hilt::length_along(blade.tube, strip).value(), strip.length.value() - 2 * pitch,
                1e-9);
    blade.tube.tip_pixels = strip.pixels + 5;
    EXPECT_EQ(hilt::length_along(blade.tube, strip), Millimetre(0));
}

TEST(Tubes, ABladeIsPaintedThroughItsOwnTube) {
    Job job = demo("bittern");
    const auto foot_of = [](const Job& j, std::size_t blade) {
        return plan_of(j).looks.front().views[plan::full].blades.at(blade).paint.front();
    };
    const auto first = foot_of(job, 0), side = foot_of(job, 1);
    job.blades[1].tube.passes = 0.2;
    EXPECT_LT(foot_of(job, 1).r, side.r);
    EXPECT_EQ(foot_of(job, 0).r, first.r);
    const double dim = foot_of(job, 1).r;
    job.blades[0].tube.passes = 0.3; // all are painted against the first
    EXPECT_EQ(foot_of(job, 0).r, first.r);
    EXPECT_GT(foot_of(job, 1).r, dim);
}

TEST(Tubes, AThinnedFootGoesWhereTheTubeDoesNot) {
    Job job = clean_job();
    job.hilt.socket.nominal = Millimetre(25.4);
    job.hilt.socket.bores = {{Millimetre(20), Millimetre(25.7)}, {Millimetre(50), Millimetre(24)}};
    EXPECT_NE(find(plan_of(job), "socket.does-not-seat"), nullptr);
    job.blades[0].tube.foot = Millimetre(23.8);
    EXPECT_EQ(find(plan_of(job), "socket.does-not-seat"), nullptr);
    job.blades[0].tube.foot_length = Millimetre(30); // not as deep as the socket
    EXPECT_NE(find(plan_of(job), "socket.does-not-seat"), nullptr);
}

TEST(Looks, TooNearMisleadingAndMissingColoursAreTold) {
    Job job = clean_job();
    job.looks.resize(2);
    job.uses.clear();
    job.looks[0] = {"Ember", {1, 0.10, 0, 0}, job::Style::steady, 0.4};
    job.looks[1] = {"Coal", {1, 0.11, 0, 0}, job::Style::steady, 0.4};
    job.use.look = "Ember";
    plan::Plan plan = plan_of(job);
    const Finding* f = find(plan, "look.too-near");
    ASSERT_TRUE(f);
    EXPECT_EQ(f->where, (std::vector<std::string>{"Coal", "Ember"}));
    EXPECT_LT(f->evidence[0].value, 0.02);
    job.looks[1].style = job::Style::pulse;
    EXPECT_EQ(find(plan_of(job), "look.too-near"), nullptr) << "told apart by how they move";
    job.looks[1] = {"Reed", {0, 1, 0, 0}, job::Style::steady, 0.4};
    EXPECT_EQ(find(plan_of(job), "look.too-near"), nullptr);
    job.looks[1].name = "Violet";
    expect_named(job, "look.name-misleads", Severity::warn, false, "Violet");
    job.looks[1].name = "Lime";
    EXPECT_EQ(find(plan_of(job), "look.name-misleads"), nullptr);
    job.brief.wishes = {{"A violet for the finale"}};
    expect_named(job, "look.colour-missing", Severity::note, false);
    job.brief.wishes[0].done = true;
    EXPECT_EQ(find(plan_of(job), "look.colour-missing"), nullptr);
    // A wish that is shown by a colour is fulfilled once a look is seen in it.
    job.brief.wishes = {{"A violet for the finale", job::Proof::colour, "violet"}};
    EXPECT_FALSE(plan_of(job).brief.wishes[0].done);
    job.looks[0].colour = {0.5, 0, 1, 0};
    EXPECT_TRUE(plan_of(job).brief.wishes[0].done);
}

TEST(Keyed, SegmentsHaveContactsOfTheirOwn) {
    Job job = demo("godwit");
    const auto amps = [](const Job& j) {
        const plan::Plan plan = plan_of(j);
        return std::pair{*plan.figure("peak-current")->value, plan};
    };
    const auto [soldered, plan_then] = amps(job);
    job::Part plug;
    plug.ref = "P1", plug.type = "connector.keyed-9", plug.at = Millimetre(188);
    job.parts.push_back(plug);
    job.blades[0].connector = "P1";
    for (job::Wire& w : job.wires)
        for (std::string* end : {&w.from, &w.to})
            if (end->starts_with("BL1.")) *end = "P1." + end->substr(4);
    ASSERT_TRUE(job::validate(job, parts())) << job::validate(job, parts()).error().text();
    const auto [mated, plan_now] = amps(job);
    EXPECT_LT(mated, soldered) << "two contacts in the way of each segment";
    EXPECT_GT(mated, 0.9 * soldered);
    int loaded = 0;
    for (const harness::PinLoad& pin : plan_now.harness.pins)
        loaded += pin.pin.starts_with("seg") && pin.amps > Ampere(0.05);
    EXPECT_EQ(loaded, 6);
    // A bad contact of one segment dims that one alone.
    job::find_ref(job.parts, "P1")->measured.pins = {{"seg3", Ohm(5)}};
    ASSERT_TRUE(job::validate(job, parts()));
    const auto [worn, plan_worn] = amps(job);
    EXPECT_LT(worn, mated);
    const std::string page = plan::owner_text(plan::owner_page(plan_now));
    EXPECT_NE(page.find("straight in until it clicks"), std::string::npos) << page;
    for (const Finding& f : plan_now.findings)
        EXPECT_EQ(f.severity, Severity::note) << f.id << " " << f.text.english();
}

TEST(Keyed, WhatCanBeTurnedIsTold) {
    Job job = demo("godwit");
    catalogue::Catalogue own = parts();
    catalogue::PartType turns = *own.find("connector.keyed-9");
    turns.id = "connector.turns";
    std::get<catalogue::Connector>(turns.figures).keyed = false;
    ASSERT_TRUE(own.add(turns));
    job::Part plug;
    plug.ref = "P1", plug.type = turns.id, plug.at = Millimetre(188);
    job.parts.push_back(plug);
    job.blades[0].connector = "P1";
    for (job::Wire& w : job.wires)
        for (std::string* end : {&w.from, &w.to})
            if (end->starts_with("BL1.")) *end = "P1." + end->substr(4);
    const auto with = std::make_shared<const catalogue::Catalogue>(std::move(own));
    const plan::Plan plan = plan::analyse(std::make_shared<const Job>(job), with);
    const Finding* f = find(plan, "connector.unkeyed");
    ASSERT_TRUE(f);
    ASSERT_TRUE(f->fix) << "a keyed one is in the catalogue";
    f->fix->edit(job);
    EXPECT_EQ(job.parts.back().type, "connector.keyed-9");
    EXPECT_EQ(find(plan_of(job), "connector.unkeyed"), nullptr);
}

TEST(Packs, SayHowTheyAreBalanced) {
    Job job = demo("godwit");
    std::string id;
    for (const auto* type : parts().all<catalogue::Cell>())
        if (std::get<catalogue::Cell>(type->figures).series == 2) id = type->id;
    ASSERT_FALSE(id.empty());
    std::erase_if(job.parts, [](const job::Part& p) { return p.ref == "B2"; });
    job::fit_type("B1", id)(job);
    for (job::Wire& w : job.wires)
        for (std::string* end : {&w.from, &w.to})
            if (end->starts_with("B2.")) *end = "B1." + end->substr(3);
    std::erase_if(job.wires, [](const job::Wire& w) {
        return w.from.starts_with("B1.") && w.to.starts_with("B1.");
    });
    job.charger = "charger.jack-2s-1a";
    expect_named(job, "pack.lead-unused", Severity::warn, false, "B1");
    job.charger = "charger.pack-2s";
    EXPECT_EQ(find(plan_of(job), "pack.lead-unused"), nullptr);
}

} // namespace
} // namespace conductus::findings
