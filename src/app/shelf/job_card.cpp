// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shelf/job_card.h"

#include <QDate>
#include <QKeyEvent>
#include <QLocale>
#include <QPainter>

#include "app/drawing/marks.h"
#include "app/drawing/section_drawing.h"
#include "app/session/words.h"
#include "app/shell/fields.h"
#include "core/job/words.h"

namespace conductus::app {

using findings::Severity;

JobCard::JobCard(shop::Entry entry, const Appearance& appearance, QWidget* parent)
    : QAbstractButton(parent), appearance_(appearance) {
    setFocusPolicy(Qt::StrongFocus);
    show_entry(std::move(entry));
}

void JobCard::show_entry(shop::Entry entry) {
    if (entry == entry_) return;
    entry_ = std::move(entry);
    const QString name = QString::fromStdString(entry_.name);
    setText(name);
    setObjectName("card:" + name);
    setAccessibleName(name);
    plan_.reset();
    problem_.clear();
    judged_ = false;
    stops_ = warns_ = 0;
    broken_.clear();
    open_.clear();
    describe();
    update();
}

void JobCard::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    judged_ = true;
    stops_ = warns_ = 0;
    for (const auto& f : plan->findings) {
        stops_ += f.severity == Severity::stop;
        warns_ += f.severity == Severity::warn;
    }
    broken_.clear();
    for (const auto& s : plan->brief.agreements)
        if (s.agreed && !s.holds && broken_.isEmpty())
            broken_ =
                tr("agreement broken: %1 %2, now %3")
                    .arg(QString::fromStdString(s.now.label), QString::fromStdString(s.promised),
                         s.now.shown.empty() ? tr("not known")
                                             : QString::fromStdString(s.now.shown));
    const int open = plan->brief.open_wishes();
    open_ = open > 0 ? counted(open, tr("%1 wish open"), tr("%1 wishes open")) : QString();
    describe();
    update();
}

void JobCard::show_problem(const Problem& problem) {
    problem_ = words(problem);
    setToolTip(problem_);
    describe();
    update();
}

void JobCard::be_found(bool found) {
    if (!found && !found_) return;
    found_ = found;
    show_excerpt({});
}

void JobCard::show_excerpt(const QString& excerpt) {
    if (excerpt == excerpt_) return;
    excerpt_ = excerpt;
    describe();
    update();
}

void JobCard::forget_plan() { plan_.reset(); }

QString JobCard::foot() const {
    return !excerpt_.isEmpty() ? excerpt_ : !broken_.isEmpty() ? broken_ : open_;
}

void JobCard::describe() {
    QStringList says{QString::fromStdString(entry_.kind), QString::fromStdString(entry_.stage)};
    if (!entry_.promised.empty())
        says << tr("promised %1").arg(QString::fromStdString(entry_.promised));
    if (entry_.came_back) says << tr("came back");
    if (!problem_.isEmpty()) says << problem_;
    if (stops_ > 0) says << tr("%1 stop").arg(stops_);
    if (warns_ > 0) says << tr("%1 warn").arg(warns_);
    if (!foot().isEmpty()) says << foot();
    setAccessibleDescription(says.join(", "));
}

void JobCard::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter) return click();
    QAbstractButton::keyPressEvent(event);
}

void JobCard::paintEvent(QPaintEvent*) {
    if (!has_plan()) emit plan_wanted();
    if (found_ && excerpt_.isEmpty()) emit excerpt_wanted();
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Inks& inks = appearance_.inks();
    const double text = appearance_.text();
    p.setPen(hasFocus() || underMouse() ? QPen(inks.petrol, 2) : QPen(inks.hair, 1));
    p.setBrush(inks.paper);
    p.drawRect(QRectF(rect()).adjusted(1, 1, -1, -1));
    const QRectF inner = QRectF(rect()).adjusted(text * 1.3, text * 0.9, -text * 1.3, -text * 0.7);

    const QDate promised = QDate::fromString(QString::fromStdString(entry_.promised), Qt::ISODate);
    p.setFont(page_font(text, true));
    const QString due = promised.isValid()
                            ? QLocale(QLocale::English).toString(promised, "d MMMM yyyy")
                            : QString();
    const double due_width = QFontMetricsF(p.font()).horizontalAdvance(due);
    const bool done = entry_.stage == job::word(job::Stage::handed_over);
    const bool late = promised.isValid() && !done && promised < QDate::currentDate();
    p.setFont(page_font(text * 1.3, true));
    const QFontMetricsF title(p.font());
    const QRectF head(inner.left(), inner.top(), inner.width(), title.height());
    p.setPen(inks.ink);
    const QString name =
        title.elidedText(this->text(), Qt::ElideRight, inner.width() - due_width - text * 2);
    p.drawText(head, Qt::AlignVCenter, name);
    p.setFont(page_font(text, true));
    p.setPen(late ? inks.stop : inks.ink);
    p.drawText(head, Qt::AlignVCenter | Qt::AlignRight, due);
    if (!problem_.isEmpty()) {
        p.setFont(page_font(text));
        p.setPen(inks.stop);
        p.drawText(inner.adjusted(0, title.height() + text, 0, 0), Qt::TextWordWrap, problem_);
        return;
    }
    p.setFont(page_font(text));
    p.setPen(inks.second);
    const double x = title.horizontalAdvance(name) + text;
    QString kind = QString::fromStdString(entry_.kind + " " + entry_.purpose);
    kind = QFontMetricsF(p.font()).elidedText(kind, Qt::ElideRight,
                                              inner.width() - x - due_width - text);
    p.drawText(head.adjusted(x, 0, 0, 0), Qt::AlignVCenter, kind);

    const double foot = text * 3.2;
    const QRectF drawing(inner.left(), head.bottom() + text * 0.6, inner.width(),
                         inner.height() - head.height() - foot - text * 0.9);
    if (plan_ && plan_->job->hilt.sections.empty()) {
        p.drawText(drawing, Qt::AlignCenter, tr("not surveyed yet"));
    } else if (plan_) {
        LongSectionDrawing(plan_, {}).paint_small(p, drawing, inks);
    }
    paint_foot(p, QRectF(inner.left(), inner.bottom() - foot, inner.width(), foot));
}

void JobCard::paint_foot(QPainter& p, const QRectF& foot) {
    const Inks& inks = appearance_.inks();
    const double text = appearance_.text(), step = text * 1.9;
    const double y = foot.top() + text * 0.5;
    p.setPen(inks.hair);
    p.drawLine(QPointF(foot.left(), y), QPointF(foot.right(), y));
    // The stage as steps done of six, with its word.
    const auto stage = job::from_word<job::Stage>(entry_.stage).value_or(job::Stage::brief);
    for (int i = 0; i < 6; ++i)
        p.fillRect(QRectF(foot.left() + i * (step + 4), y + text * 0.7, step, 5),
                   i <= static_cast<int>(stage) ? inks.petrol : inks.hair);
    p.setFont(page_font(text * 0.9, true));
    p.setPen(inks.ink);
    QString word = term(job::word(stage));
    if (entry_.came_back) word += tr(", came back");
    const QRectF line(foot.left(), y + text * 1.3, foot.width(), text * 1.5);
    p.drawText(line, Qt::AlignVCenter, word);

    // Findings by severity, the worst outermost.
    const double m = text * 1.3;
    double x = foot.right();
    p.setFont(page_font(text * 0.95));
    for (const auto severity : {Severity::stop, Severity::warn}) {
        const int count = severity == Severity::stop ? stops_ : warns_;
        if (count == 0) continue;
        const QString says = term(findings::word(severity));
        const double w = QFontMetricsF(p.font()).horizontalAdvance(says);
        p.setPen(inks.second);
        p.drawText(QRectF(x - w, y + text * 1.1, w + 2, m), Qt::AlignVCenter, says);
        paint_mark(p, QRectF(x - w - m - 5, y + text * 1.1, m, m), severity, inks, count);
        x -= w + m + text * 1.2;
    }
    if (judged_ && x == foot.right()) {
        paint_tick(p, QRectF(x - m, y + text * 1.1, m, m), inks);
        x -= m + text;
    }

    const QString says = this->foot();
    if (says.isEmpty()) return;
    const bool broken = excerpt_.isEmpty() && has_broken();
    p.setPen(broken ? inks.stop : inks.second);
    const double from = foot.left() + 6 * (step + 4) + text;
    const QRectF room(from, y + text * 0.4, x - from - text * 0.5, text * 2.7);
    p.setFont(page_font(text * 0.92));
    const QFontMetricsF metrics(p.font());
    // Two lines at most; what is longer is cut where it shows.
    QString shown = says;
    while (shown.size() > 8 &&
           metrics.boundingRect(QRectF(0, 0, room.width(), 1000), Qt::TextWordWrap, shown + "…")
                   .height() > room.height())
        shown.chop(4);
    p.drawText(room, Qt::AlignVCenter | Qt::TextWordWrap,
               shown.size() < says.size() ? shown + "…" : says);
}

} // namespace conductus::app
