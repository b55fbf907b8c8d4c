// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/hilt/assembly_sheet.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QVBoxLayout>
#include <cmath>

#include "app/session/words.h"
#include "app/shell/fields.h"
#include "core/base/format.h"

namespace conductus::app {
namespace {

QString access_name(const std::string& what) {
    if (what == "data_port") return AssemblySheet::tr("data port");
    if (what == "kill") return AssemblySheet::tr("kill switch");
    if (what == "card") return AssemblySheet::tr("card");
    if (what == "cell") return AssemblySheet::tr("cell");
    return AssemblySheet::tr("blade");
}

} // namespace

AssemblySheet::AssemblySheet(const PageContext& context, QWidget* parent)
    : StationPage(context, parent) {
    setObjectName("backdropPage");
    auto [left, left_column] =
        paper(tr("Order of assembly"), tr("apart: the same, backwards"), this);
    trouble_ = label({}, "refused", left);
    trouble_->setObjectName("assemblyTrouble");
    trouble_->setWordWrap(true);
    left_column->addWidget(trouble_);
    const auto step = [this](int row) -> const hilt::Step& {
        return plan_->hilt_report.assembly.steps[static_cast<std::size_t>(row)];
    };
    steps_ = new Table(
        {.object = "assemblySteps",
         .name = tr("Order of assembly"),
         .columns = {figures(tr("no."), [](int row) { return QString::number(row + 1); }),
                     reading(tr("step"), [step](int row) { return words(step(row).text); }),
                     reading(tr("why"), [step](int row) { return words(step(row).why); })},
         .rows = {[this] {
             return plan_ ? static_cast<int>(plan_->hilt_report.assembly.steps.size()) : 0;
         }},
         .wide = 2,
         .wrap = true,
         .main = true,
         .empty = tr("Nothing is fitted yet.")},
        context.appearance, left);
    steps_->horizontalHeader()->setSectionResizeMode(1, QHeaderView::Stretch);
    left_column->addWidget(steps_, 1);
    keys_ = label({}, "second", left);
    keys_->setObjectName("assemblyKeys");
    keys_->setWordWrap(true);
    left_column->addWidget(keys_);

    auto [right, right_column] = paper(tr("To reach"), tr("in the finished hilt"), this);
    const auto access = [this](int row) -> const hilt::Access& {
        return plan_->hilt_report.assembly.access[static_cast<std::size_t>(row)];
    };
    access_ = new Table(
        {.object = "access",
         .name = tr("What has to come off to reach a thing"),
         .columns = {reading(tr("what"),
                             [access](int row) { return access_name(access(row).what); }),
                     figures(tr("steps"),
                             [access](int row) {
                                 return access(row).possible
                                            ? QString::number(access(row).steps.size())
                                            : QString("–");
                             }),
                     reading(tr("how"),
                             [access](int row) {
                                 QStringList how;
                                 for (const hilt::Step& s : access(row).steps)
                                     how << words(s.text);
                                 return CellText(
                                     !access(row).possible
                                         ? tr("not without what is never loosened, or barred")
                                     : how.isEmpty() ? tr("as it is")
                                                     : how.join("; "));
                             })},
         .rows = {[this] {
             return plan_ ? static_cast<int>(plan_->hilt_report.assembly.access.size()) : 0;
         }},
         .wide = 2,
         .wrap = true,
         .empty =
             tr("Survey the hilt and fit a cell: then it is said what has to come off to reach "
                "it.")},
        context.appearance, right);
    right_column->addWidget(access_, 1);
    figures_ = label({}, "", right);
    figures_->setObjectName("hiltFigures");
    figures_->setTextFormat(Qt::RichText);
    figures_->setWordWrap(true);
    right_column->addWidget(figures_);

    auto* both = new QHBoxLayout(this);
    both->setContentsMargins(0, 0, 0, 0);
    both->setSpacing(10);
    both->addWidget(left, 11);
    both->addWidget(right, 9);
    connect(steps_, &Table::row_chosen, this,
            [this, step](int row) { context_.selection.choose(words(step(row).ref)); });
}

void AssemblySheet::show_plan(const PlanPtr& plan) {
    const hilt::Report& report = plan->hilt_report;
    const hilt::Assembly& a = report.assembly;
    trouble_->setVisible(!a.possible);
    trouble_->setText(words(a.trouble));
    plan_ = plan;
    steps_->refresh();
    access_->refresh();
    QStringList keys, warnings;
    for (const std::string& k : a.keys)
        keys << words(k);
    for (const std::string& w : a.warnings)
        warnings << words(w);
    QString below = keys.isEmpty() ? QString() : tr("Keys: %1.").arg(keys.join(", "));
    if (!warnings.isEmpty()) below += " " + tr("Mind: %1.").arg(warnings.join("; "));
    keys_->setText(below.trimmed());
    QStringList lines;
    const auto line = [&](const QString& name, const QString& value) {
        lines << QString("<p style='margin:2px 0'><b>%1</b>&nbsp; %2</p>")
                     .arg(name.toHtmlEscaped(), value.toHtmlEscaped());
    };
    for (const hilt::SocketFit& s : report.sockets) {
        QString says = tr("seats %1 of %2, good for %3")
                           .arg(words(s.seats), words(s.depth), term(hilt::word(s.holds)));
        if (!s.why.empty()) says += "; " + words(s.why);
        if (s.mend > Millimetre(0))
            says += "; " + tr("open the step or thin the foot by %1").arg(words(s.mend));
        line(s.socket.empty() ? words(s.blade)
                              : tr("%1 in %2").arg(words(s.blade), words(s.socket)),
             says);
    }
    if (report.sound) {
        const hilt::SoundSpace& s = *report.sound;
        QString says = tr("cavity %1 ml").arg(words(three_figures(s.cavity_ml)));
        says +=
            s.sealed
                ? ", " +
                      tr("%1 ml without its spacer").arg(words(three_figures(s.without_spacer_ml)))
                : ", " +
                      tr("%1 ml with a spacer behind").arg(words(three_figures(s.with_spacer_ml)));
        if (s.vents_mm2 > 0)
            says += ", " + tr("vents %1 % of the cone")
                               .arg(words(three_figures(100 * s.vents_mm2 / s.cone_mm2)));
        if (s.resonance_hz)
            says += ", " + (s.before_cone ? tr("the air before the cone rings at %1 Hz")
                                          : tr("it rings at %1 Hz"))
                               .arg(words(three_figures(std::round(*s.resonance_hz / 10) * 10)));
        if (plan->loudness) {
            const power::LoudnessFigure& l = *plan->loudness;
            const auto decibels = [](double dB) {
                return words(with_unit(std::round(10 * dB) / 10, "dB"));
            };
            says += ", " + (l.below_full > 0 ? tr("%1 more than the board has")
                                             : tr("%1 below all the board has"))
                               .arg(decibels(std::abs(l.below_full)));
            if (l.level) says += ", " + tr("about %1 at a metre").arg(decibels(*l.level));
        }
        line(tr("Sound"), says);
    }
    const hilt::Masses& m = report.mass;
    const auto weighs = [](const hilt::Balance& b) {
        return tr("%1 g at %2").arg(words(three_figures(std::round(b.mass.value()))), words(b.at));
    };
    line(tr("Mass and balance"),
         tr("%1; without blade %2; without cell %3; bare %4")
             .arg(weighs(m.all), weighs(m.without_blade), weighs(m.without_cell), weighs(m.bare)));
    figures_->setText(lines.join(""));
}

} // namespace conductus::app
