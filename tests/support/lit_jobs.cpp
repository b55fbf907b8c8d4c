// SPDX-License-Identifier: GPL-3.0-or-later
#include "support/lit_jobs.h"

#include <algorithm>
#include <fmt/format.h>
#include <iterator>

#include "core/catalogue/kinds.h"
#include "core/job/lookup.h"
#include "core/job/presets.h"
#include "support/fixtures.h"

namespace conductus::test {
namespace {

using job::Role;

class Maker {
public:
    explicit Maker(std::mt19937& random) : random_(random) {}

    job::Job make() {
        job_.name = "random";
        two_cells_ = chance(0.25);
        supply();
        if (two_cells_) string_blade();
        if (!two_cells_) {
            const int blades = whole(1, whole(1, 6));
            for (int i = 0; i < blades; ++i)
                blade();
            for (int i = whole(0, 3); i > 0; --i)
                accent();
            if (chance(0.25)) boosted();
        }
        for (int i = whole(0, 2); i > 0; --i)
            plain_led();
        if (chance(0.6)) power_led();
        if (chance(0.2)) low_drop();
        if (chance(0.3)) display();
        if (chance(0.4)) always_on();
        if (chance(0.3)) lit_button();
        looks();
        return std::move(job_);
    }

private:
    double uniform(double a, double b) { return std::uniform_real_distribution<>(a, b)(random_); }
    int whole(int a, int b) { return std::uniform_int_distribution<>(a, b)(random_); }
    bool chance(double p) { return uniform(0, 1) < p; }
    template <class... T>
    std::string one_of(T... words) {
        const char* all[] = {words...};
        return all[static_cast<std::size_t>(whole(0, static_cast<int>(sizeof...(words)) - 1))];
    }

    job::Part& part(const std::string& stem, const std::string& type) {
        job::Part& p = job_.parts.emplace_back();
        p.ref = fmt::format("{}{}", stem, ++number_);
        p.type = type;
        p.at = Millimetre(number_ * 10);
        return p;
    }
    void wire(const std::string& from, const std::string& to, Role role) {
        job_.wires.push_back({fmt::format("W{}", ++wires_),
                              from,
                              to,
                              role,
                              whole(18, 28),
                              Millimetre(uniform(10, 300)),
                              {}});
        if (chance(0.1)) job_.wires.back().resistance = Ohm(uniform(0.001, 0.2));
    }
    void supply_wire(const std::string& from, const std::string& to) {
        wire(from, to, Role::supply);
    }
    void return_wire(const std::string& from, const std::string& to) {
        wire(from, to, Role::return_path);
    }
    std::string pad() { return fmt::format("{}.l{}", board_, whole(1, two_cells_ ? 8 : 6)); }
    std::string data_pad() { return fmt::format("{}.d{}", board_, two_cells_ ? 1 : whole(1, 4)); }

    void supply() {
        auto cell = [&] {
            job::Part& b = part("B", two_cells_ ? "cell.18350"
                                                : one_of("cell.18650-power", "cell.21700-power",
                                                         "cell.18650-capacity", "cell.14500"));
            if (chance(0.6)) b.protection = one_of("protection.5a", "protection.12a");
            if (chance(0.3)) b.measured.resistance = Ohm(uniform(0.01, 0.12));
            return b.ref;
        };
        const std::string first = cell();
        std::string plus = first + ".plus";
        if (two_cells_) {
            const std::string second = cell();
            supply_wire(plus, second + ".minus");
            plus = second + ".plus";
        }
        const bool fused = chance(0.4), killed = chance(0.8);
        board_ = part("U", two_cells_ ? "board.strings-8" : "board.large").ref;
        if (fused) {
            const std::string f = part("F", one_of("fuse.blade-7a5", "fuse.resettable-5a")).ref;
            supply_wire(plus, f + ".a");
            plus = f + ".b";
        }
        always_ = plus;
        if (killed) {
            const std::string k = part("K", one_of("kill.slide-10a", "kill.plug-6a")).ref;
            supply_wire(plus, k + ".in");
            plus = k + ".out";
        }
        supply_wire(plus, board_ + ".bat");
        return_wire(first + ".minus", board_ + ".gnd");
    }

    void blade() {
        job::Blade b;
        b.ref = fmt::format("BL{}", ++number_);
        b.length = Millimetre(900);
        b.outer = Millimetre(25);
        if (chance(0.6))
            b.connector = part("P", one_of("connector.pins-7", "connector.pins-3",
                                           "connector.pins-7-lit", "connector.dock-6"))
                              .ref;
        const std::string type =
            one_of("strip.rgb-144", "strip.rgb-144-wide", "strip.rgbw-144-wide",
                   "strip.rgb-bright-144-wide", "strip.micro-160");
        const int strips = whole(1, 4), pixels = whole(1, 130);
        for (int i = 0; i < strips; ++i) {
            job::Strip s{fmt::format("ST{}", ++number_), type, pixels, Millimetre(pixels * 6.9),
                         Ohm(uniform(0.005, 0.1)),       {},   {}};
            if (chance(0.3)) s.rail = OhmPerMetre(uniform(0.05, 0.4));
            if (chance(0.3)) s.feeds.push_back({1, Ohm(uniform(0.02, 0.3))});
            if (chance(0.2)) s.feeds.push_back({uniform(0.2, 0.8), Ohm(uniform(0.02, 0.3))});
            b.strips.push_back(s);
        }
        const std::string end = b.connector.empty() ? b.ref : b.connector;
        supply_wire(board_ + ".bat", end + ".plus");
        return_wire(end + ".minus", pad());
        if (chance(0.3)) return_wire(end + ".minus", pad());
        data(data_pad(), end + ".data");
        if (strips > 1 && chance(0.2)) wire(data_pad(), b.strips[1].ref + ".data", Role::data);
        job_.blades.push_back(std::move(b));
    }

    void data(const std::string& from, const std::string& to) {
        if (chance(0.3)) {
            job::Part& r = part("R", "resistor.0w25");
            r.chosen.resistance = Ohm(330);
            wire(from, r.ref + ".a", Role::data);
            wire(r.ref + ".b", to, Role::data);
        } else {
            wire(from, to, Role::data);
        }
    }

    void accent() {
        const std::string a =
            part("A", one_of("pixel.rgb-5050", "pixels.stick-8-rgb", "pixels.ring-7-rgbw",
                             "pixels.ring-12-rgb", "pixels.micro-5", "pixels.micro-10"))
                .ref;
        supply_wire(board_ + ".bat", a + ".plus");
        return_wire(a + ".minus", chance(0.5) ? pad() : board_ + ".gnd");
        data(data_pad(), a + ".data");
        if (!job_.blades.empty() && chance(0.4)) { // ahead of a blade
            const job::Blade& b = job_.blades.back();
            wire(a + ".out", (b.connector.empty() ? b.ref : b.connector) + ".data", Role::data);
        }
    }

    void boosted() {
        const std::string v = part("V", "regulator.5v-step-up").ref;
        const std::string a = part("A", one_of("pixels.stick-8-rgb", "pixels.ring-12-rgb")).ref;
        const std::string t = part("T", "shifter.one-line").ref;
        supply_wire(board_ + ".bat", v + ".in");
        return_wire(v + ".gnd", board_ + ".gnd");
        supply_wire(v + ".out", a + ".plus");
        return_wire(a + ".minus", board_ + ".gnd");
        supply_wire(v + ".out", t + ".plus");
        return_wire(t + ".minus", board_ + ".gnd");
        wire(data_pad(), t + ".in", Role::data);
        wire(t + ".out", a + ".data", Role::data);
    }

    void behind_resistor(const std::string& plus, const std::string& led, double ohms,
                         const std::string& type = "resistor.1w") {
        job::Part& r = part("R", type);
        r.chosen.resistance = Ohm(ohms);
        supply_wire(plus, r.ref + ".a");
        supply_wire(r.ref + ".b", led);
    }

    void plain_led() {
        const std::string d =
            part("D", one_of("led.3mm-red", "led.3mm-green", "led.3mm-blue", "led.3mm-white")).ref;
        behind_resistor(board_ + ".bat", d + ".plus", uniform(20, 400), "resistor.0w25");
        return_wire(d + ".minus", chance(0.8) ? pad() : board_ + ".gnd");
    }

    void power_led() {
        const std::string type =
            one_of("led.power-1-red", "led.power-1-blue", "led.power-1-white",
                   "led.power-2-blue-white", "led.power-3-rgb", "led.power-4-rgbw");
        const int dies = type[10] - '0';
        const std::string d = part("D", type).ref;
        if (dies == 1) {
            const std::string how =
                one_of("resistor", "linear", two_cells_ ? "step-down" : "step-up", "bare");
            if (how == "resistor") {
                behind_resistor(board_ + ".bat", d + ".plus", uniform(0.5, 8));
            } else if (how == "bare") {
                supply_wire(board_ + ".bat", d + ".plus");
            } else {
                job::Part& g = part("G", "driver." + how + "-1a");
                g.chosen.current = Ampere(uniform(0.1, 0.9));
                supply_wire(board_ + ".bat", g.ref + ".in");
                if (how != "linear") return_wire(g.ref + ".gnd", board_ + ".gnd");
                supply_wire(g.ref + ".out", d + ".plus");
            }
            return_wire(d + ".minus", chance(0.8) ? pad() : board_ + ".gnd");
            return;
        }
        supply_wire(board_ + ".bat", d + ".plus");
        for (int i = 1; i <= dies; ++i) {
            if (chance(0.1)) continue;
            job::Part& r = part("R", "resistor.2w");
            r.chosen.resistance = Ohm(uniform(0.3, 6));
            return_wire(fmt::format("{}.minus{}", d, i), r.ref + ".a");
            return_wire(r.ref + ".b", pad());
        }
    }

    void string_blade() {
        job::Blade b;
        b.ref = fmt::format("BL{}", ++number_);
        b.length = Millimetre(800);
        b.outer = Millimetre(25);
        const std::string type = one_of("string.blue-6", "string.red-6");
        b.strings.push_back({fmt::format("LS{}", ++number_), type});
        supply_wire(board_ + ".bat", b.ref + ".plus");
        for (int i = 1; i <= 6; ++i)
            return_wire(fmt::format("{}.seg{}", b.ref, i), fmt::format("{}.l{}", board_, i));
        if (type == "string.blue-6") return_wire(b.ref + ".flash", board_ + ".l7");
        job_.blades.push_back(std::move(b));
    }

    void low_drop() {
        const std::string v = part("V", "regulator.3v3-low-drop").ref;
        const std::string d = part("D", one_of("led.3mm-red", "led.3mm-green")).ref;
        supply_wire(board_ + ".bat", v + ".in");
        return_wire(v + ".gnd", board_ + ".gnd");
        behind_resistor(v + ".out", d + ".plus", uniform(20, 200), "resistor.0w25");
        return_wire(d + ".minus", pad());
    }

    void display() {
        const std::string d = part("Y", one_of("display.round-0in7", "display.bar-0in9")).ref;
        supply_wire(board_ + ".bat", d + ".plus");
        return_wire(d + ".minus", board_ + ".gnd");
    }

    void always_on() {
        const std::string p = part("J", "port.charge-lit").ref;
        supply_wire(chance(0.5) ? always_ : board_ + ".bat", p + ".led_plus");
        return_wire(p + ".led_minus", board_ + ".gnd");
    }

    void lit_button() {
        const std::string s = part("S", "button.momentary-12-lit").ref;
        supply_wire(board_ + ".bat", s + ".led_plus");
        return_wire(s + ".led_minus", chance(0.5) ? pad() : board_ + ".gnd");
    }

    void looks() {
        auto colour = [&] {
            job::Colour c;
            for (double* k : {&c.red, &c.green, &c.blue, &c.white})
                *k = chance(0.3) ? 0 : uniform(0, 1);
            return c;
        };
        for (int i = 1; i <= 3; ++i) {
            job::Look look;
            look.name = fmt::format("look {}", i);
            look.colour = colour();
            look.style = static_cast<job::Style>(whole(0, 8));
            if (look.style > job::Style::bands) look.second = colour();
            if (look.style == job::Style::two && chance(0.5)) look.meets = uniform(0, 1);
            look.cap = uniform(0.1, 1);
            if (chance(0.4) && !job_.blades.empty())
                look.lights.push_back(
                    {job_.blades.front().ref, colour(), job::Style::steady, uniform(0, 1)});
            job_.looks.push_back(std::move(look));
        }
        for (int kind = 0; kind < 7; ++kind) {
            const double from = uniform(0, 0.8);
            job_.effects.push_back({fmt::format("effect {}", kind), colour(), uniform(0.1, 1), from,
                                    uniform(from + 0.05, 1), Second(uniform(0.1, 3)),
                                    static_cast<job::EffectKind>(kind)});
        }
        presets(colour);
        job_.use.volume = uniform(0, 1);
        job_.use.temperature = Celsius(uniform(-10, 40));
    }

    /// Two presets, the second with an effect of its own and one less; what lights do with effects
    /// and at rest.
    template <class Colour>
    void presets(Colour colour) {
        std::vector<std::string> lights;
        for (const job::Part& p : job_.parts) {
            const auto& figures = parts().find(p.type)->figures;
            if (catalogue::led_in(figures) || catalogue::pixels_in(figures))
                lights.push_back(p.ref);
        }
        for (const job::Blade& b : job_.blades)
            lights.push_back(b.ref);
        for (const std::string& light : lights) {
            if (chance(0.4))
                job_.effects[static_cast<std::size_t>(whole(0, 6))].lights.push_back(
                    {light, static_cast<job::Follows>(whole(0, 3)), colour(), uniform(0.1, 1),
                     static_cast<job::Segments>(whole(0, 2)),
                     static_cast<job::FlashRow>(whole(0, 2))});
            for (const auto when : {job::Rest::asleep, job::Rest::idle, job::Rest::charging}) {
                if (!chance(0.3)) continue;
                job::LightOverride l{light, colour(), static_cast<job::Style>(whole(0, 8)),
                                     uniform(0.1, 1)};
                (void)job::let_rest(when, {}, l)(job_);
            }
        }
        for (int i = 1; i <= 2; ++i)
            job_.presets.push_back(
                {fmt::format("preset {}", i), "font", fmt::format("look {}", i), {}, {}, {}});
        job::Effect own = job_.effects[static_cast<std::size_t>(whole(0, 6))];
        own.colour = colour();
        own.lights.clear();
        job_.presets[1].effects = {own};
        job_.presets[1].left_out = {{own.name == "effect 0" ? "effect 1" : "effect 0"}};
    }

    std::mt19937& random_;
    job::Job job_;
    bool two_cells_ = false;
    std::string board_, always_;
    int number_ = 0, wires_ = 0;
};

} // namespace

job::Job random_lit_job(std::mt19937& random) { return Maker(random).make(); }

power::State random_state(const job::Job& job, std::mt19937& random) {
    auto below = [&](std::size_t n) {
        return std::uniform_int_distribution<std::size_t>(0, n - 1)(random);
    };
    const double charge = std::uniform_real_distribution<>(0, 1)(random);
    const std::size_t kind = below(8);
    if (kind == 0)
        return power::rest_state(job, below(2) == 0 ? job::Rest::idle : job::Rest::charging,
                                 charge);
    if (kind == 1 && below(2) == 0)
        return power::dark_state(circuit::BoardMode::asleep, true, charge);
    if (kind == 1) return power::rest_state(job, job::Rest::asleep, charge);
    power::State state;
    state.look = job.looks[below(job.looks.size())];
    state.charge = charge;
    const job::Preset& preset = job.presets[below(job.presets.size())];
    if (kind < 5) {
        const auto effects = job::effects_of(job, preset);
        state.look = *job::find_name(job.looks, preset.look);
        state.effect = effects[below(effects.size())];
    }
    state.loudness = below(2) == 0 ? power::Loudness::hum : power::Loudness::peak;
    if (kind % 2) {
        state.brightness = power::Brightness::instant;
        state.seconds = std::uniform_real_distribution<>(0, 2)(random);
        state.seed = below(1000);
    }
    return state;
}

} // namespace conductus::test
