// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shelf/new_job_panel.h"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QPushButton>

#include "app/shell/fields.h"
#include "core/job/words.h"

namespace conductus::app {

NewJobPanel::NewJobPanel(const Appearance& appearance, QWidget* parent) : QFrame(parent) {
    setObjectName("paper");
    name_ = new QLineEdit(this);
    name_->setObjectName("newName");
    name_->setAccessibleName(tr("Name of the new job"));
    name_->setPlaceholderText(tr("name of the job"));
    kind_ = word_combo<job::Kind>(this, "newKind", tr("Kind of job"));
    like_ = new QComboBox(this);
    like_->setObjectName("newLike");
    like_->setAccessibleName(tr("Built like"));
    keep_least_width(like_, appearance, 14);
    auto* create = new QPushButton(tr("Take it in"), this);
    create->setObjectName("newCreate");
    auto* cancel = new QPushButton(tr("Not now"), this);
    cancel->setObjectName("newCancel");
    refusal_ = label({}, "refused", this);
    refusal_->setObjectName("newRefusal");
    auto* row = new QHBoxLayout;
    row->addWidget(label(tr("New job"), "title", this));
    row->addSpacing(8);
    row->addWidget(name_, 1);
    row->addWidget(kind_);
    row->addWidget(label(tr("starts"), "second", this));
    row->addWidget(like_);
    row->addWidget(create);
    row->addWidget(cancel);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(16, 8, 12, 8);
    column->addLayout(row);
    column->addWidget(refusal_);
    connect(name_, &QLineEdit::returnPressed, this, &NewJobPanel::send);
    connect(create, &QPushButton::clicked, this, &NewJobPanel::send);
    connect(cancel, &QPushButton::clicked, this, &QWidget::hide);
    hide();
}

void NewJobPanel::begin(const std::vector<shop::Entry>& jobs, shop::JobId like) {
    like_->clear();
    like_->addItem(tr("blank"), QVariant::fromValue<qlonglong>(0));
    for (const shop::Entry& e : jobs)
        like_->addItem(tr("as a copy of %1").arg(QString::fromStdString(e.name)),
                       QVariant::fromValue<qlonglong>(e.id));
    like_->setCurrentIndex(std::max(0, like_->findData(QVariant::fromValue<qlonglong>(like))));
    refusal_->hide();
    name_->clear();
    show();
    name_->setFocus(Qt::OtherFocusReason);
}

void NewJobPanel::refuse(const Problem& problem) {
    Problem p = problem;
    p.where.clear();
    refusal_->setText(QString::fromStdString(p.text()));
    refusal_->show();
    name_->setFocus(Qt::OtherFocusReason);
}

void NewJobPanel::send() {
    const QString name = name_->text().trimmed();
    if (name.isEmpty())
        return refuse({"", tr("the job has no name").toStdString(),
                       tr("Type one to find it by").toStdString()});
    emit wanted(name, static_cast<job::Kind>(kind_->currentIndex()),
                like_->currentData().toLongLong());
}

void NewJobPanel::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Escape) return hide();
    QFrame::keyPressEvent(event);
}

} // namespace conductus::app
