// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/why_panel.h"

#include <QHeaderView>
#include <QKeyEvent>
#include <QPushButton>
#include <QTableWidget>
#include <QVBoxLayout>

#include "app/shell/fields.h"
#include "app/shell/gauge_bar.h"
#include "core/base/format.h"

namespace conductus::app {

WhyPanel::WhyPanel(QWidget* parent)
    : QFrame(parent), title_(label({}, "title", this)), formula_(label({}, "second", this)),
      table_(new QTableWidget(0, 4, this)) {
    setObjectName("why");
    setAccessibleName(tr("Why this figure"));
    setAttribute(Qt::WA_StyledBackground);
    formula_->setWordWrap(true);
    title_->setObjectName("whyTitle");
    formula_->setObjectName("whyFormula");
    table_->setObjectName("whyParts");
    table_->setAccessibleName(tr("Parts of the figure"));
    table_->setHorizontalHeaderLabels({tr("part"), tr("value"), tr("where"), tr("from")});
    table_->verticalHeader()->hide();
    table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    table_->setSelectionBehavior(QAbstractItemView::SelectRows);
    table_->setSelectionMode(QAbstractItemView::SingleSelection);
    table_->setShowGrid(false);
    table_->horizontalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
    table_->horizontalHeader()->setSectionResizeMode(0, QHeaderView::Stretch);
    table_->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
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
    connect(table_, &QTableWidget::cellActivated, this, [this](int row, int) {
        const QString ref = table_->item(row, 2)->text();
        if (!ref.isEmpty()) emit part_chosen(ref);
    });
    connect(table_, &QTableWidget::cellClicked, this, [this](int row, int) {
        const QString ref = table_->item(row, 2)->text();
        if (!ref.isEmpty()) emit part_chosen(ref);
    });
    hide();
}

void WhyPanel::show_figure(const Explained& figure) {
    title_->setText(tr("%1 %2").arg(figure_text(figure), QString::fromStdString(figure.label)));
    formula_->setText(figure.value
                          ? QString::fromStdString(figure.formula)
                          : tr("Not computed: %1").arg(QString::fromStdString(figure.reason)));
    table_->setRowCount(static_cast<int>(figure.parts.size()));
    for (int row = 0; row < table_->rowCount(); ++row) {
        const Contribution& c = figure.parts[static_cast<std::size_t>(row)];
        const QString value = c.unit == "min" ? QString::fromStdString(duration(Minute(c.value)))
                                              : QString::fromStdString(with_unit(c.value, c.unit));
        const QString cells[] = {QString::fromStdString(c.label), value,
                                 QString::fromStdString(c.ref), QString::fromStdString(c.source)};
        for (int column = 0; column < 4; ++column) {
            auto* item = new QTableWidgetItem(cells[column]);
            if (column == 1) item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
            table_->setItem(row, column, item);
        }
    }
    table_->resizeRowsToContents();
    show();
    raise();
    table_->setFocus();
    if (table_->rowCount() > 0) table_->setCurrentCell(0, 0);
}

void WhyPanel::keyPressEvent(QKeyEvent* event) {
    if (event->key() != Qt::Key_Escape) return QFrame::keyPressEvent(event);
    hide();
    emit closed();
}

} // namespace conductus::app
