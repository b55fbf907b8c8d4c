// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/bench/discharge_record_sheet.h"

#include <QComboBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/drawing/bench_drawing.h"
#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/shell/flow_layout.h"
#include "core/base/format.h"
#include "core/job/words.h"
#include "files/discharge_log_csv.h"
#include "files/disk.h"

namespace conductus::app {
namespace {

constexpr int every_ms = 2000; ///< of a log from the meter

} // namespace

DischargeRecordSheet::DischargeRecordSheet(const PageContext& context, BenchWork& work,
                                           QWidget* parent)
    : StationPage(context, parent), work_(work) {
    setObjectName("backdropPage");
    auto [sheet, column] = paper(tr("Discharge record"), {}, this);
    logs_ = new QComboBox(sheet);
    logs_->setObjectName("dischargeLogs");
    logs_->setAccessibleName(tr("Which log"));
    keep_least_width(logs_, context.appearance, 14);
    cell_ = new QComboBox(sheet);
    cell_->setObjectName("dischargeCell");
    cell_->setAccessibleName(tr("Which cell was discharged"));
    at_ = word_combo<job::DischargeAt>(sheet, "dischargeAt", tr("Where the volts were read"));
    auto* read = new QPushButton(tr("Read a log…"), sheet);
    read->setObjectName("dischargeRead");
    record_ = new QPushButton(tr("Log it from the meter"), sheet);
    record_->setObjectName("dischargeRecord");
    use_ = new QPushButton(tr("Use it as the cell's values"), sheet);
    use_->setObjectName("dischargeUse");
    drop_ = new QPushButton(tr("Take the log out"), sheet);
    drop_->setObjectName("dischargeDrop");
    auto* tools = new FlowLayout(10, 4);
    tools->addWidget(grouped(tr("log"), logs_, {}, sheet));
    tools->addWidget(read);
    tools->addWidget(grouped(tr("cell"), cell_, {}, sheet));
    tools->addWidget(grouped(tr("volts at the"), at_, {}, sheet));
    for (QPushButton* b : {record_, use_, drop_})
        tools->addWidget(b);
    column->addLayout(tools);
    said_ = label({}, "", sheet);
    said_->setObjectName("dischargeSaid");
    found_ = label({}, "second", sheet);
    found_->setObjectName("dischargeFound");
    for (QLabel* l : {said_, found_}) {
        l->setWordWrap(true);
        column->addWidget(l);
    }
    view_ = new DrawingView(
        "dischargeLog", tr("The log over the model"), context.appearance,
        [this]() -> DrawingPtr { return fit_ ? discharge_log_drawing(fit_) : nullptr; }, sheet);
    column->addWidget(view_, 1);
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->addWidget(sheet);
    connect(read, &QPushButton::clicked, this, [this] {
        const QString path = QFileDialog::getOpenFileName(window(), tr("Read a log of a discharge"),
                                                          {}, tr("Tables (*.csv)"), nullptr,
                                                          QFileDialog::DontUseNativeDialog);
        if (!path.isEmpty()) take_log(path);
    });
    connect(logs_, &QComboBox::activated, this, &DischargeRecordSheet::refresh);
    connect(use_, &QPushButton::clicked, this, [this] {
        if (fit_ && fitted_)
            context_.session.change(tr("Use a discharge for %1").arg(words(fitted_->cell)),
                                    bench::take_discharge(*fitted_, *fit_));
    });
    connect(drop_, &QPushButton::clicked, this, [this] {
        context_.session.change(
            tr("Take a log out"),
            bench::drop_discharge(static_cast<std::size_t>(std::max(0, logs_->currentIndex()))));
    });
    connect(record_, &QPushButton::clicked, this, [this] {
        if (running_) {
            every_.stop();
            job::DischargeLog log = std::move(*running_);
            running_.reset();
            log.points = bench::thinned(std::move(log.points));
            if (log.points.size() > 1)
                context_.session.change(tr("Log a discharge"),
                                        bench::keep_discharge(std::move(log)));
            return refresh();
        }
        running_ = job::DischargeLog{cell_->currentText().toStdString(),
                                     static_cast<job::DischargeAt>(at_->currentIndex()),
                                     today(),
                                     tr("from the meter, %1").arg(words(today())).toStdString(),
                                     {}};
        work_.meter().measure(job::Reads::volts);
        since_.start();
        every_.start(every_ms);
        refresh();
    });
    connect(&every_, &QTimer::timeout, this, &DischargeRecordSheet::log_point);
    connect(&work.meter(), &MeterLink::changed, this,
            [this] { record_->setEnabled(running_ || work_.meter().is_there()); });
    connect(&work, &BenchWork::bench_changed, this, &DischargeRecordSheet::refresh);
}

void DischargeRecordSheet::log_point() {
    const auto volts = work_.meter().reading();
    if (!running_ || !volts) return; // what is not there for a while is no point
    // Of an instrument that reads volts alone the current is the plan's, in the look of its use.
    const double planned = work_.bench() ? work_.bench()->lit_amps : 0;
    const double amps = work_.meter().amps().value_or(planned);
    running_->points.push_back({static_cast<double>(since_.elapsed()) / 1000, *volts, amps});
    refresh();
}

void DischargeRecordSheet::take_log(const QString& path) {
    const std::string name = QFileInfo(path).fileName().toStdString();
    const auto text = files::read_text(path.toStdString());
    auto read = text ? files::read_discharge_log(*text, name) : tl::unexpected(text.error());
    if (!read) return said_->setText(words(read.error()));
    job::DischargeLog log{cell_->currentText().toStdString(), read->at, today(), name,
                          bench::thinned(std::move(read->points))};
    // It is kept only if it says something.
    if (const auto fit = bench::fit_discharge(log, context_.session.job(), context_.session.parts(),
                                              work_.bench() ? work_.bench()->path_ohms : 0);
        !fit)
        return said_->setText(words(fit.error()));
    context_.session.change(tr("Read a discharge"), bench::keep_discharge(std::move(log)));
    refresh();
    logs_->setCurrentIndex(logs_->findText(words(name)));
    refresh();
}

const job::DischargeLog* DischargeRecordSheet::shown() const {
    if (running_ && running_->points.size() > 4) return &*running_;
    const auto& all = context_.session.job().bench.discharges;
    const int at = logs_->currentIndex();
    return at >= 0 && at < static_cast<int>(all.size()) ? &all[static_cast<std::size_t>(at)]
                                                        : nullptr;
}

void DischargeRecordSheet::refresh() {
    const job::Job& job = context_.session.job();
    QStringList names, cells, had;
    for (const job::DischargeLog& log : job.bench.discharges)
        names << words(log.name);
    for (int i = 0; i < logs_->count(); ++i)
        had << logs_->itemText(i);
    if (names != had) {
        const QString now = logs_->currentText();
        logs_->clear();
        logs_->addItems(names);
        logs_->setCurrentIndex(std::max(0, static_cast<int>(names.indexOf(now))));
        if (names.isEmpty()) logs_->setCurrentIndex(-1);
    }
    for (const job::Part& p : job.parts)
        if (context_.session.parts().find_as<catalogue::Cell>(p.type)) cells << words(p.ref);
    if (cell_->count() != cells.size()) {
        cell_->clear();
        cell_->addItems(cells);
    }
    const job::DischargeLog* log = shown();
    if (log) { // of which cell it is, and where its volts were read
        cell_->setCurrentText(words(log->cell));
        at_->setCurrentIndex(static_cast<int>(log->at));
    }
    fit_.reset();
    fitted_.reset();
    found_->clear();
    if (running_) {
        said_->setText(counted(static_cast<int>(running_->points.size()),
                               tr("Being logged: %1 moment."), tr("Being logged: %1 moments.")));
    } else if (!log) {
        said_->setText(tr("Nothing was logged yet. Read a table with the columns time_s, volts, "
                          "amps (cell_V or board_V say where the volts were read), or log it from "
                          "the meter while the hilt is lit in its use."));
    }
    if (log) {
        const auto fit = bench::fit_discharge(*log, job, context_.session.parts(),
                                              work_.bench() ? work_.bench()->path_ohms : 0);
        if (!fit) {
            said_->setText(words(fit.error()));
        } else {
            fit_ = std::make_shared<const bench::DischargeFit>(*fit);
            fitted_ = *log;
            QStringList says;
            for (const Message& m : fit->says)
                says << words(m) + QStringLiteral(".");
            said_->setText(says.join(QStringLiteral(" ")));
            const auto figure = [&](const bench::FoundFigure& f, const char* unit) {
                return f.determined
                           ? tr("%1 (%2 to %3), planned %4")
                                 .arg(words(with_unit(f.value, unit)),
                                      words(with_unit(f.low, unit)), words(with_unit(f.high, unit)),
                                      words(with_unit(f.planned, unit)))
                           : tr("not told by this log, planned %1")
                                 .arg(words(with_unit(f.planned, unit)));
            };
            found_->setText(
                tr("Capacity: %1. Resistance of the cell: %2. Between cell and board: %3. "
                   "At its start %4 % charged; %5 taken; the fit is %6 mV off.")
                    .arg(figure(fit->capacity, "mAh"), figure(fit->resistance, "Ohm"),
                         log->at == job::DischargeAt::board ? figure(fit->path, "Ohm")
                                                            : tr("not told at the cell"))
                    .arg(qRound(fit->charge.value * 100))
                    .arg(words(with_unit(fit->taken, "mAh")))
                    .arg(words(decimals(fit->residual_mV, 1))));
        }
    }
    use_->setEnabled(fit_ && !running_ &&
                     (fit_->capacity.determined || fit_->resistance.determined));
    drop_->setEnabled(log && !running_);
    record_->setText(running_ ? tr("Stop and keep it") : tr("Log it from the meter"));
    record_->setEnabled(running_ || work_.meter().is_there());
    view_->redraw();
}

void DischargeRecordSheet::show_job() { refresh(); }
void DischargeRecordSheet::show_plan(const PlanPtr& plan) {
    work_.follow(plan);
    refresh();
}

} // namespace conductus::app
