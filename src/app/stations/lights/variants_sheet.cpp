// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/lights/variants_sheet.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>
#include <algorithm>
#include <fmt/format.h>

#include "app/drawing/variants_drawing.h"
#include "app/session/words.h"
#include "app/shell/fields.h"
#include "core/base/format.h"
#include "core/job/edits.h"
#include "core/job/lookup.h"
#include "core/job/places.h"

namespace conductus::app {
namespace {

QScrollArea* scrolled(QWidget* inner, QWidget* parent) {
    auto* scroll = new QScrollArea(parent);
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setWidget(inner);
    return scroll;
}

} // namespace

VariantsSheet::VariantsSheet(const PageContext& context, QWidget* parent)
    : StationPage(context, parent) {
    setObjectName("backdropPage");
    auto [left, left_column] =
        paper(tr("Variants"), tr("this way of building, and with it:"), this);
    auto* row = new QHBoxLayout;
    row->setSpacing(8);
    which_ = new QComboBox(left);
    which_->setObjectName("variantWhich");
    which_->setAccessibleName(tr("Variant to compare with"));
    keep_least_width(which_, context.appearance, 9);
    take_ = new QPushButton(tr("Build it that way"), left);
    take_->setObjectName("variantTake");
    drop_ = new QPushButton(tr("Drop it"), left);
    drop_->setObjectName("variantDrop");
    row->addWidget(which_, 1);
    row->addWidget(take_);
    row->addWidget(drop_);
    none_ = label(tr("No other way of building is kept. Name the one you have and keep it; then "
                     "change the job, and both stand here one above the other."),
                  "second", left);
    none_->setWordWrap(true);
    view_ = new DrawingView(
        "variantsView", tr("Looks of both ways of building"), context.appearance,
        [this]() -> DrawingPtr { return std::make_shared<const VariantsDrawing>(plan_, other_); },
        left);
    view_->keep_height();
    auto* keeping = new QHBoxLayout;
    keeping->setSpacing(8);
    name_ = new QLineEdit(left);
    name_->setObjectName("variantName");
    name_->setAccessibleName(tr("Name to keep this way of building under"));
    name_->setPlaceholderText(tr("name of this way of building"));
    keep_ = new QPushButton(tr("Keep it to compare"), left);
    keep_->setObjectName("variantKeep");
    keeping->addWidget(name_, 1);
    keeping->addWidget(keep_);
    refused_ = label({}, "refused", left);
    refused_->setObjectName("variantRefused");
    refused_->setWordWrap(true);
    refused_->hide();
    left_column->addLayout(row);
    left_column->addWidget(none_);
    left_column->addWidget(scrolled(view_, left), 1);
    left_column->addLayout(keeping);
    left_column->addWidget(refused_);

    auto [right, right_column] = paper(tr("The difference"), tr("from now to the other"), this);
    words_ = label({}, "", right);
    words_->setObjectName("variantWords");
    words_->setWordWrap(true);
    words_->setAlignment(Qt::AlignTop);
    words_->setTextInteractionFlags(Qt::TextSelectableByMouse | Qt::TextSelectableByKeyboard);
    const auto mark = [](const std::vector<plan::BuildMark>& of, int at) {
        return of[static_cast<std::size_t>(at)];
    };
    marks_ = new Table(
        {.object = "variantMarks",
         .name = tr("What the ways of building differ in"),
         .columns =
             {reading(tr("what"),
                      [this, mark](int at) {
                          return CellText(words(mark(marks_now_, at).label), CellInk::second);
                      }),
              reading(tr("now"),
                      [this, mark](int at) { return CellText(words(mark(marks_now_, at).shown)); }),
              reading(tr("the other"),
                      [this, mark](int at) {
                          const auto now = mark(marks_now_, at), then = mark(marks_then_, at);
                          const double more =
                              now.value && then.value ? (*then.value - *now.value) * now.better : 0;
                          return CellText(words(then.shown), more > 1e-9    ? CellInk::fine
                                                             : more < -1e-9 ? CellInk::warn
                                                                            : CellInk::ink);
                      })},
         .rows = {[this] { return marks_then_.empty() ? 0 : static_cast<int>(marks_now_.size()); },
                  [this, mark](int at) { return words(mark(marks_now_, at).label); }},
         .wide = 2,
         .dense = true,
         .empty = {}},
        context.appearance, right);
    right_column->addWidget(marks_, 3);
    right_column->addWidget(scrolled(words_, right), 2);
    auto* all = new QHBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(8);
    all->addWidget(left, 1);
    all->addWidget(right, 1);

    connect(which_, &QComboBox::activated, this, [this] { plan_other(); });
    connect(keep_, &QPushButton::clicked, this, [this] {
        const std::string name = name_->text().trimmed().toStdString();
        const job::Job& job = context_.session.job();
        const std::string now = job.variant.empty() ? "as it goes on" : job.variant;
        Result<void> ok;
        if (name.empty())
            ok = problem("", "it has no name", "Write one beside");
        else
            ok = context_.session.edit(tr("Keep %1 to compare").arg(words(name)),
                                       job::keep_variant(name, now == name ? now + " anew" : now));
        refused_->setVisible(!ok);
        if (ok)
            name_->clear();
        else
            refused_->setText(
                tr("Not kept: %1. %2").arg(words(ok.error().what), words(ok.error().mend)));
    });
    auto chosen = [this] { return static_cast<std::size_t>(std::max(0, which_->currentIndex())); };
    connect(take_, &QPushButton::clicked, this, [this, chosen] {
        if (which_->count() > 0)
            context_.session.change(tr("Build as %1").arg(which_->currentText()),
                                    job::take_variant(chosen()));
    });
    connect(drop_, &QPushButton::clicked, this, [this, chosen] {
        if (which_->count() > 0)
            context_.session.change(tr("Drop %1").arg(which_->currentText()),
                                    job::take_out_at(fmt::format("/variants/{}", chosen())));
    });
}

void VariantsSheet::show_job() {
    const job::Job& job = context_.session.job();
    const int was = which_->currentIndex();
    which_->clear();
    for (const job::Variant& v : job.variants)
        which_->addItem(words(v.name));
    which_->setCurrentIndex(std::clamp(was, which_->count() ? 0 : -1, which_->count() - 1));
    const bool any = !job.variants.empty();
    for (QWidget* w : {static_cast<QWidget*>(which_), static_cast<QWidget*>(take_),
                       static_cast<QWidget*>(drop_)})
        w->setEnabled(any);
    none_->setVisible(!any);
}

void VariantsSheet::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    plan_other();
}

void VariantsSheet::plan_other() {
    if (!plan_) return;
    const auto at = static_cast<std::size_t>(std::max(0, which_->currentIndex()));
    if (at >= plan_->job->variants.size()) {
        context_.session.asking().forget<plan::VariantBuilt>(this);
        other_.reset();
        return show_both();
    }
    context_.session.ask(plan::VariantBuilt{at}, this,
                         [this](const plan::AnswerPtr<plan::VariantBuilt>& made) {
                             other_ = *made ? (*made)->plan : nullptr;
                             if (other_) difference_ = (*made)->difference;
                             show_both();
                         });
}

void VariantsSheet::show_both() {
    view_->redraw();
    marks_now_ = plan_ ? plan::build_marks(*plan_) : std::vector<plan::BuildMark>{};
    marks_then_ = other_ ? plan::build_marks(*other_) : std::vector<plan::BuildMark>{};
    marks_->refresh();
    marks_->setVisible(other_ != nullptr);
    if (!other_) return words_->setText({});
    const plan::Comparison& difference = difference_;
    QStringList lines;
    for (const plan::FigureChange& f : difference.figures)
        lines << words(f.text);
    for (const plan::AgreementChange& a : difference.agreements)
        lines << words(a.text);
    for (const Message& f : difference.findings)
        lines << words(f);
    if (!lines.isEmpty()) lines << QString();
    for (const job::Change& c : difference.changes)
        if (!c.path.starts_with("/variants") && c.path != "/variant") lines << words(c.text);
    words_->setText(lines.join('\n'));
}

} // namespace conductus::app
