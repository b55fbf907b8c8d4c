// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stations/handling/card_sheet.h"

#include <QComboBox>
#include <QDate>
#include <QDir>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QProgressBar>
#include <QPushButton>
#include <QScrollArea>
#include <QStackedWidget>
#include <QStorageInfo>
#include <QVBoxLayout>
#include <cmath>

#include "app/drawing/sound_drawing.h"
#include "app/session/words.h"
#include "app/shell/fields.h"
#include "app/shell/flow_layout.h"
#include "core/base/format.h"
#include "core/job/words.h"
#include "files/catalogue_json.h"

namespace conductus::app {
namespace {

CellInk ink_of(job::Gravity gravity) {
    return gravity == job::Gravity::stop   ? CellInk::stop
           : gravity == job::Gravity::warn ? CellInk::warn
                                           : CellInk::second;
}

/// Cards and sticks that are mounted where desktops mount them.
QStringList mounted_cards() {
    QStringList all;
    for (const QStorageInfo& volume : QStorageInfo::mountedVolumes())
        for (const char* at : {"/media/", "/run/media/", "/mnt/"})
            if (volume.isReady() && volume.rootPath().startsWith(QLatin1String(at)))
                all << volume.rootPath();
    return all;
}

QString megabytes(std::uint64_t bytes) {
    const auto size = static_cast<double>(bytes);
    return size < 2e9 ? QObject::tr("%1 MB").arg(size / 1e6, 0, 'f', 1)
                      : QObject::tr("%1 GB").arg(size / 1e9, 0, 'f', 1);
}

} // namespace

CardSheet::CardSheet(const PageContext& context, QWidget* parent)
    : StationPage(context, parent), work_(new CardWork(this)) {
    setObjectName("backdropPage");
    auto [sheet, column] = paper(tr("Card"), {}, this);
    folder_ = new QComboBox(sheet);
    folder_->setObjectName("cardFolder");
    folder_->setAccessibleName(tr("Folder of the card"));
    folder_->setEditable(true);
    folder_->setInsertPolicy(QComboBox::NoInsert);
    folder_->addItems(mounted_cards());
    folder_->setCurrentIndex(-1);
    folder_->lineEdit()->setPlaceholderText(tr("folder of the card, or of a copy of it"));
    keep_least_width(folder_, context.appearance, 20);
    auto* choose = new QPushButton(tr("Choose…"), sheet);
    choose->setObjectName("cardChoose");
    check_ = new QPushButton(tr("Check it"), sheet);
    check_->setObjectName("cardCheck");
    stop_ = new QPushButton(tr("Stop"), sheet);
    stop_->setObjectName("cardStop");
    progress_ = new QProgressBar(sheet);
    progress_->setObjectName("cardProgress");
    progress_->setTextVisible(false);
    keep_width(progress_, context.appearance, 10);
    auto* which = new QHBoxLayout;
    which->setSpacing(8);
    which->addWidget(folder_, 1);
    which->addWidget(choose);
    which->addWidget(check_);
    which->addWidget(stop_);
    which->addWidget(progress_);
    column->addLayout(which);

    view_ = new QComboBox(sheet);
    view_->setObjectName("cardView");
    view_->setAccessibleName(tr("What is looked at of the card"));
    view_->addItems({tr("presets, and what is wrong"), tr("how loud it is"), tr("each sound"),
                     tr("what differs from the card as kept"), tr("preparing a card")});
    take_ = new QPushButton(tr("Plan with its sounds"), sheet);
    take_->setObjectName("cardTakeSounds");
    take_->setToolTip(tr("Peak and mean of the amplifier follow the fonts on this card"));
    keep_ = new QPushButton(tr("Keep what is on it"), sheet);
    keep_->setObjectName("cardKeep");
    keep_->setToolTip(
        tr("So that the card is compared when it comes back; milestones keep it too"));
    auto* tools = new FlowLayout(10, 4);
    tools->addWidget(grouped(tr("look at"), view_, {}, sheet));
    tools->addWidget(take_);
    tools->addWidget(keep_);
    column->addLayout(tools);
    said_ = label({}, "second", sheet);
    said_->setObjectName("cardSaid");
    said_->setWordWrap(true);
    column->addWidget(said_);

    stack_ = new QStackedWidget(sheet);
    stack_->addWidget(make_wrong(stack_));
    auto* scroll = new QScrollArea(stack_);
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    loudness_ = new DrawingView(
        "cardLoudness", tr("How loud the fonts are"), context.appearance,
        [this] { return loudness_drawing(checked_.loudness); }, scroll);
    loudness_->keep_height();
    scroll->setWidget(loudness_);
    stack_->addWidget(scroll);
    stack_->addWidget(make_course(stack_));
    stack_->addWidget(make_changes(stack_));
    stack_->addWidget(make_preparing(stack_));
    column->addWidget(stack_, 1);
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->addWidget(sheet);

    connect(choose, &QPushButton::clicked, this, [this] {
        const QString path = QFileDialog::getExistingDirectory(
            window(), tr("Folder of the card"), folder_->currentText(),
            QFileDialog::ShowDirsOnly | QFileDialog::DontUseNativeDialog);
        if (!path.isEmpty()) check(path);
    });
    connect(check_, &QPushButton::clicked, this, [this] { check(folder_->currentText()); });
    connect(folder_->lineEdit(), &QLineEdit::returnPressed, this,
            [this] { check(folder_->currentText()); });
    connect(stop_, &QPushButton::clicked, work_, &CardWork::stop);
    connect(view_, &QComboBox::activated, this,
            [this](int index) { look_at(static_cast<View>(index)); });
    connect(take_, &QPushButton::clicked, this, [this] {
        if (!card_) return;
        auto fonts = card::sounds_of(context_.session.job(), context_.session.parts(), *card_);
        const auto many = fonts.size();
        context_.session.change(tr("Plan with the sounds of the card"),
                                card::plan_with_sounds(std::move(fonts)));
        say(counted(
            static_cast<int>(many),
            tr("%1 font of the card is planned with: peaks, runtime and crackle follow it."),
            tr("%1 fonts of the card are planned with: peaks, runtime and crackle follow "
               "them.")));
    });
    connect(keep_, &QPushButton::clicked, this, [this] {
        if (!card_) return;
        const std::string today = QDate::currentDate().toString(Qt::ISODate).toStdString();
        if (auto ok = context_.session.edit(tr("Keep what is on the card"),
                                            card::keep_manifest(card::manifest_of(*card_), today));
            !ok)
            say(words(ok.error().text()), true);
    });
    connect(work_, &CardWork::progressed, this,
            [this](int files, int of_files, double megabytes, double of_megabytes) {
                progress_->setMaximum(of_files);
                progress_->setValue(files);
                say(tr("%1 of %2 files, %3 of %4 MB")
                        .arg(files)
                        .arg(of_files)
                        .arg(megabytes, 0, 'f', 0)
                        .arg(of_megabytes, 0, 'f', 0));
            });
    connect(work_, &CardWork::was_read, this, [this](const CardRead& read) {
        if (*read) card_ = **read;
        be_busy(false);
        if (!*read) return say(words(read->error().text()), true);
        judge();
        tell();
    });
    connect(work_, &CardWork::was_prepared, this, [this](const Result<std::size_t>& copied) {
        be_busy(false);
        plan_.reset();
        copies_->refresh();
        begin_->setEnabled(false);
        if (!copied) return say(words(copied.error().text()), true);
        say(counted(static_cast<int>(*copied),
                    tr("%1 file was copied and read back: the card is whole."),
                    tr("%1 files were copied and read back: the card is whole.")));
    });
    be_busy(false);
}

QWidget* CardSheet::make_wrong(QWidget* parent) {
    auto* page = new QWidget(parent);
    const auto preset = [this](int row) -> const card::PresetOnCard* {
        const auto r = static_cast<std::size_t>(row);
        return r < checked_.presets.size() ? &checked_.presets[r] : nullptr;
    };
    presets_ = new Table(
        {.object = "cardPresets",
         .name = tr("Presets on the card"),
         .columns = {figures(tr("no."),
                             [preset](int row) {
                                 const auto* p = preset(row);
                                 return CellText(p ? QString::number(p->order) : QString());
                             }),
                     reading(tr("preset"),
                             [preset](int row) {
                                 const auto* p = preset(row);
                                 return CellText(p ? words(p->name) : QString());
                             }),
                     reading(tr("font"),
                             [preset](int row) {
                                 const auto* p = preset(row);
                                 return CellText(p ? words(p->font) : QString());
                             }),
                     reading(tr("on the card"),
                             [preset](int row) {
                                 const auto* p = preset(row);
                                 return p ? CellText(words(p->state),
                                                     p->ready ? CellInk::fine : CellInk::stop)
                                          : CellText();
                             })},
         .rows = {[this] { return static_cast<int>(checked_.presets.size()); }},
         .wide = 3,
         .dense = true,
         .main = true,
         .empty = tr("Choose the folder of the card above, and check it.")},
        context_.appearance, page);
    const auto trouble = [this](int row) -> const card::Trouble* {
        const auto r = static_cast<std::size_t>(row);
        return r < checked_.troubles.size() ? &checked_.troubles[r] : nullptr;
    };
    troubles_ = new Table({.object = "cardTroubles",
                           .name = tr("What is wrong with the card"),
                           .columns = {reading({},
                                               [trouble](int row) {
                                                   const auto* t = trouble(row);
                                                   return t ? CellText(term(job::word(t->gravity)),
                                                                       ink_of(t->gravity))
                                                            : CellText();
                                               }),
                                       reading(tr("what is wrong, and what mends it"),
                                               [trouble](int row) {
                                                   const auto* t = trouble(row);
                                                   return t ? CellText(words(t->what) +
                                                                           QStringLiteral(". ") +
                                                                           words(t->mend),
                                                                       words(t->where))
                                                            : CellText();
                                               })},
                           .rows = {[this] { return static_cast<int>(checked_.troubles.size()); }},
                           .wide = 1,
                           .dense = true,
                           .wrap = true,
                           .empty = tr("Nothing is wrong with it, as far as it was checked.")},
                          context_.appearance, page);
    auto* row = new QHBoxLayout(page);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(12);
    row->addWidget(presets_, 5);
    row->addWidget(troubles_, 6);
    // Side by side there is no room for large letters.
    with_text_size(page, context_.appearance, [this, row] {
        row->setDirection(context_.appearance.percent() >= 130 ? QBoxLayout::TopToBottom
                                                               : QBoxLayout::LeftToRight);
    });
    return page;
}

std::vector<const card::File*> CardSheet::sounds() const {
    std::vector<const card::File*> all;
    if (card_)
        for (const card::File& f : card_->files)
            if (f.sound) all.push_back(&f);
    return all;
}

const card::File* CardSheet::chosen_sound() const {
    const auto all = sounds();
    const int row = sounds_->chosen();
    return row >= 0 && static_cast<std::size_t>(row) < all.size()
               ? all[static_cast<std::size_t>(row)]
               : nullptr;
}

QWidget* CardSheet::make_course(QWidget* parent) {
    auto* page = new QWidget(parent);
    const auto sound = [this](int row) -> const card::File* {
        const auto all = sounds();
        const auto r = static_cast<std::size_t>(row);
        return r < all.size() ? all[r] : nullptr;
    };
    const auto figure = [sound](const QString& title, auto value) {
        return figures(title, [sound, value](int row) {
            const card::File* f = sound(row);
            return f && f->sound->trouble.empty() ? CellText(value(*f->sound)) : CellText();
        });
    };
    const auto level = [](double share) {
        return share > 0 ? words(decimals(20 * std::log10(share), 1)) : tr("silent");
    };
    sounds_ = new Table(
        {.object = "cardSounds",
         .name = tr("Sounds on the card"),
         .columns =
             {reading(tr("file"),
                      [sound](int row) {
                          const card::File* f = sound(row);
                          return CellText(f ? words(f->path) : QString());
                      }),
              figure(tr("s"), [](const card::Sound& s) { return words(decimals(s.seconds, 2)); }),
              figure(tr("peak, dBFS"), [level](const card::Sound& s) { return level(s.peak); }),
              figure(tr("½ s, dBFS"), [level](const card::Sound& s) { return level(s.loudest); }),
              reading(tr("format"),
                      [sound](int row) {
                          const card::File* f = sound(row);
                          if (!f) return CellText();
                          if (!f->sound->trouble.empty())
                              return CellText(words(f->sound->trouble), CellInk::stop);
                          return CellText(
                              QStringLiteral("%1, %2 Hz%3")
                                  .arg(words(f->sound->format))
                                  .arg(f->sound->rate)
                                  .arg(f->sound->channels == 1
                                           ? QString()
                                           : tr(", %1 channels").arg(f->sound->channels)));
                      })},
         .rows = {[this] { return static_cast<int>(sounds().size()); }},
         .wide = 0,
         .dense = true,
         .empty = tr("The sounds stand here when a card was checked.")},
        context_.appearance, page);
    wave_ = new DrawingView(
        "cardWave", tr("The course of the chosen sound"), context_.appearance,
        [this] {
            const card::File* f = chosen_sound();
            return wave_drawing(f ? words(f->path) : QString(), f ? f->sound : std::nullopt);
        },
        page);
    auto* column = new QVBoxLayout(page);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(sounds_, 3);
    column->addWidget(wave_, 2);
    connect(sounds_, &Table::row_chosen, wave_, &DrawingView::redraw);
    return page;
}

QWidget* CardSheet::make_changes(QWidget* parent) {
    auto* page = new QWidget(parent);
    const auto line = [this](int row) -> const card::CardLine* {
        const auto r = static_cast<std::size_t>(row);
        return r < lines_.size() ? &lines_[r] : nullptr;
    };
    Column meant = reading(tr("is meant, because"), [line](int row) {
        const auto* l = line(row);
        return l ? CellText(words(l->meant)) : CellText();
    });
    meant.edit = [line](int row, const std::string& typed) {
        const auto* l = line(row);
        return l ? card::mean_difference(l->path, typed) : job::Edit();
    };
    differences_ =
        new Table({.object = "cardDifferences",
                   .name = tr("What differs from the card as it was kept"),
                   .columns = {reading(tr("file"),
                                       [line](int row) {
                                           const auto* l = line(row);
                                           return CellText(l ? words(l->path) : QString());
                                       }),
                               reading(tr("became"),
                                       [line](int row) {
                                           const auto* l = line(row);
                                           if (!l) return CellText();
                                           return CellText(
                                               term(card::word(l->became)), words(l->was),
                                               l->meant.empty() ? CellInk::warn : CellInk::second);
                                       }),
                               meant},
                   .rows = {[this] { return static_cast<int>(lines_.size()); },
                            [line](int row) {
                                const auto* l = line(row);
                                return l ? words(l->path) : QString();
                            }},
                   .wide = 2,
                   .dense = true,
                   .empty = tr("Keep what is on a card, and check it again when it comes back."),
                   .session = &context_.session},
                  context_.appearance, page);
    auto* column = new QVBoxLayout(page);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(differences_, 1);
    column->addWidget(differences_->refusal());
    return page;
}

QWidget* CardSheet::make_preparing(QWidget* parent) {
    auto* page = new QWidget(parent);
    const auto field = [&](const char* object, const QString& name) {
        auto* line = new QLineEdit(page);
        line->setObjectName(object);
        line->setAccessibleName(name);
        line->setPlaceholderText(name);
        return line;
    };
    from_field_ = field("prepareFrom", tr("folder that has the fonts and tracks"));
    to_field_ = field("prepareTo", tr("empty folder, or a card"));
    prepare_ = new QPushButton(tr("Say what would be copied"), page);
    prepare_->setObjectName("prepareDry");
    begin_ = new QPushButton(tr("Copy and read back"), page);
    begin_->setObjectName("prepareBegin");
    begin_->setEnabled(false);
    const auto copy = [this](int row) -> const files::CardCopy* {
        const auto r = static_cast<std::size_t>(row);
        return plan_ && r < plan_->files.size() ? &plan_->files[r] : nullptr;
    };
    copies_ = new Table(
        {.object = "cardCopies",
         .name = tr("What would be copied"),
         .columns = {reading(tr("from"),
                             [copy](int row) {
                                 const auto* c = copy(row);
                                 return CellText(c ? words(c->from) : QString());
                             }),
                     reading(tr("to"),
                             [copy](int row) {
                                 const auto* c = copy(row);
                                 return CellText(c ? words(c->to) : QString());
                             }),
                     figures(tr("kB"),
                             [copy](int row) {
                                 const auto* c = copy(row);
                                 return CellText(
                                     c ? QString::number(static_cast<double>(c->bytes) / 1e3, 'f',
                                                         1)
                                       : QString());
                             }),
                     reading({},
                             [copy](int row) {
                                 const auto* c = copy(row);
                                 if (!c) return CellText();
                                 return c->there ? CellText(tr("there already"), CellInk::fine)
                                                 : CellText(tr("to copy"));
                             })},
         .rows = {[this] { return plan_ ? static_cast<int>(plan_->files.size()) : 0; }},
         .wide = 1,
         .dense = true,
         .empty = tr("Name both folders. Nothing is changed before you say so.")},
        context_.appearance, page);
    auto* folders = new QHBoxLayout;
    folders->setSpacing(8);
    folders->addWidget(from_field_, 1);
    folders->addWidget(to_field_, 1);
    folders->addWidget(prepare_);
    folders->addWidget(begin_);
    auto* column = new QVBoxLayout(page);
    column->setContentsMargins(0, 0, 0, 0);
    column->addLayout(folders);
    column->addWidget(copies_, 1);
    connect(prepare_, &QPushButton::clicked, this,
            [this] { plan_preparing(from_field_->text(), to_field_->text()); });
    for (QLineEdit* line : {from_field_, to_field_})
        connect(line, &QLineEdit::returnPressed, prepare_, &QPushButton::click);
    connect(begin_, &QPushButton::clicked, this, &CardSheet::begin);
    return page;
}

void CardSheet::look_at(View view) {
    view_->setCurrentIndex(view);
    stack_->setCurrentIndex(view);
}

void CardSheet::say(const QString& text, bool refused) {
    said_->setProperty("role", refused ? "refused" : "second");
    said_->style()->unpolish(said_);
    said_->style()->polish(said_);
    said_->setText(text);
}

void CardSheet::be_busy(bool busy) {
    stop_->setVisible(busy);
    progress_->setVisible(busy);
    check_->setEnabled(!busy);
    take_->setEnabled(!busy && card_);
    keep_->setEnabled(!busy && card_);
    prepare_->setEnabled(!busy);
    if (busy) begin_->setEnabled(false);
}

void CardSheet::check(const QString& folder) {
    const QString path = folder.trimmed();
    if (path.isEmpty()) return say(tr("Choose the folder of the card first."), true);
    folder_->setEditText(path);
    progress_->setMaximum(0);
    be_busy(true);
    say(tr("Reading the card…"));
    work_->read(path, card::layout_of(context_.session.job(), context_.session.parts()));
}

void CardSheet::plan_preparing(const QString& from, const QString& to) {
    look_at(preparing);
    from_ = from.trimmed(), to_ = to.trimmed();
    from_field_->setText(from_);
    to_field_->setText(to_);
    plan_.reset();
    begin_->setEnabled(false);
    if (from_.isEmpty() || to_.isEmpty()) {
        copies_->refresh();
        return say(tr("Name the folder with the fonts, and the card."), true);
    }
    auto planned = files::plan_card(context_.session.job(), context_.session.parts(),
                                    from_.toStdString(), to_.toStdString());
    if (!planned) {
        copies_->refresh();
        return say(words(planned.error().text()), true);
    }
    plan_ = std::move(*planned);
    copies_->refresh();
    if (!plan_->troubles.empty()) {
        QStringList all;
        for (const card::Trouble& t : plan_->troubles)
            all << words(t.what) + QStringLiteral(". ") + words(t.mend);
        return say(all.mid(0, 3).join(QStringLiteral("\n")), true);
    }
    begin_->setEnabled(true);
    const QString sizes = tr("%1 are to be copied, %2 are free; ")
                              .arg(megabytes(plan_->to_copy), megabytes(plan_->free));
    say(sizes + counted(static_cast<int>(plan_->others), tr("%1 other file on it is left alone."),
                        tr("%1 other files on it are left alone.")));
}

void CardSheet::begin() {
    if (!plan_ || !plan_->troubles.empty()) return;
    progress_->setMaximum(0);
    be_busy(true);
    work_->prepare(*plan_, from_, to_);
}

void CardSheet::judge() {
    lines_.clear();
    if (!card_) {
        checked_ = {};
        return;
    }
    const job::Job& job = context_.session.job();
    checked_ = card::check(job, context_.session.parts(), *card_);
    if (!job.card.files.empty())
        for (card::CardLine& line :
             card::compare(job.card.files, card::manifest_of(*card_), job.card.meant))
            if (line.became != card::Became::same) lines_.push_back(std::move(line));
}

void CardSheet::refresh() {
    for (Table* table : {presets_, troubles_, sounds_, differences_, copies_})
        table->refresh();
    loudness_->redraw();
    loudness_->updateGeometry();
    wave_->redraw();
}

void CardSheet::tell() {
    refresh();
    if (!card_) return;
    using job::Gravity;
    QString says = counted(static_cast<int>(card_->files.size()), tr("%1 file"), tr("%1 files")) +
                   tr(", %1; %2 free.").arg(megabytes(checked_.used), megabytes(checked_.free));
    const auto count = [&](Gravity g) { return static_cast<int>(checked_.count(g)); };
    if (checked_.troubles.empty())
        says += " " + tr("Every preset is ready.");
    else
        says += " " + tr("%1 stop, %2 warn, %3 to know.")
                          .arg(count(Gravity::stop))
                          .arg(count(Gravity::warn))
                          .arg(count(Gravity::note));
    const job::Card& kept = context_.session.job().card;
    if (!kept.files.empty()) {
        const auto unmeant = std::count_if(lines_.begin(), lines_.end(),
                                           [](const card::CardLine& l) { return l.meant.empty(); });
        says += " " + (lines_.empty()
                           ? tr("It is the card as it was kept on %1.").arg(words(kept.on))
                           : tr("%1 differences from the card as it was kept on %2, %3 of them not "
                                "meant.")
                                 .arg(lines_.size())
                                 .arg(words(kept.on))
                                 .arg(unmeant));
    }
    say(says);
}

void CardSheet::show_job() {
    // What ships beside the job as a card to try this with.
    if (folder_->currentText().isEmpty())
        if (const auto shipped = files::find_data(files::this_executable())) {
            const QString made_up = QString::fromStdString((*shipped / "cards").string()) + "/" +
                                    words(context_.session.job().name).toLower();
            if (QDir(made_up).exists()) folder_->setEditText(made_up);
        }
    judge();
    tell();
}

void CardSheet::show_plan(const PlanPtr&) {
    judge();
    refresh();
}

} // namespace conductus::app
