// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/bench/meter_sheet.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QTime>
#include <QVBoxLayout>

#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/shell/flow_layout.h"
#include "core/diagnose/words.h"

namespace conductus::app {
namespace {

constexpr int kept_lines = 200;

} // namespace

MeterSheet::MeterSheet(const PageContext& context, BenchWork& work, QWidget* parent)
    : StationPage(context, parent), work_(work), writer_([this](const QString&, const auto&) {
          bool good = false;
          const meter::Dialect d = typed_dialect(good);
          if (good) work_.set_dialect(d, address_->text());
          refresh();
      }) {
    setObjectName("backdropPage");
    auto [left, column] = paper(tr("Meter"), {}, this);
    address_ = new QLineEdit(work.kept_address(), left);
    address_->setObjectName("meterAddress");
    address_->setAccessibleName(tr("Where the meter is"));
    address_->setPlaceholderText(tr("ttyUSB0 9600, or 192.168.0.9:5025"));
    keep_width(address_, context.appearance, 17);
    ports_ = new QComboBox(left);
    ports_->setObjectName("meterPorts");
    ports_->setAccessibleName(tr("Serial ports that there are"));
    join_ = new QPushButton(left);
    join_->setObjectName("meterJoin");
    stand_in_ = new QPushButton(tr("Start the pretend meter"), left);
    stand_in_->setObjectName("meterStandIn");
    stand_in_->setToolTip(tr("A meter that is not there: it reads what this job would show"));
    reads_ = new QComboBox(left);
    reads_->setObjectName("meterReads");
    reads_->setAccessibleName(tr("What the meter reads"));
    for (const job::Reads r : {job::Reads::volts, job::Reads::amps, job::Reads::ohms})
        reads_->addItem(term(job::word(r)), static_cast<int>(r));
    auto* tools = new FlowLayout(10, 4);
    tools->addWidget(grouped(tr("at"), address_, {}, left));
    tools->addWidget(grouped(tr("or on"), ports_, {}, left));
    tools->addWidget(join_);
    tools->addWidget(stand_in_);
    column->addLayout(tools);
    state_ = label({}, "", left);
    state_->setObjectName("meterState");
    state_->setWordWrap(true);
    column->addWidget(state_);
    reading_ = label({}, "title", left);
    reading_->setObjectName("meterReading");
    column->addWidget(grouped(tr("it reads"), reads_, {}, left), 0, Qt::AlignLeft);
    column->addWidget(reading_);
    column->addWidget(label(tr("What came over the cable"), "heading", left));
    log_ = new QPlainTextEdit(left);
    log_->setObjectName("meterLog");
    log_->setAccessibleName(tr("What came over the cable"));
    log_->setReadOnly(true);
    log_->setMaximumBlockCount(kept_lines);
    column->addWidget(log_, 1);
    auto* caution = label(tr("Ohms are read with the cell out. Amps go through the meter: choose "
                             "its 10 A socket, and put the leads back for volts. Readings on mains "
                             "chargers are for licensed people."),
                          "second", left);
    caution->setWordWrap(true);
    column->addWidget(caution);

    auto [right, words_column] = paper(tr("Words that it understands"), {}, this);
    dialects_ = new QComboBox(right);
    dialects_->setObjectName("meterDialect");
    dialects_->setAccessibleName(tr("Begin with the words of"));
    for (const meter::Dialect& d : meter::dialects())
        dialects_->addItem(words(d.name));
    words_column->addWidget(grouped(tr("begin with"), dialects_, {}, right), 0, Qt::AlignLeft);
    writer_.show(meter::words_of(work.dialect()));
    Column sent = reading(tr("is sent, or is in the answer"), [this](int row) {
        const auto& all = writer_.document();
        return static_cast<std::size_t>(row) < all.size()
                   ? CellText(words(all[static_cast<std::size_t>(row)].text))
                   : CellText();
    });
    sent.edit = [this](int row, const std::string& typed) {
        return writer_.edit_of([row, typed](std::vector<meter::DialectWord>& all) -> Result<void> {
            all[static_cast<std::size_t>(row)].text = typed;
            if (const auto read = meter::dialect_of("own words", all); !read)
                return tl::unexpected(read.error());
            return {};
        });
    };
    words_ = new Table(
        {.object = "meterWords",
         .name = tr("Words that the meter understands"),
         .columns = {reading(tr("for"),
                             [this](int row) {
                                 const auto& all = writer_.document();
                                 return static_cast<std::size_t>(row) < all.size()
                                            ? CellText(
                                                  term(all[static_cast<std::size_t>(row)].what))
                                            : CellText();
                             }),
                     sent},
         .rows = {[this] { return static_cast<int>(writer_.document().size()); },
                  [this](int row) {
                      return words(writer_.document()[static_cast<std::size_t>(row)].what);
                  }},
         .wide = 1,
         .dense = true,
         .main = true,
         .writer = &writer_},
        context.appearance, right);
    words_column->addWidget(words_, 1);
    words_column->addWidget(words_->refusal());
    auto* where = label(tr("They are in the meter's own manual, under remote control. An empty "
                           "line is a word that it has not."),
                        "second", right);
    where->setWordWrap(true);
    words_column->addWidget(where);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(8);
    row->addWidget(left, 1);
    row->addWidget(right, 1);

    MeterLink& link = work.meter();
    connect(join_, &QPushButton::clicked, this, [this] {
        MeterLink& meter = work_.meter();
        if (meter.is_wanted()) {
            meter.close();
        } else if (address_->text().trimmed().isEmpty()) {
            say(tr("Say where the meter is: the name of a serial port, or its address and port."));
        } else {
            work_.set_dialect(work_.dialect(), address_->text().trimmed());
            meter.open(address_->text(), work_.dialect());
        }
        refresh();
    });
    connect(address_, &QLineEdit::returnPressed, join_, &QPushButton::click);
    connect(ports_, &QComboBox::activated, this, [this] {
        if (ports_->currentIndex() > 0) address_->setText(ports_->currentText() + " 9600");
    });
    connect(stand_in_, &QPushButton::clicked, this, [this] {
        if (!work_.start_stand_in({}))
            say(tr("The pretend meter is not beside this program, or the job can not be written."));
        refresh();
    });
    connect(reads_, &QComboBox::activated, this, [this] {
        work_.meter().measure(static_cast<job::Reads>(reads_->currentData().toInt()));
    });
    connect(dialects_, &QComboBox::activated, this, [this](int index) {
        const auto i = static_cast<std::size_t>(index);
        if (i >= meter::dialects().size()) return;
        writer_.show(meter::words_of(meter::dialects()[i]));
        work_.set_dialect(meter::dialects()[i], address_->text());
        refresh();
    });
    connect(&link, &MeterLink::changed, this, &MeterSheet::refresh);
    connect(&link, &MeterLink::trouble, this, &MeterSheet::say);
    refresh();
}

meter::Dialect MeterSheet::typed_dialect(bool& good) {
    auto read = meter::dialect_of("own words", writer_.document());
    good = read.has_value();
    return good ? *read : work_.dialect();
}

void MeterSheet::say(const QString& words) {
    log_->appendPlainText(QTime::currentTime().toString("HH:mm:ss ") + words);
}

void MeterSheet::refresh() {
    const MeterLink& meter = work_.meter();
    join_->setText(meter.is_wanted() ? tr("Part from it") : tr("Join it"));
    state_->setText(!meter.is_wanted() ? tr("No meter is joined: readings are typed.")
                    : meter.is_there() ? tr("✓ %1 at %2").arg(meter.identity(), meter.address())
                                       : tr("◆ Nothing answers at %1 yet.").arg(meter.address()));
    const auto now = meter.reading();
    reading_->setText(now ? words(diagnose::value_words(meter.measures(), *now)) +
                                (meter.is_steady() ? tr(", steady") : tr(", moving"))
                          : QStringLiteral("–"));
    reads_->setCurrentIndex(std::max(0, reads_->findData(static_cast<int>(meter.measures()))));
    words_->refresh();
}

void MeterSheet::show_job() {
    const QStringList there = MeterLink::serial_ports();
    ports_->clear();
    ports_->addItem(there.isEmpty() ? tr("no serial port") : tr("choose"));
    ports_->addItems(there);
    refresh();
}
void MeterSheet::show_plan(const PlanPtr& plan) { work_.follow(plan); }

} // namespace conductus::app
