// SPDX-License-Identifier: GPL-3.0-or-later
// What the sheets of the bench share: the finder of the job, what it says by now, and the meter.
#pragma once

#include <QObject>
#include <QTemporaryDir>
#include <memory>
#include <optional>

#include "app/session/meter_link.h"
#include "app/stations/station_page.h"
#include "core/diagnose/diagnosis.h"

namespace conductus::app {

using BenchPtr = plan::AnswerPtr<plan::BenchOf>;

class BenchWork : public QObject {
    Q_OBJECT
public:
    BenchWork(const PageContext& context, QObject* parent);

    /// Asks what is not known yet of that plan's job.
    void follow(const PlanPtr& plan);
    /// Null: it is being worked out, or the job has no network to measure in (then trouble()).
    [[nodiscard]] const plan::BenchOf::Answer* bench() const {
        return bench_ && *bench_ ? &**bench_ : nullptr;
    }
    [[nodiscard]] const BenchPtr& answer() const { return bench_; }
    [[nodiscard]] QString trouble() const;
    [[nodiscard]] const std::shared_ptr<const diagnose::Diagnosis>& diagnosis() const {
        return diagnosis_;
    }
    [[nodiscard]] MeterLink& meter() { return meter_; }
    /// The words that the meter of this bench understands.
    [[nodiscard]] const meter::Dialect& dialect() const { return dialect_; }
    void set_dialect(const meter::Dialect& dialect, const QString& address);
    [[nodiscard]] QString kept_address() const { return kept_address_; }
    /// Starts the stand-in that ships on this job as it is.
    bool start_stand_in(const QStringList& more);

    /// A reading is taken by itself once the probes are at their new place and it is steady: where
    /// that is wanted, once a place. Somebody's probes are at it when they were lifted meanwhile:
    /// the reading was another one; those of the stand-in at once.
    [[nodiscard]] bool may_take_by_itself() const;
    void set_takes_by_itself(bool wanted);
    void was_taken(double value);
    /// Shows in the section where the probes go, and tells a stand-in; sets what the meter reads.
    void put_probes(job::Reads what, const std::string& state, const std::string& from,
                    const std::string& to, bool turned);

    /// The meter reads what is wanted where the probes are: pixels are counted by eye.
    [[nodiscard]] bool is_for_the_meter() const {
        return put_at_ && put_at_->measure.what == meter_.measures();
    }

signals:
    void probes_put();
    void takes_by_itself_changed(bool wanted);
    void bench_changed();
    void diagnosis_changed();

private:
    void ask_diagnosis();
    PageContext context_;
    MeterLink meter_;
    meter::Dialect dialect_;
    QString kept_address_;
    PlanPtr plan_;
    bool takes_by_itself_ = false, lifted_ = false;
    std::optional<double> last_taken_;
    /// Where the probes were put last.
    struct PutAt {
        diagnose::Measure measure;
        bool turned = false;
        bool operator==(const PutAt&) const = default;
    };
    std::optional<PutAt> put_at_;
    BenchPtr bench_;
    std::shared_ptr<const diagnose::Diagnosis> diagnosis_;
    std::optional<job::Job> of_;            ///< what bench_ was made of
    std::unique_ptr<QTemporaryDir> folder_; ///< of the stand-in's job
};

} // namespace conductus::app
