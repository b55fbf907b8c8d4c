// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/hilt/survey_columns.h"

#include <QCoreApplication>

#include "app/session/words.h"
#include "core/base/format.h"
#include "core/job/lookup.h"
#include "core/job/places.h"

namespace conductus::app {
namespace {

struct SurveyWords {
    Q_DECLARE_TR_FUNCTIONS(SurveyWords)
};

QString digits(Millimetre v) { return QString::number(v.value(), 'g', 10); }

/// "28.4", or "28.4 > 27" for a taper.
QString diameters(Millimetre near, const std::optional<Millimetre>& far) {
    return far ? digits(near) + " > " + digits(*far) : digits(near);
}

/// The type of a part by what was typed: a name of its kind, or the beginning of only one.
Result<std::string> type_typed(const catalogue::Catalogue& parts, std::size_t kind,
                               const std::string& typed) {
    const QString wanted = words(typed);
    std::vector<std::string> near;
    for (const std::string& id : parts.ids()) {
        const auto* type = parts.find(id);
        if (type->figures.index() != kind) continue;
        if (typed == type->name || typed == id) return id;
        if (words(type->name).contains(wanted, Qt::CaseInsensitive)) near.push_back(id);
    }
    if (near.size() == 1) return near.front();
    return problem("",
                   near.empty() ? "no such part is in the catalogue"
                                : "more than one part of the catalogue is called like that",
                   "Choose one of the list behind the arrow");
}

} // namespace

std::vector<Column> survey_columns(const Session& session) {
    const std::string list = "/hilt/sections";
    const auto section = [&session](int row) -> const job::BoreSection& {
        return session.job().hilt.sections[static_cast<std::size_t>(row)];
    };
    const auto wall = [section](int row) {
        const job::BoreSection& s = section(row);
        return SurveyWords::tr("wall %1 mm").arg(digits((s.outer - s.bore) / 2));
    };
    Column from = value_column(session, SurveyWords::tr("from"), list, "from_mm");
    from.fixed = [](int row) { return row == 0; }; // the first begins at the pommel end
    Column bore = figures(SurveyWords::tr("bore ø"), [=](int row) {
        return CellText(diameters(section(row).bore, section(row).bore_end), wall(row));
    });
    bore.edit = [](int row, const std::string& typed) {
        return job::measure_section(static_cast<std::size_t>(row), false, typed);
    };
    Column outer = figures(SurveyWords::tr("outer ø"), [=](int row) {
        return CellText(diameters(section(row).outer, section(row).outer_end), wall(row));
    });
    outer.edit = [](int row, const std::string& typed) {
        return job::measure_section(static_cast<std::size_t>(row), true, typed);
    };
    return {value_column(session, SurveyWords::tr("section"), list, "name"), std::move(from),
            value_column(session, SurveyWords::tr("to"), list, "to_mm"), std::move(bore),
            std::move(outer)};
}

std::vector<Column> part_columns(const Session& session, const PlanPtr& plan) {
    const auto part = [&session](int row) -> const job::Part& {
        return session.job().parts[static_cast<std::size_t>(row)];
    };
    const auto type = [&session, part](int row) { return session.parts().find(part(row).type); };
    Column what = reading(SurveyWords::tr("what"),
                          [type](int row) { return CellText(words(type(row)->name)); });
    what.choices = [&session, type](int row) {
        QStringList names;
        for (const std::string& id : session.parts().ids())
            if (session.parts().find(id)->figures.index() == type(row)->figures.index())
                names << words(session.parts().find(id)->name);
        return names;
    };
    what.edit = [&session, &plan, part, type](int row, const std::string& typed) -> job::Edit {
        const catalogue::Catalogue& parts = session.parts();
        const auto id = type_typed(parts, type(row)->figures.index(), typed);
        if (!id) return job::refused(id.error());
        // A cell is moved to where it fits best, if the plan knows.
        const auto cell = job::first_of<catalogue::Cell>(session.job(), parts);
        if (plan && cell && cell.part->ref == part(row).ref)
            for (const auto& option : plan->options)
                if (option.type == *id) return plan::fit_option(parts, option);
        return job::fit_type(part(row).ref, *id);
    };
    Column at = value_column(session, SurveyWords::tr("starts at"), "/parts", "at_mm");
    at.show = [show = at.show](int row) {
        return CellText(show(row).text, SurveyWords::tr("Millimetres from the pommel end"));
    };
    Column spare = figures(SurveyWords::tr("spare"), [&plan, part](int row) {
        if (!plan) return CellText();
        const auto* c = plan->fit.of(part(row).ref);
        if (!c) return CellText(SurveyWords::tr("in the wall"));
        return CellText(words(c->spare),
                        SurveyWords::tr("in %1 at %2").arg(words(c->against), words(c->at)),
                        c->spare < Millimetre(0) ? CellInk::stop : CellInk::ink);
    });
    return {value_column(session, SurveyWords::tr("part"), "/parts", "ref"), std::move(what),
            std::move(at), std::move(spare)};
}

} // namespace conductus::app
