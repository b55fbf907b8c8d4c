// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/plan/choices.h"

#include "core/plan/answers.h"

#include <algorithm>
#include <atomic>
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <tuple>

#include "core/base/format.h"
#include "core/circuit/solver.h"
#include "core/hilt/fit.h"
#include "core/job/lookup.h"
#include "core/plan/choice_advice.h"
#include "core/plan/choice_build.h"
#include "core/plan/choice_candidates.h"
#include "core/plan/choice_leads.h"
#include "core/plan/options.h"
#include "core/power/luminance.h"
#include "core/power/use_day.h"

namespace conductus::plan {
namespace {

using catalogue::Catalogue;
using job::Job;

class Search {
public:
    Search(const Plan& plan, const ParallelFor& parallel_for, const std::function<bool()>& stop,
           const std::function<void(std::size_t, std::size_t)>& told)
        : plan_(plan), job_(*plan.job), parts_(*plan.parts), parallel_for_(parallel_for),
          stop_(stop), told_(told) {}

    Result<Choices> run() {
        const auto cell = job::first_of<catalogue::Cell>(job_, parts_);
        if (!cell) return problem("/parts", "there is no cell", "Fit a cell");
        if (plan_.trouble) return tl::unexpected(*plan_.trouble);
        rows_ = 0;
        for (const job::Part& part : job_.parts)
            rows_ += parts_.find_as<catalogue::Cell>(part.type) != nullptr;
        list_candidates(*cell.part);
        const auto groups = group();
        std::vector<std::vector<Choice>> found(groups.size());
        std::vector<Result<void>> done(groups.size());
        std::atomic<std::size_t> count{0};
        parallel_for_(groups.size(), [&](std::size_t i) {
            if (stop_ && stop_()) return;
            done[i] = solve(groups[i], found[i]);
            if (told_) told_(++count, groups.size());
        });
        Choices choices;
        choices.whole = !(stop_ && stop_());
        for (std::size_t i = 0; i < groups.size(); ++i)
            for (Choice& c : found[i]) // one that can not be solved is none
                choices.all.push_back(std::move(c));
        if (choices.all.empty()) {
            for (const auto& ok : done)
                if (!ok) return tl::unexpected(ok.error());
            return choices;
        }
        std::stable_sort(choices.all.begin(), choices.all.end(),
                         [](const Choice& a, const Choice& b) {
                             if (a.fitted != b.fitted) return a.fitted;
                             return a.clean > b.clean;
                         });
        mark_best(choices.all);
        say_changes(choices.all);
        if (choices.all.front().fitted) give_up(choices);
        if (choices.whole) reach(plan_, choices);
        return choices;
    }

private:
    [[nodiscard]] bool carries_all() const {
        const auto kill = job::first_of<catalogue::Kill>(job_, parts_);
        if (!kill || plan_.looks.empty()) return false;
        const auto& s = *plan_.looks.front().fresh;
        const double all = s.cell_amps();
        return std::abs(s.amps_of(kill.part->ref) - all) < 1e-6 * all;
    }
    void list_candidates(const job::Part& cell) {
        const double peak = plan_.run ? plan_.run->peak.value() : 0;
        // A kill that does not carry everything is not ohms ahead: then the fitted one stays.
        speakers_ = candidates<catalogue::Speaker>(plan_, [](const auto&) { return true; });
        kills_ = candidates<catalogue::Kill>(
            plan_, [&](const auto& k) { return carries_all() && k.rating.value() >= peak; });
        strips_ = {strip_id(job_)};
        if (!strips_.front().empty())
            for (const auto* type : parts_.all<catalogue::Strip>())
                if (type->id != strips_.front()) strips_.push_back(type->id);
        protections_ = {cell.protection.value_or("")};
        if (cell.protection) // a bare cell is a choice of the person, not ours
            for (const auto* type : parts_.all<catalogue::Protection>())
                if (type->id != protections_.front() &&
                    std::get<catalogue::Protection>(type->figures).trip.value() > peak)
                    protections_.push_back(type->id);
    }

    /// Cells that fit with that protection; the fitted one in any case.
    std::vector<Candidate> cells_with(const std::string& protection) const {
        Plan with;
        Job job = job_;
        change_protection(job, parts_, protection);
        with.job = std::make_shared<const Job>(std::move(job));
        with.parts = plan_.parts;
        const auto cell = job::first_of<catalogue::Cell>(job_, parts_);
        const std::string now = cell.part->adapter.value_or("");
        std::vector<Candidate> cells;
        const Millimetre wanted = job_.hilt.clearance;
        std::vector<Millimetre> own;
        for (const job::Part& part : job_.parts)
            if (parts_.find_as<catalogue::Cell>(part.type)) own.push_back(part.at);
        for (const hilt::CellTrial& t : cell_trials(with)) {
            const bool fitted =
                t.type == cell.part->type && protection == cell.part->protection.value_or("");
            if (fitted || t.trial.clearance.spare >= wanted)
                cells.push_back({t.type, t.type == cell.part->type ? now : "",
                                 t.trial.clearance.spare, fitted ? own : t.at});
        }
        for (const hilt::CellTrial& t : adapter_trials(with))
            if (t.trial.clearance.spare >= wanted)
                cells.push_back({t.type, t.adapter, t.trial.clearance.spare, t.at});
        return cells;
    }

    /// Ohms that wires gain where another cell or kill has its ends elsewhere.
    void lead() {
        const Leads leads(plan_);
        const double now = leads.ohms(job_);
        for (const Candidate& kill : kills_)
            for (std::size_t p = 0; p < protections_.size(); ++p)
                for (const Candidate& cell : cells_[p]) {
                    double& ohms = leads_[{kill.id, p, cell.id, cell.adapter}];
                    if (!leads.follow()) continue;
                    Choice c;
                    c.kill = kill.id;
                    c.protection = protections_[p];
                    c.cap = 1;
                    Job with = built(job_, parts_, c);
                    job::place_cells(cell.id, cell.adapter, cell.at, parts_)(with);
                    ohms = leads.ohms(with) - now;
                }
    }

    /// What shares its load curves: contacts, protection and lengths of wires that all of the
    /// current passes are ohms ahead of them, and the cell is not in them at all.
    std::vector<Choice> group() {
        rest_ = tightest_of_the_rest(plan_);
        if (plan_.storage) at_rest_ = at_rest(job_, parts_, *plan_.storage);
        for (const std::string& protection : protections_)
            cells_.push_back(cells_with(protection));
        lead();
        std::vector<Choice> groups;
        for (const Candidate& speaker : speakers_)
            for (const std::string& strip : strips_)
                for (const double cap : {1.0, 0.8, 0.6}) {
                    Choice c;
                    c.protection = protections_.front();
                    c.speaker = speaker.id;
                    c.kill = kills_.front().id;
                    c.strip = strip;
                    c.cap = cap;
                    c.clearance = std::min(rest_, speaker.clearance);
                    groups.push_back(std::move(c));
                }
        return groups;
    }

    [[nodiscard]] double contact(const std::string& kill) const {
        const auto fitted = job::first_of<catalogue::Kill>(job_, parts_);
        if (fitted && kill == fitted.part->type)
            return fitted.part->measured.resistance.value_or(fitted.figures->contact).value();
        const auto* k = parts_.find_as<catalogue::Kill>(kill);
        return k ? k->contact.value() : 0;
    }
    /// Protection, adapter, and the springs of the bay, where that cell is held in one.
    [[nodiscard]] double guard(const std::string& protection, const std::string& adapter,
                               const std::string& cell) const {
        const auto* p = parts_.find_as<catalogue::Protection>(protection);
        const auto* a = parts_.find_as<catalogue::Adapter>(adapter);
        job::Part held = *job::first_of<catalogue::Cell>(job_, parts_).part;
        held.type = cell;
        return (p ? p->resistance.value() : 0) + (a ? a->contacts.value() : 0) +
               job::bay_of(held, parts_).contacts.value();
    }

    Result<void> solve(const Choice& group, std::vector<Choice>& into) {
        const Job with = built(job_, parts_, group);
        auto loads = power::loads_of(with, parts_, with.use, power::Wanted::worst);
        if (!loads) return tl::unexpected(loads.error());
        const auto own = job::first_of<catalogue::Cell>(job_, parts_);
        const std::string own_adapter = own.part->adapter.value_or("");
        const double light = (*loads)->fresh_light;
        // Of cells side by side each has its own protection.
        const double each =
            (*loads)->pack.kind == power::Pack::Kind::beside ? 1 / static_cast<double>(rows_)
            : (*loads)->pack.kind == power::Pack::Kind::row  ? static_cast<double>(rows_)
                                                             : 1;
        for (const Candidate& kill : kills_)
            for (std::size_t p = 0; p < protections_.size(); ++p)
                for (const Candidate& cell : cells_[p]) {
                    if (stop_ && stop_()) return {};
                    Choice c = group;
                    c.kill = kill.id;
                    c.protection = protections_[p];
                    c.cell = cell.id;
                    c.adapter = cell.adapter;
                    c.at = cell.at;
                    c.clearance = std::min({c.clearance, kill.clearance, cell.clearance});
                    (*loads)->extra_series_ohms =
                        leads_.at({kill.id, p, cell.id, cell.adapter}) + contact(kill.id) -
                        contact(kills_.front().id) +
                        each * (guard(c.protection, c.adapter, c.cell) -
                                guard(protections_.front(), own_adapter, own.part->type));
                    run(c, with, **loads);
                    c.light = light;
                    c.fitted = c.cell == own.part->type && c.adapter == own_adapter &&
                               c.protection == protections_.front() && c.cap == 1 &&
                               c.strip == strips_.front() && c.speaker == speakers_.front().id &&
                               c.kill == kills_.front().id;
                    if (c.trips && !c.fitted) continue; // dark at the first clash
                    into.push_back(std::move(c));
                }
        return {};
    }

    /// Runs a choice down.
    void run(Choice& c, const Job& with, power::UseLoads& loads) const {
        Job job = with;
        const auto own = job::first_of<catalogue::Cell>(job_, parts_);
        change_protection(job, parts_, c.protection);
        job::fit_cells(c.cell, c.adapter, parts_)(job);
        if (c.cell == own.part->type) // what was measured is measured of it
            for (std::size_t i = 0; i < job.parts.size(); ++i)
                if (parts_.find_as<catalogue::Cell>(job.parts[i].type))
                    job.parts[i].measured = job_.parts[i].measured;
        loads.cells = power::cells_of(job, parts_);
        const power::Discharge run = power::run_down(loads);
        c.clean = run.clean(), c.bright = run.bright(), c.off = run.off;
        c.margin = run.samples.front().board_peak - run.need;
        c.overloaded =
            run.samples.front().amps > parts_.find_as<catalogue::Cell>(c.cell)->continuous;
        c.trips = run.tripped.has_value();
        AtRest at_rest = at_rest_;
        at_rest.capacity = loads.cells.front().capacity;
        const int sets = sets_a_day(run, job_.use, at_rest);
        c.covers = sets > 0;
        c.spares = std::max(0, sets - 1);
        if (const auto* speaker = parts_.find_as<catalogue::Speaker>(c.speaker)) {
            const auto* now = parts_.find_as<catalogue::Speaker>(speakers_.front().id);
            c.loudness = 10 * std::log10(speaker->power / now->power);
            if (speaker->sensitivity > 0 && now->sensitivity > 0)
                c.loudness += speaker->sensitivity - now->sensitivity;
        }
        weigh(c);
    }

    void weigh(Choice& c) const {
        const double n = static_cast<double>(rows_);
        auto sum = [&](auto&& of) {
            double all =
                n * (of(c.cell) + of(c.protection) + of(c.adapter)) + of(c.speaker) + of(c.kill);
            return all;
        };
        c.price = sum([&](const std::string& id) { return price_of(parts_, id); });
        for (const job::Blade& blade : job_.blades)
            for (const job::Strip& strip : blade.strips)
                c.price += price_of(parts_, c.strip) * strip.length.value() / 1000;
        auto grams = [&](const std::string& id) { return mass_of(parts_, id); };
        Choice now;
        const auto cell = job::first_of<catalogue::Cell>(job_, parts_);
        now.cell = cell.part->type;
        now.adapter = cell.part->adapter.value_or("");
        now.protection = protections_.front();
        now.speaker = speakers_.front().id;
        now.kill = kills_.front().id;
        const double was = n * (grams(now.cell) + grams(now.protection) + grams(now.adapter)) +
                           grams(now.speaker) + grams(now.kill);
        c.mass = Gram(plan_.hilt_report.mass.parts.value() + sum(grams) - was);
    }

    std::string name(const std::string& id) const {
        const auto* type = parts_.find(id);
        return type ? type->name : id;
    }
    void say_changes(std::vector<Choice>& all) const {
        const double now = all.front().fitted ? all.front().light : 0;
        const auto cell = job::first_of<catalogue::Cell>(job_, parts_);
        for (Choice& c : all) {
            if (now > 0) c.light /= now;
            if (c.cell != cell.part->type || c.adapter != cell.part->adapter.value_or(""))
                c.changes.push_back(name(c.cell) + (c.adapter.empty() ? "" : ", in an adapter"));
            if (c.protection != protections_.front()) c.changes.push_back(name(c.protection));
            if (c.speaker != speakers_.front().id) c.changes.push_back(name(c.speaker));
            if (c.kill != kills_.front().id) c.changes.push_back(name(c.kill));
            if (c.strip != strips_.front()) c.changes.push_back(name(c.strip));
            if (c.cap != 1) c.changes.push_back(fmt::format("everything at {:.0f} %", c.cap * 100));
        }
    }

    const Plan& plan_;
    const Job& job_;
    const Catalogue& parts_;
    const ParallelFor& parallel_for_;
    const std::function<bool()>& stop_;
    const std::function<void(std::size_t, std::size_t)>& told_;
    std::vector<Candidate> speakers_, kills_;
    std::vector<std::string> strips_, protections_;
    std::vector<std::vector<Candidate>> cells_; ///< with each protection
    std::map<std::tuple<std::string, std::size_t, std::string, std::string>, double> leads_;
    Millimetre rest_;
    AtRest at_rest_;
    int rows_ = 1;
};

} // namespace

Result<Choices> choices_of(const Plan& plan, const ParallelFor& parallel_for,
                           const std::function<bool()>& stop,
                           const std::function<void(std::size_t, std::size_t)>& told) {
    return Search(plan, parallel_for, stop, told).run();
}

} // namespace conductus::plan
