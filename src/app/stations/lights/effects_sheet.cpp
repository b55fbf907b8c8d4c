// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/lights/effects_sheet.h"

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QPushButton>
#include <QSlider>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "app/drawing/blade_drawing.h"
#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/shell/picture_menu.h"
#include "core/base/format.h"
#include "core/job/lookup.h"

namespace conductus::app {
namespace {

/// A round step that divides `most` into three to six.
double step_for(double most) {
    const double decade = std::pow(10, std::floor(std::log10(std::max(most, 1e-6))));
    for (const double s : {0.2, 0.5, 1.0, 2.0})
        if (most / (s * decade) <= 6) return s * decade;
    return 5 * decade;
}

} // namespace

FilmView::FilmView(const PageContext& context, QWidget* parent)
    : QWidget(parent), context_(context) {
    setObjectName("film");
    setAccessibleName(tr("Blades and the cell's current in time"));
    offer_picture(this, context.appearance);
    setMinimumHeight(qRound(context.appearance.text() * 13));
    connect(&context.appearance, &Appearance::changed, this, qOverload<>(&QWidget::update));
}

void FilmView::show_film(std::shared_ptr<const plan::Film> film) {
    film_ = std::move(film);
    frame_ = film_ ? std::clamp(frame_, 0, static_cast<int>(film_->frames.size()) - 1) : 0;
    update();
}

void FilmView::go_to(int frame) {
    frame_ = frame;
    update();
}

QRectF FilmView::trace() const {
    const double text = context_.appearance.text();
    const double blades = text * 1.9 * static_cast<double>(std::max<std::size_t>(1, lines()));
    return {text * 4.6, blades + text * 1.2, width() - text * 6.2,
            std::max(20.0, height() - blades - text * 3.6)};
}

std::vector<BladePlace> FilmView::places() const {
    std::vector<std::string> shown;
    const auto& blades = context_.session.job().blades;
    const std::size_t n = film_ && !film_->frames.empty() ? film_->frames[0].blades.size() : 0;
    for (std::size_t i = 0; i < n; ++i)
        shown.push_back(i < blades.size() ? blades[i].ref : std::string());
    return place_blades(context_.session.job(), shown);
}

void FilmView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const Inks& inks = context_.appearance.inks();
    const double text = context_.appearance.text();
    p.fillRect(rect(), inks.paper);
    if (!film_ || film_->frames.empty()) return;
    const plan::Frame& now = film_->frames[static_cast<std::size_t>(frame_)];
    const QRectF box = trace();
    const auto& blades = context_.session.job().blades;
    p.setFont(page_font(text * 0.86));
    const std::vector<BladePlace> where = places();
    std::vector<QStringList> names(lines());
    for (std::size_t i = 0; i < std::min(now.blades.size(), where.size()); ++i) {
        const double y = text * (0.3 + 1.9 * static_cast<double>(where[i].line));
        if (i < blades.size()) names[where[i].line] << words(blades[i].ref);
        // On whole pixels of the screen, so that no edge is painted over.
        const QRect tube = QRectF(box.left() + where[i].from * box.width(), y,
                                  box.width() * (where[i].to - where[i].from), text * 1.4)
                               .toRect();
        paint_blade(p, QRectF(tube), now.blades[i], inks);
    }
    p.setPen(inks.second);
    for (std::size_t line = 0; line < names.size(); ++line)
        p.drawText(
            QRectF(0, text * (0.3 + 1.9 * static_cast<double>(line)), box.left() - 6, text * 1.4),
            Qt::AlignRight | Qt::AlignVCenter,
            QFontMetricsF(p.font()).elidedText(names[line].join(" "), Qt::ElideRight,
                                               box.left() - 6));
    p.setRenderHint(QPainter::Antialiasing);
    const double most = film_->peak.value() * 1.08, last = film_->frames.back().seconds;
    auto at = [&](double seconds, double amps) {
        return QPointF(box.left() + seconds / last * box.width(),
                       box.bottom() - amps / most * box.height());
    };
    const double step = step_for(most);
    for (double a = 0; a <= most; a += step) {
        p.setPen(QPen(inks.hair, 1));
        p.drawLine(at(0, a), at(last, a));
        p.setPen(inks.second);
        p.drawText(QRectF(0, at(0, a).y() - text * 0.7, box.left() - 6, text * 1.4),
                   Qt::AlignRight | Qt::AlignVCenter,
                   QString("%1").arg(a, 0, 'g', 3) + QChar(0x202f) + "A");
    }
    const double tick = step_for(last);
    for (double t = 0; t <= last; t += tick) {
        p.setPen(QPen(inks.ink, 1));
        p.drawLine(at(t, 0), at(t, 0) + QPointF(0, 4));
        p.setPen(inks.second);
        p.drawText(QRectF(at(t, 0).x() - text * 3, box.bottom() + 5, text * 6, text * 1.4),
                   Qt::AlignHCenter, QString("%1").arg(t, 0, 'g', 3) + QChar(0x202f) + "s");
    }
    QPainterPath path;
    for (std::size_t i = 0; i < film_->frames.size(); ++i) {
        const QPointF point = at(film_->frames[i].seconds, film_->frames[i].amps.value());
        i == 0 ? path.moveTo(point) : path.lineTo(point);
    }
    p.setPen(QPen(inks.petrol, 1.8));
    p.setBrush(Qt::NoBrush);
    p.drawPath(path);
    p.setPen(QPen(inks.second, 1, Qt::DashLine));
    p.drawLine(at(0, film_->mean.value()), at(last, film_->mean.value()));
    p.setPen(QPen(inks.ink, 1.2));
    const QPointF cursor = at(now.seconds, now.amps.value());
    p.drawLine(QPointF(cursor.x(), box.top()), QPointF(cursor.x(), box.bottom()));
    p.setBrush(inks.petrol);
    p.drawEllipse(cursor, 3.5, 3.5);
}

void FilmView::mousePressEvent(QMouseEvent* event) {
    if (!film_ || film_->frames.empty()) return;
    const QRectF box = trace();
    const double share = (event->position().x() - box.left()) / box.width();
    const int n = static_cast<int>(film_->frames.size());
    emit wanted(std::clamp(static_cast<int>(share * n), 0, n - 1));
}

void FilmView::mouseMoveEvent(QMouseEvent* event) { mousePressEvent(event); }

EffectsSheet::EffectsSheet(const PageContext& context, QWidget* parent)
    : StationPage(context, parent) {
    setObjectName("benchPage");
    auto [sheet, column] =
        paper(tr("In time"), tr("from a full cell; effects over the look chosen above"), this);
    which_ = new QComboBox(sheet);
    which_->setObjectName("filmOf");
    which_->setAccessibleName(tr("Effect or look to play"));
    keep_least_width(which_, context.appearance, 13);
    play_ = new QPushButton(tr("Play"), sheet);
    play_->setObjectName("playFilm");
    play_->setCheckable(true);
    slow_ = new QCheckBox(tr("ten times slower"), sheet);
    slow_->setObjectName("slowFilm");
    time_ = new QSlider(Qt::Horizontal, sheet);
    time_->setObjectName("filmTime");
    time_->setAccessibleName(tr("Place in time"));
    said_ = label({}, "second", sheet);
    said_->setObjectName("filmFigures");
    said_->setWordWrap(true);
    view_ = new FilmView(context, sheet);
    clock_ = new QTimer(this);
    clock_->setObjectName("filmClock");
    clock_->setInterval(16);
    auto* top = new QHBoxLayout;
    top->setSpacing(10);
    top->addWidget(which_);
    top->addWidget(play_);
    top->addWidget(slow_);
    top->addWidget(time_, 1);
    column->addLayout(top);
    column->addWidget(view_, 1);
    column->addWidget(said_);
    auto [below, below_column] =
        paper(tr("Effects"), tr("along the blade foot 0 to tip 100; all shares in %"), this);
    Session& session = context.session;
    const std::string list = "/effects";
    const auto solved = [this](int row) {
        const auto& effect = context_.session.job().effects[static_cast<std::size_t>(row)];
        return plan_ ? job::find_name(plan_->effects, effect.name) : nullptr;
    };
    const auto share = [&](const QString& title, const char* key) {
        Column c = value_column(session, title, list, key, "%");
        c.unit.clear(); // said once, above
        return c;
    };
    Column mean = figures(tr("mean"), [solved](int row) {
        return solved(row) ? words(text(solved(row)->mean)) : QString();
    });
    Column peak = figures(tr("peak"), [solved](int row) {
        return solved(row) ? words(text(solved(row)->peak)) : QString();
    });
    effects_ = new Table(
        {.object = "effects",
         .name = tr("Effects"),
         .what = tr("Effect"),
         .columns = {value_column(session, tr("effect"), list, "name"),
                     value_column(session, tr("kind"), list, "kind"), share(tr("from"), "from"),
                     share(tr("to"), "to"), value_column(session, tr("lasts, s"), list, "lasts_s"),
                     share(tr("cap"), "cap"), share(tr("red"), "colour/red"),
                     share(tr("green"), "colour/green"), share(tr("blue"), "colour/blue"),
                     share(tr("white"), "colour/white"), mean, peak},
         .rows = list_rows(session, list, "name"),
         .wide = 0,
         .dense = true,
         .empty = tr("Name an effect: a clash flash, a blast mark, a lock-up."),
         .session = &session},
        context.appearance, below);
    effects_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    // A row chosen is the one that plays.
    connect(effects_, &Table::row_chosen, this, [this](int chosen) {
        const auto& all = context_.session.job().effects;
        const int i = which_->findText(words(all[static_cast<std::size_t>(chosen)].name));
        if (i < 0 || i == which_->currentIndex()) return;
        which_->setCurrentIndex(i);
        film();
    });
    below_column->addWidget(effects_, 1);
    below_column->addWidget(effects_->refusal());
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(8);
    all->addWidget(sheet, 8);
    all->addWidget(below, 5);

    connect(which_, &QComboBox::activated, this, [this] { film(); });
    connect(play_, &QPushButton::toggled, this, &EffectsSheet::play);
    connect(time_, &QSlider::valueChanged, this, [this](int frame) {
        view_->go_to(frame);
        if (!film_ || film_->frames.empty()) return;
        const plan::Frame& now = film_->frames[static_cast<std::size_t>(frame)];
        said_->setText(tr("%1 s: cell %2, board %3. Mean %4 (dashed), peak %5; the board never "
                          "below %6.")
                           .arg(now.seconds, 0, 'f', 2)
                           .arg(words(text(now.amps)), words(text(now.board)),
                                words(text(film_->mean)), words(text(film_->peak)),
                                words(text(film_->lowest))));
    });
    connect(view_, &FilmView::wanted, time_, &QSlider::setValue);
    connect(&context.selection, &Selection::changed, this, [this] {
        if (isVisible()) film();
    });
    connect(clock_, &QTimer::timeout, this, [this] {
        if (!film_ || film_->frames.empty()) return;
        ahead_ += film_->rate * clock_->interval() / 1000.0 / (slow_->isChecked() ? 10 : 1);
        const int frames = static_cast<int>(ahead_);
        ahead_ -= frames;
        if (frames > 0)
            time_->setValue((time_->value() + frames) % static_cast<int>(film_->frames.size()));
    });
}

void EffectsSheet::play(bool on) {
    play_->setText(on ? tr("Stop") : tr("Play"));
    on ? clock_->start() : clock_->stop();
}

void EffectsSheet::show_job() { effects_->refresh(); }

void EffectsSheet::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    show_job();
    QStringList names;
    for (const auto& effect : plan->effects)
        names << words(effect.name);
    const int effects = static_cast<int>(names.size());
    for (const auto& look : plan->looks)
        names << words(look.name);
    QStringList shown;
    for (int i = 0; i < which_->count(); ++i)
        if (!which_->itemText(i).isEmpty()) shown << which_->itemText(i);
    if (names != shown) {
        const QString was = which_->currentText();
        which_->clear();
        which_->addItems(names);
        if (effects > 0 && effects < names.size()) which_->insertSeparator(effects);
        if (const int i = which_->findText(was); i >= 0 && !was.isEmpty())
            which_->setCurrentIndex(i);
    }
    film();
}

/// Films on a worker.
void EffectsSheet::film() {
    if (!plan_ || plan_->trouble || which_->currentText().isEmpty()) {
        said_->setText(tr("Nothing to play: add a look, and see the findings."));
        films_.forget();
        film_.reset();
        view_->show_film(nullptr);
        return;
    }
    films_.ask(
        [plan = plan_, name = which_->currentText().toStdString(),
         look = context_.selection.options().look.toStdString()]() -> FilmPtr {
            auto made = plan::film_of(*plan, name, look);
            return made ? std::make_shared<const plan::Film>(std::move(*made)) : nullptr;
        },
        [this](const FilmPtr& made) {
            film_ = made;
            view_->show_film(film_);
            const int frames = film_ ? static_cast<int>(film_->frames.size()) : 1;
            time_->setRange(0, std::max(0, frames - 1));
            emit time_->valueChanged(time_->value());
        });
}

} // namespace conductus::app
