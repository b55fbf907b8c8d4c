// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>
#include <vector>

#include "app/shelf/job_card.h"

namespace conductus::app {

/// Cards in columns, in the order given. Placed by arithmetic, so that a thousand cost nothing.
class CardGrid : public QWidget {
    Q_OBJECT
public:
    CardGrid(const Appearance& appearance, QWidget* parent);
    /// Shows these cards in this order, and no others. The grid does not own them in any new way.
    void show_cards(std::vector<JobCard*> cards);
    [[nodiscard]] const std::vector<JobCard*>& cards() const { return cards_; }
    [[nodiscard]] int columns() const;

protected:
    void resizeEvent(QResizeEvent*) override;
    bool eventFilter(QObject*, QEvent*) override;

private:
    void place();
    const Appearance& appearance_;
    std::vector<JobCard*> cards_;
};

} // namespace conductus::app
