// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/parts/measure_page.h"

#include <QFileDialog>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QPointer>
#include <QPushButton>
#include <QVBoxLayout>
#include <cmath>

#include "app/drawing/fit_drawing.h"
#include "app/session/words.h"
#include "app/shell/flow_layout.h"
#include "core/job/part_form.h"
#include "core/job/places.h"
#include "files/disk.h"
#include "files/readings_csv.h"

namespace conductus::app {

using bench::Reading;
using bench::Readings;
using bench::Specimen;

namespace {

enum ReadingColumn { condition, seconds, charge, volts, tip, amps, reading_columns };

/// Which of them say something of a specimen.
bool is_read(Specimen specimen, int column) {
    switch (column) {
    case condition:
        return specimen == Specimen::strip || specimen == Specimen::pixel ||
               specimen == Specimen::board;
    case seconds:
    case charge:
        return specimen == Specimen::cell;
    case tip:
        return specimen == Specimen::strip;
    default:
        return true;
    }
}

QStringList conditions_of(Specimen specimen) {
    return specimen == Specimen::board
               ? QStringList{"idle", "active", "asleep"}
               : QStringList{"red", "green", "blue", "white die", "white", "dark"};
}

/// What is to be read, for who has not done it before.
QString how_to(Specimen specimen) {
    switch (specimen) {
    case Specimen::strip:
        return MeasurePage::tr(
            "Feed the strip at its foot and light it in one colour, then in white, at a few "
            "voltages from 3.2 to 5 V. Read the amps, and the volts at its foot and at its last "
            "pixel. Dark tells the quiet current.");
    case Specimen::pixel:
        return MeasurePage::tr("Light one pixel in each colour at a few voltages; read its volts "
                               "and amps. Dark tells the quiet current.");
    case Specimen::cell:
        return MeasurePage::tr(
            "Read the volts at rest (0 A) and at two loads or more, at one state of charge or at "
            "several; or take a discharge as a table of time, volts and amps. Stop where the cell "
            "is rated to stop, and stay with it.");
    case Specimen::contact:
        return MeasurePage::tr("Send a known current through it and read the drop across it, at "
                               "two currents or more.");
    case Specimen::led:
        return MeasurePage::tr("Read volts and amps at two points at least, one of them near the "
                               "current it is meant to run at.");
    case Specimen::board:
        return MeasurePage::tr(
            "Read the amps that the board alone takes, idle, active (lit, without sound) and "
            "asleep.");
    }
    return {};
}

} // namespace

MeasurePage::MeasurePage(OwnShelf& shelf, const Appearance& appearance, QWidget* parent)
    : QWidget(parent), shelf_(shelf), appearance_(appearance),
      draft_([this](const QString&, const Readings& before) { changed_from(before); }) {
    setObjectName("backdropPage");
    setAttribute(Qt::WA_StyledBackground);
    row_ = new QBoxLayout(QBoxLayout::LeftToRight, this);
    row_->setContentsMargins(0, 0, 0, 0);
    row_->setSpacing(8);
    row_->addWidget(make_readings(this), 5);
    row_->addWidget(make_found(this), 6);
}

QWidget* MeasurePage::make_readings(QWidget* parent) {
    auto [left, column] = paper({}, {}, parent);
    auto* head = qobject_cast<QHBoxLayout*>(column->itemAt(0)->layout());
    title_ = qobject_cast<QLabel*>(head->itemAt(0)->widget());
    title_->setObjectName("measureTitle");
    title_->setWordWrap(true);
    head->setStretch(0, 1);
    const auto button = [left = left](const char* object, const QString& text, const QString& tip) {
        auto* b = new QPushButton(text, left);
        b->setObjectName(object);
        b->setToolTip(tip);
        return b;
    };
    undo_ = button("measureUndo", tr("Undo"), tr("Ctrl+Z"));
    redo_ = button("measureRedo", tr("Redo"), tr("Ctrl+Y"));
    auto* close = button("measureClose", tr("Close"), tr("Esc"));
    for (QPushButton* b : {undo_, redo_, close})
        head->addWidget(b);
    how_ = label({}, "second", left);
    how_->setWordWrap(true);
    column->addWidget(how_);

    sizes_ = new QWidget(left);
    auto* sizes = new QHBoxLayout(sizes_);
    sizes->setContentsMargins(0, 0, 0, 0);
    pixels_ = new EntryField(
        tr("Pixels of the strip"), [this](const QString& t) { return type_number(t, true); },
        sizes_);
    pixels_->setObjectName("measurePixels");
    length_ = new EntryField(
        tr("Length of the strip, mm"), [this](const QString& t) { return type_number(t, false); },
        sizes_);
    length_->setObjectName("measureLength");
    sizes->addWidget(label(tr("pixels"), "second", sizes_));
    sizes->addWidget(pixels_, 1);
    sizes->addWidget(label(tr("length, mm"), "second", sizes_));
    sizes->addWidget(length_, 1);
    column->addWidget(sizes_);

    const auto row_of = [this](int row) -> const Reading& {
        return draft_.document().rows[static_cast<std::size_t>(row)];
    };
    const auto number = [&](const QString& title, const char* unit, const char* typed_unit,
                            double times, std::optional<double> Reading::*value,
                            job::limits::Range range) {
        Column c = figures(title, [row_of, value, times](int row) {
            const auto& v = row_of(row).*value;
            return v ? QString::number(*v * times, 'g', 10) : QString();
        });
        c.unit = unit;
        c.edit = [this, value, typed_unit, times, range](int row, const std::string& typed) {
            return draft_.edit_of([=](Readings& readings) -> Result<void> {
                auto& v = readings.rows.at(static_cast<std::size_t>(row)).*value;
                if (typed.empty()) {
                    v.reset();
                    return {};
                }
                const auto read = job::number_typed(typed, typed_unit, range);
                if (!read) return tl::unexpected(read.error());
                v = *read / times;
                return {};
            });
        };
        return c;
    };
    Column state =
        reading(tr("lit, or state"), [row_of](int row) { return term(row_of(row).condition); });
    state.choices = [this](int) { return conditions_of(specimen_); };
    state.edit = [this](int row, const std::string& typed) {
        return draft_.edit_of([=, this](Readings& readings) -> Result<void> {
            for (const QString& known : conditions_of(specimen_))
                if (!typed.empty() && known.startsWith(words(typed), Qt::CaseInsensitive)) {
                    readings.rows.at(static_cast<std::size_t>(row)).condition = known.toStdString();
                    return {};
                }
            return problem(
                "", say("'{}' is not known here", shown(typed, 60)),
                say("Write one of: {}", conditions_of(specimen_).join(", ").toStdString()));
        });
    };
    std::vector<Column> columns;
    columns.push_back(std::move(state));
    columns.push_back(number(tr("time"), "s", "s", 1, &Reading::seconds, {0, 1e7}));
    columns.push_back(number(tr("charge"), "%", "%", 100, &Reading::charge, {0, 100}));
    columns.push_back(number(tr("volts"), "V", "V", 1, &Reading::volts, {-1000, 1000}));
    columns.push_back(number(tr("at its tip"), "V", "V", 1, &Reading::tip, {-1000, 1000}));
    columns.push_back(number(tr("amps"), "A", "A", 1, &Reading::amps, {-1000, 1000}));
    TableRows rows{[this] { return static_cast<int>(draft_.document().rows.size()); },
                   [](int row) { return tr("reading %1").arg(row + 1); }};
    rows.add = [this] {
        return draft_.edit_of([](Readings& readings) -> Result<void> {
            if (readings.rows.size() >= files::most_readings)
                return problem("", "there are too many readings", "Leave some out");
            Reading next;
            // What was lit for the last reading mostly is for the next.
            if (!readings.rows.empty()) next.condition = readings.rows.back().condition;
            readings.rows.push_back(next);
            return {};
        });
    };
    rows.take_out = [this](int row) {
        return draft_.edit_of([row](Readings& readings) -> Result<void> {
            readings.rows.erase(readings.rows.begin() + row);
            return {};
        });
    };
    readings_ = new Table({.object = "measureReadings",
                           .name = tr("Readings"),
                           .what = tr("Reading"),
                           .columns = std::move(columns),
                           .rows = std::move(rows),
                           .wide = -1,
                           .dense = true,
                           .main = true,
                           .empty = tr("Type the first reading, or paste a table."),
                           .writer = &draft_},
                          appearance_, left);
    column->addWidget(readings_, 1);
    column->addWidget(readings_->refusal());
    auto* in = button("measureIn", tr("Readings from a file"),
                      tr("A table with time, volts, amps, colour …"));
    auto* out = button("measureOut", tr("To a file"), tr("As a table, CSV"));
    auto* holder = new QWidget(left);
    auto* flow = new FlowLayout(8, 6);
    holder->setLayout(flow);
    flow->addWidget(in);
    flow->addWidget(out);
    column->addWidget(holder);
    connect(undo_, &QPushButton::clicked, this, &MeasurePage::undo);
    connect(redo_, &QPushButton::clicked, this, &MeasurePage::redo);
    connect(close, &QPushButton::clicked, this, &MeasurePage::closed);
    connect(in, &QPushButton::clicked, this, [this] {
        const QString path = QFileDialog::getOpenFileName(
            this, tr("Read a table of readings"), {}, tr("Tables (*.csv *.txt);;All files (*)"),
            nullptr, QFileDialog::DontUseNativeDialog);
        if (!path.isEmpty()) read_file(path_of(path));
    });
    connect(out, &QPushButton::clicked, this, [this] {
        const QString path = QFileDialog::getSaveFileName(
            this, tr("Write the readings"), "readings.csv", tr("A table (*.csv)"), nullptr,
            QFileDialog::DontUseNativeDialog);
        if (!path.isEmpty()) write_file(path_of(path));
    });
    return left;
}

QWidget* MeasurePage::make_found(QWidget* parent) {
    auto [right, column] = paper(tr("What they say"), {}, parent);
    drawing_ = new DrawingView(
        "measureDrawing", tr("Readings and model, over each other"), appearance_,
        [this]() -> DrawingPtr {
            return found_ ? std::make_shared<const FitDrawing>(*found_) : nullptr;
        },
        right);
    said_ = label({}, "refused", right);
    said_->setObjectName("measureSaid");
    said_->setWordWrap(true);
    const auto found = [this](int row) -> const bench::Found& {
        return found_->parameters[static_cast<std::size_t>(row)];
    };
    table_ = new Table(
        {.object = "measureFound",
         .name = tr("What was found"),
         .columns = {reading(tr("figure"), [found](int row) { return term(found(row).name); }),
                     figures(tr("is"),
                             [found](int row) {
                                 return words(with_unit(found(row).value, found(row).unit));
                             }),
                     figures(tr("give or take"),
                             [found](int row) -> CellText {
                                 const bench::Found& f = found(row);
                                 if (!f.determined) return QString();
                                 return words(with_unit((f.high - f.low) / 2, f.unit));
                             }),
                     reading(tr("known from"),
                             [found](int row) {
                                 return found(row).determined
                                            ? CellText(tr("the readings"), CellInk::fine)
                                            : CellText(tr("its class: not determined"),
                                                       CellInk::second);
                             })},
         .rows = {[this] { return found_ ? static_cast<int>(found_->parameters.size()) : 0; },
                  [found](int row) { return words(found(row).name); }},
         .wide = 0,
         .dense = true,
         .least_rows = 4,
         .empty = tr("Type a first reading at the left, paste a table from a spreadsheet, or take "
                     "one from a file.")},
        appearance_, right);
    notes_ = label({}, "second", right);
    notes_->setObjectName("measureNotes");
    notes_->setWordWrap(true);
    make_ = new QPushButton(tr("One of your own with these figures"), right);
    make_->setObjectName("measureMake");
    with_text_size(drawing_, appearance_,
                   [this] { drawing_->setMinimumHeight(qRound(appearance_.text() * 15)); });
    column->addWidget(drawing_, 5);
    column->addWidget(table_, 4);
    column->addWidget(notes_);
    column->addWidget(said_);
    auto* foot = new QHBoxLayout;
    foot->addWidget(make_);
    foot->addStretch();
    column->addLayout(foot);
    connect(make_, &QPushButton::clicked, this, &MeasurePage::make_part);
    return right;
}

bool MeasurePage::begin(const std::string& id) {
    const auto* type = shelf_.parts().find(id);
    const auto specimen = type ? bench::specimen_of(*type) : std::nullopt;
    if (!specimen) return false;
    if (id != id_) {
        before_.clear();
        after_.clear();
    }
    id_ = id;
    specimen_ = *specimen;
    title_->setText(tr("Readings of %1").arg(words(type->name)));
    how_->setText(how_to(specimen_));
    make_->setText(shelf_.is_own(id) ? tr("Write it into the part")
                                     : tr("One of your own with these figures"));
    for (int c = 0; c < reading_columns; ++c)
        readings_->setColumnHidden(c, !is_read(specimen_, c));
    sizes_->setVisible(specimen_ == Specimen::strip);
    said_->clear();
    Readings readings;
    if (const std::string kept = shelf_.readings_of(id); !kept.empty())
        if (auto read = files::read_readings(kept, "readings")) readings = std::move(*read);
    show_readings(std::move(readings));
    readings_->setFocus(Qt::OtherFocusReason);
    for (int c = 0; c < reading_columns; ++c)
        if (is_read(specimen_, c)) {
            readings_->setCurrentIndex(readings_->model()->index(0, c));
            break;
        }
    return true;
}

void MeasurePage::show_readings(Readings readings) {
    draft_.show(std::move(readings));
    readings_->refresh();
    const auto& now = draft_.document();
    pixels_->show_value(now.pixels ? QString::number(*now.pixels) : QString());
    length_->show_value(now.metres ? QString::number(*now.metres * 1000, 'g', 7) : QString());
    undo_->setEnabled(!before_.empty());
    redo_->setEnabled(!after_.empty());
    ask();
}

Readings MeasurePage::whole() const {
    Readings readings = draft_.document();
    for (std::size_t i = 0; i < readings.rows.size(); ++i)
        readings.rows[i].line = i + 1; // what is said of a reading names its line here
    std::erase_if(readings.rows, [](const Reading& r) { return !r.volts && !r.amps && !r.tip; });
    return readings;
}

void MeasurePage::changed_from(const Readings& before) {
    before_.push_back(before);
    after_.clear();
    keep();
}

void MeasurePage::change_to(Readings next) {
    const Readings before = draft_.document();
    show_readings(std::move(next));
    changed_from(before);
}

void MeasurePage::keep() {
    const bench::Readings now = whole();
    const bool any = !now.rows.empty() || now.pixels || now.metres;
    if (auto ok = shelf_.keep_readings(id_, any ? files::readings_csv(now) : std::string()); !ok)
        said_->setText(words(ok.error()));
    undo_->setEnabled(!before_.empty());
    redo_->setEnabled(!after_.empty());
    ask();
}

void MeasurePage::go(std::vector<Readings>& from, std::vector<Readings>& to) {
    if (from.empty()) return;
    to.push_back(draft_.document());
    Readings next = std::move(from.back());
    from.pop_back();
    show_readings(std::move(next));
    keep();
}

void MeasurePage::undo() { go(before_, after_); }
void MeasurePage::redo() { go(after_, before_); }

Result<void> MeasurePage::type_number(const QString& typed, bool pixels) {
    const std::string text = typed.trimmed().toStdString();
    Readings next = draft_.document();
    if (text.empty()) {
        pixels ? next.pixels.reset() : next.metres.reset();
    } else {
        const auto read = pixels ? job::number_typed(text, "", {1, 100000})
                                 : job::number_typed(text, "mm", {0.1, 100000});
        if (!read) return tl::unexpected(read.error());
        if (pixels && *read != std::floor(*read))
            return problem("", "this is no whole number", "Count the pixels");
        if (pixels)
            next.pixels = static_cast<int>(*read);
        else
            next.metres = *read / 1000;
    }
    change_to(std::move(next));
    return {};
}

void MeasurePage::ask() {
    const Readings readings = whole();
    if (readings.rows.empty()) return show_found({});
    // The part is its own class: what the readings do not determine stays as it is.
    shelf_.characterise(specimen_, readings, id_,
                        [page = QPointer(this)](const Result<bench::Characterised>& found) {
                            if (page) page->show_found(found);
                        });
}

void MeasurePage::show_found(const std::optional<Result<bench::Characterised>>& answer) {
    found_.reset();
    said_->clear();
    notes_->clear();
    if (answer && *answer) {
        found_ = **answer;
        QStringList notes;
        notes << tr("Residual %1 over %2; %3 more than there are unknowns.")
                     .arg(words(with_unit(found_->residual_mV, "mV")),
                          counted(found_->readings, tr("%1 reading"), tr("%1 readings")))
                     .arg(std::max(0, found_->spare));
        for (const Message& note : found_->notes)
            notes << words(note);
        notes_->setText(notes.join("\n"));
    } else if (answer) {
        said_->setText(words(answer->error()));
    }
    make_->setEnabled(found_.has_value());
    table_->refresh();
    drawing_->redraw();
}

void MeasurePage::make_part() {
    const auto* like = shelf_.parts().find(id_);
    if (!like || !found_) return;
    auto types = bench::with_found(*like, *found_, shelf_.parts());
    std::string made = id_;
    const bool own = shelf_.is_own(id_);
    std::string pixel; // class of the strip's pixels: one of the shop's own, too
    for (catalogue::PartType& type : types) {
        const bool is_pixel_of_strip =
            types.size() > 1 && std::holds_alternative<catalogue::Pixel>(type.figures);
        if (!shelf_.is_own(type.id)) {
            type.name = tr("%1, measured").arg(words(type.name)).toStdString();
            type.id = shelf_.free_id(type);
        }
        if (is_pixel_of_strip) pixel = type.id;
        if (auto* strip = std::get_if<catalogue::Strip>(&type.figures); strip && !pixel.empty())
            strip->pixel = pixel;
        if (auto kept = shelf_.keep(type); !kept) return said_->setText(words(kept.error()));
        made = type.id;
    }
    if (!own) (void)shelf_.keep_readings(made, files::readings_csv(whole()));
    emit this->made(words(made));
}

void MeasurePage::read_file(const std::filesystem::path& file) {
    const auto text = files::read_text(file);
    if (!text) return said_->setText(words(text.error()));
    auto readings = files::read_readings(*text, files::path_text(file.filename()));
    if (!readings) return said_->setText(words(readings.error()));
    if (!readings->pixels) readings->pixels = draft_.document().pixels;
    if (!readings->metres) readings->metres = draft_.document().metres;
    change_to(std::move(*readings));
}

void MeasurePage::write_file(const std::filesystem::path& file) {
    if (auto ok = files::write_output(file, files::readings_csv(whole()), files::Content::text);
        !ok)
        said_->setText(words(ok.error()));
}

void MeasurePage::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Escape) return emit closed();
    QWidget::keyPressEvent(event);
}

void MeasurePage::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    const bool narrow = width() < appearance_.text() * 56;
    row_->setDirection(narrow ? QBoxLayout::TopToBottom : QBoxLayout::LeftToRight);
}

} // namespace conductus::app
