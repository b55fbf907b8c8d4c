// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/brief/wish_list.h"
#include "app/session/words.h"

#include <QToolButton>
#include <fmt/format.h>

#include "core/findings/rules.h"
#include "core/job/lookup.h"
#include "core/job/places.h"
#include "core/job/words.h"

namespace conductus::app {

using job::Proof;

WishRow::WishRow(const PageContext& context, std::size_t index, QWidget* parent)
    : QWidget(parent), context_(context), index_(index) {
    const QString n = QString::number(index + 1);
    done_ = new QCheckBox(this);
    done_->setObjectName("wishDone" + n);
    done_->setAccessibleName(tr("Wish %1 is done").arg(n));
    text_ = new EntryField(
        tr("Wish %1").arg(n),
        [this](const QString& typed) {
            return context_.session.edit(tr("Wish"),
                                         job::write_at(at("text"), typed.toStdString()));
        },
        this);
    text_->line()->setObjectName("wish" + n);
    proof_ = new QComboBox(this);
    proof_->setObjectName("wishProof" + n);
    proof_->setAccessibleName(tr("What shows wish %1").arg(n));
    keep_width(proof_, context.appearance, 15);
    state_ = new StateMark(context.appearance, this);
    state_->setObjectName("wishState" + n);
    auto* remove = new QToolButton(this);
    remove->setText(QString::fromUtf8("×"));
    remove->setObjectName("wishRemove" + n);
    remove->setAccessibleName(tr("Take wish %1 out").arg(n));
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(8);
    row->addWidget(done_);
    row->addWidget(text_, 1);
    row->addWidget(proof_);
    row->addWidget(state_);
    row->addWidget(remove);
    connect(done_, &QCheckBox::clicked, this, [this](bool on) {
        context_.session.change(on ? tr("Wish done") : tr("Wish open again"),
                                job::tick_at(at("done"), on));
    });
    connect(proof_, &QComboBox::activated, this, &WishRow::link);
    // The row may go with its edit.
    connect(
        remove, &QToolButton::clicked, this,
        [this] {
            context_.session.change(tr("Take a wish out"),
                                    job::take_out_at(fmt::format("/brief/wishes/{}", index_)));
        },
        Qt::QueuedConnection);
    fill_proofs();
    show_job();
}

void WishRow::fill_proofs() {
    const job::Job& job = context_.session.job();
    proof_->clear();
    auto add = [&](const QString& text, Proof by, const std::string& target) {
        proof_->addItem(text, QStringList{QString::number(static_cast<int>(by)),
                                          QString::fromStdString(target)});
    };
    add(tr("ticked by hand"), Proof::hand, "");
    for (const job::Look& look : job.looks)
        add(tr("look %1").arg(QString::fromStdString(look.name)), Proof::look, look.name);
    for (const job::Part& part : job.parts)
        add(tr("part %1, %2")
                .arg(QString::fromStdString(part.ref),
                     QString::fromStdString(context_.session.parts().find(part.type)->name)),
            Proof::part, part.type);
    for (const job::Blade& blade : job.blades)
        for (const job::Strip& strip : blade.strips)
            if (proof_->findData(QStringList{QString::number(static_cast<int>(Proof::part)),
                                             QString::fromStdString(strip.type)}) < 0)
                add(tr("part %1, %2")
                        .arg(QString::fromStdString(strip.ref),
                             QString::fromStdString(
                                 context_.session.parts().find(strip.type)->name)),
                    Proof::part, strip.type);
    for (const auto id : findings::rule_ids())
        if (id != "agreement.broken" && id != "cell.lithium-cautions")
            add(tr("closed: %1")
                    .arg(QString::fromUtf8(id.data(), static_cast<qsizetype>(id.size()))
                             .replace('.', " ")
                             .replace('-', ' ')),
                Proof::finding, std::string(id));
    // What the wish names and the job does not have stays readable.
    const job::Wish& wish = job.brief.wishes[index_];
    // By its ref or by what it is, a part is the same part.
    std::string target = wish.target;
    if (const job::Part* part = job::find_ref(job.parts, target); part && wish.by == Proof::part)
        target = part->type;
    const QStringList now{QString::number(static_cast<int>(wish.by)),
                          QString::fromStdString(target)};
    if (wish.by != Proof::hand && proof_->findData(now) < 0)
        add(term(job::word(wish.by)) + " " + QString::fromStdString(wish.target), wish.by,
            wish.target);
    proof_->setCurrentIndex(wish.by == Proof::hand ? 0 : proof_->findData(now));
    proof_->setToolTip(proof_->currentText());
}

void WishRow::link(int item) {
    const QStringList chosen = proof_->itemData(item).toStringList();
    const auto by = job::word(static_cast<Proof>(chosen[0].toInt()));
    context_.session.change(tr("What shows a wish"),
                            job::all_of({job::write_at(at("by"), std::string(by)),
                                         job::write_at(at("target"), chosen[1].toStdString())}));
}

std::string WishRow::at(const char* key) const {
    return fmt::format("/brief/wishes/{}/{}", index_, key);
}

void WishRow::show_job() {
    const job::Wish& wish = context_.session.job().brief.wishes[index_];
    text_->show_value(QString::fromStdString(wish.text));
    if (!text_->line()->hasFocus()) text_->line()->setCursorPosition(0);
    done_->setEnabled(wish.by == Proof::hand);
    if (wish.by == Proof::hand) done_->setChecked(wish.done);
    if (!proof_->hasFocus() || !proof_->view()->isVisible()) fill_proofs();
}

void WishRow::show_state(const plan::WishState& state) {
    done_->setChecked(state.done);
    state_->show_state(state.done ? StateMark::State::fine : StateMark::State::open,
                       state.done ? tr("done") : tr("open"));
    state_->setToolTip(words(state.done ? state.by : state.reason));
    state_->setAccessibleDescription(state_->toolTip());
}

WishList::WishList(const PageContext& context, QWidget* parent) : StationPage(context, parent) {
    setObjectName("paper");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 8, 14, 10);
    column->setSpacing(4);
    auto* head = new QHBoxLayout;
    head->addWidget(label(tr("Wishes"), "title", this));
    head->addStretch();
    count_ = label({}, "second", this);
    count_->setObjectName("wishCount");
    head->addWidget(count_);
    column->addLayout(head);
    rows_layout_ = new QVBoxLayout;
    rows_layout_->setSpacing(3);
    column->addLayout(rows_layout_);
    add_ = new EntryField(
        tr("Add a wish"), [this](const QString& typed) { return add(typed); }, this);
    add_->line()->setObjectName("addWish");
    add_->line()->setPlaceholderText(tr("Add a wish, and press Enter"));
    column->addWidget(add_);
}

Result<void> WishList::add(const QString& text) {
    if (text.trimmed().isEmpty()) return {};
    return context_.session.edit(tr("Add a wish"), job::add_wish(text.trimmed().toStdString()));
}

void WishList::show_job() {
    const std::size_t count = context_.session.job().brief.wishes.size();
    while (rows_.size() > count) {
        delete rows_.back();
        rows_.pop_back();
    }
    for (WishRow* row : rows_)
        row->show_job();
    while (rows_.size() < count) {
        rows_.push_back(new WishRow(context_, rows_.size(), this));
        rows_layout_->addWidget(rows_.back());
    }
    // In the order they are read.
    QWidget* before = nullptr;
    for (WishRow* row : rows_) {
        if (before) setTabOrder(before, row);
        before = row;
    }
}

void WishList::show_plan(const PlanPtr& plan) {
    const auto& states = plan->brief.wishes;
    for (std::size_t i = 0; i < std::min(rows_.size(), states.size()); ++i)
        rows_[i]->show_state(states[i]);
    count_->setText(states.empty()
                        ? tr("what the owner would like; link each to what shows it")
                        : tr("%1 of %2 open").arg(plan->brief.open_wishes()).arg(states.size()));
}

} // namespace conductus::app
