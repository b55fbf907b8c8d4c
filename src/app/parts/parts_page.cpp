// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/parts/parts_page.h"

#include <QComboBox>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QStyle>
#include <QVBoxLayout>

#include "app/drawing/part_drawing.h"
#include "app/parts/measure_page.h"
#include "app/parts/part_form.h"
#include "app/parts/part_search.h"
#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/shell/flow_layout.h"
#include "app/shell/page_scroll.h"
#include "core/bench/characterise.h"
#include "core/catalogue/deciding.h"
#include "core/catalogue/kinds.h"

namespace conductus::app {
namespace {

/// "65 × ø 18.4 mm"
QString size_words(const catalogue::Body& body) {
    const auto mm = [](Millimetre v) { return QString::number(v.value(), 'g', 4); };
    QString across;
    switch (body.shape) {
    case catalogue::Body::Shape::cylinder:
        across = QString::fromUtf8("ø\u202f") + mm(body.diameter);
        break;
    case catalogue::Body::Shape::box:
        across = mm(body.width) + QString::fromUtf8(" × ") + mm(body.height);
        break;
    case catalogue::Body::Shape::compound:
        across = counted(static_cast<int>(body.pieces.size()), PartsPage::tr("%1 piece"),
                         PartsPage::tr("%1 pieces"));
        break;
    }
    return mm(body.length) + QString::fromUtf8(" × ") + across;
}

} // namespace

PartsPage::PartsPage(CataloguePtr given, const Appearance& appearance, QWidget* parent)
    : QStackedWidget(parent), shelf_(std::move(given)), appearance_(appearance) {
    setObjectName("partsPage");
    list_ = new QWidget(this);
    list_->setObjectName("backdropPage");
    list_->setAttribute(Qt::WA_StyledBackground);
    row_ = new QBoxLayout(QBoxLayout::LeftToRight, list_);
    row_->setContentsMargins(0, 0, 0, 0);
    row_->setSpacing(8);
    row_->addWidget(make_list(list_), 5);
    row_->addWidget(make_side(list_), 2);
    addWidget(list_scroll_ = new PageScroll(list_, this));
    form_ = new PartForm(shelf_, appearance, this);
    addWidget(form_scroll_ = new PageScroll(form_, this));
    measuring_ = new MeasurePage(shelf_, appearance, this);
    addWidget(measuring_scroll_ = new PageScroll(measuring_, this));

    connect(form_, &PartForm::closed, this, &PartsPage::show_list);
    connect(form_, &PartForm::own_wanted, this, &PartsPage::make_own);
    connect(form_, &PartForm::measuring_wanted, this, &PartsPage::measure);
    connect(measuring_, &MeasurePage::closed, this, [this] {
        if (form_->id().empty() || !open(form_->id())) show_list();
    });
    connect(measuring_, &MeasurePage::made, this, [this](const QString& id) {
        find();
        open(id.toStdString());
    });
    connect(&shelf_, &OwnShelf::changed, this, &PartsPage::find);
    connect(&shelf_, &OwnShelf::counted, this, &PartsPage::find);
}

QWidget* PartsPage::make_list(QWidget* parent) {
    auto [left, column] = paper(tr("Parts of the shop"), {}, parent);
    search_ = new PartSearch("parts", appearance_, left);
    search_->words()->setToolTip(tr("Ctrl+F"));
    whose_ = new QComboBox(left);
    whose_->setObjectName("partsWhose");
    whose_->setAccessibleName(tr("Whose parts"));
    whose_->addItems({tr("shipped and own"), tr("own alone")});
    search_->add(whose_);
    column->addWidget(search_);
    const auto of = [this](auto&& say) {
        return [this, say](int row) -> CellText { return say(type_in(row)); };
    };
    table_ = new Table(
        {.object = "partsTable",
         .name = tr("Parts of the shop"),
         .columns =
             {part_column(appearance_,
                          [this](int row) -> const catalogue::PartType& { return type_in(row); }),
              reading(tr("part"), of([](const auto& t) { return CellText(words(t.name)); })),
              reading(tr("figures that decide"), of([](const auto& t) {
                          return CellText(words(catalogue::deciding_text(t)), CellInk::second);
                      })),
              reading(tr("body, mm"),
                      of([](const auto& t) { return CellText(size_words(t.body)); })),
              reading(tr("whose"), of([this](const auto& t) {
                          const int version = shelf_.version(t.id);
                          return version > 0
                                     ? CellText(tr("own, %1").arg(version),
                                                tr("The shop's own, version %1").arg(version),
                                                CellInk::petrol)
                                     : CellText(tr("shipped"), CellInk::second);
                      })),
              figures(tr("jobs"), of([this](const auto& t) {
                          const auto used = shelf_.used_in(t.id);
                          if (!used || used->isEmpty()) return CellText();
                          return CellText(QString::number(used->size()), used->join(", "));
                      }))},
         .rows = {[this] { return static_cast<int>(found_.size()); },
                  [this](int row) { return words(found_[static_cast<std::size_t>(row)]); }},
         .wide = 2,
         .dense = true,
         .sortable = true,
         .main = true,
         .empty = tr("No part is so. A few letters of each word are enough; a number takes its "
                     "unit. A part of your own is made from a copy of the nearest: show the "
                     "shipped ones, choose it, and press Insert.")},
        appearance_, left);
    keep_column(table_, appearance_, 0, 6);
    keep_column(table_, appearance_, 1, 18);
    column->addWidget(table_, 1);
    connect(search_, &PartSearch::changed, this, &PartsPage::find);
    connect(search_, &PartSearch::entered, this, [this] {
        if (!found_.empty()) {
            table_->choose(table_->chosen() < 0 ? table_->rows().source_row(0) : table_->chosen());
            table_->setFocus(Qt::TabFocusReason);
            follow_chosen();
        }
    });
    connect(whose_, &QComboBox::activated, this, &PartsPage::find);
    table_->on_letter([this](int, int key) {
        if (key != Qt::Key_Delete) return false;
        drop_chosen();
        return true;
    });
    connect(table_, &Table::row_chosen, this, &PartsPage::follow_chosen);
    connect(table_, &Table::row_activated, this,
            [this](int row) { (void)open(found_[static_cast<std::size_t>(row)]); });
    return left;
}

QWidget* PartsPage::make_side(QWidget* parent) {
    auto [right, column] = paper(tr("The part"), {}, parent);
    name_ = label({}, "heading", right);
    name_->setWordWrap(true);
    drawing_ = new DrawingView(
        "partsDrawing", tr("The part, to scale"), appearance_,
        [this]() -> DrawingPtr {
            const auto* type = chosen();
            return type ? std::make_shared<const PartDrawing>(*type) : nullptr;
        },
        right);
    facts_ = label({}, "second", right);
    facts_->setObjectName("partsFacts");
    facts_->setWordWrap(true);
    const auto button = [right = right](const char* object, const QString& text,
                                        const QString& tip) {
        auto* b = new QPushButton(text, right);
        b->setObjectName(object);
        b->setToolTip(tip);
        return b;
    };
    open_ = button("partsOpen", tr("All of it"), tr("Enter"));
    own_ = button("partsOwn", tr("One of your own from it"), tr("A copy, to be changed (Insert)"));
    measure_ = button("partsMeasure", tr("Measure it"), tr("Its figures from readings"));
    drop_ =
        button("partsDrop", tr("Take it off the shelf"), tr("Jobs that use it keep it (Delete)"));
    in_ = button("partsIn", tr("In from a file"), tr("Parts as JSON or CSV"));
    out_ = button("partsOut", tr("Out to a file"),
                  tr("The shop's own parts that are shown, as JSON or CSV"));
    said_ = label({}, "second", right);
    said_->setObjectName("partsSaid");
    said_->setWordWrap(true);
    column->addWidget(name_);
    column->addWidget(drawing_, 1);
    column->addWidget(facts_);
    const auto beside = [right = right, column = column](std::initializer_list<QWidget*> buttons) {
        auto* holder = new QWidget(right);
        auto* flow = new FlowLayout(8, 6);
        holder->setLayout(flow);
        for (QWidget* b : buttons)
            flow->addWidget(b);
        column->addWidget(holder);
    };
    beside({open_, own_, measure_, drop_});
    beside({in_, out_});
    column->addWidget(said_);
    column->addStretch();
    connect(open_, &QPushButton::clicked, this, [this] {
        if (const auto* type = chosen()) (void)open(type->id);
    });
    connect(own_, &QPushButton::clicked, this, [this] {
        if (const auto* type = chosen()) make_own(type->id);
    });
    connect(measure_, &QPushButton::clicked, this, [this] {
        if (const auto* type = chosen()) measure(type->id);
    });
    connect(drop_, &QPushButton::clicked, this, &PartsPage::drop_chosen);
    connect(in_, &QPushButton::clicked, this, [this] {
        const QString path = QFileDialog::getOpenFileName(
            this, tr("Take parts in"), {}, tr("Parts (*.json *.csv);;All files (*)"), nullptr,
            QFileDialog::DontUseNativeDialog);
        if (!path.isEmpty()) take_in(path_of(path));
    });
    connect(out_, &QPushButton::clicked, this, [this] {
        const QString path = QFileDialog::getSaveFileName(
            this, tr("Write the shop's own parts"), "parts.json",
            tr("Definitions (*.json);;A table (*.csv)"), nullptr, QFileDialog::DontUseNativeDialog);
        if (!path.isEmpty()) write_out(path_of(path));
    });
    return right;
}

const catalogue::PartType& PartsPage::type_in(int row) const {
    return *shelf_.parts().find(found_[static_cast<std::size_t>(row)]);
}

const catalogue::PartType* PartsPage::chosen() const {
    const int row = table_->chosen();
    return row >= 0 && row < static_cast<int>(found_.size()) ? &type_in(row) : nullptr;
}

void PartsPage::read(const std::filesystem::path& book) {
    if (auto ok = shelf_.read(book); !ok) say(words(ok.error()), true);
    if (currentWidget() == form_scroll_ && !form_->show_part(form_->id())) show_list();
}

void PartsPage::follow() {
    // What is being typed here was written by this page itself, or is newer than what was read.
    if (currentWidget() == list_scroll_) read(shelf_.book_path());
}

void PartsPage::find() {
    const auto before = chosen() ? chosen()->id : std::string();
    std::vector<std::string> own, shipped;
    for (const std::string& id : shelf_.parts().ids()) {
        const catalogue::PartType& type = *shelf_.parts().find(id);
        if (!search_->asks_for(type)) continue;
        (shelf_.is_own(id) ? own : shipped).push_back(id);
    }
    found_ = std::move(own);
    if (whose_->currentIndex() == 0) found_.insert(found_.end(), shipped.begin(), shipped.end());
    table_->refresh();
    for (std::size_t i = 0; i < found_.size(); ++i)
        if (found_[i] == before) table_->choose(static_cast<int>(i));
    if (table_->chosen() < 0 && !found_.empty()) table_->choose(table_->rows().source_row(0));
    follow_chosen();
}

void PartsPage::follow_chosen() {
    const auto* type = chosen();
    name_->setText(type ? words(type->name) : QString());
    for (QPushButton* b : {open_, own_, measure_})
        b->setEnabled(type);
    if (type) measure_->setEnabled(bench::specimen_of(*type).has_value());
    drop_->setVisible(type && shelf_.is_own(type->id));
    out_->setEnabled(!ids_to_write().empty());
    QStringList facts;
    if (type) {
        facts << tr("%1: %2").arg(term(catalogue::kind_of(type->figures).word),
                                  words(catalogue::deciding_text(*type)));
        QStringList sizes{size_words(type->body) + tr(" mm")};
        if (type->mass.value() > 0) sizes << words(with_unit(type->mass.value(), "g"));
        if (type->price > 0) sizes << tr("about %1 EUR").arg(type->price, 0, 'f', 2);
        facts << sizes.join(", ");
        if (const int version = shelf_.version(type->id); version > 0)
            facts << tr("The shop's own, version %1.").arg(version);
        if (const auto used = shelf_.used_in(type->id))
            facts << (used->isEmpty() ? tr("No job uses it.")
                                      : tr("Used in %1.").arg(used->join(", ")));
    }
    facts_->setText(facts.join("\n"));
    drawing_->redraw();
}

void PartsPage::say(const QString& text, bool refused) {
    said_->setProperty("role", refused ? "refused" : "second");
    said_->style()->unpolish(said_); // the role's ink
    said_->style()->polish(said_);
    said_->setText(text);
}

void PartsPage::show_list() {
    setCurrentWidget(list_scroll_);
    find();
    table_->setFocus(Qt::OtherFocusReason);
}

bool PartsPage::open(const std::string& id) {
    if (!form_->show_part(id)) return false;
    setCurrentWidget(form_scroll_);
    return true;
}

// The name is a copy: it may stand in the shelf that `keep` replaces.
void PartsPage::make_own(std::string like) {
    const auto* type = shelf_.parts().find(like);
    if (!type) return;
    catalogue::PartType own = *type;
    own.id = shelf_.free_id(*type);
    if (!shelf_.is_own(like)) own.name = tr("%1, own").arg(words(type->name)).toStdString();
    if (auto kept = shelf_.keep(own); !kept) return say(words(kept.error()), true);
    find();
    for (std::size_t i = 0; i < found_.size(); ++i)
        if (found_[i] == own.id) table_->choose(static_cast<int>(i));
    (void)open(own.id);
    form_->begin(like);
}

void PartsPage::measure(const std::string& id) {
    const auto* type = shelf_.parts().find(id);
    if (!type || !measuring_->begin(id)) return;
    setCurrentWidget(measuring_scroll_);
}

void PartsPage::drop_chosen() {
    const auto* type = chosen();
    if (!type || !shelf_.is_own(type->id)) return;
    catalogue::PartType dropped = *type;
    if (auto ok = shelf_.drop(dropped.id); !ok) return say(words(ok.error()), true);
    say(tr("%1 is off the shelf; Ctrl+Z puts it back. Jobs that use it keep it.")
            .arg(words(dropped.name)));
    dropped_.push_back(std::move(dropped));
}

void PartsPage::undo() {
    if (currentWidget() == list_scroll_ && !dropped_.empty()) {
        const catalogue::PartType back = std::move(dropped_.back());
        dropped_.pop_back();
        if (auto kept = shelf_.keep(back); !kept) return say(words(kept.error()), true);
        say(tr("%1 is on the shelf again.").arg(words(back.name)));
    }
    if (currentWidget() == form_scroll_) form_->undo();
    if (currentWidget() == measuring_scroll_) measuring_->undo();
}

void PartsPage::redo() {
    if (currentWidget() == form_scroll_) form_->redo();
    if (currentWidget() == measuring_scroll_) measuring_->redo();
}

void PartsPage::focus_words() {
    show_list();
    search_->words()->setFocus(Qt::ShortcutFocusReason);
    search_->words()->selectAll();
}

void PartsPage::take_in(const std::filesystem::path& file) {
    auto names = shelf_.take_in(file);
    if (!names) return say(words(names.error()), true);
    say(tr("Taken in: %1.").arg(names->join(", ")));
}

std::vector<std::string> PartsPage::ids_to_write() const {
    std::vector<std::string> ids;
    for (const std::string& id : found_)
        if (shelf_.is_own(id)) ids.push_back(id);
    return ids;
}

void PartsPage::write_out(const std::filesystem::path& file) {
    const auto ids = ids_to_write();
    if (auto ok = shelf_.write_out(file, ids); !ok) return say(words(ok.error()), true);
    say(tr("%1 in %2.")
            .arg(counted(static_cast<int>(ids.size()), tr("%1 part is"), tr("%1 parts are")),
                 shown_path(file)));
}

void PartsPage::keyPressEvent(QKeyEvent* event) {
    if (currentWidget() == list_scroll_ && chosen()) {
        if (event->key() == Qt::Key_Insert) return make_own(chosen()->id);
    }
    QStackedWidget::keyPressEvent(event);
}

void PartsPage::resizeEvent(QResizeEvent* event) {
    QStackedWidget::resizeEvent(event);
    const bool narrow = width() < appearance_.text() * 60;
    // Above the table then: below it what can be done would stand under a hundred rows.
    row_->setDirection(narrow ? QBoxLayout::BottomToTop : QBoxLayout::LeftToRight);
    drawing_->setVisible(!narrow);
}

} // namespace conductus::app
