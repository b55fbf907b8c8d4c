// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/parts/part_search.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLineEdit>

#include "app/drawing/part_drawing.h"
#include "app/session/words.h"
#include "app/shell/fields.h"
#include "core/catalogue/deciding.h"
#include "core/catalogue/kinds.h"

namespace conductus::app {

PartSearch::PartSearch(const QString& stem, const Appearance& appearance, QWidget* parent)
    : QWidget(parent), words_(new QLineEdit(this)), kind_(new QComboBox(this)),
      row_(new QHBoxLayout(this)) {
    words_->setObjectName(stem + "Words");
    words_->setAccessibleName(tr("Find parts by words and figures"));
    words_->setPlaceholderText(tr("18650 15 A, 5 pins, fuse"));
    words_->setClearButtonEnabled(true);
    kind_->setObjectName(stem + "Kind");
    kind_->setAccessibleName(tr("Kind of the parts"));
    kind_->addItem(tr("every kind"), QString());
    for (const catalogue::Kind& kind : catalogue::kinds())
        kind_->addItem(term(kind.words), app::words(kind.key));
    keep_least_width(kind_, appearance, 11);
    row_->setContentsMargins(0, 0, 0, 0);
    row_->setSpacing(8);
    row_->addWidget(words_, 1);
    row_->addWidget(kind_);
    setFocusProxy(words_);
    connect(words_, &QLineEdit::textChanged, this, &PartSearch::changed);
    connect(words_, &QLineEdit::returnPressed, this, &PartSearch::entered);
    connect(kind_, &QComboBox::activated, this, &PartSearch::changed);
}

bool PartSearch::asks_for(const catalogue::PartType& type) const {
    const std::string kind = kind_->currentData().toString().toStdString();
    return (kind.empty() || catalogue::kind_of(type.figures).key == kind) &&
           catalogue::is_asked_for(type, words_->text().toStdString());
}

void PartSearch::add(QWidget* more) { row_->addWidget(more); }

Column part_column(const Appearance& appearance,
                   std::function<const catalogue::PartType&(int row)> type) {
    Column drawn = reading(PartSearch::tr("to scale"), [](int) { return QString(); });
    drawn.picture = [&appearance, type = std::move(type)](QPainter& p, const QRectF& box, int row) {
        // A 21700 cell is as high as a row.
        constexpr double pixels_a_mm = 0.07; // for each pixel of the text
        paint_part_in_row(p, box, type(row), appearance.text() * pixels_a_mm, appearance.inks());
    };
    return drawn;
}

} // namespace conductus::app
