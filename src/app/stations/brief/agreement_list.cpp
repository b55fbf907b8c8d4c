// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/brief/agreement_list.h"

#include <QDate>
#include <QLocale>
#include <QToolButton>
#include <fmt/format.h>

#include "app/session/words.h"
#include "app/shell/flow_layout.h"
#include "core/base/parse.h"
#include "core/job/limits.h"
#include "core/job/places.h"
#include "core/job/words.h"

namespace conductus::app {
namespace {

std::optional<plan::Measure> measure_of(const plan::Plan& plan, const std::string& id) {
    for (plan::Measure& m : plan::measures(plan))
        if (m.id == id) return std::move(m);
    return std::nullopt;
}

} // namespace

AgreementRow::AgreementRow(const PageContext& context, std::size_t index, QWidget* parent)
    : QFrame(parent), context_(context), index_(index) {
    const QString n = QString::number(index + 1);
    setAccessibleName(tr("Agreement %1").arg(n));
    state_ = new StateMark(context.appearance, this);
    state_->setObjectName("agreementState" + n);
    text_ = new EntryField(
        tr("Agreement %1 in the owner's words").arg(n),
        [this](const QString& typed) {
            return context_.session.edit(tr("Agreement"),
                                         job::write_at(at("text"), typed.toStdString()));
        },
        this);
    text_->line()->setObjectName("agreement" + n);
    text_->line()->setPlaceholderText(tr("in the owner's words"));
    kind_ = word_combo<job::Bargain>(this, "agreementKind" + n, tr("Must-have or trade-off"));
    bound_ =
        word_combo<job::Bound>(this, "agreementBound" + n, tr("How agreement %1 is bound").arg(n));
    value_ = new EntryField(
        tr("What agreement %1 promises").arg(n),
        [this](const QString& typed) { return promise(typed); }, this);
    value_->line()->setObjectName("agreementValue" + n);
    keep_width(value_, context.appearance, 6.5);
    about_ = label({}, "heading", this);
    about_->setObjectName("agreementAbout" + n);
    now_ = new FlowText(this);
    now_->setObjectName("agreementNow" + n);
    agree_ = new QPushButton(this);
    agree_->setObjectName("agree" + n);
    auto* remove = new QToolButton(this);
    remove->setText(QString::fromUtf8("×"));
    remove->setAccessibleName(tr("Take agreement %1 out").arg(n));
    remove->setObjectName("agreementRemove" + n);

    auto* first = new QHBoxLayout;
    first->setSpacing(8);
    first->addWidget(state_);
    first->addWidget(text_, 1);
    first->addWidget(kind_);
    first->addWidget(remove);
    auto* second = new QHBoxLayout;
    second->setSpacing(8);
    second->addSpacing(state_->sizeHint().width() + 8);
    auto* promised = new FlowLayout(8, 3);
    for (QWidget* w : {static_cast<QWidget*>(about_), static_cast<QWidget*>(bound_),
                       static_cast<QWidget*>(value_), static_cast<QWidget*>(now_)})
        promised->addWidget(w);
    second->addLayout(promised, 1);
    second->addWidget(agree_, 0, Qt::AlignTop);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 4, 0, 4);
    column->setSpacing(3);
    column->addLayout(first);
    column->addLayout(second);

    connect(kind_, &QComboBox::activated, this, [this](int i) {
        context_.session.change(
            tr("Must-have or trade-off"),
            job::write_at(at("kind"), std::string(job::word(static_cast<job::Bargain>(i)))));
    });
    connect(bound_, &QComboBox::activated, this, [this](int i) {
        context_.session.change(
            tr("Bound of an agreement"),
            job::write_at(at("bound"), std::string(job::word(static_cast<job::Bound>(i)))));
    });
    connect(agree_, &QPushButton::clicked, this, &AgreementRow::agree);
    connect(
        remove, &QToolButton::clicked, this,
        [this] {
            context_.session.change(tr("Take an agreement out"),
                                    job::take_out_at(fmt::format("/brief/agreements/{}", index_)));
        },
        Qt::QueuedConnection);
    show_job();
}

const job::Agreement& AgreementRow::agreement() const {
    return context_.session.job().brief.agreements[index_];
}

std::string AgreementRow::at(const char* key) const {
    return fmt::format("/brief/agreements/{}/{}", index_, key);
}

Result<void> AgreementRow::promise(const QString& typed) {
    const auto m = plan_ ? measure_of(*plan_, agreement().measure) : std::nullopt;
    // The unit is in the label beside it; typed ones are fine too.
    return context_.session.edit(
        typed.trimmed().isEmpty() ? tr("Promise nothing yet") : tr("Promise a figure"),
        job::write_at(at("value"), typed.toStdString(), m ? m->unit : std::string()));
}

void AgreementRow::agree() {
    if (!plan_ || plan_->whole != context_.session.job_ptr()) return;
    const plan::AgreementState& state = plan_->brief.agreements[index_];
    // Agreed anew, what the plan says now is what is promised.
    context_.session.change(tr("Agree with the owner"),
                            state.agreed
                                ? job::agree_anew(index_, state.now.value, state.now.word, today())
                                : job::agree(index_, state.now.value, state.now.word, today()));
}

void AgreementRow::show_job() {
    const job::Agreement& a = agreement();
    text_->show_value(QString::fromStdString(a.text));
    if (!text_->line()->hasFocus()) text_->line()->setCursorPosition(0);
    kind_->setCurrentIndex(static_cast<int>(a.kind));
    bound_->setCurrentIndex(static_cast<int>(a.bound));
    value_->show_value(a.value ? QString::number(std::round(*a.value * 100) / 100) : QString());
    agree_->setText(a.on.empty() ? tr("Agree") : tr("Agree anew"));
}

void AgreementRow::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    if (index_ >= plan->brief.agreements.size()) return;
    const plan::AgreementState& s = plan->brief.agreements[index_];
    const job::Agreement& a = plan->job->brief.agreements[index_];
    if (!s.agreed) {
        state_->show_state(StateMark::State::open, tr("proposed"));
    } else if (s.holds) {
        state_->show_state(StateMark::State::fine, tr("holds"));
    } else {
        state_->show_state(StateMark::State::broken, tr("broken"));
    }
    QString about = QString::fromStdString(s.now.label);
    if (!s.now.unit.empty())
        about += ", " + QString::fromStdString(s.now.unit == "degC" ? "°C" : s.now.unit);
    about_->setText(about);
    bound_->setVisible(!s.now.words);
    value_->setVisible(!s.now.words);
    value_->line()->setPlaceholderText(
        s.now.value ? QString::number(std::round(*s.now.value * 10) / 10) : QString());
    const QString shown = s.now.shown.empty() ? tr("not known: %1").arg(words(s.now.reason))
                                              : QString::fromStdString(s.now.shown);
    QString says = s.now.words && !s.promised.empty()
                       ? tr("%1; now %2").arg(QString::fromStdString(s.promised), shown)
                       : tr("now %1").arg(shown);
    if (s.agreed) {
        const QDate on = QDate::fromString(QString::fromStdString(a.on), Qt::ISODate);
        QString stamp = tr("agreed %1").arg(QLocale(QLocale::English).toString(on, "d MMM yyyy"));
        if (a.that_day)
            stamp += tr(", %1 that day")
                         .arg(QString::fromStdString(plan::measured_text(*a.that_day, s.now.unit)));
        says += QString::fromUtf8(" · ") + stamp;
    }
    now_->setText(says);
    agree_->setEnabled(s.now.value.has_value() || !s.now.word.empty());
}

AgreementList::AgreementList(const PageContext& context, QWidget* parent)
    : StationPage(context, parent) {
    setObjectName("paper");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 8, 14, 10);
    column->setSpacing(4);
    auto* head = new QHBoxLayout;
    head->addWidget(label(tr("Must-haves and trade-offs"), "title", this));
    head->addStretch();
    count_ = label({}, "second", this);
    count_->setObjectName("agreementCount");
    head->addWidget(count_);
    column->addLayout(head);
    rows_layout_ = new QVBoxLayout;
    rows_layout_->setSpacing(2);
    column->addLayout(rows_layout_);
    auto* adding = new QHBoxLayout;
    measure_ = new QComboBox(this);
    measure_->setObjectName("addMeasure");
    measure_->setAccessibleName(tr("What the next agreement is about"));
    keep_least_width(measure_, context.appearance, 18);
    auto* button = new QPushButton(tr("Add an agreement"), this);
    button->setObjectName("addAgreement");
    adding->addWidget(label(tr("about"), "second", this));
    adding->addWidget(measure_);
    adding->addWidget(button);
    adding->addStretch();
    column->addLayout(adding);
    column->addStretch();
    connect(button, &QPushButton::clicked, this, &AgreementList::add);
    show_job();
}

void AgreementList::add() {
    const std::string id = measure_->currentData().toString().toStdString();
    if (id.empty()) return;
    const auto usual = static_cast<job::Bound>(measure_->currentData(Qt::UserRole + 1).toInt());
    context_.session.change(tr("Add an agreement"), job::add_agreement(id, usual));
    if (!rows_.empty())
        if (auto* line = findChild<QLineEdit*>(QString("agreement%1").arg(rows_.size())))
            line->setFocus(Qt::OtherFocusReason);
}

void AgreementList::show_job() {
    const std::size_t count = context_.session.job().brief.agreements.size();
    while (rows_.size() > count) {
        delete rows_.back();
        rows_.pop_back();
    }
    for (AgreementRow* row : rows_)
        row->show_job();
    while (rows_.size() < count) {
        rows_.push_back(new AgreementRow(context_, rows_.size(), this));
        rows_layout_->addWidget(rows_.back());
    }
}

void AgreementList::show_plan(const PlanPtr& plan) {
    if (measure_->count() == 0)
        for (const plan::Measure& m : plan::measures(*plan)) {
            measure_->addItem(QString::fromStdString(m.label), QString::fromStdString(m.id));
            measure_->setItemData(measure_->count() - 1, static_cast<int>(m.usual),
                                  Qt::UserRole + 1);
        }
    for (AgreementRow* row : rows_)
        row->show_plan(plan);
    const int broken = plan->brief.broken();
    count_->setText(rows_.empty() ? tr("each names a figure or a fact of the plan")
                    : broken == 0 ? tr("none broken")
                                  : tr("%1 broken").arg(broken));
}

} // namespace conductus::app
