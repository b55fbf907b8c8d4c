// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/handling/motion_sheet.h"

#include <QComboBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QStackedWidget>
#include <QVBoxLayout>
#include <cmath>

#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/shell/flow_layout.h"
#include "core/base/format.h"
#include "core/job/places.h"
#include "core/job/words.h"
#include "files/disk.h"
#include "files/trace_csv.h"

namespace conductus::app {
namespace {

using job::Felt;

struct Threshold {
    Felt what;
    const char* at;
    const char* unit;
};
constexpr Threshold all_thresholds[] = {{Felt::swing, "/config/motion/swing_deg_s", ""},
                                        {Felt::twist, "/config/motion/twist_deg_s", ""},
                                        {Felt::roll, "/config/motion/roll_deg", ""},
                                        {Felt::thrust, "/config/motion/thrust_g", ""},
                                        {Felt::tap, "/config/motion/tap_g", ""},
                                        {Felt::clash, "/config/motion/clash_g", ""}};

bool is_turning(Felt what) {
    return what == Felt::swing || what == Felt::twist || what == Felt::roll;
}
QString figure(double value, Felt what) { return words(decimals(value, is_turning(what) ? 0 : 1)); }
/// As a person would set it.
double rounded(double value, Felt what) {
    const double step = is_turning(what) ? 5 : 0.1;
    return std::round(value / step) * step;
}

} // namespace

MotionSheet::MotionSheet(const PageContext& context, QWidget* parent)
    : StationPage(context, parent) {
    setObjectName("backdropPage");
    auto [sheet, column] = paper(tr("Motion"), {}, this);
    view_ = new QComboBox(sheet);
    view_->setObjectName("motionView");
    view_->setAccessibleName(tr("What is looked at of motion"));
    view_->addItems({tr("thresholds"), tr("one movement"), tr("the test sheet")});
    auto* read = new QPushButton(tr("Read a log…"), sheet);
    read->setObjectName("motionLog");
    auto* tools = new FlowLayout(10, 4);
    tools->addWidget(grouped(tr("look at"), view_, {}, sheet));
    tools->addWidget(read);
    const std::tuple<const char*, QString, double> ways[] = {
        {"motionLively", tr("Set lively"), 0},
        {"motionUsual", tr("Set between"), 0.5},
        {"motionCalm", tr("Set calm"), 1}};
    for (const auto& [object, title, share] : ways) {
        auto* button = new QPushButton(title, sheet);
        button->setObjectName(object);
        tools->addWidget(button);
        connect(button, &QPushButton::clicked, this,
                [this, label = title, share = share] { set_between(label, share); });
    }
    column->addLayout(tools);
    said_ = label({}, "second", sheet);
    said_->setObjectName("motionSaid");
    said_->setWordWrap(true);
    column->addWidget(said_);
    stack_ = new QStackedWidget(sheet);
    stack_->addWidget(make_thresholds(stack_));
    stack_->addWidget(make_movement(stack_));
    stack_->addWidget(make_tests(stack_));
    column->addWidget(stack_, 1);
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->addWidget(sheet);
    connect(view_, &QComboBox::activated, this,
            [this](int index) { look_at(static_cast<View>(index)); });
    connect(read, &QPushButton::clicked, this, [this] {
        const QString path = QFileDialog::getOpenFileName(window(), tr("Read a log of movement"),
                                                          {}, tr("Tables (*.csv)"), nullptr,
                                                          QFileDialog::DontUseNativeDialog);
        if (!path.isEmpty()) take_log(path);
    });
}

QWidget* MotionSheet::make_thresholds(QWidget* parent) {
    auto* page = new QWidget(parent);
    Session& session = context_.session;
    Column from = placed_column(session, tr("from"), "swing_deg_s",
                                [](int row) { return std::string(all_thresholds[row].at); });
    from.unit.clear();
    from.figures = true;
    from.show = [&session](int row) {
        const Threshold& t = all_thresholds[row];
        const double set = motion::threshold_of(session.job().config.motion, t.what);
        return set > 0 ? CellText(figure(set, t.what) + " " +
                                  QString::fromUtf8(motion::unit_of(t.what)))
                       : CellText(tr("not entered"), CellInk::second);
    };
    from.edit = [](int row, const std::string& typed) {
        return job::write_at(all_thresholds[row].at, typed.empty() ? "0" : typed);
    };
    from.typed = [&session](int row) {
        const double set =
            motion::threshold_of(session.job().config.motion, all_thresholds[row].what);
        return set > 0 ? words(decimals(set, 2)) : QString();
    };
    const auto of = [this](const QString& title, double (motion::Parting::*value)() const) {
        return figures(title, [this, value](int row) {
            const motion::Parting* p = parting(all_thresholds[row].what);
            return p && p->parts() ? CellText(figure((p->*value)(), p->what))
                                   : CellText(QStringLiteral("–"), CellInk::second);
        });
    };
    thresholds_ = new Table(
        {.object = "motionThresholds",
         .name = tr("From where on the board takes a movement for what"),
         .columns = {reading(tr("taken for"),
                             [](int row) {
                                 return CellText(term(job::word(all_thresholds[row].what)));
                             }),
                     from, of(tr("lively"), &motion::Parting::lively),
                     of(tr("calm"), &motion::Parting::calm)},
         .rows = {[] { return static_cast<int>(std::size(all_thresholds)); },
                  [](int row) { return term(job::word(all_thresholds[row].what)); }},
         .wide = 0,
         .dense = true,
         .main = true,
         .session = &session},
        context_.appearance, page);
    lanes_ = new DrawingView(
        "motionLanes", tr("Movements against the thresholds"), context_.appearance,
        [this] { return study_ ? thresholds_drawing(study_) : nullptr; }, page);
    auto* left = new QVBoxLayout;
    left->addWidget(thresholds_, 1);
    left->addWidget(thresholds_->refusal());
    auto* row = new QHBoxLayout(page);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(12);
    row->addLayout(left, 4);
    row->addWidget(lanes_, 9);
    with_text_size(page, context_.appearance, [this, row] {
        row->setDirection(context_.appearance.percent() >= 130 ? QBoxLayout::TopToBottom
                                                               : QBoxLayout::LeftToRight);
    });
    return page;
}

QWidget* MotionSheet::make_movement(QWidget* parent) {
    auto* page = new QWidget(parent);
    movement_ = new QComboBox(page);
    movement_->setObjectName("motionMovement");
    movement_->setAccessibleName(tr("Movement"));
    trace_ = new DrawingView(
        "motionTrace", tr("The course of the movement"), context_.appearance,
        [this]() -> DrawingPtr {
            const auto i = static_cast<std::size_t>(movement_->currentData().toInt());
            if (!study_ || i >= study_->traces.size()) return nullptr;
            const auto& set = context_.session.job().config.motion;
            return trace_drawing(study_->traces[i],
                                 set == job::MotionSettings{} ? motion::usual_settings() : set);
        },
        page);
    auto* column = new QVBoxLayout(page);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(grouped(tr("movement"), movement_, {}, page), 0, Qt::AlignLeft);
    column->addWidget(trace_, 1);
    connect(movement_, &QComboBox::currentIndexChanged, trace_, &DrawingView::redraw);
    return page;
}

QWidget* MotionSheet::make_tests(QWidget* parent) {
    auto* page = new QWidget(parent);
    auto* begin = new QPushButton(tr("Begin with the usual movements"), page);
    begin->setObjectName("motionBeginTests");
    const auto of = [&](const QString& title, const char* key) {
        return value_column(context_.session, title, "/motion_tests", key);
    };
    tests_ = new Table(
        {.object = "motionTests",
         .name = tr("The test sheet"),
         .what = tr("Movement"),
         .columns = {of(tr("movement"), "movement"), of(tr("wanted"), "wanted"),
                     of(tr("observed"), "observed"), of(tr("tried on"), "on"),
                     reading({},
                             [this](int row) {
                                 const auto& all = context_.session.job().motion_tests;
                                 const auto r = static_cast<std::size_t>(row);
                                 if (r >= all.size()) return CellText();
                                 const job::MotionTest& t = all[r];
                                 if (t.on.empty()) return CellText(tr("untried"), CellInk::second);
                                 if (t.observed == t.wanted)
                                     return CellText(tr("as wanted"), CellInk::fine);
                                 return t.observed == Felt::nothing
                                            ? CellText(tr("not felt"), CellInk::warn)
                                            : CellText(
                                                  tr("look for a loose board or speaker first"),
                                                  CellInk::warn);
                             })},
         .rows = list_rows(context_.session, "/motion_tests", "movement"),
         .wide = 4,
         .dense = true,
         .main = true,
         .empty = tr("Type a movement and what it should be taken for, or begin with the usual "
                     "ones."),
         .session = &context_.session},
        context_.appearance, page);
    auto* column = new QVBoxLayout(page);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(begin, 0, Qt::AlignLeft);
    column->addWidget(tests_, 1);
    column->addWidget(tests_->refusal());
    connect(begin, &QPushButton::clicked, this, [this] {
        context_.session.change(tr("Begin the test sheet of motion"), motion::begin_tests());
    });
    return page;
}

const motion::Parting* MotionSheet::parting(Felt what) const {
    if (study_)
        for (const motion::Parting& p : study_->partings)
            if (p.what == what) return &p;
    return nullptr;
}

void MotionSheet::look_at(View view) {
    view_->setCurrentIndex(view);
    stack_->setCurrentIndex(view);
}

void MotionSheet::set_between(const QString& label, double share) {
    if (!study_) return;
    std::vector<std::pair<Felt, double>> set;
    for (const motion::Parting& p : study_->partings)
        if (p.parts())
            set.emplace_back(p.what, rounded(p.lively() + (p.calm() - p.lively()) * share, p.what));
    context_.session.change(label, motion::set_thresholds(std::move(set)));
}

void MotionSheet::study_again() {
    const auto& settings = context_.session.job().config.motion;
    const bool same = study_ && study_->settings == settings &&
                      study_->traces.size() == motion::made_up_set().size() + logs_.size();
    if (!same) study_ = std::make_shared<const MotionStudy>(motion_study(settings, logs_));
    if (movement_->count() != static_cast<int>(study_->traces.size() / 3 + logs_.size())) {
        const QSignalBlocker quiet(movement_);
        movement_->clear();
        const std::size_t made_up = study_->traces.size() - logs_.size();
        // Own logs first; of the made-up ones the usual hand.
        for (std::size_t i = made_up; i < study_->traces.size(); ++i)
            movement_->addItem(tr("%1, own log").arg(words(study_->traces[i].name)),
                               static_cast<int>(i));
        for (std::size_t i = 1; i < made_up; i += 3)
            movement_->addItem(words(study_->traces[i].name), static_cast<int>(i));
    }
    thresholds_->refresh();
    tests_->refresh();
    lanes_->redraw();
    trace_->redraw();
    QStringList says;
    bool loose = false;
    for (const motion::Trace& log : logs_)
        loose = loose || motion::understood(log, settings).loose;
    if (loose)
        says << tr("A log has blow after blow while nothing moves: look for a loose board or "
                   "speaker before a threshold is changed.");
    for (const motion::Parting& p : study_->partings)
        if (!p.parts())
            says << (p.loose
                         ? tr("For %1 no threshold does: the board is loose.")
                               .arg(term(job::word(p.what)))
                         : tr("For %1 no threshold parts %2 from %3.")
                               .arg(term(job::word(p.what)), words(p.lowest), words(p.highest)));
    if (says.isEmpty())
        says << (settings == job::MotionSettings{}
                     ? tr("No threshold was entered yet. What is lively and calm is worked out of "
                          "made-up movements of three hands.")
                     : tr("Every kind has thresholds that part what is meant from what is not."));
    said_->setText(says.join(QStringLiteral(" ")));
}

void MotionSheet::show_job() { study_again(); }
void MotionSheet::show_plan(const PlanPtr&) { study_again(); }

void MotionSheet::take_log(const QString& path) {
    const auto text = files::read_text(path.toStdString());
    auto read = text ? files::read_trace_csv(*text, QFileInfo(path).fileName().toStdString())
                     : tl::unexpected(text.error());
    if (!read) return said_->setText(words(read.error().text()));
    logs_.push_back(std::move(*read));
    study_again();
    movement_->setCurrentIndex(static_cast<int>(logs_.size()) - 1);
    look_at(movement);
}

} // namespace conductus::app
