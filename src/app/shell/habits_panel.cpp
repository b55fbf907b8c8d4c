// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/habits_panel.h"

#include <QCompleter>
#include <QGridLayout>
#include <QLabel>
#include <QPushButton>

#include "app/session/words.h"
#include "app/shell/fields.h"
#include "core/catalogue/kinds.h"
#include "shop/book.h"

namespace conductus::app {
namespace {

/// Ids of the catalogue's parts of a kind.
QStringList ids_of(const catalogue::Catalogue& parts, std::string_view kind) {
    QStringList all;
    for (const std::string& id : parts.ids())
        if (catalogue::kind_of(parts.find(id)->figures).key == kind) all << words(id);
    return all;
}

} // namespace

HabitsPanel::HabitsPanel(std::filesystem::path book,
                         std::shared_ptr<const catalogue::Catalogue> parts, const job::Job* job,
                         QWidget* parent)
    : QDialog(parent), book_(std::move(book)), parts_(std::move(parts)) {
    setObjectName("habitsPanel");
    setWindowTitle(tr("The shop's habits"));
    setAttribute(Qt::WA_DeleteOnClose);
    struct Row {
        const char* key;
        QString name;
        QStringList choices;
    };
    const auto choices = [&](const char* kind) { return ids_of(*parts_, kind); };
    const std::vector<Row> left{
        {"board", tr("board"), choices("board")},
        {"cell", tr("cell"), choices("cell")},
        {"speaker", tr("speaker"), choices("speaker")},
        {"kill", tr("kill"), choices("kill")},
        {"connector", tr("hilt connector"), choices("connector")},
        {"strip", tr("strip"), choices("strip")},
        {"blade_pad", tr("pad of the first blade"), {"d1", "d2"}},
        {"accent_pad", tr("pad for accents"), {"d2", "l3", "l4"}},
        {"main_pad", tr("pad of the main button"), {"s1", "s2"}},
        {"main_button", tr("main button toward the"), {"emitter", "pommel"}},
        {"clearance_mm", tr("clearance on the diameter, mm"), {}},
        {"chassis_wall_mm", tr("chassis wall, mm"), {}},
        {"volume", tr("loudness, %"), {}},
        {"ignited_min", tr("lit on a day, min"), {}},
        {"idle_min", tr("idle on a day, min"), {}}};
    const std::vector<Row> right{{"wires/supply/gauge_awg", tr("supply, AWG"), {}},
                                 {"wires/supply/colour", tr("its colour"), {}},
                                 {"wires/return/gauge_awg", tr("return, AWG"), {}},
                                 {"wires/return/colour", tr("its colour"), {}},
                                 {"wires/data/gauge_awg", tr("data, AWG"), {}},
                                 {"wires/data/colour", tr("its colour"), {}},
                                 {"wires/button/gauge_awg", tr("buttons, AWG"), {}},
                                 {"wires/button/colour", tr("its colour"), {}},
                                 {"wires/sound/gauge_awg", tr("speaker, AWG"), {}},
                                 {"wires/sound/colour", tr("its colour"), {}}};
    auto* grid = new QGridLayout;
    grid->setHorizontalSpacing(10);
    grid->setVerticalSpacing(6);
    int column = 0;
    for (const auto* rows : {&left, &right}) {
        int row = 0;
        for (const Row& r : *rows) {
            auto* field = new EntryField(
                r.name,
                [this, key = std::string(r.key)](const QString& typed) -> Result<void> {
                    if (key.find('/') == std::string::npos && key.find('_') == std::string::npos &&
                        key != "volume" && !typed.isEmpty() && !parts_->find(typed.toStdString()))
                        return problem("", say("no part is called '{}'", typed.toStdString()),
                                       "Choose one of the list");
                    auto with = job::with_habit(habits_, key, typed.toStdString());
                    if (!with) return tl::unexpected(with.error());
                    return keep(*with);
                },
                this);
            field->line()->setObjectName("habit_" + QString::fromLatin1(r.key));
            if (!r.choices.isEmpty()) {
                auto* completer = new QCompleter(r.choices, field);
                completer->setFilterMode(Qt::MatchContains);
                completer->setCaseSensitivity(Qt::CaseInsensitive);
                field->line()->setCompleter(completer);
            }
            fields_.emplace_back(r.key, field);
            grid->addWidget(label(r.name, "second", this), row, column);
            grid->addWidget(field, row, column + 1);
            ++row;
        }
        column += 2;
    }
    grid->setColumnStretch(1, 2);
    grid->setColumnStretch(3, 1);
    auto* take = new QPushButton(tr("As this job does it"), this);
    take->setObjectName("habitsOfJob");
    take->setEnabled(job != nullptr);
    auto* close = new QPushButton(tr("Close"), this);
    // Return in a field keeps the field; it presses no button.
    for (QPushButton* button : {take, close})
        button->setAutoDefault(false);
    close->setObjectName("closeHabits");
    said_ = label(tr("New jobs begin with them; a job that differs says so when it is opened."),
                  "second", this);
    said_->setObjectName("habitsSaid");
    said_->setWordWrap(true);
    auto* buttons = new QHBoxLayout;
    buttons->addWidget(take);
    buttons->addStretch(1);
    buttons->addWidget(close);
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(18, 14, 18, 14);
    all->setSpacing(10);
    all->addLayout(grid);
    all->addWidget(said_);
    all->addLayout(buttons);
    resize(720, sizeHint().height());
    if (auto opened = shop::Book::open(book_, shop::Access::read_only)) {
        if (auto read = opened->habits())
            habits_ = std::move(*read);
        else
            said_->setText(words(read.error().text()));
    }
    if (job)
        connect(take, &QPushButton::clicked, this, [this, now = job::habits_of(*job, *parts_)] {
            if (const auto ok = keep(now); !ok) said_->setText(words(ok.error().text()));
        });
    connect(close, &QPushButton::clicked, this, &QDialog::accept);
    show_all();
}

Result<void> HabitsPanel::keep(const job::Habits& habits) {
    auto opened = shop::Book::open(book_, shop::Access::read_write);
    if (!opened) return tl::unexpected(opened.error());
    if (auto ok = opened->keep_habits(habits); !ok) return ok;
    habits_ = habits;
    show_all();
    emit kept(habits_);
    return {};
}

void HabitsPanel::show_all() {
    for (const auto& [key, field] : fields_)
        field->show_value(words(job::habit_typed(habits_, key)));
}

} // namespace conductus::app
