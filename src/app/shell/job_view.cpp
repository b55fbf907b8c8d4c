// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/job_view.h"

#include <QApplication>
#include <QHBoxLayout>
#include <QSplitter>
#include <QStackedWidget>
#include <QTimer>

#include "app/session/words.h"
#include "app/shell/findings_pane.h"
#include "app/shell/gauge_bar.h"
#include "app/shell/hand_on_section.h"
#include "app/shell/page_scroll.h"
#include "app/shell/section_pane.h"
#include "app/shell/why_panel.h"
#include "app/stations/part/part_page.h"
#include "app/stations/start/start_page.h"
#include "app/stations/stations.h"
#include "core/job/lookup.h"
#include "core/job/mating.h"
#include "core/plan/start.h"

namespace conductus::app {

JobView::JobView(std::unique_ptr<Session> session, Appearance& appearance, Settings& settings,
                 QWidget* parent)
    : QWidget(parent), session_(std::move(session)), appearance_(appearance), settings_(settings) {
    setObjectName("backdrop");
    rail_ = new StationRail(appearance, this);
    section_ = new SectionPane(selection_, appearance, this);
    hand_ = new HandOnSection(*session_, selection_, *section_, this);
    stack_ = new QStackedWidget(this);
    findings_ = new FindingsPane(*session_, selection_, appearance, this);
    gauges_ = new GaugeBar(appearance, this);
    why_ = new WhyPanel(appearance_, this);

    const PageContext context{*session_, selection_, appearance, &settings_};
    for (std::size_t i = 0; i < station_count; ++i) {
        pages_[i] = make_station(i, context, stack_);
        connect(pages_[i], &StationPage::start_wanted, this, &JobView::go_to_start);
        auto* scroll = new PageScroll(pages_[i], stack_);
        stack_->addWidget(scroll);
    }
    start_ = new StartPage(context, stack_);
    start_->setAccessibleName(tr("Start"));
    stack_->addWidget(new PageScroll(start_, stack_));
    part_ = new PartPage(context, stack_);
    part_->setAccessibleName(tr("Part"));
    stack_->addWidget(new PageScroll(part_, stack_));
    connect(&selection_, &Selection::opened, this, &JobView::open_part);
    connect(part_, &PartPage::closed, this, &JobView::close_part);

    beside_ = new QSplitter(Qt::Horizontal, this);
    beside_->setObjectName("pageAndFindings");
    beside_->addWidget(stack_);
    beside_->addWidget(findings_);
    above_ = new QSplitter(Qt::Vertical, this);
    above_->setObjectName("sectionAndPage");
    above_->addWidget(section_);
    above_->addWidget(beside_);
    for (QSplitter* s : {beside_, above_}) {
        s->setChildrenCollapsible(false);
        s->setHandleWidth(10);
        connect(s, &QSplitter::splitterMoved, this, &JobView::keep_dragged);
    }
    auto* right = new QVBoxLayout;
    right->setContentsMargins(10, 10, 10, 8);
    right->addWidget(above_);
    auto* middle = new QHBoxLayout;
    middle->setSpacing(0);
    middle->addWidget(rail_);
    middle->addLayout(right, 1);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    column->addLayout(middle, 1);
    column->addWidget(gauges_);

    lay_out();
    connect(&appearance, &Appearance::changed, this, &JobView::lay_out);
    connect(section_, &SectionPane::fold_wanted, this, &JobView::fold_section);
    connect(section_, &SectionPane::mate_wanted, this,
            [this](const QString& socket, const QString& blade) {
                session_->change(blade.isEmpty() ? tr("Take what is in %1 out").arg(socket)
                                                 : tr("Put %1 into %2").arg(blade, socket),
                                 job::mate(socket.toStdString(), blade.toStdString()));
            });
    connect(findings_, &FindingsPane::fold_wanted, this, &JobView::fold_findings);

    connect(rail_, &StationRail::station_chosen, this, &JobView::go_to);
    connect(rail_, &StationRail::shelf_chosen, this, &JobView::shelf_wanted);
    connect(rail_, &StationRail::start_chosen, this, &JobView::go_to_start);
    connect(start_, &StartPage::made, this, [this] { go_to(1); });
    connect(start_, &StartPage::skipped, this, [this] { go_to(1); });
    connect(findings_, &FindingsPane::station_wanted, this, [this](std::size_t station) {
        // What is said of a blank job is mended at its start.
        if (plan::is_blank(session_->job()))
            go_to_start();
        else
            go_to(station);
    });
    connect(gauges_, &GaugeBar::why, this, &JobView::show_why);
    connect(why_, &WhyPanel::closed, this, [this] { gauges_->gauge(why_figure_)->setFocus(); });
    connect(why_, &WhyPanel::part_chosen, &selection_, &Selection::choose);
    connect(session_.get(), &Session::job_changed, this, [this] {
        pages_[station_]->show_job();
        for (std::size_t i = 0; i < station_count; ++i)
            stale_[i] = i != station_;
        if (at_part()) part_->show_job();
        if (at_part() && part_->gone()) close_part();
        follow_blank();
    });
    connect(session_.get(), &Session::figures_changed, this, &JobView::show_figures);
    connect(session_.get(), &Session::fixes_offered, this, [this] {
        findings_->show_plan(session_->figures());
        // The worst set is known by now, and what it adds to the findings.
        gauges_->show_plan(session_->figures(), session_->before());
        rail_->show_plan(*session_->figures());
    });
    connect(session_.get(), &Session::plan_changed, this, [this] {
        pages_[station_]->show_plan(session_->plan());
        if (at_part()) part_->show_plan(session_->plan());
    });
    connect(session_.get(), &Session::previewed, this, [this](const PlanPtr& figures) {
        gauges_->show_plan(figures, session_->figures());
        gauges_->repaint();
        (at_start() ? start_ : pages_[station_])->show_preview(figures);
        section_->show_plan(figures);
        hand_->show_preview(*figures);
    });
    selection_.look_at(QString::fromStdString(session_->job().use.look));
    follow_blank();
    // A job nothing is known of begins at the start.
    if (plan::is_blank(session_->job()))
        go_to_start();
    else
        go_to(session_->job().parts.empty() ? 0 : 1);
}

std::size_t JobView::place() const { return at_start() ? station_count : station_; }

void JobView::lay_out() {
    const double text = appearance_.text();
    rail_->setFixedWidth(qRound(text * 11.2));
    const Room& r = room();
    // Rows of a page's main table: more where the window is higher, twice as many under a ribbon.
    const double letters = height() / text;
    const int rows = letters > 50 ? 8 : letters > 44 ? 5 : 4;
    appearance_.set_rows(r.section_folded ? 2 * rows : rows);
    section_->set_folded(r.section_folded);
    findings_->set_folded(r.findings_folded);
    const int least = qRound(text * 9);
    if (r.section_folded)
        section_->setFixedHeight(section_->ribbon_height());
    else
        section_->setMinimumHeight(least), section_->setMaximumHeight(QWIDGETSIZE_MAX);
    const int usual_height = qRound(std::clamp(height() * 0.272, text * 11, text * 18));
    const int section = r.section_folded ? section_->ribbon_height()
                        : r.section > 0  ? std::max(least, qRound(r.section * height()))
                                         : usual_height;
    above_->setSizes({section, std::max(100, above_->height() - section - 10)});
    const int usual_width = qRound(std::min(text * 23, width() * 0.27));
    if (r.findings_folded)
        findings_->setFixedWidth(qRound(text * 3));
    else
        findings_->setMinimumWidth(qRound(text * 12)), findings_->setMaximumWidth(QWIDGETSIZE_MAX);
    const int findings = r.findings_folded ? qRound(text * 3)
                         : r.findings > 0  ? qRound(r.findings * width())
                                           : usual_width;
    beside_->setSizes({std::max(100, beside_->width() - findings - 10), findings});
}

void JobView::keep_dragged() {
    Room r = room();
    if (!r.section_folded) r.section = double(section_->height()) / std::max(1, height());
    if (!r.findings_folded && findings_->isVisible())
        r.findings = double(findings_->width()) / std::max(1, width());
    settings_.set_room(place(), r);
}

void JobView::fold_section(bool folded) {
    Room r = room();
    r.section_folded = folded;
    settings_.set_room(place(), r);
    lay_out();
    if (folded)
        section_->findChild<QWidget*>("unfoldSection")->setFocus(Qt::OtherFocusReason);
    else
        section_->view()->setFocus(Qt::OtherFocusReason);
}

void JobView::fold_findings(bool folded) {
    Room r = room();
    r.findings_folded = folded;
    settings_.set_room(place(), r);
    lay_out();
}

void JobView::open_chosen() {
    if (const QString& chosen = selection_.options().chosen; !chosen.isEmpty())
        selection_.open(chosen);
}

void JobView::zoom_to_chosen() { section_->view()->zoom_to_chosen(); }

bool JobView::at_start() const { return stack_->currentIndex() == static_cast<int>(station_count); }

bool JobView::at_part() const {
    return stack_->currentIndex() == static_cast<int>(station_count) + 1;
}

void JobView::open_part(const QString& ref) {
    if (at_start() || !part_->show_part(ref)) return;
    if (session_->plan()) part_->show_plan(session_->plan());
    stack_->setCurrentIndex(static_cast<int>(station_count) + 1);
}

void JobView::close_part() {
    go_to(station_);
    stack_->currentWidget()->setFocus(Qt::OtherFocusReason);
}

void JobView::begin_with(const job::Habits& habits) {
    session_->set_habits(habits);
    start_->begin_with(habits);
}

void JobView::follow_blank() {
    const bool blank = plan::is_blank(session_->job());
    rail_->offer_start(blank);
    if (!blank && at_start()) go_to(station_);
}

void JobView::go_to_start() {
    rail_->set_start();
    findings_->hide();
    stack_->setCurrentIndex(static_cast<int>(station_count));
    lay_out();
    start_->setFocus(Qt::OtherFocusReason);
}

JobView::~JobView() {
    // The session goes after everything that shows it.
    qDeleteAll(findChildren<QWidget*>(Qt::FindDirectChildrenOnly));
}

void JobView::go_to(std::size_t station) {
    station_ = station;
    rail_->set_station(station);
    // Pages out of sight are brought up to date when they come into it.
    if (stale_[station]) pages_[station]->show_job();
    stale_[station] = false;
    if (session_->plan()) pages_[station]->show_plan(session_->plan());
    findings_->show();
    findings_->set_station(station);
    stack_->setCurrentIndex(static_cast<int>(station));
    lay_out();
}

void JobView::show_figures() {
    const PlanPtr plan = session_->figures();
    // What decides is painted first; the rest follows.
    gauges_->show_plan(plan, session_->before());
    gauges_->repaint();
    QTimer::singleShot(0, this, [this] {
        const PlanPtr now = session_->figures();
        rail_->show_plan(*now);
        section_->show_plan(now);
        findings_->show_plan(now);
        if (why_->isVisible()) why_->show_figure(now->figures[why_figure_]);
    });
}

void JobView::show_why(std::size_t figure) {
    if (!session_->figures()) return;
    why_figure_ = figure;
    place_why();
    why_->show_figure(session_->figures()->figures[figure]);
}

void JobView::place_why() {
    const double text = appearance_.text();
    const int w = std::min(qRound(text * 46), width() - 40),
              h = std::min(qRound(text * 24), height() / 2);
    const QWidget* gauge = gauges_->gauge(why_figure_);
    const int x =
        std::clamp(gauge->mapTo(this, QPoint(0, 0)).x(), 10, std::max(10, width() - w - 10));
    why_->setGeometry(x, gauges_->y() - h - 6, w, h);
}

void JobView::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    layout()->activate();
    lay_out();
    if (why_->isVisible()) place_why();
}

void JobView::focus_rail() {
    if (at_start()) return start_->setFocus(Qt::OtherFocusReason);
    for (auto* b : rail_->findChildren<QAbstractButton*>())
        if (b->isChecked()) b->setFocus(Qt::OtherFocusReason);
}

void JobView::next_pane(bool backwards) {
    QWidget* const panes[] = {rail_, section_, stack_->currentWidget(), findings_, gauges_};
    constexpr int count = 5;
    int now = backwards ? 0 : count - 1;
    for (int i = 0; i < count; ++i)
        if (panes[i]->isAncestorOf(QApplication::focusWidget())) now = i;
    for (int step = 1; step <= count; ++step) {
        const int next = (now + (backwards ? count - step : step)) % count;
        if (panes[next] == section_) {
            section_->view()->setFocus(Qt::OtherFocusReason);
            return;
        }
        // The checked station where there is one, else the first that takes the focus.
        QWidget* target = nullptr;
        for (auto* w : panes[next]->findChildren<QWidget*>()) {
            if (w->focusPolicy() == Qt::NoFocus || !w->isVisibleTo(panes[next]) || !w->isEnabled())
                continue;
            auto* button = qobject_cast<QAbstractButton*>(w);
            if (!target) target = w;
            if (panes[next] == rail_ && button && button->isChecked()) target = w;
        }
        if (target) {
            target->setFocus(Qt::OtherFocusReason);
            return;
        }
    }
}

} // namespace conductus::app
