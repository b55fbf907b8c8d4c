// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/plan/start.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

#include "core/catalogue/count.h"
#include "core/catalogue/kinds.h"
#include "core/harness/data_map.h"
#include "core/harness/derive.h"
#include "core/harness/gauge.h"
#include "core/harness/rewire.h"
#include "core/hilt/fit.h"
#include "core/job/edits.h"
#include "core/job/lookup.h"
#include "core/job/names.h"

namespace conductus::plan {
namespace {

using catalogue::Catalogue;
using catalogue::PartType;
using job::Job;

constexpr double usual_wall = 3, usual_clearance = 0.3, usual_chassis_wall = 1.2;
/// Room left along the axis: as a shop likes it, and as little as will do.
struct Gaps {
    double first, between, behind_cell;
};
constexpr Gaps easy{5, 2, 3}, tight{2, 1, 1};
/// How the parts are laid out: the kill in the row, or on the board.
struct Layout {
    Gaps gaps;
    bool kill_on_board;
};
constexpr Layout layouts[] = {{easy, false}, {easy, true}, {tight, false}, {tight, true}};
/// What one wire of the thickest gauge stays cool with.
constexpr double amps_of_one_wire = 7.5;
/// Of full white, what the flash of a new job shows: the most a pad carries.
constexpr double of_the_flash = 0.9;

bool is_later(const std::string& id) { return id == Start::later; }

/// Seat of the blade: two diameters hold for swings, two and a half for bouts.
double socket_depth(const Start& start) {
    const double outer = start.blade_outer->value();
    return std::ceil(outer * (start.occasion == job::Occasion::bout ? 2.6 : 2));
}

bool has_survey(const Start& start) { return start.length && start.bore; }

/// Diameter of the bore that it needs, chassis wall included.
double width_of(const PartType& type, const Catalogue& parts) {
    job::Part part;
    part.type = type.id;
    job::Hilt hilt;
    hilt.chassis_wall = Millimetre(usual_chassis_wall);
    return hilt::place(part, hilt, parts).need.value();
}

bool goes_in(const Start& start, const PartType& type, const Catalogue& parts) {
    return !start.bore || width_of(type, parts) <= start.bore->value() - usual_clearance + 1e-9;
}

double amps_of(const Start& start, const Catalogue& parts) {
    const auto* strip = parts.find_as<catalogue::Strip>(start.strip);
    if (!strip) return 0.5;
    const int pixels = *start.strips * catalogue::pixels_on(*start.blade, strip->density);
    return 0.5 + harness::full_white_amps(parts, strip->pixel, pixels).value();
}

/// The first that will do, else the last that goes in, else nothing.
template <class T, class Does>
std::string first_that(const Start& start, const Catalogue& parts, const Does& does) {
    std::string last;
    for (const PartType* type : parts.all<T>()) {
        if (parts.written(type->id) || !goes_in(start, *type, parts)) continue;
        // The foot of a blade of strips is wanted: no plug of a string's segments, and none
        // that lies flat in the wall of a side socket.
        if constexpr (std::is_same_v<T, catalogue::Connector>)
            if (std::get<T>(type->figures).segments > 0 ||
                type->body.shape != catalogue::Body::Shape::cylinder)
                continue;
        if (does(std::get<T>(type->figures), *type)) return type->id;
        last = type->id;
    }
    return last.empty() ? Start::later : last;
}

int cells_in(const Start& start, const Catalogue& parts) {
    const auto* cell = parts.find_as<catalogue::Cell>(start.cell);
    return cell ? cell->series : 1;
}

/// Whether it can be fed by that many cells one behind the other.
bool runs_on(const catalogue::Board& board, int cells) {
    return board.most.value() >= 4.2 * cells && board.cut_off.value() < 3.7 * cells;
}

std::string usual_board(const Start& start, const Catalogue& parts) {
    const double amps = amps_of(start, parts);
    const auto* strip = parts.find_as<catalogue::Strip>(start.strip);
    const int pixels = strip ? catalogue::pixels_on(*start.blade, strip->density) : 0;
    const auto buttons = [](const PartType& type) {
        return std::count_if(type.terminals.begin(), type.terminals.end(), [](auto& t) {
            return t.size() > 1 && t[0] == 's' && std::isdigit(static_cast<unsigned char>(t[1]));
        });
    };
    const auto runs = [&](const catalogue::Board& b) { return runs_on(b, cells_in(start, parts)); };
    const std::string best =
        first_that<catalogue::Board>(start, parts, [&](const auto& b, const PartType& type) {
            return runs(b) && b.pad_rating.value() >= of_the_flash * amps &&
                   b.max_pixels >= pixels && buttons(type) >= *start.buttons;
        });
    const auto* found = parts.find_as<catalogue::Board>(best);
    if (!found || runs(*found)) return best;
    return first_that<catalogue::Board>(start, parts,
                                        [&](const auto& b, const PartType&) { return runs(b); });
}

std::string usual_speaker(const Start& start, const Catalogue& parts) {
    std::string best;
    double power = 0;
    for (const PartType* type : parts.all<catalogue::Speaker>()) {
        const auto& s = std::get<catalogue::Speaker>(type->figures);
        // Without a bore: one that goes into most hilts.
        if (parts.written(type->id) || !goes_in(start, *type, parts) ||
            (!start.bore && width_of(*type, parts) > 28))
            continue;
        if (s.power.value() > power) power = s.power.value(), best = type->id;
    }
    return best.empty() ? Start::later : best;
}

std::string usual_protection(const Catalogue& parts, const catalogue::Cell& cell, double amps) {
    if (cell.series > 1) return {};
    std::string best;
    for (const PartType* type : parts.all<catalogue::Protection>()) {
        if (parts.written(type->id)) continue;
        best = type->id;
        if (std::get<catalogue::Protection>(type->figures).trip.value() > 1.4 * amps) break;
    }
    return best;
}

/// All but the cell, which decides by whether the job it makes has room for it.
Start decide_around(Start s, const Catalogue& parts) {
    if (!s.occasion) s.occasion = job::Occasion::carried;
    if (!s.blade) s.blade = Millimetre(813);
    if (!s.blade_outer) s.blade_outer = Millimetre(25.4);
    if (!s.strips) s.strips = s.blade->value() > 0 ? 2 : 0;
    if (!s.buttons) s.buttons = 1;
    if (s.strip.empty())
        s.strip = s.blade->value() > 0 && *s.strips > 0 ? "strip.rgb-144-wide-2oz" : Start::later;
    if (s.board.empty()) s.board = usual_board(s, parts);
    if (s.speaker.empty()) s.speaker = usual_speaker(s, parts);
    const double amps = amps_of(s, parts);
    if (s.kill.empty())
        s.kill = first_that<catalogue::Kill>(s, parts, [&](const auto& k, const PartType&) {
            return k.method == catalogue::Kill::Method::slide_switch && k.rating.value() >= amps;
        });
    if (s.connector.empty())
        s.connector =
            s.blade->value() <= 0
                ? Start::later
                : first_that<catalogue::Connector>(s, parts, [&](const auto& c, const PartType&) {
                      return c.pixels == 0 && c.travel.value() >= 1.4 &&
                             c.plus_pins * c.pin_rating.value() >= amps;
                  });
    return s;
}

void survey(Job& job, const Start& s) {
    job.hilt.clearance = Millimetre(usual_clearance);
    job.hilt.chassis_wall = Millimetre(usual_chassis_wall);
    if (!has_survey(s)) return;
    const double length = s.length->value(), bore = s.bore->value();
    const bool blade = s.blade->value() > 0;
    const double seat = s.blade_outer->value() + 0.2;
    const double depth = blade ? std::min(socket_depth(s), length / 2) : 0;
    const auto section = [&](const char* name, double from, double to, double inner) {
        const double outer = std::max(bore, inner) + 2 * usual_wall;
        job.hilt.sections.push_back(
            {name, Millimetre(from), Millimetre(to), Millimetre(inner), Millimetre(outer), {}, {}});
    };
    section("body", 0, length - depth, bore);
    if (!blade) return;
    section("socket", length - depth, length, seat);
    job.hilt.socket.nominal = *s.blade_outer;
    job.hilt.socket.bores = {{Millimetre(depth), Millimetre(seat)}};
}

/// Fits a part with the start of its whole body at `from`; returns its end.
double put(Job& job, const Catalogue& parts, const std::string& type, double from,
           const std::string& protection = {}) {
    job::Part part;
    part.type = type;
    part.ref = job::free_ref(job, catalogue::kind_of(parts.find(type)->figures).stem);
    if (!protection.empty()) part.protection = protection;
    const hilt::PlacedBody body = hilt::place(part, job.hilt, parts);
    // A cell's protection lies before its own place.
    part.at = Millimetre(std::max(0.0, from - body.from.value()));
    job.parts.push_back(part);
    return part.at.value() + body.to.value();
}

/// Moves what sits in the wall to the nearest place where it reaches into no body: toward the
/// pommel first, where a hand finds it less, only if there is no other.
void clear_of_bodies(job::Part& part, const Job& job, const Catalogue& parts) {
    const std::vector<hilt::PlacedBody> bodies = hilt::place_all(job, parts);
    const double wish = part.at.value(), end = job.hilt.sections.back().to.value();
    const auto clear = [&](double at) {
        part.at = Millimetre(at);
        const hilt::PlacedBody body = hilt::place(part, job.hilt, parts);
        return at >= 0 && body.to.value() <= end &&
               std::none_of(bodies.begin(), bodies.end(), [&](const hilt::PlacedBody& other) {
                   const job::Part* of = job::find_ref(job.parts, other.ref);
                   const auto stands = catalogue::kind_of(parts.find(of->type)->figures).stands;
                   return stands != catalogue::Stands::wire && hilt::in_each_other(body, other);
               });
    };
    for (double away = 0; away <= end; ++away)
        for (const double at : {wish - away, wish + away})
            if (clear(at)) return;
    part.at = Millimetre(wish);
}

void fit_buttons(Job& job, const Start& s, const Catalogue& parts) {
    const std::string type = "button.momentary-12";
    const double size = parts.find(type)->body.diameter.value();
    const job::Part* board = job::first_of<catalogue::Board>(job, parts).part;
    double at = s.length ? s.length->value() * 0.65 : board ? board->at.value() : 120;
    if (board && has_survey(s)) {
        // Beyond the board, where nothing lies beneath it, if the hilt is that long.
        const hilt::PlacedBody body = hilt::place(*board, job.hilt, parts);
        at = std::min(body.to.value() + 4, s.length->value() - socket_depth(s) - size);
        at = std::max(at, 0.0);
    }
    for (int i = 0; i < *s.buttons; ++i) {
        job::Part part;
        part.type = type;
        part.ref = job::free_ref(job, "S");
        part.at = Millimetre(std::round(at));
        part.off_axis = Millimetre(s.bore ? s.bore->value() / 2 : 14);
        if (has_survey(s)) clear_of_bodies(part, job, parts);
        if (has_survey(s)) {
            job::Opening hole;
            hole.name = i == 0 ? "button hole" : fmt::format("button hole {}", i + 1);
            hole.use = job::OpeningUse::switch_hole;
            hole.at = part.at + Millimetre(size / 2);
            hole.length = hole.width = Millimetre(size);
            hole.part = part.ref;
            job.hilt.openings.push_back(std::move(hole));
        }
        job.parts.push_back(std::move(part));
        at = std::max(0.0, at - size - 8);
    }
}

/// Lays one body on another, the circle round both in the middle of the bore.
void stack(job::Part& below, const catalogue::Body& low, job::Part& above,
           const catalogue::Body& high) {
    constexpr double apart = 0.4; // mm
    const auto size = [](const catalogue::Body& b) {
        return b.shape == catalogue::Body::Shape::cylinder
                   ? std::pair(b.diameter.value(), b.diameter.value())
                   : std::pair(b.width.value(), b.height.value());
    };
    const auto [low_width, low_height] = size(low);
    const auto [high_width, high_height] = size(high);
    const double foot = -low_height, top = apart + high_height;
    // As far from the corners at the foot as from those at the top.
    const double middle =
        ((high_width * high_width - low_width * low_width) / 4 + top * top - foot * foot) /
        (2 * (top - foot));
    const auto tenths = [](double mm) { return Millimetre(std::round(mm * 10) / 10); };
    below.off_axis = tenths(-low_height / 2 - middle);
    above.off_axis = tenths(apart + high_height / 2 - middle);
}

/// Brightness cap of white that a cell stays cool at when the look is held: what warms it 12 K
/// while it is fresh, for it has more than twice the resistance when it is nearly empty and hot.
double cool_cap(const Start& s, const Catalogue& parts) {
    const PartType* type = parts.find(s.cell);
    const auto* cell = parts.find_as<catalogue::Cell>(s.cell);
    double cap = 0.5;
    if (cell && type->thermal.value() > 0) {
        const double settled_ohms = 2.15 * cell->resistance.value();
        const double amps = std::sqrt(12 / type->thermal.value() / settled_ohms);
        cap = std::min(cap, amps / amps_of(s, parts));
    }
    return std::max(0.1, std::floor(cap * 20 + 1e-9) / 20);
}

/// Speaker, cell, kill and board from the pommel, the connector under the blade's seat.
void fit_parts(Job& job, const Start& s, const Catalogue& parts, const Layout& layout) {
    const auto [first, between, behind_cell] = layout.gaps;
    const bool kill_on_board = layout.kill_on_board;
    double at = first;
    if (!is_later(s.speaker)) at = put(job, parts, s.speaker, at) + between;
    if (!is_later(s.cell)) {
        const auto* cell = parts.find_as<catalogue::Cell>(s.cell);
        at = put(job, parts, s.cell, at, usual_protection(parts, *cell, amps_of(s, parts))) +
             behind_cell;
    }
    if (!is_later(s.kill) && !kill_on_board) at = put(job, parts, s.kill, at) + between;
    if (!is_later(s.board)) {
        const double start = at;
        at = put(job, parts, s.board, start) + between;
        if (!is_later(s.kill) && kill_on_board) {
            (void)put(job, parts, s.kill, start);
            stack(job.parts[job.parts.size() - 2], parts.find(s.board)->body, job.parts.back(),
                  parts.find(s.kill)->body);
        }
    } else if (!is_later(s.kill) && kill_on_board) {
        at = put(job, parts, s.kill, at) + between;
    }
    if (!is_later(s.connector)) {
        const double length = parts.find(s.connector)->body.length.value();
        const double end = has_survey(s) ? job.hilt.sections.front().to.value() : at + 40;
        put(job, parts, s.connector, std::max(0.0, end - length));
    }
    fit_buttons(job, s, parts);
}

void light(Job& job, const Start& s, const Catalogue& parts) {
    const auto* strip = parts.find_as<catalogue::Strip>(s.strip);
    job::Colour white{1, 1, 1, 0};
    if (s.blade->value() > 0) {
        job::Blade blade;
        blade.ref = "BL1";
        blade.length = *s.blade;
        blade.outer = *s.blade_outer;
        if (const auto pins = job::first_of<catalogue::Connector>(job, parts))
            blade.connector = pins.part->ref;
        job.blades.push_back(std::move(blade));
        for (int i = 0; strip && i < *s.strips; ++i) {
            job::Strip one;
            one.ref = job::free_ref(job, "ST");
            one.type = s.strip;
            one.length = *s.blade;
            one.pixels = std::max(1, catalogue::pixels_on(one.length, strip->density));
            one.lead = job::usual_strip_lead;
            job.blades.back().strips.push_back(std::move(one));
        }
        if (job.brief.blades.empty()) job.brief.blades = {{*s.blade, *s.blade_outer}};
        if (strip && parts.find_as<catalogue::Pixel>(strip->pixel)->channels.size() > 3)
            white = {0, 0, 0, 1};
    }
    if (job.looks.empty()) {
        const double of_white = cool_cap(s, parts), of_one = std::min(0.8, 3 * of_white);
        job.looks = {{"Blue", {0, 0, 1, 0}, job::Style::steady, of_one, {}},
                     {"Green", {0, 1, 0, 0}, job::Style::steady, of_one, {}},
                     {"White", white, job::Style::steady, of_white, {}}};
    }
    if (job.effects.empty())
        job.effects = {{"clash flash", white, 0.6, 0, 1, Second(0.15)},
                       {"blast mark", white, 1, 0.4, 0.5, Second(0.3), job::EffectKind::mark}};
    if (job.use.name.empty()) job.use.name = "a day";
    if (job.use.look.empty()) job.use.look = job.looks.front().name;
    if (job.use.volume == 0) job.use.volume = 0.7;
}

/// The first layout in which everything has the clearance that is wanted; nothing: none has.
std::optional<Job> laid_out(const Job& surveyed, const Start& s, const Catalogue& parts) {
    for (const Layout& layout : layouts) {
        Job job = surveyed;
        fit_parts(job, s, parts, layout);
        const hilt::Fit fit = hilt::fit(job, parts);
        if (std::all_of(fit.clearances.begin(), fit.clearances.end(),
                        [&](const auto& c) { return c.spare >= job.hilt.clearance; }))
            return job;
    }
    return std::nullopt;
}

bool has_room(const Start& s, const Catalogue& parts) {
    Job job;
    survey(job, s);
    return laid_out(job, s, parts).has_value();
}

/// A second wire beside each that one alone would get warm with.
void share_the_load(Job& job, const Start& s, const Catalogue& parts) {
    if (amps_of(s, parts) <= amps_of_one_wire) return;
    std::vector<std::string> thick;
    for (const job::Wire& wire : job.wires)
        if (wire.gauge <= harness::gauges.front()) thick.push_back(wire.ref);
    for (const std::string& ref : thick)
        (void)harness::double_wire(ref)(job);
}

/// The job of a start in which all is decided.
Job made(Job job, const Start& s, const Catalogue& parts) {
    survey(job, s);
    const job::Edit use = job::set_occasion(*s.occasion);
    (void)use(job);
    if (auto with_parts = laid_out(job, s, parts))
        job = std::move(*with_parts);
    else
        fit_parts(job, s, parts, layouts[0]);
    light(job, s, parts);
    (void)harness::wire_missing(parts)(job);
    share_the_load(job, s, parts);
    (void)harness::configure_as_wired(parts)(job);
    return job;
}

Result<void> in_range(const char* where, const std::optional<Millimetre>& value, double least,
                      double most, const char* what, bool none = false) {
    if (!value || (none && value->value() == 0)) return {};
    if (value->value() >= least && value->value() <= most) return {};
    return problem(where, say("{} can not be {}", Message(what), text(*value)),
                   say("Type {} to {} mm", least, most));
}

template <class T>
Result<void> of_kind(const char* where, const std::string& id, const Catalogue& parts) {
    if (id.empty() || is_later(id) || parts.find_as<T>(id)) return {};
    if (!parts.find(id)) {
        const std::string near = parts.nearest(id);
        return problem(where, say("no part is called '{}'", shown(id, 60)),
                       near.empty() ? Message("Name one of the catalogue, or 'later'")
                                    : say("Did you mean '{}'?", near));
    }
    const std::size_t wanted = catalogue::Figures(T{}).index();
    return problem(where, say("'{}' is no {}", id, std::string(catalogue::kinds()[wanted].word)),
                   "Name one of the catalogue, or 'later'");
}

Result<void> counted(const char* where, std::optional<int> value, int least, int most,
                     const char* what) {
    if (!value || (*value >= least && *value <= most)) return {};
    return problem(where, say("{} can not be {}", Message(what), *value),
                   say("Type {} to {}", least, most));
}

} // namespace

Start decided(Start start, const Catalogue& parts) {
    // As a shop reaches for them: power before length, length before width.
    std::vector<std::string> cells{start.cell}, boards{start.board};
    if (start.cell.empty()) cells = {"cell.18650-power", "cell.18500", "cell.18350", "cell.14500"};
    if (start.board.empty())
        for (const PartType* type : parts.all<catalogue::Board>())
            boards.push_back(type->id);
    // The usual board with any cell goes before another board.
    std::optional<Start> usual;
    for (const std::string& board : boards)
        for (const std::string& cell : cells) {
            Start tried = start;
            tried.cell = cell, tried.board = board;
            tried = decide_around(std::move(tried), parts);
            if (!usual) usual = tried;
            if (!has_survey(tried)) return tried;
            const auto* b = parts.find_as<catalogue::Board>(tried.board);
            const bool runs = !b || runs_on(*b, cells_in(tried, parts));
            if (runs && has_room(tried, parts)) return tried;
        }
    return *usual;
}

Start with_the_brief(Start start, const job::Brief& brief) {
    if (!start.occasion && brief.occasion != job::Occasion::unsaid) start.occasion = brief.occasion;
    if (!start.blade && !brief.blades.empty()) {
        start.blade = brief.blades.front().length;
        if (!start.blade_outer) start.blade_outer = brief.blades.front().outer;
    }
    return start;
}

Result<void> check_start(const Start& s, const Catalogue& parts) {
    const auto first = [](std::initializer_list<Result<void>> all) -> Result<void> {
        for (const auto& one : all)
            if (!one) return one;
        return {};
    };
    if (s.length.has_value() != s.bore.has_value())
        return problem(s.length ? "bore" : "length",
                       s.length ? Message("the bore is not said")
                                : Message("the length of the hilt is not said"),
                       "Type both, or neither and survey the hilt later");
    return first(
        {in_range("length", s.length, least_hilt_mm, most_hilt_mm, "the length of the hilt"),
         in_range("bore", s.bore, least_bore_mm, most_bore_mm, "the bore"),
         in_range("blade", s.blade, least_blade_mm, most_blade_mm, "the length of the blade", true),
         in_range("blade_outer", s.blade_outer, least_blade_outer_mm, most_blade_outer_mm,
                  "the diameter of the blade"),
         counted("strips", s.strips, 0, most_strips, "the number of strips"),
         counted("buttons", s.buttons, 0, most_buttons, "the number of buttons"),
         of_kind<catalogue::Strip>("strip", s.strip, parts),
         of_kind<catalogue::Board>("board", s.board, parts),
         of_kind<catalogue::Cell>("cell", s.cell, parts),
         of_kind<catalogue::Speaker>("speaker", s.speaker, parts),
         of_kind<catalogue::Kill>("kill", s.kill, parts),
         of_kind<catalogue::Connector>("connector", s.connector, parts)});
}

bool is_blank(const Job& job) {
    return job.hilt.sections.empty() && job.parts.empty() && job.blades.empty() &&
           job.wires.empty();
}

job::Edit begin_job(Start start, const Catalogue& parts) {
    return [start = std::move(start), &parts](Job& job) -> Result<void> {
        if (!is_blank(job))
            return problem("", "something is surveyed or fitted in this job already",
                           "Begin a new job, or change this one");
        if (const auto ok = check_start(start, parts); !ok) return ok;
        job = made(std::move(job), decided(with_the_brief(start, job.brief), parts), parts);
        return {};
    };
}

} // namespace conductus::plan
