// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/brief/owner_sheet.h"

#include <QApplication>
#include <QClipboard>
#include <QFileDialog>
#include <QPainter>
#include <QPushButton>

#include "app/drawing/owner_drawing.h"
#include "app/session/words.h"
#include "app/shell/fields.h"

namespace conductus::app {

/// The pages one under the other, as wide as there is room for.
class PagePreview : public QWidget {
public:
    explicit PagePreview(QWidget* parent) : QWidget(parent) {
        setObjectName("ownerPreview");
        setAccessibleName(OwnerSheet::tr("The page as it will print"));
        QSizePolicy policy(QSizePolicy::Expanding, QSizePolicy::Preferred);
        policy.setHeightForWidth(true);
        setSizePolicy(policy);
    }
    void show_plan(const PlanPtr& plan) {
        drawing_.emplace(plan);
        setAccessibleDescription(QString::fromStdString(plan::owner_text(plan::owner_page(*plan))));
        updateGeometry();
        update();
    }
    [[nodiscard]] int heightForWidth(int width) const override {
        const int pages = drawing_ ? drawing_->pages() : 1;
        return qRound(scale(width) * OwnerDrawing::paper.height() + gap) * pages;
    }
    [[nodiscard]] QSize sizeHint() const override { return {600, heightForWidth(600)}; }

protected:
    void paintEvent(QPaintEvent*) override {
        if (!drawing_) return;
        QPainter p(this);
        const double k = scale(width());
        for (int page = 0; page < drawing_->pages(); ++page) {
            p.save();
            p.translate((width() - k * OwnerDrawing::paper.width()) / 2,
                        page * (k * OwnerDrawing::paper.height() + gap));
            p.scale(k, k);
            // Paper is paper by night too.
            const Inks inks = Inks::day();
            p.setPen(inks.hair);
            p.setBrush(Qt::white);
            p.drawRect(QRectF(QPointF(0, 0), OwnerDrawing::paper).adjusted(0.5, 0.5, -0.5, -0.5));
            drawing_->paint(p, page, inks);
            p.restore();
        }
    }

private:
    static constexpr int gap = 14;
    [[nodiscard]] static double scale(int width) {
        return std::min(width - 8.0, 760.0) / OwnerDrawing::paper.width();
    }
    std::optional<OwnerDrawing> drawing_;
};

OwnerSheet::OwnerSheet(const PageContext& context, QWidget* parent) : StationPage(context, parent) {
    setObjectName("backdropPage");
    auto* bar = new QFrame(this);
    bar->setObjectName("paper");
    auto* row = new QHBoxLayout(bar);
    row->setContentsMargins(14, 8, 14, 8);
    row->addWidget(label(tr("For the owner to agree"), "title", bar));
    row->addStretch();
    note_ = label({}, "second", bar);
    note_->setObjectName("ownerNote");
    row->addWidget(note_);
    auto button = [&](const QString& text, const char* object, auto&& act) {
        auto* b = new QPushButton(text, bar);
        b->setObjectName(object);
        connect(b, &QPushButton::clicked, this, act);
        row->addWidget(b);
    };
    button(tr("Save as PDF"), "ownerPdf", [this] { ask("pdf"); });
    button(tr("Save as text"), "ownerText", [this] { ask("txt"); });
    button(tr("Copy the text"), "ownerCopy", [this] {
        if (!plan_) return;
        QApplication::clipboard()->setText(
            QString::fromStdString(plan::owner_text(plan::owner_page(*plan_))));
        note_->setText(tr("copied"));
    });
    preview_ = new PagePreview(this);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(10);
    column->addWidget(bar);
    column->addWidget(preview_);
    column->addStretch();
}

void OwnerSheet::show_plan(const PlanPtr& plan) {
    if (plan == plan_) return;
    plan_ = plan;
    preview_->show_plan(plan);
    note_->clear();
}

void OwnerSheet::ask(const QString& ending) {
    const QString name =
        QString::fromStdString(context_.session.job().name).toLower() + "." + ending;
    const QString path =
        QFileDialog::getSaveFileName(this, tr("Save the owner's page"), name,
                                     ending == "pdf" ? tr("PDF (*.pdf)") : tr("Text (*.txt)"),
                                     nullptr, QFileDialog::DontUseNativeDialog);
    if (!path.isEmpty()) write(path);
}

void OwnerSheet::write(const QString& path) {
    if (!plan_) return;
    const auto ok = write_owner_page(plan_, path);
    note_->setText(ok ? tr("saved") : words(ok.error()));
}

} // namespace conductus::app
