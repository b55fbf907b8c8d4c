// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/parts/part_form.h"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>
#include <fmt/format.h>

#include "app/drawing/part_drawing.h"
#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/shell/flow_layout.h"
#include "core/bench/characterise.h"
#include "core/catalogue/kinds.h"
#include "files/catalogue_json.h"

namespace conductus::app {

using catalogue::PartType;

PartForm::PartForm(OwnShelf& shelf, const Appearance& appearance, QWidget* parent)
    : QWidget(parent), shelf_(shelf), appearance_(appearance),
      draft_([this](const QString&, const PartType& before) { keep(before); }) {
    setObjectName("backdropPage");
    setAttribute(Qt::WA_StyledBackground);
    row_ = new QBoxLayout(QBoxLayout::LeftToRight, this);
    row_->setContentsMargins(0, 0, 0, 0);
    row_->setSpacing(8);
    row_->addWidget(make_fields(this), 7);
    row_->addWidget(make_side(this), 3);
    connect(&shelf_, &OwnShelf::counted, this, [this] {
        if (isVisible()) follow();
    });
}

QWidget* PartForm::make_fields(QWidget* parent) {
    auto [left, column] = paper({}, {}, parent);
    auto* head = qobject_cast<QHBoxLayout*>(column->itemAt(0)->layout());
    title_ = qobject_cast<QLabel*>(head->itemAt(0)->widget());
    title_->setObjectName("formTitle");
    title_->setWordWrap(true);
    head->setStretch(0, 1);
    const auto button = [left = left, head](const char* object, const QString& text,
                                            const QString& tip) {
        auto* b = new QPushButton(text, left);
        b->setObjectName(object);
        b->setToolTip(tip);
        head->addWidget(b);
        return b;
    };
    own_ = button("formOwn", tr("One of your own from it"), tr("A copy, to be changed"));
    measure_ = button("formMeasure", tr("Measure it"), tr("Its figures from readings"));
    undo_ = button("formUndo", tr("Undo"), tr("Ctrl+Z"));
    redo_ = button("formRedo", tr("Redo"), tr("Ctrl+Y"));
    auto* close = button("formClose", tr("Close"), tr("Esc"));

    Column of = reading(tr("of the part"), [this](int row) {
        const job::FormField& f = field(row);
        const QString name = term(f.name);
        return CellText(f.group.empty() ? name
                                        : QString::fromUtf8("%1: %2").arg(term(f.group), name),
                        CellInk::second);
    });
    Column is = figures(tr("is"), [this](int row) -> CellText {
        const job::FormField& f = field(row);
        const auto* named = f.choices.empty() ? nullptr : shelf_.parts().find(f.typed);
        return named ? words(named->name) : words(f.typed);
    });
    is.edit = [this](int row, const std::string& typed) {
        const job::FormField f = field(row);
        std::string meant = typed;
        // A name of the catalogue stands for its id.
        for (const std::string& choice : f.choices)
            if (const auto* named = shelf_.parts().find(choice); named && named->name == typed)
                meant = choice;
        return draft_.edit_of([f, meant](PartType& type) -> Result<void> {
            auto with = job::with_typed(type, f.at, meant, f.unit);
            if (!with) return tl::unexpected(with.error());
            type = std::move(*with);
            return {};
        });
    };
    is.choices = [this](int row) {
        QStringList all;
        for (const std::string& choice : field(row).choices) {
            const auto* named = shelf_.parts().find(choice);
            all << (named ? words(named->name) : words(choice));
        }
        return all;
    };
    is.fixed = [this](int row) { return !shelf_.is_own(id()) || field(row).at == "/id"; };
    Column unit = reading(
        tr("unit"), [this](int row) { return CellText(words(field(row).unit), CellInk::second); });
    Column may = reading(tr("what it may be"), [this](int row) {
        const job::FormField& f = field(row);
        QString text = term(f.may_be);
        if (f.at.starts_with("/terminals/")) {
            const std::string purpose = job::purpose_of(draft_.document(), f.typed);
            if (!purpose.empty()) text = tr("takes %1").arg(words(purpose));
        }
        return CellText(text, CellInk::second);
    });
    Column was = reading(tr("was"), [this](int row) { return beside(field(row)); });
    TableRows rows{[this] { return static_cast<int>(form_.fields.size()); },
                   [this](int row) { return words(field(row).at); }};
    table_ = new Table(
        {.object = "formFields",
         .name = tr("Figures of the part"),
         .what = tr("Part"),
         .columns = {std::move(of), std::move(is), std::move(unit), std::move(may), std::move(was)},
         .rows = std::move(rows),
         .wide = 0,
         .dense = true,
         .main = true,
         .writer = &draft_},
        appearance_, left);
    keep_column(table_, appearance_, 0, 19);
    column->addWidget(table_, 1);
    column->addWidget(table_->refusal());
    more_row_ = new QWidget(left);
    more_row_->setLayout(new FlowLayout(8, 6));
    // Side by side or under each other, what stands in it keeps its room.
    left->layout()->setSizeConstraint(QLayout::SetMinimumSize);
    column->addWidget(more_row_);
    connect(own_, &QPushButton::clicked, this, [this] { emit own_wanted(id()); });
    connect(measure_, &QPushButton::clicked, this, [this] { emit measuring_wanted(id()); });
    connect(undo_, &QPushButton::clicked, this, &PartForm::undo);
    connect(redo_, &QPushButton::clicked, this, &PartForm::redo);
    connect(close, &QPushButton::clicked, this, &PartForm::closed);
    take_out_ = new QPushButton(tr("Take it out"), left);
    take_out_->setObjectName("formTakeOut");
    connect(take_out_, &QPushButton::clicked, this, [this] {
        const int row = table_->chosen();
        if (row < 0 || row >= static_cast<int>(form_.fields.size())) return;
        const std::string element = element_of(field(row));
        if (element.empty()) return;
        change(take_out_->text(), [element](PartType& type) -> Result<void> {
            auto with = job::without(type, element);
            if (!with) return tl::unexpected(with.error());
            type = std::move(*with);
            return {};
        });
    });
    connect(table_, &Table::row_chosen, this, [this](int row) {
        const bool in = row >= 0 && row < static_cast<int>(form_.fields.size());
        const std::string element = in && shelf_.is_own(id()) ? element_of(field(row)) : "";
        take_out_->setVisible(!element.empty());
        if (element.empty()) return;
        const job::FormField& f = field(row);
        take_out_->setText(tr("Take %1 out").arg(term(f.at == element ? f.name : f.group)));
    });
    return left;
}

QWidget* PartForm::make_side(QWidget* parent) {
    auto [right, column] = paper(tr("To scale"), {}, parent);
    drawing_ = new DrawingView(
        "formDrawing", tr("The part, to scale"), appearance_,
        [this] { return std::make_shared<const PartDrawing>(draft_.document()); }, right);
    said_ = label({}, "second", right);
    said_->setObjectName("formSaid");
    said_->setWordWrap(true);
    used_ = label({}, "second", right);
    used_->setObjectName("formUsed");
    used_->setWordWrap(true);
    past_ = new Table(
        {.object = "formVersions",
         .name = tr("Versions of the part"),
         .columns =
             {figures(tr("version"),
                      [this](int row) {
                          return QString::number(versions_[static_cast<std::size_t>(row)].version);
                      }),
              reading(tr("kept"),
                      [this](int row) {
                          // "2026-11-28T13:53:07Z"
                          return words(versions_[static_cast<std::size_t>(row)].at.substr(0, 16))
                              .replace('T', ' ');
                      }),
              reading(tr("what changed"),
                      [this](int row) -> CellText {
                          const auto at = static_cast<std::size_t>(row);
                          if (versions_[at].definition.empty())
                              return {tr("taken off the shelf"), CellInk::second};
                          const auto now = files::parse_part(versions_[at].definition, "part");
                          // The one before it that says something.
                          std::size_t older = at + 1;
                          while (older < versions_.size() && versions_[older].definition.empty())
                              ++older;
                          if (older >= versions_.size()) return {tr("made"), CellInk::second};
                          const auto was = files::parse_part(versions_[older].definition, "part");
                          if (!now || !was) return QString();
                          QStringList all;
                          for (const Message& m : job::differences(*was, *now))
                              all << words(m);
                          return all.join("; ");
                      })},
         .rows = {[this] { return static_cast<int>(versions_.size()); },
                  [this](int row) {
                      return QString::number(versions_[static_cast<std::size_t>(row)].version);
                  }},
         .wide = 2,
         .dense = true,
         .wrap = true,
         .empty = tr("It ships with the program and has one version. One of your own from it is a "
                     "copy to be changed.")},
        appearance_, right);
    past_->offer([this](QMenu& menu, int row) {
        const auto at = static_cast<std::size_t>(row);
        const auto then = files::parse_part(versions_[at].definition, "part");
        if (!then || *then == draft_.document()) return;
        menu.addAction(tr("Go back to version %1").arg(versions_[at].version), this,
                       [this, then = *then] {
                           change(tr("Go back"), [then](PartType& type) -> Result<void> {
                               type = then;
                               return {};
                           });
                       });
    });
    connect(past_, &Table::row_activated, this, [this](int row) {
        const auto then =
            files::parse_part(versions_[static_cast<std::size_t>(row)].definition, "part");
        if (!then) return;
        change(tr("Go back"), [then = *then](PartType& type) -> Result<void> {
            type = then;
            return {};
        });
    });
    with_text_size(drawing_, appearance_,
                   [this] { drawing_->setMinimumHeight(qRound(appearance_.text() * 8)); });
    column->addWidget(drawing_, 3);
    column->addWidget(used_);
    column->addWidget(said_);
    column->addWidget(label(tr("Versions (Enter goes back to one)"), "heading", right));
    column->addWidget(past_, 2);
    return right;
}

std::string PartForm::element_of(const job::FormField& f) const {
    for (const job::FormList& list : form_.lists) {
        if (!f.at.starts_with(list.at + "/")) continue;
        const auto end = f.at.find('/', list.at.size() + 1);
        return f.at.substr(0, end);
    }
    return {};
}

CellText PartForm::beside(const job::FormField& f) const {
    if (compared_ && f.at != "/id" && f.at != "/name") {
        const std::string was = job::exact_at(*compared_, f.at);
        if (was != job::exact_at(draft_.document(), f.at)) {
            const job::Form form = job::form_of(*compared_, shelf_.parts());
            const job::FormField* old = form.find(f.at);
            return {
                old ? words(old->typed + (old->unit.empty() ? std::string() : "\u202f" + old->unit))
                    : tr("not there"),
                CellInk::petrol};
        }
    }
    return {};
}

bool PartForm::show_part(const std::string& id) {
    const auto* type = shelf_.parts().find(id);
    if (!type) return false;
    if (this->id() != id || !isVisible()) { // another sitting
        before_.clear();
        after_.clear();
        version_ = 0;
        compared_ = *type;
    }
    draft_.show(*type);
    said_->clear();
    follow();
    if (table_->chosen() < 0) table_->choose(0, 1);
    table_->setFocus(Qt::OtherFocusReason);
    return true;
}

void PartForm::begin(const std::string& copied_from) {
    version_ = shelf_.version(id());
    if (const auto* from = shelf_.parts().find(copied_from)) {
        compared_ = *from;
    }
    follow();
    for (std::size_t i = 0; i < form_.fields.size(); ++i)
        if (form_.fields[i].at == "/name") table_->choose(static_cast<int>(i), 1);
}

void PartForm::keep(const PartType& before) {
    auto kept = shelf_.keep(draft_.document(), version_);
    if (!kept) {
        // What can not be kept is not there: the line says why.
        draft_.show(before);
        said_->setText(words(kept.error()));
        return follow();
    }
    said_->clear();
    version_ = *kept;
    before_.push_back(before);
    after_.clear();
    follow();
}

void PartForm::go(std::vector<PartType>& from, std::vector<PartType>& to) {
    if (from.empty()) return;
    const PartType now = draft_.document();
    auto kept = shelf_.keep(from.back(), version_);
    if (!kept) return said_->setText(words(kept.error()));
    version_ = *kept;
    draft_.show(from.back());
    from.pop_back();
    to.push_back(now);
    follow();
}

void PartForm::undo() { go(before_, after_); }
void PartForm::redo() { go(after_, before_); }

void PartForm::change(const QString& label, DraftWriter<PartType>::Change change) {
    if (!shelf_.is_own(id())) return;
    if (auto ok = draft_.edit(label, draft_.edit_of(std::move(change))); !ok) {
        said_->setText(words(ok.error()));
        return;
    }
}

void PartForm::follow() {
    const PartType& type = draft_.document();
    form_ = job::form_of(type, shelf_.parts());
    const int version = shelf_.version(type.id);
    title_->setText(version > 0
                        ? tr("%1 (the shop's own, version %2)").arg(words(type.name)).arg(version)
                        : tr("%1 (shipped)").arg(words(type.name)));
    own_->setVisible(version == 0);
    undo_->setVisible(version > 0);
    redo_->setVisible(version > 0);
    undo_->setEnabled(!before_.empty());
    redo_->setEnabled(!after_.empty());
    measure_->setVisible(bench::specimen_of(type).has_value());
    versions_.clear();
    if (version > 0)
        if (auto all = shelf_.versions(type.id))
            versions_.assign(all->rbegin(), all->rend()); // the newest first
    const auto used = shelf_.used_in(type.id);
    used_->setText(!used             ? QString()
                   : used->isEmpty() ? tr("No job uses it.")
                                     : tr("Used in %1.").arg(used->join(", ")));
    // A button for one more of each list it has.
    for (QPushButton* b : more_) {
        more_row_->layout()->removeWidget(b);
        b->hide();
        b->deleteLater();
    }
    more_.clear();
    for (const job::FormList& list : form_.lists) {
        if (version == 0) break;
        const bool only_pieces = list.name == "piece";
        const QString called = term(list.name);
        auto* b = new QPushButton(only_pieces ? tr("One more piece of its body")
                                              : tr("One more %1").arg(called),
                                  more_row_);
        b->setObjectName("formMore_" + words(list.name));
        more_row_->layout()->addWidget(b);
        more_.push_back(b);
        connect(b, &QPushButton::clicked, this, [this, at = list.at, text = b->text()] {
            change(text, [at](PartType& part) -> Result<void> {
                auto with = job::with_one_more(part, at);
                if (!with) return tl::unexpected(with.error());
                part = std::move(*with);
                return {};
            });
        });
    }
    more_row_->layout()->addWidget(take_out_);
    take_out_->hide();
    table_->refresh();
    past_->refresh();
    drawing_->redraw();
}

void PartForm::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Escape) return emit closed();
    QWidget::keyPressEvent(event);
}

void PartForm::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    const bool narrow = width() < appearance_.text() * 68;
    row_->setDirection(narrow ? QBoxLayout::TopToBottom : QBoxLayout::LeftToRight);
}

} // namespace conductus::app
