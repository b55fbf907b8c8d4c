// SPDX-License-Identifier: GPL-3.0-or-later
// The conversation with a meter over every kind of bad cable: nothing false is believed.
#include "core/meter/talk.h"

#include <gtest/gtest.h>

#include "core/base/random.h"
#include "core/meter/pretend.h"
#include "support/fixtures.h"

namespace conductus::meter {
namespace {

using job::Reads;

/// A talk and a pretend meter with a cable between them that spoils what it carries.
class Bench {
public:
    explicit Bench(std::uint64_t seed, Dialect dialect = dialects().front())
        : random_(seed), talk(dialect),
          meter(
              dialect,
              [this](Reads what, const Probes&, const Supply&) {
                  return what == Reads::volts ? volts : what == Reads::amps ? 0.25 : ohms;
              },
              seed) {}

    /// Time goes on by 20 ms: what was said is carried, in pieces, late, spoilt or not at all.
    void step() {
        now += 20;
        to_meter_ += talk.take_out();
        for (std::size_t end; (end = to_meter_.find('\n')) != std::string::npos;) {
            const std::string answer = meter.hear(to_meter_.substr(0, end));
            to_meter_.erase(0, end + 1);
            if (!answer.empty() && random_.uniform() >= silent)
                on_the_way_ += carried(answer + "\n");
        }
        if (late > 0 && random_.uniform() < late) return talk.tick(now); // it stays on the way
        const auto some = static_cast<std::size_t>(random_.uniform() *
                                                   static_cast<double>(on_the_way_.size() + 1));
        const std::size_t take = in_pieces ? some : on_the_way_.size();
        talk.received(std::string_view(on_the_way_).substr(0, take), now);
        on_the_way_.erase(0, take);
        talk.tick(now);
        for (const Event& e : talk.take_events())
            events.push_back(e);
    }
    void steps(int n) {
        for (int i = 0; i < n; ++i)
            step();
    }
    int count(Event::Kind kind) const {
        return static_cast<int>(std::count_if(events.begin(), events.end(),
                                              [&](const Event& e) { return e.kind == kind; }));
    }
    void cut() { to_meter_.clear(), on_the_way_.clear(); }

private:
    std::string carried(std::string bytes) {
        if (random_.uniform() >= spoils) return bytes;
        const auto at =
            static_cast<std::size_t>(random_.uniform() * static_cast<double>(bytes.size()));
        switch (random_.next() % 5) {
        case 0:
            bytes.erase(at, 1);
            break;
        case 1:
            bytes[at] = static_cast<char>(random_.next() % 256);
            break;
        case 2:
            bytes.resize(at);
            break;
        case 3:
            bytes += bytes.substr(at);
            break;
        default:
            bytes.insert(at, std::string(random_.next() % 400, 'x'));
        }
        return bytes;
    }
    Random random_;
    std::string to_meter_, on_the_way_;

public:
    Talk talk;
    Pretend meter;
    double volts = 3.712, ohms = 1.5;
    double spoils = 0, silent = 0, late = 0;
    bool in_pieces = false;
    long long now = 0;
    std::vector<Event> events;
};

TEST(Talk, ReadsWhatIsThereAndSaysWhenItIsSteady) {
    Bench b(1);
    b.talk.opened(b.now);
    b.steps(10);
    EXPECT_EQ(b.talk.identity(), "PRETEND,BENCH METER,0,1");
    EXPECT_EQ(b.count(Event::Kind::reading), 0) << "nobody asked";
    b.talk.measure(Reads::volts, b.now);
    b.steps(40);
    ASSERT_GT(b.count(Event::Kind::reading), 3);
    EXPECT_NEAR(b.events.back().value, 3.712, apart(Reads::volts, 3.712));
    EXPECT_TRUE(b.events.back().steady);
    // Something else, and the other end of the range: open.
    b.events.clear();
    b.talk.measure(Reads::ohms, b.now);
    b.ohms = 5e6;
    b.steps(40);
    EXPECT_EQ(b.count(Event::Kind::reading), 0);
    EXPECT_GT(b.count(Event::Kind::overload), 0);
    EXPECT_EQ(b.meter.reads(), Reads::ohms);
}

TEST(Talk, NoticesThatSomebodyTurnedTheSwitch) {
    Bench b(2);
    b.talk.opened(b.now);
    b.talk.measure(Reads::volts, b.now);
    b.steps(40);
    b.events.clear();
    b.meter.turn_switch(Reads::amps);
    b.steps(20);
    EXPECT_GT(b.count(Event::Kind::wrong_function), 0);
    for (const Event& e : b.events)
        if (e.kind == Event::Kind::reading) {
            EXPECT_NEAR(e.value, 3.712, 0.1) << "amps are never told as volts";
        }
    b.steps(40);
    EXPECT_EQ(b.meter.reads(), Reads::volts) << "it was set back";
}

TEST(Talk, AThousandRoundsOfTroubleTakeNoWrongReading) {
    int readings = 0, garbage = 0, silences = 0, again = 0;
    const int rounds = test::rounds(1000);
    for (int round = 0; round < rounds; ++round) {
        Bench b(static_cast<std::uint64_t>(round) * 31 + 7,
                dialects()[static_cast<std::size_t>(round) % dialects().size()]);
        Random random(static_cast<std::uint64_t>(round) + 5);
        b.spoils = round % 4 == 0 ? 0 : random.uniform(0.02, 0.5);
        b.silent = round % 3 == 0 ? random.uniform(0, 0.4) : 0;
        b.late = round % 5 == 0 ? 0.6 : 0;
        b.in_pieces = round % 2 == 0;
        b.talk.opened(b.now);
        b.talk.measure(Reads::volts, b.now);
        for (int part = 0; part < 4; ++part) {
            // Another voltage each time; what was on the way when the cable was drawn is gone.
            b.volts = random.uniform(-0.5, 4.2);
            b.talk.tell("PROBES \"idle\",\"U1.bat\",\"U1.gnd\"");
            if (round % 7 == 0 && part == 2) {
                b.talk.closed();
                b.cut();
                b.steps(3);
                b.talk.opened(b.now);
                ++again;
            }
            b.events.clear();
            b.steps(220); // what is under way when the probes are moved is of before
            for (const Event& e : b.events) {
                garbage += e.kind == Event::Kind::garbage;
                silences += e.kind == Event::Kind::silent;
                if (e.kind != Event::Kind::reading) continue;
                ++readings;
                ASSERT_NEAR(e.value, b.volts, 2 * apart(Reads::volts, b.volts) + 0.01)
                    << "round " << round << " part " << part;
            }
        }
    }
    EXPECT_GT(readings, rounds * 10);
    EXPECT_GT(garbage, rounds / 10);
    EXPECT_GT(silences, rounds / 10);
    EXPECT_GT(again, rounds / 10);
}

TEST(Talk, AnInstrumentThatReadsBothTellsAmpsBesideVolts) {
    Bench b(4, dialects().back());
    ASSERT_FALSE(dialects().back().amps_beside.empty());
    b.talk.opened(b.now);
    b.talk.measure(Reads::volts, b.now);
    b.spoils = 0.1;
    b.steps(2000);
    EXPECT_GT(b.count(Event::Kind::reading), 5);
    EXPECT_GT(b.count(Event::Kind::amps), 5);
    for (const Event& e : b.events) {
        if (e.kind != Event::Kind::reading && e.kind != Event::Kind::amps) continue;
        const bool volts = e.kind == Event::Kind::reading;
        EXPECT_NEAR(e.value, volts ? 3.712 : 0.25, volts ? 0.15 : 0.02);
    }
}

TEST(Talk, PureNoiseIsNeverBelieved) {
    Random random(99);
    Talk talk(dialects().front());
    talk.opened(0);
    talk.measure(Reads::volts, 0);
    long long now = 0;
    for (int i = 0; i < 20000; ++i) {
        std::string bytes;
        for (int k = 0; k < 20; ++k)
            bytes += static_cast<char>(random.next() % 256);
        if (i % 3 == 0) bytes += "\n+3.7E+00\n";
        talk.received(bytes, now += 10);
        talk.tick(now);
        (void)talk.take_out();
        for (const Event& e : talk.take_events())
            ASSERT_NE(e.kind, Event::Kind::reading);
    }
    EXPECT_TRUE(talk.identity().empty());
}

TEST(Talk, NumbersAreNumbersAndNothingElse) {
    EXPECT_EQ(number_of("+3.712000E+00"), 3.712);
    EXPECT_EQ(number_of("-12"), -12);
    for (const char* none : {"", "inf", "nan", "3.7 V", "3.7.1", "+", "3e", "0x12", "12,5"})
        EXPECT_FALSE(number_of(none)) << none;
}

TEST(Pretend, HasRangesErrorsAndASupply) {
    bool on = false;
    Pretend meter(
        dialects().front(),
        [&](Reads what, const Probes& p, const Supply& s) -> std::optional<double> {
            on = s.on;
            if (p.from == "nowhere") return std::nullopt;
            return what == Reads::amps ? std::min(2.0, s.on ? s.limit : 2.0) : 3.9;
        },
        3);
    EXPECT_EQ(meter.hear("SYST:ERR?"), "0,\"no error\"");
    EXPECT_TRUE(meter.hear("MAKE:TEA").empty());
    EXPECT_NE(meter.hear("SYST:ERR?").find("-113"), std::string::npos);
    EXPECT_EQ(meter.hear("SYST:ERR?"), "0,\"no error\"");
    (void)meter.hear("RANGE 2");
    EXPECT_GE(*number_of(meter.hear("READ?")), 9e37) << "3.9 V is over 2 V";
    (void)meter.hear("RANGE AUTO");
    EXPECT_NEAR(*number_of(meter.hear("READ?")), 3.9, 0.02);
    (void)meter.hear("RANGE many");
    EXPECT_NE(meter.hear("SYST:ERR?").find("-222"), std::string::npos);
    (void)meter.hear("CONF:CURR:DC");
    EXPECT_NEAR(*number_of(meter.hear("READ?")), 2, 0.02);
    (void)meter.hear("SOUR:CURR 0.5");
    (void)meter.hear("OUTP ON");
    EXPECT_NEAR(*number_of(meter.hear("SUPP:CURR?")), 0.5, 0.02);
    EXPECT_TRUE(on);
    (void)meter.hear("PROBES \"clash flash\",\"U1.bat\",\"U1.gnd\"");
    EXPECT_EQ(meter.probes(), (Probes{"clash flash", "U1.bat", "U1.gnd", false}));
    (void)meter.hear("PROBES one");
    EXPECT_NE(meter.hear("SYST:ERR?").find("-109"), std::string::npos);
    (void)meter.hear("PROBES idle,nowhere");
    EXPECT_EQ(*number_of(meter.hear("READ?")), 0);
    // In whatever form the open standard allows, chosen and read at once as well.
    (void)meter.hear("PROBES idle,U1.bat,U1.gnd");
    for (const char* volts : {"MEAS:VOLT:DC?", "measure:voltage:dc?", ":MEAS:VOLT?"})
        EXPECT_NEAR(*number_of(meter.hear(volts)), 3.9, 0.02) << volts;
    (void)meter.hear("configure:current:dc");
    EXPECT_EQ(meter.hear("function?"), "\"CURR\"");
    EXPECT_NE(meter.hear("system:error?").find("no error"), std::string::npos);
}

TEST(Dialect, IsATableThatIsReadBackOrRefused) {
    for (const Dialect& d : dialects()) {
        const auto read = dialect_of(d.name, words_of(d));
        ASSERT_TRUE(read);
        EXPECT_EQ(*read, d);
    }
    auto words = words_of(dialects().front());
    words[0].text.clear();
    EXPECT_FALSE(dialect_of("x", words)) << "without identify nothing can be read";
    words = words_of(dialects().front());
    words.push_back({"make tea", "TEA"});
    EXPECT_FALSE(dialect_of("x", words));
    words = words_of(dialects().front());
    words[3].text = "A\nB";
    EXPECT_FALSE(dialect_of("x", words));
    for (auto& w : words_of(dialects().front()))
        if (w.what == "wait, ms") {
            auto wrong = words_of(dialects().front());
            wrong.back().text = "soon";
            EXPECT_FALSE(dialect_of("x", wrong));
        }
}

} // namespace
} // namespace conductus::meter
