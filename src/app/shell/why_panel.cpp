// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/why_panel.h"

#include <QKeyEvent>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/shell/fields.h"
#include "app/shell/gauge_bar.h"
#include "core/base/format.h"

namespace conductus::app {

WhyPanel::WhyPanel(const Appearance& appearance, QWidget* parent)
    : QFrame(parent), title_(label({}, "title", this)), formula_(label({}, "second", this)),
      table_(new ExplainedTable("whyParts", appearance, this)) {
    setObjectName("why");
    setAccessibleName(tr("Why this figure"));
    setAttribute(Qt::WA_StyledBackground);
    formula_->setWordWrap(true);
    title_->setObjectName("whyTitle");
    formula_->setObjectName("whyFormula");
    auto* close = new QPushButton(tr("Close"), this);
    close->setObjectName("whyClose");
    auto* top = new QHBoxLayout;
    top->addWidget(title_, 1);
    top->addWidget(close);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(16, 12, 16, 12);
    column->addLayout(top);
    column->addWidget(formula_);
    column->addWidget(table_, 1);
    connect(close, &QPushButton::clicked, this, [this] {
        hide();
        emit closed();
    });
    const auto jump = [this](int row) {
        if (const QString ref = table_->ref(row); !ref.isEmpty()) emit part_chosen(ref);
    };
    connect(table_, &Table::row_activated, this, jump);
    connect(table_, &QTableView::clicked, this,
            [jump](const QModelIndex& index) { jump(index.row()); });
    hide();
}

void WhyPanel::show_figure(const Explained& figure) {
    title_->setText(tr("%1 %2").arg(figure_text(figure), words(figure.label)));
    QString said =
        figure.value ? words(figure.formula) : tr("Not computed: %1").arg(words(figure.reason));
    if (figure.worst) {
        Explained then = figure;
        then.value = figure.worst;
        said += "\n" + tr("With %1, the worst set that may be mated: %2.")
                           .arg(words(figure.worst_set), figure_text(then));
    }
    formula_->setText(said);
    table_->show_figure(figure);
    show();
    raise();
    table_->setFocus();
    table_->choose(0);
}

void WhyPanel::keyPressEvent(QKeyEvent* event) {
    if (event->key() != Qt::Key_Escape) return QFrame::keyPressEvent(event);
    hide();
    emit closed();
}

} // namespace conductus::app
