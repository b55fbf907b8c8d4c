// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/bench/bench_work.h"

#include <cmath>

#include "app/session/words.h"
#include "files/disk.h"
#include "files/job_json.h"

namespace conductus::app {
namespace {

/// What the finder and the test plan depend on: of the bench only what was mended before, and how
/// far the cell is charged.
job::Job without_bench(const job::Job& job) {
    job::Job bare = job;
    bare.bench = {};
    bare.bench.mends = job.bench.mends;
    for (job::BenchMend& m : bare.bench.mends)
        m.proof.clear(), m.on.clear();
    bare.variants.clear(), bare.answered.clear(), bare.log.clear(), bare.milestones.clear();
    bare.handling.rehearsed.clear();
    return bare;
}

/// What a meter shows while its probes touch nothing. What really reads so is taken by the button.
bool is_in_the_air(job::Reads what, double value) {
    return what == job::Reads::ohms ? value > 1e5 : std::abs(value) < 0.004;
}

} // namespace

BenchWork::BenchWork(const PageContext& context, QObject* parent)
    : QObject(parent), context_(context), dialect_(meter::dialects().front()) {
    connect(&meter_, &MeterLink::changed, this, [this] {
        const auto now = meter_.reading();
        if (!now) return;
        lifted_ = lifted_ || is_in_the_air(meter_.measures(), *now) ||
                  (last_taken_ && std::abs(*now - *last_taken_) >
                                      2 * meter::apart(meter_.measures(), *last_taken_));
    });
    // A line for the address, a line for the name, then a word and its text each.
    const QStringList lines =
        context.settings ? context.settings->meter().split('\n') : QStringList();
    if (lines.size() > 2) {
        kept_address_ = lines[0];
        std::vector<meter::DialectWord> table;
        for (qsizetype i = 2; i < lines.size(); ++i)
            if (const qsizetype tab = lines[i].indexOf('\t'); tab > 0)
                table.push_back(
                    {lines[i].left(tab).toStdString(), lines[i].mid(tab + 1).toStdString()});
        if (auto read = meter::dialect_of(lines[1].toStdString(), table)) dialect_ = *read;
    }
}

void BenchWork::set_dialect(const meter::Dialect& dialect, const QString& address) {
    dialect_ = dialect;
    kept_address_ = address;
    if (!context_.settings) return;
    QStringList lines{address, words(dialect.name)};
    for (const meter::DialectWord& w : meter::words_of(dialect))
        lines << words(w.what) + '\t' + words(w.text);
    context_.settings->set_meter(lines.join('\n'));
}

QString BenchWork::trouble() const {
    return bench_ && !*bench_ ? words(bench_->error()) : QString();
}

void BenchWork::follow(const PlanPtr& plan) {
    if (!plan || plan->trouble) return;
    plan_ = plan;
    job::Job of = without_bench(*plan->job);
    // Some readings say how far the cells are charged, which all that is expected goes by.
    of.bench.readings = diagnose::readings_of_charge(plan->job->bench);
    if (of_ && *of_ == of && bench_) return ask_diagnosis();
    of_ = std::move(of);
    context_.session.ask(plan::BenchOf{}, this, [this](const BenchPtr& answer) {
        bench_ = answer;
        emit bench_changed();
        ask_diagnosis();
    });
}

void BenchWork::ask_diagnosis() {
    if (!bench()) {
        diagnosis_.reset();
        return emit diagnosis_changed();
    }
    context_.session.ask(plan::DiagnosisOf{bench_, plan_->job->bench}, this,
                         [this](const plan::AnswerPtr<plan::DiagnosisOf>& answer) {
                             if (!*answer) return;
                             diagnosis_ =
                                 std::shared_ptr<const diagnose::Diagnosis>(answer, &**answer);
                             emit diagnosis_changed();
                         });
}

bool BenchWork::start_stand_in(const QStringList& more) {
    folder_ = std::make_unique<QTemporaryDir>();
    if (!folder_->isValid()) return false;
    const QString file = folder_->filePath("job.json");
    auto attachments = context_.session.attachments();
    if (!attachments) return false;
    const auto text = files::job_file_text({context_.session.job(), std::move(*attachments)},
                                           context_.session.parts());
    if (!text || !files::write_own(path_of(file), *text)) return false;
    return meter_.start_stand_in(file, more, dialect_);
}

void BenchWork::set_takes_by_itself(bool wanted) {
    if (takes_by_itself_ == wanted) return;
    takes_by_itself_ = wanted;
    emit takes_by_itself_changed(wanted);
}

bool BenchWork::may_take_by_itself() const {
    if (!takes_by_itself_ || !lifted_ || !meter_.is_steady() || !meter_.reading()) return false;
    return meter_.is_stand_in() || !is_in_the_air(meter_.measures(), *meter_.reading());
}

void BenchWork::was_taken(double value) {
    last_taken_ = value;
    lifted_ = false;
}

void BenchWork::put_probes(job::Reads what, const std::string& state, const std::string& from,
                           const std::string& to, bool turned) {
    std::vector<Probe> probes;
    if (!from.empty()) probes.push_back({words(from), 1});
    if (!to.empty()) probes.push_back({words(to), 2});
    context_.selection.put_probes(probes);
    const PutAt at{{what, state, from, to}, turned};
    if (put_at_ == at) return;
    put_at_ = at;
    if (what == job::Reads::volts || what == job::Reads::amps || what == job::Reads::ohms) {
        lifted_ = meter_.is_stand_in();
        meter_.measure(what);
        meter_.probes(state, from, to, turned);
    }
    emit probes_put();
}

} // namespace conductus::app
