// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/findings_pane.h"

#include <QKeyEvent>
#include <QLabel>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/drawing/marks.h"
#include "app/shell/fields.h"
#include "app/shell/flow_layout.h"
#include "core/findings/rules.h"

namespace conductus::app {

FindingRow::FindingRow(const findings::Finding& finding, const Appearance& appearance,
                       QWidget* parent)
    : QFrame(parent), appearance_(appearance), severity_(finding.severity) {
    for (const std::string& ref : finding.where)
        where_ << QString::fromStdString(ref);
    setFocusPolicy(Qt::StrongFocus);
    setObjectName("finding:" + QString::fromStdString(finding.id));
    setAccessibleName(QString(findings::word(finding.severity)) + ": " + words(finding.text));
    setAccessibleDescription(words(finding.detail));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(qRound(appearance.text() * 2.1), 9, 8, 9);
    column->setSpacing(2);
    auto* text = label(words(finding.text), "heading", this);
    text->setWordWrap(true);
    column->addWidget(text);
    auto* detail = label(words(finding.detail), "second", this);
    detail->setWordWrap(true);
    column->addWidget(detail);
    const QString id = QString::fromStdString(finding.id);
    const auto link = [&](const QString& said, const QString& name) {
        auto* button = new LinkButton(said, appearance, this);
        button->setObjectName(name);
        return button;
    };
    if (finding.fix) {
        auto* button = link(tr("Fix: %1").arg(words(finding.fix->text)), "fix:" + id);
        column->addWidget(button);
        connect(button, &QAbstractButton::clicked, this, [this] { emit fix(false); });
    }
    if (finding.other) {
        auto* button = link(tr("Or: %1").arg(words(finding.other->text)), "other:" + id);
        column->addWidget(button);
        connect(button, &QAbstractButton::clicked, this, [this] { emit fix(true); });
    }
    auto* more = new FlowLayout(12, 0);
    column->addLayout(more);
    // What is unfolded on demand stands under the links.
    const auto unfolds = [&](LinkButton* button, const QString& lines, const QString& name) {
        auto* said = label(lines, "second", this);
        said->setObjectName(name);
        said->setWordWrap(true);
        said->hide();
        column->addWidget(said);
        more->addWidget(button);
        connect(button, &QAbstractButton::clicked, said,
                [said] { said->setVisible(said->isHidden()); });
    };
    if (!finding.follows.empty()) {
        QStringList lines;
        for (const findings::Finding& then : finding.follows)
            lines << QString::fromUtf8("– ") + words(then.text);
        unfolds(link(finding.follows.size() == 1
                         ? tr("1 more follows from it")
                         : tr("%1 more follow from it").arg(finding.follows.size()),
                     "follows:" + id),
                lines.join("\n"), "followed:" + id);
    }
    if (const findings::Rule* rule = findings::rule(finding.id)) {
        const auto said = [](std::string_view utf8) {
            return QString::fromUtf8(utf8.data(), static_cast<qsizetype>(utf8.size()));
        };
        unfolds(link(tr("Why this rule"), "whyRule:" + id),
                tr("%1 looks at %2.\nSeverity: %3.\nSource: %4.\nRemedy: %5.")
                    .arg(id, said(rule->looks_at),
                         QString::fromStdString(findings::severity_text(*rule)), said(rule->source),
                         said(rule->remedy)),
                "rule:" + id);
    }
}

void FindingRow::focusInEvent(QFocusEvent* e) {
    QFrame::focusInEvent(e);
    emit lit(where_);
    update();
}

void FindingRow::focusOutEvent(QFocusEvent* e) {
    QFrame::focusOutEvent(e);
    emit lit({});
    update();
}

void FindingRow::keyPressEvent(QKeyEvent* e) {
    if (e->key() == Qt::Key_Return || e->key() == Qt::Key_Enter || e->key() == Qt::Key_Space) {
        emit chosen();
    } else {
        QFrame::keyPressEvent(e);
    }
}

void FindingRow::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const Inks& inks = appearance_.inks();
    p.setPen(inks.hair);
    p.drawLine(0, 0, width(), 0);
    const double m = appearance_.text() * 1.05;
    paint_mark(p, QRectF(4, 10, m, m), severity_, inks);
    if (hasFocus()) {
        p.setPen(QPen(inks.petrol, 1.5));
        p.drawRect(QRectF(rect()).adjusted(1, 2, -1, -2));
    }
}

FindingsStrip::FindingsStrip(const Appearance& appearance, QWidget* parent)
    : QAbstractButton(parent), appearance_(appearance) {
    setObjectName("unfoldFindings");
    setToolTip(tr("Unfold the findings (F8)"));
    setFocusPolicy(Qt::StrongFocus);
    setSizePolicy(QSizePolicy::Fixed, QSizePolicy::Expanding);
}

void FindingsStrip::show_counts(const std::array<int, 3>& counts) {
    counts_ = counts;
    setAccessibleName(
        tr("Findings: %1 stop, %2 warn, %3 notes").arg(counts[0]).arg(counts[1]).arg(counts[2]));
    update();
}

QSize FindingsStrip::sizeHint() const {
    const int text = qRound(appearance_.text());
    return {text * 3, text * 12};
}

void FindingsStrip::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const Inks& inks = appearance_.inks();
    const double m = appearance_.text() * 1.6;
    double y = appearance_.text() * 0.8;
    bool any = false;
    for (std::size_t i = 0; i < counts_.size(); ++i) {
        if (counts_[i] == 0) continue;
        any = true;
        paint_mark(p, QRectF((width() - m) / 2, y, m, m), static_cast<findings::Severity>(i), inks,
                   counts_[i]);
        y += m + appearance_.text() * 0.7;
    }
    if (!any) paint_tick(p, QRectF((width() - m) / 2, y, m, m), inks);
    if (!hasFocus()) return;
    p.setPen(QPen(inks.petrol, 1.5));
    p.drawRect(QRectF(rect()).adjusted(1, 1, -1, -1));
}

FindingsPane::FindingsPane(Session& session, Selection& selection, const Appearance& appearance,
                           QWidget* parent)
    : QFrame(parent), session_(session), selection_(selection), appearance_(appearance),
      whole_(new QWidget(this)), strip_(new FindingsStrip(appearance, this)),
      count_(new FlowText(this)), scroll_(new QScrollArea(this)) {
    setObjectName("paper");
    setAccessibleName(tr("Findings"));
    auto* column = new QVBoxLayout(whole_);
    column->setContentsMargins(12, 10, 6, 8);
    auto* title = new FlowLayout(8, 0);
    title->addWidget(label(tr("Findings"), "title", this));
    count_->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
    title->addWidget(count_);
    auto* head = new QHBoxLayout;
    head->addLayout(title, 1);
    auto* fold = new QPushButton(tr("Fold"), whole_);
    fold->setObjectName("foldFindings");
    fold->setProperty("role", "link");
    fold->setToolTip(tr("A strip of signs, and more room for the page (F8)"));
    head->addWidget(fold, 0, Qt::AlignTop);
    head->addSpacing(6);
    column->addLayout(head);
    scroll_->setWidgetResizable(true);
    scroll_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll_->setFocusPolicy(Qt::NoFocus);
    scroll_->setObjectName("findingsList");
    column->addWidget(scroll_, 1);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->addWidget(strip_);
    row->addWidget(whole_, 1);
    strip_->hide();
    connect(fold, &QPushButton::clicked, this, [this] { emit fold_wanted(true); });
    connect(strip_, &QAbstractButton::clicked, this, [this] { emit fold_wanted(false); });
}

void FindingsPane::set_folded(bool folded) {
    whole_->setVisible(!folded);
    strip_->setVisible(folded);
}

void FindingsPane::set_station(std::size_t station) {
    if (station == station_) return;
    station_ = station;
    words_.clear();
    if (plan_) show_rows();
}

void FindingsPane::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    show_rows();
}

void FindingsPane::show_rows() {
    // The same words need no new rows; but a fix belongs to its plan, so the plan is kept.
    QString all;
    for (const findings::Finding& f : plan_->findings)
        all += words(f.id) + words(f.text) + words(f.detail) +
               (f.fix ? words(f.fix->text) : QString()) +
               (f.other ? words(f.other->text) : QString()) + QString::number(f.follows.size()) +
               "\n";
    if (all == words_ && appearance_.percent() == percent_) return;
    words_ = all;
    percent_ = appearance_.percent();
    // Keep the focus on the finding it was on, or the first, when the list is made anew.
    QString focused;
    for (QWidget* w = focusWidget(); w && w != this; w = w->parentWidget())
        if (w->objectName().startsWith("fin")) focused = w->objectName();
    std::array<int, 3> counts{};
    auto* list = new QWidget;
    auto* column = new QVBoxLayout(list);
    column->setContentsMargins(0, 0, 6, 0);
    column->setSpacing(0);
    const auto add = [&](std::size_t i) {
        const findings::Finding& finding = plan_->findings[i];
        auto* row = new FindingRow(finding, appearance_, list);
        column->addWidget(row);
        connect(row, &FindingRow::lit, &selection_, &Selection::light);
        connect(row, &FindingRow::chosen, this, [this, i] {
            const findings::Finding& f = plan_->findings[i];
            if (!f.where.empty()) selection_.choose(QString::fromStdString(f.where.front()));
            emit station_wanted(static_cast<std::size_t>(f.station));
        });
        connect(row, &FindingRow::fix, this, [this, i](bool other) {
            const findings::Finding& f = plan_->findings[i];
            apply(other ? f.other : f.fix);
        });
    };
    const auto here = [&](const findings::Finding& f) {
        return static_cast<std::size_t>(f.station) == station_;
    };
    std::size_t of_others = 0;
    for (std::size_t i = 0; i < plan_->findings.size(); ++i) {
        const findings::Finding& f = plan_->findings[i];
        ++counts[static_cast<std::size_t>(f.severity)];
        if (here(f))
            add(i);
        else
            ++of_others;
    }
    if (plan_->findings.empty()) {
        column->addWidget(label(tr("Nothing to report."), "second", list));
    } else if (of_others > 0) {
        auto* others =
            label(of_others == plan_->findings.size() ? tr("Nothing at this station. At others:")
                                                      : tr("At other stations:"),
                  "second", list);
        others->setObjectName("findingsElsewhere");
        others->setContentsMargins(4, 10, 4, 4);
        column->addWidget(others);
        for (std::size_t i = 0; i < plan_->findings.size(); ++i)
            if (!here(plan_->findings[i])) add(i);
    }
    column->addStretch();
    QStringList said;
    if (counts[0]) said << tr("%1 stop").arg(counts[0]);
    if (counts[1]) said << tr("%1 warn").arg(counts[1]);
    if (counts[2]) said << (counts[2] == 1 ? tr("1 note") : tr("%1 notes").arg(counts[2]));
    count_->setText(said.join(QString::fromUtf8(" · ")));
    strip_->show_counts(counts);
    scroll_->setWidget(list);
    if (!focused.isEmpty())
        if (auto* row = list->findChild<QWidget*>(focused)) row->setFocus();
}

void FindingsPane::apply(const std::optional<findings::Fix>& fix) {
    if (!fix) return;
    const QString text = words(fix->text);
    // A fix comes from a plan that may be a moment old; the edit itself is checked again.
    session_.change(text.left(1).toUpper() + text.mid(1), fix->edit);
}

} // namespace conductus::app
