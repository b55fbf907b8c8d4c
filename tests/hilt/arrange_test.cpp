// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/hilt/arrange.h"

#include <algorithm>
#include <cmath>

#include "core/job/lookup.h"
#include "core/job/validate.h"
#include "support/fixtures.h"

namespace conductus::hilt {
namespace {

using namespace test;

/// A small hilt in whole millimetres, with parts that need whole millimetres of length.
struct Small {
    job::Job job;
    std::vector<int> length;
    std::vector<double> need;
};

Small small_case(std::mt19937& random) {
    auto whole = [&](int a, int b) { return std::uniform_int_distribution<>(a, b)(random); };
    Small s;
    s.job.name = "small";
    int at = 0;
    for (int i = whole(1, 4); i > 0; --i) {
        const int to = at + whole(6, 40);
        const int bore = whole(17, 26);
        s.job.hilt.sections.push_back({"s" + std::to_string(i), Millimetre(at), Millimetre(to),
                                       Millimetre(bore), Millimetre(bore + 6)});
        at = to;
    }
    s.job.hilt.opens = whole(0, 1) ? job::End::pommel : job::End::emitter;
    s.job.hilt.chassis_wall = Millimetre(0.5);
    const char* types[] = {"cell.18350", "board.small", "kill.slide-5a", "kill.plug-3a"};
    std::vector<const char*> chosen(types, types + 4);
    std::shuffle(chosen.begin(), chosen.end(), random);
    for (int i = 0; i < 3; ++i) {
        job::Part p;
        p.ref = "X" + std::to_string(i);
        p.type = chosen[static_cast<std::size_t>(i)];
        p.at = Millimetre(40 * i);
        s.job.parts.push_back(p);
        const auto& body = parts().find(p.type)->body;
        s.length.push_back(static_cast<int>(body.length.value()));
        const bool round = body.shape == catalogue::Body::Shape::cylinder;
        s.need.push_back(
            (round ? body.diameter.value() : std::hypot(body.width.value(), body.height.value())) +
            1);
    }
    return s;
}

double least_bore(const job::Hilt& hilt, int from, int to) {
    double least = INFINITY;
    for (const job::BoreSection& s : hilt.sections)
        if (s.from.value() < to && s.to.value() > from) least = std::min(least, s.bore.value());
    return least;
}

/// Every whole millimetre for every part: what lies there, gets there, and is in no other's way.
bool exhaustively(const Small& s) {
    const int end = static_cast<int>(s.job.hilt.sections.back().to.value());
    const bool left = s.job.hilt.opens == job::End::pommel;
    std::vector<std::vector<int>> starts(s.length.size());
    for (std::size_t i = 0; i < s.length.size(); ++i)
        for (int at = 0; at + s.length[i] <= end; ++at) {
            const int to = at + s.length[i];
            const double way =
                left ? least_bore(s.job.hilt, 0, at) : least_bore(s.job.hilt, to, end);
            if (least_bore(s.job.hilt, at, to) >= s.need[i] && way >= s.need[i])
                starts[i].push_back(at);
        }
    for (const int a : starts[0])
        for (const int b : starts[1]) {
            if (a < b + s.length[1] && b < a + s.length[0]) continue;
            for (const int c : starts[2])
                if (!(a < c + s.length[2] && c < a + s.length[0]) &&
                    !(b < c + s.length[2] && c < b + s.length[1]))
                    return true;
        }
    return false;
}

/// The job without other cells to try: the cell is called something else.
bool goes_in_some_order(const Small& s, Arranged& found) {
    found = arrange(s.job, parts());
    const auto cell = job::first_of<catalogue::Cell>(s.job, parts());
    if (!cell) return !found.best.empty();
    return std::any_of(found.best.begin(), found.best.end(),
                       [&](const Arrangement& a) { return a.cell == cell.part->type; });
}

TEST(Arrange, NeverMissesWhatATryOfEveryPlaceFinds) {
    std::mt19937 random(50);
    int feasible = 0, none = 0;
    for (int round = 0; round < 300; ++round) {
        Small s = small_case(random);
        // Larger cells come first and there may be many; take what is not asked for out.
        const bool expected = exhaustively(s);
        Arranged found;
        const bool got = goes_in_some_order(s, found);
        if (found.best.size() == 6 && !got) continue; // crowded out by larger cells
        EXPECT_EQ(got, expected) << "round " << round;
        ++(expected ? feasible : none);
        for (const Arrangement& a : found.best) {
            const Fit f = fit(arranged(s.job, a), parts());
            for (const Clearance& c : f.clearances)
                EXPECT_GE(c.spare.value(), -1e-6) << c.ref << " against " << c.against;
            for (const Passing& p : f.passes)
                EXPECT_TRUE(p.ok);
        }
    }
    EXPECT_GT(feasible, 50);
    EXPECT_GT(none, 30);
}

TEST(Arrange, KeepsWhatStandsAndPutsTheLargestCellFirst) {
    const job::Job heron = demo("heron");
    const Arranged found = arrange(heron, parts());
    ASSERT_FALSE(found.best.empty());
    EXPECT_LE(found.best.size(), 6u);
    double before = INFINITY;
    for (const Arrangement& a : found.best) {
        const double capacity = parts().find_as<catalogue::Cell>(a.cell)->capacity.value();
        EXPECT_LE(capacity, before);
        before = capacity;
        for (const ArrangedPart& p : a.parts) {
            const bool stays = p.ref == "P1" || p.ref == "K1";
            EXPECT_TRUE(!stays || p.at == job::find_ref(heron.parts, p.ref)->at)
                << "a connector and what is behind an opening stay";
        }
        EXPECT_EQ(a.parts.front().ref, "SP1") << "the speaker keeps its end";
        const job::Job there = arranged(heron, a);
        EXPECT_TRUE(job::validate(there, parts()));
        EXPECT_NEAR(fit(there, parts()).tightest()->spare.value(), a.clearance.value(), 1e-9);
    }
}

TEST(Arrange, FindsTheOrderThatTakesALongerCell) {
    // As it stands Dunlin takes the 18350 alone; with the parts closed up a longer one goes in.
    const job::Job dunlin = demo("dunlin");
    const Arranged found = arrange(dunlin, parts());
    ASSERT_FALSE(found.best.empty());
    EXPECT_EQ(found.best.front().cell, "cell.18500");
    EXPECT_TRUE(std::any_of(found.best.begin(), found.best.end(),
                            [](const Arrangement& a) { return a.as_it_is; }));
}

TEST(Arrange, SaysTheSmallestChangeWhereNothingGoesIn) {
    job::Job dunlin = demo("dunlin");
    // A ring no cell passes: 18.3 and 14.3 with their walls want 20.7 and 16.7.
    job::find_name(dunlin.hilt.sections, "ring")->bore = Millimetre(16);
    const Arranged found = arrange(dunlin, parts());
    EXPECT_TRUE(found.best.empty());
    ASSERT_FALSE(found.remedies.empty());
    const auto it = std::find_if(found.remedies.begin(), found.remedies.end(), [](const Remedy& r) {
        return r.text.english().starts_with("bore ring");
    });
    ASSERT_NE(it, found.remedies.end());
    // As the job has it, with its 18350 and the board of 16 × 5.5.
    EXPECT_NEAR(it->by.value(), 18.3 + 2.4 - 16, 0.11);
    EXPECT_EQ(it->at, Millimetre(8));
    for (const Remedy& r : found.remedies)
        EXPECT_GE(r.by, found.remedies.front().by);
    // The remedy is one.
    job::find_name(dunlin.hilt.sections, "ring")->bore += it->by;
    EXPECT_FALSE(arrange(dunlin, parts()).best.empty());
}

TEST(Arrange, TooShortAHiltWantsLength) {
    job::Job job = demo("dunlin");
    survey_plainly(job);
    job.parts.erase(
        std::remove_if(job.parts.begin(), job.parts.end(), [](auto& p) { return p.ref == "P1"; }),
        job.parts.end());
    job.blades.clear();
    job.wires.clear();
    job.hilt.sections = {{"tube", Millimetre(0), Millimetre(60), Millimetre(24), Millimetre(30)}};
    const Arranged found = arrange(job, parts());
    EXPECT_TRUE(found.best.empty());
    ASSERT_FALSE(found.remedies.empty());
    double length = 3; // of the protection
    for (const job::Part& p : job.parts) {
        const auto* type = parts().find(p.type);
        if (!std::holds_alternative<catalogue::Button>(type->figures))
            length += type->body.length.value();
    }
    EXPECT_NEAR(found.remedies.front().by.value(), length - 60, 0.11);
}

} // namespace
} // namespace conductus::hilt
