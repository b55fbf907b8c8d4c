// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/findings_pane.h"

#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/drawing/marks.h"
#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/shell/flow_layout.h"
#include "core/findings/answered.h"
#include "core/findings/rules.h"
#include "core/job/words.h"

namespace conductus::app {

FindingRow::FindingRow(const findings::Finding& finding, bool silent, const Appearance& appearance,
                       QWidget* parent)
    : QFrame(parent), appearance_(appearance), severity_(finding.severity), silent_(silent) {
    for (const std::string& ref : finding.where)
        where_ << QString::fromStdString(ref);
    setFocusPolicy(Qt::StrongFocus);
    setObjectName((silent ? "accepted:" : "finding:") + QString::fromStdString(finding.id));
    setAccessibleName((silent ? tr("accepted") : QString(findings::word(finding.severity))) + ": " +
                      words(finding.text));
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
    if (finding.answer && !finding.answer->back) {
        // What was decided is read before what is wrong with it.
        detail->setVisible(!silent);
        auto* answer = label(tr("%1 on %2: %3")
                                 .arg(term(job::word(finding.answer->how)),
                                      QString::fromStdString(finding.answer->on),
                                      QString::fromStdString(finding.answer->why)),
                             "second", this);
        answer->setObjectName("answer:" + QString::fromStdString(finding.id));
        answer->setWordWrap(true);
        column->addWidget(answer);
    }
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
    offer_answers(finding, *more, *column);
}

void FindingRow::offer_answers(const findings::Finding& finding, FlowLayout& links,
                               QVBoxLayout& column) {
    const QString id = QString::fromStdString(finding.id);
    if (finding.answer) {
        auto* back = new LinkButton(tr("Let it count again"), appearance_, this);
        if (!silent_) back->setText(tr("Take the answer back"));
        back->setObjectName("takeBack:" + id);
        links.addWidget(back);
        connect(back, &QAbstractButton::clicked, this, &FindingRow::taken_back);
        if (silent_) return;
    }
    const bool lithium = findings::about_lithium(finding.id);
    auto* ask = new LinkButton(lithium ? tr("Acknowledge it") : tr("Accept it"), appearance_, this);
    ask->setObjectName("accept:" + id);
    links.addWidget(ask);
    auto* form = new QWidget(this);
    form->setObjectName("answerForm:" + id);
    auto* fields = new QVBoxLayout(form);
    fields->setContentsMargins(0, 2, 0, 2);
    auto* why = new QLineEdit(form);
    why->setObjectName("why:" + id);
    why->setPlaceholderText(lithium ? tr("What is done about it") : tr("Why it may stay as it is"));
    why->setAccessibleName(tr("Reason"));
    fields->addWidget(why);
    auto* refusal = label({}, "refused", form);
    refusal->setObjectName("whyRefused:" + id);
    refusal->setWordWrap(true);
    refusal->hide();
    fields->addWidget(refusal);
    auto* buttons = new FlowLayout(12, 0);
    fields->addLayout(buttons);
    const auto offer = [&](const QString& said, const QString& name, job::Answer how) {
        auto* button = new LinkButton(said, appearance_, form);
        button->setObjectName(name);
        buttons->addWidget(button);
        connect(button, &QAbstractButton::clicked, this, [this, why, refusal, how] {
            if (why->text().trimmed().isEmpty()) {
                refusal->setText(tr("Say why: the reason is kept with the date."));
                refusal->show();
                why->setFocus();
                return;
            }
            emit answered(how, why->text().trimmed());
        });
        return button;
    };
    auto* first = lithium ? offer(tr("Acknowledge: it goes on to count"), "doAcknowledge:" + id,
                                  job::Answer::acknowledged)
                          : offer(tr("Accept"), "doAccept:" + id, job::Answer::accepted);
    if (!lithium) offer(tr("Agreed with the owner"), "doAgree:" + id, job::Answer::agreed);
    connect(why, &QLineEdit::returnPressed, first, &QAbstractButton::click);
    form->hide();
    column.addWidget(form);
    connect(ask, &QAbstractButton::clicked, form, [form, why] {
        form->setVisible(form->isHidden());
        if (form->isVisible()) why->setFocus();
    });
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
    // What is typed into the reason is not meant for the row.
    const bool chooses =
        e->key() == Qt::Key_Return || e->key() == Qt::Key_Enter || e->key() == Qt::Key_Space;
    if (chooses && hasFocus()) {
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
    if (silent_)
        paint_tick(p, QRectF(4, 10, m, m), inks);
    else
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
    count_->setObjectName("findingsCount");
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
    for (const auto* list : {&plan_->findings, &plan_->answered})
        for (const findings::Finding& f : *list)
            all += words(f.id) + words(f.text) + words(f.detail) +
                   (f.fix ? words(f.fix->text) : QString()) +
                   (f.other ? words(f.other->text) : QString()) +
                   QString::number(f.follows.size()) +
                   (f.answer ? words(f.answer->why + f.answer->on) + QString::number(f.answer->back)
                             : QString()) +
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
    const auto add = [&](std::size_t i) { add_row(i, false, *column); };
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
    if (!plan_->answered.empty()) {
        auto* accepted = label(tr("Accepted, and not counted:"), "second", list);
        accepted->setObjectName("findingsAccepted");
        accepted->setContentsMargins(4, 10, 4, 4);
        column->addWidget(accepted);
        for (std::size_t i = 0; i < plan_->answered.size(); ++i)
            add_row(i, true, *column);
    }
    column->addStretch();
    QStringList said;
    if (counts[0]) said << tr("%1 stop").arg(counts[0]);
    if (counts[1]) said << tr("%1 warn").arg(counts[1]);
    if (counts[2]) said << (counts[2] == 1 ? tr("1 note") : tr("%1 notes").arg(counts[2]));
    if (!plan_->answered.empty()) said << tr("%1 accepted").arg(plan_->answered.size());
    count_->setText(said.join(QString::fromUtf8(" · ")));
    strip_->show_counts(counts);
    scroll_->setWidget(list);
    if (!focused.isEmpty())
        if (auto* row = list->findChild<QWidget*>(focused)) row->setFocus();
}

void FindingsPane::add_row(std::size_t index, bool silent, QVBoxLayout& column) {
    // A row outlives its plan where the next one says the same: what it acts on is looked up then.
    const auto finding = [this, index, silent]() -> const findings::Finding& {
        return (silent ? plan_->answered : plan_->findings)[index];
    };
    auto* row = new FindingRow(finding(), silent, appearance_, column.parentWidget());
    column.addWidget(row);
    connect(row, &FindingRow::lit, &selection_, &Selection::light);
    connect(row, &FindingRow::chosen, this, [this, finding] {
        const findings::Finding& f = finding();
        if (!f.where.empty()) selection_.choose(QString::fromStdString(f.where.front()));
        emit station_wanted(static_cast<std::size_t>(f.station));
    });
    connect(row, &FindingRow::fix, this, [this, finding](bool other) {
        const findings::Finding& f = finding();
        apply(other ? f.other : f.fix);
    });
    connect(row, &FindingRow::answered, this, [this, finding](job::Answer how, const QString& why) {
        const auto edit = findings::answer(finding(), how, why.toStdString(), today());
        if (edit)
            session_.change(how == job::Answer::acknowledged ? tr("Acknowledge the finding")
                            : how == job::Answer::agreed ? tr("Agree the finding with the owner")
                                                         : tr("Accept the finding"),
                            *edit);
    });
    connect(row, &FindingRow::taken_back, this, [this, finding] {
        session_.change(tr("Let the finding count again"), findings::take_back(finding()));
    });
}

void FindingsPane::apply(const std::optional<findings::Fix>& fix) {
    if (!fix) return;
    const QString text = words(fix->text);
    // A fix comes from a plan that may be a moment old; the edit itself is checked again.
    session_.fit(text.left(1).toUpper() + text.mid(1), fix->edit);
}

} // namespace conductus::app
