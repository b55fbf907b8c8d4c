// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shelf/shelf_page.h"

#include <QDate>
#include <QGridLayout>
#include <QLabel>
#include <QLocale>
#include <QPainter>
#include <QPointer>
#include <QPushButton>
#include <QScrollArea>

#include "app/drawing/marks.h"
#include "app/drawing/section_drawing.h"
#include "app/shell/fields.h"
#include "core/job/words.h"

namespace conductus::app {

JobCard::JobCard(const QString& name, const Appearance& appearance, QWidget* parent)
    : QAbstractButton(parent), appearance_(appearance) {
    setText(name);
    setObjectName("card:" + name);
    setAccessibleName(name);
    setFocusPolicy(Qt::StrongFocus);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
}

QSize JobCard::sizeHint() const {
    return {qRound(appearance_.text() * 34), qRound(appearance_.text() * 15)};
}

void JobCard::show_plan(const PlanPtr& plan) {
    plan_ = plan;
    const job::Job& job = *plan->job;
    setAccessibleDescription(QString::fromUtf8(job::word(job.kind).data()) + ", " +
                             QString::fromUtf8(job::word(job.stage).data()) + ", " +
                             QString::fromStdString(job.promised));
    update();
}

void JobCard::show_problem(const Problem& problem) {
    problem_ = QString::fromStdString(problem.text());
    setAccessibleDescription(problem_);
    setToolTip(problem_);
    update();
}

void JobCard::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Inks& inks = appearance_.inks();
    const double text = appearance_.text();
    p.setPen(hasFocus() || underMouse() ? QPen(inks.petrol, 2) : QPen(inks.hair, 1));
    p.setBrush(inks.paper);
    p.drawRect(QRectF(rect()).adjusted(1, 1, -1, -1));
    const QRectF inner = QRectF(rect()).adjusted(text * 1.3, text * 0.9, -text * 1.3, -text * 0.9);
    p.setFont(page_font(text * 1.3, true));
    p.setPen(inks.ink);
    const QFontMetricsF title(p.font());
    p.drawText(QRectF(inner.left(), inner.top(), inner.width(), title.height()), Qt::AlignVCenter,
               this->text());
    if (!problem_.isEmpty()) {
        p.setFont(page_font(text));
        p.setPen(inks.stop);
        p.drawText(inner.adjusted(0, title.height() + text, 0, 0), Qt::TextWordWrap, problem_);
        return;
    }
    if (!plan_) return;
    const job::Job& job = *plan_->job;
    p.setFont(page_font(text));
    p.setPen(inks.second);
    const QRectF head(inner.left(), inner.top(), inner.width(), title.height());
    p.drawText(
        head.adjusted(title.horizontalAdvance(this->text()) + text, 0, 0, 0), Qt::AlignVCenter,
        QString::fromUtf8(job::word(job.kind).data()) + " " + QString::fromStdString(job.purpose));
    const QDate promised = QDate::fromString(QString::fromStdString(job.promised), Qt::ISODate);
    p.setFont(page_font(text, true));
    p.setPen(inks.ink);
    if (promised.isValid())
        p.drawText(head, Qt::AlignVCenter | Qt::AlignRight,
                   QLocale(QLocale::English).toString(promised, "d MMMM"));

    const double foot = text * 3.4;
    SectionDrawing(plan_, {}).paint_small(
        p,
        QRectF(inner.left(), head.bottom() + text * 0.7, inner.width(),
               inner.height() - head.height() - foot - text * 0.9),
        inks);
    p.setPen(inks.hair);
    const double y = inner.bottom() - foot + text * 0.6;
    p.drawLine(QPointF(inner.left(), y), QPointF(inner.right(), y));
    // The stage as steps done of six, with its word.
    const int done = static_cast<int>(job.stage) + 1;
    const double step = text * 2;
    for (int i = 0; i < 6; ++i)
        p.fillRect(QRectF(inner.left() + i * (step + 4), y + text * 0.7, step, 5),
                   i < done ? inks.petrol : inks.hair);
    p.setFont(page_font(text * 0.9, true));
    p.setPen(inks.ink);
    p.drawText(QRectF(inner.left(), y + text * 1.3, inner.width(), text * 1.6), Qt::AlignVCenter,
               QString::fromUtf8(job::word(job.stage).data()));
    const double m = text * 1.3;
    double x = inner.right();
    p.setFont(page_font(text * 0.95));
    for (const auto severity :
         {findings::Severity::note, findings::Severity::warn, findings::Severity::stop}) {
        int count = 0;
        for (const auto& f : plan_->findings)
            count += f.severity == severity;
        if (count == 0) continue;
        const QString word = QString::fromUtf8(findings::word(severity));
        const double w = QFontMetricsF(p.font()).horizontalAdvance(word);
        p.setPen(inks.second);
        p.drawText(QRectF(x - w, y + text * 0.9, w + 2, m), Qt::AlignVCenter, word);
        paint_mark(p, QRectF(x - w - m - 5, y + text * 0.9, m, m), severity, inks, count);
        x -= w + m + text * 1.4;
    }
}

ShelfPage::ShelfPage(CataloguePtr parts, const Appearance& appearance, QWidget* parent)
    : QWidget(parent), parts_(std::move(parts)), appearance_(appearance) {
    setObjectName("bench");
    setAttribute(Qt::WA_StyledBackground);
    pool_.setMaxThreadCount(1);
    auto* bar = new QFrame(this);
    bar->setObjectName("paper");
    auto* row = new QHBoxLayout(bar);
    row->setContentsMargins(16, 8, 12, 8);
    row->addWidget(label(tr("All jobs"), "title", bar));
    row->addSpacing(10);
    row->addWidget(label(tr("Enter opens the one in focus"), "second", bar));
    row->addStretch();
    import_ = new QPushButton(tr("Import a job file"), bar);
    import_->setObjectName("importJob");
    retry_ = new QPushButton(tr("Try again"), bar);
    retry_->setObjectName("retryBook");
    row->addWidget(retry_);
    row->addWidget(import_);
    message_ = label({}, "heading", this);
    message_->setObjectName("shelfMessage");
    message_->setWordWrap(true);
    message_->setContentsMargins(16, 16, 16, 16);
    scroll_ = new QScrollArea(this);
    scroll_->setObjectName("shelfScroll");
    scroll_->setWidgetResizable(true);
    scroll_->setFocusPolicy(Qt::NoFocus);
    scroll_->setFrameShape(QFrame::NoFrame);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(12, 12, 12, 12);
    column->setSpacing(12);
    column->addWidget(bar);
    column->addWidget(message_);
    column->addWidget(scroll_, 1);
    connect(import_, &QPushButton::clicked, this, &ShelfPage::import_wanted);
    connect(retry_, &QPushButton::clicked, this, &ShelfPage::retry);
    retry_->hide();
    message_->hide();
}

ShelfPage::~ShelfPage() { pool_.waitForDone(); }

QString ShelfPage::message() const { return message_->isHidden() ? QString() : message_->text(); }

void ShelfPage::show_message(const Problem& problem) {
    message_->setText(QString::fromStdString(problem.text()));
    message_->show();
    retry_->show();
    import_->setEnabled(false);
}

void ShelfPage::read(const std::filesystem::path& path) {
    pool_.clear();
    message_->hide();
    retry_->hide();
    import_->setEnabled(true);
    auto* list = new QWidget;
    list->setObjectName("bench");
    scroll_->setWidget(list);
    auto book = shop::Book::open(path, shop::Access::read_write);
    if (!book) return show_message(book.error());
    const auto entries = book->entries();
    if (!entries) return show_message(entries.error());
    auto* grid = new QGridLayout(list);
    grid->setContentsMargins(0, 0, 4, 0);
    grid->setSpacing(12);
    int n = 0;
    for (const shop::Entry& entry : *entries) {
        auto* card = new JobCard(QString::fromStdString(entry.name), appearance_, list);
        grid->addWidget(card, n / 2, n % 2);
        if (n++ == 0) card->setFocus();
        auto opened = book->load(entry.id, *parts_);
        if (!opened) {
            card->show_problem(opened.error());
            continue;
        }
        connect(card, &JobCard::clicked, this, [this, id = entry.id] { emit job_chosen(id); });
        // The picture follows when it is computed; the name is there at once.
        pool_.start([card = QPointer(card),
                     job = std::make_shared<const job::Job>(std::move(opened->job)),
                     parts = parts_] {
            auto plan = std::make_shared<const plan::Plan>(plan::analyse(job, parts));
            QMetaObject::invokeMethod(qApp, [card, plan] {
                if (card) card->show_plan(plan);
            });
        });
    }
    if (n == 0) {
        message_->setText(tr("The book is empty. Import a job file to begin."));
        message_->show();
    }
    grid->setRowStretch(n / 2 + 1, 1);
    grid->setColumnStretch(0, 1);
    grid->setColumnStretch(1, 1);
}

} // namespace conductus::app
