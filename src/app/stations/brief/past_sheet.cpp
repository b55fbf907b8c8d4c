// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/brief/past_sheet.h"

#include <QComboBox>
#include <QDate>
#include <QListWidget>
#include <QLocale>
#include <QPushButton>

#include "app/session/words.h"
#include "app/shell/fields.h"
#include "core/job/edits.h"

namespace conductus::app {
namespace {

constexpr int steps_offered = 300; ///< of the history: more nobody looks through

QString day_text(const std::string& iso) {
    const QDate date = QDate::fromString(QString::fromStdString(iso), Qt::ISODate);
    return date.isValid() ? QLocale(QLocale::English).toString(date, "d MMM yyyy")
                          : QString::fromStdString(iso);
}

QListWidget* word_list(const char* object, const QString& name, QWidget* parent) {
    auto* list = new QListWidget(parent);
    list->setObjectName(object);
    list->setAccessibleName(name);
    list->setWordWrap(true);
    list->setSpacing(1);
    list->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    return list;
}

} // namespace

PastSheet::PastSheet(const PageContext& context, QWidget* parent) : StationPage(context, parent) {
    setObjectName("backdropPage");
    auto* left = new QFrame(this);
    left->setObjectName("paper");
    auto* left_column = new QVBoxLayout(left);
    left_column->setContentsMargins(14, 8, 14, 10);
    make_states(left_column);
    auto* right = new QFrame(this);
    right->setObjectName("paper");
    auto* right_column = new QVBoxLayout(right);
    right_column->setContentsMargins(14, 8, 14, 10);
    make_log(right_column);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(10);
    row->addWidget(left, 12);
    row->addWidget(right, 8);
    show_job();
}

void PastSheet::make_states(QLayout* layout) {
    auto* column = static_cast<QVBoxLayout*>(layout);
    column->addWidget(label(tr("Milestones"), "title"));
    milestones_ = word_list("milestones", tr("Milestones; Enter compares with now"), this);
    milestones_->setFixedHeight(qRound(context_.appearance.text() * 6.4));
    column->addWidget(milestones_);
    mark_ = word_combo<job::Mark>(this, "markWhat", tr("Milestone to keep"));
    auto keep = [this](const QString& typed) {
        return context_.session.mark(static_cast<job::Mark>(mark_->currentIndex()),
                                     typed.trimmed());
    };
    // The note alone keeps nothing: the button does, or Enter in the note.
    note_ = new EntryField(
        tr("Note on the milestone"), [](const QString&) { return Result<void>(); }, this);
    note_->line()->setObjectName("markNote");
    note_->line()->setPlaceholderText(tr("a few words, if any"));
    auto* button = new QPushButton(tr("Keep this state"), this);
    button->setObjectName("markKeep");
    auto* marking = new QHBoxLayout;
    marking->addWidget(mark_);
    marking->addWidget(note_, 1);
    marking->addWidget(button);
    column->addLayout(marking);
    connect(button, &QPushButton::clicked, this, [this, keep] {
        const QString typed = note_->line()->text();
        note_->line()->clear();
        (void)keep(typed);
    });
    connect(note_->line(), &QLineEdit::returnPressed, button, &QPushButton::click);

    column->addWidget(label(tr("What changed"), "title"));
    before_ = new QComboBox(this);
    before_->setObjectName("compareBefore");
    before_->setAccessibleName(tr("Compare from"));
    after_ = new QComboBox(this);
    after_->setObjectName("compareAfter");
    after_->setAccessibleName(tr("Compare to"));
    for (auto* combo : {before_, after_}) {
        combo->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        combo->setMinimumContentsLength(12);
        connect(combo, &QComboBox::activated, this, &PastSheet::ask);
    }
    back_ = new QPushButton(tr("Go back"), this);
    back_->setObjectName("goBack");
    back_->setToolTip(
        tr("Makes the job what it was in the first of the two, as a new edit: undo takes it back"));
    auto* comparing = new QHBoxLayout;
    comparing->addWidget(before_, 1);
    comparing->addWidget(label(QString::fromUtf8("→"), "heading"));
    comparing->addWidget(after_, 1);
    comparing->addWidget(back_);
    column->addLayout(comparing);
    summary_ = label({}, "second");
    summary_->setObjectName("compareSummary");
    column->addWidget(summary_);
    words_ = word_list("compareWords", tr("What changed, in words"), this);
    words_->setMinimumHeight(qRound(context_.appearance.text() * 9));
    column->addWidget(words_, 1);
    connect(back_, &QPushButton::clicked, this, &PastSheet::go_back);
    connect(milestones_, &QListWidget::itemActivated, this, [this](QListWidgetItem* item) {
        before_->setCurrentIndex(before_->findData(item->data(Qt::UserRole)));
        after_->setCurrentIndex(0);
        ask();
    });
}

void PastSheet::make_log(QLayout* layout) {
    auto* column = static_cast<QVBoxLayout*>(layout);
    column->addWidget(label(tr("Notes by day"), "title"));
    log_ = new EntryField(
        tr("Add a note"),
        [this](const QString& typed) -> Result<void> {
            if (typed.trimmed().isEmpty()) return {};
            return context_.session.edit(
                tr("Add a note"), job::note(today(), typed.trimmed().left(4000).toStdString()));
        },
        this);
    log_->line()->setObjectName("addNote");
    log_->line()->setPlaceholderText(tr("Add a note, and press Enter"));
    column->addWidget(log_);
    entries_ = word_list("log", tr("Notes, newest first"), this);
    column->addWidget(entries_, 1);
}

void PastSheet::show_job() {
    const job::Job& job = context_.session.job();
    milestones_->clear();
    entries_->clear();
    for (std::size_t i = 0; i < job.milestones.size(); ++i) {
        const job::Milestone& m = job.milestones[i];
        QString text = QString("%1, %2").arg(term(job::word(m.mark)), day_text(m.on));
        if (!m.note.empty()) text += QString::fromUtf8(" · ") + QString::fromStdString(m.note);
        auto* item = new QListWidgetItem(text, milestones_);
        item->setData(Qt::UserRole, QString("m%1").arg(i));
    }
    if (job.milestones.empty())
        new QListWidgetItem(tr("None yet: keep the job as received before you change it."),
                            milestones_);
    for (auto it = job.log.rbegin(); it != job.log.rend(); ++it)
        new QListWidgetItem(day_text(it->on) + "\n" + QString::fromStdString(it->text), entries_);

    // Milestones, then every edit, newest first; what was chosen stays chosen.
    for (auto* combo : {before_, after_}) {
        const QVariant chosen = combo->currentData();
        combo->clear();
        combo->addItem(tr("now"), "now");
        for (int i = static_cast<int>(job.milestones.size()) - 1; i >= 0; --i) {
            const job::Milestone& m = job.milestones[static_cast<std::size_t>(i)];
            combo->addItem(QString("%1, %2").arg(term(job::word(m.mark)), day_text(m.on)),
                           QString("m%1").arg(i));
        }
        const auto past = context_.session.history();
        for (int i = static_cast<int>(past.size()) - 1, n = 0; i >= 0 && n < steps_offered;
             --i, ++n) {
            const auto& step = past[static_cast<std::size_t>(i)];
            combo->addItem(
                tr("after “%1”, %2")
                    .arg(step.label,
                         QLocale(QLocale::English).toString(step.at.toLocalTime(), "d MMM, HH:mm")),
                QString("h%1").arg(i));
        }
        // The first is the newest milestone until another is chosen.
        int at = std::max(0, combo->findData(chosen));
        if (combo == before_ && at == 0 && !job.milestones.empty()) at = 1;
        combo->setCurrentIndex(at);
    }
    ask();
}

Result<JobPtr> PastSheet::state_of(const QComboBox* which) const {
    const QString key = which->currentData().toString();
    const auto index = static_cast<std::size_t>(key.mid(1).toUInt());
    if (key.startsWith("h")) return context_.session.state(index);
    if (!key.startsWith("m") || index >= context_.session.job().milestones.size())
        return context_.session.job_ptr();
    auto kept = context_.session.kept_job(index);
    if (!kept) return tl::unexpected(kept.error());
    return std::make_shared<const job::Job>(std::move(*kept));
}

void PastSheet::ask() {
    back_->setEnabled(before_->currentIndex() > 0);
    const auto before = state_of(before_), after = state_of(after_);
    words_->clear();
    if (before && after)
        return context_.session.ask(plan::Between{*before, *after}, this,
                                    [this](const plan::AnswerPtr<plan::Between>& made) {
                                        if (*made) show_comparison(**made);
                                    });
    context_.session.asking().forget<plan::Between>(this);
    summary_->setText(
        QString::fromStdString(!before ? before.error().text() : after.error().text()));
}

void PastSheet::show_comparison(const plan::Comparison& c) {
    words_->clear();
    const Inks& inks = context_.appearance.inks();
    auto add = [&](const Message& text, const QColor& ink, bool bold) {
        auto* item = new QListWidgetItem(words(text), words_);
        item->setForeground(ink);
        item->setFont(page_font(context_.appearance.text(), bold));
    };
    for (const plan::AgreementChange& a : c.agreements)
        add(a.text, a.holds ? inks.fine : inks.warn, true);
    for (const plan::FigureChange& f : c.figures)
        add(f.text, inks.ink, true);
    for (const Message& text : c.findings)
        add(text, inks.second, false);
    int changes = 0;
    for (const job::Change& change : c.changes) {
        // The list of milestones itself is above.
        if (change.path.starts_with("/milestones")) continue;
        add(change.text, inks.ink, false);
        ++changes;
    }
    summary_->setText(changes == 0 ? tr("no difference")
                                   : counted(changes, tr("%1 change"), tr("%1 changes")));
}

void PastSheet::go_back() {
    const auto then = state_of(before_);
    if (!then || before_->currentIndex() == 0) return;
    context_.session.change(tr("Go back to %1").arg(before_->currentText()),
                            job::go_back_to(**then));
}

} // namespace conductus::app
