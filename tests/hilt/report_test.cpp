// SPDX-License-Identifier: GPL-3.0-or-later
// Socket, sound and mass against closed forms.
#include "core/hilt/report.h"

#include <cmath>
#include <numbers>

#include "core/job/lookup.h"
#include "support/fixtures.h"

namespace conductus::hilt {
namespace {

using namespace test;
constexpr double pi = std::numbers::pi;

job::Job tube(double length, double bore, double outer) {
    job::Job job;
    job.name = "tube";
    job.hilt.sections = {
        {"tube", Millimetre(0), Millimetre(length), Millimetre(bore), Millimetre(outer)}};
    return job;
}

Report report_of(const job::Job& job) { return report_on(job, parts(), fit(job, parts())); }

TEST(Mass, OfABareTubeIsItsVolume) {
    job::Job job = tube(200, 28, 35);
    const Masses m = report_of(job).mass;
    EXPECT_NEAR(m.all.mass.value(), pi / 4 * (35 * 35 - 28 * 28) * 200 * 2.7e-3, 1e-9);
    EXPECT_NEAR(m.all.at.value(), 100, 1e-9);
    job.hilt.material = job::Material::brass;
    EXPECT_NEAR(report_of(job).mass.all.mass / m.all.mass, 8.5 / 2.7, 1e-9);
}

TEST(Mass, OfAConeIsAThirdAndThreeQuartersAlong) {
    // A wall from nothing: outer 0 to 40 round a thread of a bore.
    job::Job job = tube(90, 1e-6, 1e-3);
    job.hilt.sections[0].outer_end = Millimetre(40);
    const Masses m = report_of(job).mass;
    EXPECT_NEAR(m.all.mass.value(), pi * 400 * 90 / 3 * 2.7e-3, 0.1);
    EXPECT_NEAR(m.all.at.value(), 67.5, 0.01);
}

TEST(Mass, BladeAndCellTakeTheirShare) {
    const job::Job heron = demo("heron");
    const Masses m = report_of(heron).mass;
    EXPECT_NEAR((m.all.mass - m.without_blade.mass).value(), m.blades.value(), 1e-9);
    // 47 g and 2 g of protection.
    EXPECT_NEAR((m.all.mass - m.without_cell.mass).value(), 49, 1e-9);
    EXPECT_GT(m.all.at, m.without_blade.at) << "the blade pulls it forward";
    EXPECT_GT(m.without_cell.at, m.all.at) << "the cell sits behind";
    const double moment =
        m.without_cell.mass.value() * m.without_cell.at.value() + 49 * (22 + 68.2 / 2);
    EXPECT_NEAR(m.all.at.value(), moment / m.all.mass.value(), 1e-6);
}

job::Job with_speaker() {
    job::Job job = tube(100, 30, 34);
    job.parts.push_back(
        {"SP1", "speaker.28-4ohm", Millimetre(10), Millimetre(0), {}, job::CellTop::flat, {}});
    return job;
}

TEST(Sound, CavityIsTheBoreBehindTheCone) {
    job::Job job = with_speaker();
    SoundSpace s = *report_of(job).sound;
    EXPECT_TRUE(s.faces_pommel);
    EXPECT_NEAR(s.cavity_ml, pi / 4 * 900 * (100 - 15.5) / 1000, 1e-9);
    EXPECT_FALSE(s.resonance_hz);
    EXPECT_FALSE(s.cone_room) << "its end is open";
    // A kill of 6 × 6 × 12 takes its room out of it.
    job.parts.push_back(
        {"K1", "kill.slide-5a", Millimetre(50), Millimetre(0), {}, job::CellTop::flat, {}});
    EXPECT_NEAR(report_of(job).sound->cavity_ml, s.cavity_ml - 0.432, 1e-9);
    // A disc behind it closes the bore.
    job.parts.push_back(
        {"SPC1", "spacer.28", Millimetre(30), Millimetre(0), {}, job::CellTop::flat, {}});
    const SoundSpace closed = *report_of(job).sound;
    EXPECT_TRUE(closed.sealed);
    EXPECT_EQ(closed.closed_by, "SPC1");
    EXPECT_NEAR(closed.cavity_ml, pi / 4 * 900 * 14.5 / 1000, 1e-9);
    EXPECT_NEAR(closed.without_spacer_ml, s.cavity_ml - 0.432, 1e-9);
}

TEST(Sound, HelmholtzByHand) {
    job::Job job = with_speaker();
    job.hilt.openings = {{"vent", job::OpeningUse::vent, Millimetre(60), Degree(0), Millimetre(6),
                          Millimetre(6), ""}};
    const SoundSpace s = *report_of(job).sound;
    const double area = pi * 9, volume = s.cavity_ml * 1000;
    EXPECT_NEAR(s.vents_mm2, area, 1e-9);
    EXPECT_NEAR(*s.resonance_hz, 343e3 / (2 * pi) * std::sqrt(area / (volume * (2 + 1.7 * 3))),
                1e-6);
    // A slot with round ends.
    EXPECT_NEAR(
        area_mm2({"slot", job::OpeningUse::vent, {}, {}, Millimetre(14), Millimetre(4), ""}),
        pi * 4 + 40, 1e-9);
    // Two vents let it ring √2 as high.
    job.hilt.openings.push_back(job.hilt.openings[0]);
    job.hilt.openings[1].name = "other";
    EXPECT_NEAR(*report_of(job).sound->resonance_hz / *s.resonance_hz, std::sqrt(2.0), 1e-9);
}

job::Job with_blade(std::vector<job::SocketBore> bores) {
    job::Job job = tube(200, 30, 34);
    job.blades.push_back({"BL1", Millimetre(800), Millimetre(25.4), "", {}});
    job.hilt.socket = {Millimetre(25.4), std::move(bores)};
    return job;
}

TEST(Socket, AStepStopsTheBlade) {
    job::Job job =
        with_blade({{Millimetre(30), Millimetre(25.7)}, {Millimetre(54), Millimetre(25.3)}});
    const SocketFit s = *report_of(job).socket;
    EXPECT_EQ(s.seats, Millimetre(30));
    EXPECT_EQ(s.depth, Millimetre(54));
    EXPECT_NEAR(s.mend.value(), 25.5 - 25.3, 1e-9);
    EXPECT_EQ(s.holds, Hold::show) << "1.18 diameters";
    job.hilt.socket.bores[1].bore += s.mend;
    const SocketFit mended = *report_of(job).socket;
    EXPECT_EQ(mended.seats, Millimetre(54));
    EXPECT_EQ(mended.mend, Millimetre(0));
    EXPECT_EQ(mended.holds, Hold::swing) << "2.13 diameters";
}

TEST(Socket, LeanIsPlayOverLength) {
    const SocketFit s = *report_of(with_blade({{Millimetre(70), Millimetre(25.8)}})).socket;
    EXPECT_NEAR(s.tilt, std::atan2(0.4, 70) * 180 / pi, 1e-9);
    EXPECT_NEAR(s.tip.value(), 2 * 730 * std::sin(std::atan2(0.4, 70)), 1e-9);
    EXPECT_EQ(s.holds, Hold::bout) << "2.76 diameters, 0.33°";
    EXPECT_EQ(report_of(with_blade({{Millimetre(70), Millimetre(26.8)}})).socket->holds, Hold::show)
        << "it leans 1.1°";
    EXPECT_EQ(report_of(with_blade({{Millimetre(20), Millimetre(25.6)}})).socket->holds,
              Hold::nothing);
    EXPECT_EQ(report_of(with_blade({{Millimetre(50), Millimetre(25.3)}})).socket->seats,
              Millimetre(0));
}

TEST(Socket, OpeningItOrDeepeningItNeverSeatsLess) {
    std::mt19937 random(70);
    std::uniform_real_distribution<> depth(5, 30), bore(24.5, 27);
    for (int round = 0; round < rounds(300); ++round) {
        std::vector<job::SocketBore> bores;
        double at = 0;
        for (int i = 0; i < 3; ++i)
            bores.push_back({Millimetre(at += depth(random)), Millimetre(bore(random))});
        const auto before = report_of(with_blade(bores)).socket->seats;
        bores[random() % 3].bore += Millimetre(0.5);
        EXPECT_GE(report_of(with_blade(bores)).socket->seats, before);
    }
}

/// A blade along and one across, each in a socket of its own.
job::Job with_side_blade(Millimetre depth, Millimetre bore) {
    job::Job job = with_blade({{Millimetre(70), Millimetre(25.8)}});
    job.blades[0].connector = "P1";
    job::Blade side{"BL2", Millimetre(200), Millimetre(19), "P2", {}};
    side.stands_at = Millimetre(150);
    side.angle = Degree(90);
    job.blades.push_back(side);
    for (const auto& [ref, at] : {std::pair{"P1", 110.0}, {"P2", 90.0}})
        job.parts.push_back(
            {ref, "connector.pins-5", Millimetre(at), Millimetre(0), {}, job::CellTop::flat, {}});
    if (depth > Millimetre(0)) job.hilt.side_bores = {{"P2", depth, bore}};
    return job;
}

TEST(Socket, ASideSocketIsJudgedByItsOwnBores) {
    EXPECT_EQ(report_of(with_side_blade({}, {})).sockets.size(), 1u) << "nobody measured it";
    const auto both = report_of(with_side_blade(Millimetre(38), Millimetre(19.2))).sockets;
    ASSERT_EQ(both.size(), 2u);
    EXPECT_EQ(both[0].blade, "BL1");
    EXPECT_EQ(both[0].seats, Millimetre(70)) << "as if the other were not there";
    EXPECT_EQ(both[1].blade, "BL2");
    EXPECT_EQ(both[1].socket, "P2");
    EXPECT_EQ(both[1].seats, Millimetre(38));
    EXPECT_NEAR(both[1].tilt, std::atan2(0.2, 38) * 180 / pi, 1e-9);
    EXPECT_EQ(both[1].holds, Hold::swing) << "2.0 diameters";
    EXPECT_EQ(report_of(with_side_blade(Millimetre(38), Millimetre(18))).sockets[1].seats,
              Millimetre(0));
}

TEST(Socket, EveryScrewHoldsWhatIsInItsOwnSocket) {
    job::Job job = with_side_blade(Millimetre(38), Millimetre(19.2));
    job::Fastener screw;
    screw.name = "M4 at the mouth", screw.at = Millimetre(180), screw.holds = "blade";
    job.hilt.fasteners = {screw};
    auto fits = report_of(job).sockets;
    EXPECT_TRUE(fits[0].screwed);
    EXPECT_FALSE(fits[1].screwed);
    EXPECT_EQ(fits[1].holds, Hold::show) << "swings want a screw";
    screw.name = "M3 at the side", screw.at = Millimetre(150), screw.socket = "P2";
    job.hilt.fasteners.push_back(screw);
    fits = report_of(job).sockets;
    EXPECT_TRUE(fits[1].screwed);
    EXPECT_EQ(fits[1].holds, Hold::swing);
    job.hilt.fasteners.erase(job.hilt.fasteners.begin());
    fits = report_of(job).sockets;
    EXPECT_FALSE(fits[0].screwed) << "the one at the side holds the side's";
    EXPECT_TRUE(fits[1].screwed);
}

TEST(Mass, ASideBladeWeighsWhereItStands) {
    job::Job job = with_side_blade(Millimetre(38), Millimetre(19.2));
    const auto blades_at = [](const job::Job& of) {
        const Masses m = report_of(of).mass;
        return (m.all.mass.value() * m.all.at.value() -
                m.without_blade.mass.value() * m.without_blade.at.value()) /
               m.blades.value();
    };
    std::swap(job.blades[0], job.blades[1]);
    job.blades.pop_back();
    EXPECT_NEAR(blades_at(job), 150, 1e-6) << "across: at its place";
    job.blades[0].angle = Degree(60);
    // The wall, 17 mm, is passed at sin 60°; the middle of 200 mm is cos 60° of the way along.
    EXPECT_NEAR(blades_at(job), 150 + 0.5 * (17 / std::sin(pi / 3) - 38 + 100), 1e-6);
}

TEST(Docking, ContactsMeetSoMuchBeforeHome) {
    job::Job job = demo("heron");
    survey_plainly(job);
    job.hilt.joints = {{"cap", Millimetre(232), job::JointKind::thread, job::Hand::right,
                        Millimetre(1.5), Millimetre(9)}};
    const Report s = report_of(job);
    ASSERT_EQ(s.docking.turns.size(), 1u);
    EXPECT_NEAR(s.docking.turns[0].turns, 6, 1e-12);
    EXPECT_NEAR(s.docking.turns[0].meets_at, 5, 1e-12) << "1.5 mm of travel is one turn";
}

TEST(Docking, OnlyARingBetweenWiderBoresLetsItLean) {
    job::Job job = demo("dunlin");
    survey_plainly(job);
    job.hilt.chassis = job::Chassis::removable;
    job.hilt.sections = {{"tail", Millimetre(0), Millimetre(30), Millimetre(26), Millimetre(32)},
                         {"ring", Millimetre(30), Millimetre(40), Millimetre(22), Millimetre(32)},
                         {"body", Millimetre(40), Millimetre(165), Millimetre(26), Millimetre(32)}};
    const Report s = report_of(job);
    ASSERT_EQ(s.docking.leans.size(), 1u);
    EXPECT_EQ(s.docking.leans[0].ring, "ring");
    // Play 22 − 20.7 over 10 mm, 62 mm beyond it; no more than the bore lets its end go.
    EXPECT_NEAR(s.docking.leans[0].aside.value(), (26 - 20.7) / 2, 1e-9);
    job.hilt.sections[2].bore = Millimetre(22);
    EXPECT_TRUE(report_of(job).docking.leans.empty());
}

} // namespace
} // namespace conductus::hilt
