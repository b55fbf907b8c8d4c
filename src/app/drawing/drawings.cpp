// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawing/drawings.h"

#include <algorithm>

#include "app/drawing/bench_drawing.h"
#include "app/drawing/cells_drawing.h"
#include "app/drawing/chains_drawing.h"
#include "app/drawing/choices_drawing.h"
#include "app/drawing/cold_drawing.h"
#include "app/drawing/commands_drawing.h"
#include "app/drawing/connectors_drawing.h"
#include "app/drawing/day_drawing.h"
#include "app/drawing/days_drawing.h"
#include "app/drawing/discharge_drawing.h"
#include "app/drawing/film_drawing.h"
#include "app/drawing/lanes_drawing.h"
#include "app/drawing/looks_drawing.h"
#include "app/drawing/motion_drawing.h"
#include "app/drawing/part_drawing.h"
#include "app/drawing/ribbons_drawing.h"
#include "app/drawing/slice_drawing.h"
#include "app/drawing/sound_drawing.h"
#include "app/drawing/steps_drawing.h"
#include "app/drawing/tenths_drawing.h"
#include "app/drawing/variants_drawing.h"
#include "core/base/parse.h"
#include "core/job/lookup.h"

namespace conductus::app {
namespace {

using Made = Result<DrawingPtr>;
using R = const DrawingRequest&;

/// The look that is asked for; null where nothing is solved.
const plan::LookPlan* look_of(R r) {
    if (const auto* look = r.plan->look(r.look.empty() ? r.plan->job->use.look : r.look))
        return look;
    return r.plan->looks.empty() ? nullptr : &r.plan->looks.front();
}

Made section(R r) {
    LongSectionOptions options;
    options.overlay = r.overlay;
    options.look = QString::fromStdString(r.look.empty() ? r.plan->job->use.look : r.look);
    return section_drawing(r.plan, options);
}

Made slice(R r) {
    const auto at = r.at.empty() ? Result<Millimetre>(Millimetre(0)) : parse_length(r.at);
    if (!at) return tl::unexpected(at.error());
    return slice_drawing(r.plan, *at);
}

Made steps(R r) {
    const plan::LookPlan* look = look_of(r);
    if (!look) return problem("", "no look is solved", "See the findings of the job");
    return steps_drawing(std::make_shared<const plan::View>(look->views[plan::full]), {});
}

Made part(R r) {
    const std::string id =
        !r.part.empty() || r.plan->job->parts.empty() ? r.part : r.plan->job->parts.front().type;
    const auto* type = r.plan->parts->find(id);
    if (!type)
        return problem("--part", say("no part is called '{}'", shown(id, 60)),
                       "See conductus-cli catalogue list");
    return std::make_shared<const PartDrawing>(*type);
}

/// Every arrangement that goes in, one under the other.
Made arrangements(R r) {
    const auto found = r.answer(plan::OrdersInTheBore{});
    if (!*found) return tl::unexpected(found->error());
    std::vector<DrawingPtr> rows;
    for (const auto& drawn : (*found)->drawn)
        rows.push_back(small_section_drawing(drawn));
    if (rows.empty()) return problem("", "no arrangement goes in", "See the sheet Arrange");
    return make_drawing(
        [rows](double lettering) {
            QSizeF all = rows.front()->size(lettering);
            all.rheight() *= static_cast<double>(rows.size());
            return all;
        },
        [rows](const Surface& on) {
            const double height = on.frame.height() / static_cast<double>(rows.size());
            QRectF row(on.frame.topLeft(), QSizeF(on.frame.width(), height));
            for (const DrawingPtr& one : rows) {
                (void)one->paint({on.p, row, on.lettering, on.inks, on.exposed});
                row.translate(0, height);
            }
            return std::vector<HitBox>{};
        },
        [rows] {
            QStringList said;
            for (const DrawingPtr& one : rows)
                said << one->description();
            return said.join("; ");
        });
}

Made looks(R r) {
    return std::make_shared<const LooksDrawing>(
        r.plan, LooksDrawing::rows_of(*r.plan, true),
        QString::fromStdString(r.look.empty() ? r.plan->job->use.look : r.look));
}

Made film(R r) {
    const plan::LookPlan* look = look_of(r);
    if (!look) return problem("", "no look is solved", "See the findings of the job");
    const auto made = r.answer(plan::FilmOf{r.effect.empty() ? look->name : r.effect, look->name});
    if (!*made) return tl::unexpected(made->error());
    const auto at = r.at.empty() ? Result<double>(0.5) : parse_number(r.at, "s");
    if (!at) return tl::unexpected(at.error());
    const std::shared_ptr<const plan::Film> film(made, &**made);
    return std::make_shared<const FilmDrawing>(r.plan->job, film,
                                               FilmDrawing::frame_after(*film, *at));
}

/// The use, if it can be lived through.
Result<plan::AnswerPtr<plan::UseLivedThrough>> study(R r, std::vector<Celsius> temperatures = {}) {
    auto made = r.answer(plan::UseLivedThrough{std::move(temperatures)});
    if (!*made) return tl::unexpected(made->error());
    return made;
}

Made discharge(R r) {
    const auto made = study(r);
    if (!made) return tl::unexpected(made.error());
    const auto at = r.at.empty() ? Result<double>(0.0) : parse_number(r.at, "min");
    if (!at) return tl::unexpected(at.error());
    const auto& samples = (**made)->day.samples;
    std::size_t now = 0;
    while (now + 1 < samples.size() && samples[now].ignited < Minute(*at))
        ++now;
    return std::make_shared<const DischargeDrawing>(*r.plan, *made, false, now);
}

Made days(R r) {
    const auto made = study(r);
    if (!made) return tl::unexpected(made.error());
    const auto lived = r.answer(plan::ManyDays{(**made)->loads});
    if (!*lived) return tl::unexpected(lived->error());
    return std::make_shared<const DaysDrawing>(
        std::shared_ptr<const power::Percentiles>(lived, &**lived));
}

template <class D>
Made cold(R r) {
    const auto made = study(r, {plan::usual_cold, plan::usual_warm});
    if (!made) return tl::unexpected(made.error());
    return std::make_shared<const D>(*made);
}

Made choices(R r) {
    const auto made = r.answer(plan::WaysToBuild{});
    if (!*made) return tl::unexpected(made->error());
    const ChoicesPtr all(made, &**made);
    ChoicesDrawing::Shown shown;
    for (std::size_t i = 0; i < all->all.size(); ++i)
        if (all->all[i].fitted || all->all[i].changes.size() <= 2) shown.which.push_back(i);
    return std::make_shared<const ChoicesDrawing>(all, shown);
}

Made day(R r) {
    const auto made = study(r);
    if (!made) return tl::unexpected(made.error());
    return std::make_shared<const DayDrawing>((**made)->loads->phases, *made);
}

Made tenths(R r) {
    const auto made = r.answer(plan::WhyOf{r.figure.empty() ? "first-crackle" : r.figure});
    if (!*made) return tl::unexpected(made->error());
    return std::make_shared<const TenthsDrawing>(made, QString());
}

Made variants(R r) {
    const auto& all = r.plan->job->variants;
    if (all.empty())
        return problem("/variants", "no other way of building is kept", "Keep one to compare");
    const auto* named = r.variant.empty() ? &all.front() : job::find_name(all, r.variant);
    if (!named)
        return problem("/variants", say("no way of building is named '{}'", r.variant),
                       "Name one that is kept");
    const auto made = r.answer(plan::VariantBuilt{static_cast<std::size_t>(named - all.data())});
    if (!*made) return tl::unexpected(made->error());
    return std::make_shared<const VariantsDrawing>(r.plan, (*made)->plan);
}

/// What was read, or what it may be.
Result<DrawingPtr> of_bench(const DrawingRequest& r, bool readings) {
    const auto bench = r.answer(plan::BenchOf{});
    if (!*bench) return tl::unexpected(bench->error());
    const auto said = r.answer(plan::DiagnosisOf{bench, r.plan->job->bench});
    if (!*said) return tl::unexpected(said->error());
    const DiagnosisPtr diagnosis(said, &**said);
    return readings ? bands_drawing(diagnosis, -1) : may_drawing(diagnosis, -1);
}

} // namespace

const std::vector<OverlayEntry>& overlays() {
    static const std::vector<OverlayEntry> all{
        {Overlay::body, "body", QT_TRANSLATE_NOOP("Overlay", "Body"),
         QT_TRANSLATE_NOOP("Overlay", "Bodies, bores and where it is tight")},
        {Overlay::amps, "amps", QT_TRANSLATE_NOOP("Overlay", "Amps"),
         QT_TRANSLATE_NOOP("Overlay", "Solved currents, and where they are over a rating")},
        {Overlay::volts, "volts", QT_TRANSLATE_NOOP("Overlay", "Volts"),
         QT_TRANSLATE_NOOP("Overlay", "Solved voltages for the look and charge at the right")},
        {Overlay::heat, "heat", QT_TRANSLATE_NOOP("Overlay", "Heat"),
         QT_TRANSLATE_NOOP(
             "Overlay",
             "The highest temperatures with the look on, from full cells until they are empty")},
        {Overlay::sound, "sound", QT_TRANSLATE_NOOP("Overlay", "Sound"),
         QT_TRANSLATE_NOOP("Overlay", "The air behind the speaker, and its vents")}};
    return all;
}

const OverlayEntry* overlay_named(std::string_view id) {
    for (const OverlayEntry& overlay : overlays())
        if (overlay.id == id) return &overlay;
    return nullptr;
}

const std::vector<DrawingEntry>& drawings() {
    static const std::vector<DrawingEntry> all{
        {"section", QT_TRANSLATE_NOOP("Drawing", "Long section"), {"--overlay", "--look"}, section},
        {"slice", QT_TRANSLATE_NOOP("Drawing", "Slice"), {"--at"}, slice},
        {"small",
         QT_TRANSLATE_NOOP("Drawing", "Long section, small"),
         {},
         [](R r) -> Made { return small_section_drawing(r.plan); }},
        {"part", QT_TRANSLATE_NOOP("Drawing", "A part by itself"), {"--part"}, part},
        {"cells",
         QT_TRANSLATE_NOOP("Drawing", "Which cells go in"),
         {},
         [](R r) -> Made { return std::make_shared<const CellsDrawing>(r.plan); }},
        {"arrangements",
         QT_TRANSLATE_NOOP("Drawing", "Arrangements along the bore"),
         {},
         arrangements},
        {"looks",
         QT_TRANSLATE_NOOP("Drawing", "Looks, blades and what they draw"),
         {"--look"},
         looks},
        {"film",
         QT_TRANSLATE_NOOP("Drawing", "A look or effect in time"),
         {"--look", "--effect", "--at"},
         film},
        {"chains",
         QT_TRANSLATE_NOOP("Drawing", "Data lines as chains of pixels"),
         {},
         [](R r) -> Made { return chains_drawing(r.plan, {}); }},
        {"variants", QT_TRANSLATE_NOOP("Drawing", "Two ways of building"), {"--variant"}, variants},
        {"runtime",
         QT_TRANSLATE_NOOP("Drawing", "How long it runs"),
         {},
         [](R r) -> Made { return ribbons_drawing(r.plan, true); }},
        {"day", QT_TRANSLATE_NOOP("Drawing", "The day on a line of 24 hours"), {}, day},
        {"discharge", QT_TRANSLATE_NOOP("Drawing", "Volts over the use"), {"--at"}, discharge},
        {"days", QT_TRANSLATE_NOOP("Drawing", "Clean minutes of many days"), {}, days},
        {"cold",
         QT_TRANSLATE_NOOP("Drawing", "How long it runs cold and warm"),
         {},
         cold<ColdRibbonsDrawing>},
        {"cold-curves",
         QT_TRANSLATE_NOOP("Drawing", "The board at its worst peak, cold and warm"),
         {},
         cold<ColdCurvesDrawing>},
        {"choices", QT_TRANSLATE_NOOP("Drawing", "Ways of building on two axes"), {}, choices},
        {"tenths",
         QT_TRANSLATE_NOOP("Drawing", "What a tenth more of each input changes"),
         {"--figure"},
         tenths},
        {"steps", QT_TRANSLATE_NOOP("Drawing", "Where the volts go"), {"--look"}, steps},
        {"commands",
         QT_TRANSLATE_NOOP("Drawing", "Commands as state lines"),
         {},
         [](R r) -> Made { return commands_drawing(r.plan); }},
        {"readings",
         QT_TRANSLATE_NOOP("Drawing", "Readings of the bench against their bands"),
         {},
         [](R r) { return of_bench(r, true); }},
        {"faults",
         QT_TRANSLATE_NOOP("Drawing", "What it may be, by the readings of the bench"),
         {},
         [](R r) { return of_bench(r, false); }},
        {"loudness",
         QT_TRANSLATE_NOOP("Drawing", "How loud the fonts of the card are"),
         {},
         [](R r) -> Made { return loudness_drawing(r.plan); }},
        {"motion",
         QT_TRANSLATE_NOOP("Drawing", "Movements against the thresholds of the board"),
         {},
         [](R r) -> Made { return motion_drawing(r.plan); }},
        {"lanes",
         QT_TRANSLATE_NOOP("Drawing", "Wires as lanes"),
         {},
         [](R r) -> Made { return lanes_drawing(r.plan, {}); }},
        {"connectors", QT_TRANSLATE_NOOP("Drawing", "Connector faces"), {}, [](R r) -> Made {
             return connectors_drawing(r.plan, {});
         }}};
    return all;
}

const DrawingEntry* drawing_named(std::string_view id) {
    for (const DrawingEntry& drawing : drawings())
        if (drawing.id == id) return &drawing;
    return nullptr;
}

} // namespace conductus::app
