// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QComboBox>
#include <QFrame>
#include <QLabel>
#include <QLineEdit>
#include <vector>

#include "app/session/appearance.h"
#include "core/job/job.h"
#include "shop/book.h"

namespace conductus::app {

/// The line a new job is begun in: name, kind, and what it is built like.
class NewJobPanel : public QFrame {
    Q_OBJECT
public:
    NewJobPanel(const Appearance& appearance, QWidget* parent);
    /// Opens the line; `like` is the job it starts as a copy of, 0 for none.
    void begin(const std::vector<shop::Entry>& jobs, shop::JobId like);
    void refuse(const Problem& problem);

signals:
    /// `like` is 0 for a blank job.
    void wanted(QString name, conductus::job::Kind kind, conductus::shop::JobId like);

protected:
    void keyPressEvent(QKeyEvent*) override;

private:
    void send();
    QLineEdit* name_;
    QComboBox *kind_, *like_;
    QLabel* refusal_;
};

} // namespace conductus::app
