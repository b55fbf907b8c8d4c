// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QAbstractButton>
#include <QThreadPool>
#include <QWidget>

#include "app/session/appearance.h"
#include "app/session/session.h"

class QGridLayout;
class QLabel;
class QPushButton;
class QScrollArea;

namespace conductus::app {

/// One job as a small hilt section. Click or Enter opens it.
class JobCard : public QAbstractButton {
    Q_OBJECT
public:
    JobCard(const QString& name, const Appearance& appearance, QWidget* parent);
    void show_plan(const PlanPtr& plan);
    void show_problem(const Problem& problem);
    [[nodiscard]] QSize sizeHint() const override;

protected:
    void paintEvent(QPaintEvent*) override;

private:
    const Appearance& appearance_;
    PlanPtr plan_;
    QString problem_;
};

/// All jobs of the book.
class ShelfPage : public QWidget {
    Q_OBJECT
public:
    ShelfPage(CataloguePtr parts, const Appearance& appearance, QWidget* parent);
    ~ShelfPage() override;
    /// Reads the book and shows it, or the problem with it.
    void read(const std::filesystem::path& book);
    [[nodiscard]] QString message() const;

signals:
    void job_chosen(conductus::shop::JobId id);
    void import_wanted();
    void retry();

private:
    void show_message(const Problem& problem);
    CataloguePtr parts_;
    const Appearance& appearance_;
    QScrollArea* scroll_;
    QLabel* message_;
    QPushButton *import_, *retry_;
    QThreadPool pool_;
};

} // namespace conductus::app
